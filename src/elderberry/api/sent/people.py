"""What clients send about who is here, and how they come in."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from elderberry.api.sent.base import Sent
from elderberry.core.kitchen import Heater
from elderberry.core.quantities import System
from elderberry.services.household.people import NewHousehold, Things


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
