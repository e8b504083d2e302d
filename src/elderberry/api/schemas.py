"""What clients send. What they get back are the services' views, as they are."""

from __future__ import annotations

import unicodedata
from datetime import date
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, field_validator

from elderberry.core.batch.traced import Probe
from elderberry.core.containers import VesselKind
from elderberry.core.flow.inputs import Closure, End
from elderberry.core.keeping import Keep
from elderberry.core.kitchen import Heater, StationKind
from elderberry.core.lines.line import Per, Where
from elderberry.core.quantities import System
from elderberry.core.scales import Which
from elderberry.core.scaling import Goal
from elderberry.formats.methods import MethodFile
from elderberry.services.cooking.mishaps import Said
from elderberry.services.cooking.steps import Finish, JarEntry, ReadingEntry
from elderberry.services.household.people import NewHousehold, Things
from elderberry.services.planning.asked import GoesIn, PlanRequest
from elderberry.services.planning.intake import NewLot
from elderberry.services.planning.lines import Quantity
from elderberry.services.planning.own_methods import NewMethod

Words = Annotated[str, Field(max_length=120)]
Day = Annotated[date, Field(strict=False, ge=date(1990, 1, 1), le=date(2199, 12, 31))]
"""A day somebody may have picked on; what it is really taken for is up to whoever asks."""
Id = Annotated[int, Field(ge=0, le=2**63 - 1)]


def written(value: Any) -> Any:
    """What was sent, once every word of it is known to be one.

    Raises:
        ValueError: a control code or half a letter in it.
    """
    if isinstance(value, str):
        kinds = {unicodedata.category(letter) for letter in value if letter not in "\n\r\t"}
        if kinds & {"Cc", "Cs"}:
            raise ValueError("There are letters in it that nobody can write or read")
        return value if kinds - {"Cf", "Zs"} else ""
    if isinstance(value, list):
        return [written(v) for v in value]
    if isinstance(value, dict):
        return {written(k): written(v) for k, v in value.items()}
    return value


class Sent(BaseModel):
    """Unknown fields, numbers that are no numbers, and words that are no words are refused.

    Strict, so that no true or false passes for a figure.
    """

    model_config = ConfigDict(
        extra="forbid", allow_inf_nan=False, str_strip_whitespace=True, strict=True
    )

    _words = field_validator("*", mode="before")(written)


class SignIn(Sent):
    """Name and password."""

    sign_in: Annotated[str, Field(min_length=1, max_length=80)]
    password: Annotated[str, Field(min_length=1, max_length=200)]


class PasswordPut(Sent):
    """Another password of one's own, and the one until now."""

    old: Annotated[str, Field(min_length=1, max_length=200)]
    password: Annotated[str, Field(min_length=8, max_length=200)]


class NewPasswordPut(Sent):
    """Another password for somebody who forgot theirs."""

    password: Annotated[str, Field(min_length=8, max_length=200)]


class ThingsRow(Sent):
    """What a kitchen has on its first day; null where there is none of a thing."""

    juicer_l: Annotated[float, Field(ge=1, le=60)] | None = None
    canner: Heater | None = None
    canner_jars: Annotated[int, Field(ge=1, le=60)] = 7
    pot_l: Annotated[float, Field(ge=0.5, le=200)] | None = None
    pot_cm: Annotated[float, Field(ge=8, le=100)] | None = None
    instruments: Annotated[list[Annotated[str, Field(max_length=40)]], Field(max_length=12)] = []
    jars: Annotated[dict[str, Annotated[int, Field(ge=0, le=2000)]], Field(max_length=40)] = {}
    units: System = "metric"


class HouseholdCreate(Sent):
    """The first household of an empty installation."""

    household: Annotated[str, Field(min_length=1, max_length=120)]
    altitude_m: Annotated[float, Field(ge=-430, le=9000)]
    time_zone: Annotated[str, Field(min_length=1, max_length=64)]
    name: Annotated[str, Field(min_length=1, max_length=80)]
    sign_in: Annotated[str, Field(min_length=1, max_length=80)]
    password: Annotated[str, Field(min_length=8, max_length=200)]
    things: ThingsRow | None = None

    def new(self) -> NewHousehold:
        """As the services take it."""
        told = self.model_dump(exclude={"things"})
        if self.things is None:
            return NewHousehold(**told)
        things = self.things.model_dump() | {"instruments": tuple(self.things.instruments)}
        return NewHousehold(**told, things=Things(**things))


Key = Annotated[str, Field(min_length=1, max_length=40)]
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


class NightlyPut(Sent):
    """Whether a backup is made every night."""

    nightly: bool


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


