"""Steps that get juice out of fruit: steam, press, cloth, weight, hot water, the jar itself."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from elderberry.core import estimates, juicing, sugar, yields
from elderberry.core.composition import Composition
from elderberry.core.errors import CannotTell, DoesNotFit
from elderberry.core.estimates import Estimate, from_draws, normal_scores
from elderberry.core.flow import draft as flow
from elderberry.core.flow.draft import Draft, Figures, Lot, Operation, Step
from elderberry.core.flow.kinds import kind
from elderberry.core.numbers import Array, Values, typical
from elderberry.core.operations.preparing import (
    evaporated,
    ingredient,
    wait_minutes,
    water_lot,
    water_of,
    water_words,
)

CONDENSATE_SPREAD = 0.25
FROZEN_YIELD = 1.05
"""Frost breaks cells: thawed fruit gives a little more [-]; an estimate."""
STEEP_HALF_H = 0.3
"""Time in which hot water draws out half of what it can [h]; an estimate."""
HELD_BY_DRIED = Estimate(3.0, 3.5, 4.5)
"""Water that dried calyces keep when drained [mL/g]."""
EARLY_JUICE, EARLY_WATER, EARLY_MINUTES = 0.6, 0.4, 0.55
"""What of a load's own juice, of its condensate and of its time the early draw takes [-]."""
PRESS_MIN_PER_KG, SQUEEZE_MIN_PER_PIECE, SQUEEZE_MIN_PER_KG = 4.0, 0.5, 5.0
STAND_MIN = 30.0
_YIELD, _CONDENSATE, _HELD = 0, 4, 7


def steam_juice(draft: Draft, step: Step) -> Draft:
    """Steam the fruit in as many basket loads as it takes; the juice of each is its own lot."""
    load, fruit, juicer = draft.load, draft.fruit, draft.kitchen.juicer
    if fruit.pack_kg_per_l is None or fruit.steam_min is None:
        raise CannotTell(f"{fruit.name} is not steam-juiced: no figures are known for it")
    whole = draft.together(*step.takes)
    kg = flow.typical_g(whole) / 1000.0
    fewest = juicing.loads(kg, fruit.pack_kg_per_l, juicer.basket_l)
    count = fewest if load.loads is None else load.loads
    if count < fewest:
        raise DoesNotFit(
            f"{kg:g} kg do not fit a basket of {juicer.basket_l:g} l in "
            f"{count} {'load' if count == 1 else 'loads'}: it takes {fewest}"
        )
    basket, fruit_key = _Basket.of(draft, step, whole, count), draft.named(*step.takes)[0].key
    loads = [basket.load(draft, step, number, fruit_key) for number in range(1, count + 1)]
    return draft.then(
        *(operation for operations, _ in loads for operation in operations),
        lots=tuple(lot for _, lots in loads for lot in lots),
    )


