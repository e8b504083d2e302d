"""Judging: every stop, caution and note that stands on a flow in a kitchen."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import replace

from elderberry.core import acid, jars
from elderberry.core.drying.air_dry import CASE_HARDENS_C
from elderberry.core.drying.freeze_dry import STICKY_C, pulp_to_dry
from elderberry.core.ends import as_it_lies
from elderberry.core.findings import Finding, Verdict, verdict
from elderberry.core.flow.draft import Draft, poured
from elderberry.core.flow.inputs import End, Input, fruit_juice
from elderberry.core.flow.kinds import DRIES, kind
from elderberry.core.flow.steps import Operation
from elderberry.core.kitchen import Kitchen
from elderberry.core.numbers import typical
from elderberry.core.process import Contents
from elderberry.core.process.edge import low_acid
from elderberry.core.rules import Facts, rule, standing

STANDING_LINE = (
    "Follow the tested times of your own food authority; "
    "when in doubt, chill, freeze or throw away."
)
"""What stands under every plan, sheet and card."""
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
        *_steeped_warm(flow, kitchen), *_lacking(flow, kitchen, of), *_dried(flow, of),
    ]  # fmt: skip
    return verdict([*stops, *found])


def facts_of(flow: Draft, kitchen: Kitchen, end: End) -> Facts:
    """What the rules ask of a flow; jars count that are packed and in stock."""
    filling = flow.fillings.get(end.key)
    packed = filling.packing.jars if filling else {}
    return Facts(
        operations=frozenset(operation.kind for operation in flow.operations),
        fruits=frozenset(i.material for i in flow.brief.inputs if i.fruit),
        closures=frozenset(
            end.closure or jars.kind(k).closure for k in packed if k in kitchen.jar_stock
        ),
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
        draws = what.gets_juice or what.role == "scent"
        if not (what.waits and draws and warm):
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
    own = fruit_juice(given.material, given.brix, given.ph).first()
    return 1000.0 * typical(own.strong_base_mol) / typical(own.volume_ml)


def _lacking(flow: Draft, kitchen: Kitchen, end: End) -> Iterator[Finding]:
    """Work for a station that this kitchen has none of."""
    for station, stop in (
        ("juicer", "no-juicer"), ("freeze_dryer", "no-freeze-dryer"), ("dryer", "no-dryer"),
    ):  # fmt: skip
        works = (o for o in flow.operations if kind(o.kind).station == station)
        operation = next(works, None) if station in kitchen.lacks else None
        if operation is not None:
            yield rule(stop).finding(operation.key)
    if end.keep == "shelf" and "canner" in kitchen.lacks:
        yield rule("no-canner").finding("process")


def _dried(flow: Draft, end: End) -> Iterator[Finding]:
    """What would foam or stick in a freeze dryer, harden in warm air, or be packed unevenly dry."""
    for operation in flow.operations:
        role = kind(operation.kind).role
        first = role in DRIES and operation.params["load"] == 1
        if first:
            yield from _loads(operation)
        if first and role == "freeze_dry":
            yield from _in_vacuum(flow, operation)
        if role == "air_dry" and operation.params["air_c"] > CASE_HARDENS_C:
            yield rule("case-hardens").finding(operation.key)
    airs = (o for o in flow.operations if kind(o.kind).role == "air_dry")
    warm = any(o.params["what"] not in THIN for o in airs)
    evened = any(kind(o.kind).role == "condition" for o in flow.operations)
    if end.keep == "dry" and warm and not evened:
        yield rule("not-conditioned").finding("fill")
    frozen = any(i.form == "frozen" for i in flow.brief.inputs)
    heated = any(kind(o.kind).heats or kind(o.kind).gets_juice for o in flow.operations)
    if end.keep == "freeze" and frozen and not heated:
        yield rule("frozen-again").finding("fill")


def _loads(operation: Operation) -> Iterator[Finding]:
    """Loads of a dryer that wait for the one before, too long for the warm."""
    waits = operation.params["loads"] - 1
    hours = waits * operation.minutes.typ / 60.0
    if hours > LOADS_WAIT_H:
        yield rule("loads-wait-cold").finding(operation.key, hours=f"{hours:.0f}")


LOADS_WAIT_H = 4.0


def _in_vacuum(flow: Draft, operation: Operation) -> Iterator[Finding]:
    """What foams is stopped with what would dry it; what sticks is warned of."""
    does = operation.params["does"]
    if does == "dries":
        return
    if does == "sticky":
        yield rule("dries-sticky").finding(operation.key)
        return
    wet = poured(tuple(flow.lots[key] for key in operation.takes))
    pulp = math.ceil(pulp_to_dry(wet.composition.first(), STICKY_C) * THIN_WITH_MARGIN)
    stop = rule("will-foam").finding(operation.key, pulp=f"{pulp:g}")
    yield replace(stop, change=f"line={pulp} g maltodextrin")


THIN = frozenset({"leather", "herbs", "peel"})
"""What is dried in so thin a layer that it dries evenly."""
THIN_WITH_MARGIN = 1.15
"""How much more is stirred in than would just do [-]."""


def _room(flow: Draft, kitchen: Kitchen) -> Iterator[Finding]:
    """What would overflow its vessel, or leave the refrigerator or the shelf full."""
    cold, stands = _filled_l(flow, "chill"), _filled_l(flow, "shelf")
    for operation in flow.operations:
        litres = operation.holds_l.hi if operation.holds_l else 0.0
        yield from _vessel(operation, litres, kitchen)
        if kind(operation.kind).station == "fridge":
            cold = max(cold, litres)
    free = kitchen.fridge_free_l
    if free is not None and cold > free:
        yield rule("fridge-full").finding("", litres=f"{cold:.0f}", room=f"{free:g}")
    for full, litres, left in (
        ("shelf-full", stands, kitchen.shelf_free_l),
        ("freezer-full", _filled_l(flow, "freeze"), kitchen.freezer_free_l),
    ):
        if left is not None and litres > left:
            room = f"{max(0.0, left):.0f}"
            yield rule(full).finding("", litres=f"{litres:.0f}", room=room)


def _filled_l(flow: Draft, keep: str) -> float:
    """What is filled to be kept so, at its most [L]."""
    ends = {e.key for e in flow.brief.ends if e.keep == keep and e.key in flow.fillings}
    return sum(
        as_it_lies(flow.lots[k]).hi / 1000.0
        for o in flow.operations
        if o.key in ends
        for k in o.gives
    )


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
