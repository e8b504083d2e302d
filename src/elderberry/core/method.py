"""Methods, and the plan that a method makes of a load of fruit in a kitchen."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cache
from importlib import resources

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
from elderberry.core.errors import Unknown, Unreachable, check_range
from elderberry.core.estimates import Estimate, from_draws
from elderberry.core.findings import Finding, Verdict
from elderberry.core.flow import draft as flow
from elderberry.core.flow import wiring
from elderberry.core.flow.draft import Draft, Load, Lot, Operation, Step
from elderberry.core.flow.kinds import kind
from elderberry.core.kitchen import Kitchen
from elderberry.core.numbers import typical
from elderberry.core.operations import filling
from elderberry.core.rules import rule

ACID_MARGIN = 0.3
"""How far under the row's limit acid is aimed [pH]."""
ENDINGS: Mapping[str, tuple[str, ...]] = {
    "shelf": ("process", "seal_check"),
    "chill": ("chill",),
    "freeze": ("freeze",),
}
"""What follows the filling, by what becomes of the jars."""
WATERED_DOWN = 0.1
"""Share of added water over which a juice is judged by its own pH, whatever the row's gate [-]."""
LIFE_STATE = {"shelf": "canned_sealed", "chill": "chilled_unopened", "freeze": "frozen"}
USUAL_LIFE = {"shelf": "juice", "chill": "juice_unprocessed", "freeze": "juice"}
"""The storage-life row of strained juice by what becomes of it."""


@dataclass(frozen=True)
class Method:
    """A named flow into jars: its steps, for which fruit, and where it comes from."""

    key: str
    version: int
    name: str
    school: str
    evidence: str
    source: str
    product: str
    """"juice" for the rows that the fruit's juice takes, else the product itself."""
    steps: tuple[Step, ...]
    fruits: tuple[str, ...] = ()
    """Fruits it was made for; any fruit that can be juiced so where there are none."""
    forms: tuple[str, ...] = ("fresh", "frozen")
    adapted_from: str = ""
    note: str = ""
    life: Mapping[str, str] = field(default_factory=dict)
    """Storage-life product by ending, where it is not that of strained juice."""

    @property
    def start(self) -> str:
        """The kind of lot it begins with."""
        return self.forms[0] if self.forms[0] in {"juice", "pomace"} else "fruit"

    @property
    def way(self) -> str:
        """Its way of juicing, by which yields are learned; empty where it has none."""
        return next((w for s in self.steps if (w := kind(s.kind).way)), "")

    @property
    def is_hot(self) -> bool:
        """Whether juice is heated before it is filled; raw packs are measured cold."""
        return any(s.kind == "heat_to" for s in self.steps)

    @property
    def fill_ratio(self) -> float:
        """Density as it is filled over that at 20 °C [-]: volume divides by it."""
        return float(sugar.hot_ratio(process.FILL_C)) if self.is_hot else 1.0

    def life_state(self, keep: str) -> tuple[str, str]:
        """The storage-life row of what comes of it."""
        return LIFE_STATE[keep], self.life.get(keep, USUAL_LIFE[keep])

    def product_of(self, fruit_key: str, brix: float = 0.0) -> str:
        """The product whose process rows it takes with a fruit, filled so sweet [g/100 g]."""
        unsweetened = process.juice_product(fruit_key) if self.product == "juice" else self.product
        return process.as_filled(unsweetened, fruit_key, brix)

    @property
    def aimed_brix(self) -> float:
        """How sweet its sugar makes it [g/100 g]; 0 where none is weighed to a Brix."""
        return max((float(s.chosen("brix")) for s in self.steps if s.kind == "dissolve"), default=0)

    def suits(self, fruit: materials.Fruit) -> bool:
        """Whether this fruit can be done so: it was made for it, or the figures are known."""
        if self.fruits:
            return fruit.key in self.fruits
        return not self.way or yields.prior(self.way, fruit) is not None


@dataclass(frozen=True)
class Plan:
    """A method laid out for a load of fruit here: the flow, the jars and the verdict."""

    method: Method
    product: str
    """The product whose process rows it takes, as sweet as it is filled."""
    load: Load
    operations: tuple[Operation, ...]
    lots: dict[str, Lot]
    forecasts: Mapping[str, yields.YieldForecast]
    """Yields it counts on, by way of juicing."""
    juice_l: Estimate
    fill_ml: Estimate
    """What is filled, as hot as it is filled [mL]."""
    filled: Lot
    expected: jars.Packing
    generous: jars.Packing
    """Jars for the 90th percentile: as many as to get ready."""
    process_time: process.ProcessTime | None
    verdict: Verdict
    holds_g: Mapping[str, float]
    """Every ingredient in it [g]."""

    @property
    def watered_down(self) -> bool:
        """Whether added water has carried a juice out of what its row was tested with."""
        return _watered_down(self.filled, self.product, self.load.fruit_key)

    @property
    def fruit_yield(self) -> yields.YieldForecast | None:
        """The yield of the method's own way, where it has one."""
        return self.forecasts.get(self.method.way)

    @property
    def loads(self) -> int:
        """Basket loads."""
        return sum(o.kind == "steam_juice" for o in self.operations)

    @property
    def minutes(self) -> Estimate:
        """Hands-on and on the heat, one after another [min]; waits are counted apart."""
        lengths = [o.minutes for o in self.operations if o.kind not in WAITS]
        return Estimate(
            sum(m.lo for m in lengths), sum(m.typ for m in lengths), sum(m.hi for m in lengths)
        )

    @property
    def waits_h(self) -> float:
        """Hours that nobody needs to stand there, up to the cooling [h]."""
        return sum(o.minutes.typ for o in self.operations if o.kind in WAITS - {"cool"}) / 60.0


