"""What Plan shows: a plan of the core with its figures, words and choices."""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping, Sequence
from dataclasses import asdict, dataclass, replace

from elderberry.core import colour, jars, keeping, process, scales, serving, tables, yields
from elderberry.core import plan as core
from elderberry.core.errors import CoreError
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.findings import Finding
from elderberry.core.flow.inputs import CLEAR, Input
from elderberry.core.flow.kinds import Choice, kind
from elderberry.core.flow.lots import WORKED_ON, Lot
from elderberry.core.flow.steps import Operation, Step
from elderberry.core.method import Method
from elderberry.core.process.dose import dose_for
from elderberry.core.quantities import System
from elderberry.core.wording import figure, in_units
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
    colour: str = CLEAR


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
    role: str = ""
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
    lacks: list[str]
    """Stations it needs and this kitchen has none of."""


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
class InputView:
    """Something that goes in: what it came to, beside how it was said, and when it joins."""

    key: str
    material: str
    name: str
    form: str
    said: str
    mass_g: Estimate
    colour: str
    how: str = "amount"
    joins: str = ""
    """When it joins and leaves, in words; empty for what a flow begins with."""
    matters: bool = False
    """Whether its range changes jars, time or verdict."""
    runs_out: bool = False
    """Whether it is what there is least of, where it is as much as came in."""


@dataclass(frozen=True)
class ScaleView:
    """A scale of what is filled, and where it stands on it."""

    key: str
    name: str
    value: Estimate | None
    unit: str
    lo: float
    hi: float
    words: str
    limit: float | None
    grows: bool


@dataclass(frozen=True)
class ServingView:
    """How it is thinned with something: parts to one of it, and a glass of that [mL]."""

    diluent: str
    parts: float
    limited_by: str
    glass_ml: float
    base_ml: float


@dataclass(frozen=True)
class EndView:
    """One end: what it is, its jars, how it is kept and what stands on it."""

    key: str
    product: str
    label: str
    keep: str
    jar_kinds: list[str]
    litres: Estimate
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
    scales: list[ScaleView]
    servings: list[ServingView]


@dataclass(frozen=True)
class PlanView:
    """Everything Plan shows."""

    title: str
    method: MethodView
    steps: list[StepChoices]
    inputs: list[InputView]
    ends: list[EndView]
    colour: str
    loads: int
    kg_per_load: float
    fruit_yield: YieldView | None
    minutes: Estimate
    waits_h: float
    lots: list[FlowLot]
    operations: list[FlowOperation]
    findings: list[Finding]
    may_start: bool
    questions: list[Question]


Learned = Mapping[str, Sequence[yields.Observation]]


def view(
    plan: core.Plan,
    own: bool = False,
    learned: Learned | None = None,
    runs_out: str = "",
    matters: Collection[str] = (),
) -> PlanView:
    """A plan as Plan shows it.

    Args:
        plan: of the core.
        own: whether its method is the household's.
        learned: finished batches, by fruit.
        runs_out: what there is least of, by its name.
        matters: inputs whose range changes jars, time or verdict.
    """
    kilos = plan.lots[plan.brief.main.key].mass_g.typ / 1000.0
    return PlanView(
        title=title(plan),
        method=method_view(plan.method, own),
        steps=[step_choices(step) for step in plan.method.steps],
        inputs=[
            replace(
                input_view(plan, given),
                matters=given.key in matters,
                runs_out=given.key == runs_out,
            )
            for given in plan.brief.inputs
        ],
        ends=[end_view(plan, end) for end in plan.ends],
        colour=colour.of_lot(plan.main.filled),
        loads=plan.loads,
        kg_per_load=kilos / max(1, plan.loads),
        fruit_yield=yield_view(plan, (learned or {}).get(plan.brief.main.material, ())),
        minutes=plan.minutes,
        waits_h=plan.waits_h,
        lots=[flow_lot(lot) for lot in plan.lots.values()],
        operations=[flow_operation(o, plan.kitchen.units) for o in plan.operations],
        findings=list(plan.verdict.findings),
        may_start=plan.verdict.may_start,
        questions=questions("plan", plan.brief.said),
    )


def input_view(plan: core.Plan, given: Input) -> InputView:
    """Something that goes in, as it was said and what it came to."""
    return InputView(
        given.key, given.material, given.name, given.form, given.amount.said,
        plan.lots[given.key].mass_g, colour.of_material(given.material), given.amount.how,
        _joins(plan, given),
    )  # fmt: skip


def _joins(plan: core.Plan, given: Input) -> str:
    """When something joins, and whether it leaves again, in words."""
    at = next((o for o in plan.operations if given.key in o.takes), None)
    if at is None or given.key == plan.brief.main.key:
        return ""
    what = kind(at.kind)
    if what.role == "fill":
        return "into each jar"
    if what.role == "scent":
        return "warmed with it, then strained out"
    if what.role == "join":
        return "before the jars" if given.lot_kind not in WORKED_ON else "with the fruit"
    if what.cooks:
        word = what.words["verb"]
        return f"in at the {word}, out at the strain" if given.scents else f"in at the {word}"
    return "with the fruit"


def _told_apart(plan: core.Plan, end: core.PlannedEnd) -> str:
    """What is on an end's jars; those of a plan that read alike are numbered."""
    labels = [e.end.name or keeping.label_of(e.contents) for e in plan.ends]
    place = plan.ends.index(end)
    alike = labels[:place].count(labels[place])
    return f"{labels[place]}, {alike + 1}" if alike else labels[place]


