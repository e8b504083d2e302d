"""What a session has read it does not read again, and it never shows what is no longer so."""

from __future__ import annotations

from datetime import UTC, datetime

from sqlalchemy import update
from sqlalchemy.orm import Session as Orm

from elderberry.services.household import kitchens
from elderberry.store import Event, JarStock, Operation, Station, Vessel, queries
from tests.factories import Work, forget, household

NOON = datetime(2026, 11, 25, 12, tzinfo=UTC)


def test_a_table_is_read_once(orm: Orm) -> None:
    mine = household(orm).household_id
    first = queries.all_of(orm, mine, Station)
    assert first
    assert queries.all_of(orm, mine, Station) is first


def test_a_row_that_changes_is_the_one_that_was_read(orm: Orm) -> None:
    mine = household(orm).household_id
    stock = queries.all_of(orm, mine, JarStock)[0]
    stock.jars = 7
    orm.flush()
    assert queries.all_of(orm, mine, JarStock)[0].jars == 7


def test_a_row_that_comes_lies_behind_the_others(orm: Orm) -> None:
    mine = household(orm).household_id
    before = list(queries.all_of(orm, mine, Vessel))
    orm.add(Vessel(household_id=mine, kind="pot", name="small pot", litres=3.0, count=1))
    orm.flush()
    after = queries.all_of(orm, mine, Vessel)
    assert [v.id for v in after] == [*(v.id for v in before), after[-1].id]
    assert after[-1].litres == 3.0


def test_a_row_that_goes_is_no_longer_there(orm: Orm) -> None:
    mine = household(orm).household_id
    orm.add(Vessel(household_id=mine, kind="pot", name="small pot", litres=3.0, count=1))
    orm.flush()
    there = queries.all_of(orm, mine, Vessel)
    orm.delete(there[-1])
    orm.flush()
    assert queries.all_of(orm, mine, Vessel) == there[:-1]


def test_another_household_has_rows_of_its_own(orm: Orm) -> None:
    ours, theirs = household(orm), household(orm, "Elsewhere")
    before = list(queries.all_of(orm, ours.household_id, Vessel))
    queries.all_of(orm, theirs.household_id, Vessel)
    orm.add(
        Vessel(household_id=theirs.household_id, kind="pot", name="small pot", litres=3.0, count=1)
    )
    orm.flush()
    assert queries.all_of(orm, ours.household_id, Vessel) == before
    assert queries.all_of(orm, theirs.household_id, Vessel)[-1].litres == 3.0


def test_a_batch_sees_what_happens_to_it(orm: Orm) -> None:
    work = Work(orm, household(orm))
    mine, batch = work.who.household_id, work.batch.id
    before = len(queries.of_batch(orm, mine, Event, batch))
    orm.add(
        Event(
            household_id=mine, batch_id=batch, kind="note", at=NOON,
            person_id=work.who.person_id, data={},
        )
    )  # fmt: skip
    orm.flush()
    assert len(queries.of_batch(orm, mine, Event, batch)) == before + 1


def test_the_ways_between_lots_are_read_anew_once_a_step_comes(orm: Orm) -> None:
    work = Work(orm, household(orm))
    mine, batch = work.who.household_id, work.batch.id
    before = queries.edges(orm, mine, [batch])
    assert queries.edges(orm, mine, [batch]) is before
    last = max(queries.of_batch(orm, mine, Operation, batch), key=lambda o: o.position)
    columns = {c.key: getattr(last, c.key) for c in Operation.__table__.columns if c.key != "id"}
    orm.add(Operation(**columns | {"key": "once-more", "position": last.position + 1}))
    orm.flush()
    assert queries.edges(orm, mine, [batch]) is not before


def test_the_kitchen_is_reckoned_anew_where_it_became_another(orm: Orm) -> None:
    who = household(orm)
    before = kitchens.for_core(orm, who)
    assert kitchens.for_core(orm, who) is before
    kitchens.stored(orm, who).altitude_m = 1240.0
    orm.flush()
    assert kitchens.for_core(orm, who).altitude_m == 1240.0
    stock = queries.all_of(orm, who.household_id, JarStock)[0]
    stock.jars = stock.lids = 5
    orm.flush()
    assert kitchens.for_core(orm, who).jars_there[stock.jar_kind] == 5


def test_what_was_undone_was_never_there(orm: Orm) -> None:
    mine = household(orm).household_id
    before = list(queries.all_of(orm, mine, Vessel))
    undone = orm.begin_nested()
    orm.add(Vessel(household_id=mine, kind="pot", name="small pot", litres=3.0, count=1))
    orm.flush()
    assert len(queries.all_of(orm, mine, Vessel)) == len(before) + 1
    undone.rollback()
    assert queries.all_of(orm, mine, Vessel) == before


def test_rows_written_past_the_session_are_read_once_it_is_told(orm: Orm) -> None:
    mine = household(orm).household_id
    stock = queries.all_of(orm, mine, JarStock)[0]
    orm.execute(
        update(JarStock).where(JarStock.id == stock.id).values(jars=91),
        execution_options={"synchronize_session": False},
    )
    forget(orm)
    assert queries.all_of(orm, mine, JarStock)[0].jars == 91
