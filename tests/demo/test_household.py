"""The demo household: made by the services, relative to today, the same on every day."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.batch.lifecycle import Phase
from elderberry.demo import household as demo
from elderberry.services.cooking.folder import folder_of
from elderberry.services.day import today
from elderberry.services.planning import intake, plans
from elderberry.services.planning.asked import of_fruit
from elderberry.services.shelf import shelf
from elderberry.services.who import Who
from elderberry.store import Batch, Kitchen, Person, queries
from tests.conftest import CHEAP

MOMENTS = [datetime(2026, 11, 25, 8, tzinfo=UTC), datetime(2028, 2, 29, 23, 59, tzinfo=UTC)]


def oda(orm: Orm) -> Who:
    person = orm.query(Person).filter_by(sign_in=demo.DEMO_SIGN_IN).one()
    return Who.of(person)


@pytest.mark.parametrize("now", MOMENTS)
def test_it_shows_a_kitchen_in_the_middle_of_its_work(orm: Orm, now: datetime) -> None:
    assert demo.load(orm, CHEAP, now)
    who = oda(orm)
    assert len(queries.all_of(orm, who.household_id, Person)) == 3
    assert queries.all_of(orm, who.household_id, Kitchen)[0].altitude_m == 585
    folders = [folder_of(orm, who, b.id) for b in queries.all_of(orm, who.household_id, Batch)]
    assert [f.standing.finished for f in folders] == [True] * 11 + [False, False]
    steaming_now = folders[-1]
    running = [o.key for o in steaming_now.operations if steaming_now.phase(o) is Phase.RUNNING]
    assert running == ["steam_juice-2"]
    slots = today.hob(orm, who, now)
    assert {s.kind for s in slots} == {"cool", "steam_juice"}
    steaming = next(s for s in slots if s.kind == "steam_juice")
    assert steaming.due_at == now + timedelta(minutes=38)


@pytest.mark.parametrize("now", MOMENTS)
def test_nobody_fills_jars_or_looks_at_seals_at_night(orm: Orm, now: datetime) -> None:
    demo.load(orm, CHEAP, now)
    who, zone = oda(orm), ZoneInfo(demo.TIME_ZONE)
    over = [b for b in queries.all_of(orm, who.household_id, Batch)
            if folder_of(orm, who, b.id).standing.finished]  # fmt: skip
    events = [e for b in over for e in folder_of(orm, who, b.id).events]
    hours = [e.at.astimezone(zone).hour for e in events if e.kind in {"filled", "seal_held"}]
    assert len(hours) > 100
    assert min(hours) >= 7
    assert max(hours) <= 22


def test_a_seal_check_is_due_within_its_window(orm: Orm) -> None:
    now = MOMENTS[0]
    demo.load(orm, CHEAP, now)
    items = [i for i in today.view(orm, oda(orm), now).items if "seals" in i.text]
    assert len(items) == 1
    assert items[0].kind == "now"
    assert items[0].at is not None
    assert items[0].until is not None
    assert items[0].at <= now <= items[0].until


def test_its_shelf_holds_the_season_and_three_jars_to_use_first(orm: Orm) -> None:
    now = MOMENTS[0]
    demo.load(orm, CHEAP, now)
    view = shelf.view(orm, oda(orm))
    by_place = {p.name: p.jars for p in view.places}
    assert {j.seal for j in by_place["Cellar shelf"]} == {"sealed"}
    labels = {j.label for j in by_place["Cellar shelf"]}
    assert {"Damson juice", "Gooseberry juice", "Redcurrant juice"} <= labels
    assert [j.part_filled for j in by_place["Refrigerator"]].count(True) == 2
    assert any("Rosehip" in j.label for j in by_place["Refrigerator"])


def test_jars_that_are_alike_are_to_be_used_together(orm: Orm) -> None:
    now = MOMENTS[0]
    demo.load(orm, CHEAP, now)
    items = [i for i in today.view(orm, oda(orm), now).items if i.kind == "use"]
    hips = next(i for i in items if "rosehip" in i.text)
    assert hips.text == "Use 3 jars of rosehip drink, refrigerator"
    assert hips.detail.count("-26-") == 3
    assert hips.jar_id is not None
    assert [i.at for i in items] == sorted(i.at for i in items if i.at)


def test_its_yields_have_a_history_and_an_outlier(orm: Orm) -> None:
    demo.load(orm, CHEAP, MOMENTS[0])
    who = oda(orm)
    for fruit, way, used, aside in (
        ("gooseberry", "weighted_gooseberry", 3, 0),
        ("redcurrant", "simmered_redcurrant", 2, 1),
        ("damson", "steam_juiced", 3, 0),
    ):
        shown = plans.show(orm, who, of_fruit(fruit, 4, method_key=way)).fruit_yield
        assert shown is not None
        assert shown.batches == used, fruit
        assert sum(d.aside for d in shown.dots) == aside
    rosehips = plans.show(orm, who, of_fruit("rosehip", 2)).fruit_yield
    assert rosehips is not None
    assert rosehips.batches == 0  # nobody measured the water


def test_fruit_waits_and_says_until_when(orm: Orm) -> None:
    now = MOMENTS[0]
    demo.load(orm, CHEAP, now)
    waiting = intake.lots(orm, oda(orm))
    assert [lot.fruit_key for lot in waiting] == ["gooseberry", "quince", "blackcurrant"]
    assert waiting[1].kg == pytest.approx(4.5)
    assert waiting[0].kg == pytest.approx(4.5)
