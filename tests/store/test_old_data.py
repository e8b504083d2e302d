"""What an older Elderberry wrote is all there afterwards: batches, lots, methods, jars, history."""

from __future__ import annotations

import gzip
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path

import pytest
from sqlalchemy import Engine, text
from sqlalchemy.orm import Session as Orm

from elderberry.core.batch.lifecycle import Phase
from elderberry.core.flow.rows import brief_of
from elderberry.local.mariadb import PrivateMariadb
from elderberry.services.cooking import batch_view, kept, steps
from elderberry.services.cooking.folder import find, folder_of
from elderberry.services.day import today
from elderberry.services.planning.asked import GoesIn, PlanRequest
from elderberry.services.shelf import shelf
from elderberry.services.who import Who
from elderberry.store import Batch, Jar, Lot
from elderberry.store.database import connect, migrate
from tests.factories import Work, household

OLD = Path(__file__).parent / "old" / "demo_0004.sql.gz"
KEPT = ("batch", "lot", "operation", "operation_lot", "reading", "event", "jar", "person", "place")
ODA = Who(1, 1, "Oda", "keeper")
THEN = datetime(2026, 11, 27, 10, tzinfo=UTC)


Counted = tuple[Engine, dict[str, int], dict[str, int]]


@pytest.fixture(scope="session")
def counted(mariadb: PrivateMariadb) -> Iterator[Counted]:
    """The old database brought up to date, with its rows counted before and after."""
    engine = connect(mariadb.url("old"))
    _, script = gzip.decompress(OLD.read_bytes()).decode("utf-8").split("\n", 1)
    raw = engine.raw_connection()
    cursor = raw.cursor()
    for statement in script.split(";\n"):
        if statement.strip():
            cursor.execute(statement)
    raw.commit()
    raw.close()
    before = rows(engine)
    migrate(engine)
    with Orm(engine) as orm, orm.begin():
        kept.everything(orm)
    yield engine, before, rows(engine)
    engine.dispose()


def rows(engine: Engine) -> dict[str, int]:
    with engine.connect() as connection:
        return {
            table: int(connection.execute(text(f"select count(*) from `{table}`")).scalar_one())
            for table in KEPT
        }


def test_nothing_is_lost_on_the_way_up(counted: Counted) -> None:
    _, before, after = counted
    assert after == before
    assert min(after.values()) > 0


def test_every_batch_says_what_went_in_and_where_it_is_bound(counted: Counted) -> None:
    with Orm(counted[0]) as orm:
        for batch in orm.query(Batch):
            brief = brief_of(batch.brief)
            assert brief.main.material
            assert brief.end("fill").keep in {"shelf", "chill", "freeze"}
            first = next(x for x in orm.query(Lot).filter_by(batch_id=batch.id)
                         if x.key == brief.main.key)  # fmt: skip
            assert first.material == brief.main.material, batch.code


def test_every_batch_and_the_shelf_still_open(counted: Counted) -> None:
    with Orm(counted[0]) as orm:
        codes = []
        for batch in orm.query(Batch).all():
            shown = batch_view.view(orm, ODA, find(orm, ODA, batch.id))
            assert shown.steps
            assert shown.inputs[0].name
            codes.append(shown.code)
        assert len(codes) == 13
        on_shelf = [s for p in shelf.view(orm, ODA, THEN).places for s in p.stacks]
        assert sum(s.jars for s in on_shelf) > 40
        assert all(s.first.label for s in on_shelf)
        assert today.view(orm, ODA, THEN)
        finished = [folder_of(orm, ODA, b.id).standing.finished for b in orm.query(Batch)]
        assert sum(finished) >= 10


def test_jars_say_what_is_in_them_and_keep_their_process(counted: Counted) -> None:
    with Orm(counted[0]) as orm:
        jars = orm.query(Jar).all()
        assert all(j.contents for j in jars)
        assert sum(j.process is not None for j in jars) > 30


def test_a_batch_that_was_under_way_goes_on(counted: Counted) -> None:
    """The load in the steamer is drawn, the next begins, and every step keeps its words."""
    with Orm(counted[0]) as orm:
        under_way = [b for b in orm.query(Batch) if not folder_of(orm, ODA, b.id).standing.finished]
        batch = max(under_way, key=lambda b: b.id)
        folder = folder_of(orm, ODA, batch.id)
        running = next(o for o in folder.operations if folder.phase(o) is Phase.RUNNING)
        said = steps.Finish(readings=(steps.ReadingEntry("volume_ml", 2300.0, "jug"),))
        steps.change(orm, ODA, batch.id, running.id, THEN, lambda made: steps.finish(made, said))
        shown = batch_view.view(orm, ODA, find(orm, ODA, batch.id))
        following = next(s for s in shown.steps if s.ready)
        steps.change(orm, ODA, batch.id, following.id, THEN, steps.start)
        shown = batch_view.view(orm, ODA, find(orm, ODA, batch.id))
        assert [s.phase for s in shown.steps if s.id == running.id] == ["done"]
        assert all(s.title and s.before for s in shown.steps if s.role != "cool")
        orm.rollback()


BEFORE_0024 = [
    ("rhubarb_simmered", "rhubarb", 3000.0, "1.2 l water", "stir_in"),
    ("steeped_dried", "rosehip", 400.0, "0.7 l water", "stir_in"),
    ("redcurrants_in_the_jar", "redcurrant", 2000.0, "90 g sugar", "stir_in"),
    ("steam_juiced", "damson", 4000.0, "1.2 l water", "stir_in"),
]


@pytest.mark.parametrize(("method", "fruit", "grams", "line", "at"), BEFORE_0024)
def test_what_was_stirred_in_before_the_jars_stays_there(
    committed: Engine, method: str, fruit: str, grams: float, line: str, at: str
) -> None:
    """Steps that take water and sugar by themselves since then take none of older batches."""
    own = "dried" if method == "steeped_dried" else ""
    main, later = GoesIn(fruit, grams, form=own), GoesIn(line=f"{line}, after straining")
    with Orm(committed) as orm, orm.begin():
        who = household(orm)
        work = Work(orm, who, PlanRequest((main, later), method_key=method))
        kept_as = {o.key for o in work.folder.operations}
        batch_id = work.batch.id
        brief = {**work.batch.brief}
        key = brief["inputs"][1]["key"]
        brief["inputs"] = [{**i, "where": ""} for i in brief["inputs"]]  # as it was stored before
        work.batch.brief = brief
    with committed.begin() as link:
        link.execute(text("UPDATE alembic_version SET version_num = '0023'"))
    assert migrate(committed)
    with Orm(committed) as orm:
        folder = folder_of(orm, who, batch_id)
        laid = folder.standing.now
        assert laid is not None
        assert {o.key for o in laid.operations} <= kept_as
        assert key in next(o for o in laid.operations if o.kind == at).takes
