"""Queries. Every one of them stays inside a household; none of them commits."""

from __future__ import annotations

import json
from collections import defaultdict
from collections.abc import Collection, Iterable, Sequence
from typing import TypeVar

from sqlalchemy import (
    ColumnElement,
    Select,
    Text,
    false,
    func,
    inspect,
    or_,
    select,
    text,
    true,
    tuple_,
    type_coerce,
    union_all,
)
from sqlalchemy.orm import InstrumentedAttribute
from sqlalchemy.orm import Session as Orm

from elderberry.core.batch.lifecycle import Phase
from elderberry.store.base import Json, Owned
from elderberry.store.batch import Batch, Operation, OperationLot
from elderberry.store.change import ChangeMade
from elderberry.store.cycle_seen import CycleSeen
from elderberry.store.event import Event
from elderberry.store.furniture import rows
from elderberry.store.household import Household
from elderberry.store.jar import Jar
from elderberry.store.lot import Lot
from elderberry.store.pace_seen import PaceSeen
from elderberry.store.serving import Serving
from elderberry.store.telling import OF_A_BATCH, SMALL
from elderberry.store.yield_seen import YieldSeen

Row = TypeVar("Row", bound=Owned)
YES, NO = true(), false()
"""To be compared with: an index answers = true, and never "is true"."""


def mine(household_id: int, model: type[Row]) -> Select[Row]:
    """Rows of a table that belong to a household, in order of coming."""
    return select(model).where(model.household_id == household_id).order_by(model.id)


def all_of(orm: Orm, household_id: int, model: type[Row]) -> Sequence[Row]:
    """All of a household's rows of a table."""

    def read() -> Sequence[Row]:
        return orm.scalars(mine(household_id, model)).all()

    return rows(orm, (model,), household_id, read) if model in SMALL else read()


def one(
    orm: Orm, household_id: int, model: type[Row], row_id: int, lock: bool = False
) -> Row | None:
    """A row by id, None where it is missing or another household's."""
    query = mine(household_id, model).where(model.id == row_id)
    return orm.scalar(query.with_for_update() if lock else query)


def by_ids(orm: Orm, household_id: int, model: type[Row], ids: Iterable[int]) -> Sequence[Row]:
    """Rows by their ids; those that are missing or another household's are left out."""
    listed = list(ids)
    return (
        orm.scalars(mine(household_id, model).where(model.id.in_(listed))).all() if listed else ()
    )


def of_batch(orm: Orm, household_id: int, model: type[Row], batch_id: int) -> Sequence[Row]:
    """A batch's operations, lots, events, readings or jars."""
    column = model.batch_id  # type: ignore[attr-defined]

    def read() -> Sequence[Row]:
        return orm.scalars(mine(household_id, model).where(column == batch_id)).all()

    whose = (household_id, batch_id)
    return rows(orm, (model,), whose, read) if model in OF_A_BATCH else read()


def of_batches(
    orm: Orm, household_id: int, model: type[Row], batch_ids: Iterable[int]
) -> dict[int, list[Row]]:
    """Operations, lots, events, readings or jars of several batches, by batch."""
    column = model.batch_id  # type: ignore[attr-defined]
    found: dict[int, list[Row]] = {batch_id: [] for batch_id in batch_ids}
    for row in orm.scalars(mine(household_id, model).where(column.in_(list(found)))):
        found[row.batch_id].append(row)  # type: ignore[attr-defined]
    return found


Edges = dict[int, dict[str, list[int]]]


def edges(orm: Orm, household_id: int, batch_ids: Iterable[int]) -> Edges:
    """Lots that go in and come out of each operation of some batches."""
    ids = tuple(batch_ids)

    def read() -> Edges:
        query = (
            select(OperationLot.operation_id, OperationLot.side, OperationLot.lot_id)
            .join(Operation, Operation.id == OperationLot.operation_id)
            .where(Operation.household_id == household_id, Operation.batch_id.in_(ids))
            .order_by(OperationLot.id)
        )
        found: Edges = defaultdict(lambda: {"in": [], "out": []})
        for operation_id, side, lot_id in orm.execute(query):
            found[operation_id][side].append(lot_id)
        return found

    return rows(orm, (Operation, OperationLot), (household_id, ids), read)


def operations_in_use(orm: Orm, household_id: int) -> Sequence[Operation]:
    """Operations that have been started and not yet finished or dropped."""
    query = mine(household_id, Operation).where(Operation.phase == Phase.RUNNING)
    return orm.scalars(query).all()


def unfinished_on(orm: Orm, household_id: int, station_id: int) -> Sequence[Operation]:
    """Operations on a station that are neither finished nor dropped."""
    query = mine(household_id, Operation).where(
        Operation.station_id == station_id, Operation.phase.in_((Phase.WAITING, Phase.RUNNING))
    )
    return orm.scalars(query).all()


