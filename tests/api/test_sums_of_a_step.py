"""A step opens the sums that help at it: each answers, with the figures of what is in its pot."""

from __future__ import annotations

from typing import Any

import pytest

from tests.api.conftest import Kitchen
from tests.api.test_bench import ASKED
from tests.briefs import sent_plan

ON_THE_PAGE = {"known", "by", "ours", "weighing"}
"""What only decides which fields are shown; of citrus, by is asked of the server."""
WAYS = {
    "steamed damsons": sent_plan("damson", 6.0),
    "apples pressed and boiled down": sent_plan("apple", 9.0, method_key="apple_reduced"),
    "quince jelly": sent_plan("quince", 4.0, method_key="quince_jelly", jar_kinds=("half_pint",)),
    "grapefruit stretched": sent_plan(
        "grapefruit", 5.0, method_key="grapefruit_whole", keep="chill"
    ),
    "grapefruit, its peel apart": sent_plan(
        "grapefruit", 5.0, method_key="grapefruit_apart", keep="chill"
    ),
    "a blackcurrant syrup": sent_plan("blackcurrant", 4.0, method_key="berry_syrup"),
    "rhubarb with honey": sent_plan("rhubarb", 5.0, method_key="rhubarb_honey"),
    "quince purée": sent_plan("quince", 3.0, method_key="quince_puree"),
    "a gooseberry leather": sent_plan(
        "gooseberry", 3.0, method_key="fruit_leather", keep="dry", jar_kinds=()
    ),
    "aronia powder": sent_plan(
        "aronia", 3.0, method_key="juice_powder_freeze_dried", keep="dry", jar_kinds=()
    ),
    "sea buckthorn pressed": sent_plan(
        "sea_buckthorn", 3.0, method_key="sea_buckthorn_pressed", keep="freeze"
    ),
    "apple rings": sent_plan(
        "apple", 4.0, method_key="slices_air_dried", keep="dry", jar_kinds=()
    ),
}  # fmt: skip

OPENS = {
    "steam_juice": {"steam-pan"},
    "strain": {"sharpen"},
    "stir_in": {"sharpen", "sweeten"},
    "heat_to": {"sharpen", "thermometer"},
    "reduce": {"boil-down", "cold-plate", "thermometer"},
    "cook_syrup": {"boil-down", "cold-plate", "thermometer"},
    "fill": {"crystals", "thin"},
    "air_dry": {"air-dry"},
    "freeze_dry": {"freeze-dry"},
    "pack": {"back-again"},
}
"""What each kind of step opens before anything was done, in whatever way it is reached."""


@pytest.fixture
def started(here: Kitchen, request: pytest.FixtureRequest) -> dict[str, Any]:
    """A batch that has just begun, in a kitchen that has what it takes."""
    dryer = {"kind": "freeze_dryer", "name": "Freeze dryer"}
    assert here.client.post("/api/kitchen/stations", json=dryer).is_success
    answer = here.client.post("/api/batches", json=WAYS[request.param])
    assert answer.status_code == 201, answer.text
    found: dict[str, Any] = answer.json()
    return found


def opened(batch: dict[str, Any]) -> list[tuple[str, str, dict[str, str]]]:
    """Step, sum and figures of everything that a batch opens."""
    return [(s["key"], link["key"], link["figures"]) for s in batch["steps"] for link in s["sums"]]


@pytest.mark.parametrize("started", WAYS, indirect=True)
def test_every_sum_that_a_step_opens_answers(here: Kitchen, started: dict[str, Any]) -> None:
    assert opened(started)
    for step, name, figures in opened(started):
        mine = {k: v for k, v in figures.items() if k not in ON_THE_PAGE or name == "citrus"}
        usual = {k: v for k, v in ASKED[name].items() if k not in {"after_h", "left_g", "drop"}}
        if name == "boil-down":
            assert figures["stop"] in {"brix", "share", "depth", "temp"}
        asked = {**usual, **{k: v for k, v in mine.items() if k != "ours"}}
        answer = here.client.get(f"/api/bench/{name}", params=asked)
        beyond = answer.status_code == 422 and "already" in answer.text
        assert answer.status_code == 200 or beyond, (step, name, figures, answer.text)


@pytest.mark.parametrize("started", WAYS, indirect=True)
def test_a_step_opens_all_that_helps_at_it(started: dict[str, Any]) -> None:
    for step in started["steps"]:
        assert {link["key"] for link in step["sums"]} == OPENS.get(step["kind"], set()), step["key"]


@pytest.mark.parametrize("started", ["steamed damsons"], indirect=True)
def test_the_figures_are_those_of_the_batch(started: dict[str, Any]) -> None:
    of = {(step, name): figures for step, name, figures in opened(started)}
    steam = [f for (_, name), f in of.items() if name == "steam-pan"]
    load = next(s for s in started["steps"] if s["role"] == "steam")
    assert sum(float(f["fruit_kg"]) for f in steam) == pytest.approx(6.0, rel=1e-3)
    assert float(steam[0]["minutes"]) == pytest.approx(load["minutes"]["typ"], rel=1e-3)
    drawn = [lot for lot in started["lots"] if lot["key"].startswith("juice-")]
    there = sum(lot["predicted"]["volume_ml"]["typ"] for lot in drawn)
    sharp = [f for (_, name), f in of.items() if name == "sharpen"]
    assert drawn
    assert sharp
    for figures in sharp:
        assert figures["fruit"] == "damson"
        assert float(figures["volume_ml"]) == pytest.approx(there, rel=0.01)


def test_a_reading_goes_along_into_the_sum(here: Kitchen) -> None:
    put = {"instruments": ["thermometer", "jug", "scale", "ph_meter", "refractometer"]}
    here.client.patch("/api/kitchen", json=put)
    batch = here.client.post("/api/batches", json=WAYS["steamed damsons"]).json()
    load = next(s for s in batch["steps"] if s["role"] == "steam")
    at = f"/api/batches/{batch['id']}/steps/{load['id']}"
    here.client.post(f"{at}/start")
    said = {"quantity": "brix", "value": 16.4, "instrument": "refractometer"}
    read = here.client.post(f"{at}/readings", json=said)
    assert read.is_success, read.text
    sweet = {(step, n): float(f["brix"]) for step, n, f in opened(batch) if "brix" in f}
    now = {(step, n): float(f["brix"]) for step, n, f in opened(read.json()) if "brix" in f}
    assert sweet
    assert all(now[key] > sweet[key] for key in sweet)


def test_what_is_over_opens_nothing_any_more(here: Kitchen) -> None:
    batch = here.client.post("/api/batches", json=WAYS["steamed damsons"]).json()
    load = next(s for s in batch["steps"] if s["role"] == "steam")
    at = f"/api/batches/{batch['id']}/steps/{load['id']}"
    assert load["sums"]
    here.client.post(f"{at}/start")
    done = here.client.post(f"{at}/finish", json={}).json()
    assert next(s for s in done["steps"] if s["id"] == load["id"])["sums"] == []
