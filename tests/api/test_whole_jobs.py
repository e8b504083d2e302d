"""Whole jobs over HTTP, from what comes in to what stands labelled on a shelf."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest

from elderberry.api.deps import now as moment
from elderberry.core.method import NO_FRUIT, methods
from tests.api.conftest import Kitchen
from tests.api.test_fruit_to_juice import sent

MORNING = datetime(2026, 10, 3, 7, tzinfo=UTC)
Body = dict[str, Any]


class Cook:
    """Somebody who works a batch through, reading what is said to be read."""

    def __init__(self, kitchen: Kitchen, body: Body) -> None:
        self.kitchen, self.now = kitchen, MORNING
        kitchen.client.app.dependency_overrides[moment] = lambda: self.now  # type: ignore[attr-defined]
        self.batch: Body = sent(kitchen, "POST", "/batches", body, 201)

    def step(self) -> Body:
        """The step that is next: what needs hands before what only waits."""
        ready = [s for s in self.batch["steps"] if s["ready"]]
        return min(ready, key=lambda s: s["role"] in {"cool", "check"})

    def act(self, step: Body, what: str, body: Body | None = None, status: int = 200) -> Body:
        """Press something at a step."""
        path = f"/batches/{self.batch['id']}/steps/{step['id']}/{what}"
        answer: Body = sent(self.kitchen, "POST", path, body or {}, status)
        if status == 200:
            self.batch = answer
        return answer

    def work(self, step: Body, read: Mapping[str, float] | None = None, status: int = 200) -> Body:
        """Begin a step, wait for it, and end it with what was read."""
        if step["may_fill_now"]:
            step = self._same(self.act(step, "filled-now", {"temp_c": 93.5}), step)
        if not step["starts_by_itself"]:
            self.act(step, "start")
        if step["counts_from_boil"]:
            self.now += timedelta(minutes=8)
            self.act(step, "boil-reached")
        self.now += timedelta(minutes=step["minutes"]["typ"] + 0.5)
        said: Body = {"readings": [_reading(q, v) for q, v in (read or {}).items()]}
        if step["role"] == "fill":
            shown = self._same(self.batch, step)
            said["jars"] = [{"kind": j["kind"], "count": j["count"]} for j in shown["packing"]]
            asked = {q["word"] for q in step["questions"]}
            said["said"] = sorted(asked & {"liquid_boiled"})
        answer = self.act(step, "finish", said, status)
        if status == 200 and step["kind"] == "slice_up":
            assert self._same(answer, step)["may_put_cold"]
            self.act(step, "put-cold")
        return answer

    def _same(self, batch: Body, step: Body) -> Body:
        """A step as it stands after a press."""
        return next(s for s in batch["steps"] if s["id"] == step["id"])

    def check(self, step: Body) -> None:
        """Every seal held."""
        self.now += timedelta(hours=12, minutes=5)
        for jar in step["jar_ids"]:
            self.act(step, f"jars/{jar}/seal", {"held": True})
        self.act(step, "finish")

    def through(self, read: Mapping[str, Mapping[str, float]]) -> None:
        """Everything there is to do, with what is read at kinds of step."""
        for _ in range(60):
            if self.batch["finished"]:
                return
            step = self.step()
            if step["role"] == "check":
                self.check(step)
            else:
                self.work(step, read.get(step["kind"]))
        raise AssertionError(f"stuck at {self.step()['title']}")


INSTRUMENTS = {
    "volume_ml": "jug", "mass_g": "scale", "temp_c": "thermometer", "brix": "refractometer",
    "ph": "ph_meter",
}  # fmt: skip


def _reading(quantity: str, value: float) -> Body:
    return {"quantity": quantity, "value": value, "instrument": INSTRUMENTS[quantity]}


TWO_ENDS = [
    {"kind": "press"},
    {"kind": "split", "params": {"share": 30}},
    {"kind": "heat_to", "takes": ["rest"]},
    {"kind": "fill", "takes": ["hot"]},
    {"kind": "stir_in", "takes": ["part", "honey"]},
    {"kind": "fill", "takes": ["mixed"]},
]


def test_three_go_in_and_two_come_out(here: Kitchen) -> None:
    """Asian pears and redcurrants pressed together; the lesser part with honey for the cold."""
    body = {
        "inputs": [
            {"material": "redcurrant", "grams": 5200},
            {"material": "blackcurrant", "grams": 1900, "key": "more"},
            {"material": "honey", "key": "honey", "target": "brix", "value": 40},
        ],
        "ends": [
            {"key": "fill", "keep": "shelf", "jar_kinds": ["pint"]},
            {"key": "fill_2", "keep": "chill", "jar_kinds": ["pint"], "name": "Currant and honey"},
        ],
        "steps": [{"kind": "press", "takes": ["fruit", "more"]}, *TWO_ENDS[1:]],
    }
    plan = sent(here, "POST", "/plans", body)
    shelf, cold = plan["ends"]
    assert (shelf["keep"], cold["keep"]) == ("shelf", "chill")
    assert shelf["process"]["minutes"] >= 10
    assert cold["process"] is None
    assert cold["brix"]["typ"] == pytest.approx(40, abs=0.5)
    honey = next(i for i in plan["inputs"] if i["material"] == "honey")
    assert honey["mass_g"]["typ"] > 100
    cook = Cook(here, body)
    cook.through({"press": {"volume_ml": 3600}, "heat_to": {"temp_c": 97}})
    labels = {j["label"] for j in cook.batch["jars"]}
    assert "Currant and honey" in labels
    assert any("currant" in label.lower() and "juice" in label for label in labels)
    assert {j["place"] for j in cook.batch["jars"]} == {"Cellar shelf", "Refrigerator"}
    stood = sent(here, "GET", "/shelf", None)
    assert stood["jars"] == len(cook.batch["jars"])
    first = cook.batch["jars"][0]
    page = sent(here, "GET", f"/jars/{first['id']}", None)
    assert page["batch"]["code"] == cook.batch["code"]
    assert not page["findings"]


def test_a_flow_without_fruit_goes_to_the_cold(here: Kitchen) -> None:
    body = {
        "inputs": [
            {"material": "water", "grams": 1500, "key": "water"},
            {"material": "sugar_white", "key": "sugar", "share": 1.0, "of": "water"},
        ],
        "ends": [{"key": "fill", "keep": "chill", "jar_kinds": ["pint"]}],
        "steps": [{"kind": "stir_in", "takes": ["water", "sugar"]}, {"kind": "fill"}],
    }
    plan = sent(here, "POST", "/plans", body)
    assert plan["ends"][0]["brix"]["typ"] == pytest.approx(50, abs=0.5)
    assert plan["ends"][0]["may_start"]
    on_a_shelf = {**body, "ends": [{"key": "fill", "keep": "shelf", "jar_kinds": ["pint"]}]}
    assert not sent(here, "POST", "/plans", on_a_shelf)["ends"][0]["may_start"]
    cook = Cook(here, body)
    cook.through({})
    assert {j["label"] for j in cook.batch["jars"]} == {"Syrup"}


def test_a_load_read_too_mild_stays_so_over_http(here: Kitchen) -> None:
    body = {
        "inputs": [{"material": "cherry_sweet", "grams": 4000},
                   {"material": "sugar_white", "grams": 900, "key": "sugar"}],
        "ends": [{"jar_kinds": ["pint"]}],
        "method_key": "steam_juiced",
    }  # fmt: skip
    cook = Cook(here, body)
    cook.work(cook.step(), {"volume_ml": 1900, "ph": 4.6})
    refused: Body = {}
    for _ in range(6):
        step = cook.step()
        path = f"/api/batches/{cook.batch['id']}/steps/{step['id']}"
        if step["role"] in {"fill", "process"}:
            refused = here.client.post(f"{path}/start", json={}).json()
            if "code" in refused:
                break
            said = {"jars": [{"kind": "pint", "count": 3}]}
            refused = here.client.post(f"{path}/finish", json=said).json()
            if "code" in refused:
                break
            cook.batch = refused
            continue
        cook.work(step, {"temp_c": 97} if step["role"] == "heat" else None)
    assert refused["rule"] == "ph-too-high" if "rule" in refused else "4.60" in str(refused)
    assert not sent(here, "GET", "/shelf", None)["jars"]


def test_an_end_that_is_not_there_is_said_in_words(here: Kitchen) -> None:
    body = {"inputs": [{"material": "damson", "grams": 4000}], "method_key": "steam_juiced",
            "ends": [{"key": "fill", "keep": "shelf", "jar_kinds": ["barrel"]}]}  # fmt: skip
    problem = sent(here, "POST", "/plans", body, 422)
    assert "barrel" in str(problem)
    nobody = {"inputs": [{"material": "moon", "grams": 4000}]}
    assert "moon" in str(sent(here, "POST", "/plans", nobody, 422))
    silent = {"inputs": [{"material": "damson"}]}
    problem = sent(here, "POST", "/plans", silent, 422)
    assert problem["errors"][0]["pointer"] == "/inputs/0/grams"


EVERY = sorted(methods())
COLD = EVERY[::4]
"""The cold is one way for all: a quarter of the methods shows it."""


@pytest.mark.parametrize(
    ("key", "keep"), [*((k, "shelf") for k in EVERY), *((k, "freeze") for k in COLD)]
)
def test_every_method_goes_from_the_crate_to_the_place(here: Kitchen, key: str, keep: str) -> None:
    """Another fruit and amount than any picture of it, up a mountain, to the shelf or the cold."""
    sent(here, "PATCH", "/kitchen", {"altitude_m": 1430.0})
    chosen = methods()[key]
    form, other = chosen.forms[0], "orange" if "citrus" in chosen.natures else "redcurrant"
    fruit = chosen.fruits[-1] if chosen.fruits else other
    first: Body = {"material": fruit, "grams": 700 if form == "dried" else 3700, "form": form}
    sugar = {"line": "800 g sugar"}
    dryer = {"kind": "freeze_dryer", "name": "Freeze dryer", "trays": 4}
    sent(here, "POST", "/kitchen/stations", dryer, 201)
    plain = [{"line": "3 l water"}, *([] if chosen.inputs else [sugar])]
    sweet = [{"material": chosen.of, "grams": 800}] if chosen.begins else plain
    body: Body = {
        "inputs": sweet if form == NO_FRUIT else [first],
        "ends": [{"keep": keep, "jar_kinds": ["pint"]}],
        "method_key": key,
    }
    plan = sent(here, "POST", "/plans", body)
    if not plan["ends"][0]["may_start"]:
        assert [f for f in plan["ends"][0]["findings"] if f["level"] == "stop"]
        body["ends"] = [{"keep": "chill", "jar_kinds": ["pint"]}]
    cook = Cook(here, body)
    cook.through(
        {
            "heat_to": {"temp_c": 94.6, "ph": 3.4},
            "boil_through": {"temp_c": 95},
            "fill": {"ph": 3.3},
        }
    )
    jars = cook.batch["jars"]
    assert jars
    assert all(j["place"] and j["best_by"] for j in jars)
    assert all(j["label"] for j in jars)
    if body["ends"][0]["keep"] == "shelf" and plan["ends"][0]["process"]:
        first = sent(here, "GET", f"/jars/{jars[0]['id']}", None)
        assert first["process"]["minutes"] >= plan["ends"][0]["process"]["minutes"]


def test_a_boil_down_is_put_right_by_a_reading_midway(here: Kitchen) -> None:
    """Its clock follows what was read; the jug in between is not taken for what it gives."""
    body = {
        "inputs": [{"material": "apple", "line": "22 kg of apples"}],
        "ends": [{"jar_kinds": ["pint"]}],
        "method_key": "apple_reduced",
    }
    cook = Cook(here, body)
    while cook.step()["kind"] != "reduce":
        cook.work(cook.step())
    step = cook.step()
    cook.act(step, "start")
    cook.now += timedelta(minutes=15)
    begun = cook._same(cook.act(step, "boil-reached"), step)
    clear = next(lot for lot in cook.batch["lots"] if lot["key"] == step["takes"][0])
    cook.now += timedelta(minutes=60)
    seven_tenths = 0.7 * clear["now_ml"]["typ"]
    read = {"quantity": "volume_ml", "value": seven_tenths, "instrument": "jug"}
    midway = cook._same(cook.act(step, "readings", read), step)
    assert "more." in midway["midway"]
    assert midway["due_at"] != begun["due_at"]
    boiled = next(lot for lot in cook.batch["lots"] if lot["key"] == step["gives"][0])
    assert boiled["volume_ml"] is None
    far = {"quantity": "volume_ml", "value": 0.25 * seven_tenths, "instrument": "jug"}
    dry = {"quantity": "volume_ml", "value": 100, "instrument": "jug"}
    assert "read it again" in cook.act(step, "readings", dry, 422)["errors"][0]["detail"]
    assert "brings it back" in cook._same(cook.act(step, "readings", far), step)["midway"]
