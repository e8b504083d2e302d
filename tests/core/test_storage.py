"""The quality clock: rows, rates, places, opening, and what shortens a life."""

from __future__ import annotations

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.core import storage
from elderberry.core.errors import OutOfRange, Unknown
from elderberry.core.storage import Stay

DAY = date(2026, 11, 1)
CANNED = storage.life_row("canned_sealed", "juice")
ROWS = list(storage.life_rows().values())


@pytest.mark.parametrize("row", ROWS, ids=lambda r: f"{r.state}-{r.product}")
def test_every_row_runs_at_its_reference_and_faster_when_warmer(row: storage.LifeRow) -> None:
    assert storage.rate(row.ref_c, row) == 1.0
    low, high = row.limits_c
    warmer = min(row.ref_c + 5, high)
    assert storage.rate(warmer, row) >= 1.0
    best = storage.best_by(DAY, row)
    assert best.lo <= best.typ <= best.hi
    for outside in (low - 1, high + 1):
        with pytest.raises(OutOfRange):
            storage.rate(outside, row)
        assert not storage.holds_at(row, outside)


@given(st.floats(0, 300), st.floats(0, 300), st.floats(1, 35), st.floats(1, 35))
def test_life_used_adds_up_over_places(a: float, b: float, one_c: float, other_c: float) -> None:
    parts = [
        storage.life_used([Stay(a, one_c)], CANNED),
        storage.life_used([Stay(b, other_c)], CANNED),
    ]
    assert storage.life_used([Stay(a, one_c), Stay(b, other_c)], CANNED) == pytest.approx(
        sum(parts)
    )


@given(st.floats(1, 40), st.floats(1, 40))
def test_a_cooler_place_never_brings_the_date_forward(one: float, other: float) -> None:
    cool, warm = sorted((one, other))
    assert storage.best_by(DAY, CANNED, cool).typ >= storage.best_by(DAY, CANNED, warm).typ


def test_a_hot_week_moves_the_date() -> None:
    plain = storage.best_by(DAY, CANNED, 13)
    after_heat = storage.best_by(DAY, CANNED, 13, [Stay(7, 33)])
    assert 20 < (plain.typ - after_heat.typ).days < 40


def test_a_used_up_life_ends_today() -> None:
    spent = storage.best_by(DAY, CANNED, CANNED.ref_c, [Stay(900, 25)])
    assert spent.lo == spent.typ == spent.hi == DAY


def test_light_and_headspace_each_cost_a_fifth() -> None:
    whole = (storage.best_by(DAY, CANNED).typ - DAY).days
    light = storage.best_by(DAY, CANNED, factor=storage.life_factor(light=True))
    both = storage.best_by(DAY, CANNED, factor=storage.life_factor(True, True))
    assert (light.typ - DAY).days == pytest.approx(0.8 * whole, abs=1)
    assert (both.typ - DAY).days == pytest.approx(0.64 * whole, abs=1)
    with pytest.raises(OutOfRange):
        storage.best_by(DAY, CANNED, factor=0)


@pytest.mark.parametrize(
    ("product", "sugared", "sealed", "row"),
    [
        ("juice", True, True, "juice"),
        ("juice", False, False, "failed_seal_juice"),
        ("syrup", True, True, "syrup_or_concentrate_sugared"),
        ("syrup", False, True, "syrup_or_concentrate_unsugared"),
        ("syrup", True, False, "failed_seal_sugared"),
        ("puree", True, True, "puree_or_whole_fruit"),
        ("infused", True, True, "infused_whole_fruit"),
        ("jelly", True, True, "jelly"),
    ],
)
def test_which_row_a_jar_takes(product: str, sugared: bool, sealed: bool, row: str) -> None:
    assert storage.canned_row(product, sugared, sealed).product == row
    with pytest.raises(Unknown):
        storage.canned_row("gravel")


@pytest.mark.parametrize(("used", "days"), [(0.0, 7), (0.5, 3), (1.0, 0), (3.0, 0)])
def test_opening_starts_the_opened_clock_at_what_was_left(used: float, days: int) -> None:
    best = storage.opened(used, storage.life_row("opened_chilled", "juice"), DAY)
    assert (best.typ - DAY).days == days
    assert best.lo <= best.typ <= best.hi
    with pytest.raises(OutOfRange):
        storage.opened(used, storage.life_row("opened_chilled", "juice"), DAY, 20)


def test_infused_fruit_is_not_ready_for_a_month() -> None:
    assert (storage.ready_from(DAY) - DAY).days == 30


def test_a_row_that_is_not_listed() -> None:
    with pytest.raises(Unknown):
        storage.life_row("canned_sealed", "moonshine")
