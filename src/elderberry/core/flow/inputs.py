"""What goes into a flow, how much of it as it was said, and the ends it is for."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache, lru_cache
from typing import Literal

import numpy as np

from elderberry.core import estimates, materials, tables
from elderberry.core.composition import (
    Composition,
    of_dried,
    of_fruit_juice,
    of_material,
    of_water,
)
from elderberry.core.errors import CannotTell, CoreError, Unknown, check_range
from elderberry.core.estimates import Estimate, Evidence, normal_scores
from elderberry.core.flow.lots import ONLY_SCENT, Figures, Lot, Mix, Source
from elderberry.core.lines.line import Per, Where

INSOLUBLE_SHARE = 0.10
"""Skins, fibre and stones in prepared fruit [-]; an estimate that no juice figure hangs on."""
PH_ACID_CORRELATION = -0.7
LEAST_INSOLUBLE = 0.1
"""What does not dissolve of leaves, bark and root, at the least [g/g]."""
DRIED_WATER, POWDER_WATER = 0.18, 0.04
"""Water in dried fruit, and in powder of it [g/g]."""
PEEL_SOLUTES = 0.4
"""Solutes in peel against those of its fruit's juice [-]; an estimate of ours."""
PEEL_OIL: Mapping[str, float] = {"zest": 0.012, "peel": 0.005}
"""Oil in fresh citrus zest, and in peel with its white [g/g]; zest holds most of it."""
CLEAR = "#efe4c4"
"""The colour of a clear syrup, or of juice that nothing tints."""
_BRIX, _ACID, _PH, _SAID = 1, 2, 3, 8
GRAMS_KEPT = 512
"""Compositions of a gram that are kept, some 20 kB each: they hang on no amount."""

Closure = Literal["", "cap", "reusable", "one_piece"]
"""What closes jars: each kind's own lid, or a plain cap."""
How = Literal["amount", "share", "target"]
FIGURES, BY_EYE = frozenset({"brix", "ph", "acid_g_l", "volume_ml"}), frozenset({"cover", "fill"})
"""What a target speaks of with a figure, and without one."""


@dataclass(frozen=True)
class Amount:
    """How much of something, as it was said.

    how: amount (grams), share (of what it joins, or of another input), or target (solved so that
    what it joins reaches a figure). said is kept word for word beside what it came to.
    """

    how: How = "amount"
    grams: Estimate | None = None
    share: float = 0.0
    of: str = ""
    """The input that a share is of; what it joins where it is not said."""
    per: Per = "g/g"
    target: str = ""
    """What a target speaks of: brix, ph or volume_ml; cover or fill without a figure."""
    value: float = 0.0
    said: str = ""
    spread: tuple[float, float] = (1.0, 1.0)
    """How far a share may be off, to both sides, as factors of it."""

    def __post_init__(self) -> None:
        if self.grams is not None:
            check_range("amount", self.grams.lo, "g", 0, 1e7)
        known = {
            "amount": self.grams is not None,
            "share": self.share > 0,
            "target": self.target in BY_EYE or (self.target in FIGURES and self.value > 0),
        }
        if not known.get(self.how, False):
            raise CoreError(f"nothing is said of how much: {self.said or self.how}")


def grams(amount: float | Estimate, said: str = "") -> Amount:
    """An amount that is weighed [g], or as uncertain as it is said.

    >>> grams(250).grams.typ
    250.0
    """
    known = amount if isinstance(amount, Estimate) else estimates.measured(float(amount))
    return Amount("amount", known, said=said)


