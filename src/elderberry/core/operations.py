"""The flow: lots, operations, and how each kind of operation turns lots into lots.

A flow is built by applying operations one after another to a Draft. Every operation conserves
mass, sugar and acid: what goes in comes out in its lots, losses included.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any

import numpy as np

from elderberry.core import acid, estimates, heat, jars, juicing, materials, process, sugar, tables
from elderberry.core.composition import Composition, of_fruit_juice, of_material
from elderberry.core.errors import CannotTell, CoreError, DoesNotFit
from elderberry.core.estimates import Estimate, Evidence, from_draws, normal_scores
from elderberry.core.kitchen import Kitchen
from elderberry.core.numbers import Array

INSOLUBLE_SHARE = 0.10
"""Skins, fibre and stones in prepared fruit [-]; an estimate that no juice figure hangs on."""
CONDENSATE_SPREAD = 0.25
PH_ACID_CORRELATION = -0.7
DRAWN_JUICE_C = 60.0
"""Steam-juiced loads wait in a covered pot and are about this warm when heated on [°C]."""
RAW_TOXIC = ("elderberry", "rowan")
BOIL_THROUGH_MIN = 10.0
FILL_MIN_PER_JAR = 1.5
COOL_HOURS = 12.0
WET = frozenset({"fruit", "juice", "jars"})
"""Kinds of lot whose Brix and pH mean something."""
_YIELD, _BRIX, _ACID, _PH, _CONDENSATE, _PH_MODEL = range(6)


@dataclass(frozen=True)
class Load:
    """What came in and what it should become."""

    fruit_key: str
    fruit_kg: float
    yield_l_per_kg: Estimate
    brix: Estimate | None = None
    ph: Estimate | None = None
    keep: str = "shelf"
    lid_lifts: int = 0
    fruit_c: float = 15.0
    jar_kinds: tuple[str, ...] = ()
    ingredients_g: Mapping[str, float] = field(default_factory=dict)
    """What else goes into the whole of it [g], by ingredient."""
    said: frozenset[str] = frozenset()
    """What the cook has said of fruit, jars and work that rules ask about."""
    loads: int | None = None
    """Basket loads the cook wants; as few as fit when not given."""


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
        error = process.PH_MODEL_HALF_WIDTH / estimates.Z90 * normal_scores(_PH_MODEL)
        return from_draws(ph + error, self.evidence)


@dataclass(frozen=True)
class Lot:
    """An amount of something at one place in the flow, as draws of its composition."""

    key: str
    kind: str
    name: str
    figures: Figures

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


@dataclass(frozen=True)
class Operation:
    """One step of a flow: lots in, lots out, minutes, station and its own figures."""

    key: str
    kind: str
    minutes: Estimate
    takes: tuple[str, ...]
    gives: tuple[str, ...]
    params: Mapping[str, Any] = field(default_factory=dict)

    @property
    def text(self) -> Mapping[str, str]:
        """Title, look_for, before and then, in plain words with this step's figures."""
        words = tables.document("operations")[self.kind]
        return {k: v.format(**self.params) for k, v in words.items()}


@dataclass(frozen=True)
class Draft:
    """A flow as far as it has been laid out."""

    load: Load
    kitchen: Kitchen
    own: Composition
    """One gram of the fruit's own juice, as draws."""
    lots: Mapping[str, Lot]
    current: tuple[str, ...]
    operations: tuple[Operation, ...] = ()
    process_time: process.ProcessTime | None = None
    packing: jars.Packing | None = None

    @property
    def fruit(self) -> materials.Fruit:
        """The fruit that came in."""
        return materials.fruit(self.load.fruit_key)

    def then(
        self, *operations: Operation, lots: tuple[Lot, ...] = (), current: tuple[str, ...]
    ) -> Draft:
        """The draft with operations and lots added, `current` being what goes on."""
        known = {**self.lots, **{lot.key: lot for lot in lots}}
        return replace(
            self, lots=known, operations=(*self.operations, *operations), current=current
        )

    @cached_property
    def pooled(self) -> Composition:
        """The lots that go on, together."""
        alike = Counter(self.lots[k].composition for k in self.current)
        return sum((c * n if n > 1 else c for c, n in alike.items()), start=Composition())


