"""Many hands at once."""

from __future__ import annotations

import threading
from collections import Counter
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from contextlib import AbstractContextManager
from typing import Any

import httpx2 as httpx

from elderberry.trial.figures import Figure
from elderberry.trial.installation import Installation

Act = Callable[[httpx.Client, int], int]
ClientOf = Callable[[], AbstractContextManager[httpx.Client]]
PLAN: dict[str, Any] = {
    "inputs": [{"material": "damson", "grams": 4000}],
    "ends": [{"keep": "shelf", "jar_kinds": ["pint"]}],
}


def at_once(client_of: ClientOf, count: int, act: Act) -> list[int]:
    """So many do the same at the same moment, each with a client; what each was answered."""
    ready = threading.Barrier(count)

    def one(number: int) -> int:
        with client_of() as client:
            client.get("/api/ready")
            ready.wait()
            return act(client, number)

    with ThreadPoolExecutor(count) as pool:
        return list(pool.map(one, range(count)))


def races(there: Installation, count: int = 20) -> list[Figure]:
    """Two at once: a lot, a burner, a key and a lot thrown away are each taken once."""
    return [
        _a_lot_is_taken_once(there, count),
        _thrown_away_or_used(there, count),
        _a_burner_holds_one(there, 6),
        _one_key_makes_one(there, count),
        _stock_never_goes_below_nothing(there, count),
    ]


def _a_lot_is_taken_once(there: Installation, count: int) -> Figure:
    with there.client() as client:
        lot = client.post("/api/lots", json={"line": "10 kg damsons"}).json()
    plan = {**PLAN, "inputs": [{**PLAN["inputs"][0], "lot_id": lot["id"]}]}

    def start(client: httpx.Client, _: int) -> int:
        return client.post("/api/batches", json=plan).status_code

    codes = Counter(at_once(there.client, count, start))
    give_up_all(there)
    return Figure("batches of 4 kg out of a lot of 10 kg", codes[201], 2, said=_odd(codes))


def _thrown_away_or_used(there: Installation, count: int) -> Figure:
    with there.client() as client:
        lot = client.post("/api/lots", json={"line": "4 kg damsons"}).json()
    plan = {**PLAN, "inputs": [{**PLAN["inputs"][0], "lot_id": lot["id"]}]}

    def either(client: httpx.Client, number: int) -> int:
        if number % 2:
            return client.delete(f"/api/lots/{lot['id']}").status_code
        return client.post("/api/batches", json=plan).status_code

    codes = Counter(at_once(there.client, count, either))
    give_up_all(there)
    uses = codes[200] + codes[201]
    return Figure("uses of a lot that was thrown away", uses, 1, said=_odd(codes))


def _a_burner_holds_one(there: Installation, count: int) -> Figure:
    with there.client() as client:
        batches = [client.post("/api/batches", json=PLAN).json() for _ in range(count)]

    def start(client: httpx.Client, number: int) -> int:
        batch = batches[number]
        step = next(s for s in batch["steps"] if s["role"] == "steam")
        path = f"/api/batches/{batch['id']}/steps/{step['id']}/start"
        return client.post(path).status_code

    codes = Counter(at_once(there.client, count, start))
    with there.client() as client:
        steamed = [s for s in client.get("/api/hob").json() if s["role"] == "steam"]
    give_up_all(there)
    return Figure("loads in one steamer", len(steamed), 1, said=_odd(codes))


def _one_key_makes_one(there: Installation, count: int) -> Figure:
    key = {"Idempotency-Key": "one-key"}
    sent = {"line": "3 kg quinces"}

    def take_in(client: httpx.Client, _: int) -> int:
        return client.post("/api/lots", json=sent, headers=key).status_code

    codes = Counter(at_once(there.client, count, take_in))
    with there.client() as client:
        lots = [x for x in client.get("/api/lots").json() if x["amount"] == sent["line"]]
    return Figure("lots under one key", len(lots), 1, said=_odd(codes))


def _stock_never_goes_below_nothing(there: Installation, count: int) -> Figure:
    with there.client() as client:
        kinds = client.get("/api/kitchen").json()["jar_kinds"]
        kind = next(k for k in kinds if k["key"] == "pint")

    def put(client: httpx.Client, number: int) -> int:
        sent = {"jars": number, "lids": number}
        return client.put("/api/kitchen/jars/pint", json=sent).status_code

    codes = Counter(at_once(there.client, count, put))
    with there.client() as client:
        client.put("/api/kitchen/jars/pint", json={"jars": kind["jars"], "lids": kind["jars"]})
    return Figure("counts of jars that were lost", count - codes[200], 0, said=_odd(codes))


def happen(client: httpx.Client) -> None:
    """Something happens in the household that makes every answer another one."""
    sent = {"jars": 48, "lids": 60}
    client.put("/api/kitchen/jars/pint", json=sent).raise_for_status()


def give_up_all(there: Installation) -> None:
    """Every batch that was only begun is dropped, so that the next finds its stations free."""
    with there.client() as client:
        for batch in client.get("/api/batches").json():
            if not batch["finished"]:
                client.post(f"/api/batches/{batch['id']}/give-up")


def _odd(codes: Counter[int]) -> str:
    """What nobody expects."""
    odd = {code: count for code, count in codes.items() if code >= 500}
    return str(odd) if odd else ""
