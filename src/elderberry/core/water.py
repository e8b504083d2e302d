"""Water activity, and what hangs on it: boiling, freezing and keeping."""

from __future__ import annotations

from typing import Any

import numpy as np

from elderberry.core.acid import MOLAR_G
from elderberry.core.composition import Composition
from elderberry.core.errors import CannotTell, check_range
from elderberry.core.numbers import Array, Values, as_given, bisect, least, newton_bracketed

CRITICAL_K = 647.096
CRITICAL_PA = 22.064e6
_WAGNER = (-7.85951783, 1.84408259, -11.7866497, 22.6807411, -15.9618719, 1.80122502)
_EXPONENTS = (1.0, 1.5, 3.0, 3.5, 4.0, 7.5)
_SOLUTES: dict[str, tuple[float, float, float]] = {
    "sucrose": (342.30, 1.0, 6.47),
    "glucose": (180.16, 1.0, 2.25),
    "fructose": (180.16, 1.0, 2.25),
    "other_soluble": (342.0, 1.0, 0.0),
    "salt": (58.44, 2.0, 0.0),
    "erythritol": (122.1, 1.0, 0.0),
    "ethanol": (46.07, 1.0, 0.0),
    "citric": (MOLAR_G["citric"], 1.0, 6.17),
    "malic": (MOLAR_G["malic"], 1.0, 1.82),
    "tartaric": (MOLAR_G["tartaric"], 1.0, 4.68),
    "acetic": (MOLAR_G["acetic"], 1.0, 0.0),
    "ascorbic": (MOLAR_G["ascorbic"], 1.0, 0.0),
    "gluconic": (MOLAR_G["gluconic"], 1.0, 0.0),
    "succinic": (MOLAR_G["succinic"], 1.0, 0.0),
}
"""Molar mass [g/mol], particles, Norrish constant K of each solute."""
WATER_MOLAR_G = 18.01528


def saturation_pressure_pa(temp_c: Values) -> Any:
    """Vapour pressure [Pa] of pure water at temp_c [°C], 0.01 to 373.9.

    Raises:
        OutOfRange: outside those limits.

    Source: Wagner and Pruß (1993), IAPWS.

    >>> round(saturation_pressure_pa(100.0))
    101418
    """
    check_range("temperature", temp_c, "°C", 0, 373.9)
    kelvin = np.asarray(temp_c, dtype=float) + 273.15
    return as_given(np.exp(_log_pressure(kelvin)))


def _log_pressure(kelvin: Any) -> Any:
    tau = 1.0 - kelvin / CRITICAL_K
    series = sum(a * tau**e for a, e in zip(_WAGNER, _EXPONENTS, strict=True))
    return np.log(CRITICAL_PA) + CRITICAL_K / kelvin * series


def air_pressure_pa(altitude_m: Values) -> Any:
    """Air pressure [Pa] of the standard atmosphere at altitude_m [m], −430 to 9000.

    Raises:
        OutOfRange: outside those limits.

    Source: ICAO standard atmosphere (1993): 101 325 (1 − 2.25577e-5 h)^5.25588.

    >>> round(air_pressure_pa(1524))
    84307
    """
    check_range("altitude", altitude_m, "m", -430, 9000)
    return as_given(101325.0 * (1.0 - 2.25577e-5 * np.asarray(altitude_m, float)) ** 5.25588)


def altitude_from_pressure_m(pressure_pa: Values) -> Any:
    """Altitude [m] at which the standard atmosphere has this pressure: air_pressure_pa inverted.

    What a barometer shows today; weather moves it by up to about 250 m either way.

    Args:
        pressure_pa: not reduced to sea level [Pa], 30 000 to 106 000.

    Raises:
        OutOfRange: a pressure outside that.

    Source: ICAO Standard Atmosphere (Doc 7488).

    >>> round(altitude_from_pressure_m(air_pressure_pa(585.0)))
    585
    """
    check_range("air pressure", pressure_pa, "Pa", 30_000, 106_000)
    return (1.0 - (np.asarray(pressure_pa) / 101_325.0) ** (1.0 / 5.25588)) / 2.25577e-5


