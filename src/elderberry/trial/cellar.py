"""A big cellar: the finished batches of a household, copied as often as it takes."""

from __future__ import annotations

from sqlalchemy import Engine, func, select, text, true
from sqlalchemy.orm import Session as Orm

from elderberry.services.cooking import kept, stacks
from elderberry.store import Base, Batch, Household, Jar, Lot, Stack

TABLES = (
    "batch", "lot", "operation", "operation_lot", "reading", "event", "stack", "jar", "yield_seen",
)  # fmt: skip
"""What is copied, in an order in which each row finds what it speaks of."""
ITS_OWN = {"id", "batch_id", "lot_id", "operation_id", "jar_id", "stack_id", "first_jar_id"}
"""Numbers that are of the copy; every other one is shared."""
OF_BATCHES = {
    "batch": ("", "t.id IN ({ids})"),
    "operation_lot": ("JOIN operation o ON o.id = t.operation_id", "o.batch_id IN ({ids})"),
    "stack": (
        "",
        "t.id IN (SELECT stack_id FROM jar WHERE NOT own_vessel AND batch_id IN ({ids}))",
    ),
}
"""What is joined to a table, and how its rows of the batches are known, where they do not say."""
SPAN = 1_000_000
"""Room between the numbers of one copy and those of the next."""
AT_ONCE = 200
EMPTIED = {
    "gone": "t.gone OR t.own_vessel",
    "place_id": "IF(t.own_vessel, NULL, t.place_id)",
    "stack_id": f"IF(t.own_vessel, NULL, t.stack_id + s.seq * {SPAN})",
    "lives": "IF(t.own_vessel, 'finished', t.lives)",
}
"""The household has so many vessels only as it has: those of the copies are empty again."""


def fill(engine: Engine, batches: int, jars: int) -> tuple[int, int]:
    """Copy the finished batches of the first household until there are so many; what there is then.

    Each copy lies a day before the one before it, so that a cellar of years comes about.
    """
    with Orm(engine) as orm:
        household = orm.scalar(select(func.min(Household.id))) or 0
        mine = select(Batch.id).where(Batch.household_id == household, Batch.finished == true())
        source = list(orm.scalars(mine))
        per_copy = orm.scalar(select(func.count()).where(Jar.batch_id.in_(source))) or 1
        last = max(orm.scalar(select(func.max(table.id))) or 0 for table in (Lot, Jar, Batch))
    copies = max(-(-batches // len(source)), -(-jars // per_copy))
    assert last < SPAN
    for first in range(1, copies + 1, AT_ONCE):
        _copy(engine, source, first, min(first + AT_ONCE - 1, copies))
    with Orm(engine) as orm, orm.begin():
        kept.count_places(orm, household)
        stacks.count(
            orm, orm.scalars(select(Stack.id).where(Stack.household_id == household)).all()
        )
        return (
            orm.scalar(select(func.count()).select_from(Batch)) or 0,
            orm.scalar(select(func.count()).select_from(Jar)) or 0,
        )


def _copy(engine: Engine, source: list[int], first: int, last: int) -> None:
    ids = ", ".join(map(str, source))
    with engine.begin() as connection:
        connection.execute(text("SET FOREIGN_KEY_CHECKS = 0"))
        for name in TABLES:
            columns = Base.metadata.tables[name].columns.keys()
            wanted = ", ".join(_copied(name, column) for column in columns)
            joined, where = OF_BATCHES.get(name, ("", "t.batch_id IN ({ids})"))
            connection.execute(
                text(
                    f"INSERT INTO `{name}` ({', '.join(f'`{c}`' for c in columns)}) "
                    f"SELECT {wanted} FROM `{name}` t {joined} "
                    f"JOIN seq_{first}_to_{last} s WHERE {where.format(ids=ids)}"
                )
            )
        connection.execute(text("SET FOREIGN_KEY_CHECKS = 1"))


def _copied(table: str, column: str) -> str:
    if column in ITS_OWN:
        return f"t.`{column}` + s.seq * {SPAN}"
    if table == "jar" and column in EMPTIED:
        return EMPTIED[column]
    if table == "stack" and column == "key":
        return "SHA2(CONCAT(t.`key`, s.seq), 256)"
    if column == "code":
        return "CONCAT(t.code, '-', s.seq)"
    if column in {"started_at", "filled_at", "placed_at", "at"} and table != "event":
        return f"t.`{column}` - INTERVAL s.seq HOUR"
    return f"t.`{column}`"
