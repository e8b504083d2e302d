"""Keeper, helper, guest: for every route there is, who may and who may not."""

from __future__ import annotations

import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient
from sqlalchemy import Engine
from sqlalchemy.orm import Session as Orm

from elderberry.services.household import people
from tests.api.conftest import HERE, Kitchen
from tests.conftest import CHEAP

SUMS = (
    "sweeten", "boil-down", "thermometer", "sharpen", "blend", "citrus", "cold-plate", "crystals",
    "bottle", "thin", "in-jar", "measures", "process-time", "steam-pan",
    "freeze-dry", "air-dry", "back-again",
)  # fmt: skip
LOOKS = {
    "GET /api/bench", *(f"GET /api/bench/{name}" for name in SUMS),
    "GET /api/batches", "GET /api/batches/{batch_id}",
    "GET /api/batches/{batch_id}/beside/{other_id}", "GET /api/hob", "GET /api/ingredients",
    "GET /api/jars/{jar_id}", "GET /api/kitchen", "GET /api/lots", "GET /api/methods",
    "GET /api/methods/{key}.json", "GET /api/methods/{key}/recipe.json", "POST /api/recipes",
    "GET /api/found/choices", "POST /api/found/lines",
    "GET /api/notes", "GET /api/notes/{batch_id}", "GET /api/notes/{batch_id}/sheet.pdf",
    "GET /api/notes/seasons/{year}", "GET /api/notes/seasons/{year}/sheet.pdf",
    "GET /api/safety", "GET /api/stove", "GET /api/shelf", "GET /api/stacks/{stack_id}",
    "GET /api/jar-codes/{code}", "GET /api/servings", "GET /api/signs",
    "GET /api/keeping", "GET /api/keeping/tables", "GET /api/keeping/calendar.ics",
    "GET /api/keeping/{what}.csv",
    "GET /api/labels", "GET /api/labels.pdf",
    "GET /api/labels/sheets", "GET /api/recall", "GET /api/recall/known", "GET /api/figures",
    "POST /api/jars/{jar_id}/drink", "GET /api/today", "GET /api/events",
    "POST /api/amounts", "POST /api/flows", "POST /api/kitchen/effect", "POST /api/lines",
    "POST /api/plans", "POST /api/plans/costs", "POST /api/plans/card.pdf",
    "POST /api/plans/shopping", "POST /api/plans/shopping.pdf", "POST /api/plans/marks",
    "POST /api/plans/sweeteners",
}  # fmt: skip
STEP = "POST /api/batches/{batch_id}/steps/{step_id}"
WORKS = {
    "POST /api/batches", "POST /api/batches/{batch_id}/ending",
    "POST /api/batches/{batch_id}/give-up", "POST /api/batches/{batch_id}/take-back",
    f"{STEP}/acid", f"{STEP}/again",
    f"{STEP}/boil-lost", f"{STEP}/boil-reached", f"{STEP}/filled-now", f"{STEP}/finish",
    f"{STEP}/jars/{{jar_id}}/seal", f"{STEP}/more-time", f"{STEP}/notes", f"{STEP}/put-cold",
    f"{STEP}/mishaps",
    f"{STEP}/readings", f"{STEP}/trace", f"{STEP}/readings/{{reading_id}}/correct", f"{STEP}/start",
    f"{STEP}/water-back",
    "POST /api/keeping/feed", "DELETE /api/keeping/feed",
    "POST /api/found", "POST /api/keeping/{what}.csv", "POST /api/ingredients", "POST /api/jars",
    "POST /api/jars/{jar_id}/servings",
    "POST /api/recall", "POST /api/places/{place_id}/readings", "POST /api/places/{place_id}/log",
    "POST /api/lots", "DELETE /api/lots/{lot_id}", "POST /api/methods", "POST /api/methods/file",
    "PUT /api/kitchen/jars/{kind}", "PUT /api/kitchen/jars/{kind}/lids",
    "PUT /api/kitchen/people/{person_id}/hours",
    "POST /api/kitchen/places", "PUT /api/kitchen/places/{place_id}",
    "DELETE /api/kitchen/places/{place_id}", "POST /api/kitchen/stations",
    "PUT /api/kitchen/stations/{station_id}", "DELETE /api/kitchen/stations/{station_id}",
    "POST /api/kitchen/vessels", "PUT /api/kitchen/vessels/{vessel_id}",
    "DELETE /api/kitchen/vessels/{vessel_id}",
}  # fmt: skip
KEEPS = {
    "PATCH /api/kitchen", "POST /api/kitchen/people", "POST /api/own-processes",
    "PUT /api/kitchen/people/{person_id}/password",
    "DELETE /api/kitchen/people/{person_id}/sessions",
    "PUT /api/keeping/nightly", "POST /api/keeping/backup", "GET /api/keeping/archive.zip",
}  # fmt: skip
ANYBODY = {
    "GET /api/ready", "GET /api/session", "POST /api/session", "DELETE /api/session",
    "POST /api/session/demo", "POST /api/session/household", "PUT /api/session/password",
    "DELETE /api/session/all", "GET /api/feeds/{token}.ics", "GET /api/methods/schema.json",
    "POST /api/session/archive",
}  # fmt: skip


