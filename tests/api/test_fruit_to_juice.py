"""The kitchen, what comes in, flows and corrections, by whole bodies."""

from __future__ import annotations

from typing import Any

import pytest

from tests.api.conftest import Kitchen
from tests.briefs import sent_plan

GOOSEBERRIES = sent_plan("gooseberry", 4, method_key="weighted_gooseberry")


def sent(kitchen: Kitchen, method: str, path: str, body: Any, status: int = 200) -> Any:
    answer = kitchen.client.request(method, f"/api{path}", json=body)
    assert answer.status_code == status, answer.text
    return answer.json()


def test_a_plan_shows_its_flow_its_choices_and_its_questions(here: Kitchen) -> None:
    body = sent(here, "POST", "/plans", GOOSEBERRIES)
    assert body["method"]["name"].startswith("Gooseberry, drained under weight")
    assert [s["kind"] for s in body["steps"]][:4] == ["sort", "mash", "drain_cold", "press_again"]
    stems = body["steps"][0]["choices"][0]
    assert (stems["key"], stems["value"]) == ("stems", "off")
    assert [o["value"] for o in stems["options"]] == ["off", "on"]
    water = body["steps"][3]["numbers"][0]
    assert (water["unit"], water["value"]) == ("l/l", 0.7)
    assert body["fruit_yield"]["tables"]["lo"] < body["fruit_yield"]["estimate"]["typ"]
    assert body["waits_h"] == pytest.approx(12.2, abs=0.1)
    assert body["ends"][0]["clarity"] == "clear"
    assert {q["word"] for q in body["questions"]} >= {"wild_not_certain", "lid_used_before"}
    assert not any(q["said"] for q in body["questions"])
    second = next(lot for lot in body["lots"] if lot["key"] == "second")
    assert second["brix"]["typ"] < body["ends"][0]["brix"]["typ"]


@pytest.mark.parametrize(
    ("word", "rule", "level"),
    [
        ("wild_not_certain", "wild-not-identified", "stop"),
        ("lid_used_before", "lid-used-before", "stop"),
        ("vinegar_under_5", "weak-vinegar", "stop"),
        ("peel_waxed", "waxed-or-sprayed-peel", "caution"),
        ("sugar_cut", "sugar-cut", "caution"),
    ],
)
def test_what_the_cook_says_is_judged(here: Kitchen, word: str, rule: str, level: str) -> None:
    body = sent(here, "POST", "/plans", {**GOOSEBERRIES, "said": [word]})
    assert (rule, level) in {(f["id"], f["level"]) for f in body["findings"]}
    assert [q["word"] for q in body["questions"] if q["said"]] == [word]


def test_a_flow_is_edited_one_change_at_a_time(here: Kitchen) -> None:
    asked = {"method_key": "steam_juiced", "lot": "juice"}
    shown = sent(here, "POST", "/flows", asked)
    assert "strain" in [p["kind"] for p in shown["following"]]
    change = {**asked, "act": "insert", "kind": "strain"}
    strained = sent(here, "POST", "/flows", change)["steps"]
    assert [s["kind"] for s in strained][:2] == ["steam_juice", "strain"]
    plan = sent(here, "POST", "/plans", sent_plan("damson", 5, steps=strained))
    assert "clear" in {lot["key"] for lot in plan["lots"]}
    choose = {"steps": strained, "act": "choose", "step": "strain", "params": {"cloth": "bag"}}
    chosen = sent(here, "POST", "/flows", choose)["steps"]
    assert chosen[1]["params"] == {"cloth": "bag"}
    back = {"steps": chosen, "act": "remove", "step": "strain"}
    assert len(sent(here, "POST", "/flows", back)["steps"]) == len(strained) - 1
    wrong = {"steps": chosen, "act": "choose", "step": "strain", "params": {"cloth": "sock"}}
    problem = sent(here, "POST", "/flows", wrong, 422)
    assert problem["code"] == "does-not-connect"
    assert "cannot be sock" in problem["detail"]


@pytest.mark.parametrize(
    ("steps", "words"),
    [
        ([{"kind": "press"}, {"kind": "dissolve", "params": {"brix": "very"}}], "lies between"),
        ([{"kind": "press"}, {"kind": "sing"}], "no step called sing"),
        ([{"kind": "press", "gives": ["juice"]}, {"kind": "fill"}], "gives 2 lots, not 1"),
    ],
)
def test_a_flow_that_cannot_be_is_refused_in_words(
    here: Kitchen, steps: list[dict[str, object]], words: str
) -> None:
    asked = sent_plan("apple", 4.0, steps=steps)
    answer = here.client.post("/api/plans", json=asked)
    assert answer.status_code == 422, answer.text
    assert words in answer.text


def test_a_method_is_kept_listed_and_used(here: Kitchen, elsewhere: Kitchen) -> None:
    steps = sent(here, "POST", "/flows", {"method_key": "steam_juiced"})["steps"]
    new = {"name": "Slow steam", "based_on": "steam_juiced", "steps": steps, "adapted_from": "Oda"}
    kept = sent(here, "POST", "/methods", new, 201)
    assert kept["method"]["version"] == 1
    listed = {m["key"]: m for m in sent(here, "GET", "/methods?fruit=damson", None)}
    assert listed[kept["method"]["key"]]["adapted_from"] == "Oda"
    assert "weighted_gooseberry" not in listed
    assert kept["method"]["key"] not in {m["key"] for m in sent(elsewhere, "GET", "/methods", None)}
    body = sent_plan("damson", 5, method_key=kept["method"]["key"])
    assert sent(here, "POST", "/plans", body)["method"]["own"]
    assert sent(elsewhere, "POST", "/plans", body, 422)["errors"][0]["pointer"] == "/method_key"


