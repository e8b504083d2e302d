"""The ends of a plan as Plan shows them: jars, time, verdict, scales, and how each is thinned."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

from elderberry.core import colour, jars, jelly, keeping, process, scales, serving, storage
from elderberry.core import plan as core
from elderberry.core.again import Again, again
from elderberry.core.becomes import sentences
from elderberry.core.ends import PlannedEnd, mixed
from elderberry.core.errors import CoreError
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.findings import Finding
from elderberry.core.jelly import Set
from elderberry.core.kitchen import Kitchen
from elderberry.core.process import Contents
from elderberry.core.process.dose import dose_for
from elderberry.core.quantities import System
from elderberry.core.telling import told
from elderberry.core.wording import figure, in_units


@dataclass(frozen=True)
class JarCount:
    """Jars of a kind; own: a vessel of the household, which takes no lid."""

    kind: str
    name: str
    nominal_ml: float
    count: int
    own: bool = False


@dataclass(frozen=True)
class PackingView:
    """Juice packed into jars; the part-filled last one named apart."""

    jars: list[JarCount]
    count: int
    loads: int
    part_kind: str | None
    part_ml: float
    unplaced_ml: float


@dataclass(frozen=True)
class ProcessView:
    """The tested time, with everything that belongs to it."""

    minutes: int
    row: str
    product: str
    jar_ml: float
    evidence: str
    source: str
    fill_c: float
    headspace_mm: float
    max_ph: float | None
    sterilise_min: int | None
    altitude_ft: float
    heater: str
    schools: dict[str, int]


@dataclass(frozen=True)
class LifeView:
    """How long a jar is typically at its best [days]."""

    days_lo: float
    days_typ: float
    days_hi: float
    temp_c: float


@dataclass(frozen=True)
class Poured:
    """A jug of the household and what of it goes in, the rest being what thins it [mL]."""

    jug_ml: float
    base_ml: float


@dataclass(frozen=True)
class MixView:
    """An end that it is drunk together with: parts of that to one of this, and how that keeps."""

    end: str
    label: str
    parts: float
    life: LifeView


@dataclass(frozen=True)
class ServingView:
    """How it is thinned with something: parts to one of it, a glass of that [mL], and a jug."""

    diluent: str
    parts: float
    limited_by: str
    glass_ml: float
    base_ml: float
    jugs: list[Poured]


@dataclass(frozen=True)
class EndView:
    """One end: what it is, its jars, how it is kept and what stands on it."""

    key: str
    product: str
    label: str
    keep: str
    jar_kinds: list[str]
    litres: Estimate
    mass_g: Estimate
    brix: Estimate | None
    ph: Estimate | None
    clarity: str
    expected: PackingView
    generous: PackingView
    stock: int
    """Jars of the chosen kinds that stand ready."""
    headspace_mm: float
    process: ProcessView | None
    life: LifeView
    findings: list[Finding]
    may_start: bool
    colour: str
    scales: list[scales.Scale]
    servings: list[ServingView]
    closure: str
    lid: str
    glasses: int
    """Glasses that it comes to where it is drunk now, as it is."""
    glass_ml: float
    mixed: MixView | None
    """What it is drunk with, where they are kept apart until then."""
    becomes: list[str]
    """What a syrup does once it is cold, in sentences."""
    sets: Set | None
    """Whether it sets, and why, where anybody would ask."""
    again: Again | None
    """What it makes again with water, where it is dry."""


def becomes(contents: Contents, keep: str, kitchen: Kitchen) -> list[str]:
    """What a syrup does once it is cold, in the kitchen's units."""
    place_c = {"chill": kitchen.chill_c, "freeze": kitchen.freeze_c}.get(keep, kitchen.store_c)
    found = sentences(contents, keep, max(0.0, place_c))
    return [in_units(words, kitchen.units) for words in found]


def _told_apart(plan: core.Plan, end: PlannedEnd) -> str:
    """What is on an end's jars; those of a plan that read alike are numbered."""
    labels = [e.end.name or keeping.label_of(e.contents) for e in plan.ends]
    place = plan.ends.index(end)
    alike = labels[:place].count(labels[place])
    return f"{labels[place]}, {alike + 1}" if alike else labels[place]


