"""Ends of a plan: what is filled into what, how it is kept, and what the tables say of it."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from elderberry.core import freezing, jars, keeping, process, storage, sugar
from elderberry.core.drying.air_dry import SHELF_WET
from elderberry.core.drying.dried import dried, keeps_dry, moisture
from elderberry.core.errors import Unreachable
from elderberry.core.estimates import Estimate, from_draws
from elderberry.core.findings import Finding, Verdict, verdict
from elderberry.core.flow import wiring
from elderberry.core.flow.draft import Draft, Filling, poured, with_more
from elderberry.core.flow.inputs import End
from elderberry.core.flow.kinds import kind
from elderberry.core.flow.lots import Lot
from elderberry.core.flow.steps import Step
from elderberry.core.kitchen import FREEZER_C, UNDER_BOIL_C, Kitchen
from elderberry.core.process.case import Case, Lookup
from elderberry.core.process.contents import Contents
from elderberry.core.rules import rule
from elderberry.core.solve import acidify_to_ph, boil_down

ACID_MARGIN = 0.3
"""How far under the row's limit acid is aimed [pH]."""
COLD_HEADSPACE_MM = 13.0
"""Room under the lid of what is only chilled [mm]."""
NO_JARS = jars.Packing({}, 0, 0.0, None)


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
    freezer_c: float = FREEZER_C

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
        """What is filled, at 20 °C, as it lies [L]."""
        return as_it_lies(self.filled).scaled(0.001)

    @property
    def life(self) -> storage.LifeRow:
        """How long it keeps."""
        return keeping.life_of(self.contents, self.keep)

    def room_ml(self, jar: jars.JarKind) -> float:
        """What one jar of a kind takes of it [mL]; none where glass would burst."""
        return room_ml(jar, self.contents, self.keep, self.freezer_c)

    @property
    def headspace_mm(self) -> float:
        """Room under the lid [mm]."""
        if self.process_time is not None:
            return self.process_time.headspace_in * 25.4
        if self.keep == "freeze" and self.expected.jars:
            largest = max(self.expected.jars, key=lambda k: jars.kind(k).nominal_ml)
            return jars.frozen_headspace_mm(jars.kind(largest))
        return COLD_HEADSPACE_MM


def planned_end(
    draft: Draft, fill: Step, ready: wiring.Steps, own: Mapping[str, process.OwnProcess]
) -> tuple[PlannedEnd, Filling]:
    """What is filled at an end, judged as it will be once it has been heated.

    Args:
        draft: the flow up to there.
        fill: the filling that the end is.
        ready: the heating right before it, where there is one.
        own: the household's own tested processes, by product.

    Raises:
        OutOfRange: a volume that cannot be.
    """
    end = draft.brief.end(fill.key)
    inner, into_jars = draft.parted(fill)
    takes = (ready[0] if ready else inner).takes
    for name in takes:
        draft = draft.with_input(name)
    cold = draft.together(*takes)
    toxic = bool(Contents(cold).toxic_left(_boil_through_min(draft)))
    heated = _as_heated(draft, cold, ready, toxic)
    joined = draft.joining(into_jars, heated)
    lot = with_more(heated, joined)
    contents = Contents(lot, draft.brief.said)
    hot = _as_hot(lot) if ready else as_it_lies(lot)
    match end.keep:
        case "shelf":
            made = _shelf_end(draft, end, contents, hot, own)
        case "now":
            made = _drunk_now(draft, end, contents, hot)
        case "dry":
            made = _dry_end(draft, end, contents, joined)
        case _:
            made = _cold_end(draft, end, contents, hot)
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
    stops = (*stops, *_never_seals(end), *_never_heated(contents.lot, found), *_loose(contents))
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
    """What was chosen of what stands ready, or the kind of jar that is usual for so much."""
    there = kitchen.ready(end.keep, end.closure, end.lid)
    wanted = end.jar_kinds or (
        jars.usual(volume_ml, kitchen.jar_stock, largest) or jars.usual(volume_ml, there, largest)
    )
    return {k: n for k, n in there.items() if k in wanted}


