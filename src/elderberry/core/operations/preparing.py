"""Steps before there is juice: soaking, sorting, mashing, the blender, the pot."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

import numpy as np

from elderberry.core import heat, juicing
from elderberry.core.composition import Composition, of_material, of_water
from elderberry.core.estimates import Estimate, Evidence, from_draws, normal_scores
from elderberry.core.flow.draft import Draft, laid
from elderberry.core.flow.lots import Figures, Lot, Mix, Source, typical_g
from elderberry.core.flow.steps import Step, about
from elderberry.core.numbers import Values, typical

SORT_MIN_PER_KG, MASH_MIN_PER_KG, BLEND_MIN_PER_KG, SOAK_MIN = 5.0, 2.0, 3.0, 10.0
SIMMER_POWER_SHARE = 0.25
"""Share of a burner's boil-off that a lidded gentle simmer drives off [-]; an estimate."""
USUAL_PACK_KG_PER_L = 0.6
MASHED_COVER_L_PER_KG = 0.15
"""Water that covers mashed fruit: it swims in its own juice, so only what its air took [L/kg]."""
_WATER = 6


def soak(draft: Draft, step: Step) -> Draft:
    """Rinse the fruit; drained well, it takes up nothing worth counting."""
    fruit = draft.together(*step.takes)
    minutes = about(SOAK_MIN + typical_g(fruit) / 1000.0)
    return laid(draft, step, minutes, (fruit.name, fruit.mix))


def sort(draft: Draft, step: Step) -> Draft:
    """Take out stems, green, dried and bad fruit: the yield counts from what is left."""
    fruit = draft.together(*step.takes)
    share = float(step.chosen("loss")) / 100.0
    minutes = about(SORT_MIN_PER_KG * kilos(fruit) * step.effect("minutes", 1.0), 0.6, 1.6)
    made = laid(
        draft, step, minutes,
        (f"{fruit.name}, sorted", fruit.mix.portion(1.0 - share, 1.0 - share)),
        ("Taken out", fruit.mix.portion(share, share)),
        holds=fruit.composition,
    )  # fmt: skip
    lot = made.lots[step.gives[0]]
    left = replace(lot, gives=lot.gives * step.effect("yield", 1.0))
    return replace(made, lots={**made.lots, left.key: left})


def mash(draft: Draft, step: Step) -> Draft:
    """Break the fruit; stones that come out take some flesh with them."""
    fruit = draft.together(*step.takes)
    lost = step.effect("loss_sum", 0.0)
    minutes = about(MASH_MIN_PER_KG * kilos(fruit) * step.effect("minutes", 1.0))
    made = laid(
        draft, step, minutes, (f"{fruit.name}, mashed", fruit.mix.portion(1.0 - lost, 1.0 - lost))
    )
    return _with_loss(made, step, fruit, lost)


def _with_loss(draft: Draft, step: Step, fruit: Lot, share: float) -> Draft:
    """The draft with what a choice threw away as a lot of its own."""
    if share <= 0:
        return draft
    out = fruit.mix.portion(share, share)
    thrown = Lot(f"{step.key}_out", "loss", "Stones out", Figures(out.composition), out.origins)
    *before, last = draft.operations
    last = replace(last, gives=(*last.gives, thrown.key))
    return replace(draft, operations=(*before, last), lots={**draft.lots, thrown.key: thrown})


def blend(draft: Draft, step: Step) -> Draft:
    """Whole fruit and water through the blender, peel and all."""
    fruit = draft.together(*step.takes)
    water = water_lot(draft, step, fruit)
    minutes = about(BLEND_MIN_PER_KG * kilos(fruit) * step.effect("minutes", 1.0))
    return laid(
        draft, step, minutes, (f"{fruit.name}, blended", fruit.mix + water.mix),
        sources=(water,), params=water_words(water),
    )  # fmt: skip


