"""Boiling down: to a part of it, a sweetness, a temperature, a depth, a thickness or by minutes."""

from __future__ import annotations

import math

import numpy as np

from elderberry.core import acid, heat, solve, sugar, texture, water
from elderberry.core.composition import Composition
from elderberry.core.errors import CannotTell, Past, Unreachable
from elderberry.core.estimates import Z90, normal_scores
from elderberry.core.flow.draft import Draft, laid
from elderberry.core.flow.lots import Mix
from elderberry.core.flow.steps import Step, about
from elderberry.core.kitchen import Kitchen
from elderberry.core.numbers import Values, typical
from elderberry.core.operations.preparing import come_up_min
from elderberry.core.wording import figure, worded

Goal = tuple[str, float]
"""What a pot boils down to: share, Brix, boiling point, depth, thickness or minutes."""
GOALS = {
    "share": "to {value} % of it",
    "brix": "to {value} °Bx",
    "boiling": "until it boils at {value:C}",
    "depth": "to {value:cm} in the pot",
    "thick": "until a cold drop is thick enough",
    "minutes": "for {value} min",
}
LOOK = {
    "share": "the stick at its mark: {left_l:l} left",
    "brix": "{value} °Bx on the refractometer, cooled to the hand",
    "boiling": "{value:C} in the middle of the pot, and no less",
    "depth": "{value:cm} on the ruler, the pot standing still",
    "thick": "a drop on a cold plate that {thick_words}",
    "minutes": "about {left_l:l} left when the time is over",
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
    here = draft.kitchen
    pace = here.pace("reduce")
    gently = step.effect("rate", 1.0) / pace
    usual = boiled_down(pot.composition.first(), (how, value), here, gently)
    rate = gently * heat.evaporation_kg_h(here.burner_kw, here.burner_kind)
    had = _minutes_had(draft, step, 60.0 * usual.water_g / 1000.0 / rate)
    split = inverted_share(pot.composition.first(), usual, had, here.boiling_point_c)
    whole = pot.mix
    if split > 0.0:
        whole = whole.inverted(split)
        usual = boiled_down(whole.composition.first(), (how, value), here, gently)
    minutes = 60.0 * usual.water_g / 1000.0 / rate
    grams = _vapour(whole.composition, how, value, usual)
    left = whole.without_water(grams).heated(here.boiling_point_c, minutes)
    at = typical(left.composition.brix)
    back = usual.water_g * TOO_FAR
    words = {
        "value": f"{value:g}",
        "left_l": f"{typical(left.composition.volume_ml) / 1000:.3f}",
        "thick_words": pours_cold(at),
    }
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
            "pace": pace,
            "come_up_min": come_up_min(draft, pot.composition, pot),
            "inverted_pct": f"{100 * split:.0f}",
        },
        holds=pot.composition,
    )  # fmt: skip


def pours_cold(brix: float) -> str:
    """How a syrup pours at 20 °C, once it has stood."""
    return texture.pours(texture.viscosity_mpa_s(min(brix, texture.MOST_BRIX), COLD_C))


def inverted_share(
    pot: Composition, down: solve.BoiledDown, minutes: float, water_boils_c: float
) -> float:
    """The share of sucrose that acid splits while a pot boils down [-]; none without acid.

    It boils hotter and holds less water from the first minute to the last.

    Source: sugar.inverted_share over the boil, from start to end.
    """
    if float(pot.sucrose) <= 0.0 or minutes <= 0.0:
        return 0.0
    try:
        sour = float(acid.ph(pot))
    except CannotTell:
        return 0.0
    wet = [float(c.water / c.volume_ml) for c in (pot, down.result)]
    temps = [min(water_boils_c, down.boils_at_c), down.boils_at_c]
    mean = min(1.0, max(0.01, sum(wet) / 2.0))
    return sugar.inverted_share([0.0, minutes], temps, min(max(sour, 1.0), 8.0), mean)


def _minutes_had(draft: Draft, step: Step, planned: float) -> float:
    """Minutes at the boil: those that the pot really had, once it is over."""
    seen = draft.done.get(step.key)
    return planned if seen is None or seen.boiled_min is None else seen.boiled_min


COLD_C = 20.0
TOO_FAR = 0.1
"""What is told as an example of going too far, as a share of what was to be boiled off [-]."""


def goal_of(step: Step) -> Goal:
    """What a step boils down to."""
    how = str(step.chosen("to"))
    return how, float(step.chosen(how))


