"""Files of times and temperatures, as loggers and probes write them.

A column of times and one of temperatures, in any of the usual layouts: a comma, a semicolon or a
tab between them; ISO times or day.month.year or month/day/year with a clock; a decimal point or
comma; °C, or °F where the heading says so; headings and columns beside them are passed over.
"""

from __future__ import annotations

import csv
from collections.abc import Iterator
from datetime import UTC, datetime
from zoneinfo import ZoneInfo

MOST_LINES = 200_000
LAYOUTS = (
    "%Y-%m-%d %H:%M:%S", "%Y-%m-%d %H:%M", "%Y/%m/%d %H:%M:%S", "%Y/%m/%d %H:%M",
    "%d.%m.%Y %H:%M:%S", "%d.%m.%Y %H:%M", "%d/%m/%Y %H:%M:%S", "%d/%m/%Y %H:%M",
    "%m/%d/%Y %H:%M:%S", "%m/%d/%Y %H:%M", "%m/%d/%y %H:%M:%S", "%m/%d/%y %I:%M:%S %p",
    "%m/%d/%Y %I:%M:%S %p",
)  # fmt: skip


class CannotRead(ValueError):
    """A file that is no trace; says which line and why."""


def read(text: str, zone: ZoneInfo) -> list[tuple[datetime, float]]:
    """Times and temperatures [°C] of a file, in its order.

    Args:
        text: the file.
        zone: that its times are of where they do not say one.

    Raises:
        CannotRead: no line of it tells a time and a temperature, or one after the first does not.

    >>> read("time,temp °F\\n2026-07-01 06:00,68", ZoneInfo("UTC"))[0][1]
    20.0
    """
    lines = text.lstrip("\ufeff").splitlines()
    if len(lines) > MOST_LINES:
        raise CannotRead(f"Over {MOST_LINES} lines: cut it into years.")
    rows = list(_rows(lines))
    layouts = _layouts([row for _, row in rows])
    found: list[tuple[datetime, float]] = []
    fahrenheit = False
    for number, row in rows:
        try:
            at, temp = _line(row, layouts)
        except ValueError:
            if found:
                raise CannotRead(f"Line {number} tells no time and temperature.") from None
            fahrenheit = fahrenheit or any("°f" in c.lower() or "(f)" in c.lower() for c in row)
            continue
        here = at if at.tzinfo else at.replace(tzinfo=zone)
        found.append((here.astimezone(UTC), round((temp - 32) / 1.8, 2) if fahrenheit else temp))
    if not found:
        raise CannotRead("No line of it tells a time and a temperature.")
    return found


def _rows(lines: list[str]) -> Iterator[tuple[int, list[str]]]:
    """Lines cut at whatever stands between their columns, with their numbers."""
    head = "\n".join(lines[:20])
    mark = max(";\t,", key=head.count)
    for number, row in enumerate(csv.reader(lines, delimiter=mark), start=1):
        cells = [c.strip() for c in row if c.strip()]
        if cells:
            yield number, cells


def _layouts(rows: list[list[str]]) -> list[str]:
    """The layouts that every time in it can be read by; none where its times are ISO."""
    times = [next((c for c in row if _looks_a_time(c)), "") for row in rows]
    listed = [t for t in times if t]
    return [f for f in LAYOUTS if all(_by(t, f) is not None for t in listed[:500])]


def _looks_a_time(cell: str) -> bool:
    return ":" in cell and any(mark in cell for mark in "-/.") and cell[:1].isdigit()


def _by(cell: str, layout: str) -> datetime | None:
    try:
        return datetime.strptime(cell, layout)
    except ValueError:
        return None


def _line(row: list[str], layouts: list[str]) -> tuple[datetime, float]:
    """The time and temperature of a line.

    Raises:
        ValueError: it has not both.
    """
    place = next((n for n, c in enumerate(row) if _looks_a_time(c)), None)
    if place is None or place + 1 >= len(row):
        raise ValueError("no time")
    temp = float(row[place + 1].replace(",", ".").removesuffix("°C").removesuffix("°F"))
    for layout in layouts:
        if (at := _by(row[place], layout)) is not None:
            return at, temp
    return datetime.fromisoformat(row[place]), temp
