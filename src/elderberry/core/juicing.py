"""Getting juice out: steam, what it leaves behind as water, and how long the pan lasts."""

from __future__ import annotations

import math

from elderberry.core.errors import check_range
from elderberry.core.heat import JUICE_KJ_KG_K, LATENT_KJ_KG

WALL_SHARE = 0.06
"""Share of the boil-off that condenses on the walls."""
LID_LIFT_KG = 0.05
KETTLE_SHARE = 0.5
"""Share of the condensate that reaches the juice; the rest stays in the pomace."""
PAN_RESERVE_KG = 0.5


def loads(fruit_kg: float, pack_kg_per_l: float, basket_l: float) -> int:
    """Basket loads that prepared fruit makes, mounded level.

    Args:
        fruit_kg: prepared fruit [kg], 0 to 1000.
        pack_kg_per_l: fruit that fills one litre [kg/L], 0.05 to 1.2.
        basket_l: basket volume [L], 0.5 to 100.

    Raises:
        OutOfRange: a figure outside its limits.

    Source: volumes.

    >>> loads(24.5, 0.62, 10)
    4
    """
    check_range("fruit", fruit_kg, "kg", 0, 1000)
    check_range("packing", pack_kg_per_l, "kg/L", 0.05, 1.2)
    check_range("basket", basket_l, "L", 0.5, 100)
    return max(1, math.ceil(fruit_kg / pack_kg_per_l / basket_l - 1e-9))


def condensate_kg(
    fruit_kg: float,
    boil_c: float,
    fruit_c: float = 15.0,
    boil_off_kg: float = 0.0,
    lid_lifts: int = 0,
) -> float:
    """Steam [kg] that turns to water on the fruit and the walls of a steam juicer.

    m · 3.7 (T_boil − T₀)/2257 + 6 % of the boil-off + 0.05 kg a lid lift. About half of it
    reaches the kettle (KETTLE_SHARE). An estimate, good to about a quarter.

    Args:
        fruit_kg: prepared fruit [kg], 0 to 100.
        boil_c: boiling point of water here [°C], 60 to 105.
        fruit_c: fruit as loaded [°C], -25 to 60.
        boil_off_kg: water boiled off during the load [kg], 0 to 50.
        lid_lifts: times the lid comes off during the load, 0 to 50.

    Raises:
        OutOfRange: a figure outside its limits.

    Source: energy balance; wall and lid figures are our estimates.

    >>> round(condensate_kg(6.0, 98.0, boil_off_kg=1.5, lid_lifts=1), 2)
    0.96
    """
    check_range("fruit", fruit_kg, "kg", 0, 100)
    check_range("boiling point", boil_c, "°C", 60, 105)
    check_range("fruit temperature", fruit_c, "°C", -25, 60)
    check_range("boil-off", boil_off_kg, "kg", 0, 50)
    check_range("lid lifts", lid_lifts, "", 0, 50)
    warming = fruit_kg * JUICE_KJ_KG_K * (boil_c - fruit_c) / LATENT_KJ_KG
    return warming + WALL_SHARE * boil_off_kg + LID_LIFT_KG * lid_lifts


def minutes_to_dry(water_kg: float, rate_kg_h: float) -> float:
    """Minutes until the water pan is down to its half-litre reserve.

    60 (water − 0.5 kg) / rate; zero when it is already there.

    Args:
        water_kg: water in the pan now [kg], 0 to 100.
        rate_kg_h: boil-off [kg/h], 0.05 to 50.

    Raises:
        OutOfRange: a figure outside its limits.

    Source: mass balance.

    >>> minutes_to_dry(3.5, 1.8)
    100.0
    """
    check_range("water", water_kg, "kg", 0, 100)
    check_range("boil-off", rate_kg_h, "kg/h", 0.05, 50)
    return max(0.0, 60.0 * (water_kg - PAN_RESERVE_KG) / rate_kg_h)