def end_view(plan: core.Plan, end: PlannedEnd) -> EndView:
    """An end of a plan."""
    life, figures, time = end.life, end.filled.figures, end.process_time
    loose = end.filled.loose
    ready, units = plan.kitchen.ready(end.keep, end.end.closure, end.end.lid), plan.kitchen.units
    return EndView(
        key=end.end.key,
        product=end.product,
        label=_told_apart(plan, end),
        keep=end.keep,
        jar_kinds=list(end.kinds),
        litres=end.litres,
        mass_g=end.filled.mass_g,
        brix=None if loose else figures.brix,
        ph=None if loose else _with_evidence(figures.ph, end),
        clarity=end.filled.clarity,
        expected=packing_view(end.expected, units),
        generous=packing_view(end.generous, units),
        stock=sum(n for k, n in ready.items() if k in end.kinds),
        headspace_mm=round(end.headspace_mm, 1),
        process=process_view(time) if time else None,
        life=_life_view(life),
        findings=[told(_with_dose(plan, end, f), units) for f in end.verdict.findings],
        may_start=end.verdict.may_start,
        colour=colour.of_lot(end.filled),
        scales=list(scales.scales(end.filled, time.max_ph if time else None)),
        servings=servings(end, plan.kitchen),
        closure=end.end.closure,
        lid=end.end.lid,
        glasses=math.floor(1000.0 * end.litres.typ / plan.kitchen.glass_ml),
        glass_ml=plan.kitchen.glass_ml,
        mixed=_mixed(plan, end),
        becomes=becomes(end.contents, end.keep, plan.kitchen),
        sets=jelly.forecast(end.contents),
        again=again(end.contents, plan.kitchen.drunk_from_ml),
    )


def _mixed(plan: core.Plan, end: PlannedEnd) -> MixView | None:
    """What an end makes with the one that it is drunk with."""
    other = next((e for e in plan.ends if e.end.key == end.end.used_with), None)
    if other is None or other is end:
        return None
    found = mixed(end, other)
    return MixView(other.end.key, _told_apart(plan, other), found.parts, _life_view(found.life))


def _life_view(life: storage.LifeRow) -> LifeView:
    return LifeView(life.days_lo, life.days_typ, life.days_hi, life.ref_c)


def _with_dose(plan: core.Plan, end: PlannedEnd, finding: Finding) -> Finding:
    """A canner that waits for a meter, with the dose that a kitchen without one may take."""
    if finding.id != "ph-reading-needed":
        return finding
    time = end.process_time
    case = process.Case(end.contents, plan.kitchen)
    found = dose_for(case, time.row.largest_jar_ml if time else None)
    if found is None:
        return finding
    ml = 5 * math.ceil(found.ml / 5.0)
    units = plan.kitchen.units
    jar_ml = max((jars.kind(k).nominal_ml for k in end.expected.jars), default=473.0)
    each = in_units(figure(found.ml_per_l * jar_ml / 1000.0, "ml"), units)
    all_of_it = in_units(figure(ml, "ml"), units)
    words = (
        f"Read it with a meter; or, without one, add {all_of_it} of bottled lemon juice, or {each} "
        "into each jar first. It tastes sharper: sugar evens it."
    )
    return replace(finding, remedy=words, change=f"line={ml} ml bottled lemon juice")


LEAST_PARTS = 0.2
"""Under this something is drunk as it is [-]."""


def servings(end: PlannedEnd, kitchen: Kitchen) -> list[ServingView]:
    """How what is filled is thinned in the glass and the jugs of a kitchen; nothing for what is
    drunk as it is.
    """
    found = list[ServingView]()
    if end.filled.loose:
        return found
    for name in serving.USUAL:
        try:
            ratio = serving.ratio(end.filled.composition, serving.diluent(name))
        except CoreError:
            continue
        if ratio.parts >= LEAST_PARTS:
            glass = kitchen.glass_ml
            poured = [Poured(ml, ratio.glass(ml)[0]) for ml in kitchen.jugs_ml]
            found.append(
                ServingView(
                    name, ratio.parts, ratio.limited_by, glass, ratio.glass(glass)[0], poured
                )
            )
    return found


def _with_evidence(ph: Estimate | None, end: PlannedEnd) -> Estimate | None:
    """A predicted pH is as well known as a meter's reading that it rests on."""
    if ph is None:
        return None
    known = end.filled.acidity.meter is not None
    return Estimate(ph.lo, ph.typ, ph.hi, Evidence.MEASURED if known else Evidence.TYPICAL)


def jar_counts(counts: Mapping[str, int], units: System) -> list[JarCount]:
    """Jars by kind, named as a kitchen says it."""
    kinds = [jars.kind(key) for key in counts]
    return [JarCount(k.key, k.named(units), k.nominal_ml, counts[k.key], k.own) for k in kinds]


def packing_view(packing: jars.Packing, units: System) -> PackingView:
    """A packing for the rack."""
    return PackingView(
        jars=jar_counts(packing.jars, units),
        count=packing.count,
        loads=packing.loads,
        part_kind=packing.leftover_kind,
        part_ml=packing.leftover_ml,
        unplaced_ml=packing.unplaced_ml,
    )


def process_view(time: process.ProcessTime) -> ProcessView:
    """A tested time for a card, and for the record on a jar."""
    return ProcessView(
        minutes=time.minutes,
        row=time.row.key,
        product=time.row.product,
        jar_ml=time.row.largest_jar_ml,
        evidence=time.evidence,
        source=time.source,
        fill_c=time.fill_c,
        headspace_mm=round(time.headspace_in * 25.4, 1),
        max_ph=time.max_ph,
        sterilise_min=time.sterilise_min,
        altitude_ft=time.altitude_ft,
        heater=time.heater,
        schools=dict(time.schools),
    )
