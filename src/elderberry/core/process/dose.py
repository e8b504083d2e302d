"""A dose of acid instead of a meter: how much bottled lemon juice opens the gate of a row."""

from __future__ import annotations

from dataclasses import dataclass, replace

from elderberry.core.composition import of_material
from elderberry.core.flow.draft import with_more
from elderberry.core.flow.inputs import Input, grams, lot_of
from elderberry.core.process.case import Case
from elderberry.core.process.contents import BOTTLED_ML_PER_L

WITH = "lemon_bottled"
MOST_ML_PER_L = 250.0
"""Over this nobody calls it a dose any more: it is another drink [mL/L]."""
WIDER, ROUNDS = 1.35, 7


@dataclass(frozen=True)
class Dose:
    """Bottled lemon juice that stands for a meter [mL], for all of it and to the litre filled."""

    ml: float
    ml_per_l: float


def dose_for(case: Case, jar_ml: float | None) -> Dose | None:
    """The least bottled lemon juice that lets a case go without a reading; None where none does.

    It answers no reading over the limit, opens no measured gate, and nothing that must never be
    canned.

    Args:
        case: what is filled, where nobody read its pH.
        jar_ml: tested size of the jar [mL].

    Source: the government guide's dose for tomatoes and figs, and more where the upper edge of the
    predicted pH asks for it.
    """
    litres = case.contents.litres
    least = BOTTLED_ML_PER_L * litres / (1.0 - BOTTLED_ML_PER_L / 1000.0)
    short, enough = 0.0, least
    while not _opens(case, enough, jar_ml):
        short, enough = enough, enough * WIDER
        if enough > MOST_ML_PER_L * litres:
            return None
    for _ in range(ROUNDS if short else 0):
        middle = (short + enough) / 2.0
        short, enough = (short, middle) if _opens(case, middle, jar_ml) else (middle, enough)
    return Dose(enough, 1000.0 * enough / (1000.0 * litres + enough))


def _opens(case: Case, ml: float, jar_ml: float | None) -> bool:
    """Whether a case may go into the canner with so much of it."""
    mass = ml * float(of_material(WITH, 1.0).mass_g / of_material(WITH, 1.0).volume_ml)
    lemon = lot_of(Input(WITH, WITH, grams(mass)), mass, 0.0)
    lot = with_more(case.contents.lot, (lemon,))
    dosed = replace(case, contents=replace(case.contents, lot=lot))
    return not dosed.in_jars(jar_ml).stops