WAITS = frozenset({"cool", "seal_check", "drain", "drain_cold", "settle", "steep"})


@cache
def methods() -> dict[str, Method]:
    """The methods that ship with Elderberry, by key, the plainest first."""
    folder = resources.files("elderberry.core") / "data" / "methods"
    names = sorted(
        f.name.removesuffix(".toml") for f in folder.iterdir() if f.name.endswith(".toml")
    )
    made = [of_row(tables.document(f"methods/{name}")) for name in names]
    return {m.key: m for m in sorted(made, key=lambda m: (len(m.fruits) > 0, m.name))}


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
    own: process.OwnProcess | None = None,
) -> Plan:
    """Lay a method out for a load of fruit: every figure that Plan shows, in one pass.

    Args:
        chosen: the method.
        load: the fruit; its yield is predicted here from the observations.
        kitchen: where it happens, with the jars in stock.
        observations: this household's finished batches of the fruit; each counts for its way.
        source: where the fruit came from.
        own: the household's own tested process for the product, if it has one.

    Raises:
        Unknown: fruit, jar or ending not listed.
        CannotTell: the fruit is not juiced this way.
        DoesNotConnect: the steps do not hang together for what came in.
        OutOfRange: more fruit than anybody juices (0.05 to 500 kg), or a figure outside its limits.

    Source: operations.py, applied in the method's order.
    """
    check_range("fruit", load.fruit_kg, "kg", 0.05, 500)
    check_range("loads", load.loads or 1, "", 1, 100)
    if load.keep not in ENDINGS:
        raise Unknown("ending", load.keep)
    wiring.check(chosen.steps, load.lot_kind)
    forecasts = _forecasts(chosen, load, observations, source)
    draft = flow.begin(load, kitchen, forecasts)
    steps = _with_ending(chosen, load.keep)
    first = next(n for n, step in enumerate(steps) if step.kind in wiring.INTO_JARS)
    for step in steps[:first]:
        draft = operations.apply(draft, step)
    filled = _filled(draft, steps[first:])
    product = chosen.product_of(load.fruit_key, typical(filled.composition.brix))
    draft, hot, generous, stops = _into_jars(draft, chosen, product, filled, own)
    stops = (*stops, *_never_heated(chosen, draft))
    for step in steps[first:]:
        draft = operations.apply(draft, step)
    return Plan(
        method=chosen,
        product=product,
        load=draft.load,
        operations=draft.operations,
        lots=dict(draft.lots),
        forecasts=forecasts,
        juice_l=from_draws(np.asarray(filled.composition.volume_ml) / 1000.0, draft.load.evidence),
        fill_ml=hot,
        filled=filled,
        expected=draft.packing or jars.Packing({}, 0, 0.0, None),
        generous=generous,
        process_time=draft.process_time,
        verdict=safety.judge(draft, kitchen, stops),
        holds_g=draft.ingredients_g,
    )


def _forecasts(
    chosen: Method, load: Load, observations: Sequence[yields.Observation], source: str
) -> dict[str, yields.YieldForecast]:
    fruit = materials.fruit(load.fruit_key)
    found = {}
    for way in {kind(s.kind).way for s in chosen.steps} - {""}:
        prior = yields.prior(way, fruit)
        if prior is not None:
            known = [o for o in observations if o.way in {"", way}]
            found[way] = yields.predict(prior, known, source)
    return found


def _with_ending(chosen: Method, keep: str) -> tuple[Step, ...]:
    jars_lot = next(s.gives for s in chosen.steps if s.kind == "fill")
    ending = tuple(Step(kind, kind, jars_lot, ()) for kind in ENDINGS[keep])
    return (*chosen.steps, *ending)


def _filled(draft: Draft, steps: Sequence[Step]) -> Lot:
    """What goes into the jars, with what is stirred in on the way."""
    takes = next(s.takes for s in steps if s.kind in {"heat_to", "fill"})
    lot = draft.together(*takes)
    extra = filling.added(draft.load)
    if not draft.load.ingredients_g:
        return lot
    return replace(lot, figures=flow.Figures(lot.composition + extra, lot.figures.evidence))


