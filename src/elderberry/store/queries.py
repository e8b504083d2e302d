"""Queries. Every one of them stays inside a household; none of them commits."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from typing import TypeVar

from sqlalchemy import Select, func, select, text
from sqlalchemy.orm import Session as Orm

from elderberry.store.base import Owned
from elderberry.store.batch import Batch, Operation, OperationLot
from elderberry.store.change import ChangeMade
from elderberry.store.event import Event, Reading
from elderberry.store.household import Household
from elderberry.store.jar import Jar
from elderberry.store.lot import Lot

Row = TypeVar("Row", bound=Owned)


def mine(household_id: int, model: type[Row]) -> Select[Row]:
    """Rows of a table that belong to a household, in order of coming."""
    return select(model).where(model.household_id == household_id).order_by(model.id)


def all_of(orm: Orm, household_id: int, model: type[Row]) -> Sequence[Row]:
    """All of a household's rows of a table."""
    return orm.scalars(mine(household_id, model)).all()


def one(
    orm: Orm, household_id: int, model: type[Row], row_id: int, lock: bool = False
) -> Row | None:
    """A row by id, None where it is missing or another household's."""
    query = mine(household_id, model).where(model.id == row_id)
    return orm.scalar(query.with_for_update() if lock else query)


def of_batch(orm: Orm, household_id: int, model: type[Row], batch_id: int) -> Sequence[Row]:
    """A batch's operations, lots, events, readings or jars."""
    column = model.batch_id  # type: ignore[attr-defined]
    return orm.scalars(mine(household_id, model).where(column == batch_id)).all()


def edges(orm: Orm, household_id: int, batch_id: int) -> dict[int, dict[str, list[int]]]:
    """Lots that go in and come out of each operation of a batch."""
    query = (
        mine(household_id, OperationLot)
        .join(Operation, Operation.id == OperationLot.operation_id)
        .where(Operation.batch_id == batch_id)
    )
    found: dict[int, dict[str, list[int]]] = defaultdict(lambda: {"in": [], "out": []})
    for edge in orm.scalars(query):
        found[edge.operation_id][edge.side].append(edge.lot_id)
    return found


def operations_in_use(orm: Orm, household_id: int) -> Sequence[Operation]:
    """Operations that have been started and not yet finished or dropped."""
    started = select(Event.operation_id).where(Event.kind == "started")
    ended = select(Event.operation_id).where(
        Event.kind.in_(("finished", "dropped")), Event.operation_id.is_not(None)
    )
    query = mine(household_id, Operation).where(
        Operation.id.in_(started), Operation.id.not_in(ended)
    )
    return orm.scalars(query).all()


def unfinished_on(orm: Orm, household_id: int, station_id: int) -> Sequence[Operation]:
    """Operations on a station that are neither finished nor dropped."""
    ended = select(Event.operation_id).where(
        Event.kind.in_(("finished", "dropped")), Event.operation_id.is_not(None)
    )
    query = mine(household_id, Operation).where(
        Operation.station_id == station_id, Operation.id.not_in(ended)
    )
    return orm.scalars(query).all()


def unfinished_batches(orm: Orm, household_id: int) -> Sequence[Batch]:
    """Batches with a step that is neither finished nor dropped, oldest first."""
    ended = select(Event.operation_id).where(
        Event.kind.in_(("finished", "dropped")), Event.operation_id.is_not(None)
    )
    open_steps = select(Operation.batch_id).where(
        Operation.household_id == household_id, Operation.id.not_in(ended)
    )
    return orm.scalars(mine(household_id, Batch).where(Batch.id.in_(open_steps))).all()


def hold(orm: Orm, household_id: int) -> None:
    """Hold a household until the transaction ends: its changes are made one after the other.

    So nothing that two want at once is taken twice, no two wait for each other, and what happened
    has rising ids in the order in which it is committed.
    """
    orm.execute(select(Household.id).where(Household.id == household_id).with_for_update())


def hold_all(orm: Orm) -> None:
    """Hold what there is only one of, until the transaction ends: who may found a household."""
    orm.execute(text("SELECT version_num FROM alembic_version FOR UPDATE"))


