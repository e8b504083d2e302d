"""How a syrup feels and stands: viscosity, the words for it, and crystals."""

from __future__ import annotations

from typing import Any

import numpy as np

from elderberry.core.composition import Composition
from elderberry.core.errors import CannotTell, check_range
from elderberry.core.numbers import Values, as_given
from elderberry.core.sugar import sucrose_solubility_pct


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
    check_range("Brix", brix, "°Bx", 0, 86)
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
    if np.any(water <= 0):
        raise CannotTell("there is no water to be dissolved in")
    invert = (np.asarray(composition.glucose) + np.asarray(composition.fructose)) / water
    check_range("invert sugar to water", invert, "", 0, 2.5)
    saturated = np.asarray(sucrose_solubility_pct(temp_c))
    held = saturated / (100.0 - saturated) * (1.0 - 0.088 * invert)
    return as_given(np.asarray(composition.sucrose) / water / held)
