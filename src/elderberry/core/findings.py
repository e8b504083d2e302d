"""Findings: what the tool must refuse, warn about or note, each with its reason and remedy."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum


class Level(StrEnum):
    """How hard a finding holds. A stop stays until its cause is gone."""

    STOP = "stop"
    CAUTION = "caution"
    NOTE = "note"


@dataclass(frozen=True)
class Finding:
    """One rule that applies, with its place in the flow ("" for the whole of it)."""

    id: str
    level: Level
    message: str
    remedy: str
    source: str
    place: str = ""
    change: str = ""
    """What the tool itself can do about it: "keep=chill", "jars=tested" or nothing."""
    in_cook: bool = False
    """A stop that is cleared at its step, so the batch may begin before it is."""
    of_case: bool = False
    """Whether it speaks of this case's own figures, not of the care that is usual with a step."""


@dataclass(frozen=True)
class Verdict:
    """Every finding on a flow, stops first."""

    findings: tuple[Finding, ...]

    @property
    def stops(self) -> tuple[Finding, ...]:
        """The findings that forbid going on."""
        return tuple(f for f in self.findings if f.level is Level.STOP)

    @property
    def may_start(self) -> bool:
        """Whether every stop is one that a reading or deed at its step can clear."""
        return all(f.in_cook for f in self.stops)


def verdict(findings: Iterable[Finding]) -> Verdict:
    """A verdict with the findings in order of level, repeats left out."""
    order = list(Level)
    unique = dict.fromkeys(findings)
    return Verdict(tuple(sorted(unique, key=lambda f: order.index(f.level))))
