"""Steps that get juice out of fruit: steam, press, cloth, weight, hot water, the jar itself."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from elderberry.core import estimates, juicing, materials, sugar, yields
from elderberry.core.composition import Composition
from elderberry.core.errors import CannotTell, DoesNotFit
from elderberry.core.estimates import Estimate, normal_scores
from elderberry.core.flow.draft import DRAINED_KEEPS, SQUEEZED_KEEPS, Draft, drawn, laid
from elderberry.core.flow.kinds import kind
from elderberry.core.flow.lots import Figures, Held, Lot, Mix, Source, litres
from elderberry.core.flow.steps import Operation, Step, about, wait_minutes
from elderberry.core.numbers import Array, Values, typical
from elderberry.core.operations.preparing import (
    Pot,
    evaporated,
    ingredient,
    kilos,
    plainly,
    sweetened,
    water_of,
    water_words,
)

CONDENSATE_SPREAD = 0.25
STEEP_HALF_H = 0.3
"""Time in which hot water draws out half of what it can [h]; an estimate."""
HELD_BY_DRIED = Estimate(3.0, 3.5, 4.5)
"""Water that dried calyces keep when drained [mL/g]."""
EARLY_JUICE, EARLY_WATER, EARLY_MINUTES = 0.6, 0.4, 0.55
"""What of a load's own juice, of its condensate and of its time the early draw takes [-]."""
PRESS_MIN_PER_KG, SQUEEZE_MIN_PER_PIECE, SQUEEZE_MIN_PER_KG = 4.0, 0.5, 5.0
STAND_MIN = 30.0
_YIELD, _CONDENSATE, _HELD = 0, 4, 7
G_PER_ML = sugar.WATER_20C_KG_M3 / 1000.0


def steam_juice(draft: Draft, step: Step) -> Draft:
    """Steam the fruit in as many basket loads as it takes; the juice of each is its own lot."""
    juicer = draft.kitchen.juicer
    whole = draft.together(*step.takes)
    fruit = _steamed_fruit(whole)
    kg = kilos(whole)
    fewest = juicing.loads(kg, fruit.pack_kg_per_l or 1.0, juicer.basket_l)
    count = fewest if draft.brief.loads is None else draft.brief.loads
    if count < fewest:
        raise DoesNotFit(
            f"{kg:g} kg do not fit a basket of {juicer.basket_l:g} l in "
            f"{count} {'load' if count == 1 else 'loads'}: it takes {fewest}"
        )
    basket = _Basket.of(draft, step, whole, fruit, count)
    keys = tuple(lot.key for lot in draft.named(*step.takes))
    loads = [basket.load(draft, step, number, keys) for number in range(1, count + 1)]
    return draft.then(
        *(operation for operations, _ in loads for operation in operations),
        lots=tuple(lot for _, lots in loads for lot in lots),
    )


def _steamed_fruit(whole: Lot) -> materials.Fruit:
    """The fruit whose figures a basket goes by: the one that takes longest.

    Raises:
        CannotTell: there is no fruit in it, or one that is not steam-juiced.
    """
    for fruit in whole.fruits:
        if fruit.pack_kg_per_l is None or fruit.steam_min is None:
            raise CannotTell(f"{fruit.name} is not steam-juiced: no figures are known for it")
    if not whole.fruits:
        raise CannotTell("there is no fruit to steam")
    return max(whole.fruits, key=lambda f: f.steam_min or 0.0)


