"""The API by whole bodies: answers, problems, households apart, people at the same time."""

from __future__ import annotations

import re
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.api.conftest import Kitchen
from tests.briefs import sent_plan

DAMSONS = sent_plan()


def start(kitchen: Kitchen, **more: Any) -> dict[str, Any]:
    answer = kitchen.client.post("/api/batches", json={**DAMSONS, **more})
    assert answer.status_code == 201, answer.text
    batch: dict[str, Any] = answer.json()
    return batch


def step_path(batch: dict[str, Any], number: int = 0) -> str:
    return f"/api/batches/{batch['id']}/steps/{batch['steps'][number]['id']}"


def test_the_kitchen_says_where_water_boils(here: Kitchen) -> None:
    body = here.client.get("/api/kitchen").json()
    assert body["altitude_m"] == 585
    assert body["boiling_point_c"] == pytest.approx(98.0, abs=0.06)
    assert {f["key"] for f in body["fruits"]} >= {"damson", "apple", "quince"}


def test_a_plan_holds_everything_the_screen_shows(here: Kitchen) -> None:
    body = here.client.post("/api/plans", json=DAMSONS).json()
    assert body["loads"] == 3
    (end,) = body["ends"]
    assert end["litres"]["lo"] < end["litres"]["typ"] < end["litres"]["hi"]
    assert end["brix"]["evidence"] == end["ph"]["evidence"] == "typical"
    assert end["process"]["minutes"] == 15
    assert end["process"]["source"] == "extension juice bulletins"
    assert end["process"]["schools"] == {"row": 15, "per_thousand": 12, "banded": 15}
    assert end["generous"]["count"] > end["expected"]["count"]
    assert body["may_start"]
    assert {f["level"] for f in body["findings"]} == {"caution", "note"}
    assert all(f["source"] for f in body["findings"])
    assert not any(f["of_case"] for f in body["findings"])
    doubted = here.client.post("/api/plans", json=sent_plan(ph=4.15)).json()["findings"]
    assert [f["id"] for f in doubted if f["of_case"]] == ["ph-and-acidity-disagree"]
    thickness = {lot["key"]: lot["mass_g"]["typ"] for lot in body["lots"]}
    came = thickness["fruit"] + sum(v for k, v in thickness.items() if k.startswith("steam"))
    went = sum(v for k, v in thickness.items() if k.startswith(("juice", "pomace")))
    assert came == pytest.approx(went, rel=1e-6)


@pytest.mark.parametrize(
    ("change", "pointer", "words"),
    [
        ({"kg": -3}, "/inputs/0/grams", "more than 0"),
        ({"kg": 90_000}, "/inputs/0/grams", "at most 500000"),
        ({"kg": "plenty"}, "/inputs/0/grams", "has to be a number"),
        ({"kg": None}, "/inputs/0/grams", "How much damson goes in has to be a number"),
        ({"ph": 31}, "/inputs/0/ph", "at most 7.5"),
        ({"brix": 0}, "/inputs/0/brix", "at least 1"),
        ({"fruit": "durian"}, "/inputs/0/material", "called 'durian'"),
        (
            {"fruit": "grapefruit", "method_key": "steam_juiced"},
            "/inputs/0/material",
            "not steam-juiced",
        ),
        ({"jar_kinds": ("bathtub",)}, "/ends/0/jar_kinds", "no kind of jar"),
        (
            {"kg": 20, "loads": 1},
            "/loads",
            "do not fit a basket of 8 l in 1 load: it takes 5",
        ),
        ({"keep": "bury"}, "/ends/0/keep", "shelf"),
        ({"sugar": 3}, "/sugar", "does not know this field"),
    ],
)
def test_a_bad_figure_is_named_at_its_field(
    here: Kitchen, change: dict[str, Any], pointer: str, words: str
) -> None:
    answer = here.client.post("/api/plans", json=sent_plan(**change))
    assert answer.status_code == 422
    assert answer.headers["content-type"] == "application/problem+json"
    body = answer.json()
    assert body["status"] == 422
    assert body["type"].startswith("urn:elderberry:")
    assert [e["pointer"] for e in body["errors"]] == [pointer]
    assert words in body["errors"][0]["detail"]
    assert here.client.post("/api/batches", json=sent_plan(**change)).status_code == 422
    assert here.client.get("/api/batches").json() == []


def test_a_stop_is_a_problem_with_its_reason_and_remedy(here: Kitchen) -> None:
    answer = here.client.post("/api/batches", json=sent_plan("elderberry"))
    assert answer.status_code == 409
    body = answer.json()
    assert body["code"] == "product-untested"
    assert body["finding"]["level"] == "stop"
    assert body["finding"]["change"] == "keep=chill"


