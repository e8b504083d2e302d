"""The Bench: one thin route a sum; every figure comes from the core, and nothing is kept."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session as Orm

from elderberry.api.deps import Person, Transaction
from elderberry.api.once import ChangeRoute
from elderberry.core.drying.back import BULK_G_ML, Strength
from elderberry.core.figures import CannotRead
from elderberry.core.kitchen import Heater, Kitchen
from elderberry.core.process import Pack
from elderberry.core.sums import canning, choices, dried, measures, pots, sour, sweet
from elderberry.core.sums.choices import Pick
from elderberry.core.sums.pots import StopAt
from elderberry.core.sums.sour import By, Goal, School
from elderberry.core.sums.told import Sum
from elderberry.core.wording import in_units, retold
from elderberry.services.errors import FieldError
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


class SharpenAsk(Asked):
    """A juice, and how sharp it should be."""

    volume_ml: Poured
    fruit: Key
    with_what: Key = "citric_acid"
    goal: Goal = "ph"
    target: Annotated[float, Field(ge=0.5, le=400)]
    ph: Annotated[float, Field(ge=1.5, le=7.5)] | None = None


class CitrusAsk(Asked):
    """Fruit counted, peel weighed or a volume wanted; and a household's own way beside them."""

    fruit: Key = "lemon"
    by: By = "count"
    amount: Annotated[float, Field(ge=0.1, le=1_000_000)]
    school: School = "by-match"
    like: Key = ""
    juice_g: Annotated[float, Field(ge=0, le=100_000)] = 0.0
    own_peel: Annotated[float, Field(ge=5, le=400)] | None = None
    own_acid: Annotated[float, Field(ge=1, le=400)] | None = None
    own_citric: Annotated[float, Field(ge=0, le=100)] = 70.0

    @property
    def own(self) -> dict[str, float]:
        """The household's own way, by the litre of water; nothing where it was not said."""
        if self.own_peel is None or self.own_acid is None:
            return {}
        return {
            "peel_per_litre": self.own_peel,
            "acid_per_litre": self.own_acid,
            "citric_share": self.own_citric / 100.0,
        }


class BottleAsk(Asked):
    """A bought bottle by its label, and one's own."""

    sugar_g_100ml: Annotated[float, Field(ge=0, le=115)]
    price: Annotated[float, Field(ge=0, le=1_000_000)]
    bottle_ml: Poured
    own_litres: Annotated[float, Field(ge=0.05, le=1000)]
    own_price: Annotated[float, Field(ge=0, le=1_000_000)]
    own_brix: Annotated[float, Field(ge=1, le=85)]


class CrystalsAsk(Asked):
    """A syrup, and where it stands."""

    brix: Annotated[float, Field(ge=1, le=86)]
    inverted_pct: Annotated[float, Field(ge=0, le=100)] = 0.0
    store_c: Annotated[float, Field(ge=0, le=40)] = 15.0


class InJarAsk(Asked):
    """A jar in the canner."""

    jar: Key
    brix: Sweet
    start_c: Annotated[float, Field(ge=0, le=100)]
    minutes: Annotated[float, Field(ge=1, le=240)]
    pulp: bool = False


class MeasuresAsk(Asked):
    """A line of what goes in."""

    text: Annotated[str, Field(min_length=1, max_length=200)]


class ProcessTimeAsk(Asked):
    """A product in a jar."""

    product: Key
    fruit: Key
    jar: Key
    heater: Heater = "bath"
    ph: Annotated[float, Field(ge=1.5, le=7.5)] | None = None
    pack: Pack = "any"


class FreezeDryAsk(Asked):
    """Juice on the trays of a freeze dryer."""

    fruit: Key
    mass_g: Annotated[float, Field(ge=10, le=10_000)]
    thickness_mm: Annotated[float, Field(ge=1, le=60)]
    trays: Annotated[int, Field(ge=1, le=20)] = 1
    sweet_g: Annotated[float, Field(ge=0, le=10_000)] = 0.0
    with_what: Key = "sugar_white"
    frozen: bool = True


class AirDryAsk(Asked):
    """What lies in warm air, and what it weighed on the way."""

    kind: Literal["slices", "leather", "peel", "herbs"]
    mass_g: Annotated[float, Field(ge=10, le=50_000)]
    wet_pct: Annotated[float, Field(ge=30, le=97)]
    thickness_mm: Annotated[float, Field(ge=0.2, le=30)]
    air_c: Annotated[float, Field(ge=20, le=80)]
    humidity_pct: Annotated[float, Field(ge=0, le=95)]
    after_h: Annotated[float, Field(ge=0.1, le=200)] | None = None
    left_g: Annotated[float, Field(ge=1, le=50_000)] | None = None


class BackAgainAsk(Asked):
    """Powder that is drunk."""

    powder_g: Annotated[float, Field(ge=1, le=50_000)]
    water_out_g: Annotated[float, Field(ge=0, le=500_000)]
    drink_ml: Annotated[float, Field(ge=10, le=100_000)]
    strength: Strength = "as picked"
    bulk_g_ml: Annotated[float, Field(ge=0.1, le=1.5)] = BULK_G_ML


class SteamPanAsk(Asked):
    """A steamer on its ring."""

    fruit_kg: Annotated[float, Field(ge=0, le=100)]
    water_l: Annotated[float, Field(ge=0, le=100)]
    minutes: Annotated[float, Field(ge=1, le=600)]
    lifts: Annotated[int, Field(ge=0, le=50)] = 1


