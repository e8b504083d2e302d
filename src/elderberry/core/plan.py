"""The plan that a method makes of what goes in: lots, operations, and every end with its verdict.

The same function lays out a batch that is under way: lots that were read are as they were read.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property

import numpy as np

from elderberry.core import (
    freezing,
    jars,
    keeping,
    operations,
    process,
    safety,
    storage,
    sugar,
    yields,
)
from elderberry.core.errors import Unknown, Unreachable, check_range
from elderberry.core.estimates import Estimate, from_draws
from elderberry.core.findings import Finding, Verdict, verdict
from elderberry.core.flow import joining, wiring
from elderberry.core.flow.draft import Draft, Filling, Forecasts, begin, with_more
from elderberry.core.flow.inputs import Brief, End
from elderberry.core.flow.kinds import after_filling, kind, of_role
from elderberry.core.flow.lots import Lot
from elderberry.core.flow.seen import Seen, StepSeen
from elderberry.core.flow.steps import Operation, Step
from elderberry.core.kitchen import UNDER_BOIL_C, Kitchen
from elderberry.core.method import Method
from elderberry.core.process.case import Case, Lookup
from elderberry.core.process.contents import Contents
from elderberry.core.rules import rule
from elderberry.core.solve import acidify_to_ph

ACID_MARGIN = 0.3
"""How far under the row's limit acid is aimed [pH]."""
FROZEN_C = -18.0
"""How cold a freezer is, where it is asked of a jar alone [°C]."""
COLD_HEADSPACE_MM = 13.0
"""Room under the lid of what is only chilled [mm]."""
OWN: Mapping[str, process.OwnProcess] = {}
Observations = Mapping[str, Sequence[yields.Observation]]
"""This household's finished batches, by fruit; each counts for its way."""


@dataclass(frozen=True, eq=False)
class PlannedEnd:
    """One end of a plan: what is filled, in which jars, how it is kept and what stands on it."""

    end: End
    filled: Lot
    contents: Contents
    fill_ml: Estimate
    """What is filled, as hot as it is filled [mL]."""
    expected: jars.Packing
    generous: jars.Packing
    """Jars for the 90th percentile: as many as to get ready."""
    found: Lookup
    """What the tables say of it; nothing where it is not for the shelf."""
    verdict: Verdict
    kinds: tuple[str, ...] = ()
    """The kinds of jar that it is for: those chosen, or the usual one."""

    @property
    def keep(self) -> str:
        """How it is kept."""
        return self.end.keep

    @property
    def process_time(self) -> process.ProcessTime | None:
        """The tested time, where there is one."""
        return self.found.time

    @property
    def product(self) -> str:
        """What it is, in a word."""
        return self.end.name or keeping.product_word(self.contents)

    @property
    def litres(self) -> Estimate:
        """What is filled, at 20 °C [L]."""
        return self.filled.volume_ml.scaled(0.001)

    @property
    def life(self) -> storage.LifeRow:
        """How long it keeps."""
        return keeping.life_of(self.contents, self.keep)

    def room_ml(self, jar: jars.JarKind) -> float:
        """What one jar of a kind takes of it [mL]; none where glass would burst."""
        if self.keep != "freeze":
            return jar.nominal_ml
        swells = freezing.swelling_pct(self.contents.usual, FROZEN_C)
        return jars.frozen_room_ml(jar, swells)

    @property
    def headspace_mm(self) -> float:
        """Room under the lid [mm]."""
        if self.process_time is not None:
            return self.process_time.headspace_in * 25.4
        if self.keep == "freeze" and self.expected.jars:
            largest = max(self.expected.jars, key=lambda k: jars.kind(k).nominal_ml)
            return jars.frozen_headspace_mm(jars.kind(largest))
        return COLD_HEADSPACE_MM


