"""A whole household as one zip: a CSV file a table, what its columns are, checksums, a readme.

The cells are exact, so that the same household comes of them again: they are not made safe for a
spreadsheet, as the files under "as CSV" are.
"""

from __future__ import annotations

import csv
import hashlib
import io
import json
import zlib
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import asdict, dataclass
from datetime import date, datetime
from typing import IO, Any
from zipfile import ZIP_DEFLATED, BadZipFile, ZipFile

from elderberry.formats.sheets import csv_of

FORMAT, VERSION = "elderberry household", 1
NULL = "\\N"
"""A cell that holds nothing; text that begins with a backslash has another one before it."""
MANIFEST, SCHEMA, README = "manifest.json", "schema.json", "readme.txt"
LARGEST_FILE = 4 * 10**9
"""Bytes that a file of it may unpack to."""


class NoArchive(Exception):
    """A file is no archive that can be read; the message says why and what to do."""


@dataclass(frozen=True)
class Column:
    """A column: its name, its type in words, whether it may hold nothing."""

    name: str
    type: str
    optional: bool


@dataclass(frozen=True)
class Table:
    """A table: its name, what a row of it is, and its columns."""

    name: str
    about: str
    columns: tuple[Column, ...]


@dataclass(frozen=True)
class About:
    """Whose it is, when it was made, and the revision of its tables."""

    household: str
    made: str
    tables: str


@dataclass(frozen=True)
class Archive:
    """An archive whose every byte was checked: whose it is, and its tables in order."""

    about: About
    columns: Mapping[str, tuple[str, ...]]
    counts: Mapping[str, int]
    file: IO[bytes]

    def rows(self, table: str) -> Iterator[list[str | None]]:
        """The rows of a table, in the order of its columns."""
        with ZipFile(self.file) as packed, packed.open(f"{table}.csv") as raw:
            found = csv.reader(io.TextIOWrapper(raw, encoding="utf-8", newline=""))
            next(found)
            for row in found:
                yield [read_cell(cell) for cell in row]


def write(
    out: IO[bytes], about: About, tables: Iterable[tuple[Table, Iterable[Sequence[Any]]]]
) -> None:
    """Write an archive.

    Args:
        out: where to; written from its beginning.
        about: whose it is.
        tables: every table with its rows, in an order in which they can be put back.

    Raises:
        OSError: no room for it.
    """
    files: dict[str, dict[str, Any]] = {}
    schema: list[dict[str, Any]] = []
    with ZipFile(out, "w", ZIP_DEFLATED) as packed:
        for table, rows in tables:
            name = f"{table.name}.csv"
            with packed.open(name, "w", force_zip64=True) as raw:
                files[name] = _written(raw, table, rows)
            schema.append(asdict(table))
        for name, words in ((SCHEMA, _told(schema)), (README, readme(about))):
            packed.writestr(name, words)
            files[name] = {"sha256": hashlib.sha256(words.encode()).hexdigest()}
        told = {"format": FORMAT, "version": VERSION, **asdict(about), "files": files}
        packed.writestr(MANIFEST, _told(told))


def _written(raw: IO[bytes], table: Table, rows: Iterable[Sequence[Any]]) -> dict[str, Any]:
    """Write a table; how many rows it has, and its checksum."""
    told, count = hashlib.sha256(), 0

    def counted() -> Iterator[Sequence[Any]]:
        nonlocal count
        for row in rows:
            count += 1
            yield row

    for text in csv_of([c.name for c in table.columns], counted(), write_cell, "\n"):
        piece = text.encode("utf-8")
        told.update(piece)
        raw.write(piece)
    return {"rows": count, "sha256": told.hexdigest()}


def write_cell(value: Any) -> str:
    """A value as it is written.

    >>> write_cell(None), write_cell("\\\\N"), write_cell(0.1), write_cell(True)
    ('\\\\N', '\\\\\\\\N', '0.1', '1')
    """
    if value is None:
        return NULL
    if isinstance(value, bool):
        return str(int(value))
    if isinstance(value, datetime):
        return value.isoformat(sep=" ", timespec="microseconds")
    if isinstance(value, date):
        return value.isoformat()
    words = repr(value) if isinstance(value, float) else str(value)
    return f"\\{words}" if words.startswith("\\") else words


def read_cell(cell: str) -> str | None:
    """What stood in a cell.

    >>> read_cell("\\\\N"), read_cell("\\\\\\\\N"), read_cell("")
    (None, '\\\\N', '')
    """
    if cell == NULL:
        return None
    return cell[1:] if cell.startswith("\\") else cell


def read(file: IO[bytes]) -> Archive:
    """An archive, once every byte of it was checked.

    Raises:
        NoArchive: it is none, or damaged, or a newer Elderberry made it.
    """
    try:
        with ZipFile(file) as packed:
            manifest = _manifest(packed)
            files = manifest["files"]
            if {i.filename for i in packed.infolist()} != {*files, MANIFEST}:
                raise NoArchive(f"It holds other files than its list says. {AS_IT_WAS}")
            for name, told in files.items():
                _check(packed, name, told)
            schema = json.loads(packed.read(SCHEMA))
        about = About(*(str(manifest[k]) for k in ("household", "made", "tables")))
        columns = {t["name"]: tuple(c["name"] for c in t["columns"]) for t in schema}
        counts = {name: int(files[f"{name}.csv"]["rows"]) for name in columns}
    except (BadZipFile, zlib.error, EOFError, KeyError, TypeError, ValueError, OSError) as wrong:
        raise NoArchive(f"This archive is damaged, or none at all. {AS_IT_WAS}") from wrong
    return Archive(about, columns, counts, file)


AS_IT_WAS = "Nothing was changed. Take another."


def _manifest(packed: ZipFile) -> dict[str, Any]:
    found = json.loads(packed.read(MANIFEST))
    if not isinstance(found, dict) or found.get("format") != FORMAT:
        raise NoArchive(f"This is no archive of a household of Elderberry. {AS_IT_WAS}")
    if int(found["version"]) > VERSION:
        raise NoArchive("A newer Elderberry made this archive. Nothing was changed. Use that one.")
    return found


def _check(packed: ZipFile, name: str, told: Mapping[str, Any]) -> None:
    """Raises NoArchive where a file is not what it was when it was written."""
    if packed.getinfo(name).file_size > LARGEST_FILE:
        raise NoArchive(f"{name} is larger than any household's. {AS_IT_WAS}")
    found = hashlib.sha256()
    with packed.open(name) as raw:
        while piece := raw.read(1 << 20):
            found.update(piece)
    if found.hexdigest() != told["sha256"]:
        raise NoArchive(f"{name} is not what it was when it was written. {AS_IT_WAS}")


def _told(what: object) -> str:
    return json.dumps(what, indent=1, ensure_ascii=False) + "\n"


def readme(about: About) -> str:
    """What it is, in plain words."""
    return f"""Everything that {about.household} has kept in Elderberry, as it was on {about.made}.

Each .csv file is a table: the first line names its columns, every other line is a row. They are
UTF-8, cells are parted by commas. Moments are in UTC, days as year-month-day; masses in grams,
volumes in millilitres unless a column says litres, temperatures in degrees Celsius. {NULL} stands
where nothing is known; text that begins with a backslash has one more before it.

schema.json says what each table and column is. manifest.json lists the files with their SHA-256
checksums. Passwords are not in here.

To have all of it in Elderberry again, on another machine or this one: where nothing is yet, the
first page takes it in; anywhere else,

  ./elderberry restore this-file.zip
"""
