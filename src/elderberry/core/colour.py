"""The colour of a lot, mixed from what is in it and how strong it is; for drawing only."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache
from typing import Any

import numpy as np

from elderberry.core import materials, tables
from elderberry.core.flow.inputs import CLEAR
from elderberry.core.flow.lots import Lot, Source
from elderberry.core.numbers import Array, typical

LIDS: Mapping[str, str] = {
    "silver": "#b9bcbf", "white": "#f6f1e4", "black": "#2b2630", "red": "#a33a32",
    "green": "#4d7a4a", "blue": "#3f6488",
}  # fmt: skip
"""Colours of lids by which jars are told apart, by name."""
FULL_PCT = 4.0
"""Tinting solids from which on a liquid has its full colour [g/100 g]; an estimate."""
DARK_WINS = 2.0
"""How much more a dark juice tints than a light one: the power of its darkness [-]."""
PALES = 0.6
"""How fast a colour pales as it is thinned: the power of its strength [-]."""
RGB = tuple[float, float, float]
SWATCHES: tuple[tuple[str, float, str], ...] = (
    ("clear", 150.0, "#efe4c2"),
    ("straw", 158.0, "#e9c879"),
    ("honey", 165.0, "#d99a3c"),
    ("amber", 172.0, "#b96a1f"),
    ("copper", 180.0, "#8e4413"),
    ("dark", 187.0, "#5f2a10"),
    ("black", 196.0, "#2b1710"),
)
"""Colours that melted sugar goes through, with about how hot it is then [°C]; our own drawing of
the confectioners' stages."""
CARAMEL_TINTS = 0.2
"""How much of browned sugar tints [-]; an estimate."""


def of_material(material: str) -> str:
    """The colour of a fruit's juice, or of an ingredient.

    >>> of_material("damson"), of_material("honey")
    ('#5a2350', '#d99b2b')
    """
    if material in materials.fruits():
        return materials.fruit(material).colour
    return str(_known(material)["colour"])


def of_lot(lot: Lot) -> str:
    """The colour of what a lot holds: each thing tints by its solids, and water pales it.

    Source: our own mixing in linear shares; data/colours.toml.
    """
    whole = max(typical(lot.composition.mass_g), 1e-9)
    tints = [_tint(lot, s, h.hottest_c) for s, h in lot.origins.items()]
    total = sum(grams for _, grams in tints)
    if total <= 0:
        alone = next(iter(lot.origins), None)
        return of_material(alone.material) if alone and len(lot.origins) == 1 else CLEAR
    mixed = np.sum([np.asarray(rgb) * grams / total for rgb, grams in tints], axis=0)
    fruit = sum(lot.mix.usual_solids_g(s) for s in lot.origins if s.fruit)
    strength = min(1.0, 100.0 * max(total, fruit) / whole / FULL_PCT) ** PALES
    return _hex(np.asarray(_rgb(CLEAR)) * (1.0 - strength) + mixed * strength)


def _tint(lot: Lot, source: Source, hottest_c: float) -> tuple[RGB, float]:
    """The colour that a source gives, and its solids that do [g]; sugar browns by its heat."""
    brown = caramel(hottest_c) if source.fruit is None else ""
    if brown:
        return _rgb(brown), CARAMEL_TINTS * lot.mix.usual_solids_g(source)
    return _rgb(of_material(source.material)), _tint_g(lot, source)


def caramel(hottest_c: float) -> str:
    """The colour of sugar that was so hot [°C]; empty before it colours.

    >>> caramel(100.0), caramel(171.0)
    ('', '#b96a1f')
    """
    if hottest_c < SWATCHES[0][1]:
        return ""
    return next((colour for _, c, colour in SWATCHES if c >= hottest_c), SWATCHES[-1][2])


def _tint_g(lot: Lot, source: Source) -> float:
    """Solids of a source in a lot that tint it [g]."""
    solids = lot.mix.usual_solids_g(source)
    if source.fruit:
        dark = 1.0 - _light(_rgb(source.fruit.colour))
        return float(solids * dark**DARK_WINS)
    return solids * float(_known(source.material)["tints"])


def _light(rgb: RGB) -> float:
    """How light a colour is, 0 to 1."""
    return (0.30 * rgb[0] + 0.59 * rgb[1] + 0.11 * rgb[2]) / 255.0


@cache
def _known(material: str) -> dict[str, Any]:
    table = tables.document("colours")
    kind = materials.ingredient(material).kind
    found: dict[str, Any] = table["key"].get(material) or table["kind"][kind]
    return found


def _rgb(colour: str) -> RGB:
    return int(colour[1:3], 16), int(colour[3:5], 16), int(colour[5:7], 16)


def _hex(rgb: Array) -> str:
    return "#" + "".join(f"{round(float(c)):02x}" for c in np.clip(rgb, 0, 255))
