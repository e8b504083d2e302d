"""The Bench over HTTP: the core's own figures, by the address alone."""

from __future__ import annotations

from collections.abc import Callable
from inspect import signature
from typing import Any

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core import jars, materials
from elderberry.core.flow.kinds import kinds
from elderberry.core.process import ProcessRow, process_rows
from elderberry.core.sums import canning, dried, measures, pots, sour, sweet
from elderberry.core.sums.told import Sum
from elderberry.services.cooking import at_bench
from elderberry.services.household import kitchens
from tests.api.conftest import Kitchen

ASKED: dict[str, dict[str, Any]] = {
    "sweeten": {"volume_ml": 2000, "brix": 12, "target": 40, "material": "honey"},
    "boil-down": {"volume_ml": 4000, "brix": 14, "width_cm": 28, "stop": "depth", "target": 4},
    "thermometer": {"brix": 65},
    "sharpen": {"volume_ml": 3000, "fruit": "plum", "goal": "ph", "target": 3.2},
    "blend": {"first_ml": 1000, "first": 60, "second_ml": 3000, "second": 11, "target": 20},
    "citrus": {"fruit": "grapefruit", "by": "peel", "amount": 85, "school": "by-litre"},
    "cold-plate": {"brix": 66, "hot_c": 104, "plate_c": 18, "drop": "coats a spoon"},
    "crystals": {"brix": 71, "inverted_pct": 10, "store_c": 12},
    "bottle": {"sugar_g_100ml": 60, "price": 4, "bottle_ml": 700, "own_litres": 3,
               "own_price": 8, "own_brix": 55},
    "thin": {"brix": 48, "acid_g_l": 20, "glass_ml": 250, "with_what": "tea", "sweet": 10,
             "sharp": 5},
    "in-jar": {"jar": "pint", "brix": 40, "start_c": 85, "minutes": 20},
    "measures": {"text": "3 cups honey"},
    "process-time": {"product": "fruit_puree", "fruit": "quince", "jar": "pint", "ph": 3.4},
    "steam-pan": {"fruit_kg": 5, "water_l": 3, "minutes": 80},
    "freeze-dry": {"fruit": "damson", "mass_g": 600, "thickness_mm": 9, "sweet_g": 60},
    "air-dry": {"kind": "leather", "mass_g": 900, "wet_pct": 82, "thickness_mm": 4,
                "air_c": 58, "humidity_pct": 45, "after_h": 3, "left_g": 520},
    "back-again": {"powder_g": 90, "water_out_g": 610, "drink_ml": 1000,
                   "strength": "stronger"},
}  # fmt: skip
USUAL: dict[str, dict[str, Any]] = {
    "thermometer": {"reads_c": None},
    "sharpen": {"with_what": "citric_acid"},
    "in-jar": {"pulp": False},
    "process-time": {"heater": "bath", "pack": "any"},
    "steam-pan": {"lifts": 1},
    "freeze-dry": {"trays": 1, "with_what": "sugar_white", "frozen": True},
    "back-again": {"bulk_g_ml": 0.45},
}
RECKONED: dict[str, Callable[..., Sum]] = {
    "sweeten": sweet.sweeten, "boil-down": pots.boil_down, "thermometer": sweet.thermometer,
    "sharpen": sour.sharpen, "blend": sweet.blend, "citrus": sour.stretched,
    "cold-plate": sweet.cold_plate, "crystals": sweet.crystals, "bottle": sweet.bottle,
    "thin": sour.thin,
    "in-jar": canning.in_jar, "measures": measures.measures,
    "process-time": canning.process_time,
    "steam-pan": pots.steam_pan, "freeze-dry": dried.tray, "air-dry": dried.warm_air,
    "back-again": dried.again,
}  # fmt: skip


@pytest.mark.parametrize("name", ASKED)
def test_what_is_shown_is_what_the_core_says(here: Kitchen, name: str) -> None:
    shown = here.client.get(f"/api/bench/{name}", params=ASKED[name])
    assert shown.status_code == 200, shown.text
    asked = USUAL.get(name, {}) | ASKED[name]
    with Orm(here.client.app.state.settings.engine) as orm:  # type: ignore[attr-defined]
        kitchen = kitchens.for_core(orm, here.who)
    reckoned = RECKONED[name]
    if "here" in signature(reckoned).parameters:
        asked |= {"here": kitchen}
    found = reckoned(**asked)
    answer = shown.json()["answer"]
    if found.answer.value is None:
        assert answer["words"] == found.answer.words
    else:
        assert answer["value"]["typ"] == pytest.approx(found.answer.value.typ)
    assert [s["key"] for s in shown.json()["then"]] == [s.key for s in found.then]
    assert shown.json()["draws"] == pytest.approx(found.draws)
    assert [c["title"] for c in shown.json()["beside"]] == [c.title for c in found.beside]
    assert "«" not in shown.text


def test_what_can_be_picked_comes_from_the_core(here: Kitchen) -> None:
    there = here.client.get("/api/bench").json()
    assert {"fruit", "acid", "jar", "product", "drop", "diluent"} <= set(there)
    assert {"value": "damson", "label": "Damson"} in there["fruit"]


def test_a_way_of_their_own_stands_beside_the_schools(here: Kitchen) -> None:
    asked = ASKED["citrus"] | {"own_peel": 60, "own_acid": 40, "school": "own"}
    shown = here.client.get("/api/bench/citrus", params=asked).json()
    assert shown["beside"][-1]["title"] == "your own"
    assert shown["answer"]["label"] == "your own it makes"