def water_activity(composition: Composition) -> Any:
    """Water activity [-]: ln a_w = ln x_w − (Σ √Kᵢ xᵢ)².

    Good to 0.01 for sugar syrups to 75 Brix.

    Raises:
        CannotTell: no water.

    Source: Norrish (1966), J. Food Technol. 1, 25.

    >>> round(water_activity(Composition(water=40, sucrose=60)), 3)
    0.895
    """
    water = np.asarray(composition.water, dtype=float) / WATER_MOLAR_G
    if least(water) <= 0:
        raise CannotTell("there is no water, so no water activity")
    amounts = {
        name: np.asarray(getattr(composition, name), dtype=float) / molar * particles
        for name, (molar, particles, _) in _SOLUTES.items()
    }
    total = water + sum(amounts.values())
    pull = sum(np.sqrt(_SOLUTES[name][2]) * n / total for name, n in amounts.items())
    return as_given(water / total * np.exp(-(pull**2)))


def boiling_point_c(
    composition_or_none: Composition | None = None,
    altitude_m: Values = 0,
    pressure_pa: Values | None = None,
) -> Any:
    """Boiling point [°C]: where a_w · p_sat(T) equals the air pressure.

    Within 0.5 °C for syrups to 80 Brix.

    Args:
        composition_or_none: what boils; None is plain water.
        altitude_m: altitude [m], −430 to 9000; not used when a pressure is given.
        pressure_pa: barometer at the place, not reduced to sea level [Pa], 30 000 to 110 000.

    Raises:
        OutOfRange: outside those limits.

    Source: Wagner–Pruß, ICAO, Norrish.

    >>> round(boiling_point_c(None, 1524), 2), round(boiling_point_c(), 2)
    (94.9, 99.97)
    """
    if pressure_pa is None:
        pressure_pa = air_pressure_pa(altitude_m)
    check_range("air pressure", pressure_pa, "Pa", 30_000, 110_000)
    activity = 1.0 if composition_or_none is None else water_activity(composition_or_none)
    wanted = np.log(np.asarray(pressure_pa, dtype=float) / activity)

    def short_of(celsius: Array) -> tuple[Any, Any]:
        kelvin = celsius + 273.15
        value = wanted - _log_pressure(kelvin)
        slope = -(_log_pressure(kelvin + 0.01) - _log_pressure(kelvin - 0.01)) / 0.02
        return value, slope

    return newton_bracketed(short_of, 40.0 + 0.0 * wanted, 250.0, 100.0)


def brix_from_boiling_point(temp_c: Values, altitude_m: Values = 0) -> Any:
    """Brix [g/100 g] of a sucrose syrup that boils at temp_c [°C] here; good to about ±1.5.

    Args:
        temp_c: boiling temperature [°C], from that of water here to that of 85 Brix.
        altitude_m: altitude [m], −430 to 9000.

    Raises:
        OutOfRange: colder than boiling water here, or over 85 Brix.

    Source: inverts boiling_point_c.

    >>> round(brix_from_boiling_point(105.5), 0)
    70.0
    """
    low = boiling_point_c(None, altitude_m)
    high = boiling_point_c(Composition(water=15.0, sucrose=85.0), altitude_m)
    check_range("boiling temperature", temp_c, "°C", float(np.max(low)) - 1e-6, float(np.min(high)))

    def short_of(brix: Array) -> Any:
        syrup = Composition(water=100.0 - brix, sucrose=1.0 * brix)
        return np.asarray(temp_c) - boiling_point_c(syrup, altitude_m)

    return bisect(short_of, 0.0 * np.asarray(temp_c), 85.0, steps=40)


