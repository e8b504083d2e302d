"""Filling load by load: jars are filled with what is drawn while the next load still steams."""

from __future__ import annotations

from functools import cached_property

from elderberry.core import ends, sugar
from elderberry.core.batch.lifecycle import Phase
from elderberry.core.batch.pots import Pots
from elderberry.core.batch.remembered import of_step
from elderberry.core.batch.rows import JarRow, LotRow, OperationRow
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.process import FILL_C

IN_PART = "filled_in_part"
"""An end was filled with what was there; more of it is to come."""


class Parts(Pots):
    """A batch under way, and how far its ends are filled."""

    def fill_of_jar(self, jar: JarRow) -> OperationRow | None:
        """The filling that a jar came from."""
        return self._fill_of_lot.get(jar.lot_id)

    @cached_property
    def _fill_of_lot(self) -> dict[int | None, OperationRow]:
        """The filling that each lot of jars came from."""
        return {lot: f for f in reversed(self.fillings) for lot in self.edges[f.id]["out"]}

    def jars_of(self, fill: OperationRow | None) -> list[JarRow]:
        """The jars of an end."""
        return [j for j in self.jars if self.fill_of_jar(j) is fill]

    @of_step
    def heat_of(self, fill: OperationRow) -> OperationRow | None:
        """The heating right before a filling."""
        lots = set(self.edges[fill.id]["in"])
        return next((o for o in self.of_role("heat") if lots & set(self.edges[o.id]["out"])), None)

    def sources(self, fill: OperationRow) -> list[LotRow]:
        """What an end is filled with, as it comes before it is heated."""
        last = self.heat_of(fill) or fill
        return [self.lots[i] for i in self.edges[last.id]["in"]]

    def to_come(self, fill: OperationRow) -> list[OperationRow]:
        """Steps that still have to give some of what an end is filled with."""
        makers = (self.makers.get(lot.id) for lot in self.sources(fill))
        return [m for m in makers if m is not None and not self.over(m)]

    def drawn(self, fill: OperationRow) -> list[LotRow]:
        """What is there already of what an end is filled with."""
        waits = {i for o in self.to_come(fill) for i in self.edges[o.id]["out"]}
        return [lot for lot in self.sources(fill) if lot.id not in waits]

    def in_part(self, fill: OperationRow) -> bool:
        """Whether some jars of an end are filled, and more of it is to come or is there."""
        return self.phase(fill) is Phase.RUNNING and bool(self._parts(fill))

    def _parts(self, fill: OperationRow) -> set[int]:
        """Lots that an end was filled with so far."""
        return {i for e in self.happened(fill, IN_PART) for i in e.data["lots"]}

    def to_heat(self, fill: OperationRow) -> list[LotRow]:
        """What was drawn since an end was last heated for; nothing while it is being heated."""
        heat, done = self.heat_of(fill), self._parts(fill)
        if heat is None or self.phase(heat) is not Phase.DONE:
            return []
        return [lot for lot in self.drawn(fill) if lot.id not in done and self._later(lot, heat)]

    def _later(self, lot: LotRow, heat: OperationRow) -> bool:
        maker = self.makers.get(lot.id)
        made = self.states[maker.id].finished_at if maker else None
        hot = self.states[heat.id].finished_at
        return made is not None and hot is not None and made > hot

    def idle(self, fill: OperationRow) -> bool:
        """Whether a filling that has begun has nothing to fill until more of it comes."""
        heat = self.heat_of(fill)
        if heat is not None and self.phase(heat) is Phase.RUNNING:
            return self.in_part(fill)
        cold = {lot.id for lot in self.to_heat(fill)}
        fresh = {lot.id for lot in self.drawn(fill)} - self._parts(fill) - cold
        return self.in_part(fill) and bool(self.to_come(fill) or cold) and not fresh

    @of_step
    def left_ml(self, fill: OperationRow) -> Estimate:
        """What there is to fill at an end now, beyond its jars [mL at 20 °C]."""
        whole = not self.to_come(fill) or self.waits_for(fill) is not None
        if whole and not self._parts(fill):
            return self.pot_ml(fill)
        cold = {lot.id for lot in self.to_heat(fill)}
        there = [self.room_of(lot) for lot in self.drawn(fill) if lot.id not in cold]
        jars = sum(j.fill_ml for j in self.jars_of(fill)) * self.hot_ratio(fill)
        return Estimate(
            max(0.0, sum(v.lo for v in there) - jars),
            max(0.0, sum(v.typ for v in there) - jars),
            max(0.0, sum(v.hi for v in there) - jars),
            Evidence.TYPICAL,
        )

    @of_step
    def pot_ml(self, fill: OperationRow) -> Estimate:
        """All that goes into the jars of an end [mL at 20 °C]."""
        volumes = [self.room_of(self.lots[i]) for i in self.edges[fill.id]["in"]]
        return Estimate(
            sum(v.lo for v in volumes), sum(v.typ for v in volumes), sum(v.hi for v in volumes),
            Evidence.TYPICAL,
        )  # fmt: skip

    def room_of(self, lot: LotRow) -> Estimate:
        """What a lot takes of its jars as it is known now [mL at 20 °C]: pieces lie loose."""
        now = self.lot_now(lot)
        return self.volume_of(lot) if now is None else ends.as_it_lies(now)

    def hot_ratio(self, fill: OperationRow) -> float:
        """Density as an end is filled over that at 20 °C [-]: volume divides by it."""
        return float(sugar.hot_ratio(FILL_C)) if self.heat_of(fill) else 1.0
