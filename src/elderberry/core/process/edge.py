"""The upper edge of a predicted pH: how little sharp what is filled may be, by the tables."""

from __future__ import annotations

import math

from elderberry.core import acid
from elderberry.core.charge import ACIDS
from elderberry.core.composition import Composition, of_fruit_juice
from elderberry.core.errors import CannotTell, CoreError
from elderberry.core.kitchen import UNKNOWN_HARDNESS_HIGH_MG_L, UNKNOWN_HARDNESS_MG_L
from elderberry.core.process.contents import BOTTLED, SHARP, Contents, Part

MODEL_ERROR, READ_ERROR = 0.3, 0.2
"""What a prediction is out by where a fruit was not read, and where every one was [pH]."""
BOTTLED_SHARE = 0.9
"""Bottled juice is reckoned at 4.5 % of acid, where its label says 5 [-]."""
LEFT_OUT = frozenset({"sugar", "vinegar"})
"""Kinds of ingredient whose acid is not reckoned on."""


def upper_edge(
    contents: Contents, hardness_known: bool = True, citrus: bool = False
) -> float | None:
    """Upper edge of the pH of what is filled [-]; None where no pH can be told.

    t + √((h − t)² + m²): t the pH from typical figures, h from the fruits' highest pH with their
    lowest or typical acidity, whichever leaves it higher; m 0.3, or 0.2 where every fruit was
    read. Sugar counts as volume; fresh lemon, vinegar, and the acid of honey and molasses do not
    count (fresh lemon does in a citrus concentrate).

    Args:
        contents: what is filled.
        hardness_known: whether the water's alkalinity was measured; else it may be 350 mg/L.
        citrus: whether it is judged as a citrus concentrate.

    Source: charge balance; the project's own bound, checked against meters.
    """
    harder = 1.0 if hardness_known else UNKNOWN_HARDNESS_HIGH_MG_L / UNKNOWN_HARDNESS_MG_L
    read = [p for p in contents.fruit if p.source.ph_read is not None]
    try:
        usual = float(acid.ph(_mix(contents, citrus, "usual", 1.0)))
        high = max(
            float(acid.ph(_mix(contents, citrus, how, harder))) for how in ("high", "high and low")
        )
    except CoreError:
        return None
    error = READ_ERROR if len(read) == len(contents.fruit) else MODEL_ERROR
    return usual + math.hypot(max(0.0, high - usual), error)


def _mix(contents: Contents, citrus: bool, how: str, harder: float) -> Composition:
    return sum((_as(p, citrus, how, harder) for p in contents.parts), start=Composition())


def _as(part: Part, citrus: bool, how: str, harder: float) -> Composition:
    """A part as the bound reckons it."""
    kind = part.source.ingredient.kind if part.source.ingredient else ""
    if part.material in SHARP:
        return _sharp(part, citrus, how)
    if kind in LEFT_OUT:
        return _without_acid(part.composition)
    if kind == "water":
        held = part.composition
        return held + Composition(
            strong_base_mol=(harder - 1.0) * held.strong_base_mol,
            carbonate_mol=(harder - 1.0) * held.carbonate_mol,
        )
    fruit = part.source.fruit
    if fruit is None or how == "usual" or part.source.ph_read is not None:
        return part.composition
    return _at_its_highest(part, low=how == "high and low")


def _sharp(part: Part, citrus: bool, how: str) -> Composition:
    """Lemon and lime: constant from the bottle; fresh only where the product is made of it."""
    held = part.composition
    if part.material in BOTTLED:
        less = {n: -(1.0 - BOTTLED_SHARE) * getattr(held, n) for n in ACIDS}
        return held - Composition(**{n: -g for n, g in less.items() if g < 0})
    if not citrus and part.material in SHARP:
        return _without_acid(held)
    if how != "usual" and part.source.fruit is not None and part.source.ph_read is None:
        return _at_its_highest(part, low=how == "high and low")
    return held


def _without_acid(held: Composition) -> Composition:
    return held - Composition(
        **{n: getattr(held, n) for n in ACIDS}, strong_base_mol=held.strong_base_mol
    )


def _at_its_highest(part: Part, low: bool) -> Composition:
    """The same amount of a fruit, as little sharp as the tables know it."""
    fruit = part.source.fruit
    assert fruit is not None  # asked only of fruit
    if fruit.brix is None or fruit.ph is None or fruit.acid_pct is None:
        return part.composition
    own = 100.0 * part.solids_g / fruit.brix.typ
    sour = fruit.acid_pct.lo if low else fruit.acid_pct.typ
    try:
        juice = of_fruit_juice(fruit.key, own, fruit.brix.typ, fruit.ph.hi, sour)
    except CannotTell:
        return part.composition
    held = part.composition
    return Composition(
        water=held.water, insoluble=held.insoluble, sucrose=juice.sucrose, glucose=juice.glucose,
        fructose=juice.fructose, strong_base_mol=juice.strong_base_mol,
        **{n: getattr(juice, n) for n in ACIDS},
    )  # fmt: skip


LOW_ACID_PH = 4.6
"""Over this, germs that make poison can grow where no air comes."""


def low_acid(contents: Contents, hardness_known: bool = True) -> bool:
    """Whether what is there may pass pH 4.6, or nobody can tell.

    Args:
        contents: what stands.
        hardness_known: whether the water's alkalinity was measured.

    Source: FDA 21 CFR 114; a meter's reading of it, or the upper edge of its predicted pH.
    """
    meter = contents.lot.acidity.meter
    if meter is not None:
        return meter > LOW_ACID_PH
    edge = upper_edge(contents, hardness_known)
    return edge is None or edge > LOW_ACID_PH
