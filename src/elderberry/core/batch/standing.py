"""Standing: what a batch amounts to now, from its rows and events, without a database.

What each lot holds, which step may start and what it waits for, which jars wait for what and until
when, and what the tables say of what is really in them. Plan, Cook, Today and the planner ask it.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime, timedelta
from functools import cached_property

from elderberry.core import ends, juicing, sugar
from elderberry.core import jars as jar_kinds
from elderberry.core import plan as plans
from elderberry.core.batch import lifecycle, readings_of
from elderberry.core.batch.lifecycle import Phase, StepEvent, StepState
from elderberry.core.batch.midway import GOAL_OF, Midway, midway
from elderberry.core.batch.readings_of import Counted
from elderberry.core.batch.rows import Edges, EventRow, JarRow, LotRow, OperationRow, ReadingRow
from elderberry.core.errors import CannotTell, CoreError
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.findings import Finding
from elderberry.core.flow.draft import Forecasts, poured
from elderberry.core.flow.inputs import Brief, End
from elderberry.core.flow.kinds import Kind, kind
from elderberry.core.flow.lots import Lot
from elderberry.core.flow.rows import estimate_of
from elderberry.core.flow.seen import StepSeen
from elderberry.core.keeping import KEEPS
from elderberry.core.kitchen import Heater, Kitchen
from elderberry.core.method import Method
from elderberry.core.operations.reducing import goal_of
from elderberry.core.process import FILL_C, Contents, Lookup, OwnProcess
from elderberry.core.process.case import Case
from elderberry.core.quantities import System
from elderberry.core.rules import Facts, rule, standing
from elderberry.core.wording import worded

STEP_EVENTS = frozenset(event for _, event in lifecycle.TRANSITIONS)
SECOND_GO = 100
"""Canner loads numbered above this are of jars whose seal failed the first time."""
BOILED_WITHIN_MIN = 0.05
"""How far a boil may fall short of its minutes before it counts as short [min]."""
EXCLUSIVE = frozenset({"juicer", "burner", "canner"})
"""Stations that hold one step at a time."""
SEALS_FROM, SEALS_UNTIL = timedelta(hours=12), timedelta(hours=24)
ROOMY_BASKET_L = 100.0
"""Loads were counted when the batch began: a basket that has changed since changes none [L]."""
OVER = frozenset({Phase.DONE, Phase.DROPPED})


@dataclass(eq=False)
class Standing:
    """A batch with all its rows, and what they amount to.

    stations: the kind of each station, by its id. forecasts: the yields that it was planned with.
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

    # -- steps

    @cached_property
    def states(self) -> dict[int, StepState]:
        """Each step as its events have left it."""
        return {o.id: self._state(o) for o in self.operations}

    def _state(self, operation: OperationRow) -> StepState:
        mine = [e for e in self.events if e.operation_id == operation.id and e.kind in STEP_EVENTS]
        return replay(operation, mine, self.people)

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

    def waits_for(self, operation: OperationRow) -> OperationRow | None:
        """The first step that has to be over before this one can begin: what makes its lots,
        or what is on its station.
        """
        needed = set(self.edges[operation.id]["in"])
        for other in self.operations:
            if other.id == operation.id:
                break
            made = set(self.edges[other.id]["out"])
            busy = self.phase(other) is Phase.RUNNING and self._same_station(other, operation)
            first = needed & made or self._goes_before(other, operation) or busy
            if first and not self.over(other):
                return other
        return None

    def _same_station(self, one: OperationRow, other: OperationRow) -> bool:
        shared = one.station_id == other.station_id
        return shared and self.stations.get(one.station_id or 0) in EXCLUSIVE

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

    # -- readings

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
        found = [
            r.row for r in self.counted if (r.row.lot_id, r.row.quantity) == (lot_id, quantity)
        ]
        return found[-1] if found else None

    def read_at(self, operation: OperationRow, quantity: str) -> list[float]:
        """What was read at a step, the oldest first."""
        return [
            r.value
            for r in self.counted
            if (r.row.operation_id, r.row.quantity) == (operation.id, quantity)
        ]

    @cached_property
    def done(self) -> dict[str, StepSeen]:
        """What was seen of each operation: its heat, and its water by the pot's depth."""
        seen = {o.key: self._step_seen(o) for o in self.operations}
        return {key: found for key, found in seen.items() if found != StepSeen()}

    def _step_seen(self, operation: OperationRow) -> StepSeen:
        what, state = kind(operation.kind), self.states[operation.id]
        temps = self.read_at(operation, "temp_c") if what.heats else []
        boiled = None
        if what.boil and what.heats and state.phase is Phase.DONE:
            boiled = boiled_minutes(state)
        water = self.water_by_depth(operation)
        return StepSeen(boiled, max(temps[-1:], default=None), water.typ if water else None)

    def midway(self, operation: OperationRow) -> Midway | None:
        """How far what boils down has come, by its newest reading; None before there is any."""
        state = self.states[operation.id]
        if kind(operation.kind).role != "reduce" or state.clock_from is None or self.now is None:
            return None
        step = next(s for s in self.method.steps if s.key == operation.params["step"])
        taken = [self.now.lots[self.lots[i].key] for i in self.edges[operation.id]["in"]]
        pot = poured(tuple(taken)).composition.first()
        read = [
            r for r in self.counted
            if r.row.operation_id == operation.id and r.row.quantity in GOAL_OF
            and r.row.at >= state.clock_from
        ]  # fmt: skip
        if not read:
            return None
        newest = read[-1]
        minutes = (newest.row.at - state.clock_from).total_seconds() / 60
        rate = float(operation.params["rate_kg_h"])
        try:
            return midway(
                pot, goal_of(step), (newest.row.quantity, newest.value), minutes, rate,
                self.kitchen,
            )  # fmt: skip
        except CannotTell:
            return None

    def water_by_depth(self, operation: OperationRow) -> Estimate | None:
        """Water of a step that nobody measured, by the newest depth read in its pot [L]."""
        depths = self.read_at(operation, "depth_cm")
        if not depths or not unmeasured(operation):
            return None
        kg = float(operation.params["fruit_kg"])
        try:
            return juicing.water_from_depth_l(
                depths[-1], self.kitchen.widest_pot_cm() or POT_CM, kg
            )
        except CoreError:
            return None

    # -- what there is now

    @cached_property
    def now(self) -> plans.Plan | None:
        """The flow laid out once more, with every lot that was read as it was read."""
        seen = readings_of.of_lots(self.counted, self.lots, self.events)
        juicer = replace(self.kitchen.juicer, basket_l=ROOMY_BASKET_L)
        here = replace(self.kitchen, juicer=juicer)
        try:
            return plans.plan(
                self.method, self.brief, here, own=self.own, seen=seen, done=self.done,
                forecasts=self.forecasts,
            )  # fmt: skip
        except CoreError:
            return None

    def lot_now(self, lot: LotRow) -> Lot | None:
        """A lot as it is known now; None where the flow no longer has it."""
        return self.now.lots.get(lot.key) if self.now else None

    def figure_now(self, lot: LotRow, quantity: str) -> Estimate:
        """How much of a lot there is now, in "mass_g" or "volume_ml"."""
        now = self.lot_now(lot)
        predicted = estimate_of(lot.predicted.get(quantity))
        assert predicted is not None  # every lot was stored with its mass and volume
        if now is None:
            return predicted
        return now.mass_g if quantity == "mass_g" else now.volume_ml

    def volume_of(self, lot: LotRow) -> Estimate:
        """A lot's volume as it is known now [mL]."""
        return self.figure_now(lot, "volume_ml")

    # -- ends

    @property
    def fillings(self) -> list[OperationRow]:
        """The fillings that it ends in."""
        return self.of_role("fill")

    def fill_of(self, operation: OperationRow) -> OperationRow | None:
        """The filling that a step belongs to; the only one where it does not say."""
        fills = self.fillings
        key = operation.params.get("fill") or operation.key
        return next((f for f in fills if f.key == key), fills[0] if fills else None)

    def fill_of_jar(self, jar: JarRow) -> OperationRow | None:
        """The filling that a jar came from."""
        fills = self.fillings
        return next((f for f in fills if jar.lot_id in self.edges[f.id]["out"]), None)

    def jars_of(self, fill: OperationRow | None) -> list[JarRow]:
        """The jars of an end."""
        return [j for j in self.jars if self.fill_of_jar(j) is fill]

    def end(self, fill: OperationRow) -> End:
        """An end as it stands: what was meant for the shelf may have gone to the cold."""
        end = self.brief.end(fill.key)
        for event in self.events:
            if event.kind == "diverted" and event.data.get("fill", fill.key) == fill.key:
                end = replace(end, keep=event.data["keep"])
        return end

    def filled_lots(self, fill: OperationRow) -> list[LotRow]:
        """What goes into the jars of an end."""
        return [self.lots[i] for i in self.edges[fill.id]["in"]]

    def contents(self, fill: OperationRow) -> Contents | None:
        """What is in the jars of an end, or will be: as it was read."""
        lots = self.edges[fill.id]["out"]
        now = self.lot_now(self.lots[lots[0]]) if lots else None
        return Contents(now, self.said) if now else None

    def juice_ml(self, at: OperationRow | None = None) -> tuple[Estimate, float]:
        """What an end will fill [mL], as read or predicted; and what was drawn and measured."""
        fill = at or self.fillings[0]
        volumes = [self.volume_of(lot) for lot in self.filled_lots(fill)]
        drawn = sum(
            reading.value
            for operation in self.operations
            if kind(operation.kind).gets_juice
            for i in self.edges[operation.id]["out"]
            if self.lots[i].kind == "juice"
            and (reading := self.measured(i, "volume_ml")) is not None
        )
        whole = Estimate(
            sum(v.lo for v in volumes), sum(v.typ for v in volumes), sum(v.hi for v in volumes),
            Evidence.MEASURED if drawn else Evidence.TYPICAL,
        )  # fmt: skip
        return whole, drawn

    def hot_ratio(self, at: OperationRow | None = None) -> float:
        """Density as an end is filled over that at 20 °C [-]: volume divides by it."""
        fill = at or self.fillings[0]
        lots = set(self.edges[fill.id]["in"])
        heated = (o for o in self.of_role("heat") if lots & set(self.edges[o.id]["out"]))
        return float(sugar.hot_ratio(FILL_C)) if any(heated) else 1.0

    def hot_ml(self, at: OperationRow | None = None) -> float:
        """The juice there is now, as it is filled [mL]."""
        return self.juice_ml(at)[0].typ / self.hot_ratio(at)

    def packing(self, at: OperationRow | None = None) -> jar_kinds.Packing:
        """What there is now in the jars that were chosen."""
        fill = at or self.fillings[0]
        end = self.end(fill)
        if end.keep == "now":
            return ends.NO_JARS
        contents, there = self.contents(fill), self.kitchen.ready(end.keep, end.capped)
        stock = {k: n for k, n in there.items() if k in end.jar_kinds}
        if end.keep != "shelf" and contents is not None:
            frozen = end.keep == "freeze"
            volume = self.juice_ml(fill)[0].typ if frozen else self.hot_ml(fill)
            return ends.packed_cold(contents, volume, stock, self.kitchen, end.keep)
        case = self.case(fill)
        largest = case.largest_jar_ml if case else 0.0
        return jar_kinds.pack(self.hot_ml(fill), stock, largest, self.kitchen.canner.jars)

    def room_ml(self, fill: OperationRow, jar_kind: str) -> float:
        """What a jar of a kind is filled with at an end [mL]."""
        jar, contents = jar_kinds.kind(jar_kind), self.contents(fill)
        if contents is None:
            return jar.nominal_ml
        return ends.room_ml(jar, contents, self.end(fill).keep, self.kitchen.freeze_c)

    def case(self, fill: OperationRow, heater: Heater | None = None) -> Case | None:
        """The case of what is in the jars of an end."""
        contents = self.contents(fill)
        if contents is None:
            return None
        chosen = self.kitchen.canner.heater if heater is None else heater
        return Case(contents, self.kitchen, self.own, self.sterile(fill), chosen)

    def sterile(self, fill: OperationRow) -> bool:
        """Whether the jars of an end are boiled first, or were."""
        mine = [o for o in self.of_role("sterilise") if self.fill_of(o) is fill]
        return any(self.phase(o) is not Phase.DROPPED for o in mine)

    def tested_time(
        self, kinds: Iterable[str], fill: OperationRow | None = None, heater: Heater | None = None
    ) -> Lookup:
        """What the tables say of an end's contents in jars of some kinds, with what was read."""
        step = fill or self.fillings[0]
        case = self.case(step, heater)
        if case is None:
            return Lookup(None, (rule("product-untested").finding("process", product="this"),))
        sizes = [jar_kinds.kind(k).process_as_ml for k in kinds]
        size = None if not sizes or None in sizes else max(s for s in sizes if s is not None)
        found = case.in_jars(size)
        unclean = (
            found.time is not None
            and found.time.sterilise_min is not None
            and not self.sterile(step)
        )
        if not unclean or found.time is None:
            return found
        stop = rule("jars-not-sterilised").finding("fill", minutes=found.time.sterilise_min)
        return replace(found, stops=(*found.stops, stop))

    def fell_short(self, process: OperationRow, found: Lookup) -> str:
        """What a process that is over lacks by what is known now, in words; empty where nothing."""
        if found.stops:
            return found.stops[0].message
        had = boiled_minutes(self.states[process.id])
        if found.time is None or had + BOILED_WITHIN_MIN >= found.time.minutes:
            return ""
        return f"They needed {found.time.minutes} min and boiled {had:.0f}."

    # -- jars

    def jar_ids(self, operation: OperationRow) -> list[int]:
        """The jars a canner load, a cooling, a seal check or a carrying away is about.

        A check looks at the loads it names; the first one at every load that was not a second go.
        """
        what = kind(operation.kind)
        mine = self.jars_of(self.fill_of(operation))
        if what.role == "put_away":
            named = operation.params.get("jars")
            return [j.id for j in mine if j.id in named] if named else _unsealed(mine)
        loads = operation.params.get("canner_loads") or [operation.params.get("load")]
        first = what.role == "check" and "canner_loads" not in operation.params
        return [
            j.id
            for j in mine
            if j.canner_load in loads or (first and 0 < j.canner_load < SECOND_GO)
        ]

    def seal_window(self, operation: OperationRow) -> tuple[datetime, datetime] | None:
        """When the seals of a check may be looked at: 12 to 24 h after the last jar came out."""
        jars = set(self.jar_ids(operation))
        coolings = [
            self.states[o.id].started_at
            for o in self.of_role("cool")
            if jars & set(self.jar_ids(o)) and self.phase(o) in {Phase.RUNNING, Phase.DONE}
        ]
        times = [t for t in coolings if t is not None]
        return (max(times) + SEALS_FROM, max(times) + SEALS_UNTIL) if times else None

    # -- what is said and judged

    @property
    def said(self) -> frozenset[str]:
        """What the cook has said, in Plan and since."""
        since = [word for e in self.events if e.kind == "said" for word in e.data["words"]]
        return frozenset((*self.brief.said, *since))

    @cached_property
    def cautions(self) -> list[Finding]:
        """Cautions and notes at their places, for what is in it and these steps."""
        keeps = {self.end(f).keep for f in self.fillings} or set(KEEPS)
        found = [f for keep in sorted(keeps, key=KEEPS.index) for f in standing(self._facts(keep))]
        return list(dict.fromkeys(found))

    def cautions_at(self, operation: OperationRow) -> list[Finding]:
        """Cautions and notes at a step; of a filling only what holds for how its end is kept."""
        fills = kind(operation.kind).role == "fill"
        found = standing(self._facts(self.end(operation).keep)) if fills else self.cautions
        return [f for f in found if f.place == operation.kind]

    def _facts(self, keep: str) -> Facts:
        held = self.now.holds_g if self.now else {}
        return Facts(
            operations=frozenset(o.kind for o in self.operations),
            fruits=frozenset(i.material for i in self.brief.inputs if i.fruit),
            closures=frozenset(jar_kinds.kind(j.jar_kind).closure for j in self.jars),
            keep=keep,
            ingredients=held,
            said=self.said,
            heater=frozenset({self.kitchen.canner.heater}),
        )


