"""Tables as CSV for spreadsheets: UTF-8, units in headings, ISO dates, cells that do nothing."""

from __future__ import annotations

import csv
import io
import math
import re
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, tzinfo
from typing import Any

Cell = str | float | int | bool | date | datetime | None
DOES_SOMETHING = ("=", "+", "-", "@", "\t", "\r")
"""With what a cell begins that a spreadsheet would reckon with."""
PIECE = 1 << 16


def safe(value: Cell) -> str:
    """A value as it is written; an apostrophe before text that a spreadsheet would reckon with.

    >>> safe("=1+1"), safe(-1.5), safe(None), safe(True)
    ("'=1+1", '-1.5', '', 'yes')
    """
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, datetime):
        return value.isoformat(timespec="seconds")
    if isinstance(value, date):
        return value.isoformat()
    if isinstance(value, float):
        return f"{value:.6g}"
    words = str(value)
    return f"'{words}" if words.startswith(DOES_SOMETHING) and isinstance(value, str) else words


def csv_of(
    headings: Sequence[str], rows: Iterable[Sequence[Any]],
    cell: Callable[[Any], str] = safe, end: str = "\r\n",
) -> Iterator[str]:  # fmt: skip
    """A table in pieces, as CSV.

    Args:
        headings: of the columns, each with its unit in brackets.
        rows: as many cells as there are headings.
        cell: how a value is written; as a spreadsheet may have it where nothing is said.
        end: of a line.
    """
    text = io.StringIO(newline="")
    writer = csv.writer(text, lineterminator=end)
    writer.writerow(headings)
    for row in rows:
        writer.writerow([cell(value) for value in row])
        if text.tell() > PIECE:
            yield text.getvalue()
            text.seek(0)
            text.truncate()
    yield text.getvalue()


class CannotRead(ValueError):
    """A file or a cell that cannot be read; the message says why and what to do."""


@dataclass(frozen=True)
class Table:
    """A table as it came in: its columns with the units in their headings, and its rows.

    comma: whether a comma is its decimal point, as where semicolons part the cells.
    """

    names: tuple[str, ...]
    units: Mapping[str, str]
    rows: Sequence[tuple[int, Mapping[str, str]]]
    """Each with the line of the file that it begins on, and its cells by name."""
    comma: bool


def read(held: bytes, most: int) -> Table:
    """A table that a spreadsheet or a person has written.

    Cells parted by a comma, a semicolon or a tab; the first line names the columns, each with its
    unit in brackets. Headings are compared small. Empty lines are passed over.

    Args:
        held: the file.
        most: of so many rows at most.

    Raises:
        CannotRead: no UTF-8, no table, two columns of a name, or too many rows.

    >>> read(b"Name;Weight [kg]\\nplum;1,5\\n", 9).units
    {'weight': 'kg'}
    """
    try:
        text = held.decode("utf-8-sig")
    except UnicodeDecodeError as wrong:
        line = 1 + held[: wrong.start].count(b"\n")
        raise CannotRead(f"Line {line} is not UTF-8: save it as CSV UTF-8.") from wrong
    if "\0" in text:
        raise CannotRead("This is no table of text.")
    first = text.split("\n", 1)[0]
    mark = max(",;\t", key=first.count)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=mark)
    try:
        names, units = _headings(next(reader, []))
        rows = list(_rows(reader, names, most))
    except csv.Error as wrong:
        raise CannotRead(f"Line {reader.line_num} cannot be read: {wrong}.") from wrong
    return Table(names, units, rows, mark == ";")


def _headings(row: list[str]) -> tuple[tuple[str, ...], dict[str, str]]:
    found = [re.fullmatch(r"(.*?)\s*(?:[\[(]([^\])]*)[\])])?", c.strip()) for c in row]
    names = tuple((m[1] if m else "").lower() for m in found)
    if not any(names):
        raise CannotRead("Its first line names no columns.")
    twice = {n for n in names if n and names.count(n) > 1}
    if twice:
        raise CannotRead(f"Two columns are called {min(twice)}.")
    units = {m[1].lower(): m[2].strip() for m in found if m and m[2]}
    return names, units


def _rows(
    reader: Iterable[list[str]], names: Sequence[str], most: int
) -> Iterator[tuple[int, dict[str, str]]]:  # fmt: skip
    line, count = 2, 0
    for row in reader:
        here, line = line, reader.line_num + 1  # type: ignore[attr-defined]
        if not any(c.strip() for c in row):
            continue
        count += 1
        if count > most:
            raise CannotRead(f"Over {most} rows: cut it in two.")
        if len(row) > len(names) and any(c.strip() for c in row[len(names) :]):
            raise CannotRead(f"Line {here} has more cells than there are headings.")
        yield here, {n: _plain(c) for n, c in zip(names, row, strict=False) if n}


def _plain(cell: str) -> str:
    """What a cell says, without the apostrophe that keeps a spreadsheet from reckoning with it."""
    words = cell.strip()
    guarded = words.startswith("'") and words[1:].startswith(DOES_SOMETHING)
    return words[1:] if guarded else words


def number(cell: str, *, comma: bool = False) -> float:
    """A cell as a number.

    Raises:
        CannotRead: it is none.

    >>> number("1,5", comma=True), number("2.25")
    (1.5, 2.25)
    """
    words = cell.replace(".", "").replace(",", ".") if comma and "," in cell else cell
    try:
        found = float(words.replace(" ", ""))
    except ValueError:
        raise CannotRead(f"“{cell}” is no number.") from None
    if not math.isfinite(found):
        raise CannotRead(f"“{cell}” is no number.")
    return found


def day(cell: str) -> date:
    """A cell as a day, year-month-day; the clock of a moment is left out.

    Raises:
        CannotRead: it is none.
    """
    try:
        return datetime.fromisoformat(cell).date()
    except ValueError:
        raise CannotRead(f"“{cell}” is no day: write it as 2026-09-30.") from None


def moment(cell: str, zone: tzinfo) -> datetime:
    """A cell as a moment, of a zone where it does not say one.

    Raises:
        CannotRead: it is none.
    """
    try:
        found = datetime.fromisoformat(cell)
        return (found if found.tzinfo else found.replace(tzinfo=zone)).astimezone(UTC)
    except (ValueError, OverflowError):
        raise CannotRead(f"“{cell}” is no moment: write it as 2026-09-30 14:05.") from None


def truth(cell: str) -> bool:
    """A cell as yes or no.

    Raises:
        CannotRead: it is neither.
    """
    if cell.lower() not in YES | NO:
        raise CannotRead(f"“{cell}” is neither yes nor no.")
    return cell.lower() in YES


YES, NO = frozenset({"yes", "true", "1"}), frozenset({"no", "false", "0", ""})
