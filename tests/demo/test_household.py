"""The demo household: made by the services, relative to today, the same on every day."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.lifecycle import Phase
from elderberry.demo import household as demo
from elderberry.services import shelf, today
from elderberry.services.folder import folder_of
from elderberry.services.who import Who
from elderberry.store import Batch, Household, Kitchen, Person, queries
from tests.conftest import CHEAP

MOMENTS = [datetime(2026, 11, 25, 8, tzinfo=UTC), datetime(2028, 2, 29, 23, 59, tzinfo=UTC)]


def oda(orm: Orm) -> Who:
    person = orm.query(Person).filter_by(sign_in=demo.DEMO_SIGN_IN).one()
    return Who(person.household_id, person.id, person.name, person.role)


@pytest.mark.parametrize("now", MOMENTS)
def test_it_shows_a_kitchen_in_the_middle_of_its_work(orm: Orm, now: datetime) -> None:
    assert demo.load(orm, CHEAP, now)
    who = oda(orm)
    assert len(queries.all_of(orm, who.household_id, Person)) == 3
    assert queries.all_of(orm, who.household_id, Kitchen)[0].altitude_m == 585
    folders = [folder_of(orm, who, b.id) for b in queries.all_of(orm, who.household_id, Batch)]
    assert [f.finished for f in folders] == [True, False, False]
    running = [o.key for o in folders[2].operations if folders[2].phase(o) is Phase.RUNNING]
    assert running == ["steam_juice-2"]
    slots = today.hob(orm, who, now)
    assert {s.kind for s in slots} == {"cool", "steam_juice"}
    steaming = next(s for s in slots if s.kind == "steam_juice")
    assert steaming.due_at == now + timedelta(minutes=38)


def test_a_seal_check_is_due_within_its_window(orm: Orm) -> None:
    now = MOMENTS[0]
    demo.load(orm, CHEAP, now)
    items = [i for i in today.view(orm, oda(orm), now).items if "seals" in i.text]
    assert len(items) == 1
    assert items[0].kind == "now"
    assert items[0].at is not None
    assert items[0].until is not None
    assert items[0].at <= now <= items[0].until


def test_its_shelf_holds_sealed_damsons_and_two_jars_to_use_first(orm: Orm) -> None:
    now = MOMENTS[0]
    demo.load(orm, CHEAP, now)
    view = shelf.view(orm, oda(orm))
    by_place = {p.name: p.jars for p in view.places}
    assert [j.seal for j in by_place["Cellar shelf"]] == ["sealed"] * 10
    assert [j.part_filled for j in by_place["Refrigerator"]] == [True, True]
    assert view.litres == pytest.approx(10 * 0.473 + 0.31 + 0.52)


def test_it_is_only_loaded_where_there_is_nothing(orm: Orm) -> None:
    assert demo.load(orm, CHEAP, MOMENTS[0])
    assert not demo.load(orm, CHEAP, MOMENTS[0])
    assert orm.query(Household).count() == 1
