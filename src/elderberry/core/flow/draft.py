"""The flow: loads, lots, steps and operations, and the draft that they are laid out on.

A flow is built by applying steps one after another to a Draft (operations.py). Every operation
conserves mass, sugar and acid: what goes in comes out in its lots, losses included.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any, Literal

import numpy as np

from elderberry.core import acid, estimates, jars, materials, process
from elderberry.core.composition import Composition, of_dried, of_fruit_juice
from elderberry.core.errors import CannotTell, CoreError
from elderberry.core.estimates import Estimate, Evidence, from_draws, normal_scores
from elderberry.core.flow.kinds import kind
from elderberry.core.kitchen import Kitchen
from elderberry.core.numbers import Values, typical
from elderberry.core.yields import YieldForecast

INSOLUBLE_SHARE = 0.10
"""Skins, fibre and stones in prepared fruit [-]; an estimate that no juice figure hangs on."""
POMACE_INSOLUBLE_SHARE = 0.35
"""The same in pomace that another batch left [-]."""
LEAST_DRAWN_ML = 1.0
"""Juice that a way of juicing gives in its poorest draw, and under which it gives none [mL]."""
PH_ACID_CORRELATION = -0.7
WET = frozenset({"fruit", "mash", "juice", "jars"})
"""Kinds of lot whose Brix and pH mean something."""
_BRIX, _ACID, _PH, _PH_MODEL = 1, 2, 3, 5

Form = Literal["fresh", "frozen", "dried", "juice", "pomace"]


@dataclass(frozen=True)
class Load:
    """What came in and what it should become."""

    fruit_key: str
    fruit_kg: float
    brix: Estimate | None = None
    ph: Estimate | None = None
    keep: str = "shelf"
    form: Form = "fresh"
    fruit_c: float = 15.0
    jar_kinds: tuple[str, ...] = ()
    ingredients_g: Mapping[str, float] = field(default_factory=dict)
    """What else goes into the whole of it [g], by ingredient."""
    said: frozenset[str] = frozenset()
    """What the cook has said of fruit, jars and work that rules ask about."""
    loads: int | None = None
    """Basket loads the cook wants; as few as fit when not given."""

    @property
    def evidence(self) -> Evidence:
        """How well the juice's make-up is known: measured once its Brix was."""
        return self.brix.evidence if self.brix else Evidence.TYPICAL

    @property
    def lot_kind(self) -> str:
        """The kind of lot that came in: fruit, bought juice, or pomace of another batch."""
        return self.form if self.form in {"juice", "pomace"} else "fruit"


@dataclass(frozen=True, eq=False)
class Figures:
    """What a composition amounts to, each figure computed once; lots that are alike share it."""

    composition: Composition
    evidence: Evidence = Evidence.TYPICAL

    @cached_property
    def mass_g(self) -> Estimate:
        """Mass [g]."""
        return from_draws(self.composition.mass_g, self.evidence)

    @cached_property
    def volume_ml(self) -> Estimate:
        """Volume [mL] at 20 °C."""
        return from_draws(self.composition.volume_ml, self.evidence)

    @cached_property
    def brix(self) -> Estimate:
        """Soluble solids [g/100 g]."""
        return from_draws(self.composition.brix, self.evidence)

    @cached_property
    def ph(self) -> Estimate | None:
        """pH [-] with the model's own error, where there is acid enough to tell."""
        try:
            ph = acid.ph(self.composition)
        except CannotTell:
            return None
        width = acid.half_width(typical(self.composition.brix))
        error = width / estimates.Z90 * normal_scores(_PH_MODEL)
        return from_draws(ph + error, self.evidence)

    @property
    def pulp_pct(self) -> float:
        """Undissolved matter [g/100 g] in the typical case: what makes a juice cloudy."""
        mass = typical(self.composition.mass_g)
        return 100.0 * typical(self.composition.insoluble) / mass if mass else 0.0


@dataclass(frozen=True)
class Lot:
    """An amount of something at one place in the flow, as draws of its composition.

    fruit_g and water_g: prepared fruit it comes from, and water the cook added to it [g].
    material: the ingredient it is, where it is one.
    """

    key: str
    kind: str
    name: str
    figures: Figures
    fruit_g: Values = 0.0
    water_g: Values = 0.0
    material: str = ""

    @property
    def composition(self) -> Composition:
        """What it holds."""
        return self.figures.composition

    @property
    def mass_g(self) -> Estimate:
        """Mass [g]."""
        return self.figures.mass_g

    @property
    def volume_ml(self) -> Estimate:
        """Volume [mL] at 20 °C."""
        return self.figures.volume_ml

    @property
    def brix(self) -> Estimate | None:
        """Soluble solids [g/100 g], where there is juice or fruit."""
        return self.figures.brix if self.kind in WET else None

    @property
    def ph(self) -> Estimate | None:
        """pH [-], where there is juice or fruit."""
        return self.figures.ph if self.kind in WET else None

    @property
    def clarity(self) -> str:
        """How clear a juice stands in the glass, in a word; empty for what is no juice."""
        return clarity(self.figures.pulp_pct) if self.kind == "juice" else ""


