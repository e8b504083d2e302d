"""What a probe saw in a bath: where it lost its boil, and the longest that it kept it."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.core.batch import traced
from elderberry.core.batch.traced import Break, breaks, few, unbroken_min
from elderberry.core.errors import OutOfRange

NOON = datetime(2026, 10, 3, 12, tzinfo=UTC)


def at(minute: float) -> datetime:
    return NOON + timedelta(minutes=minute)


def seen(*temps: float) -> list[tuple[datetime, float]]:
    return [(at(n), t) for n, t in enumerate(temps)]


def test_a_bath_is_below_its_boil_from_the_last_moment_at_it_to_the_first_again() -> None:
    found = breaks(seen(98, 98, 96, 95, 98, 98, 90), 98.0, NOON)
    assert found == [Break(at(1), at(4)), Break(at(5), None)]
    assert breaks(seen(97.2, 97.1, 98), 98.0, NOON) == []  # as near as a probe can tell
    assert breaks(seen(60, 80, 98, 98), 98.0, at(2)) == []  # before it counts


@given(
    length=st.floats(1, 200),
    gaps=st.lists(st.tuples(st.floats(0, 200), st.floats(0.1, 30)), max_size=6),
)
def test_no_break_ever_adds_minutes(length: float, gaps: list[tuple[float, float]]) -> None:
    broken = [Break(at(since), at(since + long)) for since, long in gaps]
    whole = unbroken_min(NOON, at(length), [])
    had = unbroken_min(NOON, at(length), broken)
    assert 0.0 <= had <= whole == pytest.approx(length)
    for number in range(len(broken)):
        fewer = broken[:number] + broken[number + 1 :]
        assert unbroken_min(NOON, at(length), fewer) >= had - 1e-9


def test_a_bath_that_never_came_back_counts_to_where_it_fell() -> None:
    assert unbroken_min(NOON, at(20), [Break(at(8), None)]) == 8.0


@given(st.lists(st.floats(-30, 140), min_size=1, max_size=3000))
def test_what_is_kept_of_a_long_log_has_its_extremes_and_its_end(temps: list[float]) -> None:
    points = seen(*temps)
    kept = few(points)
    assert len(kept) <= traced.MOST_POINTS + 3
    assert {max(temps), min(temps)} <= {t for _, t in kept}
    assert (kept[0], kept[-1]) == (points[0], points[-1])
    assert kept == sorted(kept)
    row = traced.row("bath", kept, 98.0, [Break(at(1), None)])
    assert traced.points_of(row) == kept
    assert traced.breaks_of(row) == [Break(at(1), None)]


def test_what_no_probe_shows_is_refused() -> None:
    with pytest.raises(OutOfRange):
        traced.check(seen(20, 900))


@pytest.mark.parametrize("many", [traced.MOST_POINTS + 1, 3 * traced.MOST_POINTS + 7])
def test_a_long_record_keeps_its_hottest_its_coldest_and_its_end(many: int) -> None:
    temps = [90.0 + (n % 7) / 10 for n in range(many)]
    temps[many // 3], temps[many // 2], temps[-1] = 99.9, 61.5, 88.8
    kept = few(seen(*temps))
    assert len(kept) <= traced.MOST_POINTS + 3
    assert [p[0] for p in kept] == sorted(p[0] for p in kept)
    assert {99.9, 61.5} <= {p[1] for p in kept}
    assert kept[-1] == (at(many - 1), 88.8)
    assert set(kept) <= set(seen(*temps))
