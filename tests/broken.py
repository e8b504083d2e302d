"""Breaks the code in a sample of places, one at a time, and counts how many the tests notice.

    python tests/broken.py --count 40 --seed 1

Each place is one operator or figure of core or services, drawn by chance. The suite runs once to
learn which tests pass through which lines, and how long each takes; then those that pass through a
broken place run, the quickest of each kind first, then more, for some minutes at most, and no
journey through the page. A figure that a module keeps under a name is looked for in the tests that
pass through whatever speaks of the name; what else runs as a module is imported, in the tests that
speak of the module, then in whole folders. A place that nobody notices is printed: it wants a test,
or does not matter.
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
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import accumulate
from pathlib import Path
from typing import IO

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
    begins = _begins(tree, len(starts))

    def between(left: ast.expr, right: ast.expr, operator: ast.AST) -> Iterator[Place]:
        start = at(left.end_lineno or 0, left.end_col_offset or 0)
        end = at(right.lineno, right.col_offset)
        was, becomes = WORDS.get(type(operator), ("", ""))
        found = source.find(was.encode(), start, end) if was else -1
        if found >= 0:
            line = right.lineno
            yield Place(file, line, begins[line], found, found + len(was), was, becomes)

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
                yield Place(file, number, begins[number], start, end, was, other)


def _begins(tree: ast.Module, lines: int) -> dict[int, int]:
    """The first line of the innermost statement that each line is in, or the line itself."""
    found = {line: line for line in range(1, lines + 1)}
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


@dataclass(frozen=True)
class Covered:
    """The tests that pass through each line of each file, and how long a test takes [s]."""

    through: Mapping[str, Mapping[int, Sequence[str]]]
    took: Mapping[str, float]


def covered(copy: Path) -> Covered:
    """Run the suite once, and learn which tests pass through which lines."""
    kept, settings = copy / "covered", copy / "coverage.ini"
    print("which tests pass through which lines …", flush=True)
    settings.write_text(
        f"[run]\nsource = src/elderberry\ndata_file = {kept}\nrelative_files = true\n"
    )
    with _said(kept).open("w") as log:
        _ran(copy, [*TOGETHER, "-m", "not browser", "--durations=0", "--cov", "--cov-context=test",
                    f"--cov-config={settings}", "--cov-report="], log)  # fmt: skip
    return read(kept)


def _said(kept: Path) -> Path:
    """What the run said, beside what it kept; coverage takes covered.* for its own."""
    return kept.with_name(f"{kept.name}-said")


def read(kept: Path) -> Covered:
    """What a run of the suite kept of the lines that it passed through, and what it said."""
    data = CoverageData(basename=str(kept))
    data.read()
    found = {}
    for file in data.measured_files():
        lines = data.contexts_by_lineno(file)
        found[file] = {
            line: [test for w in who if (test := w.rpartition("|")[0])]
            for line, who in lines.items()
        }
    took: dict[str, float] = defaultdict(float)
    for line in _said(kept).read_text().splitlines():
        said = re.fullmatch(r"([\d.]+)s (?:call|setup) +(\S.*)", line)
        if said:
            took[said[2]] += float(said[1])
    return Covered(found, took)


def noticed(place: Place, copy: Path, known: Covered) -> str:
    """The tests that notice a broken place, empty where none does."""
    file = copy / place.file.relative_to(ROOT)
    whole = file.read_bytes()
    file.write_bytes(whole[: place.start] + place.becomes.encode() + whole[place.end :])
    try:
        for tests in _nearest(place, copy, known):
            if _ran(copy, [*(TOGETHER if len(tests) > FEW else ()), "-x", *tests]) in {1, 2}:
                return tests[0] if len(tests) == 1 else f"one of {len(tests)}"
    finally:
        file.write_bytes(whole)
    return ""


TOGETHER = ("-n", "2", "--dist", "worksteal")
FEW, FOR_S = 40, 240.0
"""Tests that run first, in one process; and for how long more run where these notice nothing."""


def _ran(copy: Path, words: Sequence[str], out: IO[str] | int = subprocess.DEVNULL) -> int:
    command = [sys.executable, "-m", "pytest", "-q", "-p", "no:cacheprovider", *words]
    environment = {**os.environ, "PYTHONPATH": str(copy / "src"), "COVERAGE_CORE": "ctrace"}
    return subprocess.run(command, cwd=copy, env=environment, stdout=out, check=False).returncode


def _nearest(place: Place, copy: Path, known: Covered) -> Iterator[list[str]]:
    """Tests, those nearest to a place first."""
    lines = known.through.get(str(place.file.relative_to(ROOT)), {})
    passing = {t for n in range(place.begins, place.line + 1) for t in lines.get(n, ())}
    passing = passing or set(_using(_named(place), copy, known))
    if passing:
        quickest = sorted(passing, key=lambda t: (known.took.get(t, 0.0), t))
        kinds: dict[str, str] = {}
        for test in quickest:
            kinds.setdefault(test.split("[")[0], test)
        yield [*kinds.values()][:FEW]
        until = accumulate(known.took.get(t, 0.0) for t in quickest)
        more = [t for t, s in zip(quickest, until, strict=True) if s <= FOR_S]
        yield more or quickest[:1]
        return
    about = re.compile(rf"\b{place.file.stem}\b")
    files = (f for f in (copy / "tests").rglob("test_*.py") if f.parent.name != "web")
    speaking = [str(f.relative_to(copy)) for f in files if about.search(f.read_text())]
    if speaking:
        yield speaking[:MOST_SPEAKING]
    part = place.file.relative_to(ROOT / "src" / "elderberry").parts[0]
    for folder in NEAREST[part]:
        yield [folder]


def _named(place: Place) -> set[str]:
    """What a module calls the figure that is broken, where it is made as the module is imported."""
    made = (ast.Assign, ast.AnnAssign)
    for node in ast.parse(place.file.read_bytes()).body:
        if isinstance(node, made) and node.lineno <= place.line <= (node.end_lineno or 0):
            targets = node.targets if isinstance(node, ast.Assign) else [node.target]
            return {n.id for t in targets for n in ast.walk(t) if isinstance(n, ast.Name)}
    return set()


def _using(names: set[str], copy: Path, known: Covered) -> Iterator[str]:
    """The tests that pass through any statement that speaks of one of some names."""
    if not names:
        return
    spoken = re.compile(rf"\b(?:{'|'.join(map(re.escape, sorted(names)))})\b")
    for file, through in known.through.items():
        source = (copy / file).read_text().splitlines()
        begins = _begins(ast.parse("\n".join(source)), len(source))
        for number, line in enumerate(source, start=1):
            if spoken.search(line):
                yield from through.get(begins[number], ())


MOST_SPEAKING = 8
"""Files that speak of a module, of which so many are tried before whole folders."""


def main() -> int:
    """Break a sample of places, and say how many were noticed."""
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("--count", type=int, default=40)
    asked.add_argument("--seed", type=int, default=1)
    asked.add_argument("--covered", type=Path, help="what an earlier run of the suite kept")
    asked.add_argument("--after", type=int, default=0, help="leave out so many, tried before")
    said = asked.parse_args()
    chosen = random.Random(said.seed).sample(places(), said.count)
    caught = 0
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / "broken"
        subprocess.run(["git", "clone", "-q", str(ROOT), str(copy)], check=True)
        known = read(said.covered) if said.covered else covered(copy)
        for number, place in enumerate(chosen[said.after :], start=said.after + 1):
            began = time.monotonic()
            by = noticed(place, copy, known)
            caught += bool(by)
            took = time.monotonic() - began
            print(f"{number:3} {place}  {by or 'NOBODY NOTICED'}  {took:.0f} s", flush=True)
    tried = said.count - said.after
    print(f"{caught} of {tried} were noticed: {100 * caught / tried:.0f} %")
    return 0 if caught >= 0.9 * tried else 1


if __name__ == "__main__":
    sys.exit(main())
