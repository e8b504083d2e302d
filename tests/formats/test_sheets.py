"""CSV for spreadsheets: read by Python's own reader; no cell does anything."""

from __future__ import annotations

import csv
import io

from hypothesis import given
from hypothesis import strategies as st

from elderberry.formats.sheets import DOES_SOMETHING, csv_of


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
