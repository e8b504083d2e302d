"""What is known of fruits and ingredients before anybody measures."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Literal

from elderberry.core import tables
from elderberry.core.errors import Unknown
from elderberry.core.estimates import Estimate

SMALL_PIECE_G = 40.0
"""Fruit under this goes in as it is, and packs closer once it is cut [g]."""
PhRisk = Literal["low", "watch", "never"]


@dataclass(frozen=True)
class Fruit:
    """Typical figures of a fruit's juice, and how much of it there is.

    brix [g/100 g], acid_pct [g main acid/100 g juice], pack_kg_per_l [kg prepared fruit a litre],
    steam and press [L juice/kg prepared fruit], steam_min [min a basket], piece_g [g].
    """

    key: str
    name: str
    latin: str
    brix: Estimate | None
    ph: Estimate | None
    acid_pct: Estimate | None
    main_acid: str
    main_acid_share: float
    second_acid: str
    sucrose_share: float
    pack_kg_per_l: float | None
    steam_l_per_kg: Estimate | None
    press_l_per_kg: Estimate | None
    steam_min: float | None
    ph_risk: PhRisk
    piece_g: float | None
    zest_share: float | None
    group: str
    colour: str
    steam_look: str
    source: str
    note: str
    also: tuple[str, ...]
    """Other names that cooks and other countries have for it."""
    nature: str
    """What a method asks for that is for no fruit in particular: soft, stone, firm, citrus."""

    @property
    def comes_dried(self) -> bool:
        """Whether it is only ever dried, so that it has no juice of its own."""
        return self.brix is None

    @property
    def large(self) -> bool:
        """Whether a piece of it is large enough to be cut up before it is measured or worked on."""
        return self.piece_g is not None and self.piece_g >= SMALL_PIECE_G


@dataclass(frozen=True)
class Ingredient:
    """Mass fractions of an ingredient as sold; density_kg_per_l as a cook measures it."""

    key: str
    name: str
    also: tuple[str, ...]
    """Other names that cooks have for it."""
    kind: str
    density_kg_per_l: float
    water: float
    sucrose: float
    glucose: float
    fructose: float
    other_soluble: float
    insoluble: float
    acid: str
    acid_fraction: float
    ph: float | None
    ethanol: float
    shelf: Literal["ok", "never"]
    source: str
    note: str

    @property
    def plain(self) -> str:
        """What one calls it, without what only a label says: "citric acid"."""
        return self.name.removesuffix(" (anhydrous)").lower()


SWEET, SOUR = frozenset({"sugar", "sweetener"}), frozenset({"acid", "juice"})
"""Kinds of ingredient that sweeten, and that sharpen."""


@cache
def fruits() -> dict[str, Fruit]:
    """Every listed fruit by key."""
    return {row["key"]: _fruit(row) for row in tables.rows("fruits")}


@cache
def ingredients() -> dict[str, Ingredient]:
    """Every listed ingredient by key."""
    return {row["key"]: _ingredient(row) for row in tables.rows("ingredients")}


def kind_of(key: str) -> str:
    """The kind of an ingredient; of anything else, "fruit".

    >>> kind_of("honey"), kind_of("damson")
    ('sugar', 'fruit')
    """
    found = ingredients().get(key)
    return found.kind if found else "fruit"


def fruit(key: str) -> Fruit:
    """The fruit with this key.

    Raises:
        Unknown: not listed; an unlisted fruit counts as untested.

    >>> fruit("damson").latin
    'Prunus insititia'
    """
    try:
        return fruits()[key]
    except KeyError:
        raise Unknown("fruit", key) from None


def ingredient(key: str) -> Ingredient:
    """The ingredient with this key.

    Raises:
        Unknown: not listed.

    >>> ingredient("sugar_white").sucrose
    1.0
    """
    try:
        return ingredients()[key]
    except KeyError:
        raise Unknown("ingredient", key) from None


def _fruit(row: tables.Row) -> Fruit:
    return Fruit(
        key=row["key"],
        name=row["name"],
        latin=row["latin"],
        brix=tables.estimate(row["brix"]),
        ph=tables.estimate(row["ph"]),
        acid_pct=tables.estimate(row["acid_pct"]),
        main_acid=row["main_acid"],
        main_acid_share=float(row["main_acid_share"]),
        second_acid=row["second_acid"],
        sucrose_share=float(row["sucrose_share"]),
        pack_kg_per_l=tables.number(row["pack_kg_per_l"]),
        steam_l_per_kg=tables.estimate(row["steam_l_per_kg"]),
        press_l_per_kg=tables.estimate(row["press_l_per_kg"]),
        steam_min=tables.number(row["steam_min"]),
        ph_risk=_ph_risk(row["ph_risk"]),
        piece_g=tables.number(row["piece_g"]),
        zest_share=tables.number(row["zest_share"]),
        group=row["group"],
        colour=row["colour"],
        steam_look=row["steam_look"],
        source=row["source"],
        note=row["note"],
        also=tables.words(row["also"]),
        nature=row["nature"],
    )


def _ph_risk(cell: str) -> PhRisk:
    """A risk word; anything else than the two known lighter ones counts as never."""
    return "low" if cell == "low" else "watch" if cell == "watch" else "never"


def _ingredient(row: tables.Row) -> Ingredient:
    return Ingredient(
        key=row["key"],
        name=row["name"],
        also=tables.words(row["also"]),
        kind=row["kind"],
        density_kg_per_l=float(row["density_kg_per_l"]),
        water=float(row["water"]),
        sucrose=float(row["sucrose"]),
        glucose=float(row["glucose"]),
        fructose=float(row["fructose"]),
        other_soluble=float(row["other_soluble"]),
        insoluble=float(row["insoluble"]),
        acid=row["acid"],
        acid_fraction=float(row["acid_fraction"]),
        ph=tables.number(row["ph"]),
        ethanol=float(row["ethanol"]),
        shelf="ok" if row["shelf"] == "ok" else "never",
        source=row["source"],
        note=row["note"],
    )