def test_a_process_that_is_not_there_carries_its_stop(here: Kitchen) -> None:
    asked = ASKED["process-time"] | {"fruit": "elderberry"}
    refused = here.client.get("/api/bench/process-time", params=asked)
    assert refused.status_code == 409
    assert "lder" in refused.json()["detail"]


@pytest.mark.parametrize(
    ("name", "change"),
    [
        ("sweeten", {"target": 95}),
        ("sweeten", {"material": "sand"}),
        ("sweeten", {"volume_ml": "a lot"}),
        ("boil-down", {"stop": "brix", "target": 3}),
        ("boil-down", {"stop": "never"}),
        ("blend", {"target": 80}),
        ("thermometer", {"reads_c": 80}),
        ("cold-plate", {"drop": "flies away"}),
        ("thin", {"with_what": "milk"}),
        ("thin", {"colour": "red"}),
        ("sharpen", {"fruit": "gravel"}),
        ("sharpen", {"target": 6.5}),
        ("citrus", {"fruit": "apple"}),
        ("citrus", {"school": "by-luck"}),
        ("crystals", {"brix": 99}),
        ("in-jar", {"jar": "bucket"}),
        ("measures", {"text": "a bit of everything"}),
        ("measures", {"text": "sugar to 60 Brix"}),
        ("steam-pan", {"water_l": -1}),
    ],
)
def test_what_cannot_be_is_said(here: Kitchen, name: str, change: dict[str, Any]) -> None:
    answer = here.client.get(f"/api/bench/{name}", params=ASKED[name] | change)
    assert answer.status_code == 422, answer.text
    assert answer.json()["detail"]


def test_in_pounds_its_sentences_are_in_pounds(here: Kitchen) -> None:
    asked = ASKED["boil-down"]
    assert " kg " in here.client.get("/api/bench/boil-down", params=asked).json()["note"]
    here.client.patch("/api/kitchen", json={"units": "us"})
    assert " lb " in here.client.get("/api/bench/boil-down", params=asked).json()["note"]


@pytest.mark.parametrize(
    ("method", "line"),
    [
        ("steam_juiced", "9 kg damsons"),
        ("fruit_syrup", "6 kg blackcurrants"),
        ("apple_reduced", "12 kg apples"),
        ("steamed_quince", "8 kg quinces"),
        ("stretched_citrus", "9 oranges"),
        ("caramel_syrup", "500 g white sugar"),
    ],
)
def test_each_step_opens_its_sums_with_figures_that_hold(
    here: Kitchen, method: str, line: str
) -> None:
    plan = {"method_key": method, "inputs": [{"line": line}]}
    begun = here.client.post("/api/batches", json=plan)
    assert begun.status_code == 201, begun.text
    opened = [(s["title"], link) for s in begun.json()["steps"] for link in s["sums"]]
    assert opened
    for title, link in opened:
        figures = {
            k: v
            for k, v in link["figures"].items()
            if k not in {"known", "ours"} and (k, v) != ("by", "reads")
        }
        usual = ASKED[link["key"]] if link["key"] != "thermometer" else {"brix": 1}
        found = here.client.get(f"/api/bench/{link['key']}", params=usual | figures)
        assert found.status_code in {200, 422}, (title, link, found.text)
        if found.status_code == 422:
            assert found.json().get("code") != "not-valid", (title, link, found.text)


def test_every_sum_that_a_step_names_can_be_opened_from_it() -> None:
    assert {name for kind in kinds().values() for name in kind.sums} <= set(at_bench.FIGURES)
    assert set(at_bench.FIGURES) <= set(ASKED)


def test_what_a_sum_came_to_is_written_down_at_its_step(here: Kitchen) -> None:
    plan = {"inputs": [{"line": "9 kg damsons"}]}
    batch = here.client.post("/api/batches", json=plan).json()
    step = next(s for s in batch["steps"] if s["sums"])
    path = f"/api/batches/{batch['id']}/steps/{step['id']}/notes"
    kept = here.client.post(path, json={"what": "bench", "words": "the pan lasts: 57 min"})
    assert kept.status_code == 200, kept.text
    shown = next(s for s in kept.json()["steps"] if s["id"] == step["id"])
    assert shown["notes"] == ["the pan lasts: 57 min"]
    assert shown["phase"] == "waiting"


def cells() -> list[tuple[ProcessRow, str, str]]:
    """Every row of the tables, with a fruit that it is for and a jar of just its size."""
    sizes = {k.process_as_ml: k.key for k in jars.kinds().values() if k.process_as_ml}
    low = next(f.key for f in materials.fruits().values() if f.ph_risk == "low")
    found = []
    for row in process_rows():
        named = [f.key for f in materials.fruits().values() if row.names(f)]
        if row.largest_jar_ml in sizes and row.minutes[HERE_BAND] is not None:
            found.append((row, (named or [low])[0], sizes[row.largest_jar_ml]))
    return found


HERE_BAND = 1
"""Column of the tables for this kitchen, 585 m above the sea."""


@pytest.mark.parametrize(("row", "fruit", "jar"), cells(), ids=lambda c: getattr(c, "key", c))
def test_every_row_is_reached_and_shows_the_minutes_of_the_table(
    here: Kitchen, row: ProcessRow, fruit: str, jar: str
) -> None:
    ph = {} if row.max_ph is None else {"ph": round(row.max_ph - 0.3, 2)}
    asked: dict[str, Any] = {
        "product": row.product,
        "fruit": fruit,
        "jar": jar,
        "pack": row.pack,
        **ph,
    }
    answer = here.client.get("/api/bench/process-time", params=asked)
    assert answer.status_code == 200, answer.text
    assert answer.json()["answer"]["value"]["typ"] == row.minutes[HERE_BAND]
