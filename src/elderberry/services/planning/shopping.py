"""What a plan still needs: what goes in beside what waits, jars and lids beside the stock."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from sqlalchemy.orm import Session as Orm

from elderberry.core import jars as kinds
from elderberry.core.quantities import System
from elderberry.core.wording import figure, in_units
from elderberry.formats.paper import Block, Sheet
from elderberry.services.household import kitchens
from elderberry.services.planning import intake, plans
from elderberry.services.planning.asked import PlanRequest
from elderberry.services.planning.end_view import EndView
from elderberry.services.planning.plan_view import InputView, PlanView
from elderberry.services.who import Who
from elderberry.store import JarStock, queries

FROM_THE_TAP = frozenset({"water"})
LEAST_G = 1.0
"""What is short by less is not short [g]."""


@dataclass(frozen=True)
class ToGet:
    """Something that goes in: how much of it, how much waits already, and how much is to be got."""

    name: str
    said: str
    need_g: float
    there_g: float
    get_g: float
    need: str
    """In the kitchen's units."""
    get: str
    """In the kitchen's units; empty where it is all there."""


@dataclass(frozen=True)
class JarsToGet:
    """Jars to get ready, nine times in ten enough: what stands there, and what is to be got."""

    name: str
    need: int
    there: int
    get: int
    lids: int | None
    """New lids that are needed; None where none are, as for a vessel or under a plain cap."""
    lids_there: int
    get_lids: int


@dataclass(frozen=True)
class ShoppingView:
    """A shopping list of a plan."""

    title: str
    goes_in: list[ToGet]
    jars: list[JarsToGet]


def view(orm: Orm, who: Who, asked: PlanRequest) -> ShoppingView:
    """What a plan still needs.

    Raises:
        FieldError: a line that cannot be read.
        CoreError: a plan that cannot be.
    """
    plan = plans.show(orm, who, asked)
    waits = _waiting(orm, who)
    units = kitchens.units(orm, who)
    return ShoppingView(
        plan.title,
        [_to_get(given, waits, units) for given in _gathered(plan.inputs)],
        list(_jars(orm, who, plan)),
    )


def _gathered(inputs: Iterable[InputView]) -> Iterator[tuple[InputView, float]]:
    """What goes in, once each, however often it joins; water comes from the tap."""
    grams: dict[tuple[str, str], float] = defaultdict(float)
    first: dict[tuple[str, str], InputView] = {}
    for given in inputs:
        if given.material in FROM_THE_TAP:
            continue
        key = (given.material, given.form)
        grams[key] += given.mass_g.typ
        first.setdefault(key, given)
    return ((given, grams[key]) for key, given in first.items())


def _waiting(orm: Orm, who: Who) -> dict[tuple[str, str], float]:
    """What came in and waits [g], by material and form."""
    found: dict[tuple[str, str], float] = defaultdict(float)
    for lot in intake.lots(orm, who):
        found[lot.fruit_key, lot.form] += 1000.0 * lot.left_kg
    return found


def _to_get(
    gathered: tuple[InputView, float], waits: dict[tuple[str, str], float], units: System
) -> ToGet:
    given, need = gathered
    there = waits.get((given.material, given.form), 0.0)
    short = max(0.0, need - there)
    get = short if short >= LEAST_G else 0.0
    return ToGet(
        given.name, given.said, need, there, get, _said(need, units),
        _said(get, units) if get else "",
    )  # fmt: skip


def _said(grams: float, units: System) -> str:
    return in_units(figure(grams, "g"), units)


def _jars(orm: Orm, who: Who, plan: PlanView) -> Iterator[JarsToGet]:
    """Jars of every end by their kind, against what stands there with its lids."""
    units = kitchens.units(orm, who)
    stock = {s.jar_kind: s for s in queries.all_of(orm, who.household_id, JarStock)}
    need: dict[tuple[str, str, str], int] = defaultdict(int)
    for end in plan.ends:
        for jar_kind, count in _needed(end).items():
            need[jar_kind, end.closure, end.lid] += count
    for (key, closure, lid), count in need.items():
        kind = kinds.kind(key)
        there = stock[key].jars if key in stock else 0
        lids_there = stock[key].lids if key in stock else 0
        if closure or lid:
            row = kitchens.lids(orm, who, key, closure, lid)
            lids_there = row.lids if row else 0 if closure else lids_there
        lids = None if kind.own or closure == "cap" else count
        yield JarsToGet(
            kind.named(units), count, there, 0 if kind.own else max(0, count - there),
            lids, lids_there, max(0, (lids or 0) - lids_there),
        )  # fmt: skip


def _needed(end: EndView) -> dict[str, int]:
    """Jars of an end to get ready, by kind, with those for what finds no jar in stock."""
    if end.keep == "now":
        return {}
    need = {j.kind: j.count for j in end.generous.jars}
    if end.generous.part_kind:
        need[end.generous.part_kind] = need.get(end.generous.part_kind, 0) + 1
    left = end.generous.unplaced_ml
    wanted = next(iter((*end.jar_kinds, *need)), "")
    if left > 1.0 and wanted:
        need[wanted] = need.get(wanted, 0) + math.ceil(left / kinds.kind(wanted).nominal_ml)
    return need


def sheet(found: ShoppingView, foot: str) -> Sheet:
    """A shopping list as a sheet of paper, with a box before each line."""
    goes_in = [
        (BOX, g.name, g.get or "all there", f"of {g.need}" if g.there_g else g.said)
        for g in found.goes_in
    ]
    jars = [
        (BOX, j.name, f"{j.get} to get" if j.get else "all there", _ready(j)) for j in found.jars
    ]
    widths = (0.05, 0.35, 0.2, 0.4)
    blocks = [
        Block("To get", goes_in, widths),
        Block("Jars and lids to have ready, nine times in ten enough", jars, widths),
    ]
    return Sheet("Shopping list", found.title, [b for b in blocks if b.rows], foot)


BOX = "[  ]"


def _ready(jars: JarsToGet) -> str:
    lids = ""
    if jars.lids is not None:
        lids = f", {jars.get_lids} new lids to get" if jars.get_lids else ", lids all there"
    return f"{jars.need} ready{lids}"
