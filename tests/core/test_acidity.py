"""A meter's reading is never forgotten: what stands against a limit, and what answers it."""

from __future__ import annotations

import pytest

from elderberry.core.flow.acidity import Acidity, Shown, together

LIMIT, FRUIT_G = 4.2, 100.0


def stands(shown: Shown, citrus: bool = False) -> bool:
    return shown.stands_over(LIMIT, FRUIT_G, citrus)


@pytest.mark.parametrize(("ph", "high"), [(4.19, False), (4.2, False), (4.21, True)])
def test_a_reading_stands_from_just_over_the_limit(ph: float, high: bool) -> None:
    assert stands(Shown(ph, FRUIT_G)) == high


@pytest.mark.parametrize(
    ("acid", "again", "still"),
    [(False, None, True), (False, 4.0, True), (True, None, True), (True, 4.2, False),
     (True, 4.21, True)],
)  # fmt: skip
def test_most_of_the_fruit_wants_acid_and_a_reading_after_it(
    acid: bool, again: float | None, still: bool
) -> None:
    shown = Shown(4.5, FRUIT_G, acid=acid)
    assert stands(shown if again is None else shown.read_again(again)) == still


@pytest.mark.parametrize(("solids_g", "answered"), [(49.9, True), (50.0, False)])
def test_a_smaller_part_is_answered_by_a_reading_of_all_of_it(
    solids_g: float, answered: bool
) -> None:
    part = Shown(4.5, solids_g)
    assert stands(part)
    assert part.waits(FRUIT_G, citrus=False) == answered
    again = part.read_again(4.0)
    assert stands(again) == (not answered)
    assert not again.waits(FRUIT_G, citrus=False)


def test_only_lemon_in_a_citrus_concentrate_makes_it_answer_without_acid() -> None:
    for citrus in (False, True):
        for lemon in (False, True):
            shown = Shown(4.5, FRUIT_G, lemon=lemon)
            assert shown.waits(FRUIT_G, citrus) == (citrus and lemon)
            assert stands(shown.read_again(3.9), citrus) != (citrus and lemon)


@pytest.mark.parametrize("joins", [Acidity.acidified, Acidity.joined])
def test_lemon_that_joined_once_is_remembered(joins: object) -> None:
    before = Acidity(4.5, (Shown(4.5, FRUIT_G),))
    then = joins(before, lemon=True)  # type: ignore[operator]
    assert [s.lemon for s in then.shown] == [True]
    assert [s.lemon for s in joins(then).shown] == [True]  # type: ignore[operator]
    assert [s.lemon for s in joins(before).shown] == [False]  # type: ignore[operator]


def test_acid_leaves_a_reading_as_it_was_and_anything_else_does_not() -> None:
    read = Acidity().read(4.4, FRUIT_G)
    assert read.meter == 4.4
    sharp = read.acidified()
    assert (sharp.meter, sharp.shown[0].acid) == (4.4, True)
    again = sharp.read(4.0, FRUIT_G)
    assert (again.meter, again.shown[0].after_acid) == (4.0, 4.0)
    assert [s.ph for s in again.shown] == [4.4, 4.0]
    mixed = again.joined()
    assert mixed.meter is None
    assert [(s.after, s.after_acid) for s in mixed.shown] == [(None, None)] * 2


def test_poured_together_each_part_keeps_what_was_read_of_it() -> None:
    sour, mild = Acidity().read(3.1, 60.0), Acidity().read(4.4, 40.0).acidified().read(4.0, 40.0)
    both = together([sour, mild])
    assert both.meter == 4.0
    assert [s.ph for s in both.shown] == [3.1, 4.4, 4.0]
    assert all(s.after is None and s.after_acid is None for s in both.shown)
    assert together([mild]) is mild
    assert together([sour, Acidity()]).meter is None
    assert together([sour, sour]).shown == sour.shown
