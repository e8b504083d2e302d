"""A household to an archive and out of one again, every row as it was."""

from __future__ import annotations

import inspect
import secrets
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import IO, Any

from sqlalchemy import Connection, Engine, MetaData, Table, func, select, table, text

from elderberry.formats import archive as format_
from elderberry.formats.archive import About, Archive, Column, NoArchive
from elderberry.services.household.hashing import Hashing
from elderberry.services.who import Who
from elderberry.store import Base
from elderberry.store.database import known, revision

PASSING = frozenset({"session", "known_browser", "change_made", "sign_in_try", "feed"})
"""Tables of what passes: who is signed in or fetches a calendar, and what was just pressed."""
SECRET = {("person", "password_hash")}
AT_ONCE = 500


@dataclass(frozen=True)
class Came:
    """A household that came out of an archive: its name, its rows, and how its keepers sign in."""

    household: str
    rows: int
    keepers: tuple[tuple[str, str], ...]
    """Name to sign in with, and the first password."""

    def in_words(self) -> str:
        """What came, and how its keepers sign in."""
        how = ", ".join(f'{name} with "{password}"' for name, password in self.keepers)
        return (
            f"{self.household} is here, {self.rows} rows of it. Passwords are in no archive: sign "
            f"in as {how}, and choose another under Kitchen."
        )


def write(engine: Engine, who: Who, out: IO[bytes], now: datetime) -> None:
    """Write everything of a person's household, as it is at one moment.

    Raises:
        OSError: no room for it.
    """
    with engine.connect().execution_options(isolation_level="REPEATABLE READ") as seen:
        made = now.astimezone(UTC).strftime("%Y-%m-%d %H:%M UTC")
        household = Base.metadata.tables["household"]
        named = select(household.c.name).where(household.c.id == who.household_id)
        about = About(str(seen.scalar(named)), made, str(revision(engine)))
        tables = ((_described(t), _rows(seen, t, who.household_id)) for t in _kept())
        format_.write(out, about, tables)


def _kept() -> list[Table]:
    """The tables of a household, each behind those that it speaks of."""
    return [t for t in Base.metadata.sorted_tables if t.name not in PASSING]


def _columns(kept: Table) -> list[Any]:
    return [c for c in kept.columns if (kept.name, c.name) not in SECRET]


def _described(kept: Table) -> format_.Table:
    mapper = next(m for m in Base.registry.mappers if m.local_table is kept)
    columns = (Column(c.name, str(c.type).lower(), bool(c.nullable)) for c in _columns(kept))
    return format_.Table(kept.name, inspect.getdoc(mapper.class_) or "", tuple(columns))


def _rows(seen: Connection, kept: Table, household_id: int) -> Iterator[Sequence[Any]]:
    """The rows of a table as the database writes them, in the order of their coming."""
    owner = kept.c.id if kept.name == "household" else kept.c.household_id
    key = next(iter(kept.primary_key.columns))
    raw = [text(f"`{c.name}`") for c in _columns(kept)]
    query = select(*raw).select_from(kept).where(owner == household_id).order_by(key)
    found = seen.execution_options(stream_results=True, max_row_buffer=AT_ONCE).execute(query)
    yield from (tuple(row) for row in found)


def check(found: Archive) -> None:
    """See that an archive can be taken in.

    Raises:
        NoArchive: a newer Elderberry made it, or it is of more than one household.
    """
    if not known(found.about.tables):
        raise NoArchive("A newer Elderberry made this archive. Nothing was changed. Use that one.")
    if found.counts.get("household") != 1 or not found.counts.get("person"):
        raise NoArchive("It is not of one household. Nothing was changed. Take another.")
    key = found.columns["household"].index("id")
    mine = next(found.rows("household"))[key]
    for name, columns in found.columns.items():
        if name == "household":
            continue
        if "household_id" not in columns:
            raise NoArchive(f"{name} is of no household. Nothing was changed. Take another.")
        owner = columns.index("household_id")
        if any(len(row) != len(columns) or row[owner] != mine for row in found.rows(name)):
            raise NoArchive(
                f"{name} holds rows of another household. Nothing was changed. Take another."
            )


def take_in(connection: Connection, found: Archive, hashing: Hashing) -> Came:
    """Put the rows of an archive into tables of its revision that are empty.

    Keepers get a first password each; helpers and guests get theirs from a keeper.

    Raises:
        NoArchive: it speaks of tables or columns that there are none of.
    """
    there = MetaData()
    there.reflect(connection)
    total = 0
    connection.execute(text("SET FOREIGN_KEY_CHECKS = 0"))  # tables speak of each other
    for name, columns in found.columns.items():
        into = there.tables.get(name)
        if into is None or not {*columns} <= {*into.columns.keys()}:
            raise NoArchive(f"Nobody knows the columns of {name}. Nothing was changed.")
        more = {"password_hash": NOBODYS} if name == "person" else {}
        names = [*columns, *more]
        plain = table(name)
        total += _insert(connection, name, names, (
            dict(zip(names, [*row, *more.values()], strict=True)) for row in found.rows(name)
        ))  # fmt: skip
        if connection.scalar(select(func.count()).select_from(plain)) != found.counts[name]:
            raise NoArchive(f"{name} came in with other rows than it lists. Nothing was changed.")
    connection.execute(text("SET FOREIGN_KEY_CHECKS = 1"))
    _hang_together(connection, there)
    return Came(found.about.household, total, _first_passwords(connection, hashing))


def _hang_together(connection: Connection, there: MetaData) -> None:
    """See that every row that another one speaks of is there.

    Raises:
        NoArchive: one is missing.
    """
    for one in there.tables.values():
        for key in one.foreign_keys:
            other = key.column.table.alias()
            missing = select(func.count()).select_from(
                one.outerjoin(other, key.parent == other.c[key.column.name])
            ).where(key.parent.is_not(None), other.c[key.column.name].is_(None))  # fmt: skip
            if connection.scalar(missing):
                raise NoArchive(
                    f"{one.name} speaks of a {key.column.table.name} that is not in it. Nothing "
                    "was changed. Take another."
                )


NOBODYS = "-"
"""Kept where there is no password: nothing that is typed hashes to it."""


def _insert(
    connection: Connection, name: str, columns: list[str], rows: Iterator[dict[str, Any]]
) -> int:
    words = ", ".join(f"`{c}`" for c in columns)
    values = ", ".join(f":{c}" for c in columns)
    statement = text(f"INSERT INTO `{name}` ({words}) VALUES ({values})")  # noqa: S608  our own
    count, some = 0, list[dict[str, Any]]()
    for row in rows:
        some.append(row)
        if len(some) == AT_ONCE:
            connection.execute(statement, some)
            count, some = count + len(some), []
    if some:
        connection.execute(statement, some)
    return count + len(some)


def _first_passwords(connection: Connection, hashing: Hashing) -> tuple[tuple[str, str], ...]:
    keepers = text("SELECT id, sign_in FROM person WHERE role = :role ORDER BY id")
    found = []
    for person_id, sign_in in connection.execute(keepers, {"role": "keeper"}).all():
        first = secrets.token_urlsafe(9)
        connection.execute(
            text("UPDATE person SET password_hash = :hash WHERE id = :id"),
            {"hash": hashing.hash(first), "id": person_id},
        )
        found.append((sign_in, first))
    return tuple(found)
