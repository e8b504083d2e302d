"""What was kept, as tables: every row of the household's, none of another's."""

from __future__ import annotations

from datetime import datetime

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.services.sheets import going_out as sheets
from elderberry.store import Batch, Jar, Reading, queries
from elderberry.store.base import Owned
from tests.factories import Work, household, request

OF: dict[str, type[Owned]] = {"jars": Jar, "batches": Batch, "readings": Reading}


@pytest.fixture
def work(orm: Orm) -> Work:
    """Four sealed pints of damson juice, and another household with its own."""
    for name in ("Sallow Hill", "Over the fence"):
        made = Work(orm, household(orm, name), request())
        made.to_cooling(jars=4, part_ml=100)
        made.finish("cool-1", 116 + 13 * 60)
    return made


@pytest.mark.parametrize("what", sheets.SHEETS)
def test_every_row_of_ours_and_a_cell_to_each_heading(work: Work, what: str) -> None:
    headings, rows = sheets.sheet(work.orm, work.who, what)
    listed = [*rows]
    assert all(len(row) == len(headings) for row in listed)
    if what in OF:
        mine = queries.all_of(work.orm, work.who.household_id, OF[what])
        assert len(listed) == len(mine) > 0


def test_a_jar_says_what_it_is_in_the_kitchens_zone(work: Work) -> None:
    headings, rows = sheets.sheet(work.orm, work.who, "jars")
    first = dict(zip(headings, next(iter(rows)), strict=True))
    assert first["batch"] == work.folder.batch.code
    assert isinstance(first["filled"], datetime)
    assert first["filled"].utcoffset() is not None
    assert first["filled with [ml]"] == work.folder.jars[0].fill_ml
