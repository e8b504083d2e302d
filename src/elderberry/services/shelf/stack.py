"""A stack in hand: its jars, where they come from, how warm they stood, and whether they last."""

from __future__ import annotations

from datetime import date, datetime, timedelta

from sqlalchemy.orm import Session as Orm

from elderberry.core import materials
from elderberry.core.flow.rows import brief_of
from elderberry.core.shelf.enough import PACE_OVER_D, lasts
from elderberry.services.cooking import ageing, jar_view
from elderberry.services.errors import NotFound
from elderberry.services.household import kitchens
from elderberry.services.shelf import labels, lives, warm_days
from elderberry.services.shelf.shown import BatchOf, EnoughView, StackPage
from elderberry.services.who import Who
from elderberry.store import Batch, Jar, Stack, queries, shelf_queries, shelf_sums


def page(orm: Orm, who: Who, stack_id: int, now: datetime) -> StackPage:
    """A stack in hand.

    Raises:
        NotFound: no such stack; it may have been emptied a moment ago.
    """
    hh = who.household_id
    stack = queries.one(orm, hh, Stack, stack_id)
    if stack is None:
        raise NotFound("stack")
    jars = shelf_queries.first_of_stack(orm, hh, stack_id, labels.MOST)
    (first,) = queries.by_ids(orm, hh, Jar, jars[:1])
    return StackPage(
        id=stack.id,
        label=stack.label,
        first=jar_view.views(orm, who, [first])[0],
        jars=[*jars],
        may=lives.may(first),
        count=stack.jars,
        batches=_batches(orm, who, stack_id),
        enough=_enough(orm, who, stack, now),
        warmth=warm_days.of_jar(ageing.of(orm, who, [first], now), first, now),
    )


def _batches(orm: Orm, who: Who, stack_id: int) -> list[BatchOf]:
    counts = shelf_queries.batches_in_stack(orm, who.household_id, stack_id)
    rows = queries.by_ids(orm, who.household_id, Batch, counts)
    return [BatchOf(b.id, b.code, b.started_at.year, counts[b.id]) for b in rows]


def _enough(orm: Orm, who: Who, stack: Stack, now: datetime) -> EnoughView:
    """Whether what stands there lasts till it is made again, at the pace of the last year."""
    hh, fruit, label = who.household_id, stack.fruit, stack.label
    today, since = kitchens.today(orm, who, now), now - timedelta(days=PACE_OVER_D)
    first = shelf_sums.first_filled(orm, hh, fruit, label)
    began = max(since, first) if first else since
    newest = shelf_sums.newest_batch_of(orm, hh, fruit, label)
    there = shelf_sums.standing(orm, hh, label)
    eaten = shelf_sums.eaten(orm, hh, fruit, label, since)
    again = _again(newest[0].started_at.date(), today) if newest else today
    found = lasts(there, eaten, (now - began).days, today, again, _kg_a_jar(newest))
    name = materials.fruit(fruit).name if fruit in materials.fruits() else ""
    return EnoughView(
        there, found.a_month, found.till, found.short, found.fruit_kg, name,
        again if newest else None,
    )  # fmt: skip


def _again(last: date, today: date) -> date:
    """The day it is made again: the same time of the year as last, next."""
    day = last
    while day <= today:
        day += timedelta(days=365)
    return day


def _kg_a_jar(newest: tuple[Batch, int] | None) -> float | None:
    """Fruit that a jar took in the newest batch [kg]."""
    if newest is None or not newest[1]:
        return None
    main = brief_of(newest[0].brief).main
    grams = main.amount.grams.typ if main.amount and main.amount.grams else None
    return None if grams is None else grams / 1000.0 / newest[1]
