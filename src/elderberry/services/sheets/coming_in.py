"""A table that comes in: looked through first, row by row, then all of it or nothing."""

from __future__ import annotations

import hashlib
from collections import Counter
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal

from sqlalchemy import insert
from sqlalchemy.orm import Session as Orm

from elderberry.formats import sheets
from elderberry.formats.sheets import Table
from elderberry.services.errors import FieldError
from elderberry.services.household import kitchens
from elderberry.services.sheets.batches_in import Batches
from elderberry.services.sheets.cells import Cells, Wrong, reading
from elderberry.services.sheets.jars_in import Jars
from elderberry.services.sheets.lots_in import Lots
from elderberry.services.sheets.readings_in import Readings
from elderberry.services.sheets.servings_in import Servings
from elderberry.services.sheets.taking import AT_ONCE, Taking, slices
from elderberry.services.who import Who
from elderberry.store import RowTaken, queries

Name = Literal["jars", "came-in", "batches", "readings", "servings"]
"""Tables that come and go."""
TABLES: Mapping[Name, type[Taking]] = {
    "jars": Jars, "came-in": Lots, "batches": Batches, "readings": Readings, "servings": Servings,
}  # fmt: skip
MOST_WRONG = 200
"""Rows that are wrong of which each is told; of more, how many."""
SHOWN = 6
"""New rows that are shown as they were understood."""


@dataclass(frozen=True)
class Progress:
    """How far it is: rows that were looked through or written, of how many."""

    doing: str
    done: int
    of: int


@dataclass(frozen=True)
class Looked:
    """A table that was looked through, and written where it was to be.

    new: rows that are not here yet; there: those that are; wrong: what is wrong with which;
    more_wrong: how many beyond those; columns: those that are taken; passed_over: those that are
    not; sample: some new rows by these columns; written: whether they were kept.
    """

    rows: int
    new: int
    there: int
    wrong: list[Wrong]
    more_wrong: int
    columns: list[str]
    passed_over: list[str]
    sample: list[list[str]]
    written: bool


def take_in(
    orm: Orm, who: Who, what: Name, held: bytes, now: datetime, *, keep: bool
) -> Iterator[Progress | Looked]:
    """Look a table through, and write its rows where all of them can be.

    Whoever calls takes everything back where it was only looked at, or where something is wrong:
    rows may have been written to see whether they can be.

    Args:
        orm: a session that holds the household.
        who: whose.
        what: one of TABLES.
        held: the file.
        now: when.
        keep: whether it is to be written; else it is only looked through.

    Yields:
        How far it is, and at the end what was found.

    Raises:
        FieldError: it is no table that can be read.
    """
    taking = TABLES[what](orm, who, now)
    try:
        table = sheets.read(held, taking.most)
        how = reading(table, taking.columns, kitchens.units(orm, who), taking.zone)
    except sheets.CannotRead as wrong_file:
        raise FieldError("/file", f"{wrong_file} Nothing was recorded.") from wrong_file
    found = _Found(taking, what, table, _taken(orm, who, what) if taking.by_hash else set())
    for number, (line, by_name) in enumerate(table.rows):
        if number % AT_ONCE == 0:
            yield Progress("looked through", number, len(table.rows))
        found.look(Cells(line, by_name, how))
    if keep and not found.wrong:
        written = 0
        for count in taking.write(found.items):
            written += count
            yield Progress("written", min(written, len(found.items)), len(found.items))
        _remember(orm, who, what, found.hashes)
    yield found.told(written=keep and not found.wrong)


class _Found:
    """What is found of a table, row by row."""

    def __init__(self, taking: Taking, what: str, table: Table, taken: set[str]) -> None:
        self.taking, self.what, self.table, self.taken = taking, what, table, taken
        self.items: list[Any] = []
        self.sample: list[Mapping[str, str]] = []
        self.wrong: list[Wrong] = []
        self.hashes: list[str] = []
        self.new = self.there = 0
        self._seen: Counter[str] = Counter()

    def look(self, cells: Cells) -> None:
        """Look at a row."""
        mine = self._hash(cells) if self.taking.by_hash else ""
        known = self.taking.known(cells) or mine in self.taken
        item = None if known else self.taking.item(cells)
        if cells.wrong:
            self.wrong += cells.wrong
        elif known:
            self.there += 1
        else:
            self.new += 1
            self.items.append(item)
            self.hashes += [mine] if mine else []
            if len(self.sample) < SHOWN:
                self.sample.append(cells.by_name)

    def _hash(self, cells: Cells) -> str:
        """What stands in a row, and the how many-th such row it is in the file."""
        taken = (cells.by_name.get(c.name, "") for c in self.taking.columns)
        plain = "\x1f".join(taken)
        self._seen[plain] += 1
        return hashlib.sha256(f"{plain}\x1f{self._seen[plain]}".encode()).hexdigest()

    def told(self, *, written: bool) -> Looked:
        """What was found."""
        ours = {c.name for c in self.taking.columns}
        columns = [n for n in self.table.names if n in ours]
        return Looked(
            rows=len(self.table.rows), new=self.new, there=self.there,
            wrong=self.wrong[:MOST_WRONG], more_wrong=max(0, len(self.wrong) - MOST_WRONG),
            columns=columns, passed_over=[n for n in self.table.names if n and n not in ours],
            sample=[[row.get(n, "") for n in columns] for row in self.sample], written=written,
        )  # fmt: skip


def _taken(orm: Orm, who: Who, what: str) -> set[str]:
    mine = queries.mine(who.household_id, RowTaken).where(RowTaken.sheet == what)
    return set(orm.scalars(mine.with_only_columns(RowTaken.hash)))


def _remember(orm: Orm, who: Who, what: str, hashes: list[str]) -> None:
    for some in slices(hashes):
        rows = [{"household_id": who.household_id, "sheet": what, "hash": h} for h in some]
        orm.execute(insert(RowTaken), rows)
