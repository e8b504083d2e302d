"""Reading a batch: rows and events in, views out. Nothing here changes anything."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import cached_property
from typing import Any

from sqlalchemy.orm import Session as Orm

from elderberry.core import jars as jar_kinds
from elderberry.core import juicing, lifecycle, materials, process, readings, tables
from elderberry.core import kitchen as core_kitchen
from elderberry.core import method as methods
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.findings import Finding
from elderberry.core.lifecycle import Phase, StepEvent, StepState
from elderberry.core.rules import Facts, standing
from elderberry.services import batches, jar_view, kitchens
from elderberry.services.plans import (
    FlowLot,
    FlowOperation,
    JarCount,
    ProcessView,
    estimate_from,
)
from elderberry.services.views import (
    Askable,
    BatchLine,
    BatchView,
    LotView,
    PanView,
    ReadingView,
    StationView,
    StepView,
)
from elderberry.services.who import Who
from elderberry.store import Batch, Event, Jar, Lot, Operation, Person, Reading, Station, queries

STEP_EVENTS = {kind for _, kind in lifecycle.TRANSITIONS}
SECOND_GO = 100
"""Canner loads numbered above this are of jars whose seal failed the first time."""
PAN_WARNING = timedelta(minutes=10)
EXCLUSIVE = {"juicer", "burner", "canner"}
"""Stations that hold one step at a time."""
ASKED = {
    "steam_juice": ("volume_ml", "brix", "ph"),
    "heat_to": ("temp_c", "brix", "ph", "volume_ml"),
    "boil_through": ("temp_c", "brix", "ph"),
}
"""What may be read at each kind of step."""
UNITS_OF_LOT = {"volume_ml", "brix", "ph", "mass_g"}


@dataclass
class Folder:
    """A batch with all its rows, and what they amount to."""

    orm: Orm
    who: Who
    batch: Batch

    @cached_property
    def operations(self) -> list[Operation]:
        """Steps in their order."""
        rows = queries.of_batch(self.orm, self.who.household_id, Operation, self.batch.id)
        return sorted(rows, key=lambda o: o.position)

    @cached_property
    def events(self) -> Sequence[Event]:
        """Everything that happened, in order."""
        return queries.of_batch(self.orm, self.who.household_id, Event, self.batch.id)

    @cached_property
    def readings(self) -> Sequence[Reading]:
        """Every reading, in order."""
        return queries.of_batch(self.orm, self.who.household_id, Reading, self.batch.id)

    @cached_property
    def lots(self) -> dict[int, Lot]:
        """Lots by id."""
        rows = queries.of_batch(self.orm, self.who.household_id, Lot, self.batch.id)
        return {row.id: row for row in rows}

    @cached_property
    def jars(self) -> Sequence[Jar]:
        """The batch's jars."""
        return queries.of_batch(self.orm, self.who.household_id, Jar, self.batch.id)

    @cached_property
    def edges(self) -> Mapping[int, Mapping[str, list[int]]]:
        """Lots in and out of each operation."""
        return queries.edges(self.orm, self.who.household_id, self.batch.id)

    @cached_property
    def people(self) -> dict[int, str]:
        """Names by id."""
        return {p.id: p.name for p in queries.all_of(self.orm, self.who.household_id, Person)}

    @cached_property
    def stations(self) -> dict[int, Station]:
        """Stations by id."""
        return {s.id: s for s in queries.all_of(self.orm, self.who.household_id, Station)}

    @cached_property
    def kitchen(self) -> core_kitchen.Kitchen:
        """The kitchen as the core computes with it."""
        return kitchens.for_core(self.orm, self.who)

    @cached_property
    def cautions(self) -> list[Finding]:
        """Cautions and notes at their places, for this fruit and these steps."""
        return standing(
            Facts(
                operations=frozenset(o.kind for o in self.operations),
                fruits=frozenset({self.batch.fruit_key}),
                closures=frozenset(jar_kinds.kind(j.jar_kind).closure for j in self.jars),
                keep=self.batch.keep,
            )
        )

    @cached_property
    def states(self) -> dict[int, StepState]:
        """Each step as its events have left it."""
        return {o.id: self._state(o) for o in self.operations}

    def _state(self, operation: Operation) -> StepState:
        mine = [e for e in self.events if e.operation_id == operation.id and e.kind in STEP_EVENTS]
        return replay(operation, mine, self.people)

    def phase(self, operation: Operation) -> Phase:
        """Where a step stands."""
        return self.states[operation.id].phase

    def waits_for(self, operation: Operation) -> Operation | None:
        """The first step that has to be over before this one can begin: what makes its lots,
        or what is on its station.
        """
        needed = set(self.edges[operation.id]["in"])
        for other in self.operations:
            if other.id == operation.id:
                break
            made = self.edges[other.id]["out"]
            over = self.phase(other) in {Phase.DONE, Phase.DROPPED}
            busy = self.phase(other) is Phase.RUNNING and self._same_station(other, operation)
            if not over and (needed & set(made) or _goes_before(other, operation) or busy):
                return other
        return None

    def _same_station(self, one: Operation, other: Operation) -> bool:
        station = self.stations.get(one.station_id or 0)
        shared = one.station_id == other.station_id
        return shared and station is not None and station.kind in EXCLUSIVE

    def lot_of(self, operation: Operation) -> Lot | None:
        """The juice that a reading at this step is about."""
        ids = self.edges[operation.id]["out"]
        return next((self.lots[i] for i in ids if self.lots[i].kind == "juice"), None)

    def measured(self, lot_id: int, quantity: str) -> Reading | None:
        """A lot's newest reading of a quantity."""
        found = [r for r in self.readings if r.lot_id == lot_id and r.quantity == quantity]
        return found[-1] if found else None

    @property
    def finished(self) -> bool:
        """Whether every step is over."""
        return all(self.phase(o) in {Phase.DONE, Phase.DROPPED} for o in self.operations)

    def juice_ml(self) -> tuple[Estimate, float]:
        """Juice in all [mL], measured loads beside predicted ones, and the measured part of it."""
        lo = typ = hi = drawn = 0.0
        for lot in self.lots.values():
            if not lot.key.startswith("juice"):
                continue
            reading = self.measured(lot.id, "volume_ml")
            predicted = estimate_from(lot.predicted["volume_ml"])
            if reading is not None:
                drawn += reading.value
                spread = readings.quantity("volume_ml").half_width(reading.value)
                lo, typ, hi = (
                    lo + reading.value - spread,
                    typ + reading.value,
                    hi + reading.value + spread,
                )
            elif predicted is not None:
                lo, typ, hi = lo + predicted.lo, typ + predicted.typ, hi + predicted.hi
        evidence = Evidence.MEASURED if drawn else Evidence.TYPICAL
        return Estimate(lo, typ, hi, evidence), drawn

    def meter_ph(self) -> float | None:
        """The meter's pH of what is filled: the pooled juice's, else the least sharp load's."""
        by_lot: dict[str, float] = {}
        for reading in self.readings:
            if reading.instrument == "ph_meter" and reading.lot_id in self.lots:
                by_lot[self.lots[reading.lot_id].key] = reading.value
        if "hot" in by_lot:
            return by_lot["hot"]
        loads = [lot.key for lot in self.lots.values() if lot.key.startswith("juice")]
        read_all = loads and all(key in by_lot for key in loads)
        return max(by_lot.values()) if read_all else None

    def tested_time(self, kinds: Sequence[str]) -> process.Lookup:
        """What the tables say of this juice in these jars, with what has been read so far."""
        sizes = [jar_kinds.kind(k).process_as_ml for k in kinds]
        size = None if not sizes or None in sizes else max(s for s in sizes if s is not None)
        return process.look_up(
            process.juice_product(self.batch.fruit_key),
            size,
            self.kitchen.altitude_m,
            self.batch.fruit_key,
            self.kitchen.canner.heater,
            self.meter_ph() if self.meter_ph() is not None else self.batch.load.get("ph"),
            self._predicted_ph_hi(),
            place="process",
        )

    def _predicted_ph_hi(self) -> float | None:
        hot = next((lot for lot in self.lots.values() if lot.key == "hot"), None)
        predicted = estimate_from(hot.predicted["ph"]) if hot else None
        return predicted.hi if predicted else None


