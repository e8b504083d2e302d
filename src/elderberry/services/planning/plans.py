"""Planning: a method laid out for what goes in, in this kitchen, with what it has learned."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from sqlalchemy.orm import Session as Orm

from elderberry.core import materials, yields
from elderberry.core import plan as core
from elderberry.core.errors import CoreError
from elderberry.core.flow import edits, joining, wiring
from elderberry.core.flow.inputs import Brief
from elderberry.core.flow.kinds import kind
from elderberry.core.kitchen import Kitchen
from elderberry.core.method import Method, unnamed
from elderberry.core.numbers import typical
from elderberry.core.process import OwnProcess
from elderberry.services.household import kitchens, own_processes
from elderberry.services.planning import intake, learned, lines, own_methods
from elderberry.services.planning.asked import PlanRequest
from elderberry.services.planning.plan_view import PlanView, view
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


@dataclass(frozen=True)
class Prepared:
    """A request with everything the core needs to plan it."""

    request: PlanRequest
    """What was asked, with what is known of the lots that it is taken from."""
    chosen: Method
    own: bool
    brief: Brief
    kitchen: Kitchen
    observations: Mapping[str, Sequence[yields.Observation]]
    own_processes: Mapping[str, OwnProcess]

    def plan(self) -> core.Plan:
        """The plan."""
        return core.plan(
            self.chosen, self.brief, self.kitchen, self.observations, self.own_processes
        )


def prepare(orm: Orm, who: Who, asked: PlanRequest) -> Prepared:
    """A request as the core takes it, from the kitchen as it stands."""
    request = intake.filled_in(orm, who, lines.understood(orm, who, asked))
    kitchen = kitchens.for_core(orm, who)
    chosen, own = _chosen(orm, who, request)
    brief = request.brief(kitchen.freeze_c)
    named = {i.key for i in brief.inputs}
    brief = replace(
        brief, inputs=(*brief.inputs, *(i for i in chosen.inputs if i.key not in named))
    )
    known = {
        i.material: learned.observations(orm, who, i.material) for i in brief.inputs if i.fruit
    }
    return Prepared(request, chosen, own, brief, kitchen, known, own_processes.every(orm, who))


def _chosen(orm: Orm, who: Who, request: PlanRequest) -> tuple[Method, bool]:
    """The method that is asked for, with the steps as they were edited; else the usual one."""
    steps = wiring.wire(request.steps) if request.steps else None
    main, key = request.main, request.method_key
    if not key and steps and main.material not in materials.fruits():
        return unnamed(steps), True
    key = key or own_methods.usual(orm, who, main.material, main.form or "whole")
    chosen, own = own_methods.find(orm, who, key)
    return (replace(chosen, steps=steps) if steps else chosen), own


def make(orm: Orm, who: Who, request: PlanRequest) -> core.Plan:
    """The plan of a request, from the kitchen as it stands."""
    return prepare(orm, who, request).plan()


def show(orm: Orm, who: Who, request: PlanRequest) -> PlanView:
    """A plan as Plan shows it, with the dots its yield rests on."""
    prepared = prepare(orm, who, request)
    return view(prepared.plan(), prepared.own, prepared.observations)


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
