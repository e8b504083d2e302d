"""Steps between juice and jar: cloth, rest, skimming, pouring together, parting, sweetening."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from elderberry.core import sugar
from elderberry.core.composition import Composition
from elderberry.core.errors import CannotTell
from elderberry.core.flow import draft as flow
from elderberry.core.flow.draft import Draft, Step
from elderberry.core.numbers import typical
from elderberry.core.operations.extracting import litres_to_say
from elderberry.core.operations.preparing import ingredient, wait_minutes

STRAIN_MIN_PER_L, SKIM_MIN = 2.0, 4.0
SEDIMENT_SHARE, SETTLED_KEPT = 0.03, 0.15
"""Of the mass, what is left behind when racking; of the pulp, what still floats [-]."""
CLOTH = {
    "muslin": "Through wet muslin",
    "sieve": "Through a fine sieve",
    "bag": "Through a jelly bag",
}
TARTRATE = "Crystals that form are tartrate: harmless, and better left in this jug than in a jar."


def strain(draft: Draft, step: Step) -> Draft:
    """Through sieve or cloth, once or more: each pass holds pulp back and keeps some juice."""
    juice = draft.together(*step.takes)
    passes = round(float(step.chosen("passes")))
    kept = step.effect("kept", 1.0) ** passes
    lost = 1.0 - (1.0 - step.effect("loss_sum", 0.0)) ** passes
    clear, left = cleared(juice.composition, kept, lost)
    litres = typical(juice.composition.volume_ml) / 1000.0
    minutes = passes * STRAIN_MIN_PER_L * litres * step.effect("minutes", 1.0)
    words = "once" if passes == 1 else f"{passes} times, a rinsed cloth each time"
    return flow.laid(
        draft, step, flow.about(max(3.0, minutes)), (juice.name, clear),
        ("Left in the cloth", left),
        params={"cloth_words": CLOTH[str(step.chosen("cloth"))], "passes_words": words,
                "bowl_l": litres_to_say(clear)},
    )  # fmt: skip


def cleared(juice: Composition, kept: float, lost: float) -> tuple[Composition, Composition]:
    """Juice with only a part of its pulp, less what is lost with it; and what stays behind."""
    pulp = np.asarray(juice.insoluble)
    liquid = replace(juice, insoluble=0.0) * (1.0 - lost)
    clear = liquid + Composition(insoluble=pulp * kept * (1.0 - lost))
    return clear, juice - clear


def settle(draft: Draft, step: Step) -> Draft:
    """Rest in the cold, then pour off the clear: tartrate and pulp stay behind."""
    juice = draft.together(*step.takes)
    hours = float(step.chosen("hours"))
    kept = SETTLED_KEPT + (1.0 - SETTLED_KEPT) * 0.5 ** (hours / 6.0)
    clear, left = cleared(juice.composition, kept, SEDIMENT_SHARE)
    tartaric = "tartaric" in {draft.fruit.main_acid, draft.fruit.second_acid}
    return flow.laid(
        draft, step, wait_minutes(hours), (f"{juice.name}, rested", clear), ("Sediment", left),
        params={"volume_l": f"{juice.volume_ml.typ / 1000:.1f}", "hours": f"{hours:g}",
                "tartrate_words": TARTRATE if tartaric else "What clouds it sinks."},
        holds=juice.composition,
    )  # fmt: skip


def skim(draft: Draft, step: Step) -> Draft:
    """Take the foam off, or leave it on."""
    juice = draft.together(*step.takes)
    clear, foam = cleared(juice.composition, step.effect("kept", 1.0), step.effect("loss_sum", 0.0))
    minutes = flow.about(SKIM_MIN * step.effect("minutes", 1.0))
    return flow.laid(draft, step, minutes, (juice.name, clear), ("Foam", foam))


def combine(draft: Draft, step: Step) -> Draft:
    """Pour several juices together; acids and sugars add up, pH follows."""
    both = draft.together(*step.takes)
    return flow.laid(
        draft, step, flow.about(5.0), (f"{draft.fruit.name} juice, together", both.composition),
        params={"bowl_l": litres_to_say(both.composition)},
    )  # fmt: skip


def split(draft: Draft, step: Step) -> Draft:
    """Keep a part back for another product."""
    juice = draft.together(*step.takes)
    share = float(step.chosen("share")) / 100.0
    part = juice.composition * share
    return flow.laid(
        draft, step, flow.about(5.0), (juice.name, juice.composition * (1.0 - share)),
        (f"{juice.name}, kept back", part),
        params={"part_l": f"{flow.litres(part).typ:.1f}"}, holds=part,
    )  # fmt: skip


def dissolve(draft: Draft, step: Step) -> Draft:
    """Sweeten to a Brix: the sugar is weighed for the typical juice, so the result has a range."""
    juice = draft.together(*step.takes)
    target = float(step.chosen("brix"))
    usual = replace(juice.composition.first(), insoluble=0.0)
    if usual.brix >= target:
        raise CannotTell(f"{juice.name} has {usual.brix:.1f} °Bx already: no sugar is needed")
    grams = float(sugar.sugar_to_reach(usual.mass_g, usual.brix, target))
    sweet = ingredient(step, "sugar_white", "Sugar", grams)
    words = f"{grams / 1000:.2f} kg of sugar" if grams >= 1000 else f"{grams:.0f} g of sugar"
    sweetened = (f"{juice.name}, sweetened", juice.composition + sweet.composition)
    return flow.laid(
        draft, step, flow.about(8.0), sweetened, sources=(sweet,),
        params={"target_brix": f"{target:g}", "sugar_words": words,
                "volume_l": f"{juice.volume_ml.typ / 1000:.1f}"},
    )  # fmt: skip


def set_aside(draft: Draft, step: Step) -> Draft:
    """Keep the pomace cold for a second product of its own."""
    pomace = draft.together(*step.takes)
    return flow.laid(
        draft, step, flow.about(5.0), (f"{draft.fruit.name} pomace, kept", pomace.composition),
        params={"pomace_kg": f"{flow.typical_g(pomace) / 1000:.1f}"},
    )  # fmt: skip
