"""Judging: every stop, caution and note that stands on a flow in a kitchen."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator

from elderberry.core import acid, jars
from elderberry.core.findings import Finding, Verdict, verdict
from elderberry.core.flow.draft import Draft
from elderberry.core.flow.inputs import End, Input, fruit_juice
from elderberry.core.flow.kinds import kind
from elderberry.core.flow.steps import Operation
from elderberry.core.kitchen import Kitchen
from elderberry.core.numbers import typical
from elderberry.core.process import Contents
from elderberry.core.process.edge import low_acid
from elderberry.core.rules import Facts, rule, standing

POT_FILL = 0.8
"""Share of a pot that may be full when it boils [-]."""


def judge(
    flow: Draft, kitchen: Kitchen, stops: Iterable[Finding] = (), end: End | None = None
) -> Verdict:
    """Every finding on a flow, each with its place in it, stops first.

    Args:
        flow: the flow as laid out.
        kitchen: where it happens.
        stops: what asking the tables has already refused.
        end: the end that it is judged for; the first when not said.

    Source: data/rules.toml.
    """
    of = end or flow.brief.ends[0]
    found = [
        *standing(facts_of(flow, kitchen, of)), *_room(flow, kitchen), *_disagreeing(flow),
        *_steeped_warm(flow, kitchen), *_lacking(flow, kitchen, of),
    ]  # fmt: skip
    return verdict([*stops, *found])


def facts_of(flow: Draft, kitchen: Kitchen, end: End) -> Facts:
    """What the rules ask of a flow; jars count that are packed and in stock."""
    filling = flow.fillings.get(end.key)
    packed = filling.packing.jars if filling else {}
    return Facts(
        operations=frozenset(operation.kind for operation in flow.operations),
        fruits=frozenset(i.material for i in flow.brief.inputs if i.fruit),
        closures=frozenset(jars.kind(k).closure for k in packed if k in kitchen.jar_stock),
        keep=end.keep,
        ingredients=dict.fromkeys(ingredients(flow), 1.0),
        said=flow.brief.said,
        heater=frozenset({kitchen.canner.heater}),
    )


def ingredients(flow: Draft) -> set[str]:
    """Everything but fruit and water that goes into a flow, by material."""
    sources = (s for lot in flow.lots.values() if lot.kind == "added" for s in lot.origins)
    return {s.material for s in sources}


def _disagreeing(flow: Draft) -> Iterator[Finding]:
    """A pH that was read, where no juice of this fruit's acidity could have it."""
    for given in flow.brief.inputs:
        if given.fruit is None or given.ph is None or given.shape.leaves_as == "dried":
            continue
        base = _base_mol_l(given)
        least, most = acid.USUAL_BASE_MOL_L
        if not least <= base <= most:
            figures = {"ph": f"{given.ph.typ:.2f}", "fruit": given.fruit.name.lower()}
            yield rule("ph-and-acidity-disagree").finding(given.key, **figures)


WARM_HOURS = 4.0
"""How long something that may be low in acid may stand between 5 and 60 °C [h]."""


def _steeped_warm(flow: Draft, kitchen: Kitchen) -> Iterator[Finding]:
    """What waits warm for hours and may be low in acid all that time."""
    known = kitchen.alkalinity_mg_l is not None
    for operation in flow.operations:
        what, hours = kind(operation.kind), operation.minutes.typ / 60.0
        warm = what.station != "fridge" and operation.params.get("stands") != COLD
        if not (what.waits and what.gets_juice and warm):
            continue
        if not low_acid(Contents(flow.lots[operation.gives[0]]), known):
            continue
        if hours > WARM_HOURS:
            yield rule("steep-too-long-warm").finding(operation.key, hours=f"{hours:.0f}")
        else:
            yield rule("low-acid-steep-warm").finding(operation.key)


COLD = "cold"


def _base_mol_l(given: Input) -> float:
    """Strong base that its reading makes of a fruit's juice [mol/L]."""
    own = fruit_juice(given).first()
    return 1000.0 * typical(own.strong_base_mol) / typical(own.volume_ml)


def _lacking(flow: Draft, kitchen: Kitchen, end: End) -> Iterator[Finding]:
    """Work for a station that this kitchen has none of."""
    for operation in flow.operations:
        if kind(operation.kind).station == "juicer" and "juicer" in kitchen.lacks:
            yield rule("no-juicer").finding(operation.key)
            break
    if end.keep == "shelf" and "canner" in kitchen.lacks:
        yield rule("no-canner").finding("process")


def _room(flow: Draft, kitchen: Kitchen) -> Iterator[Finding]:
    """What would overflow its vessel, or leave the refrigerator full."""
    chilled = [e.key for e in flow.brief.ends if e.keep == "chill" and e.key in flow.fillings]
    cold = sum(
        flow.lots[k].volume_ml.hi / 1000.0
        for o in flow.operations
        if o.key in chilled
        for k in o.gives
    )
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
