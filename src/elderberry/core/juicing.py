"""Getting juice out: steam and its water, draining, second pressings, and unmeasured water."""

from __future__ import annotations

import math

from elderberry.core.errors import CannotTell, check_range
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.heat import JUICE_KJ_KG_K, LATENT_KJ_KG

WALL_SHARE = 0.06
"""Share of the boil-off that condenses on the walls."""
LID_LIFT_KG = 0.05
KETTLE_SHARE = 0.5
"""Share of the condensate that reaches the juice; the rest stays in the pomace."""
PAN_RESERVE_KG = 0.5
FINE_PULP_TAU_H = 4.0
CRUSHED_TAU_H = 2.0 / 3.0
"""How long half of what will drain takes: simmered to a pulp, or crushed and skins in [h]."""
FRUIT_KG_PER_L = 1.03
"""Density of whole fruit without the air between [kg/L]."""
COVER_L_PER_L = 0.12
"""A finger of water over the fruit, per litre of bed [L/L]."""
DEPTH_ERROR_CM = 0.7
"""Half-width of the 80 % range of a spoon handle held into a pot [cm]."""


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


def drained_share(hours: float, tau_h: float) -> float:
    """Share of all that will ever drain that has drained by now [-]: t/(t + τ).

    Args:
        hours: since it was hung or weighted [h], 0 to 200.
        tau_h: time to the first half [h], 0.05 to 24; FINE_PULP_TAU_H or CRUSHED_TAU_H.

    Raises:
        OutOfRange: a figure outside its limits.

    Source: a curve that flattens, fitted to hanging bags; our estimate of τ.

    >>> drained_share(4, 4), round(drained_share(12, CRUSHED_TAU_H), 2)
    (0.5, 0.95)
    """
    check_range("hours", hours, "h", 0, 200)
    check_range("half-drained time", tau_h, "h", 0.05, 24)
    return hours / (hours + tau_h)


def recovered_share(water_ml: float, held_ml: float) -> float:
    """Share of the solids held in pomace that a second pressing with water gets back [-].

    One equilibrium stage: the water mixes with what is held, and as much drains as was added,
    so the share is water/(water + held).

    Args:
        water_ml: water stirred in [mL], 0 to 1e6.
        held_ml: liquid in the pomace [mL], above 0 to 1e6.

    Raises:
        OutOfRange: a figure outside its limits.

    Source: one-stage leaching balance.

    >>> recovered_share(600, 300) == 600 / 900
    True
    """
    check_range("water", water_ml, "mL", 0, 1e6)
    check_range("liquid held", held_ml, "mL", 1e-6, 1e6)
    return water_ml / (water_ml + held_ml)


def water_to_cover_l(fruit_kg: float, pack_kg_per_l: float) -> Estimate:
    """Water that just covers fruit in a pot [L]: the room between, and a finger over it.

    Args:
        fruit_kg: fruit in the pot [kg], 0 to 500.
        pack_kg_per_l: fruit that fills one litre [kg/L], 0.05 to 1.2.

    Raises:
        OutOfRange: a figure outside its limits.

    Source: bed volume less fruit volume; the range is what pots and hands differ by.

    >>> round(water_to_cover_l(2.0, 0.55).typ, 2)
    2.13
    """
    check_range("fruit", fruit_kg, "kg", 0, 500)
    check_range("packing", pack_kg_per_l, "kg/L", 0.05, 1.2)
    bed = fruit_kg / pack_kg_per_l
    room = max(0.0, bed - fruit_kg / FRUIT_KG_PER_L)
    water = room + COVER_L_PER_L * bed
    return Estimate(0.7 * water, water, 1.4 * water, Evidence.READ)


def water_from_depth_l(depth_cm: float, diameter_cm: float, fruit_kg: float) -> Estimate:
    """Water that was added, read off the depth in the pot [L]: π d²/4 · depth less the fruit.

    Args:
        depth_cm: liquid and fruit, measured from the bottom [cm], 0.5 to 100.
        diameter_cm: of the pot inside [cm], 5 to 100.
        fruit_kg: fruit in it [kg], 0 to 500.

    Raises:
        OutOfRange: a figure outside its limits.
        CannotTell: the fruit alone stands higher than that.

    Source: volume of a cylinder; the depth is good to DEPTH_ERROR_CM.

    >>> round(water_from_depth_l(12, 24, 2.0).typ, 2)
    3.49
    """
    check_range("depth", depth_cm, "cm", 0.5, 100)
    check_range("diameter", diameter_cm, "cm", 5, 100)
    check_range("fruit", fruit_kg, "kg", 0, 500)
    base_l_per_cm = math.pi * diameter_cm**2 / 4000.0
    fruit_l = fruit_kg / FRUIT_KG_PER_L
    water = base_l_per_cm * depth_cm - fruit_l
    if water <= 0:
        raise CannotTell(
            f"{depth_cm:g} cm in a pot of {diameter_cm:g} cm is less than the fruit alone"
        )
    error = math.hypot(base_l_per_cm * DEPTH_ERROR_CM, 0.05 * fruit_l)
    return Estimate(max(0.0, water - error), water, water + error, Evidence.READ)


def water_from_brix_l(own_brix: Estimate, liquid_kg: float, mixed_brix: float) -> Estimate:
    """Water that was added, read off how thin the liquor has become [L]: m (b₀/b − 1).

    Args:
        own_brix: of the fruit's own juice [g/100 g].
        liquid_kg: the fruit's own juice that mixed with it [kg], 0 to 500.
        mixed_brix: of the liquor [g/100 g], 0.2 to 60.

    Raises:
        OutOfRange: a figure outside its limits.
        CannotTell: the liquor is stronger than the fruit, so no water can be told.

    Source: mass balance of solids.

    >>> water_from_brix_l(Estimate(11, 12, 13), 1.5, 6.0).typ
    1.5
    """
    check_range("liquid", liquid_kg, "kg", 0, 500)
    check_range("Brix of the liquor", mixed_brix, "°Bx", 0.2, 60)
    low, mid, high = (
        liquid_kg * (b / mixed_brix - 1.0) for b in (own_brix.lo, own_brix.typ, own_brix.hi)
    )
    if high <= 0:
        raise CannotTell(f"{mixed_brix:g} °Bx is stronger than the fruit: no water can be told")
    mid = max(0.0, mid)
    return Estimate(max(0.0, min(low, mid)), mid, max(mid, high), Evidence.READ)
