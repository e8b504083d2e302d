"""Planning: a method laid out for what goes in, in this kitchen, with what it has learned."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from sqlalchemy.orm import Session as Orm

from elderberry.core import materials
from elderberry.core import plan as core
from elderberry.core.errors import CoreError
from elderberry.core.estimates import measured
from elderberry.core.flow import edits, joining, wiring
from elderberry.core.flow.kinds import kind
from elderberry.core.lately import Lately
from elderberry.core.method import Method, unnamed
from elderberry.core.numbers import typical
from elderberry.services.household import kitchens, own_processes
from elderberry.services.planning import amounts, cycles, intake, learned, lines, own_methods, paces
from elderberry.services.planning.asked import PlanRequest
from elderberry.services.planning.last_time import LastTime, last_time
from elderberry.services.planning.plan_view import PlanView, view
from elderberry.services.planning.prepared import Prepared
from elderberry.services.who import Who


@dataclass(frozen=True)
class Difference:
    """What an option of a step would make of the plan, beside how it is planned."""

    choice: str
    value: str
    chosen: bool
    juice_l: float
    brix: float
    clarity: str
    minutes: float
    waits_h: float


def prepare(orm: Orm, who: Who, asked: PlanRequest) -> Prepared:
    """A request as the core takes it, from the kitchen as it stands."""
    request = intake.filled_in(orm, who, lines.understood(orm, who, asked))
    named = own_methods.find(orm, who, request.method_key) if request.method_key else None
    if named:
        request = _begun(request, named[0].begins_with[wiring.START])
    kitchen = replace(kitchens.for_core(orm, who), paces=paces.here(orm, who))
    chosen, own = _chosen(orm, who, request, named, kitchen.lacks)
    if any(kind(s.kind).role == "freeze_dry" for s in chosen.steps):
        ran = replace(kitchen.freeze_dryer, cycles=cycles.here(orm, who))
        kitchen = replace(kitchen, freeze_dryer=ran)
    brief = request.brief(kitchen.freeze_c)
    brief = replace(
        brief,
        inputs=chosen.goes_in(brief.inputs, request.without),
        ends=chosen.ends_for(brief.ends),
    )
    known = {
        i.material: learned.observations(orm, who, i.material) for i in brief.inputs if i.fruit
    }
    prepared = Prepared(request, chosen, own, brief, kitchen, known, own_processes.every(orm, who))
    return amounts.as_much_as(orm, who, prepared)


def _begun(request: PlanRequest, wanted: str) -> PlanRequest:
    """A request that begins with what its method begins with, where such a thing was weighed out:
    caramel with sugar, whatever water is to hand.
    """
    first = request.begins_at(wanted)
    if first == request.main_at:
        return request
    inputs = (
        replace(i, key=wiring.START) if n == first else i for n, i in enumerate(request.inputs)
    )
    return replace(request, inputs=tuple(inputs))


Named = tuple[Method, bool]
"""A method, and whether it is the household's own."""


def _chosen(
    orm: Orm, who: Who, request: PlanRequest, named: Named | None, lacks: frozenset[str]
) -> Named:
    """The method that is asked for, with the steps as they were edited; else the usual one."""
    steps = wiring.wire(request.steps) if request.steps else None
    main = request.main
    if not named and steps and main.material not in materials.fruits():
        return unnamed(steps), True

    def usual() -> Named:
        key = own_methods.usual(orm, who, main.material, main.form or "whole", lacks)
        return own_methods.find(orm, who, key)

    chosen, own = named or usual()
    if steps is None and chosen.begins_with[wiring.START] != main.lot_kind:
        chosen, own = usual()
    return (replace(chosen, steps=steps) if steps else chosen), own


def make(orm: Orm, who: Who, request: PlanRequest) -> core.Plan:
    """The plan of a request, from the kitchen as it stands."""
    return prepare(orm, who, request).plan()


def show(orm: Orm, who: Who, request: PlanRequest) -> PlanView:
    """A plan as Plan shows it, with the dots its yield rests on."""
    prepared = prepare(orm, who, request)
    last = last_time(orm, who, prepared.brief.main.material)
    return SHOWN.made((prepared, last), lambda: _shown(prepared, last))


SHOWN: Lately[tuple[Prepared, LastTime | None], PlanView] = Lately(most=16)


def _shown(prepared: Prepared, last: LastTime | None) -> PlanView:
    plan = prepared.plan()
    matters = _matters(prepared, plan)
    return view(plan, prepared.own, prepared.observations, prepared.runs_out, matters, last)


def _matters(prepared: Prepared, plan: core.Plan) -> set[str]:
    """Inputs whose range, measured by cups or handfuls, changes jars, time or verdict."""
    usual = _outcome(plan)
    found = set()
    for given in prepared.brief.inputs:
        grams = given.amount.grams
        if grams is None or grams.hi <= grams.lo:
            continue
        for mass in (grams.lo, grams.hi):
            exact = replace(given.amount, grams=measured(mass))
            other = replace(given, amount=exact)
            inputs = tuple(other if i is given else i for i in prepared.brief.inputs)
            brief = replace(prepared.brief, inputs=inputs)
            if _outcome(prepared.of(brief, prepared.kitchen)) != usual:
                found.add(given.key)
    return found


def _outcome(plan: core.Plan) -> list[object]:
    """What a cook would do otherwise if it were otherwise: jars, minutes, stops."""
    return [
        (
            e.expected.count,
            e.process_time.minutes if e.process_time else None,
            sorted(s.id for s in e.verdict.stops),
        )
        for e in plan.ends
    ]


def differences(orm: Orm, who: Who, request: PlanRequest, step_key: str) -> list[Difference]:
    """What each option of each choice at a step costs and buys.

    Raises:
        DoesNotConnect: no such step.
    """
    prepared = prepare(orm, who, request)
    step = wiring.find(prepared.chosen.steps, step_key)
    as_it_is = _with_choice(prepared, step_key, {})
    found = []
    for choice in kind(step.kind).choices:
        now = step.chosen(choice.key)
        for option in choice.options:
            other = {choice.key: option.value}
            plan = as_it_is if option.value == now else _with_choice(prepared, step_key, other)
            if plan is not None:
                found.append(_difference(plan, choice.key, option.value, option.value == now))
    return found


def _with_choice(prepared: Prepared, step: str, choice: Mapping[str, str]) -> core.Plan | None:
    """The plan with another option, or None where it cannot be laid out."""
    steps = joining.joined(prepared.chosen.steps, prepared.brief.inputs)
    try:
        chosen = edits.choose(steps, step, choice, prepared.brief.kinds)
        return replace(prepared, chosen=replace(prepared.chosen, steps=chosen)).plan()
    except CoreError:
        return None


def _difference(plan: core.Plan, choice: str, value: str, chosen: bool) -> Difference:
    filled = plan.main.filled
    return Difference(
        choice, value, chosen, plan.main.litres.typ, typical(filled.composition.brix),
        filled.clarity, plan.minutes.typ, plan.waits_h,
    )  # fmt: skip
