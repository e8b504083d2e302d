"""Steps before there is juice: soaking, sorting, mashing, the blender, the pot."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from elderberry.core import heat
from elderberry.core.composition import Composition, of_material, of_water
from elderberry.core.estimates import Evidence, from_draws, normal_scores
from elderberry.core.flow.draft import Draft, laid, poured
from elderberry.core.flow.inputs import Input, forms
from elderberry.core.flow.lots import Figures, Lot, Mix, Source, typical_g
from elderberry.core.flow.solving import cover_l
from elderberry.core.flow.steps import Step, about, wait_minutes
from elderberry.core.freezing import thaw_h
from elderberry.core.numbers import Values, typical
from elderberry.core.wording import figure

MILL_MIN_PER_KG, POT_UP_MIN = 4.0, 10.0
SORT_MIN_PER_KG, MASH_MIN_PER_KG, BLEND_MIN_PER_KG, SOAK_MIN = 5.0, 2.0, 3.0, 10.0
SIMMER_POWER_SHARE = 0.25
"""Share of a burner's boil-off that a lidded gentle simmer drives off [-]; an estimate."""
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


def freeze_first(draft: Draft, step: Step) -> Draft:
    """Freeze fruit hard: frost breaks its cells, so that it gives a little more of its juice."""
    fruit = draft.together(*step.takes)
    hours = wait_minutes(float(step.chosen("hours")))
    made = laid(draft, step, hours, (f"{fruit.name}, frozen", fruit.mix))
    lot = made.lots[step.gives[0]]
    frozen = replace(lot, gives=lot.gives * forms()["frozen"].free_yield)
    return replace(made, lots={**made.lots, frozen.key: frozen})


def thaw(draft: Draft, step: Step) -> Draft:
    """Thaw in the refrigerator: hours by how much lies in each bag; what runs out goes along."""
    fruit = draft.together(*step.takes)
    hours = thaw_h(1000.0 * float(step.chosen("kg_each")))
    return laid(draft, step, wait_minutes(hours), (f"{fruit.name.split(', frozen')[0]}, thawed",
                fruit.mix), params={"hours": f"{hours:.0f}"})  # fmt: skip


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
    pot = Pot.of(draft, step)
    fruit = pot.fruit
    minutes = about(BLEND_MIN_PER_KG * kilos(fruit) * step.effect("minutes", 1.0))
    return laid(
        draft, pot.step, minutes, (f"{fruit.name}, blended", pot.whole),
        sources=pot.sources, params={**pot.words, **_cut_words(fruit)},
    )  # fmt: skip


def _cut_words(fruit: Lot) -> dict[str, str]:
    """What is cut and taken out first: small soft fruit goes in as it is."""
    small = not any(f.large for f in fruit.fruits)
    citrus = any(f.zest_share is not None for f in fruit.fruits)
    words = {"cut_words": "Take", "pips_words": ""} if small else {}
    return {**words, **({} if citrus else {"peel_words": ""})}


def mill(draft: Draft, step: Step) -> Draft:
    """Part the flesh of cooked or crushed fruit from its skins and pips: a purée.

    What stays behind keeps some of the flesh.
    """
    mash = draft.together(*step.takes)
    lost, kept = step.effect("loss_sum", 0.0), step.effect("kept", 1.0)
    through = mash.mix.portion(1.0 - lost, kept)
    minutes = about(MILL_MIN_PER_KG * kilos(mash) * step.effect("minutes", 1.0))
    bowl_l = np.ceil(2.2 * typical(through.composition.volume_ml) / 1000.0) / 2.0
    return laid(
        draft, step, minutes, (mash.titled("purée"), through),
        ("Skins and pips", mash.mix.less(through)), params={"bowl_l": f"{bowl_l:g}"},
    )  # fmt: skip


def pot_up(draft: Draft, step: Step) -> Draft:
    """Whole fruit and the liquid that covers it into one pot: syrup, juice or water.

    What was said of water, juice or sugar goes before what the step itself adds.
    """
    inner, joins = draft.parted(step)
    fruit = draft.together(*inner.takes)
    said = draft.joining(joins, fruit)
    liquid = tuple(x for x in said if x.kind in {"water", "juice"})
    ml = 1000.0 * kilos(fruit) * float(step.chosen("liquid"))
    own: list[Lot] = [] if liquid else [water_of(draft, f"water_{step.key}", 0.998 * ml)]
    grams = ml / 1000.0 * float(step.chosen("sugar"))
    if not sweetened(said) and not liquid and grams > 0:
        own.append(ingredient(step, "sugar_white", "Sugar", grams))
    sources = (*said, *own)
    whole = sum((x.mix for x in sources), start=fruit.mix)
    return laid(
        draft, inner, about(POT_UP_MIN), (fruit.titled("whole", ", "), whole), sources=sources,
        params={"liquid_words": " and ".join(plainly(x) for x in sources)},
    )  # fmt: skip


def sweetened(said: Iterable[Lot]) -> bool:
    """Whether sugar is among what joins a step, in place of the step's own."""
    return any(x.sources[0].ingredient and x.sources[0].ingredient.kind == "sugar" for x in said)