def running_batches(orm: Orm, household_id: int) -> Sequence[Batch]:
    """Batches of which a step runs, oldest first."""
    running = select(Operation.batch_id).where(
        Operation.household_id == household_id, Operation.phase == Phase.RUNNING
    )
    return orm.scalars(mine(household_id, Batch).where(Batch.id.in_(running))).all()


def unfinished_batches(orm: Orm, household_id: int) -> Sequence[Batch]:
    """Batches with a step that is neither finished nor dropped, oldest first."""
    return orm.scalars(mine(household_id, Batch).where(Batch.finished == NO)).all()


def batches_from_before(orm: Orm, household_id: int) -> dict[str, tuple[int, int]]:
    """Batches that a table told of, by their codes: each with the lot that its jars hold."""
    query = (
        select(Batch.code, Batch.id, func.max(Lot.id))
        .join(Lot, Lot.batch_id == Batch.id)
        .where(
            Batch.household_id == household_id,
            func.json_value(Batch.predicted, "$.from_before").is_not(None),
            Lot.kind == "jars",
        )
        .group_by(Batch.code, Batch.id)
    )
    return {code: (batch, lot) for code, batch, lot in orm.execute(query)}


def briefs_of(orm: Orm, household_id: int, batch_ids: Iterable[int]) -> dict[int, Json]:
    """What went into some batches and their ends, as they are stored."""
    query = select(Batch.id, Batch.brief).where(
        Batch.household_id == household_id, Batch.id.in_(list(batch_ids))
    )
    return dict(orm.execute(query).all())


def finished_with(
    orm: Orm, household_id: int, words: Iterable[str], before: int | None, most: int
) -> Sequence[Batch]:
    """Finished batches in which every word is found, the one begun last in front."""
    query = select(Batch).where(Batch.household_id == household_id, Batch.finished == YES)
    shown = one(orm, household_id, Batch, before) if before is not None else None
    if shown is not None:
        query = query.where(tuple_(Batch.started_at, Batch.id) < tuple_(shown.started_at, shown.id))
    for word in words:
        written = select(Event.batch_id).where(
            Event.household_id == household_id,
            Event.kind.in_(("noted", "mishap")),
            _holds(Event.data, word),
        )
        said = (c.contains(word, autoescape=True) for c in (Batch.title, Batch.code))
        query = query.where(or_(*said, _holds(Batch.brief, word), Batch.id.in_(written)))
    ordered = query.order_by(Batch.started_at.desc(), Batch.id.desc())
    return orm.scalars(ordered.limit(most)).all()


def _holds(column: InstrumentedAttribute[Json], word: str) -> ColumnElement[bool]:
    """Whether a column of JSON holds a word, in whatever case and as JSON writes its letters."""
    written = json.dumps(word.lower())[1:-1]
    return func.lower(type_coerce(column, Text)).contains(written, autoescape=True)


def filled_in(
    orm: Orm, household_id: int, batch_ids: Sequence[int]
) -> dict[int, tuple[int, float]]:
    """How many jars each of some batches filled, and the litres in them."""
    query = (
        select(Jar.batch_id, func.count(), func.sum(Jar.fill_ml))
        .where(Jar.household_id == household_id, Jar.batch_id.in_(batch_ids))
        .group_by(Jar.batch_id)
    )
    return {b or 0: (int(n), float(ml) / 1000.0) for b, n, ml in orm.execute(query)}


def finished_batches(orm: Orm, household_id: int, before: int | None, most: int) -> Sequence[Batch]:
    """Finished batches, newest first, those before one that was shown already."""
    query = select(Batch).where(Batch.household_id == household_id, Batch.finished == YES)
    if before is not None:
        query = query.where(Batch.id < before)
    return orm.scalars(query.order_by(Batch.id.desc()).limit(most)).all()


def codes_of(orm: Orm, household_id: int, jars: Iterable[Jar]) -> dict[int, str]:
    """The codes of the batches that jars are of, by the number of the batch."""
    ids = {jar.batch_id for jar in jars if jar.batch_id is not None}
    at_hand = (orm.identity_map.get(orm.identity_key(Batch, i)) for i in ids)
    known = {b.id: b.code for b in at_hand if b is not None}
    query = select(Batch.id, Batch.code).where(
        Batch.household_id == household_id, Batch.id.in_(ids - known.keys())
    )
    return known if known.keys() == ids else {**known, **dict(orm.execute(query).all())}


def hold(orm: Orm, household_id: int) -> dict[str, int]:
    """Hold a household until the transaction ends: its changes are made one after the other.

    So nothing that two want at once is taken twice, no two wait for each other, and what happened
    has rising ids in the order in which it is committed.

    Returns:
        How often each of its small tables has become another.
    """
    query = select(Household.furnished).where(Household.id == household_id)
    return orm.scalar(query.with_for_update()) or {}


def hold_all(orm: Orm) -> None:
    """Hold what there is only one of, until the transaction ends: who may found a household."""
    orm.execute(text("SELECT version_num FROM alembic_version FOR UPDATE"))


