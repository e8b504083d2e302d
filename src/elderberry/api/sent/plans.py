"""What clients send to plan with."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, field_validator

from elderberry.api.sent.base import Day, Id, Key, Sent, Words, written
from elderberry.core.flow.inputs import Closure, End
from elderberry.core.keeping import Keep
from elderberry.core.lines.line import Per, Where
from elderberry.core.scales import Which
from elderberry.core.scaling import Goal
from elderberry.formats.methods import MethodFile
from elderberry.services.planning.asked import GoesIn, PlanRequest
from elderberry.services.planning.intake import NewLot
from elderberry.services.planning.lines import Quantity
from elderberry.services.planning.own_methods import NewMethod

AnyForm = Literal["whole", "frozen", "sliced", "chopped", "crushed", "puree", "dried", "juice",
                  "pomace", "zest", "peel", "powder", "as_sold"]  # fmt: skip
Params = Annotated[dict[Key, float | Annotated[str, Field(max_length=40)]], Field(max_length=12)]


class StepRow(Sent):
    """A step of a flow: its kind, what it takes and gives by name, and what was chosen."""

    kind: Key
    key: Key | None = None
    takes: Annotated[list[Key], Field(max_length=12)] = []
    gives: Annotated[list[Key], Field(max_length=6)] = []
    params: Params = {}


Rows = Annotated[list[StepRow], Field(max_length=40)]


def _rows(steps: list[StepRow]) -> tuple[dict[str, Any], ...]:
    return tuple(step.model_dump() for step in steps)


class GoesInRow(Sent):
    """Something that goes in: weighed, as a share of what it joins, or to a target."""

    material: Annotated[str, Field(max_length=40)] = ""
    line: Annotated[str, Field(max_length=200)] = ""
    grams: Annotated[float, Field(gt=0, le=500_000)] | None = None
    key: Annotated[str, Field(max_length=40, pattern=r"^[a-z][a-z0-9_]*$")] | None = None
    form: Annotated[str, Field(max_length=24)] = ""
    brix: Annotated[float, Field(ge=1, le=40)] | None = None
    ph: Annotated[float, Field(ge=1.5, le=7.5)] | None = None
    ph_by: Literal["ph_meter", "ph_strip"] = "ph_meter"
    source: Words = ""
    picked_on: Day | None = None
    lot_id: Id | None = None
    step: Annotated[str, Field(max_length=40)] = ""
    share: Annotated[float, Field(ge=0, le=1000)] = 0.0
    of: Annotated[str, Field(max_length=40)] = ""
    per: Per = "g/g"
    target: Literal["", "brix", "ph", "acid_g_l", "volume_ml", "cover", "fill"] = ""
    value: Annotated[float, Field(ge=0, le=500_000)] = 0.0
    said: Words = ""
    where: Where = ""
    leaves: bool = False

    def goes_in(self) -> GoesIn:
        """As the services take it."""
        sent = self.model_dump()
        return GoesIn(**{**sent, "key": sent["key"] or ""})


class EndRow(Sent):
    """An end: the filling it is, how it is kept (as the method says if empty), in which jars."""

    key: Key = "fill"
    keep: Literal["", Keep] = ""
    jar_kinds: Annotated[list[Annotated[str, Field(max_length=24)]], Field(max_length=16)] = []
    name: Words = ""
    closure: Closure = ""
    lid: Annotated[str, Field(max_length=12)] = ""
    used_with: Annotated[str, Field(max_length=40)] = ""

    def end(self) -> End:
        """As the core takes it."""
        return End(**{**self.model_dump(), "jar_kinds": tuple(self.jar_kinds)})


class GoalRow(Sent):
    """What it is worked back from: so many jars of a kind, or litres, at an end."""

    by: Literal["jars", "litres"]
    count: Annotated[float, Field(gt=0, le=5000)]
    jar: Annotated[str, Field(max_length=24)] = ""
    end: Key = "fill"

    def goal(self) -> Goal:
        """As the core takes it."""
        return Goal(**self.model_dump())


class PlanCreate(Sent):
    """What goes in and what it should become."""

    inputs: Annotated[list[GoesInRow], Field(min_length=1, max_length=24)]
    ends: Annotated[list[EndRow], Field(min_length=1, max_length=8)] = [EndRow()]
    loads: Annotated[int, Field(ge=1, le=100)] | None = None
    method_key: Annotated[str, Field(max_length=60)] = ""
    steps: Rows = []
    said: Annotated[list[Key], Field(max_length=12)] = []
    goal: GoalRow | None = None
    all_there_is: bool = False
    without: Annotated[list[Key], Field(max_length=12)] = []
    from_jars: Annotated[list[Id], Field(max_length=24)] = []

    def request(self) -> PlanRequest:
        """As the services take it."""
        return PlanRequest(
            inputs=tuple(i.goes_in() for i in self.inputs),
            ends=tuple(e.end() for e in self.ends),
            loads=self.loads,
            method_key=self.method_key,
            steps=_rows(self.steps),
            said=tuple(self.said),
            goal=self.goal.goal() if self.goal else None,
            all_there_is=self.all_there_is,
            without=tuple(self.without),
        )


class MarkAsk(Sent):
    """A plan, and a mark set on a scale of one of its ends."""

    plan: PlanCreate
    scale: Which
    value: Annotated[float, Field(ge=0, le=40_000)]
    end: Key = "fill"


class LinesAsk(Sent):
    """Lines of what goes in, as they are written."""

    lines: Annotated[list[Annotated[str, Field(max_length=200)]], Field(max_length=24)]


class RecipeAsk(Sent):
    """A recipe as it was written or copied."""

    text: Annotated[str, Field(min_length=1, max_length=200_000)]


class AmountAsk(Sent):
    """An amount as one says it, of what was poured or weighed."""

    text: Annotated[str, Field(max_length=120)]
    quantity: Quantity


class IngredientCreate(Sent):
    """Something that no list knows, and the questions that matter."""

    name: Annotated[str, Field(min_length=1, max_length=60)]
    sweet: bool = False
    sour: bool = False
    rich: bool = False


class SwapsAsk(Sent):
    """A plan, and the line that is to be sweetened with something else."""

    plan: PlanCreate
    place: Annotated[int, Field(ge=0, le=23)]


class CostsAsk(Sent):
    """A plan, and the step whose choices are weighed."""

    plan: PlanCreate
    step: Key


class FlowEdit(Sent):
    """A flow, and one change of it."""

    steps: Rows = []
    method_key: Annotated[str, Field(max_length=60)] = ""
    form: AnyForm = "whole"
    act: Literal["show", "insert", "part", "swap", "remove", "earlier", "later", "choose"] = "show"
    lot: Annotated[str, Field(max_length=40)] = ""
    kind: Annotated[str, Field(max_length=40)] = ""
    step: Annotated[str, Field(max_length=40)] = ""
    params: Params = {}

    def rows(self) -> tuple[dict[str, Any], ...]:
        """The steps as the services take them."""
        return _rows(self.steps)


class MethodIn(MethodFile):
    """A method as a file, every word of it written."""

    _words = field_validator("*", mode="before")(written)


class MethodCreate(Sent):
    """A flow to be kept under a name."""

    name: Annotated[str, Field(min_length=2, max_length=80)]
    based_on: Annotated[str, Field(min_length=1, max_length=60)]
    steps: Rows = []
    plan: PlanCreate | None = None
    """What it was planned with, whose proportions and ends it keeps."""
    adapted_from: Words = ""
    note: Annotated[str, Field(max_length=400)] = ""
    fruits: Annotated[list[Key], Field(max_length=12)] = []

    def new(self) -> NewMethod:
        """As the services take it."""
        sent = self.model_dump(exclude={"steps", "fruits", "plan"})
        return NewMethod(**sent, steps=_rows(self.steps), fruits=tuple(self.fruits))


class LotCreate(Sent):
    """Something that came in."""

    line: Annotated[str, Field(min_length=1, max_length=200)]
    source: Words = ""
    source_kind: Literal["garden", "tree", "plot", "wild", "market", "shop", "gift", "batch"] = (
        "garden"
    )
    picked_on: Day | None = None
    ripeness: Literal["under", "ripe", "over"] = "ripe"
    where: Literal["cool", "cold", "frozen"] | None = None
    wild: bool = False
    certain: bool = False
    peel_waxed: bool = False
    brix: Annotated[float, Field(ge=1, le=40)] | None = None
    ph: Annotated[float, Field(ge=1.5, le=7.5)] | None = None
    cost: Annotated[float, Field(ge=0, le=100000)] | None = None

    def new(self) -> NewLot:
        """As the services take it."""
        return NewLot(**self.model_dump())
