"""Queries of the shelf: its stacks, jars that are looked for, and sums over them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime
from typing import Any

from sqlalchemy import ColumnElement, Select, case, func, or_, select, union_all
from sqlalchemy.orm import Session as Orm
from sqlalchemy.orm import aliased

from elderberry.core.batch.lifecycle import Seal
from elderberry.core.shelf.life import Lives
from elderberry.store.base import UtcDateTime
from elderberry.store.batch import Batch, Operation
from elderberry.store.event import Event, Reading
from elderberry.store.furniture import reckoned
from elderberry.store.jar import Jar, Stack
from elderberry.store.lot import Lot
from elderberry.store.place import Place
from elderberry.store.queries import NO, YES, all_of, mine
from elderberry.store.station import Station

CODE_LETTERS = 3
"""A word of so many letters or fewer may be the beginning of a code."""
EATEN = (Lives.FINISHED, Lives.GIVEN, Lives.WENT_IN)


@dataclass(frozen=True)
class Wanted:
    """Jars that are looked for.

    words: each is found in the label or the code, or the kind is one of those beside it; filled_by:
    filled by then; best_by: at its best until then or less; year: filled in it; state: opened or
    held.
    """

    words: Mapping[str, Iterable[str]] = field(default_factory=dict)
    filled_by: datetime | None = None
    best_by: date | None = None
    year: int | None = None
    state: str = ""

    @property
    def everything(self) -> bool:
        """Whether nothing is asked."""
        return self == Wanted()

    @property
    def of_stacks(self) -> bool:
        """Whether stacks tell of it: names and kinds, which like jars have in common, but no code;
        and until when they are at their best, which the first jar of each tells.
        """
        plain = all(word.isalpha() and len(word) > CODE_LETTERS for word in self.words)
        return plain and self == Wanted(words=self.words, best_by=self.best_by)


def stacks(
    orm: Orm, household_id: int, place_id: int, wanted: Wanted, most: int
) -> list[tuple[int, int, int]]:
    """Stacks on a place, those to use first in front: number, jars that are meant, first jar."""
    if wanted.of_stacks:
        found = _of_stacks(orm, household_id, [place_id], wanted, most)[place_id]
        return found if wanted.best_by is None else _at_their_best(orm, wanted.best_by, found)
    order = func.row_number().over(partition_by=Jar.stack_id, order_by=(Jar.best_by, Jar.code))
    jars = (
        _looked_for(household_id, wanted)
        .where(Jar.place_id == place_id)
        .with_only_columns(
            Jar.stack_id,
            Jar.id,
            Jar.best_by,
            func.count().over(partition_by=Jar.stack_id).label("jars"),
            order.label("turn"),
        )
        .subquery()
    )
    first = (
        select(jars.c.stack_id, jars.c.jars, jars.c.id)
        .where(jars.c.turn == 1)
        .order_by(jars.c.best_by, jars.c.stack_id)
        .limit(most)
    )
    return [(a, b, c) for a, b, c in orm.execute(first)]


Stacks = dict[int, list[tuple[int, int, int]]]
"""Stacks by their place: number, jars that are meant, first jar."""


def all_stacks(orm: Orm, household_id: int, place_ids: Iterable[int], most: int) -> Stacks:
    """The first stacks of some places, those to use first in front."""
    return _of_stacks(orm, household_id, place_ids, Wanted(), most)


def _of_stacks(
    orm: Orm, household_id: int, place_ids: Iterable[int], wanted: Wanted, most: int
) -> Stacks:
    found: Stacks = {place_id: [] for place_id in place_ids}
    of_place = (
        select(Stack.place_id, Stack.id, Stack.jars, Stack.first_jar_id, Stack.best_by)
        .where(*_named(orm, household_id, place_id, wanted))
        .order_by(Stack.best_by, Stack.id)
        .limit(most)
        for place_id in found
    )
    if not found:
        return found
    there = union_all(*of_place).subquery()
    ordered = select(*there.c).order_by(there.c.best_by, there.c.id)
    for place_id, stack, jars, first, _ in orm.execute(ordered):
        found[place_id].append((stack, jars, first))
    return found


def _at_their_best(
    orm: Orm, until: date, of_place: Iterable[tuple[int, int, int]]
) -> list[tuple[int, int, int]]:
    """Stacks with only those of their jars that are at their best until a day or less."""
    found = {stack: first for stack, _, first in of_place}
    jars = (
        select(Jar.stack_id, func.count())
        .where(Jar.stack_id.in_(found), Jar.best_by <= until)
        .group_by(Jar.stack_id)
    )
    counted = dict(orm.execute(jars).all())
    return [(stack, counted[stack], first) for stack, first in found.items() if stack in counted]


def count(orm: Orm, household_id: int, place_id: int, wanted: Wanted) -> int:
    """How many jars on a place are meant."""
    if wanted.of_stacks:
        named = _named(orm, household_id, place_id, wanted)
        if wanted.best_by is None:
            return int(orm.scalar(select(func.sum(Stack.jars)).where(*named)) or 0)
        if wanted.words:
            soon = select(func.count(Jar.id)).join(Stack, Stack.id == Jar.stack_id)
            return orm.scalar(soon.where(*named, Jar.best_by <= wanted.best_by)) or 0
    query = _looked_for(household_id, wanted).where(Jar.place_id == place_id)
    return orm.scalar(query.with_only_columns(func.count())) or 0


def _named(
    orm: Orm, household_id: int, place_id: int, wanted: Wanted
) -> list[ColumnElement[bool]]:  # fmt: skip
    """Stacks on a place with every word in their label or kind; codes of jars have figures."""
    of_place = [Stack.household_id == household_id, Stack.place_id == place_id]
    for word, of_kind in wanted.words.items():
        named = Stack.label.in_(_labels(orm, household_id, word))
        kinds = list(of_kind)
        of_place.append(or_(named, Stack.jar_kind.in_(kinds)) if kinds else named)
    if wanted.best_by is not None:
        of_place.append(Stack.best_by <= wanted.best_by)
    return of_place


def _labels(orm: Orm, household_id: int, word: str) -> Sequence[str]:
    """The labels with a word in them: few, however many stacks there are of each."""
    there = select(Stack.label).where(Stack.household_id == household_id).distinct().subquery()
    called = select(there.c.label).where(there.c.label.icontains(word, autoescape=True))
    whose = (household_id, "labels", word)
    return reckoned(orm, (Jar,), whose, lambda: orm.scalars(called).all())


def _looked_for(household_id: int, wanted: Wanted) -> Select[Jar]:
    query = select(Jar).where(Jar.household_id == household_id)
    for word, of_kind in wanted.words.items():
        named = Jar.label.icontains(word, autoescape=True)
        coded = Jar.code.icontains(word, autoescape=True)
        query = query.where(or_(named, coded, Jar.jar_kind.in_(list(of_kind))))
    if wanted.filled_by is not None:
        query = query.where(Jar.filled_at <= wanted.filled_by)
    if wanted.best_by is not None:
        query = query.where(Jar.best_by <= wanted.best_by)
    if wanted.year is not None:
        query = query.where(func.year(Jar.filled_at) == wanted.year)
    if wanted.state == "opened":
        query = query.where(Jar.lives == Lives.OPENED)
    if wanted.state == "held":
        query = query.where(Jar.held == YES)
    return query


def there_already(orm: Orm, household_id: int, label: str) -> Sequence[Jar]:
    """Jars of a name that were there already, those that are gone as well."""
    query = mine(household_id, Jar).where(Jar.batch_id.is_(None), Jar.label == label)
    return orm.scalars(query).all()


def labels_by_code(orm: Orm, household_id: int) -> dict[str, tuple[str, str]]:
    """The label and the kind of every jar, by its code."""
    query = select(Jar.code, Jar.label, Jar.jar_kind).where(Jar.household_id == household_id)
    return {code: (label, kind) for code, label, kind in orm.execute(query)}


def ids_by_code(orm: Orm, household_id: int) -> dict[str, int]:
    """The number of every jar, by its code."""
    query = select(Jar.code, Jar.id).where(Jar.household_id == household_id)
    return dict(orm.execute(query).all())


def codes_like(orm: Orm, household_id: int, head: str) -> list[str]:
    """Codes of jars that begin so."""
    query = select(Jar.code).where(
        Jar.household_id == household_id, Jar.code.startswith(head, autoescape=True)
    )
    return list(orm.scalars(query))


def first_of_stack(orm: Orm, household_id: int, stack_id: int, number: int) -> Sequence[int]:
    """The jars of a stack that go first."""
    query = select(Jar.id).where(Jar.household_id == household_id, Jar.stack_id == stack_id)
    return orm.scalars(query.order_by(Jar.best_by, Jar.code).limit(max(0, number))).all()


def batches_in_stack(orm: Orm, household_id: int, stack_id: int) -> dict[int, int]:
    """How many jars of a stack are of each batch, those that are of one."""
    query = (
        select(Jar.batch_id, func.count())
        .where(
            Jar.household_id == household_id,
            Jar.stack_id == stack_id,
            Jar.batch_id.is_not(None),
        )
        .group_by(Jar.batch_id)
    )
    return {batch_id: jars for batch_id, jars in orm.execute(query) if batch_id is not None}


def by_id(orm: Orm, household_id: int, ids: Sequence[int]) -> Sequence[Jar]:
    """Jars by their numbers, those to use first in front, held for a change."""
    query = select(Jar).where(Jar.household_id == household_id, Jar.id.in_(list(ids)))
    return orm.scalars(query.order_by(Jar.best_by, Jar.code).with_for_update()).all()


def by_code(orm: Orm, household_id: int, code: str) -> Jar | None:
    """A jar by its whole code."""
    query = select(Jar).where(Jar.household_id == household_id, Jar.code == code)
    return orm.scalars(query).first()


def to_use(orm: Orm, household_id: int, until: date, most: int) -> Sequence[Jar]:
    """Jars on a place that are at their best until a day or less, the most pressing first.

    Each place has its jars in that order, so that nothing is sorted but the first of each.
    """
    of_place = [
        select(Jar.id)
        .where(Jar.household_id == household_id, Jar.place_id == p.id, Jar.best_by <= until)
        .order_by(Jar.best_by, Jar.code)
        .limit(most)
        for p in all_of(orm, household_id, Place)
    ]
    if not of_place:
        return ()
    first = union_all(*of_place).subquery()
    query = select(Jar).join(first, first.c.id == Jar.id)
    return orm.scalars(query.order_by(Jar.best_by, Jar.code).limit(most)).all()


def fallen_short(orm: Orm, household_id: int, most: int) -> Sequence[Jar]:
    """Jars on a place whose process is not enough for what is known since."""
    query = mine(household_id, Jar).where(Jar.fell_short == YES, Jar.place_id.is_not(None))
    return orm.scalars(query.limit(most)).all()


def held(orm: Orm, household_id: int, most: int) -> Sequence[Jar]:
    """Jars that are held until somebody has looked at them."""
    return orm.scalars(mine(household_id, Jar).where(Jar.held == YES).limit(most)).all()


def on_place(orm: Orm, household_id: int, place_id: int) -> Sequence[Jar]:
    """Every jar on a place."""
    query = select(Jar).where(Jar.household_id == household_id, Jar.place_id == place_id)
    return orm.scalars(query.order_by(Jar.best_by, Jar.code)).all()


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


def recalled(
    orm: Orm, household_id: int, by: str, what: str, since: datetime | None
) -> Sequence[Jar]:
    """Jars that came of a source of fruit, a packet of lids, a batch or an instrument."""
    query = select(Jar).where(Jar.household_id == household_id, Jar.lives != Lives.NEVER)
    if by == "packet":
        query = query.where(Jar.packet == what)
    else:
        query = query.where(Jar.batch_id.in_(_batches_of(household_id, by, what, since)))
    return orm.scalars(query.order_by(Jar.batch_id, Jar.code)).all()


def _batches_of(household_id: int, by: str, what: str, since: datetime | None) -> Select[Any]:
    if by == "batch":
        return select(Batch.id).where(Batch.household_id == household_id, Batch.code == what)
    if by == "source":
        return select(Lot.batch_id).where(
            Lot.household_id == household_id, Lot.source == what, Lot.batch_id.is_not(None)
        )
    read = select(Reading.batch_id).where(
        Reading.household_id == household_id, Reading.instrument == what
    )
    return read if since is None else read.where(Reading.at >= since)


MOST_KNOWN = 300


def sources(orm: Orm, household_id: int) -> list[str]:
    """Where fruit of batches came from."""
    query = (
        select(Lot.source)
        .where(Lot.household_id == household_id, Lot.batch_id.is_not(None), Lot.source.is_not(None))
        .distinct()
        .order_by(Lot.source)
        .limit(MOST_KNOWN)
    )
    return [s for s in orm.scalars(query) if s]


def packets(orm: Orm, household_id: int) -> list[str]:
    """Packets of lids that jars were closed from."""
    query = select(Jar.packet).where(Jar.household_id == household_id, Jar.packet != "")
    return list(orm.scalars(query.distinct().order_by(Jar.packet).limit(MOST_KNOWN)))


def batch_codes(orm: Orm, household_id: int) -> list[str]:
    """Codes of batches, the newest first."""
    query = select(Batch.code).where(Batch.household_id == household_id)
    return list(orm.scalars(query.order_by(Batch.id.desc()).limit(MOST_KNOWN)))


def instruments(orm: Orm, household_id: int) -> list[str]:
    """Instruments that readings were made with."""
    query = select(Reading.instrument).where(Reading.household_id == household_id)
    return list(orm.scalars(query.distinct().order_by(Reading.instrument)))


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


@dataclass(frozen=True)
class Fading:
    """Jars of a batch of one name: how many there are, the place and day of the first of them.

    Jars that were there already are of no batch.
    """

    batch_id: int | None
    label: str
    jars: int
    place_id: int | None
    best_by: date


def fading(orm: Orm, household_id: int, since: date, until: date) -> list[Fading]:
    """Jars that are there and at their best until some day between two, by batch and name."""
    query = (
        select(Jar.batch_id, Jar.label, func.count(), func.min(Jar.place_id), func.min(Jar.best_by))
        .where(
            Jar.household_id == household_id,
            Jar.gone == NO,
            Jar.best_by >= since,
            Jar.best_by <= until,
        )
        .group_by(Jar.batch_id, Jar.label)
        .order_by(func.min(Jar.best_by), Jar.batch_id)
    )
    return [Fading(*row) for row in orm.execute(query)]


@dataclass(frozen=True)
class Infusing:
    """Jars of a batch in which fruit is still giving to what it lies in."""

    batch_id: int
    label: str
    filled_at: datetime


def infusing(orm: Orm, household_id: int) -> list[Infusing]:
    """Jars of whole fruit that stand closed, by batch."""
    life = func.json_value(Jar.contents, "$.life.shelf")
    query = (
        select(Jar.batch_id, func.min(Jar.label), func.max(Jar.filled_at, type_=UtcDateTime()))
        .where(
            Jar.household_id == household_id,
            Jar.seal == Seal.SEALED,
            Jar.lives.in_((Lives.STANDS, Lives.MADE)),
            life == "infused_whole_fruit",
            Jar.batch_id.is_not(None),
        )
        .group_by(Jar.batch_id)
        .order_by(Jar.batch_id)
    )
    return [Infusing(batch or 0, label, at) for batch, label, at in orm.execute(query)]
