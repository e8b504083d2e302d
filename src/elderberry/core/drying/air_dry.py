"""Drying in warm air: how far it is, how long it still takes, and where it is dry enough."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from elderberry.core.errors import OutOfRange, check_range
from elderberry.core.estimates import Estimate, Evidence

EQUILIBRIUM = 0.05
"""Moisture at which fruit stops drying in warm air [g/g wet]."""
CASE_HARDENS_C = 65.0
TARGETS: dict[str, tuple[float, float]] = {
    "slices": (0.15, 0.20), "leather": (0.12, 0.15), "peel": (0.10, 0.14), "herbs": (0.08, 0.12),
}  # fmt: skip
"""Moisture that each is dry enough at [g/g wet]."""
DRY_AW, SHELF_WET = 0.60, 0.18
"""Water activity at which what is dry is packed for the shelf, and the moisture it has there."""
REF_N = 1.05
LEAST_N, MOST_N = 0.5, 2.0
APART = 0.15
"""How far apart two weighings have to be to tell a slope [log of hours]."""
REF_K = {"slices": 0.22, "leather": 0.24, "peel": 0.30, "herbs": 0.45}
"""Rate of 6 mm at 57 °C in air of 50 % humidity [1/h^n]; estimates of ours after drying studies."""
REF_MM, REF_C, REF_RH = 6.0, 57.0, 50.0
ACTIVATION_K = 3800.0
"""Activation energy of diffusion in fruit over the gas constant [K]: about 32 kJ/mol."""


@dataclass(frozen=True)
class Page:
    """Page's curve: MR = exp(-k tⁿ), t in hours [1/hⁿ, -]."""

    k: float
    n: float

    def ratio(self, hours: float) -> float:
        """Moisture ratio after so many hours [-].

        >>> Page(0.2, 1.0).ratio(0.0)
        1.0
        """
        return math.exp(-self.k * max(0.0, hours) ** self.n)

    def hours_to(self, ratio: float) -> float:
        """Hours until a moisture ratio is reached [h].

        Raises:
            OutOfRange: a ratio outside 0 to 1.

        >>> round(Page(0.2, 1.0).hours_to(0.5), 2)
        3.47
        """
        check_range("moisture ratio", ratio, "", 1e-9, 1.0)
        return float((-math.log(ratio) / self.k) ** (1.0 / self.n))


def dry_basis(wet: float) -> float:
    """Moisture as water to solids [g/g] from water to the whole [g/g].

    Raises:
        OutOfRange: outside 0 to under 1.

    >>> dry_basis(0.8)
    4.0
    """
    check_range("moisture", wet, "", 0.0, 0.9999)
    return round(wet / (1.0 - wet), 12)


def moisture_ratio(wet: float, first_wet: float) -> float:
    """Moisture ratio on a dry basis, against an equilibrium of 5 % [-].

    Raises:
        OutOfRange: drier than air dries it, or wetter than it was.

    >>> moisture_ratio(0.85, 0.85)
    1.0
    """
    first, rest = dry_basis(first_wet), dry_basis(EQUILIBRIUM)
    check_range("moisture at first", first_wet, "", EQUILIBRIUM + 0.01, 0.9999)
    check_range("moisture", wet, "", EQUILIBRIUM, first_wet + 1e-9)
    return (dry_basis(wet) - rest) / (first - rest)


def usual(kind: str, thickness_mm: float, air_c: float, humidity_pct: float) -> Page:
    """The curve of a kind before it was weighed: by thickness, air and its humidity.

    k falls with the square of thickness and rises with temperature as diffusion does.

    Raises:
        OutOfRange: figures that no dryer has.

    Source: Fick's law for a slab; Arrhenius; figures of ours at the reference.

    >>> round(usual("slices", 6.0, 57.0, 50.0).k, 2)
    0.22
    """
    check_range("thickness", thickness_mm, "mm", 0.2, 30)
    check_range("air", air_c, "°C", 20, 80)
    check_range("humidity", humidity_pct, "%", 0, 95)
    if kind not in REF_K:
        raise OutOfRange("what is dried", 0.0, "", 0.0, 0.0)
    warm = math.exp(-ACTIVATION_K * (1.0 / (air_c + 273.15) - 1.0 / (REF_C + 273.15)))
    dry = (100.0 - humidity_pct) / (100.0 - REF_RH)
    return Page(REF_K[kind] * (REF_MM / thickness_mm) ** 2 * warm * dry, REF_N)


