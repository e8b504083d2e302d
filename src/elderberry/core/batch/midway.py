"""A pot that boils down, looked at midway: minutes left, or the water that brings it back."""

from __future__ import annotations

from contextlib import suppress
from dataclasses import dataclass
from typing import Final

from elderberry.core.batch import readings
from elderberry.core.composition import Composition
from elderberry.core.errors import CannotTell, Past
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.kitchen import Kitchen
from elderberry.core.operations.reducing import Goal, boiled_down, share_of_volume
from elderberry.core.wording import figure

GOAL_OF: Final = {"brix": "brix", "temp_c": "boiling", "depth_cm": "depth", "volume_ml": "volume"}
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
) -> Midway:
    """How far a pot has come by one reading, and how long it still takes.

    Args:
        pot: what was in it when it came to the boil (typical case).
        goal: what it boils down to.
        read: the quantity and its value, as readings.quantities gives their units.
        minutes: boiled until it was read [min].
        rate_kg_h: as the burner should boil water off [kg/h].
        kitchen: its pots, its burner and its height.

    Raises:
        CannotTell: the goal cannot be reached, so little cannot be left, or nothing tells how
            wide the pot is.

    Source: mass balance; latent heat of water 2257 kJ/kg.
    """
    whole = boiled_down(pot, goal, kitchen).water_g
    quantity, value = read
    error = readings.quantity(quantity).half_width(value)
    gone = _gone(pot, quantity, value, kitchen)
    spread = _spread(pot, quantity, (value - error, value + error), kitchen)
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
    )


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
