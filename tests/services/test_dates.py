"""What falls due as a calendar: read by a parser, each thing by an identity that stays."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import UTC, date, datetime, timedelta
from pathlib import Path

import icalendar
import pytest
from sqlalchemy import Engine, select, text
from sqlalchemy.orm import Session as Orm

from elderberry.formats import archive
from elderberry.local.mariadb import PrivateMariadb
from elderberry.services.day import dates
from elderberry.services.household import archiving
from elderberry.services.who import Who
from elderberry.store import Feed, Jar, Person
from elderberry.store.database import connect, migrate
from tests.conftest import CHEAP

NOW = datetime(2026, 11, 28, 6, tzinfo=UTC)


@pytest.fixture(scope="session")
def demo(mariadb: PrivateMariadb) -> Iterator[Engine]:
    """Three seasons of the demo, as an archive has them."""
    engine = connect(mariadb.url("dated"))
    with (Path(__file__).parents[1] / "formats" / "old" / "household_0018.zip").open("rb") as file:
        found = archive.read(file)
        migrate(engine, found.about.tables)
        with engine.begin() as connection:
            archiving.take_in(connection, found, CHEAP)
    migrate(engine)
    yield engine
    engine.dispose()


@pytest.fixture
def here(demo: Engine) -> Iterator[tuple[Orm, Who]]:
    """A transaction that is undone, and Oda."""
    with Orm(demo) as orm:
        yield orm, Who.of(orm.scalars(select(Person).order_by(Person.id)).all()[0])
        orm.rollback()


def events(orm: Orm, who: Who, now: datetime = NOW) -> dict[str, icalendar.Event]:
    """Events by their identity, as a calendar program reads them."""
    found = icalendar.Calendar.from_ical(dates.ics(orm, who, now))
    assert isinstance(found, icalendar.Calendar)
    assert found.errors == []
    listed = list(found.walk("VEVENT"))
    by = {str(e["UID"]): e for e in listed}
    assert len(by) == len(listed), "no identity comes twice"
    assert all(not e.errors for e in listed)
    return by  # type: ignore[return-value]


def of(found: dict[str, icalendar.Event], kind: str) -> list[icalendar.Event]:
    return [e for uid, e in found.items() if uid.startswith(f"{kind}-")]


def test_all_that_falls_due_is_in_it(here: tuple[Orm, Who]) -> None:
    found = events(*here)
    seals = [e for e in of(found, "step") if str(e["SUMMARY"]).startswith("Check the seals")]
    assert len(seals) == 1
    assert seals[0].decoded("DTEND") - seals[0].decoded("DTSTART") == timedelta(hours=12)
    assert {str(e["SUMMARY"]).split(":")[0] for e in of(found, "step")} >= {"Check the seals"}
    shaking = of(found, "shake")
    assert [e.decoded("DTSTART") for e in shaking] == [
        date(2026, 11, 28) + timedelta(days=n) for n in range(len(shaking))
    ]
    assert len(shaking) == 5
    days = [int(str(e["UID"]).split("@")[0].rsplit("-", 1)[1]) for e in shaking]
    assert days == [3, 4, 5, 6, 7], "a day is the same event however many are over"
    assert of(found, "fruit")
    used = of(found, "use")
    assert any("jars of" in str(e["SUMMARY"]) for e in used)
    assert all(isinstance(e.decoded("DTSTART"), date) for e in used)


def test_a_jar_less_is_the_same_event_with_other_words(here: tuple[Orm, Who]) -> None:
    orm, who = here
    before = {k: e for k, e in events(orm, who).items() if k.startswith("use-")}
    uid, several = next((k, e) for k, e in before.items() if "jars of" in str(e["SUMMARY"]))
    batch_id = int(uid.split("-")[1])
    jar = orm.scalars(select(Jar).where(Jar.batch_id == batch_id, Jar.gone.is_(False))).all()[0]
    jar.gone = True
    orm.flush()
    after = events(orm, who)
    assert after[uid]["SUMMARY"] != several["SUMMARY"]
    assert {*after} >= {*before}


def test_a_week_later_what_is_the_same_is_the_same(here: tuple[Orm, Who]) -> None:
    one, other = (
        {k: (e["SUMMARY"], e.decoded("DTSTART")) for k, e in events(*here, at).items()}
        for at in (NOW, NOW + timedelta(hours=5))
    )  # fmt: skip
    assert one == other


def test_infused_jars_say_when_they_are_ready(here: tuple[Orm, Who]) -> None:
    orm, who = here
    jar = orm.scalars(select(Jar).where(Jar.seal == "sealed", Jar.lives == "stands")).all()[0]
    jar.contents = {**jar.contents, "life": {"shelf": "infused_whole_fruit"}}
    jar.filled_at = NOW
    orm.flush()
    ready = events(orm, who)[f"ready-{jar.batch_id}@elderberry"]
    assert ready.decoded("DTSTART") == date(2026, 12, 28)


def test_an_address_is_a_persons_own_and_can_be_withdrawn(here: tuple[Orm, Who]) -> None:
    orm, who = here
    assert dates.feed_made_at(orm, who) is None
    first = dates.make_feed(orm, who, NOW)
    assert dates.whose_feed(orm, first) == who
    second = dates.make_feed(orm, who, NOW)
    assert dates.whose_feed(orm, first) is None
    assert dates.whose_feed(orm, second) == who
    assert dates.feed_made_at(orm, who) == NOW
    kept = orm.scalars(select(Feed.token_hash)).one()
    assert second not in kept
    dates.withdraw_feed(orm, who)
    assert dates.whose_feed(orm, second) is None


def test_nobody_elses_jars_are_in_it(here: tuple[Orm, Who]) -> None:
    orm, who = here
    orm.execute(text("INSERT INTO household (name, created_at) VALUES ('Next', UTC_TIMESTAMP(6))"))
    orm.execute(text("UPDATE jar SET household_id = 2"))
    assert of(events(orm, who), "use") == []
