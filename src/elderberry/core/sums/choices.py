"""What the sums may be asked of: fruits, sweeteners, acids, jars, products, as one picks them."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from elderberry.core import jars, materials, serving, texture
from elderberry.core.citrus import CITRUS
from elderberry.core.kitchen import Kitchen
from elderberry.core.process.rows import process_rows


@dataclass(frozen=True)
class Pick:
    """Something that is picked: its key, and what a cook calls it."""

    value: str
    label: str


ACIDS = ("citric_acid", "malic_acid", "tartaric_acid", "lemon_bottled", "lime_bottled")
SWEETENERS = ("sugar_white", "honey", "maple_syrup", "golden_syrup", "glucose_syrup")


def choices(here: Kitchen) -> dict[str, list[Pick]]:
    """Everything that can be picked in a sum, by what is asked for."""
    return {name: list(found(here)) for name, found in _CHOICES.items()}


def _fruits(_: Kitchen) -> Iterator[Pick]:
    """Fruits whose juice is known well enough to be sharpened on paper."""
    for key, fruit in materials.fruits().items():
        if fruit.ph and fruit.brix and fruit.acid_pct:
            yield Pick(key, fruit.name)


def _listed(*keys: str) -> Callable[[Kitchen], Iterator[Pick]]:
    def found(_: Kitchen) -> Iterator[Pick]:
        there = materials.ingredients()
        return (Pick(k, there[k].name) for k in keys if k in there)

    return found


def _citrus(_: Kitchen) -> Iterator[Pick]:
    return (Pick(k, materials.fruit(k).name) for k in CITRUS)


def _drops(_: Kitchen) -> Iterator[Pick]:
    return (Pick(words, words) for _, words in texture.POURS)


def _diluents(_: Kitchen) -> Iterator[Pick]:
    return (Pick(words, words) for words in serving.USUAL)


def _jars(here: Kitchen) -> Iterator[Pick]:
    return (Pick(k, j.named(here.units)) for k, j in jars.kinds().items() if j.process_as_ml)


def _products(_: Kitchen) -> Iterator[Pick]:
    """Products that a row was tested for."""
    tested = dict.fromkeys(r.product for r in process_rows() if r.pack != "none")
    return (Pick(p, p.replace("_", " ").replace("berry or fruit", "any fruit")) for p in tested)


_CHOICES: dict[str, Callable[[Kitchen], Iterator[Pick]]] = {
    "fruit": _fruits,
    "material": _listed(*SWEETENERS),
    "acid": _listed(*ACIDS),
    "citrus": _citrus,
    "drop": _drops,
    "diluent": _diluents,
    "jar": _jars,
    "product": _products,
}
