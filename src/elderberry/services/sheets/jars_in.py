"""Jars that come in: jars that nobody here has seen being made."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from functools import cache, cached_property

from elderberry.core import colour, containers
from elderberry.core import jars as kinds
from elderberry.core.shelf import said
from elderberry.core.shelf.life import GONE, Lives
from elderberry.services.household import kitchens
from elderberry.services.sheets.cells import Cells, Column
from elderberry.services.sheets.taking import Taking, slices
from elderberry.services.shelf import found
from elderberry.services.shelf.found import Known, Row
from elderberry.store import Place, Vessel, queries, shelf_queries

MOST_ML = 200_000.0
STATES = {s.value: s for s in Lives if s is not Lives.MADE} | {"made": Lives.STANDS}
OVER = 1.01
"""How far over a limit an amount may be that was rounded or read off [-]."""
CODE = re.compile(r"[0-9A-Z][0-9A-Z-]{0,31}")


@dataclass
class Jars(Taking):
    """The table of jars."""

    columns = (
        Column("code"), Column("label", needed=True), Column("batch"), Column("jar", needed=True),
        Column("filled with", "ml"), Column("left", "ml"), Column("state"), Column("place"),
        Column("filled"), Column("opened"), Column("ended"), Column("lid"),
    )  # fmt: skip
    passed_over = ("seal", "best by", "sweetness", "ph", "product")

    @cached_property
    def _there(self) -> dict[str, tuple[str, str]]:
        """Every jar's label and kind by its code."""
        return shelf_queries.labels_by_code(self.orm, self.who.household_id)

    @cached_property
    def _kinds(self) -> dict[str, kinds.JarKind]:
        """Kinds of jar by every name that they have here."""
        units = kitchens.units(self.orm, self.who)
        own = queries.all_of(self.orm, self.who.household_id, Vessel)
        listed = [
            *kinds.kinds().values(),
            *(kinds.kind(kinds.vessel_key(v.kind, v.litres)) for v in own),
        ]
        return {_plain(n): k for k in listed for n in (k.key, k.name, k.named(units))}

    @cached_property
    def _places(self) -> dict[str, Place]:
        return {p.name.lower(): p for p in queries.all_of(self.orm, self.who.household_id, Place)}

    @cached_property
    def _batches(self) -> dict[str, tuple[int, int]]:
        """Batches from before by their codes: each with the lot that its jars hold."""
        return queries.batches_from_before(self.orm, self.who.household_id)

    @cached_property
    def _numbers(self) -> set[int]:
        """Places by their numbers, and none at all, where what is gone stands."""
        return {0, *(p.id for p in self._places.values())}

    @cached_property
    def _today(self) -> date:
        return kitchens.today(self.orm, self.who, self.now)

    @cached_property
    def _read(self) -> Callable[[str], tuple[str, str]]:
        """What a label speaks of; many say the same."""
        customs = kitchens.customs(self.orm, self.who)
        return cache(lambda label: said.read_label(label, customs))

    def known(self, cells: Cells) -> bool:
        """Whether a jar of its code is here."""
        code = cells.text("code").upper()
        there = self._there.get(code)
        if not code or there is None:
            return False
        label, kind = there
        if cells.text("label") != label:
            cells.fail("label", f"{code} is here as “{label}”: put that right on its own page.")
        here, named = kinds.kind(kind), _plain(cells.text("jar"))
        if named != _plain(here.name) and self._kinds.get(named) != here:
            cells.fail("jar", f"{code} is here in a {here.name}.")
        return True

    def item(self, cells: Cells) -> tuple[Row, Known]:
        """A row as jars that were there already."""
        code = cells.text("code").upper()
        if code and not CODE.fullmatch(code):
            cells.fail("code", "A code is made of letters, figures and dashes, at most 32.")
        kind = self._kind(cells)
        filled, opened, ended = cells.days("filled"), cells.moment("opened"), cells.day("ended")
        fill_ml = cells.number("filled with", 1.0, MOST_ML)
        left_ml = cells.number("left", 0.0, MOST_ML)
        self._holds(cells, kind, fill_ml, left_ml)
        state = self._state(cells, kind, fill_ml, left_ml, opened)
        place = cells.one_of("place", self._places, "place")
        if place is None and state not in GONE and not cells.text("place"):
            cells.fail("place", "Where does it stand? Only what is gone stands nowhere.")
        label = cells.text("label", needed=True)
        lid = cells.text("lid").lower()
        if lid and lid not in colour.LIDS:
            cells.fail("lid", f"There is no lid of the colour “{lid[:20]}”.")
        words = self._read(label)
        batch = cells.text("batch").upper()
        row = Row(
            count=1, label=label, jar_kind=kind.key if kind else "pint",
            place_id=place.id if place else 0, material=words[0], product=words[1],
            first=filled[0] if filled else None, last=filled[1] if filled else None,
            said=f"{label}, of batch {batch}" if batch else label,
        )  # fmt: skip
        if not cells.wrong:
            columns = {"first": "filled", "jar_kind": "jar"}
            for field, why in found.wrong(row, self._numbers, self._today):
                cells.fail(columns.get(field, field), why)
        if code:
            self._there[code] = (row.label, row.jar_kind)
        return row, Known(
            code, fill_ml, self._batches.get(batch), state, left_ml, opened, ended, lid
        )

    def _holds(
        self, cells: Cells, kind: kinds.JarKind | None, fill_ml: float | None,
        left_ml: float | None,
    ) -> None:  # fmt: skip
        """No more is in it than it holds, and no more is left than was filled."""
        holds_ml = fill_ml or (kind.brim_ml if kind else MOST_ML)
        if kind and fill_ml is not None and fill_ml > OVER * kind.brim_ml:
            name = kind.named(kitchens.units(self.orm, self.who))
            cells.fail("filled with", f"A {name} holds {kind.brim_ml:.0f} ml to its brim.")
        elif left_ml is not None and left_ml > OVER * holds_ml:
            cells.fail("left", "No more is left than it was filled with.")

    def _state(
        self, cells: Cells, kind: kinds.JarKind | None, fill_ml: float | None,
        left_ml: float | None, opened: datetime | None,
    ) -> Lives:  # fmt: skip
        """Where a jar is in its life; one that some is gone of was opened, where nobody says so."""
        whole = fill_ml or (kind.nominal_ml if kind else None)
        poured = left_ml is not None and whole is not None and left_ml < whole
        told = cells.one_of("state", STATES, "state")
        if told is Lives.STANDS and (poured or opened):
            said_so = "left" if poured else "opened"
            cells.fail(said_so, "It was opened, then, and does not stand closed: say which.")
        return told or (Lives.OPENED if poured or opened else Lives.STANDS)

    def _kind(self, cells: Cells) -> kinds.JarKind | None:
        """What it is in: by its name here, or a vessel as its name says it: "1 l bag"."""
        name = cells.text("jar", needed=True).lower()
        if not name:
            return None
        known = self._kinds.get(_plain(name))
        match = re.fullmatch(r"([\d.]+) (ml|l) (.+)", name)
        if known is None and match:
            what = next(
                (t.key for t in containers.vessel_types().values() if t.name == match[3]), ""
            )
            ml = float(match[1]) * (1000.0 if match[2] == "l" else 1.0)
            if what and 1.0 <= ml <= MOST_ML:
                return kinds.kind(f"{what}-{ml:.0f}")
        if known is None:
            cells.fail("jar", f"There is no jar or vessel called “{name[:40]}” here.")
        return known

    def write(self, items: Sequence[tuple[Row, Known]]) -> Iterator[int]:
        """Put them on their places."""
        writer = found.Writer(self.orm, self.who, self.now)
        for some in slices(items):
            writer.write(some)
            yield len(some)


def _plain(name: str) -> str:
    """A name of a kind of jar as it is compared: half pint, half-pint, half_pint."""
    return name.lower().replace("-", " ").replace("_", " ")
