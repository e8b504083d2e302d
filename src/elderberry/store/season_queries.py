"""What happened in a year, in a few sums."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime
from zoneinfo import ZoneInfo

from sqlalchemy import func, select
from sqlalchemy.orm import Session as Orm

from elderberry.store.batch import Batch
from elderberry.store.event import Event
from elderberry.store.lot import Lot
from elderberry.store.yield_seen import YieldSeen


def batches(orm: Orm, household_id: int, year: int, zone: ZoneInfo) -> Sequence[Batch]:
    """The batches that were begun in a year of a zone, in their order."""
    first, after = (datetime(y, 1, 1, tzinfo=zone).astimezone(UTC) for y in (year, year + 1))
    query = select(Batch).where(
        Batch.household_id == household_id, Batch.started_at >= first, Batch.started_at < after
    )
    return orm.scalars(query.order_by(Batch.started_at, Batch.id)).all()


def years(orm: Orm, household_id: int, zone: ZoneInfo) -> list[int]:
    """Years in which batches were begun, the newest first."""
    query = select(func.min(Batch.started_at), func.max(Batch.started_at)).where(
        Batch.household_id == household_id
    )
    first, last = orm.execute(query).one()
    if first is None or last is None:
        return []
    began = (first.astimezone(zone).year, last.astimezone(zone).year)
    return list(range(began[1], began[0] - 1, -1))


def kilos(orm: Orm, household_id: int, batch_ids: Sequence[int]) -> dict[str, float]:
    """What went into some batches of each material [g]."""
    query = (
        select(Lot.material, func.sum(Lot.mass_g))
        .where(
            Lot.household_id == household_id, Lot.batch_id.in_(batch_ids),
            Lot.mass_g.is_not(None), Lot.material != "",
        )
        .group_by(Lot.material)
    )  # fmt: skip
    return {material: float(grams or 0.0) for material, grams in orm.execute(query)}


def happened(
    orm: Orm, household_id: int, batch_ids: Sequence[int], kinds: Sequence[str]
) -> dict[str, int]:
    """How often each of some things happened to some batches, the most often first."""
    count = func.count()
    query = (
        select(Event.kind, count)
        .where(
            Event.household_id == household_id, Event.batch_id.in_(batch_ids),
            Event.kind.in_(kinds),
        )
        .group_by(Event.kind)
        .order_by(count.desc(), Event.kind)
    )  # fmt: skip
    return {kind: int(n) for kind, n in orm.execute(query)}


def yields(
    orm: Orm, household_id: int, batch_ids: Sequence[int]
) -> Sequence[tuple[str, str, float]]:
    """What some batches drew of a kilo: fruit, way and litres."""
    query = select(YieldSeen.fruit, YieldSeen.way, YieldSeen.litres_per_kg).where(
        YieldSeen.household_id == household_id, YieldSeen.batch_id.in_(batch_ids)
    )
    return [(fruit, way, float(litres)) for fruit, way, litres in orm.execute(query)]
