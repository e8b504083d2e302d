"""The plan that a method makes of what goes in: lots, operations, and every end with its verdict.

The same function lays out a batch that is under way: lots that were read are as they were read.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property

from elderberry.core import colour, jars, keeping, operations, process, safety, yields
from elderberry.core.ends import PlannedEnd, planned_end
from elderberry.core.errors import Unknown, check_range
from elderberry.core.estimates import Estimate
from elderberry.core.findings import Verdict, verdict
from elderberry.core.flow import joining, wiring
from elderberry.core.flow.draft import Draft, Forecasts, begin
from elderberry.core.flow.inputs import Brief
from elderberry.core.flow.kinds import after_filling, kind, of_role
from elderberry.core.flow.lots import Lot
from elderberry.core.flow.seen import Seen, StepSeen
from elderberry.core.flow.steps import Operation, Step
from elderberry.core.kitchen import Kitchen
from elderberry.core.method import Method

OWN: Mapping[str, process.OwnProcess] = {}
Observations = Mapping[str, Sequence[yields.Observation]]
"""This household's finished batches, by fruit; each counts for its way."""


@dataclass(frozen=True)
class Plan:
    """A method laid out for what goes in here: the flow, its ends and the verdict on all of it."""

    method: Method
    brief: Brief
    kitchen: Kitchen
    operations: tuple[Operation, ...]
    lots: dict[str, Lot]
    forecasts: Mapping[tuple[str, str], yields.YieldForecast]
    """Yields it counts on, by fruit and way of juicing."""
    ends: tuple[PlannedEnd, ...]
    verdict: Verdict

    @property
    def main(self) -> PlannedEnd:
        """The first of its ends."""
        return self.ends[0]

    def end(self, key: str) -> PlannedEnd:
        """The end of this name; the first where there is none."""
        return next((e for e in self.ends if e.end.key == key), self.main)

    @property
    def fruit_yield(self) -> yields.YieldForecast | None:
        """The yield of the method's own way, where one fruit goes in and it has one."""
        fruits = [i.material for i in self.brief.inputs if i.fruit]
        return self.forecasts.get((fruits[0], self.method.way)) if fruits else None

    @property
    def loads(self) -> int:
        """Basket loads."""
        first = of_role("steam")
        return sum(o.kind == first for o in self.operations)

    @cached_property
    def minutes(self) -> Estimate:
        """Hands-on and on the heat, one after another [min]; waits are counted apart."""
        lengths = [o.minutes for o in self.operations if not kind(o.kind).waits]
        return Estimate(
            sum(m.lo for m in lengths), sum(m.typ for m in lengths), sum(m.hi for m in lengths)
        )

    @property
    def waits_h(self) -> float:
        """Hours that nobody needs to stand there, up to the cooling [h]."""
        waits = (o for o in self.operations if kind(o.kind).waits)
        return sum(o.minutes.typ for o in waits if kind(o.kind).role != "cool") / 60.0

    @cached_property
    def holds_g(self) -> dict[str, float]:
        """Every ingredient that goes into it [g], by material."""
        found: dict[str, float] = {}
        for lot in self.lots.values():
            if lot.kind == "added":
                for source in lot.origins:
                    grams = float(source.usual.mass_g)
                    found[source.material] = found.get(source.material, 0.0) + grams
        return found


@dataclass
class _Counting:
    """A plan in the making: its ends as they are counted."""

    own: Mapping[str, process.OwnProcess]
    ends: dict[str, PlannedEnd] = field(default_factory=dict)


def plan(
    chosen: Method,
    brief: Brief,
    kitchen: Kitchen,
    observations: Observations | None = None,
    own: Mapping[str, process.OwnProcess] | None = None,
    seen: Mapping[str, Seen] | None = None,
    done: Mapping[str, StepSeen] | None = None,
    forecasts: Forecasts | None = None,
) -> Plan:
    """Lay a method out for what goes in: every figure that Plan and Cook show, in one pass.

    Args:
        chosen: the method.
        brief: what goes in and the ends it is for.
        kitchen: where it happens, with the jars in stock.
        observations: this household's finished batches, by fruit; each counts for its way.
        own: the household's own tested processes, by product.
        seen: what was read of lots, by their keys, where it is under way.
        done: what was seen of operations, by their keys.
        forecasts: yields that it was once planned with, instead of those of the observations.

    Raises:
        Unknown: fruit, jar or ending not listed.
        CannotTell: the fruit is not juiced this way.
        DoesNotConnect: the steps do not hang together for what goes in.
        OutOfRange: more fruit than anybody juices (0.05 to 500 kg), or a figure outside its limits.

    Source: operations/, applied in the method's order.
    """
    _check(brief)
    steps = laid_out(chosen, brief)
    expected = _forecasts(steps, brief, observations or {}) if forecasts is None else forecasts
    draft = begin(brief, kitchen, expected, seen, done)
    counting = _Counting(own or OWN)
    for step in steps:
        draft = _counted(draft, steps, step, counting)
        draft = operations.apply(draft, step)
    ends = tuple(counting.ends[s.key] for s in wiring.fills(steps))
    judged = tuple(
        replace(e, verdict=safety.judge(draft, kitchen, e.verdict.stops, e.end)) for e in ends
    )
    whole = verdict(f for e in judged for f in e.verdict.findings)
    lots = dict(draft.lots)
    return Plan(chosen, brief, kitchen, draft.operations, lots, draft.forecasts, judged, whole)


