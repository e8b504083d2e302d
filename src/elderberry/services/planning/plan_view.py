"""What Plan shows: a plan of the core with its figures, words and choices."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import asdict, dataclass, replace

from elderberry.core import colour, tables, yields
from elderberry.core import plan as core
from elderberry.core.drying.course import course
from elderberry.core.estimates import Estimate
from elderberry.core.findings import Finding
from elderberry.core.flow.inputs import CLEAR, Input
from elderberry.core.flow.kinds import DRIES, Choice, kind
from elderberry.core.flow.lots import WORKED_ON, Lot
from elderberry.core.flow.steps import Operation, Step
from elderberry.core.method import Method
from elderberry.core.quantities import System
from elderberry.core.telling import told
from elderberry.core.wording import figure, in_units, listed, retold
from elderberry.services.planning.end_view import EndView, end_view
from elderberry.services.planning.last_time import LastTime
from elderberry.services.planning.trays import TraysView, trays_view
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
    learned: str = ""
    """How much longer it takes in this kitchen than the tables say; empty where that is alike."""


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
    says: str
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
    example: str
    """A line that it could begin with."""
    colour: str
    """Of what that line is of."""


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
    instead_of: str = ""
    """What the method says of it, where it was said otherwise."""


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
    trays: list[TraysView]
    """Trays of a dryer, where there are any, load by load."""
    water_out_g: float
    """Water that is to come out of all of them [g]."""
    last_time: LastTime | None
    """What the household's last batch of it came out as."""


Learned = Mapping[str, Sequence[yields.Observation]]


def view(
    plan: core.Plan,
    own: bool = False,
    learned: Learned | None = None,
    runs_out: str = "",
    matters: Collection[str] = (),
    last: LastTime | None = None,
) -> PlanView:
    """A plan as Plan shows it.

    Args:
        plan: of the core.
        own: whether its method is the household's.
        learned: finished batches, by fruit.
        runs_out: what there is least of, by its name.
        matters: inputs whose range changes jars, time or verdict.
        last: what was made of it last.
    """
    kilos = plan.lots[plan.brief.main.key].mass_g.typ / 1000.0
    trays = _trays(plan)
    return PlanView(
        title=title(plan),
        method=method_view(plan.method, own, plan.kitchen.units),
        steps=[step_choices(step) for step in plan.method.steps],
        inputs=[
            replace(
                input_view(plan, given),
                matters=given.key in matters,
                runs_out=given.key == runs_out,
                instead_of=_instead_of(plan, given),
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
        findings=[told(f, plan.kitchen.units) for f in plan.verdict.findings],
        may_start=plan.verdict.may_start,
        questions=questions("plan", plan.brief.said, plan.kitchen.units),
        trays=trays,
        water_out_g=sum(t.water_g for t in trays),
        last_time=last,
    )


def _trays(plan: core.Plan) -> list[TraysView]:
    """Every load of a dryer, as it is planned."""
    found = []
    for operation in plan.operations:
        role = kind(operation.kind).role
        if role in DRIES:
            wet = plan.lots[operation.takes[0]]
            planned = course(role, operation.params, operation.minutes.scaled(1.0 / 60.0))
            found.append(
                trays_view(
                    operation.key, role, operation.params, planned, wet.name, colour.of_lot(wet)
                )
            )
    return found


def input_view(plan: core.Plan, given: Input) -> InputView:
    """Something that goes in, as it was said and what it came to."""
    mass_g = plan.lots[given.key].mass_g
    there = given.amount.how == "target" and not mass_g.typ
    return InputView(
        given.key, given.material, given.name, given.form, given.amount.said,
        mass_g, colour.of_material(given.material), given.amount.how,
        "none goes in: it is there already" if there else _joins(plan, given),
    )  # fmt: skip


def _instead_of(plan: core.Plan, given: Input) -> str:
    """What the method itself would put in, where something takes its place."""
    own = next((i.amount.said for i in plan.method.inputs if i.key == given.key), "")
    return "" if own == given.amount.said else own


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
        dries = any(kind(o.kind).role in DRIES for o in plan.operations)
        before = "before it dries" if dries else "before the jars"
        return before if given.lot_kind not in WORKED_ON else "with the fruit"
    if what.cooks:
        word = what.words["verb"]
        return f"in at the {word}, out at the strain" if given.scents else f"in at the {word}"
    return "with the fruit"


def questions(where: str, said: Collection[str], units: System = "metric") -> list[Question]:
    """What is asked at a place of the work."""
    return [
        Question(word, retold(row["ask"], units), word in said)
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
    named = listed([main.fruit.name, *others[:2]])
    form = f" of {main.form}" if main.form == "pomace" else ""
    if main.form == "juice" and plan.main.product == "juice":
        return f"{named} juice, bought, {kg}"
    product = plan.main.product
    if plan.main.filled.loose and not product.startswith(("powder", "leather")):
        return f"{named}, {product}, from {kg}"
    return f"{named} {product} from {kg}{form}"


def method_view(
    method: Method, own: bool, units: System, lacks: frozenset[str] = frozenset()
) -> MethodView:
    """A method by name, and what it would need here."""
    return MethodView(
        method.key, method.version, method.name, method.school, method.evidence, method.source,
        method.note, method.adapted_from, list(method.fruits), list(method.forms), own, method.way,
        sorted(method.stations & lacks), method.example(units), _colour(method),
    )  # fmt: skip


def _colour(method: Method) -> str:
    """The colour of what a method is shown by."""
    fruit = method.shown_by
    return colour.of_material(fruit.key) if fruit else CLEAR


def step_choices(step: Step) -> StepChoices:
    """A step with what can be chosen about it."""
    what = kind(step.kind)
    choices = [
        ChoiceView(c.key, c.label, str(step.chosen(c.key)), _options(c)) for c in what.choices
    ]
    numbers = [
        NumberView(
            n.key, n.label, n.unit, n.lo, n.hi, step.chosen(n.key), n.word, n.says or n.word, n.note
        )
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
    name = yields.way_name(way)
    dots = [
        Dot(o.batch, o.yield_l_per_kg, o.source, o in forecast.outliers)
        for o in learned
        if o.way == way
    ]
    return YieldView(way, name, prior, forecast.estimate(), forecast.used, dots)


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
        _learned(float(operation.params.get("pace", 1.0))),
    )


ALIKE = 0.05
"""Within this of what the tables say nothing is said about it [-]."""


def _learned(pace: float) -> str:
    if abs(pace - 1.0) <= ALIKE:
        return ""
    return f"Your kitchen takes {pace:.1f} times what the tables say, by its finished steps."


def estimate_json(estimate: Estimate | None) -> Json | None:
    """An estimate as it is stored."""
    return None if estimate is None else asdict(estimate)


def predictions(lot: Lot) -> Json:
    """A planned lot's figures as they are stored beside what will be read."""
    seen = flow_lot(lot)
    return {
        name: estimate_json(getattr(seen, name)) for name in ("mass_g", "volume_ml", "brix", "ph")
    }
