"""The shelf: what stands in front, and finding a jar by every word on it."""

from __future__ import annotations

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.services.shelf import shelf
from elderberry.services.who import Who
from tests.factories import Work, household


@pytest.fixture
def who(orm: Orm) -> Who:
    """A household with five pints of damson juice, the last one part-filled, in the cold."""
    owner = household(orm)
    work = Work(orm, owner)
    work.to_cooling(jars=4, part_ml=100)
    work.finish("cool-1", 116 + 13 * 60)
    for number in range(4):
        work.look(number, 117 + 13 * 60)
    work.finish("seal_check", 118 + 13 * 60)
    return owner


@pytest.mark.parametrize(
    ("words", "count"),
    [
        ("", 5), ("damson", 5), ("DAMSON cellar", 4), ("dm-26 PINT", 5), ("dm-26-01-03", 1),
        ("refrigerator damson", 1), ("damson quince", 0), ("%", 0), ("_", 0),
    ],
)  # fmt: skip
def test_a_jar_is_found_by_every_word_wherever_it_stands_on_it(
    orm: Orm, who: Who, words: str, count: int
) -> None:
    found = shelf.view(orm, who, words.split())
    assert sum(len(p.jars) for p in found.places) == count
    assert found.jars == 5


def test_those_in_front_are_shown_and_those_behind_counted(orm: Orm, who: Who) -> None:
    cellar = next(p for p in shelf.view(orm, who, most=3).places if p.kind == "cellar")
    assert (len(cellar.jars), cellar.count) == (3, 4)
    whole = next(p for p in shelf.view(orm, who).places if p.kind == "cellar")
    assert [j.id for j in whole.jars][:3] == [j.id for j in cellar.jars]
    days = [j.best_by.typ for j in whole.jars if j.best_by]
    assert days == sorted(days)


def test_what_presses_most_is_found_without_reading_the_rest(orm: Orm, who: Who) -> None:
    whole = shelf.view(orm, who)
    first = min(j.best_by.typ for p in whole.places for j in p.jars if j.best_by)
    assert [j.part_filled for j in shelf.to_use(orm, who, first)] == [True]
    assert shelf.in_all(orm, who) == (whole.jars, whole.litres)
    assert shelf.fallen_short(orm, who) == []
