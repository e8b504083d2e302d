"""`./elderberry bench`: how fast the core is, against the limits we hold ourselves to."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from elderberry.core import acid, method
from elderberry.core import plan as plans
from elderberry.core.composition import of_fruit_juice
from elderberry.core.flow import wiring
from elderberry.core.flow.inputs import Amount, Brief, End, Input, grams
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
    came_in = Input("fruit", "damson", grams(24_500))
    one = Brief((came_in,), (End("fill", "shelf", ("pint",)),))
    chosen = method.method("steam_juiced")
    parted, three = _three_into_two(came_in)

    def juices() -> None:
        acid.ph(of_fruit_juice("damson", 1000.0, brix, 3.0, 2.0))

    def plan() -> None:
        plans.plan(chosen, one, kitchen)

    def many() -> None:
        plans.plan(parted, three, kitchen)

    return [
        Timing("10 000 compositions with their pH", median_ms(juices, 7), 500),
        Timing("a full plan with its ranges", median_ms(plan, 41), 5),
        Timing("a plan of three inputs and two ends", median_ms(many, 41), 8),
    ]


def _three_into_two(came_in: Input) -> tuple[method.Method, Brief]:
    """Damsons and blackcurrants steamed, a part sweetened and chilled, the rest for the shelf."""
    rows: list[dict[str, object]] = [
        {"kind": "steam_juice", "takes": ["fruit", "more"]},
        {"kind": "split"},
        {"kind": "heat_to", "takes": ["rest"]},
        {"kind": "fill", "takes": ["hot"]},
        {"kind": "stir_in", "takes": ["part", "sugar"]},
        {"kind": "heat_to", "takes": ["mixed"], "gives": ["hot_2"]},
        {"kind": "fill", "takes": ["hot_2"]},
    ]
    parted = replace(method.method("steam_juiced"), steps=wiring.wire(rows))
    also = Input("more", "blackcurrant", grams(4000))
    sugar = Input("sugar", "sugar_white", Amount("target", target="brix", value=50.0))
    ends = (End("fill", "shelf", ("pint",)), End("fill_2", "chill", ("quart",)))
    return parted, Brief((came_in, also, sugar), ends)


def median_ms(act: Callable[[], None], times: int) -> float:
    """Median time [ms] of an act, the first run not counted."""
    act()
    taken = []
    for _ in range(times):
        began = time.perf_counter()
        act()
        taken.append(1000 * (time.perf_counter() - began))
    return statistics.median(taken)
