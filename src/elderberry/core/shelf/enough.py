"""Whether what stands there lasts: the pace it is eaten at, and what to make to last till next."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta

from elderberry.core.errors import check_range

PACE_OVER_D = 365
"""How far back a pace is counted [d]."""
LEAST_D = 28
"""A pace is not told from less than this [d]."""


@dataclass(frozen=True)
class Enough:
    """How long something lasts at a pace.

    a_month: jars in thirty days [-], nothing where none is eaten; till: the day the last one is
    eaten; None where none is; short: jars that are missing until the next are made; fruit_kg: fruit
    that would fill a year's jars [kg]; None where no batch says.
    """

    a_month: float
    till: date | None
    short: int
    fruit_kg: float | None


def lasts(
    there: int,
    eaten: int,
    over_d: float,
    today: date,
    again: date,
    kg_a_jar: float | None = None,
) -> Enough:
    """How long jars last at the pace that they were eaten at.

    Args:
        there: jars that stand there.
        eaten: jars that were opened, used up or given away.
        over_d: in so many days [d]; the pace is told over LEAST_D at least.
        today: the day.
        again: when they are made again.
        kg_a_jar: fruit that a jar took [kg], from the batches.

    Raises:
        OutOfRange: fewer than none.

    Source: jars over days.

    >>> lasts(12, 26, 365, date(2026, 11, 27), date(2027, 9, 1)).till
    datetime.date(2027, 5, 14)
    """
    check_range("jars", there, "", 0, 1e7)
    check_range("jars eaten", eaten, "", 0, 1e7)
    pace = eaten / max(over_d, LEAST_D)
    if pace == 0.0:
        return Enough(0.0, None, 0, None)
    wanted = pace * max(0, (again - today).days)
    return Enough(
        a_month=30.0 * pace,
        till=today + timedelta(days=int(there / pace)),
        short=max(0, round(wanted - there)),
        fruit_kg=None if kg_a_jar is None else kg_a_jar * pace * 365.0,
    )
