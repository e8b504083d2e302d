"""Planning: a method laid out for a load of fruit in this kitchen, with what it has learned."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Any

from sqlalchemy.orm import Session as Orm

from elderberry.core import jars, process, yields
from elderberry.core import method as methods
from elderberry.core.errors import CoreError
from elderberry.core.estimates import measured
from elderberry.core.flow import wiring
from elderberry.core.flow.draft import Form, Load
from elderberry.core.flow.kinds import kind
from elderberry.core.kitchen import Kitchen
from elderberry.core.numbers import typical
from elderberry.services import intake, kitchens, learned, own_methods, own_processes
from elderberry.services.plan_view import PlanView, view
from elderberry.services.who import Who

BRIX_ERROR, PH_ERROR = 0.3, 0.1
"""Half-widths of the 80 % range of a refractometer and a pH meter in a kitchen."""


@dataclass(frozen=True)
class PlanRequest:
    """What a person asks of Plan."""

    fruit_key: str
    fruit_kg: float
    brix: float | None = None
    ph: float | None = None
    keep: str = "shelf"
    jar_kinds: tuple[str, ...] = ()
    loads: int | None = None
    citric_acid_g: float = 0.0
    source: str = ""
    picked_on: date | None = None
    method_key: str = ""
    """The plainest that suits when not said."""
    form: Form = "fresh"
    steps: tuple[Mapping[str, Any], ...] = ()
    """The flow as it was edited; the method's own where there is none."""
    said: tuple[str, ...] = ()
    lot_id: int | None = None
    """What came in that it is taken from."""


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
    """What was asked, with what is known of the lot that it is taken from."""
    chosen: methods.Method
    own: bool
    load: Load
    kitchen: Kitchen
    observations: Sequence[yields.Observation]
    own_process: process.OwnProcess | None

    def plan(self) -> methods.Plan:
        """The plan."""
        return methods.plan(
            self.chosen, self.load, self.kitchen, self.observations, self.request.source,
            self.own_process,
        )  # fmt: skip


def prepare(orm: Orm, who: Who, asked: PlanRequest) -> Prepared:
    """A request as the core takes it, from the kitchen as it stands."""
    request = intake.filled_in(orm, who, asked) if asked.lot_id else asked
    kitchen = kitchens.for_core(orm, who)
    key = request.method_key or own_methods.usual(orm, who, request.fruit_key, request.form)
    chosen, own = own_methods.find(orm, who, key)
    if request.steps:
        chosen = replace(chosen, steps=wiring.wire(request.steps))
    load = Load(
        fruit_key=request.fruit_key,
        fruit_kg=request.fruit_kg,
        brix=None if request.brix is None else measured(request.brix, BRIX_ERROR),
        ph=None if request.ph is None else measured(request.ph, PH_ERROR),
        keep=request.keep,
        form=request.form,
        fruit_c=kitchen.freeze_c if request.form == "frozen" else 15.0,
        jar_kinds=request.jar_kinds,
        loads=request.loads,
        ingredients_g={"citric_acid": request.citric_acid_g} if request.citric_acid_g else {},
        said=frozenset(request.said),
    )
    wiring.check(chosen.steps, load.lot_kind)
    known = learned.observations(orm, who, request.fruit_key)
    product = chosen.product_of(request.fruit_key, chosen.aimed_brix)
    own_process = own_processes.of_product(orm, who, product)
    if not load.jar_kinds:
        largest = process.largest_jar_ml(product, request.fruit_key, own_process)
        load = replace(load, jar_kinds=usual_kinds(kitchen.jar_stock, largest))
    return Prepared(request, chosen, own, load, kitchen, known, own_process)


def make(orm: Orm, who: Who, request: PlanRequest) -> methods.Plan:
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


def _with_choice(prepared: Prepared, step: str, choice: Mapping[str, str]) -> methods.Plan | None:
    """The plan with another option, or None where it cannot be laid out."""
    steps = wiring.choose(prepared.chosen.steps, step, choice, prepared.load.lot_kind)
    other = replace(prepared, chosen=replace(prepared.chosen, steps=steps))
    try:
        return other.plan()
    except CoreError:
        return None


def _difference(plan: methods.Plan, choice: str, value: str, chosen: bool) -> Difference:
    brix = typical(plan.filled.composition.brix)
    return Difference(
        choice, value, chosen, plan.juice_l.typ, brix, plan.filled.clarity,
        plan.minutes.typ, plan.waits_h,
    )  # fmt: skip


def usual_kinds(stock: Mapping[str, int], largest: float) -> tuple[str, ...]:
    """The kind of jar of which most stand ready, among those up to the largest tested [mL]."""
    tested = [k for k, n in stock.items() if n and jars.fits(jars.kind(k), largest)]
    ready = tested or [k for k, n in stock.items() if n]
    return (max(ready, key=lambda k: stock[k]),) if ready else ()