def _never_seals(end: End) -> list[Finding]:
    """Vessels and caps that no shelf can be asked of."""
    unsealed = [k.name for key in end.jar_kinds if (k := jars.kind(key)).own]
    if end.capped:
        unsealed.append("plain cap")
    return [rule("never-seals").finding("fill", what=what) for what in unsealed[:1]]


def _loose(contents: Contents) -> tuple[Finding, ...]:
    """Fruit without liquid, and what is dry: no process was ever tested for that."""
    if not contents.lot.loose:
        return ()
    return (rule("not-canned-loose").finding("fill", what=keeping.label_of(contents).lower()),)


NOT_PROCESSED = Lookup(None, ())
"""The process of what no canner sees."""


def _drunk_now(draft: Draft, end: End, contents: Contents, hot: Estimate) -> PlannedEnd:
    """An end that is poured into glasses: nothing is kept of it."""
    stops = _raw(contents, _boil_through_min(draft))
    return PlannedEnd(
        end, contents.lot, contents, hot, NO_JARS, NO_JARS, NOT_PROCESSED, verdict(stops)
    )


def _cold_end(draft: Draft, end: End, contents: Contents, hot: Estimate) -> PlannedEnd:
    """An end for the refrigerator or freezer: any vessel does, but ice needs its room."""
    kitchen = draft.kitchen
    stock = _stock(end, hot.typ, kitchen, math.inf)
    volume = as_it_lies(contents.lot) if end.keep == "freeze" else hot
    expected, generous = (
        packed_cold(contents, ml, stock, kitchen, end.keep) for ml in (volume.typ, volume.hi)
    )
    stops = (
        *_raw(contents, _boil_through_min(draft)), *_bursts(end), *too_thin(end, contents, kitchen)
    )  # fmt: skip
    return PlannedEnd(
        end, contents.lot, contents, hot, expected, generous, NOT_PROCESSED, verdict(stops),
        tuple(stock), kitchen.freeze_c,
    )  # fmt: skip


def _dry_end(draft: Draft, end: End, contents: Contents, joined: tuple[Lot, ...]) -> PlannedEnd:
    """An end that is packed dry: by how loose it lies, and only where all of it is dry enough."""
    kitchen, lot = draft.kitchen, contents.lot
    volume = as_it_lies(lot)
    stock = _stock(end, volume.typ, kitchen, math.inf)
    expected, generous = (packed_loose(ml, stock, kitchen) for ml in (volume.typ, volume.hi))
    wet = (Contents(replace(x, lies=lot.lies)) for x in joined)
    damp = [f for c in (contents, *wet) for f in too_damp(c)]
    stops = (*_raw(contents, _boil_through_min(draft)), *damp[:1])
    return PlannedEnd(
        end, lot, contents, volume, expected, generous, NOT_PROCESSED, verdict(stops), tuple(stock)
    )


LOOSE_KG_L = 0.6
"""What a litre of a fruit weighs that nobody has packed into a basket [kg]."""


def as_it_lies(lot: Lot) -> Estimate:
    """The room that something takes in its jar or bag at 20 °C [mL]: pieces lie loose.

    Source: data/dried.csv; data/fruits.csv, how fruit packs.
    """
    if lot.dried:
        return lot.mass_g.scaled(1.0 / dried(lot.dried).bulk_g_ml)
    if lot.loose:
        packs = [f.pack_kg_per_l or LOOSE_KG_L for f in lot.fruits]
        return lot.mass_g.scaled(1.0 / max(packs, default=LOOSE_KG_L))
    return lot.volume_ml


def packed_loose(volume_ml: float, stock: Mapping[str, int], kitchen: Kitchen) -> jars.Packing:
    """What is dry, packed into bags, boxes or jars, as full as they go.

    Raises:
        OutOfRange: a volume that cannot be.
    """
    return jars.pack_cold(volume_ml, stock, math.inf, kitchen.canner.jars, "dry")


