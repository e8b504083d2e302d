"""A batch with all its rows, and what they amount to: phases, waits, juice, jars, tested time."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import cached_property

from sqlalchemy.orm import Session as Orm

from elderberry.core import jars as jar_kinds
from elderberry.core import kitchen as core_kitchen
from elderberry.core import lifecycle, process, readings, sugar, tables
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.findings import Finding
from elderberry.core.lifecycle import Phase, StepEvent, StepState
from elderberry.core.rules import Facts, standing
from elderberry.services import batches, kitchens, own_processes
from elderberry.services.plans import estimate_from
from elderberry.services.who import Who
from elderberry.store import Batch, Event, Jar, Lot, Operation, Person, Reading, Station, queries

STEP_EVENTS = {kind for _, kind in lifecycle.TRANSITIONS}
SECOND_GO = 100
"""Canner loads numbered above this are of jars whose seal failed the first time."""
EXCLUSIVE = {"juicer", "burner", "canner"}
"""Stations that hold one step at a time."""
STARTS_BY_ITSELF = {"heat_to", "fill", "seal_check", "chill", "freeze"}
"""Steps with nothing to time: a reading or Done starts them, so nobody presses twice."""


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

    @property
    def product(self) -> str:
        """The product whose rows this juice takes."""
        return process.juice_product(self.batch.fruit_key)

    @cached_property
    def own_process(self) -> process.OwnProcess | None:
        """The household's own process for the product, if it has entered one."""
        return own_processes.of_product(self.orm, self.who, self.product)

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

    @property
    def hot_ml(self) -> float:
        """The juice there is now, as it fills hot [mL]."""
        return self.juice_ml()[0].typ / float(sugar.hot_ratio(process.FILL_C))

    def packing(self) -> jar_kinds.Packing:
        """The juice there is now, as it fills hot, in the jars that were chosen."""
        chosen = self.batch.load["jar_kinds"]
        stock = {k: n for k, n in self.kitchen.jar_stock.items() if k in chosen}
        if self.batch.keep != "shelf":
            return jar_kinds.pack_cold(self.hot_ml, stock, math.inf, self.kitchen.canner.jars)
        largest = process.largest_jar_ml(self.product, self.batch.fruit_key)
        return jar_kinds.pack(self.hot_ml, stock, largest, self.kitchen.canner.jars)

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
            self.product,
            size,
            self.kitchen.altitude_m,
            self.batch.fruit_key,
            self.kitchen.canner.heater,
            self._known_ph(),
            self._predicted_ph_hi(),
            place="process",
            own=self.own_process,
            must_read=self._read_too_high(),
        )

    def _read_too_high(self) -> bool:
        """Whether the juice had read over the limit before acid was stirred in."""
        given = self.batch.load.get("ph")
        limit = process.ph_limit(self.product, self.batch.fruit_key)
        return given is not None and limit is not None and given > limit

    def _known_ph(self) -> float | None:
        """What a meter has shown of the juice; the fruit's own reading counts where nothing was
        stirred in since.
        """
        read = self.meter_ph()
        if read is not None or self.batch.load.get("ingredients_g"):
            return read
        given = self.batch.load.get("ph")
        return float(given) if given is not None else None

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


def title(operation: Operation) -> str:
    """A step's title in plain words."""
    return text(operation, "title")


def text(operation: Operation, key: str) -> str:
    """A step's words with its own figures."""
    words = tables.document("operations")[operation.kind]
    return str(words[key]).format(**operation.params)


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
