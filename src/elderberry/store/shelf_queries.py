"""Queries of the shelf: its stacks, and jars that are looked for."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime

from sqlalchemy import ColumnElement, Select, func, or_, select, union_all
from sqlalchemy.orm import Session as Orm

from elderberry.core.batch.lifecycle import Seal
from elderberry.core.shelf.life import Lives
from elderberry.store.base import UtcDateTime
from elderberry.store.furniture import reckoned
from elderberry.store.jar import Jar, Stack
from elderberry.store.place import Place
from elderberry.store.queries import NO, YES, all_of, mine

CODE_LETTERS = 3
"""A word of so many letters or fewer may be the beginning of a code."""


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


TO_BE_EATEN = (Jar.held == NO, Jar.fell_short == NO)
"""Nobody is told to use what is held, or what stands there with a stop."""


def to_use(orm: Orm, household_id: int, until: date, most: int) -> Sequence[Jar]:
    """Jars to be eaten that are at their best until a day or less, the most pressing first.

    Each place has its jars in that order, so that nothing is sorted but the first of each.
    """
    of_place = [
        select(Jar.id)
        .where(Jar.household_id == household_id, Jar.place_id == p.id, Jar.best_by <= until)
        .where(*TO_BE_EATEN)
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
    """Jars to be eaten that are at their best until some day between two, by batch and name."""
    query = (
        select(Jar.batch_id, Jar.label, func.count(), func.min(Jar.place_id), func.min(Jar.best_by))
        .where(
            Jar.household_id == household_id,
            Jar.gone == NO,
            Jar.best_by >= since,
            Jar.best_by <= until,
            *TO_BE_EATEN,
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
