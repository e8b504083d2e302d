"""What thermometers showed at places: a figure now, or a file of times and temperatures."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, datetime

from sqlalchemy.orm import Session as Orm

from elderberry.core.errors import OutOfRange
from elderberry.core.shelf import climate
from elderberry.formats import traces
from elderberry.services.errors import FieldError, NotFound
from elderberry.services.household import kitchens
from elderberry.services.shelf import shelf
from elderberry.services.who import Who
from elderberry.store import Place, PlaceDay, queries

MOST_KEPT_A_DAY = 96
"""Readings of a day that are kept; of more, evenly as many."""


def reading(orm: Orm, who: Who, place_id: int, temp_c: float, now: datetime) -> None:
    """A thermometer at a place shows so much now [°C].

    Raises:
        NotFound: no such place.
        FieldError: no temperature that a place may have.
    """
    keep(orm, who, place_id, [(now, temp_c)])


def file(orm: Orm, who: Who, place_id: int, text: str) -> int:
    """A logger's file: times and temperatures; the same file twice changes nothing.

    Returns:
        How many days it tells of.

    Raises:
        NotFound: no such place.
        FieldError: a line that cannot be read, with its number; nothing was recorded.
    """
    try:
        seen = traces.read(text, kitchens.zone(orm, who))
    except traces.CannotRead as wrong:
        raise FieldError("/text", f"{wrong} Nothing was recorded.") from wrong
    return keep(orm, who, place_id, seen)


def keep(orm: Orm, who: Who, place_id: int, seen: Sequence[tuple[datetime, float]]) -> int:
    """Keep what was seen by its days, and age what stands there by it."""
    place = queries.one(orm, who.household_id, Place, place_id)
    if place is None:
        raise NotFound("place")
    zone = kitchens.zone(orm, who)
    try:
        climate.of_log(seen)
    except OutOfRange as wrong:
        raise FieldError("/temp_c", f"{wrong}. Nothing was recorded.") from wrong
    rows = {r.day: r for r in queries.all_of(orm, who.household_id, PlaceDay)
            if r.place_id == place_id}  # fmt: skip
    days: dict[date, dict[str, float]] = {}
    for at, temp_c in seen:
        there = at.astimezone(zone)
        days.setdefault(there.date(), {})[f"{there:%H:%M}"] = round(temp_c, 2)
    for day, temps in days.items():
        row = rows.get(day)
        if row is None:
            orm.add(PlaceDay(household_id=who.household_id, place_id=place_id, day=day,
                             temps=_few(temps)))  # fmt: skip
        else:
            row.temps = _few({**row.temps, **temps})
    orm.flush()
    shelf.place_changed(orm, who, place_id)
    return len(days)


def _few(temps: dict[str, float]) -> dict[str, float]:
    """The readings of a day by their time, no more than are kept."""
    ordered = sorted(temps.items())
    step = -(-len(ordered) // MOST_KEPT_A_DAY)
    return dict(ordered[::step])