Apply = Callable[[Draft], Draft]


def begin(load: Load, kitchen: Kitchen) -> Draft:
    """A draft that holds only the fruit lot."""
    kg = load.fruit_kg
    own = fruit_juice(load)
    whole = own * (kg * 1000 * (1 - INSOLUBLE_SHARE)) + Composition(
        insoluble=kg * 1000 * INSOLUBLE_SHARE
    )
    name = materials.fruit(load.fruit_key).name
    lot = Lot("fruit", "fruit", name, Figures(whole, load_evidence(load)))
    return Draft(load, kitchen, own, {"fruit": lot}, ("fruit",))


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
    sours = np.clip(acid_pct.draws(acid_scores), 0.3 * acid_pct.lo, 0.55 * brix_draws)
    phs = np.clip(ph.draws(ph_scores), 1.6, 7.4)
    return of_fruit_juice(load.fruit_key, 1.0, brix_draws, phs, sours)


def load_evidence(load: Load) -> Evidence:
    """How well the juice's make-up is known: measured once its Brix was."""
    return load.brix.evidence if load.brix else Evidence.TYPICAL


def steam_juice(draft: Draft) -> Draft:
    """Steam the fruit in as many basket loads as it takes; the juice of each is its own lot."""
    load, fruit, juicer = draft.load, draft.fruit, draft.kitchen.juicer
    if fruit.pack_kg_per_l is None or fruit.steam_min is None:
        raise CannotTell(f"{fruit.name} is not steam-juiced: no figures are known for it")
    fewest = juicing.loads(load.fruit_kg, fruit.pack_kg_per_l, juicer.basket_l)
    count = fewest if load.loads is None else load.loads
    if count < fewest:
        raise DoesNotFit(
            f"{load.fruit_kg:g} kg do not fit a basket of {juicer.basket_l:g} l in "
            f"{count} {'load' if count == 1 else 'loads'}: it takes {fewest}"
        )
    kg = load.fruit_kg / count
    steam, juice = steamed(draft, kg)
    taken_up = Composition(water=steam)
    pomace = _rest(draft.pooled * (1.0 / count) + taken_up, juice)
    evidence = load_evidence(load)
    alike = (Figures(taken_up), Figures(juice, evidence), Figures(pomace, evidence))
    parts = [_steam_load(draft, alike, n, count) for n in range(1, count + 1)]
    operations = tuple(operation for operation, _ in parts)
    lots = tuple(lot for _, made in parts for lot in made)
    return draft.then(
        *operations, lots=lots, current=tuple(lot.key for lot in lots if lot.kind == "juice")
    )


def _steam_load(
    draft: Draft, parts: tuple[Figures, Figures, Figures], number: int, count: int
) -> tuple[Operation, tuple[Lot, ...]]:
    load, fruit, juicer = draft.load, draft.fruit, draft.kitchen.juicer
    minutes = fruit.steam_min or 0.0
    steam, juice, pomace = parts
    suffix = f"-{number}"
    name = f"{fruit.name} juice" if count == 1 else f"{fruit.name} juice, load {number}"
    lots = (
        Lot(f"steam{suffix}", "steam", "Steam taken up", steam),
        Lot(f"juice{suffix}", "juice", name, juice),
        Lot(f"pomace{suffix}", "pomace", "Pomace", pomace),
    )
    params = {
        "load": number,
        "loads": count,
        "fruit": fruit.name.lower(),
        "fruit_kg": f"{load.fruit_kg / count:.1f}",
        "steam_look": fruit.steam_look,
        "pan_dry_min": juicing.minutes_to_dry(juicer.pan_l, juicer.boil_off_kg_h),
        "boil_off_kg_h": juicer.boil_off_kg_h,
        "pan_l": juicer.pan_l,
    }
    operation = Operation(
        f"steam_juice{suffix}",
        "steam_juice",
        Estimate(0.85 * minutes, minutes, 1.3 * minutes),
        ("fruit", lots[0].key),
        (lots[1].key, lots[2].key),
        params,
    )
    return operation, lots


