"""`./elderberry bench`: how fast the core is, against the limits we hold ourselves to."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from elderberry.core import acid, method
from elderberry.core.composition import of_fruit_juice
from elderberry.core.flow.draft import Load
from elderberry.core.kitchen import Canner, Juicer, Kitchen


@dataclass(frozen=True)
class Timing:
    """A measurement [ms] beside its limit [ms]."""

    name: str
    median_ms: float
    limit_ms: float

    @property
    def holds(self) -> bool:
        """Whether the limit is kept."""
        return self.median_ms <= self.limit_ms

    def line(self) -> str:
        """One line of the report."""
        word = "holds" if self.holds else "TOO SLOW"
        return f"  {self.name:<44}{self.median_ms:9.2f} ms   limit {self.limit_ms:6.0f} ms   {word}"


def measure() -> list[Timing]:
    """Every timing, the median of several runs each."""
    brix = np.linspace(10, 20, 10_000)
    kitchen = Kitchen(585, Juicer(8, 4, 1.8), Canner(7), 2.2, jar_stock={"pint": 48, "quart": 18})
    load = Load("damson", 24.5, jar_kinds=("pint",))
    chosen = method.method("steam_juiced")

    def juices() -> None:
        acid.ph(of_fruit_juice("damson", 1000.0, brix, 3.0, 2.0))

    def plan() -> None:
        method.plan(chosen, load, kitchen)

    return [
        Timing("10 000 compositions with their pH", median_ms(juices, 7), 500),
        Timing("a full plan with its ranges", median_ms(plan, 41), 5),
    ]


def median_ms(act: Callable[[], None], times: int) -> float:
    """Median time [ms] of an act, the first run not counted."""
    act()
    taken = []
    for _ in range(times):
        began = time.perf_counter()
        act()
        taken.append(1000 * (time.perf_counter() - began))
    return statistics.median(taken)