@router.get("")
def plank(orm: Transaction, who: Person) -> dict[str, list[Pick]]:
    """What can be picked in the sums, by what is asked for."""
    return choices.choices(kitchens.for_core(orm, who))


@router.get("/sweeten")
def sweeten(orm: Transaction, who: Person, asked: Annotated[SweetenAsk, Query()]) -> Sum:
    """What brings a liquid to a Brix."""
    return _told(orm, who, lambda here: sweet.sweeten(here, **asked.model_dump()))


@router.get("/boil-down")
def boil_down(orm: Transaction, who: Person, asked: Annotated[BoilDownAsk, Query()]) -> Sum:
    """How long a pot boils."""
    return _told(orm, who, lambda here: pots.boil_down(here, **asked.model_dump()))


@router.get("/thermometer")
def thermometer(orm: Transaction, who: Person, asked: Annotated[ThermometerAsk, Query()]) -> Sum:
    """Where a syrup boils here, or how sweet one is by where it boils."""
    return _told(orm, who, lambda here: sweet.thermometer(here, **asked.model_dump()))


@router.get("/blend")
def blend(who: Person, asked: Annotated[BlendAsk, Query()]) -> Sum:  # noqa: ARG001  signed in
    """How two liquids are poured together."""
    return sweet.blend(**asked.model_dump())


@router.get("/cold-plate")
def cold_plate(who: Person, asked: Annotated[ColdPlateAsk, Query()]) -> Sum:  # noqa: ARG001
    """What a syrup does hot and cold."""
    return sweet.cold_plate(**asked.model_dump())


@router.get("/thin")
def thin(who: Person, asked: Annotated[ThinAsk, Query()]) -> Sum:  # noqa: ARG001
    """How a concentrate is thinned for a glass."""
    return sour.thin(**asked.model_dump())


@router.get("/sharpen")
def sharpen(who: Person, asked: Annotated[SharpenAsk, Query()]) -> Sum:  # noqa: ARG001
    """What brings a juice to a pH or an acidity."""
    return sour.sharpen(**asked.model_dump())


@router.get("/citrus")
def stretched_citrus(who: Person, asked: Annotated[CitrusAsk, Query()]) -> Sum:  # noqa: ARG001
    """Citrus stretched by every school, side by side."""
    return sour.stretched(
        asked.fruit, asked.by, asked.amount, asked.school, asked.own, asked.like, asked.juice_g
    )


@router.get("/bottle")
def bottle(who: Person, asked: Annotated[BottleAsk, Query()]) -> Sum:  # noqa: ARG001
    """A bought bottle beside one's own."""
    return sweet.bottle(**asked.model_dump())


@router.get("/crystals")
def crystals(who: Person, asked: Annotated[CrystalsAsk, Query()]) -> Sum:  # noqa: ARG001
    """Whether a syrup crystallises, and what would stop it."""
    return sweet.crystals(**asked.model_dump())


@router.get("/in-jar")
def in_jar(orm: Transaction, who: Person, asked: Annotated[InJarAsk, Query()]) -> Sum:
    """What happens in a jar in the canner."""
    return _told(orm, who, lambda here: canning.in_jar(here, **asked.model_dump()))


@router.get("/measures")
def line(orm: Transaction, who: Person, asked: Annotated[MeasuresAsk, Query()]) -> Sum:
    """What a line comes to in every measure."""
    try:
        return measures.measures(asked.text, kitchens.customs(orm, who))
    except CannotRead as wrong:
        raise FieldError("/text", str(wrong)) from wrong


@router.get("/process-time")
def process_time(orm: Transaction, who: Person, asked: Annotated[ProcessTimeAsk, Query()]) -> Sum:
    """The tested minutes of a product in a jar here."""
    return _told(orm, who, lambda here: canning.process_time(here, **asked.model_dump()))


@router.get("/steam-pan")
def steam_pan(orm: Transaction, who: Person, asked: Annotated[SteamPanAsk, Query()]) -> Sum:
    """How long the water under a steamer lasts."""
    return _told(orm, who, lambda here: pots.steam_pan(here, **asked.model_dump()))


@router.get("/freeze-dry")
def freeze_dry(orm: Transaction, who: Person, asked: Annotated[FreezeDryAsk, Query()]) -> Sum:
    """Whether juice dries on its trays, how long, and what is left."""
    return _told(orm, who, lambda _: dried.tray(**asked.model_dump()))


@router.get("/air-dry")
def air_dry(orm: Transaction, who: Person, asked: Annotated[AirDryAsk, Query()]) -> Sum:
    """How long something dries in warm air, and what it weighs then."""
    return _told(orm, who, lambda _: dried.warm_air(**asked.model_dump()))


@router.get("/back-again")
def back_again(orm: Transaction, who: Person, asked: Annotated[BackAgainAsk, Query()]) -> Sum:
    """Powder and water for a drink."""
    return _told(orm, who, lambda _: dried.again(**asked.model_dump()))


def _told(orm: Orm, who: Who, ask: Callable[[Kitchen], Sum]) -> Sum:
    """A sum of this kitchen, its sentences in the units of the kitchen."""
    here = kitchens.for_core(orm, who)
    found = ask(here)

    def said(words: str) -> str:
        return in_units(words, here.units)

    return replace(
        found,
        note=said(found.note),
        then=[replace(s, words=said(s.words)) for s in found.then],
        cautions=[retold(c, here.units) for c in found.cautions],
    )
