"""What something says, figure by figure, and whether that is what it said before."""

from __future__ import annotations

import os
import re
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import fields, is_dataclass
from datetime import date, datetime
from pathlib import Path
from typing import Any

import pytest

from elderberry.core.estimates import Estimate
from elderberry.formats.paper import Sheet

FIGURE = re.compile(r"(?<![\w.-])-?\d+(?:\.\d+)?(?:e[+-]\d+)?")


def said(value: Any) -> str:
    """Anything, its figures to four digits."""
    if isinstance(value, Estimate):
        return f"{value.lo:.4g}<{value.typ:.4g}<{value.hi:.4g}"
    if is_dataclass(value):
        value = {f.name: getattr(value, f.name) for f in fields(value)}
    if isinstance(value, Mapping):
        return "{" + ", ".join(f"{k}: {said(v)}" for k, v in sorted(value.items())) + "}"
    if isinstance(value, (set, frozenset)):
        value = sorted(value)
    if isinstance(value, (list, tuple)):
        return "[" + ", ".join(map(said, value)) + "]"
    figure = isinstance(value, (int, float)) and not isinstance(value, bool)
    return f"{value:.4g}" if figure else str(value)


class Book:
    """What was said before, in a file beside its test: lines by what they are of.

    Whoever changes a figure or a word sees in a test that fails which others it moves. With
    UPDATE_TOLD=1, in one process (pytest -n0), tests write anew what they ask for instead; the
    difference is read before it is kept.
    """

    def __init__(self, beside: str, file: str, of: Iterable[str], ends: str = " | ") -> None:
        """beside: the test's file; of: all that it is of; ends: what ends a line's beginning."""
        self._file, self._of, self._ends = Path(beside).with_name(file), frozenset(of), ends
        self._known: dict[str, list[str]] = {}
        for line in self._file.read_text().splitlines() if self._file.exists() else ():
            self._known.setdefault(line.split(ends, 1)[0], []).append(line)

    def holds(self, of: str, told: Iterable[str]) -> None:
        """What is told of something is what was told of it before."""
        now = [f"{of}{self._ends}{line}" for line in told]
        if os.environ.get("UPDATE_TOLD"):
            self._known = {k: v for k, v in self._known.items() if k in self._of} | {of: now}
            lines = (f"{line}\n" for kept in self._known.values() for line in kept)
            self._file.write_text("".join(lines))
        assert self._known.keys() <= self._of, "something is kept of what is gone"
        alike(now, self._known.get(of, []))


def alike(now: list[str], was: list[str]) -> None:
    """The same words, and figures that differ by no more than machines do."""
    assert [FIGURE.sub("#", line) for line in now] == [FIGURE.sub("#", line) for line in was]
    for line, other in zip(now, was, strict=True):
        figures = [float(f) for f in FIGURE.findall(other)]
        assert [float(f) for f in FIGURE.findall(line)] == pytest.approx(figures, rel=1e-3), other


LEFT_OUT = {
    "id", "uid", "version", "square",
    "method", "first_aid", "signs", "drawing", "colour", "radius_mm", "height_mm",
    "key", "siblings", "operations", "batch", "predicted", "warmth",
}  # fmt: skip
"""What is another number each time, the same whatever is pressed, or said elsewhere too."""


def facts_of(where: str, what: Any) -> Iterator[tuple[str, str]]:
    """Every figure and word of a page, by where it stands on it."""
    if isinstance(what, Estimate):
        yield where, said(what)
    elif is_dataclass(what):
        yield from _each(where, [(f.name, getattr(what, f.name)) for f in fields(what)])
    elif isinstance(what, Mapping):
        yield from _each(where, sorted(what.items()))
    elif isinstance(what, (list, tuple)) and any(is_dataclass(x) for x in what):
        keys = [str(getattr(one, "key", "")) for one in what]
        apart = all(keys) and len({*keys}) == len(keys)
        for number, one in enumerate(what):
            yield from facts_of(f"{where}.{keys[number] if apart else number}", one)
    elif isinstance(what, datetime):
        yield where, f"{what:%Y-%m-%d %H:%M}"
    elif isinstance(what, date) or what not in (None, "", [], (), False):
        yield where, said(what)


def _each(where: str, named: Iterable[tuple[str, Any]]) -> Iterator[tuple[str, str]]:
    for name, value in named:
        if name not in LEFT_OUT and not name.endswith(("_id", "_ids")):
            yield from facts_of(f"{where}.{name}", value)


def on_paper(sheet: Sheet) -> dict[str, str]:
    """What is printed, row by row under each heading."""
    rows = {
        f"{block.heading}.{n}": " ; ".join(row)
        for block in sheet.blocks for n, row in enumerate(block.rows)
    }  # fmt: skip
    return {"title": sheet.title, "lead": sheet.lead, **rows}
