"""What nobody should send: each is refused in words, none breaks the server."""

from __future__ import annotations

from typing import Any

import pytest

from tests.api.conftest import Kitchen
from tests.briefs import sent_plan

Json = dict[str, Any]
LOT: Json = {"line": "2 kg damsons"}
PLAN: Json = sent_plan("damson", 4.0)
FOUND: Json = {
    "household": "Sallow Hill", "altitude_m": 585, "time_zone": "Europe/Vienna",
    "name": "Oda", "sign_in": "oda", "password": "two damson trees",
}  # fmt: skip


def fruit(**more: object) -> Json:
    """A plan whose fruit has something more said of it."""
    return {**PLAN, "inputs": [{**PLAN["inputs"][0], **more}]}


@pytest.mark.parametrize(
    ("path", "sent"),
    [
        ("/api/lots", {**LOT, "picked_on": "9999-12-31"}),
        ("/api/lots", {**LOT, "picked_on": "0001-01-01"}),
        ("/api/lots", {**LOT, "picked_on": 7}),
        ("/api/plans", fruit(picked_on="9999-12-31")),
        ("/api/plans", fruit(picked_on="0001-01-01")),
        ("/api/batches", fruit(picked_on="9999-12-31")),
        ("/api/batches", fruit(picked_on="0001-01-01")),
        ("/api/plans", fruit(grams=False)),
        ("/api/plans", fruit(brix=True)),
        ("/api/plans", {**PLAN, "loads": True}),
        ("/api/plans", fruit(lot_id=10**30)),
        ("/api/batches", fruit(lot_id=10**30)),
        ("/api/lots", {**LOT, "source": "a\u0000b"}),
        ("/api/lots", {"line": "\u200b\u200d"}),
        ("/api/kitchen/places", {"kind": "shelf", "name": "\u200b\ufeff", "temp_c": 12}),
        ("/api/kitchen/people", {"name": "Ida", "sign_in": "İ" * 80, "password": "two quinces"}),
        ("/api/ingredients", {"name": "\u2060"}),
        ("/api/ingredients", {"name": "\u0000"}),
    ],
)
def test_it_is_refused_at_its_place(here: Kitchen, path: str, sent: Json) -> None:
    answer = here.client.post(path, json=sent)
    assert answer.status_code == 422, answer.text[:300]
    assert answer.json()["errors"], answer.text[:300]


@pytest.mark.parametrize("zone", ["Europe", "Nowhere/Land", "../etc/passwd", "posixrules", " "])
def test_there_is_no_such_time_zone(here: Kitchen, zone: str) -> None:
    answer = here.client.patch("/api/kitchen", json={"time_zone": zone})
    assert (answer.status_code, answer.json()["errors"][0]["pointer"]) == (422, "/time_zone")


@pytest.mark.parametrize(
    "rows",
    [
        [{"kind": "fill", "takes": ["fruit"]}],
        [{"kind": "fill"}],
        [{"kind": "process"}],
        [{"kind": "seal_check"}],
        [{"kind": "cool"}],
        [{"kind": "heat_to"}, {"kind": "fill"}],
        [{"kind": "steam_juice"}, {"kind": "fill", "takes": ["hot"]}],
        [{"kind": "combine", "takes": ["fruit", "fruit"]}, {"kind": "fill"}],
        [{"kind": "split"}, {"kind": "split"}],
        [{"kind": "stir_in"}],
        [{"kind": "steam_juice", "takes": []}, {"kind": "steam_juice", "takes": ["juice"]}],
    ],
)
def test_a_flow_that_cannot_be_is_refused(here: Kitchen, rows: list[Json]) -> None:
    for path, sent in (
        ("/api/plans", {**PLAN, "steps": rows}),
        ("/api/batches", {**PLAN, "steps": rows}),
        ("/api/flows", {"steps": rows}),
    ):
        answer = here.client.post(path, json=sent)
        assert answer.status_code in {200, 409, 422}, f"{path} {rows} {answer.text[:300]}"
        if answer.status_code != 200:
            assert answer.json()["detail"]


def test_no_step_can_be_taken_out_that_leaves_a_broken_flow(here: Kitchen) -> None:
    for method in ("steam_juiced", "weighted_gooseberry"):
        flow = here.client.post("/api/flows", json={"method_key": method}).json()
        rows = [{k: s[k] for k in ("kind", "key", "takes", "gives")} for s in flow["steps"]]
        for row in rows:
            edit = {"steps": rows, "act": "remove", "step": row["key"]}
            answer = here.client.post("/api/flows", json=edit)
            assert answer.status_code in {200, 409, 422}, (
                f"{method} {row['key']} {answer.text[:300]}"
            )
            left = [r for r in rows if r["key"] != row["key"]]
            answer = here.client.post("/api/plans", json={**PLAN, "steps": left})
            assert answer.status_code in {200, 409, 422}, (
                f"{method} {row['key']} {answer.text[:300]}"
            )


@pytest.mark.parametrize(
    "path", ["/%00", "/api/%00", "/" + "x" * 300, "/" + "x/" * 3000, "/.env", "/%2e%2e/x"]
)
def test_odd_addresses_are_only_not_there(here: Kitchen, path: str) -> None:
    assert here.client.get(path).status_code in {200, 404}


@pytest.mark.parametrize(
    "origin", ["http://[", "null", "", "http://elsewhere", "http://127.0.0.1:x"]
)
def test_other_origins_change_nothing(here: Kitchen, origin: str) -> None:
    answer = here.client.post("/api/lots", json=LOT, headers={"origin": origin})
    assert answer.status_code == 403


def test_a_body_that_never_ends_is_refused(here: Kitchen) -> None:
    def drops() -> Any:
        for _ in range(40):
            yield b" " * 16_384

    answer = here.client.post(
        "/api/lots", content=drops(), headers={"content-type": "application/json"}
    )
    assert answer.status_code == 413


@pytest.mark.parametrize("said", ["-1", "x", "9" * 40])
def test_a_length_that_is_none(here: Kitchen, said: str) -> None:
    answer = here.client.post("/api/lots", content=b"{}", headers={"content-length": said})
    assert answer.status_code in {400, 413}


@pytest.mark.parametrize("path", ["/api/kitchen", "/api/today", "/api/ready", "/api/session", "/"])
def test_head_is_get_without_a_body(here: Kitchen, path: str) -> None:
    asked, head = here.client.get(path), here.client.head(path)
    assert (head.status_code, head.content) == (asked.status_code, b"")


def test_half_a_letter_is_refused(here: Kitchen) -> None:
    answer = here.client.post(
        "/api/lots", content=b'{"line": "\\ud800 kg damsons"}',
        headers={"content-type": "application/json"},
    )  # fmt: skip
    assert answer.status_code == 422