def simmer(draft: Draft, step: Step) -> Draft:
    """Cook the fruit soft in a little water, or covered with as much as nobody measured.

    Its minutes count from the boil; what it takes to get there comes before them.
    """
    pot = Pot.of(draft, step, covering=True)
    fruit, whole = pot.fruit, pot.whole
    minutes = float(step.chosen("minutes")) * step.effect("minutes", 1.0)
    vapour = evaporated(draft, whole.composition, minutes * step.effect("evaporated", 1.0))
    cooked = whole.without_water(vapour)
    steam = Mix(Composition(water=vapour))
    boiling = draft.kitchen.boiling_point_c
    seen = draft.done.get(step.key)
    boiled = minutes if seen is None or seen.boiled_min is None else seen.boiled_min
    return laid(
        draft, pot.step, about(minutes, 0.8, 1.4),
        (fruit.titled("pulp"), cooked.heated(boiling, boiled)), ("Steamed off", steam),
        sources=pot.sources,
        params={**pot.words, "come_up_min": come_up_min(draft, whole.composition, fruit)},
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


@dataclass(frozen=True)
class Pot:
    """What is in a pot: the fruit that is worked on, its water, and what joins it there."""

    step: Step
    """The step with only what it works on."""
    fruit: Lot
    water: Lot
    also: tuple[Lot, ...]

    @classmethod
    def of(cls, draft: Draft, step: Step, covering: bool = False) -> Pot:
        """The pot of a step: the water that was said goes before what the step itself adds."""
        inner, joins = draft.parted(step)
        fruit = draft.together(*inner.takes)
        waters = tuple(i for i in joins if i.material == "water")
        water = _water(draft, step, fruit, waters, covering)
        others = tuple(i for i in joins if i.material != "water")
        return cls(inner, fruit, water, draft.joining(others, fruit))

    @property
    def sources(self) -> tuple[Lot, ...]:
        """What joins from the side."""
        there = np.any(np.asarray(self.water.composition.water) > 0)
        return (*((self.water,) if there else ()), *self.also)

    @property
    def whole(self) -> Mix:
        """All of it together."""
        return sum((lot.mix for lot in self.also), start=self.fruit.mix + self.water.mix)

    @property
    def words(self) -> dict[str, Any]:
        """What the cook is told of the water and of what joins."""
        said = water_words(self.water)
        also = "".join(f", {plainly(lot)}" for lot in self.also)
        return {**said, "water_words": f"{said['water_words']}{also}"}


def plainly(lot: Lot) -> str:
    """What joins, with its weight: "12 g cinnamon"."""
    name = lot.name.replace(" (anhydrous)", "").lower()
    return f"{weighed(typical(lot.composition.mass_g))} {name}"


def weighed(grams: float) -> str:
    """A weight [g] as a sentence holds it, to be said in the kitchen's units.

    >>> weighed(12.4)
    '«12.40 g»'
    """
    return figure(grams, "g")


def _water(draft: Draft, step: Step, fruit: Lot, said: tuple[Input, ...], covering: bool) -> Lot:
    """The water of a step: as it was said, or litres a kilo, or "covered" as the fruit packs.

    Where the pot's depth has told how much it was, that much.
    """
    by_eye = any(i.amount.target == "cover" for i in said)
    asked = "covered" if by_eye else step.chosen("water")
    key = said[0].key if said else f"water_{step.key}"
    if said and not by_eye:
        lots = draft.joining(said, fruit)
        return replace(poured(lots), name="Water")
    seen = draft.done.get(step.key)
    if seen is not None and seen.water_l is not None and asked == "covered":
        grams: Values = 1000.0 * seen.water_l
        return water_of(draft, key, grams, "Water, by the pot", Evidence.READ, covering)
    if asked == "covered":
        grams = 1000.0 * np.maximum(cover_l(fruit).draws(normal_scores(_WATER)), 0.0)
        return water_of(draft, key, grams, "Water, not measured", Evidence.READ, covering)
    grams = 1000.0 * kilos(fruit) * float(asked)
    return water_of(draft, key, grams, "Water", Evidence.MEASURED, covering)


def water_of(
    draft: Draft,
    key: str,
    grams: Values,
    name: str = "Water",
    evidence: Evidence = Evidence.MEASURED,
    covering: bool = False,
) -> Lot:
    """So much of the kitchen's water [g], as a lot that joins a step."""
    water = of_water(grams, draft.kitchen.hardness_mg_l)
    source = Source(key, "water", "as_sold", water, covering=covering)
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
        words = f"covered with water by a finger, about {figure(ml.typ, 'ml')}"
    elif ml.typ > 0:
        words = f"{figure(ml.typ, 'ml')} of water"
    else:
        words = "no water"
    return {
        "water_l": f"{ml.typ / 1000:.3f}",
        "water_words": words,
        "water_ml": ml.typ,
        "water_known": water.figures.evidence.value,
        "water_range_ml": [ml.lo, ml.hi],
    }


def kilos(lot: Lot) -> float:
    """Mass of a lot in the typical case [kg]."""
    return typical_g(lot) / 1000.0
