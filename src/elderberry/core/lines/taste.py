"""What "to taste" may come to."""

from __future__ import annotations

from functools import cache

from elderberry.core import materials, tables
from elderberry.core.estimates import Estimate, Evidence


def to_taste_g_per_l(material: str) -> Estimate:
    """How much of a material "to taste" usually comes to [g/L of what it joins].

    Source: data/taste.csv.

    >>> to_taste_g_per_l("citric_acid").typ, to_taste_g_per_l("honey").typ
    (0.0, 50.0)
    """
    kind = "fruit" if material in materials.fruits() else materials.ingredient(material).kind
    return _table()[kind]


@cache
def _table() -> dict[str, Estimate]:
    return {
        row["what"]: Estimate(float(row["lo"]), float(row["typ"]), float(row["hi"]), Evidence.READ)
        for row in tables.rows("taste")
    }
