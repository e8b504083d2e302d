"""Nonsense at every address: it is refused in words, and never breaks the server."""

from __future__ import annotations

import random
import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import pytest

from elderberry.core import jars, materials, method, process
from elderberry.core.batch import readings
from elderberry.core.flow import kinds
from tests.api.conftest import Kitchen
from tests.briefs import sent_plan

Json = dict[str, Any]
ODD: tuple[Any, ...] = (
    None, True, "", "x", "\u0000", "💧" * 300, -1, 0, 1e308, 10**30, [], [None], {}, {"a": 1},
)  # fmt: skip
FRUITS = [k for k, f in materials.fruits().items() if f.brix and f.ph_risk == "low"]
WORDS: dict[str, list[str]] = {
    "material": [*FRUITS, "elderberry", "sugar_white", "lemon_fresh", "durian"],
    "form": ["", "whole", "frozen", "juice", "puree", "pomace", "melted"],
    "fruit_key": [*FRUITS, "elderberry", "melon", "durian"],
    "fruits": FRUITS,
    "jar_kinds": list(jars.kinds()),
    "kind": [*kinds.kinds(), *jars.kinds()],
    "method_key": ["", "", "steam_juiced", "weighted_gooseberry", "own_x"],
    "based_on": list(method.methods()),
    "line": ["9.6 kg plums", "18 quinces", "half a crate of pears", "5 lb", "a few", "honey"],
    "product": [*process.fillable(), "apple_juice", "tomato"],
    "instruments": list(readings.INSTRUMENTS),
    "instrument": list(readings.INSTRUMENTS),
    "said": ["peel_waxed", "wild_not_certain", "lid_used_before", "bulging"],
    "time_zone": ["Europe/Vienna", "Nowhere/At all"],
    "step": ["steam_juice", "heat_to", "fill", "x"],
    "lot": ["fruit", "juice", "pomace", "x"],
    "part_kind": ["pint", "quart", "bathtub"],
}
"""Words of this trade by the field they stand in."""
TURNS = 20
"""Bodies that are tried at each address."""


@dataclass(frozen=True)
class Address:
    """One thing that the API does, and the schema of what it is sent."""

    verb: str
    path: str
    body: Json | None


@dataclass
class Maker:
    """Makes bodies that a schema allows, out of its own limits and this trade's words."""

    schemas: Json
    dice: random.Random

    def make(self, schema: Json, name: str = "") -> Any:
        """Any value that the schema of a field allows, at its edges more often than not."""
        if "$ref" in schema:
            return self.make(self.schemas[schema["$ref"].rpartition("/")[2]], name)
        if "anyOf" in schema:
            return self.make(self.dice.choice(schema["anyOf"]), name)
        if "enum" in schema or "const" in schema:
            return self.dice.choice(schema.get("enum", [schema.get("const")]))
        made = getattr(self, f"_{schema.get('type', 'null')}")
        return made(schema, name)

    def _object(self, schema: Json, name: str) -> Json:
        if "properties" not in schema:
            inner = schema.get("additionalProperties") or {"type": "string"}
            return {
                self._string({}, name): self.make(inner) for _ in range(self.dice.choice((0, 2)))
            }
        needed = schema.get("required", [])
        return {
            field: self.make(inner, field)
            for field, inner in schema["properties"].items()
            if field in needed or self.dice.random() < 0.3
        }

    def _array(self, schema: Json, name: str) -> list[Any]:
        if "prefixItems" in schema:
            return [self.make(inner, name) for inner in schema["prefixItems"]]
        least = schema.get("minItems", 0)
        return [
            self.make(schema["items"], name) for _ in range(least + self.dice.choice((0, 1, 2)))
        ]

    def _number(self, schema: Json, _: str) -> float:
        low = schema.get("minimum", schema.get("exclusiveMinimum", -1e4) + 1e-6)
        high = schema.get("maximum", 1e4)
        return self.dice.choice((low, high, low + 0.3 * (high - low)))  # type: ignore[no-any-return]

    def _integer(self, schema: Json, name: str) -> int:
        return round(self._number(schema, name))

    def _boolean(self, _: Json, __: str) -> bool:
        return self.dice.random() < 0.5

    def _null(self, _: Json, __: str) -> None:
        return None

    def _string(self, schema: Json, name: str) -> str:
        if schema.get("format") == "date":
            return self.dice.choice(("2026-10-03", "1900-01-01", "9999-12-31"))
        if "pattern" in schema:
            return self.dice.choice(("08:00", "23:59", "25:00", "fruit", "more"))
        return self.dice.choice(WORDS.get(name, ["x", "a few words"]))


def addresses(here: Kitchen) -> tuple[list[Address], Json]:
    """Everything the API offers but sign-in and the stream of events, with its schemas."""
    document = here.client.get("/api/openapi.json").json()
    found = []
    for path, verbs in document["paths"].items():
        for verb, operation in verbs.items():
            if "session" not in path and "events" not in path:
                content = operation.get("requestBody", {}).get("content", {})
                found.append(Address(verb, path, content.get("application/json", {}).get("schema")))
    return found, document["components"]["schemas"]


def places(here: Kitchen) -> Iterator[dict[str, int]]:
    """Numbers that stand in addresses: a batch with each of its steps, or nothing."""
    batch = here.client.post("/api/batches", json=sent_plan("damson", 4.0)).json()
    for step in batch["steps"]:
        yield {"batch_id": batch["id"], "step_id": step["id"]}
    yield {}


def filled(path: str, numbers: dict[str, int], dice: random.Random) -> str:
    """An address with its numbers, which may be of nothing."""

    def number(match: re.Match[str]) -> str:
        return str(numbers.get(match[1], dice.choice(["0", "1", "2", "-3", "x"])))

    return re.sub(r"\{(\w+)\}", number, path)


def refused(answer: Any, what: str) -> None:
    """A refusal is a problem with words, not a broken server."""
    assert answer.status_code < 500, f"{what}: {answer.text[:600]}"
    if answer.status_code >= 400:
        problem = answer.json()
        assert problem["title"], what
        assert problem["detail"], what


@pytest.mark.parametrize("seed", range(2))
def test_no_body_breaks_the_server(here: Kitchen, seed: int) -> None:
    dice = random.Random(seed)
    offered, schemas = addresses(here)
    maker, known = Maker(schemas, dice), list(places(here))
    for address in offered:
        for turn in range(TURNS):
            path = filled(address.path, dice.choice(known), dice)
            body = maker.make(address.body) if address.body else None
            if body and turn % 3 == 0:
                body[dice.choice(list(body))] = dice.choice(ODD)
            sent = {} if body is None else {"json": body}
            refused(
                here.client.request(address.verb, path, **sent), f"{address.verb} {path} {sent}"
            )


def test_what_is_no_json_is_refused(here: Kitchen) -> None:
    for address in addresses(here)[0]:
        if address.body:
            path = filled(address.path, {}, random.Random(0))
            headers = {"content-type": "application/json"}
            answer = here.client.request(address.verb, path, content=b"{no", headers=headers)
            assert answer.status_code in {400, 404, 422}, f"{path}: {answer.text[:200]}"
            refused(answer, path)


def test_odd_questions_are_refused_as_well(here: Kitchen) -> None:
    for query in ("fruit=%00", "fruit=💧", "fruit=" + "x" * 5000, "form=x&fruit=damson"):
        refused(here.client.get(f"/api/methods?{query}"), query)