def fit(weighings: Sequence[tuple[float, float]], first_wet: float) -> Page:
    """The curve through weighings.

    ln(-ln MR) = ln k + n ln t, by least squares; with one weighing, or several close together, n
    stays as it usually is, and it is never outside what drying does.

    Args:
        weighings: hours since it went in, above 0, and its mass then over its mass at first [-].
        first_wet: moisture at first [g/g wet].

    Raises:
        OutOfRange: no weighing, or masses that no drying leads to.

    Source: Page (1949).

    >>> curve = fit([(2.0, 0.60), (5.0, 0.34)], 0.85)
    >>> 0.1 < curve.k < 0.6
    True
    """
    check_range("weighings", len(weighings), "", 1, 500)
    times, logs = [], []
    for hours, share in weighings:
        check_range("hours", hours, "h", 1e-3, 1000)
        ratio = moisture_ratio(wet_at(share, first_wet), first_wet)
        check_range("moisture ratio", ratio, "", 1e-6, 0.9999)
        times.append(math.log(hours))
        logs.append(math.log(-math.log(ratio)))
    slope = REF_N
    if max(times) - min(times) >= APART:
        slope = min(max(float(np.polyfit(times, logs, 1)[0]), LEAST_N), MOST_N)
    return Page(math.exp(float(np.mean(logs)) - slope * float(np.mean(times))), slope)


USUAL_SPREAD, WEIGHED_SPREAD = 0.25, 0.12
"""Share by which hours are off before anything was weighed, and after [-]."""


def until(curve: Page, first_wet: float, kind: str, weighed: bool = False) -> Estimate:
    """Hours until it is dry enough [h]: from its upper target to its lower one.

    Args:
        curve: as it usually goes, or through weighings.
        first_wet: moisture at first [g/g wet].
        kind: one of TARGETS.
        weighed: whether the curve goes through weighings.

    Raises:
        OutOfRange: drier than its target already.

    Source: Page (1949); SPREAD figures of ours.

    >>> hours = until(usual("slices", 6.0, 57.0, 50.0), 0.85, "slices")
    >>> 7 < hours.lo < hours.typ < hours.hi < 20
    True
    """
    low, high = TARGETS[kind]
    first, last = (curve.hours_to(moisture_ratio(m, first_wet)) for m in (high, low))
    spread = WEIGHED_SPREAD if weighed else USUAL_SPREAD
    known = Evidence.READ if weighed else Evidence.TYPICAL
    return Estimate(first * (1 - spread), (first + last) / 2.0, last * (1 + spread), known)


def wet_at(share: float, first_wet: float) -> float:
    """Moisture when so much of the first mass is left [g/g wet].

    Raises:
        OutOfRange: less than its solids are left, or more than there was.

    >>> round(wet_at(0.1875, 0.85), 3)
    0.2
    """
    solids = 1.0 - first_wet
    check_range("mass that is left", share, "", solids, 1.0)
    return 1.0 - solids / share


def mass_at(wet: float, first_wet: float) -> float:
    """What is left of the first mass at a moisture [-].

    >>> mass_at(0.2, 0.8)
    0.25
    """
    check_range("moisture", wet, "", 0.0, first_wet)
    return round((1.0 - first_wet) / (1.0 - wet), 12)


def share_at(ratio: float, first_wet: float) -> float:
    """What is left of the first mass at a moisture ratio [-].

    >>> share_at(1.0, 0.8)
    1.0
    """
    rest = dry_basis(EQUILIBRIUM)
    moist = rest + ratio * (dry_basis(first_wet) - rest)
    return mass_at(min(first_wet, moist / (1.0 + moist)), first_wet)


def water_activity(wet: float) -> float:
    """Water activity of dried fruit at a moisture [-], by a rule through its usual range.

    Source: sorption of dried fruit, Iglesias and Chirife (1982): 0.5 at 14 %, 0.6 at 18 %,
    0.75 at 27 %, read between.

    >>> round(water_activity(0.18), 2)
    0.6
    """
    check_range("moisture", wet, "", 0.0, 0.9999)
    moist = (0.0, 0.05, 0.10, 0.14, 0.18, 0.22, 0.27, 0.35, 0.50, 0.70, 0.9999)
    active = (0.0, 0.20, 0.38, 0.50, 0.60, 0.68, 0.75, 0.83, 0.92, 0.97, 1.0)
    return float(np.interp(wet, moist, active))
