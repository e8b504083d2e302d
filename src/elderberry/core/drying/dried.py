"""What is dried: how it is called, how loose it lies, and whether it is dry enough to keep."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from elderberry.core import tables
from elderberry.core.composition import Composition
from elderberry.core.drying import air_dry
from elderberry.core.errors import Unknown
from elderberry.core.numbers import typical

BRITTLE = 0.05
"""Moisture up to which it counts as freeze-dried: brittle, and taking up water from the air
[g/g wet]."""


@dataclass(frozen=True)
class Dried:
    """A way that dried fruit lies: its name, bulk density [g/ml], usual thickness on a tray [mm],
    and how much of a tray it covers [-].
    """

    key: str
    name: str
    bulk_g_ml: float
    usual_mm: float
    covers: float


@cache
def dried(key: str) -> Dried:
    """The row of data/dried.csv with this key.

    Raises:
        Unknown: there is none.

    >>> dried("powder").bulk_g_ml
    0.45
    """
    for row in tables.rows("dried"):
        if row["key"] == key:
            figures = (float(row[n]) for n in ("bulk_g_ml", "usual_mm", "covers"))
            return Dried(row["key"], row["name"], *figures)
    raise Unknown("dried fruit", key)


def moisture(whole: Composition) -> float:
    """Water in it, in the typical case [g/g wet].

    >>> moisture(Composition(water=20, sucrose=80))
    0.2
    """
    return float(typical(whole.water)) / max(float(typical(whole.mass_g)), 1e-9)


def keeps_dry(whole: Composition) -> bool:
    """Whether it is dry enough to stand on a shelf: water activity of 0.60 or less.

    Source: air_dry.water_activity; below 0.60 nothing grows.

    >>> keeps_dry(Composition(water=15, sucrose=85)), keeps_dry(Composition(water=25, sucrose=75))
    (True, False)
    """
    return air_dry.water_activity(moisture(whole)) <= air_dry.DRY_AW + 1e-9


def life_product(lies: str, whole: Composition) -> str:
    """Its product in data/storage_life.csv, by how dry it is and how it lies.

    >>> life_product("leather", Composition(water=13, sucrose=87))
    'leather'
    """
    if moisture(whole) <= BRITTLE:
        return "powder_or_slices"
    return "leather" if lies == "leather" else "fruit_slices"
