"""Back again: water for powder and dried fruit, by mass or by the spoon."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from elderberry.core.errors import check_range

BULK_G_ML = 0.45
"""What a millilitre of powder weighs where nobody measured it [g]."""
SPOON_ML = 15.0
Strength = Literal["as picked", "lighter", "stronger"]
STRENGTHS: dict[Strength, float] = {"as picked": 1.0, "lighter": 1.5, "stronger": 0.7}
"""Water for each strength, over the water that came out [-]."""


@dataclass(frozen=True)
class Back:
    """Water and powder of a drink [g], powder by the spoon, and fruit a spoon stands for [g]."""

    water_g: float
    powder_g: float
    spoons: float
    fruit_a_spoon_g: float


def back(
    powder_g: float, water_out_g: float, strength: Strength = "as picked",
    bulk_g_ml: float = BULK_G_ML,
) -> Back:  # fmt: skip
    """Water that makes powder into what it was: by mass it is exact, water back for water out.

    Args:
        powder_g: powder there is [g].
        water_out_g: water that came out of what became it [g].
        strength: as it was, or lighter or stronger.
        bulk_g_ml: what a millilitre of this powder weighs, as it was measured [g].

    Raises:
        OutOfRange: no powder, or a density that no powder has.

    Source: mass balance.

    >>> found = back(100.0, 900.0)
    >>> found.water_g, round(found.spoons, 1), round(found.fruit_a_spoon_g, 1)
    (900.0, 14.8, 67.5)
    """
    check_range("powder", powder_g, "g", 1e-3, 1e6)
    check_range("water that came out", water_out_g, "g", 0, 1e7)
    check_range("density of powder", bulk_g_ml, "g/ml", 0.1, 1.5)
    spoons = powder_g / (bulk_g_ml * SPOON_ML)
    return Back(
        water_g=water_out_g * STRENGTHS[strength],
        powder_g=powder_g,
        spoons=spoons,
        fruit_a_spoon_g=(powder_g + water_out_g) / spoons,
    )


def for_drink(
    ml: float, powder_g: float, water_out_g: float, strength: Strength = "as picked",
    bulk_g_ml: float = BULK_G_ML,
) -> Back:  # fmt: skip
    """Powder and water for a glass, a jug or a sachet of so many millilitres.

    A drink of so many millilitres weighs as many grams, to what a kitchen measures.

    Raises:
        OutOfRange: no drink, or no powder.

    >>> found = for_drink(250.0, 100.0, 900.0)
    >>> round(found.powder_g), round(found.water_g)
    (25, 225)
    """
    check_range("drink", ml, "ml", 10, 100_000)
    whole = back(powder_g, water_out_g, strength, bulk_g_ml)
    share = ml / (whole.powder_g + whole.water_g)
    return Back(
        whole.water_g * share, whole.powder_g * share, whole.spoons * share,
        whole.fruit_a_spoon_g,
    )  # fmt: skip
