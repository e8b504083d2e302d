"""A sweetener swapped for another that is as sweet: the line, and what it changes in the jar."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from sqlalchemy.orm import Session as Orm

from elderberry.core import colour, materials, names, sweeteners
from elderberry.core.ends import PlannedEnd
from elderberry.core.errors import CoreError
from elderberry.core.plan import Plan
from elderberry.core.quantities import Quantity, System, show
from elderberry.core.telling import told
from elderberry.core.wording import figure, in_units
from elderberry.services.planning import plans
from elderberry.services.planning.asked import GoesIn, PlanRequest
from elderberry.services.planning.prepared import Prepared
from elderberry.services.who import Who

NOTABLE_BRIX, NOTABLE_ML, NOTABLE_PH, NOTABLE_LIFE = 0.5, 20.0, 0.05, 1.15
"""From how much on a change is worth a word."""


@dataclass(frozen=True)
class Swap:
    """The line with another sweetener, and what that changes, in words."""

    line: str
    same: str
    """What stays as it was: how sweet it tastes, or its Brix where a line goes by that."""
    name: str
    colour: str
    changes: list[str]
    key: str
    """The name under which it takes the place of what the method puts in; empty for none."""


def swaps(orm: Orm, who: Who, request: PlanRequest, place: int) -> list[Swap]:
    """What could sweeten instead of a line; nothing where the line is no sweetener.

    Args:
        orm: a session.
        who: for whom.
        request: what is planned.
        place: of the line among what goes in.
    """
    now = plans.prepare(orm, who, request)
    if not 0 <= place < len(now.request.inputs):
        return []
    given = now.request.inputs[place]
    if materials.kind_of(given.material) not in materials.SWEET:
        return []
    plan, by_brix = now.plan(), given.amount().how == "target"
    takes = now.stands_for(place)
    found = []
    for other in sweeteners.USUAL:
        if other == given.material or (by_brix and not _tells(other)):
            continue
        try:
            line = _line(given, other, now)
            inputs = (
                GoesIn(line=line, key=i.key or takes, step=i.step) if n == place else i
                for n, i in enumerate(request.inputs)
            )
            swapped = plans.prepare(orm, who, replace(request, inputs=tuple(inputs))).plan()
        except CoreError:
            continue
        changes = list(_changes(plan, swapped, other, now.kitchen.units))
        same = "to the same Brix" if by_brix else "as sweet"
        hue = colour.of_material(other)
        found.append(Swap(line, same, names.told(other), hue, changes, takes))
    return found


def _tells(material: str) -> bool:
    """Whether a Brix tells how sweet something made with it is: of sugars, not of substitutes."""
    return materials.ingredient(material).kind == "sugar"


def _line(given: GoesIn, other: str, now: Prepared) -> str:
    """The line as it would be said with the other sweetener.

    Raises:
        CoreError: it says nothing that another can be put to.
    """
    name, amount = names.told(other), given.amount()
    if amount.how == "target":
        return f"{name} to {amount.value:.3g} Brix"
    if amount.how == "share":
        share = sweeteners.as_sweet_g(given.material, amount.share, other)
        per = {"g/g": "to the kilo", "g/l": "to the litre", "g/jar": "in each jar"}[amount.per]
        grams = 1000.0 * share if amount.per == "g/g" else share
        return f"{float(f'{grams:.3g}'):g} g {name} {per}"
    grams = amount.grams.typ if amount.grams else 0.0
    weighed = sweeteners.as_sweet_g(given.material, grams, other)
    return f"{show(Quantity(weighed, 'mass'), now.kitchen.units)} {name}"


def _changes(plan: Plan, swapped: Plan, other: str, units: System) -> Iterator[str]:
    """What is different in the jar, as far as anybody would notice."""
    one, two = plan.main, swapped.main
    yield from _figures(one, two, units)
    lives = one.life.days_typ, two.life.days_typ
    if max(lives) > NOTABLE_LIFE * min(lives):
        now, then = (f"{e.life.days_lo:g} to {e.life.days_hi:g}" for e in (two, one))
        yield f"keeps {now} days, not {then}"
    here = {f.id for f in one.verdict.stops}
    yield from (told(f, units).message for f in two.verdict.stops if f.id not in here)
    if note := materials.ingredient(other).note:
        yield note


def _figures(one: PlannedEnd, two: PlannedEnd, units: System) -> Iterator[str]:
    before, after = one.filled.figures, two.filled.figures
    if before.brix and after.brix:
        by = after.brix.typ - before.brix.typ
        if abs(by) >= NOTABLE_BRIX:
            yield f"reads {abs(by):.1f} °Bx {'more' if by > 0 else 'less'}"
    ml = 1000.0 * (two.litres.typ - one.litres.typ)
    if abs(ml) >= NOTABLE_ML:
        yield f"{in_units(figure(abs(ml), 'ml'), units)} {'more' if ml > 0 else 'less'} to fill"
    if before.ph and after.ph:
        by = after.ph.typ - before.ph.typ
        if abs(by) >= NOTABLE_PH:
            yield f"pH {abs(by):.2f} {'higher' if by > 0 else 'lower'}"
