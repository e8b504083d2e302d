"""A household to an archive and out again: the same in every field; what is foreign is refused."""

from __future__ import annotations

import io
import json
from collections.abc import Callable, Iterator
from datetime import UTC, datetime
from pathlib import Path
from typing import Any
from zipfile import ZIP_DEFLATED, ZipFile

import pytest
from sqlalchemy import Engine, select, text
from sqlalchemy.orm import Session as Orm

from elderberry.demo import household
from elderberry.formats import archive
from elderberry.formats.archive import NoArchive
from elderberry.local.mariadb import PrivateMariadb
from elderberry.services.household import archiving
from elderberry.services.who import Who
from elderberry.store import Base, Household, Person
from elderberry.store.database import connect, migrate
from tests.conftest import CHEAP

NOW = datetime(2026, 11, 28, 6, tzinfo=UTC)
KEPT = [t for t in Base.metadata.sorted_tables if t.name not in archiving.PASSING]


@pytest.fixture(scope="session")
def lived_in(mariadb: PrivateMariadb) -> Iterator[Engine]:
    """The three seasons of the demo, and a second household that is none of its business."""
    engine = connect(mariadb.url("archived"))
    migrate(engine)
    with Orm(engine) as orm, orm.begin():
        household.load(orm, CHEAP, NOW)
        orm.add(Household(name="Over the fence", created_at=NOW))
    yield engine
    engine.dispose()


@pytest.fixture(scope="session")
def packed(lived_in: Engine) -> bytes:
    """Its archive."""
    with Orm(lived_in) as orm:
        who = Who.of(orm.scalars(select(Person).order_by(Person.id)).first())  # type: ignore[arg-type]
    out = io.BytesIO()
    archiving.write(lived_in, who, out, NOW)
    return out.getvalue()


@pytest.fixture
def empty(mariadb: PrivateMariadb) -> Iterator[Engine]:
    """An installation with nothing in it."""
    engine = connect(mariadb.url("taken_in"))
    with engine.begin() as connection:
        connection.execute(text("DROP DATABASE taken_in"))
        connection.execute(text("CREATE DATABASE taken_in"))
    engine.dispose()
    migrate(engine)
    yield engine
    engine.dispose()


def everything(engine: Engine) -> dict[str, list[tuple[Any, ...]]]:
    """Every field of the demo's household, but for passwords."""
    found = {}
    with engine.connect() as connection:
        for table in KEPT:
            columns = [c for c in table.c if (table.name, c.name) not in archiving.SECRET]
            owner = table.c.id if table.name == "household" else table.c.household_id
            rows = connection.execute(select(*columns).where(owner == 1).order_by(table.c.id))
            found[table.name] = [tuple(row) for row in rows]
    return found


def taken_in(engine: Engine, whole: bytes) -> archiving.Came:
    found = archive.read(io.BytesIO(whole))
    archiving.check(found)
    with engine.begin() as connection:
        return archiving.take_in(connection, found, CHEAP)


def test_the_same_household_comes_out_field_by_field(
    lived_in: Engine, packed: bytes, empty: Engine
) -> None:
    came = taken_in(empty, packed)
    before, after = everything(lived_in), everything(empty)
    assert {t: len(rows) for t, rows in before.items()} == {t: len(r) for t, r in after.items()}
    for name, rows in before.items():
        assert after[name] == rows, name
    assert came.rows == sum(len(rows) for rows in after.values())
    assert len(before["jar"]) > 100


def test_neither_another_household_nor_a_password_is_in_it(packed: bytes) -> None:
    with ZipFile(io.BytesIO(packed)) as whole:
        files = {n: whole.read(n).decode() for n in whole.namelist()}
    assert not {f"{t}.csv" for t in archiving.PASSING} & {*files}
    assert "password_hash" not in files["person.csv"]
    said = "".join(files.values())
    assert "Over the fence" not in said
    assert "$argon2" not in said


def test_keepers_sign_in_with_a_first_password_and_nobody_else_does(
    packed: bytes, empty: Engine
) -> None:
    came = taken_in(empty, packed)
    firsts = dict(came.keepers)
    assert firsts
    with Orm(empty) as orm:
        for person in orm.scalars(select(Person)):
            if person.role == "keeper":
                assert CHEAP.matches(person.password_hash, firsts[person.sign_in])
                assert firsts[person.sign_in] in came.in_words()
            else:
                assert person.password_hash == archiving.NOBODYS
                assert not CHEAP.matches(person.password_hash, archiving.NOBODYS)


