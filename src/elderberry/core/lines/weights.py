"""What a measured amount weighs, in the form in which it was measured and in which it joins."""

from __future__ import annotations

import math

from elderberry.core import materials
from elderberry.core.errors import CannotTell
from elderberry.core.estimates import Estimate, Evidence, measured
from elderberry.core.lines.amounts import Measured
from elderberry.core.lines.line import Line
from elderberry.core.quantities import mass_of_litre_kg

LIQUID_SPREAD, GRANULES_SPREAD, FRUIT_SPREAD, LEAFY_SPREAD = 0.03, 0.05, 0.12, 0.25
PIECE_SPREAD = 0.20
"""How far one's usual pieces are off the tables' [-]; our estimate."""
CUT_PACKS = {"sliced": 1.15, "chopped": 1.2, "crushed": 1.6}
"""How much closer small fruit packs once it is cut; large fruit is measured cut anyway [-]."""
ZEST_KG_PER_L, PEEL_KG_PER_L, DRIED_KG_PER_L, POWDER_KG_PER_L = 0.40, 0.35, 0.55, 0.50
PEEL_TO_ZEST = 2.5
"""Peel with its white against thin zest, of citrus [g/g]."""
PEEL_SHARE = 0.12
"""Peel of other fruit [g/g]."""
POURED = frozenset({"juice", "puree"})
LEAFY = frozenset({"flavour"})
GRANULES = frozenset({"sugar", "sweetener", "acid", "mineral", "pectin", "thickener"})
SYRUP_KG_PER_L = 1.2
"""Sweeteners from this density on are poured [kg/L]."""


def in_grams(line: Line, found: Measured) -> Estimate:
    """What joins of it [g]: weighed as it was measured, then as much of it as its form is.

    Raises:
        CannotTell: it is not counted, or not measured by volume.

    Source: data/fruits.csv, data/ingredients.csv, data/loose.csv; spreads of cups and spoons after
    kitchen weighings: cut fruit ±12 %, heaped or scant ±20 %.
    """
    grams = _as_measured(line, found)
    part = _part_that_joins(line, found)
    return grams if part is None else _product(grams, part)


def _as_measured(line: Line, found: Measured) -> Estimate:
    if found.dimension == "mass":
        spread = found.spread
        mass = _spread(found.times, spread)
        exact = mass.hi == mass.lo
        return measured(mass.typ) if exact else mass
    if found.dimension == "volume":
        per_ml = litre_kg(line.material, line.measured_as)
        return _spread(found.times.scaled(per_ml), found.spread or _volume_spread(line))
    if found.dimension == "loose" and found.loose is not None:
        return _loosely(line, found)
    return _counted(line, found)


def _loosely(line: Line, found: Measured) -> Estimate:
    assert found.loose is not None  # asked only of loose measures
    one = found.loose.one
    if found.loose.unit == "ml":
        one = one.scaled(litre_kg(line.material, line.measured_as))
        one = _spread(one, _volume_spread(line))
    spread = _product(one.scaled(found.size), found.times)
    return _spread(spread, found.spread)


def _counted(line: Line, found: Measured) -> Estimate:
    fruit = materials.fruits().get(line.material)
    if fruit is None:
        raise CannotTell(f"{line.called} is not counted: write grams, spoons or cups")
    if fruit.piece_g is None:
        raise CannotTell(f"{line.called} is not counted: weigh it, or write cups")
    pieces = found.times.scaled(fruit.piece_g * found.size)
    return _spread(pieces, PIECE_SPREAD)


def _part_that_joins(line: Line, found: Measured) -> Estimate | None:
    """The part of what was measured that joins: its juice, its zest, its peel; None for all."""
    weighed_so = line.measured_as == line.form and found.dimension in {"mass", "volume"}
    spooned_so = line.measured_as == line.form and found.loose is not None
    fruit = materials.fruits().get(line.material)
    if fruit is None or weighed_so or spooned_so:
        return None
    if line.form == "juice":
        share = fruit.press_l_per_kg
        if share is None:
            raise CannotTell(f"no figure says what juice {line.called} gives: measure the juice")
        return share.scaled(litre_kg(line.material, "juice"))
    if line.form in {"zest", "peel"}:
        return _spread(_peel_share(fruit, line.form), 0.3)
    return None


def _peel_share(fruit: materials.Fruit, form: str) -> Estimate:
    share = fruit.zest_share
    typ = PEEL_SHARE if share is None else share * (1.0 if form == "zest" else PEEL_TO_ZEST)
    return Estimate(typ, typ, typ)


def litre_kg(material: str, form: str) -> float:
    """Kilograms a litre of a material as it is measured in a form [kg/L].

    Raises:
        CannotTell: nothing is known of it.

    >>> round(litre_kg("strawberry", "sliced"), 2), litre_kg("honey", "as_sold")
    (0.69, 1.42)
    """
    fruit = materials.fruits().get(material)
    if fruit is None:
        powdered = form == "powder" and materials.ingredient(material).kind in LEAFY
        return POWDER_KG_PER_L if powdered else mass_of_litre_kg(material)
    if form in POURED:
        return mass_of_litre_kg(material, juice=True)
    fixed = {"zest": ZEST_KG_PER_L, "peel": PEEL_KG_PER_L, "powder": POWDER_KG_PER_L}
    if form in fixed:
        return fixed[form]
    if form == "dried":
        return mass_of_litre_kg(material) if fruit.comes_dried else DRIED_KG_PER_L
    closer = 1.0 if fruit.large and form != "crushed" else CUT_PACKS.get(form, 1.0)
    return mass_of_litre_kg(material) * closer


def _volume_spread(line: Line) -> float:
    if line.material in materials.fruits():
        return LIQUID_SPREAD if line.measured_as in POURED else FRUIT_SPREAD
    item = materials.ingredient(line.material)
    if item.kind in LEAFY and item.density_kg_per_l < 0.9:
        return LEAFY_SPREAD
    dry = item.kind in GRANULES and item.density_kg_per_l < SYRUP_KG_PER_L
    return GRANULES_SPREAD if dry else LIQUID_SPREAD


def _spread(of: Estimate, share: float) -> Estimate:
    """An estimate whose own range and a spread to both sides stand together."""
    if of.typ <= 0 or (share == 0 and of.lo == of.hi):
        return Estimate(of.lo, of.typ, of.hi, Evidence.READ)
    below = math.hypot((of.typ - of.lo) / of.typ, share)
    above = math.hypot((of.hi - of.typ) / of.typ, share)
    return Estimate(of.typ * max(0.0, 1 - below), of.typ, of.typ * (1 + above), Evidence.READ)


def _product(one: Estimate, other: Estimate) -> Estimate:
    """Two ranges multiplied end by end."""
    return Estimate(one.lo * other.lo, one.typ * other.typ, one.hi * other.hi, Evidence.READ)
