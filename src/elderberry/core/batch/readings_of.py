"""What the readings of a batch amount to: each as it was put right, at the place of the mistaken
one, and gathered by the lot and the step that they are of.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from elderberry.core.batch.rows import EventRow, LotRow, ReadingRow
from elderberry.core.flow.seen import Seen

METER = "ph_meter"


@dataclass(frozen=True)
class Counted:
    """A reading that counts: its own figure, or the one it was corrected to."""

    row: ReadingRow
    """The newest entry of it."""
    value: float
    first_id: int
    """The id it was first given, which says where it stands among the others."""


def counted(readings: Sequence[ReadingRow], events: Iterable[EventRow]) -> tuple[Counted, ...]:
    """The readings that count, in the order they were first read.

    A correction stands where its original stood: it neither comes later than what was read since,
    nor lifts anything else.
    """
    into = {e.data["reading"]: e.data["by"] for e in events if e.kind == "corrected"}
    by_id = {r.id: r for r in readings}
    again = set(into.values())
    found = []
    for row in readings:
        if row.id in again:
            continue
        newest = row
        while newest.id in into and into[newest.id] in by_id:
            newest = by_id[into[newest.id]]
        found.append(Counted(newest, newest.value, row.id))
    return tuple(found)


def of_lots(
    readings: Iterable[Counted], lots: Mapping[int, LotRow], events: Iterable[EventRow]
) -> dict[str, Seen]:
    """What was read of each lot, by its key; acid that was stirred in beyond the plan with it."""
    by_lot: dict[int, list[Counted]] = {}
    for reading in readings:
        if reading.row.lot_id is not None:
            by_lot.setdefault(reading.row.lot_id, []).append(reading)
    acid = acid_stirred_in(events)
    return {
        lots[i].key: _seen(by_lot.get(i, ()), acid.get(i, ()))
        for i in {*by_lot, *acid}
        if i in lots
    }


@dataclass(frozen=True)
class Acid:
    """Acid that went into a lot beyond the plan: after which reading by its id, what, and [g]."""

    after: int
    material: str
    grams: float


def acid_stirred_in(events: Iterable[EventRow]) -> dict[int, list[Acid]]:
    """Acid that went into lots beyond the plan, by the id of the lot."""
    found: dict[int, list[Acid]] = {}
    for event in events:
        if event.kind == "acid_added":
            told = event.data
            material = str(told.get("material", "citric_acid"))
            acid = Acid(int(told["after"]), material, float(told["grams"]))
            found.setdefault(int(told["lot"]), []).append(acid)
    return found


def _seen(readings: Iterable[Counted], acids: Sequence[Acid]) -> Seen:
    newest: dict[str, float] = {}
    meter: list[tuple[int, float | None]] = [(acid.after, None) for acid in acids]
    for reading in readings:
        row = reading.row
        if row.quantity in {"mass_g", "volume_ml"}:
            newest.pop("mass_g", None)
            newest.pop("volume_ml", None)
        if row.quantity == "ph" and row.instrument == METER:
            meter.append((reading.first_id, reading.value))
        else:
            newest[row.quantity] = reading.value
    meter.sort(key=lambda m: (m[0], m[1] is None))
    return Seen(
        volume_ml=newest.get("volume_ml"),
        mass_g=newest.get("mass_g"),
        brix=newest.get("brix"),
        meter=tuple(value for _, value in meter),
        acids=tuple((acid.material, acid.grams) for acid in acids),
    )
