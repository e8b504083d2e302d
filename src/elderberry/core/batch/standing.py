"""Standing: what a batch amounts to now, from its rows and events, without a database.

What each lot holds, which step may start and what it waits for, which jars wait for what and until
when, and what the tables say of what is really in them. Plan, Cook, Today and the planner ask it.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from functools import cached_property
from typing import Any

from elderberry.core import ends
from elderberry.core import jars as jar_kinds
from elderberry.core.batch.lifecycle import Phase
from elderberry.core.batch.parts import Parts
from elderberry.core.batch.pots import DROP_SETS
from elderberry.core.batch.remembered import of_step
from elderberry.core.batch.rows import JarRow, OperationRow
from elderberry.core.batch.traced import TRACED, broken
from elderberry.core.batch.under_way import boiled_minutes
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.findings import Finding
from elderberry.core.flow.inputs import End
from elderberry.core.flow.kinds import Kind, kind
from elderberry.core.keeping import KEEPS
from elderberry.core.kitchen import Heater
from elderberry.core.process import Contents, Lookup
from elderberry.core.process.case import Case
from elderberry.core.quantities import System
from elderberry.core.rules import Facts, rule, standing
from elderberry.core.wording import worded

SECOND_GO = 100
"""Canner loads numbered above this are of jars whose seal failed the first time."""
BOILED_WITHIN_MIN = 0.05
"""How far a boil may fall short of its minutes before it counts as short [min]."""
SEALS_FROM, SEALS_UNTIL = timedelta(hours=12), timedelta(hours=24)


@dataclass(frozen=True)
class Shown:
    """What the words of a step hang on: its kind and its figures."""

    kind: str
    params: Mapping[str, Any]


class Standing(Parts):
    """A batch with all its rows, and what they amount to."""

    # -- ends

    @of_step
    def end(self, fill: OperationRow) -> End:
        """An end as it stands: what was meant for the shelf may have gone to the cold."""
        end = self.brief.end(fill.key)
        for event in self.events:
            if event.kind == "diverted" and event.data.get("fill", fill.key) == fill.key:
                end = replace(end, keep=event.data["keep"])
        return end

    def raw_pack(self, fill: OperationRow) -> bool:
        """Whether raw fruit is covered with boiling liquid here, and goes into the canner so."""
        return bool(fill.params.get("raw_pack")) and self.end(fill).keep == "shelf"

    @of_step
    def contents(self, fill: OperationRow) -> Contents | None:
        """What is in the jars of an end, or will be: as it was read."""
        lots = self.edges[fill.id]["out"]
        now = self.lot_now(self.lots[lots[0]]) if lots else None
        return Contents(now, self.said) if now else None

    def juice_ml(self, at: OperationRow | None = None) -> tuple[Estimate, float]:
        """What an end will fill [mL], as read or predicted; and what was drawn and measured."""
        drawn = sum(
            reading.value
            for operation in self.operations
            if kind(operation.kind).gets_juice
            for i in self.edges[operation.id]["out"]
            if self.lots[i].kind == "juice"
            and (reading := self.measured(i, "volume_ml")) is not None
        )
        whole = self.pot_ml(at or self.fillings[0])
        return replace(whole, evidence=Evidence.MEASURED if drawn else Evidence.TYPICAL), drawn

    def hot_ml(self, fill: OperationRow) -> float:
        """What there is to fill at an end now, as it is filled [mL]."""
        return self.left_ml(fill).typ / self.hot_ratio(fill)

    def fills_in_part(self, fill: OperationRow) -> bool:
        """Whether an end may be filled with what is there: more is to come, and no reading of all
        of it is what opens the canner.
        """
        if not self.to_come(fill) or self.idle(fill):
            return False
        contents, end = self.contents(fill), self.end(fill)
        if end.keep != "shelf" or contents is None:
            return end.keep in {"chill", "freeze", "dry"}
        unread = replace(contents.lot, acidity=replace(contents.lot.acidity, meter=None))
        case = Case(Contents(unread, self.said), self.kitchen, self.own, self.sterile(fill),
                    self.kitchen.canner.heater)  # fmt: skip
        kinds = self.packing(fill).jars or {}
        sizes = [jar_kinds.kind(k).process_as_ml for k in kinds]
        return bool(sizes) and not case.in_jars(max(s or 0.0 for s in sizes)).stops

    def packing(self, at: OperationRow | None = None) -> jar_kinds.Packing:
        """What there is now in the jars that were chosen."""
        fill = at or self.fillings[0]
        end = self.end(fill)
        if end.keep == "now":
            return ends.NO_JARS
        contents, there = self.contents(fill), self.kitchen.ready(end.keep, end.closure, end.lid)
        stock = {k: n for k, n in there.items() if k in end.jar_kinds}
        if end.keep == "dry":
            return ends.packed_loose(self.left_ml(fill).typ, stock, self.kitchen)
        if end.keep != "shelf" and contents is not None:
            frozen = end.keep == "freeze"
            volume = self.left_ml(fill).typ if frozen else self.hot_ml(fill)
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

    @of_step
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
        seen = broken(self.happened(process, TRACED))
        had = boiled_minutes(self.states[process.id], seen)
        if found.time is None or had + BOILED_WITHIN_MIN >= found.time.minutes:
            return ""
        unbroken = " without a break, by the probe" if seen else ""
        return f"They needed {found.time.minutes} min and boiled {had:.0f}{unbroken}."

    # -- jars

    @of_step
    def jar_ids(self, operation: OperationRow) -> list[int]:
        """The jars a canner load, a cooling, a seal check or a carrying away is about.

        A check looks at the loads it names; the first one at every load that was not a second go.
        """
        what = kind(operation.kind)
        mine = [j for j in self.jars_of(self.fill_of(operation)) if not j.gone]
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

    @cached_property
    def said(self) -> frozenset[str]:
        """What the cook has said, in Plan and since."""
        since = [word for e in self.events if e.kind == "said" for word in e.data["words"]]
        shown = [DROP_SETS] if any(self._drop_sets(o) for o in self.of_role("reduce")) else []
        return frozenset((*self.brief.said, *since, *shown))

    def shown(self, operation: OperationRow) -> Shown:
        """A step as its words say it: amounts that hang on what was read follow that."""
        if not kind(operation.kind).anew or self.phase(operation) is not Phase.WAITING:
            return Shown(operation.kind, operation.params)
        laid = self.now.operations if self.now else ()
        again = next((o.params for o in laid if o.key == operation.key), {})
        return Shown(operation.kind, {**operation.params, **again})

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


def words(operation: OperationRow | Shown, key: str, system: System = "metric") -> str:
    """A step's words with its own figures, in the units of a kitchen."""
    what: Kind = kind(operation.kind)
    return worded(what.words[key], {**what.usual, **operation.params}, system)
