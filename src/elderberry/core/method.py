"""Methods, and the plan that a method makes of a load of fruit in a kitchen."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cache

import numpy as np

from elderberry.core import (
    jars,
    materials,
    operations,
    process,
    safety,
    solve,
    sugar,
    tables,
    yields,
)
from elderberry.core.composition import Composition
from elderberry.core.errors import CannotTell, Unknown, Unreachable, check_range
from elderberry.core.estimates import Estimate, from_draws
from elderberry.core.findings import Finding, Verdict
from elderberry.core.kitchen import Kitchen
from elderberry.core.operations import Draft, Load, Lot, Operation

ACID_MARGIN = 0.3
"""How far under the row's limit acid is aimed [pH]."""
ENDINGS = ("shelf", "chill", "freeze")
LIFE_STATE = {
    "shelf": ("canned_sealed", "juice"),
    "chill": ("chilled_unopened", "juice_unprocessed"),
    "freeze": ("frozen", "juice"),
}
"""The storage-life row of juice by what becomes of it."""


@dataclass(frozen=True)
class Method:
    """A named flow: the operations into jars, then those of each ending."""

    key: str
    version: int
    name: str
    school: str
    evidence: str
    source: str
    product: str
    operations: tuple[str, ...]
    endings: dict[str, tuple[str, ...]]


@dataclass(frozen=True)
class Plan:
    """A method laid out for a load of fruit here: the flow, the jars and the verdict."""

    method: Method
    load: Load
    operations: tuple[Operation, ...]
    lots: dict[str, Lot]
    fruit_yield: yields.YieldForecast
    juice_l: Estimate
    fill_ml: Estimate
    """Juice as it is filled, hot [mL]."""
    expected: jars.Packing
    generous: jars.Packing
    """Jars for the 90th percentile: as many as to get ready."""
    process_time: process.ProcessTime | None
    verdict: Verdict

    @property
    def loads(self) -> int:
        """Basket loads."""
        return sum(o.kind == "steam_juice" for o in self.operations)

    @property
    def minutes(self) -> Estimate:
        """All steps one after another up to the cooling [min]."""
        lengths = [o.minutes for o in self.operations if o.kind not in {"cool", "seal_check"}]
        return Estimate(
            sum(m.lo for m in lengths), sum(m.typ for m in lengths), sum(m.hi for m in lengths)
        )


@cache
def methods() -> dict[str, Method]:
    """The methods that ship with Elderberry, by key."""
    return {name: _method(name) for name in ("steam_juiced",)}


def method(key: str) -> Method:
    """The method with this key.

    Raises:
        Unknown: there is no such method.

    >>> method("steam_juiced").product
    'juice'
    """
    try:
        return methods()[key]
    except KeyError:
        raise Unknown("method", key) from None


def plan(
    chosen: Method,
    load: Load,
    kitchen: Kitchen,
    observations: Sequence[yields.Observation] = (),
    source: str = "",
) -> Plan:
    """Lay a method out for a load of fruit: every figure that Plan shows, in one pass.

    Args:
        chosen: the method.
        load: the fruit; its yield is predicted here from the observations.
        kitchen: where it happens, with the jars in stock.
        observations: this household's finished batches of the fruit by this way.
        source: where the fruit came from.

    Raises:
        Unknown: fruit, jar or ending not listed.
        CannotTell: the fruit is not juiced this way.
        OutOfRange: more fruit than anybody juices (0.05 to 500 kg), or a figure outside its limits.

    Source: operations.py, applied in the method's order.
    """
    check_range("fruit", load.fruit_kg, "kg", 0.05, 500)
    check_range("lid lifts", load.lid_lifts, "", 0, 20)
    check_range("loads", load.loads or 1, "", 1, 100)
    if load.keep not in chosen.endings:
        raise Unknown("ending", load.keep)
    fruit = materials.fruit(load.fruit_key)
    if fruit.steam_l_per_kg is None:
        raise CannotTell(f"{fruit.name} is not steam-juiced: squeeze or steep it instead")
    forecast = yields.predict(fruit.steam_l_per_kg, observations, source)
    draft = operations.begin(replace(load, yield_l_per_kg=forecast.estimate()), kitchen)
    draft = operations.APPLY["steam_juice"](draft)
    juice = draft.pooled + operations.added(load)
    hot = juice.volume_ml / sugar.hot_ratio(process.FILL_C)
    draft, generous, stops = _into_jars(draft, from_draws(hot))
    for word in (*chosen.operations[1:], *chosen.endings[load.keep]):
        draft = operations.APPLY[word](draft)
    return Plan(
        method=chosen,
        load=draft.load,
        operations=draft.operations,
        lots=dict(draft.lots),
        fruit_yield=forecast,
        juice_l=from_draws(np.asarray(juice.volume_ml) / 1000.0, forecast.evidence),
        fill_ml=from_draws(hot, forecast.evidence),
        expected=draft.packing or jars.Packing({}, 0, 0.0, None),
        generous=generous,
        process_time=draft.process_time,
        verdict=safety.judge(draft, kitchen, stops),
    )


