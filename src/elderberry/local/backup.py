"""Backups: everything in one file, read again once it is written; old ones thinned by age."""

from __future__ import annotations

import gzip
import re
import subprocess
import threading
import zlib
from collections.abc import Callable, Iterable
from contextlib import suppress
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import IO

from alembic.util.exc import CommandError
from sqlalchemy import Engine, inspect
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session as Orm

from elderberry.api.settings import CannotKeep
from elderberry.formats import archive
from elderberry.formats.archive import Archive, NoArchive
from elderberry.local import dumps
from elderberry.local.upgrade import NotEmpty, replace_all
from elderberry.services.household import archiving
from elderberry.services.household.archiving import Came
from elderberry.services.household.hashing import Hashing
from elderberry.store.database import known, migrate, revision

NAME = "elderberry-{:%Y%m%dT%H%M%SZ}.sql.gz"
NAMED = re.compile(r"elderberry-(\d{8}T\d{6}Z)\.sql\.gz")
HEADING = "-- Elderberry backup 1, tables of {revision}, made {made:%Y-%m-%dT%H:%M:%SZ}"
HEADED = re.compile(r"-- Elderberry backup (\d+), tables of (\S+), made (\S+)")
TABLE = re.compile(rb"CREATE TABLE `(.+?)`")
VERSION = 1
A_DAY, A_WEEK, A_MONTH = timedelta(days=7), timedelta(weeks=5), timedelta(days=365)
"""How long one a day is kept, one a week, and one a month; younger than a day, all are."""


class NoBackup(CannotKeep):
    """There is no backup in a file that can be put back; the message says why and what to do."""


@dataclass(frozen=True)
class Backup:
    """A backup that is whole: its file, the revision of its tables, when it was made, its size."""

    file: Path
    revision: str
    made: datetime
    size: int
    tables: frozenset[str]


NIGHT_HOUR = 3
"""When the nightly backup is made, by the clock of this machine."""
LOOKS_EVERY_S = 60.0


class Kept:
    """Backups of an installation in a folder of its own, every night where that is asked for.

    copies: where what is replaced is kept until the next start (upgrade.replace_all); anew: what is
    to be found anew once an archive was taken in.
    """

    def __init__(
        self, engine: Engine, folder: Path, copies: Path | None = None,
        anew: Callable[[Orm], None] | None = None,
    ) -> None:  # fmt: skip
        self.engine, self.folder = engine, folder
        self._copies, self._anew = copies or folder, anew
        self._asked = folder / "nightly"
        self._one = threading.Lock()
        self._over = threading.Event()

    @property
    def nightly(self) -> bool:
        """Whether one is made every night."""
        return self._asked.exists()

    def every_night(self, *, on: bool) -> None:
        """Make one every night, or no longer."""
        self.folder.mkdir(parents=True, exist_ok=True)
        if on:
            self._asked.touch()
        else:
            self._asked.unlink(missing_ok=True)

    def newest(self) -> datetime | None:
        """When the newest was made."""
        file = newest_in(self.folder)
        return made_at(file) if file else None

    def make(self, now: datetime) -> None:
        """Make one, and thin the old ones.

        Raises:
            NoBackup: it could not be made.
        """
        with self._one:
            into(self.folder, self.engine, now)

    def take_in(self, file: IO[bytes], now: datetime, hashing: Hashing) -> Came:
        """Put the household of an archive where there is none yet.

        Raises:
            CannotKeep: the file is no archive that can be taken in, or there is a household here.
        """
        with self._one:
            try:
                found = archive.read(file)
                archiving.check(found)
            except NoArchive as wrong:
                raise CannotKeep(str(wrong)) from wrong
            return self.put_there(found, now, hashing)

    def put_there(self, found: Archive, now: datetime, hashing: Hashing) -> Came:
        """Put a household there that was looked through, where there is none yet."""
        try:
            return _filled(
                self.engine, self._copies, found, now, hashing, self._anew, only_first=True
            )
        except NotEmpty as wrong:
            raise CannotKeep("There is a household here already. Nothing was changed.") from wrong
        except (DBAPIError, CommandError, OSError, subprocess.SubprocessError) as wrong:
            raise CannotKeep("It could not be put there. Nothing is there, as before.") from wrong

    def due(self, now: datetime) -> bool:
        """Whether tonight's is to be made: asked for, its hour over, and none made since."""
        local = now.astimezone()
        hour = local.replace(hour=NIGHT_HOUR, minute=0, second=0, microsecond=0)
        night = hour if local >= hour else hour - timedelta(days=1)
        newest = self.newest()
        return self.nightly and (newest is None or newest < night)

    def begin(self) -> None:
        """Look every minute whether one is due, until it ends."""
        threading.Thread(target=self._look, daemon=True, name="nightly-backup").start()

    def end(self) -> None:
        """Look no longer."""
        self._over.set()

    def _look(self) -> None:
        while not self._over.wait(LOOKS_EVERY_S):
            now = datetime.now(UTC)
            if self.due(now):
                with suppress(NoBackup):  # the page says when the newest was made
                    self.make(now)


