"""Freezing: how much of the water turns to ice, and how much more room that takes."""

from __future__ import annotations

import numpy as np

from elderberry.core import water
from elderberry.core.composition import Composition
from elderberry.core.errors import check_range
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