@dataclass(frozen=True)
class _Basket:
    """What one of equal basket loads gives, computed once for all of them."""

    count: int
    whole: Lot
    fruit: materials.Fruit
    minutes: float
    boil_off_kg_h: float
    steam: Values
    draws: tuple[tuple[Mix, Figures, Mix, Figures], ...]
    """Juice of each draw, and what is left in the basket after it, with their figures."""
    source: Source
    learned: dict[str, object]

    @classmethod
    def of(
        cls, draft: Draft, step: Step, whole: Lot, fruit: materials.Fruit, count: int
    ) -> _Basket:
        boil_off = draft.kitchen.juicer.boil_off_kg_h * step.effect("evaporated", 1.0)
        pace = draft.kitchen.pace("steam")
        minutes = (fruit.steam_min or 0.0) * step.effect("minutes", 1.0) * pace
        lifts = round(step.effect("lifts_sum", 0.0))
        steam = _condensate(draft, whole, count, boil_off * minutes / 60.0, lifts)
        source = Source(f"steam_{step.key}", "water", "steam", Composition(water=steam))
        basket = whole.mix.portion(1.0 / count, 1.0 / count)
        own_g, water = _runs(draft, step, whole, count, steam)
        evidence = whole.figures.evidence
        left = basket + Mix.of(source)
        draws = []
        for of_own, of_water in _shares(step):
            juice = _draw(step, basket, source, own_g * of_own, water * of_water)
            left = left.less(juice)
            draws.append(
                (juice.as_form("juice"), Figures(juice.composition, evidence), left,
                 Figures(left.composition, evidence))
            )  # fmt: skip
        learned = learned_from(step, whole, 1.0 / count)
        return cls(count, whole, fruit, minutes, boil_off, steam, tuple(draws), source, learned)

    def load(
        self, draft: Draft, step: Step, number: int, keys: tuple[str, ...]
    ) -> tuple[list[Operation], list[Lot]]:
        """The draws of one load of the basket, and the lots that they take and give."""
        juice_name, pomace_name = step.gives
        steam = Lot(f"steam-{number}", "steam", "Steam taken up",
                    Figures(self.source.composition), Mix.of(self.source).origins)  # fmt: skip
        what = kind(step.kind)
        acidity = self.whole.acidity
        takes: tuple[str, ...] = (*keys, steam.key)
        operations, lots, late = list[Operation](), [steam], ""
        for turn, (juice, figures, left, left_figures) in enumerate(self.draws):
            last = turn == len(self.draws) - 1
            rest_key = f"{pomace_name}-{number}" if last else f"basket-{number}"
            rest = Lot(
                rest_key, "pomace" if last else "fruit",
                "Pomace" if last else "Half-steamed fruit", left_figures, left.origins,
                self.whole.gives, what.leaves_c or 80.0, acidity,
            )  # fmt: skip
            got = Lot(
                f"{juice_name}-{number}{late}", "juice",
                self._juice_name(number, late), figures, juice.origins, self.whole.gives,
                what.leaves_c or 80.0, acidity,
            )  # fmt: skip
            key = step.key if not late else f"{step.key}_on"
            operations.append(Operation(
                f"{key}-{number}", what.becomes if late else step.kind, self._length(turn), takes,
                (got.key, rest.key), self._figures(draft, number, late), step.key,
                got.figures.volume_ml.scaled(0.001),
            ))  # fmt: skip
            lots += [got, rest]
            takes, late = (rest.key,), "-late"
        return operations, lots

    def _length(self, turn: int) -> Estimate:
        part = 1.0 if len(self.draws) == 1 else EARLY_MINUTES if turn == 0 else 1 - EARLY_MINUTES
        return Estimate(0.85 * self.minutes, self.minutes, 1.3 * self.minutes).scaled(part)

    def _juice_name(self, number: int, late: str) -> str:
        name = self.whole.titled("juice")
        if len(self.draws) > 1:
            name += ", late" if late else ", early"
        return name if self.count == 1 else f"{name}, load {number}"

    def _figures(self, draft: Draft, number: int, late: str) -> dict[str, object]:
        pan_l = draft.kitchen.juicer.pan_l
        return {
            "load": number,
            "loads": self.count,
            "fruit": self.whole.fruit_words,
            "fruit_kg": f"{kilos(self.whole) / self.count:.3f}",
            "steam_look": self.fruit.steam_look,
            "pan_dry_min": juicing.minutes_to_dry(pan_l, self.boil_off_kg_h),
            "boil_off_kg_h": self.boil_off_kg_h,
            "pan_l": pan_l,
            "pace": draft.kitchen.pace("steam"),
            **(self.learned | ({"yield_fruit_g": 0.0} if late else {})),
        }


def _shares(step: Step) -> tuple[tuple[float, float], ...]:
    """Shares of a basket's own juice and of its condensate that each of its draws takes."""
    if step.chosen("draws") == "twice":
        return ((EARLY_JUICE, EARLY_WATER), (1 - EARLY_JUICE, 1 - EARLY_WATER))
    return ((1.0, 1.0),)


