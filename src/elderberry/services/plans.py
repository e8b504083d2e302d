"""Planning: a method laid out for a load of fruit in this kitchen, with what it has learned."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from datetime import date

from sqlalchemy import select
from sqlalchemy.orm import Session as Orm

from elderberry.core import jars, materials, process, storage, yields
from elderberry.core import method as methods
from elderberry.core.estimates import Estimate, Evidence, measured
from elderberry.core.findings import Finding
from elderberry.core.operations import Load, Lot, Operation
from elderberry.services import kitchens
from elderberry.services.who import Who
from elderberry.store import Batch, queries
from elderberry.store import Lot as StoredLot
from elderberry.store import Operation as StoredOperation
from elderberry.store.base import Json

BRIX_ERROR, PH_ERROR = 0.3, 0.1
"""Half-widths of the 80 % range of a refractometer and a pH meter in a kitchen."""


@dataclass(frozen=True)
class PlanRequest:
    """What a person asks of Plan."""

    fruit_key: str
    fruit_kg: float
    brix: float | None = None
    ph: float | None = None
    keep: str = "shelf"
    jar_kinds: tuple[str, ...] = ()
    lid_lifts: int = 0
    loads: int | None = None
    citric_acid_g: float = 0.0
    source: str = ""
    picked_on: date | None = None
    method_key: str = "steam_juiced"


@dataclass(frozen=True)
class FlowLot:
    """A lot as the ribbon draws it, planned or under way."""

    key: str
    kind: str
    name: str
    mass_g: Estimate
    volume_ml: Estimate
    brix: Estimate | None
    ph: Estimate | None


@dataclass(frozen=True)
class FlowOperation:
    """An operation as the ribbon draws it."""

    key: str
    kind: str
    verb: str
    title: str
    minutes: Estimate
    takes: list[str]
    gives: list[str]


@dataclass(frozen=True)
class JarCount:
    """Jars of a kind."""

    kind: str
    name: str
    nominal_ml: float
    count: int


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
class YieldView:
    """The yield the plan counts on [L/kg], and how many of this kitchen's batches it rests on."""

    estimate: Estimate
    batches: int


@dataclass(frozen=True)
class PlanView:
    """Everything Plan shows."""

    title: str
    method: str
    school: str
    fruit_key: str
    colour: str
    fruit_kg: float
    keep: str
    loads: int
    kg_per_load: float
    juice_l: Estimate
    brix: Estimate | None
    ph: Estimate | None
    fruit_yield: YieldView
    minutes: Estimate
    lots: list[FlowLot]
    operations: list[FlowOperation]
    expected: PackingView
    generous: PackingView
    process: ProcessView | None
    life: LifeView
    findings: list[Finding]
    may_start: bool
    jar_kinds: list[str]


def make(orm: Orm, who: Who, request: PlanRequest) -> methods.Plan:
    """The plan of a request, from the kitchen as it stands."""
    kitchen = kitchens.for_core(orm, who)
    load = Load(
        fruit_key=request.fruit_key,
        fruit_kg=request.fruit_kg,
        yield_l_per_kg=Estimate(1.0, 1.0, 1.0),
        brix=None if request.brix is None else measured(request.brix, BRIX_ERROR),
        ph=None if request.ph is None else measured(request.ph, PH_ERROR),
        keep=request.keep,
        lid_lifts=request.lid_lifts,
        jar_kinds=request.jar_kinds or usual_kinds(kitchen.jar_stock, request),
        loads=request.loads,
        ingredients_g={"citric_acid": request.citric_acid_g} if request.citric_acid_g else {},
    )
    learned = past_yields(orm, who, request.fruit_key)
    chosen = methods.method(request.method_key)
    return methods.plan(chosen, load, kitchen, learned, request.source)


def usual_kinds(stock: Mapping[str, int], request: PlanRequest) -> tuple[str, ...]:
    """The kind of jar of which most stand ready, among those tested for this."""
    product = process.juice_product(request.fruit_key)
    known = request.fruit_key in materials.fruits()
    largest = process.largest_jar_ml(product, request.fruit_key) if known else 0.0
    tested = [k for k, n in stock.items() if n and jars.fits(jars.kind(k), largest)]
    ready = tested or [k for k, n in stock.items() if n]
    return (max(ready, key=lambda k: stock[k]),) if ready else ()