def steamed(draft: Draft, kg: float) -> tuple[Array, Composition]:
    """Condensate [g] and juice of one basket of kg, as draws: the yield counts the condensate."""
    load, kitchen, fruit = draft.load, draft.kitchen, draft.fruit
    boil_off = kitchen.juicer.boil_off_kg_h * (fruit.steam_min or 0.0) / 60.0
    expected = 1000 * juicing.condensate_kg(
        kg, kitchen.boiling_point_c, load.fruit_c, boil_off, load.lid_lifts
    )
    spread = np.clip(1.0 + CONDENSATE_SPREAD / estimates.Z90 * normal_scores(_CONDENSATE), 0.3, 2)
    steam = expected * spread
    drawn_ml = 1000 * kg * load.yield_l_per_kg.draws(normal_scores(_YIELD))
    dilution = np.minimum(juicing.KETTLE_SHARE * steam, 0.6 * drawn_ml)
    own = draft.own
    own_g = (drawn_ml - dilution / sugar.WATER_20C_KG_M3 * 1000) / own.volume_ml
    own_g = np.minimum(own_g, 0.97 * (1 - INSOLUBLE_SHARE) * 1000 * kg)
    return steam, own * own_g + Composition(water=dilution)


def _rest(whole: Composition, taken: Composition) -> Composition:
    """What stays behind: never less than nothing, to the rounding of arithmetic."""
    rest = {}
    for name in ("water", "sucrose", "glucose", "fructose", "insoluble", *acid.ACIDS):
        left = np.asarray(getattr(whole, name)) - np.asarray(getattr(taken, name))
        if np.any(left < -1e-6 * (1 + np.asarray(getattr(whole, name)))):
            raise CoreError(f"more {name} would come out than went in")
        rest[name] = np.maximum(left, 0.0)
    base = np.asarray(whole.strong_base_mol) - np.asarray(taken.strong_base_mol)
    return Composition(**rest, strong_base_mol=base)


def added(load: Load) -> Composition:
    """What else goes in, all together."""
    parts = (of_material(key, grams) for key, grams in load.ingredients_g.items() if grams > 0)
    return sum(parts, start=Composition())


def stir_in(load: Load) -> str:
    """What else goes in, as the cook is told: "Stir in 9 g citric acid." """
    parts = [
        f"{grams:.0f} g {materials.ingredient(key).name.split(' (')[0].lower()}"
        for key, grams in load.ingredients_g.items()
        if grams > 0
    ]
    return f"Stir in {' and '.join(parts)}. " if parts else ""


def heat_through(draft: Draft) -> Draft:
    """Pool the juice, stir in what is added, and heat it to the filling temperature.

    Where the raw fruit is toxic it is boiled through instead.
    """
    time = draft.process_time
    target = time.fill_c if time else process.FILL_C
    extra = added(draft.load)
    pooled = draft.pooled + extra
    kg = float(np.atleast_1d(pooled.mass_g)[0]) / 1000.0
    toxic = draft.load.fruit_key in RAW_TOXIC
    goal = draft.kitchen.boiling_point_c if toxic else target
    minutes = heat.minutes_to_heat(
        kg, DRAWN_JUICE_C, goal, draft.kitchen.burner_kw, draft.kitchen.burner_kind
    )
    figures = Figures(pooled, load_evidence(draft.load))
    lot = Lot("hot", "juice", f"{draft.fruit.name} juice, hot", figures)
    kind = "boil_through" if toxic else "heat_to"
    params = {
        "target_c": f"{goal:.0f}",
        "target": goal,
        "hold_min": f"{BOIL_THROUGH_MIN:.0f}",
        "stir_in": stir_in(draft.load),
    }
    lots: tuple[Lot, ...] = (lot,)
    if draft.load.ingredients_g:
        lots += (Lot("added", "added", "Stirred in", Figures(extra, Evidence.MEASURED)),)
    length = (
        Estimate(BOIL_THROUGH_MIN, BOIL_THROUGH_MIN, BOIL_THROUGH_MIN + minutes)
        if toxic
        else Estimate(0.8 * minutes, minutes, 1.5 * minutes)
    )
    takes = (*draft.current, *(other.key for other in lots if other.kind == "added"))
    operation = Operation(kind, kind, length, takes, ("hot",), params)
    return draft.then(operation, lots=lots, current=("hot",))


