"""Steps by which something joins: sugar to a Brix, and anything else that is stirred in."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

import numpy as np

from elderberry.core import sugar
from elderberry.core.flow.draft import CONSTANT_ACID, Draft, laid, poured
from elderberry.core.flow.kinds import kind
from elderberry.core.flow.lots import Lot, typical_g
from elderberry.core.flow.steps import Step, about, wait_minutes
from elderberry.core.operations.preparing import ingredient, plainly, weighed
from elderberry.core.wording import figure, listed

STIR_MIN = 5.0
SCENTS_KEEP = 1.0
"""Liquid that spice keeps when it is strained out [g/g of its dry solids]."""


def dissolve(draft: Draft, step: Step) -> Draft:
    """Sweeten to a Brix, with what sweetens it already and sugar up to it: weighed for the typical
    juice, so that the result has a range.
    """
    there = draft.gathered(step)
    target = float(step.chosen("brix"))
    usual = there.whole.composition.first().portion(1.0, 1.0, 0.0)
    needed = usual.brix < target
    grams = float(sugar.sugar_to_reach(usual.mass_g, usual.brix, target)) if needed else 0.0
    sweet = ingredient(step, "sugar_white", "Sugar", grams)
    own = (sweet,) if grams or not there.also else ()
    words = (*map(plainly, there.also), *(f"{weighed(grams)} of sugar" for _ in own))
    return laid(
        draft, there.step, about(8.0),
        (f"{there.main.name}, sweetened", there.whole.mix + sweet.mix), sources=(*there.also, *own),
        params={"target_brix": f"{target:g}", "sugar_words": listed(words),
                "volume_l": f"{there.main.volume_ml.typ / 1000:.3f}"},
    )  # fmt: skip


def stir_in(draft: Draft, step: Step) -> Draft:
    """Something joins a lot: what it comes to is solved here where it hangs on what it joins.

    Every lot that it takes and that went in as an input joins the others in the order of the
    names, so that acid said by a pH goes by what is there already.
    """
    names = [n for n in step.takes if draft.given(n) is None or n == step.takes[0]]
    main = draft.together(*names)
    inputs = tuple(i for n in step.takes if n not in names and (i := draft.given(n)))
    joining = draft.joining(inputs, main)
    whole = poured((main, *joining))
    inner = replace(step, takes=tuple(names))
    return laid(
        draft, inner, about(STIR_MIN), (main.name, whole.mix), sources=joining,
        params={
            "join_words": "Add" if main.kind == "fruit" else "Stir in",
            "what": ", ".join(_plain(lot) for lot in joining).lower(),
            "into_words": _into(main, joining, ", stirred to the bottom"),
            "then_words": _then(joining),
        },
    )  # fmt: skip


def scent(draft: Draft, step: Step) -> Draft:
    """Warm a juice with spice, leaves or peel, and strain them out again.

    What they hold of water and solutes goes over into the juice; they keep some of it.
    """
    there = draft.gathered(step)
    inner, main, scents, whole = there.step, there.main, there.also, there.whole.mix
    dry = sum((np.asarray(lot.composition.insoluble) for lot in scents), start=np.asarray(0.0))
    liquid = np.maximum(whole.composition.mass_g - whole.composition.insoluble, 1e-9)
    kept = np.clip(SCENTS_KEEP * dry / liquid, 0.0, 0.5)
    strained = (lot.mix.portion(1.0 - kept, 0.0) for lot in scents)
    through = sum(strained, start=main.mix.portion(1.0 - kept, 1.0))
    hours = "hours" in kind(step.kind).options
    length = wait_minutes(float(step.chosen("hours"))) if hours else about(
        float(step.chosen("minutes")), 0.8, 1.5
    )  # fmt: skip
    stands = {"stands": str(step.chosen("stands"))} if hours else {}
    return laid(
        draft, inner, length, (main.name, through),
        ("Taken out", whole.less(through)), sources=scents,
        params={
            "what": ", ".join(_plain(lot) for lot in scents).lower(),
            "into_words": _into(main, scents),
            **stands,
        },
        holds=whole.composition,
    )  # fmt: skip


def _into(main: Lot, joining: Iterable[Lot], how: str = "") -> str:
    """What goes into how much; nothing where the pot already is where it was to come."""
    some = " and ".join(plainly(lot) for lot in joining if typical_g(lot) > 0.0)
    if not some:
        return "It is there already: nothing more goes in."
    litres = figure(main.volume_ml.typ / 1000.0, "l")
    return f"{some[:1].upper()}{some[1:]} into {litres}{how}."


def _plain(lot: Lot) -> str:
    """What joins, without what only a label says: "citric acid", "lemon juice (bottled)"."""
    what = lot.sources[0].ingredient if lot.sources else None
    return what.plain if what and what.name == lot.name else lot.name.lower()


def _then(joining: Iterable[Lot]) -> str:
    sour = any(s.material in CONSTANT_ACID for lot in joining for s in lot.origins)
    return "Read the pH once more if you have a meter." if sour else "On with the next step."
