"""Anything is pressed at any time: what is kept stays true, and refusals are in words."""

from __future__ import annotations

from datetime import datetime

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core import jars
from elderberry.core.batch.lifecycle import Phase, Seal
from elderberry.core.flow.kinds import kind as kind_of
from elderberry.services.cooking import batch_view
from elderberry.services.cooking.folder import Folder, folder_of
from elderberry.services.day import today
from elderberry.services.household import kitchen_view
from elderberry.services.shelf import shelf
from elderberry.services.who import Who
from elderberry.store import Batch, Event, JarStock, queries
from tests.services.hands import WAYS, Hands

PRESSES = 70


def check_jars(folder: Folder) -> None:
    """No jar is sealed for the shelf without its whole tested process, and none holds too much."""
    filled = sum(jar.fill_ml for jar in folder.jars)
    juice, _ = folder.standing.juice_ml()
    assert filled <= juice.hi / folder.standing.hot_ratio(folder.standing.fillings[0]) * 1.3 + 1
    for jar in folder.jars:
        assert jar.fill_ml <= jars.kind(jar.jar_kind).brim_ml
        if jar.seal == Seal.SEALED:
            assert jar.process["minutes"] >= folder.batch.process["minutes"]
            assert not jar.part_filled


def check_steps(folder: Folder) -> None:
    """What counts from a boil was boiled for its whole time before it was over."""
    for operation in folder.operations:
        state = folder.standing.states[operation.id]
        if state.phase is Phase.DONE and kind_of(operation.kind).boil == "holds":
            assert state.clock_from is not None
            assert state.finished_at is not None
            boiled = (state.finished_at - state.clock_from).total_seconds() / 60
            assert boiled >= state.minutes - 0.01, operation.key


def as_kept(events: list[Event]) -> list[tuple[int, str, datetime, str]]:
    return [(e.id, e.kind, e.at, repr(e.data)) for e in events]


def check_views(orm: Orm, who: Who, batch: Batch, now: datetime) -> None:
    """Every screen can be shown as things stand."""
    assert batch_view.view(orm, who, batch).steps
    today.view(orm, who, now)
    today.hob(orm, who, now)
    shelf.view(orm, who, now)
    assert kitchen_view.view(orm, who)
    assert all(s.jars >= 0 and s.lids >= 0 for s in queries.all_of(orm, who.household_id, JarStock))


@pytest.mark.parametrize("seed", range(len(WAYS)))
def test_whatever_is_pressed_what_is_kept_stays_true(orm: Orm, seed: int) -> None:
    hands = Hands(orm, seed)
    before: list[tuple[int, str, datetime, str]] = []
    for press in range(PRESSES):
        hands.press()
        folder = folder_of(orm, hands.who, hands.work.batch.id)
        kept = as_kept(list(folder.events))
        assert kept[: len(before)] == before
        before = kept
        check_steps(folder)
        check_jars(folder)
        if press % 15 == 0:
            check_views(orm, hands.who, folder.batch, hands.now)
    assert hands.refusals
    assert all(len(words) > 15 and "\n" not in words for words in hands.refusals)
