"""Jars that came of one thing: a source, a packet of lids, a batch or an instrument."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Any

from sqlalchemy import Select, select
from sqlalchemy.orm import Session as Orm

from elderberry.core.shelf.life import Lives
from elderberry.store.batch import Batch
from elderberry.store.event import Reading
from elderberry.store.jar import Jar
from elderberry.store.lot import Lot

MOST_KNOWN = 300


def recalled(
    orm: Orm, household_id: int, by: str, what: str, since: datetime | None
) -> Sequence[Jar]:
    """Jars that came of a source of fruit, a packet of lids, a batch or an instrument."""
    query = select(Jar).where(Jar.household_id == household_id, Jar.lives != Lives.NEVER)
    if by == "packet":
        query = query.where(Jar.packet == what)
    else:
        query = query.where(Jar.batch_id.in_(_batches_of(household_id, by, what, since)))
    return orm.scalars(query.order_by(Jar.batch_id, Jar.code)).all()


def _batches_of(household_id: int, by: str, what: str, since: datetime | None) -> Select[Any]:
    if by == "batch":
        return select(Batch.id).where(Batch.household_id == household_id, Batch.code == what)
    if by == "source":
        return select(Lot.batch_id).where(
            Lot.household_id == household_id, Lot.source == what, Lot.batch_id.is_not(None)
        )
    read = select(Reading.batch_id).where(
        Reading.household_id == household_id, Reading.instrument == what
    )
    return read if since is None else read.where(Reading.at >= since)


def sources(orm: Orm, household_id: int) -> list[str]:
    """Where fruit of batches came from."""
    query = (
        select(Lot.source)
        .where(Lot.household_id == household_id, Lot.batch_id.is_not(None), Lot.source.is_not(None))
        .distinct()
        .order_by(Lot.source)
        .limit(MOST_KNOWN)
    )
    return [s for s in orm.scalars(query) if s]


def packets(orm: Orm, household_id: int) -> list[str]:
    """Packets of lids that jars were closed from."""
    query = select(Jar.packet).where(Jar.household_id == household_id, Jar.packet != "")
    return list(orm.scalars(query.distinct().order_by(Jar.packet).limit(MOST_KNOWN)))


def batch_codes(orm: Orm, household_id: int) -> list[str]:
    """Codes of batches, the newest first."""
    query = select(Batch.code).where(Batch.household_id == household_id)
    return list(orm.scalars(query.order_by(Batch.id.desc()).limit(MOST_KNOWN)))


def instruments(orm: Orm, household_id: int) -> list[str]:
    """Instruments that readings were made with."""
    query = select(Reading.instrument).where(Reading.household_id == household_id)
    return list(orm.scalars(query.distinct().order_by(Reading.instrument)))
