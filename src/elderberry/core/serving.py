"""Thinning a concentrate to drink: parts of water, sparkling water, tea or juice to one of it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cache
from typing import Literal

from elderberry.core import acid, materials
from elderberry.core.composition import Composition, of_fruit_juice, of_material
from elderberry.core.errors import Unknown, Unreachable, check_range
from elderberry.core.numbers import typical

GLASS_BRIX, GLASS_ACID_G_L = 10.5, 5.5
"""What a glass is usually liked at: soluble solids [g/100 g], and acidity as citric [g/L]."""

MOST_PARTS = 30.0
"""Over this nobody thins: the diluent is nearly what the glass should be."""


@dataclass(frozen=True)
class Ratio:
    """Parts of diluent to one of base, by volume, and which of two balances asks for them.

    by_sweet and by_sharp: parts that each balance alone asks for; infinite where the diluent is
    itself as sweet or as sharp as the glass may be, so that no amount of it gets there.
    """

    parts: float
    limited_by: Literal["sweet", "sharp"]
    by_sweet: float
    by_sharp: float

    def glass(self, glass_ml: float) -> tuple[float, float]:
        """Base and diluent [mL] for a glass, jug or bowl of so many millilitres.

        >>> base = of_material("sugar_white", 40) + of_material("water", 60)
        >>> round(ratio(base, "water").glass(250)[0])
        58
        """
        base = glass_ml / (1.0 + self.parts)
        return base, glass_ml - base


def ratio(
    composition: Composition,
    diluent: Composition | str,
    brix: float = GLASS_BRIX,
    acid_g_l: float = GLASS_ACID_G_L,
) -> Ratio:
    """How far a concentrate is thinned to be neither too sweet nor too sharp in the glass.

    From two balances: d = (s − b·m)/(b·m_d − s_d) for soluble solids, by mass, and
    d = (A − a)/(a − A_d) for acidity, by volume. The larger is taken, and which of the two it is
    is said; what the diluent itself brings counts in both.

    Args:
        composition: the base.
        diluent: its composition, a material ("water", "water_sparkling") or a fruit's juice.
        brix: of the glass [g/100 g], 0.5 to 40.
        acid_g_l: acidity of the glass as citric acid [g/L], 0.5 to 40.

    Raises:
        OutOfRange: a glass that nobody drinks.
        Unreachable: the diluent is itself as sweet and as sharp as the glass may be.
        Unknown: a diluent that is not listed.

    Source: mass balance; defaults after common juice drinks.

    >>> base = of_material("sugar_white", 460) + of_material("citric_acid", 20)
    >>> base = base + of_material("water", 520)
    >>> thinned = ratio(base, "water")
    >>> round(thinned.parts, 1), thinned.limited_by
    (4.4, 'sweet')
    """
    check_range("Brix of the glass", brix, "°Bx", 0.5, 40)
    check_range("acidity of the glass", acid_g_l, "g/L", 0.5, 40)
    base, other = _first(composition), _first(_diluent(diluent))
    by_sweet = _by_sweet(base, other, brix)
    by_sharp = _by_sharp(base, other, acid_g_l)
    reached = [d for d in (by_sweet, by_sharp) if d <= MOST_PARTS]
    if not reached:
        raise Unreachable("what it is thinned with is itself as sweet as the glass may be")
    parts = max(reached)
    return Ratio(parts, "sweet" if by_sweet == parts else "sharp", by_sweet, by_sharp)


TEA_G_PER_L = 10.0
"""Leaves that a litre of tea is brewed with [g]; their insoluble part stays in the sieve."""
USUAL = ("water", "sparkling water", "tea", "apple juice")
OUT_OF_THE_JAR = (*USUAL, "wine")
"""What a drink is made with; wine is never part of what is said of a plan."""


@cache
def diluent(name: str) -> Composition:
    """A litre or so of one of the drinks that something is usually thinned with.

    Raises:
        Unknown: none of OUT_OF_THE_JAR.

    >>> round(float(diluent("tea").brix), 1)
    0.3
    """
    match name:
        case "water":
            return of_material("water", 1000.0)
        case "sparkling water":
            return of_material("water_sparkling", 1000.0)
        case "tea":
            leaves = of_material("tea_dried", TEA_G_PER_L).portion(1.0, 1.0, 0.0)
            return of_material("water", 1000.0) + leaves
        case "apple juice":
            return of_fruit_juice("apple", 1000.0)
        case "wine":
            return of_material("wine", 1000.0)
    raise Unknown("diluent", name)


MELTS = 0.35
"""Share of the ice that melts while a glass is drunk [-]; an estimate of ours."""
SPIRIT_ML_PER_G = 1.267
"""Ethanol: 1 / 0.789 [mL/g]."""
AS_IT_IS = 0.02
"""A part of diluent below this is none [-]."""


@dataclass(frozen=True)
class Wish:
    """A drink as it is wanted.

    ml: all of it, without its ice; brix, acid_g_l: what it is liked at; ice_g: ice in it [g];
    in_it: what goes in besides: spirit, powder, herbs, what is grated.
    """

    ml: float
    diluent: str = "water"
    brix: float = GLASS_BRIX
    acid_g_l: float = GLASS_ACID_G_L
    ice_g: float = 0.0
    in_it: tuple[Composition, ...] = ()


@dataclass(frozen=True)
class Drink:
    """What a drink takes and what it is.

    base_ml, diluent_ml: poured [mL]; melt_ml: what its ice gives [mL]; sugar_g: sugar that brings
    it to the sweetness that was wished, none where it is sweet enough [g]; brix, acid_g_l and
    alcohol_pct: of the drink before that sugar, once its ice is partly melted [g/100 g, g/L, % by
    volume]; limited_by: why it is thinned no less; too_thin: whether nothing
    thins it, since it is thinner than the drink itself.
    """

    base_ml: float
    diluent_ml: float
    melt_ml: float
    sugar_g: float
    brix: float
    acid_g_l: float
    alcohol_pct: float
    limited_by: Literal["sweet", "sharp", ""]
    too_thin: bool


def serve(base: Composition, wish: Wish) -> Drink:
    """How a drink is made of what is in a jar.

    The base and what goes in besides are thinned together as by ratio(); what ice gives while it
    is drunk counts as water. Where the base is thinner than the drink that was wished nothing thins
    it, and sugar puts it right.

    Args:
        base: what is in the jar.
        wish: the drink.

    Raises:
        OutOfRange: a drink of under 20 mL or over 100 L, or as nobody likes it.
        Unreachable: what it is thinned with is itself as sweet and as sharp as the drink may be.
        Unknown: a diluent that is not listed.

    Source: mass balance; MELTS.

    >>> syrup = of_material("sugar_white", 480) + of_material("water", 520)
    >>> drink = serve(syrup, Wish(200.0))
    >>> round(drink.base_ml), round(drink.diluent_ml), drink.sugar_g
    (37, 163, 0.0)
    """
    check_range("a drink", wish.ml, "ml", 20, 100_000)
    check_range("ice", wish.ice_g, "g", 0, 50_000)
    pure = _first(base)
    melt_ml = MELTS * wish.ice_g
    melt = of_material("water", max(1e-9, melt_ml))
    extra = sum((_first(c) for c in wish.in_it), Composition())
    other = diluent(wish.diluent)
    room = wish.ml - float(typical(extra.volume_ml))
    check_range("room beside what goes in", room, "ml", 10, 100_000)
    found = ratio(pure + extra * (typical(pure.volume_ml) / room), other, wish.brix, wish.acid_g_l)
    parts = found.parts if found.parts > AS_IT_IS else 0.0
    thinned_ml = parts / (1.0 + parts) * wish.ml
    melted = min(thinned_ml, melt_ml) if wish.diluent in WATERS else 0.0
    base_ml, diluent_ml = room - thinned_ml, thinned_ml - melted
    made = _litres(pure, base_ml) + _litres(_first(other), diluent_ml) + extra + melt
    mass, sweet = float(typical(made.mass_g)), float(typical(made.soluble_g))
    lacks = wish.brix / 100.0 * mass - sweet
    brix, volume = 100.0 * sweet / mass, float(typical(made.volume_ml))
    return Drink(
        base_ml=base_ml,
        diluent_ml=diluent_ml,
        melt_ml=melt_ml,
        sugar_g=lacks / (1.0 - wish.brix / 100.0) if brix < wish.brix - LEAST_SWEETER else 0.0,
        brix=brix,
        acid_g_l=float(typical(acid.titratable_acidity_g_l(made))),
        alcohol_pct=100.0 * float(typical(made.ethanol)) * SPIRIT_ML_PER_G / volume,
        limited_by=found.limited_by if parts else "",
        too_thin=not parts and float(typical(pure.brix)) < wish.brix - LEAST_SWEETER,
    )


WATERS = frozenset({"water", "sparkling water", "tea"})
LEAST_SWEETER = 0.5
"""A drink this near to the sweetness that was wished is sweet enough [g/100 g]."""


def _litres(composition: Composition, ml: float) -> Composition:
    """So much of it [mL]."""
    return composition * (max(0.0, ml) / float(typical(composition.volume_ml)))


def _diluent(diluent: Composition | str) -> Composition:
    if isinstance(diluent, Composition):
        return diluent
    if diluent in materials.fruits():
        return of_fruit_juice(diluent, 1000.0)
    return of_material(diluent, 1000.0)


def _first(composition: Composition) -> Composition:
    """The liquid in the typical case."""
    return composition.first().portion(1.0, 1.0, 0.0)


def _by_sweet(base: Composition, diluent: Composition, brix: float) -> float:
    short = typical(base.soluble_g) - brix / 100.0 * typical(base.mass_g)
    if short <= 0:
        return 0.0
    takes = brix / 100.0 * typical(diluent.mass_g) - typical(diluent.soluble_g)
    if takes <= 0:
        return math.inf
    return short / takes * typical(diluent.volume_ml) / typical(base.volume_ml)


def _by_sharp(base: Composition, diluent: Composition, acid_g_l: float) -> float:
    there = typical(acid.titratable_acidity_g_l(base))
    if there <= acid_g_l:
        return 0.0
    evenly = base * (1.0 / base.volume_ml) + diluent * (1.0 / diluent.volume_ml)
    brings = 2.0 * typical(acid.titratable_acidity_g_l(evenly)) - there
    return math.inf if brings >= acid_g_l else (there - acid_g_l) / (acid_g_l - brings)
