"""An upgrade that is killed at any moment is finished by the next start, and nothing is lost."""

from __future__ import annotations

import gzip
from datetime import UTC, datetime
from pathlib import Path

import pytest
from sqlalchemy import Engine, event, inspect, text

from elderberry.local.upgrade import MARK, UpgradeFailed, bring_up
from elderberry.store import Base
from elderberry.store.database import migrate, newest, revision
from tests.local.databases import Fresh, counts, load_old

NOW = datetime(2026, 11, 27, 10, tzinfo=UTC)
CHANGES = {"CREATE", "ALTER", "DROP", "UPDATE", "INSERT", "DELETE"}


class Killed(BaseException):
    """The power went."""


def killed_at(engine: Engine, statement: int, folder: Path) -> bool:
    """Bring it up, and die before so manieth change; False where there were not so many."""
    seen = 0

    def count(_c: object, _u: object, words: str, *_: object) -> None:
        nonlocal seen
        if words.split(maxsplit=1)[0].upper() in CHANGES:
            seen += 1
            if seen == statement:
                raise Killed

    event.listen(engine, "before_cursor_execute", count)
    try:
        bring_up(engine, folder, NOW)
    except Killed:
        return True
    finally:
        event.remove(engine, "before_cursor_execute", count)
        engine.dispose()
    return False


def whole(engine: Engine) -> None:
    """It stands at the newest migration, with every table and nothing left over."""
    assert revision(engine) == newest()
    there = set(inspect(engine).get_table_names())
    assert there == {*Base.metadata.tables, "alembic_version"}


@pytest.mark.parametrize("statement", [1, 2, 9, 40, 75])
def test_a_first_start_is_finished(fresh: Fresh, tmp_path: Path, statement: int) -> None:
    engine = fresh()
    assert killed_at(engine, statement, tmp_path)
    assert bring_up(engine, tmp_path, NOW)
    whole(engine)
    assert not bring_up(engine, tmp_path, NOW)


@pytest.mark.parametrize("statement", [1, 3, 12, 60])
def test_an_upgrade_is_finished_and_nothing_is_lost(
    fresh: Fresh, tmp_path: Path, statement: int
) -> None:
    engine = fresh()
    before = load_old(engine)
    assert killed_at(engine, statement, tmp_path)
    killed_at(engine, statement + 7, tmp_path)
    assert bring_up(engine, tmp_path, NOW)
    whole(engine)
    assert counts(engine, tuple(before)) == before
    assert [f.name for f in tmp_path.iterdir()] == ["before-0004-20261127T100000.sql.gz"]


def test_what_was_there_is_kept_before_it_is_changed(fresh: Fresh, tmp_path: Path) -> None:
    engine = fresh()
    load_old(engine)
    assert bring_up(engine, tmp_path, NOW)
    kept = gzip.decompress(next(tmp_path.iterdir()).read_bytes()).decode()
    assert "Sallow Hill" in kept
    assert MARK not in kept


def test_where_it_cannot_be_kept_nothing_is_begun(fresh: Fresh, tmp_path: Path) -> None:
    engine = fresh()
    load_old(engine)
    in_the_way = tmp_path / "kept"
    in_the_way.write_text("a file where the folder should be")
    with pytest.raises(UpgradeFailed, match="Nothing is lost"):
        bring_up(engine, in_the_way, NOW)
    assert revision(engine) == "0004"


def test_what_a_newer_elderberry_made_is_left_alone(fresh: Fresh, tmp_path: Path) -> None:
    engine = fresh()
    migrate(engine)
    with engine.begin() as connection:
        connection.execute(text("UPDATE alembic_version SET version_num = '9999'"))
    with pytest.raises(UpgradeFailed, match="could not be brought up to date"):
        bring_up(engine, tmp_path, NOW)
