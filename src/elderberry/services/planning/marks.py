"""A mark set on a scale of what is filled: the line that serves it, with its new amount."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from sqlalchemy.orm import Session as Orm

from elderberry.core import materials, names
from elderberry.core.errors import CannotTell, CoreError, OutOfRange, Unreachable
from elderberry.core.flow.lots import Lot
from elderberry.core.scales import Which, brix_for, scale
from elderberry.services.errors import FieldError
from elderberry.services.planning import plans
from elderberry.services.planning.asked import GoesIn, PlanRequest
from elderberry.services.planning.prepared import Prepared
from elderberry.services.who import Who

MOVES = {"sweet": "brix", "ratio": "brix", "thick": "brix", "ph": "ph", "sharp": "acid_g_l"}
NEAR = {"brix": 0.1, "ph": 0.02, "acid_g_l": 0.1}
"""From how near a mark on nothing has to be done."""
SCALES: Mapping[str, Which] = {"brix": "sweet", "ph": "ph", "acid_g_l": "sharp"}
SAID = {"brix": "to {:.3g} Brix", "ph": "to pH {:.2f}", "acid_g_l": "to {:.3g} g/l acid"}
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

    def filled(line: str = "") -> Lot:
        """What comes to be filled, with a line more."""
        more = (GoesIn(line=line, key=key),) if line else ()
        asked = replace(without, inputs=(*without.inputs, *more))
        return plans.prepare(orm, who, asked).plan().end(end).filled

    try:
        there = filled()
        goal = brix_for(which, value, there) if which in {"ratio", "thick"} else value
        serves = _serves(there, prepared, serving, target, goal)
        line = serves and _line(serves, target, goal, filled)
    except Unreachable as wrong:
        near = wrong.nearest if which in {"sweet", "ph", "sharp"} else None
        return Marked(refused=_sentence(wrong), nearest=near)
    except CoreError as wrong:
        return Marked(refused=_sentence(wrong))
    return Marked(line, serving, key)


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


def _serves(there: Lot, prepared: Prepared, serving: int | None, target: str, goal: float) -> str:
    """What brings what is there without it to the goal; empty where it is there."""
    now = _stands(there, target)
    if abs(goal - now) < NEAR[target]:
        return ""
    if target == "brix" and goal < now:
        return "water"
    if target != "brix" and (goal > now) == (target == "ph"):
        words = "acid does not come out again: more fruit or water makes it milder"
        raise Unreachable(
            f"without acid it stands at {NAMES[target].format(round(now, 2))}; {words}", now
        )
    return _name(prepared, serving, target)


def _stands(filled: Lot, target: str) -> float:
    """Where what is filled stands on the scale of a target, in its unit."""
    found = scale(SCALES[target], filled)
    if found is None or found.value is None:
        raise CannotTell("nobody can tell where it stands now")
    return found.value.typ


TRIES = 5


def _line(serves: str, target: str, goal: float, filled: Callable[[str], Lot]) -> str:
    """The line with which the jars really come to a goal: what goes in before a boiling is less.

    Raises:
        Unreachable: a later step brings it to what that step says, however much goes in.
    """
    aim, before, stays = goal, (0.0, 0.0), ""
    for tried in range(TRIES):
        line = f"{serves} {SAID[target].format(aim)}"
        try:
            off = _stands(filled(line), target) - goal
        except (OutOfRange, FieldError):  # more than there is, or than a line can say
            break
        if abs(off) < NEAR[target]:
            return line
        stays = f" still comes to {NAMES[target].format(round(goal + off, 1))}, and"
        slope = (off - before[1]) / (aim - before[0]) if tried else _first(target, aim, goal + off)
        if slope < MOVES_LEAST:
            break
        before, aim = (aim, off), aim - off / slope
    raise Unreachable(
        f"it{stays} does not follow how much {serves} goes in: a later step says how far it is"
        " boiled or sweetened, and can be told otherwise"
    )


def _first(target: str, aim: float, came: float) -> float:
    """How what is filled is thought to follow what goes in: in proportion, but in steps of pH."""
    return 1.0 if target == "ph" else came / aim


MOVES_LEAST = 0.1
"""How much what is filled has to follow what goes in [-]; else a later step decides."""


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


def _sentence(wrong: Exception) -> str:
    words = str(wrong)
    return f"{words[:1].upper()}{words[1:]}."
