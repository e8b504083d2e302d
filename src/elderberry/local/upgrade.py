"""Bringing a database up to date, so that being killed at any moment loses nothing.

MariaDB keeps what a migration changed so far when it is killed within one, and no migration begins
in its middle. So everything is copied before the first, and a mark is set; whoever starts next and
finds the mark puts the copy back and begins again. The mark is set and taken away in one statement.
"""

from __future__ import annotations

import gzip
import os
import shutil
import subprocess
from collections.abc import Callable
from datetime import datetime
from pathlib import Path

from alembic.util.exc import CommandError
from sqlalchemy import Engine, column, inspect, select, table, text
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session as Orm

from elderberry.store.database import migrate, newest, revision

MARK = "upgrade_under_way"
COPIES_KEPT = 5


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
    with Orm(engine) as orm, orm.begin():
        afterwards(orm)
    _take_mark_away(engine)
    return True


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
    folder.mkdir(parents=True, exist_ok=True)
    file, unfinished = folder / f"before-{name}.sql.gz", folder / "unfinished"
    database = str(engine.url.database)
    command = ["mariadb-dump", *_at(engine), "--single-transaction", "--no-tablespaces",
               f"--ignore-table={database}.{MARK}", database]  # fmt: skip
    with unfinished.open("wb") as out, gzip.open(out, "wb") as packed:
        with _program(command, engine, stdout=subprocess.PIPE) as dump:
            assert dump.stdout is not None
            shutil.copyfileobj(dump.stdout, packed)
        _check(dump, command)
        packed.close()
        out.flush()
        os.fsync(out.fileno())
    unfinished.rename(file)
    copies = sorted(folder.glob("before-*.sql.gz"), key=lambda f: f.stat().st_mtime)
    for old in copies[:-COPIES_KEPT]:
        old.unlink()
    return file.name


def _put_back(engine: Engine, folder: Path, copy: str) -> None:
    """Everything as it was before an upgrade began that was not finished."""
    with engine.begin() as connection:
        connection.execute(text("SET FOREIGN_KEY_CHECKS = 0"))
        for name in inspect(connection).get_table_names():
            if name != MARK:
                connection.execute(text(f"DROP TABLE `{name}`"))
        connection.execute(text("SET FOREIGN_KEY_CHECKS = 1"))
    if not copy:
        return
    command = ["mariadb", *_at(engine), str(engine.url.database)]
    with (
        gzip.open(folder / copy, "rb") as packed,
        _program(command, engine, stdin=subprocess.PIPE) as load,
    ):
        assert load.stdin is not None
        shutil.copyfileobj(packed, load.stdin)
        load.stdin.close()
    _check(load, command)


def _at(engine: Engine) -> list[str]:
    url = engine.url
    socket = url.query.get("unix_socket")
    if socket:
        return ["--no-defaults", f"--socket={socket}", f"--user={url.username}",
                "--default-character-set=utf8mb4"]  # fmt: skip
    return ["--no-defaults", f"--host={url.host or '127.0.0.1'}", f"--port={url.port or 3306}",
            f"--user={url.username or ''}", "--default-character-set=utf8mb4"]  # fmt: skip


def _program(command: list[str], engine: Engine, **pipes: int) -> subprocess.Popen[bytes]:
    environment = {**os.environ, "MYSQL_PWD": engine.url.password or ""}
    return subprocess.Popen(command, env=environment, stderr=subprocess.DEVNULL, **pipes)  # type: ignore[call-overload,no-any-return]


def _check(program: subprocess.Popen[bytes], command: list[str]) -> None:
    if program.returncode:
        raise subprocess.CalledProcessError(program.returncode, command[0])


def _first_line(wrong: Exception) -> str:
    said = str(getattr(wrong, "orig", wrong)) or type(wrong).__name__
    return said.splitlines()[0].rstrip(".")