def replay(operation: Operation, events: Sequence[Event], people: Mapping[int, str]) -> StepState:
    """A step's state from its stored events."""
    return lifecycle.replay(
        StepState(operation.kind, operation.minutes),
        (StepEvent(e.kind, e.at, people.get(e.person_id, ""), e.data) for e in events),
    )


def _goes_before(other: Operation, operation: Operation) -> bool:
    """Order that no lot carries: clean jars before filling, each cooling after its process."""
    if other.kind == "sterilise":
        return operation.kind == "fill"
    pair = (other.kind, operation.kind)
    if pair == ("process", "cool"):
        return bool(other.params["load"] == operation.params["load"])
    return pair == ("process", "seal_check")


def view(orm: Orm, who: Who, batch: Batch) -> BatchView:
    """A batch as Cook shows it."""
    folder = Folder(orm, who, batch)
    fruit = materials.fruit(batch.fruit_key)
    fruit_lot = folder.lots[batch.fruit_lot_id]
    juice, drawn = folder.juice_ml()
    generous = batch.predicted["generous"]
    return BatchView(
        id=batch.id,
        code=batch.code,
        title=batch.title,
        fruit_key=fruit.key,
        fruit=fruit.name,
        colour=fruit.colour,
        fruit_kg=batch.load["fruit_kg"],
        source=fruit_lot.source or "",
        picked_on=fruit_lot.picked_on,
        keep=batch.keep,
        method=methods.method(batch.method_key).name,
        started_at=batch.started_at,
        started_by=folder.people.get(batch.started_by, ""),
        version=batch.version,
        finished=folder.finished,
        steps=[step_view(folder, o) for o in folder.operations],
        lots=[lot_view(folder, lot) for lot in folder.lots.values()],
        operations=[_flow_operation(folder, o) for o in folder.operations],
        jars=jar_view.views(orm, who, folder.jars, {batch.id: batch}),
        juice_l=juice.scaled(0.001),
        juice_measured_l=drawn / 1000,
        jars_ready=[JarCount(**jar) for jar in generous["jars"]],
        process=ProcessView(**batch.process) if batch.process else None,
        findings=[f for f in folder.cautions if f.place in {"", "fruit"}],
    )