class KitchenUpdate(Sent):
    """What may be changed about a kitchen; what is not sent stays."""

    name: Annotated[str, Field(min_length=1, max_length=120)] = ""
    altitude_m: Annotated[float, Field(ge=-430, le=9000)] | None = None
    pressure_hpa: Annotated[float, Field(ge=300, le=1060)] | None = None
    humidity_pct: Annotated[float, Field(ge=5, le=100)] | None = None
    hardness_mg_l: Annotated[float, Field(ge=0, le=600)] | None = None
    units: Literal["metric", "us", "imperial"] = "metric"
    cup: Literal["metric", "us", "imperial"] = "metric"
    instruments: Annotated[list[Annotated[str, Field(max_length=24)]], Field(max_length=16)] = []
    time_zone: Annotated[str, Field(min_length=1, max_length=64)] = ""
    containers: Annotated[
        dict[
            Annotated[str, Field(min_length=2, max_length=24, pattern=r"^[a-z][a-z ]*$")],
            Annotated[float, Field(gt=0, le=500_000)],
        ],
        Field(max_length=12),
    ] = {}

    def changes(self) -> dict[str, Any]:
        """Only what was sent, as it is stored."""
        sent = self.model_dump(exclude_unset=True)
        if "pressure_hpa" in sent:
            hpa = sent.pop("pressure_hpa")
            sent["pressure_pa"] = None if hpa is None else 100.0 * hpa
        return sent


class EffectAsk(Sent):
    """An altitude or a barometer reading to be tried."""

    altitude_m: Annotated[float, Field(ge=-430, le=9000)] | None = None
    pressure_hpa: Annotated[float, Field(ge=300, le=1060)] | None = None


class StationPut(Sent):
    """A station with the sizes that its kind has."""

    kind: StationKind
    name: Annotated[str, Field(min_length=1, max_length=80)]
    basket_l: Annotated[float, Field(ge=0.5, le=100)] | None = None
    pan_l: Annotated[float, Field(ge=0.5, le=100)] | None = None
    power_kw: Annotated[float, Field(ge=0.2, le=20)] | None = None
    power_kind: Literal["gas", "electric", "induction"] | None = None
    jars: Annotated[int, Field(ge=1, le=60)] | None = None
    heater: Literal["bath", "steam"] | None = None
    trays: Annotated[int, Field(ge=1, le=40)] | None = None
    tray_cm2: Annotated[float, Field(ge=50, le=10_000)] | None = None
    tray_mm: Annotated[float, Field(ge=3, le=60)] | None = None
    tray_kg: Annotated[float, Field(ge=0.1, le=10)] | None = None


Marks = Annotated[list[Annotated[float, Field(gt=0, le=200_000)]], Field(max_length=12)]


class VesselPut(Sent):
    """Vessels of a kind and size."""

    kind: VesselKind
    name: Annotated[str, Field(min_length=1, max_length=80)]
    litres: Annotated[float, Field(ge=0.05, le=200)]
    count: Annotated[int, Field(ge=1, le=100)] = 1
    marks: Marks | None = None
    diameter_cm: Annotated[float, Field(ge=5, le=100)] | None = None


class PlacePut(Sent):
    """A place where jars live."""

    kind: Literal["shelf", "cellar", "refrigerator", "freezer"]
    name: Annotated[str, Field(min_length=1, max_length=80)]
    temp_c: Annotated[float, Field(ge=-40, le=45)]
    light: bool = False
    room_l: Annotated[float, Field(ge=0, le=2000)] | None = None
    swing_c: Annotated[float, Field(ge=0, le=20)] = 0.0
    warmest_day: Annotated[int, Field(ge=1, le=366)] = 205


class JarCountPut(Sent):
    """How many jars of a kind stand ready, and lids for them."""

    jars: Annotated[int, Field(ge=0, le=5000)]
    lids: Annotated[int, Field(ge=0, le=5000)]
    packet: Annotated[str, Field(max_length=40)] = ""


class LidCountPut(Sent):
    """How many lids of a closure (the usual new ones if empty) and a colour there are."""

    closure: Closure = ""
    colour: Annotated[str, Field(max_length=12)] = ""
    count: Annotated[int, Field(ge=0, le=5000)]
    packet: Annotated[str, Field(max_length=40)] = ""


class PersonCreate(Sent):
    """Someone who joins the household."""

    name: Annotated[str, Field(min_length=1, max_length=80)]
    sign_in: Annotated[str, Field(min_length=1, max_length=80)]
    password: Annotated[str, Field(min_length=8, max_length=200)]
    role: Literal["keeper", "helper", "guest"] = "helper"


