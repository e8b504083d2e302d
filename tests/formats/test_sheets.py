"""CSV for spreadsheets: read by Python's own reader; no cell does anything."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable
from datetime import UTC

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.formats.sheets import (
    DOES_SOMETHING,
    CannotRead,
    csv_of,
    day,
    moment,
    number,
    read,
    safe,
    truth,
)


@given(st.lists(st.lists(st.text(max_size=30), min_size=2, max_size=2), max_size=20))
def test_words_come_back_and_none_of_them_is_a_formula(rows: list[list[str]]) -> None:
    written = "".join(csv_of(("a [ml]", "b"), rows))
    head, *found = csv.reader(io.StringIO(written, newline=""))
    assert head == ["a [ml]", "b"]
    assert len(found) == len(rows)
    for was, now in zip(rows, found, strict=True):
        for before, after in zip(was, now, strict=True):
            assert not after.startswith(DOES_SOMETHING)
            assert after in {before, f"'{before}"}


def test_a_long_table_comes_in_pieces() -> None:
    pieces = [*csv_of(("n",), ((n,) for n in range(50_000)))]
    assert len(pieces) > 2
    assert "".join(pieces).count("\r\n") == 50_001


@given(st.lists(st.lists(st.text(max_size=20), min_size=2, max_size=2), max_size=12))
def test_what_was_written_is_read_again(rows: list[list[str]]) -> None:
    written = "".join(csv_of(("One [ml]", "two"), rows)).encode()
    if b"\0" in written:
        return
    table = read(written, 100)
    assert table.names == ("one", "two")
    assert table.units == {"one": "ml"}
    kept = [r for r in rows if any(safe(c).strip() for c in r)]
    assert [[c["one"], c["two"]] for _, c in table.rows] == [[_plain(c) for c in r] for r in kept]


def _plain(cell: str) -> str:
    """A cell without the room around it, as every cell is read; the guard is off again."""
    words = safe(cell).strip()
    return words[1:] if words[:1] == "'" and words[1:].startswith(DOES_SOMETHING) else words


@pytest.mark.parametrize(
    ("held", "why"),
    [
        (b"", "no columns"), (b",,\n1,2,3", "no columns"), (b"a,A\n1,2", "Two columns"),
        (b"a,b\n1,2,3", "Line 2 has more cells"), (b"a\n\xff\n", "Line 2 is not UTF-8"),
        (b"a\nb\n" * 9, "Over 5 rows"), (b"a\x00b\n", "no table of text"),
    ],
)  # fmt: skip
def test_what_is_no_table_is_refused_in_words(held: bytes, why: str) -> None:
    with pytest.raises(CannotRead, match=why):
        read(held, 5)


def test_lines_are_those_of_the_file() -> None:
    table = read(b'\xef\xbb\xbfname;kg\r\n"two\r\nlines";1,5\r\n\r\nplum;2\r\n', 9)
    assert [(line, cells["kg"]) for line, cells in table.rows] == [(2, "1,5"), (5, "2")]
    assert table.comma
    assert number("1.234,5", comma=True) == 1234.5


@pytest.mark.parametrize(
    ("how", "cell"),
    [
        (number, "nan"), (number, "1e999"), (number, "a"), (day, "31.12.2025"),
        (day, "2025-02-30"), (truth, "perhaps"), (lambda c: moment(c, UTC), "noon"),
    ],
)  # fmt: skip
def test_what_a_cell_is_not_is_said(how: Callable[[str], object], cell: str) -> None:
    with pytest.raises(CannotRead, match="“"):
        how(cell)
