"""Breaks the code in a sample of places, one at a time, and counts how many the tests notice.

    python tests/broken.py --count 40 --seed 1

Each place is one operator or figure of core or services, drawn by chance; the tests nearest to it
run first: its own examples, the tests that speak of its module, then whole folders; no journey
through the page. A place that nobody notices is printed: it wants a test, or does not matter.
"""

from __future__ import annotations

import argparse
import ast
import random
import re
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

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

    def between(left: ast.expr, right: ast.expr, operator: ast.AST) -> Iterator[Place]:
        start = at(left.end_lineno or 0, left.end_col_offset or 0)
        end = at(right.lineno, right.col_offset)
        was, becomes = WORDS.get(type(operator), ("", ""))
        found = source.find(was.encode(), start, end) if was else -1
        if found >= 0:
            yield Place(file, right.lineno, found, found + len(was), was, becomes)

    for node in ast.walk(ast.parse(source)):
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
                yield Place(file, node.lineno, start, end, source[start:end].decode(), other)


def _words(*nodes: ast.expr) -> bool:
    """Whether one of some operands is text, which only plus joins; or a type."""
    return any(
        isinstance(n, (ast.JoinedStr, ast.List, ast.Tuple))
        or (isinstance(n, ast.Constant) and (n.value is None or isinstance(n.value, str)))
        or (isinstance(n, ast.Name) and n.id[:1].isupper())
        for n in nodes
    )


def noticed(place: Place, copy: Path) -> str:
    """The tests that notice a broken place, empty where none does."""
    file = copy / place.file.relative_to(ROOT)
    whole = file.read_bytes()
    file.write_bytes(whole[: place.start] + place.becomes.encode() + whole[place.end :])
    try:
        for tests in _nearest(place, copy):
            workers = (
                ("-n", "2", "--dist", "worksteal") if len(tests) > 1 or "." not in tests[0] else ()
            )
            command = [
                sys.executable, "-m", "pytest", "-q", "-x", *workers,
                "-p", "no:cacheprovider", "-m", "not browser", *tests,
            ]  # fmt: skip
            ran = subprocess.run(command, cwd=copy, capture_output=True, text=True, check=False)
            if ran.returncode in {1, 2}:
                return tests[0] if len(tests) == 1 else f"{len(tests)} files"
    finally:
        file.write_bytes(whole)
    return ""


def _nearest(place: Place, copy: Path) -> Iterator[list[str]]:
    """Tests, those nearest to a place first."""
    part = place.file.relative_to(ROOT / "src" / "elderberry").parts[0]
    if part == "core":
        yield [str(place.file.relative_to(ROOT))]
    about = re.compile(rf"\b{place.file.stem}\b")
    files = (f for f in (copy / "tests").rglob("test_*.py") if f.parent.name != "web")
    speaking = [str(f.relative_to(copy)) for f in files if about.search(f.read_text())]
    if speaking:
        yield sorted(speaking, key=lambda f: not f.startswith(f"tests/{part}"))[:MOST_SPEAKING]
    for folder in NEAREST[part]:
        yield [folder]


MOST_SPEAKING = 8
"""Files that speak of a module, of which so many are tried before whole folders."""


def main() -> int:
    """Break a sample of places, and say how many were noticed."""
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("--count", type=int, default=40)
    asked.add_argument("--seed", type=int, default=1)
    said = asked.parse_args()
    chosen = random.Random(said.seed).sample(places(), said.count)
    caught = 0
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / "broken"
        subprocess.run(["git", "clone", "-q", str(ROOT), str(copy)], check=True)
        for number, place in enumerate(chosen, start=1):
            began = time.monotonic()
            by = noticed(place, copy)
            caught += bool(by)
            took = time.monotonic() - began
            print(f"{number:3} {place}  {by or 'NOBODY NOTICED'}  {took:.0f} s", flush=True)
    print(f"{caught} of {said.count} were noticed: {100 * caught / said.count:.0f} %")
    return 0 if caught >= 0.9 * said.count else 1


if __name__ == "__main__":
    sys.exit(main())