def too_damp(contents: Contents) -> list[Finding]:
    """What is to be packed dry and is not dry enough.

    Source: drying.dried.keeps_dry.
    """
    if contents.lot.dried and keeps_dry(contents.usual):
        return []
    figures = {
        "what": keeping.label_of(contents).lower(),
        "wet": f"{100.0 * moisture(contents.usual):.0f}",
        "most": f"{100.0 * SHELF_WET:.0f}",
    }
    return [rule("not-dry-enough").finding("fill", **figures)]


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
    return jars.pack_frozen(volume_ml, stock, swelling_pct(contents, kitchen.freeze_c), canner)


def room_ml(jar: jars.JarKind, contents: Contents, keep: str, freezer_c: float) -> float:
    """What one jar of a kind is filled with [mL]; less than it is called where ice needs room.

    Args:
        jar: its kind.
        contents: what is filled.
        keep: how it is kept.
        freezer_c: how cold the freezer is [°C].

    Source: jars.frozen_room_ml.
    """
    if keep != "freeze":
        return jar.nominal_ml
    return jars.frozen_room_ml(jar, swelling_pct(contents, freezer_c))


def swelling_pct(contents: Contents, freezer_c: float) -> float:
    """How much of its volume contents grow by in a freezer [%].

    Source: freezing.swelling_pct, within the temperatures that it holds for.
    """
    return freezing.swelling_pct(contents.usual, max(-40.0, min(0.0, freezer_c)))


def too_thin(end: End, contents: Contents, kitchen: Kitchen) -> list[Finding]:
    """What is to keep by its sugar alone and does not: too wet, or not sugar alone.

    Args:
        end: how it is kept.
        contents: what is filled, as it is known.
        kitchen: where it would be boiled on.

    Source: keeping.keeps_by_sugar.
    """
    if end.keep != "sugar" or keeping.keeps_by_sugar(contents):
        return []
    if contents.untested != keeping.PLAIN_SYRUP:
        return [rule("not-sugar-alone").finding("fill", what=keeping.label_of(contents).lower())]
    needed = keeping.brix_to_keep(contents)
    boils = _boils_c(kitchen, contents, needed)
    figures = {"brix": f"{contents.brix:.0f}", "needed": f"{needed:.0f}", "boils": f"{boils:.1f}"}
    return [rule("too-thin-to-keep").finding("fill", **figures)]


def _boils_c(kitchen: Kitchen, contents: Contents, brix: float) -> float:
    """Where the same thing boils here once it is as strong as that [°C]."""
    down = boil_down(
        contents.usual, brix=max(brix, contents.brix), altitude_m=kitchen.altitude_m or 0.0,
        pressure_pa=kitchen.pressure_pa,
    )  # fmt: skip
    return down.boils_at_c


def _bursts(end: End) -> list[Finding]:
    """What breaks or spills as what is in it freezes."""
    if end.keep != "freeze":
        return []
    chosen = [jars.kind(k) for k in end.jar_kinds]
    return [
        rule("open-never-frozen" if k.own else "glass-never-frozen").finding("fill", jar=k.name)
        for k in chosen
        if "freeze" not in k.keeps
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
    stops = tuple(_by_its_sugar(_with_acid(s, case, found), case.contents) for s in found.stops)
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


def _by_its_sugar(stop: Finding, contents: Contents) -> Finding:
    """The stop on a plain syrup that is strong enough to keep uncanned, with that way on."""
    if stop.id != "product-untested" or not keeping.keeps_by_sugar(contents):
        return stop
    remedy = "Its sugar keeps it: fill it hot and put it on the shelf by its sugar, uncanned."
    return replace(stop, remedy=remedy, change="keep=sugar")


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
        keep=made.keep,
    )


@dataclass(frozen=True)
class Mixed:
    """Two ends that are kept apart until they are used, and then drunk together."""

    parts: float
    """Of the other to one of this, by volume [-]."""
    contents: Contents
    life: storage.LifeRow
    """How long it keeps cold once it is mixed."""


def mixed(one: PlannedEnd, other: PlannedEnd) -> Mixed:
    """What two ends make that were filled apart, mixed as they came out of one pot.

    Source: their volumes as filled; keeping.life_of for what they are together.
    """
    contents = Contents(poured((one.filled, other.filled)), one.contents.said)
    parts = other.litres.typ / max(one.litres.typ, 1e-9)
    return Mixed(parts, contents, keeping.life_of(contents, "chill"))
