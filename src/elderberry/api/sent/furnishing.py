"""What clients send about a kitchen and what is in it."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field

from elderberry.api.sent.base import Sent
from elderberry.core.containers import VesselKind
from elderberry.core.flow.inputs import Closure
from elderberry.core.kitchen import StationKind


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


class OwnProcessCreate(Sent):
    """A household's own tested process for a product that has none."""

    product: Annotated[str, Field(min_length=1, max_length=40)]
    jar_ml: Annotated[float, Field(ge=50, le=2000)]
    minutes: Annotated[int, Field(ge=5, le=120)]
    up_to_m: Annotated[float, Field(ge=0, le=3048)]
    max_ph: Annotated[float, Field(ge=2, le=4.2)]
    source: Annotated[str, Field(min_length=3, max_length=300)]
