"""Heat: how long a pot takes, what a burner drives off, and what happens inside the jar.

What happens in the jar is a picture, never a permission: no figure from here shortens a time.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from elderberry.core.errors import CannotTell, check_range
from elderberry.core.numbers import Array

Power = Literal["gas", "electric", "induction"]
EFFICIENCY: dict[str, float] = {"gas": 0.55, "electric": 0.75, "induction": 0.75}
"""Share of a burner's power that reaches the pot (estimates, science of cooktops, ± 0.1)."""
LATENT_KJ_KG = 2257.0
JUICE_KJ_KG_K = 3.7
"""Specific heat of fruit and juice at 10 to 20 Brix (Siebel 1892, rounded)."""


def minutes_to_heat(
    mass_kg: float, from_c: float, to_c: float, power_kw: float, kind: Power = "electric"
) -> float:
    """Minutes to bring fruit or juice from one temperature to another, without boiling.

    m c ΔT / (60 · kW · η); zero when it is already hotter.

    Args:
        mass_kg: what is heated [kg], 0 to 500.
        from_c: its temperature [°C], -5 to 150.
        to_c: wanted temperature [°C], -5 to 150.
        power_kw: burner [kW], 0.2 to 20.
        kind: how the burner heats.

    Raises:
        OutOfRange: a figure outside its limits.

    Source: energy balance; EFFICIENCY.

    >>> round(minutes_to_heat(5, 40, 88, 2.0))
    10
    """
    check_range("mass", mass_kg, "kg", 0, 500)
    check_range("temperature", from_c, "°C", -5, 150)
    check_range("temperature", to_c, "°C", -5, 150)
    needed_kj = mass_kg * JUICE_KJ_KG_K * max(to_c - from_c, 0.0)
    return needed_kj / (60.0 * useful_kw(power_kw, kind))


def useful_kw(power_kw: float, kind: Power = "electric") -> float:
    """Power of a burner that reaches the pot [kW].

    Args:
        power_kw: burner [kW], 0.2 to 20.
        kind: how the burner heats.

    Raises:
        OutOfRange: a figure outside its limits.

    Source: EFFICIENCY.

    >>> useful_kw(2.0)
    1.5
    """
    check_range("power", power_kw, "kW", 0.2, 20)
    return power_kw * EFFICIENCY[kind]


def evaporation_kg_h(power_kw: float, kind: Power = "electric") -> float:
    """Water [kg/h] that a steady boil drives off: 3600 · kW · η / 2257.

    Args:
        power_kw: burner [kW], 0.2 to 20, as it is set while boiling.
        kind: how the burner heats.

    Raises:
        OutOfRange: a figure outside its limits.

    Source: latent heat of water at 100 °C; EFFICIENCY.

    >>> round(evaporation_kg_h(2.0), 2)
    2.39
    """
    return 3600.0 * useful_kw(power_kw, kind) / LATENT_KJ_KG


STEAM_CANNER_KG_H_KW, VENTING_MIN = 1.6, 15.0
"""Water that a burner at full power drives off [kg/h per kW], and minutes until a dome vents."""


def steam_canner_water_kg(minutes: float, power_kw: float) -> float:
    """Water below the rack of a steam canner that lasts for a whole run at full power [kg].

    Args:
        minutes: the tested time [min], 0 to 600.
        power_kw: burner [kW], 0.2 to 20.

    Raises:
        OutOfRange: a figure outside its limits.

    Source: latent heat of water at the full power of the burner; venting is an estimate of ours.

    >>> round(steam_canner_water_kg(15, 2.0), 2)
    1.6
    """
    check_range("process", minutes, "min", 0, 600)
    check_range("power", power_kw, "kW", 0.2, 20)
    return STEAM_CANNER_KG_H_KW * power_kw * (minutes + VENTING_MIN) / 60.0


THIN_MPA_S, THICK_MPA_S = 5.0, 200.0
"""Viscosities at 60 °C below which juice circulates, and above which it only conducts."""
DIFFUSIVITY_M2_S = 1.4e-7
THIN_LAG, THICK_LAG = 1.2, 2.0
COOLING_FACTOR = 3.0
LETHAL_REF_C, LETHAL_Z_C = 93.3, 8.9
SHOCK_CAUTION_C, SHOCK_STOP_C = 40.0, 60.0


@dataclass(frozen=True)
class Heating:
    """How the coldest point follows the bath: f [min] for a tenfold approach, lag factor j [-]."""

    f_min: float
    lag: float


