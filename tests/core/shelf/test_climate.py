"""The quality clock over places that are not always as warm: against cases reckoned by hand."""

from __future__ import annotations

import math
from datetime import UTC, date, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.core.errors import OutOfRange
from elderberry.core.shelf.climate import (
    Climate,
    Spell,
    aged_days,
    ahead,
    cost_days,
    of_log,
    paces,
)
from elderberry.core.storage import life_row

JUICE = life_row("canned_sealed", "juice")  # 15 °C, q10 2
FROZEN = life_row("frozen", "juice")
NOON = datetime(2026, 7, 1, 12, tzinfo=UTC)


def spell(climate: Climate, days: float, since: datetime = NOON) -> Spell:
    return Spell(climate, since, since + timedelta(days=days))


@pytest.mark.parametrize(
    ("temp_c", "days", "aged"),
    [(15, 100, 100.0), (25, 50, 100.0), (5, 100, 50.0), (20, 10, 10 * math.sqrt(2)), (15, 0, 0)],
)
def test_a_fixed_place_ages_by_the_rule(temp_c: float, days: float, aged: float) -> None:
    assert aged_days([spell(Climate(temp_c), days)], JUICE) == pytest.approx(aged)


def test_part_days_count_as_parts() -> None:
    assert aged_days([spell(Climate(15), 0.5)], JUICE) == pytest.approx(0.5)
    morning = spell(Climate(15), 0.25, NOON.replace(hour=6))
    assert aged_days([morning], JUICE) == pytest.approx(0.25)


def test_a_logged_day_ages_by_all_its_readings() -> None:
    hot = Climate(15, logged={NOON.date(): (15.0, 35.0)})  # (1 + 4) / 2 times as fast
    whole_day = spell(hot, 1, NOON.replace(hour=0))
    assert aged_days([whole_day], JUICE) == pytest.approx(2.5)
    assert cost_days([whole_day], JUICE) == pytest.approx(1.5)
    assert hot.mean_c(NOON.date()) == 25.0
    assert hot.usually(NOON.date()) == 15.0


def test_the_light_ages_what_is_canned_and_nothing_else() -> None:
    assert aged_days([spell(Climate(15, light=True), 8)], JUICE) == pytest.approx(10)
    cold = life_row("chilled_unopened", "vinegar_syrup")
    assert aged_days([spell(Climate(4, light=True), 8)], cold) == pytest.approx(8)


def test_a_clock_never_runs_across_freezing() -> None:
    assert aged_days([spell(Climate(15), 30)], FROZEN) == 0.0
    both = [spell(Climate(15), 30), spell(Climate(-18), 30)]
    assert aged_days(both, FROZEN) == pytest.approx(30)


def test_the_season_goes_round_its_mean() -> None:
    cellar = Climate(12, 5, warmest_day=205)
    assert cellar.usually(date(2026, 7, 24)) == pytest.approx(17)
    assert cellar.usually(date(2027, 1, 22)) == pytest.approx(7, abs=0.01)
    year = paces(cellar, JUICE, date(2026, 1, 1), 365)
    assert year.max() == pytest.approx(2**0.2, abs=1e-3)
    assert year.mean() > 2 ** ((12 - 15) / 10)  # warm days cost more than cold ones save


def test_the_day_is_the_one_on_which_it_is_used_up() -> None:
    since = date(2026, 10, 1)
    assert ahead(Climate(15), JUICE, since).day_of(365) == date(2027, 10, 1)
    assert ahead(Climate(25), JUICE, since).day_of(365) == since + timedelta(days=182)
    assert ahead(Climate(15), JUICE, since).day_of(0) == since
    hot_week = {since + timedelta(days=n): (25.0,) for n in range(7)}
    assert ahead(Climate(15, logged=hot_week), JUICE, since).day_of(365) == date(2027, 9, 24)
    assert ahead(Climate(15, logged=hot_week), JUICE, since).day_of(7) == since + timedelta(days=3)


@given(
    usual=st.floats(2, 28), swing=st.floats(0, 12), left=st.floats(0.5, 4000),
    start=st.dates(date(2024, 1, 1), date(2030, 12, 31)),
)  # fmt: skip
def test_what_is_left_is_aged_through_by_its_day(
    usual: float, swing: float, left: float, start: date
) -> None:
    there = Climate(usual, swing)
    until = ahead(there, JUICE, start).day_of(left)
    midnight = datetime.combine(start, datetime.min.time(), UTC)
    till = datetime.combine(until, datetime.min.time(), UTC)
    aged = aged_days([Spell(there, midnight, till)], JUICE)
    day = aged_days([Spell(there, till, till + timedelta(days=1))], JUICE)
    assert aged <= left + 0.02
    assert aged + day >= left - 0.02


def test_a_log_of_nonsense_is_refused() -> None:
    with pytest.raises(OutOfRange):
        of_log([(NOON, 93.0)])


@given(
    mean=st.floats(-25, 30),
    swing=st.floats(0, 15),
    warmest=st.integers(1, 366),
    since=st.dates(date(2019, 1, 1), date(2031, 12, 31)),
    days=st.integers(1, 2000),
    light=st.booleans(),
)
def test_each_day_ages_by_its_own_temperature(
    mean: float, swing: float, warmest: int, since: date, days: int, light: bool
) -> None:
    """Against the rule said day by day, for every day that is asked for."""
    there = Climate(mean, swing, warmest, light=light)
    found = paces(there, JUICE, since, days)
    assert len(found) == days
    low, high = JUICE.limits_c
    for n in {0, days // 3, days - 1}:
        of_year = since.timetuple().tm_yday + n
        temp_c = mean + swing * math.cos(2 * math.pi * (of_year - warmest) / 365.25)
        rate = 2 ** ((min(max(temp_c, low), high) - 15) / 10) / (0.8 if light else 1.0)
        assert found[n] == pytest.approx(rate, rel=1e-9)


def test_one_place_never_changes_what_another_is_told() -> None:
    cellar, day = Climate(12, 4), date(2026, 7, 1)
    before = paces(cellar, JUICE, day, 30).tolist()
    spoiled = paces(cellar, JUICE, day, 30)
    spoiled[:] = 99.0
    hot = Climate(12, 4, logged={day: (40.0, 20.0)})
    assert paces(hot, JUICE, day, 30)[0] != pytest.approx(before[0])
    assert paces(hot, JUICE, day, 30).tolist()[1:] == before[1:]
    assert paces(cellar, JUICE, day, 30).tolist() == before


@pytest.mark.parametrize("years", [1, 4, 9])
def test_a_long_life_ends_where_its_days_are_used_up(years: int) -> None:
    """The day found, and the days that pass until then, are the same thing said twice."""
    cellar, since = Climate(13, 5), date(2026, 2, 1)
    life = 365.0 * years
    end = ahead(cellar, JUICE, since).day_of(life)
    midnight = datetime(since.year, since.month, since.day, tzinfo=UTC)
    until = datetime(end.year, end.month, end.day, tzinfo=UTC)
    assert aged_days([Spell(cellar, midnight, until)], JUICE) <= life
    day_more = until + timedelta(days=1)
    assert aged_days([Spell(cellar, midnight, day_more)], JUICE) > life - 1e-6
