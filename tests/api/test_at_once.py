"""Two at once: there is never more taken than there is, and nobody waits for ever."""

from __future__ import annotations

from collections import Counter
from datetime import UTC, datetime

import httpx2 as httpx
from sqlalchemy import func, select
from sqlalchemy.orm import Session as Orm

from elderberry.store import Household, Lot
from tests.api.conftest import Many
from tests.briefs import sent_plan


def test_a_lot_is_never_used_twice(many: Many) -> None:
    with many.client() as client:
        lot = client.post("/api/lots", json={"line": "10 kg damsons"}).json()
    plan = sent_plan("damson", 4.0, lot_id=lot["id"])

    def start(client: httpx.Client, _: int) -> int:
        return client.post("/api/batches", json=plan).status_code

    codes = Counter(many.at_once(8, start))
    assert codes == {201: 2, 422: 6}
    with Orm(many.engine) as orm:
        query = select(func.sum(Lot.mass_g)).where(Lot.from_lot_id == lot["id"])
        assert orm.scalar(query) == 8000.0


def test_thrown_away_or_used_but_never_both(many: Many) -> None:
    with many.client() as client:
        lot = client.post("/api/lots", json={"line": "4 kg damsons"}).json()
    plan = sent_plan("damson", 4.0, lot_id=lot["id"])

    def either(client: httpx.Client, number: int) -> int:
        if number % 2:
            return client.delete(f"/api/lots/{lot['id']}").status_code
        return client.post("/api/batches", json=plan).status_code

    codes = many.at_once(10, either)
    assert sorted(c for c in codes if c < 300) in ([200], [201]), codes


def test_a_burner_holds_one(many: Many) -> None:
    with many.client() as client:
        batches = [
            client.post("/api/batches", json=sent_plan("damson", 4.0)).json() for _ in range(6)
        ]

    def start(client: httpx.Client, number: int) -> int:
        batch = batches[number]
        step = next(s for s in batch["steps"] if s["role"] == "steam")
        path = f"/api/batches/{batch['id']}/steps/{step['id']}/start"
        return client.post(path).status_code

    codes = Counter(many.at_once(6, start))
    with many.client() as client:
        running = [s for s in client.get("/api/hob").json() if s["role"] == "steam"]
        stations = [
            s for s in client.get("/api/kitchen").json()["stations"] if s["kind"] == "juicer"
        ]
    assert len(running) == len(stations) == codes[200]
    assert codes[200] + codes[409] == 6


def test_sixty_wrong_sign_ins_are_answered_in_time(many: Many) -> None:
    def guess(client: httpx.Client, _: int) -> int:
        sent = {"sign_in": "sallow-hill", "password": "guess"}
        began = datetime.now(UTC)
        answer = client.post("/api/session", json=sent)
        assert (datetime.now(UTC) - began).total_seconds() < 15
        if answer.status_code in {429, 503}:
            assert int(answer.headers["retry-after"]) >= 1
        return answer.status_code

    codes = Counter(many.at_once(60, guess))
    assert set(codes) <= {401, 429, 503}
    assert codes[401] <= 8


def test_one_household_is_founded(many: Many) -> None:
    with Orm(many.engine) as orm, orm.begin():
        orm.delete(orm.get_one(Household, many.who.household_id))

    def found(client: httpx.Client, number: int) -> int:
        new = {
            "household": "Our kitchen", "altitude_m": 585, "time_zone": "Europe/Vienna",
            "name": "Wenna", "sign_in": f"wenna{number}", "password": "correct horse",
        }  # fmt: skip
        return client.post("/api/session/household", json=new).status_code

    codes = Counter(many.at_once(6, found))
    assert codes == {201: 1, 409: 5}
    with Orm(many.engine) as orm:
        assert orm.scalar(select(func.count()).select_from(Household)) == 1
