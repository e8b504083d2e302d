"""What rows amount to, kept in columns by the transaction that changes them.

Events decide; these columns only say what they amount to, so that lists of thousands are one query.
After an upgrade everything is kept anew by the same functions.
"""

from __future__ import annotations

from collections.abc import Iterable

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session as Orm

from elderberry.core import jars as kinds
from elderberry.services.cooking import jar_view
from elderberry.services.cooking.folder import Folder
from elderberry.services.household import kitchens
from elderberry.services.planning import intake, learned
from elderberry.services.who import Who
from elderberry.store import Batch, Event, Household, Jar, Lot, Person, Place, YieldSeen, queries
from elderberry.store.jar import FAR_OFF


def batch(folder: Folder) -> None:
    """Where a batch and each step of it stands, its jars, and what it teaches."""
    standing, row = folder.standing, folder.batch
    for operation in folder.operations:
        operation.phase = standing.phase(operation)
    row.finished = standing.finished
    row.material = folder.brief.main.material
    jars(folder.orm, folder.who, folder.jars)
    if folder.readings:
        _seen(folder)
    folder.orm.flush()


def _seen(folder: Folder) -> None:
    found = learned.seen_in(folder.batch, folder.operations, folder.lots, folder.readings)
    rows = [
        YieldSeen(household_id=folder.who.household_id, batch_id=folder.batch.id, fruit=s.fruit,
                  way=s.observation.way, litres_per_kg=s.observation.yield_l_per_kg,
                  source=s.observation.source, batch_code=folder.batch.code)
        for s in found
    ]  # fmt: skip
    there = queries.of_batch(folder.orm, folder.who.household_id, YieldSeen, folder.batch.id)
    if [_told(r) for r in there] == [_told(r) for r in rows]:
        return
    folder.orm.execute(delete(YieldSeen).where(YieldSeen.batch_id == folder.batch.id))
    folder.orm.add_all(rows)


def _told(row: YieldSeen) -> tuple[object, ...]:
    return row.fruit, row.way, row.litres_per_kg, row.source


def jars(orm: Orm, who: Who, rows: Iterable[Jar]) -> None:
    """Until when jars are at their best where they stand, and whether their process fell short."""
    listed = list(rows)
    if not listed:
        return
    places = {p.id: p for p in queries.all_of(orm, who.household_id, Place)}
    stays = jar_view.stays_of(orm, who, [j.id for j in listed])
    units = kitchens.units(orm, who)
    for jar in listed:
        place = places.get(jar.place_id or 0)
        found = jar_view.best_by(jar, place, stays.get(jar.id, []), units) if place else None
        jar.best_by = found.typ if found else FAR_OFF
        jar.fell_short = jar_view.fell_short(jar) is not None
        jar.own_vessel = kinds.kind(jar.jar_kind).own


def everything(orm: Orm) -> None:
    """All of it anew, in every household, as after an upgrade."""
    for household in orm.scalars(select(Household)):
        person = orm.scalars(queries.mine(household.id, Person).limit(1)).first()
        if person is not None:
            _household(orm, Who.of(person))
    orm.flush()


EMPTIED = ("spoiled", "used_up")
"""What happens to a jar that leaves it empty."""


def _household(orm: Orm, who: Who) -> None:
    hh = who.household_id
    empty = select(Event.jar_id).where(Event.household_id == hh, Event.kind.in_(EMPTIED))
    gone = set(orm.scalars(empty))
    for jar in queries.all_of(orm, hh, Jar):
        jar.gone = jar.id in gone
    for row in queries.all_of(orm, hh, Batch):
        batch(Folder(orm, who, row))
    for came_in in orm.scalars(queries.mine(hh, Lot).where(Lot.intake.is_not(None))):
        if came_in.intake:
            intake.keep_left(orm, came_in)
    count_places(orm, hh)


def count_places(orm: Orm, household_id: int) -> None:
    """How many jars stand on each place, counted anew."""
    for place in queries.all_of(orm, household_id, Place):
        count = select(func.count(), func.sum(Jar.fill_ml)).where(Jar.place_id == place.id)
        place.jars, place.jars_ml = (n or 0 for n in orm.execute(count).one())
