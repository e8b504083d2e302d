"""Steps from juice to finished jars: heat, clean jars, filling, the canner, the cold."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from elderberry.core import heat, materials, process
from elderberry.core.composition import Composition, of_material
from elderberry.core.errors import CoreError
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.flow import draft as flow
from elderberry.core.flow.draft import Draft, Figures, Load, Lot, Operation, Step
from elderberry.core.numbers import typical

DRAWN_JUICE_C = 60.0
"""Steam-juiced loads wait in a covered pot and are about this warm when heated on [°C]."""
RAW_TOXIC = ("elderberry", "rowan")
BOIL_THROUGH_MIN = 10.0
FILL_MIN_PER_JAR = 1.5
COOL_HOURS = 12.0


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


def heat_through(draft: Draft, step: Step) -> Draft:
    """Pool the juice, stir in what is added, and heat it to the filling temperature.

    Where the raw fruit is toxic it is boiled through instead.
    """
    juice = draft.together(*step.takes)
    extra = added(draft.load)
    pooled = juice.composition + extra if draft.load.ingredients_g else juice.composition
    toxic = draft.load.fruit_key in RAW_TOXIC
    time = draft.process_time
    goal = draft.kitchen.boiling_point_c if toxic else time.fill_c if time else process.FILL_C
    kg = typical(pooled.mass_g) / 1000.0
    minutes = heat.minutes_to_heat(
        kg, DRAWN_JUICE_C, goal, draft.kitchen.burner_kw, draft.kitchen.burner_kind
    )
    length = (
        Estimate(BOIL_THROUGH_MIN, BOIL_THROUGH_MIN, BOIL_THROUGH_MIN + minutes)
        if toxic
        else Estimate(0.8 * minutes, minutes, 1.5 * minutes)
    )
    params = {
        "target_c": f"{goal:.0f}",
        "target": goal,
        "hold_min": f"{BOIL_THROUGH_MIN:.0f}",
        "stir_in": stir_in(draft.load),
    }
    if toxic:
        step = replace(step, key="boil_through", kind="boil_through")
    stirred = Lot("added", "added", "Stirred in", Figures(extra, Evidence.MEASURED))
    return flow.laid(
        draft, step, length, (f"{draft.fruit.name} juice, hot", pooled),
        sources=(stirred,) if draft.load.ingredients_g else (), params=params,
    )  # fmt: skip


def sterilise(draft: Draft, step: Step) -> Draft:
    """Boil the empty jars first, where the process is too short to do it."""
    minutes = draft.process_time.sterilise_min if draft.process_time else None
    if minutes is None:
        return draft
    length = Estimate(minutes, minutes, minutes + 10)
    return draft.then(Operation(step.key, "sterilise", length, (), (), {"min": minutes}))


def fill(draft: Draft, step: Step) -> Draft:
    """Fill hot jars: the volume is that of hot juice, the part-filled last jar is kept apart."""
    if draft.packing is None:
        raise CoreError("jars are filled once they have been counted")
    count = draft.packing.count + (1 if draft.packing.leftover_kind else 0)
    headspace = draft.process_time.headspace_in if draft.process_time else 1.0
    whole = draft.together(*step.takes)
    params = {
        "jars": count,
        "packing": dict(draft.packing.jars),
        "leftover_kind": draft.packing.leftover_kind,
        "leftover_ml": draft.packing.leftover_ml,
        "headspace": f"{headspace * 25.4:.0f} mm",
    }
    if whole.kind == "mash":
        params["fill_words"] = (
            "Hot jars. Fruit and sugar first, boiling water to the headspace, a wooden stick "
            "round the inside to let the air out. New lids."
        )
    elif not any(o.kind in {"heat_to", "boil_through"} for o in draft.operations):
        params["fill_words"] = "Clean jars, funnel and tray. New lids."
    what = "juice" if whole.kind == "juice" else "whole"
    name = f"{draft.fruit.name}{' ' if what == 'juice' else ', '}{what} in jars"
    length = flow.about(max(5.0, FILL_MIN_PER_JAR * count), 0.7, 1.6)
    return flow.laid(draft, step, length, (name, whole.composition), params=params)


def process_loads(draft: Draft, step: Step) -> Draft:
    """One process and one cooling for each canner load."""
    if draft.packing is None or draft.process_time is None:
        return draft
    loads, time = draft.packing.loads, draft.process_time
    minutes, rest = float(time.minutes), 60.0 * COOL_HOURS
    steps: list[Operation] = []
    for number in range(1, loads + 1):
        counted = {"load": number, "loads": loads}
        timed = {**counted, "minutes": time.minutes, "row": time.row.key}
        for kind, length, params in (
            ("process", Estimate(minutes, minutes, minutes), timed),
            ("cool", Estimate(rest, rest, 2 * rest), counted),
        ):
            key = f"{kind}-{number}"
            steps.append(Operation(key, kind, length, step.takes, (), params, step.key))
    return draft.then(*steps)


def carry(minutes: float) -> Callable[[Draft, Step], Draft]:
    """A step that moves or looks at the jars and changes nothing in them."""

    def apply(draft: Draft, step: Step) -> Draft:
        length = Estimate(0.5 * minutes, minutes, 2 * minutes)
        return draft.then(Operation(step.key, step.kind, length, step.takes, (), {}, step.key))

    return apply
