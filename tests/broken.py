"""Breaks the code in a sample of places, one at a time, and counts how many the tests notice.

    python tests/broken.py --count 40 --seed 1

Each place is one operator or figure of core or services, drawn by chance. The suite runs once to
learn which tests pass through which lines; then those that pass through a broken place run, one of
each kind first, and no journey through the page. What runs as a module is imported is looked for
in the tests that speak of it, then in whole folders. A place that nobody notices is printed: it
wants a test, or does not matter.
"""

from __future__ import annotations

import argparse
import ast
import os
import random
import re
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path

from coverage import CoverageData

ROOT = Path(__file__).resolve().parents[1]
PARTS = ("core", "services")
NEAREST = {
    "core": (
        "tests/core",
        "tests/services",
        "tests/api",
        "tests/formats",
        "tests/demo",
    ),
    "services": ("tests/services", "tests/api", "tests/demo", "tests/local", "tests/core"),
}
"""Where tests are looked for first."""
WORDS: dict[type[ast.AST], tuple[str, str]] = {
    ast.Lt: ("<", "<="), ast.LtE: ("<=", "<"), ast.Gt: (">", ">="), ast.GtE: (">=", ">"),
    ast.Eq: ("==", "!="), ast.NotEq: ("!=", "=="), ast.In: ("in", "not in"),
    ast.NotIn: ("not in", "in"), ast.Is: ("is", "is not"), ast.IsNot: ("is not", "is"),
    ast.Add: ("+", "-"), ast.Sub: ("-", "+"), ast.Mult: ("*", "/"), ast.Div: ("/", "*"),
    ast.And: ("and", "or"), ast.Or: ("or", "and"),
}  # fmt: skip


@dataclass(frozen=True)
class Place:
    """A place that can be broken: from which byte of a file to which, and what is put there."""

    file: Path
    line: int
    begins: int
    """The first line of the statement it is in."""
    start: int
    end: int
    was: str
    becomes: str

    def __str__(self) -> str:
        where = self.file.relative_to(ROOT / "src" / "elderberry")
        return f"{where}:{self.line}: {self.was} → {self.becomes}"


def places() -> list[Place]:
    """Every place of core and services that can be broken."""
    folder = ROOT / "src" / "elderberry"
    files = sorted(f for part in PARTS for f in (folder / part).rglob("*.py"))
    return [place for file in files for place in _of_file(file)]


def _of_file(file: Path) -> Iterator[Place]:
    source = file.read_bytes()
    starts = [0]
    for line in source.splitlines(keepends=True):
        starts.append(starts[-1] + len(line))

    def at(line: int, column: int) -> int:
        return starts[line - 1] + column

    tree = ast.parse(source)
    begins = _begins(tree)

    def between(left: ast.expr, right: ast.expr, operator: ast.AST) -> Iterator[Place]:
        start = at(left.end_lineno or 0, left.end_col_offset or 0)
        end = at(right.lineno, right.col_offset)
        was, becomes = WORDS.get(type(operator), ("", ""))
        found = source.find(was.encode(), start, end) if was else -1
        if found >= 0:
            number = right.lineno
            yield Place(
                file, number, begins.get(number, number), found, found + len(was), was, becomes
            )

    for node in ast.walk(tree):
        match node:
            case ast.Compare(left=left, ops=[operator], comparators=[right]):
                yield from between(left, right, operator)
            case ast.BinOp(left=left, op=operator, right=right) if not _words(left, right):
                yield from between(left, right, operator)
            case ast.BoolOp(op=operator, values=[left, right, *_]):
                yield from between(left, right, operator)
            case ast.Constant(value=float() | int() as value) if not isinstance(value, bool):
                start = at(node.lineno, node.col_offset)
                end = at(node.end_lineno or 0, node.end_col_offset or 0)
                other = repr(value * 1.5 if isinstance(value, float) and value else value + 1)
                was, number = source[start:end].decode(), node.lineno
                yield Place(file, number, begins.get(number, number), start, end, was, other)


def _begins(tree: ast.Module) -> dict[int, int]:
    """The first line of the innermost statement that each line is in."""
    found: dict[int, int] = {}
    for node in ast.walk(tree):  # outer ones come first
        if isinstance(node, ast.stmt):
            last = node.end_lineno or node.lineno
            found.update(dict.fromkeys(range(node.lineno, last + 1), node.lineno))
    return found


def _words(*nodes: ast.expr) -> bool:
    """Whether one of some operands is text, which only plus joins; or a type."""
    return any(
        isinstance(n, (ast.JoinedStr, ast.List, ast.Tuple))
        or (isinstance(n, ast.Constant) and (n.value is None or isinstance(n.value, str)))
        or (isinstance(n, ast.Name) and n.id[:1].isupper())
        for n in nodes
    )


