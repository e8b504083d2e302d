"""A batch under way: its rows, where each step stands, and the readings that count."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property

from elderberry.core.batch import lifecycle, readings, readings_of
from elderberry.core.batch.laid import LaidOut
from elderberry.core.batch.lifecycle import Phase, StepEvent, StepState
from elderberry.core.batch.readings_of import Counted
from elderberry.core.batch.remembered import of_step
from elderberry.core.batch.rows import Edges, EventRow, JarRow, LotRow, OperationRow, ReadingRow
from elderberry.core.batch.traced import Break, unbroken_min
from elderberry.core.flow.draft import Forecasts
from elderberry.core.flow.inputs import Brief
from elderberry.core.flow.kinds import DRIES, kind
from elderberry.core.flow.rows import estimate_of
from elderberry.core.kitchen import ON_A_RING, Kitchen
from elderberry.core.method import Method
from elderberry.core.process import OwnProcess

STEP_EVENTS = frozenset(event for _, event in lifecycle.TRANSITIONS)
EXCLUSIVE = frozenset({*ON_A_RING, "freeze_dryer", "dryer"})
"""Stations that hold one step at a time."""
OVER = frozenset({Phase.DONE, Phase.DROPPED})


@dataclass(eq=False)
class UnderWay:
    """A batch with all its rows: where its steps stand, and which readings count.

    stations: the kind of each station, by its id. forecasts: the yields that it was planned with.
    laid: how it was laid out last, for whoever looks at the same batch again.
    """

    method: Method
    brief: Brief
    kitchen: Kitchen
    operations: Sequence[OperationRow]
    lots: Mapping[int, LotRow]
    edges: Edges
    events: Sequence[EventRow]
    readings: Sequence[ReadingRow]
    jars: Sequence[JarRow]
    stations: Mapping[int, str] = field(default_factory=dict)
    people: Mapping[int, str] = field(default_factory=dict)
    own: Mapping[str, OwnProcess] = field(default_factory=dict)
    forecasts: Forecasts = field(default_factory=dict)
    laid: LaidOut = field(default_factory=LaidOut)

    @cached_property
    def states(self) -> dict[int, StepState]:
        """Each step as its events have left it."""
        return {o.id: self._state(o) for o in self.operations}

    def _state(self, operation: OperationRow) -> StepState:
        return replay(operation, self.happened(operation, *STEP_EVENTS), self.people)

    def happened(self, operation: OperationRow, *kinds: str) -> list[EventRow]:
        """What happened at a step, in order: events of some kinds, or all of them."""
        mine = self._events_at.get(operation.id, [])
        return [e for e in mine if e.kind in kinds] if kinds else mine

    @cached_property
    def _events_at(self) -> dict[int | None, list[EventRow]]:
        """Everything that happened, by the step that it happened at."""
        found: dict[int | None, list[EventRow]] = {}
        for event in self.events:
            found.setdefault(event.operation_id, []).append(event)
        return found

    def phase(self, operation: OperationRow) -> Phase:
        """Where a step stands."""
        return self.states[operation.id].phase

    def over(self, operation: OperationRow) -> bool:
        """Whether a step is done or was not needed."""
        return self.phase(operation) in OVER

    @property
    def finished(self) -> bool:
        """Whether every step is over."""
        return all(self.over(o) for o in self.operations)

    def of_role(self, *roles: str) -> list[OperationRow]:
        """Its steps of a role, in their order."""
        return [o for o in self.operations if kind(o.kind).role in roles]

    @cached_property
    def fillings(self) -> list[OperationRow]:
        """The fillings that it ends in."""
        return self.of_role("fill")

    def fill_of(self, operation: OperationRow) -> OperationRow | None:
        """The filling that a step belongs to; the only one where it does not say."""
        fills = self.fillings
        key = operation.params.get("fill") or operation.key
        return next((f for f in fills if f.key == key), fills[0] if fills else None)

    @of_step
    def waits_for(self, operation: OperationRow) -> OperationRow | None:
        """The first step that has to be over before this one can begin: what makes its lots,
        or what is on its station.
        """
        needed = set(self.edges[operation.id]["in"])
        for other in self.operations:
            if other.id == operation.id:
                break
            made = set(self.edges[other.id]["out"])
            busy = self.phase(other) is Phase.RUNNING and self._in_the_way(other, operation)
            first = needed & made or self._goes_before(other, operation) or busy
            if first and not self.over(other) and not self._goes_without(operation, other):
                return other
        return None

    def _goes_without(self, operation: OperationRow, other: OperationRow) -> bool:
        """Whether a step may begin though another is not over: heating and filling go load by load,
        and so do the jars that are filled into the canner.
        """
        role = kind(operation.kind).role
        if role in {"heat", "fill"} and kind(other.kind).gets_juice:
            makers = (self.makers.get(lot) for lot in self.edges[operation.id]["in"])
            return any(m and kind(m.kind).gets_juice and self.over(m) for m in makers)
        if role == "process" and kind(other.kind).role == "fill":
            lots, load = set(self.edges[other.id]["out"]), operation.params["load"]
            return any(j.lot_id in lots and j.canner_load == load for j in self.jars)
        return False

    @cached_property
    def makers(self) -> dict[int, OperationRow]:
        """The step that each lot comes out of."""
        return {lot: o for o in self.operations for lot in self.edges[o.id]["out"]}

    def _in_the_way(self, other: OperationRow, operation: OperationRow) -> bool:
        shared = other.station_id == operation.station_id
        one_at_a_time = self.stations.get(operation.station_id or 0) in EXCLUSIVE
        return shared and one_at_a_time and not self.fits_beside(operation)

    def fits_beside(self, operation: OperationRow) -> bool:
        """Whether the trays of a step go into its dryer with those of this batch that are in it."""
        if kind(operation.kind).role not in DRIES:
            return False
        vacuum = kind(operation.kind).role == "freeze_dry"
        machine = self.kitchen.freeze_dryer if vacuum else self.kitchen.dryer
        inside = (
            o
            for o in self.operations
            if o.station_id == operation.station_id and self.phase(o) is Phase.RUNNING
        )
        taken = sum(int(o.params["trays"]) for o in inside if o.id != operation.id)
        return taken + int(operation.params["trays"]) <= machine.trays

    def _goes_before(self, other: OperationRow, operation: OperationRow) -> bool:
        """Order that no lot carries: clean jars before filling, each cooling after its process."""
        if self.fill_of(other) is not self.fill_of(operation):
            return False
        pair = (kind(other.kind).role, kind(operation.kind).role)
        if pair == ("process", "cool"):
            return bool(other.params["load"] == operation.params["load"])
        return pair in {("sterilise", "fill"), ("process", "check")}

    def lot_of(self, operation: OperationRow) -> LotRow | None:
        """What a reading at this step is about: the main thing that comes out of it."""
        ids = self.edges[operation.id]["out"]
        return self.lots[ids[0]] if ids else None

    @cached_property
    def counted(self) -> tuple[Counted, ...]:
        """The readings that count, each where it was first read."""
        return readings_of.counted(self.readings, self.events)

    @cached_property
    def corrected(self) -> set[int]:
        """Readings that a later entry put right."""
        return {e.data["reading"] for e in self.events if e.kind == "corrected"}

    def measured(self, lot_id: int, quantity: str) -> ReadingRow | None:
        """A lot's newest reading of a quantity that counts."""
        return self._newest.get((lot_id, quantity))

    def compared(self, lot: LotRow | None, quantity: str, value: float) -> tuple[str, str]:
        """How a reading compares with what was planned of its lot, as a word and as a sentence.

        Empty where nothing was planned of it.
        """
        predicted = estimate_of(lot.predicted.get(quantity)) if lot else None
        if lot is None or predicted is None:
            return "", ""
        maker = self.makers.get(lot.id)
        after = kind(maker.kind).sort if maker else ""
        return readings.quantity(quantity).comparison(predicted, value, after)

    @cached_property
    def _newest(self) -> dict[tuple[int | None, str], ReadingRow]:
        """The newest reading that counts, by lot and quantity."""
        return {(r.row.lot_id, r.row.quantity): r.row for r in self.counted}

    def read_at(self, operation: OperationRow, quantity: str) -> list[float]:
        """What was read at a step, the oldest first."""
        return [
            r.value
            for r in self.counted
            if (r.row.operation_id, r.row.quantity) == (operation.id, quantity)
        ]


def replay(
    operation: OperationRow, events: Sequence[EventRow], people: Mapping[int, str]
) -> StepState:
    """A step's state from its stored events."""
    return lifecycle.replay(
        StepState(operation.kind, operation.minutes),
        (StepEvent(e.kind, e.at, people.get(e.person_id, ""), e.data) for e in events),
    )


def boiled_minutes(state: StepState, broken: Iterable[Break] = ()) -> float:
    """Minutes that a finished step stood at the boil; none where nobody saw it boil [min].

    broken: where a probe in its bath saw it below the boil: the longest without a break counts.
    """
    if state.clock_from is None or state.finished_at is None:
        return 0.0
    return unbroken_min(state.clock_from, state.finished_at, broken)