def heating(
    volume_ml: float,
    radius_mm: float,
    height_mm: float,
    viscosity_60c_mpa_s: float = 1.0,
    conducts: bool = False,
) -> Heating:
    """f and j of a jar by its size and how thick its content is.

    Thin: f = 8 min (V/473)^(1/3), j 1.2. Thick: conduction, f = 0.398/(α(1/r² + 0.427/h²)),
    j 2.0, h half the height. Between, log f over log viscosity.

    Args:
        volume_ml: content [mL], 20 to 5000.
        radius_mm: inner radius [mm], 5 to 200.
        height_mm: inner height [mm], 10 to 500.
        viscosity_60c_mpa_s: content at 60 °C [mPa·s], 0.1 to 1e6.
        conducts: purées over 1 % insolubles and gels, which do not circulate.

    Raises:
        OutOfRange: a figure outside its limits.

    Source: Ball and Olson (1957), finite cylinder; thin f from published juice heating curves.

    >>> heating(473, 38, 115).f_min
    8.0
    >>> round(heating(473, 38, 115, 5000).f_min)
    58
    """
    check_range("volume", volume_ml, "mL", 20, 5000)
    check_range("radius", radius_mm, "mm", 5, 200)
    check_range("height", height_mm, "mm", 10, 500)
    check_range("viscosity", viscosity_60c_mpa_s, "mPa·s", 0.1, 1e6)
    thin = 8.0 * (volume_ml / 473.0) ** (1.0 / 3.0)
    r, half = radius_mm / 1000.0, height_mm / 2000.0
    thick = 0.398 / (DIFFUSIVITY_M2_S * (1.0 / r**2 + 0.427 / half**2)) / 60.0
    if conducts or viscosity_60c_mpa_s >= THICK_MPA_S:
        return Heating(thick, THICK_LAG)
    if viscosity_60c_mpa_s <= THIN_MPA_S:
        return Heating(thin, THIN_LAG)
    share = math.log(viscosity_60c_mpa_s / THIN_MPA_S) / math.log(THICK_MPA_S / THIN_MPA_S)
    f = math.exp((1 - share) * math.log(thin) + share * math.log(thick))
    return Heating(f, THIN_LAG + share * (THICK_LAG - THIN_LAG))


def jar_temperatures(
    times_min: Sequence[float] | Array,
    bath_c: Sequence[float] | Array,
    start_c: float,
    how: Heating,
    room_c: float | None = None,
) -> Array:
    """Temperature [°C] of the coldest point of a jar at each time of a bath's record.

    (T_m − T)/(T_m − T₀) = min(1, j 10^(−t/f)) for a bath at one temperature; a bath that changes
    is followed step by step at the same rate after the lag. Where the bath is at room_c or
    below, the jar stands in air: it cools with three times the f and no lag.

    Args:
        times_min: times [min], rising.
        bath_c: what surrounds the jar then [°C], -30 to 130.
        start_c: the content as filled [°C], -30 to 130.
        how: from heating, or fitted to a probe's trace.
        room_c: air the jar cools in [°C]; None where it never leaves the bath.

    Raises:
        OutOfRange: a figure outside its limits, or times that fall.

    Source: log-linear heating and cooling, Ball (1923), superposed.

    >>> curve = jar_temperatures([0, 10, 30], [100, 100, 100], 60, Heating(8.0, 1.2))
    >>> [round(float(t), 1) for t in curve]
    [60.0, 97.3, 100.0]
    """
    times, bath = np.asarray(times_min, dtype=float), np.asarray(bath_c, dtype=float)
    check_range("step of the record", np.diff(times), "min", 0, 1e6)
    check_range("bath", bath, "°C", -30, 130)
    check_range("filling temperature", start_c, "°C", -30, 130)
    lag = how.f_min * math.log10(how.lag)
    now, out = start_c, [start_c]
    for n in range(1, times.size):
        around = 0.5 * (bath[n - 1] + bath[n])
        airborne = room_c is not None and around <= room_c + 0.5
        f = COOLING_FACTOR * how.f_min if airborne else how.f_min
        since = 0.0 if airborne else lag
        step = max(0.0, times[n] - max(times[n - 1], times[0] + since))
        now = around + (now - around) * 10.0 ** (-step / f)
        out.append(now)
    return np.array(out)


def lethality_min(times_min: Sequence[float] | Array, temps_c: Sequence[float] | Array) -> float:
    """Lethality [equivalent minutes at 93.3 °C]: ∫ 10^((T − 93.3)/8.9) dt, by trapezoids.

    Args:
        times_min: times [min], rising.
        temps_c: coldest point then [°C], -30 to 130; cooling included.

    Raises:
        OutOfRange: a figure outside its limits, or times that fall.

    Source: reference for acid foods, NFPA Bulletin 26-L; a picture, never a permission.

    >>> lethality_min([0, 10], [93.3, 93.3])
    10.0
    """
    times, temps = np.asarray(times_min, dtype=float), np.asarray(temps_c, dtype=float)
    check_range("step of the record", np.diff(times), "min", 0, 1e6)
    check_range("temperature", temps, "°C", -30, 130)
    rates = 10.0 ** ((temps - LETHAL_REF_C) / LETHAL_Z_C)
    return float(np.trapezoid(rates, times))


@dataclass(frozen=True)
class InsideJar:
    """The coldest point of a jar through its process: a picture, never a permission.

    times_min [min] from the first full boil, temps_c [°C], and the lethality [min at 93.3 °C] of
    it. counted_min: from which of these minutes the time counts, since the boil was lost before.
    """

    times_min: tuple[float, ...]
    temps_c: tuple[float, ...]
    boiling_c: float
    lethality_min: float
    counted_min: float = 0.0


