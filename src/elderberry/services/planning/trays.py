"""Trays of a dryer as Plan and Cook draw them: what lies on them, and how they dry."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from elderberry.core.drying import freeze_dry
from elderberry.core.drying.course import Course, Drawn
from elderberry.core.estimates import Estimate


@dataclass(frozen=True)
class Weighed:
    """Hours since it went in, and what a tray weighed then [h, g]."""

    h: float
    g: float


@dataclass(frozen=True)
class TraysView:
    """Like trays of one load.

    lies: slices, flakes, leather and so on, a key of data/dried.csv. each_g, mm: on every tray, and
    how deep [g, mm]. does: dries, sticky or foams, under vacuum, by collapse_c against dries_well_c
    and sticky_c [°C]. last_g, enough_g: what a tray weighs at its driest, and from where it is dry
    enough [g]. hours: since it went in, left_h: from the newest weighing [h].
    """

    key: str
    role: str
    name: str
    colour: str
    lies: str
    trays: int
    each_g: float
    mm: float
    portions: int
    """Portions on each tray; 0 for one sheet."""
    load: int
    loads: int
    does: str
    collapse_c: float | None
    dries_well_c: float
    sticky_c: float
    water_g: float
    last_g: float
    enough_g: float
    hours: Estimate
    left_h: Estimate
    dry: bool
    curve: list[Drawn]
    weighings: list[Weighed]
    cycles: int
    """Loads that this machine's hours were learned from."""


def trays_view(
    key: str, role: str, params: Mapping[str, Any], course: Course, name: str, colour: str,
    after_h: float = 0.0,
) -> TraysView:  # fmt: skip
    """Trays of a step, by its figures and how they dry.

    Args:
        key: of the step.
        role: freeze_dry or air_dry.
        params: of the step.
        course: how a tray of it goes.
        name: what lies on them.
        colour: of it.
        after_h: hours since it went in [h].
    """
    return TraysView(
        key=key,
        role=role,
        name=name,
        colour=colour,
        lies=str(params["lies"]),
        trays=int(params["trays"]),
        each_g=float(params["tray_g"]),
        mm=float(params["mm"]),
        portions=int(params.get("portions", 0)),
        load=int(params["load"]),
        loads=int(params["loads"]),
        does=str(params.get("does", "")),
        collapse_c=params.get("collapse_c"),
        dries_well_c=freeze_dry.DRIES_WELL_C,
        sticky_c=freeze_dry.STICKY_C,
        water_g=float(params["water_g"]),
        last_g=course.last_g,
        enough_g=course.enough_g,
        hours=course.hours,
        left_h=course.left_h(after_h),
        dry=course.dry,
        curve=list(course.curve),
        weighings=[Weighed(h, g) for h, g in course.weighings],
        cycles=int(params.get("cycles", 0)),
    )
