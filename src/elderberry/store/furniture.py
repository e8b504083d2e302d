"""Tables of a few rows that nearly every request reads: read once a session.

What is read is the session's own objects, so a change of one is seen at once; a row that comes or
goes makes its table be read anew.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any, TypeVar

from sqlalchemy import event
from sqlalchemy.orm import Session as Orm

from elderberry.store.household import Kitchen
from elderberry.store.jar import JarStock, LidStock
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
READ = "furniture"
Row = TypeVar("Row")


def once(
    orm: Orm, model: type[Row], household_id: int, read: Callable[[], Sequence[Row]]
) -> Sequence[Row]:
    """The rows of a small table as this session has read them; any other table is read."""
    if model not in SMALL:
        return read()
    known = orm.info.setdefault(READ, {})
    found: Sequence[Row] | None = known.get((model, household_id))
    if found is None:
        found = known[model, household_id] = read()
    return found


@event.listens_for(Orm, "after_flush")
def _came_or_went(orm: Orm, _: Any) -> None:
    changed = {type(row) for row in (*orm.new, *orm.deleted)}
    known = orm.info.get(READ)
    if known:
        for key in [key for key in known if key[0] in changed]:
            del known[key]


@event.listens_for(Orm, "after_soft_rollback")
def _undone(orm: Orm, _: Any) -> None:
    orm.info.pop(READ, None)
