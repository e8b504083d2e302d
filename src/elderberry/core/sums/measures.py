"""A sum of measures: what a line comes to, by the scale, the jug, the cup and the spoon."""

from __future__ import annotations

from elderberry.core.errors import CannotTell
from elderberry.core.lines import read
from elderberry.core.lines.weights import litre_kg
from elderberry.core.quantities import Customs
from elderberry.core.sums.told import Said, Sum, words_of

MEASURES_ML = (
    ("cup", "metric cups", 250.0), ("cup_us", "US cups", 236.588),
    ("tablespoon", "tablespoons of 15 ml", 15.0), ("teaspoon", "teaspoons of 5 ml", 5.0),
)  # fmt: skip


def measures(text: str, customs: Customs | None = None) -> Sum:
    """What a line comes to in every measure: "2 heaped cups of brown sugar".

    Args:
        text: the line.
        customs: whose cups, containers and weights count.

    Raises:
        CannotRead: it is not understood, with the place.
        CannotTell: it says no amount of its own.

    Source: lines.read; data/loose.csv, data/units.csv, densities of data/ingredients.csv.
    """
    line = read(text, customs)
    if line.mass_g is None:
        raise CannotTell("this says no amount of its own: say it in cups, spoons, kilos or pieces")
    name = line.called or line.material.replace("_", " ")
    kilo_ml = 1000.0 / litre_kg(line.material, line.measured_as)
    volume = line.mass_g.scaled(kilo_ml / 1000.0)
    return Sum(
        Said("mass", f"{name.lower()} weighs", "mass_g", line.mass_g),
        [
            Said("volume", "it fills", "little_ml", volume),
            *(
                Said(key, "or in " + label, "parts", volume.scaled(1.0 / one_ml))
                for key, label, one_ml in MEASURES_ML
            ),
            words_of(
                "range", "cups and handfuls differ by", _spread(line.mass_g.lo, line.mass_g.hi)
            ),
        ],
        "a scale says it best: weigh it once, and write it on the card",
        {"grams": line.mass_g.typ, "ml": volume.typ},
    )


def _spread(lo: float, hi: float) -> str:
    """How far apart the least and the most are."""
    if hi <= lo:
        return "nothing: it was weighed"
    return f"{100.0 * (hi - lo) / (hi + lo):.0f} % either way"
