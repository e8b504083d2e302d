"""What falls due, for a calendar: each thing by an identity that stays."""

from __future__ import annotations

import hashlib
import secrets
from collections.abc import Iterator
from datetime import datetime, timedelta

from sqlalchemy import delete, select
from sqlalchemy.orm import Session as Orm

from elderberry.core.batch.lifecycle import Phase
from elderberry.core.batch.standing import words
from elderberry.core.flow.kinds import kind
from elderberry.core.storage import ready_from
from elderberry.formats import calendar
from elderberry.formats.calendar import Entry
from elderberry.services.cooking import drying_view, glance
from elderberry.services.cooking.folder import Folder, folders, title
from elderberry.services.household import kitchens
from elderberry.services.planning import intake
from elderberry.services.who import Who
from elderberry.store import Feed, Person, Place, queries, shelf_queries

AHEAD = timedelta(days=730)
"""How far ahead best-by days are shown."""
BEHIND = timedelta(days=90)
"""How long those that are over are."""
A_MOMENT = timedelta(minutes=15)


def ics(orm: Orm, who: Who, now: datetime) -> bytes:
    """What falls due in a household, as iCalendar."""
    return calendar.ics(kitchens.stored(orm, who).name, entries(orm, who, now), now)


def entries(orm: Orm, who: Who, now: datetime) -> list[Entry]:
    """Seal checks, steps that end, days of shaking, fruit that will not wait, jars to use."""
    under_way = folders(orm, who, queries.unfinished_batches(orm, who.household_id), now)
    found = [entry for folder in under_way for entry in _of_batch(folder)]
    return [*found, *_of_fruit(orm, who), *_of_jars(orm, who, now), *_ready(orm, who)]


def _of_batch(folder: Folder) -> Iterator[Entry]:
    batch = folder.batch.title.lower()
    for operation in folder.operations:
        phase, role = folder.phase(operation), kind(operation.kind).role
        uid = f"step-{operation.id}"
        if role == "check" and phase is Phase.WAITING:
            window = folder.standing.seal_window(operation)
            if window:
                yield Entry(
                    uid, f"Check the seals: {batch}", words(operation, "before", folder.units),
                    *window,
                )  # fmt: skip
        elif phase is Phase.RUNNING and role == "condition":
            yield from _shaken(folder, operation.id)
        elif phase is Phase.RUNNING and role != "cool":
            due = glance.at(folder, operation).due_at
            if due:
                said = title(operation, folder.units)
                yield Entry(
                    uid, f"{said}: {batch}", words(operation, "then", folder.units),
                    due, due + A_MOMENT,
                )  # fmt: skip


def _shaken(folder: Folder, operation_id: int) -> Iterator[Entry]:
    """The days that are left of a week of shaking."""
    operation = folder.find(operation_id)
    shakes = drying_view.shakes(folder, operation)
    if shakes is None:
        return
    zone = kitchens.zone(folder.orm, folder.who)
    first = folder.at.astimezone(zone).date() + timedelta(days=1 if shakes.today else 0)
    for n in range(shakes.of - shakes.days):
        yield calendar.a_day(
            f"shake-{operation_id}-{shakes.days + n + 1}", drying_view.shaken_words(folder),
            words(operation, "before", folder.units), first + timedelta(days=n),
        )  # fmt: skip


def _of_fruit(orm: Orm, who: Who) -> Iterator[Entry]:
    for lot in intake.lots(orm, who):
        year = "" if lot.work_by_hi.year == lot.work_by.year else f" {lot.work_by_hi.year}"
        yield calendar.a_day(
            f"fruit-{lot.id}", f"{lot.name} will not wait",
            f"{lot.amount}, {lot.source or 'came in'}: "
            f"by {lot.work_by_hi:%-d %B}{year} at the latest", lot.work_by,
        )  # fmt: skip


def _of_jars(orm: Orm, who: Who, now: datetime) -> Iterator[Entry]:
    """Jars of a batch that are to be used by a day; one event, however many are left."""
    today = kitchens.today(orm, who, now)
    places = {p.id: p.name.lower() for p in queries.all_of(orm, who.household_id, Place)}
    for row in shelf_queries.fading(orm, who.household_id, today - BEHIND, today + AHEAD):
        count = f"{row.jars} jars of " if row.jars > 1 else ""
        name = hashlib.sha256(row.label.encode()).hexdigest()[:8]
        yield calendar.a_day(
            f"use-{row.batch_id or 'found'}-{name}", f"Use {count}{row.label.lower()}",
            f"at its best until then, {places.get(row.place_id or 0, 'no place')}", row.best_by,
        )  # fmt: skip


def _ready(orm: Orm, who: Who) -> Iterator[Entry]:
    """Infused jars, from the day that they may be opened."""
    for row in shelf_queries.infusing(orm, who.household_id):
        yield calendar.a_day(
            f"ready-{row.batch_id}", f"Ready: {row.label.lower()}",
            "the fruit has given what it gives: strain it when it is opened",
            ready_from(row.filled_at.date()),
        )  # fmt: skip


def make_feed(orm: Orm, who: Who, now: datetime) -> str:
    """A new private address of a person's calendar; the one before is withdrawn."""
    withdraw_feed(orm, who)
    token = secrets.token_urlsafe(24)
    orm.add(
        Feed(household_id=who.household_id, person_id=who.person_id, made_at=now,
             token_hash=_hash(token))
    )  # fmt: skip
    return token


def withdraw_feed(orm: Orm, who: Who) -> None:
    """Nobody fetches a person's calendar any more."""
    orm.execute(
        delete(Feed).where(
            Feed.household_id == who.household_id, Feed.person_id == who.person_id
        )
    )  # fmt: skip


def feed_made_at(orm: Orm, who: Who) -> datetime | None:
    """Since when a person's calendar can be fetched; None where it cannot."""
    mine = queries.mine(who.household_id, Feed).where(Feed.person_id == who.person_id)
    found = orm.scalar(mine)
    return found.made_at if found else None


def whose_feed(orm: Orm, token: str) -> Who | None:
    """The person whose calendar has this address."""
    query = (
        select(Person).join(Feed, Feed.person_id == Person.id)
        .where(Feed.token_hash == _hash(token))
    )  # fmt: skip
    person = orm.scalar(query)
    return Who.of(person) if person else None


def _hash(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()