def freezing_point_c(composition: Composition) -> Any:
    """Temperature [°C] at which the first ice appears; ±1 °C above 50 Brix.

    ln a_w = (6008/8.314)(1/273.15 − 1/T) + (38.1/8.314)(273.15/T − 1 − ln(273.15/T)).

    Raises:
        CannotTell: no water.
        OutOfRange: so much is dissolved that the law no longer holds (below −60 °C).

    Source: ideal-solution freezing with heat-capacity term; Norrish water activity.

    >>> round(freezing_point_c(Composition(water=80, sucrose=20)), 1)
    -1.5
    """
    wanted = np.log(water_activity(composition))
    check_range("log of water activity", wanted, "", float(_ice_law(np.asarray(213.15))), 0.0)
    kelvin = bisect(lambda t: wanted - _ice_law(t), 213.15 + 0.0 * wanted, 273.15)
    return as_given(np.asarray(kelvin) - 273.15)


def ice_activity(temp_c: float) -> float:
    """Water activity of what is in balance with ice at a temperature [-].

    Args:
        temp_c: temperature [°C], -60 to 0.

    Raises:
        OutOfRange: outside those limits.

    Source: the same law as freezing_point_c.

    >>> round(ice_activity(-18), 2)
    0.84
    """
    check_range("temperature of ice", temp_c, "°C", -60, 0)
    return float(np.exp(_ice_law(np.asarray(temp_c + 273.15))))


def _ice_law(kelvin: Any) -> Any:
    ratio = 273.15 / kelvin
    fusion = 6008.0 / 8.314 * (1.0 / 273.15 - 1.0 / kelvin)
    return fusion + 38.1 / 8.314 * (ratio - 1.0 - np.log(ratio))


KEEPING = (
    (0.60, "nothing grows"),
    (0.75, "keeps at room temperature while sealed"),
    (0.80, "tolerant moulds grow"),
    (0.86, "yeasts and moulds grow, bacteria do not"),
    (0.95, "needs cold or a process"),
    (float("inf"), "spoils fast"),
)


def keeping_class(activity: float) -> str:
    """How something keeps by its water activity [-], 0 to 1, in words.

    Raises:
        OutOfRange: outside those limits.

    Source: limits of growth after Scott (1957) and Beuchat (1983).

    >>> keeping_class(0.9), keeping_class(0.74)
    ('needs cold or a process', 'keeps at room temperature while sealed')
    """
    check_range("water activity", activity, "", 0, 1)
    edges = [edge for edge, _ in KEEPING]
    return KEEPING[sum(activity >= edge for edge in edges)][1]


def frozen_share(composition: Composition, temp_c: Values) -> Any:
    """Share of the water [-] that is ice at temp_c [°C], −60 to 0.

    What is not frozen is as concentrated as its freezing point says.

    Raises:
        OutOfRange: outside those limits.
        CannotTell: no water.

    Source: the freezing law of freezing_point_c, applied to the unfrozen part.

    >>> juice = Composition(water=88, sucrose=12)
    >>> round(frozen_share(juice, -18), 2)
    0.94
    """
    check_range("temperature", temp_c, "°C", -60, 0)
    wanted = np.exp(_ice_law(np.asarray(temp_c, dtype=float) + 273.15))
    water = np.asarray(composition.water, dtype=float)
    if least(water) <= 0:
        raise CannotTell("there is no water to freeze")

    def too_wet(share: Array) -> Any:
        return water_activity(composition - Composition(water=share * water)) - wanted

    dry = bisect(too_wet, 0.0 * (water + wanted), 1.0 - 1e-9)
    warm = np.asarray(wanted) >= water_activity(composition)
    return as_given(np.where(warm, 0.0, dry))


def ice_headspace_share(composition: Composition, temp_c: Values = -18.0) -> Any:
    """Share of the volume [-] to leave free for freezing to temp_c [°C, −60 to 0].

    Ice takes 9 % more room than its water.

    Raises:
        OutOfRange: outside those limits.
        CannotTell: no water.

    Source: density of ice 0.917 g/mL.

    >>> round(ice_headspace_share(Composition(water=88, sucrose=12)), 3)
    0.078
    """
    ice = frozen_share(composition, temp_c) * np.asarray(composition.water, dtype=float)
    return as_given(0.09 * ice / composition.volume_ml)
