"""A screen asks the store as often for many as for few."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager

import pytest
from sqlalchemy import Engine, event
from sqlalchemy.orm import Session as Orm

from elderberry.services.cooking import batch_list, batch_view
from elderberry.services.cooking.folder import find
from elderberry.services.day import stove, today
from elderberry.services.household import kitchens
from elderberry.services.planning import intake, plans
from elderberry.services.shelf import shelf
from elderberry.services.who import Who
from tests.factories import NOON, Work, household, minutes, request

MOST = {"today": 32, "hob": 22, "batches": 22, "shelf": 9, "lots": 3, "a plan": 16, "a batch": 24}
"""How often each screen may ask; a new question of the store has to be worth it."""
SCREENS: dict[str, Callable[[Orm, Who], object]] = {
    "today": lambda orm, who: today.view(orm, who, minutes(200)),
    "hob": lambda orm, who: today.hob(orm, who, minutes(200)),
    "batches": batch_list.lines,
    "shelf": lambda orm, who: shelf.view(orm, who, minutes(200)),
    "lots": intake.lots,
    "a plan": lambda orm, who: plans.show(orm, who, request()),
}


@contextmanager
def counted(engine: Engine) -> Iterator[list[str]]:
    """The statements that go to the store meanwhile."""
    said: list[str] = []

    def note(_c: object, _u: object, statement: str, *_: object) -> None:
        if not statement.startswith(("SAVEPOINT", "RELEASE")):
            said.append(statement)

    event.listen(engine, "before_cursor_execute", note)
    try:
        yield said
    finally:
        event.remove(engine, "before_cursor_execute", note)


def a_kitchen_with(engine: Engine, batches: int) -> Who:
    """A household with so many batches under way, as many lots, and their jars."""
    with Orm(engine) as orm, orm.begin():
        who = household(orm, f"Kitchen {batches}")
        for number in range(batches):
            intake.take_in(orm, who, intake.NewLot(f"{number + 2} kg damsons"), NOON)
            work = Work(orm, who, request("damson", 4.0))
            work.to_cooling(jars=2 + number, part_ml=100)
    return who


@pytest.mark.parametrize("screen", SCREENS)
def test_as_often_for_many_as_for_few(committed: Engine, screen: str) -> None:
    asked = []
    for batches in (1, 4):
        who = a_kitchen_with(committed, batches)
        with Orm(committed) as orm, counted(committed) as said:
            SCREENS[screen](orm, who)
        asked.append(len(said))
    assert asked[0] == asked[1] <= MOST[screen], asked


def test_a_batch_reads_its_own_rows_only(committed: Engine) -> None:
    who = a_kitchen_with(committed, 3)
    with Orm(committed) as orm:
        batch = batch_list.lines(orm, who)[0]
    read: set[object] = set()
    with Orm(committed) as orm, counted(committed) as said:
        event.listen(orm, "loaded_as_persistent", lambda _, row: read.add(_of(row)))
        batch_view.view(orm, who, find(orm, who, batch.id))
    assert read - {None} == {batch.id}
    assert len(said) <= MOST["a batch"]


def _of(row: object) -> object:
    """The batch that a row is of."""
    return getattr(row, "batch_id", None)


def test_the_rail_is_on_every_screen_and_lays_nothing_out_anew(
    committed: Engine, laid: list[object]
) -> None:
    who = a_kitchen_with(committed, 2)
    laid.clear()
    with Orm(committed) as orm:
        assert today.hob(orm, who, minutes(200))
        stove.view(orm, who, minutes(200))
    assert laid == []
    with Orm(committed) as orm:
        kitchens.stored(orm, who).altitude_m = 1500
        batch_view.view(orm, who, find(orm, who, batch_list.lines(orm, who)[0].id))
    assert len(laid) == 1


def test_a_batch_stays_laid_out_as_it_was_pressed_last(
    committed: Engine, laid: list[object]
) -> None:
    who = a_kitchen_with(committed, 1)
    laid.clear()
    with Orm(committed) as orm:
        batch_view.view(orm, who, find(orm, who, batch_list.lines(orm, who)[0].id))
    assert laid == []
