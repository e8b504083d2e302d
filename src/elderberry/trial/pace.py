"""How fast answers are over HTTP, as ratios to the bare /api/ready of the same run."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable

import httpx2 as httpx

from elderberry.trial.figures import Figure
from elderberry.trial.hands import PLAN
from elderberry.trial.installation import installed

TURNS = 15
AGAIN = {"a plan": 5, "Today": 6, "the hob rail": 6, "a batch": 6, "a jar": 6, "the shelf": 6}
"""At most so many times /api/ready, asked again while nothing has happened."""
ANEW = {"a plan": 25, "Today": 30, "the hob rail": 25, "a batch": 30, "a jar": 40, "the shelf": 20}
"""At most so many times, found out anew because something has."""
READY_WITHIN_S = 5.0
Ask = Callable[[], httpx.Response]


def pace() -> list[Figure]:
    """Every answer's ratio, asked again and anew, and how long the demo takes to start."""
    with installed() as there:
        there.stop()
        started = there.start()
        with there.client() as client:
            ready = _middle(lambda: client.get("/api/ready"), lambda: None)
            asked = _asked(client)
            again = {name: _middle(ask, lambda: None) for name, ask in asked.items()}
            anew = {name: _middle(ask, lambda: _happen(client)) for name, ask in asked.items()}
    return [
        Figure("a start", started, READY_WITHIN_S, "s"),
        Figure("/api/ready", 1000 * ready, 20, "ms"),
        *(Figure(f"{n}, asked again", t / ready, AGAIN[n], "×") for n, t in again.items()),
        *(Figure(f"{n}, found out anew", t / ready, ANEW[n], "×") for n, t in anew.items()),
    ]


def _asked(client: httpx.Client) -> dict[str, Ask]:
    batches = client.get("/api/batches").json()
    batch = next(b["id"] for b in batches if not b["finished"])
    places = client.get("/api/shelf").json()["places"]
    jar = next(j["id"] for place in places for j in place["jars"])
    return {
        "a plan": lambda: client.post("/api/plans", json=PLAN),
        "Today": lambda: client.get("/api/today"),
        "the hob rail": lambda: client.get("/api/hob"),
        "a batch": lambda: client.get(f"/api/batches/{batch}"),
        "a jar": lambda: client.get(f"/api/jars/{jar}"),
        "the shelf": lambda: client.get("/api/shelf"),
    }


def _happen(client: httpx.Client) -> None:
    """Something happens in the household that makes every answer another one."""
    sent = {"jars": 48, "lids": 60}
    client.put("/api/kitchen/jars/pint", json=sent).raise_for_status()


def _middle(ask: Ask, before: Callable[[], None]) -> float:
    """The middle of several times [s], after a first one that warms up."""
    ask().raise_for_status()
    times = []
    for _ in range(TURNS):
        before()
        began = time.perf_counter()
        ask().raise_for_status()
        times.append(time.perf_counter() - began)
    return statistics.median(times)