def test_a_step_is_started_read_lengthened_and_finished(here: Kitchen) -> None:
    batch = start(here)
    path = step_path(batch)
    begun = here.client.post(f"{path}/start").json()["steps"][0]
    assert begun["phase"] == "running"
    assert begun["due_at"] is not None
    longer = here.client.post(
        f"{path}/more-time", json={"minutes": 15, "reason": "skins still whole"}
    ).json()
    assert longer["steps"][0]["extra_minutes"] == 15
    sent = {"quantity": "brix", "value": 13.4, "instrument": "refractometer"}
    read = here.client.post(f"{path}/readings", json=sent).json()["steps"][0]["readings"][0]
    assert (read["value"], read["agreement"], read["by"]) == (13.4, "agrees", "Oda")
    said = {"readings": [{"quantity": "volume_ml", "value": 2000, "instrument": "jug"}]}
    done = here.client.post(f"{path}/finish", json=said).json()
    assert done["steps"][0]["phase"] == "done"
    assert done["juice_measured_l"] == 2
    assert done["version"] == 5
    late = here.client.post(f"{path}/readings", json=sent)
    assert (late.status_code, late.json()["code"]) == (409, "already-finished")
    assert "already finished by Oda" in late.json()["detail"]


def test_two_people_finish_the_same_step_at_once(here: Kitchen) -> None:
    batch = start(here)
    path = step_path(batch)
    here.client.post(f"{path}/start")
    with ThreadPoolExecutor(4) as pool:
        answers = list(pool.map(lambda _: here.client.post(f"{path}/finish", json={}), range(4)))
    assert sorted(a.status_code for a in answers) == [200, 409, 409, 409]
    assert {a.json()["code"] for a in answers if a.status_code == 409} == {"already-finished"}


def test_a_retry_is_answered_and_not_repeated(here: Kitchen) -> None:
    key = {"Idempotency-Key": "the-same"}
    first, second = (
        here.client.post("/api/batches", json=DAMSONS, headers=key).json() for _ in range(2)
    )
    assert first["id"] == second["id"]
    assert len(here.client.get("/api/batches").json()) == 1


def test_everything_of_another_household_answers_404(here: Kitchen, elsewhere: Kitchen) -> None:
    theirs = start(elsewhere)
    kitchen = elsewhere.client.get("/api/kitchen").json()
    vessel = {"kind": "pot", "name": "Pot", "litres": 8}
    lot = elsewhere.client.post("/api/lots", json={"line": "3 kg damsons"}).json()
    ids = {
        "batch_id": theirs["id"], "other_id": theirs["id"], "step_id": theirs["steps"][0]["id"],
        "jar_id": 1, "stack_id": 1, "code": "DM-26-01-01",
        "reading_id": 1, "lot_id": lot["id"], "kind": "pint",
        "station_id": kitchen["stations"][0]["id"], "place_id": kitchen["places"][0]["id"],
        "person_id": elsewhere.who.person_id,
        "token": "guessed",
        "key": elsewhere.client.post(
            "/api/methods", json={"name": "Theirs", "based_on": "steam_juiced"}
        ).json()["method"]["key"],
        "vessel_id": elsewhere.client.post("/api/kitchen/vessels", json=vessel).json()[
            "vessels"][0]["id"],
    }  # fmt: skip
    routes = here.client.get("/api/openapi.json").json()["paths"]
    nobodys = (
        "/api/kitchen/jars/{kind}",
        "/api/kitchen/jars/{kind}/lids",
        "/api/keeping/{what}.csv",
        "/api/notes/seasons/{year}",
        "/api/notes/seasons/{year}/sheet.pdf",
    )
    for path in nobodys:  # a kind of jar, or of table, and a year are nobody's own
        routes.pop(path)
    tried = 0
    bodies = {
        "places/{place_id}/readings": {"temp_c": 14}, "/log": {"text": "2026-07-01 06:00,18"},
        "/trace": {"text": "2026-07-01 06:00,18", "probe": "in_it"},
        "/mishaps": {"what": "hose_off", "amount": "1 cup"}, "/drink": {"ml": 250},
        "/servings": {"ml": 250, "name": "evening glass"},
        "/finish": {}, "/more-time": {"minutes": 5, "reason": "because"},
        "/notes": {"what": "refilled"}, "/acid": {"line": "5 g citric acid"},
        "/filled-now": {"temp_c": 91}, "/water-back": {"line": "50 ml"},
        "/seal": {"held": True}, "/ending": {"keep": "chill"},
        "/readings": {"quantity": "brix", "value": 12, "instrument": "refractometer"},
        "/correct": {"value": 3}, "{vessel_id}": vessel,
        "{station_id}": {"kind": "burner", "name": "Ring"},
        "{place_id}": {"kind": "cellar", "name": "Cellar", "temp_c": 9},
        "/hours": {"start": "08:00", "end": "20:00"},
            "/password": {"password": "three quinces"},
    }  # fmt: skip
    for path, methods in routes.items():
        if "{" not in path:
            continue
        url = path.format(**ids)
        for method in methods:
            body = next((b for end, b in bodies.items() if path.endswith(end)), None)
            asked = {"of": "3 kg plums"}
            answer = here.client.request(method.upper(), url, json=body, params=asked)
            assert answer.status_code == 404, (method, url, answer.text)
            tried += 1
    assert tried >= 10
    assert here.client.get("/api/batches").json() == []
    assert here.client.get("/api/hob").json() == []
    assert here.client.get("/api/lots").json() == []