def line(folder: Folder) -> BatchLine:
    """A batch in a list, with the step it is at."""
    running = [o for o in folder.operations if folder.phase(o) is Phase.RUNNING]
    waiting = [o for o in folder.operations if folder.phase(o) is Phase.WAITING]
    now = [title(o) for o in running] or [f"next: {title(o)}" for o in waiting[:1]] or ["finished"]
    return BatchLine(
        id=folder.batch.id,
        code=folder.batch.code,
        title=folder.batch.title,
        colour=materials.fruit(folder.batch.fruit_key).colour,
        started_at=folder.batch.started_at,
        started_by=folder.people.get(folder.batch.started_by, ""),
        finished=folder.finished,
        now=", ".join(now),
    )


def title(operation: Operation) -> str:
    """A step's title in plain words."""
    return text(operation, "title")


def text(operation: Operation, key: str) -> str:
    """A step's words with its own figures."""
    words = tables.document("operations")[operation.kind]
    return str(words[key]).format(**operation.params)


def step_view(folder: Folder, operation: Operation) -> StepView:
    """One step as Cook shows it."""
    state = folder.states[operation.id]
    waits = folder.waits_for(operation)
    station = folder.stations.get(operation.station_id or 0)
    lot = folder.lot_of(operation)
    params = operation.params
    edges = folder.edges[operation.id]
    return StepView(
        id=operation.id,
        key=operation.key,
        kind=operation.kind,
        title=title(operation),
        station=StationView(station.id, station.name, station.kind) if station else None,
        phase=state.phase,
        ready=state.phase is Phase.WAITING and waits is None,
        waits_for=title(waits) if waits else "",
        opens_at=_opens_at(folder, operation),
        before=text(operation, "before"),
        look_for=text(operation, "look_for"),
        then=text(operation, "then"),
        hands=text(operation, "hands"),
        minutes=Estimate(
            min(operation.minutes_lo, state.minutes),
            state.minutes,
            max(operation.minutes_hi, state.minutes),
        ),
        started_at=state.started_at,
        clock_from=state.clock_from,
        due_at=state.due_at,
        extra_minutes=state.extra_minutes,
        counts_from_boil=operation.kind in lifecycle.BOILED,
        boils_lost=state.boils_lost,
        finished_at=state.finished_at,
        finished_by=state.finished_by,
        cautions=[f for f in folder.cautions if f.place == operation.kind],
        stops=_stops(folder, operation),
        readings=[_reading(folder, r) for r in folder.readings if r.operation_id == operation.id],
        asks=[_askable(q, lot) for q in ASKED.get(operation.kind, ())],
        pan=_pan(folder, operation, state),
        target_c=params.get("target"),
        packing=_packing(params.get("packing", {})),
        part_kind=params.get("leftover_kind"),
        part_ml=params.get("leftover_ml", 0.0),
        jar_ids=jar_ids(folder, operation),
        takes=[folder.lots[i].key for i in edges["in"]],
        gives=[folder.lots[i].key for i in edges["out"]],
    )