def make(engine: Engine, file: Path, now: datetime) -> Backup:
    """Write everything into a file, and read it to its end again.

    Raises:
        NoBackup: it could not be written whole; what else lies there is as it was.
    """
    heading = HEADING.format(revision=revision(engine), made=now.astimezone(UTC))
    try:
        dumps.write(engine, file, heading)
    except (OSError, subprocess.SubprocessError) as wrong:
        why = wrong.strerror if isinstance(wrong, OSError) else "the database did not answer"
        raise NoBackup(
            f"No backup was made: {why}. Your data and older backups are as they were. Make room, "
            "or name another file, and try again."
        ) from wrong
    made = read(file)
    missing = {*inspect(engine).get_table_names()} - made.tables
    if missing:
        file.unlink()
        raise NoBackup(
            f"The backup lacked {', '.join(sorted(missing))} and was thrown away. Try again."
        )
    return made


def read(file: Path) -> Backup:
    """A backup, read to its end.

    Raises:
        NoBackup: it is none, it is damaged, or a newer Elderberry made it.
    """
    first, last, tables = "", b"", set[str]()
    try:
        with gzip.open(file, "rb") as packed:
            first = packed.readline(400).decode(errors="replace")
            for line in packed:
                last = line.strip() or last
                if made := TABLE.match(line):
                    tables.add(made[1].decode())
        size = file.stat().st_size
    except FileNotFoundError as gone:
        raise NoBackup(f"There is no file {file}. Nothing was changed.") from gone
    except (OSError, EOFError, zlib.error) as wrong:
        raise NoBackup(
            f"{file} is damaged: it cannot be read to its end. Nothing was changed. Take another."
        ) from wrong
    found = HEADED.match(first)
    if not found:
        raise NoBackup(f"{file} is no backup of Elderberry. Nothing was changed.")
    if not last.startswith(dumps.COMPLETE):
        raise NoBackup(f"{file} stops half-way. Nothing was changed. Take another.")
    if int(found[1]) > VERSION or not known(found[2]):
        raise NoBackup(
            f"A newer Elderberry made {file}. Nothing was changed. Put it back with that one."
        )
    return Backup(file, found[2], datetime.fromisoformat(found[3]), size, frozenset(tables))


def restore(
    engine: Engine, kept: Path, file: Path, now: datetime,
    afterwards: Callable[[Orm], None] | None = None,
) -> Backup:  # fmt: skip
    """Put a backup in place of everything there is; what there was is copied into a folder first.

    Raises:
        NoBackup: the file is none, or it could not be put back; what there was is there again.
    """
    found = read(file)
    try:
        replace_all(engine, kept, now, lambda e: dumps.put_back(e, file), afterwards)
    except (DBAPIError, CommandError, OSError, subprocess.SubprocessError) as wrong:
        raise NoBackup(
            f"{file} could not be put back. What there was is there again. See that the disk has "
            "room, then try again."
        ) from wrong
    return found


