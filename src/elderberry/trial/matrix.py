"""Households and roles: nobody reaches another household's things, nor does more than they may."""

from __future__ import annotations

import re
from datetime import UTC, datetime

import httpx2 as httpx
from sqlalchemy import func, select
from sqlalchemy.orm import Session as Orm

from elderberry.api.deps import COOKIE
from elderberry.api.roles import KEEPERS, is_change
from elderberry.services.household import people, signing_in
from elderberry.services.who import Who
from elderberry.store import (
    Batch,
    Household,
    Jar,
    Kitchen,
    Lot,
    Operation,
    Person,
    Place,
    Reading,
    Station,
    Vessel,
)
from elderberry.trial.figures import Figure
from elderberry.trial.installation import Installation

OURS = {
    "batch_id": Batch, "step_id": Operation, "jar_id": Jar, "reading_id": Reading, "lot_id": Lot,
    "station_id": Station, "place_id": Place, "person_id": Person, "vessel_id": Vessel,
}  # fmt: skip
"""Whose numbers stand in an address."""


def matrix(there: Installation) -> list[Figure]:
    """Every route, asked by a stranger of another household and by every role of ours."""
    routes = _routes(there)
    with there.engine() as engine, Orm(engine) as orm, orm.begin():
        ours = orm.scalar(select(func.min(Household.id))) or 0
        numbers = {n: _one(orm, model, ours) for n, model in OURS.items()}
        strangers = _sign_in(orm, _household(orm), "keeper")
        hands = {role: _sign_in(orm, ours, role) for role in ("guest", "helper")}
    reached = [
        f"{verb} {path}"
        for verb, path in routes
        if set(re.findall(r"{(\w+)}", path)) & OURS.keys()
        and _ask(there, strangers, verb, path, numbers) not in {404, 422}
    ]
    beyond = [
        f"{role}: {verb} {path}"
        for role, token in hands.items()
        for verb, path in routes
        if _may_not(role, verb, path) and _ask(there, token, verb, path, numbers) != 403
    ]
    return [
        _none("routes that reach another household's things", reached),
        _none("routes on which a role does more than it may", beyond),
    ]


def _none(name: str, found: list[str]) -> Figure:
    return Figure(name, len(found), 0, said=" ".join(found))


def _routes(there: Installation) -> list[tuple[str, str]]:
    with there.client() as client:
        paths = client.get("/api/openapi.json").json()["paths"]
    return [
        (verb.upper(), path)
        for path, verbs in paths.items()
        for verb in verbs
        if "session" not in path.split("/")[2] and path != "/api/events"
    ]


def _may_not(role: str, verb: str, path: str) -> bool:
    route = (verb, path)
    return is_change(route) if role == "guest" else route in KEEPERS


def _ask(there: Installation, token: str, verb: str, path: str, numbers: dict[str, int]) -> int:
    address = re.sub(r"{(\w+)}", lambda m: str(numbers.get(m[1], "pint")), path)
    body = BODIES.get(path.rpartition("/")[2], {})
    with httpx.Client(base_url=there.url, cookies={COOKIE: token}, timeout=30) as client:
        return client.request(verb, address, json=body).status_code


BODIES = {
    "finish": {}, "more-time": {"minutes": 5, "reason": "because"}, "seal": {"held": True},
    "notes": {"what": "refilled"}, "acid": {"line": "5 g citric acid"}, "ending": {"keep": "chill"},
    "filled-now": {"temp_c": 91}, "correct": {"value": 3}, "spoiled": {"said": ["bulging"]},
    "readings": {"quantity": "brix", "value": 12, "instrument": "refractometer"},
    "hours": {"start": "08:00", "end": "20:00"}, "password": {"password": "three grey pots"},
    "{vessel_id}": {"kind": "pot", "name": "Pot", "litres": 8},
    "{station_id}": {"kind": "burner", "name": "Ring"},
    "{place_id}": {"kind": "cellar", "name": "Cellar", "temp_c": 9},
}  # fmt: skip
"""Bodies that would be taken, by the end of an address."""


def _one(orm: Orm, model: type, household_id: int) -> int:
    return orm.scalar(select(func.min(model.id)).where(model.household_id == household_id)) or 1  # type: ignore[attr-defined]


def _household(orm: Orm) -> int:
    row = Household(name="Elsewhere", created_at=datetime.now(UTC))
    orm.add(row)
    orm.flush()
    zone = "Europe/Vienna"
    orm.add(Kitchen(household_id=row.id, name="Elsewhere", altitude_m=210, time_zone=zone))
    people.furnish(orm, row.id)
    return row.id


def _sign_in(orm: Orm, household_id: int, role: str) -> str:
    login = people.Login(f"{role}-{household_id}", "nobody knows", role)
    person = people.add_person(orm, household_id, role.capitalize(), login)
    who = Who.of(person)
    return signing_in.open_session(orm, who, datetime.now(UTC))