def clarity(pulp_pct: float) -> str:
    """How clear a juice looks with so much undissolved matter [g/100 g].

    >>> clarity(0.05), clarity(0.6)
    ('clear', 'cloudy')
    """
    steps = ((0.06, "clear"), (0.25, "hazy"), (1.0, "cloudy"))
    return next((word for limit, word in steps if pulp_pct <= limit), "thick with pulp")


@dataclass(frozen=True)
class Step:
    """One step of a method: its kind, what it takes and gives by name, and what was chosen."""

    key: str
    kind: str
    takes: tuple[str, ...]
    gives: tuple[str, ...]
    params: Mapping[str, Any] = field(default_factory=dict)

    def chosen(self, name: str) -> Any:
        """The value of a choice or number: what was said, else the kind's default.

        Raises:
            CoreError: this kind of step has no such choice.
        """
        if name in self.params:
            return self.params[name]
        what = kind(self.kind)
        if name in what.options:
            return what.options[name].default
        raise CoreError(f"{self.kind} has no choice called {name}")

    def effect(self, name: str, usual: float) -> float:
        """What the choices of this step make of a figure: factors multiply, sums start at usual.

        A name that ends in _sum adds up; every other one multiplies.
        """
        total = usual
        for choice in kind(self.kind).choices:
            option = choice.option(str(self.chosen(choice.key)))
            if name in option.effects:
                total = (
                    total + option.effects[name]
                    if name.endswith("_sum")
                    else (total * option.effects[name])
                )
        return total


@dataclass(frozen=True)
class Operation:
    """One step of a flow: lots in, lots out, minutes, station and its own figures."""

    key: str
    kind: str
    minutes: Estimate
    takes: tuple[str, ...]
    gives: tuple[str, ...]
    params: Mapping[str, Any] = field(default_factory=dict)
    step: str = ""
    """The step of the method that it belongs to."""
    holds_l: Estimate | None = None
    """What stands in its vessel at once [L]."""

    @property
    def text(self) -> Mapping[str, str]:
        """Title, look_for, before and then, in plain words with this step's figures."""
        what = kind(self.kind)
        return {k: v.format(**{**what.usual, **self.params}) for k, v in what.words.items()}


@dataclass(frozen=True)
class Draft:
    """A flow as far as it has been laid out."""

    load: Load
    kitchen: Kitchen
    own: Composition
    """One gram of the fruit's own juice, as draws."""
    lots: Mapping[str, Lot]
    forecasts: Mapping[str, YieldForecast] = field(default_factory=dict)
    """What this kitchen may expect, by way of juicing."""
    operations: tuple[Operation, ...] = ()
    process_time: process.ProcessTime | None = None
    packing: jars.Packing | None = None
    poured: dict[tuple[str, ...], Lot] = field(default_factory=dict)
    """Lots that were poured together before, by their keys, so that figures are computed once."""

    @property
    def fruit(self) -> materials.Fruit:
        """The fruit that came in."""
        return materials.fruit(self.load.fruit_key)

    @property
    def ingredients_g(self) -> dict[str, float]:
        """What goes into the whole of it [g], by ingredient: stirred in, or by a step."""
        found = Counter(self.load.ingredients_g)
        for lot in self.lots.values():
            if lot.material:
                found[lot.material] += lot.mass_g.typ  # type: ignore[assignment]
        return dict(found)

    def then(self, *operations: Operation, lots: tuple[Lot, ...] = ()) -> Draft:
        """The draft with operations and lots added."""
        known = {**self.lots, **{lot.key: lot for lot in lots}}
        return replace(self, lots=known, operations=(*self.operations, *operations))

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
        if keys in self.poured:
            return self.poured[keys]
        alike = Counter(lot.composition for lot in lots)
        whole = sum((c * n if n > 1 else c for c, n in alike.items()), start=Composition())
        evidence = estimates.weakest(*(lot.figures.evidence for lot in lots))
        first = lots[0]
        self.poured[keys] = Lot(
            first.key, first.kind, first.name, Figures(whole, evidence),
            sum(lot.fruit_g for lot in lots), sum(lot.water_g for lot in lots),
        )  # fmt: skip
        return self.poured[keys]


def group(lot_key: str) -> str:
    """The name that a lot goes by in a method: all loads and draws together.

    >>> group("juice-2-late"), group("hot")
    ('juice', 'hot')
    """
    return lot_key.partition("-")[0]


def begin(
    load: Load, kitchen: Kitchen, forecasts: Mapping[str, YieldForecast] | None = None
) -> Draft:
    """A draft that holds only what came in."""
    grams = load.fruit_kg * 1000
    if load.form == "dried":
        sour = materials.fruit(load.fruit_key).acid_pct
        draws = sour.draws(normal_scores(_ACID)) if sour else None
        own = whole = of_dried(load.fruit_key, grams, load.ph.typ if load.ph else None, draws)
    else:
        own = fruit_juice(load)
        dry = {"juice": 0.0, "pomace": POMACE_INSOLUBLE_SHARE}.get(load.form, INSOLUBLE_SHARE)
        whole = own * (grams * (1 - dry)) + Composition(insoluble=grams * dry)
    kind_ = load.lot_kind
    fruit_g = grams if kind_ == "fruit" else 0.0
    lot = Lot("fruit", kind_, name_of(load), Figures(whole, load.evidence), fruit_g)
    return Draft(load, kitchen, own, {"fruit": lot}, forecasts or {})


