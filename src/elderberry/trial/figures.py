"""Figures against their limits."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass


@dataclass(frozen=True)
class Figure:
    """What was measured beside the most that it may be."""

    name: str
    value: float
    most: float
    unit: str = ""
    said: str = ""
    """What went wrong, where anything did."""
    of_time: bool = False
    """Whether it is of how fast things are, which a loaded machine makes worse."""

    @property
    def holds(self) -> bool:
        """Whether the limit is kept."""
        return self.value <= self.most

    def line(self) -> str:
        """One line of the report."""
        word = "holds" if self.holds else "TOO MUCH"
        figures = f"{self.value:9.4g} {self.unit:<4} at most {self.most:6.4g}"
        return f"  {self.name:<58}{figures}   {word}{f'  {self.said}' if self.said else ''}"


def middle_s(act: Callable[[], object], times: int, before: Callable[[], object] = dict) -> float:
    """The middle of so many times that an act takes [s], the first not counted.

    before: what is done before each, its time not counted.
    """
    act()
    taken = []
    for _ in range(times):
        before()
        began = time.perf_counter()
        act()
        taken.append(time.perf_counter() - began)
    return statistics.median(taken)


def percentile_95(values: Sequence[float]) -> float:
    """The value that 95 of 100 are not above."""
    return statistics.quantiles(values, n=20)[-1] if len(values) > 1 else max(values, default=0.0)
