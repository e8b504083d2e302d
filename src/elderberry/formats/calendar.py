"""What falls due as iCalendar (RFC 5545): events of an hour, or of a day."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from icalendar import Calendar, Event


@dataclass(frozen=True)
class Entry:
    """Something that falls due: what tells it apart for good, its words, and when.

    start, end: moments, or days where it has no hour; end is not part of it.
    """

    uid: str
    title: str
    detail: str
    start: datetime | date
    end: datetime | date


def a_day(uid: str, title: str, detail: str, day: date) -> Entry:
    """Something that falls due on a day."""
    return Entry(uid, title, detail, day, day + timedelta(days=1))


def ics(name: str, entries: Iterable[Entry], now: datetime) -> bytes:
    """A calendar of entries.

    Args:
        name: what a calendar program calls it.
        entries: what falls due; the same uid is the same event in every file.
        now: when it is written.

    Source: RFC 5545; NAME and REFRESH-INTERVAL of RFC 7986.
    """
    written = Calendar()
    written.add("prodid", "-//Elderberry//what falls due//EN")
    written.add("version", "2.0")
    written.add("name", name)
    written.add("x-wr-calname", name)
    written.add("refresh-interval", timedelta(hours=1), parameters={"value": "DURATION"})
    for entry in entries:
        event = Event()
        event.add("uid", f"{entry.uid}@elderberry")
        event.add("dtstamp", now)
        event.add("summary", entry.title)
        event.add("description", entry.detail)
        event.add("dtstart", entry.start)
        event.add("dtend", entry.end)
        event.add("transp", "TRANSPARENT")
        written.add_component(event)
    return bytes(written.to_ical())
