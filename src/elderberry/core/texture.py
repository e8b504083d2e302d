"""How a syrup feels and stands: viscosity, the cold plate, caramel, crystals and set."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np

from elderberry.core.composition import Composition
from elderberry.core.errors import CannotTell, Unknown, check_range
from elderberry.core.estimates import Z90, Estimate, Evidence
from elderberry.core.numbers import Values, as_given, bisect, least
from elderberry.core.sugar import sucrose_solubility_pct

MOST_BRIX = 86.0
"""Up to which the viscosity holds [g/100 g]."""


def viscosity_genotelle(brix: Values, temp_c: Values) -> Any:
    """Viscosity [mPa·s] of a sucrose solution, a few per cent to 80 Brix.

    N = B/(1900 − 18 B); log₁₀ η = 22.46 N − 0.114 + (30 − T)/(91 + T)·(1.1 + 43.1 N^1.25).

    Args:
        brix: sucrose [g/100 g], 0 to 86.
        temp_c: temperature [°C], 0 to 120.

    Raises:
        OutOfRange: outside those limits.

    Source: Génotelle (1978), Ind. Aliment. Agric. 95, 747.

    >>> round(viscosity_genotelle(60, 20)), round(viscosity_genotelle(70, 20))
    (60, 485)
    """
    check_range("Brix", brix, "°Bx", 0, MOST_BRIX)
    check_range("temperature", temp_c, "°C", 0, 120)
    b, t = np.asarray(brix, dtype=float), np.asarray(temp_c, dtype=float)
    n = b / (1900.0 - 18.0 * b)
    exponent = 22.46 * n - 0.114 + (30.0 - t) / (91.0 + t) * (1.1 + 43.1 * n**1.25)
    return as_given(10.0**exponent)


def viscosity_mpa_s(brix: Values, temp_c: Values) -> Any:
    """Viscosity [mPa·s] of a syrup of brix [g/100 g, 0 to 86] at temp_c [°C, 0 to 120].

    Raises:
        OutOfRange: outside those limits.

    Source: viscosity_genotelle.

    >>> round(viscosity_mpa_s(80, 104))
    34
    """
    return viscosity_genotelle(brix, temp_c)


def crystallisation_index(composition: Composition, temp_c: Values) -> Any:
    """Sucrose over what can stay dissolved at temp_c [-]: above 1 crystals come, 0.95–1 they may.

    (sucrose/water) / (same at saturation × (1 − 0.088 × invert/water)).

    Args:
        composition: a syrup; invert/water at most 2.5.
        temp_c: storage temperature [°C], 0 to 100.

    Raises:
        OutOfRange: outside those limits.
        CannotTell: no water.

    Source: Charles (1960) solubility; invert effect after Grut (1937).

    >>> round(crystallisation_index(Composition(water=33.4, sucrose=66.6), 20), 2)
    1.0
    """
    water = np.asarray(composition.water, dtype=float)
    if least(water) <= 0:
        raise CannotTell("there is no water to be dissolved in")
    invert = (np.asarray(composition.glucose) + np.asarray(composition.fructose)) / water
    check_range("invert sugar to water", invert, "", 0, 2.5)
    saturated = np.asarray(sucrose_solubility_pct(temp_c))
    held = saturated / (100.0 - saturated) * (1.0 - 0.088 * invert)
    return as_given(np.asarray(composition.sucrose) / water / held)


POURS = (
    (5.0, "pours like water"),
    (50.0, "pours like cream"),
    (300.0, "coats a spoon"),
    (3_000.0, "pours like runny honey"),
    (30_000.0, "stands like set honey"),
    (math.inf, "sets to toffee"),
)
"""Below which viscosity [mPa·s] a syrup behaves so; our own words on a usual scale."""
CARAMEL = (
    (132, "syrup"), (143, "soft crack"), (146, "between the cracks"), (154, "hard crack"),
    (155, "just before colour"), (167, "pale caramel"), (176, "amber"), (188, "dark"),
    (195.0000001, "bitter"), (math.inf, "burnt"),
)  # fmt: skip
GELS_FROM_BRIX = 65.0
GELS_PH = (2.8, 3.4)


@dataclass(frozen=True)
class ColdPlate:
    """How a syrup pours in the hot pot and on the cold plate: viscosity [mPa·s] and words."""

    hot_mpa_s: float
    cold_mpa_s: float
    hot: str
    cold: str


def pours(mpa_s: float) -> str:
    """The words for a viscosity [mPa·s], ≥ 0.

    Raises:
        OutOfRange: negative.

    >>> pours(4), pours(500)
    ('pours like water', 'pours like runny honey')
    """
    check_range("viscosity", mpa_s, "mPa·s", 0, 1e30)
    return next(words for below, words in POURS if mpa_s < below)


def cold_plate(brix: float, hot_c: float, cold_c: float = 20.0) -> ColdPlate:
    """What is thin in the hot pot, and how thick it is cold.

    Args:
        brix: syrup [g/100 g], 0 to 86.
        hot_c: pot [°C], 0 to 120.
        cold_c: plate [°C], 0 to 120.

    Raises:
        OutOfRange: outside those limits.

    Source: viscosity_genotelle.

    >>> cold_plate(70, 105).hot, cold_plate(70, 105).cold
    ('pours like cream', 'pours like runny honey')
    """
    hot, cold = viscosity_mpa_s(brix, hot_c), viscosity_mpa_s(brix, cold_c)
    return ColdPlate(hot, cold, pours(hot), pours(cold))


def brix_of_drop(words: str, cold_c: float = 20.0) -> Estimate:
    """Brix [g/100 g] that a drop on a plate at cold_c [°C, 0 to 40] tells by how it behaves.

    Read evidence: the band of viscosities that the words stand for.

    Raises:
        Unknown: words that are none of POURS.
        OutOfRange: a plate outside its limits.

    Source: inverts viscosity_genotelle.

    >>> drop = brix_of_drop("pours like runny honey")
    >>> round(drop.lo), round(drop.hi)
    (68, 76)
    """
    check_range("plate", cold_c, "°C", 0, 40)
    bands = [words for _, words in POURS]
    if words not in bands:
        raise Unknown("behaviour of a drop", words)
    place = bands.index(words)
    least = POURS[place - 1][0] if place else 0.0
    lo, hi = (brix_of_viscosity(v, cold_c) for v in (least, POURS[place][0]))
    return Estimate(lo, 0.5 * (lo + hi), hi, Evidence.READ)


def brix_of_viscosity(mpa_s: float, temp_c: float) -> float:
    """Brix [g/100 g] at which a syrup has a viscosity [mPa·s]; 0 or 86 beyond the formula's ends.

    Args:
        mpa_s: viscosity [mPa·s].
        temp_c: temperature [°C], 0 to 120.

    Source: inverts viscosity_genotelle.

    >>> round(brix_of_viscosity(60, 20))
    60
    """
    return float(bisect(lambda b: mpa_s - viscosity_genotelle(b, temp_c), 0.0, MOST_BRIX))


def corrected_by_drop(estimated: Estimate, words: str, cold_c: float = 20.0) -> Estimate:
    """A Brix estimate [g/100 g] corrected by how a drop on the cold plate really behaves.

    Both are taken as normal and weighted by their precision.

    Raises:
        Unknown: words that are none of POURS.
        OutOfRange: a plate outside its limits.

    Source: product of normal densities.

    >>> was = Estimate(60, 66, 72)
    >>> now = corrected_by_drop(was, "pours like runny honey")
    >>> 66 < now.typ < 73, now.hi - now.lo < was.hi - was.lo
    (True, True)
    """
    drop = brix_of_drop(words, cold_c)
    spreads = [max((e.hi - e.lo) / (2 * Z90), 1e-6) for e in (estimated, drop)]
    weights = [1.0 / s**2 for s in spreads]
    typ = (weights[0] * estimated.typ + weights[1] * drop.typ) / sum(weights)
    half = Z90 / math.sqrt(sum(weights))
    return Estimate(typ - half, typ, typ + half, Evidence.READ)


def caramel_stage(temp_c: float) -> str:
    """The stage of boiling sugar at temp_c [°C], 100 to 260.

    Raises:
        OutOfRange: outside those limits.

    Source: confectioners' tables.

    >>> caramel_stage(150), caramel_stage(170), caramel_stage(200)
    ('hard crack', 'amber', 'burnt')
    """
    check_range("sugar temperature", temp_c, "°C", 100, 260)
    return next(words for below, words in CARAMEL if temp_c < below)


def crystals(composition: Composition, temp_c: float) -> str:
    """What happens on the shelf at temp_c [°C, 0 to 100]: stays clear, may or will crystallise.

    By the crystallisation index up to invert/water 2.5; beyond that glucose granulates by
    glucose/water: over 1.7 slowly, over 2.1 surely.

    Raises:
        CannotTell: no water.
        OutOfRange: a temperature outside its limits.

    Source: crystallisation_index; glucose to water in honeys, White (1962).

    >>> [crystals(Composition(water=100 - b, sucrose=b), 20) for b in (62, 66, 70)]
    ['stays clear', 'may crystallise', 'will crystallise']
    """
    water = float(composition.water)
    if water <= 0:
        raise CannotTell("there is no water to be dissolved in")
    glucose, fructose = float(composition.glucose), float(composition.fructose)
    if (glucose + fructose) / water > 2.5:
        ratio = glucose / water
        slow = "granulates slowly" if ratio > 1.7 else "stays clear"
        return "granulates surely" if ratio > 2.1 else slow
    index = crystallisation_index(composition, temp_c)
    if index > 1.0:
        return "will crystallise"
    return "may crystallise" if index >= 0.95 else "stays clear"


def jelly_sets(brix: float, ph: float) -> bool:
    """Whether a full-sugar pectin jelly sets: at 65 Brix or more, and pH 2.8 to 3.4.

    Args:
        brix: soluble solids [g/100 g], 0 to 100.
        ph: pH [-], 1 to 8.

    Raises:
        OutOfRange: outside those limits.

    Source: high-methoxyl pectin, USDA guide 7; Thakur et al. (1997).

    >>> jelly_sets(66, 3.1), jelly_sets(60, 3.1)
    (True, False)
    """
    check_range("Brix", brix, "°Bx", 0, 100)
    check_range("pH", ph, "pH", 1, 8)
    return brix >= GELS_FROM_BRIX and GELS_PH[0] <= ph <= GELS_PH[1]
