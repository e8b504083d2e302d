"""A method as a recipe that others can read."""

from __future__ import annotations

from typing import Any

from sqlalchemy.orm import Session as Orm

from elderberry.core.quantities import System
from elderberry.core.safety import STANDING_LINE
from elderberry.core.wording import figure, in_units
from elderberry.formats import recipes
from elderberry.services.household import kitchens
from elderberry.services.planning import own_methods, plans
from elderberry.services.planning.asked import GoesIn, PlanRequest
from elderberry.services.planning.end_view import EndView
from elderberry.services.planning.plan_view import InputView
from elderberry.services.who import Who


def of_method(orm: Orm, who: Who, key: str, line: str) -> dict[str, Any]:
    """What a method makes of a line, as schema.org describes a recipe.

    Raises:
        NotFound: there is no such method in this household.
        CannotRead: the line cannot be read.
    """
    own_methods.named(orm, who, key)
    plan = plans.show(orm, who, PlanRequest((GoesIn(line=line),), method_key=key))
    units = kitchens.units(orm, who)
    steps = [f"{o.title}. {o.before} Look for {o.look_for}." for o in plan.operations]
    method = plan.method
    return recipes.write(
        method.name,
        method.adapted_from or method.source,
        [_line(given, units) for given in plan.inputs],
        [*steps, STANDING_LINE],
        "; ".join(_makes(end, units) for end in plan.ends),
        plan.minutes.typ + 60.0 * plan.waits_h,
    )


def _line(given: InputView, units: System) -> str:
    form = f", {given.form}" if given.form not in {"", "whole"} else ""
    return f"{in_units(figure(given.mass_g.typ, 'g'), units)} {given.name.lower()}{form}"


def _makes(end: EndView, units: System) -> str:
    jars = ", ".join(f"{j.count} × {j.name}" for j in end.expected.jars)
    return f"{end.label}: {jars or in_units(figure(1000.0 * end.litres.typ, 'ml'), units)}"
