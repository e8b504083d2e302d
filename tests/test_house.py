"""The rules of the house that a machine can hold."""

from __future__ import annotations

import importlib
import inspect
import json
import pkgutil
import re
import subprocess
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest

from elderberry import core
from elderberry.cli import COMMANDS, openapi
from elderberry.core import materials, process, rules, storage, tables

ROOT = Path(__file__).resolve().parents[1]
FORMULAS = ("acid", "heat", "juicing", "sugar", "texture", "water", "yields")
"""Modules in which a public function is one formula."""


def core_functions() -> Iterator[tuple[str, Callable[..., object]]]:
    for info in pkgutil.walk_packages(core.__path__, "elderberry.core."):
        module = importlib.import_module(info.name)
        for name, found in vars(module).items():
            own = inspect.isfunction(found) and found.__module__ == module.__name__
            if own and not name.startswith("_"):
                yield f"{info.name.removeprefix('elderberry.core.')}.{name}", found


FUNCTIONS = dict(core_functions())


@pytest.mark.parametrize("name", FUNCTIONS)
def test_a_public_function_says_what_it_takes(name: str) -> None:
    function = FUNCTIONS[name]
    words = inspect.getdoc(function) or ""
    assert words
    if "Args:" in words:
        listed = set(re.findall(r"^    (\w+):", words.split("Args:")[1], re.MULTILINE))
        assert set(inspect.signature(function).parameters) <= listed


@pytest.mark.parametrize("name", [n for n in FUNCTIONS if n.split(".")[0] in FORMULAS])
def test_a_formula_gives_units_and_a_checked_example(name: str) -> None:
    words = inspect.getdoc(FUNCTIONS[name]) or ""
    assert ">>>" in words
    if "Args:" in words:
        assert "[" in words
        assert "Source:" in words


def test_every_rule_is_raised_or_judged_somewhere() -> None:
    kept = [*(ROOT / "src").rglob("*.py"), ROOT / "src/elderberry/core/data/operations.toml"]
    code = "\n".join(p.read_text() for p in kept)
    for rule in rules.rules().values():
        by_itself = rule.kind == "standing"
        assert by_itself or f'"{rule.id}"' in code, rule.id
        assert rule.source
        assert rule.remedy or rule.level == "note"


def test_the_words_of_every_rule_can_be_filled() -> None:
    names = "product fruit fruits jar_ml largest_ml ph max_ph minutes missing fill_c"
    names += " pulp litres room vessel goes why what grams water jar hours most brix needed boils"
    names += " wet gained"
    figures = dict.fromkeys(names.split(), "x")
    for rule in rules.rules().values():
        assert "{" not in rule.finding(**figures).message


@pytest.mark.parametrize(
    ("name", "key"),
    [
        ("fruits", "key"),
        ("ingredients", "key"),
        ("jars", "key"),
        ("process_times", "row"),
    ],
)
def test_reference_rows_have_keys_of_their_own(name: str, key: str) -> None:
    keys = [row[key] for row in tables.rows(name)]
    assert len(keys) == len(set(keys)) > 5
    assert all(None not in row.values() for row in tables.rows(name))


@pytest.mark.parametrize(
    "name",
    [p.stem for p in sorted((ROOT / "src/elderberry/core/data").glob("*.csv"))],
)
def test_every_reference_row_names_its_source(name: str) -> None:
    assert all(row["source"] for row in tables.rows(name))


def test_reference_figures_have_their_shape() -> None:
    for item in materials.ingredients().values():
        parts = item.water + item.sucrose + item.glucose + item.fructose + item.other_soluble
        parts += item.insoluble + item.acid_fraction + item.ethanol
        assert parts == pytest.approx(1.0, abs=0.021) or item.key in {"salt", "erythritol"}
    for row in storage.life_rows().values():
        assert 0 < row.days_lo <= row.days_typ <= row.days_hi
        assert row.q10 >= 1
    for timed in process.process_rows():
        minutes = [m for m in timed.minutes if m is not None]
        assert minutes == sorted(minutes)


def test_lock_files_carry_no_addresses() -> None:
    for lock in (ROOT / "locks").iterdir():
        assert "://" not in lock.read_text(), lock
    assert '"resolved"' not in (ROOT / "web" / "package-lock.json").read_text()


def test_the_readme_only_names_commands_there_are() -> None:
    said = re.findall(r"\./elderberry (\w+)", (ROOT / "README.md").read_text())
    assert {"demo", "test"} <= set(said) <= set(COMMANDS)
    usage = subprocess.run([ROOT / "elderberry"], capture_output=True, text=True, check=True).stdout
    assert set(re.findall(r"^  \./elderberry (\w+)", usage, re.MULTILINE)) == set(COMMANDS)


def test_every_screenshot_is_linked_from_the_readme() -> None:
    readme = (ROOT / "README.md").read_text()
    shots = [p.name for p in (ROOT / "docs" / "screenshots").glob("*.png")]
    assert 0 < len(shots) < 20
    assert all(f"docs/screenshots/{name}" in readme for name in shots)


def test_the_pages_types_are_those_of_the_api(tmp_path: Path) -> None:
    described, made = tmp_path / "openapi.json", tmp_path / "schema.d.ts"
    described.write_text(json.dumps(openapi()))
    generator = ROOT / "web" / "node_modules" / ".bin" / "openapi-typescript"
    subprocess.run(
        [generator, described, "--default-non-nullable=false", "-o", made],
        cwd=ROOT / "web", check=True, capture_output=True,
    )  # fmt: skip
    kept = (ROOT / "web" / "src" / "api" / "schema.d.ts").read_text()
    assert made.read_text() == kept, "run ./elderberry types"
