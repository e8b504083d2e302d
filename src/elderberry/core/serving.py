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


@cache
def diluent(name: str) -> Composition:
    """A litre or so of one of the drinks that something is usually thinned with.

    Raises:
        Unknown: none of USUAL.

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
    raise Unknown("diluent", name)


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
