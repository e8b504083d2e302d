"""Batches in a list: those under way with the step they are at, and the finished ones."""

from __future__ import annotations

from collections.abc import Mapping

from sqlalchemy.orm import Session as Orm

from elderberry.core.batch.lifecycle import Phase
from elderberry.core.flow.rows import brief_of
from elderberry.services.cooking import endings
from elderberry.services.cooking.folder import Folder, folders, title
from elderberry.services.cooking.shown import BatchLine
from elderberry.services.who import Who
from elderberry.store import Batch, Person, queries

MOST = 40
"""Finished batches that are listed at a time."""


def lines(orm: Orm, who: Who, before: int | None = None) -> list[BatchLine]:
    """The batches under way, then the finished ones, newest first.

    before: only finished ones that are older than this one, to go on where a list ended.
    """
    people = {p.id: p.name for p in queries.all_of(orm, who.household_id, Person)}
    over = queries.finished_batches(orm, who.household_id, before, MOST)
    given_up = endings.given_up(orm, who, over)
    finished = [_over(b, people, "given up" if b.id in given_up else "finished") for b in over]
    if before is not None:
        return finished
    under_way = folders(orm, who, queries.unfinished_batches(orm, who.household_id)[::-1])
    return [*map(_line, under_way), *finished]


def _line(folder: Folder) -> BatchLine:
    """A batch in a list, with the step it is at."""
    running = [o for o in folder.operations if folder.phase(o) is Phase.RUNNING]
    waiting = [o for o in folder.operations if folder.phase(o) is Phase.WAITING]
    now = (
        [title(o, folder.units) for o in running]
        or [f"next: {title(o, folder.units)}" for o in waiting[:1]]
        or ["finished"]
    )
    return BatchLine(
        id=folder.batch.id,
        code=folder.batch.code,
        title=folder.batch.title,
        colour=folder.brief.colour,
        started_at=folder.batch.started_at,
        started_by=folder.people.get(folder.batch.started_by, ""),
        finished=folder.standing.finished,
        now=", ".join(now),
    )


def _over(batch: Batch, people: Mapping[int, str], how: str) -> BatchLine:
    """A batch in a list that is over, and how it ended."""
    return BatchLine(
        id=batch.id,
        code=batch.code,
        title=batch.title,
        colour=brief_of(batch.brief).colour,
        started_at=batch.started_at,
        started_by=people.get(batch.started_by, ""),
        finished=True,
        now=how,
    )
