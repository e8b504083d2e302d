"""One sweetener for another: as sweet to the tongue, and what else that brings."""

from __future__ import annotations

from functools import cache

from elderberry.core import materials, tables
from elderberry.core.errors import CannotTell, check_range

USUAL = ("sugar_white", "honey", "maple_syrup", "agave_syrup", "sugar_brown", "fructose",
         "erythritol", "stevia_spoon")  # fmt: skip
"""Those that are offered for another, the plainest first."""


@cache
def against_sugar(material: str) -> float:
    """How sweet a sweetener is to the tongue against the same weight of white sugar [-].

    Raises:
        Unknown: not listed.
        CannotTell: it does not sweeten.

    Source: data/sweetness.csv, by the sugars in it.

    >>> against_sugar("sugar_white"), round(against_sugar("honey"), 2)
    (1.0, 0.7)
    """
    item = materials.ingredient(material)
    known = _sweetness()
    if material in known:
        return known[material]
    found = (
        item.sucrose * known["sucrose"]
        + item.glucose * known["glucose"]
        + item.fructose * known["fructose"]
    )
    if found <= 0:
        raise CannotTell(f"{item.name} does not sweeten")
    return found


def as_sweet_g(material: str, grams: float, other: str) -> float:
    """How much of another sweetener tastes as sweet as so much of one [g].

    Args:
        material: what goes in now.
        grams: how much of it [g], 0 to 1e6.
        other: what is to go in instead.

    Raises:
        Unknown: not listed.
        CannotTell: one of them does not sweeten.
        OutOfRange: an amount that nobody uses.

    >>> round(as_sweet_g("sugar_white", 500, "stevia_spoon"))
    237
    """
    check_range("sweetener", grams, "g", 0, 1e6)
    return grams * against_sugar(material) / against_sugar(other)


@cache
def _sweetness() -> dict[str, float]:
    return {row["what"]: float(row["against_sugar"]) for row in tables.rows("sweetness")}
