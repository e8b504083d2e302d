"""`./elderberry bench`: how fast it is, against the limits we hold ourselves to."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import numpy as np

from elderberry.core import acid, method
from elderberry.core import plan as plans
from elderberry.core.composition import of_fruit_juice
from elderberry.core.flow import wiring
from elderberry.core.flow.inputs import Amount, Brief, End, Input, grams
from elderberry.core.kitchen import Canner, Juicer, Kitchen
from elderberry.trial.figures import Figure, middle_s
from elderberry.trial.pace import of_cellars, pace


def measure() -> list[Figure]:
    """Every timing, the median of several runs each: of the core, then over HTTP."""
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
        Figure("10 000 compositions with their pH", median_ms(juices, 7), 500, "ms"),
        Figure("a full plan with its ranges", median_ms(plan, 41), 5, "ms"),
        Figure("a plan of three inputs and two ends", median_ms(many, 41), 8, "ms"),
        *pace(),
        *of_cellars(),
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
    return 1000 * middle_s(act, times)