LOST_C_PER_MIN, LOST_LEAST_C = 1.0, 80.0
"""How fast a bath that is off the boil cools, and how far at the most; estimates [°C/min, °C]."""


def inside_jar(
    minutes: float, start_c: float, boiling_c: float, how: Heating, cooling_min: float = 20.0,
    lost: Sequence[tuple[float, float]] = (),
) -> InsideJar:  # fmt: skip
    """The coldest point from the full boil to some time in the air afterwards, minute by minute.

    Args:
        minutes: time at the boil [min], 1 to 240.
        start_c: content as it goes in [°C], -30 to 130.
        boiling_c: the bath [°C], 60 to 105.
        how: from heating, or fitted to a probe's trace.
        cooling_min: minutes in air at 20 °C to show after it [min], 0 to 240.
        lost: before it, minutes that it boiled and then did not, each time it was lost [min].

    Raises:
        OutOfRange: a figure outside its limits.

    Source: jar_temperatures and lethality_min; LOST_C_PER_MIN for a bath off the boil.

    >>> seen = inside_jar(15, 85, 98, Heating(8.0, 1.2))
    >>> round(seen.temps_c[15], 1), len(seen.times_min)
    (97.8, 36)
    """
    check_range("process", minutes, "min", 1, 240)
    check_range("boiling point", boiling_c, "°C", 60, 105)
    check_range("cooling", cooling_min, "min", 0, 240)
    before = [_lost(on, off, boiling_c) for on, off in lost]
    counted = float(sum(len(spell) for spell in before))
    times = np.arange(0.0, counted + math.ceil(minutes) + math.ceil(cooling_min) + 1.0)
    bath = np.where(times <= counted + minutes, boiling_c, 20.0)
    if before:
        bath[: int(counted)] = np.concatenate(before)
    temps = jar_temperatures(times, bath, start_c, how, room_c=20.0)
    return InsideJar(
        tuple(float(t) for t in times),
        tuple(float(t) for t in temps),
        boiling_c,
        lethality_min(times, temps),
        counted,
    )


def _lost(on_min: float, off_min: float, boiling_c: float) -> Array:
    """A bath minute by minute that boiled and then did not [°C]."""
    check_range("minutes at and off the boil", np.array([on_min, off_min]), "min", 0, 1440)
    off = np.arange(1.0, math.ceil(off_min) + 1.0)
    cooled = np.maximum(LOST_LEAST_C, boiling_c - LOST_C_PER_MIN * off)
    return np.concatenate([np.full(math.ceil(on_min), boiling_c), cooled])


def fit_heating(
    times_min: Sequence[float] | Array, temps_c: Sequence[float] | Array, bath_c: float
) -> Heating:
    """f and j from a probe's trace in a bath at one temperature, by least squares.

    A straight line through log₁₀((T_m − T)/(T_m − T₀)), over the points that are under way and
    not yet at the bath.

    Args:
        times_min: times [min], rising.
        temps_c: probe [°C].
        bath_c: bath [°C], above the probe at the start.

    Raises:
        CannotTell: fewer than four points on the way, or the trace does not rise.
        OutOfRange: a bath that is no warmer than the jar.

    Source: Ball (1923).

    >>> t = np.arange(0.0, 40.0)
    >>> trace = jar_temperatures(t, np.full_like(t, 98.0), 70.0, Heating(11.0, 1.4))
    >>> found = fit_heating(t, trace, 98.0)
    >>> round(found.f_min, 1), round(found.lag, 1)
    (11.0, 1.4)
    """
    times, temps = np.asarray(times_min, dtype=float), np.asarray(temps_c, dtype=float)
    check_range("bath over the jar", bath_c - temps[0], "°C", 1, 130)
    left = (bath_c - temps) / (bath_c - temps[0])
    under_way = (left < 0.95) & (left > 0.02)
    if int(under_way.sum()) < 4:
        raise CannotTell("the trace has too few points on the way up: record it more often")
    slope, height = np.polyfit(times[under_way] - times[0], np.log10(left[under_way]), 1)
    if slope >= 0:
        raise CannotTell("the trace does not approach the bath")
    return Heating(float(-1.0 / slope), float(10.0**height))


def thermal_shock(jar_c: float, fill_c: float, bath_c: float) -> tuple[float, str]:
    """The largest step [°C] a jar's wall takes between jar, fill and bath, and its level.

    Over 40 °C is a caution, over 60 a stop.

    Args:
        jar_c: empty jar [°C].
        fill_c: what goes in [°C].
        bath_c: what it goes into [°C].

    Source: soda-lime glass, makers' directions.

    >>> thermal_shock(80, 88, 98), thermal_shock(20, 88, 98)
    ((10.0, ''), (68.0, 'stop'))
    """
    step = float(max(abs(fill_c - jar_c), abs(bath_c - fill_c)))
    if step > SHOCK_STOP_C:
        return step, "stop"
    return step, "caution" if step > SHOCK_CAUTION_C else ""