@dataclass(frozen=True)
class _Basket:
    """What one of equal basket loads gives, computed once for all of them."""

    count: int
    minutes: float
    boil_off_kg_h: float
    steam: Figures
    draws: tuple[tuple[Figures, Figures], ...]
    """Juice of each draw, and what is left in the basket after it."""
    fruit_g: Values
    learned: dict[str, float]

    @classmethod
    def of(cls, draft: Draft, step: Step, whole: Lot, count: int) -> _Basket:
        boil_off = draft.kitchen.juicer.boil_off_kg_h * step.effect("evaporated", 1.0)
        minutes = (draft.fruit.steam_min or 0.0) * step.effect("minutes", 1.0)
        lifts = round(step.effect("lifts_sum", 0.0))
        fruit_g = whole.fruit_g / count
        steam, own, water = _steamed(draft, step, fruit_g, boil_off * minutes / 60.0, lifts)
        taken_up = Composition(water=steam)
        left = whole.composition * (1.0 / count) + taken_up
        shares = (
            ((EARLY_JUICE, EARLY_WATER), (1 - EARLY_JUICE, 1 - EARLY_WATER))
            if step.chosen("draws") == "twice"
            else ((1.0, 1.0),)
        )
        pulp = _pulp_pct(step)
        draws = []
        for of_own, of_water_ in shares:
            joins = water * of_water_
            cloud = pulp / 100.0 * (own.mass_g * of_own + joins)
            juice = own * of_own + Composition(water=joins, insoluble=cloud)
            left = left - juice
            draws.append((Figures(juice, draft.load.evidence), Figures(left, draft.load.evidence)))
        learned = learned_from(step, fruit_g)
        return cls(count, minutes, boil_off, Figures(taken_up), tuple(draws), fruit_g, learned)

    def load(
        self, draft: Draft, step: Step, number: int, fruit_key: str
    ) -> tuple[list[Operation], list[Lot]]:
        """The draws of one load of the basket, and the lots that they take and give."""
        juice_name, pomace_name = step.gives
        steam = Lot(f"steam-{number}", "steam", "Steam taken up", self.steam)
        takes: tuple[str, ...] = (fruit_key, steam.key)
        operations, lots, late = list[Operation](), [steam], ""
        for turn, (juice, left) in enumerate(self.draws):
            last = turn == len(self.draws) - 1
            rest_key = f"{pomace_name}-{number}" if last else f"basket-{number}"
            rest = Lot(rest_key, "pomace" if last else "fruit",
                       "Pomace" if last else "Half-steamed fruit", left, self.fruit_g)  # fmt: skip
            got = Lot(f"{juice_name}-{number}{late}", "juice",
                      _juice_name(draft, self.count, number, len(self.draws), late), juice,
                      self.fruit_g)  # fmt: skip
            kind = "steam_on" if late else "steam_juice"
            key = step.key if not late else f"{step.key}_on"
            operations.append(Operation(
                f"{key}-{number}", kind, self._length(turn), takes, (got.key, rest.key),
                self._figures(draft, number, late), step.key, got.figures.volume_ml.scaled(0.001),
            ))  # fmt: skip
            lots += [got, rest]
            takes, late = (rest.key,), "-late"
        return operations, lots

    def _length(self, turn: int) -> Estimate:
        part = 1.0 if len(self.draws) == 1 else EARLY_MINUTES if turn == 0 else 1 - EARLY_MINUTES
        return Estimate(0.85 * self.minutes, self.minutes, 1.3 * self.minutes).scaled(part)

    def _figures(self, draft: Draft, number: int, late: str) -> dict[str, object]:
        pan_l = draft.kitchen.juicer.pan_l
        return {
            "load": number,
            "loads": self.count,
            "fruit": draft.fruit.name.lower(),
            "fruit_kg": f"{typical(self.fruit_g) / 1000.0:.1f}",
            "steam_look": draft.fruit.steam_look,
            "pan_dry_min": juicing.minutes_to_dry(pan_l, self.boil_off_kg_h),
            "boil_off_kg_h": self.boil_off_kg_h,
            "pan_l": pan_l,
            **(self.learned | ({"yield_fruit_g": 0.0} if late else {})),
        }


def _juice_name(draft: Draft, count: int, number: int, draws: int, late: str) -> str:
    name = f"{draft.fruit.name} juice"
    if draws > 1:
        name += ", late" if late else ", early"
    return name if count == 1 else f"{name}, load {number}"


def _steamed(
    draft: Draft, step: Step, fruit_g: Values, boil_off_kg: float, lifts: int
) -> tuple[Array, Composition, Array]:
    """Condensate [g], own juice and the water in it [g] of a basket: the yield counts both."""
    kitchen, own = draft.kitchen, draft.own
    kg = typical(fruit_g) / 1000.0
    expected = 1000 * juicing.condensate_kg(
        kg, kitchen.boiling_point_c, draft.load.fruit_c, boil_off_kg, lifts
    )
    spread = np.clip(1.0 + CONDENSATE_SPREAD / estimates.Z90 * normal_scores(_CONDENSATE), 0.3, 2)
    steam = expected * spread
    drawn_ml = net_ml(draft, step, fruit_g)
    water = np.minimum(juicing.KETTLE_SHARE * steam, 0.6 * drawn_ml)
    own_g = (drawn_ml - water / sugar.WATER_20C_KG_M3 * 1000) / own.volume_ml
    own_g = np.minimum(own_g, 0.97 * (1 - flow.INSOLUBLE_SHARE) * 1000 * kg)
    return steam, own * own_g, water


def net_ml(draft: Draft, step: Step, fruit_g: Values) -> Array:
    """Juice that prepared fruit gives by this step's way, net of water that was added [mL]."""
    way = kind(step.kind).way
    forecast = draft.forecasts.get(way)
    expected = forecast.estimate() if forecast else yields.prior(way, draft.fruit)
    if expected is None:
        raise CannotTell(f"{draft.fruit.name} is not juiced this way: nothing is known of it")
    factor = step.effect("yield", 1.0) * (FROZEN_YIELD if draft.load.form == "frozen" else 1.0)
    return np.asarray(fruit_g * expected.draws(normal_scores(_YIELD)) * factor, dtype=np.float64)


