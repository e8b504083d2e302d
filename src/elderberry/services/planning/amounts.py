"""As much as: so many jars or litres, or all that came in."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import replace

from sqlalchemy.orm import Session as Orm

from elderberry.core import jars
from elderberry.core.flow.inputs import Brief
from elderberry.core.kitchen import Kitchen, Vessel
from elderberry.core.scaling import Goal, cupboard, scaled, to_goal
from elderberry.services.errors import FieldError
from elderberry.services.planning import intake
from elderberry.services.planning.prepared import Prepared
from elderberry.services.who import Who

SPARE = 24
"""Jars that are reckoned with beyond those wanted while a recipe is worked back."""


def as_much_as(orm: Orm, who: Who, prepared: Prepared) -> Prepared:
    """What goes in, worked back from what is wanted or up to what there is.

    Raises:
        Unreachable: no amount gives it.
        FieldError: nothing that goes in has come in.
    """
    goal = prepared.request.goal
    if goal is not None:
        return replace(prepared, brief=_worked_back(prepared, goal))
    if prepared.request.all_there_is:
        return _all_there_is(orm, who, prepared)
    return prepared


def _worked_back(prepared: Prepared, goal: Goal) -> Brief:
    brief = prepared.brief
    if goal.by == "jars":
        jars.kind(goal.jar)
        ends = (replace(e, jar_kinds=(goal.jar,)) if e.key == goal.end else e for e in brief.ends)
        brief = replace(brief, ends=tuple(ends))
    kitchen = _with_jars(prepared.kitchen, goal)
    return to_goal(brief, goal, lambda b: prepared.of(b, kitchen))


def _with_jars(kitchen: Kitchen, goal: Goal) -> Kitchen:
    """The kitchen with jars enough for what is wanted, so that stock does not hide the amount."""
    if goal.by != "jars":
        return kitchen
    wanted = jars.kind(goal.jar)
    more = max(kitchen.jar_stock.get(goal.jar, 0), round(goal.count) + SPARE)
    if wanted.vessel:
        own = Vessel(wanted.vessel.key, wanted.brim_ml / 1000.0, more)
        return replace(kitchen, vessels=(own, *kitchen.vessels))
    enough = {goal.jar: more}
    return replace(
        kitchen,
        jar_stock={**kitchen.jar_stock, **enough},
        jars_there={**kitchen.jars_there, **enough},
    )


def _all_there_is(orm: Orm, who: Who, prepared: Prepared) -> Prepared:
    there = _there_g(orm, who, prepared)
    found = cupboard(prepared.brief, prepared.plan(), there)
    if found is None:
        words = "Nothing of what goes in waits here: take it in first, or say how much."
        raise FieldError("/all_there_is", words)
    return replace(prepared, brief=scaled(prepared.brief, found.times), runs_out=found.runs_out)


def _there_g(orm: Orm, who: Who, prepared: Prepared) -> Mapping[str, float]:
    """What waits of each input [g], by its name: its own lot, or all of its kind and form."""
    lots = intake.lots(orm, who)
    alike = Counter[tuple[str, str]]()
    for lot in lots:
        alike[lot.fruit_key, lot.form] += round(1000 * lot.left_kg)
    own = {lot.id: 1000 * lot.left_kg for lot in lots}
    by_lot = {
        key: own[given.lot_id]
        for key, given in zip(
            (i.key for i in prepared.brief.inputs), prepared.request.inputs, strict=False
        )
        if given.lot_id in own
    }
    by_kind = {
        i.key: float(alike[i.material, i.form or "whole"])
        for i in prepared.brief.inputs
        if (i.material, i.form or "whole") in alike
    }
    return {**by_kind, **by_lot}
