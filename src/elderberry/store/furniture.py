"""What is read again and again is read once: in a session, and by requests that only read.

Within a session rows are its own objects, so a change of one is seen at once; a row that comes or
goes makes its table be read anew. What is reckoned from rows is reckoned anew when one of them
changes.

Requests that only read keep what they found for each other (store/memory.py), each with how often
its tables or its batch had become others (store/telling.py).
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Collection, Hashable, Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any, TypeVar

from sqlalchemy import event, inspect
from sqlalchemy.orm import Session as Orm

from elderberry.store.base import Base
from elderberry.store.batch import Batch
from elderberry.store.event import Event
from elderberry.store.memory import Memory
from elderberry.store.telling import OF_A_BATCH, TOLD, changed_in, name_of, note

ROWS, RECKONED, LOOKING = "rows", "reckoned", "looking"
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
    return {m: looking.tables.get(name_of(m), 0) for m in models} if looking else {}


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


def shared(
    orm: Orm, models: Collection[type], whose: Hashable, find: Callable[[], Found]
) -> Found:  # fmt: skip
    """What is found of some tables, which sessions that only read find for each other.

    whose: a tuple that begins with a household. What is found holds no rows. A session that changes
    something finds it anew each time.
    """
    stamp = stamp_of(orm, models)
    before: Found | None = kept(orm, whose, stamp)
    if before is not None:
        return before
    found = find()
    keep(orm, whose, stamp, found)
    return found


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
    changed, of_tables = changed_in(orm), set(models)
    changed.tables.update((household_id, model) for model in of_tables)
    changed.batches.update(batch_ids)
    _touch(orm, of_tables)


def _touch(orm: Orm, tables: set[type]) -> None:
    """What this session has written to is no longer as others found it."""
    looking: Looking | None = orm.info.get(LOOKING)
    if looking is not None:
        looking.touched |= tables


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


@event.listens_for(Orm, "after_flush")
def _flushed(orm: Orm, _: Any) -> None:
    """A row that came is put behind those that were read, as it would be if they were read anew."""
    gone = {type(row) for row in orm.deleted}
    changed = [*orm.new, *orm.deleted, *(row for row in orm.dirty if orm.is_modified(row))]
    others = note(orm, changed)
    _touch(orm, others)
    _drop(orm, RECKONED, others)
    known: dict[Key, Any] = orm.info.get(ROWS, {})
    for row in orm.new if known else ():
        for whose in _whose(row):
            key = (frozenset((type(row),)), whose)
            if key in known:
                known[key] = [*known[key], row]
    several = {type(row) for row in orm.new}
    for key in [k for k in known if not gone.isdisjoint(k[0]) or _of_several(k, several)]:
        del known[key]
    OURS.update((row.id, None) for row in orm.new if isinstance(row, Event))
    while len(OURS) > MOST_OURS:
        OURS.popitem(last=False)


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