def _taken(
    draft: Draft, step: Step, whole: Lot, volume_ml: Values, minutes: Estimate, name: str,
    water_ml: Values, **params: object,
) -> Draft:  # fmt: skip
    """Draw juice off a lot; what is not juice is its pomace."""
    juice = flow.drawn(whole.composition, volume_ml, _pulp_pct(step))
    rest = whole.composition - juice
    bowl = litres_to_say(juice)
    return flow.laid(
        draft, step, minutes, (name, juice), (f"{draft.fruit.name} pomace", rest),
        params={"bowl_l": bowl, **learned_from(step, whole.fruit_g, water_ml), **params},
    )  # fmt: skip


def _pulp_pct(step: Step) -> float:
    """Undissolved matter in the juice that a step gives [g/100 g]."""
    return kind(step.kind).pulp_pct * step.effect("pulp", 1.0)


def litres_to_say(composition: Composition) -> str:
    """Litres that a vessel has to hold in nine cases of ten, rounded up to the half."""
    return f"{math.ceil(2 * flow.litres(composition).hi * 1.1) / 2:g}"


def learned_from(step: Step, fruit_g: Values, water_ml: Values = 0.0) -> dict[str, float]:
    """What a yield is reckoned from once the litres are read: fruit [g], water [mL], choices."""
    return {
        "yield_fruit_g": typical(fruit_g),
        "yield_water_ml": typical(water_ml),
        "yield_factor": step.effect("yield", 1.0),
    }


def press(draft: Draft, step: Step) -> Draft:
    """Cold press mash or soft fruit."""
    whole = draft.together(*step.takes)
    minutes = PRESS_MIN_PER_KG * flow.typical_g(whole) / 1000.0 * step.effect("minutes", 1.0)
    volume = net_ml(draft, step, whole.fruit_g) + whole.water_g
    name = f"{draft.fruit.name} juice"
    return _taken(draft, step, whole, volume, flow.about(minutes), name, whole.water_g)


def squeeze(draft: Draft, step: Step) -> Draft:
    """Squeeze citrus by hand: counted fruit is timed by the piece."""
    whole = draft.together(*step.takes)
    kg, piece = flow.typical_g(whole) / 1000.0, draft.fruit.piece_g
    pieces = round(1000.0 * kg / piece) if piece else 0
    minutes = SQUEEZE_MIN_PER_PIECE * pieces if pieces else SQUEEZE_MIN_PER_KG * kg
    words = f", about {pieces} pieces" if pieces else ""
    volume = net_ml(draft, step, whole.fruit_g) + whole.water_g
    return _taken(
        draft, step, whole, volume, flow.about(max(3.0, minutes)), f"{draft.fruit.name} juice",
        whole.water_g, pieces_words=words,
    )  # fmt: skip


def drain(draft: Draft, step: Step) -> Draft:
    """Let mash or pulp drain in a cloth, by its weight or under one: a curve that flattens."""
    whole = draft.together(*step.takes)
    hours = float(step.chosen("hours"))
    usual = float(kind(step.kind).numbers[0].default)
    tau = juicing.CRUSHED_TAU_H if step.kind == "drain_cold" else juicing.FINE_PULP_TAU_H
    reached = juicing.drained_share(hours, tau) / juicing.drained_share(usual, tau)
    volume = net_ml(draft, step, whole.fruit_g) * reached + whole.water_g
    kg = flow.typical_g(whole) / 1000.0
    return _taken(
        draft, step, whole, np.maximum(volume, 0.0), wait_minutes(hours),
        f"{draft.fruit.name} juice", whole.water_g, weight_kg=f"{max(1.0, kg / 2):.0f}",
    )  # fmt: skip


def press_again(draft: Draft, step: Step) -> Draft:
    """Stir water into pomace and press it once more: one equilibrium stage."""
    pomace = draft.together(*step.takes)
    ratio = float(step.chosen("water"))
    first = _first_juice_ml(draft, step)
    grams = ratio * (first if first is not None else 1.0 * np.asarray(pomace.composition.mass_g))
    water = water_of(draft, step, grams)
    whole = pomace.composition + water.composition
    juice = flow.drawn(whole, np.asarray(water.composition.volume_ml), _pulp_pct(step))
    kg = flow.typical_g(pomace) / 1000.0
    minutes = flow.about(STAND_MIN + PRESS_MIN_PER_KG * kg)
    figures = {**water_words(water), "stand_min": f"{STAND_MIN:.0f}"}
    spent = ("Spent pomace", whole - juice)
    return flow.laid(
        draft, step, minutes, ("Second pressing", juice), spent,
        sources=(water,), params=figures, holds=whole,
    )  # fmt: skip


def _first_juice_ml(draft: Draft, step: Step) -> Array | None:
    """The juice that left the pomace behind [mL], or None where another batch drew it."""
    pomace = {lot.key for lot in draft.named(*step.takes)}
    keys = {k for o in draft.operations if pomace & set(o.gives) for k in o.gives}
    juices = [draft.lots[k] for k in keys if draft.lots[k].kind == "juice"]
    if not juices:
        return None
    return sum((np.asarray(j.composition.volume_ml) for j in juices), start=np.asarray(0.0))