Covered = Mapping[str, Mapping[int, Sequence[str]]]
"""The tests that pass through each line of each file."""


def covered(copy: Path) -> Covered:
    """Run the suite once, and learn which tests pass through which lines."""
    kept = copy / "covered"
    print("which tests pass through which lines …", flush=True)
    settings = copy / "coverage.ini"
    settings.write_text(
        f"[run]\nsource = src/elderberry\ndata_file = {kept}\nrelative_files = true\n"
    )
    _ran(copy, [*EVERYWHERE, "--cov", f"--cov-config={settings}", "--cov-context=test",
                "--cov-report="], COVERAGE_CORE="ctrace")  # fmt: skip
    return read(kept)


def read(kept: Path) -> Covered:
    """What a run of the suite kept of the lines that it passed through."""
    data = CoverageData(basename=str(kept))
    data.read()
    found = {}
    for file in data.measured_files():
        lines = data.contexts_by_lineno(file)
        found[file] = {line: [w.split("|")[0] for w in who if w] for line, who in lines.items()}
    return found


def noticed(place: Place, copy: Path, through: Covered) -> str:
    """The tests that notice a broken place, empty where none does."""
    file = copy / place.file.relative_to(ROOT)
    whole = file.read_bytes()
    file.write_bytes(whole[: place.start] + place.becomes.encode() + whole[place.end :])
    try:
        for tests in _nearest(place, copy, through):
            if _ran(copy, [*(TOGETHER if len(tests) > FEW else ()), "-x", *tests]) in {1, 2}:
                return tests[0] if len(tests) == 1 else f"one of {len(tests)}"
    finally:
        file.write_bytes(whole)
    return ""


TOGETHER = ("-n", "2", "--dist", "worksteal")
EVERYWHERE = (*TOGETHER, "-m", "not browser")
FEW, MANY = 40, 400
"""Tests that run first, in one process; and so many more where these notice nothing."""


def _ran(copy: Path, words: Sequence[str], **more: str) -> int:
    command = [sys.executable, "-m", "pytest", "-q", "-p", "no:cacheprovider", *words]
    environment = {**os.environ, **more, "PYTHONPATH": str(copy / "src")}
    ran = subprocess.run(command, cwd=copy, env=environment, capture_output=True, check=False)
    return ran.returncode


def _nearest(place: Place, copy: Path, through: Covered) -> Iterator[list[str]]:
    """Tests, those nearest to a place first."""
    lines = through.get(str(place.file.relative_to(ROOT)), {})
    passing = {t for n in range(place.begins, place.line + 1) for t in lines.get(n, ())}
    if passing:
        kinds: dict[str, list[str]] = {}
        for test in sorted(passing):
            kinds.setdefault(test.split("[")[0], []).append(test)
        first = [tests[0] for tests in kinds.values()]
        yield first[:: 1 + len(first) // FEW]
        every = sorted(passing)
        yield every[:: 1 + len(every) // MANY]
        return
    about = re.compile(rf"\b{place.file.stem}\b")
    files = (f for f in (copy / "tests").rglob("test_*.py") if f.parent.name != "web")
    speaking = [str(f.relative_to(copy)) for f in files if about.search(f.read_text())]
    if speaking:
        yield speaking[:MOST_SPEAKING]
    part = place.file.relative_to(ROOT / "src" / "elderberry").parts[0]
    for folder in NEAREST[part]:
        yield [folder]


MOST_SPEAKING = 8
"""Files that speak of a module, of which so many are tried before whole folders."""


def main() -> int:
    """Break a sample of places, and say how many were noticed."""
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("--count", type=int, default=40)
    asked.add_argument("--seed", type=int, default=1)
    asked.add_argument("--covered", type=Path, help="what an earlier run of the suite kept")
    said = asked.parse_args()
    chosen = random.Random(said.seed).sample(places(), said.count)
    caught = 0
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / "broken"
        subprocess.run(["git", "clone", "-q", str(ROOT), str(copy)], check=True)
        through = read(said.covered) if said.covered else covered(copy)
        for number, place in enumerate(chosen, start=1):
            began = time.monotonic()
            by = noticed(place, copy, through)
            caught += bool(by)
            took = time.monotonic() - began
            print(f"{number:3} {place}  {by or 'NOBODY NOTICED'}  {took:.0f} s", flush=True)
    print(f"{caught} of {said.count} were noticed: {100 * caught / said.count:.0f} %")
    return 0 if caught >= 0.9 * said.count else 1


if __name__ == "__main__":
    sys.exit(main())
