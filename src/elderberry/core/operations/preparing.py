"""Steps before there is juice: soaking, sorting, mashing, the blender, the pot."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

import numpy as np

from elderberry.core import heat, juicing
from elderberry.core.composition import Composition, of_material, of_water
from elderberry.core.estimates import Estimate, Evidence, from_draws, normal_scores
from elderberry.core.flow import draft as flow
from elderberry.core.flow.draft import Draft, Figures, Lot, Step
from elderberry.core.numbers import Values, typical

SORT_MIN_PER_KG, MASH_MIN_PER_KG, BLEND_MIN_PER_KG, SOAK_MIN = 5.0, 2.0, 3.0, 10.0
SIMMER_POWER_SHARE = 0.25
"""Share of a burner's boil-off that a lidded gentle simmer drives off [-]; an estimate."""
USUAL_PACK_KG_PER_L = 0.6
_WATER = 6


def soak(draft: Draft, step: Step) -> Draft:
    """Rinse the fruit; drained well, it takes up nothing worth counting."""
    fruit = draft.together(*step.takes)
    minutes = flow.about(SOAK_MIN + flow.typical_g(fruit) / 1000.0)
    return flow.laid(draft, step, minutes, (fruit.name, fruit.composition))


def sort(draft: Draft, step: Step) -> Draft:
    """Take out stems, green, dried and bad fruit: the yield counts from what is left."""
    fruit = draft.together(*step.takes)
    share = float(step.chosen("loss")) / 100.0
    minutes = flow.about(SORT_MIN_PER_KG * _kg(fruit) * step.effect("minutes", 1.0), 0.6, 1.6)
    made = flow.laid(
        draft, step, minutes,
        (f"{fruit.name}, sorted", fruit.composition * (1.0 - share)),
        ("Taken out", fruit.composition * share),
        holds=fruit.composition,
    )  # fmt: skip
    return _prepared(made, step.gives[0], (1.0 - share) * step.effect("yield", 1.0))


def mash(draft: Draft, step: Step) -> Draft:
    """Break the fruit; stones that come out take some flesh with them."""
    fruit = draft.together(*step.takes)
    lost = step.effect("loss_sum", 0.0)
    minutes = flow.about(MASH_MIN_PER_KG * _kg(fruit) * step.effect("minutes", 1.0))
    made = flow.laid(
        draft, step, minutes, (f"{fruit.name}, mashed", fruit.composition * (1.0 - lost))
    )
    return _prepared(_with_loss(made, step, fruit, lost), step.gives[0], 1.0 - lost)


def _with_loss(draft: Draft, step: Step, fruit: Lot, share: float) -> Draft:
    """The draft with what a choice threw away as a lot of its own."""
    if share <= 0:
        return draft
    thrown = Lot(f"{step.key}_out", "loss", "Stones out", Figures(fruit.composition * share))
    *before, last = draft.operations
    last = replace(last, gives=(*last.gives, thrown.key))
    return replace(draft, operations=(*before, last), lots={**draft.lots, thrown.key: thrown})


def _prepared(draft: Draft, name: str, share: float) -> Draft:
    """The draft where a lot stands for less fruit than went in."""
    return _altered(draft, name, fruit_g=draft.lots[name].fruit_g * share)


def _altered(draft: Draft, name: str, **counts: Values) -> Draft:
    """The draft where a lot counts as other fruit or water [g] than the step took."""
    lot = replace(draft.lots[name], **counts)  # type: ignore[arg-type]
    return replace(draft, lots={**draft.lots, name: lot})


def blend(draft: Draft, step: Step) -> Draft:
    """Whole fruit and water through the blender, peel and all."""
    fruit = draft.together(*step.takes)
    water = water_lot(draft, step, fruit)
    minutes = flow.about(BLEND_MIN_PER_KG * _kg(fruit) * step.effect("minutes", 1.0))
    whole = fruit.composition + water.composition
    return flow.laid(
        draft, step, minutes, (f"{fruit.name}, blended", whole),
        sources=(water,), params=water_words(water),
    )  # fmt: skip


