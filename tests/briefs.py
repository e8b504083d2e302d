"""What goes in and what it is for, as tests say it in a line."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

import numpy as np

from elderberry.core import materials
from elderberry.core.composition import HEXOSE_G_MOL, SUCROSE_G_MOL, Composition
from elderberry.core.estimates import Estimate, measured
from elderberry.core.flow.draft import poured
from elderberry.core.flow.inputs import Brief, End, Input, grams, lot_of
from elderberry.core.flow.wiring import START
from elderberry.core.kitchen import Canner, Juicer, Kitchen
from elderberry.core.process import Contents


def load(
    fruit: str,
    kg: float,
    form: str = "whole",
    keep: str = "shelf",
    jar_kinds: tuple[str, ...] = (),
    ingredients_g: Mapping[str, float] | None = None,
    said: frozenset[str] = frozenset(),
    loads: int | None = None,
    brix: Estimate | None = None,
    ph: Estimate | None = None,
    source: str = "",
) -> Brief:
    """A load of one fruit, perhaps with something stirred in, for one end."""
    came_in = Input(START, fruit, grams(1000 * kg), form, brix, ph, source=source)
    also = (Input(k, k, grams(g)) for k, g in (ingredients_g or {}).items() if g > 0)
    return Brief((came_in, *also), (End("fill", keep, jar_kinds),), said, loads)


def filled(
    *parts: tuple[str, float] | tuple[str, float, str],
    heated_c: float = 100.0,
    boiled_min: float = 0.0,
    meter: float | None = None,
    read: Mapping[str, float] | None = None,
    said: frozenset[str] = frozenset(),
) -> Contents:
    """What is in a jar, by what went into it: material, grams, and form where it is not juice.

    meter: a meter's pH of all of it. read: a meter's pH of a part before it joined, by material.
    """
    lots = []
    for n, (material, mass, *form) in enumerate(parts):
        fruit = material in materials.fruits()
        shape = form[0] if form else "juice" if fruit else ""
        ph = (read or {}).get(material)
        given = Input(
            f"in{n}", material, grams(mass), shape, ph=None if ph is None else measured(ph, 0.1)
        )
        lot = lot_of(given, mass, 150.0)
        lots.append(lot)
    whole = poured(tuple(lots))
    lot = replace(
        whole, kind="juice", origins=whole.mix.heated(heated_c, boiled_min).origins,
        temp_c=heated_c,
    )  # fmt: skip
    return Contents(lot if meter is None else lot.meter_shows(meter), said)


def a_kitchen(altitude_m: float | None = 0.0, **more: object) -> Kitchen:
    """A kitchen with everything in it."""
    rest = {"jar_stock": {"pint": 60, "quart": 24}, "alkalinity_mg_l": 150.0, **more}
    return Kitchen(altitude_m, Juicer(10, 4, 1.8), Canner(7), 2.0, **rest)  # type: ignore[arg-type]


def sent_plan(
    fruit: str = "damson",
    kg: object = 12.0,
    *,
    keep: str = "shelf",
    jar_kinds: tuple[str, ...] = ("pint",),
    brix: object = None,
    ph: object = None,
    form: str = "whole",
    lot_id: int | None = None,
    **more: object,
) -> dict[str, object]:
    """The body of a plan of one fruit for one end, as the page sends it."""
    grams_ = 1000 * kg if isinstance(kg, (int, float)) else kg
    given = {"material": fruit, "grams": grams_, "form": form, "brix": brix, "ph": ph,
             "lot_id": lot_id}  # fmt: skip
    return {"inputs": [given], "ends": [{"keep": keep, "jar_kinds": list(jar_kinds)}], **more}


def unsplit(held: Composition, part: str) -> object:
    """A part as it was before acid and heat split any sucrose: what 342.3 g of it, with 18.0 g of
    water, became stays the same.
    """
    each = HEXOSE_G_MOL / SUCROSE_G_MOL
    match part:
        case "sucrose":
            return 0.0
        case "glucose" | "fructose":
            return getattr(held, part) + each * np.asarray(held.sucrose)
        case "water":
            return held.water - (2.0 * each - 1.0) * np.asarray(held.sucrose)
    return getattr(held, part)