def _opens_at(folder: Folder, operation: Operation) -> datetime | None:
    window = seal_from(folder, operation) if operation.kind == "seal_check" else None
    return window[0] if window else None


def _packing(counts: Mapping[str, int]) -> list[JarCount]:
    kinds = [jar_kinds.kind(k) for k in counts]
    return [JarCount(k.key, k.name, k.nominal_ml, counts[k.key]) for k in kinds]


def jar_ids(folder: Folder, operation: Operation) -> list[int]:
    """The jars a canner load, a cooling, a seal check or a carrying away is about.

    A check looks at the loads it names; the first one at every load that was not a second go.
    """
    if operation.kind in {"chill", "freeze"}:
        return [j.id for j in folder.jars if not j.part_filled]
    loads = operation.params.get("canner_loads") or [operation.params.get("load")]
    first_check = operation.kind == "seal_check" and "canner_loads" not in operation.params
    return [
        j.id
        for j in folder.jars
        if j.canner_load in loads or (first_check and 0 < j.canner_load < SECOND_GO)
    ]


def _stops(folder: Folder, operation: Operation) -> list[Finding]:
    """Stops that stand at a step now, such as a canner waiting for a reading."""
    if operation.kind != "process" or folder.phase(operation) in {Phase.DONE, Phase.DROPPED}:
        return []
    kinds = [j.jar_kind for j in folder.jars if j.canner_load == operation.params["load"]]
    planned = [jar["kind"] for jar in folder.batch.predicted["expected"]["jars"]]
    return list(folder.tested_time(kinds or planned).stops)


def _askable(quantity: str, lot: Lot | None) -> Askable:
    what = readings.quantity(quantity)
    instruments = [i for i, (reads, _) in readings.INSTRUMENTS.items() if reads == quantity]
    about = lot if quantity in UNITS_OF_LOT else None
    predicted = estimate_from(about.predicted.get(quantity)) if about else None
    return Askable(
        quantity, what.name, what.unit, what.lo, what.hi, instruments,
        about.id if about else None, predicted,
    )  # fmt: skip


def _reading(folder: Folder, reading: Reading) -> ReadingView:
    what = readings.quantity(reading.quantity)
    lot = folder.lots.get(reading.lot_id or 0)
    predicted = estimate_from(lot.predicted.get(reading.quantity)) if lot else None
    word, words = what.comparison(predicted, reading.value) if predicted else ("", "")
    return ReadingView(
        id=reading.id,
        quantity=reading.quantity,
        name=what.name,
        unit=what.unit,
        value=reading.value,
        instrument=reading.instrument,
        evidence=reading.evidence,
        at=reading.at,
        by=folder.people.get(reading.person_id, ""),
        lot_id=reading.lot_id,
        predicted=predicted,
        agreement=word,
        words=words,
    )


