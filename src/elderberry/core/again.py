"""What is dry, back again: how much water makes a pack of it what it was, and what was saved."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from elderberry.core.drying.air_dry import water_activity
from elderberry.core.drying.back import SPOON_ML, STRENGTHS, Strength, for_drink
from elderberry.core.drying.dried import dried, moisture
from elderberry.core.flow.inputs import Input, grams, one_gram
from elderberry.core.numbers import typical
from elderberry.core.process import Contents

A_LITRE_ML = 1000.0
LEAST_G = 1.0
BY_THE_SPOON = frozenset({"powder", "flakes"})
"""How what is measured with a spoon lies; everything else is weighed."""


@dataclass(frozen=True)
class SpoonTo:
    """Water to a level spoon of it [mL], at a strength."""

    strength: Strength
    water_ml: float


@dataclass(frozen=True)
class Poured:
    """A drink of so many millilitres, as picked: what goes in, and water [mL, g]."""

    ml: float
    dry_g: float
    water_g: float


@dataclass(frozen=True)
class Again:
    """Something dry, and what it makes.

    dry_g, wet_g: as it is, and as it was before its water left [g]. water_g_per_g: water to a gram
    of it, as picked [g]. spoon_g: a level spoon of 15 ml [g], 0 where it is no powder.
    spoon_fruit_g: what that spoon stands for, as it was [g]. sachet_g: for a litre as picked [g].
    litres: what all of it makes [L]. water_activity: of it [-]; saved_pct: weight that is saved by
    drying [%].
    """

    lies: str
    dry_g: float
    wet_g: float
    water_g_per_g: float
    spoon_g: float
    spoons: tuple[SpoonTo, ...]
    spoon_fruit_g: float
    sachet_g: float
    litres: float
    moisture_pct: float
    water_activity: float
    saved_pct: float
    pack_l: float
    """Room that it takes [L], as it lies."""
    pours: tuple[Poured, ...]
    """Drinks of the sizes that were asked for."""
    portion: Poured | None = None
    """One of the portions that it was dried in, and what it makes."""
    portions: float = 0.0
    """How many of them there are."""


def again(contents: Contents, sizes_ml: Sequence[float] = ()) -> Again | None:
    """What is dry and what it makes, also in drinks of some sizes; None of what is not dry.

    Source: mass balance, water back for the water that left its fruit; drying.back.
    """
    dry_g = float(contents.usual.mass_g)
    if not contents.lot.dried or dry_g < LEAST_G:
        return None
    wet = moisture(contents.usual)
    lot = contents.lot
    out = water_out_g(contents) / dry_g
    return of_pack(lot.dried, dry_g, out, wet, sizes_ml, lot.portion_g)


def of_pack(
    lies: str, dry_g: float, water_g_per_g: float, wet: float, sizes_ml: Sequence[float] = (),
    portion_g: float = 0.0,
) -> Again:  # fmt: skip
    """What a pack of something dry makes.

    Args:
        lies: how it lies, a key of data/dried.csv.
        dry_g: what is in the pack [g].
        water_g_per_g: water that left each gram of it [g].
        wet: moisture of it [g/g wet].
        sizes_ml: drinks that are asked for [mL].
        portion_g: what a portion of it weighs [g]; 0 where it lies in none.

    Raises:
        Unknown: it lies in no way that is known.
        OutOfRange: an empty pack.

    Source: mass balance; drying.back.

    >>> round(of_pack("powder", 100.0, 6.0, 0.03).sachet_g)
    143
    """
    out_g = max(water_g_per_g * dry_g, 1e-6)
    spoon_g = SPOON_ML * dried(lies).bulk_g_ml if lies in BY_THE_SPOON else 0.0
    litre = for_drink(A_LITRE_ML, dry_g, out_g)
    drinks = ((ml, for_drink(ml, dry_g, out_g)) for ml in sizes_ml)
    return Again(
        lies=lies,
        dry_g=dry_g,
        wet_g=dry_g + out_g,
        water_g_per_g=out_g / dry_g,
        spoon_g=spoon_g,
        spoons=tuple(
            SpoonTo(name, spoon_g * out_g / dry_g * part)
            for name, part in STRENGTHS.items()
            if spoon_g
        ),
        spoon_fruit_g=spoon_g * (dry_g + out_g) / dry_g,
        sachet_g=litre.powder_g,
        litres=(dry_g + out_g) / A_LITRE_ML,
        moisture_pct=100.0 * wet,
        water_activity=water_activity(wet),
        saved_pct=100.0 * out_g / (dry_g + out_g),
        pack_l=dry_g / dried(lies).bulk_g_ml / 1000.0,
        pours=tuple(Poured(ml, d.powder_g, d.water_g) for ml, d in drinks),
        portion=_portion(portion_g, out_g / dry_g) if portion_g else None,
        portions=dry_g / portion_g if portion_g else 0.0,
    )


def _portion(dry_g: float, water_g_per_g: float) -> Poured:
    """A portion as picked: water back for the water that left it."""
    water_g = dry_g * water_g_per_g
    return Poured(dry_g + water_g, dry_g, water_g)


CAME_DRY = frozenset({"powder", "dried"})
"""Forms of fruit whose water had left before it came."""


def water_out_g(contents: Contents) -> float:
    """Water that its fruit held and holds no more, by what is left of its solids [g].

    Water that a cook added is not put back: what is made again is the fruit as it was picked. Of
    what came dry it is the water that such fruit holds fresh.
    """
    gone = 0.0
    for part in contents.parts:
        whole = float(part.source.usual.water)
        there = max(typical(part.held.solute), typical(part.held.solid))
        if part.source.form in CAME_DRY:
            fresh = one_gram(Input("fresh", part.material, grams(1.0)), 0.0).first()
            wet = float(fresh.water) / max(1.0 - float(fresh.water), 1e-6)
            solids = float(part.composition.mass_g) - float(part.composition.water)
            gone += max(0.0, solids * wet - float(part.composition.water))
        elif part.source.fruit is not None:
            gone += max(0.0, whole * (there - typical(part.held.water)))
    return gone
