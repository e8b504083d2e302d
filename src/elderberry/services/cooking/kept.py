"""What rows amount to, kept in columns by the transaction that changes them.

Events decide; these columns only say what they amount to, so that lists of thousands are one query.
After an upgrade everything is kept anew by the same functions.
"""

from __future__ import annotations

import json
from collections.abc import Iterable, Sequence
from dataclasses import asdict
from datetime import UTC, datetime
from hashlib import sha256

from sqlalchemy import delete, func, insert, select
from sqlalchemy.orm import Session as Orm

from elderberry.core import jars as kinds
from elderberry.core.flow.kinds import kind
from elderberry.core.shelf.life import GONE
from elderberry.services.cooking import ageing, jar_view, stacks
from elderberry.services.cooking.folder import TAKEN_BACK, Folder
from elderberry.services.planning import cycles, intake, learned, paces
from elderberry.services.who import Who
from elderberry.store import (
    Batch,
    CycleSeen,
    Event,
    Household,
    Jar,
    Lot,
    PaceSeen,
    Person,
    Place,
    Vessel,
    YieldSeen,
    furniture,
    queries,
)
from elderberry.store.base import Json
from elderberry.store.jar import FAR_OFF

Seen = YieldSeen | PaceSeen | CycleSeen
"""What a batch teaches the next one."""


def batch(folder: Folder) -> None:
    """Where a batch and each step of it stands, its jars, and what it teaches."""
    standing, row = folder.standing, folder.batch
    for operation in folder.operations:
        operation.phase = standing.phase(operation)
    row.finished = standing.finished
    row.material = folder.brief.main.material
    jars(folder.orm, folder.who, folder.jars)
    _teach(folder)
    folder.orm.flush()


def _teach(folder: Folder) -> None:
    """What a batch teaches, written again only where it is not what it taught before."""
    told: dict[type[Seen], list[Json]] = {
        YieldSeen: _yields(folder), PaceSeen: _paces(folder), CycleSeen: _cycles(folder),
    }  # fmt: skip
    said = json.dumps([*told.values()], sort_keys=True)
    taught = sha256(said.encode()).hexdigest() if any(told.values()) else ""
    if taught == folder.batch.taught:
        return
    for seen, found in told.items():
        _anew(folder, seen, found)
    folder.batch.taught = taught


def _yields(folder: Folder) -> list[Json]:
    found = learned.seen_in(folder.batch, folder.operations, folder.lots, folder.readings)
    return [
        {"fruit": s.fruit, "way": s.observation.way, "source": s.observation.source,
         "litres_per_kg": s.observation.yield_l_per_kg, "batch_code": folder.batch.code}
        for s in found
    ]  # fmt: skip


def _paces(folder: Folder) -> list[Json]:
    pots = (s for s in folder.method.steps if kind(s.kind).role == "reduce")
    goals = {s.key: str(s.chosen("to")) for s in pots}
    found = paces.seen_in(folder.operations, folder.standing, goals)
    return [{"role": role, "ratio": ratio} for role, ratio in found]


def _cycles(folder: Folder) -> list[Json]:
    """The loads of the freeze dryer that are over, as long as each took."""
    if not any(kind(o.kind).role == "freeze_dry" for o in folder.operations):
        return []
    return [asdict(cycle) for cycle in cycles.seen_in(folder.operations, folder.standing)]


def _anew(folder: Folder, seen: type[Seen], found: Sequence[Json]) -> None:
    """What a batch teaches of one thing, in place of what it taught of it before."""
    orm, hh, batch_id = folder.orm, folder.who.household_id, folder.batch.id
    if queries.of_batch(orm, hh, seen, batch_id):
        orm.execute(delete(seen).where(seen.batch_id == batch_id))
        furniture.written_past(orm, hh, (seen,))
    orm.add_all(seen(household_id=hh, batch_id=batch_id, **told) for told in found)


