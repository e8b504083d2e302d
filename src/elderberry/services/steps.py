"""What happens at a step: start, time, readings, finish. One transaction each.

Every change locks its batch, checks itself against the step's state, and appends events.
A retry with the same idempotency key changes nothing more.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import datetime, timedelta

from sqlalchemy.orm import Session as Orm

from elderberry.core import jars as jar_kinds
from elderberry.core.batch import lifecycle, readings
from elderberry.core.batch.lifecycle import Phase, StepEvent
from elderberry.core.errors import OutOfRange, Refusal, Unknown
from elderberry.core.rules import refuse
from elderberry.services import batches, intake, kitchens, seals
from elderberry.services.errors import Conflict, FieldError, NotFound
from elderberry.services.fillings import fill_jars
from elderberry.services.folder import (
    EXCLUSIVE,
    STARTS_BY_ITSELF,
    Folder,
    folder_of,
    jar_ids,
    seal_from,
    title,
)
from elderberry.services.plan_view import estimate_from, questions
from elderberry.services.who import Who
from elderberry.store import Lot, Operation, Reading, queries
from elderberry.store.base import Json

MOST_OUT = 1.25
"""How much more than went in may come out before a reading is taken for a slip [-]."""


@dataclass(frozen=True)
class ReadingEntry:
    """A reading as a person typed it, in base units."""

    quantity: str
    value: float
    instrument: str
    lot_key: str | None = None
    """Which of the lots that come out; the main one when not said."""


@dataclass(frozen=True)
class JarEntry:
    """Jars of a kind that were really filled."""

    kind: str
    count: int


@dataclass(frozen=True)
class Finish:
    """What a person says when a step is done; which parts matter depends on the step."""

    readings: tuple[ReadingEntry, ...] = ()
    jars: tuple[JarEntry, ...] = ()
    part_kind: str | None = None
    part_ml: float = 0.0
    shared: bool = False
    """The leftover was shared among the jars, so that none is part-filled."""
    place_id: int | None = None
    said: tuple[str, ...] = ()
    """What only the cook can say of the jars, in words of the rule book."""


@dataclass
class Change:
    """A change in the making: the locked batch, the step, who and when."""

    folder: Folder
    operation: Operation
    now: datetime
    key: str | None = field(default=None)

    @property
    def orm(self) -> Orm:
        """The session of the transaction."""
        return self.folder.orm

    @property
    def who(self) -> Who:
        """Who changes it."""
        return self.folder.who

    def append(
        self, kind: str, data: Json | None = None, operation: Operation | None = None
    ) -> None:
        """Append an event that fits the state of its step."""
        step = operation or self.operation
        state = self.folder.states[step.id]
        event = StepEvent(kind, self.now, self.who.name, data)
        following = lifecycle.transition(state, event)
        batches.record(
            self.orm, self.who, self.now, kind, operation=step, data=data, key=self._take_key()
        )
        self.folder.states[step.id] = following

    def log(self, kind: str, data: Json, jar_id: int | None = None) -> None:
        """Append an event that no step's state hangs on."""
        batches.record(
            self.orm, self.who, self.now, kind,
            operation=self.operation, jar_id=jar_id, data=data, key=self._take_key(),
        )  # fmt: skip

    def _take_key(self) -> str | None:
        key, self.key = self.key, None
        return key


def change(
    orm: Orm,
    who: Who,
    batch_id: int,
    step_id: int,
    now: datetime,
    key: str | None,
    act: Callable[[Change], None],
) -> Folder:
    """Make one change to a step and return the batch as it is then.

    Raises:
        NotFound: no such batch or step in this household.
        Conflict, FieldError, Refusal, IllegalStep: as the act says; nothing is written then.
    """
    folder = folder_of(orm, who, batch_id, lock=True)
    if key and queries.by_idempotency_key(orm, who.household_id, key):
        return folder
    operation = next((o for o in folder.operations if o.id == step_id), None)
    if operation is None:
        raise NotFound("step")
    act(Change(folder, operation, now, key))
    folder.batch.version += 1
    orm.flush()
    return folder_of(orm, who, batch_id)