def simmer(draft: Draft, step: Step) -> Draft:
    """Cook the fruit soft in a little water, or covered with as much as nobody measured.

    Its minutes count from the boil; what it takes to get there comes before them.
    """
    fruit = draft.together(*step.takes)
    water = water_lot(draft, step, fruit, covering=True)
    whole = fruit.mix + water.mix
    minutes = float(step.chosen("minutes")) * step.effect("minutes", 1.0)
    vapour = evaporated(draft, whole.composition, minutes * step.effect("evaporated", 1.0))
    cooked = whole.without_water(vapour)
    steam = Mix(Composition(water=vapour))
    boiling = draft.kitchen.boiling_point_c
    seen = draft.done.get(step.key)
    boiled = minutes if seen is None or seen.boiled_min is None else seen.boiled_min
    return laid(
        draft, step, about(minutes, 0.8, 1.4),
        (fruit.titled("pulp"), cooked.heated(boiling, boiled)), ("Steamed off", steam),
        sources=(water,) if np.any(np.asarray(water.composition.water) > 0) else (),
        params={**water_words(water), "come_up_min": come_up_min(draft, whole.composition, fruit)},
        holds=whole.composition, temp_c=boiling - 3.0,
    )  # fmt: skip


def come_up_min(draft: Draft, whole: Composition, lot: Lot) -> float:
    """Minutes that a pot takes to come to the boil from where its lot stands [min]."""
    kitchen = draft.kitchen
    start = min(max(0.0, lot.temp_c), kitchen.boiling_point_c)
    kg = typical(whole.mass_g) / 1000.0
    return heat.minutes_to_heat(
        kg, start, kitchen.boiling_point_c, kitchen.burner_kw, kitchen.burner_kind
    )


def evaporated(draft: Draft, whole: Composition, minutes: float) -> Values:
    """Water that a simmer of so many minutes drives off [g]; never over a third of it."""
    rate = heat.evaporation_kg_h(draft.kitchen.burner_kw, draft.kitchen.burner_kind)
    grams = 1000.0 * SIMMER_POWER_SHARE * rate * minutes / 60.0
    return np.minimum(grams, np.asarray(whole.water) / 3.0)


def water_lot(draft: Draft, step: Step, fruit: Lot, covering: bool = False) -> Lot:
    """The water a step adds: litres a kilo, or "covered" as the fruit's own packing makes it.

    Where the pot's depth has told how much it was, that much.
    """
    asked = step.chosen("water")
    seen = draft.done.get(step.key)
    if seen is not None and seen.water_l is not None and asked == "covered":
        grams: Values = 1000.0 * seen.water_l
        return water_of(draft, step, grams, "Water, by the pot", Evidence.READ, covering)
    if asked == "covered":
        cover = cover_l(fruit)
        grams = 1000.0 * np.maximum(cover.draws(normal_scores(_WATER)), 0.0)
        return water_of(draft, step, grams, "Water, not measured", Evidence.READ, covering)
    grams = 1000.0 * kilos(fruit) * float(asked)
    return water_of(draft, step, grams, "Water", Evidence.MEASURED, covering)


def cover_l(fruit: Lot) -> Estimate:
    """Water that just covers what is in the pot [L]."""
    if fruit.kind == "mash":
        litres = MASHED_COVER_L_PER_KG * kilos(fruit)
        return Estimate(0.5 * litres, litres, 2.0 * litres, Evidence.READ)
    packs = [f.pack_kg_per_l for f in fruit.fruits if f.pack_kg_per_l]
    return juicing.water_to_cover_l(kilos(fruit), packs[0] if packs else USUAL_PACK_KG_PER_L)


def water_of(
    draft: Draft,
    step: Step,
    grams: Values,
    name: str = "Water",
    evidence: Evidence = Evidence.MEASURED,
    covering: bool = False,
) -> Lot:
    """So much of the kitchen's water [g], as a lot that joins a step."""
    water = of_water(grams, draft.kitchen.hardness_mg_l)
    source = Source(f"water_{step.key}", "water", "as_sold", water, covering=covering)
    return Lot(source.key, "water", name, Figures(water, evidence), Mix.of(source).origins)


def ingredient(step: Step, material: str, name: str, grams: Values) -> Lot:
    """So much of an ingredient [g], weighed, as a lot that joins a step."""
    held = of_material(material, grams)
    source = Source(f"{material}_{step.key}", material, "as_sold", held)
    figures = Figures(held, Evidence.MEASURED)
    return Lot(source.key, "added", name, figures, Mix.of(source).origins)


def water_words(water: Lot) -> Mapping[str, Any]:
    """What the cook is told of the water, and what it came to [mL]."""
    grams = np.asarray(water.composition.water)
    ml = from_draws(grams / 0.9982, water.figures.evidence)
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


def kilos(lot: Lot) -> float:
    """Mass of a lot in the typical case [kg]."""
    return typical_g(lot) / 1000.0