def boiled_down(
    pot: Composition, goal: Goal, kitchen: Kitchen, gently: float = 1.0
) -> solve.BoiledDown:
    """The pot in the typical case, once the goal is met; gently: share of a full boil's steam.

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
        if how == "thick":
            return solve.boil_down(pot, brix=texture.brix_of_viscosity(value, COLD_C))
        if how == "minutes":
            return _by_the_clock(pot, value, kitchen, gently)
        share = value / 100.0 if how == "share" else _share_of_depth(pot, value, kitchen)
        return solve.boil_down(pot, volume_share=share)
    except Unreachable as wrong:
        raise CannotTell(
            f"boiling down {worded(GOALS[how], {'value': f'{value:g}'})}: {wrong}"
        ) from wrong


def _by_the_clock(
    pot: Composition, minutes: float, kitchen: Kitchen, gently: float
) -> solve.BoiledDown:
    """What so many minutes on this ring leave.

    Raises:
        Unreachable: there is no syrup any more by then, and it scorches.
    """
    rate = gently * heat.evaporation_kg_h(kitchen.burner_kw, kitchen.burner_kind)
    grams = min(1000.0 * rate * minutes / 60.0, MOST_OFF * float(pot.water))
    gone = pot.without_water(grams)
    at = float(water.boiling_point_c(gone, kitchen.altitude_m or 0.0, kitchen.pressure_pa))
    if at > HOTTEST_C:
        over = 60.0 * boiled_down(pot, ("boiling", HOTTEST_C), kitchen).water_g / 1000.0 / rate
        words = (
            f"on this ring it scorches after {math.floor(over)} min: boil it for less, or add water"
        )
        raise Unreachable(words, over)
    return solve.BoiledDown(grams, gone, at, minutes)


HOTTEST_C = 150.0
"""Beyond it a syrup turns to caramel [°C]."""
MOST_OFF = 0.98
"""Share of a pot's water that boiling drives off at most before it scorches [-]."""


def share_of_volume(pot: Composition, volume_ml: float) -> float:
    """What share of it a volume is [-]; all of it where there is no less."""
    return min(1.0, volume_ml / typical(pot.volume_ml))


def _share_of_depth(pot: Composition, to_cm: float, kitchen: Kitchen) -> float:
    """What share of it stands so deep in the pot that holds it."""
    volume = typical(pot.volume_ml)
    wide = [v.diameter_cm for v in kitchen.vessels if v.kind == "pot" and v.diameter_cm
            and 1000.0 * v.litres >= volume]  # fmt: skip
    if not wide:
        raise CannotTell(
            "no pot here that holds it has a width under Kitchen: a depth tells nothing"
        )
    return share_at_depth(volume, min(wide), to_cm)


def depth_cm(volume_ml: float, width_cm: float) -> float:
    """How deep so much stands in a round pot of an inner width [cm]."""
    return float(volume_ml / (math.pi / 4.0 * width_cm**2))


def share_at_depth(volume_ml: float, width_cm: float, to_cm: float) -> float:
    """What share of what is in a round pot stands so deep [-].

    Raises:
        Past: it does not stand deeper than that.

    >>> round(share_at_depth(4000.0, 28.0, 3.0), 3)
    0.462
    """
    deep = depth_cm(volume_ml, width_cm)
    if to_cm >= deep:
        raise Past(f"it stands {deep:.1f} cm deep already", deep)
    return to_cm / deep


GOAL_WITHIN = {"boiling": 1.5, "thick": 2.5}
"""How far off a pot may be that was stopped by thermometer or by a drop [°Bx]."""
_GOAL = 7


def _by_eye(how: str, brix: float) -> Values:
    """The Brix at which a pot is stopped that no refractometer watches."""
    return np.minimum(brix + GOAL_WITHIN[how] / Z90 * normal_scores(_GOAL), 99.0)


def _vapour(whole: Composition, how: str, value: float, usual: solve.BoiledDown) -> Values:
    """Water that is driven off in each draw [g]: one boils until the goal is met, however long."""
    if how in {"share", "depth", "minutes"}:
        grams: Values = usual.water_g * whole.volume_ml / typical(whole.volume_ml)
    else:
        goal = value if how == "brix" else _by_eye(how, typical(usual.result.brix))
        liquid = whole.mass_g - whole.insoluble
        grams = liquid - 100.0 * whole.soluble_g / goal
    return np.clip(grams, 0.0, MOST_OFF * np.asarray(whole.water))
