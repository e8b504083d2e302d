"""The demo household: made by the services, relative to today, the same on every day."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest
from sqlalchemy import Connection, Engine
from sqlalchemy.orm import Session as Orm

from elderberry.core.batch.lifecycle import Phase
from elderberry.demo import household as demo
from elderberry.demo.hands import TIME_ZONE
from elderberry.services.cooking import beside, jar_view
from elderberry.services.cooking.folder import folder_of
from elderberry.services.day import today
from elderberry.services.planning import intake, learned, paces, plans
from elderberry.services.planning.asked import of_fruit
from elderberry.services.shelf import shelf
from elderberry.services.who import Who
from elderberry.store import Batch, Jar, Kitchen, Person, queries
from tests.conftest import CHEAP

MORNING, LEAP_NIGHT = (
    datetime(2026, 11, 25, 8, tzinfo=UTC),
    datetime(2028, 2, 29, 23, 59, tzinfo=UTC),
)


@pytest.fixture(scope="module", params=[MORNING, LEAP_NIGHT], ids=["morning", "leap night"])
def shown(request: pytest.FixtureRequest, engine: Engine) -> Iterator[tuple[Connection, datetime]]:
    """A demo household, made once for all that only look at it; undone afterwards."""
    with engine.connect() as connection, connection.begin() as undone:
        with Orm(connection, join_transaction_mode="create_savepoint") as session, session.begin():
            assert demo.load(session, CHEAP, request.param)
        yield connection, request.param
        undone.rollback()


@pytest.fixture
def now(shown: tuple[Connection, datetime]) -> datetime:
    """The moment at which the household is seen."""
    return shown[1]


@pytest.fixture
def orm(shown: tuple[Connection, datetime]) -> Iterator[Orm]:
    """The household, for one who only looks."""
    with Orm(shown[0], join_transaction_mode="create_savepoint") as session:
        yield session


def oda(orm: Orm) -> Who:
    person = orm.query(Person).filter_by(sign_in=demo.DEMO_SIGN_IN).one()
    return Who.of(person)


def test_it_shows_a_kitchen_in_the_middle_of_its_work(orm: Orm, now: datetime) -> None:
    who = oda(orm)
    assert len(queries.all_of(orm, who.household_id, Person)) == 3
    assert queries.all_of(orm, who.household_id, Kitchen)[0].altitude_m == 585
    folders = [folder_of(orm, who, b.id) for b in queries.all_of(orm, who.household_id, Batch)]
    assert [f.standing.finished for f in folders] == [True] * 23 + [False, False] + [True] * 6 + [
        False
    ] * 2
    steaming_now = folders[24]
    running = [o.key for o in steaming_now.operations if steaming_now.phase(o) is Phase.RUNNING]
    assert running == ["steam_juice-2"]
    slots = today.hob(orm, who, now)
    assert {s.kind for s in slots} == {"cool", "steam_juice", "freeze_dry", "condition"}
    steaming = next(s for s in slots if s.kind == "steam_juice")
    slower = paces.here(orm, who)["steam"].factor
    assert 1 < slower < 1.2
    assert steaming.due_at is not None
    assert timedelta(minutes=38) < steaming.due_at - now < timedelta(minutes=38 + 80 * 0.2)


def test_nobody_fills_jars_or_looks_at_seals_at_night(orm: Orm, now: datetime) -> None:
    who, zone = oda(orm), ZoneInfo(TIME_ZONE)
    over = [b for b in queries.all_of(orm, who.household_id, Batch)
            if folder_of(orm, who, b.id).standing.finished]  # fmt: skip
    events = [e for b in over for e in folder_of(orm, who, b.id).events]
    hours = [e.at.astimezone(zone).hour for e in events if e.kind in {"filled", "seal_held"}]
    assert len(hours) > 100
    assert min(hours) >= 7
    assert max(hours) <= 22


def test_a_seal_check_is_due_within_its_window(orm: Orm, now: datetime) -> None:
    items = [i for i in today.view(orm, oda(orm), now).items if "seals" in i.text]
    assert len(items) == 1
    assert items[0].kind == "now"
    assert items[0].at is not None
    assert items[0].until is not None
    assert items[0].at <= now <= items[0].until


def test_its_shelf_holds_the_season_and_three_jars_to_use_first(orm: Orm, now: datetime) -> None:
    view = shelf.view(orm, oda(orm), now)
    by_place = {p.name: [s.first for s in p.stacks] for p in view.places}
    assert {j.seal for j in by_place["Cellar shelf"]} == {"sealed"}
    labels = {j.label for j in by_place["Cellar shelf"]}
    assert {"Damson juice", "Gooseberry juice", "Redcurrant juice"} <= labels
    assert [j.part_filled for j in by_place["Refrigerator"]].count(True) == 2
    assert any("Rosehip" in j.label for j in by_place["Refrigerator"])


def test_jars_that_are_alike_are_to_be_used_together(orm: Orm, now: datetime) -> None:
    items = [i for i in today.view(orm, oda(orm), now).items if i.kind == "use"]
    hips = next(i for i in items if "rosehip" in i.text)
    assert hips.text == "Use 3 jars of rosehip drink, refrigerator"
    assert hips.detail.count(f"-{now:%y}-") == 3
    assert hips.jar_id is not None
    assert [i.at for i in items] == sorted(i.at for i in items if i.at)


def test_its_yields_have_a_history_and_an_outlier(orm: Orm) -> None:
    who = oda(orm)
    for fruit, way, used, aside in (
        ("gooseberry", "weighted_gooseberry", 3, 0),
        ("redcurrant", "simmered_redcurrant", 2, 1),
        ("damson", "steam_juiced", 4, 0),
    ):
        shown = plans.show(orm, who, of_fruit(fruit, 4, method_key=way)).fruit_yield
        assert shown is not None
        assert shown.batches == used, fruit
        assert sum(d.aside for d in shown.dots) == aside
    rosehips = plans.show(orm, who, of_fruit("rosehip", 2)).fruit_yield
    assert rosehips is not None
    assert rosehips.batches == 0  # nobody measured the water


def test_fruit_waits_and_says_until_when(orm: Orm) -> None:
    waiting = intake.lots(orm, oda(orm))
    assert [lot.fruit_key for lot in waiting] == ["gooseberry", "quince", "blackcurrant"]
    assert waiting[1].kg == pytest.approx(4.5)
    assert waiting[0].kg == pytest.approx(4.5)


def test_it_has_learned_how_much_peel_its_citrus_gives(orm: Orm) -> None:
    who = oda(orm)
    seen = learned.observations(orm, who, "grapefruit")
    assert [(o.way, round(o.yield_l_per_kg, 3)) for o in seen if o.way == "peel"] == [
        ("peel", 0.096)
    ]


def test_its_syrups_and_jellies_are_what_they_were_judged_to_be(orm: Orm) -> None:
    who = oda(orm)
    jars = jar_view.views(orm, who, queries.all_of(orm, who.household_id, Jar))
    labels = {j.label for j in jars}
    assert {"Quince jelly", "Strong syrup", "Caramel syrup", "Mint vinegar syrup"} <= labels
    assert {j.seal for j in jars if j.label == "Strong syrup"} == {"capped"}
    assert all(j.best_by for j in jars if j.place)
    twins = [b.id for b in queries.all_of(orm, who.household_id, Batch) if b.material == "quince"]
    found = beside.beside(orm, who, twins[1], twins[0])
    assert found.differences[0] == "17 days later picked, so riper"
    assert found.thicker is False
