"""The shelf: what stands in front, and finding a jar by every word on it."""

from __future__ import annotations

from datetime import timedelta

import pytest
from sqlalchemy import select
from sqlalchemy.orm import Session as Orm

from elderberry.services.cooking import stacks, steps
from elderberry.services.shelf import shelf, stack
from elderberry.services.who import Who
from elderberry.store import Jar, Vessel
from tests.factories import Work, household, minutes, reading, request

LATER = minutes(40 * 24 * 60)


@pytest.fixture
def who(orm: Orm) -> Who:
    """A household with five pints of damson juice, the last one part-filled, in the cold."""
    owner = household(orm)
    work = Work(orm, owner)
    work.to_shelf()
    return owner


def for_the_cold(work: Work, step: str, jar_kind: str, count: int) -> None:
    """Steam it, fill so many of a kind, and put them into the cold."""
    work.do("steam_juice-1", 1)
    work.finish("steam_juice-1", 65, readings=(reading("volume_ml", 900, "jug"),))
    work.do("heat_to", 66)
    work.finish("heat_to", 80)
    work.finish("fill", 90, jars=(steps.JarEntry(jar_kind, count),))
    work.finish(step, 100)


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
    found = shelf.view(orm, who, LATER, words)
    assert sum(s.jars for p in found.places for s in p.stacks) == count
    assert found.jars == 5
    assert found.found == (count if words else None)


def test_those_in_front_are_shown_and_those_behind_counted(orm: Orm, who: Who) -> None:
    cellar = next(p for p in shelf.view(orm, who, LATER, most=1).places if p.kind == "cellar")
    assert ([s.jars for s in cellar.stacks], cellar.count, cellar.more) == ([4], 4, True)
    held = stack.page(orm, who, cellar.stacks[0].id, LATER)
    assert held.first.id == held.jars[0] == cellar.stacks[0].first.id
    jars = [orm.get_one(Jar, number) for number in held.jars]
    assert (len(jars), held.count) == (4, 4)
    assert [j.id for j in sorted(jars, key=lambda j: (j.best_by, j.code))] == held.jars


@pytest.mark.parametrize("words", ["", "damson", "damson pint", "cellar"])
def test_of_a_stack_only_those_are_found_that_go_soon(orm: Orm, who: Who, words: str) -> None:
    cellar = next(p for p in shelf.view(orm, who, LATER).places if p.kind == "cellar")
    jars = orm.scalars(select(Jar).where(Jar.place_id == cellar.id).order_by(Jar.code)).all()
    for jar, days in zip(jars, (90, 5, 40, 400), strict=True):
        jar.best_by = (LATER + timedelta(days=days)).date()
    orm.flush()
    stacks.count(orm, [cellar.stacks[0].id])
    for days, count in ((4, 0), (5, 1), (60, 2), (90, 3), (500, 4)):
        found = shelf.view(orm, who, LATER, f"{words} under {days} days left")
        there = next(p for p in found.places if p.id == cellar.id).stacks
        assert [(s.jars, s.first.id) for s in there] == [(count, jars[1].id)][: bool(count)]
        assert (found.found or 0) - count in {0, 1}  # the one in the refrigerator


def test_what_presses_most_is_found_without_reading_the_rest(orm: Orm, who: Who) -> None:
    whole = shelf.view(orm, who, LATER)
    stacks = [s.first for p in whole.places for s in p.stacks]
    first = min(j.best_by.typ for j in stacks if j.best_by)
    assert [j.part_filled for j in shelf.to_use(orm, who, first)] == [True]
    assert shelf.in_all(orm, who) == (whole.jars, whole.litres)
    assert shelf.fallen_short(orm, who) == []


def test_it_is_counted_whole_however_many_are_shown(orm: Orm, who: Who) -> None:
    for_the_cold(Work(orm, who, request("gooseberry", keep="chill")), "chill", "pint", 2)
    for words, count in (("juice", 7), ("gooseberry", 2), ("juice refrigerator", 3), ("pint", 7)):
        shown = shelf.view(orm, who, LATER, words, most=1)
        assert shown.found == count, words


def test_a_vessel_is_found_by_what_it_is_called(orm: Orm, who: Who) -> None:
    hh = who.household_id
    orm.add(Vessel(household_id=hh, kind="squeeze", name="Squeezy", litres=0.5, count=4))
    orm.flush()
    asked = request("damson", keep="freeze", jar_kinds=("squeeze-500",))
    for_the_cold(Work(orm, who, asked), "freeze", "squeeze-500", 1)
    assert shelf.view(orm, who, LATER, "squeeze bottle").found == 1
    assert shelf.view(orm, who, LATER, "damson squeeze freezer").found == 1
    assert shelf.view(orm, who, LATER, "gooseberry squeeze").found == 0
