"""Steps that take the water out, cold under vacuum or in warm air, and those around them."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from elderberry.core.composition import Composition
from elderberry.core.drying import air_dry, freeze_dry
from elderberry.core.drying.dried import dried, moisture
from elderberry.core.errors import CannotTell, DoesNotFit
from elderberry.core.estimates import Estimate, normal_scores
from elderberry.core.flow.draft import Draft, Gathered, laid
from elderberry.core.flow.lots import FRESH, Lot, Mix, typical_g
from elderberry.core.flow.steps import Step, about, wait_minutes
from elderberry.core.numbers import Array, Values, typical
from elderberry.core.operations.filling import into
from elderberry.core.operations.preparing import kilos
from elderberry.core.wording import figure

SLICE_MIN_PER_KG, GRIND_MIN_PER_100_G, PACK_MIN_EACH = 12.0, 3.0, 2.0
CONDITION_DAYS = 7
LIQUID = frozenset({"juice", "mash"})
"""Kinds of lot that are poured onto a tray, and can foam."""
_LEFT = 3
LEFT_SIGMA = 0.012
"""How far from what was aimed at the moisture ends that only hand and eye judge [g/g wet]."""


@dataclass(frozen=True)
class _Load:
    """What lies on the trays of a machine at once."""

    trays: int
    loads: int
    each_g: float
    mm: float
    lies: str
    portions: int = 0
    """Portions on each tray, of a divider; 0 for one sheet."""


def slice_up(draft: Draft, step: Step) -> Draft:
    """Cut fruit into slices of one thickness; ends and cores are lost."""
    fruit = draft.together(*step.takes)
    lost = float(step.chosen("loss")) / 100.0
    minutes = about(SLICE_MIN_PER_KG * kilos(fruit), 0.6, 1.6)
    return laid(
        draft, step, minutes,
        (f"{fruit.name}, sliced", fruit.mix.portion(1.0 - lost, 1.0 - lost)),
        ("Ends and cores", fruit.mix.portion(lost, lost)),
        params={"mm": f"{step.chosen('mm'):g}"}, holds=fruit.composition,
    )  # fmt: skip


def freeze_dried(draft: Draft, step: Step) -> Draft:
    """Dry on the trays of a freeze dryer, a machine load at a time, down to three in a hundred.

    Raises:
        DoesNotFit: deeper than a tray is.
    """
    there = draft.gathered(step)
    step, wet = there.step, there.whole
    lies = _lies(wet)
    machine = draft.kitchen.freeze_dryer
    mm = _thickness(step, lies) * float(step.chosen("layers"))
    if mm > machine.tray_mm:
        raise DoesNotFit(f"{mm:g} mm do not fit a tray that is {machine.tray_mm:g} mm deep")
    load = _spread(wet, lies, mm, machine.trays, machine.tray_cm2, machine.tray_kg)
    load = replace(load, portions=_portions(step))
    whole = wet.composition
    out = np.maximum(_above(whole, freeze_dry.RESIDUAL_WATER), 0.0)
    frozen = step.chosen("frozen") == "hard"
    tray = freeze_dry.Tray(wet.composition.first() * (load.each_g / typical_g(wet)), mm, frozen)
    hours = freeze_dry.hours([tray], machine.cycles)
    length = Estimate(60.0 * hours.lo, 60.0 * hours.typ, 60.0 * hours.hi)
    liquid = wet.kind in LIQUID
    told = {
        "does": freeze_dry.does(whole.first(), liquid=liquid),
        "collapse_c": freeze_dry.collapse_c(whole.first()),
        "sugar_share": tray.sugar_share,
        "frozen": frozen,
        "cycles": hours.cycles,
        "tray_water_kg": tray.water_g / 1000.0,
        "open_min": _open_min(draft),
    }
    words = f"{wet.titled('juice') if liquid else wet.name}, freeze-dried"
    return _in_loads(draft, there, load, length, out, words, told)


def air_dried(draft: Draft, step: Step) -> Draft:
    """Dry in warm air to the moisture that it keeps with, by thickness, warmth and humidity."""
    there = draft.gathered(step)
    step, wet = there.step, there.whole
    what = str(step.chosen("what"))
    machine = draft.kitchen.dryer
    lies = _lies(wet) if what == "slices" else what
    mm = _thickness(step, lies)
    load = _spread(wet, lies, mm, machine.trays, machine.tray_cm2, math.inf)
    first = moisture(wet.composition.first())
    if first <= air_dry.TARGETS[what][1]:
        raise CannotTell(f"{wet.name.lower()} is dry already: there is nothing to take out")
    aim = min(target(step), 0.98 * first)
    curve = air_dry.usual(what, mm, float(step.chosen("air_c")), float(step.chosen("humidity_pct")))
    length = air_dry.until(curve, first, what).scaled(60.0)
    whole = wet.composition
    left = np.clip(aim + LEFT_SIGMA * normal_scores(_LEFT), 0.06, 0.98)
    out = np.clip(_above(whole, left), 0.0, 0.999 * whole.water)
    told = {
        "what": what,
        "first_wet": first,
        "k": curve.k,
        "n": curve.n,
        "air_c": float(step.chosen("air_c")),
        "humidity_pct": float(step.chosen("humidity_pct")),
        "left_g": figure(load.each_g * air_dry.mass_at(aim, first), "g"),
        "dry_look": DRY_LOOK[what],
    }
    return _in_loads(draft, there, load, length, out, wet.titled(dried(lies).name), told)


DRY_LOOK = {
    "slices": "a slice that bends and does not stick; torn, no drop comes out",
    "leather": "a sheet that peels off in one piece, nothing left on the finger in the middle",
    "peel": "peel that snaps when it is cold",
    "herbs": "leaves that crumble from the stalk",
}


def target(step: Step) -> float:
    """The moisture that a step dries to [g/g wet]: as it was said, or what the shelf asks."""
    said = step.chosen("left_pct")
    if said != "usual":
        return float(said) / 100.0
    low, high = air_dry.TARGETS[str(step.chosen("what"))]
    return 0.5 * (low + min(high, air_dry.SHELF_WET))


def ground(draft: Draft, step: Step) -> Draft:
    """Grind what is dry and sieve it; what joins, such as sugar, is ground with it."""
    there = draft.gathered(step)
    dry, whole = there.main, there.whole.mix
    lost = float(step.chosen("loss")) / 100.0
    minutes = about(5.0 + GRIND_MIN_PER_100_G * 10.0 * kilos(dry))
    made = laid(
        draft, there.step, minutes,
        (dry.titled("powder"), whole.portion(1.0 - lost, 1.0 - lost)),
        ("Left in the sieve", whole.portion(lost, lost)),
        sources=there.also,
        params={"open_min": _open_min(draft)},
    )  # fmt: skip
    return _lying(made, step.gives[0], "powder")


def conditioned(draft: Draft, step: Step) -> Draft:
    """A week in a jar two thirds full, shaken every day: what is damper evens out, or shows."""
    dry = draft.together(*step.takes)
    minutes = wait_minutes(24.0 * CONDITION_DAYS)
    return laid(draft, step, minutes, (dry.name, dry.mix), params={"days": CONDITION_DAYS})


def packed(draft: Draft, step: Step) -> Draft:
    """Pack what is dry, or fruit for the freezer, into bags, boxes or jars."""
    filling = draft.fillings[step.key]
    there = draft.gathered(step)
    whole = there.whole
    frozen = filling.keep == "freeze"
    params = {**into(filling), **(FROZEN if frozen else {}), "open_min": _open_min(draft)}
    count = params["jars"]
    minutes = about(max(5.0, PACK_MIN_EACH * count), 0.7, 1.6)
    words = whole.name if frozen else f"{whole.name}, packed"
    made = laid(
        draft, there.step, minutes, (words, whole.mix), sources=there.also, params=params
    )  # fmt: skip
    return _lying(made, step.gives[0], whole.lies or FRESH, whole.portion_g)


FROZEN = {
    "fill_title": "Pack it flat for the freezer",
    "fill_look": "flat, the air pressed out, closed, a label with the day",
    "fill_words": "Dry fruit, frozen loose on a tray first where it should not stick together.",
    "then_words": "Straight into the freezer, one layer, until it is hard.",
}


def _open_min(draft: Draft) -> str:
    """How long what is dry may lie open in this kitchen, in whole minutes."""
    return f"{freeze_dry.minutes_open(draft.kitchen.humidity_pct):.0f}"


def _above(whole: Composition, wet: Values) -> Array:
    """Water over what it holds when it is dried to a moisture of wet [g/g wet], in grams."""
    solids = whole.mass_g - whole.water
    return np.asarray(whole.water - solids * wet / (1.0 - wet))


def _lies(wet: Lot) -> str:
    """How what is dried will lie: a liquid in flakes, else by its form."""
    if wet.kind in LIQUID:
        return "flakes"
    forms = {h.form or s.form for s, h in wet.origins.items() if s.fruit is not None}
    if not forms or wet.kind == "added":
        return "peel" if forms & {"peel", "zest"} else "herbs"
    return "slices" if "sliced" in forms else "whole"


def _thickness(step: Step, lies: str) -> float:
    said = step.chosen("mm")
    return dried(lies).usual_mm if said == "usual" else float(said)


def _portions(step: Step) -> int:
    said = step.chosen("portions")
    return 0 if isinstance(said, str) else round(float(said))


def _spread(wet: Lot, lies: str, mm: float, trays: int, tray_cm2: float, tray_kg: float) -> _Load:
    """A lot spread evenly over as many trays and loads as it takes."""
    grams = typical_g(wet)
    density = grams / max(typical(wet.composition.volume_ml), 1e-9)
    most_g = min(tray_cm2 * mm / 10.0 * dried(lies).covers * density, 1000.0 * tray_kg)
    needed = max(1, math.ceil(grams / most_g - 1e-9))
    loads = math.ceil(needed / trays)
    per_load = math.ceil(needed / loads)
    return _Load(per_load, loads, grams / (per_load * loads), mm, lies)


def _in_loads(
    draft: Draft, there: Gathered, load: _Load, length: Estimate, out: Values, words: str,
    told: dict[str, object],
) -> Draft:  # fmt: skip
    """One operation for each machine load, each with its even part of the lot."""
    step, wet = there.step, there.whole
    part = 1.0 / load.loads
    dry = wet.mix.without_water(out).portion(part, part)
    gone = Mix(Composition(water=out * part))
    one = load.loads == 1
    of_tray = max(load.portions, 1)
    each = f", {load.portions} portions of {figure(load.each_g / of_tray, 'g')}"
    divided = each if load.portions else ""
    portion_g = typical(dry.composition.mass_g) / (load.trays * of_tray) if divided else 0.0
    for number in range(1, load.loads + 1):
        suffix = "" if one else f"-{number}"
        this = replace(
            step, key=f"{step.key}{suffix}", gives=tuple(f"{g}{suffix}" for g in step.gives)
        )
        params = {
            **told, "trays": load.trays, "each_g": figure(load.each_g, "g"), "mm": load.mm,
            "tray_g": load.each_g, "portions": load.portions, "divided": divided,
            "lies": load.lies, "load": number, "loads": load.loads,
            "which": "" if one else f", load {number} of {load.loads}",
            "water_g": typical(out) * part,
        }  # fmt: skip
        name = words if one else f"{words}, load {number}"
        draft = laid(
            draft, this, length, (name, dry), ("Water out", gone), params=params,
            holds=wet.composition * part, sources=there.also,
        )  # fmt: skip
        draft = _of_step(_lying(draft, this.gives[0], load.lies, portion_g), step)
    return draft


def _lying(draft: Draft, key: str, lies: str, portion_g: float = 0.0) -> Draft:
    """The draft with a lot that lies dried in a way, in portions or in none."""
    lot = replace(draft.lots[key], lies=lies, portion_g=portion_g)
    return replace(draft, lots={**draft.lots, key: lot})


def _of_step(draft: Draft, step: Step) -> Draft:
    """The draft whose last operation is one load of a step."""
    *before, last = draft.operations
    return replace(draft, operations=(*before, replace(last, step=step.key)))