def test_a_strangers_step_under_our_batch_is_not_found(here: Kitchen, elsewhere: Kitchen) -> None:
    ours, theirs = start(here), start(elsewhere)
    path = f"/api/batches/{ours['id']}/steps/{theirs['steps'][0]['id']}/start"
    assert here.client.post(path).status_code == 404


def test_nothing_is_shown_to_whoever_is_not_signed_in(here: Kitchen, stranger: TestClient) -> None:
    for path in (
        "/api/kitchen",
        "/api/lots",
        "/api/methods",
        "/api/batches",
        "/api/shelf",
        "/api/today",
        "/api/events",
    ):
        assert stranger.get(path).status_code == 401
    assert stranger.get("/api/session").json() == {
        "name": None, "role": None, "demo": False, "founded": True,
    }  # fmt: skip
    assert stranger.post("/api/session/demo").status_code == 404


def test_sign_in_is_http_only_and_throttled(here: Kitchen, stranger: TestClient) -> None:
    wrong = {"sign_in": "sallow-hill", "password": "guess"}
    codes = [stranger.post("/api/session", json=wrong).status_code for _ in range(9)]
    assert codes == [401] * 8 + [429]
    cookie = here.client.post("/api/session/household", json={}).headers.get("set-cookie")
    assert cookie is None
    assert here.client.request("DELETE", "/api/session").status_code == 204
    assert here.client.get("/api/kitchen").status_code == 401


def test_the_session_cookie_is_out_of_reach_of_scripts(here: Kitchen) -> None:
    named = {"sign_in": "sallow-hill", "password": "sallow-hill" * 2}
    cookie = here.client.post("/api/session", json=named).headers["set-cookie"]
    assert re.search(r"HttpOnly", cookie)
    assert re.search(r"samesite=strict", cookie, re.IGNORECASE)


def test_an_empty_installation_founds_one_household(stranger: TestClient) -> None:
    client = stranger
    new = {
        "household": "Our kitchen", "altitude_m": 585, "time_zone": "Europe/Vienna",
        "name": "Wenna", "sign_in": "Wenna", "password": "correct horse",
    }  # fmt: skip
    short = client.post("/api/session/household", json={**new, "password": "short"})
    assert short.json()["errors"][0]["pointer"] == "/password"
    assert client.post("/api/session/household", json=new).status_code == 201
    assert client.get("/api/kitchen").json()["name"] == "Our kitchen"
    again = client.post("/api/session/household", json=new)
    assert (again.status_code, again.json()["code"]) == (409, "household-exists")


def test_an_own_process_is_refused_where_a_table_or_a_stop_speaks(here: Kitchen) -> None:
    entry = {
        "product": "vinegar_syrup", "jar_ml": 473, "minutes": 15, "up_to_m": 600,
        "max_ph": 3.6, "source": "Food authority leaflet 12",
    }  # fmt: skip
    made = here.client.post("/api/own-processes", json=entry)
    assert made.status_code == 201
    own = made.json()["own"]
    assert [(o["product"], o["minutes"]) for o in own] == [("vinegar syrup", {"600": 15})]
    for product in ("apple_juice", "elderberry", "cocoa_syrup", "moonshine"):
        refused = here.client.post("/api/own-processes", json={**entry, "product": product})
        assert refused.status_code == 422
        assert refused.json()["errors"][0]["pointer"] == "/product"
    assert len(here.client.get("/api/safety").json()["own"]) == 1


def test_changes_from_other_sites_are_refused(here: Kitchen) -> None:
    for headers in ({"Origin": "https://elsewhere.example"}, {"Sec-Fetch-Site": "cross-site"}):
        answer = here.client.post("/api/batches", json=DAMSONS, headers=headers)
        assert (answer.status_code, answer.json()["code"]) == (403, "other-site")


def test_answers_carry_a_strict_policy(here: Kitchen) -> None:
    headers = here.client.get("/api/kitchen").headers
    assert "script-src 'self'" in headers["content-security-policy"]
    assert headers["cache-control"] == "no-store"


def test_an_address_that_is_not_there_is_a_problem_too(here: Kitchen) -> None:
    answer = here.client.get("/api/nowhere")
    assert answer.status_code == 404
    assert answer.json()["title"] == "Not Found"