@dataclass(frozen=True)
class Input:
    """Something that goes into a flow: a fruit in a form, a juice, an ingredient, water.

    key: the name of its lot. step: the step that it joins; where none is said, and no step takes
    it by name, it is stirred in before the jars. brix, ph: as read; ph_by_meter whether a meter
    read the pH, since a strip informs and clears nothing.
    """

    key: str
    material: str
    amount: Amount
    form: str = ""
    brix: Estimate | None = None
    ph: Estimate | None = None
    ph_by_meter: bool = True
    temp_c: float | None = None
    source: str = ""
    """Where it came from: a tree, a plot, a market."""
    step: str = ""
    called: str = ""
    """What the cook calls it: "cinnamon" of all whole spice."""
    where: Where = ""
    leaves: bool = False
    """Whether it is strained out again."""

    def __post_init__(self) -> None:
        if self.material not in materials.fruits() and self.material not in materials.ingredients():
            raise Unknown("material", self.material)
        if self.form and self.form not in forms():
            raise Unknown("form", self.form)

    @property
    def fruit(self) -> materials.Fruit | None:
        """The fruit that it is, if it is one."""
        return materials.fruits().get(self.material)

    @property
    def thins(self) -> bool:
        """Whether it is water that brings what it joins to a figure: nothing is cooked in it."""
        return self.material == "water" and self.amount.target not in {"", "cover"}

    @property
    def scents(self) -> bool:
        """Whether it only gives its scent: spice, leaves or peel that are strained out again."""
        if self.leaves or self.form in ONLY_SCENT:
            return True
        item = materials.ingredients().get(self.material)
        spent = item is not None and item.kind == "flavour" and item.insoluble > LEAST_INSOLUBLE
        return spent and self.form != "powder" and self.material != "cocoa"

    @property
    def shape(self) -> Form:
        """What its form makes of it."""
        return forms()[self.form or ("whole" if self.fruit else "as_sold")]

    @property
    def lot_kind(self) -> str:
        """The kind of lot that it is: fruit, mash, juice, pomace, water, or something added."""
        return lot_kind(self.material, self.form)

    @property
    def evidence(self) -> Evidence:
        """How well its make-up is known: a fruit's is measured once its Brix was."""
        if self.fruit is None:
            return Evidence.MEASURED
        return self.brix.evidence if self.brix else Evidence.TYPICAL

    @property
    def name(self) -> str:
        """What came in, in words: "Damson", "Damson, frozen", "Damson pomace"."""
        thing = self.fruit or materials.ingredient(self.material)
        if self.fruit is None and self.called:
            return self.called[0].upper() + self.called[1:]
        comes_dried = self.fruit is not None and self.fruit.comes_dried
        return thing.name if comes_dried else self.shape.words.format(name=thing.name)


def lot_kind(material: str, form: str = "") -> str:
    """The kind of lot that a material in a form is.

    Raises:
        Unknown: a form that is not listed.

    >>> lot_kind("damson"), lot_kind("apple", "puree"), lot_kind("water"), lot_kind("honey")
    ('fruit', 'mash', 'water', 'added')
    """
    if form and form not in forms():
        raise Unknown("form", form)
    if material in materials.fruits():
        return forms()[form or "whole"].lot_kind
    return "water" if material == "water" else "added"


@dataclass(frozen=True)
class Form:
    """One form that something comes in: the lot it makes, its dry share, and its words."""

    key: str
    words: str
    lot_kind: str
    leaves_as: str
    """What its fruit is called in a lot: whole, sliced, puree, juice, pomace or dried."""
    insoluble: float
    temp_c: float
    free_yield: float
    """What it yields against fresh fruit [-]."""
    poured: bool
    """Whether a litre of it is a litre of juice."""


@cache
def forms() -> Mapping[str, Form]:
    """Every form that something comes in, by key."""
    return {k: Form(key=k, **row) for k, row in tables.document("forms").items()}


@dataclass(frozen=True)
class End:
    """Where a flow stops: a filling, its product's name, how it is kept and in what."""

    key: str = "fill"
    """The filling step that it is."""
    keep: str = "shelf"
    """shelf, sugar, chill, freeze, or now for what is drunk at once."""
    jar_kinds: tuple[str, ...] = ()
    """Kinds of jar, or vessels of the household."""
    name: str = ""
    closure: Closure = ""
    lid: str = ""
    """The colour of its lids, by which its jars are told from others."""
    used_with: str = ""
    """The end that it is drunk together with, and is kept apart from until then."""

    @property
    def capped(self) -> bool:
        """Whether plain caps close its jars, which never seal."""
        return self.closure == "cap"


@dataclass(frozen=True)
class Brief:
    """What goes into a method this time, and what is to come of it."""

    inputs: tuple[Input, ...]
    ends: tuple[End, ...] = (End(),)
    said: frozenset[str] = frozenset()
    """What the cook has said of fruit, jars and work that rules ask about."""
    loads: int | None = None
    """Basket loads the cook wants; as few as fit when not given."""

    @property
    def main(self) -> Input:
        """What it is of first of all: its first fruit, or what comes first where there is none."""
        return next((i for i in self.inputs if i.fruit), self.inputs[0])

    @property
    def colour(self) -> str:
        """The colour of what comes of it."""
        fruit = self.main.fruit
        return fruit.colour if fruit else CLEAR

    @property
    def kinds(self) -> dict[str, str]:
        """The kind of lot that each input is, by its name."""
        return {i.key: i.lot_kind for i in self.inputs}

    def end(self, key: str) -> End:
        """The end at a filling step; one that nobody spoke of is kept as the first is."""
        first = self.ends[0]
        return next((e for e in self.ends if e.key == key), End(key, first.keep, first.jar_kinds))


