"""What came in, from a table: fruit, its juice and its pomace."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

from elderberry.core import materials, names
from elderberry.services.planning import intake
from elderberry.services.planning.intake import NewLot
from elderberry.services.sheets.cells import Cells, Column
from elderberry.services.sheets.taking import Taking
from elderberry.store import Lot, queries

MOST_G = 500_000.0
FORMS = {
    "": "", "whole": "", "frozen": ", frozen", "sliced": ", sliced", "chopped": ", chopped",
    "crushed": ", crushed", "dried": ", dried", "juice": " juice", "pomace": " pomace",
    "puree": " purée", "purée": " purée", "zest": " zest", "peel": " peel", "powder": " powder",
}  # fmt: skip
"""How a line says each form, after the name."""


@dataclass
class Lots(Taking):
    """The table of what came in."""

    columns = (
        Column("number"), Column("material", needed=True), Column("form"),
        Column("came in", "g", needed=True), Column("left", "g"), Column("source"),
        Column("picked"), Column("came"), Column("sweetness", "°Bx"), Column("ph"),
    )  # fmt: skip
    passed_over = ("name",)
    most = 2000

    @cached_property
    def _there(self) -> dict[str, str]:
        """The material of everything that came in, by its number."""
        mine = queries.mine(self.who.household_id, Lot).where(Lot.intake.is_not(None))
        return {str(lot.id): lot.material for lot in self.orm.scalars(mine)}

    @cached_property
    def _fruits(self) -> dict[str, str]:
        """Keys of fruits by every name they have."""
        return {
            name: key
            for key, fruit in materials.fruits().items()
            for name in (key, fruit.name.lower(), *fruit.also)
        }

    def known(self, cells: Cells) -> bool:
        """Whether a lot of its number is here."""
        there = self._there.get(cells.text("number"))
        if there is None:
            return False
        if self._fruits.get(cells.text("material").lower()) != there:
            cells.fail("material", f"Number {cells.text('number')} is here as {there}.")
        return True

    def item(self, cells: Cells) -> None:
        """A row, taken in as by hand."""
        material = cells.one_of("material", self._fruits, "fruit")
        if not cells.text("material"):
            cells.fail("material", "It is empty.")
        form = cells.one_of("form", FORMS, "form") or ""
        grams = cells.number("came in", intake.LEAST_G, MOST_G, needed=True)
        left = cells.number("left", 0.0, MOST_G)
        came = cells.moment("came") or self.now
        picked = cells.day("picked")
        brix, ph = cells.number("sweetness", 0.0, 85.0), cells.number("ph", 1.5, 8.0)
        if grams is not None and left is not None and left > grams + 1.0:
            cells.fail("left", "No more is left than came in.")
        if came > self.now:
            cells.fail("came", "That moment has not come yet.")
        if cells.wrong or material is None or grams is None:
            return
        line = f"{grams:.0f} g {names.told(material)}{form}"
        new = NewLot(line, cells.text("source"), picked_on=picked, brix=brix, ph=ph)

        def take() -> None:
            row = intake.take_in(self.orm, self.who, new, came)
            if left is not None and left < grams:
                row.intake = {**(row.intake or {}), intake.GONE: grams - left}
                intake.keep_left(self.orm, row)

        self.tried(cells, "material", take)

    def write(self, items: Sequence[object]) -> Iterator[int]:
        """They were taken in as they were looked at."""
        yield len(items)
