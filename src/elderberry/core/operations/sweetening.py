"""Steps by which something joins: sugar to a Brix, and anything else that is stirred in."""

from __future__ import annotations

from collections.abc import Iterable

from elderberry.core import sugar
from elderberry.core.errors import CannotTell
from elderberry.core.flow.draft import CONSTANT_ACID, Draft, laid, poured
from elderberry.core.flow.lots import Lot
from elderberry.core.flow.steps import Step, about
from elderberry.core.numbers import typical
from elderberry.core.operations.preparing import ingredient

STIR_MIN = 5.0


def dissolve(draft: Draft, step: Step) -> Draft:
    """Sweeten to a Brix: the sugar is weighed for the typical juice, so the result has a range."""
    juice = draft.together(*step.takes)
    target = float(step.chosen("brix"))
    usual = juice.composition.first().portion(1.0, 1.0, 0.0)
    if usual.brix >= target:
        raise CannotTell(f"{juice.name} has {usual.brix:.1f} °Bx already: no sugar is needed")
    grams = float(sugar.sugar_to_reach(usual.mass_g, usual.brix, target))
    sweet = ingredient(step, "sugar_white", "Sugar", grams)
    sweetened = (f"{juice.name}, sweetened", juice.mix + sweet.mix)
    return laid(
        draft, step, about(8.0), sweetened, sources=(sweet,),
        params={"target_brix": f"{target:g}", "sugar_words": f"{weighed(grams)} of sugar",
                "volume_l": f"{juice.volume_ml.typ / 1000:.1f}"},
    )  # fmt: skip


def stir_in(draft: Draft, step: Step) -> Draft:
    """Something joins a lot: what it comes to is solved here where it hangs on what it joins.

    Every lot that it takes and that went in as an input joins the others in the order of the
    names, so that acid said by a pH goes by what is there already.
    """
    names = [n for n in step.takes if draft.given(n) is None or n == step.takes[0]]
    main = draft.together(*names)
    whole, joining = main, list[Lot]()
    for name in (n for n in step.takes if n not in names):
        draft = draft.with_input(name, whole)
        lot = draft.lots[name]
        joining.append(lot)
        whole = poured((whole, lot))
    inner = Step(step.key, step.kind, tuple(names), step.gives, step.params)
    words = _words(joining)
    return laid(
        draft, inner, about(STIR_MIN), (main.name, whole.mix), sources=tuple(joining),
        params={
            "what": ", ".join(_plain(lot) for lot in joining).lower(),
            "amounts_words": words[:1].upper() + words[1:],
            "volume_l": f"{main.volume_ml.typ / 1000:.1f}",
            "then_words": _then(joining),
        },
    )  # fmt: skip


def _words(joining: Iterable[Lot]) -> str:
    return " and ".join(f"{weighed(typical(j.composition.mass_g))} {_plain(j)}" for j in joining)


def _plain(lot: Lot) -> str:
    """What joins, without what only a label says: "citric acid", "lemon juice (bottled)"."""
    return lot.name.replace(" (anhydrous)", "").lower()


def _then(joining: Iterable[Lot]) -> str:
    sour = any(s.material in CONSTANT_ACID for lot in joining for s in lot.origins)
    return "Read the pH once more if you have a meter." if sour else "On with the next step."


def weighed(grams: float) -> str:
    """Grams or kilos as one says them.

    >>> weighed(12.4), weighed(1250)
    ('12 g', '1.25 kg')
    """
    if grams >= 1000:
        return f"{grams / 1000:.2f} kg"
    return f"{grams:.0f} g" if grams >= 3 else f"{grams:.1f} g"
