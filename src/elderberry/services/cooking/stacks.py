"""Like jars on one place are a stack; what its jars amount to is kept as they come and go."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from hashlib import sha256

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session as Orm

from elderberry.store import Jar, Stack


def key_of(jar: Jar) -> str:
    """What a jar has in common with those that it stands in a stack with."""
    said = (
        jar.place_id, jar.jar_kind, jar.lid, jar.lives, jar.held, jar.part_filled, jar.seal,
        jar.filled_at.year, jar.fruit, jar.fell_short, jar.id if jar.opened_at else 0, jar.label,
    )  # fmt: skip
    return sha256("\x1f".join(map(str, said)).encode()).hexdigest()


def keep(orm: Orm, household_id: int, jars: Sequence[Jar]) -> None:
    """Put jars into their stacks; those that they left and those that they came to are counted."""
    touched = put(orm, household_id, jars)
    orm.flush()
    count(orm, touched)


def put(orm: Orm, household_id: int, jars: Sequence[Jar]) -> set[int]:
    """Put jars into their stacks; the numbers of those whose jars are others now."""
    there = {s.key: s for s in _called(orm, household_id, {key_of(j) for j in jars if j.place_id})}
    touched = {j.stack_id for j in jars if j.stack_id is not None}
    for jar in jars:
        if jar.place_id is None:
            jar.stack_id = None
            continue
        key = key_of(jar)
        if key not in there:
            there[key] = Stack(
                household_id=household_id, place_id=jar.place_id, key=key, label=jar.label,
                jar_kind=jar.jar_kind, fruit=jar.fruit, jars=0, ml=0.0, best_by=jar.best_by,
                first_jar_id=jar.id or 0,
            )  # fmt: skip
            orm.add(there[key])
            orm.flush()
        jar.stack_id = there[key].id
        touched.add(jar.stack_id)
    return touched


def _called(orm: Orm, household_id: int, keys: set[str]) -> Iterable[Stack]:
    if not keys:
        return ()
    query = select(Stack).where(Stack.household_id == household_id, Stack.key.in_(keys))
    return orm.scalars(query)


def count(orm: Orm, ids: Iterable[int]) -> None:
    """What stacks amount to by their jars; one that none are left of is no more."""
    listed = list(ids)
    if not listed:
        return
    by = Jar.stack_id
    first = func.row_number().over(partition_by=by, order_by=(Jar.best_by, Jar.code))
    ranked = (
        select(
            Jar.stack_id, Jar.id, Jar.best_by, first.label("turn"),
            func.count().over(partition_by=by).label("jars"),
            func.sum(Jar.fill_ml).over(partition_by=by).label("ml"),
        )
        .where(Jar.stack_id.in_(listed))
        .subquery()
    )  # fmt: skip
    found = {row.stack_id: row for row in orm.execute(select(ranked).where(ranked.c.turn == 1))}
    for stack in orm.scalars(select(Stack).where(Stack.id.in_(found))):
        row = found[stack.id]
        stack.jars, stack.ml = row.jars, float(row.ml)
        stack.best_by, stack.first_jar_id = row.best_by, row.id
    empty = set(listed) - set(found)
    if empty:
        orm.execute(delete(Stack).where(Stack.id.in_(empty)))
    orm.flush()