def _condensate(draft: Draft, whole: Lot, count: int, boil_off_kg: float, lifts: int) -> Array:
    """Steam that turns to water in one basket [g]."""
    expected = 1000 * juicing.condensate_kg(
        kilos(whole) / count, draft.kitchen.boiling_point_c, min(whole.temp_c, 60.0), boil_off_kg,
        lifts,
    )  # fmt: skip
    spread = np.clip(1.0 + CONDENSATE_SPREAD / estimates.Z90 * normal_scores(_CONDENSATE), 0.3, 2)
    return np.asarray(expected * spread, dtype=np.float64)


def _runs(draft: Draft, step: Step, whole: Lot, count: int, steam: Values) -> tuple[Values, Values]:
    """Own juice that runs from one basket, and the condensate in it [g]: the yield counts both."""
    liquid = whole.composition.portion(1.0, 1.0, 0.0)
    drawn_ml = net_ml(draft, step, whole) / count
    water = np.minimum(juicing.KETTLE_SHARE * steam, 0.6 * drawn_ml)
    own_g = (drawn_ml - water / sugar.WATER_20C_KG_M3 * 1000) * liquid.mass_g / liquid.volume_ml
    return np.minimum(own_g, 0.97 * liquid.mass_g / count), water


def _draw(step: Step, basket: Mix, source: Source, own_g: Values, water: Values) -> Mix:
    """One draw of a basket: so much of its liquid and of the steam, with the pulp it carries."""
    whole = basket.composition
    liquid = np.maximum(whole.mass_g - whole.insoluble, 1e-9)
    solids = np.maximum(np.asarray(whole.insoluble), 1e-12)
    cloud = np.minimum(_pulp_pct(step) / 100.0 * (own_g + water), 0.5 * solids)
    own = basket.portion(own_g / liquid, cloud / solids)
    part = water / np.maximum(source.composition.water, 1e-12)
    steamed = Mix(Composition(water=water), {source: Held(part, part, 0.0)})
    return own + steamed


def net_ml(draft: Draft, step: Step, whole: Lot) -> Array:
    """Juice that the fruit in a lot gives by this step's way, without what was added to it [mL].

    Raises:
        CannotTell: one of its fruits is not juiced so.
    """
    way = kind(step.kind).way
    factor = step.effect("yield", 1.0)
    total: Array = np.zeros(1)
    for source, prepared in whole.pieces_g().items():
        fruit = source.fruit
        assert fruit is not None  # pieces are of fruit
        forecast = draft.forecasts.get((fruit.key, way))
        expected = forecast.estimate() if forecast else yields.prior(way, fruit)
        if expected is None:
            raise CannotTell(f"{fruit.name} is not juiced this way: nothing is known of it")
        total = total + prepared * expected.draws(normal_scores(_YIELD)) * factor
    return np.asarray(total, dtype=np.float64)


def joined_ml(whole: Lot) -> Values:
    """What is in a lot beside pieces of fruit: water, juice, sugar and what they hold [mL]."""
    others = [s for s in whole.origins if not s.pieces and s.form != "pomace"]
    if not others:
        return 0.0
    parts = sum((whole.mix.part(s) for s in others), start=Composition())
    if typical(parts.mass_g) <= 0:
        return 0.0
    volume: Values = parts.portion(1.0, 1.0, 0.0).volume_ml
    return volume


def _taken(
    draft: Draft, step: Step, whole: Lot, volume_ml: Values, minutes: Estimate,
    keeps: float = DRAINED_KEEPS, **params: object,
) -> Draft:  # fmt: skip
    """Draw juice off a lot; what is not juice is its pomace."""
    juice = drawn(whole.mix, volume_ml, _pulp_pct(step), keeps)
    rest = whole.mix.less(juice)
    bowl = litres_to_say(juice.composition)
    return laid(
        draft, step, minutes, (whole.titled("juice"), juice),
        (whole.titled("pomace"), rest),
        params={"bowl_l": bowl, **learned_from(step, whole), **params},
    )  # fmt: skip


def _pulp_pct(step: Step) -> float:
    """Undissolved matter in the juice that a step gives [g/100 g]."""
    return kind(step.kind).pulp_pct * step.effect("pulp", 1.0)


def litres_to_say(composition: Composition) -> str:
    """Litres that a vessel has to hold in nine cases of ten, rounded up to the half."""
    return f"{math.ceil(2 * litres(composition).hi * 1.1) / 2:g}"