Clock = Annotated[str, Field(pattern=r"^([01]\d|2[0-3]):[0-5]\d$")]


class HoursPut(Sent):
    """When someone cooks, of the kitchen's day."""

    start: Clock
    end: Clock


class Correction(Sent):
    """What a mistaken reading should have been, in its base unit."""

    value: float


class ReadingCreate(Sent):
    """A reading in base units: mL, g, °C, °Bx, pH; or an amount as one says it."""

    quantity: Literal["volume_ml", "mass_g", "tray_g", "temp_c", "brix", "ph", "depth_cm", "drop"]
    value: float = 0.0
    said: Annotated[str, Field(max_length=120)] = ""
    instrument: Annotated[str, Field(max_length=24)]
    lot_key: Annotated[str, Field(max_length=40)] | None = None

    def entry(self) -> ReadingEntry:
        """As the services take it."""
        return ReadingEntry(**self.model_dump())


class TraceFile(Sent):
    """What a probe has written down, and where the probe was."""

    text: Annotated[str, Field(min_length=5, max_length=8_000_000)]
    probe: Probe


class JarsFilled(Sent):
    """Jars of a kind that were really filled."""

    kind: Annotated[str, Field(max_length=24)]
    count: Annotated[int, Field(ge=0, le=500)]


class StepFinish(Sent):
    """What is said when a step is done."""

    readings: Annotated[list[ReadingCreate], Field(max_length=8)] = []
    jars: Annotated[list[JarsFilled], Field(max_length=12)] = []
    part_kind: Annotated[str, Field(max_length=24)] | None = None
    part_ml: Annotated[float, Field(ge=0, le=5000)] = 0.0
    part_said: Annotated[str, Field(max_length=120)] = ""
    shared: bool = False
    place_id: Id | None = None
    others_held: bool = False
    said: Annotated[list[Key], Field(max_length=12)] = []
    more: bool = False

    def finish(self) -> Finish:
        """As the services take it."""
        return Finish(
            readings=tuple(r.entry() for r in self.readings),
            jars=tuple(JarEntry(j.kind, j.count) for j in self.jars),
            part_kind=self.part_kind,
            part_ml=self.part_ml,
            part_said=self.part_said,
            shared=self.shared,
            place_id=self.place_id,
            others_held=self.others_held,
            said=tuple(self.said),
            more=self.more,
        )


class OwnProcessCreate(Sent):
    """A household's own tested process for a product that has none."""

    product: Annotated[str, Field(min_length=1, max_length=40)]
    jar_ml: Annotated[float, Field(ge=50, le=2000)]
    minutes: Annotated[int, Field(ge=5, le=120)]
    up_to_m: Annotated[float, Field(ge=0, le=3048)]
    max_ph: Annotated[float, Field(ge=2, le=4.2)]
    source: Annotated[str, Field(min_length=3, max_length=300)]


class Ending(Sent):
    """What becomes of a batch that may not go on a shelf."""

    keep: Literal["chill", "freeze"]


class MoreTime(Sent):
    """Minutes to add, and why."""

    minutes: Annotated[float, Field(gt=0, le=600)]
    reason: Annotated[str, Field(min_length=1, max_length=200)]


class AcidAdded(Sent):
    """Acid that was stirred in, as one says it: "15 g citric acid"."""

    line: Annotated[str, Field(min_length=1, max_length=200)]


class WaterBack(Sent):
    """Water that brings a pot back, as one says it: "50 ml", "half a cup"."""

    line: Annotated[str, Field(min_length=1, max_length=200)]


class MishapSaid(Sent):
    """Something that went wrong: how much, as one says it ("a cup"), or which jars."""

    what: Annotated[str, Field(min_length=1, max_length=40)]
    amount: Annotated[str, Field(max_length=200)] = ""
    jars: Annotated[list[int], Field(max_length=200)] = []

    def said(self) -> Said:
        """As the services take it."""
        return Said(self.amount, tuple(self.jars))


class FilledNow(Sent):
    """How hot the pot is that a canner load is filled from now."""

    temp_c: Annotated[float, Field(ge=0, le=130)]


class Note(Sent):
    """Something worth keeping about a step."""

    what: Literal["refilled", "problem", "bench", "ping", "shaken"]
    words: Annotated[str, Field(max_length=400)] = ""


class SealSeen(Sent):
    """Whether a jar's seal held and, where it did not, what becomes of it."""

    held: bool
    way_on: Literal["reprocess", "chill", "freeze"] | None = None