def _check(brief: Brief) -> None:
    for given in brief.inputs:
        if given.fruit is not None and given.amount.grams is not None:
            check_range("fruit", given.amount.grams.typ / 1000.0, "kg", 0.001, 500)
    check_range("loads", brief.loads or 1, "", 1, 100)
    for end in brief.ends:
        if end.keep not in keeping.KEEPS:
            raise Unknown("ending", end.keep)
        if end.lid and end.lid not in colour.LIDS:
            raise Unknown("colour of lid", end.lid)
        for key in end.jar_kinds:
            jars.kind(key)


def laid_out(chosen: Method, brief: Brief) -> wiring.Steps:
    """The steps of a method with everything joining that goes in, and what comes by itself.

    Clean jars go before every filling and the heating for it, since the tables ask for them
    whatever a method says and nothing hot should wait; the process, or the way to the cold,
    follows.

    Raises:
        DoesNotConnect: the steps do not hang together for what goes in.
    """
    steps = joining.joined(chosen.steps, brief.inputs)
    wiring.check(steps, brief.kinds)
    found: list[Step] = []
    for step in steps:
        role = kind(step.kind).role
        if role == "fill":
            ready = (s for s in found[-1:] if kind(s.kind).heats and kind(s.kind).into_jars)
            hot = [s for s in ready if {*s.gives} & {*step.takes}]
            found.insert(len(found) - len(hot), _clean_jars(step))
            found += [step, *_following(step, brief)]
        elif role != "sterilise":
            found.append(step)
    return tuple(found)


def _clean_jars(fill: Step) -> Step:
    what = of_role("sterilise")
    return Step(what + fill.key.removeprefix(fill.kind), what, (), (), {"fill": fill.key})


def _following(fill: Step, brief: Brief) -> list[Step]:
    """What comes after a filling by itself, by how its jars are kept."""
    suffix = fill.key.removeprefix(fill.kind)
    return [
        Step(f"{what}{suffix}", what, fill.gives, (), {"fill": fill.key})
        for what in after_filling(brief.end(fill.key).keep)
    ]


def _forecasts(
    steps: wiring.Steps, brief: Brief, observations: Observations
) -> dict[tuple[str, str], yields.YieldForecast]:
    ways = {kind(s.kind).learns for s in steps} - {""}
    found = {}
    for given in brief.inputs:
        if given.fruit is None:
            continue
        for way in ways:
            prior = yields.prior(way, given.fruit)
            if prior is not None:
                known = [o for o in observations.get(given.material, ()) if o.way in {"", way}]
                found[given.material, way] = yields.predict(prior, known, given.source)
    return found


def _counted(draft: Draft, steps: wiring.Steps, step: Step, counting: _Counting) -> Draft:
    """The draft once the end that a step leads to has been counted: its jars, time and stops."""
    if not kind(step.kind).into_jars or step.key in draft.fillings:
        return draft
    fill = _leads_to(steps, step)
    ready = wiring.feeding(steps, fill)
    made, filling = planned_end(draft, fill, ready, counting.own)
    counting.ends[fill.key] = made
    keys = [*(s.key for s in ready), _clean_jars(fill).key, fill.key]
    return replace(draft, fillings={**draft.fillings, **dict.fromkeys(keys, filling)})


def _leads_to(steps: wiring.Steps, step: Step) -> Step:
    """The filling that a step into jars leads to."""
    fills = wiring.fills(steps)
    by_lot = (f for f in fills if step in (*wiring.feeding(steps, f), f))
    return next(by_lot, next((f for f in fills if f.key == step.params.get("fill")), fills[0]))