def learned_from(step: Step, whole: Lot, share: float = 1.0) -> dict[str, object]:
    """What a yield is reckoned from once the litres are read: the fruit, and what was added.

    A mix of fruits teaches nothing about one of them.
    """
    pieces = whole.pieces_g()
    of_fruit = {s.material for s in pieces}
    grams = sum(typical(g) for g in pieces.values())
    return {
        "yield_fruit": next(iter(of_fruit)) if len(of_fruit) == 1 else "",
        "yield_fruit_g": share * grams,
        "yield_water_ml": share * typical(joined_ml(whole)),
        "yield_factor": step.effect("yield", 1.0),
    }


def press(draft: Draft, step: Step) -> Draft:
    """Cold press mash or soft fruit."""
    whole = draft.together(*step.takes)
    minutes = PRESS_MIN_PER_KG * kilos(whole) * step.effect("minutes", 1.0)
    volume = net_ml(draft, step, whole) + joined_ml(whole)
    return _taken(draft, step, whole, volume, about(minutes), SQUEEZED_KEEPS)


def squeeze(draft: Draft, step: Step) -> Draft:
    """Squeeze citrus by hand: counted fruit is timed by the piece."""
    whole = draft.together(*step.takes)
    kg = kilos(whole)
    piece = whole.fruits[0].piece_g if whole.fruits else None
    pieces = round(1000.0 * kg / piece) if piece else 0
    minutes = SQUEEZE_MIN_PER_PIECE * pieces if pieces else SQUEEZE_MIN_PER_KG * kg
    words = f", about {pieces} pieces" if pieces else ""
    volume = net_ml(draft, step, whole) + joined_ml(whole)
    return _taken(
        draft, step, whole, volume, about(max(3.0, minutes)), SQUEEZED_KEEPS, pieces_words=words
    )


def drain(draft: Draft, step: Step) -> Draft:
    """Let mash or pulp drain in a cloth, by its weight or under one: a curve that flattens.

    Squeezing gives its share within minutes, whatever the curve says.
    """
    whole = draft.together(*step.takes)
    hours = float(step.chosen("hours"))
    what = kind(step.kind)
    usual = float(what.numbers[0].default)
    reached = juicing.drained_share(hours, what.tau_h) / juicing.drained_share(usual, what.tau_h)
    squeezed = step.chosen("squeeze") == "squeeze"
    net = net_ml(draft, step, whole) * (max(1.0, reached) if squeezed else reached)
    volume = np.maximum(net + joined_ml(whole), 0.0)
    return _taken(
        draft, step, whole, volume, wait_minutes(hours),
        SQUEEZED_KEEPS if squeezed else DRAINED_KEEPS,
        weight_kg=f"{max(1.0, kilos(whole) / 2):.0f}", **_where(step),
    )  # fmt: skip


