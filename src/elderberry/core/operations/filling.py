"""Steps from juice to finished jars: heat, clean jars, filling, the canner, the cold."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

from elderberry.core import heat, jars
from elderberry.core.errors import CoreError
from elderberry.core.estimates import Estimate
from elderberry.core.flow.draft import Draft, Filling, laid
from elderberry.core.flow.kinds import kind, of_role
from elderberry.core.flow.lots import Lot
from elderberry.core.flow.steps import Operation, Step, about
from elderberry.core.kitchen import NEAR_BOIL_C
from elderberry.core.numbers import typical
from elderberry.core.operations.preparing import weighed
from elderberry.core.wording import figure

FILL_MIN_PER_JAR = 1.5
FILL_HOT = "Hot jars, hot juice, funnel and tray. New lids."
COOL_HOURS = 12.0
CARRY_MIN = 10.0


def heat_through(draft: Draft, step: Step) -> Draft:
    """Heat what is filled as hot as its end asks: to a temperature, or to the boil.

    Where the raw fruit is toxic it is boiled through instead.
    """
    juice = draft.together(*step.takes)
    filling = _filling_after(draft, step)
    boiling = draft.kitchen.boiling_point_c
    toxic = filling.boil_min > 0
    goal = boiling if toxic or filling.boils else min(filling.fill_c, boiling)
    kg = typical(juice.composition.mass_g) / 1000.0
    kitchen = draft.kitchen
    start = min(max(0.0, juice.temp_c), goal)
    pace = kitchen.pace("heat")
    minutes = pace * heat.minutes_to_heat(kg, start, goal, kitchen.burner_kw, kitchen.burner_kind)
    params = {
        "pace": pace,
        "target_c": f"{goal:.0f}",
        "target": math.ceil(goal - NEAR_BOIL_C) if filling.boils and not toxic else goal,
        "hold_min": f"{filling.boil_min:.0f}",
        "heat_words": "Bring to the boil" if filling.boils else f"Heat to {figure(goal, 'C')}",
        "heat_look": LOOK_BOIL if filling.boils else LOOK_HOT,
    }
    if filling.minutes is None:
        params["then_words"] = THEN.get(filling.keep, THEN_COLD)
    length = Estimate(0.8 * minutes, minutes, 1.5 * minutes)
    if toxic:
        other = kind(step.kind).becomes
        step = replace(step, key=other, kind=other)
        length = Estimate(filling.boil_min, filling.boil_min, filling.boil_min + minutes)
    hot = _heated(draft, step, juice, goal, filling)
    return laid(
        draft, step, length, (juice.titled("juice, hot"), hot.mix), params=params,
        temp_c=hot.temp_c,
    )  # fmt: skip


THEN = {
    "now": "Pour it warm, or let it cool first.",
    "sugar": "Fill clean hot jars while it is hot.",
}
THEN_COLD = "Fill while it is hot, then into the cold within two hours."
LOOK_HOT = "first wisps of steam, small bubbles at the rim, no boil"
LOOK_BOIL = "a boil that stirring does not stop; then off the heat"


def _heated(draft: Draft, step: Step, juice: Lot, goal: float, filling: Filling) -> Lot:
    """What is filled as hot as it is planned to get, or as a thermometer read it."""
    seen = draft.done.get(step.key)
    reached = goal if seen is None or seen.hottest_c is None else seen.hottest_c
    boiled = filling.boil_min if seen is None or seen.boiled_min is None else seen.boiled_min
    return replace(juice, origins=juice.mix.heated(reached, boiled).origins, temp_c=reached)


def _filling_after(draft: Draft, step: Step) -> Filling:
    """How the end is filled that a heating makes ready for."""
    found = draft.fillings.get(step.key)
    if found is None:
        raise CoreError("what is heated is heated for jars that have been counted")
    return found


def sterilise(draft: Draft, step: Step) -> Draft:
    """Boil the empty jars first, where the process is too short to do it, a pot at a time."""
    filling = draft.fillings[step.key]
    minutes = filling.sterilise_min
    if minutes is None:
        return draft
    jars = filling.packing.count
    loads = max(1, -(-jars // draft.kitchen.canner.jars))
    length = Estimate(minutes, minutes, minutes + 10)
    steps = []
    for number in range(1, loads + 1):
        key = step.key if loads == 1 else f"{step.key}-{number}"
        which = "" if loads == 1 else f", {number} of {loads}"
        params = {"min": minutes, "which": which, "load": number, "loads": loads}
        steps.append(Operation(key, step.kind, length, (), (), params, step.key))
    return draft.then(*steps)


def fill(draft: Draft, step: Step) -> Draft:
    """Fill the jars: the volume is as hot as it is filled, a part-filled last jar is kept apart."""
    filling = draft.fillings.get(step.key)
    if filling is None:
        raise CoreError("jars are filled once they have been counted")
    there = draft.gathered(step)
    into_jars, whole = there.also, there.whole
    params = into(filling)
    count = params["jars"]
    raw = packs_raw(draft, whole)
    params["raw_pack"] = raw
    params |= _words(filling, whole, raw)
    if into_jars:
        each = ", ".join(_each(lot, count) for lot in into_jars)
        params["fill_words"] = f"Into each jar first: {each}. {params.get('fill_words', FILL_HOT)}"
    name = whole.titled("in jars" if raw else "juice in jars")
    length = about(max(5.0, FILL_MIN_PER_JAR * count), 0.7, 1.6)
    return laid(draft, there.step, length, (name, whole.mix), sources=into_jars, params=params)


def into(filling: Filling) -> dict[str, Any]:
    """What something is filled into, as its step keeps it: jars, the last one, the room on top."""
    packing = filling.packing
    return {
        "jars": packing.count + (1 if packing.leftover_kind else 0),
        "packing": dict(packing.jars),
        "leftover_kind": packing.leftover_kind,
        "leftover_ml": packing.leftover_ml,
        "headspace": f"{filling.headspace_mm:.0f} mm",
        "headspace_mm": filling.headspace_mm,
    }


def _words(filling: Filling, whole: Lot, raw: bool) -> dict[str, str]:
    """What a filling is called and says, where it is not hot juice into jars for the shelf."""
    if filling.keep == "now":
        return POURED
    into = [jars.kind(k) for k in (*filling.packing.jars, filling.packing.leftover_kind) if k]
    vessels = bool(into) and all(k.own for k in into)
    said = dict[str, str]()
    if vessels:
        said["fill_title"] = f"Fill the {_named(into)}"
        said["fill_look"] = "{headspace_mm:mm} of room at the top, wiped, closed or covered"
    if raw:
        said["fill_words"] = (
            "Hot jars. Fruit and sugar first, boiling water to the headspace, a wooden stick "
            "round the inside to let the air out. New lids."
        )
    elif whole.temp_c >= WARM_C and any(k.soft for k in into):
        said["fill_words"] = (
            "Cool the pot in cold water to hand-warm first: hot juice softens this. Funnel, tray."
        )
    elif vessels:
        said["fill_words"] = "Clean and scalded, funnel and tray."
    elif whole.temp_c < WARM_C:
        said["fill_words"] = "Clean jars, funnel and tray. New lids."
    if filling.keep == "sugar":
        said["then_words"] = "A cloth over them until they are cool, lids only then."
    elif filling.minutes is None:
        said["then_words"] = "Lids on. Into the cold once they are no longer hot to the hand."
    return said


POURED = {
    "fill_title": "Pour it out",
    "fill_look": "glasses on the table; what nobody drinks goes into the refrigerator, covered",
    "fill_words": "Glasses, and a jug to pour from.",
    "then_words": "Drink it today.",
}


def _named(into: list[jars.JarKind]) -> str:
    """Vessels of one type by its name, several as vessels: "boxes", "squeeze bottles"."""
    types = {k.vessel.name for k in into if k.vessel}
    if len(types) > 1:
        return "vessels"
    name = types.pop()
    return f"{name}es" if name.endswith("x") else f"{name}s"


def _each(lot: Lot, count: int) -> str:
    """What goes into each of so many jars: "1.3 g rosemary"."""
    return f"{weighed(typical(lot.composition.mass_g) / max(1, count))} {lot.name.lower()}"


WARM_C = 60.0
"""Under this nothing hot is poured [°C]."""


def packs_raw(draft: Draft, whole: Lot) -> bool:
    """Whether fruit goes into the jar whole, with boiling water over it."""
    made_by = {lot: o for o in draft.operations for lot in o.gives}
    lots = [whole.key]
    for lot in lots:
        operation = made_by.get(lot)
        if operation is not None and kind(operation.kind).packs_raw:
            return True
        lots += [k for k in operation.takes if k not in lots] if operation else []
    return False


def process_loads(draft: Draft, step: Step) -> Draft:
    """One process and one cooling for each canner load."""
    filling = draft.fillings[step.params["fill"]]
    if filling.minutes is None:
        return draft
    loads, minutes, rest = filling.packing.loads, float(filling.minutes), 60.0 * COOL_HOURS
    run_l = heat.steam_canner_water_kg(minutes, draft.kitchen.burner_kw)
    cooling = of_role("cool")
    fill_key = step.params["fill"]
    steps: list[Operation] = []
    for number in range(1, loads + 1):
        counted = {"load": number, "loads": loads, "fill": fill_key}
        timed = {**counted, "minutes": filling.minutes, "row": filling.row, "run_l": run_l,
                 **kind(step.kind).variants.get(draft.kitchen.canner.heater, {})}  # fmt: skip
        for what, length, params in (
            (step.kind, Estimate(minutes, minutes, minutes), timed),
            (cooling, Estimate(rest, rest, 2 * rest), counted),
        ):
            key = f"{_own_key(what, step)}-{number}"
            steps.append(Operation(key, what, length, step.takes, (), params, step.key))
    return draft.then(*steps)


def _own_key(what: str, step: Step) -> str:
    """A key of its own where a flow has several ends."""
    return what + step.key.removeprefix(step.kind)


def carry(draft: Draft, step: Step) -> Draft:
    """A step that moves or looks at the jars and changes nothing in them."""
    length = Estimate(0.5 * CARRY_MIN, CARRY_MIN, 2 * CARRY_MIN)
    params = {"fill": step.params["fill"]}
    return draft.then(Operation(step.key, step.kind, length, step.takes, (), params, step.key))
