"""Backups: whole or not at all, put back whole or not at all, thinned by their age."""

from __future__ import annotations

import errno
import gzip
import io
import os
import subprocess
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any, NoReturn

import pytest
from hypothesis import given
from hypothesis import strategies as st
from sqlalchemy import Engine, inspect, text
from sqlalchemy.orm import Session as Orm

from elderberry.api.settings import CannotKeep
from elderberry.local import backup, dumps
from elderberry.local.backup import NoBackup
from elderberry.local.upgrade import bring_up
from elderberry.services.errors import Conflict
from elderberry.services.household import archiving, people
from elderberry.store.database import migrate, newest, revision
from elderberry.trial.installation import Installation, in_memory
from tests.conftest import CHEAP
from tests.local.databases import Fresh, counts, load_old

ROOT = Path(__file__).resolve().parents[2]
NOW = datetime(2026, 11, 28, 3, tzinfo=UTC)
TABLES = ("batch", "lot", "operation", "reading", "event", "jar", "person", "household")


class Killed(BaseException):
    """The power went."""


@pytest.fixture
def lived_in(fresh: Fresh) -> Engine:
    """An installation with a household in it."""
    engine = fresh()
    load_old(engine)
    migrate(engine)
    return engine


def rename(engine: Engine, name: str) -> None:
    with engine.begin() as connection:
        connection.execute(text("UPDATE household SET name = :name"), {"name": name})


def name_of(engine: Engine) -> str:
    with engine.connect() as connection:
        return str(connection.scalar(text("SELECT name FROM household LIMIT 1")))


def test_what_was_backed_up_comes_back_as_it_was(lived_in: Engine, tmp_path: Path) -> None:
    before = counts(lived_in, TABLES)
    rename(lived_in, "Sallow Hill «as it was»")
    made = backup.make(lived_in, tmp_path / "all.sql.gz", NOW)
    assert backup.read(made.file) == made
    assert made.made == NOW
    rename(lived_in, "spoiled")
    with lived_in.begin() as connection:
        connection.execute(text("DELETE FROM event"))
    backup.restore(lived_in, tmp_path / "kept", made.file, NOW)
    assert name_of(lived_in) == "Sallow Hill «as it was»"
    assert counts(lived_in, TABLES) == before
    kept = [*(tmp_path / "kept").glob("before-restore-*.sql.gz")]
    assert len(kept) == 1, "what stood there before is kept as well"
    assert b"spoiled" in gzip.decompress(kept[0].read_bytes())


def test_an_old_backup_is_brought_up_to_date(fresh: Fresh, tmp_path: Path) -> None:
    engine = fresh()
    there = load_old(engine)
    made = backup.make(engine, tmp_path / "old.sql.gz", NOW)
    assert made.revision == "0004"
    engine = fresh()
    backup.restore(engine, tmp_path / "kept", made.file, NOW)
    assert bring_up(engine, tmp_path / "kept", NOW) is False
    assert counts(engine, tuple(there)) == there


def _cut(whole: bytes) -> bytes:
    return whole[: len(whole) // 2]


def _flipped(whole: bytes) -> bytes:
    place = len(whole) // 2
    return whole[:place] + bytes([whole[place] ^ 0xFF]) + whole[place + 1 :]


def _unended(whole: bytes) -> bytes:
    return gzip.compress(gzip.decompress(whole)[:-400])


def _newer(whole: bytes) -> bytes:
    first, rest = gzip.decompress(whole).split(b"\n", 1)
    return gzip.compress(first.replace(b"tables of 00", b"tables of 99") + b"\n" + rest)


@pytest.mark.parametrize(
    ("spoil", "says"),
    [
        (_cut, "damaged"), (_flipped, "damaged|no backup"), (_unended, "half-way"),
        (_newer, "newer Elderberry"), (lambda _: gzip.compress(b"SELECT 1;"), "no backup"),
        (lambda _: b"jam", "damaged"),
    ],
)  # fmt: skip
def test_what_is_no_whole_backup_changes_nothing(
    lived_in: Engine, tmp_path: Path, spoil: Any, says: str
) -> None:
    made = backup.make(lived_in, tmp_path / "all.sql.gz", NOW)
    made.file.write_bytes(spoil(made.file.read_bytes()))
    rename(lived_in, "living")
    with pytest.raises(NoBackup, match=says):
        backup.restore(lived_in, tmp_path / "kept", made.file, NOW)
    assert name_of(lived_in) == "living"
    assert not (tmp_path / "kept").exists()


def test_a_full_disk_leaves_older_backups_and_no_half_one(
    lived_in: Engine, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    older = backup.into(tmp_path, lived_in, NOW - timedelta(days=1))

    def full(*_: object) -> NoReturn:
        raise OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))

    monkeypatch.setattr("elderberry.local.dumps.shutil.copyfileobj", full)
    with pytest.raises(NoBackup, match=r"No space left.*older backups are as they were"):
        backup.into(tmp_path, lived_in, NOW)
    assert [*tmp_path.iterdir()] == [older.file]


