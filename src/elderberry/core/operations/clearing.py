"""Steps between juice and jar: cloth, rest, skimming, pouring together, parting."""

from __future__ import annotations

import numpy as np

from elderberry.core.flow.draft import Draft, laid
from elderberry.core.flow.lots import Mix, litres, typical_g
from elderberry.core.flow.steps import Step, about, wait_minutes
from elderberry.core.kitchen import NEAR_BOIL_C
from elderberry.core.numbers import typical
from elderberry.core.operations.extracting import litres_to_say

STRAIN_MIN_PER_L, SKIM_MIN = 2.0, 4.0
SEDIMENT_SHARE, SETTLED_KEPT = 0.03, 0.15
"""Of the mass, what is left behind when racking; of the pulp, what still floats [-]."""
LEES_KEEP = 1.5
"""Liquid that pulp keeps in the cloth [g/g]."""
CLOTH = {
    "muslin": "Through wet muslin",
    "sieve": "Through a fine sieve",
    "bag": "Through a jelly bag",
}
OFF_THE_BOIL = "Off the boil for a minute;"
TARTRATE = "Crystals that form are tartrate: harmless, and better left in this jug than in a jar."


def strain(draft: Draft, step: Step) -> Draft:
    """Through sieve or cloth, once or more: each pass holds pulp back and keeps some juice."""
    juice = draft.together(*step.takes)
    passes = round(float(step.chosen("passes")))
    kept = step.effect("kept", 1.0) ** passes
    lost = 1.0 - (1.0 - step.effect("loss_sum", 0.0)) ** passes
    clear, left = cleared(juice.mix, kept, lost)
    there_l = typical(juice.composition.volume_ml) / 1000.0
    minutes = passes * STRAIN_MIN_PER_L * there_l * step.effect("minutes", 1.0)
    words = "once" if passes == 1 else f"{passes} times, a rinsed cloth each time"
    return laid(
        draft, step, about(max(3.0, minutes)), (juice.name, clear),
        ("Left in the cloth", left),
        params={"cloth_words": CLOTH[str(step.chosen("cloth"))], "passes_words": words,
                "bowl_l": litres_to_say(clear.composition)},
    )  # fmt: skip


def cleared(juice: Mix, kept: float, lost: float) -> tuple[Mix, Mix]:
    """Juice with only a part of its pulp, less what is lost with it; and what stays behind.

    What pulp stays behind keeps liquid of its own.
    """
    whole = juice.composition
    liquid = np.maximum(whole.mass_g - whole.insoluble, 1e-9)
    held = LEES_KEEP * np.asarray(whole.insoluble) * (1.0 - kept) / liquid
    through = np.clip(1.0 - np.maximum(lost, held), 0.02, 1.0)
    clear = juice.portion(through, kept * through)
    return clear, juice.less(clear)


def settle(draft: Draft, step: Step) -> Draft:
    """Rest in the cold, then pour off the clear: tartrate and pulp stay behind."""
    juice = draft.together(*step.takes)
    hours = float(step.chosen("hours"))
    kept = SETTLED_KEPT + (1.0 - SETTLED_KEPT) * 0.5 ** (hours / 6.0)
    clear, left = cleared(juice.mix, kept, SEDIMENT_SHARE)
    tartaric = any("tartaric" in {f.main_acid, f.second_acid} for f in juice.fruits)
    return laid(
        draft, step, wait_minutes(hours), (f"{juice.name}, rested", clear), ("Sediment", left),
        params={"volume_l": f"{juice.volume_ml.typ / 1000:.3f}", "hours": f"{hours:g}",
                "tartrate_words": TARTRATE if tartaric else "What clouds it sinks."},
        holds=juice.composition,
    )  # fmt: skip


def skim(draft: Draft, step: Step) -> Draft:
    """Take the foam off, or leave it on."""
    juice = draft.together(*step.takes)
    clear, foam = cleared(juice.mix, step.effect("kept", 1.0), step.effect("loss_sum", 0.0))
    minutes = about(SKIM_MIN * step.effect("minutes", 1.0))
    boils = juice.temp_c >= draft.kitchen.boiling_point_c - NEAR_BOIL_C
    params = {"pot_words": OFF_THE_BOIL} if boils else {}
    return laid(draft, step, minutes, (juice.name, clear), ("Foam", foam), params=params)


def combine(draft: Draft, step: Step) -> Draft:
    """Pour several juices together; acids and sugars add up, pH follows."""
    both = draft.together(*step.takes)
    return laid(
        draft, step, about(5.0), (both.titled("juice, together"), both.mix),
        params={"bowl_l": litres_to_say(both.composition)},
    )  # fmt: skip


def split(draft: Draft, step: Step) -> Draft:
    """Keep a part back for another product."""
    juice = draft.together(*step.takes)
    share = float(step.chosen("share")) / 100.0
    part, rest = juice.mix.portion(share, share), juice.mix.portion(1.0 - share, 1.0 - share)
    return laid(
        draft, step, about(5.0), (juice.name, rest), (f"{juice.name}, kept back", part),
        params={"part_l": f"{litres(part.composition).typ:.3f}"}, holds=part.composition,
    )  # fmt: skip


def set_aside(draft: Draft, step: Step) -> Draft:
    """Keep the pomace cold for a second product of its own."""
    pomace = draft.together(*step.takes)
    return laid(
        draft, step, about(5.0), (pomace.titled("pomace, kept"), pomace.mix),
        params={"pomace_kg": f"{typical_g(pomace) / 1000:.3f}"},
    )  # fmt: skip
