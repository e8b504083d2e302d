"""Drinks that were written down elsewhere, from a table; nothing is poured again."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import asdict, dataclass
from datetime import datetime
from functools import cached_property

from elderberry.services.sheets.cells import Cells, Column
from elderberry.services.sheets.taking import Taking, slices
from elderberry.services.shelf.servings import Asked
from elderberry.store import Serving, queries, shelf_queries

MOST_ML = 100_000.0


@dataclass(frozen=True)
class Item:
    """A drink that comes in."""

    name: str
    jar_id: int
    base_ml: float
    at: datetime


@dataclass
class Servings(Taking):
    """The table of drinks."""

    columns = (
        Column("name", needed=True), Column("jar", needed=True),
        Column("of it", "ml", needed=True), Column("at", needed=True),
    )  # fmt: skip
    passed_over = ("label", "by")
    by_hash = False

    @cached_property
    def _jars(self) -> dict[str, int]:
        rows = shelf_queries.ids_by_code(self.orm, self.who.household_id)
        return {code.lower(): number for code, number in rows.items()}

    @cached_property
    def _there(self) -> set[tuple[str, int, str]]:
        rows = queries.all_of(self.orm, self.who.household_id, Serving)
        return {(s.name, s.jar_id, s.at.isoformat(timespec="seconds")) for s in rows}

    def known(self, cells: Cells) -> bool:
        """Whether it was written down here."""
        at, jar_id = cells.moment("at", needed=True), cells.one_of("jar", self._jars, "jar")
        if at is None or jar_id is None:
            if not cells.text("jar"):
                cells.fail("jar", "It is empty.")
            return True
        key = (cells.text("name"), jar_id, at.isoformat(timespec="seconds"))
        there = key in self._there
        self._there.add(key)
        return there

    def item(self, cells: Cells) -> Item | None:
        """A row as a drink."""
        name = cells.text("name", needed=True, most=80)
        base_ml = cells.number("of it", 1.0, MOST_ML, needed=True)
        at = cells.moment("at")
        if at is not None and at > self.now:
            cells.fail("at", "That moment has not come yet.")
        if cells.wrong or base_ml is None or at is None:
            return None
        return Item(name, self._jars[cells.text("jar").lower()], base_ml, at)

    def write(self, items: Sequence[Item]) -> Iterator[int]:
        """Write them down."""
        for some in slices(items):
            self.orm.add_all(
                Serving(
                    household_id=self.who.household_id, name=i.name, jar_id=i.jar_id,
                    person_id=self.who.person_id, at=i.at, base_ml=i.base_ml,
                    asked=asdict(Asked(max(20.0, i.base_ml))), told={},
                )
                for i in some
            )  # fmt: skip
            self.orm.flush()
            yield len(some)
