"""The Bench: one thin route a sum; every figure comes from the core, and nothing is kept."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session as Orm

from elderberry.api.deps import Person, Transaction
from elderberry.api.once import ChangeRoute
from elderberry.core import sums
from elderberry.core.kitchen import Kitchen
from elderberry.core.sums import StopAt, Sum
from elderberry.core.wording import in_units
from elderberry.services.household import kitchens
from elderberry.services.who import Who

router = APIRouter(prefix="/api/bench", tags=["bench"], route_class=ChangeRoute)

Poured = Annotated[float, Field(ge=10, le=500_000)]
Sweet = Annotated[float, Field(ge=0, le=86)]
Key = Annotated[str, Field(max_length=40)]


class Asked(BaseModel):
    """Figures of a sum, in base units, as they stand in an address."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class SweetenAsk(Asked):
    """A liquid, and how sweet it should be."""

    volume_ml: Poured
    brix: Sweet
    target: Annotated[float, Field(ge=0.1, le=80)]
    material: Key = "sugar_white"


class BoilDownAsk(Asked):
    """A pot, and where its boil should stop."""

    volume_ml: Poured
    brix: Sweet
    width_cm: Annotated[float, Field(ge=8, le=100)]
    stop: StopAt
    target: Annotated[float, Field(ge=0.1, le=500)]


class ThermometerAsk(Asked):
    """A syrup, or what the thermometer reads in one that boils."""

    brix: Annotated[float, Field(ge=0, le=85)] = 0.0
    reads_c: Annotated[float, Field(ge=40, le=130)] | None = None


class BlendAsk(Asked):
    """Two liquids, and how sweet they should be together."""

    first_ml: Poured
    first: Sweet
    second_ml: Poured
    second: Sweet
    target: Sweet


class ColdPlateAsk(Asked):
    """A syrup in the pot, the plate, and what a drop on it did."""

    brix: Annotated[float, Field(ge=1, le=86)]
    hot_c: Annotated[float, Field(ge=20, le=120)]
    plate_c: Annotated[float, Field(ge=0, le=40)] = 20.0
    drop: Annotated[str, Field(max_length=60)] = ""


class ThinAsk(Asked):
    """A concentrate, the glass, and how sweet and sharp one likes it."""

    brix: Sweet
    acid_g_l: Annotated[float, Field(ge=0, le=200)]
    glass_ml: Annotated[float, Field(ge=20, le=20_000)]
    with_what: Key = "water"
    sweet: Annotated[float, Field(ge=0.5, le=40)]
    sharp: Annotated[float, Field(ge=0.5, le=40)]


@router.get("/sweeten")
def sweeten(orm: Transaction, who: Person, asked: Annotated[SweetenAsk, Query()]) -> Sum:
    """What brings a liquid to a Brix."""
    return _told(orm, who, lambda here: sums.sweeten(here, **asked.model_dump()))


@router.get("/boil-down")
def boil_down(orm: Transaction, who: Person, asked: Annotated[BoilDownAsk, Query()]) -> Sum:
    """How long a pot boils."""
    return _told(orm, who, lambda here: sums.boil_down(here, **asked.model_dump()))


@router.get("/thermometer")
def thermometer(orm: Transaction, who: Person, asked: Annotated[ThermometerAsk, Query()]) -> Sum:
    """Where a syrup boils here, or how sweet one is by where it boils."""
    return _told(orm, who, lambda here: sums.thermometer(here, **asked.model_dump()))


@router.get("/blend")
def blend(who: Person, asked: Annotated[BlendAsk, Query()]) -> Sum:  # noqa: ARG001  signed in
    """How two liquids are poured together."""
    return sums.blend(**asked.model_dump())


@router.get("/cold-plate")
def cold_plate(who: Person, asked: Annotated[ColdPlateAsk, Query()]) -> Sum:  # noqa: ARG001
    """What a syrup does hot and cold."""
    return sums.cold_plate(**asked.model_dump())


@router.get("/thin")
def thin(who: Person, asked: Annotated[ThinAsk, Query()]) -> Sum:  # noqa: ARG001
    """How a concentrate is thinned for a glass."""
    return sums.thin(**asked.model_dump())


def _told(orm: Orm, who: Who, ask: Callable[[Kitchen], Sum]) -> Sum:
    """A sum of this kitchen, its sentences in the units of the kitchen."""
    here = kitchens.for_core(orm, who)
    found = ask(here)
    return replace(found, note=in_units(found.note, here.units))
