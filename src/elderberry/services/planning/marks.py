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

    What goes in to such a target already, by a line or by the method, goes to the mark instead.
    Else sweetness is brought up by the sweetener that goes in already, or by sugar, and down by
    water; sharpness up by the acid that goes in already, or by citric acid. What is there stays.
    """
    target = MOVES[which]
    prepared = plans.prepare(orm, who, request)
    serving = _serving(prepared, target)
    key = "" if serving is None else prepared.stands_for(serving)
    replaces = serving if serving is not None and serving < len(request.inputs) else None
    without = _without(request, replaces, key)

    def filled(line: str = "") -> Lot:
        """What comes to be filled, with a line more."""
        more = (GoesIn(line=line, key=key),) if line else ()
        asked = replace(without, inputs=(*without.inputs, *more))
        return plans.prepare(orm, who, asked).plan().end(end).filled

    by_itself = which == SCALES[target]
    try:
        there = filled()
        goal = value if by_itself else brix_for(which, value, there)
    except CoreError as wrong:
        return _refused(wrong)
    try:
        serves = _serves(there, prepared, serving, target, goal)
        line = serves and _line(serves, target, goal, filled)
    except CoreError as wrong:
        return _refused(wrong, tells=by_itself)
    return Marked(line, replaces, key)


def _serving(prepared: Prepared, target: str) -> int | None:
    """What serves a target already; its place among what goes in, what was asked for first."""
    goes_in, asked = prepared.brief.inputs, len(prepared.request.inputs)
    for place, given in enumerate(goes_in):
        if given.amount.target == target:
            return place
    kinds = _serve(target)
    for place, given in enumerate(goes_in[:asked]):
        if materials.kind_of(given.material) in kinds and place != prepared.request.main_at:
            return place
    return None


def _without(request: PlanRequest, place: int | None, key: str) -> PlanRequest:
    """A request without a line, and without what the method puts in by a name."""
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
"""Lines that are tried until one meets a mark."""


def _line(serves: str, target: str, goal: float, filled: Callable[[str], Lot]) -> str:
    """The line with which the jars really come to a goal: what goes in before a boiling is less.

    Raises:
        Unreachable: nothing that a line can say brings it there.
    """
    aim, before = goal, (0.0, 0.0)
    for tried in range(TRIES):
        line = f"{serves} {SAID[target].format(aim)}"
        try:
            off = _stands(filled(line), target) - goal
        except (OutOfRange, FieldError):  # more than a kitchen has, or than a line can say
            break
        if abs(off) < NEAR[target]:
            return line
        slope = (off - before[1]) / (aim - before[0]) if tried else _first(target, aim, goal + off)
        if slope < MOVES_LEAST:
            break
        before, aim = (aim, off), aim - off / slope
    raise Unreachable(f"no amount of {serves} that a kitchen can handle brings it there")


def _first(target: str, aim: float, came: float) -> float:
    """How what is filled is thought to follow what goes in: in proportion, but in steps of pH."""
    return 1.0 if target == "ph" else came / aim


MOVES_LEAST = 0.1
"""How much what is filled has to follow what goes in [-]; else what comes after decides."""


def _serve(target: str) -> frozenset[str]:
    """Kinds of ingredient that bring what is filled to a target."""
    return materials.SWEET if target == "brix" else materials.SOUR


def _name(prepared: Prepared, serving: int | None, target: str) -> str:
    """What serves, by the name that the cook gave it."""
    usual = "sugar" if target == "brix" else "citric acid"
    if serving is None:
        return usual
    given = prepared.brief.inputs[serving]
    fits = materials.kind_of(given.material) in _serve(target)
    return (given.called or names.told(given.material)) if fits else usual


def _refused(wrong: CoreError, *, tells: bool = True) -> Marked:
    """Why a mark cannot be met; tells: whether what is nearest is in the unit of its scale."""
    nearest = wrong.nearest if tells and isinstance(wrong, Unreachable) else None
    words = str(wrong)
    return Marked(refused=f"{words[:1].upper()}{words[1:]}.", nearest=nearest)
