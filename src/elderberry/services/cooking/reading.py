"""Readings at a step: what they are of, whether they can be, and how they are kept."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime

from elderberry.core.batch import readings
from elderberry.core.errors import OutOfRange, Unknown
from elderberry.core.wording import figure, in_units
from elderberry.services.cooking.change import Change
from elderberry.services.errors import FieldError
from elderberry.services.planning import lines
from elderberry.store import Lot, Reading

MOST_OUT = 1.25
"""How much more than went in may come out before a reading is taken for a slip [-]."""


@dataclass(frozen=True)
class ReadingEntry:
    """A reading as a person typed it, in base units, or as one says it."""

    quantity: str
    value: float
    instrument: str
    lot_key: str | None = None
    """Which of the lots that come out; the main one when not said."""
    said: str = ""
    """An amount as one says it, "5 cups", in the place of the value."""


def understood(made: Change, entry: ReadingEntry) -> ReadingEntry:
    """A reading in base units, where it was said in cups, jugs or by a mark.

    Raises:
        FieldError: it is no amount.
    """
    if not entry.said or entry.quantity not in {"volume_ml", "mass_g"}:
        return entry
    at = f"/{entry.quantity}"
    return replace(entry, value=amount(made, entry.said, entry.quantity, at))  # type: ignore[arg-type]


def amount(made: Change, said: str, quantity: lines.Quantity, at: str) -> float:
    """What was said in cups, jugs or by a mark, in base units [mL, g].

    Raises:
        FieldError: it is no amount; at says where it was typed.
    """
    read = lines.amount(made.orm, made.who, said, quantity)
    if read.value is None:
        why = read.wrong.message if read.wrong else "That is no amount."
        raise FieldError(at, f"{why} Nothing was recorded.")
    return read.value


def keep(made: Change, entry: ReadingEntry, of_pot: bool = False) -> Reading:
    """A reading as it is kept: of what the step gives, or only of the pot as it is meanwhile."""
    try:
        evidence = readings.check_reading(entry.quantity, entry.value, entry.instrument)
    except OutOfRange as wrong:
        raise FieldError(
            f"/{entry.quantity}",
            f"{wrong.quantity} lies between {wrong.low:g} and {wrong.high:g}"
            f"{'' if wrong.unit == 'pH' else f' {wrong.unit}'}: {entry.value:g} cannot be. "
            "Nothing was recorded.",
        ) from wrong
    except Unknown as wrong:
        raise FieldError("/instrument", str(wrong)) from wrong
    lot = _main_lot(made)
    if entry.quantity == "volume_ml":
        _check_volume(made, entry.value)
    reading = Reading(
        household_id=made.who.household_id,
        batch_id=made.folder.batch.id,
        operation_id=made.operation.id,
        lot_id=None if of_pot else _lot_read(made, entry, lot),
        quantity=entry.quantity,
        value=entry.value,
        instrument=entry.instrument,
        evidence=evidence,
        at=made.now,
        person_id=made.who.person_id,
    )
    made.orm.add(reading)
    made.orm.flush()
    made.folder.readings = [*made.folder.readings, reading]
    made.folder.anew()
    made.log("reading", {"quantity": entry.quantity, "value": entry.value, "id": reading.id})
    return reading


def _main_lot(made: Change) -> Lot | None:
    """What a reading at this step is about."""
    main = made.folder.standing.lot_of(made.operation)
    return made.folder.lots[main.id] if main else None


def _what_went_in(made: Change, litres: float) -> str:
    """What a step works on, as one would say it."""
    kg = made.operation.params.get("fruit_kg")
    kinds = {made.folder.lots[i].kind for i in made.folder.edges[made.operation.id]["in"]}
    if kg is not None and kinds & {"fruit", "mash"}:
        return in_units(f"{figure(float(kg), 'kg')} of fruit", made.folder.units)
    return in_units(f"about {figure(litres, 'l')}", made.folder.units)


def _lot_read(made: Change, entry: ReadingEntry, main: Lot | None) -> int | None:
    """The lot that a reading is of: the main one, or the one that was named; none for the pot."""
    if entry.quantity in {"temp_c", "depth_cm", "tray_g"} or main is None:
        return None
    if entry.lot_key is None:
        return main.id
    for lot_id in made.folder.edges[made.operation.id]["out"]:
        if made.folder.lots[lot_id].key == entry.lot_key:
            return lot_id
    raise FieldError("/lot_key", f"This step gives no {entry.lot_key}. Nothing was recorded.")


def _check_volume(made: Change, volume_ml: float) -> None:
    """No step gives more than went into it."""
    taken = made.folder.edges[made.operation.id]["in"]
    litres = sum(made.folder.standing.volume_of(made.folder.lots[i]).hi for i in taken) / 1000.0
    if volume_ml / 1000.0 > MOST_OUT * litres:
        units = made.folder.units
        said = in_units(figure(volume_ml, "ml"), units)
        unit = "Litres, or did you mean millilitres?" if units == "metric" else "Is that its unit?"
        raise FieldError(
            "/volume_ml",
            f"{said} cannot come out of {_what_went_in(made, litres)}. {unit} "
            "Nothing was recorded.",
        )


def put_drying_right(made: Change) -> None:
    """The time of a dryer, by what was weighed of its trays."""
    state = made.folder.standing.states[made.operation.id]
    found = made.folder.standing.drying(made.operation)
    if found is None or state.started_at is None:
        return
    had = (made.now - state.started_at).total_seconds() / 60.0
    made.append("retimed", {"minutes": had + 60.0 * found.left_h(had / 60.0).typ})


def put_clock_right(made: Change, entry: ReadingEntry, since: datetime) -> None:
    """The time of a boil-down, by what was read in its pot.

    Raises:
        FieldError: less is left by it than boiling can leave.
    """
    found = made.folder.standing.midway(made.operation)
    if found is None:
        raise FieldError(
            f"/{entry.quantity}",
            "So little cannot be left of what was in the pot: read it again. Nothing was recorded.",
        )
    boiled = (made.now - since).total_seconds() / 60
    made.append("retimed", {"minutes": boiled + found.left_min.typ})