def steep(draft: Draft, step: Step) -> Draft:
    """Draw fruit, hips, calyces or spices out with hot water, then strain them off."""
    fruit = draft.together(*step.takes)
    water = water_lot(draft, step, fruit)
    kg = flow.typical_g(fruit) / 1000.0
    spices = {k: kg * float(step.chosen(k)) for k in ("spice_whole", "herb_fresh")}
    also = tuple(
        ingredient(step, key, _SPICE_NAME[key], grams) for key, grams in spices.items() if grams > 0
    )
    whole = fruit.composition + water.composition
    whole = sum((lot.composition for lot in also), start=whole)
    hours = float(step.chosen("hours")) * step.effect("minutes", 1.0)
    vapour = evaporated(draft, whole, 60.0 * hours * (step.effect("evaporated", 1.0) - 1.0) / 8.0)
    reach = hours / (hours + STEEP_HALF_H * step.effect("minutes", 1.0))
    free, locked = _drawn_out(whole.without_water(vapour), reach)
    volume = _steeped_ml(draft, step, fruit, water) - vapour
    juice = flow.drawn(free, np.maximum(volume, 0.0), _pulp_pct(step))
    rest = free - juice + locked + Composition(water=vapour)
    words = "".join(f", {s.mass_g.typ:.0f} g of {s.name.lower()}" for s in also)
    figures = {
        **water_words(water),
        **learned_from(step, fruit.fruit_g, water.water_g - vapour),
        "water_words": _poured(water),
        "also_words": words,
    }
    return flow.laid(
        draft, step, wait_minutes(hours), (f"{draft.fruit.name} infusion", juice),
        ("Strained out", rest), sources=(water, *also),
        params=figures, holds=whole,
    )  # fmt: skip


_SPICE_NAME = {"spice_whole": "Whole spice", "herb_fresh": "Fresh herb"}


def _poured(water: Lot) -> str:
    words = str(water_words(water)["water_words"])
    return words[0].upper() + words[1:]


def _drawn_out(whole: Composition, reach: float) -> tuple[Composition, Composition]:
    """What hot water has reached of the soluble solids, and what stays locked in the pieces."""
    held = 1.0 - reach
    names = ("sucrose", "glucose", "fructose", "other_soluble", "citric", "malic", "tartaric",
             "ascorbic", "gluconic", "succinic", "acetic", "strong_base_mol")  # fmt: skip
    locked = Composition(**{n: getattr(whole, n) * held for n in names})
    parts = {n: getattr(whole, n) * reach for n in names}
    return replace(whole, **parts), locked


def _steeped_ml(draft: Draft, step: Step, fruit: Lot, water: Lot) -> Array:
    """Liquor that drains off [mL]: dried pieces keep water, fresh ones give some of their own."""
    if draft.load.form == "dried":
        kept = HELD_BY_DRIED.draws(normal_scores(_HELD)) * np.asarray(fruit.fruit_g)
        return np.asarray(np.maximum(water.water_g - kept, 0.2 * np.asarray(water.water_g)))
    if np.all(np.asarray(fruit.fruit_g) == 0):
        return np.asarray(water.water_g, dtype=np.float64)
    return net_ml(draft, step, fruit.fruit_g) + water.water_g


def infuse(draft: Draft, step: Step) -> Draft:
    """Whole fruit, sugar and boiling water in the jar: a litre of jar is the measure."""
    fruit = draft.together(*step.takes)
    per_l, sugar_per_l = float(step.chosen("fruit")), float(step.chosen("sugar"))
    jar_l = np.asarray(fruit.composition.mass_g) / per_l
    sweet = ingredient(step, "sugar_white", "Sugar", sugar_per_l * jar_l)
    dry = fruit.composition + sweet.composition
    room = np.maximum(1000.0 * jar_l - dry.volume_ml, 0.0)
    water_g = room * sugar.WATER_20C_KG_M3 / 1000.0
    water = water_of(draft, step, water_g, "Boiling water")
    litres = from_draws(water_g / sugar.WATER_20C_KG_M3)
    figures = {
        "fruit_g": f"{per_l:.0f}",
        "sugar_g": f"{sugar_per_l:.0f}",
        "water_l": f"{litres.typ:.1f}",
    }
    sources = (sweet, water) if sugar_per_l > 0 else (water,)
    return flow.laid(
        draft, step, flow.about(15.0 + 2.0 * typical(jar_l)),
        (f"{draft.fruit.name} in the jar", dry + water.composition),
        sources=sources, params=figures, holds=water.composition,
    )  # fmt: skip
