"""The journal: what happened, appended and never changed."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime

from sqlalchemy import insert
from sqlalchemy.orm import Session as Orm

from elderberry.services.who import Who
from elderberry.store import Batch, Event, Operation, queries
from elderberry.store.base import Json


def record(
    orm: Orm,
    who: Who,
    now: datetime,
    kind: str,
    *,
    batch: Batch | None = None,
    operation: Operation | None = None,
    jar_id: int | None = None,
    data: Json | None = None,
) -> Event:
    """Append an event."""
    event = Event(
        household_id=who.household_id,
        batch_id=batch.id if batch else operation.batch_id if operation else None,
        operation_id=operation.id if operation else None,
        jar_id=jar_id,
        kind=kind,
        at=now,
        person_id=who.person_id,
        data=data or {},
    )
    orm.add(event)
    orm.flush()
    orm.info[RECORDED] = event.id
    return event


def of_jars(
    orm: Orm, who: Who, now: datetime, kind: str, told: Mapping[int, Json]
) -> None:  # fmt: skip
    """Append the same of many jars at once, with what is said of each."""
    each = {"household_id": who.household_id, "kind": kind, "at": now, "person_id": who.person_id}
    rows = [{**each, "jar_id": i, "data": d} for i, d in told.items()]
    orm.execute(insert(Event.__table__), rows)  # type: ignore[arg-type]
    orm.info[RECORDED] = UNNUMBERED


RECORDED, UNNUMBERED = "recorded", 0
"""The newest event that a session has recorded, by its number where that is known."""


def newest(orm: Orm, who: Who) -> int:
    """The number of the newest event of a household that is held by whoever changes something."""
    return orm.info.get(RECORDED, UNNUMBERED) or queries.newest_event_id(orm, who.household_id)


def noted(orm: Orm, who: Who, now: datetime, what: str) -> None:
    """A change that is no event of a batch or jar is told to whoever looks on, as one of its own.

    what: verb and address of the change.
    """
    if RECORDED not in orm.info:
        record(orm, who, now, "changed", data={"what": what[:240]})