def start(made: Change) -> None:
    """Start a step: what it needs is there, its station is free, and no stop stands."""
    state = made.folder.states[made.operation.id]
    if state.phase is Phase.WAITING:
        _check_ready(made)
        _check_station(made)
    data = _MAY_START.get(made.operation.kind, _nothing_more)(made)
    made.append("started", data)


def finish(made: Change, said: Finish) -> None:
    """Finish a step with what was read and done."""
    _start_by_itself(made)
    if made.folder.states[made.operation.id].phase is Phase.RUNNING:
        for entry in said.readings:
            _take_reading(made, entry)
        _FINISH.get(made.operation.kind, _nothing_said)(made, said)
    made.append("finished")
    if made.operation.kind == "process":
        _start_cooling(made)


def take_reading(made: Change, entry: ReadingEntry) -> None:
    """Take a reading at a running step."""
    _must_be_running(made)
    _take_reading(made, entry)


def correct(made: Change, reading_id: int, value: float) -> None:
    """Put a mistaken reading right: the old one stays on record, the new one counts.

    Raises:
        NotFound: this step has no such reading.
        FieldError: a value that cannot be.
    """
    old = next(
        (
            r
            for r in made.folder.readings
            if (r.id, r.operation_id) == (reading_id, made.operation.id)
        ),
        None,
    )
    if old is None:
        raise NotFound("reading")
    lot = made.folder.lots.get(old.lot_id or 0)
    entry = ReadingEntry(old.quantity, value, old.instrument, lot.key if lot else None)
    new = _take_reading(made, entry)
    made.log("corrected", {"reading": old.id, "by": new.id})


def lengthen(made: Change, minutes: float, reason: str) -> None:
    """Add minutes to a step's timer, with the reason."""
    made.append("lengthened", {"minutes": minutes, "reason": reason})


def boil(made: Change, reached: bool) -> None:
    """The boil was reached, or lost."""
    made.append("boil_reached" if reached else "boil_lost")


def note(made: Change, what: str, words: str) -> None:
    """Something worth keeping: the pan refilled, or a problem in the cook's own words."""
    made.append("noted", {"what": what, "words": words})


def _check_ready(made: Change) -> None:
    waits = made.folder.waits_for(made.operation)
    if waits is None:
        return
    if waits.kind == "sterilise":
        raise refuse("jars-not-sterilised", "fill", minutes=waits.params["min"])
    raise Conflict("not-ready", f"This waits for: {title(waits)}.")


def _check_station(made: Change) -> None:
    """One step at a time on a juicer, burner or canner; another one of its kind that is free will
    do as well.
    """
    station = made.folder.stations.get(made.operation.station_id or 0)
    if station is None or station.kind not in EXCLUSIVE:
        return
    in_use = {
        other.station_id: other
        for other in queries.operations_in_use(made.orm, made.who.household_id)
        if other.id != made.operation.id
    }
    if station.id not in in_use:
        return
    alike = [s for s in kitchens.stations(made.orm, made.who) if s.kind == station.kind]
    free = next((s for s in alike if s.id not in in_use), None)
    if free is None:
        raise Conflict(
            "station-busy",
            f"{station.name} is still busy with: {title(in_use[station.id])}. "
            "Finish that step first.",
        )
    made.operation.station_id = free.id


def _start_by_itself(made: Change) -> None:
    waiting = made.folder.states[made.operation.id].phase is Phase.WAITING
    if waiting and made.operation.kind in STARTS_BY_ITSELF:
        start(made)


def _must_be_running(made: Change) -> None:
    """Only a running step takes readings and looks; any other says how it stands."""
    _start_by_itself(made)
    state = made.folder.states[made.operation.id]
    if state.phase is not Phase.RUNNING:
        lifecycle.transition(state, StepEvent("noted", made.now, made.who.name))