@dataclass(frozen=True)
class Plan:
    """A method laid out for what goes in here: the flow, its ends and the verdict on all of it."""

    method: Method
    brief: Brief
    kitchen: Kitchen
    operations: tuple[Operation, ...]
    lots: dict[str, Lot]
    forecasts: Mapping[tuple[str, str], yields.YieldForecast]
    """Yields it counts on, by fruit and way of juicing."""
    ends: tuple[PlannedEnd, ...]
    verdict: Verdict

    @property
    def main(self) -> PlannedEnd:
        """The first of its ends."""
        return self.ends[0]

    def end(self, key: str) -> PlannedEnd:
        """The end of this name; the first where there is none."""
        return next((e for e in self.ends if e.end.key == key), self.main)

    @property
    def fruit_yield(self) -> yields.YieldForecast | None:
        """The yield of the method's own way, where one fruit goes in and it has one."""
        fruits = [i.material for i in self.brief.inputs if i.fruit]
        return self.forecasts.get((fruits[0], self.method.way)) if fruits else None

    @property
    def loads(self) -> int:
        """Basket loads."""
        first = of_role("steam")
        return sum(o.kind == first for o in self.operations)

    @cached_property
    def minutes(self) -> Estimate:
        """Hands-on and on the heat, one after another [min]; waits are counted apart."""
        lengths = [o.minutes for o in self.operations if not kind(o.kind).waits]
        return Estimate(
            sum(m.lo for m in lengths), sum(m.typ for m in lengths), sum(m.hi for m in lengths)
        )

    @property
    def waits_h(self) -> float:
        """Hours that nobody needs to stand there, up to the cooling [h]."""
        waits = (o for o in self.operations if kind(o.kind).waits)
        return sum(o.minutes.typ for o in waits if kind(o.kind).role != "cool") / 60.0

    @cached_property
    def holds_g(self) -> dict[str, float]:
        """Every ingredient that goes into it [g], by material."""
        found: dict[str, float] = {}
        for lot in self.lots.values():
            if lot.kind == "added":
                for source in lot.origins:
                    grams = float(source.usual.mass_g)
                    found[source.material] = found.get(source.material, 0.0) + grams
        return found


@dataclass
class _Counting:
    """A plan in the making: its ends as they are counted."""

    own: Mapping[str, process.OwnProcess]
    ends: dict[str, PlannedEnd] = field(default_factory=dict)


def plan(
    chosen: Method,
    brief: Brief,
    kitchen: Kitchen,
    observations: Observations | None = None,
    own: Mapping[str, process.OwnProcess] | None = None,
    seen: Mapping[str, Seen] | None = None,
    done: Mapping[str, StepSeen] | None = None,
    forecasts: Forecasts | None = None,
) -> Plan:
    """Lay a method out for what goes in: every figure that Plan and Cook show, in one pass.

    Args:
        chosen: the method.
        brief: what goes in and the ends it is for.
        kitchen: where it happens, with the jars in stock.
        observations: this household's finished batches, by fruit; each counts for its way.
        own: the household's own tested processes, by product.
        seen: what was read of lots, by their keys, where it is under way.
        done: what was seen of operations, by their keys.
        forecasts: yields that it was once planned with, instead of those of the observations.

    Raises:
        Unknown: fruit, jar or ending not listed.
        CannotTell: the fruit is not juiced this way.
        DoesNotConnect: the steps do not hang together for what goes in.
        OutOfRange: more fruit than anybody juices (0.05 to 500 kg), or a figure outside its limits.

    Source: operations/, applied in the method's order.
    """
    _check(brief)
    steps = laid_out(chosen, brief)
    expected = _forecasts(steps, brief, observations or {}) if forecasts is None else forecasts
    draft = begin(brief, kitchen, expected, seen, done)
    counting = _Counting(own or OWN)
    for step in steps:
        draft = _counted(draft, steps, step, counting)
        draft = operations.apply(draft, step)
    ends = tuple(counting.ends[s.key] for s in wiring.fills(steps))
    judged = tuple(
        replace(e, verdict=safety.judge(draft, kitchen, e.verdict.stops, e.end)) for e in ends
    )
    whole = verdict(f for e in judged for f in e.verdict.findings)
    lots = dict(draft.lots)
    return Plan(chosen, brief, kitchen, draft.operations, lots, draft.forecasts, judged, whole)


