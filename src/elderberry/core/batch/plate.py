"""The cold plate at a pot: what its syrup does hot and cold, and what a drop of it has shown."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from elderberry.core import texture, water
from elderberry.core.batch.midway import Midway
from elderberry.core.composition import Composition
from elderberry.core.errors import CannotTell, Unreachable
from elderberry.core.estimates import Estimate
from elderberry.core.kitchen import Kitchen
from elderberry.core.operations.reducing import (
    COLD_C,
    Goal,
    boiled_down,
    inverted_share,
    pours_cold,
)

SYRUP_FROM_BRIX = 45.0
"""Under this a cold drop tells nothing worth knowing of a pot [°Bx]."""
PULP_PCT = 1.0
"""Over this a drop alone tells: pulp thickens what sugar would not [g/100 g]."""
THICKENS = "It thickens much more as it cools, and again overnight."


@dataclass(frozen=True)
class Plate:
    """What is known of a pot that is cooked to a syrup.

    stop_brix, stop_c: where it stops. hot, cold: how it pours then, in the pot and on the plate.
    hot_mpa_s, cold_mpa_s: the same as viscosities. now: as it is by the newest reading or drop.
    inverted_pct: share of its sugar split by then [%]. crystals: what it does on the shelf.
    """

    stop_brix: float
    stop_c: float
    hot: str
    cold: str
    hot_mpa_s: float
    cold_mpa_s: float
    inverted_pct: float
    crystals: str
    now: Estimate | None = None
    now_mpa_s: Estimate | None = None
    """How thick it would be cold by that [mPa·s]."""
    now_cold: str = ""
    left_min: Estimate | None = None
    back_g: float = 0.0
    drop: str = ""
    note: str = THICKENS


def plate(
    pot: Composition, goal: Goal, kitchen: Kitchen, minutes: float,
    seen: Midway | None = None, drop: str = "",
) -> Plate | None:  # fmt: skip
    """The cold plate of a pot; None where it does not become a syrup.

    Args:
        pot: what was in it when it came to the boil (typical case).
        goal: what it is cooked to.
        kitchen: where it boils.
        minutes: how long it is planned to boil [min].
        seen: how far it has come by the newest reading.
        drop: what the newest drop did, in words of texture.POURS.

    Source: texture.cold_plate; texture.crystals at the place of the jars.
    """
    try:
        down = boiled_down(pot, goal, kitchen)
        split = inverted_share(pot, down, minutes, kitchen.boiling_point_c)
        stop = float(down.result.brix)
    except (CannotTell, Unreachable):
        return None
    if stop < SYRUP_FROM_BRIX:
        return None
    brix = min(stop, texture.MOST_BRIX)
    does = texture.cold_plate(brix, min(down.boils_at_c, 120.0), COLD_C)
    there = seen.brix if seen else None
    return Plate(
        stop_brix=stop,
        stop_c=float(water.boiling_point_c(
            down.result, kitchen.altitude_m or 0.0, kitchen.pressure_pa)),
        hot=does.hot,
        cold=does.cold,
        hot_mpa_s=does.hot_mpa_s,
        cold_mpa_s=does.cold_mpa_s,
        inverted_pct=100.0 * split,
        crystals=texture.crystals(down.result.inverted(split), kitchen.store_c),
        now=there,
        now_mpa_s=_thick(there) if there else None,
        now_cold=pours_cold(there.typ) if there else "",
        left_min=seen.left_min if seen else None,
        back_g=seen.back_g if seen else 0.0,
        drop=drop,
        note=DROP_ALONE if _pulpy(pot) else THICKENS,
    )  # fmt: skip


def _thick(brix: Estimate) -> Estimate:
    """How thick a syrup is cold, over the range of its sweetness [mPa·s]."""
    lo, typ, hi = (
        float(texture.viscosity_mpa_s(min(max(b, 0.0), texture.MOST_BRIX), COLD_C))
        for b in (brix.lo, brix.typ, brix.hi)
    )
    return Estimate(lo, typ, hi, brix.evidence)


DROP_ALONE = "There is pulp in it: only a drop tells how thick it really is."


def _pulpy(pot: Composition) -> bool:
    return 100.0 * float(np.asarray(pot.insoluble)) / float(pot.mass_g) > PULP_PCT
