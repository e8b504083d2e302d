"""What clients send. What they get back are the services' views, as they are."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from elderberry.services.plans import PlanRequest
from elderberry.services.steps import Finish, JarEntry, ReadingEntry

Words = Annotated[str, Field(max_length=120)]


class Sent(BaseModel):
    """Unknown fields and numbers that are no numbers are refused."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False, str_strip_whitespace=True)


class SignIn(Sent):
    """Name and password."""

    sign_in: Annotated[str, Field(min_length=1, max_length=80)]
    password: Annotated[str, Field(min_length=1, max_length=200)]


class HouseholdCreate(Sent):
    """The first household of an empty installation."""

    household: Annotated[str, Field(min_length=1, max_length=120)]
    altitude_m: Annotated[float, Field(ge=-430, le=9000)]
    time_zone: Annotated[str, Field(min_length=1, max_length=64)]
    name: Annotated[str, Field(min_length=1, max_length=80)]
    sign_in: Annotated[str, Field(min_length=1, max_length=80)]
    password: Annotated[str, Field(min_length=8, max_length=200)]


class PlanCreate(Sent):
    """What came in and what it should become."""

    fruit_key: Annotated[str, Field(min_length=1, max_length=40)]
    fruit_kg: Annotated[float, Field(ge=0.05, le=500)]
    brix: Annotated[float, Field(ge=1, le=40)] | None = None
    ph: Annotated[float, Field(ge=1.5, le=7.5)] | None = None
    keep: Literal["shelf", "chill", "freeze"] = "shelf"
    jar_kinds: Annotated[list[Annotated[str, Field(max_length=24)]], Field(max_length=8)] = []
    lid_lifts: Annotated[int, Field(ge=0, le=20)] = 0
    loads: Annotated[int, Field(ge=1, le=100)] | None = None
    citric_acid_g: Annotated[float, Field(ge=0, le=5000)] = 0.0
    source: Words = ""
    picked_on: date | None = None

    def request(self) -> PlanRequest:
        """As the services take it."""
        return PlanRequest(**{**self.model_dump(), "jar_kinds": tuple(self.jar_kinds)})


class ReadingCreate(Sent):
    """A reading in base units: mL, g, °C, °Bx, pH."""

    quantity: Literal["volume_ml", "mass_g", "temp_c", "brix", "ph"]
    value: float
    instrument: Annotated[str, Field(max_length=24)]

    def entry(self) -> ReadingEntry:
        """As the services take it."""
        return ReadingEntry(**self.model_dump())


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
    shared: bool = False
    place_id: int | None = None

    def finish(self) -> Finish:
        """As the services take it."""
        return Finish(
            readings=tuple(r.entry() for r in self.readings),
            jars=tuple(JarEntry(j.kind, j.count) for j in self.jars),
            part_kind=self.part_kind,
            part_ml=self.part_ml,
            shared=self.shared,
            place_id=self.place_id,
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


class Note(Sent):
    """Something worth keeping about a step."""

    what: Literal["refilled", "problem"]
    words: Annotated[str, Field(max_length=400)] = ""


class SealSeen(Sent):
    """Whether a jar's seal held and, where it did not, what becomes of it."""

    held: bool
    way_on: Literal["reprocess", "chill", "freeze"] | None = None
