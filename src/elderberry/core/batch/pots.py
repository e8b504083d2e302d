"""What is in the pots of a batch now: its flow laid out again with everything that was read."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime
from functools import cached_property

from elderberry.core import juicing, texture
from elderberry.core import plan as plans
from elderberry.core.batch import readings_of
from elderberry.core.batch.laid import ToLay
from elderberry.core.batch.lifecycle import Phase
from elderberry.core.batch.midway import GOAL_OF, LEAST_GUESS, Midway, midway
from elderberry.core.batch.plate import Plate, plate
from elderberry.core.batch.rows import LotRow, OperationRow
from elderberry.core.batch.under_way import UnderWay, boiled_minutes
from elderberry.core.composition import Composition
from elderberry.core.drying.course import Course, course
from elderberry.core.errors import CannotTell, CoreError
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.flow.draft import poured
from elderberry.core.flow.kinds import DRIES, kind
from elderberry.core.flow.lots import Lot
from elderberry.core.flow.rows import estimate_of
from elderberry.core.flow.seen import Seen, StepSeen
from elderberry.core.operations.reducing import Goal, goal_of

MISHAP = "mishap"
"""Something that went wrong at a step."""
LIQUID = frozenset({"juice", "mash", "water", "caramel"})
MOST_LOST = 0.95
"""Of a pot, at most so much is ever taken for spilled [-]."""
WATER_BACK = "water_back"
"""Water that went back into a pot which was boiled too far."""
DROP_SETS, WRINKLES = "drop_sets", 4.0
"""What a drop says that wrinkles or stands, and from which of texture.POURS on it does."""
ROOMY_BASKET_L = 100.0
"""Loads were counted when the batch began: a basket that has changed since changes none [L]."""
POT_CM = 24.0
"""Inner width of a pot when the kitchen's list does not tell [cm]."""