def lot_of(given: Input, mass_g: Estimate | float, alkalinity_mg_l: float) -> Lot:
    """So much of an input as a lot of its own."""
    known = mass_g if isinstance(mass_g, Estimate) else estimates.measured(mass_g)
    spread = known.hi > known.lo
    weight = np.maximum(known.draws(normal_scores(_SAID)), 0.0) if spread else known.typ
    whole = one_gram(given, alkalinity_mg_l) * weight
    by_meter = given.ph.typ if given.ph and given.ph_by_meter else None
    covers = given.material == "water" and (
        given.where in {"start", "simmer"} or given.amount.target == "cover"
    )
    source = Source(given.key, given.material, given.shape.leaves_as, whole, by_meter, covers)
    evidence = given.evidence if not spread else estimates.weakest(given.evidence, known.evidence)
    lot = Lot(
        given.key, given.lot_kind, given.name, Figures(whole, evidence),
        Mix.of(source).origins, given.shape.free_yield,
        given.shape.temp_c if given.temp_c is None else given.temp_c,
    )  # fmt: skip
    return lot if by_meter is None else lot.meter_shows(by_meter)


def one_gram(given: Input, alkalinity_mg_l: float) -> Composition:
    """One gram of an input, as draws."""
    return _gram(given.material, given.form, given.brix, given.ph, alkalinity_mg_l)


@lru_cache(maxsize=GRAMS_KEPT)
def _gram(
    material: str, form: str, brix: Estimate | None, ph: Estimate | None, alkalinity_mg_l: float
) -> Composition:
    """One gram of a material in a form, as it was read."""
    fruit = materials.fruits().get(material)
    if fruit is None:
        if material == "water":
            return of_water(1.0, alkalinity_mg_l)
        return of_material(material, 1.0)
    if fruit.comes_dried:
        sour = fruit.acid_pct
        draws = sour.draws(normal_scores(_ACID)) if sour else None
        return of_dried(material, 1.0, ph.typ if ph else None, draws)
    shape = forms()[form or "whole"]
    dry = shape.insoluble
    whole = fruit_juice(material, brix, ph) * (1.0 - dry) + Composition(insoluble=dry)
    match shape.leaves_as:
        case "dried" | "powder":
            return _dried_to(whole, DRIED_WATER if form == "dried" else POWDER_WATER)
        case "zest" | "peel":
            oil = Composition(peel_oil=PEEL_OIL[form])
            peel = whole.portion(1.0, PEEL_SOLUTES, 1.0) + oil
            whole = peel * (1.0 / peel.mass_g)
    return whole


def _dried_to(whole: Composition, water: float) -> Composition:
    """One gram of what is left of fruit once it holds no more than so much water [g/g]."""
    kept: Composition = whole * ((1.0 - water) / (whole.mass_g - whole.water))
    return kept.without_water(kept.water - water)


@lru_cache(maxsize=GRAMS_KEPT)
def fruit_juice(material: str, brix: Estimate | None, ph: Estimate | None) -> Composition:
    """One gram of a fruit's own juice as draws: what was measured is tight, the rest typical.

    pH and acidity vary against each other (correlation −0.7); a draw whose acid would leave no
    sugar is brought back to seven tenths of the Brix.
    """
    fruit = materials.fruit(material)
    brix, ph, acid_pct = brix or fruit.brix, ph or fruit.ph, fruit.acid_pct
    if brix is None or ph is None or acid_pct is None:
        raise CannotTell(f"nothing is typical of {fruit.name}: Brix, pH and acidity are needed")
    acid_scores = normal_scores(_ACID)
    ph_scores = estimates.correlated(acid_scores, normal_scores(_PH), PH_ACID_CORRELATION)
    brix_draws = np.maximum(brix.draws(normal_scores(_BRIX)), 0.4 * brix.typ)
    sours = acid_pct.draws(acid_scores).clip(0.3 * acid_pct.lo, 0.55 * brix_draws)
    phs = ph.draws(ph_scores).clip(1.6, 7.4)
    return of_fruit_juice(material, 1.0, brix_draws, phs, sours)
