"""What a transaction makes and changes, so that a press can be taken back."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from datetime import date, datetime
from typing import Any

from sqlalchemy import event, inspect
from sqlalchemy.orm import Session as Orm

from elderberry.store.base import Base, Json, Owned
from elderberry.store.batch import Operation
from elderberry.store.event import Event
from elderberry.store.jar import Jar, JarStock, LidStock
from elderberry.store.lot import Lot

TRACED: dict[str, type[Owned]] = {
    model.__tablename__: model for model in (Event, Jar, JarStock, LidStock, Lot, Operation)
}
"""Tables whose rows a press makes or changes."""
KEPT_ANEW = frozenset({"phase", "best_by", "fell_short", "own_vessel", "stack_id", "fruit"})
"""Columns that say what other rows amount to, and are found anew."""


@dataclass
class Trace:
    """Rows that came into being, and what those that changed were like before, by table."""

    made: dict[str, list[Any]] = field(default_factory=dict)
    before: dict[str, dict[str, Json]] = field(default_factory=dict)

    def row(self) -> Json:
        """As it is stored."""
        ids = {table: [row.id for row in rows] for table, rows in self.made.items()}
        return {"made": ids, "before": self.before}


@contextmanager
def traced(orm: Orm) -> Iterator[Trace]:
    """A trace of what happens to the rows of a session meanwhile."""
    trace = Trace()

    def look(session: Orm, *_: object) -> None:
        for row in session.new:
            if _table(row) in TRACED:
                trace.made.setdefault(_table(row), []).append(row)
        for row in session.dirty:
            if _table(row) in TRACED and row not in trace.made.get(_table(row), ()):
                _remember(trace, row)

    event.listen(orm, "before_flush", look)
    try:
        yield trace
        orm.flush()
    finally:
        event.remove(orm, "before_flush", look)


def _table(row: object) -> str:
    return str(row.__tablename__) if isinstance(row, Base) else ""


def _remember(trace: Trace, row: Any) -> None:
    """What the columns of a row that change were before the first of its changes."""
    for column in inspect(row).attrs:
        history = column.history
        if column.key not in KEPT_ANEW and history.has_changes() and history.deleted:
            was = trace.before.setdefault(_table(row), {}).setdefault(str(row.id), {})
            was.setdefault(column.key, _plain(history.deleted[0]))


def _plain(value: Any) -> Any:
    return value.isoformat() if isinstance(value, (datetime, date)) else value


def put_back(row: Any, was: Json) -> None:
    """Give the columns of a row the values that they had."""
    for column, value in was.items():
        moment = isinstance(getattr(row, column), datetime) and isinstance(value, str)
        setattr(row, column, datetime.fromisoformat(value) if moment else value)