class Pots(UnderWay):
    """A batch under way, and what its lots hold."""

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

    @cached_property
    def now(self) -> plans.Plan | None:
        """The flow laid out once more, with every lot that was read as it was read."""
        read = readings_of.of_lots(self.counted, self.lots, self.events)
        seen = self._with_losses(self._with_drops(read))
        juicer = replace(self.kitchen.juicer, basket_l=ROOMY_BASKET_L)
        here = replace(self.kitchen, juicer=juicer)
        wanted = ToLay(self.method, self.brief, here, self.own, seen, self.done, self.forecasts)
        return self.laid.made(wanted, wanted.plan)

    def _with_drops(self, seen: dict[str, Seen]) -> dict[str, Seen]:
        """What was read of lots, with what a drop has shown of a pot that nobody read otherwise,
        and the water that brought it back.
        """
        found = dict(seen)
        for operation in self.of_role("reduce"):
            lot = self.lot_of(operation)
            if lot is None or not self.over(operation):
                continue
            known = found.get(lot.key, Seen())
            read = [r for r in self.counted if r.row.operation_id == operation.id]
            drops = [r for r in read if r.row.quantity == "drop"]
            told = known.brix or known.mass_g or known.volume_ml
            if drops and not told:
                known = self._by_drop(known, lot, drops[-1].value)
            last = max((r.row.at for r in read), default=None)
            back = self._water_since(operation, last) if last and not told else 0.0
            if drops or back:
                found[lot.key] = replace(known, water_g=back)
        return found

    def _with_losses(self, seen: dict[str, Seen]) -> dict[str, Seen]:
        """What was read of lots, less what was spilled of them since."""
        found = dict(seen)
        for operation in self.operations:
            lost = self._lost(operation)
            for lot in self._in_the_pot(operation) if lost else ():
                found[lot.key] = replace(found.get(lot.key, Seen()), lost=lost)
        return found

    def _in_the_pot(self, operation: OperationRow) -> list[LotRow]:
        """What a spill at a step is of: what it gives, or what is being filled."""
        side = "in" if kind(operation.kind).role in {"fill", "keep"} else "out"
        return [self.lots[i] for i in self.edges[operation.id][side][: None if side == "in" else 1]]

    def _lost(self, operation: OperationRow) -> float:
        """The share of a pot that was spilled since its amount was last read [-]."""
        mine = [e for e in self.happened(operation, MISHAP) if e.data.get("lost_ml")]
        if not mine:
            return 0.0
        pots = {lot.id for lot in self._in_the_pot(operation)}
        read = [
            r.row.at for r in self.counted
            if r.row.lot_id in pots and r.row.quantity in {"volume_ml", "mass_g"}
        ]  # fmt: skip
        ml = sum(float(e.data["lost_ml"]) for e in mine if not read or e.at > max(read))
        return min(MOST_LOST, ml / max(self._pot_ml(operation), ml, 1.0))

    def _pot_ml(self, operation: OperationRow) -> float:
        """What stood in the pot of a step, as it was planned [mL]."""
        lots = (self.lots[i] for side in ("in", "out") for i in self.edges[operation.id][side])
        there = [
            estimate.typ for lot in lots
            if lot.kind in LIQUID and (estimate := estimate_of(lot.predicted.get("volume_ml")))
        ]  # fmt: skip
        return max(there, default=0.0)

    def _by_drop(self, known: Seen, lot: LotRow, number: float) -> Seen:
        """What is known of a lot, with how sweet it is by its plan and what a drop of it did."""
        planned = estimate_of(lot.predicted.get("brix"))
        if planned is None:
            return known
        wide = Estimate(
            min(planned.lo, planned.typ - LEAST_GUESS), planned.typ,
            max(planned.hi, planned.typ + LEAST_GUESS),
        )  # fmt: skip
        shown = texture.corrected_by_drop(wide, texture.POURS[round(number)][1])
        return replace(known, brix=shown.typ, brix_error=(shown.hi - shown.lo) / 2.0)

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

    def drying(self, operation: OperationRow) -> Course | None:
        """How far the trays of a drying step have come; None where a step dries nothing."""
        role, state = kind(operation.kind).role, self.states[operation.id]
        if role not in DRIES:
            return None
        since = state.started_at
        weighed = [
            ((r.row.at - since).total_seconds() / 3600.0, r.value)
            for r in self.counted
            if since and r.row.operation_id == operation.id and r.row.quantity == "tray_g"
        ]
        planned = Estimate(operation.minutes_lo, operation.minutes, operation.minutes_hi)
        return course(role, operation.params, planned.scaled(1.0 / 60.0), weighed)

    def midway(self, operation: OperationRow) -> Midway | None:
        """How far what boils down has come, by its newest reading; None before there is any."""
        state, cooked = self.states[operation.id], self._cooked(operation)
        if state.clock_from is None or cooked is None:
            return None
        pot, goal = cooked
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
        back = self._water_since(operation, newest.row.at)
        try:
            return midway(
                pot, goal, (newest.row.quantity, newest.value), minutes, rate, self.kitchen, back
            )
        except CannotTell:
            return None

    def _cooked(self, operation: OperationRow) -> tuple[Composition, Goal] | None:
        """What was in a pot that boils down when it came to the boil, and what it boils down to."""
        if kind(operation.kind).role != "reduce" or self.now is None:
            return None
        step = next(s for s in self.method.steps if s.key == operation.params["step"])
        taken = [self.now.lots[self.lots[i].key] for i in self.edges[operation.id]["in"]]
        there = poured(tuple(taken)).composition.first()
        return there * (1.0 - self._lost(operation)), goal_of(step)

    def _water_since(self, operation: OperationRow, at: datetime) -> float:
        """Water that went back into a pot since a moment [g]."""
        mine = self.happened(operation, WATER_BACK)
        return sum((float(e.data["grams"]) for e in mine if e.at > at), start=0.0)

    def plate(self, operation: OperationRow) -> Plate | None:
        """The cold plate at a pot that is cooked to a syrup; None at any other."""
        cooked = self._cooked(operation)
        if cooked is None:
            return None
        pot, goal = cooked
        drops = self.read_at(operation, "drop")
        drop = texture.POURS[round(drops[-1])][1] if drops else ""
        minutes = self.states[operation.id].minutes
        return plate(pot, goal, self.kitchen, minutes, self.midway(operation), drop)

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

    def _drop_sets(self, operation: OperationRow) -> bool:
        """Whether the newest drop of a pot wrinkled or stood."""
        drops = self.read_at(operation, "drop")
        return bool(drops) and drops[-1] >= WRINKLES


def unmeasured(operation: OperationRow) -> bool:
    """Whether a step holds water that nobody measured, so that a pot's depth would tell."""
    return bool(operation.params.get("water_known") == Evidence.READ.value)
