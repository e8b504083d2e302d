"""From a tree, a packet of lids, a reading or a batch to every jar, where it is and who has it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Literal, get_args

from sqlalchemy.orm import Session as Orm

from elderberry.core.shelf.life import GONE, Lives
from elderberry.services.cooking import jar_view, kept
from elderberry.services.cooking.shown import JarView
from elderberry.services.errors import FieldError
from elderberry.services.journal import record
from elderberry.services.who import Who
from elderberry.store import Jar, recall_queries

By = Literal["source", "packet", "batch", "instrument"]
BYS: tuple[By, ...] = get_args(By)
MOST = 500


@dataclass(frozen=True)
class Recalled:
    """A jar that is recalled, and where it is: its place, who was given it, or how it ended."""

    jar: JarView
    where: str
    here: bool


@dataclass(frozen=True)
class RecallView:
    """Every jar that something went into."""

    by: str
    what: str
    here: int
    given: list[str]
    """People who were given some."""
    gone: int
    jars: list[Recalled]
    more: int
    """Jars beyond those that are listed."""


@dataclass(frozen=True)
class Known:
    """What can be recalled by: trees and other sources, packets of lids, batches, instruments."""

    source: list[str]
    packet: list[str]
    batch: list[str]
    instrument: list[str]


def known(orm: Orm, who: Who) -> Known:
    """What jars can be recalled by in this household."""
    hh = who.household_id
    return Known(
        recall_queries.sources(orm, hh), recall_queries.packets(orm, hh),
        recall_queries.batch_codes(orm, hh), recall_queries.instruments(orm, hh),
    )  # fmt: skip


def find(orm: Orm, who: Who, by: By, what: str, since: datetime | None = None) -> RecallView:
    """Every jar that came of something.

    Args:
        orm: a session.
        who: whose.
        by: source of the fruit, packet of the lids, code of a batch, or instrument of readings.
        what: which of them, as known() lists it.
        since: for instruments, readings from then on.

    Raises:
        FieldError: nothing is named.
    """
    jars = _jars(orm, who, by, what, since)
    views = {v.id: v for v in jar_view.views(orm, who, jars[:MOST])}
    listed = [
        Recalled(views[j.id], _where(j, views[j.id]), here=j.lives not in GONE) for j in jars[:MOST]
    ]
    given = sorted({str(j.contents.get("given_to", "")) for j in jars if j.lives == Lives.GIVEN})
    here = sum(j.lives not in GONE for j in jars)
    return RecallView(by, what, here, given, len(jars) - here, listed, max(0, len(jars) - MOST))


def hold(orm: Orm, who: Who, by: By, what: str, since: datetime | None, now: datetime) -> int:
    """Hold every jar of it that is still here until somebody has looked at it.

    Raises:
        FieldError: nothing is named.
    """
    jars = [j for j in _jars(orm, who, by, what, since) if j.lives not in GONE]
    for jar in jars:
        jar.held = True
        record(
            orm, who, now, "held", jar_id=jar.id, data={"code": jar.code, "by": by, "what": what}
        )
    kept.jars(orm, who, jars)
    orm.flush()
    return len(jars)


def _jars(orm: Orm, who: Who, by: By, what: str, since: datetime | None) -> Sequence[Jar]:
    if not what.strip():
        raise FieldError("/what", "Say which.")
    return recall_queries.recalled(orm, who.household_id, by, what.strip(), since)


_ENDED = {
    Lives.FINISHED: "used up",
    Lives.WENT_IN: "in another batch",
    Lives.THROWN: "thrown away",
    Lives.NEVER: "never filled",
}


def _where(jar: Jar, view: JarView) -> str:
    if jar.lives == Lives.GIVEN:
        return f"{jar.contents.get('given_to', '')} has it"
    return _ENDED.get(Lives(jar.lives)) or view.place or "not carried away yet"
