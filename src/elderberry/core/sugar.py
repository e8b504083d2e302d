"""Sugar in water: density, Brix, specific gravity, sweetening, solubility and inversion."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from elderberry.core.errors import Unreachable, check_range
from elderberry.core.numbers import Array, Values, as_given, as_values, bisect, polynomial

WATER_20C_KG_M3 = 998.2
_ICUMSA = (385.1761, 135.3705, 40.9299, -3.9643, 13.4853, -17.2890)
_KELL = (999.83952, 16.945176, -7.9870401e-3, -46.170461e-6, 105.56302e-9, -280.54253e-12)


def density_kg_m3(brix: Values, temp_c: Values = 20) -> Any:
    """Density [kg/m³] of a sucrose solution.

    At 20 °C ρ = 998.2 + Σ aᵢ wⁱ (w mass fraction); at other temperatures times Kell's ratio
    for water. Good to 0.1 at 20 °C and to about 0.4 % up to 100 °C.

    Args:
        brix: sucrose [g/100 g], 0 to 85.
        temp_c: temperature [°C], 0 to 110.

    Raises:
        OutOfRange: outside those limits.

    Source: ICUMSA SPS-4 (1994) polynomial; Kell (1975).

    >>> round(density_kg_m3(20), 1), round(density_kg_m3(65), 1)
    (1081.0, 1316.6)
    """
    check_range("Brix", brix, "°Bx", 0, 85)
    return as_given(apparent_density_kg_m3(brix) * hot_ratio(temp_c))


def apparent_density_kg_m3(brix: Values) -> Any:
    """The same polynomial carried on to dry sugar, for volumes of mixes rather than of syrups.

    >>> round(apparent_density_kg_m3(100))
    1552
    """
    w = as_values(brix) / 100.0
    return as_given(WATER_20C_KG_M3 + w * polynomial(w, _ICUMSA))


def hot_ratio(temp_c: Values) -> Any:
    """Density of water at temp_c [°C, 0 to 110] over that at 20 °C [-]; volume divides by it.

    Raises:
        OutOfRange: outside those limits.

    Source: Kell (1975), J. Chem. Eng. Data 20, 97.

    >>> round(hot_ratio(88), 4)
    0.9684
    """
    check_range("temperature", temp_c, "°C", 0, 110)
    return _kell(as_values(temp_c)) / _kell(20.0)


def _kell(t: Any) -> Any:
    return polynomial(t, _KELL) / (1.0 + 16.879850e-3 * t)


def sg_from_brix(brix: Values) -> Any:
    """Specific gravity 20/20 [-] of a sucrose solution of brix [g/100 g, 0 to 85].

    Raises:
        OutOfRange: outside those limits.

    Source: ICUMSA density over that of water.

    >>> round(sg_from_brix(12), 4)
    1.0483
    """
    return density_kg_m3(brix) / WATER_20C_KG_M3


def brix_from_sg(sg: Values) -> Any:
    """Brix [g/100 g] from specific gravity 20/20 [-], 1.0 to 1.445; inverts sg_from_brix.

    Raises:
        OutOfRange: outside those limits.

    Source: as sg_from_brix.

    >>> round(brix_from_sg(sg_from_brix(47.3)), 6)
    47.3
    """
    check_range("specific gravity", sg, "", 1.0, float(sg_from_brix(85.0)))
    return bisect(lambda b: np.asarray(sg) - sg_from_brix(b), 0.0 * np.asarray(sg), 85.0)


def sg_at_20c(reading: Values, temp_c: Values, calibrated_c: Values = 20.0) -> Any:
    """Specific gravity 20/20 [-] from a hydrometer that floats in something warmer or colder.

    The reading times ρ(calibrated)/ρ(sample) of water: warm juice is thinner, so it reads low.
    Good to 0.001 up to 40 °C; what the glass itself swells is left out.

    Args:
        reading: on the hydrometer [-], 0.98 to 1.45.
        temp_c: of what it floats in [°C], 0 to 60.
        calibrated_c: for which the hydrometer is made [°C], 15 to 25; most for 20, some 15.6.

    Raises:
        OutOfRange: a figure outside its limits.

    Source: Kell (1975), the density ratio of water.

    >>> round(sg_at_20c(1.050, 30), 4), round(sg_at_20c(1.050, 20, 15.6), 4)
    (1.0527, 1.0508)
    """
    check_range("specific gravity", reading, "", 0.98, 1.45)
    check_range("temperature", temp_c, "°C", 0, 60)
    check_range("calibration", calibrated_c, "°C", 15, 25)
    return as_given(as_values(reading) * hot_ratio(calibrated_c) / hot_ratio(temp_c))


def refractometer_at_20c(brix: Values, temp_c: Values) -> Any:
    """Brix [g/100 g] at 20 °C from a reading of an uncompensated refractometer.

    Adds 0.0745 + 0.0001·brix per °C above 20, a fit good to 0.05 Brix.

    Args:
        brix: the reading [°Bx], 0 to 85.
        temp_c: temperature of the prism [°C], 10 to 40.

    Raises:
        OutOfRange: outside those limits.

    Source: ICUMSA temperature correction table (1974), fitted.

    >>> round(refractometer_at_20c(12.0, 30), 2)
    12.76
    """
    check_range("Brix", brix, "°Bx", 0, 85)
    check_range("temperature", temp_c, "°C", 10, 40)
    return as_given(brix + (0.0745 + 0.0001 * np.asarray(brix)) * (np.asarray(temp_c) - 20.0))


def sugar_to_reach(
    mass_g: Values, brix: Values, target_brix: Values, sugar_solids_pct: float = 100
) -> Any:
    """Sugar [g] to bring a juice to a target Brix: x = m (b − a)/(s − b).

    Args:
        mass_g: juice [g], ≥ 0.
        brix: its Brix [g/100 g], 0 to 100.
        target_brix: wanted Brix [g/100 g], at least brix.
        sugar_solids_pct: solids of the sugar [g/100 g]; honey is about 83.

    Raises:
        OutOfRange: a figure outside its limits.
        Unreachable: the juice is already sweeter, or the sugar itself is not that strong.

    Source: mass balance.

    >>> round(sugar_to_reach(1000, 12, 50))
    760
    """
    check_range("mass", mass_g, "g", 0, 1e9)
    for value in (brix, target_brix, sugar_solids_pct):
        check_range("Brix", value, "°Bx", 0, 100)
    if np.any(np.asarray(target_brix) < brix):
        raise Unreachable("sugar only raises Brix; to go down, thin with water")
    if np.any(np.asarray(target_brix) >= sugar_solids_pct):
        raise Unreachable("the sugar itself is not as strong as that; boil down instead")
    return as_given(mass_g * (np.asarray(target_brix) - brix) / (sugar_solids_pct - target_brix))


def water_to_reach(mass_g: Values, brix: Values, target_brix: Values) -> Any:
    """Water [g] to thin a syrup to a target Brix: m (a/b − 1).

    Args:
        mass_g: syrup [g], ≥ 0.
        brix: its Brix [g/100 g], 0 to 100.
        target_brix: wanted Brix [g/100 g], above 0, at most brix.

    Raises:
        OutOfRange: a figure outside its limits.
        Unreachable: the syrup is already thinner.

    Source: mass balance.

    >>> round(water_to_reach(1000, 70, 65), 1)
    76.9
    """
    check_range("mass", mass_g, "g", 0, 1e9)
    check_range("Brix", brix, "°Bx", 0, 100)
    check_range("target Brix", target_brix, "°Bx", 1e-6, 100)
    if np.any(np.asarray(target_brix) > brix):
        raise Unreachable("water only lowers Brix; to go up, add sugar or boil down")
    return as_given(mass_g * (np.asarray(brix) / target_brix - 1.0))


def sucrose_solubility_pct(temp_c: Values) -> Any:
    """Sucrose that dissolves [g/100 g solution] at temp_c [°C], 0 to 100.

    Raises:
        OutOfRange: outside those limits.

    Source: Charles (1960), Int. Sugar J. 62, 126.

    >>> round(sucrose_solubility_pct(20), 1)
    66.6
    """
    check_range("temperature", temp_c, "°C", 0, 100)
    t = np.asarray(temp_c, dtype=float)
    return as_given(64.397 + 0.07251 * t + 0.0020569 * t**2 - 9.035e-6 * t**3)


def inversion_rate_per_min(temp_c: Values, ph: Values, water_g_per_ml: Values) -> Any:
    """Rate k [1/min] at which acid and heat split sucrose; inverted share = 1 − exp(−∫k dt).

    log₁₀ k = 16.91 + log₁₀ c_w − 5670/T − pH, T in kelvin.

    Args:
        temp_c: temperature [°C], 20 to 150.
        ph: pH [-], 1 to 8.
        water_g_per_ml: water concentration at 20 °C [g/mL], 0.01 to 1.

    Raises:
        OutOfRange: outside those limits.

    Source: Vukov (1965), Int. Sugar J. 67, 172.

    >>> from math import exp
    >>> round(1 - exp(-45 * inversion_rate_per_min(104, 3.5, 0.282)), 2)
    0.26
    """
    check_range("temperature", temp_c, "°C", 20, 150)
    check_range("pH", ph, "pH", 1, 8)
    check_range("water", water_g_per_ml, "g/mL", 0.01, 1)
    kelvin = np.asarray(temp_c, dtype=float) + 273.15
    return as_given(10.0 ** (16.91 + np.log10(water_g_per_ml) - 5670.0 / kelvin - np.asarray(ph)))


def inverted_share(
    times_min: Sequence[float] | Array,
    temps_c: Sequence[float] | Array,
    ph: float,
    water_g_per_ml: float,
) -> float:
    """Share of sucrose [-] that acid and heat split over a pot's temperature record.

    1 − exp(−∫ k dt), by trapezoids; below 20 °C nothing counts.

    Args:
        times_min: times of the record [min], rising.
        temps_c: temperatures then [°C], at most 150.
        ph: pH [-], 1 to 8.
        water_g_per_ml: water concentration at 20 °C [g/mL], 0.01 to 1.

    Raises:
        OutOfRange: a figure outside its limits, or times that fall.

    Source: Vukov (1965), as inversion_rate_per_min.

    >>> round(inverted_share([0, 45], [104, 104], 3.5, 0.282), 2)
    0.26
    """
    times, temps = np.asarray(times_min, dtype=float), np.asarray(temps_c, dtype=float)
    check_range("temperature", temps, "°C", -40, 150)
    check_range("step of the record", np.diff(times), "min", 0, 1e6)
    rates = inversion_rate_per_min(np.maximum(temps, 20.0), ph, water_g_per_ml)
    return float(1.0 - np.exp(-np.trapezoid(np.where(temps < 20.0, 0.0, rates), times)))


def true_brix(reading: Values, acid_pct: Values) -> Any:
    """True soluble solids [g/100 g] from a refractometer reading: acid reads low by a fifth.

    reading + 0.2 × acid %.

    Args:
        reading: reading at 20 °C [°Bx], 0 to 85.
        acid_pct: acid [g/100 g], 0 to 12.

    Raises:
        OutOfRange: outside those limits.

    Source: Stevens and Baier (1939), refractometric correction for citric acid.

    >>> round(true_brix(8.0, 6.0), 2)
    9.2
    """
    check_range("Brix", reading, "°Bx", 0, 85)
    check_range("acid", acid_pct, "%", 0, 12)
    return as_given(np.asarray(reading) + 0.2 * np.asarray(acid_pct))


def sugar_alone_pct(reading: Values, acid_pct: Values) -> Any:
    """Sugar [g/100 g] from a refractometer reading: reading − 0.8 × acid %.

    Args:
        reading: reading at 20 °C [°Bx], 0 to 85.
        acid_pct: acid [g/100 g], 0 to 12.

    Raises:
        OutOfRange: outside those limits.

    Source: as true_brix.

    >>> round(sugar_alone_pct(8.0, 6.0), 2)
    3.2
    """
    return as_given(true_brix(reading, acid_pct) - np.asarray(acid_pct))


def refractometer_reads(true: Values, acid_pct: Values) -> Any:
    """What a refractometer shows [°Bx] for true soluble solids: acid reads low by a fifth.

    Args:
        true: true soluble solids [g/100 g], 0 to 85.
        acid_pct: acid [g/100 g], 0 to 12.

    Raises:
        OutOfRange: outside those limits.

    Source: as true_brix, the other way round.

    >>> round(refractometer_reads(9.2, 6.0), 2)
    8.0
    """
    check_range("Brix", true, "°Bx", 0, 85)
    check_range("acid", acid_pct, "%", 0, 12)
    return as_given(np.asarray(true) - 0.2 * np.asarray(acid_pct))