def repacked(whole: bytes, change: Callable[[dict[str, bytes]], None], *, told: bool) -> bytes:
    """An archive with other contents; told: whether its checksums are made to fit."""
    import hashlib

    with ZipFile(io.BytesIO(whole)) as before:
        files = {n: before.read(n) for n in before.namelist()}
    change(files)
    if told:
        manifest = json.loads(files[archive.MANIFEST])
        for name in manifest["files"]:
            manifest["files"][name]["sha256"] = hashlib.sha256(files[name]).hexdigest()
        files[archive.MANIFEST] = json.dumps(manifest).encode()
    out = io.BytesIO()
    with ZipFile(out, "w", ZIP_DEFLATED) as after:
        for name, content in files.items():
            after.writestr(name, content)
    return out.getvalue()


def _one_digit(files: dict[str, bytes]) -> None:
    files["jar.csv"] = files["jar.csv"].replace(b"1", b"2", 1)


def _one_more(files: dict[str, bytes]) -> None:
    files["more.csv"] = b"id\n1\n"


def _of_another(files: dict[str, bytes]) -> None:
    head, first, rest = files["place.csv"].split(b"\n", 2)
    place = head.split(b",").index(b"household_id")
    cells = first.split(b",")
    cells[place] = b"2"
    files["place.csv"] = b"\n".join((head, b",".join(cells), rest))


def _without_lots(files: dict[str, bytes]) -> None:
    head, *rows = files["lot.csv"].split(b"\n")
    files["lot.csv"] = b"\n".join((head, *rows[1:]))
    count = len(rows) - 1
    old, new = f'"rows": {count},'.encode(), f'"rows": {count - 1},'.encode()
    head, tail = files[archive.MANIFEST].split(b'"lot.csv"')
    files[archive.MANIFEST] = head + b'"lot.csv"' + tail.replace(old, new, 1)


def _newer(files: dict[str, bytes]) -> None:
    files[archive.MANIFEST] = files[archive.MANIFEST].replace(b'"tables": "00', b'"tables": "99')


def _later_format(files: dict[str, bytes]) -> None:
    files[archive.MANIFEST] = files[archive.MANIFEST].replace(b'"version": 1', b'"version": 2')


def _foreign(files: dict[str, bytes]) -> None:
    files[archive.MANIFEST] = b'{"format": "jam", "files": {}}'


@pytest.mark.parametrize(
    ("change", "told", "says"),
    [
        (_one_digit, False, "not what it was"), (_one_more, False, "other files"),
        (_of_another, True, "another household"),
        (_without_lots, True, "speaks of a lot"), (_newer, True, "newer Elderberry"),
        (_later_format, True, "newer Elderberry"), (_foreign, False, "no archive"),
    ],
)  # fmt: skip
def test_what_is_damaged_or_foreign_is_refused_before_anything_is_written(
    packed: bytes, empty: Engine, change: Callable[[dict[str, bytes]], None], told: bool, says: str
) -> None:
    with pytest.raises(NoArchive, match=says):
        taken_in(empty, repacked(packed, change, told=told))
    with Orm(empty) as orm:
        assert orm.scalars(select(Household)).all() == []


@pytest.mark.parametrize("whole", [b"", b"jam", b"PK\x03\x04 but no more"])
def test_what_is_no_zip_is_refused(whole: bytes) -> None:
    with pytest.raises(NoArchive, match="damaged, or none at all"):
        archive.read(io.BytesIO(whole))


def test_half_of_one_is_refused(packed: bytes) -> None:
    with pytest.raises(NoArchive):
        archive.read(io.BytesIO(packed[: len(packed) // 2]))


OLD = Path(__file__).parents[1] / "formats" / "old" / "household_0018.zip"


def test_an_archive_of_an_older_elderberry_is_read(empty: Engine) -> None:
    found = archive.read(io.BytesIO(OLD.read_bytes()))
    archiving.check(found)
    assert found.counts["jar"] > 100
    with empty.begin() as connection:
        connection.execute(text("DROP DATABASE taken_in"))
        connection.execute(text("CREATE DATABASE taken_in"))
    empty.dispose()
    migrate(empty, found.about.tables)
    with empty.begin() as connection:
        came = archiving.take_in(connection, found, CHEAP)
    migrate(empty)
    with Orm(empty) as orm:
        assert orm.scalars(select(Household)).one().name == came.household