def jars(orm: Orm, who: Who, rows: Iterable[Jar]) -> None:
    """Until when jars are at their best where they stand, and whether their process fell short."""
    listed = list(rows)
    if listed:
        _amounts(orm, who, listed)
        stacks.keep(orm, who.household_id, listed)


Alike = Sequence[tuple[Jar, Sequence[str]]]
"""Jars that differ in nothing but their codes: one that stands for them, and the codes."""


def new_jars(orm: Orm, who: Who, alike: Alike) -> list[int]:
    """Jars that are not stored yet are written, with what they amount to, into their stacks.

    A hundred thousand may come, so that only one of those that are alike is ever made.

    Returns:
        Their numbers, in their order.
    """
    each = [jar for jar, _ in alike]
    _amounts(orm, who, each)
    touched = stacks.put(orm, who.household_id, [j for j in each if j.opened_at is None])
    orm.flush()
    names = [
        c.key for c in Jar.__table__.columns if any(getattr(j, c.key) is not None for j in each)
    ]
    rows = []
    for jar, codes in alike:
        told = {name: getattr(jar, name) for name in names}
        rows += [{**told, "code": code} for code in codes]
    orm.execute(insert(Jar.__table__), rows)  # type: ignore[arg-type]
    mine = select(Jar.code, Jar.id).where(Jar.household_id == who.household_id)
    of_code = dict(orm.execute(mine.where(Jar.code.in_([r["code"] for r in rows]))).all())
    ids = [of_code[row["code"]] for row in rows]
    batches = {jar.batch_id for jar in each if jar.batch_id is not None}
    furniture.written_past(orm, who.household_id, (Jar, Vessel), batches)
    stacks.count(orm, touched)
    opened = [n for n, row in zip(ids, rows, strict=True) if row.get("opened_at") is not None]
    if opened:  # such a jar stands in a stack of its own, by its number
        stacks.keep(orm, who.household_id, queries.by_ids(orm, who.household_id, Jar, opened))
    return ids


def _amounts(orm: Orm, who: Who, listed: Sequence[Jar]) -> None:
    known, now = ageing.of(orm, who, listed), datetime.now(UTC)
    for jar in listed:
        found = None if jar.gone else known.best_by(jar, now)
        jar.best_by = found.typ if found else FAR_OFF
        jar.fell_short = jar_view.fell_short(jar) is not None
        jar.own_vessel = kinds.kind(jar.jar_kind).own
        jar.fruit = next(iter(jar.contents.get("fruits") or ()), "")


def everything(orm: Orm) -> None:
    """All of it anew, in every household, as after an upgrade."""
    for household in orm.scalars(select(Household)):
        person = orm.scalars(queries.mine(household.id, Person).limit(1)).first()
        if person is not None:
            _household(orm, Who.of(person))
    orm.flush()


def _household(orm: Orm, who: Who) -> None:
    hh = who.household_id
    void = _void(orm, hh)
    for jar in queries.all_of(orm, hh, Jar):
        jar.gone = jar.lives in GONE or jar.id in void
    for row in queries.all_of(orm, hh, Batch):
        batch(Folder(orm, who, row))
    for came_in in orm.scalars(queries.mine(hh, Lot).where(Lot.intake.is_not(None))):
        if came_in.intake:
            intake.keep_left(orm, came_in)
    count_places(orm, hh)


def _void(orm: Orm, household_id: int) -> set[int]:
    """Jars whose filling was taken back."""
    undone = queries.mine(household_id, Event).where(Event.kind == TAKEN_BACK)
    return {i for event in orm.scalars(undone) for i in event.data["made"].get("jar", ())}


def count_places(orm: Orm, household_id: int) -> None:
    """How many jars stand on each place, counted anew."""
    for place in queries.all_of(orm, household_id, Place):
        count = select(func.count(), func.sum(Jar.fill_ml)).where(Jar.place_id == place.id)
        place.jars, place.jars_ml = (n or 0 for n in orm.execute(count).one())