def _into_jars(draft: Draft, hot_ml: Estimate) -> tuple[Draft, jars.Packing, tuple[Finding, ...]]:
    """Choose jars and, for the shelf, the tested time of the largest of them."""
    kitchen, load = draft.kitchen, draft.load
    for key in load.jar_kinds:
        jars.kind(key)
    chosen = {
        k: n for k, n in kitchen.jar_stock.items() if not load.jar_kinds or k in load.jar_kinds
    }
    if load.keep != "shelf":
        expected, generous = _packings(hot_ml, chosen, math.inf, kitchen.canner.jars, shelf=False)
        return replace(draft, packing=expected), generous, ()
    product = process.juice_product(load.fruit_key)
    largest = process.largest_jar_ml(product, load.fruit_key)
    expected, generous = _packings(hot_ml, chosen, largest, kitchen.canner.jars)
    time, stops = _tested_time(draft, product, chosen, generous, largest)
    return replace(draft, packing=expected, process_time=time), generous, stops


def _packings(
    hot_ml: Estimate, stock: dict[str, int], largest_ml: float, canner: int, shelf: bool = True
) -> tuple[jars.Packing, jars.Packing]:
    pack = jars.pack if shelf else jars.pack_cold
    return pack(hot_ml.typ, stock, largest_ml, canner), pack(hot_ml.hi, stock, largest_ml, canner)


def _tested_time(
    draft: Draft, product: str, chosen: dict[str, int], generous: jars.Packing, largest: float
) -> tuple[process.ProcessTime | None, tuple[Finding, ...]]:
    kitchen, load = draft.kitchen, draft.load
    filled = draft.pooled + operations.added(load)
    ph = operations.Figures(filled).ph
    used = [*generous.jars, *_leftover(generous)]
    tested = [size for k in used if (size := jars.kind(k).process_as_ml)]
    wanted = [size for k in chosen if (size := jars.kind(k).process_as_ml)]
    found = process.look_up(
        product,
        max(tested or wanted, default=None),
        kitchen.altitude_m,
        load.fruit_key,
        kitchen.canner.heater,
        load.ph.typ if load.ph and not load.ingredients_g else None,
        ph.hi if ph else None,
        place="process",
        must_read=_read_too_high(load, product),
    )
    stops = tuple(_with_acid(stop, filled, product, load.fruit_key) for stop in found.stops)
    if found.time and not tested:
        return None, (*stops, process.no_jar(largest))
    return found.time, stops


def _read_too_high(load: Load, product: str) -> bool:
    """Whether the juice had read over the limit before acid was stirred in."""
    limit = process.ph_limit(product, load.fruit_key)
    high = load.ph is not None and limit is not None and load.ph.typ > limit
    return high and bool(load.ingredients_g)


def _with_acid(stop: Finding, filled: Composition, product: str, fruit_key: str) -> Finding:
    """A stop on acidity with the grams of citric acid that would bring it well under the limit."""
    limit = process.ph_limit(product, fruit_key)
    if stop.id != "ph-too-high" or limit is None:
        return stop
    try:
        solved = solve.acidify_to_ph(filled.first(), limit - ACID_MARGIN)
    except Unreachable:
        return stop
    grams = math.ceil(solved.amount_g)
    remedy = f"Stir in {grams} g of citric acid and read again, or chill or freeze it."
    return replace(stop, remedy=remedy, change=f"acid={grams}")


def _leftover(packing: jars.Packing) -> tuple[str, ...]:
    return (packing.leftover_kind,) if packing.leftover_kind else ()


def _method(name: str) -> Method:
    row = tables.document(f"methods/{name}")
    return Method(
        key=row["key"],
        version=row["version"],
        name=row["name"],
        school=row["school"],
        evidence=row["evidence"],
        source=row["source"],
        product=row["product"],
        operations=tuple(row["operations"]),
        endings={k: tuple(v) for k, v in row["endings"].items()},
    )
