"""The scales of what is filled: sweet, sharp, pH, sugar to acid, thick; and marks set on them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import numpy as np

from elderberry.core import acid, texture
from elderberry.core.errors import CannotTell, Unreachable, check_range
from elderberry.core.estimates import Estimate, from_draws
from elderberry.core.flow.lots import Lot
from elderberry.core.numbers import bisect, typical

Which = Literal["sweet", "sharp", "ph", "ratio", "thick"]
COLD_C = 20.0
PULP_PCT = 1.0
"""Pulp over which no figure says how it pours: a drop on a cold plate does [g/100 g]."""
THINNEST_BRIX, THICKEST_BRIX = 0.5, 84.0


@dataclass(frozen=True)
class Scale:
    """One scale of a lot: where it stands, between what, and in a word.

    limit: a figure that should not be passed. grows: whether a step along it is a factor.
    """

    key: Which
    name: str
    value: Estimate | None
    unit: str
    lo: float
    hi: float
    words: str = ""
    limit: float | None = None
    grows: bool = False


def scale(which: Which, lot: Lot, max_ph: float | None = None) -> Scale | None:
    """One scale of a lot; None where it lies loose."""
    return next((s for s in scales(lot, max_ph) if s.key == which), None)


def scales(lot: Lot, max_ph: float | None = None) -> tuple[Scale, ...]:
    """Every scale of a lot that can be told; none of what lies loose.

    Args:
        lot: what is filled.
        max_ph: the limit of the tested row it is for [-], if there is one.

    Source: acid.titratable_acidity_g_l, acid.sugar_to_acid, texture.viscosity_mpa_s.
    """
    if lot.loose:
        return ()
    figures = lot.figures
    sharp, ratio = _sharp(lot), _ratio(lot)
    thick, pours = _thick(lot)
    taste = acid.taste_word(ratio.typ) if ratio else ""
    return (
        Scale("sweet", "Sweet", figures.brix, "°Bx", 0.0, 80.0),
        Scale("sharp", "Sharp", sharp, "g/l", 0.0, 60.0),
        Scale("ph", "pH", figures.ph, "", 2.0, 5.0, limit=max_ph),
        Scale("ratio", "Sugar to acid", ratio, "", 0.0, 60.0, taste),
        Scale("thick", "Pours", thick, "mPa·s", 1.0, 30000.0, pours, grows=True),
    )


def _sharp(lot: Lot) -> Estimate | None:
    try:
        return from_draws(acid.titratable_acidity_g_l(lot.composition), lot.figures.evidence)
    except CannotTell:
        return None


def _ratio(lot: Lot) -> Estimate | None:
    try:
        return from_draws(acid.sugar_to_acid(lot.composition), lot.figures.evidence)
    except CannotTell:
        return None


def _thick(lot: Lot) -> tuple[Estimate | None, str]:
    """How thick it is cold [mPa·s], and in words."""
    if lot.figures.pulp_pct > PULP_PCT:
        return None, "a drop on a cold plate tells"
    brix = np.clip(np.asarray(lot.composition.brix), 0.0, THICKEST_BRIX)
    thick = from_draws(texture.viscosity_mpa_s(brix, COLD_C), lot.figures.evidence)
    return thick, f"like {texture.pours(thick.typ).removeprefix('pours like ')}"


def brix_for(which: Which, value: float, lot: Lot) -> float:
    """The sweetness at which a scale that sugar moves would stand at a mark [g/100 g].

    Args:
        which: ratio or thick.
        value: of the mark, in the scale's own unit.
        lot: what is sweetened or thinned; its acid stays.

    Raises:
        Unreachable: no sweetness gets there; nearest is the closest that one does.
    """
    if which == "thick":
        check_range("thickness", value, "mPa·s", 1.0, 30000.0)
        return _sweetness(lambda b: float(texture.viscosity_mpa_s(b, COLD_C)), value)
    composition = lot.composition.first()
    sour_g = 100.0 * typical(acid.titratable_acidity_g_l(composition)) / 1000.0
    if sour_g <= 0:
        raise Unreachable("there is no acid in it that sugar could stand against")
    volume = typical(composition.volume_ml)
    solids = typical(composition.soluble_g)
    liquid = typical(composition.mass_g) - typical(composition.insoluble)

    def ratio(brix: float) -> float:
        sugar_g = (brix * liquid / 100.0 - solids) / (1.0 - brix / 100.0)
        return brix / (sour_g * volume / (volume + 0.62 * sugar_g))

    return _sweetness(ratio, value)


def _sweetness(measure: Callable[[float], float], goal: float) -> float:
    """The sweetness at which a measure that rises with it reaches a goal [g/100 g]."""
    least, most = measure(THINNEST_BRIX), measure(THICKEST_BRIX)
    if not least <= goal <= most:
        raise Unreachable("no sweetness gets there", least if goal < least else most)
    return float(bisect(lambda b: goal - measure(float(b)), THINNEST_BRIX, THICKEST_BRIX))
