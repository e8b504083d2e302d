"""Freezing: how much of the water turns to ice, and how much more room that takes."""

from __future__ import annotations

import numpy as np

from elderberry.core import water
from elderberry.core.composition import Composition
from elderberry.core.errors import check_range
from elderberry.core.estimates import Estimate
from elderberry.core.numbers import typical

ICE_SWELLS = 0.09
"""Ice takes up this much more room than the water it was [-]."""
_STEPS = 20


def frozen_share(composition: Composition, temp_c: float) -> float:
    """Share of the water that is ice at a temperature [-]: the rest is as strong as freezes there.

    Args:
        composition: the typical case.
        temp_c: of the freezer [°C], -40 to 0.

    Raises:
        OutOfRange: a temperature outside those limits.

    Source: water activity of the unfrozen part against that of ice.

    >>> frozen_share(Composition(water=900, sucrose=100), -18) > 0.8
    True
    """
    check_range("freezer", temp_c, "°C", -40, 0)
    whole = composition.first()
    there = typical(whole.water)
    wanted = water.ice_activity(temp_c)
    if there <= 0 or float(water.water_activity(whole)) <= wanted:
        return 0.0
    low, high = 0.0, 0.999
    for _ in range(_STEPS):
        share = 0.5 * (low + high)
        unfrozen = whole.without_water(share * there)
        wet = float(water.water_activity(unfrozen)) > wanted
        low, high = (share, high) if wet else (low, share)
    return low


THAW_H_A_KILO, THAW_POWER = 14.0, 0.7
"""Hours that a kilo takes to thaw in a refrigerator, and how that grows with its mass; ours."""


def thaw_h(grams: float) -> float:
    """Hours that something frozen takes to thaw in a refrigerator [h].

    Args:
        grams: of each bag, box or jar [g], 10 to 50 000.

    Raises:
        OutOfRange: a mass outside those limits.

    Source: our own reckoning; heat in through the surface, water to melt in proportion to mass.

    >>> thaw_h(1000.0)
    14.0
    """
    check_range("frozen mass", grams, "g", 10, 50_000)
    return float(THAW_H_A_KILO * (grams / 1000.0) ** THAW_POWER)


THAW_LO, THAW_HI = 0.8, 1.3
"""How much sooner and later than reckoned it has thawed, by its shape and refrigerator; ours."""


def thaws_h(grams: float) -> Estimate:
    """The same with the range that shapes and refrigerators make of it [h].

    >>> round(thaws_h(1000.0).hi, 1)
    18.2
    """
    hours = thaw_h(grams)
    return Estimate(THAW_LO * hours, hours, THAW_HI * hours)


def swelling_pct(composition: Composition, temp_c: float = -18.0) -> float:
    """How much of its volume something grows by as it freezes [% of volume].

    Nine hundredths of the water that turns to ice; syrups grow less, water itself by 9 %.

    Args:
        composition: the typical case.
        temp_c: of the freezer [°C], -40 to 0.

    Raises:
        OutOfRange: a temperature outside those limits.

    Source: density of ice; frozen_share.

    >>> 8 < swelling_pct(Composition(water=1000), -18) < 9.1
    True
    """
    whole = composition.first()
    ice = frozen_share(whole, temp_c) * typical(whole.water)
    volume = float(np.maximum(typical(whole.volume_ml), 1e-9))
    return 100.0 * ICE_SWELLS * ice / 0.9982 / volume