def test_costs_are_told_for_every_option(here: Kitchen) -> None:
    found = sent(here, "POST", "/plans/costs", {"plan": GOOSEBERRIES, "step": "mash"})
    assert [(d["value"], d["chosen"]) for d in found] == [("in", True), ("out", False)]
    assert found[1]["juice_l"] < found[0]["juice_l"]
    assert found[1]["minutes"] > found[0]["minutes"]


def test_fruit_comes_in_and_goes(here: Kitchen) -> None:
    body = {"line": "18 quinces", "source": "Shed", "cost": 3.5}
    lot = sent(here, "POST", "/lots", body, 201)
    assert (lot["kg"], lot["cost_minor"]) == (4.5, 350)
    assert lot["work_by_lo"] <= lot["work_by"] <= lot["work_by_hi"]
    wrong = sent(here, "POST", "/lots", {"line": "some quinces"}, 422)
    assert wrong["errors"][0]["pointer"] == "/line"
    plan = sent_plan("quince", 9, lot_id=lot["id"])
    refused = sent(here, "POST", "/plans", plan, 422)
    assert refused["errors"][0]["pointer"] == "/inputs/0/grams"
    batch = sent(here, "POST", "/batches", sent_plan("quince", 3, lot_id=lot["id"]), 201)
    assert batch["source"] == "Shed"
    assert sent(here, "GET", "/lots", None)[0]["left_kg"] == pytest.approx(1.5)
    assert sent(here, "DELETE", f"/lots/{lot['id']}", None) == []


def test_the_kitchen_is_changed_and_says_what_that_does(here: Kitchen) -> None:
    changed = sent(here, "PATCH", "/kitchen", {"altitude_m": 1900, "cup": "us"})
    assert changed["boiling_point_c"] == pytest.approx(93.6, abs=0.1)
    assert changed["units"] == "metric"
    tried = sent(here, "POST", "/kitchen/effect", {"pressure_hpa": 945})
    assert tried["boiling_point_c"] == pytest.approx(98.05, abs=0.05)
    assert sent(here, "GET", "/kitchen", None)["altitude_m"] == 1900
    station = {"kind": "canner", "name": "Steam canner", "jars": 7, "heater": "steam"}
    assert sent(here, "POST", "/kitchen/stations", station, 201)["stations"][-1]["name"]
    lids = sent(here, "PUT", "/kitchen/jars/pint", {"jars": 3, "lids": 2})
    assert next(k for k in lids["jar_kinds"] if k["key"] == "pint")["lids"] == 2
    person = {"name": "Wenna", "sign_in": "Wenna", "password": "long enough", "role": "helper"}
    people = sent(here, "POST", "/kitchen/people", person, 201)["people"]
    path = f"/kitchen/people/{people[-1]['id']}/hours"
    hours = sent(here, "PUT", path, {"start": "08:00", "end": "12:30"})["people"][-1]["hours"]
    assert hours == {"start": "08:00", "end": "12:30"}
    twice = sent(here, "POST", "/kitchen/people", person, 422)
    assert twice["errors"][0]["pointer"] == "/sign_in"


@pytest.mark.parametrize(
    ("method", "path", "body", "pointer"),
    [
        ("PATCH", "/kitchen", {"altitude_m": 99000}, "/altitude_m"),
        ("PATCH", "/kitchen", {"instruments": ["wand"]}, "/instruments"),
        ("PATCH", "/kitchen", {"containers": {"crate": -1}}, "/containers/crate"),
        ("POST", "/kitchen/vessels", {"kind": "pot", "name": "P", "litres": 0}, "/litres"),
        ("POST", "/kitchen/stations", {"kind": "burner", "name": ""}, "/name"),
        ("POST", "/kitchen/places", {"kind": "shelf", "name": "S", "temp_c": 90}, "/temp_c"),
        ("POST", "/kitchen/effect", {"pressure_hpa": 1}, "/pressure_hpa"),
    ],
)
def test_what_no_kitchen_has_is_said_at_its_field(
    here: Kitchen, method: str, path: str, body: Any, pointer: str
) -> None:
    problem = sent(here, method, path, body, 422)
    assert problem["errors"][0]["pointer"] == pointer


def test_a_mistaken_reading_is_put_right(here: Kitchen) -> None:
    batch = sent(here, "POST", "/batches", sent_plan(kg=4), 201)
    path = f"/batches/{batch['id']}/steps/{batch['steps'][0]['id']}"
    sent(here, "POST", f"{path}/start", {})
    sweet = {"quantity": "brix", "value": 13.2, "instrument": "refractometer"}
    said = {"readings": [{"quantity": "volume_ml", "value": 3600, "instrument": "jug"}, sweet]}
    step = sent(here, "POST", f"{path}/finish", said)["steps"][0]
    assert not step["balance"]["agrees"]
    reading = step["balance"]["reading_id"]
    bad = sent(here, "POST", f"{path}/readings/{reading}/correct", {"value": 99000}, 422)
    assert bad["errors"][0]["pointer"] == "/volume_ml"
    after = sent(here, "POST", f"{path}/readings/{reading}/correct", {"value": 2000})["steps"][0]
    assert after["balance"]["agrees"]
    assert [r["corrected"] for r in after["readings"]] == [True, False, False]
