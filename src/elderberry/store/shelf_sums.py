"""Sums over the shelf: what was eaten, what each year took, and how lids did."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import ColumnElement, case, func, select
from sqlalchemy.orm import Session as Orm
from sqlalchemy.orm import aliased

from elderberry.core.shelf.life import Lives
from elderberry.store.batch import Batch, Operation
from elderberry.store.event import Event
from elderberry.store.jar import Jar, Stack
from elderberry.store.lot import Lot
from elderberry.store.queries import mine
from elderberry.store.station import Station

EATEN = (Lives.FINISHED, Lives.GIVEN, Lives.WENT_IN)


def _called(household_id: int, fruit: str, label: str) -> list[ColumnElement[bool]]:
    """Jars of a fruit and a name."""
    return [Jar.household_id == household_id, Jar.fruit == fruit, Jar.label == label]


def eaten(orm: Orm, household_id: int, fruit: str, label: str, since: datetime) -> int:
    """Jars of a kind that were opened, used up, given away or used since then."""
    named = _called(household_id, fruit, label)
    ended = select(func.count()).where(*named, Jar.lives.in_(EATEN), Jar.ended_on >= since.date())
    opened = select(func.count()).where(*named, Jar.lives == Lives.OPENED, Jar.opened_at >= since)
    return sum(int(orm.execute(query).scalar_one()) for query in (ended, opened))


def first_filled(orm: Orm, household_id: int, fruit: str, label: str) -> datetime | None:
    """When the first jar of a kind was filled."""
    query = select(func.min(Jar.filled_at)).where(*_called(household_id, fruit, label))
    return orm.execute(query).scalar_one()


def standing(orm: Orm, household_id: int, label: str) -> int:
    """Jars of a name that stand on any place."""
    query = select(func.sum(Stack.jars)).where(
        Stack.household_id == household_id, Stack.label == label
    )
    return int(orm.execute(query).scalar_one() or 0)


def by_year(orm: Orm, household_id: int) -> list[tuple[int, str, str, int, float]]:
    """Jars by the year they were filled in, their fruit and what became of them: and mL."""
    year = func.year(Jar.filled_at)
    query = (
        select(year, Jar.fruit, Jar.lives, func.count(), func.sum(Jar.fill_ml))
        .where(Jar.household_id == household_id)
        .group_by(year, Jar.fruit, Jar.lives)
    )
    return [(int(y), f, lives, int(n), float(ml)) for y, f, lives, n, ml in orm.execute(query)]


def seals_by_closure(orm: Orm, household_id: int) -> list[tuple[str, str, int, int]]:
    """Seals that were looked at, by the kind of jar and what closed it: how many, and failures."""
    closure = func.coalesce(func.json_value(Jar.contents, "$.closure"), "")
    failed = func.sum(case((Event.kind == "seal_failed", 1), else_=0))
    query = (
        select(Jar.jar_kind, closure, func.count(), failed)
        .join(Event, Event.jar_id == Jar.id)
        .where(Jar.household_id == household_id, Event.kind.in_(("seal_held", "seal_failed")))
        .group_by(Jar.jar_kind, closure)
    )
    return [(kind, how, int(n), int(bad or 0)) for kind, how, n, bad in orm.execute(query)]


def newest_batch_of(
    orm: Orm, household_id: int, fruit: str, label: str
) -> tuple[Batch, int] | None:
    """The batch that filled jars of a name last, and how many it filled."""
    named = _called(household_id, fruit, label)
    last = select(Jar.batch_id).where(*named, Jar.batch_id.is_not(None))
    batch_id = orm.scalar(last.order_by(Jar.filled_at.desc(), Jar.id.desc()).limit(1))
    if batch_id is None:
        return None
    batch = orm.scalars(mine(household_id, Batch).where(Batch.id == batch_id)).one()
    filled = select(func.count()).where(*named, Jar.batch_id == batch_id)
    return batch, int(orm.execute(filled).scalar_one())


@dataclass
class Spent:
    """What the batches of a year took: litres filled, fruit [minor units] and lids."""

    litres: float = 0.0
    fruit_minor: float = 0.0
    lids: int = 0


@dataclass(frozen=True)
class StepsDone:
    """Finished steps of a kind in a year at a power [kW]: how many, and how long as planned."""

    year: int
    kind: str
    power_kw: float | None
    steps: int
    minutes: float


def steps_done(orm: Orm, household_id: int) -> list[StepsDone]:
    """What was done in each year, by kind and by the power of where it was done."""
    began = func.year(Batch.started_at)
    query = (
        select(began, Operation.kind, Station.power_kw, func.count(), func.sum(Operation.minutes))
        .join(Batch, Batch.id == Operation.batch_id)
        .outerjoin(Station, Station.id == Operation.station_id)
        .where(Operation.household_id == household_id, Operation.phase == "done")
        .group_by(began, Operation.kind, Station.power_kw)
    )
    return [StepsDone(int(y), k, kw, n, float(m)) for y, k, kw, n, m in orm.execute(query)]


def spent_by_year(orm: Orm, household_id: int) -> dict[int, Spent]:
    """What went into the jars of each year, in two sums."""
    found: dict[int, Spent] = {}
    year = func.year(Jar.filled_at)
    new_lid = case((Jar.packet != "", 1), (Jar.seal != "capped", 1), else_=0)
    jars = (
        select(year, func.sum(Jar.fill_ml), func.sum(new_lid))
        .where(
            Jar.household_id == household_id,
            Jar.lives != Lives.NEVER,
            func.json_extract(Jar.contents, "$.found").is_(None),
        )
        .group_by(year)
    )
    for y, ml, lids in orm.execute(jars):
        found[int(y)] = Spent(litres=float(ml) / 1000.0, lids=int(lids))
    began = func.year(Batch.started_at)
    came = aliased(Lot)
    price = func.json_value(came.intake, "$.cost_minor")
    fruit = (
        select(began, func.sum(price * Lot.mass_g / came.mass_g))
        .select_from(Lot)
        .join(Batch, Batch.id == Lot.batch_id)
        .join(came, came.id == Lot.from_lot_id)
        .where(Lot.household_id == household_id)
        .group_by(began)
    )
    for y, minor in orm.execute(fruit):
        found.setdefault(int(y), Spent()).fruit_minor = float(minor or 0.0)
    return found
