"""What Plan shows: a plan of the core with its figures, words and choices."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import asdict, dataclass

from elderberry.core import jars, materials, process, storage, tables, yields
from elderberry.core import method as methods
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.findings import Finding
from elderberry.core.flow import draft as flow
from elderberry.core.flow.draft import Lot, Operation, Step
from elderberry.core.flow.kinds import Choice, kind
from elderberry.store.base import Json


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
    clarity: str = ""


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
    step: str = ""
    station: str = ""
    hands: str = ""
    before: str = ""
    look_for: str = ""


@dataclass(frozen=True)
class OptionView:
    """One way of doing it, in words."""

    value: str
    label: str
    note: str


@dataclass(frozen=True)
class ChoiceView:
    """Something about a step that cooks do differently, and what is chosen."""

    key: str
    label: str
    value: str
    options: list[OptionView]


@dataclass(frozen=True)
class NumberView:
    """A figure of a step; value is a word where nobody measures it."""

    key: str
    label: str
    unit: str
    lo: float
    hi: float
    value: float | str
    word: str
    note: str


@dataclass(frozen=True)
class StepChoices:
    """A step of the flow as Plan lets it be changed."""

    key: str
    kind: str
    verb: str
    title: str
    takes: list[str]
    gives: list[str]
    choices: list[ChoiceView]
    numbers: list[NumberView]
    editable: bool


@dataclass(frozen=True)
class MethodView:
    """A method by name, with where it comes from."""

    key: str
    version: int
    name: str
    school: str
    evidence: str
    source: str
    note: str
    adapted_from: str
    fruits: list[str]
    forms: list[str]
    own: bool
    way: str


@dataclass(frozen=True)
class Question:
    """Something that only the cook can say, and whether it was said."""

    word: str
    ask: str
    said: bool


@dataclass(frozen=True)
class Dot:
    """A finished batch as a dot on its yield band."""

    batch: str
    yield_l_per_kg: float
    source: str
    aside: bool


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
    """The yield a way counts on [L/kg]: the tables' band, this kitchen's, and a dot a batch."""

    way: str
    name: str
    tables: Estimate
    estimate: Estimate
    batches: int
    dots: list[Dot]


@dataclass(frozen=True)
class PlanView:
    """Everything Plan shows."""

    title: str
    method: MethodView
    steps: list[StepChoices]
    fruit_key: str
    form: str
    colour: str
    fruit_kg: float
    keep: str
    loads: int
    kg_per_load: float
    juice_l: Estimate
    brix: Estimate | None
    ph: Estimate | None
    clarity: str
    fruit_yield: YieldView | None
    minutes: Estimate
    waits_h: float
    lots: list[FlowLot]
    operations: list[FlowOperation]
    expected: PackingView
    generous: PackingView
    process: ProcessView | None
    life: LifeView
    findings: list[Finding]
    may_start: bool
    jar_kinds: list[str]
    questions: list[Question]


def view(
    plan: methods.Plan, own: bool = False, learned: Sequence[yields.Observation] = ()
) -> PlanView:
    """A plan as Plan shows it."""
    fruit = materials.fruit(plan.load.fruit_key)
    row = storage.life_row(*plan.method.life_state(plan.load.keep))
    return PlanView(
        title=title(plan),
        method=method_view(plan.method, own),
        steps=[step_choices(step) for step in plan.method.steps],
        fruit_key=fruit.key,
        form=plan.load.form,
        colour=fruit.colour,
        fruit_kg=plan.load.fruit_kg,
        keep=plan.load.keep,
        loads=plan.loads,
        kg_per_load=plan.load.fruit_kg / max(1, plan.loads),
        juice_l=plan.juice_l,
        brix=plan.filled.figures.brix,
        ph=_with_evidence(plan.filled.figures.ph, plan.load.ph),
        clarity=plan.filled.clarity,
        fruit_yield=yield_view(plan, learned),
        minutes=plan.minutes,
        waits_h=plan.waits_h,
        lots=[flow_lot(lot) for lot in plan.lots.values()],
        operations=[flow_operation(o) for o in plan.operations],
        expected=packing_view(plan.expected),
        generous=packing_view(plan.generous),
        process=process_view(plan.process_time) if plan.process_time else None,
        life=LifeView(row.days_lo, row.days_typ, row.days_hi, row.ref_c),
        findings=list(plan.verdict.findings),
        may_start=plan.verdict.may_start,
        jar_kinds=list(plan.load.jar_kinds),
        questions=questions("plan", plan.load.said),
    )


def questions(where: str, said: Collection[str]) -> list[Question]:
    """What is asked at a place of the work."""
    return [
        Question(word, row["ask"], word in said)
        for word, row in tables.document("said").items()
        if row["where"] == where
    ]


def title(plan: methods.Plan) -> str:
    """What it makes, out of how much."""
    name, kg = flow.name_of(plan.load), f"{plan.load.fruit_kg:g} kg"
    if plan.load.form == "juice":
        return f"{name}, {kg}"
    product = "juice" if plan.method.product == "juice" else "in jars"
    if plan.load.form == "dried" or not plan.method.product.startswith(("juice", "whole_")):
        product = "drink"
    words = f"{materials.fruit(plan.load.fruit_key).name} {product}"
    return f"{words} from {kg}{' of pomace' if plan.load.form == 'pomace' else ''}"


def method_view(method: methods.Method, own: bool = False) -> MethodView:
    """A method by name."""
    return MethodView(
        method.key, method.version, method.name, method.school, method.evidence, method.source,
        method.note, method.adapted_from, list(method.fruits), list(method.forms), own, method.way,
    )  # fmt: skip


def step_choices(step: Step) -> StepChoices:
    """A step with what can be chosen about it."""
    what = kind(step.kind)
    choices = [
        ChoiceView(c.key, c.label, str(step.chosen(c.key)), _options(c)) for c in what.choices
    ]
    numbers = [
        NumberView(n.key, n.label, n.unit, n.lo, n.hi, step.chosen(n.key), n.word, n.note)
        for n in what.numbers
    ]
    verb = what.words["verb"]
    return StepChoices(
        step.key, step.kind, verb, verb.capitalize(), list(step.takes), list(step.gives),
        choices, numbers, what.in_editor,
    )  # fmt: skip


def _options(choice: Choice) -> list[OptionView]:
    return [OptionView(o.value, o.label, o.note) for o in choice.options]


def yield_view(plan: methods.Plan, learned: Sequence[yields.Observation]) -> YieldView | None:
    """The yield of the method's way: what the tables say, what was learned, a dot a batch."""
    forecast, way = plan.fruit_yield, plan.method.way
    prior = yields.prior(way, materials.fruit(plan.load.fruit_key))
    if forecast is None or prior is None:
        return None
    name = next(str(row["name"]) for row in tables.rows("ways") if row["way"] == way)
    dots = [
        Dot(o.batch, o.yield_l_per_kg, o.source, o in forecast.outliers)
        for o in learned
        if o.way == way
    ]
    return YieldView(way, name, prior, forecast.estimate(), forecast.used, dots)


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
        lot.clarity,
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
        operation.step,
        kind(operation.kind).station,
        operation.text["hands"],
        operation.text["before"],
        operation.text["look_for"],
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


def predictions(lot: Lot) -> Json:
    """A planned lot's figures as they are stored beside what will be read."""
    seen = flow_lot(lot)
    return {
        name: estimate_json(getattr(seen, name)) for name in ("mass_g", "volume_ml", "brix", "ph")
    }