UNDER_WAY = "upgrade_under_way"
"""The table that is there while all others are being replaced."""


def under_way(orm: Orm) -> bool:
    """Whether everything is being replaced at this moment."""
    return inspect(orm.connection()).has_table(UNDER_WAY)


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


def dropped_for(
    orm: Orm, household_id: int, batch_ids: Iterable[int], reason: str
) -> set[int]:  # fmt: skip
    """Those of some batches of which steps were dropped for a reason."""
    query = select(Event.batch_id).where(
        Event.household_id == household_id,
        Event.batch_id.in_(list(batch_ids)),
        Event.kind == "dropped",
        func.json_value(Event.data, "$.reason") == reason,
    )
    return {number for number in orm.scalars(query) if number is not None}


def jar_events(orm: Orm, household_id: int, jar_id: int) -> Sequence[Event]:
    """What happened to a jar, in order."""
    return orm.scalars(mine(household_id, Event).where(Event.jar_id == jar_id)).all()


def moves_of(orm: Orm, household_id: int, jar_ids: Iterable[int]) -> Sequence[Event]:
    """How some jars were carried about, in order."""
    query = mine(household_id, Event).where(Event.jar_id.in_(list(jar_ids)), Event.kind == "moved")
    return orm.scalars(query).all()


NEWEST = 40
"""Batches of a fruit that are looked through for what was made of it last."""


MOST_SERVINGS = 200


def servings(orm: Orm, household_id: int, jar_id: int | None = None) -> list[Serving]:
    """Drinks that were written down, the newest first; of one jar where it is named."""
    query = select(Serving).where(Serving.household_id == household_id)
    if jar_id is not None:
        query = query.where(Serving.jar_id == jar_id)
    return list(orm.scalars(query.order_by(Serving.id.desc()).limit(MOST_SERVINGS)))


def newest_jar_of(orm: Orm, household_id: int, material: str) -> tuple[Jar, str] | None:
    """The jar filled last of what began with a material, its Brix being known; its batch's code."""
    began = (
        select(Batch.id, Batch.code)
        .where(Batch.household_id == household_id, Batch.material == material)
        .order_by(Batch.id.desc())
        .limit(NEWEST)
        .subquery()
    )
    known = func.json_value(Jar.contents, "$.brix")
    query = (
        select(Jar, began.c.code)
        .join(began, began.c.id == Jar.batch_id)
        .where(known.is_not(None))
        .order_by(Jar.filled_at.desc(), Jar.id.desc())
        .limit(1)
    )
    found = orm.execute(query).first()
    return None if found is None else (found[0], found[1])


def full_vessels(orm: Orm, household_id: int) -> dict[str, int]:
    """How many of the household's own vessels hold something, by kind of container."""
    query = (
        select(Jar.jar_kind, func.count())
        .where(Jar.household_id == household_id, Jar.own_vessel == YES, Jar.gone == NO)
        .group_by(Jar.jar_kind)
    )
    return {kind: int(count) for kind, count in orm.execute(query)}


def yields_seen(orm: Orm, household_id: int, fruit: str, most: int) -> Sequence[YieldSeen]:
    """What the newest batches drew of a fruit, oldest first."""
    query = select(YieldSeen).where(
        YieldSeen.household_id == household_id, YieldSeen.fruit == fruit
    )
    newest = orm.scalars(query.order_by(YieldSeen.id.desc()).limit(most)).all()
    return newest[::-1]


def paces_seen(
    orm: Orm, household_id: int, roles: Collection[str], most: int
) -> dict[str, list[float]]:
    """How long steps of some roles took over what was planned, the newest of each."""
    newest = (
        select(PaceSeen.role, PaceSeen.ratio)
        .where(PaceSeen.household_id == household_id, PaceSeen.role == role)
        .order_by(PaceSeen.id.desc())
        .limit(most)
        for role in roles
    )
    found: dict[str, list[float]] = {role: [] for role in roles}
    for role, ratio in orm.execute(union_all(*newest)):
        found[role].append(ratio)
    return found


def cycles_seen(orm: Orm, household_id: int, most: int) -> Sequence[CycleSeen]:
    """The newest loads of the freeze dryer, the oldest first."""
    query = mine(household_id, CycleSeen).order_by(CycleSeen.id.desc()).limit(most)
    return orm.scalars(query).all()[::-1]


def lots_waiting(orm: Orm, household_id: int, least_g: float) -> Sequence[Lot]:
    """What came in and is not used up."""
    return orm.scalars(mine(household_id, Lot).where(Lot.left_g > least_g)).all()


def taken_g(orm: Orm, lot_id: int) -> float:
    """Grams that batches have taken out of a lot that came in."""
    return float(orm.scalar(select(func.sum(Lot.mass_g)).where(Lot.from_lot_id == lot_id)) or 0.0)