def _unsealed(jars: Iterable[JarRow]) -> list[int]:
    return [j.id for j in jars if not j.part_filled]


POT_CM = 24.0
"""Inner width of a pot when the kitchen's list does not tell [cm]."""


def replay(
    operation: OperationRow, events: Sequence[EventRow], people: Mapping[int, str]
) -> StepState:
    """A step's state from its stored events."""
    return lifecycle.replay(
        StepState(operation.kind, operation.minutes),
        (StepEvent(e.kind, e.at, people.get(e.person_id, ""), e.data) for e in events),
    )


def boiled_minutes(state: StepState) -> float:
    """Minutes that a finished step stood at the boil; none where nobody saw it boil [min]."""
    if state.clock_from is None or state.finished_at is None:
        return 0.0
    return (state.finished_at - state.clock_from).total_seconds() / 60.0


def unmeasured(operation: OperationRow) -> bool:
    """Whether a step holds water that nobody measured, so that a pot's depth would tell."""
    return bool(operation.params.get("water_known") == Evidence.READ.value)


def words(operation: OperationRow, key: str, system: System = "metric") -> str:
    """A step's words with its own figures, in the units of a kitchen."""
    what: Kind = kind(operation.kind)
    return worded(what.words[key], {**what.usual, **operation.params}, system)
