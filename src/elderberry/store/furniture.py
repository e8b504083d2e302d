"""What a session has read and reads again and again: read once.

Rows are the session's own objects, so a change of one is seen at once; a row that comes or goes
makes its table be read anew. What is reckoned from rows is reckoned anew when one of them changes.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Hashable
from typing import Any, TypeVar

from sqlalchemy import event
from sqlalchemy.orm import Session as Orm

from elderberry.store.batch import Operation, OperationLot
from elderberry.store.event import Event, Reading
from elderberry.store.household import Kitchen
from elderberry.store.jar import Jar, JarStock, LidStock
from elderberry.store.lot import Lot
from elderberry.store.method import OwnMethod
from elderberry.store.own_ingredient import OwnIngredient
from elderberry.store.own_process import OwnProcessEntry
from elderberry.store.person import Person
from elderberry.store.place import Place, PlaceDay
from elderberry.store.station import Station
from elderberry.store.tasted import Tasted
from elderberry.store.vessel import Vessel

SMALL = (
    Kitchen, JarStock, LidStock, OwnIngredient, OwnMethod, OwnProcessEntry, Person, Place, PlaceDay,
    Station, Tasted, Vessel,
)  # fmt: skip
"""Tables of a few rows that nearly every request reads."""
OF_A_BATCH = (Operation, OperationLot, Lot, Event, Reading, Jar)
"""Tables of which a batch reads its own rows, before a press and after it."""
ROWS, RECKONED = "rows", "reckoned"
Found = TypeVar("Found")
Key = tuple[frozenset[type], Hashable]
"""A table, or several, and whose rows of it."""


def rows(
    orm: Orm, models: Collection[type], whose: Hashable, read: Callable[[], Found]
) -> Found:  # fmt: skip
    """What this session has read of some tables, until a row of one comes or goes."""
    return _once(orm, ROWS, models, whose, read)


def reckoned(
    orm: Orm, models: Collection[type], whose: Hashable, reckon: Callable[[], Found]
) -> Found:  # fmt: skip
    """What this session has reckoned from some tables, until a row of one is another."""
    return _once(orm, RECKONED, models, whose, reckon)


def forget(orm: Orm) -> None:
    """Read all of it anew: rows were written past the session."""
    for what in (ROWS, RECKONED):
        orm.info.pop(what, None)


def _once(
    orm: Orm, what: str, models: Collection[type], whose: Hashable, find: Callable[[], Found]
) -> Found:
    known: dict[Key, Found] = orm.info.setdefault(what, {})
    key = (frozenset(models), whose)
    if key not in known:
        known[key] = find()
    return known[key]


@event.listens_for(Orm, "after_flush")
def _flushed(orm: Orm, _: Any) -> None:
    """A row that came is put behind those that were read, as it would be if they were read anew."""
    gone = {type(row) for row in orm.deleted}
    _drop(orm, RECKONED, gone | {type(row) for row in (*orm.new, *orm.dirty)})
    known: dict[Key, Any] = orm.info.get(ROWS, {})
    for row in orm.new if known else ():
        for whose in _whose(row):
            key = (frozenset((type(row),)), whose)
            if key in known:
                known[key] = [*known[key], row]
    several = {type(row) for row in orm.new}
    for key in [k for k in known if not gone.isdisjoint(k[0]) or _of_several(k, several)]:
        del known[key]


def _whose(row: Any) -> tuple[Hashable, ...]:
    """Under what a row is read: its household, or its household and batch."""
    household_id = getattr(row, "household_id", None)
    return household_id, (household_id, getattr(row, "batch_id", None))


def _of_several(key: Key, came: set[type]) -> bool:
    """Whether something was read of several tables, of which one has a new row."""
    return len(key[0]) > 1 and not came.isdisjoint(key[0])


def _drop(orm: Orm, what: str, touched: set[type]) -> None:
    known: dict[Key, Any] = orm.info.get(what, {})
    for key in [key for key in known if not touched.isdisjoint(key[0])]:
        del known[key]


@event.listens_for(Orm, "after_soft_rollback")
def _undone(orm: Orm, _: Any) -> None:
    forget(orm)
