"""What is read again and again is read once: in a session, and by requests that only read.

Within a session rows are its own objects, so a change of one is seen at once; a row that comes or
goes makes its table be read anew. What is reckoned from rows is reckoned anew when one of them
changes.

Requests that only read keep what they found for each other (store/memory.py). How often a small
table became another stands with its household, and how often the rows of a batch did with the
batch, written as the transaction of the change ends: who reads that first, in whatever process,
never shows what is no longer so.
"""

from __future__ import annotations

from collections import OrderedDict, defaultdict
from collections.abc import Callable, Collection, Hashable, Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any, TypeVar

from sqlalchemy import Integer, cast, event, func, inspect, select, update
from sqlalchemy.orm import Session as Orm

from elderberry.store.base import Base
from elderberry.store.batch import Batch, Operation, OperationLot
from elderberry.store.cycle_seen import CycleSeen
from elderberry.store.event import Event, Reading
from elderberry.store.household import Household, Kitchen
from elderberry.store.jar import Jar, JarStock, LidStock
from elderberry.store.lot import Lot
from elderberry.store.memory import Memory
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
ROWS, RECKONED, LOOKING, CHANGED = "rows", "reckoned", "looking", "changed"
Found = TypeVar("Found")
Key = tuple[frozenset[type], Hashable]
"""A table, or several, and whose rows of it."""
OURS: OrderedDict[int, None] = OrderedDict()
"""The newest events that this process wrote."""
MOST_OURS = 1_000


@dataclass(frozen=True)
class Furnished:
    """How a household stood before anything else was read of it.

    newest: its newest event; tables: how often each of its small tables became another.
    """

    newest: int
    tables: Mapping[str, int]


def rows(
    orm: Orm, models: Collection[type], whose: Hashable, read: Callable[[], Found]
) -> Found:  # fmt: skip
    """What this session has read of some tables, until a row of one comes or goes."""
    return _once(orm, ROWS, models, whose, read)


def reckoned(
    orm: Orm, models: Collection[type], whose: Hashable, reckon: Callable[[], Found]
) -> Found:  # fmt: skip
    """What this session has reckoned from some tables, until a row of one is another.

    whose: a household, or a tuple that begins with one. What is reckoned holds no rows: sessions
    share it.
    """
    return _once(orm, RECKONED, models, whose, reckon)


@dataclass
class Looking:
    """How a session looks at what others found.

    only: whether it only reads; touched: tables that it has written to itself.
    """

    memory: Memory
    tables: Mapping[str, int]
    only: bool
    touched: set[type] = field(default_factory=set)


def look_on(orm: Orm, memory: Memory, household_id: int, there: Furnished, *, only: bool) -> None:
    """What others found, a session need not find again.

    only: it only reads. One that changes something holds its household, and shares no rows: only
    what was reckoned from tables that it has not written to.
    """
    memory.hear(household_id, there.newest, OURS.__contains__)
    orm.info[LOOKING] = Looking(memory, there.tables, only)


def looks_on(orm: Orm) -> bool:
    """Whether a session only reads."""
    looking: Looking | None = orm.info.get(LOOKING)
    return looking is not None and looking.only


def stamp_of(orm: Orm, models: Iterable[type]) -> dict[type, int]:
    """How often some tables had become others before a session began."""
    looking: Looking | None = orm.info.get(LOOKING)
    return {m: looking.tables.get(_name(m), 0) for m in models} if looking else {}


def kept(orm: Orm, name: Hashable, stamp: object) -> Any | None:
    """What a session that only reads finds under a name; None where nothing is, and in others."""
    return orm.info[LOOKING].memory.find(name, stamp) if looks_on(orm) else None


def keep(
    orm: Orm, name: Hashable, stamp: object, thing: object, read: Iterable[object] = ()
) -> None:
    """Keep something for sessions that only read, if this is one; read: the rows that it is of."""
    if looks_on(orm):
        for row in read:
            if row in orm:
                orm.expunge(row)
        orm.info[LOOKING].memory.keep(name, stamp, thing)


def forget(orm: Orm) -> None:
    """Read all of it anew: rows were written past the session."""
    for what in (ROWS, RECKONED):
        orm.info.pop(what, None)


def written_past(
    orm: Orm,
    household_id: int,
    models: Iterable[type] = (),
    batch_ids: Iterable[int] = (),
) -> None:
    """Rows of some tables, or of some batches, were written past the session."""
    forget(orm)
    changed, of_tables = _changed(orm), set(models)
    changed.tables.update((household_id, model) for model in of_tables)
    changed.batches.update(batch_ids)
    _touch(orm, of_tables)


