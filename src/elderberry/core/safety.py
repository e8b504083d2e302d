"""Judging: every stop, caution and note that stands on a flow in a kitchen."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from typing import TYPE_CHECKING

from elderberry.core import acid, jars
from elderberry.core.findings import Finding, Verdict, verdict
from elderberry.core.flow.kinds import kind
from elderberry.core.numbers import typical
from elderberry.core.rules import Facts, rule, standing

if TYPE_CHECKING:
    from elderberry.core.flow.draft import Draft, Operation
    from elderberry.core.kitchen import Kitchen

POT_FILL = 0.8
"""Share of a pot that may be full when it boils [-]."""
STRAINED_PULP_PCT = 1.0
"""Undissolved matter over which a juice counts as a purée [g/100 g]."""


def judge(flow: Draft, kitchen: Kitchen, stops: Iterable[Finding] = ()) -> Verdict:
    """Every finding on a flow, each with its place in it, stops first.

    Args:
        flow: the flow as laid out.
        kitchen: where it happens.
        stops: what looking up the tested time has already refused.

    Source: data/rules.toml.
    """
    found = [*standing(facts_of(flow, kitchen)), *_room(flow, kitchen), *_disagreeing(flow)]
    return verdict([*stops, *found])


def facts_of(flow: Draft, kitchen: Kitchen) -> Facts:
    """What the rules ask of a flow; jars count that are packed and in stock."""
    load, packed = flow.load, flow.packing.jars if flow.packing else {}
    filled = flow.lots.get("jars") or flow.lots["fruit"]
    litres = max(filled.volume_ml.typ / 1000.0, 1e-9)
    return Facts(
        operations=frozenset(operation.kind for operation in flow.operations),
        fruits=frozenset({load.fruit_key}),
        closures=frozenset(jars.kind(k).closure for k in packed if k in kitchen.jar_stock),
        keep=load.keep,
        ingredients={k: grams / litres for k, grams in flow.ingredients_g.items()},
        said=load.said,
    )


def _disagreeing(flow: Draft) -> Iterator[Finding]:
    """A pH that was read, where no juice of this fruit's acidity could have it."""
    load, own = flow.load, flow.own
    if load.ph is None or load.form == "dried":
        return
    base = 1000.0 * typical(own.strong_base_mol) / typical(own.volume_ml)
    least, most = acid.USUAL_BASE_MOL_L
    if not least <= base <= most:
        figures = {"ph": f"{load.ph.typ:.2f}", "fruit": flow.fruit.name.lower()}
        yield rule("ph-and-acidity-disagree").finding("fruit", **figures)


def _room(flow: Draft, kitchen: Kitchen) -> Iterator[Finding]:
    """What would overflow its vessel, or leave the refrigerator full."""
    cold = flow.lots["jars"].volume_ml.hi / 1000.0 if flow.load.keep == "chill" else 0.0
    for operation in flow.operations:
        litres = operation.holds_l.hi if operation.holds_l else 0.0
        yield from _vessel(operation, litres, kitchen)
        if kind(operation.kind).station == "fridge":
            cold = max(cold, litres)
    free = kitchen.fridge_free_l
    if free is not None and cold > free:
        yield rule("fridge-full").finding("", litres=f"{cold:.0f}", room=f"{free:g}")


def _vessel(operation: Operation, litres: float, kitchen: Kitchen) -> Iterator[Finding]:
    vessel = kind(operation.kind).vessel
    room = kitchen.room_l(vessel) if vessel else None
    if room is None:
        return
    usable = POT_FILL * room if vessel == "pot" else room
    if litres > usable:
        figures = {
            "litres": f"{litres:.1f}", "room": f"{usable:g}", "vessel": vessel,
            "goes": math.ceil(litres / usable),
        }  # fmt: skip
        yield rule("vessel-too-small").finding(operation.key, **figures)
