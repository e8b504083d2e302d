"""Tables as CSV for spreadsheets: UTF-8, units in headings, ISO dates, cells that do nothing."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Iterable, Iterator, Sequence
from datetime import date, datetime
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
