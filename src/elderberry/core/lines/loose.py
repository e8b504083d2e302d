"""Measures without a scale: handfuls, sprigs, slices, sticks, bar measures, crates."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from elderberry.core import materials, names, tables
from elderberry.core.estimates import Estimate, Evidence


@dataclass(frozen=True)
class Loose:
    """What one of a measure holds of something [g or ml], and the form it is in then."""

    unit: str
    one: Estimate
    cut: str


def loose(word: str, called: str, material: str) -> Loose | None:
    """What one of a measure holds of a material; None where it measures no such thing.

    Args:
        word: the measure: "handful", "sticks"; empty for a piece that is counted by its own name.
        called: what the cook calls the material; a row of that name goes before others.
        material: key of fruits.csv or ingredients.csv.

    Source: data/loose.csv.

    >>> loose("sticks", "cinnamon", "spice_whole").one.typ
    3.2
    >>> loose("sprig", "honey", "honey") is None
    True
    """
    found = _rows().get(word.lower(), {})
    plain = {called, names.called()[names.squeeze(called)].name} if _is_name(called) else {called}
    for of in (*sorted(plain), material, *_groups(material), "*"):
        if of in found:
            return found[of]
    return None


def _is_name(called: str) -> bool:
    return names.squeeze(called) in names.called()


@cache
def measures() -> frozenset[str]:
    """Every word of a measure."""
    return frozenset(word for word in _rows() if word)


def _groups(material: str) -> tuple[str, ...]:
    if material in materials.fruits():
        return ("fruit",)
    return (materials.ingredient(material).kind,)


@cache
def _rows() -> dict[str, dict[str, Loose]]:
    found: dict[str, dict[str, Loose]] = {}
    for row in tables.rows("loose"):
        lo, typ, hi = (float(row[name]) for name in ("lo", "typ", "hi"))
        for word in row["words"].split("|"):
            held = Loose(row["unit"], Estimate(lo, typ, hi, Evidence.READ), row["cut"])
            for of in row["of"].split("|"):
                found.setdefault(word, {})[of] = held
    return found
