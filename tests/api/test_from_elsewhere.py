"""Methods and recipes from elsewhere over the API: what cannot be is refused in words."""

from __future__ import annotations

from typing import Any

import pytest

from tests.api.conftest import Kitchen

BY_HAND = {
    "name": "Quince over the fence", "fruits": ["quince"], "source": "a neighbour",
    "inputs": [{"line": "120 g honey to the litre"}],
    "steps": [{"kind": "simmer"}, {"kind": "drain"}, {"kind": "heat_to"}, {"kind": "fill"}],
}  # fmt: skip


def test_the_same_file_twice_changes_nothing_and_another_is_a_version(here: Kitchen) -> None:
    first = here.client.post("/api/methods/file", json=BY_HAND)
    assert first.status_code == 201
    assert first.json()["method"]["source"] == "a neighbour"
    key = first.json()["method"]["key"]
    again = here.client.post("/api/methods/file", json=BY_HAND).json()
    assert again["method"]["version"] == 1
    other = {**BY_HAND, "note": "a little longer"}
    assert here.client.post("/api/methods/file", json=other).json()["method"]["version"] == 2
    written = here.client.get(f"/api/methods/{key}.json").json()
    assert written["note"] == "a little longer"
    assert here.client.post("/api/methods/file", json=written).json()["method"]["version"] == 2


def test_its_verdict_is_ours(here: Kitchen) -> None:
    raw = {**BY_HAND, "name": "Elder, raw", "fruits": ["elderberry"], "inputs": [],
           "steps": [{"kind": "mash"}, {"kind": "press"}, {"kind": "fill"}],
           "source": "tested and safe"}  # fmt: skip
    key = here.client.post("/api/methods/file", json=raw).json()["method"]["key"]
    plan = {"inputs": [{"line": "3 kg elderberries"}], "method_key": key}
    assert here.client.post("/api/plans", json=plan).json()["may_start"] is False


@pytest.mark.parametrize(
    "other",
    [
        {"steps": [{"kind": "fly"}]}, {"inputs": [{"line": "a heap of moonlight"}]},
        {"forms": ["frozn"]}, {"fruits": ["moonberry"]}, {"tested": True}, {"name": "Jelly\0"},
        {"name": "Rhubarb with honey"},
    ],
)  # fmt: skip
def test_what_cannot_be_kept_is_refused(here: Kitchen, other: dict[str, Any]) -> None:
    refused = here.client.post("/api/methods/file", json={**BY_HAND, **other})
    assert 400 <= refused.status_code < 500
    assert refused.json()["detail"]


def test_a_recipe_is_read_and_a_method_written_as_one(here: Kitchen) -> None:
    recipe = here.client.get(
        "/api/methods/rhubarb_honey/recipe.json", params={"of": "2 kg rhubarb"}
    )
    read = here.client.post("/api/recipes", json={"text": recipe.text}).json()
    assert read["name"] == "Rhubarb with honey"
    assert read["lines"][0].startswith("2 kg rhubarb")
    lines = here.client.post("/api/lines", json={"lines": read["lines"]}).json()
    assert [line["wrong"] for line in lines] == [None] * len(lines)
    refused = here.client.post("/api/recipes", json={"text": "{}"})
    assert refused.status_code == 422


def test_the_schema_is_published(here: Kitchen) -> None:
    schema = here.client.get("/api/methods/schema.json").json()
    assert schema["title"] == "MethodFile"
    assert schema["properties"]["steps"]["minItems"] == 1