def _check(brief: Brief) -> None:
    for given in brief.inputs:
        if given.fruit is not None and given.amount.grams is not None:
            check_range("fruit", given.amount.grams.typ / 1000.0, "kg", 0.001, 500)
    check_range("loads", brief.loads or 1, "", 1, 100)
    for end in brief.ends:
        if end.keep not in keeping.STATE:
            raise Unknown("ending", end.keep)
        for key in end.jar_kinds:
            jars.kind(key)


def laid_out(chosen: Method, brief: Brief) -> wiring.Steps:
    """The steps of a method with everything joining that goes in, and what comes by itself.

    Clean jars go before every filling and the heating for it, since the tables ask for them
    whatever a method says and nothing hot should wait; the process, or the way to the cold,
    follows.

    Raises:
        DoesNotConnect: the steps do not hang together for what goes in.
    """
    steps = joining.joined(chosen.steps, brief.inputs)
    wiring.check(steps, brief.kinds)
    found: list[Step] = []
    for step in steps:
        role = kind(step.kind).role
        if role == "fill":
            hot = [s for s in found[-1:] if kind(s.kind).heats and {*s.gives} & {*step.takes}]
            found.insert(len(found) - len(hot), _clean_jars(step))
            found += [step, *_following(step, brief)]
        elif role != "sterilise":
            found.append(step)
    return tuple(found)


def _clean_jars(fill: Step) -> Step:
    what = of_role("sterilise")
    return Step(what + fill.key.removeprefix(fill.kind), what, (), (), {"fill": fill.key})


def _following(fill: Step, brief: Brief) -> list[Step]:
    """What comes after a filling by itself, by how its jars are kept."""
    suffix = fill.key.removeprefix(fill.kind)
    return [
        Step(f"{what}{suffix}", what, fill.gives, (), {"fill": fill.key})
        for what in after_filling(brief.end(fill.key).keep)
    ]


def _forecasts(
    steps: wiring.Steps, brief: Brief, observations: Observations
) -> dict[tuple[str, str], yields.YieldForecast]:
    ways = {kind(s.kind).way for s in steps} - {""}
    found = {}
    for given in brief.inputs:
        if given.fruit is None:
            continue
        for way in ways:
            prior = yields.prior(way, given.fruit)
            if prior is not None:
                known = [o for o in observations.get(given.material, ()) if o.way in {"", way}]
                found[given.material, way] = yields.predict(prior, known, given.source)
    return found


def _counted(draft: Draft, steps: wiring.Steps, step: Step, counting: _Counting) -> Draft:
    """The draft once the end that a step leads to has been counted: its jars, time and stops."""
    if not kind(step.kind).into_jars or step.key in draft.fillings:
        return draft
    fill = _leads_to(steps, step)
    ready = wiring.feeding(steps, fill)
    made, filling = _end(draft, fill, ready, counting.own)
    counting.ends[fill.key] = made
    keys = [*(s.key for s in ready), _clean_jars(fill).key, fill.key]
    return replace(draft, fillings={**draft.fillings, **dict.fromkeys(keys, filling)})


def _leads_to(steps: wiring.Steps, step: Step) -> Step:
    """The filling that a step into jars leads to."""
    fills = wiring.fills(steps)
    by_lot = (f for f in fills if step in (*wiring.feeding(steps, f), f))
    return next(by_lot, next((f for f in fills if f.key == step.params.get("fill")), fills[0]))