def end_view(plan: core.Plan, end: core.PlannedEnd) -> EndView:
    """An end of a plan."""
    life, figures = end.life, end.filled.figures
    return EndView(
        key=end.end.key,
        product=end.product,
        label=_told_apart(plan, end),
        keep=end.keep,
        jar_kinds=list(end.kinds),
        litres=end.litres,
        brix=figures.brix,
        ph=_with_evidence(figures.ph, end),
        clarity=end.filled.clarity,
        expected=packing_view(end.expected),
        generous=packing_view(end.generous),
        stock=sum(plan.kitchen.jar_stock.get(k, 0) for k in end.kinds),
        headspace_mm=round(end.headspace_mm, 1),
        process=process_view(end.process_time) if end.process_time else None,
        life=LifeView(life.days_lo, life.days_typ, life.days_hi, life.ref_c),
        findings=[_with_dose(plan, end, f) for f in end.verdict.findings],
        may_start=end.verdict.may_start,
        colour=colour.of_lot(end.filled),
        scales=scale_views(end),
        servings=servings(end),
    )


def _with_dose(plan: core.Plan, end: core.PlannedEnd, finding: Finding) -> Finding:
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


def scale_views(end: core.PlannedEnd) -> list[ScaleView]:
    """The scales of what an end is filled with."""
    limit = end.process_time.max_ph if end.process_time else None
    return [ScaleView(**vars(s)) for s in scales.scales(end.filled, limit)]


GLASS_ML = 250.0
THINNED_WITH = (("water", "water"), ("sparkling water", "water_sparkling"),
                ("apple juice", "apple"))  # fmt: skip
LEAST_PARTS = 0.2
"""Under this something is drunk as it is [-]."""


def servings(end: core.PlannedEnd) -> list[ServingView]:
    """How what is filled is thinned in the glass; nothing for what is drunk as it is."""
    found = []
    for name, key in THINNED_WITH:
        try:
            ratio = serving.ratio(end.filled.composition, key)
        except CoreError:
            continue
        if ratio.parts >= LEAST_PARTS:
            base, _ = ratio.glass(GLASS_ML)
            found.append(ServingView(name, ratio.parts, ratio.limited_by, GLASS_ML, base))
    return found


def questions(where: str, said: Collection[str]) -> list[Question]:
    """What is asked at a place of the work."""
    return [
        Question(word, row["ask"], word in said)
        for word, row in tables.document("said").items()
        if row["where"] == where
    ]


def title(plan: core.Plan) -> str:
    """What it makes, out of how much fruit: "Damson juice from 9.6 kg"."""
    main = plan.brief.main
    fruit = [i.key for i in plan.brief.inputs if i.fruit and i.shape.lot_kind == main.lot_kind]
    whole = sum(plan.lots[key].mass_g.typ for key in {main.key, *fruit} if key in plan.lots)
    kg = in_units(figure(whole, "g"), plan.kitchen.units)
    if main.fruit is None:
        return f"{plan.main.product.capitalize()}, {kg} of {main.name.lower()}"
    others = [i.fruit.name.lower() for i in plan.brief.inputs if i.fruit and i is not main]
    named = " and ".join([main.fruit.name, *others[:2]])
    form = f" of {main.form}" if main.form == "pomace" else ""
    if main.form == "juice" and plan.main.product == "juice":
        return f"{named} juice, bought, {kg}"
    return f"{named} {plan.main.product} from {kg}{form}"


def method_view(
    method: Method, own: bool = False, lacks: frozenset[str] = frozenset()
) -> MethodView:
    """A method by name, and what it would need here."""
    return MethodView(
        method.key, method.version, method.name, method.school, method.evidence, method.source,
        method.note, method.adapted_from, list(method.fruits), list(method.forms), own, method.way,
        sorted(method.stations & lacks),
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


def yield_view(plan: core.Plan, learned: Sequence[yields.Observation]) -> YieldView | None:
    """The yield of the method's way: what the tables say, what was learned, a dot a batch."""
    forecast, way = plan.fruit_yield, plan.method.way
    fruit = plan.brief.main.fruit
    prior = yields.prior(way, fruit) if fruit and forecast else None
    if forecast is None or prior is None:
        return None
    name = next(str(row["name"]) for row in tables.rows("ways") if row["way"] == way)
    dots = [
        Dot(o.batch, o.yield_l_per_kg, o.source, o in forecast.outliers)
        for o in learned
        if o.way == way
    ]
    return YieldView(way, name, prior, forecast.estimate(), forecast.used, dots)


def _with_evidence(ph: Estimate | None, end: core.PlannedEnd) -> Estimate | None:
    """A predicted pH is as well known as a meter's reading that it rests on."""
    if ph is None:
        return None
    known = end.filled.acidity.meter is not None
    return Estimate(ph.lo, ph.typ, ph.hi, Evidence.MEASURED if known else Evidence.TYPICAL)


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
        colour.of_lot(lot),
    )


def flow_operation(operation: Operation, system: System = "metric") -> FlowOperation:
    """A planned operation for the ribbon, in the units of a kitchen."""
    text = operation.told(system)
    return FlowOperation(
        operation.key,
        operation.kind,
        text["verb"],
        text["title"],
        operation.minutes,
        list(operation.takes),
        list(operation.gives),
        operation.step,
        kind(operation.kind).role,
        kind(operation.kind).station,
        text["hands"],
        text["before"],
        text["look_for"],
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
        max_ph=time.max_ph,
        sterilise_min=time.sterilise_min,
        altitude_ft=time.altitude_ft,
        heater=time.heater,
        schools=dict(time.schools),
    )


def estimate_json(estimate: Estimate | None) -> Json | None:
    """An estimate as it is stored."""
    return None if estimate is None else asdict(estimate)


def predictions(lot: Lot) -> Json:
    """A planned lot's figures as they are stored beside what will be read."""
    seen = flow_lot(lot)
    return {
        name: estimate_json(getattr(seen, name)) for name in ("mass_g", "volume_ml", "brix", "ph")
    }
