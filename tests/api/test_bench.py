"""The Bench over HTTP: the core's own figures, by the address alone."""

from __future__ import annotations

from typing import Any

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core import sums
from elderberry.services.household import kitchens
from tests.api.conftest import Kitchen

ASKED: dict[str, dict[str, Any]] = {
    "sweeten": {"volume_ml": 2000, "brix": 12, "target": 40, "material": "honey"},
    "boil-down": {"volume_ml": 4000, "brix": 14, "width_cm": 28, "stop": "depth", "target": 4},
    "thermometer": {"brix": 65},
    "blend": {"first_ml": 1000, "first": 60, "second_ml": 3000, "second": 11, "target": 20},
    "cold-plate": {"brix": 66, "hot_c": 104, "plate_c": 18, "drop": "coats a spoon"},
    "thin": {"brix": 48, "acid_g_l": 20, "glass_ml": 250, "with_what": "tea", "sweet": 10,
             "sharp": 5},
}  # fmt: skip
OF_A_KITCHEN = {"sweeten", "boil-down", "thermometer"}


@pytest.mark.parametrize("name", ASKED)
def test_what_is_shown_is_what_the_core_says(here: Kitchen, name: str) -> None:
    shown = here.client.get(f"/api/bench/{name}", params=ASKED[name])
    assert shown.status_code == 200, shown.text
    asked = dict(ASKED[name])
    with Orm(here.client.app.state.settings.engine) as orm:  # type: ignore[attr-defined]
        kitchen = kitchens.for_core(orm, here.who)
    if name == "thermometer":
        asked["reads_c"] = None
    reckoned = getattr(sums, name.replace("-", "_"))
    found = reckoned(kitchen, **asked) if name in OF_A_KITCHEN else reckoned(**asked)
    answer = shown.json()["answer"]
    if found.answer.value is None:
        assert answer["words"] == found.answer.words
    else:
        assert answer["value"]["typ"] == pytest.approx(found.answer.value.typ)
    assert [s["key"] for s in shown.json()["then"]] == [s.key for s in found.then]
    assert shown.json()["draws"] == pytest.approx(found.draws)


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