def _end(
    draft: Draft, fill: Step, ready: wiring.Steps, own: Mapping[str, process.OwnProcess]
) -> tuple[PlannedEnd, Filling]:
    """What is filled at an end, judged as it will be once it has been heated."""
    end = draft.brief.end(fill.key)
    inner, into_jars = draft.parted(fill)
    cold = draft.together(*(ready[0] if ready else inner).takes)
    toxic = bool(Contents(cold).toxic_left(_boil_through_min(draft)))
    heated = _as_heated(draft, cold, ready, toxic)
    lot = with_more(heated, draft.joining(into_jars, heated))
    contents = Contents(lot, draft.brief.said)
    hot = _as_hot(lot) if ready else lot.figures.volume_ml
    made = (
        _shelf_end(draft, end, contents, hot, own)
        if end.keep == "shelf"
        else _cold_end(draft, end, contents, hot)
    )
    return made, _filling(draft, made, bool(ready), toxic)


def _shelf_end(
    draft: Draft, end: End, contents: Contents, hot: Estimate,
    own: Mapping[str, process.OwnProcess],
) -> PlannedEnd:  # fmt: skip
    """An end for the shelf: jars of a tested size, and the tested time of the largest of them."""
    case = Case(contents, draft.kitchen, own)
    largest = case.largest_jar_ml
    stock = _stock(end, hot.typ, draft.kitchen, largest)
    canner = draft.kitchen.canner.jars
    expected = jars.pack(hot.typ, stock, largest, canner)
    generous = jars.pack(hot.hi, stock, largest, canner)
    found, stops = _tested(case, stock, generous, largest)
    stops = (*stops, *_never_heated(contents.lot, found))
    return PlannedEnd(
        end, contents.lot, contents, hot, expected, generous, found, verdict(stops), tuple(stock)
    )


def _as_heated(draft: Draft, lot: Lot, ready: wiring.Steps, toxic: bool) -> Lot:
    """A lot as its end's heating will leave it, or as a thermometer has shown that it did."""
    if not ready:
        return lot
    step = ready[-1]
    seen = draft.done.get(step.key) or draft.done.get(kind(step.kind).becomes)
    reached, boiled = draft.kitchen.boiling_point_c, _boil_through_min(draft) if toxic else 0.0
    if seen is not None:
        reached = reached if seen.hottest_c is None else seen.hottest_c
        boiled = boiled if seen.boiled_min is None else seen.boiled_min
    return replace(lot, origins=lot.mix.heated(reached, boiled).origins, temp_c=reached)


def _boil_through_min(draft: Draft) -> float:
    """Minutes that toxic raw fruit boils through here: 10, and more higher up."""
    feet = process.altitude_ft(draft.kitchen.altitude_m or 0.0)
    return float(process.sterilising_minutes(feet))


def _as_hot(lot: Lot) -> Estimate:
    """Its volume as it fills hot [mL]."""
    ratio = float(sugar.hot_ratio(process.FILL_C))
    return from_draws(np.asarray(lot.composition.volume_ml) / ratio, lot.figures.evidence)


def _stock(end: End, volume_ml: float, kitchen: Kitchen, largest: float) -> dict[str, int]:
    """The jars in stock that were chosen, or the kind that is usual for so much."""
    wanted = end.jar_kinds or jars.usual(volume_ml, kitchen.jar_stock, largest)
    return {k: n for k, n in kitchen.jar_stock.items() if k in wanted}


def _cold_end(draft: Draft, end: End, contents: Contents, hot: Estimate) -> PlannedEnd:
    """An end for the refrigerator or freezer: any jar does, but glass keeps room for its ice."""
    kitchen = draft.kitchen
    stock = _stock(end, hot.typ, kitchen, math.inf)
    volume = contents.lot.volume_ml if end.keep == "freeze" else hot
    expected, generous = (
        packed_cold(contents, ml, stock, kitchen, end.keep) for ml in (volume.typ, volume.hi)
    )
    stops = (*_raw(contents, _boil_through_min(draft)), *_narrow(end))
    nothing = Lookup(None, ())
    return PlannedEnd(
        end, contents.lot, contents, hot, expected, generous, nothing, verdict(stops), tuple(stock)
    )