def take_in(
    engine: Engine, kept: Path, file: Path, now: datetime, hashing: Hashing,
    afterwards: Callable[[Orm], None] | None = None,
) -> Came:  # fmt: skip
    """Put the household of an archive into an installation, in place of what there is.

    Raises:
        NoArchive: the file is none that can be taken in; what there was is there as it was.
        NoBackup: it could not be put there; what there was is there again.
    """
    try:
        with file.open("rb") as opened:
            found = archive.read(opened)
            archiving.check(found)
            return _filled(engine, kept, found, now, hashing, afterwards)
    except FileNotFoundError as gone:
        raise NoBackup(f"There is no file {file}. Nothing was changed.") from gone
    except (DBAPIError, CommandError, OSError, subprocess.SubprocessError) as wrong:
        raise NoBackup(f"{file} could not be put there. What there was is there again.") from wrong


def _filled(
    engine: Engine, kept: Path, found: Archive, now: datetime, hashing: Hashing,
    afterwards: Callable[[Orm], None] | None, *, only_first: bool = False,
) -> Came:  # fmt: skip
    """The household of an archive in the place of what there is, or only where there is none."""
    came: list[Came] = []

    def fill(empty: Engine) -> None:
        migrate(empty, found.about.tables)
        with empty.begin() as connection:
            came.append(archiving.take_in(connection, found, hashing))

    replace_all(engine, kept, now, fill, afterwards, only_first=only_first)
    return came[0]


def newest_in(folder: Path) -> Path | None:
    """The file of the newest backup of a folder, by its name."""
    return max((f for f, _ in _dated(folder)), default=None)


def made_at(file: Path) -> datetime | None:
    """When a backup was made, as the name of its file says."""
    found = NAMED.fullmatch(file.name)
    return datetime.strptime(found[1], "%Y%m%dT%H%M%S%z") if found else None


def into(folder: Path, engine: Engine, now: datetime) -> Backup:
    """Make a backup in a folder of them, and thin the old ones.

    Raises:
        NoBackup: it could not be made.
    """
    for left in folder.glob(f"*{dumps.UNFINISHED}"):
        left.unlink()
    made = make(engine, folder / NAME.format(now.astimezone(UTC)), now)
    for old in to_thin((at for _, at in _dated(folder)), now):
        (folder / NAME.format(old)).unlink(missing_ok=True)
    return made


def to_thin(made: Iterable[datetime], now: datetime) -> set[datetime]:
    """The backups that are no longer needed, by when each was made.

    Of the last day all are kept; then the newest of each day for a week, of each week for five, of
    each month for a year; the newest of all always.

    >>> at = [datetime(2026, 9, 1, hour, tzinfo=UTC) for hour in (3, 9)]
    >>> [gone.hour for gone in to_thin(at, datetime(2026, 9, 4, tzinfo=UTC))]
    [3]
    """
    kept: set[tuple[str, ...]] = set()
    gone = set[datetime]()
    for place, at in enumerate(sorted(made, reverse=True)):
        old = now - at
        if old <= A_DAY:
            slot = ("day", f"{at:%Y-%m-%d}")
        elif old <= A_WEEK:
            slot = ("week", f"{at:%G-%V}")
        else:
            slot = ("month", f"{at:%Y-%m}")
        young = place == 0 or old <= timedelta(days=1)
        if not young and (slot in kept or old > A_MONTH):
            gone.add(at)
        kept.add(slot)
    return gone


def _dated(folder: Path) -> list[tuple[Path, datetime]]:
    found = ((f, made_at(f)) for f in folder.glob("elderberry-*.sql.gz"))
    return [(f, at) for f, at in found if at is not None]
