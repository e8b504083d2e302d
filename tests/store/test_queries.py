"""Every query stays inside its household, and says what it says it does."""

from __future__ import annotations

from sqlalchemy.orm import Session as Orm

from elderberry.store import (
    Batch,
    Event,
    Jar,
    JarStock,
    Lot,
    Operation,
    PaceSeen,
    Person,
    Place,
    queries,
    shelf_queries,
)
from elderberry.store.shelf_queries import Wanted
from tests.factories import Work, household, minutes, reading


def two_kitchens(orm: Orm) -> tuple[Work, Work]:
    ours, theirs = Work(orm, household(orm)), Work(orm, household(orm, "Elsewhere"))
    for work in (ours, theirs):
        work.do("steam_juice-1", 1)
    return ours, theirs


def test_rows_by_table_and_id(orm: Orm) -> None:
    ours, theirs = two_kitchens(orm)
    mine, other = ours.who.household_id, theirs.who.household_id
    for model in (Batch, Operation, Lot, Event, Person, Place, JarStock):
        rows = queries.all_of(orm, mine, model)
        assert rows
        assert {row.household_id for row in rows} == {mine}
        assert queries.one(orm, other, model, rows[0].id) is None
        assert queries.one(orm, mine, model, rows[0].id) is rows[0]
        assert [row.id for row in rows] == sorted(row.id for row in rows)


def test_what_belongs_to_a_batch(orm: Orm) -> None:
    ours, theirs = two_kitchens(orm)
    mine = ours.who.household_id
    for model in (Operation, Lot, Event):
        assert queries.of_batch(orm, mine, model, ours.batch.id)
        assert queries.of_batch(orm, mine, model, theirs.batch.id) == []
    assert queries.edges(orm, mine, [ours.batch.id])
    assert not queries.edges(orm, mine, [theirs.batch.id])


def test_stations_in_use_and_batches_under_way(orm: Orm) -> None:
    ours, theirs = two_kitchens(orm)
    mine = ours.who.household_id
    running = queries.operations_in_use(orm, mine)
    assert [(o.key, o.household_id) for o in running] == [("steam_juice-1", mine)]
    ours.finish("steam_juice-1", 65)
    assert queries.operations_in_use(orm, mine) == []
    assert [b.id for b in queries.unfinished_batches(orm, mine)] == [ours.batch.id]
    assert queries.operations_in_use(orm, theirs.who.household_id)


def test_events_after_the_last_one_seen(orm: Orm) -> None:
    ours, theirs = two_kitchens(orm)
    mine = ours.who.household_id
    newest = queries.newest_event_id(orm, mine)
    assert queries.events_after(orm, mine, newest) == []
    theirs.finish("steam_juice-1", 65)
    assert queries.events_after(orm, mine, newest) == []
    ours.finish("steam_juice-1", 65, readings=(reading("volume_ml", 1900, "jug"),))
    seen = queries.events_after(orm, mine, newest)
    assert [e.kind for e in seen] == ["reading", "finished"]
    assert queries.events_after(orm, mine, newest, limit=1) == seen[:1]
    assert queries.newest_event_id(orm, 0) == 0


def test_jars_that_stand_somewhere_and_what_happened_to_them(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.to_filled()
    mine = work.who.household_id
    cold = next(p for p in queries.all_of(orm, mine, Place) if p.kind == "refrigerator")
    standing = shelf_queries.on_place(orm, mine, cold.id)
    assert [j.part_filled for j in standing] == [True]
    assert (cold.jars, cold.jars_ml) == (1, standing[0].fill_ml)
    both, neither = ({"damson": (), "JUICE": ()}, {"damson": (), "quince": ()})
    found = shelf_queries.stacks(orm, mine, cold.id, Wanted(words=both), 9)
    assert [(n, first) for _, n, first in found] == [(1, standing[0].id)]
    assert shelf_queries.stacks(orm, mine, cold.id, Wanted(words=neither), 9) == []
    assert shelf_queries.stacks(orm, mine, cold.id, Wanted(), 9) == found
    assert shelf_queries.on_place(orm, 0, cold.id) == []
    jar = queries.all_of(orm, work.who.household_id, Jar)[0]
    assert [e.kind for e in queries.jar_events(orm, work.who.household_id, jar.id)] == ["filled"]
    assert minutes(90) == queries.jar_events(orm, work.who.household_id, jar.id)[0].at


def test_the_newest_paces_of_each_role_and_no_other_households(orm: Orm) -> None:
    ours, theirs = two_kitchens(orm)
    mine, other = ours.who.household_id, theirs.who.household_id
    for number in range(5):
        for role, whose, work in (
            ("heat", mine, ours),
            ("steam", mine, ours),
            ("heat", other, theirs),
        ):
            ratio = 1.0 + number / 10 + (0.5 if whose == other else 0.0)
            orm.add(PaceSeen(household_id=whose, batch_id=work.batch.id, role=role, ratio=ratio))
            orm.flush()
    found = queries.paces_seen(orm, mine, ("heat", "steam", "reduce"), 2)
    assert {role: sorted(seen) for role, seen in found.items()} == {
        "heat": [1.3, 1.4], "steam": [1.3, 1.4], "reduce": [],
    }  # fmt: skip
    assert sorted(queries.paces_seen(orm, other, ("heat",), 9)["heat"])[-1] == 1.9


def test_the_newest_jar_of_what_began_with_a_fruit(orm: Orm) -> None:
    assert queries.newest_jar_of(orm, household(orm).household_id, "damson") is None
    first, second = Work(orm, household(orm, "One")), Work(orm, household(orm, "Two"))
    first.to_filled()
    mine = first.who.household_id
    found = queries.newest_jar_of(orm, mine, "damson")
    assert found is not None
    jar, code = found
    assert (jar.batch_id, code) == (first.batch.id, first.batch.code)
    assert queries.newest_jar_of(orm, mine, "quince") is None
    assert queries.newest_jar_of(orm, second.who.household_id, "damson") is None
