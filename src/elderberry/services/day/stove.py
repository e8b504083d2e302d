"""The stove: every step that is on or could begin, of all batches, in the order of the clock."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from datetime import datetime

from sqlalchemy.orm import Session as Orm

from elderberry.core.batch.lifecycle import Phase
from elderberry.core.flow.kinds import kind
from elderberry.services.cooking import glance, stations
from elderberry.services.cooking.folder import Folder, folders
from elderberry.services.cooking.step_shown import StepGlance
from elderberry.services.day.shown import StoveItem, StoveView
from elderberry.services.who import Who
from elderberry.store import Operation, queries

MOST_READY = 3
"""Steps of a batch that could begin, of which so many are shown."""
UNDONE = frozenset({"cool"})
"""What begins by itself and needs nobody."""


def view(orm: Orm, who: Who, now: datetime) -> StoveView:
    """What is on, the one that is due first in front, and what could begin."""
    there = folders(orm, who, queries.unfinished_batches(orm, who.household_id))
    on = [_item(f, s) for f in there for s in _on(f, now)]
    ready = [_free(f, s) for f in there for s in list(_ready(f, now))[:MOST_READY]]
    return StoveView(sorted(on, key=lambda i: _due(i, now)), ready)


def _on(folder: Folder, now: datetime) -> Iterator[StepGlance]:
    """Steps that are on and need somebody, now or later: what has cooled needs its check."""
    for operation in folder.operations:
        if folder.phase(operation) is Phase.RUNNING:
            step = glance.at(folder, operation)
            over = step.role in UNDONE and step.due_at is not None and step.due_at <= now
            if not step.idle and not over:
                yield step


def _ready(folder: Folder, now: datetime) -> Iterator[StepGlance]:
    """Steps that could begin now: a load of a canner that is busy waits, and so does a check."""
    for operation in _waiting(folder):
        step = glance.at(folder, operation)
        if step.opens_at is None or step.opens_at <= now:
            yield step


def _waiting(folder: Folder) -> Iterator[Operation]:
    standing = folder.standing
    for operation in folder.operations:
        waits = folder.phase(operation) is Phase.WAITING and kind(operation.kind).role not in UNDONE
        if waits and standing.waits_for(operation) is None:
            check = kind(operation.kind).role == "check"
            if not check or standing.seal_window(operation):
                yield operation


def _free(folder: Folder, step: StepGlance) -> StoveItem:
    """A step that could begin; where its station is busy it says so, and is not pressed."""
    item = _item(folder, step)
    operation = next(o for o in folder.operations if o.id == step.id)
    busy = stations.found(folder, operation).busy if step.press == "start" else ""
    return replace(item, press="", words=busy) if busy else item


def _item(folder: Folder, step: StepGlance) -> StoveItem:
    on = step.phase == Phase.RUNNING
    return StoveItem(
        batch_id=folder.batch.id,
        step_id=step.id,
        batch=folder.batch.title,
        colour=folder.brief.colour,
        station=step.station.name if step.station else "",
        title=step.title,
        role=step.role,
        on=on,
        words=step.look_for if on else step.before,
        clock_from=step.clock_from,
        due_at=step.due_at,
        opens_at=step.opens_at,
        press=step.press,
        holds_boil=step.holds_boil,
    )


def _due(item: StoveItem, now: datetime) -> tuple[bool, datetime]:
    """What has no time of its own is due now; what cools comes last."""
    return item.role in UNDONE, item.due_at or now