def name_of(load: Load) -> str:
    """What came in, in words: "Damson", "Damson, frozen", "Damson pomace"."""
    name = materials.fruit(load.fruit_key).name
    return {
        "fresh": name,
        "frozen": f"{name}, frozen",
        "dried": name,
        "juice": f"{name} juice, bought",
        "pomace": f"{name} pomace",
    }[load.form]


def fruit_juice(load: Load) -> Composition:
    """One gram of the fruit's own juice as draws: what was measured is tight, the rest typical.

    pH and acidity vary against each other (correlation −0.7); a draw whose acid would leave no
    sugar is brought back to seven tenths of the Brix.
    """
    fruit = materials.fruit(load.fruit_key)
    brix, ph, acid_pct = load.brix or fruit.brix, load.ph or fruit.ph, fruit.acid_pct
    if brix is None or ph is None or acid_pct is None:
        raise CannotTell(f"nothing is typical of {fruit.name}: Brix, pH and acidity are needed")
    acid_scores = normal_scores(_ACID)
    ph_scores = estimates.correlated(acid_scores, normal_scores(_PH), PH_ACID_CORRELATION)
    brix_draws = np.maximum(brix.draws(normal_scores(_BRIX)), 0.4 * brix.typ)
    sours = acid_pct.draws(acid_scores).clip(0.3 * acid_pct.lo, 0.55 * brix_draws)
    phs = ph.draws(ph_scores).clip(1.6, 7.4)
    return of_fruit_juice(load.fruit_key, 1.0, brix_draws, phs, sours)


def typical_g(lot: Lot) -> float:
    """Mass of a lot in the typical case [g]."""
    return typical(lot.composition.mass_g)


def about(minutes: float, lo: float = 0.7, hi: float = 1.5) -> Estimate:
    """Minutes of work with the range that hands and heat make of them.

    >>> about(10).hi
    15.0
    """
    return Estimate(lo * minutes, minutes, hi * minutes)


def litres(composition: Composition) -> Estimate:
    """Volume of a composition [L]."""
    return from_draws(np.asarray(composition.volume_ml) / 1000.0)


def laid(
    draft: Draft,
    step: Step,
    minutes: Estimate,
    *parts: tuple[str, Composition],
    sources: tuple[Lot, ...] = (),
    params: Mapping[str, Any] | None = None,
    holds: Composition | None = None,
) -> Draft:
    """The draft with one operation of a step, its lots named as the step names them.

    Args:
        draft: the flow so far.
        step: the step.
        minutes: how long it takes.
        parts: name in words and composition of each lot it gives, in the order of its kind.
        sources: lots that join from the side, such as water or sugar.
        params: figures for its words.
        holds: what stands in its vessel at once, where that is not the first part.
    """
    given = draft.named(*step.takes)
    whole = draft.together(*step.takes)
    water_g = whole.water_g + sum(s.water_g for s in sources)
    what = kind(step.kind)

    def figures_of(part: Composition) -> Figures:
        unchanged = part is whole.composition
        return whole.figures if unchanged else Figures(part, whole.figures.evidence)

    lots = [
        Lot(name, made, words, figures_of(part), whole.fruit_g, water_g)
        for name, (_, made), (words, part) in zip(step.gives, what.gives, parts, strict=True)
    ]
    kg = typical_g(whole) / 1000.0
    figures = {"fruit": draft.fruit.name.lower(), "fruit_kg": f"{kg:.1f}", **(params or {})}
    stands = holds or parts[0][1]
    operation = Operation(
        step.key, step.kind, minutes,
        tuple(lot.key for lot in (*given, *sources)), step.gives, figures, step.key,
        litres(stands) if what.vessel else None,
    )  # fmt: skip
    return draft.then(operation, lots=(*sources, *lots))


def drawn(whole: Composition, volume_ml: Values, pulp_pct: float) -> Composition:
    """So many millilitres of the liquid in a mash, with its pulp [g/100 g]; at most 97 % of it.

    Raises:
        CannotTell: in the typical case nothing would come out.
    """
    liquid = replace(whole, insoluble=0.0)
    if typical(volume_ml) < LEAST_DRAWN_ML:
        raise CannotTell("no juice would come out of this: give it water, or cook it shorter")
    least = LEAST_DRAWN_ML / liquid.volume_ml
    share = np.clip(volume_ml / liquid.volume_ml, least, 0.97)
    juice: Composition = liquid * share
    pulp = np.minimum(pulp_pct / 100.0 * juice.mass_g, 0.5 * np.asarray(whole.insoluble))
    return juice + Composition(insoluble=pulp)
