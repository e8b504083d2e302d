"""Boiling down: to a part of it, a sweetness, a temperature or a depth in this pot."""

from __future__ import annotations

import math

import numpy as np

from elderberry.core import heat, solve
from elderberry.core.composition import Composition
from elderberry.core.errors import CannotTell, Past, Unreachable
from elderberry.core.flow.draft import Draft, laid
from elderberry.core.flow.lots import Lot, Mix
from elderberry.core.flow.steps import Step, about
from elderberry.core.kitchen import Kitchen
from elderberry.core.numbers import Values, typical
from elderberry.core.operations.preparing import come_up_min
from elderberry.core.wording import figure, worded

Goal = tuple[str, float]
"""What a pot boils down to: share, Brix, boiling point or depth, and its value."""
GOALS = {
    "share": "to {value} % of it",
    "brix": "to {value} °Bx",
    "boiling": "until it boils at {value:C}",
    "depth": "to {value:cm} in the pot",
}
LOOK = {
    "share": "the stick at its mark: {left_l:l} left",
    "brix": "{value} °Bx on the refractometer, cooled to the hand",
    "boiling": "{value:C} in the middle of the pot, and no less",
    "depth": "{value:cm} on the ruler, the pot standing still",
}


PAN_SPREAD = (0.7, 1.6)
"""How much sooner or later than reckoned a pan that nobody measured may be done [-]."""


def reduce(draft: Draft, step: Step) -> Draft:
    """Drive water off: so much that the goal is met, and the minutes that this pan takes for it.

    Raises:
        CannotTell: the pot is past that already, or boiling alone does not get there.
    """
    pot = draft.together(*step.takes)
    how, value = goal_of(step)
    usual = boiled_down(pot.composition.first(), (how, value), draft.kitchen)
    grams = _vapour(pot, how, value, usual)
    rate = heat.evaporation_kg_h(draft.kitchen.burner_kw, draft.kitchen.burner_kind)
    minutes = 60.0 * usual.water_g / 1000.0 / rate
    left = pot.mix.without_water(grams).heated(draft.kitchen.boiling_point_c, minutes)
    back = usual.water_g * TOO_FAR
    words = {"value": f"{value:g}", "left_l": f"{typical(left.composition.volume_ml) / 1000:.3f}"}
    return laid(
        draft, step, about(max(2.0, minutes), *PAN_SPREAD),
        (pot.titled("juice, boiled down" if pot.kind == "juice" else "purée, boiled down"), left),
        ("Boiled off", Mix(Composition(water=grams))),
        params={
            "goal_words": GOALS[how],
            "look_words": LOOK[how],
            **words,
            "volume_l": f"{pot.volume_ml.typ / 1000:.3f}",
            "boil_min": f"{max(1.0, minutes):.0f}",
            "back_words": f"{figure(back, 'g')} of water brings back a tenth too much boiled off.",
            "rate_kg_h": rate,
            "come_up_min": come_up_min(draft, pot.composition, pot),
        },
        holds=pot.composition,
    )  # fmt: skip


TOO_FAR = 0.1
"""What is told as an example of going too far, as a share of what was to be boiled off [-]."""


def goal_of(step: Step) -> Goal:
    """What a step boils down to."""
    how = str(step.chosen("to"))
    return how, float(step.chosen(how))


def boiled_down(pot: Composition, goal: Goal, kitchen: Kitchen) -> solve.BoiledDown:
    """The pot in the typical case, once the goal is met.

    Raises:
        CannotTell: the pot is past that already, or boiling alone does not get there.
    """
    how, value = goal
    try:
        if how == "boiling":
            pressure, metres = kitchen.pressure_pa, kitchen.altitude_m or 0.0
            return solve.boil_down(pot, boiling_c=value, altitude_m=metres, pressure_pa=pressure)
        if how == "brix":
            return solve.boil_down(pot, brix=value)
        share = value / 100.0 if how == "share" else _share_of_depth(pot, value, kitchen)
        return solve.boil_down(pot, volume_share=share)
    except Unreachable as wrong:
        raise CannotTell(f"boiling down {worded(GOALS[how], {'value': value})}: {wrong}") from wrong


def share_of_volume(pot: Composition, volume_ml: float) -> float:
    """What share of it a volume is [-]; all of it where there is no less."""
    return min(1.0, volume_ml / typical(pot.volume_ml))


def _share_of_depth(pot: Composition, depth_cm: float, kitchen: Kitchen) -> float:
    """What share of it stands so deep in the pot that holds it."""
    volume = typical(pot.volume_ml)
    wide = [v.diameter_cm for v in kitchen.vessels if v.kind == "pot" and v.diameter_cm
            and 1000.0 * v.litres >= volume]  # fmt: skip
    if not wide:
        raise CannotTell(
            "no pot here that holds it has a width under Kitchen: a depth tells nothing"
        )
    left = math.pi / 4.0 * min(wide) ** 2 * depth_cm
    if left >= volume:
        deep = 4 * volume / math.pi / min(wide) ** 2
        raise Past(f"it stands {deep:.1f} cm deep already", deep)
    return share_of_volume(pot, left)


def _vapour(pot: Lot, how: str, value: float, usual: solve.BoiledDown) -> Values:
    """Water that is driven off in each draw [g]: one boils until the goal is met, however long."""
    whole = pot.composition
    if how in {"share", "depth"}:
        grams: Values = usual.water_g * whole.volume_ml / typical(whole.volume_ml)
    else:
        goal = value if how == "brix" else typical(usual.result.brix)
        liquid = whole.mass_g - whole.insoluble
        grams = liquid - 100.0 * whole.soluble_g / goal
    return np.clip(grams, 0.0, 0.98 * np.asarray(whole.water))
