"""Once is once: a change asked for again under its key is answered again and not made again."""

from __future__ import annotations

from typing import Any

import httpx2 as httpx
import pytest
from sqlalchemy import func, select
from sqlalchemy.orm import Session as Orm

from elderberry.store import ChangeMade, Event, Lot
from tests.api.conftest import Kitchen, Many
from tests.briefs import sent_plan

Json = dict[str, Any]
KEY = {"Idempotency-Key": "one-two-three"}
METHOD: Json = {"name": "Ours", "based_on": "steam_juiced"}
CHANGES: list[tuple[str, str, Json]] = [
    ("POST", "/api/lots", {"line": "3 kg damsons"}),
    ("POST", "/api/batches", sent_plan("damson", 4.0)),
    ("POST", "/api/methods", METHOD),
    ("POST", "/api/kitchen/people", {"name": "Ida", "sign_in": "ida", "password": "two quinces"}),
    ("POST", "/api/kitchen/stations", {"kind": "burner", "name": "Ring 4"}),
    ("POST", "/api/kitchen/places", {"kind": "shelf", "name": "Attic", "temp_c": 12}),
    ("POST", "/api/ingredients", {"name": "moonberry leaf"}),
]


@pytest.mark.parametrize(("verb", "path", "sent"), CHANGES)
def test_asked_again_it_is_answered_alike_and_made_once(
    here: Kitchen, verb: str, path: str, sent: Json
) -> None:
    first, second = (here.client.request(verb, path, json=sent, headers=KEY) for _ in range(2))
    assert first.status_code in {200, 201}, first.text
    assert (second.status_code, second.json()) == (first.status_code, first.json())
    other = here.client.request(verb, path, json=sent, headers={"Idempotency-Key": "another"})
    assert other.status_code in {200, 201, 422}
    assert other.json() != first.json() or path == "/api/ingredients"


def test_a_key_belongs_to_one_change(here: Kitchen) -> None:
    sent = {"line": "3 kg damsons"}
    assert here.client.post("/api/lots", json=sent, headers=KEY).status_code == 201
    for path, other in (
        ("/api/lots", {"line": "4 kg damsons"}),
        ("/api/kitchen/places", {"kind": "shelf", "name": "Attic", "temp_c": 12}),
    ):
        answer = here.client.post(path, json=other, headers=KEY)
        assert (answer.status_code, answer.json()["code"]) == (409, "key-used")
    assert len(here.client.get("/api/lots").json()) == 1


def test_a_key_belongs_to_one_person(here: Kitchen) -> None:
    ida = {"name": "Ida", "sign_in": "ida", "password": "two quinces", "role": "helper"}
    assert here.client.post("/api/kitchen/people", json=ida).status_code == 201
    sent = {"line": "3 kg damsons"}
    here.client.post("/api/lots", json=sent, headers=KEY)
    as_ida = {"sign_in": "ida", "password": "two quinces"}
    assert here.client.post("/api/session", json=as_ida).status_code == 200
    assert here.client.post("/api/lots", json=sent, headers=KEY).json()["code"] == "key-used"


def test_another_households_keys_are_its_own(here: Kitchen, elsewhere: Kitchen) -> None:
    sent = {"line": "3 kg damsons"}
    ours, theirs = (k.client.post("/api/lots", json=sent, headers=KEY) for k in (here, elsewhere))
    assert (ours.status_code, theirs.status_code) == (201, 201)
    assert ours.json()["id"] != theirs.json()["id"]


def test_what_was_refused_may_be_asked_again_when_it_fits(here: Kitchen) -> None:
    place = here.client.get("/api/kitchen").json()["places"][0]
    station = {"kind": "burner", "name": "Ring 5"}
    path = "/api/kitchen/stations/999999"
    assert here.client.put(path, json=station, headers=KEY).status_code == 404
    path = f"/api/kitchen/places/{place['id']}"
    attic = {"kind": place["kind"], "name": "Attic", "temp_c": 12}
    assert here.client.put(path, json=attic, headers=KEY).status_code == 200


def test_twenty_at_once_with_one_key_make_one(many: Many) -> None:
    def take_in(client: httpx.Client, _: int) -> int:
        return client.post("/api/lots", json={"line": "3 kg damsons"}, headers=KEY).status_code

    assert set(many.at_once(20, take_in)) == {201}
    with Orm(many.engine) as orm:
        assert orm.scalar(select(func.count()).select_from(Lot)) == 1
        assert orm.scalar(select(func.count()).select_from(ChangeMade)) == 1


def test_every_change_is_told_to_whoever_looks_on(here: Kitchen) -> None:
    for _, path, sent in CHANGES:
        with Orm(here.client.app.state.settings.engine) as orm:  # type: ignore[attr-defined]
            before = orm.scalar(select(func.max(Event.id))) or 0
        here.client.post(path, json=sent)
        with Orm(here.client.app.state.settings.engine) as orm:  # type: ignore[attr-defined]
            assert (orm.scalar(select(func.max(Event.id))) or 0) > before, path


@pytest.mark.parametrize(("verb", "path", "sent"), CHANGES)
def test_a_change_names_the_newest_event_that_it_made(
    many: Many, verb: str, path: str, sent: Json
) -> None:
    with many.client() as client:
        answer = client.request(verb, path, json=sent)
        looked = client.get("/api/kitchen")
    with Orm(many.engine) as orm:
        newest = orm.scalar(select(func.max(Event.id)))
    assert answer.headers["Last-Event"] == str(newest)
    assert "Last-Event" not in looked.headers
