"""How warm a place is: fixed, by the season, or as a thermometer there has logged it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, datetime, timedelta
from functools import lru_cache
from typing import Any

import numpy as np

from elderberry.core.errors import check_range
from elderberry.core.numbers import Array, Values
from elderberry.core.storage import LIGHT_FACTOR, LifeRow, holds_at, pace

YEAR_D = 365.25
CANNED = "canned_sealed"
COLDEST_C, WARMEST_C = -40.0, 45.0
USUAL_SWING_C = 0.0
Seasons = tuple[float, float, int]
"""A place by the season alone: its mean, how much warmer its warmest day is [°C], and which."""
MOST_SWING_C = 20.0


@dataclass(frozen=True)
class Climate:
    """The temperature of a place.

    usual_c: its mean over the year [°C]; swing_c: how much warmer its warmest day is [°C];
    warmest_day: which day of the year that is; logged: what a thermometer there showed on
    single days, each with all its readings [°C]: those days stand as they were,
    the others as usual; light: whether jars stand in it.
    """

    usual_c: float
    swing_c: float = USUAL_SWING_C
    warmest_day: int = 205
    logged: Mapping[date, tuple[float, ...]] = field(default_factory=dict)
    light: bool = False

    @property
    def seasons(self) -> Seasons:
        """What it is by the season alone."""
        return self.usual_c, self.swing_c, self.warmest_day

    def usually(self, on: date) -> float:
        """The temperature of a day by the season alone [°C].

        >>> Climate(12.0, 5.0).usually(date(2026, 7, 24))
        17.0
        """
        return float(self.by_season(on.timetuple().tm_yday))

    def by_season(self, day: Values) -> Any:
        """The temperature of days of the year by the season alone [°C]; they may run on past it."""
        turn = 2.0 * np.pi * (day - self.warmest_day) / YEAR_D
        return self.usual_c + self.swing_c * np.cos(turn)

    def mean_c(self, on: date) -> float:
        """The temperature of a day, logged or usual [°C]."""
        seen = self.logged.get(on)
        return sum(seen) / len(seen) if seen else self.usually(on)


def of_log(seen: Sequence[tuple[datetime, float]]) -> dict[date, tuple[float, ...]]:
    """Readings of a thermometer by the day they were taken on.

    Args:
        seen: times, of one zone, and temperatures [°C].

    Raises:
        OutOfRange: a temperature outside -40 to 45 °C.

    >>> of_log([(datetime(2026, 7, 1, 6), 18.0), (datetime(2026, 7, 1, 18), 22.0)])
    {datetime.date(2026, 7, 1): (18.0, 22.0)}
    """
    days: dict[date, tuple[float, ...]] = {}
    for at, temp_c in seen:
        check_range("logged temperature", temp_c, "°C", COLDEST_C, WARMEST_C)
        days[at.date()] = (*days.get(at.date(), ()), temp_c)
    return days


def paces(climate: Climate, row: LifeRow, first: date, days: int) -> Array:
    """How many times faster than at the row's reference quality goes, day by day [-].

    A logged day is the mean over its readings, so that a hot afternoon counts as it ages. Beyond
    the row's own limits the limit stands. In the light canned jars age faster.

    Args:
        climate: of the place.
        row: the clock.
        first: the first day.
        days: how many.

    Source: q10 rule, Labuza (1982).

    >>> from elderberry.core.storage import life_row
    >>> paces(Climate(25.0), life_row("canned_sealed", "juice"), date(2026, 1, 1), 2).tolist()
    [2.0, 2.0]
    """
    from_day = first.timetuple().tm_yday
    until = from_day + days
    found = _by_season(climate.seasons, row, max(until, FIVE_YEARS))[from_day:until].copy()
    for day, seen in climate.logged.items():
        n = (day - first).days
        if 0 <= n < days:
            found[n] = _of_readings(seen, row)
    return _as_lit(found, climate.light, row)


def _as_lit(found: Array, light: bool, row: LifeRow) -> Array:
    """Paces in the light or in the dark."""
    return found / LIGHT_FACTOR if light and row.state == CANNED else found


FIVE_YEARS = 5 * 366
"""Days that are reckoned at once, more than most lives ask for."""


@lru_cache(maxsize=256)
def _by_season(place: Seasons, row: LifeRow, days: int) -> Array:
    """Paces of so many days by the season alone, from the last day of a year on; not to be changed.

    Every jar of a clock that stands on a place asks for the same: it is reckoned once.
    """
    return _rate(Climate(*place).by_season(np.arange(float(days))), row)


@lru_cache(maxsize=4096)
def _of_readings(seen: tuple[float, ...], row: LifeRow) -> float:
    """The pace of a day as its readings say."""
    return float(np.mean(_rate(np.asarray(seen), row)))


def _rate(temp_c: Array, row: LifeRow) -> Array:
    lo, hi = row.limits_c
    return np.asarray(pace(np.clip(temp_c, lo, hi), row), dtype=float)


@dataclass(frozen=True)
class Spell:
    """A stay at a place: its climate, and from when until when."""

    climate: Climate
    since: datetime
    until: datetime

    @property
    def days(self) -> float:
        """How long it was [d], never below nothing."""
        return max(0.0, (self.until - self.since).total_seconds() / 86400.0)


def aged_days(spells: Sequence[Spell], row: LifeRow) -> float:
    """Days at the row's reference temperature that stays amount to: ∫ rate dt [d].

    A place where the clock does not hold, such as a cellar for a frozen row, adds nothing.

    Source: q10 rule; storage_life.csv.

    >>> from datetime import UTC
    >>> from elderberry.core.storage import life_row
    >>> new_year = datetime(2026, 1, 1, tzinfo=UTC)
    >>> warm = Spell(Climate(25.0), new_year, new_year + timedelta(days=50))
    >>> cool = Spell(Climate(15.0), new_year, new_year + timedelta(days=100))
    >>> round(aged_days([cool, warm], life_row("canned_sealed", "juice")), 3)
    200.0
    """
    return sum(_aged(s, row) for s in spells if holds_at(row, s.climate.usual_c))


def _aged(spell: Spell, row: LifeRow) -> float:
    whole = spell.days
    if whole == 0.0:
        return 0.0
    first, last = spell.since.date(), spell.until.date()
    found = paces(spell.climate, row, first, (last - first).days + 1)
    share = np.ones(len(found))
    share[0] -= _of_day(spell.since)
    share[-1] -= 1.0 - _of_day(spell.until)
    return float(np.dot(found, share))


def _of_day(at: datetime) -> float:
    return (at.hour * 3600 + at.minute * 60 + at.second) / 86400.0


def cost_days(spells: Sequence[Spell], row: LifeRow) -> float:
    """Days of life that logged days took, over what they would have taken as usual [d].

    >>> from datetime import UTC
    >>> from elderberry.core.storage import life_row
    >>> july = datetime(2026, 7, 1, tzinfo=UTC)
    >>> hot = Climate(15.0, logged={date(2026, 7, d): (25.0,) for d in range(1, 15)})
    >>> spells = [Spell(hot, july, july + timedelta(days=31))]
    >>> round(cost_days(spells, life_row("canned_sealed", "juice")), 3)
    14.0
    """
    if not any(s.climate.logged for s in spells):
        return 0.0
    usual = [Spell(as_usual(s.climate), s.since, s.until) for s in spells]
    return aged_days(spells, row) - aged_days(usual, row)


def as_usual(climate: Climate) -> Climate:
    """The same place without what was logged there."""
    return replace(climate, logged={})


@dataclass(frozen=True)
class Ahead:
    """What is to come at a place, for a clock: several lives are looked up in it.

    since: from when on; known: days at the reference that its logged days sum up to, day by day;
    usual: the same of the four years after them, by the season alone.
    """

    since: date
    known: Array
    usual: Array

    def day_of(self, left_d: float) -> date:
        """The day on which so many days at the reference are used up [date].

        Args:
            left_d: days at the row's reference that are left [d].

        Source: q10 rule.

        >>> from elderberry.core.storage import life_row
        >>> place, row = Climate(15.0), life_row("canned_sealed", "juice")
        >>> ahead(place, row, date(2026, 10, 1)).day_of(365)
        datetime.date(2027, 10, 1)
        """
        if left_d <= 0.0:
            return self.since
        logged = len(self.known)
        spent = float(self.known[-1]) if logged else 0.0
        if spent >= left_d:
            return self.since + timedelta(days=_within(self.known, left_d))
        rounds, rest = divmod(left_d - spent, float(self.usual[-1]))
        more = _within(self.usual, rest) if rest > 0 else 0
        return self.since + timedelta(days=logged + int(rounds) * FOUR_YEARS + more)


def ahead(climate: Climate, row: LifeRow, since: date) -> Ahead:
    """What is to come at a place, for a clock.

    Args:
        climate: of the place where something stands.
        row: the clock.
        since: from when on.

    Source: q10 rule.
    """
    last = max(climate.logged, default=since - timedelta(days=1))
    logged = max(0, (last - since).days + 1)
    known = np.cumsum(paces(climate, row, since, logged))
    from_day = (since + timedelta(days=logged)).timetuple().tm_yday
    return Ahead(since, known, _four_years(climate.seasons, climate.light, row, from_day))


FOUR_YEARS = 1461
"""Days after which the year is whole days again."""


@lru_cache(maxsize=512)
def _four_years(place: Seasons, light: bool, row: LifeRow, from_day: int) -> Array:
    """The running sum of four years by the season alone, from a day of the year on."""
    usual = _by_season(place, row, FIVE_YEARS)[from_day:][:FOUR_YEARS]
    return np.cumsum(_as_lit(usual, light, row))


def _within(spent: Array, left: float) -> int:
    """The day of a running sum on which something is used up; part of a day is not counted."""
    n = int(np.searchsorted(spent, left, side="left"))
    before = float(spent[n - 1]) if n else 0.0
    pace = float(spent[n]) - before
    return int(n + (left - before) / pace + 1e-9)
