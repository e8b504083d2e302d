"""What a change wrote is told to whoever reads later: which tables and which batches are others.

How often a small table became another stands with its household, and how often the rows of a batch
did with the batch, written as the transaction of the change ends: who reads that first, in whatever
process, never shows what is no longer so.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import Any

from sqlalchemy import Integer, cast, event, func, select, update
from sqlalchemy.orm import Session as Orm

from elderberry.store.batch import Batch, Operation, OperationLot
from elderberry.store.cycle_seen import CycleSeen
from elderberry.store.event import Event, Reading
from elderberry.store.household import Household, Kitchen
from elderberry.store.jar import Jar, JarStock, LidStock
from elderberry.store.lot import Lot
from elderberry.store.method import OwnMethod
from elderberry.store.own_ingredient import OwnIngredient
from elderberry.store.own_process import OwnProcessEntry
from elderberry.store.pace_seen import PaceSeen
from elderberry.store.person import Person
from elderberry.store.place import Place, PlaceDay
from elderberry.store.station import Station
from elderberry.store.tasted import Tasted
from elderberry.store.vessel import Vessel
from elderberry.store.yield_seen import YieldSeen

SMALL = (
    Kitchen, JarStock, LidStock, OwnIngredient, OwnMethod, OwnProcessEntry, Person, Place, PlaceDay,
    Station, Tasted, Vessel,
)  # fmt: skip
"""Tables of a few rows that nearly every request reads."""
SEEN = (YieldSeen, PaceSeen, CycleSeen)
"""Tables of what plans learn from: a few of their rows are read by every plan."""
OF_A_BATCH = (Operation, OperationLot, Lot, Event, Reading, Jar)
"""Tables of which a batch reads its own rows, before a press and after it."""
TOLD = frozenset((*SMALL, *SEEN, Jar))
"""Tables of which a household tells how often they became others."""
CHANGED = "changed"


@dataclass
class Changed:
    """What a session has written, until whoever reads later is told."""

    tables: set[tuple[int, type]] = field(default_factory=set)
    """Small tables, each with its household."""
    batches: set[int] = field(default_factory=set)
    steps: set[int] = field(default_factory=set)
    """Operations to whose lots a way was added."""


def changed_in(orm: Orm) -> Changed:
    """What a session has written so far."""
    found: Changed = orm.info.setdefault(CHANGED, Changed())
    return found


@event.listens_for(Orm, "before_commit")
def tell(orm: Orm) -> None:
    """Whoever reads later is told which tables and which batches are others, once a change."""
    orm.flush()
    changed: Changed | None = orm.info.pop(CHANGED, None)
    if changed is None:
        return
    write, told = orm.connection().execute, Household.furnished
    models = defaultdict(set)
    for household_id, model in changed.tables:
        models[household_id].add(name_of(model))
    for household_id, names in models.items():
        more: list[Any] = []
        for path in (f"$.{name}" for name in sorted(names)):
            more += [path, cast(func.coalesce(func.json_value(told, path), 0), Integer) + 1]
        ours = update(Household).where(Household.id == household_id)
        write(ours.values(furnished=func.json_set(told, *more)))
    if changed.steps:
        of_steps = select(Operation.batch_id).where(Operation.id.in_(changed.steps))
        changed.batches.update(write(of_steps).scalars())
    if changed.batches:
        mine = update(Batch).where(Batch.id.in_(changed.batches))
        write(mine.values(touched=Batch.touched + 1))


def tables_of(row: object) -> set[type]:
    """The tables that are others with a row: a vessel of the household's own is filled, or empty
    again, with its jar.
    """
    return {type(row), Vessel} if isinstance(row, Jar) and row.own_vessel else {type(row)}


def note(orm: Orm, rows: Iterable[Any]) -> set[type]:
    """What is to be told of rows that were written; the tables that are others by them."""
    changed, others = changed_in(orm), set[type]()
    for row in rows:
        tables = tables_of(row)
        others |= tables
        changed.tables.update((row.household_id, table) for table in tables & TOLD)
        if isinstance(row, Batch):
            changed.batches.add(row.id)
        elif isinstance(row, OperationLot):
            changed.steps.add(row.operation_id)
        elif isinstance(row, OF_A_BATCH) and row.batch_id is not None:  # type: ignore[union-attr]
            changed.batches.add(row.batch_id)  # type: ignore[union-attr]
    return others


def name_of(model: type) -> str:
    """The name of a table."""
    return str(model.__tablename__)  # type: ignore[attr-defined]