def _nothing_more(_: Change) -> Json | None:
    return None


def _may_process(made: Change) -> Json:
    """The tested minutes of the jars that are really in this load; stops forbid it."""
    load = made.operation.params["load"]
    jars = [j for j in made.folder.jars if j.canner_load == load]
    if not jars:
        raise Conflict("no-jars", "There are no jars in this load. Fill them first.")
    if any(j.part_filled for j in jars):
        raise refuse("jar-part-filled", "process")
    found = made.folder.tested_time([j.jar_kind for j in jars])
    for stop in found.stops:
        raise Refusal(stop)
    assert found.time is not None  # a look-up without stops has a time
    return {"minutes": found.time.minutes, "row": found.time.row.key}


def _may_check_seals(made: Change) -> Json | None:
    """Seals are looked at once every jar has cooled 12 hours."""
    window = seal_from(made.folder, made.operation)
    if window is None:
        raise Conflict("not-ready", "The jars have not come out of the canner yet.")
    missing = window[0] - made.now
    if missing > timedelta(0):
        hours, minutes = divmod(int(missing.total_seconds() / 60) + 1, 60)
        raise refuse("seal-too-early", "seal_check", missing=f"{hours} h {minutes:02d} min")
    jars = set(jar_ids(made.folder, made.operation))
    for other in made.folder.operations:
        running = made.folder.phase(other) is Phase.RUNNING
        if other.kind == "cool" and running and jars & set(jar_ids(made.folder, other)):
            made.append("finished", operation=other)
    return None


_MAY_START: Mapping[str, Callable[[Change], Json | None]] = {
    "process": _may_process,
    "seal_check": _may_check_seals,
}


