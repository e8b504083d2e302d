"""How warm it is and was where jars stand, beside how warm it usually is there."""

from __future__ import annotations

from datetime import date, datetime, timedelta

from elderberry.core import storage
from elderberry.core.shelf import climate
from elderberry.core.shelf.climate import Climate
from elderberry.services.cooking.ageing import Ageing
from elderberry.services.shelf.shown import Warm, WarmDay
from elderberry.store import Jar

STALE_D = 3
"""A log that ended longer ago says nothing of today [d]."""
WARMER_C = 2.5
"""How much warmer than usual a place has to be before it is said [°C]."""
POINTS = 60


def now(there: Climate, today: date) -> float:
    """How warm a place is: as it was logged last, or as it usually is [°C]."""
    last = _last(there, today)
    return there.mean_c(last) if last else there.usually(today)


def warm(there: Climate, today: date) -> Warm | None:
    """How a place is warmer than it usually is, and since when; None where it is not."""
    last = _last(there, today)
    if last is None or there.mean_c(last) - there.usually(last) < WARMER_C:
        return None
    since = last
    while (before := since - timedelta(days=1)) in there.logged:
        if there.mean_c(before) - there.usually(before) < WARMER_C:
            break
        since = before
    row = storage.life_row("canned_sealed", "juice")
    fast = climate.paces(there, row, last, 1)[0]
    usual = climate.paces(climate.as_usual(there), row, last, 1)[0]
    return Warm(there.mean_c(last), there.usually(last), since, float(fast / usual))


def _last(there: Climate, today: date) -> date | None:
    """The newest day that was logged, where it is not long ago."""
    days = [d for d in there.logged if today - timedelta(days=STALE_D) <= d <= today]
    return max(days, default=None)


def of_jar(known: Ageing, jar: Jar, until: datetime) -> list[WarmDay]:
    """How warm it was around a jar from when it was put away, evenly over the days."""
    found = []
    for spell in known.spells(jar, until):
        first, last = spell.since.date(), min(spell.until, until).date()
        days = (last - first).days + 1
        step = max(1, days // POINTS)
        wanted = {first + timedelta(days=n) for n in range(0, days, step)}
        wanted |= {d for d in spell.climate.logged if first <= d <= last}
        found += [
            WarmDay(d, spell.climate.mean_c(d), spell.climate.usually(d)) for d in sorted(wanted)
        ]
    return found