def _pan(folder: Folder, operation: Operation, state: StepState) -> PanView | None:
    """The water pan of a running steam load, since its start or its last refill."""
    if operation.kind != "steam_juice" or state.phase is not Phase.RUNNING:
        return None
    refills = [
        e.at
        for e in folder.events
        if e.operation_id == operation.id and e.kind == "noted" and e.data.get("what") == "refilled"
    ]
    since = refills[-1] if refills else state.started_at
    if since is None:
        return None
    pan_l, rate = operation.params["pan_l"], operation.params["boil_off_kg_h"]
    dry_at = since + timedelta(minutes=juicing.minutes_to_dry(pan_l, rate))
    return PanView(pan_l, since, dry_at, dry_at - PAN_WARNING)


def lot_view(folder: Folder, lot: Lot) -> LotView:
    """A lot with its newest readings beside its predictions."""
    newest = {q: folder.measured(lot.id, q) for q in ("volume_ml", "brix", "ph")}
    agreement = {}
    for quantity, reading in newest.items():
        predicted = estimate_from(lot.predicted.get(quantity))
        if reading is not None and predicted is not None:
            what = readings.quantity(quantity)
            agreement[quantity] = what.comparison(predicted, reading.value)[1]

    def value(quantity: str) -> float | None:
        reading = newest[quantity]
        return reading.value if reading else None

    return LotView(
        id=lot.id,
        key=lot.key,
        kind=lot.kind,
        name=lot.name,
        fruit_key=lot.fruit_key,
        predicted=flow_lot(lot),
        volume_ml=value("volume_ml"),
        brix=value("brix"),
        ph=value("ph"),
        agreement=agreement,
    )


def flow_lot(lot: Lot) -> FlowLot:
    """A stored lot for the ribbon."""
    predicted: dict[str, Any] = {k: estimate_from(v) for k, v in lot.predicted.items()}
    return FlowLot(lot.key, lot.kind, lot.name, **predicted)


def _flow_operation(folder: Folder, operation: Operation) -> FlowOperation:
    edges = folder.edges[operation.id]
    return FlowOperation(
        key=operation.key,
        kind=operation.kind,
        verb=text(operation, "verb"),
        title=title(operation),
        minutes=Estimate(operation.minutes_lo, operation.minutes, operation.minutes_hi),
        takes=[folder.lots[i].key for i in edges["in"]],
        gives=[folder.lots[i].key for i in edges["out"]],
    )


def lines(orm: Orm, who: Who) -> list[BatchLine]:
    """Every batch of the household, those under way first, newest first."""
    found = [line(Folder(orm, who, b)) for b in queries.all_of(orm, who.household_id, Batch)]
    return sorted(found, key=lambda b: (b.finished, -b.started_at.timestamp()))


def folder_of(orm: Orm, who: Who, batch_id: int, lock: bool = False) -> Folder:
    """The folder of a batch of this household.

    Raises:
        NotFound: missing, or another household's.
    """
    return Folder(orm, who, batches.find(orm, who, batch_id, lock=lock))


def seal_from(folder: Folder, operation: Operation) -> tuple[datetime, datetime] | None:
    """When the seals of a check may be looked at: 12 to 24 hours after the last jar came out."""
    jars = set(jar_ids(folder, operation))
    coolings = [
        folder.states[o.id].started_at
        for o in folder.operations
        if o.kind == "cool"
        and jars & set(jar_ids(folder, o))
        and folder.phase(o) in {Phase.RUNNING, Phase.DONE}
    ]
    times = [t for t in coolings if t is not None]
    if not times:
        return None
    return max(times) + timedelta(hours=12), max(times) + timedelta(hours=24)