def _into_jars(
    draft: Draft, chosen: Method, product: str, filled: Lot, own: process.OwnProcess | None
) -> tuple[Draft, Estimate, jars.Packing, tuple[Finding, ...]]:
    """Choose jars and, for the shelf, the tested time of the largest of them."""
    kitchen, load = draft.kitchen, draft.load
    for key in load.jar_kinds:
        jars.kind(key)
    stock = {
        k: n for k, n in kitchen.jar_stock.items() if not load.jar_kinds or k in load.jar_kinds
    }
    hot = from_draws(filled.composition.volume_ml / chosen.fill_ratio, draft.load.evidence)
    canner = kitchen.canner.jars
    if load.keep != "shelf":
        expected, generous = _packings(hot, stock, math.inf, canner, shelf=False)
        return replace(draft, packing=expected), hot, generous, ()
    largest = process.largest_jar_ml(product, load.fruit_key, own)
    expected, generous = _packings(hot, stock, largest, canner)
    time, stops = _tested_time(draft, product, filled, stock, generous, largest, own)
    stops = (*stops, *_unstrained(chosen, filled))
    return replace(draft, packing=expected, process_time=time), hot, generous, stops


def _never_heated(chosen: Method, draft: Draft) -> tuple[Finding, ...]:
    """What must not go raw: poisonous fruit anywhere, and strained juice onto a shelf."""
    if chosen.is_hot:
        return ()
    if draft.load.fruit_key in filling.RAW_TOXIC:
        why = f"raw {draft.fruit.name.lower()} is poisonous"
    elif draft.process_time is not None and not chosen.product.startswith("whole_"):
        why = f"the tested time counts on filling it at {draft.process_time.fill_c:g} °C"
    else:
        return ()
    return (rule("never-heated").finding("fill", why=why),)


def _unstrained(chosen: Method, filled: Lot) -> tuple[Finding, ...]:
    pulp = filled.figures.pulp_pct
    if chosen.product != "juice" or pulp <= safety.STRAINED_PULP_PCT:
        return ()
    return (rule("juice-not-strained").finding("fill", pulp=f"{pulp:.1f}"),)


def _packings(
    hot_ml: Estimate, stock: dict[str, int], largest_ml: float, canner: int, shelf: bool = True
) -> tuple[jars.Packing, jars.Packing]:
    pack = jars.pack if shelf else jars.pack_cold
    return pack(hot_ml.typ, stock, largest_ml, canner), pack(hot_ml.hi, stock, largest_ml, canner)


def _tested_time(
    draft: Draft, product: str, filled: Lot, stock: Mapping[str, int], generous: jars.Packing,
    largest: float, own: process.OwnProcess | None,
) -> tuple[process.ProcessTime | None, tuple[Finding, ...]]:  # fmt: skip
    kitchen, load = draft.kitchen, draft.load
    ph = filled.figures.ph
    used = [*generous.jars, *_leftover(generous)]
    tested = [size for k in used if (size := jars.kind(k).process_as_ml)]
    wanted = [size for k in stock if (size := jars.kind(k).process_as_ml)]
    found = process.look_up(
        product,
        max(tested or wanted, default=None),
        kitchen.altitude_m,
        load.fruit_key,
        kitchen.canner.heater,
        load.ph.typ if load.ph and _as_it_was_read(draft) else None,
        ph.hi if ph else None,
        place="process",
        own=own,
        must_read=_read_too_high(load, product) or _watered_down(filled, product, load.fruit_key),
    )
    stops = tuple(
        _with_acid(stop, filled.composition, product, load.fruit_key) for stop in found.stops
    )
    if found.time and not tested:
        return None, (*stops, process.no_jar(largest))
    return found.time, stops


def _as_it_was_read(draft: Draft) -> bool:
    """Whether what is filled is still what the fruit's pH was read of: nothing went in since."""
    joined = any(lot.kind in {"added", "water"} for lot in draft.lots.values())
    return not draft.load.ingredients_g and not joined


def _watered_down(filled: Lot, product: str, fruit_key: str) -> bool:
    """Whether added water has carried a juice out of what its row was tested with."""
    if product.startswith("whole_"):
        return False
    share = typical(filled.water_g) / max(flow.typical_g(filled), 1e-9)
    limit, ph = process.ph_limit(product, fruit_key), filled.figures.ph
    return share > WATERED_DOWN and limit is not None and (ph is None or ph.hi > limit)


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


def of_row(row: Mapping[str, object]) -> Method:
    """A method from its stored form: lists become tuples and steps are wired.

    They are checked when a plan is laid out, so that what was kept under older rules still opens.

    Raises:
        DoesNotConnect: a kind of step that does not exist.
    """
    lists = {k: tuple(v) for k, v in row.items() if isinstance(v, list) and k != "steps"}
    steps = wiring.wire(row["steps"])  # type: ignore[arg-type]
    return Method(**{**row, **lists, "steps": steps})  # type: ignore[arg-type]
