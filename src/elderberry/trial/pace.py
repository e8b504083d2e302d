"""How fast answers are over HTTP, as ratios to the bare /api/ready of the same run."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import partial
from itertools import count
from pathlib import Path

import httpx2 as httpx

from elderberry.trial import cellar
from elderberry.trial.figures import Figure, middle_s
from elderberry.trial.hands import PLAN, happen
from elderberry.trial.installation import installed, laid_out

TURNS = 15
AGAIN = {"a plan": 5, "Today": 6, "the hob rail": 6, "a batch": 6, "a jar": 6, "the shelf": 6}
"""At most so many times /api/ready: asked again, and after something has happened elsewhere."""
ANEW = {"a plan": 6, "Today": 12, "the hob rail": 12, "a batch": 22, "a jar": 22, "the shelf": 9}
"""At most so many times, after something has happened to it: all of it is found out anew."""
READY_WITHIN_S = 5.0
FEW, MANY = 1_000, 100_000
TIMES_FEW = 2.0
"""Jars of a small cellar and a big one, and how much longer an answer may take of the big one."""
COUNTS = {"finding what goes soon": 4.0, "a stack": 6.0, "the figures": 60.0}
"""The same of what counts every jar that goes soon, that has a name, or that there ever was."""
Ask = Callable[[], httpx.Response]


def pace() -> list[Figure]:
    """Every answer's ratio, asked again and anew, and how long the demo takes to start."""
    with laid_out() as like, installed(like) as there:
        there.stop()
        started = there.start()
        with there.client() as client:
            ready = middle_s(partial(_got, client, "/api/ready"), TURNS)
            asked = _asked(client)
            again = {name: middle_s(ask, TURNS) for name, ask in asked.items()}
            later = {n: middle_s(ask, TURNS, lambda: happen(client)) for n, ask in asked.items()}
            touch = _touching(client)
            asked["a plan"] = partial(_another_plan, client, count(3_000))
            anew = {n: middle_s(ask, TURNS, touch[n]) for n, ask in asked.items()}
    return [
        Figure("a start", started, READY_WITHIN_S, "s"),
        Figure("/api/ready", 1000 * ready, 20, "ms"),
        *(Figure(f"{n}, asked again", t / ready, AGAIN[n], "×") for n, t in again.items()),
        *(Figure(f"{n}, after something", t / ready, AGAIN[n], "×") for n, t in later.items()),
        *(Figure(f"{n}, found out anew", t / ready, ANEW[n], "×") for n, t in anew.items()),
    ]


def _touching(client: httpx.Client) -> dict[str, Callable[[], object]]:
    """What makes each answer another one: a press at the batch, a jar that is called otherwise."""
    batch, jar = _batch(client), _jar(client)
    steps = client.get(f"/api/batches/{batch}").json()["steps"]
    step = next(s["id"] for s in steps if s["phase"] == "running")
    noted, names = f"/api/batches/{batch}/steps/{step}/notes", count()

    def press() -> None:
        client.post(noted, json={"what": "problem", "words": "foams"}).raise_for_status()

    def rename() -> None:
        named = {"what": "relabelled", "jars": [jar], "label": f"Damson juice {next(names)}"}
        client.post("/api/jars", json=named).raise_for_status()

    pressed = dict.fromkeys(("Today", "the hob rail", "a batch"), press)
    return {"a plan": dict, **pressed, **dict.fromkeys(("a jar", "the shelf"), rename)}


def _another_plan(client: httpx.Client, grams: Iterator[int]) -> httpx.Response:
    """A plan that nobody has asked for."""
    inputs = [{**PLAN["inputs"][0], "grams": next(grams)}]
    return client.post("/api/plans", json={**PLAN, "inputs": inputs}).raise_for_status()


def of_cellars() -> list[Figure]:
    """Every answer's time out of a big cellar against the same out of a small one."""
    with laid_out() as like:
        few, many = _in_cellar(like, FEW), _in_cellar(like, MANY)
    said = f"of {MANY} jars, against {FEW}"
    return [Figure(f"{n}, {said}", many[n] / few[n], COUNTS.get(n, TIMES_FEW), "×") for n in few]


def _in_cellar(like: Path, jars: int) -> dict[str, float]:
    """The middle time of each answer [s] where so many jars stand, anew each time."""
    with installed(like) as there:
        with there.engine() as engine:
            cellar.fill(engine, 0, jars)
        with there.client(timeout_s=1200) as client:
            asked = _asked(client) | _asked_of_shelf(client)
            took = {n: middle_s(a, TURNS, lambda: happen(client)) for n, a in asked.items()}
            archive = partial(_got, client, "/api/keeping/archive.zip")
            return {**took, "the archive, for each jar": middle_s(archive, 1) / jars}


def _asked_of_shelf(client: httpx.Client) -> dict[str, Ask]:
    places = client.get("/api/shelf").raise_for_status().json()["places"]
    stack = max((s for p in places for s in p["stacks"]), key=lambda s: s["jars"])["id"]
    asked = {
        "finding by a word": "/api/shelf?find=damson",
        "finding what goes soon": "/api/shelf?find=under+4+weeks+left",
        "a stack": f"/api/stacks/{stack}",
        "the figures": "/api/figures",
    }
    return {name: partial(_got, client, at) for name, at in asked.items()}


def _got(client: httpx.Client, at: str) -> httpx.Response:
    """A good answer."""
    return client.get(at).raise_for_status()


def _asked(client: httpx.Client) -> dict[str, Ask]:
    batch, jar = _batch(client), _jar(client)
    return {
        "a plan": lambda: client.post("/api/plans", json=PLAN).raise_for_status(),
        "Today": partial(_got, client, "/api/today"),
        "the hob rail": partial(_got, client, "/api/hob"),
        "a batch": partial(_got, client, f"/api/batches/{batch}"),
        "a jar": partial(_got, client, f"/api/jars/{jar}"),
        "the shelf": partial(_got, client, "/api/shelf"),
    }


def _batch(client: httpx.Client) -> int:
    """A batch that steams."""
    batches = client.get("/api/batches").json()
    return next(int(b["id"]) for b in batches if b["now"].startswith("Steam"))


def _jar(client: httpx.Client) -> int:
    """A jar in front of the others."""
    places = client.get("/api/shelf").json()["places"]
    return next(int(s["first"]["id"]) for place in places for s in place["stacks"])
