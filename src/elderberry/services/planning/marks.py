"""A mark set on a scale of what is filled: the line that serves it, with its new amount."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from sqlalchemy.orm import Session as Orm

from elderberry.core import materials, names
from elderberry.core.errors import CannotTell, CoreError, Unreachable
from elderberry.core.plan import Plan
from elderberry.core.scales import Which, brix_for, scale
from elderberry.services.planning import plans
from elderberry.services.planning.asked import GoesIn, PlanRequest
from elderberry.services.planning.prepared import Prepared
from elderberry.services.who import Who

MOVES = {"sweet": "brix", "ratio": "brix", "thick": "brix", "ph": "ph", "sharp": "acid_g_l"}
NEAR = {"brix": 0.1, "ph": 0.02, "acid_g_l": 0.1}
"""From how near a mark on nothing has to be done."""
SCALES: Mapping[str, Which] = {"brix": "sweet", "ph": "ph", "acid_g_l": "sharp"}
NAMES = {"brix": "{:g} °Bx", "ph": "pH {:g}", "acid_g_l": "{:g} g/l"}


@dataclass(frozen=True)
class Marked:
    """The line that serves a mark. replaces: place of the line that it takes the place of, if any;
    line: empty where nothing is needed any more; key: the name under which it takes the place of
    what the method puts in. refused: why it cannot be reached; nearest: what can, in the scale's
    own unit.
    """

    line: str = ""
    replaces: int | None = None
    key: str = ""
    refused: str = ""
    nearest: float | None = None


def mark(orm: Orm, who: Who, request: PlanRequest, which: Which, value: float, end: str) -> Marked:
    """The line that brings an end to a mark, written as a person would.

    Sweetness is brought up by the sweetener that goes in already, or by sugar, and down by water;
    sharpness up by the acid that goes in already, or by citric acid. What is there stays.
    """
    target = MOVES[which]
    prepared = plans.prepare(orm, who, request)
    serving = _serving(prepared, target)
    key = "" if serving is None else prepared.stands_for(serving)
    without = _without(request, serving, key)
    plan = plans.prepare(orm, who, without).plan()
    try:
        goal = (
            brix_for(which, value, plan.end(end).filled) if which in {"ratio", "thick"} else value
        )
        words = _words(plan, prepared, serving, target, goal, end)
    except Unreachable as wrong:
        return Marked(refused=_sentence(wrong), nearest=wrong.nearest)
    except CannotTell as wrong:
        return Marked(refused=_sentence(wrong))
    return _checked(orm, who, without, Marked(words, serving, key), which)


def _serving(prepared: Prepared, target: str) -> int | None:
    """The line that serves a target already; its place among what was asked."""
    for place, given in enumerate(prepared.request.inputs):
        known = given.known
        if known is not None and known.how == "target" and known.target == target:
            return place
    kinds = _serve(target)
    for place, given in enumerate(prepared.request.inputs):
        if materials.kind_of(given.material) in kinds and place != prepared.request.main_at:
            return place
    return None


def _without(request: PlanRequest, place: int | None, key: str) -> PlanRequest:
    """A request without a line, and without what the line took the place of."""
    if place is None:
        return request
    inputs = tuple(i for n, i in enumerate(request.inputs) if n != place)
    left_out = (*request.without, key) if key else request.without
    return replace(request, inputs=inputs, without=left_out)


def _words(
    plan: Plan, prepared: Prepared, serving: int | None, target: str, goal: float, end: str
) -> str:
    """The line that brings what is there without it to the goal."""
    there = scale(SCALES[target], plan.end(end).filled)
    if there is None or there.value is None:
        raise CannotTell("nobody can tell where it stands now")
    now = there.value.typ
    if abs(goal - now) < NEAR[target]:
        return ""
    said = {"brix": f"to {goal:.3g} Brix", "ph": f"to pH {goal:.2f}",
            "acid_g_l": f"to {goal:.3g} g/l acid"}[target]  # fmt: skip
    if target == "brix" and goal < now:
        return f"water {said}"
    if target != "brix" and (goal > now) == (target == "ph"):
        words = "acid does not come out again: more fruit or water makes it milder"
        raise Unreachable(
            f"without acid it stands at {NAMES[target].format(round(now, 2))}; {words}", now
        )
    return f"{_name(prepared, serving, target)} {said}"


def _serve(target: str) -> frozenset[str]:
    """Kinds of ingredient that bring what is filled to a target."""
    return materials.SWEET if target == "brix" else materials.SOUR


def _name(prepared: Prepared, serving: int | None, target: str) -> str:
    """What serves, by the name that the cook gave it."""
    usual = "sugar" if target == "brix" else "citric acid"
    if serving is None:
        return usual
    given: GoesIn = prepared.request.inputs[serving]
    fits = materials.kind_of(given.material) in _serve(target)
    return (given.called or names.told(given.material)) if fits else usual


def _checked(orm: Orm, who: Who, without: PlanRequest, marked: Marked, which: Which) -> Marked:
    """The mark, once it is known that the line really gets there."""
    line = (GoesIn(line=marked.line, key=marked.key),) if marked.line else ()
    try:
        plans.prepare(orm, who, replace(without, inputs=(*without.inputs, *line))).plan()
    except Unreachable as wrong:
        near = wrong.nearest if which in {"sweet", "ph", "sharp"} else None
        return Marked(refused=_sentence(wrong), nearest=near)
    except CoreError as wrong:
        return Marked(refused=_sentence(wrong))
    return marked


def _sentence(wrong: Exception) -> str:
    words = str(wrong)
    return f"{words[:1].upper()}{words[1:]}."