def past_yields(orm: Orm, who: Who, fruit_key: str) -> list[yields.Observation]:
    """Litres a kilo of this household's batches whose every load was drawn and measured."""
    drawn = queries.drawn_volumes(orm, who.household_id, fruit_key)
    if not drawn:
        return []
    hh = who.household_id
    steamed: dict[int, int] = {}
    steps = queries.mine(hh, StoredOperation).where(
        StoredOperation.batch_id.in_(drawn), StoredOperation.kind == "steam_juice"
    )
    for step in orm.scalars(steps):
        steamed[step.batch_id] = steamed.get(step.batch_id, 0) + 1
    fruit_lots = (
        select(Batch.id, StoredLot.mass_g, StoredLot.source)
        .join(StoredLot, StoredLot.id == Batch.fruit_lot_id)
        .where(Batch.household_id == hh, Batch.id.in_(drawn))
    )
    return [
        yields.Observation(sum(drawn[batch].values()) / mass_g, source or "")
        for batch, mass_g, source in orm.execute(fruit_lots)
        if mass_g and len(drawn[batch]) == steamed.get(batch)
    ]


def view(plan: methods.Plan) -> PlanView:
    """A plan as Plan shows it."""
    fruit = materials.fruit(plan.load.fruit_key)
    hot = plan.lots["hot"]
    row = storage.life_row(*methods.LIFE_STATE[plan.load.keep])
    return PlanView(
        title=f"{fruit.name} juice from {plan.load.fruit_kg:g} kg",
        method=plan.method.name,
        school=plan.method.school,
        fruit_key=fruit.key,
        colour=fruit.colour,
        fruit_kg=plan.load.fruit_kg,
        keep=plan.load.keep,
        loads=plan.loads,
        kg_per_load=plan.load.fruit_kg / plan.loads,
        juice_l=plan.juice_l,
        brix=hot.brix,
        ph=_with_evidence(hot.ph, plan.load.ph),
        fruit_yield=YieldView(plan.fruit_yield.estimate(), plan.fruit_yield.used),
        minutes=plan.minutes,
        lots=[flow_lot(lot) for lot in plan.lots.values()],
        operations=[flow_operation(o) for o in plan.operations],
        expected=packing_view(plan.expected),
        generous=packing_view(plan.generous),
        process=process_view(plan.process_time) if plan.process_time else None,
        life=LifeView(row.days_lo, row.days_typ, row.days_hi, row.ref_c),
        findings=list(plan.verdict.findings),
        may_start=plan.verdict.may_start,
        jar_kinds=list(plan.load.jar_kinds),
    )


def _with_evidence(ph: Estimate | None, given: Estimate | None) -> Estimate | None:
    """A predicted pH is as well known as the pH it was predicted from."""
    if ph is None:
        return None
    return Estimate(ph.lo, ph.typ, ph.hi, given.evidence if given else Evidence.TYPICAL)


def flow_lot(lot: Lot) -> FlowLot:
    """A planned lot for the ribbon."""
    return FlowLot(
        lot.key,
        lot.kind,
        lot.name,
        lot.mass_g,
        lot.volume_ml,
        lot.brix,
        lot.ph,
    )


def flow_operation(operation: Operation) -> FlowOperation:
    """A planned operation for the ribbon."""
    return FlowOperation(
        operation.key,
        operation.kind,
        operation.text["verb"],
        operation.text["title"],
        operation.minutes,
        list(operation.takes),
        list(operation.gives),
    )


def packing_view(packing: jars.Packing) -> PackingView:
    """A packing for the rack."""
    kinds = [jars.kind(key) for key in packing.jars]
    return PackingView(
        jars=[JarCount(k.key, k.name, k.nominal_ml, packing.jars[k.key]) for k in kinds],
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
        max_ph=time.row.max_ph,
        sterilise_min=time.sterilise_min,
        altitude_ft=time.altitude_ft,
        heater=time.heater,
        schools=dict(time.schools),
    )


def estimate_json(estimate: Estimate | None) -> Json | None:
    """An estimate as it is stored."""
    return None if estimate is None else asdict(estimate)


def estimate_from(stored: Json | None) -> Estimate | None:
    """A stored estimate."""
    if stored is None:
        return None
    return Estimate(stored["lo"], stored["typ"], stored["hi"], Evidence(stored["evidence"]))
