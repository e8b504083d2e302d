"""How fast answers are over HTTP, as ratios to the bare /api/ready of the same run."""

from __future__ import annotations

from collections.abc import Callable

import httpx2 as httpx

from elderberry.trial.figures import Figure, middle_s
from elderberry.trial.hands import PLAN, happen
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
            ready = middle_s(lambda: client.get("/api/ready").raise_for_status(), TURNS)
            asked = _asked(client)
            again = {name: middle_s(ask, TURNS) for name, ask in asked.items()}
            anew = {n: middle_s(ask, TURNS, lambda: happen(client)) for n, ask in asked.items()}
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
        "a plan": lambda: client.post("/api/plans", json=PLAN).raise_for_status(),
        "Today": lambda: client.get("/api/today").raise_for_status(),
        "the hob rail": lambda: client.get("/api/hob").raise_for_status(),
        "a batch": lambda: client.get(f"/api/batches/{batch}").raise_for_status(),
        "a jar": lambda: client.get(f"/api/jars/{jar}").raise_for_status(),
        "the shelf": lambda: client.get("/api/shelf").raise_for_status(),
    }