def test_a_restore_that_is_killed_leaves_what_there_was(
    lived_in: Engine, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    made = backup.make(lived_in, tmp_path / "all.sql.gz", NOW)
    rename(lived_in, "living")
    there = counts(lived_in, TABLES)

    def killed(*_: object) -> NoReturn:
        raise Killed

    with monkeypatch.context() as patched:
        patched.setattr(dumps, "put_back", killed)
        with pytest.raises(Killed):
            backup.restore(lived_in, tmp_path / "kept", made.file, NOW)
    assert bring_up(lived_in, tmp_path / "kept", NOW)
    assert name_of(lived_in) == "living"
    assert counts(lived_in, TABLES) == there


def test_a_restore_that_fails_says_so_and_puts_back(
    lived_in: Engine, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    made = backup.make(lived_in, tmp_path / "all.sql.gz", NOW)
    rename(lived_in, "living")
    real = dumps.put_back
    tries: list[Path] = []

    def failing(engine: Engine, file: Path) -> None:
        tries.append(file)
        if len(tries) == 1:
            raise subprocess.CalledProcessError(1, "mariadb")
        real(engine, file)

    monkeypatch.setattr(dumps, "put_back", failing)
    with pytest.raises(NoBackup, match="What there was is there again"):
        backup.restore(lived_in, tmp_path / "kept", made.file, NOW)
    assert name_of(lived_in) == "living"


def test_what_a_killed_backup_left_is_swept_up(lived_in: Engine, tmp_path: Path) -> None:
    half = tmp_path / f"elderberry-20261127T030000Z.sql.gz{dumps.UNFINISHED}"
    half.write_bytes(b"half")
    made = backup.into(tmp_path, lived_in, NOW)
    assert [*tmp_path.iterdir()] == [made.file]
    assert backup.newest_in(tmp_path) == made.file


def test_two_years_of_nights_leave_a_few_and_reach_back_a_year() -> None:
    there: set[datetime] = set()
    for night in range(730):
        now = NOW + timedelta(days=night)
        there.add(now)
        there -= backup.to_thin(there, now)
    ages = sorted((now - at).days for at in there)
    assert ages[:7] == [*range(7)]
    assert len(ages) <= 27
    assert ages[-1] > 300


@given(st.sets(st.datetimes(datetime(2020, 1, 1), datetime(2026, 11, 28)), min_size=1))
def test_the_newest_is_never_thinned(made: set[datetime]) -> None:
    there = {at.replace(tzinfo=UTC) for at in made}
    gone = backup.to_thin(there, NOW)
    assert max(there) not in gone
    assert gone < there
    assert backup.to_thin(there - gone, NOW) == set()


@pytest.fixture
def served() -> Iterator[Installation]:
    """Somebody's own installation, running."""
    running = Installation(in_memory(), "serve")
    running.start()
    yield running
    running.stop()


def elderberry(home: Path, *arguments: str) -> subprocess.CompletedProcess[str]:
    environment = {k: v for k, v in os.environ.items() if k != "DATABASE_URL"}
    return subprocess.run(
        [ROOT / "elderberry", *arguments], capture_output=True, text=True, check=False,
        env={**environment, "ELDERBERRY_HOME": str(home)},
    )  # fmt: skip


def test_by_command_while_it_runs_and_into_another_folder(
    served: Installation, tmp_path: Path
) -> None:
    with served.engine() as engine, engine.begin() as connection:
        connection.execute(text(
            "INSERT INTO household (name, created_at) VALUES ('The lean-to', UTC_TIMESTAMP(6))"
        ))  # fmt: skip
    file = tmp_path / "all.sql.gz"
    made = elderberry(served.home, "backup", str(file))
    assert made.returncode == 0, made.stderr
    assert "is whole" in made.stdout
    refused = elderberry(served.home, "restore", str(file))
    assert refused.returncode == 1
    assert "already running" in refused.stderr
    served.stop()
    refused = elderberry(served.home, "restore", str(file))
    assert refused.returncode == 1
    assert "Nothing was changed" in refused.stderr
    there = tmp_path / "moved"
    moved = elderberry(served.home, "restore", str(file), "--into", str(there))
    assert moved.returncode == 0, moved.stderr
    assert f"ELDERBERRY_HOME={there} ./elderberry serve" in moved.stdout
    new = Installation(there, "serve")
    new.start()
    try:
        with new.engine() as engine:
            assert name_of(engine) == "The lean-to"
    finally:
        new.stop()
        served.start()


def test_by_command_there_is_nothing_yet(tmp_path: Path) -> None:
    said = elderberry(tmp_path / "new", "backup")
    assert said.returncode == 1
    assert "There is nothing in" in said.stderr


def test_a_households_archive_is_put_where_nothing_is_yet(tmp_path: Path) -> None:
    there = tmp_path / "new"
    zipped = ROOT / "tests" / "formats" / "old" / "household_0018.zip"
    came = elderberry(there, "restore", str(zipped))
    assert came.returncode == 0, came.stderr
    assert "Sallow Hill Allotments is here" in came.stdout
    assert 'sign in as oda with "' in came.stdout
    again = elderberry(there, "restore", str(zipped))
    assert again.returncode == 1
    assert "There is a household here already" in again.stderr
    broken = tmp_path / "broken.zip"
    broken.write_bytes(zipped.read_bytes()[:5000])
    refused = elderberry(there, "restore", str(broken), "--over")
    assert refused.returncode == 1
    assert "Nothing was changed" in refused.stderr
    over = elderberry(there, "restore", str(zipped), "--over")
    assert over.returncode == 0, over.stderr


ARCHIVE = ROOT / "tests" / "formats" / "old" / "household_0018.zip"


def test_an_archive_is_taken_in_where_nobody_lives_yet(fresh: Fresh, tmp_path: Path) -> None:
    engine = fresh()
    migrate(engine)
    kept = backup.Kept(engine, tmp_path)
    with pytest.raises(CannotKeep, match="Nothing was changed"):
        kept.take_in(io.BytesIO(ARCHIVE.read_bytes()[:5000]), NOW, CHEAP)
    came = kept.take_in(io.BytesIO(ARCHIVE.read_bytes()), NOW, CHEAP)
    assert came.keepers
    assert name_of(engine) == came.household
    assert revision(engine) == newest()
    before = counts(engine, TABLES)
    with pytest.raises(CannotKeep, match="There is a household here already"):
        kept.take_in(io.BytesIO(ARCHIVE.read_bytes()), NOW, CHEAP)
    assert counts(engine, TABLES) == before
    assert not inspect(engine).has_table("upgrade_under_way")


def test_nobody_founds_a_household_while_an_archive_comes(fresh: Fresh) -> None:
    engine = fresh()
    migrate(engine)
    with engine.begin() as connection:
        connection.execute(text("CREATE TABLE upgrade_under_way AS SELECT '' AS copy"))
    new = people.NewHousehold("Lean-to", 100.0, "Europe/Vienna", "Wenna", "wenna", "correct horse")
    with Orm(engine) as orm, orm.begin(), pytest.raises(Conflict, match="being taken in"):
        people.found_household(orm, new, CHEAP, NOW)


def test_an_archive_that_fails_half_way_leaves_nothing(
    fresh: Fresh, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    engine = fresh()
    migrate(engine)

    def full(*_: object, **__: object) -> NoReturn:
        raise OSError(errno.ENOSPC, "no room")

    monkeypatch.setattr(archiving, "take_in", full)
    with pytest.raises(CannotKeep, match="Nothing is there"):
        backup.Kept(engine, tmp_path).take_in(io.BytesIO(ARCHIVE.read_bytes()), NOW, CHEAP)
    assert counts(engine, ("household",)) == {"household": 0}
