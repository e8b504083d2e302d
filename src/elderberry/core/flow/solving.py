"""How much of an input it takes, where that hangs on what it joins."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from elderberry.core import acid, estimates, jars, juicing, sugar
from elderberry.core.composition import Composition, of_material
from elderberry.core.errors import CoreError, Past, check_range
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.flow.inputs import Input, lot_of, one_gram
from elderberry.core.flow.lots import Lot, typical_g
from elderberry.core.numbers import typical
from elderberry.core.solve import acidify_to_acidity

USUAL_PACK_KG_PER_L = 0.6
MASHED_COVER_L_PER_KG = 0.15
"""Water that covers mashed fruit: it swims in its own juice, so only what its air took [L/kg]."""
ROUNDS = 4
"""How often several targets are solved in turn until they hold together."""


@dataclass(frozen=True)
class Around:
    """What else decides how much it is: every lot by name, the water, and the jar it is for."""

    lots: Mapping[str, Lot]
    alkalinity_mg_l: float
    jar_ml: float


def cover_l(fruit: Lot) -> Estimate:
    """Water that just covers what is in the pot [L]."""
    kg = typical_g(fruit) / 1000.0
    if fruit.kind == "mash":
        litres = MASHED_COVER_L_PER_KG * kg
        return Estimate(0.5 * litres, litres, 2.0 * litres, Evidence.READ)
    packs = [f.pack_kg_per_l for f in fruit.fruits if f.pack_kg_per_l]
    return juicing.water_to_cover_l(kg, packs[0] if packs else USUAL_PACK_KG_PER_L)


def jar_for(volume_ml: float, chosen: Sequence[str], stock: Mapping[str, int]) -> float:
    """Nominal size of the jar that so much goes into [mL]: the first chosen, or the usual one."""
    kinds = chosen or jars.usual(volume_ml, stock, math.inf)
    return jars.kind(kinds[0]).nominal_ml if kinds else 1000.0


def solved(given: Input, joins: Lot, around: Around) -> Estimate:
    """Grams of an input whose amount hangs on what it joins.

    Args:
        given: an input whose amount is a share or a target.
        joins: what it joins, as it is known by then.
        around: what else decides.

    Raises:
        Past: it is there already, or beyond.
        Unreachable: no amount of this gets there.
        CoreError: a share of something that is not there.
    """
    amount = given.amount
    if amount.how == "share":
        return _share(given, joins, around)
    mix = joins.composition.first()
    if amount.target == "ph":
        check_range("target pH", amount.value, "pH", 1.5, 7)
        return estimates.measured(acid.acidify(mix, amount.value, given.material))
    if amount.target == "acid_g_l":
        return estimates.measured(acidify_to_acidity(mix, amount.value, given.material).amount_g)
    if amount.target == "cover":
        return cover_l(joins).scaled(1000.0 * typical(one_gram(given, 0.0).mass_g))
    if amount.target in {"volume_ml", "fill"}:
        return estimates.measured(_up_to(given, typical(mix.volume_ml), around))
    return estimates.measured(_to_brix(given, mix, amount.value))


def _share(given: Input, joins: Lot, around: Around) -> Estimate:
    amount = given.amount
    other = _named(around.lots, amount.of) if amount.of else joins
    if other is None:
        raise CoreError(f"there is no {amount.of} that {given.name.lower()} could be a share of")
    size = {
        "g/g": other.mass_g.typ,
        "g/l": other.volume_ml.typ / 1000.0,
        "g/jar": other.volume_ml.typ / around.jar_ml,
    }[amount.per]
    grams = size * amount.share
    lo, hi = amount.spread
    evidence = Evidence.READ if hi > lo else Evidence.MEASURED
    return Estimate(lo * grams, grams, hi * grams, evidence)


def _named(lots: Mapping[str, Lot], name: str) -> Lot | None:
    """A lot by its own name, by what it is of, or by its kind: "the juice", "the water"."""
    if name in lots:
        return lots[name]
    of_it = [x for x in lots.values() if len(x.origins) == 1 and x.sources[0].material == name]
    found = of_it or [x for x in lots.values() if x.kind == name]
    return found[-1] if found else None


def _up_to(given: Input, there_ml: float, around: Around) -> float:
    """Grams up to a volume, or up to the next full jar."""
    goal = given.amount.value
    if given.amount.target == "fill":
        goal = around.jar_ml * math.ceil(there_ml / around.jar_ml - 1e-6)
    one = one_gram(given, around.alkalinity_mg_l).first()
    return max(0.0, goal - there_ml) / typical(one.volume_ml)


def _to_brix(given: Input, mix: Composition, target: float) -> float:
    liquid = mix.portion(1.0, 1.0, 0.0)
    now, thins = typical(liquid.brix), given.lot_kind == "water"
    if now <= target if thins else now >= target:
        raise Past(f"it has {now:.1f} °Bx already", now)
    if thins:
        return float(sugar.water_to_reach(liquid.mass_g, liquid.brix, target))
    strength = typical(of_material(given.material, 1.0).brix)
    return float(sugar.sugar_to_reach(liquid.mass_g, liquid.brix, target, strength))


def together(given: Sequence[Input], joins: Lot, around: Around) -> list[Lot]:
    """Lots of what joins, in the order given.

    What is weighed or a share is there first; then targets are met, and where there are several,
    which pull at each other, they are solved in turn until they hold together.

    Raises:
        CoreError: as solved.
    """
    goals = [i for i in given if i.amount.how == "target" and i.key not in around.lots]
    lots = {i.key: _lot(i, joins, around) for i in given if i not in goals}
    for _ in range(ROUNDS if len(goals) > 1 else 1):
        for one in goals:
            others = (lot.composition for key, lot in lots.items() if key != one.key)
            lots[one.key] = _lot(one, joins.holding(sum(others, start=joins.composition)), around)
    return [lots[one.key] for one in given]


def _lot(given: Input, joins: Lot, around: Around) -> Lot:
    if given.key in around.lots:
        return around.lots[given.key]
    mass = given.amount.grams or _wanting(given, joins, around)
    return lot_of(given, mass, around.alkalinity_mg_l)


def _wanting(given: Input, joins: Lot, around: Around) -> Estimate:
    """What is still wanting to where it should come [g]: nothing, where it is there already."""
    try:
        return solved(given, joins, around)
    except Past:
        return estimates.measured(0.0)
