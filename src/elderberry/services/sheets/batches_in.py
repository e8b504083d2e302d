"""Batches from before, from a table: what went in and when; how it went nobody here knows."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import cached_property

from elderberry.core.flow.inputs import End
from elderberry.services.cooking import batches
from elderberry.services.cooking.change import Change, settled
from elderberry.services.cooking.folder import folder_of
from elderberry.services.errors import FieldError
from elderberry.services.planning import own_methods
from elderberry.services.planning.asked import GoesIn, PlanRequest
from elderberry.services.sheets.cells import Cells, Column
from elderberry.services.sheets.taking import Taking
from elderberry.store import Batch, queries

CODE = re.compile(r"[A-Z]{2}-\d\d-\d{2,6}")
FROM_BEFORE = "from_before"
OLDEST = timedelta(days=60 * 366)


@dataclass
class Batches(Taking):
    """The table of batches."""

    columns = (
        Column("code"), Column("title"), Column("went in", needed=True), Column("method"),
        Column("begun", needed=True),
    )  # fmt: skip
    passed_over = ("material", "by", "finished", "jars", "in jars")
    most = 500

    @cached_property
    def _there(self) -> dict[str, str]:
        return {b.code: b.title for b in queries.all_of(self.orm, self.who.household_id, Batch)}

    @cached_property
    def _methods(self) -> dict[str, str]:
        """Keys of methods by their keys and names."""
        listed = own_methods.everything(self.orm, self.who)
        return {n.lower(): m.key for m, _ in listed for n in (m.key, m.name)} | {
            b.method_key.lower(): b.method_key
            for b in queries.all_of(self.orm, self.who.household_id, Batch)
        }

    def known(self, cells: Cells) -> bool:
        """Whether a batch of its code is here."""
        code = cells.text("code").upper()
        title = self._there.get(code)
        if title is None:
            return False
        if cells.text("title") not in {"", title}:
            cells.fail("title", f"{code} is here as “{title}”.")
        return True

    def item(self, cells: Cells) -> None:
        """A row as a batch of which only the beginning is known."""
        code = cells.text("code").upper()
        if code and not CODE.fullmatch(code):
            cells.fail("code", "A code looks like DM-25-07: two letters, year, number.")
        begun = cells.moment("begun", needed=True)
        if begun is not None and not self.now - OLDEST <= begun <= self.now:
            cells.fail("begun", "It has not begun yet, or too long ago.")
        method = cells.one_of("method", self._methods, "method")
        lines = [w.strip() for w in cells.text("went in", needed=True, most=2000).split(";")]
        if cells.wrong or begun is None:
            return
        inputs = tuple(GoesIn(line=line) for line in lines if line)
        asked = PlanRequest(inputs, (End("fill", "now"),), method_key=method or "")
        title = cells.text("title")
        self.tried(cells, "went in", lambda: self._begin(asked, code, title, begun))

    def _begin(self, asked: PlanRequest, code: str, title: str, begun: datetime) -> None:
        """It is written down, and over: nothing of it waits."""
        row = batches.start(self.orm, self.who, asked, begun)
        if code and code in self._there:
            raise FieldError("/code", f"{code} stands twice in this file.")
        row.code, row.title = code or row.code, title or row.title
        row.predicted = {**row.predicted, FROM_BEFORE: True}
        self.orm.flush()
        self._there[row.code] = row.title
        folder = folder_of(self.orm, self.who, row.id, lock=True)
        made = Change(folder, folder.operations[0], begun)
        for operation in folder.operations:
            made.append("dropped", {"reason": FROM_BEFORE}, operation=operation)
        settled(folder)

    def write(self, items: Sequence[object]) -> Iterator[int]:
        """They were written down as they were looked at."""
        yield len(items)