def press_again(draft: Draft, step: Step) -> Draft:
    """Stir water into pomace and press it once more: one equilibrium stage."""
    pomace = draft.together(*step.takes)
    ratio = float(step.chosen("water"))
    first = _first_juice_ml(draft, step)
    grams = ratio * (first if first is not None else 1.0 * np.asarray(pomace.composition.mass_g))
    water = water_of(draft, f"water_{step.key}", grams)
    whole = pomace.mix + water.mix
    juice = drawn(whole, np.asarray(water.composition.volume_ml), _pulp_pct(step), SQUEEZED_KEEPS)
    minutes = about(STAND_MIN + PRESS_MIN_PER_KG * kilos(pomace))
    figures = {**water_words(water), "stand_min": f"{STAND_MIN:.0f}"}
    spent = ("Spent pomace", whole.less(juice))
    return laid(
        draft, step, minutes, ("Second pressing", juice), spent,
        sources=(water,), params=figures, holds=whole.composition,
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
    pot = Pot.of(draft, step)
    fruit, water = pot.fruit, pot.water
    spices = {k: kilos(fruit) * float(step.chosen(k)) for k in ("spice_whole", "herb_fresh")}
    own = tuple(
        ingredient(step, key, _SPICE_NAME[key], grams) for key, grams in spices.items() if grams > 0
    )
    also = (*pot.also, *own)
    whole = sum((lot.mix for lot in own), start=pot.whole)
    hours = float(step.chosen("hours")) * step.effect("minutes", 1.0)
    hot_min = 60.0 * hours * (step.effect("evaporated", 1.0) - 1.0)
    vapour = evaporated(draft, whole.composition, hot_min / 8.0)
    reach = hours / (hours + STEEP_HALF_H * step.effect("minutes", 1.0))
    steeped = whole.without_water(vapour)
    free = steeped.portion(1.0, 1.0, reach)
    volume = _steeped_ml(draft, step, fruit, water, vapour)
    juice = drawn(free, np.maximum(volume, 0.0), _pulp_pct(step))
    rest = steeped.less(juice)
    words = "".join(f", {plainly(s)}" for s in also)
    figures = {
        **water_words(water),
        **learned_from(step, fruit),
        "yield_water_ml": typical(water.composition.volume_ml) - typical(vapour),
        "water_words": _poured(water),
        "also_words": words,
        **_where(step),
    }
    steam = Composition(water=vapour)
    spent = Mix(rest.composition + steam, rest.origins)
    return laid(
        draft, pot.step, wait_minutes(hours), (fruit.titled("infusion"), juice),
        ("Strained out", spent), sources=(water, *also),
        params=figures, holds=whole.composition,
    )  # fmt: skip


_SPICE_NAME = {"spice_whole": "Whole spice", "herb_fresh": "Fresh herb"}


def _where(step: Step) -> dict[str, str]:
    """Where it stands meanwhile, for a step that lets one choose."""
    there = "stands" in kind(step.kind).options
    return {"stands": str(step.chosen("stands"))} if there else {}


def _poured(water: Lot) -> str:
    words = str(water_words(water)["water_words"])
    return words[0].upper() + words[1:]


def _steeped_ml(draft: Draft, step: Step, fruit: Lot, water: Lot, vapour: Values) -> Values:
    """Liquor that drains off [mL]: dried pieces keep water, fresh ones give some of their own."""
    grams = np.asarray(water.composition.water, dtype=np.float64)
    dried = sum(
        (np.asarray(s.composition.mass_g * h.solid) for s, h in fruit.origins.items()
         if s.form == "dried"), start=np.zeros(1),
    )  # fmt: skip
    fresh = _fresh(fruit)
    own: Values = net_ml(draft, step, fresh) if fresh.pieces_g() else 0.0
    kept = HELD_BY_DRIED.draws(normal_scores(_HELD)) * dried if np.any(dried > 0) else 0.0
    liquor = np.maximum(grams - kept, 0.2 * grams) + own + joined_ml(fruit)
    return np.asarray(liquor - vapour)


def _fresh(fruit: Lot) -> Lot:
    """A lot with only its fruit that gives juice of its own."""
    return replace(fruit, origins={s: h for s, h in fruit.origins.items() if s.form != "dried"})


def infuse(draft: Draft, step: Step) -> Draft:
    """Whole fruit, sugar and boiling water in the jar: a litre of jar is the measure.

    What was said of sugar and water goes before what the step itself adds.
    """
    inner, joins = draft.parted(step)
    fruit = draft.together(*inner.takes)
    said = draft.joining(joins, fruit)
    waters = tuple(x for x in said if x.kind == "water")
    own_sugar_l = 0.0 if sweetened(said) else float(step.chosen("sugar"))
    there = sum((x.mix for x in said), start=fruit.mix)
    if waters:
        of_sugar = ingredient(step, "sugar_white", "Sugar", own_sugar_l).composition.volume_ml
        jar_l = there.composition.volume_ml / (1000.0 - of_sugar)
    else:
        jar_l = np.asarray(fruit.composition.mass_g) / float(step.chosen("fruit"))
    sweet = ingredient(step, "sugar_white", "Sugar", own_sugar_l * jar_l)
    own = [sweet] if own_sugar_l else []
    if not waters:
        room = np.maximum(1000.0 * jar_l - (there + sweet.mix).composition.volume_ml, 0.0)
        waters = (water_of(draft, f"water_{step.key}", room * G_PER_ML, "Boiling water"),)
        own += waters
    boiling = sum((x.composition for x in waters), start=Composition())
    sources = (*said, *own)
    grams = sum(typical(x.composition.sugars_g) for x in sources)
    figures = {
        "fruit_g": f"{typical(fruit.composition.mass_g) / typical(jar_l):.0f}",
        "sugar_g": f"{grams / typical(jar_l):.0f}",
        "water_l": f"{typical(boiling.water) / G_PER_ML / 1000.0:.3f}",
    }
    return laid(
        draft, inner, about(15.0 + 2.0 * typical(jar_l)),
        (fruit.titled("in the jar"), sum((x.mix for x in own), start=there)),
        sources=sources, params=figures, holds=boiling,
    )  # fmt: skip
