"""What a sum comes to, and the words and helpers that several sums share."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from elderberry.core import texture, water
from elderberry.core.composition import Composition, of_material
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.kitchen import Kitchen

Quantity = Literal["volume_ml", "little_ml", "mass_g", "brix", "temp_c", "depth_cm", "minutes",
                   "hours", "days", "money", "parts", "count", "percent", "degrees", "ph",
                   "acid_g_l", "words"]  # fmt: skip
ROOM_C = 20.0


@dataclass(frozen=True)
class Said:
    """A figure of a sum, or words; the page says it in the kitchen's units."""

    key: str
    label: str
    quantity: Quantity
    value: Estimate | None = None
    words: str = ""


@dataclass(frozen=True)
class Column:
    """One of several ways that stand beside each other, each with the same figures."""

    title: str
    said: list[Said]
    note: str = ""


@dataclass(frozen=True)
class Point:
    """A point of a line over time."""

    minutes: float
    value: float


@dataclass(frozen=True)
class Sum:
    """What a sum comes to: the answer, what else is known then, and what its picture shows.

    draws: figures of the picture in base units or shares; beside: other ways of the same; curve:
    points of a line; cautions: what it must not be taken for.
    """

    answer: Said
    then: list[Said] = field(default_factory=list)
    note: str = ""
    draws: dict[str, float] = field(default_factory=dict)
    beside: list[Column] = field(default_factory=list)
    curve: list[Point] = field(default_factory=list)
    cautions: list[str] = field(default_factory=list)


def figure_of(key: str, label: str, quantity: Quantity, value: float) -> Said:
    """A figure without a range of its own."""
    exact = Estimate(value, value, value, Evidence.MEASURED)
    return Said(key, label, quantity, exact)


def words_of(key: str, label: str, words: str) -> Said:
    """Something said in words."""
    return Said(key, label, "words", None, words)


def cold_of(brix: float) -> Said:
    """How a syrup pours at 20 °C."""
    thick = texture.viscosity_mpa_s(min(brix, texture.MOST_BRIX), ROOM_C)
    return words_of("pours", "cold it", texture.pours(thick))


def syrup(volume_ml: float, brix: float) -> Composition:
    """So much of a liquid as sweet as that, of sugar and water [mL, °Bx]."""
    one = of_material("sugar_white", brix) + of_material("water", 100.0 - brix)
    return one * (volume_ml / float(one.volume_ml))


def boils_c(here: Kitchen, mix: Composition) -> float:
    """Where something boils in this kitchen [°C]."""
    return float(water.boiling_point_c(mix, here.altitude_m or 0.0, here.pressure_pa))


def keeps_of(brix: float) -> str:
    """The keeping class of a syrup of sugar and water, in words."""
    return keeps_as(syrup(1000.0, brix))


def keeps_as(mix: Composition) -> str:
    """The keeping class of anything, in words."""
    return water.keeping_class(float(water.water_activity(mix))).replace("_", " ")
