"""A pot that boils down, looked at midway: minutes left, or the water that brings it back."""

from __future__ import annotations

from collections.abc import Sequence
from contextlib import suppress
from dataclasses import dataclass, field
from typing import Final

from elderberry.core import texture
from elderberry.core.batch import readings
from elderberry.core.composition import Composition
from elderberry.core.errors import CannotTell, Past
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.kitchen import Kitchen
from elderberry.core.operations.reducing import (
    MOST_OFF,
    PAN_SPREAD,
    Goal,
    boiled_down,
    share_of_volume,
)
from elderberry.core.wording import figure

GOAL_OF: Final = {
    "brix": "brix", "temp_c": "boiling", "depth_cm": "depth", "volume_ml": "volume", "drop": "brix",
}  # fmt: skip
"""Which goal of a boil-down is of the kind that a quantity reads."""
TRUSTED_MIN: Final = 3.0
"""Boiling before a reading tells how fast this pan boils [min]."""
TRUSTED_SHARE: Final = 0.05
"""Share of the pot that has to be gone before a reading tells how fast this pan boils [-]."""
FASTEST_KG_H_KW: Final = 1.6
"""What a burner boils off at most if nothing else takes its heat [kg/h per kW]; 3600 / 2257."""
PAST: Final = 0.01
"""Share of the pot boiled off beyond the goal that counts as gone too far [-]."""


@dataclass(frozen=True)
class Midway:
    """How far a pot has come.

    gone_g: water that has boiled off [g]. left_min: minutes until it is there [min]. back_g: water
    that brings it back, where it went too far [g]. rate_kg_h: how fast it boils off; by the pan
    itself where measured, otherwise as its burner should.
    """

    gone_g: float
    goal_g: float
    left_min: Estimate
    back_g: float
    rate_kg_h: float
    measured: bool
    brix: Estimate = field(default_factory=lambda: Estimate(0.0, 0.0, 0.0))
    """How sweet it is by that [g/100 g]."""

    @property
    def words(self) -> str:
        """What that says to the cook; figures in it are said in the units of the kitchen."""
        if self.back_g:
            return f"It went too far: {figure(self.back_g, 'g')} of water brings it back."
        if self.left_min.hi < 1.0:
            return "It is there: off the heat."
        off = f"{figure(self.gone_g, 'g')} of {figure(self.goal_g, 'g')} of water is off"
        why = "" if self.measured else ", as a pan on this burner should"
        return f"{off}. {_span(self.left_min)} more{why}."


def midway(
    pot: Composition,
    goal: Goal,
    read: tuple[str, float],
    minutes: float,
    rate_kg_h: float,
    kitchen: Kitchen,
    back_in_g: float = 0.0,
) -> Midway:
    """How far a pot has come by one reading, and how long it still takes.

    Args:
        pot: what was in it when it came to the boil (typical case).
        goal: what it boils down to.
        read: the quantity and its value, as readings.quantities gives their units.
        minutes: boiled until it was read [min].
        rate_kg_h: as the burner should boil water off [kg/h].
        kitchen: its pots, its burner and its height.
        back_in_g: water that went back in since it was read [g].

    Raises:
        CannotTell: the goal cannot be reached, so little cannot be left, or nothing tells how
            wide the pot is.

    Source: mass balance; latent heat of water 2257 kJ/kg.
    """
    whole = boiled_down(pot, goal, kitchen).water_g
    quantity, value = read
    error = readings.quantity(quantity).half_width(value)
    if quantity == "drop":
        shown = by_drop(pot, value, minutes, rate_kg_h)
        quantity, value, error = "brix", shown.typ, (shown.hi - shown.lo) / 2.0
    gone = _gone(pot, quantity, value, kitchen) - back_in_g
    ends = (value - error, value + error)
    spread = [g - back_in_g for g in _spread(pot, quantity, ends, kitchen)]
    enough = minutes >= TRUSTED_MIN and gone >= TRUSTED_SHARE * float(pot.mass_g)
    fastest = FASTEST_KG_H_KW * kitchen.burner_kw

    def pace(grams: float) -> float:
        seen = 0.06 * grams / minutes if enough and grams > 0 else rate_kg_h
        return min(seen, fastest)

    def left(grams: float) -> float:
        return max(0.0, 0.06 * (whole - grams) / pace(grams))

    typ, *around = (left(g) for g in (gone, *spread))
    past = gone - whole
    return Midway(
        gone_g=gone,
        goal_g=whole,
        left_min=Estimate(
            min(typ, *around),
            typ,
            max(typ, *around),
            Evidence.MEASURED if enough else Evidence.TYPICAL,
        ),
        back_g=past if past > PAST * float(pot.mass_g) else 0.0,
        rate_kg_h=pace(gone),
        measured=enough,
        brix=_brix(pot, [gone, *spread]),
    )


def by_drop(pot: Composition, number: float, minutes: float, rate_kg_h: float) -> Estimate:
    """How sweet a pot is by what a drop of it did on a cold plate [g/100 g].

    What so many minutes on this ring should have left, put right by the drop.

    Args:
        pot: what was in it when it came to the boil (typical case).
        number: which of texture.POURS the drop did, counted from 0.
        minutes: boiled by then [min].
        rate_kg_h: as the burner should boil water off [kg/h].

    Source: texture.corrected_by_drop.
    """
    there = 1000.0 * rate_kg_h * minutes / 60.0
    slow, fast = (there / spread for spread in reversed(PAN_SPREAD))
    most = MOST_OFF * float(pot.water)
    guess = _brix(pot, [min(g, most) for g in (there, slow, fast)])
    wide = Estimate(min(guess.lo, guess.typ - LEAST_GUESS), guess.typ,
                    max(guess.hi, guess.typ + LEAST_GUESS))  # fmt: skip
    return texture.corrected_by_drop(wide, texture.POURS[round(number)][1])


LEAST_GUESS: Final = 3.0
"""How far off a pot is taken to be at least that nobody has read [°Bx]."""


def _brix(pot: Composition, gone: Sequence[float]) -> Estimate:
    """How sweet it is once so much water is gone, the typical case first [g/100 g]."""
    liquid, solids = float(pot.mass_g - pot.insoluble), float(pot.soluble_g)
    found = [min(99.0, 100.0 * solids / max(liquid - g, solids)) for g in gone]
    return Estimate(min(found), found[0], max(found), Evidence.READ)


def _gone(pot: Composition, quantity: str, value: float, kitchen: Kitchen) -> float:
    """Water that has boiled off by a reading [g]; none where it reads as it did at first."""
    how = GOAL_OF[quantity]
    if how == "volume":
        how, value = "share", 100.0 * share_of_volume(pot, value)
    try:
        return boiled_down(pot, (how, value), kitchen).water_g
    except CannotTell as wrong:
        if isinstance(wrong.__cause__, Past):
            return 0.0
        raise


def _spread(
    pot: Composition, quantity: str, around: tuple[float, float], kitchen: Kitchen
) -> list[float]:
    """The same at both ends of what the instrument may mean, where those can be [g]."""
    found = []
    for value in around:
        with suppress(CannotTell):
            found.append(_gone(pot, quantity, value, kitchen))
    return found


def _span(minutes: Estimate) -> str:
    low, high = round(minutes.lo), round(minutes.hi)
    return f"{high} min" if low >= high else f"{low} to {high} min"