def _take_reading(made: Change, entry: ReadingEntry) -> Reading:
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
    lot = made.folder.lot_of(made.operation)
    if entry.quantity == "volume_ml":
        _check_volume(made, entry.value)
    reading = Reading(
        household_id=made.who.household_id,
        batch_id=made.folder.batch.id,
        operation_id=made.operation.id,
        lot_id=_lot_read(made, entry, lot),
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
    made.folder.__dict__.pop("known", None)
    made.log("reading", {"quantity": entry.quantity, "value": entry.value, "id": reading.id})
    return reading


def _what_went_in(made: Change, litres: float) -> str:
    """What a step works on, as one would say it."""
    kg = made.operation.params.get("fruit_kg")
    kinds = {made.folder.lots[i].kind for i in made.folder.edges[made.operation.id]["in"]}
    if kg is not None and kinds & {"fruit", "mash"}:
        return f"{kg} kg of fruit"
    return f"about {litres:.1f} l"


def _lot_read(made: Change, entry: ReadingEntry, main: Lot | None) -> int | None:
    """The lot that a reading is of: the main one, or the one that was named; none for the pot."""
    if entry.quantity in {"temp_c", "depth_cm"} or main is None:
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
    litres = sum(made.folder.volume_of(made.folder.lots[i]).hi for i in taken) / 1000.0
    if volume_ml / 1000.0 > MOST_OUT * litres:
        raise FieldError(
            "/volume_ml",
            f"{volume_ml / 1000:g} l cannot come out of {_what_went_in(made, litres)}. "
            "Litres, or did you mean millilitres? Nothing was recorded.",
        )


def _nothing_said(_made: Change, _said: Finish) -> None:
    return None


def _check_hot(made: Change, _said: Finish) -> None:
    """The newest temperature of this step has to reach the filling temperature."""
    target = float(made.operation.params["target"])
    temps = [
        r.value
        for r in made.folder.readings
        if r.operation_id == made.operation.id and r.quantity == "temp_c"
    ]
    if not temps or temps[-1] < target - 0.05:
        raise refuse("fill-too-cold", "heat_to", fill_c=f"{target:g}")


def _fill(made: Change, said: Finish) -> None:
    juice, _ = made.folder.juice_ml()
    counts = {j.kind: j.count for j in said.jars if j.count}
    _check_filled(counts, said, juice.hi / made.folder.method.fill_ratio)
    level = _shared_level(made, counts) if said.shared else 1.0
    part = (None, 0.0) if said.shared else (said.part_kind, said.part_ml)
    fill_jars(made, counts, *part, level)
    asked = {q.word for q in questions("fill", ())}
    words = sorted(asked & set(said.said))
    if words:
        made.log("said", {"words": words})


def _shared_level(made: Change, counts: Mapping[str, int]) -> float:
    """The part of its usual fill that each jar holds when the juice is shared evenly."""
    shared = jar_kinds.evenly(counts, made.folder.hot_ml)
    if not shared.close:
        much = "too much" if shared.off_mm > 0 else "too little"
        raise FieldError(
            "/jars",
            f"Shared like that, every jar has {abs(shared.off_mm):.0f} mm {much} room under its "
            "lid. Keep the last jar apart, part-filled. Nothing was recorded.",
        )
    return shared.level


def _check_filled(counts: Mapping[str, int], said: Finish, most_ml: float) -> None:
    """What is said to be in jars has to be something, and no more than the pot held."""
    total = said.part_ml
    for kind, count in counts.items():
        try:
            total += jar_kinds.kind(kind).nominal_ml * count
        except Unknown as wrong:
            raise FieldError("/jars", str(wrong)) from wrong
    if total <= 0:
        raise FieldError("/jars", "Enter how many jars you filled. Nothing was recorded.")
    if said.part_kind and said.part_ml > jar_kinds.kind(said.part_kind).brim_ml:
        raise FieldError("/part_ml", "That is more than such a jar holds. Nothing was recorded.")
    if not said.shared and total > 1.25 * most_ml:
        raise FieldError(
            "/jars",
            f"Those jars hold {total / 1000:.1f} l, and the pot held about {most_ml / 1000:.1f} l "
            "at most. Count again; nothing was recorded.",
        )


def _start_cooling(made: Change) -> None:
    """The jars' record, and the cooling that begins as they are lifted."""
    state = made.folder.states[made.operation.id]
    load = made.operation.params["load"]
    seals.write_process(made.folder, load, state, made.now)
    for other in made.folder.operations:
        if other.kind == "cool" and other.params["load"] == load:
            made.append("started", operation=other)


def _set_aside(made: Change, _said: Finish) -> None:
    """Pomace that was kept waits as its own lot."""
    for lot_id in made.folder.edges[made.operation.id]["out"]:
        lot = made.folder.lots[lot_id]
        predicted = estimate_from(lot.predicted["mass_g"])
        assert predicted is not None  # every lot was stored with its mass
        grams = predicted.typ * made.folder.known[lot_id].multiple
        kept = intake.keep_pomace(made.orm, made.who, lot, grams, made.now)
        made.log("pomace_kept", {"lot": kept.id, "grams": grams})


def _put_away(place_kind: str) -> Callable[[Change, Finish], None]:
    def act(made: Change, _said: Finish) -> None:
        place = kitchens.place(made.orm, made.who, place_kind)
        for jar in made.folder.jars:
            if not jar.part_filled:
                seals.put(made.orm, made.who, jar, place, made.now)

    return act


_FINISH: Mapping[str, Callable[[Change, Finish], None]] = {
    "heat_to": _check_hot,
    "set_aside": _set_aside,
    "fill": _fill,
    "seal_check": lambda made, said: seals.conclude(made, said.place_id),
    "chill": _put_away("refrigerator"),
    "freeze": _put_away("freezer"),
}


def look_at_seal(made: Change, jar_id: int, held: bool, way_on: str | None) -> None:
    """Say of one jar of a seal check whether its seal held; the first look starts the check."""
    _must_be_running(made)
    seals.look_at(made, jar_id, held, way_on)
