"""Readings of batches that are over, from a table."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from functools import cached_property

from elderberry.core.batch import readings
from elderberry.core.errors import CannotTell, OutOfRange, Unknown
from elderberry.core.estimates import Evidence
from elderberry.core.quantities import convert
from elderberry.services.cooking import seals
from elderberry.services.cooking.change import Change, settled
from elderberry.services.cooking.folder import Folder, folder_of
from elderberry.services.household import kitchens
from elderberry.services.sheets.cells import Cells, Column
from elderberry.services.sheets.taking import Taking, slices
from elderberry.store import Batch, Operation, Reading, queries

OF_THE_POT = frozenset({"temp_c", "depth_cm", "tray_g"})
"""Readings that are of no lot."""
Key = tuple[int, str, str, str, str]
"""A reading as it is known again: batch, kind of step, quantity, value and second."""


@dataclass(frozen=True)
class Item:
    """A reading that comes in."""

    batch: Batch
    operation: Operation
    quantity: str
    value: float
    instrument: str
    evidence: Evidence
    at: datetime


@dataclass
class Readings(Taking):
    """The table of readings."""

    columns = (
        Column("batch", needed=True), Column("step", needed=True), Column("what", needed=True),
        Column("value", needed=True), Column("unit"), Column("instrument", needed=True),
        Column("at", needed=True),
    )  # fmt: skip
    passed_over = ("evidence", "by")
    by_hash = False
    _judged: dict[int, Folder] = field(default_factory=dict)

    @cached_property
    def _batches(self) -> dict[str, Batch]:
        rows = queries.all_of(self.orm, self.who.household_id, Batch)
        return {b.code.lower(): b for b in rows}

    @cached_property
    def _steps(self) -> dict[tuple[int, str], Operation]:
        """The first step of each kind, by its batch and kind."""
        rows = queries.all_of(self.orm, self.who.household_id, Operation)
        ordered = sorted(rows, key=lambda o: -o.position)
        return {(o.batch_id, o.kind): o for o in ordered}

    @cached_property
    def _there(self) -> set[Key]:
        kinds = {o.id: o.kind for o in queries.all_of(self.orm, self.who.household_id, Operation)}
        return {
            _key(r.batch_id, kinds[r.operation_id], r.quantity, r.value, r.at)
            for r in queries.all_of(self.orm, self.who.household_id, Reading)
        }

    @cached_property
    def _quantities(self) -> dict[str, readings.Quantity]:
        return {n.lower(): q for q in readings.quantities().values() for n in (q.key, q.name)}

    def known(self, cells: Cells) -> bool:
        """Whether it was read here."""
        batch, what = cells.one_of("batch", self._batches, "batch"), self._what(cells)
        value, at = self._value(cells, what), cells.moment("at", needed=True)
        if batch is None or what is None or value is None or at is None:
            for needed in ("batch", "what"):
                if not cells.text(needed):
                    cells.fail(needed, "It is empty.")
            return True
        key = _key(batch.id, cells.text("step").lower(), what.key, value, at)
        there = key in self._there
        self._there.add(key)
        return there

    def item(self, cells: Cells) -> Item | None:
        """A row as a reading of a batch that is over."""
        batch, what = self._batches[cells.text("batch").lower()], self._what(cells)
        value, at = self._value(cells, what), cells.moment("at")
        instrument = cells.text("instrument", needed=True).lower().replace(" ", "_")
        step = self._steps.get((batch.id, cells.text("step").lower()))
        if step is None:
            cells.fail("step", f"{batch.code} has no step of the kind “{cells.text('step')[:30]}”.")
        if not batch.finished:
            cells.fail("batch", f"{batch.code} is under way: what is read of it is read at a step.")
        if at is not None and not batch.started_at <= at <= self.now:
            cells.fail("at", f"{batch.code} was begun {batch.started_at:%Y-%m-%d %H:%M} UTC.")
        if cells.wrong or what is None or value is None or at is None or step is None:
            return None
        try:
            evidence = readings.check_reading(what.key, value, instrument)
        except OutOfRange as wrong:
            cells.fail("value", f"It lies between {wrong.low:g} and {wrong.high:g} {what.unit}.")
            return None
        except Unknown:
            cells.fail("instrument", f"No “{instrument[:24]}” reads {what.name.lower()}.")
            return None
        return Item(batch, step, what.key, value, instrument, evidence, at)

    def _what(self, cells: Cells) -> readings.Quantity | None:
        return cells.one_of("what", self._quantities, "reading")

    def _value(self, cells: Cells, what: readings.Quantity | None) -> float | None:
        """What was read, in the unit it is kept in."""
        value, unit = cells.number("value", -1e9, 1e9, needed=True), cells.text("unit")
        if value is None or what is None or unit in {"", what.unit}:
            return value
        try:
            return convert(value, unit, what.unit, kitchens.units(self.orm, self.who))
        except (CannotTell, Unknown):
            cells.fail("unit", f"{what.name} is kept in {what.unit}: {unit[:12]} is none of it.")
            return None

    def write(self, items: Sequence[Item]) -> Iterator[int]:
        """Write them, and judge each batch again by what is known of it now."""
        by_batch: dict[int, list[Item]] = defaultdict(list)
        for item in items:
            by_batch[item.batch.id].append(item)
        for batch_id, mine in by_batch.items():
            folder = folder_of(self.orm, self.who, batch_id, lock=True)
            for some in slices(mine):
                self.orm.add_all(self._row(folder, item) for item in some)
                self.orm.flush()
                yield len(some)
            after = Folder(self.orm, self.who, folder.batch, at=self.now)
            seals.judge_again(Change(after, after.operations[0], self.now))
            settled(after)

    def _row(self, folder: Folder, item: Item) -> Reading:
        main = folder.standing.lot_of(folder.find(item.operation.id))
        of_pot = item.quantity in OF_THE_POT or main is None
        return Reading(
            household_id=self.who.household_id, batch_id=folder.batch.id,
            operation_id=item.operation.id, lot_id=None if of_pot or main is None else main.id,
            quantity=item.quantity, value=item.value, instrument=item.instrument,
            evidence=item.evidence, at=item.at, person_id=self.who.person_id,
        )  # fmt: skip


def _key(batch_id: int, step: str, quantity: str, value: float, at: datetime) -> Key:
    return batch_id, step, quantity, f"{value:.6g}", at.isoformat(timespec="seconds")
