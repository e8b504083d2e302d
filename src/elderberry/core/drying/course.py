"""How far a tray has dried: its curve before it was weighed, put right by every weighing."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from elderberry.core.drying import air_dry, freeze_dry
from elderberry.core.errors import OutOfRange
from elderberry.core.estimates import Estimate, Evidence

POINTS = 24
AN_HOUR_APART_H = 0.75
"""Two weighings tell the end when they lie so far apart [h]."""
VACUUM_POWER = 1.5
"""How the last water leaves ever more slowly under vacuum: left = (1 - t/T)^1.5; ours."""
WEIGHED_SPREAD = 0.15
"""Share by which the hours of a tray in vacuum are off once it was weighed [-]."""
Weighing = tuple[float, float]
"""Hours since it went in, and what a tray weighed then [h, g]."""


@dataclass(frozen=True)
class Drawn:
    """A point of the curve: hours, and what the tray weighs then with its range [h, g]."""

    h: float
    lo: float
    typ: float
    hi: float


@dataclass(frozen=True)
class Course:
    """A tray as it dries.

    first_g, last_g, enough_g: as it went in, at its driest, and from where it is dry enough [g].
    hours: when it is dry, since it went in [h]. dry: whether weighings say that it is.
    """

    first_g: float
    last_g: float
    enough_g: float
    hours: Estimate
    dry: bool
    curve: tuple[Drawn, ...]
    weighings: tuple[Weighing, ...]

    def left_h(self, after_h: float) -> Estimate:
        """Hours that it still takes after so many [h]; none where it is dry."""
        if self.dry:
            return Estimate(0.0, 0.0, 0.0, Evidence.MEASURED)
        lo, typ, hi = (
            max(0.0, h - after_h) for h in (self.hours.lo, self.hours.typ, self.hours.hi)
        )
        return Estimate(lo, typ, hi, self.hours.evidence)


def course(
    role: str, params: Mapping[str, Any], hours: Estimate, weighings: Sequence[Weighing] = ()
) -> Course:
    """How a tray of a drying step goes, by its figures and what was weighed of it.

    Args:
        role: freeze_dry or air_dry.
        params: of the step, as operations/drying.py lays it out.
        hours: how long it was planned for [h].
        weighings: of one of its trays, in their order.

    Source: drying.air_dry, Page's curve through weighings; drying.freeze_dry, its end.
    """
    if role == "air_dry":
        return _air(params, weighings)
    return _vacuum(params, hours, weighings)


def _air(params: Mapping[str, Any], weighings: Sequence[Weighing]) -> Course:
    first_g, wet, what = float(params["tray_g"]), float(params["first_wet"]), str(params["what"])
    low, high = air_dry.TARGETS[what]
    last_g, enough_g = (first_g * air_dry.mass_at(m, wet) for m in (low, high))
    curve = air_dry.Page(float(params["k"]), float(params["n"]))
    told = [(h, g) for h, g in weighings if h > 0.05 and _may_be(g / first_g, wet)]
    if told:
        curve = air_dry.fit([(h, g / first_g) for h, g in told], wet)
    until = air_dry.until(curve, wet, what, weighed=bool(told))

    def weighs(hours: float) -> float:
        return first_g * air_dry.share_at(curve.ratio(max(0.0, hours)), wet)

    dry = bool(weighings) and weighings[-1][1] <= enough_g
    return Course(first_g, last_g, enough_g, until, dry, _drawn(weighs, until), tuple(weighings))


def _may_be(share: float, wet: float) -> bool:
    """Whether so much of the first mass can be left while it still dries."""
    try:
        ratio = air_dry.moisture_ratio(air_dry.wet_at(share, wet), wet)
    except OutOfRange:
        return False
    return 1e-4 < ratio < 0.999


def _vacuum(params: Mapping[str, Any], hours: Estimate, weighings: Sequence[Weighing]) -> Course:
    first_g = float(params["tray_g"])
    water_g = 1000.0 * float(params["tray_water_kg"])
    last_g = first_g - water_g
    until = hours
    told = [(h, g) for h, g in weighings if h > 0.5 and last_g < g < 0.98 * first_g]
    if told:
        h, g = told[-1]
        gone = 1.0 - ((g - last_g) / water_g) ** (1.0 / VACUUM_POWER)
        typ = h / max(gone, 0.02)
        off = WEIGHED_SPREAD
        until = Estimate(max(h, typ * (1 - off)), typ, typ * (1 + off), Evidence.READ)

    def weighs(at: float) -> float:
        left = max(0.0, 1.0 - max(0.0, at) / until.typ)
        return float(last_g + water_g * left**VACUUM_POWER)

    enough_g = last_g * 1.02
    return Course(
        first_g, last_g, enough_g, until, ended(weighings), _drawn(weighs, until),
        tuple(weighings),
    )  # fmt: skip


def ended(weighings: Sequence[Weighing]) -> bool:
    """Whether the last two weighings an hour apart are the same.

    Source: freeze_dry.is_dry.

    >>> ended([(20.0, 120.0), (21.0, 119.8)]), ended([(20.0, 120.0), (20.2, 119.9)])
    (True, False)
    """
    if len(weighings) < 2:
        return False
    (before, heavier), (after, lighter) = weighings[-2:]
    apart = after - before >= AN_HOUR_APART_H
    return apart and lighter <= heavier * 1.001 and freeze_dry.is_dry(heavier, lighter)


def _drawn(weighs: Callable[[float], float], until: Estimate) -> tuple[Drawn, ...]:
    """The curve from the start to a little after its end, as soon and as late as it may go."""
    end = 1.1 * until.hi
    times = [end * n / POINTS for n in range(POINTS + 1)]
    sooner, later = until.lo / until.typ, until.hi / until.typ
    return tuple(Drawn(h, weighs(h / sooner), weighs(h), weighs(h / later)) for h in times)
