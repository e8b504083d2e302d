"""The draft that a flow is laid out on: lots and operations so far, and what was read of them.

A flow is built by applying steps one after another to a Draft (operations/). Every operation
conserves mass, sugar and acid: what goes in comes out in its lots, losses included. A flow that is
under way is laid out in the same way, with the lots that were read as they were read.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np

from elderberry.core import jars, materials
from elderberry.core.composition import Composition
from elderberry.core.errors import CannotTell, CoreError
from elderberry.core.estimates import Estimate, Evidence, weakest
from elderberry.core.flow.acidity import Acidity, together
from elderberry.core.flow.inputs import Brief, Input, lot_of
from elderberry.core.flow.kinds import LOSES_WATER, Kind, kind
from elderberry.core.flow.lots import (
    WORKED_ON,
    Figures,
    Lot,
    Mix,
    Source,
    group,
    litres,
    typical_g,
)
from elderberry.core.flow.seen import Seen, StepSeen, as_seen
from elderberry.core.flow.solving import Around, jar_for
from elderberry.core.flow.solving import together as together_with
from elderberry.core.flow.steps import Operation, Step
from elderberry.core.kitchen import Kitchen
from elderberry.core.numbers import Values, typical
from elderberry.core.yields import YieldForecast

LEAST_DRAWN_ML = 1.0
"""Juice that a way of juicing gives in its poorest draw, and under which it gives none [mL]."""
DRAINED_KEEPS, SQUEEZED_KEEPS = 1.5, 1.0
"""Liquid that dry pulp keeps when it is hung, and when it is pressed or wrung [g/g]."""
CONSTANT_ACID = frozenset({"citric_acid", "malic_acid", "tartaric_acid", "lemon_bottled",
                           "lime_bottled"})  # fmt: skip
"""What has the same strength every time, so that it answers a reading over the limit."""
LEMONS = frozenset({"lemon", "lime", "lemon_bottled", "lime_bottled", "lemon_fresh"})

Forecasts = Mapping[tuple[str, str], YieldForecast]
"""What this kitchen may expect, by fruit and way of juicing."""


@dataclass(frozen=True)
class Filling:
    """How an end is filled, as its heating, jars and canner need to know it.

    fill_c: coldest that may go in [°C]. boils: it has to come to a boil first. boil_min: minutes
    that raw toxic fruit boils through. minutes: the tested process; None where there is none.
    keep: how it is kept then.
    """

    fill_c: float
    packing: jars.Packing
    headspace_mm: float
    boils: bool = False
    boil_min: float = 0.0
    sterilise_min: int | None = None
    minutes: int | None = None
    row: str = ""
    keep: str = "shelf"


@dataclass(frozen=True)
class Draft:
    """A flow as far as it has been laid out."""

    brief: Brief
    kitchen: Kitchen
    lots: Mapping[str, Lot] = field(default_factory=dict)
    forecasts: Forecasts = field(default_factory=dict)
    operations: tuple[Operation, ...] = ()
    fillings: Mapping[str, Filling] = field(default_factory=dict)
    """How each end is filled, by its filling step."""
    seen: Mapping[str, Seen] = field(default_factory=dict)
    """What has been read of lots, by their keys."""
    done: Mapping[str, StepSeen] = field(default_factory=dict)
    """What has been seen of operations, by their keys."""
    poured: dict[tuple[str, ...], Lot] = field(default_factory=dict)
    """Lots that were poured together before, by their keys, so that figures are computed once."""

    def given(self, name: str) -> Input | None:
        """The input of this name."""
        return next((i for i in self.brief.inputs if i.key == name), None)

    def then(self, *operations: Operation, lots: tuple[Lot, ...] = ()) -> Draft:
        """The draft with operations and lots added; what was read of a lot holds from there on."""
        boiled = {k for o in operations if kind(o.kind).role in LOSES_WATER for k in o.gives}
        read = {lot.key: self.as_read(lot, lot.key in boiled) for lot in lots}
        known = {**self.lots, **read}
        return replace(self, lots=known, operations=(*self.operations, *operations))

    def as_read(self, lot: Lot, boiled: bool = False) -> Lot:
        """A lot as it was read, where it was; boiled: only water has left it."""
        seen = self.seen.get(lot.key)
        return as_seen(lot, seen, boiled) if seen else lot

    def named(self, *names: str) -> tuple[Lot, ...]:
        """The lots of these names, a name meaning all loads and draws of it."""
        return tuple(
            lot
            for name in names
            for key, lot in self.lots.items()
            if key.startswith(name) and group(key) == name
        )

    def together(self, *names: str) -> Lot:
        """The lots of these names poured together.

        Raises:
            CoreError: there is no lot of such a name yet.
        """
        lots = self.named(*names)
        if not lots:
            raise CoreError(f"nothing is called {' or '.join(names)} at this place of the flow")
        if len(lots) == 1:
            return lots[0]
        keys = tuple(lot.key for lot in lots)
        if keys not in self.poured:
            self.poured[keys] = poured(lots)
        return self.poured[keys]

    def with_input(self, name: str) -> Draft:
        """The draft in which an input has become a lot of what was weighed or measured out.

        Raises:
            CoreError: how much it is hangs on what it joins, and it joins nothing.
        """
        given = self.given(name)
        if given is None or name in self.lots:
            return self
        if given.amount.grams is None:
            raise CoreError(f"{given.name} is said by what it joins, and it joins nothing")
        return self.then(lots=(lot_of(given, given.amount.grams, self.kitchen.hardness_mg_l),))

    def parted(self, step: Step) -> tuple[Step, tuple[Input, ...]]:
        """A step without what only joins it from the side, and the inputs that do.

        Whatever is of a kind that the step works on first of all is worked on; the rest joins,
        such as slices of lemon that only scent a juice.
        """
        works_on, joins = list[str](), list[Input]()
        worked = WORKED_ON & {*kind(step.kind).takes}
        for place, name in enumerate(step.takes):
            given = self.given(name)
            if place == 0 or given is None or given.lot_kind in worked:
                works_on.append(name)
            else:
                joins.append(given)
        return replace(step, takes=tuple(works_on)), tuple(joins)

    def joining(self, inputs: tuple[Input, ...], main: Lot) -> tuple[Lot, ...]:
        """Lots of what joins a lot, each weighed, or solved for what is there by then."""
        if not inputs:
            return ()
        first = self.brief.ends[0]
        jar_ml = jar_for(main.volume_ml.typ, first.jar_kinds, self.kitchen.jar_stock)
        around = Around(self.lots, self.kitchen.hardness_mg_l, jar_ml)
        return tuple(map(self.as_read, together_with(inputs, main, around)))

    def gathered(self, step: Step) -> Gathered:
        """What a step works on, with all that joins it from the side.

        Raises:
            CoreError: there is nothing yet for it to work on.
        """
        inner, joins = self.parted(step)
        main = self.together(*inner.takes)
        also = self.joining(joins, main)
        return Gathered(inner, main, also, with_more(main, also))


@dataclass(frozen=True)
class Gathered:
    """A step without what joins it from the side; what it works on, what joins, and both."""

    step: Step
    main: Lot
    also: tuple[Lot, ...]
    whole: Lot


LOAD = re.compile(r", load \d+")
"""What tells the basket loads of one lot apart, until they are poured together."""


def poured(lots: tuple[Lot, ...]) -> Lot:
    """Lots poured together: the first of them names it."""
    first = lots[0]
    alike = Counter(lot.composition for lot in lots)
    whole = sum((c * n if n > 1 else c for c, n in alike.items()), start=Composition())
    evidence = weakest(*(lot.figures.evidence for lot in lots))
    masses = [typical_g(lot) for lot in lots]
    total = max(sum(masses), 1e-9)
    return replace(
        first,
        name=LOAD.sub("", first.name),
        figures=Figures(whole, evidence),
        origins=_origins(lots),
        gives=sum(m * lot.gives for m, lot in zip(masses, lots, strict=True)) / total,
        temp_c=sum(m * lot.temp_c for m, lot in zip(masses, lots, strict=True)) / total,
        acidity=together(lot.acidity for lot in lots),
    )


def with_more(lot: Lot, joining: tuple[Lot, ...]) -> Lot:
    """A lot with what joins it from the side, and its readings as they then stand."""
    if not joining:
        return lot
    acidity = lot.acidity
    for one in joining:
        acidity = joined(replace(lot, acidity=acidity), one)
    return replace(poured((lot, *joining)), acidity=acidity, temp_c=lot.temp_c, gives=lot.gives)


def _origins(lots: tuple[Lot, ...]) -> Mapping[Source, Any]:
    whole: dict[Source, Any] = {}
    for lot in lots:
        for source, held in lot.origins.items():
            whole[source] = whole[source] + held if source in whole else held
    return whole


def begin(
    brief: Brief,
    kitchen: Kitchen,
    forecasts: Forecasts | None = None,
    seen: Mapping[str, Seen] | None = None,
    done: Mapping[str, StepSeen] | None = None,
) -> Draft:
    """A draft that holds only what came in; what is said by what it joins comes later."""
    draft = Draft(brief, kitchen, {}, forecasts or {}, seen=seen or {}, done=done or {})
    for given in brief.inputs:
        if given.amount.how == "amount" and given.lot_kind in WORKED_ON | {"juice"}:
            draft = draft.with_input(given.key)
    return draft


def joined(lot: Lot, source: Lot) -> Acidity:
    """The readings of a lot once something joins it from the side."""
    material = next(iter(source.origins)).material if source.origins else ""
    lemon = material in LEMONS
    if materials.kind_of(material) in materials.SWEET:
        return lot.acidity
    if material in CONSTANT_ACID:
        return lot.acidity.acidified(lemon)
    kept = lot.acidity.joined(lemon)
    return Acidity(None, (*kept.shown, *source.acidity.shown))


def laid(
    draft: Draft,
    step: Step,
    minutes: Estimate,
    *parts: tuple[str, Mix],
    sources: tuple[Lot, ...] = (),
    params: Mapping[str, Any] | None = None,
    holds: Composition | None = None,
    temp_c: float | None = None,
) -> Draft:
    """The draft with one operation of a step, its lots named as the step names them.

    Args:
        draft: the flow so far.
        step: the step.
        minutes: how long it takes.
        parts: name in words and what it holds of each lot it gives, in the order of its kind.
        sources: lots that join from the side, such as water or sugar.
        params: figures for its words.
        holds: what stands in its vessel at once, where that is not the first part.
        temp_c: how warm it is afterwards [°C], where its kind does not say.
    """
    given = draft.named(*step.takes)
    whole = draft.together(*step.takes)
    what = kind(step.kind)
    left_c = temp_c if temp_c is not None else what.leaves_c
    warm = whole.temp_c if left_c is None else left_c
    acidity = _acidity(what, whole, sources)

    def figures_of(part: Composition) -> Figures:
        unchanged = part is whole.composition
        return whole.figures if unchanged else Figures(part, whole.figures.evidence)

    lots = [
        Lot(
            name, what.given(place, whole.kind), words, figures_of(part.composition),
            part.as_form(what.form if place == 0 else "", what.peel).origins,
            whole.gives, warm, acidity, whole.lies, whole.portion_g,
        )
        for place, (name, (words, part)) in enumerate(zip(step.gives, parts, strict=True))
    ]  # fmt: skip
    kg = typical_g(whole) / 1000.0
    figures = {"fruit": whole.fruit_words, "fruit_kg": f"{kg:.3f}", **(params or {})}
    stands = holds or parts[0][1].composition
    operation = Operation(
        step.key, step.kind, minutes,
        tuple(lot.key for lot in (*given, *sources)), step.gives, figures, step.key,
        litres(stands) if what.vessel else None,
    )  # fmt: skip
    return draft.then(operation, lots=(*sources, *lots))


def _acidity(what: Kind, whole: Lot, sources: tuple[Lot, ...]) -> Acidity:
    acidity = whole.acidity if what.keeps_acidity else whole.acidity.joined()
    for source in sources:
        acidity = joined(replace(whole, acidity=acidity), source)
    return acidity


def drawn(whole: Mix, volume_ml: Values, pulp_pct: float, keeps: float = DRAINED_KEEPS) -> Mix:
    """So many millilitres of the liquid in a mash, with its pulp [g/100 g].

    keeps: grams of liquid that each gram of dry pulp holds back.

    Raises:
        CannotTell: in the typical case nothing would come out.
    """
    liquid = whole.composition.portion(1.0, 1.0, 0.0)
    if typical(volume_ml) < LEAST_DRAWN_ML:
        raise CannotTell("no juice would come out of this: give it water, or cook it shorter")
    least = LEAST_DRAWN_ML / liquid.volume_ml
    solids = np.asarray(whole.composition.insoluble)
    most = np.clip(1.0 - keeps * solids / np.maximum(liquid.mass_g, 1e-9), 0.02, 0.97)
    share = np.clip(volume_ml / liquid.volume_ml, least, most)
    pulp = np.minimum(pulp_pct / 100.0 * liquid.mass_g * share, 0.5 * solids)
    return whole.portion(share, pulp / np.maximum(solids, 1e-12))


def unmeasured(evidence: Evidence) -> bool:
    """Whether an amount was only judged by eye, so that a pot's depth would tell.

    >>> unmeasured(Evidence.READ)
    True
    """
    return evidence is Evidence.READ