def _touch(orm: Orm, tables: set[type]) -> None:
    """What this session has written to is no longer as others found it."""
    looking: Looking | None = orm.info.get(LOOKING)
    if looking is not None:
        looking.touched |= tables


@dataclass
class Changed:
    """What a session has written, until whoever reads later is told."""

    tables: set[tuple[int, type]] = field(default_factory=set)
    """Small tables, each with its household."""
    batches: set[int] = field(default_factory=set)
    steps: set[int] = field(default_factory=set)
    """Operations to whose lots a way was added."""


def _changed(orm: Orm) -> Changed:
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
        models[household_id].add(_name(model))
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


def _once(
    orm: Orm, what: str, models: Collection[type], whose: Hashable, find: Callable[[], Found]
) -> Found:
    known: dict[Key, Found] = orm.info.setdefault(what, {})
    key = (frozenset(models), whose)
    if key not in known:
        known[key] = _across(orm, what, key, find)
    return known[key]


def _across(orm: Orm, what: str, key: Key, find: Callable[[], Found]) -> Found:
    """What another session found, where its tables are told of and this one may share it."""
    looking: Looking | None = orm.info.get(LOOKING)
    if looking is None or not key[0] <= TOLD or (what == ROWS and not looking.only):
        return find()
    if not looking.touched.isdisjoint(key[0]):
        return find()
    name, stamp = (what, key), stamp_of(orm, key[0])
    before: Found | None = looking.memory.find(name, stamp)
    if before is not None:
        return before
    found = find()
    if what == ROWS:
        keep(orm, name, stamp, found, found)  # type: ignore[arg-type]
    else:
        looking.memory.keep(name, stamp, found)
    return found


def _name(model: type) -> str:
    return str(model.__tablename__)  # type: ignore[attr-defined]


@event.listens_for(Orm, "after_flush")
def _flushed(orm: Orm, _: Any) -> None:
    """A row that came is put behind those that were read, as it would be if they were read anew."""
    gone = {type(row) for row in orm.deleted}
    changed = [*orm.new, *orm.deleted, *(row for row in orm.dirty if orm.is_modified(row))]
    _drop(orm, RECKONED, {table for row in changed for table in _tables_of(row)})
    known: dict[Key, Any] = orm.info.get(ROWS, {})
    for row in orm.new if known else ():
        for whose in _whose(row):
            key = (frozenset((type(row),)), whose)
            if key in known:
                known[key] = [*known[key], row]
    several = {type(row) for row in orm.new}
    for key in [k for k in known if not gone.isdisjoint(k[0]) or _of_several(k, several)]:
        del known[key]
    _note(orm, changed)
    OURS.update((row.id, None) for row in orm.new if isinstance(row, Event))
    while len(OURS) > MOST_OURS:
        OURS.popitem(last=False)


def _tables_of(row: object) -> set[type]:
    """The tables that are others with a row: a vessel of the household's own is filled, or empty
    again, with its jar.
    """
    return {type(row), Vessel} if isinstance(row, Jar) and row.own_vessel else {type(row)}


def _note(orm: Orm, rows_: Iterable[Any]) -> None:
    """What is to be told of rows that were written."""
    changed = _changed(orm)
    for row in rows_:
        tables = _tables_of(row) & TOLD
        changed.tables.update((row.household_id, table) for table in tables)
        _touch(orm, tables)
        if isinstance(row, Batch):
            changed.batches.add(row.id)
        elif isinstance(row, OperationLot):
            changed.steps.add(row.operation_id)
        elif isinstance(row, OF_A_BATCH) and row.batch_id is not None:  # type: ignore[union-attr]
            changed.batches.add(row.batch_id)  # type: ignore[union-attr]


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


def _not_by_many(row: Any, value: object, *_: object) -> None:
    """What many look at is never written to: it would reach all of them, and no table.

    Raises:
        AttributeError: a row that was taken out of its session is written to.
    """
    if inspect(row).detached:
        raise AttributeError(f"{row} is looked at by many: read it in the change ({value!r}).")


for _model in (*TOLD, *OF_A_BATCH, Batch):
    assert issubclass(_model, Base)
    for _column in _model.__table__.columns:
        event.listen(getattr(_model, _column.key), "set", _not_by_many)
