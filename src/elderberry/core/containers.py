"""What things are filled into: kinds of jar as they are sold, and the household's own vessels."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from functools import cache
from typing import Literal

from elderberry.core import tables
from elderberry.core.errors import Unknown
from elderberry.core.quantities import System
from elderberry.core.wording import figure, in_units

Neck = Literal["straight", "shoulder", "narrow"]
VesselKind = Literal[
    "pot", "bowl", "jug", "glass", "can", "squeeze", "box", "bag", "barrier",
    "cubes",
]  # fmt: skip
"""Types of vessel that a household may own: keys in data/vessels.csv."""
NOMINAL_SHARE = 0.95
"""What a vessel is filled with, against what it holds to the brim [-]."""


@dataclass(frozen=True)
class JarKind:
    """A kind of jar; process_as_ml is the tested size whose row it takes, None where none is."""

    key: str
    name: str
    nominal_ml: float
    brim_ml: float
    process_as_ml: float | None
    system: str
    closure: str
    inner_radius_mm: float
    inner_height_mm: float
    neck: Neck
    shoulder_mm: float
    """Where the shoulder begins, below the rim [mm]; 0 where there is none."""
    keeps: tuple[str, ...]
    """How what is in it may be kept: shelf, sugar, dry, chill, freeze."""
    note: str
    soft: bool = False
    """Whether hot juice softens it."""
    words: str = ""
    """Its name with its size as a figure, where that is said in a kitchen's units."""
    vessel: VesselType | None = None
    """The type that it is of, where it is a vessel of the household."""

    def named(self, system: System) -> str:
        """Its name in a kitchen: what is sold by a size keeps it, a vessel's is said in its units.

        >>> kind("m500").named("us"), kind("jug-1500").named("metric"), kind("jug-1500").named("us")
        ('500 ml', '1.5 l jug', '1 1/2 quart jug')
        """
        return _SEVERAL.sub(r"\1 ", in_units(self.words, system)) or self.name

    @property
    def own(self) -> bool:
        """Whether it is a vessel of the household, which never seals."""
        return self.vessel is not None


_SEVERAL = re.compile(r"\b(cup|pint|quart|gallon)s ")
"""Units as a size before a name, where they are not counted: a 2 quart jug."""


@dataclass(frozen=True)
class VesselType:
    """A type of vessel: how what is in it may be kept, and how tall it is over its radius [-]."""

    key: str
    name: str
    keeps: tuple[str, ...]
    shape: float
    soft: bool
    note: str


@cache
def kinds() -> dict[str, JarKind]:
    """Every listed kind of jar by key."""
    return {row["key"]: _jar(row) for row in tables.rows("jars")}


@cache
def vessel_types() -> dict[str, VesselType]:
    """Every type of vessel that a household may own, by key."""
    return {row["key"]: _type(row) for row in tables.rows("vessels")}


def vessel_key(what: str, litres: float) -> str:
    """The kind of container that a vessel of so many litres is.

    >>> vessel_key("jug", 1.5)
    'jug-1500'
    """
    return f"{what}-{1000.0 * litres:.0f}"


@cache
def kind(key: str) -> JarKind:
    """The kind of jar with this key, or of a vessel by its type and what it holds [mL].

    Raises:
        Unknown: not listed.

    >>> kind("pint").process_as_ml, kind("box-1000").name
    (473.0, '1 l box')
    """
    if key in kinds():
        return kinds()[key]
    what, _, ml = key.partition("-")
    if what not in vessel_types() or not ml.isdecimal() or not 50 <= int(ml) <= 200_000:
        raise Unknown("kind of jar", key)
    return _vessel(key, vessel_types()[what], float(ml))


def fits(jar: JarKind, largest_ml: float) -> bool:
    """Whether a kind may be processed where the largest tested size is largest_ml [mL].

    >>> fits(kind("quart"), 473)
    False
    """
    return jar.process_as_ml is not None and jar.process_as_ml <= largest_ml


def _vessel(key: str, what: VesselType, brim_ml: float) -> JarKind:
    """A vessel as a container: a cylinder of its type's shape."""
    radius_mm = (1000.0 * brim_ml / (math.pi * what.shape)) ** (1.0 / 3.0)
    words = f"{figure(brim_ml, 'ml')} {what.name}"
    return JarKind(
        key=key,
        name=in_units(words),
        nominal_ml=NOMINAL_SHARE * brim_ml,
        brim_ml=brim_ml,
        process_as_ml=None,
        system="own",
        closure="none",
        inner_radius_mm=radius_mm,
        inner_height_mm=what.shape * radius_mm,
        neck="straight",
        shoulder_mm=0.0,
        keeps=what.keeps,
        note=what.note,
        soft=what.soft,
        words=words,
        vessel=what,
    )


def _type(row: tables.Row) -> VesselType:
    return VesselType(
        row["key"], row["name"], tables.words(row["keeps"]), float(row["shape"]),
        row["soft"] == "yes", row["note"],
    )  # fmt: skip


def _jar(row: tables.Row) -> JarKind:
    tested = tables.number(row["process_as_ml"])
    ways = (
        ("shelf", tested is not None),
        ("sugar", True),
        ("dry", row["neck"] != "narrow"),
        ("chill", True),
        ("freeze", row["neck"] != "narrow"),
    )
    return JarKind(
        key=row["key"],
        name=row["name"],
        nominal_ml=float(row["nominal_ml"]),
        brim_ml=float(row["brim_ml"]),
        process_as_ml=tested,
        system=row["system"],
        closure=row["closure"],
        inner_radius_mm=float(row["inner_radius_mm"]),
        inner_height_mm=float(row["inner_height_mm"]),
        neck=row["neck"],  # type: ignore[arg-type]
        shoulder_mm=tables.number(row["shoulder_mm"]) or 0.0,
        keeps=tuple(keep for keep, can in ways if can),
        note=row["note"],
    )
