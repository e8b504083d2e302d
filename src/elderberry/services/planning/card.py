"""A method as a card: a plan of it, read on paper."""

from __future__ import annotations

from collections.abc import Iterator

from elderberry.core.quantities import System
from elderberry.core.wording import figure, in_units
from elderberry.formats.paper import Block, Sheet
from elderberry.services.planning.end_view import EndView
from elderberry.services.planning.plan_view import FlowOperation, InputView, PlanView

KEPT = {
    "shelf": "for the shelf", "sugar": "closed; its sugar keeps it", "dry": "closed, dry",
    "chill": "chilled", "freeze": "frozen", "now": "drunk now",
}  # fmt: skip


def of_plan(plan: PlanView, units: System, foot: str) -> Sheet:
    """A plan as a card: what goes in, step by step, what comes of it, what to take care of."""
    about = plan.method
    lead = " · ".join(filter(None, (plan.title, about.school, about.source)))
    blocks = [
        Block("What goes in", [_goes_in(i, units) for i in plan.inputs], (0.3, 0.25, 0.45)),
        Block("Step by step", [_step(o) for o in plan.operations], (0.28, 0.12, 0.6)),
        Block("What comes of it", [_end(e, units) for e in plan.ends], (0.3, 0.3, 0.4)),
        Block("Take care", [[words] for words in _cautions(plan)]),
    ]
    return Sheet(about.name, lead, [b for b in blocks if b.rows], foot)


def _goes_in(given: InputView, units: System) -> tuple[str, str, str]:
    weighed = in_units(figure(given.mass_g.typ, "g"), units)
    return given.name, weighed, ", ".join(filter(None, (given.said, given.joins)))


def _step(step: FlowOperation) -> tuple[str, str, str]:
    hours, rest = divmod(round(step.minutes.typ), 60)
    took = f"{hours} h {rest:02d}" if hours else f"{rest} min"
    return step.title, took, step.look_for


def _end(end: EndView, units: System) -> tuple[str, str, str]:
    jars = ", ".join(f"{j.count} × {j.name}" for j in end.expected.jars)
    kept = KEPT[end.keep]
    if end.process:
        kept = f"{kept}: {end.process.minutes} min in boiling water or steam"
    return end.label, jars or in_units(figure(end.litres.typ, "l"), units), kept


def _cautions(plan: PlanView) -> Iterator[str]:
    """Stops and cautions of the plan and its ends, each once."""
    found = [*plan.findings, *(f for e in plan.ends for f in e.findings)]
    listed = dict.fromkeys(f"{f.message} {f.remedy}".strip() for f in found if f.level != "note")
    return iter(listed)
