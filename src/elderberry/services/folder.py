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
from elderberry.core import method as methods
from elderberry.core import process
from elderberry.core.batch import lifecycle, readings
from elderberry.core.batch.follow import Known, Made, follow, now
from elderberry.core.batch.lifecycle import Phase, StepEvent, StepState
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.findings import Finding
from elderberry.core.flow.kinds import EXTRACTING, kind, kinds
from elderberry.core.rules import Facts, standing
from elderberry.services import batches, kitchens, own_processes, waters
from elderberry.services.plan_view import estimate_from
from elderberry.services.who import Who
from elderberry.store import Batch, Event, Jar, Lot, Operation, Person, Reading, Station, queries

STEP_EVENTS = {kind for _, kind in lifecycle.TRANSITIONS}
SECOND_GO = 100
"""Canner loads numbered above this are of jars whose seal failed the first time."""
KEEPS_ACIDITY = {"strain", "settle", "skim", "combine", "split", "heat_to", "boil_through"}
"""Steps through which a meter's reading carries: nothing joins but juice, or acid."""
EXCLUSIVE = {"juicer", "burner", "canner"}
"""Stations that hold one step at a time."""
STARTS_BY_ITSELF = {key for key, what in kinds().items() if not what.timed}
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

    @cached_property
    def method(self) -> methods.Method:
        """The method as it was when the batch began."""
        row = self.batch.load.get("method")
        return methods.of_row(row) if row else methods.method(self.batch.method_key)

    @property
    def product(self) -> str:
        """The product whose rows this takes, as sweet as it was planned."""
        stored = self.batch.load.get("product")
        return stored or self.method.product_of(self.batch.fruit_key)

    @cached_property
    def own_process(self) -> process.OwnProcess | None:
        """The household's own process for the product, if it has entered one."""
        return own_processes.of_product(self.orm, self.who, self.product)

    @cached_property
    def cautions(self) -> list[Finding]:
        """Cautions and notes at their places, for this fruit and these steps."""
        load = self.batch.load
        litres = max(self.juice_ml()[0].typ / 1000.0, 1e-9)
        return standing(
            Facts(
                operations=frozenset(o.kind for o in self.operations),
                fruits=frozenset({self.batch.fruit_key}),
                closures=frozenset(jar_kinds.kind(j.jar_kind).closure for j in self.jars),
                keep=self.batch.keep,
                ingredients={k: g / litres for k, g in load.get("holds_g", {}).items()},
                said=self.said,
            )
        )

    @property
    def said(self) -> frozenset[str]:
        """What the cook has said, in Plan and since."""
        since = [word for e in self.events if e.kind == "said" for word in e.data["words"]]
        return frozenset((*self.batch.load.get("said", ()), *since))

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
        """What a reading at this step is about: the main thing that comes out of it."""
        ids = self.edges[operation.id]["out"]
        return self.lots[ids[0]] if ids else None

    def measured(self, lot_id: int, quantity: str) -> Reading | None:
        """A lot's newest reading of a quantity."""
        found = [r for r in self.readings if r.lot_id == lot_id and r.quantity == quantity]
        return found[-1] if found else None

    @cached_property
    def instruments(self) -> list[str]:
        """What there is to read with."""
        return list(kitchens.stored(self.orm, self.who).instruments)

    @cached_property
    def corrected(self) -> set[int]:
        """Readings that a later entry put right."""
        return {e.data["reading"] for e in self.events if e.kind == "corrected"}

    @property
    def finished(self) -> bool:
        """Whether every step is over."""
        return all(self.phase(o) in {Phase.DONE, Phase.DROPPED} for o in self.operations)

    @cached_property
    def known(self) -> dict[int, Known]:
        """Every lot as a multiple of what was predicted of it, by what has been read."""
        made = [
            Made(
                self.edges[o.id]["in"], self.edges[o.id]["out"],
                waters.beyond_g(self.readings, o, self.kitchen),
            )
            for o in self.operations
        ]  # fmt: skip
        masses = {i: estimate_from(lot.predicted["mass_g"]) for i, lot in self.lots.items()}
        return follow(made, {i: m for i, m in masses.items() if m}, self._read())

    def _read(self) -> dict[int, float]:
        """Lots whose litres or kilos were read, as multiples of their prediction."""
        found = {}
        for lot_id, lot in self.lots.items():
            for quantity in ("mass_g", "volume_ml"):
                reading = self.measured(lot_id, quantity)
                predicted = estimate_from(lot.predicted[quantity])
                if reading is not None and predicted is not None and predicted.typ > 0:
                    found[lot_id] = reading.value / predicted.typ
        return found

    def volume_of(self, lot: Lot) -> Estimate:
        """A lot's volume as it is known now [mL]."""
        predicted = estimate_from(lot.predicted["volume_ml"])
        assert predicted is not None  # every lot was stored with its volume
        share = readings.quantity("volume_ml").error_share
        return now(predicted, self.known[lot.id], share)

    @cached_property
    def filled_lots(self) -> list[Lot]:
        """What goes into the jars."""
        step = next((o for o in self.operations if o.kind == "fill"), None)
        return [self.lots[i] for i in self.edges[step.id]["in"]] if step else []

    def juice_ml(self) -> tuple[Estimate, float]:
        """What will be filled [mL], as read or predicted; and what has been drawn and measured."""
        volumes = [self.volume_of(lot) for lot in self.filled_lots]
        drawn = sum(
            reading.value
            for operation in self.operations
            if operation.kind in EXTRACTING
            for i in self.edges[operation.id]["out"]
            if self.lots[i].kind == "juice"
            and (reading := self.measured(i, "volume_ml")) is not None
        )
        whole = Estimate(
            sum(v.lo for v in volumes), sum(v.typ for v in volumes), sum(v.hi for v in volumes),
            Evidence.MEASURED if drawn else Evidence.TYPICAL,
        )  # fmt: skip
        return whole, drawn

    @property
    def hot_ml(self) -> float:
        """The juice there is now, as it fills hot [mL]."""
        return self.juice_ml()[0].typ / self.method.fill_ratio

    def packing(self) -> jar_kinds.Packing:
        """The juice there is now, as it fills hot, in the jars that were chosen."""
        chosen = self.batch.load["jar_kinds"]
        stock = {k: n for k, n in self.kitchen.jar_stock.items() if k in chosen}
        if self.batch.keep != "shelf":
            return jar_kinds.pack_cold(self.hot_ml, stock, math.inf, self.kitchen.canner.jars)
        largest = process.largest_jar_ml(self.product, self.batch.fruit_key, self.own_process)
        return jar_kinds.pack(self.hot_ml, stock, largest, self.kitchen.canner.jars)

    def meter_ph(self) -> float | None:
        """The meter's pH of what is filled: its own, else the least sharp of all that made it."""
        return self._meter_ph([lot.id for lot in self.filled_lots])

    def _meter_ph(self, lots: Sequence[int]) -> float | None:
        found = [self._meter_ph_of(lot) for lot in lots]
        return None if not found or None in found else max(p for p in found if p is not None)

    def _meter_ph_of(self, lot_id: int) -> float | None:
        """A lot's own reading, or that of what went into it; added acid only makes it sharper."""
        read = [
            r.value for r in self.readings
            if r.lot_id == lot_id and r.quantity == "ph" and r.instrument == "ph_meter"
        ]  # fmt: skip
        if read:
            return read[-1]
        maker = next((o for o in self.operations if lot_id in self.edges[o.id]["out"]), None)
        if maker is None or maker.kind not in KEEPS_ACIDITY:
            return None
        takes = [i for i in self.edges[maker.id]["in"] if self.lots[i].key != "added"]
        return self._meter_ph(takes)

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
            must_read=self._must_read(),
        )

    def _must_read(self) -> bool:
        """Whether a meter has to speak whatever the row's gate: it had read too high before acid
        was stirred in, or water has made a table's juice into something weaker.
        """
        given = self.batch.load.get("ph")
        limit = process.ph_limit(self.product, self.batch.fruit_key)
        too_high = given is not None and limit is not None and given > limit
        return too_high or bool(self.batch.load.get("watered_down"))

    def _known_ph(self) -> float | None:
        """What a meter has shown of the juice; the fruit's own reading counts where nothing was
        stirred in since.
        """
        read = self.meter_ph()
        joined = any(lot.kind in {"water", "added"} for lot in self.lots.values())
        if read is not None or joined:
            return read
        given = self.batch.load.get("ph")
        return float(given) if given is not None else None

    def _predicted_ph_hi(self) -> float | None:
        found = [estimate_from(lot.predicted["ph"]) for lot in self.filled_lots]
        return max((ph.hi for ph in found if ph), default=None)


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
    what = kind(operation.kind)
    return what.words[key].format(**{**what.usual, **operation.params})


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
