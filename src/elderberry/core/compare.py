"""Two batches laid beside each other: what differs, ranked by what it explains."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date

from elderberry.core import jelly, materials
from elderberry.core.process.contents import Contents

SAID_FROM = 0.5
"""How far apart figures have to be, against what a cook would notice, to be named [-]."""


@dataclass(frozen=True)
class Figures:
    """What a batch is told by: sweetness [°Bx], pH, pectin [g/kg], boiling with its sugar [min],
    sugar that was split [%], water that was added [% of mass], and when its fruit was picked.
    """

    brix: float
    ph: float | None
    pectin_g_per_kg: float
    boiled_min: float
    split_pct: float
    water_pct: float
    picked_on: date | None = None


@dataclass(frozen=True)
class Difference:
    """One difference: what it is in words, how much it explains [-], and which way it works."""

    words: str
    weight: float
    thickens: bool | None
    """Whether it makes the first of the two thicker; None where it does not bear on that."""


def figures(contents: Contents, picked_on: date | None = None) -> Figures:
    """What a batch is told by, read off what is in its jars.

    Args:
        contents: of its jars.
        picked_on: of its main fruit.

    Source: mass balance; the heat that its sugar has had.
    """
    held = contents.usual
    sugars = float(held.sucrose + held.glucose + held.fructose)
    sweet = [p.held.boiled_min for p in contents.parts if p.kind in materials.SWEET]
    dose = sum(jelly.dose_g_per_kg(contents, k) for k in ("pectin_regular", "pectin_low"))
    split = 100.0 * float(held.glucose + held.fructose) / sugars if sugars > 0 else 0.0
    return Figures(
        contents.brix, contents.ph, dose, max(sweet, default=0.0), split, contents.water_pct,
        picked_on,
    )  # fmt: skip


def differences(one: Figures, other: Figures) -> list[Difference]:
    """What the first is otherwise than the second, what explains most first.

    Args:
        one: the batch that is asked about.
        other: the one beside it.

    Source: scales of what a cook notices, ours.

    >>> thick = Figures(68, 3.0, 8.0, 12, 20, 0)
    >>> thin = Figures(65, 3.0, 5.0, 12, 20, 0)
    >>> [d.words for d in differences(thick, thin)]
    ['3.0 g more pectin to the kilo', '3.0 °Bx sweeter']
    """
    found = [d for d in _all(one, other) if d.weight >= SAID_FROM]
    return sorted(found, key=lambda d: -d.weight)


def thicker(found: list[Difference]) -> bool | None:
    """Whether the first is the thicker by that; None where nothing says so.

    Source: the sum of what bears on it.
    """
    balance = sum(d.weight if d.thickens else -d.weight for d in found if d.thickens is not None)
    return None if abs(balance) < SAID_FROM else balance > 0


def _all(one: Figures, other: Figures) -> Iterator[Difference]:
    yield _of(one.brix - other.brix, 2.0, "°Bx sweeter", "°Bx less sweet", True)
    more = one.pectin_g_per_kg - other.pectin_g_per_kg
    yield _of(more, 1.5, "g more pectin to the kilo", "g less pectin to the kilo", True)
    if one.ph is not None and other.ph is not None:
        yield _of(other.ph - one.ph, 0.2, "pH sharper", "pH less sharp", True, 2)
    boiled = one.boiled_min - other.boiled_min
    yield _of(boiled, 8.0, "min longer at the boil", "min shorter at the boil", False, 0)
    split = one.split_pct - other.split_pct
    yield _of(split, 15.0, "% more of its sugar split", "% less of its sugar split", None, 0)
    yield _of(one.water_pct - other.water_pct, 8.0, "% more water", "% less water", None, 0)
    if one.picked_on and other.picked_on:
        days = (one.picked_on - other.picked_on).days
        yield _of(days, 10.0, "days later picked, so riper", "days earlier picked", False, 0)


def _of(
    more: float, noticed: float, up: str, down: str, thickens: bool | None, digits: int = 1
) -> Difference:
    """A difference in words; thickens: whether more of it thickens."""
    words = f"{abs(more):.{digits}f} {up if more > 0 else down}"
    way = None if thickens is None else (more > 0) is thickens
    return Difference(words, abs(more) / noticed, way)
