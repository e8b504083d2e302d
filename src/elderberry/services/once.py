"""Once is once: a change that is asked for again under its key is not made again.

A key belongs to one change: to who asked for it, at which address, with which content. It is looked
up while the household is held, so that two that come at once are one after the other.
"""

from __future__ import annotations

import zlib
from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy import delete
from sqlalchemy.orm import Session as Orm

from elderberry.services.errors import Conflict
from elderberry.services.who import Who
from elderberry.store import ChangeMade, queries

KEPT_FOR = timedelta(days=3)
"""How long an answer is kept for whoever asks again."""


@dataclass(frozen=True)
class Asked:
    """A change that is asked for: its key, verb and address, and the SHA-256 of its content."""

    key: str
    what: str
    sent: str


@dataclass(frozen=True)
class Answered:
    """What was answered when it was made."""

    status: int
    body: bytes


def answered(orm: Orm, who: Who, asked: Asked) -> Answered | None:
    """What was answered when the change was made; None where it was not made yet.

    Raises:
        Conflict: the key was used for another change.
    """
    made = queries.change_made(orm, who.household_id, asked.key)
    if made is None:
        return None
    if (made.person_id, made.what, made.sent) != (who.person_id, asked.what, asked.sent):
        raise Conflict(
            "key-used",
            "This was sent under the key of something else that was recorded before. "
            "Nothing was changed now; press once more.",
        )
    return Answered(made.status, zlib.decompress(made.answer))


def keep(orm: Orm, who: Who, asked: Asked, answer: Answered, now: datetime) -> None:
    """Keep what was answered, in the transaction of the change; what is old is forgotten."""
    mine = ChangeMade.household_id == who.household_id
    orm.execute(delete(ChangeMade).where(mine, ChangeMade.at < now - KEPT_FOR))
    orm.add(
        ChangeMade(
            household_id=who.household_id,
            person_id=who.person_id,
            retry_key=asked.key,
            what=asked.what,
            sent=asked.sent,
            at=now,
            status=answer.status,
            answer=zlib.compress(answer.body),
        )
    )
    orm.flush()
