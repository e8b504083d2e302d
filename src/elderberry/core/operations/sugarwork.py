"""Sugar alone over the heat: caramel to a colour, and the hot water that stops it."""

from __future__ import annotations

import numpy as np

from elderberry.core import heat
from elderberry.core.composition import Composition
from elderberry.core.flow.draft import Draft, laid, poured
from elderberry.core.flow.lots import Mix, typical_g
from elderberry.core.flow.steps import Step, about
from elderberry.core.numbers import typical
from elderberry.core.operations.preparing import water_of, weighed
from elderberry.core.wording import figure

SUGAR_KJ_KG_K, MELTING_KJ_KG = 1.5, 60.0
"""Heat capacity of sugar, and what melting it takes; rounded figures for sucrose."""
GENTLE = 0.45
"""Share of a ring's power that sugar is melted at, so that its edge does not burn [-]."""
MELT_MIN = 5.0
FOAMS = 4.0
"""Times its volume to which caramel foams up when the water goes in [-]; an estimate."""


def caramelise(draft: Draft, step: Step) -> Draft:
    """Melt sugar and let it colour; water that helps it melt boils off first.

    What browns becomes other solubles, a part is split, and a little goes off as steam: estimates
    of ours, since kitchens differ.
    """
    inner, joins = draft.parted(step)
    sugar = draft.together(*inner.takes)
    grams = typical_g(sugar)
    wet = str(step.chosen("way")) == "wet"
    joining = draft.joining(joins, sugar)
    if wet and not joining:
        water = grams * float(step.chosen("water")) / 100.0
        joining = (water_of(draft, "melting_water", water),)
    whole = poured((sugar, *joining)).mix
    to_c = step.effect("to_sum", 0.0)
    hot, off = _coloured(whole, step)
    rate = heat.evaporation_kg_h(draft.kitchen.burner_kw, draft.kitchen.burner_kind)
    minutes = MELT_MIN + _melting_min(draft, grams, to_c) + 60.0 * _kilos(whole) / rate
    return laid(
        draft, inner, about(minutes, 0.7, 1.6), ("Caramel", hot.heated(to_c, minutes)),
        ("Steam", off), sources=joining,
        params={
            "sugar_words": weighed(grams),
            "water_words": f" with {_all(joining)}" if joining else "",
            "stage": str(step.chosen("stage")),
            "to": to_c,
            "to_words": figure(to_c, "C"),
            "way_words": WET if wet else DRY,
        },
        holds=hot.composition * FOAMS,
        temp_c=to_c,
    )  # fmt: skip


DRY = "A thin layer at a time; swirl, do not stir. Wet sugar on the wall starts crystals."
WET = "Stir until it is clear, then no more: swirl. A wet brush takes crystals off the wall."


def _all(lots: tuple[object, ...]) -> str:
    return " and ".join(weighed(typical_g(lot)) + " of water" for lot in lots)  # type: ignore[arg-type]


def _kilos(whole: Mix) -> float:
    return typical(whole.composition.water) / 1000.0


def _melting_min(draft: Draft, grams: float, to_c: float) -> float:
    """Minutes that melting and colouring take on this ring, gently [min]."""
    kj = grams / 1000.0 * (SUGAR_KJ_KG_K * (to_c - 20.0) + MELTING_KJ_KG)
    power = GENTLE * heat.useful_kw(draft.kitchen.burner_kw, draft.kitchen.burner_kind)
    return kj / power / 60.0


def _coloured(whole: Mix, step: Step) -> tuple[Mix, Mix]:
    """Sugar as its colour leaves it, and what went off as steam."""
    browned, lost = step.effect("browned_sum", 0.0), step.effect("lost_sum", 0.0)
    dry = whole.without_water(0.99 * np.asarray(whole.composition.water))
    split = dry.inverted(step.effect("split_sum", 0.0)) if _kilos(dry) > 0 else dry
    held = split.composition
    gone = Composition(sucrose=lost * np.asarray(held.sucrose))
    turned = browned * np.asarray(held.sucrose)
    brown = held - Composition(sucrose=turned + gone.sucrose) + Composition(other_soluble=turned)
    steam = Composition(
        water=whole.composition.water - dry.composition.water, other_soluble=gone.sucrose
    )
    return Mix(brown, split.origins), Mix(steam)


def quench(draft: Draft, step: Step) -> Draft:
    """Hot water into caramel, a little at a time: what it flashes off is lost."""
    inner, joins = draft.parted(step)
    caramel = draft.together(*inner.takes)
    grams = typical_g(caramel)
    joining = draft.joining(joins, caramel)
    if not joining:
        water = grams * float(step.chosen("water")) / 100.0
        joining = (water_of(draft, "hot_water", water, "Hot water"),)
    whole = poured((caramel, *joining)).mix
    over = max(0.0, caramel.temp_c - draft.kitchen.boiling_point_c)
    flashed = grams * SUGAR_KJ_KG_K * over / heat.LATENT_KJ_KG
    most = 0.5 * typical(whole.composition.water)
    syrup = whole.without_water(min(flashed, most)).heated(draft.kitchen.boiling_point_c, 1.0)
    steam = Mix(Composition(water=min(flashed, most)))
    return laid(
        draft, inner, about(QUENCH_MIN), ("Caramel syrup", syrup), ("Steam", steam),
        sources=joining,
        params={"water_words": _all(joining)},
        holds=caramel.composition * FOAMS,
        temp_c=draft.kitchen.boiling_point_c,
    )  # fmt: skip


QUENCH_MIN = 4.0
