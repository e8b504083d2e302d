"""A recipe scaled: worked back from jars or litres, or up to what there is of everything."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Literal

from elderberry.core import jars
from elderberry.core.errors import Unreachable, check_range
from elderberry.core.flow.inputs import Amount, Brief, Input
from elderberry.core.plan import Plan
from elderberry.core.quantities import Quantity, show

Lay = Callable[[Brief], Plan]
"""Lays out what goes in."""
ROUNDS = 8
CLOSE = 5e-4
"""How near the goal is near enough [-]."""


@dataclass(frozen=True)
class Goal:
    """As much as gives so many jars of a kind, or so many litres, at an end.

    by: jars or litres. end: the filling it is of. jar: the kind of jar.
    """

    by: Literal["jars", "litres"]
    count: float
    jar: str = ""
    end: str = "fill"


def scaled(brief: Brief, by: float) -> Brief:
    """Everything that goes in by weight times a factor; shares and targets follow by themselves.

    Raises:
        OutOfRange: a factor outside 0.0001 to 10 000.
    """
    check_range("factor", by, "", 1e-4, 1e4)
    inputs = (
        replace(i, amount=replace(i.amount, grams=i.amount.grams.scaled(by)))
        if i.amount.grams is not None
        else i
        for i in brief.inputs
    )
    return replace(brief, inputs=tuple(inputs), loads=None)


def as_recipe(brief: Brief) -> tuple[Input, ...]:
    """What goes in besides the main thing, each by how much of it there is to that.

    Source: a recipe is its proportions; a range stays as wide as it was.
    """
    main = brief.main
    if main.amount.grams is None:
        return tuple(i for i in brief.inputs if i is not main)
    return tuple(_to_one_of(main, i) for i in brief.inputs if i is not main)


def _to_one_of(main: Input, given: Input) -> Input:
    """An input as a share of the main one."""
    grams, whole = given.amount.grams, main.amount.grams
    if grams is None or whole is None or grams.typ <= 0:
        return given
    said = (
        f"{given.amount.said or _weighed(grams.typ)} to {main.amount.said or _weighed(whole.typ)}"
    )
    share = Amount(
        "share", share=grams.typ / whole.typ, of=main.key, said=said,
        spread=(grams.lo / grams.typ, grams.hi / grams.typ),
    )  # fmt: skip
    return replace(given, amount=share)


def _weighed(grams: float) -> str:
    return show(Quantity(grams, "mass"))


def to_goal(brief: Brief, goal: Goal, lay: Lay) -> Brief:
    """What goes in, so that an end gives what is wanted.

    Raises:
        Unreachable: no amount gives it.
        OutOfRange: a goal that nobody has.

    Source: secant on the factor; a flow is nearly linear in what goes in.
    """
    check_range("goal", goal.count, goal.by, 0.01, 5000)
    by = 1.0
    for _ in range(ROUNDS):
        now = scaled(brief, by)
        share = _reached(lay(now), goal)
        if share <= 0:
            raise Unreachable("nothing of it comes out at that end")
        if abs(share - 1.0) < CLOSE:
            return now
        by /= share
    return scaled(brief, by)


def _reached(plan: Plan, goal: Goal) -> float:
    """What part of the goal a plan gives [-], a hair more so that the last jar is full."""
    end = plan.end(goal.end)
    if goal.by == "litres":
        return end.litres.typ / goal.count
    jar = jars.kind(goal.jar)
    room = end.room_ml(jar)
    if room <= 0:
        raise Unreachable(f"a {jar.name} is not filled with this")
    volume = end.filled.volume_ml if end.keep == "freeze" else end.fill_ml
    return volume.typ / (goal.count * room) / (1.0 + 2 * CLOSE)


@dataclass(frozen=True)
class Cupboard:
    """How often what there is goes into a recipe, and what runs out first."""

    times: float
    runs_out: str


def cupboard(brief: Brief, plan: Plan, there_g: Mapping[str, float]) -> Cupboard | None:
    """How many times as much could be made of what there is; None where nothing is known of it.

    Args:
        brief: what goes in once.
        plan: the same laid out, so that shares and targets are known in grams.
        there_g: what there is of each input [g], by the name of the input.
    """
    needs = {i.key: plan.lots[i.key].mass_g.typ for i in brief.inputs if i.key in plan.lots}
    found = [
        (there_g[key] / grams, key) for key, grams in needs.items() if key in there_g and grams > 0
    ]
    if not found:
        return None
    times, key = min(found)
    return Cupboard(times, key)
