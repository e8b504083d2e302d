"""Bringing a database up to date, so that being killed at any moment loses nothing.

MariaDB keeps what a migration changed so far when it is killed within one, and no migration begins
in its middle. So everything is copied before the first, and a mark is set; whoever starts next and
finds the mark puts the copy back and begins again. The mark is set and taken away in one statement.
"""

from __future__ import annotations

import subprocess
from collections.abc import Callable
from datetime import datetime
from pathlib import Path

from alembic.util.exc import CommandError
from sqlalchemy import Engine, column, inspect, select, table, text
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session as Orm

from elderberry.local import dumps
from elderberry.store import queries
from elderberry.store.database import lives, migrate, newest, revision

MARK = queries.UNDER_WAY
COPIES_KEPT = 5


class NotEmpty(Exception):
    """There is a household already."""


class UpgradeFailed(Exception):
    """The database could not be brought up to date; the message says what to do."""


def bring_up(
    engine: Engine, folder: Path, now: datetime, afterwards: Callable[[Orm], None] | None = None
) -> bool:
    """Bring a database up to date; True where something had to be done.

    Args:
        engine: the database.
        folder: where copies are kept.
        now: the time, by which a copy is called.
        afterwards: what is to be done once the tables are as they should be.

    Raises:
        UpgradeFailed: with what to do; nothing is lost.
    """
    try:
        return _bring_up(engine, folder, now, afterwards or (lambda _: None))
    except (DBAPIError, CommandError, OSError, subprocess.SubprocessError) as wrong:
        raise UpgradeFailed(
            f"The database could not be brought up to date: {_first_line(wrong)}. Nothing is lost: "
            f"what there was is kept in {folder}, and the next start begins again. If it stops "
            "here once more, start the version of Elderberry that you had before."
        ) from wrong


def _bring_up(
    engine: Engine, folder: Path, now: datetime, afterwards: Callable[[Orm], None]
) -> bool:
    marked = _mark(engine)
    if marked is not None:
        _put_back(engine, folder, marked)
    there, wanted = revision(engine), newest()
    if there == wanted:
        if marked is not None:
            _take_mark_away(engine)
        return marked is not None
    if marked is None:
        copy = "" if there is None else _copy(engine, folder, f"{there}-{now:%Y%m%dT%H%M%S}")
        _set_mark(engine, copy)
    migrate(engine)
    _afterwards(engine, afterwards)
    return True


def _afterwards(engine: Engine, what: Callable[[Orm], None]) -> None:
    with Orm(engine) as orm, orm.begin():
        what(orm)
    _take_mark_away(engine)


def replace_all(
    engine: Engine, folder: Path, now: datetime, fill: Callable[[Engine], None],
    afterwards: Callable[[Orm], None] | None = None, *, only_first: bool = False,
) -> None:  # fmt: skip
    """Put something else in place of everything there is, and bring it up to date.

    What there was is copied first, and is put back by the next start where this is cut short.

    Args:
        engine: the database.
        folder: where copies are kept.
        now: the time, by which a copy is called.
        fill: puts it into the database, of which no table is left.
        afterwards: what is to be done once the tables are as they should be.
        only_first: whether it is only put where there is no household.

    Raises:
        NotEmpty: there is one, and nothing was changed.
        Exception: it does not go; what there was is there again, at the latest with the next
            start.
    """
    marked = _mark(engine)
    if marked is None:
        there = revision(engine)
        copy = "" if there is None else _copy(engine, folder, f"restore-{now:%Y%m%dT%H%M%S}")
        _set_mark(engine, copy)
        marked = copy
    if only_first and _lived_in(engine):
        _take_mark_away(engine)
        raise NotEmpty
    try:
        dumps.empty(engine, but=(MARK,))
        fill(engine)
        migrate(engine)
        _afterwards(engine, afterwards or (lambda _: None))
    except Exception:
        _put_back(engine, folder, marked)
        _take_mark_away(engine)
        raise


def _lived_in(engine: Engine) -> bool:
    """Whether there is a household; whoever founds one at this moment is waited for.

    From here on nobody founds one, since the mark is set (services/household/people.py).
    """
    with Orm(engine) as orm, orm.begin():
        queries.hold_all(orm)
        return lives(engine)


def _mark(engine: Engine) -> str | None:
    """The copy that an upgrade began from, empty where there was nothing; None where none began."""
    if not inspect(engine).has_table(MARK):
        return None
    with engine.connect() as connection:
        return str(connection.scalar(select(table(MARK, column("copy")))) or "")


def _set_mark(engine: Engine, copy: str) -> None:
    with engine.begin() as connection:
        connection.execute(text(f"CREATE TABLE {MARK} AS SELECT :copy AS copy"), {"copy": copy})


def _take_mark_away(engine: Engine) -> None:
    with engine.begin() as connection:
        connection.execute(text(f"DROP TABLE IF EXISTS {MARK}"))


def _copy(engine: Engine, folder: Path, name: str) -> str:
    """Everything there is, written down before anything is changed; the name of the file."""
    file = folder / f"before-{name}.sql.gz"
    dumps.write(engine, file, without=(MARK,))
    copies = sorted(folder.glob("before-*.sql.gz"), key=lambda f: f.stat().st_mtime)
    for old in copies[:-COPIES_KEPT]:
        old.unlink()
    return file.name


def _put_back(engine: Engine, folder: Path, copy: str) -> None:
    """Everything as it was before a change began that was not finished."""
    dumps.empty(engine, but=(MARK,))
    if copy:
        dumps.put_back(engine, folder / copy)


def _first_line(wrong: Exception) -> str:
    said = str(getattr(wrong, "orig", wrong)) or type(wrong).__name__
    return said.splitlines()[0].rstrip(".")
