"""A change in the making: the locked batch, the step, who and when."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy.orm import Session as Orm

from elderberry.core.batch import lifecycle
from elderberry.core.batch.lifecycle import StepEvent
from elderberry.core.errors import Refusal
from elderberry.core.telling import told
from elderberry.services.cooking import kept
from elderberry.services.cooking.folder import Folder, folder_of
from elderberry.services.errors import NotFound
from elderberry.services.journal import record
from elderberry.services.who import Who
from elderberry.store import Operation
from elderberry.store.base import Json
from elderberry.store.trace import traced


@dataclass
class Change:
    """A change in the making: the locked batch, the step, who and when."""

    folder: Folder
    operation: Operation
    now: datetime

    @property
    def orm(self) -> Orm:
        """The session of the transaction."""
        return self.folder.orm

    @property
    def who(self) -> Who:
        """Who changes it."""
        return self.folder.who

    def append(
        self, kind: str, data: Json | None = None, operation: Operation | None = None
    ) -> None:
        """Append an event that fits the state of its step."""
        step = operation or self.operation
        event = StepEvent(kind, self.now, self.who.name, data)
        lifecycle.transition(self.folder.standing.states[step.id], event)
        self._record(kind, step, data)

    def log(self, kind: str, data: Json, jar_id: int | None = None) -> None:
        """Append an event that no step's state hangs on."""
        self._record(kind, self.operation, data, jar_id)

    def _record(
        self, kind: str, step: Operation, data: Json | None, jar_id: int | None = None
    ) -> None:
        """Keep an event; what the batch amounts to is found anew from here on."""
        event = record(
            self.orm, self.who, self.now, kind,
            operation=step, jar_id=jar_id, data=data,
        )  # fmt: skip
        self.folder.events = [*self.folder.events, event]
        self.folder.anew()


def change(
    orm: Orm,
    who: Who,
    batch_id: int,
    step_id: int,
    now: datetime,
    act: Callable[[Change], None],
) -> Folder:
    """Make one change to a step and return the batch as it is then.

    Raises:
        NotFound: no such batch or step in this household.
        Conflict, FieldError, Refusal, IllegalStep: as the act says; nothing is written then.
    """
    folder = folder_of(orm, who, batch_id, lock=True)
    folder.at = now
    operation = next((o for o in folder.operations if o.id == step_id), None)
    if operation is None:
        raise NotFound("step")
    with traced(orm) as trace:
        try:
            act(Change(folder, operation, now))
        except Refusal as refused:
            raise Refusal(told(refused.finding, folder.units)) from refused
    pressed = {"at": now.isoformat(), "by": who.person_id, "step": operation.id}
    return settled(folder, {**trace.row(), **pressed})


def settled(folder: Folder, press: Json | None = None) -> Folder:
    """The batch as it is after a change, with what it amounts to kept in its columns.

    press: what can be taken back of it; nothing where it is not given.
    """
    folder.batch.version += 1
    folder.batch.last_press = press or {}
    folder.orm.flush()
    after = Folder(folder.orm, folder.who, folder.batch, at=folder.at)
    kept.batch(after)
    return after
