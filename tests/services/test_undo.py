"""A mis-tap is taken back, whatever it was, and leaves nothing but its trace in the journal."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.shelf.worth import Prices
from elderberry.services.cooking import batch_view, steps, undo
from elderberry.services.cooking.folder import TAKEN_BACK, folder_of
from elderberry.services.cooking.shown import BatchView
from elderberry.services.errors import Conflict, NotFound
from elderberry.services.shelf import figures, recall, shelf
from elderberry.services.who import Who
from elderberry.store import Event, JarStock, Place, queries
from tests.factories import NOON, Work, forget, household, reading, request
from tests.services.hands import WAYS, Hands

SOON = timedelta(seconds=7)


def seen(orm: Orm, who: Who, batch_id: int) -> tuple[BatchView, list[tuple[object, ...]]]:
    """Everything that a person can see of a batch, and what stands ready and where."""
    forget(orm)
    view = batch_view.of(folder_of(orm, who, batch_id))
    stock = [(s.jar_kind, s.jars, s.lids) for s in queries.all_of(orm, who.household_id, JarStock)]
    places = [
        (p.name, p.jars, round(p.jars_ml)) for p in queries.all_of(orm, who.household_id, Place)
    ]
    stations = [(s.id, s.station) for s in view.steps]
    return replace(view, version=0, press=None), [*stock, *places, *stations]


@pytest.mark.parametrize("seed", range(0, len(WAYS), 2))
def test_whatever_is_pressed_can_be_taken_back(orm: Orm, seed: int) -> None:
    hands, backs = Hands(orm, seed), 0
    batch = hands.work.batch.id
    for _ in range(30):
        before, version = seen(orm, hands.who, batch), hands.work.folder.batch.version
        hands.press()
        row = hands.work.folder.batch
        if row.version == version or not row.last_press:
            continue
        if undo.last_press(hands.work.folder) is None:
            with pytest.raises(Conflict, match="A meter's reading is not taken back"):
                undo.take_back(orm, hands.who, batch, hands.now + SOON)
            continue
        undo.take_back(orm, hands.who, batch, hands.now + SOON)
        assert seen(orm, hands.who, batch) == before
        backs += 1
        hands.press()
    assert backs > 2


def steaming(orm: Orm) -> Work:
    """A batch whose first load is on, by a press at noon."""
    work = Work(orm, household(orm), request("damson", 5.0))
    work.do("steam_juice-1", 0, steps.start)
    return work


def test_the_journal_keeps_both(orm: Orm) -> None:
    work = steaming(orm)
    after = undo.take_back(orm, work.who, work.batch.id, NOON + SOON)
    kinds = [e.kind for e in queries.of_batch(orm, work.who.household_id, Event, work.batch.id)]
    assert kinds[-2:] == ["started", TAKEN_BACK]
    assert "started" not in [e.kind for e in after.events]


def test_only_once_only_soon_and_only_ones_own(orm: Orm) -> None:
    work = steaming(orm)
    with pytest.raises(Conflict, match="more than ten seconds"):
        undo.take_back(orm, work.who, work.batch.id, NOON + timedelta(seconds=16))
    other = replace(work.who, person_id=work.who.person_id + 1)
    with pytest.raises(Conflict, match="no press of yours"):
        undo.take_back(orm, other, work.batch.id, NOON + SOON)
    undo.take_back(orm, work.who, work.batch.id, NOON + SOON)
    with pytest.raises(Conflict, match="no press of yours"):
        undo.take_back(orm, work.who, work.batch.id, NOON + SOON)


def test_a_meter_over_the_limit_is_not_clicked_away(orm: Orm) -> None:
    work = steaming(orm)
    work.do("steam_juice-1", 60, lambda m: steps.take_reading(m, reading("ph", 4.9, "ph_meter")))
    with pytest.raises(Conflict, match="meter"):
        undo.take_back(orm, work.who, work.batch.id, NOON + timedelta(minutes=60, seconds=2))
    assert undo.last_press(work.folder) is None


def test_a_filling_that_was_taken_back_left_no_jars_anywhere(orm: Orm) -> None:
    work = Work(orm, household(orm), request())
    work.to_filled(jars=4, part_ml=0)
    jar = work.folder.jars[0]
    undo.take_back(orm, work.who, work.batch.id, work.folder.journal[-1].at + SOON)
    assert not work.folder.jars
    assert recall.find(orm, work.who, "batch", work.folder.batch.code).jars == []
    assert figures.view(orm, work.who, Prices()).years == []
    with pytest.raises(NotFound):
        shelf.jar_page(orm, work.who, jar.id)
