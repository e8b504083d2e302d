"""How long fruit waits before it has to be worked on."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Literal

from elderberry.core import tables
from elderberry.core.errors import Unknown
from elderberry.core.estimates import Estimate

Ripeness = Literal["under", "ripe", "over"]
Where = Literal["cool", "cold", "frozen"]
RIPENESS: dict[Ripeness, float] = {"under": 1.5, "ripe": 1.0, "over": 0.5}
"""What ripeness makes of the days [-]; an estimate."""
FROZEN_DAYS = Estimate(240.0, 300.0, 365.0)
DRIED_DAYS = Estimate(180.0, 365.0, 730.0)


def waits_days(
    fruit_key: str, form: str = "whole", ripeness: Ripeness = "ripe", where: Where = "cool"
) -> Estimate:
    """Days until fruit, pomace or bought juice should have been worked on [d].

    Args:
        fruit_key: key in data/fruits.csv.
        form: whole, frozen, dried, juice or pomace.
        ripeness: under, ripe or over.
        where: a cool room of about 15 °C, the cold of a refrigerator, or the freezer.

    Raises:
        Unknown: no such ripeness.

    Source: data/keeping_fresh.csv; frozen and dried by the usual advice on quality.

    >>> waits_days("damson").typ, waits_days("damson", where="cold", ripeness="over").typ
    (4.0, 7.0)
    """
    if ripeness not in RIPENESS:
        raise Unknown("ripeness", ripeness)
    if form == "dried":
        return DRIED_DAYS
    if form == "frozen" or where == "frozen":
        return FROZEN_DAYS
    rows = {row["key"]: row for row in tables.rows("keeping_fresh")}
    key = form if form in {"pomace", "juice"} else fruit_key
    row = rows.get(key, rows["default"])
    days = tables.estimate(row["cold_days" if where == "cold" else "cool_days"])
    assert days is not None  # every cell of the table is filled
    return days.scaled(RIPENESS[ripeness])


def work_by(picked: date, days: Estimate) -> tuple[date, date, date]:
    """The days by which it should have been worked on: early, typical, latest.

    >>> work_by(date(2026, 9, 1), Estimate(2, 4, 6))[1].isoformat()
    '2026-09-05'
    """
    lo, typ, hi = (picked + timedelta(days=d) for d in (days.lo, days.typ, days.hi))
    return lo, typ, hi