def packed_cold(
    contents: Contents, volume_ml: float, stock: Mapping[str, int], kitchen: Kitchen, keep: str
) -> jars.Packing:
    """Contents packed for the refrigerator, or for the freezer to the room that ice needs.

    Args:
        contents: what is filled.
        volume_ml: how much of it, as it is filled [mL].
        stock: jars there are, by kind.
        kitchen: where its freezer is as cold as it is.
        keep: chill or freeze.

    Raises:
        OutOfRange: a volume that cannot be.

    Source: freezing.swelling_pct; jars.frozen_room_ml.
    """
    canner = kitchen.canner.jars
    if keep != "freeze":
        return jars.pack_cold(volume_ml, stock, math.inf, canner)
    cold = max(-40.0, min(0.0, kitchen.freeze_c))
    swells = freezing.swelling_pct(contents.usual, cold)
    return jars.pack_frozen(volume_ml, stock, swells, canner)


def _narrow(end: End) -> list[Finding]:
    """Glass that breaks as it freezes."""
    if end.keep != "freeze":
        return []
    chosen = [jars.kind(k) for k in end.jar_kinds]
    return [
        rule("glass-never-frozen").finding("fill", jar=k.name) for k in chosen if k.neck == "narrow"
    ]


def _raw(contents: Contents, minutes: float) -> list[Finding]:
    """Fruit that must not be eaten raw, and would be."""
    fruit = contents.toxic_left(minutes)
    if not fruit:
        return []
    return [rule("never-heated").finding("fill", why=f"raw {fruit} is poisonous")]


def _tested(
    case: Case, stock: Mapping[str, int], generous: jars.Packing, largest: float
) -> tuple[Lookup, tuple[Finding, ...]]:
    """What the tables say in the largest of the jars that are used, or that are wanted."""
    left = (generous.leftover_kind,) if generous.leftover_kind else ()
    used = [size for k in (*generous.jars, *left) if (size := jars.kind(k).process_as_ml)]
    wanted = [size for k in stock if (size := jars.kind(k).process_as_ml)]
    sizes = used or wanted or ([largest] if largest and not stock else [])
    found = case.in_jars(max(sizes, default=None))
    stops = tuple(_with_acid(stop, case, found) for stop in found.stops)
    if found.time and not used:
        missing = rule("no-jar-in-stock").finding("process", largest_ml=f"{largest:g}")
        return replace(found, time=None), (*stops, missing)
    return found, stops


def _with_acid(stop: Finding, case: Case, found: Lookup) -> Finding:
    """A stop on acidity with the grams of citric acid that would bring it well under the limit."""
    if stop.id != "ph-too-high" or found.max_ph is None:
        return stop
    try:
        solved = acidify_to_ph(case.contents.usual, found.max_ph - ACID_MARGIN)
    except Unreachable:
        return stop
    grams = math.ceil(solved.amount_g)
    remedy = f"Stir in {grams} g of citric acid and read again, or chill or freeze it."
    return replace(stop, remedy=remedy, change=f"acid={grams}")


def _never_heated(lot: Lot, found: Lookup) -> tuple[Finding, ...]:
    """Strained juice must not go onto a shelf unheated; fruit packed raw has boiling water."""
    time = found.time
    if time is None or time.row.pack != "hot" or lot.temp_c >= time.fill_c - UNDER_BOIL_C:
        return ()
    why = f"the tested time counts on filling it at {time.fill_c:g} °C"
    return (rule("never-heated").finding("fill", why=why),)


def _filling(draft: Draft, made: PlannedEnd, heats: bool, toxic: bool) -> Filling:
    """How an end is filled, as its steps need to know it."""
    time = made.process_time
    return Filling(
        fill_c=draft.kitchen.reachable_c(time.fill_c if time else process.FILL_C),
        packing=made.expected,
        headspace_mm=made.headspace_mm,
        boils=bool(time and time.boils),
        boil_min=_boil_through_min(draft) if heats and toxic else 0.0,
        sterilise_min=time.sterilise_min if time else None,
        minutes=time.minutes if time else None,
        row=time.row.key if time else "",
    )