def sterilise(draft: Draft) -> Draft:
    """Boil the empty jars first, where the process is too short to do it."""
    minutes = draft.process_time.sterilise_min if draft.process_time else None
    if minutes is None:
        return draft
    operation = Operation(
        "sterilise", "sterilise", Estimate(minutes, minutes, minutes + 10), (), (), {"min": minutes}
    )
    return draft.then(operation, current=draft.current)


def fill(draft: Draft) -> Draft:
    """Fill hot jars: the volume is that of hot juice, the part-filled last jar is kept apart."""
    if draft.packing is None:
        raise CoreError("jars are filled once they have been counted")
    count = draft.packing.count + (1 if draft.packing.leftover_kind else 0)
    headspace = draft.process_time.headspace_in if draft.process_time else 1.0
    minutes = max(5.0, FILL_MIN_PER_JAR * count)
    params = {
        "jars": count,
        "packing": dict(draft.packing.jars),
        "leftover_kind": draft.packing.leftover_kind,
        "leftover_ml": draft.packing.leftover_ml,
        "headspace": f"{headspace * 25.4:.0f} mm",
    }
    operation = Operation(
        "fill",
        "fill",
        Estimate(0.7 * minutes, minutes, 1.6 * minutes),
        draft.current,
        ("jars",),
        params,
    )
    lot = replace(
        draft.lots["hot"], key="jars", kind="jars", name=f"{draft.fruit.name} juice in jars"
    )
    return draft.then(operation, lots=(lot,), current=("jars",))


def process_loads(draft: Draft) -> Draft:
    """One process and one cooling for each canner load."""
    if draft.packing is None or draft.process_time is None:
        return draft
    loads, minutes = draft.packing.loads, float(draft.process_time.minutes)
    steps: list[Operation] = []
    for number in range(1, loads + 1):
        params = {
            "load": number,
            "loads": loads,
            "minutes": draft.process_time.minutes,
            "row": draft.process_time.row.key,
        }
        steps.append(
            Operation(
                f"process-{number}",
                "process",
                Estimate(minutes, minutes, minutes),
                draft.current,
                (),
                params,
            )
        )
        steps.append(_cooling(draft, number, loads))
    return draft.then(*steps, current=draft.current)


def _cooling(draft: Draft, number: int, loads: int) -> Operation:
    rest = 60.0 * COOL_HOURS
    return Operation(
        f"cool-{number}",
        "cool",
        Estimate(rest, rest, 2 * rest),
        draft.current,
        (),
        {"load": number, "loads": loads},
    )


def _simple(kind: str, minutes: float) -> Apply:
    def apply(draft: Draft) -> Draft:
        length = Estimate(0.5 * minutes, minutes, 2 * minutes)
        operation = Operation(kind, kind, length, draft.current, (), {})
        return draft.then(operation, current=draft.current)

    return apply


APPLY: Mapping[str, Apply] = {
    "steam_juice": steam_juice,
    "heat": heat_through,
    "sterilise": sterilise,
    "fill": fill,
    "process": process_loads,
    "seal_check": _simple("seal_check", 10),
    "chill": _simple("chill", 10),
    "freeze": _simple("freeze", 10),
}
"""How each word of a method is applied to a draft."""