def every_route(client: TestClient) -> set[str]:
    """Verb and address of everything that the API offers."""
    paths = client.get("/api/openapi.json").json()["paths"]
    return {f"{verb.upper()} {path}" for path, verbs in paths.items() for verb in verbs}


def ida_of(here: Kitchen, app: FastAPI, engine: Engine, role: str) -> tuple[int, TestClient]:
    """Somebody else of the household, signed in in a browser of her own."""
    with Orm(engine) as orm, orm.begin():
        login = people.Login("ida", CHEAP.hash("two quinces"), role)
        ida_id = people.add_person(orm, here.who.household_id, "Ida", login).id
    ida = TestClient(app, HERE, raise_server_exceptions=False)
    signed = ida.post("/api/session", json={"sign_in": "ida", "password": "two quinces"})
    assert signed.json()["role"] == role
    return ida_id, ida


def test_every_route_is_in_the_table(here: Kitchen) -> None:
    assert every_route(here.client) == LOOKS | WORKS | KEEPS | ANYBODY


@pytest.mark.parametrize(
    ("role", "refused"), [("keeper", set[str]()), ("helper", KEEPS), ("guest", KEEPS | WORKS)]
)
def test_who_may_do_what(
    here: Kitchen, app: FastAPI, committed: Engine, role: str, refused: set[str]
) -> None:
    _, ida = ida_of(here, app, committed, role)
    found = set()
    for route in sorted(LOOKS | WORKS | KEEPS):
        verb, path = route.split(" ")
        if path == "/api/events":
            continue
        answer = ida.request(verb, path.replace("{", "9").replace("}", "9"), json={})
        if answer.status_code == 403:
            assert answer.json()["code"] == "not-allowed"
            found.add(route)
    assert found == refused


def test_nobody_does_anything_without_signing_in(here: Kitchen, stranger: TestClient) -> None:
    for route in sorted(LOOKS | WORKS | KEEPS):
        verb, path = route.split(" ")
        answer = stranger.request(verb, path.replace("{", "9").replace("}", "9"), json={})
        assert answer.status_code in {401, 422}, route


def test_hours_are_ones_own_but_for_a_keeper(
    here: Kitchen, app: FastAPI, committed: Engine
) -> None:
    ida_id, ida = ida_of(here, app, committed, "helper")
    hours = {"start": "08:00", "end": "12:00"}
    assert ida.put(f"/api/kitchen/people/{ida_id}/hours", json=hours).status_code == 200
    other = f"/api/kitchen/people/{here.who.person_id}/hours"
    assert ida.put(other, json=hours).status_code == 403
    assert here.client.put(f"/api/kitchen/people/{ida_id}/hours", json=hours).status_code == 200


def test_a_lost_phone_is_signed_out_by_a_keeper(
    here: Kitchen, app: FastAPI, committed: Engine
) -> None:
    ida_id, ida = ida_of(here, app, committed, "helper")
    assert ida.get("/api/kitchen").status_code == 200
    assert here.client.delete(f"/api/kitchen/people/{ida_id}/sessions").status_code == 204
    assert ida.get("/api/kitchen").status_code == 401
    new = {"password": "three grey pots"}
    assert here.client.put(f"/api/kitchen/people/{ida_id}/password", json=new).status_code == 204
    said = [
        ida.post("/api/session", json={"sign_in": "ida", "password": words}).status_code
        for words in ("two quinces", "three grey pots")
    ]
    assert said == [401, 200]


def test_another_password_of_ones_own(here: Kitchen) -> None:
    old = "sallow-hill" * 2
    for wrong, pointer in (
        ({"old": "guess", "password": "four damson trees"}, "/old"),
        ({"old": old, "password": "password1"}, "/password"),
        ({"old": old, "password": "short"}, "/password"),
    ):
        answer = here.client.put("/api/session/password", json=wrong)
        assert (answer.status_code, answer.json()["errors"][0]["pointer"]) == (422, pointer)
    right = {"old": old, "password": "four damson trees"}
    assert here.client.put("/api/session/password", json=right).status_code == 200
    assert here.client.get("/api/kitchen").status_code == 200
    assert here.client.delete("/api/session/all").status_code == 204
    assert here.client.get("/api/kitchen").status_code == 401
