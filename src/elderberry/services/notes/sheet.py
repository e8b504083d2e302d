"""The page of a batch as a sheet of paper, in the units and the zone of its kitchen."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from datetime import datetime
from zoneinfo import ZoneInfo

from elderberry.core.quantities import System
from elderberry.core.wording import Unit, figure, in_units
from elderberry.formats.paper import Block, Sheet
from elderberry.services.notes.shown import FigureRow, NotePage

UNIT: Mapping[str, Unit] = {"ml": "ml", "g": "g", "°C": "C"}
"""Units of readings that a kitchen says in its own."""


def of_page(page: NotePage, units: System, zone: ZoneInfo) -> Sheet:
    """Everything of a page that belongs on paper."""
    begun = f"{page.started_at.astimezone(zone):%-d %B %Y}"
    by = ", ".join(page.people)
    lead = f"{page.code} · {page.method} · begun {begun} by {by}"
    blocks = [b for b in _blocks(page, units, zone) if b.rows]
    return Sheet(page.title, lead, blocks, page.safety)


def _blocks(page: NotePage, units: System, zone: ZoneInfo) -> Iterator[Block]:
    yield Block("What went in", [[line] for line in page.came_in])
    yield Block(
        "Figures: planned, measured",
        [[r.lot, _planned(r, units), _said(r.measured, r.unit, units), r.words]
         for r in page.figures],
        (0.3, 0.22, 0.15, 0.33),
    )  # fmt: skip
    yield Block(
        "Steps: planned, took, over",
        [[s.title, _minutes(s.planned_min), _minutes(s.took_min), _hour(s.finished_at, zone)]
         for s in page.steps],
        (0.46, 0.16, 0.16, 0.22),
    )  # fmt: skip
    yield Block(
        "Otherwise than planned",
        [[_hour(d.at, zone), d.step, d.words] for d in page.deviations], (0.2, 0.3, 0.5),
    )  # fmt: skip
    yield Block("What came of it", [[line] for line in _came_of(page, units)])
    if page.process:
        words = f"{page.process.minutes} min in boiling water or steam: {page.process.source}"
        yield Block("Process", [[words]])
    yield Block(
        "Jars", [[j.place, j.jars, ", ".join(j.codes)] for j in page.jars], (0.25, 0.2, 0.55)
    )


def _came_of(page: NotePage, units: System) -> Iterator[str]:
    if page.litres:
        yield in_units(f"{figure(page.litres, 'l')} in jars", units)
    if page.litres_per_kg is not None:
        yield f"{page.litres_per_kg:.2f} l to the kilo"
    if page.hands_h_per_litre is not None:
        yield f"about {page.hands_h:.1f} h of hands, {60 * page.hands_h_per_litre:.0f} min a litre"
    if page.cost_minor is not None and page.cost_per_litre_minor is not None:
        each = page.cost_per_litre_minor / 100
        yield f"what came in cost {page.cost_minor / 100:.2f}, {each:.2f} a litre"


def _planned(row: FigureRow, units: System) -> str:
    if row.planned is None:
        return ""
    lo, hi = (_said(v, row.unit, units) for v in (row.planned.lo, row.planned.hi))
    return lo if lo == hi else f"{lo} to {hi}"


def _said(value: float, unit: str, units: System) -> str:
    if unit in UNIT:
        return in_units(figure(value, UNIT[unit]), units)
    return f"{value:.1f} {unit}".strip()


def _minutes(minutes: float | None) -> str:
    if minutes is None:
        return ""
    hours, rest = divmod(round(minutes), 60)
    return f"{hours} h {rest:02d}" if hours else f"{rest} min"


def _hour(at: datetime | None, zone: ZoneInfo) -> str:
    return f"{at.astimezone(zone):%-d %b, %H:%M}" if at else ""
