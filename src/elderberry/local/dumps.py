"""A whole database written to a packed file, and put back from one."""

from __future__ import annotations

import gzip
import os
import shutil
import subprocess
from collections.abc import Iterable
from pathlib import Path

from sqlalchemy import Engine, inspect, text

UNFINISHED = ".unfinished"
"""Ends the name of a file that is not all there yet."""
COMPLETE = b"-- Dump completed"
"""With what the last line of a whole dump begins."""


def write(engine: Engine, file: Path, heading: str = "", without: Iterable[str] = ()) -> None:
    """Write down everything there is at one moment; the file is there whole or not at all.

    Args:
        engine: the database; others may go on with it meanwhile.
        file: where to.
        heading: a first line of its own.
        without: tables that are left out.

    Raises:
        OSError: the disk takes no more.
        CalledProcessError: the database does not give it.
    """
    file.parent.mkdir(parents=True, exist_ok=True)
    unfinished = file.with_name(file.name + UNFINISHED)
    database = str(engine.url.database)
    command = ["mariadb-dump", *_at(engine), "--single-transaction", "--no-tablespaces",
               *(f"--ignore-table={database}.{name}" for name in without), database]  # fmt: skip
    try:
        with unfinished.open("wb") as out, gzip.open(out, "wb") as packed:
            if heading:
                packed.write(f"{heading}\n".encode())
            with _program(command, engine, stdout=subprocess.PIPE) as dump:
                assert dump.stdout is not None
                try:
                    shutil.copyfileobj(dump.stdout, packed)
                except OSError:
                    dump.kill()
                    raise
            _check(dump, command)
            packed.close()
            out.flush()
            os.fsync(out.fileno())
        unfinished.rename(file)
    finally:
        unfinished.unlink(missing_ok=True)


def put_back(engine: Engine, file: Path) -> None:
    """Load a dump into a database, in place of what its tables were.

    Raises:
        OSError: the file cannot be read to its end.
        CalledProcessError: the database does not take it.
    """
    command = ["mariadb", *_at(engine), str(engine.url.database)]
    with (
        gzip.open(file, "rb") as packed,
        _program(command, engine, stdin=subprocess.PIPE) as load,
    ):
        assert load.stdin is not None
        shutil.copyfileobj(packed, load.stdin)
        load.stdin.close()
    _check(load, command)


def empty(engine: Engine, but: Iterable[str] = ()) -> None:
    """Drop every table, but for some."""
    kept = {*but}
    with engine.begin() as connection:
        connection.execute(text("SET FOREIGN_KEY_CHECKS = 0"))
        for name in inspect(connection).get_table_names():
            if name not in kept:
                connection.execute(text(f"DROP TABLE `{name}`"))
        connection.execute(text("SET FOREIGN_KEY_CHECKS = 1"))


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
