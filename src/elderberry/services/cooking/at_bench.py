"""The sums that help at a step, with the figures of its pot in them."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from typing import Any

from elderberry.core import acid, materials
from elderberry.core.again import again
from elderberry.core.batch.readings_of import METER
from elderberry.core.citrus import CITRUS
from elderberry.core.drying.dried import dried
from elderberry.core.errors import CannotTell
from elderberry.core.flow.draft import poured
from elderberry.core.flow.kinds import kind
from elderberry.core.flow.lots import Lot
from elderberry.core.flow.rows import estimate_of
from elderberry.core.numbers import typical
from elderberry.core.process import FILL_C
from elderberry.core.texture import MOST_BRIX
from elderberry.services.cooking.folder import Folder
from elderberry.services.cooking.step_shown import SumLink
from elderberry.store import Operation

Figures = Mapping[str, object]
GOALS = {"boiling": "temp"}
"""Where the Bench calls a goal of boiling down otherwise than the step."""


def links(folder: Folder, operation: Operation) -> list[SumLink]:
    """The sums that a step opens, each with what is known of its pot."""
    return folder.once(("sums", operation.id), lambda: _links(folder, operation))


def _links(folder: Folder, operation: Operation) -> list[SumLink]:
    return [
        SumLink(key, {name: _plain(value) for name, value in figures.items()})
        for key in kind(operation.kind).sums
        for figures in FIGURES[key](folder, operation)
    ]


def _plain(value: object) -> str:
    return f"{value:.5g}" if isinstance(value, float) else str(value)


def _pot(folder: Folder, operation: Operation) -> Lot | None:
    """What stands in the pot of a step as it is known now: what it takes, poured together."""
    now = folder.standing.now
    edges = folder.edges[operation.id]
    keys = [folder.lots[i].key for i in edges["in"] if folder.lots[i].kind != "added"]
    there = tuple(now.lots[k] for k in keys if now and k in now.lots)
    return poured(there) if there else None


def _sweet(lot: Lot) -> dict[str, object]:
    """How much there is, and how sweet it is."""
    try:
        brix = typical(lot.composition.brix)
    except CannotTell:
        brix = 0.0
    return {"volume_ml": lot.volume_ml.typ, "brix": brix}


def _boil_down(folder: Folder, operation: Operation) -> Iterator[Figures]:
    pot = _pot(folder, operation)
    step = next((s for s in folder.method.steps if s.key == operation.params.get("step")), None)
    if pot is None or step is None:
        return
    how, target = str(step.chosen("to")), float(step.chosen(str(step.chosen("to"))))
    if how in BY_SWEETNESS:
        lot = folder.standing.lot_of(operation)
        planned = estimate_of(folder.lots[lot.id].predicted.get("brix")) if lot else None
        how, target = "brix", planned.typ if planned else MOST_BRIX
    wide = folder.kitchen.widest_pot_cm()
    wide_cm = {"width_cm": wide} if wide else {}
    yield {**_sweet(pot), **wide_cm, "stop": GOALS.get(how, how), "target": target}


BY_SWEETNESS = frozenset({"thick", "minutes"})
"""Goals that the Bench has no word for: it is asked for how sweet that is."""


def _thermometer(folder: Folder, operation: Operation) -> Iterator[Figures]:
    read = folder.standing.read_at(operation, "temp_c")
    if read:
        yield {"by": "reads", "reads_c": read[-1]}
    elif pot := _pot(folder, operation):
        yield {"brix": _sweet(pot)["brix"]}


def _cold_plate(folder: Folder, operation: Operation) -> Iterator[Figures]:
    if pot := _pot(folder, operation):
        yield {"brix": _sweet(pot)["brix"], "hot_c": folder.kitchen.boiling_point_c}


def _sweeten(folder: Folder, operation: Operation) -> Iterator[Figures]:
    if pot := _pot(folder, operation):
        target = operation.params.get("target_brix")
        yield {**_sweet(pot), **({"target": target} if target else {})}


def _sharpen(folder: Folder, operation: Operation) -> Iterator[Figures]:
    pot = _pot(folder, operation)
    known = [f for f in pot.fruits if f.ph and f.acid_pct] if pot else []
    if pot is None or not known:
        return
    meter = pot.acidity.meter
    read = {"known": "read", "ph": meter} if meter is not None else {}
    yield {"volume_ml": pot.volume_ml.typ, "fruit": known[0].key, **read}


def _thin(folder: Folder, operation: Operation) -> Iterator[Figures]:
    if pot := _pot(folder, operation):
        sharp = typical(acid.titratable_acidity_g_l(pot.composition))
        yield {"brix": _sweet(pot)["brix"], "acid_g_l": sharp}


def _crystals(folder: Folder, operation: Operation) -> Iterator[Figures]:
    pot = _pot(folder, operation)
    if pot is None:
        return
    held = pot.composition.first()
    invert = float(held.glucose + held.fructose)
    sugars = invert + float(held.sucrose)
    if sugars > 0:
        yield {
            "brix": _sweet(pot)["brix"],
            "inverted_pct": 100.0 * invert / sugars,
            "store_c": folder.kitchen.store_c,
        }


def _in_jar(folder: Folder, operation: Operation) -> Iterator[Figures]:
    jars = [j.jar_kind for j in folder.jar_rows(operation)]
    fill = folder.standing.fill_of(operation)
    contents = folder.standing.contents(fill) if fill else None
    if not jars or contents is None:
        return
    temps = [r.value for r in folder.standing.counted if r.row.quantity == "temp_c"]
    yield {
        "jar": jars[0],
        "brix": typical(contents.lot.composition.brix),
        "start_c": temps[-1] if temps else FILL_C,
        "minutes": folder.standing.states[operation.id].minutes,
    }


def _process_time(folder: Folder, operation: Operation) -> Iterator[Figures]:
    jars = [j.jar_kind for j in folder.jar_rows(operation)]
    found = folder.tested_time(operation) if jars else None
    if found is None or found.time is None:
        return
    fruits = [i.material for i in folder.brief.inputs if i.material in materials.fruits()]
    yield {
        "product": found.time.row.product,
        "jar": jars[0],
        **({"fruit": fruits[0]} if fruits else {}),
        **_meter(folder),
    }


def _meter(folder: Folder) -> dict[str, object]:
    read = [r.value for r in folder.standing.counted if r.row.instrument == METER]
    return {"known": "read", "ph": read[-1]} if read else {}


def _citrus(folder: Folder, operation: Operation) -> Iterator[Figures]:
    pot = _pot(folder, operation)
    step = next((s for s in folder.method.steps if s.key == operation.params.get("step")), None)
    kind_of = next((f.key for f in pot.fruits if f.key in CITRUS), None) if pot else None
    if pot is None or step is None or kind_of is None:
        return
    school = str(step.chosen("school"))
    own = {"ours": "own", **{k: float(step.chosen(k)) for k in OWN}} if school == "own" else {}
    yield {"fruit": kind_of, "by": "peel", "amount": pot.mass_g.typ, "school": school, **own}


OWN = ("own_peel", "own_acid", "own_citric")


def _steam_pan(folder: Folder, operation: Operation) -> Iterator[Figures]:
    params: Mapping[str, Any] = operation.params
    yield {
        "fruit_kg": float(params["fruit_kg"]),
        "water_l": float(params["pan_l"]),
        "minutes": folder.standing.states[operation.id].minutes,
    }


def _freeze_dry(folder: Folder, operation: Operation) -> Iterator[Figures]:
    pot, told = _pot(folder, operation), operation.params
    fruits = [f.key for f in pot.fruits if f.ph and f.acid_pct] if pot else []
    if pot is not None and pot.kind == "juice" and fruits:
        yield {
            "fruit": fruits[0], "mass_g": float(told["tray_g"]), "trays": told["trays"],
            "thickness_mm": float(told["mm"]),
        }  # fmt: skip


def _air_dry(folder: Folder, operation: Operation) -> Iterator[Figures]:
    told = operation.params
    drying = folder.standing.drying(operation)
    newest = drying.weighings[-1] if drying and drying.weighings else None
    yield {
        "kind": told["what"], "mass_g": float(told["tray_g"]),
        "wet_pct": 100.0 * float(told["first_wet"]), "thickness_mm": float(told["mm"]),
        "air_c": float(told["air_c"]), "humidity_pct": float(told["humidity_pct"]),
        **({"weighing": "yes", "after_h": newest[0], "left_g": newest[1]} if newest else {}),
    }  # fmt: skip


def _back_again(folder: Folder, operation: Operation) -> Iterator[Figures]:
    contents = folder.standing.contents(operation)
    found = again(contents) if contents else None
    if found is not None and contents is not None:
        yield {
            "powder_g": found.dry_g, "water_out_g": found.wet_g - found.dry_g,
            "bulk_g_ml": dried(contents.lot.dried).bulk_g_ml,
        }  # fmt: skip


FIGURES: dict[str, Callable[[Folder, Operation], Iterator[Figures]]] = {
    "air-dry": _air_dry,
    "back-again": _back_again,
    "boil-down": _boil_down,
    "freeze-dry": _freeze_dry,
    "thermometer": _thermometer,
    "cold-plate": _cold_plate,
    "citrus": _citrus,
    "sweeten": _sweeten,
    "sharpen": _sharpen,
    "thin": _thin,
    "crystals": _crystals,
    "in-jar": _in_jar,
    "process-time": _process_time,
    "steam-pan": _steam_pan,
}