def simmer(draft: Draft, step: Step) -> Draft:
    """Cook the fruit soft in a little water, or covered with as much as nobody measured."""
    fruit = draft.together(*step.takes)
    water = water_lot(draft, step, fruit)
    whole = fruit.composition + water.composition
    minutes = float(step.chosen("minutes")) * step.effect("minutes", 1.0)
    vapour = evaporated(draft, whole, minutes * step.effect("evaporated", 1.0))
    name = f"{draft.fruit.name} pulp"
    made = flow.laid(
        draft, step, flow.about(minutes + _come_up(draft, whole), 0.8, 1.4),
        (name, whole.without_water(vapour)), ("Steamed off", Composition(water=vapour)),
        sources=(water,) if np.any(np.asarray(water.water_g) > 0) else (),
        params=water_words(water), holds=whole,
    )  # fmt: skip
    left = made.lots[step.gives[0]]
    return _altered(made, left.key, water_g=left.water_g - vapour)


def _come_up(draft: Draft, whole: Composition) -> float:
    kg = typical(whole.mass_g) / 1000.0
    kitchen = draft.kitchen
    start = max(0.0, draft.load.fruit_c)
    return heat.minutes_to_heat(
        kg, start, kitchen.boiling_point_c, kitchen.burner_kw, kitchen.burner_kind
    )


def evaporated(draft: Draft, whole: Composition, minutes: float) -> Values:
    """Water that a simmer of so many minutes drives off [g]; never over a third of it."""
    rate = heat.evaporation_kg_h(draft.kitchen.burner_kw, draft.kitchen.burner_kind)
    grams = 1000.0 * SIMMER_POWER_SHARE * rate * minutes / 60.0
    return np.minimum(grams, np.asarray(whole.water) / 3.0)


def water_lot(draft: Draft, step: Step, fruit: Lot) -> Lot:
    """The water a step adds: litres a kilo, or "covered" as the fruit's own packing makes it."""
    asked = step.chosen("water")
    kg = _kg(fruit)
    if asked == "covered":
        cover = juicing.water_to_cover_l(kg, draft.fruit.pack_kg_per_l or USUAL_PACK_KG_PER_L)
        grams: Values = 1000.0 * np.maximum(cover.draws(normal_scores(_WATER)), 0.0)
        name, evidence = "Water, not measured", Evidence.READ
    else:
        grams, name, evidence = 1000.0 * kg * float(asked), "Water", Evidence.MEASURED
    return water_of(draft, step, grams, name, evidence)


def water_of(
    draft: Draft,
    step: Step,
    grams: Values,
    name: str = "Water",
    evidence: Evidence = Evidence.MEASURED,
) -> Lot:
    """So much of the kitchen's water [g], as a lot that joins a step."""
    figures = Figures(of_water(grams, draft.kitchen.alkalinity_mg_l), evidence)
    return Lot(f"water_{step.key}", "water", name, figures, 0.0, grams)


def ingredient(step: Step, material: str, name: str, grams: Values) -> Lot:
    """So much of an ingredient [g], weighed, as a lot that joins a step."""
    figures = Figures(of_material(material, grams), Evidence.MEASURED)
    return Lot(f"{material}_{step.key}", "added", name, figures, material=material)


def water_words(water: Lot) -> Mapping[str, Any]:
    """What the cook is told of the water, and what it came to [mL]."""
    ml = from_draws(np.asarray(water.water_g) / 0.9982, water.figures.evidence)
    if water.figures.evidence is Evidence.READ:
        words = f"covered with water by a finger, about {ml.typ / 1000:.1f} l"
    elif ml.typ > 0:
        words = f"{ml.typ / 1000:.1f} l of water"
    else:
        words = "no water"
    return {
        "water_l": f"{ml.typ / 1000:.1f}",
        "water_words": words,
        "water_ml": ml.typ,
        "water_known": water.figures.evidence.value,
        "water_range_ml": [ml.lo, ml.hi],
    }


def wait_minutes(hours: float) -> Estimate:
    """A wait of so many hours [min]: it may be a little shorter, and longer does little harm."""
    return Estimate(54.0 * hours, 60.0 * hours, 84.0 * hours)


def _kg(lot: Lot) -> float:
    return flow.typical_g(lot) / 1000.0