def change_made(orm: Orm, household_id: int, key: str) -> ChangeMade | None:
    """The change that was made under a retry key."""
    return orm.scalar(mine(household_id, ChangeMade).where(ChangeMade.retry_key == key))


def events_after(orm: Orm, household_id: int, last_id: int, limit: int = 200) -> Sequence[Event]:
    """The next events of a household after one it has seen."""
    return orm.scalars(mine(household_id, Event).where(Event.id > last_id).limit(limit)).all()


def newest_event_id(orm: Orm, household_id: int) -> int:
    """Id of a household's newest event, 0 where there is none."""
    query = select(func.max(Event.id)).where(Event.household_id == household_id)
    return orm.scalar(query) or 0


def events_of_operations(
    orm: Orm, household_id: int, operation_ids: Iterable[int]
) -> dict[int, list[Event]]:
    """Events by operation, in order."""
    found: dict[int, list[Event]] = defaultdict(list)
    query = mine(household_id, Event).where(Event.operation_id.in_(list(operation_ids)))
    for row in orm.scalars(query):
        if row.operation_id is not None:
            found[row.operation_id].append(row)
    return found


def jar_events(orm: Orm, household_id: int, jar_id: int) -> Sequence[Event]:
    """What happened to a jar, in order."""
    return orm.scalars(mine(household_id, Event).where(Event.jar_id == jar_id)).all()


def newest_jar_of(orm: Orm, household_id: int, material: str) -> Jar | None:
    """The jar filled last of a batch that began with a material, its sweetness being known."""
    began = func.json_value(Batch.brief, "$.inputs[0].material")
    known = func.json_value(Jar.contents, "$.brix")
    query = (
        select(Jar)
        .join(Batch, Batch.id == Jar.batch_id)
        .where(Jar.household_id == household_id, began == material, known.is_not(None))
        .order_by(Jar.filled_at.desc(), Jar.id.desc())
        .limit(1)
    )
    return orm.scalar(query)


def jars_on_places(orm: Orm, household_id: int) -> Sequence[Jar]:
    """Jars that stand somewhere."""
    return orm.scalars(mine(household_id, Jar).where(Jar.place_id.is_not(None))).all()


EMPTIED = ("spoiled", "used_up")
"""What happens to a jar that leaves it empty."""


def full_vessels(orm: Orm, household_id: int) -> dict[str, int]:
    """How many of the household's own vessels hold something, by kind of container."""
    empty = select(Event.jar_id).where(Event.kind.in_(EMPTIED), Event.jar_id.is_not(None))
    query = (
        select(Jar.jar_kind, func.count())
        .where(Jar.household_id == household_id, Jar.jar_kind.contains("-"), Jar.id.not_in(empty))
        .group_by(Jar.jar_kind)
    )
    return {kind: int(count) for kind, count in orm.execute(query)}


def drawn_volumes(orm: Orm, household_id: int) -> dict[int, dict[int, dict[int, float]]]:
    """Measured litres in mL by batch, step and juice lot; the newest reading of a lot counts."""
    query = (
        select(Reading.batch_id, Reading.operation_id, Reading.lot_id, Reading.value)
        .join(Lot, Lot.id == Reading.lot_id)
        .where(
            Reading.household_id == household_id,
            Reading.quantity == "volume_ml",
            Lot.kind == "juice",
        )
        .order_by(Reading.id)
    )
    found: dict[int, dict[int, dict[int, float]]] = defaultdict(lambda: defaultdict(dict))
    for batch_id, operation_id, lot_id, value in orm.execute(query):
        if lot_id is not None:
            found[batch_id][operation_id][lot_id] = value
    return found


def taken_g(orm: Orm, household_id: int) -> dict[int, float]:
    """Grams that batches have taken out of each lot that came in."""
    query = (
        select(Lot.from_lot_id, func.sum(Lot.mass_g))
        .where(Lot.household_id == household_id, Lot.from_lot_id.is_not(None))
        .group_by(Lot.from_lot_id)
    )
    return {lot_id: float(grams or 0.0) for lot_id, grams in orm.execute(query) if lot_id}
