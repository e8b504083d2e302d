"""`./elderberry check`: ten minutes, or as long as asked, of bad days."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from functools import partial

import httpx2 as httpx

from elderberry.trial import cellar, fuzz, hands, kills, load, matrix
from elderberry.trial.figures import Figure, middle_s
from elderberry.trial.installation import Installation, installed, laid_out

USUAL_S = 600.0
LEAST_S = 60.0
BIG = (10_000, 100_000)
"""Batches and jars of a big cellar."""
SHARE = {"fuzz": 0.35, "kills": 0.3, "cellar": 0.15}
"""Of the time, what each of the parts that have no end by themselves may take."""
KILLS_A_MINUTE = 20
TIMES_DEMO = 2.0
TURNS = 7
Ask = Callable[[], httpx.Response]
ASKED_OF_A_CELLAR = ("/api/today", "/api/shelf", "/api/hob", "/api/lots", "/api/batches")


def run(seconds: float = USUAL_S, *, by_the_clock: bool = True) -> bool:
    """Try everything and print the figures; whether all of them hold.

    by_the_clock: whether figures of time count too, which a loaded machine makes worse.
    """
    holds = True
    for name, part in _parts(max(seconds, LEAST_S)):
        print(f"  {name} …", flush=True)
        began = time.monotonic()
        for figure in part():
            counts = by_the_clock or not figure.of_time
            holds = holds and (figure.holds or not counts)
            print(figure.line(), flush=True)
        print(f"    {time.monotonic() - began:.0f} s", flush=True)
    print("  Everything holds." if holds else "  Not everything holds: see above.")
    return holds


def _parts(seconds: float) -> Iterator[tuple[str, Callable[[], list[Figure]]]]:
    with laid_out() as like:
        with installed(like) as there:
            yield "Two at once", lambda: hands.races(there)
            yield "Households and roles", lambda: matrix.matrix(there)
            yield "Wrong sign-ins", lambda: load.wrong_sign_ins(there)
            yield "Fifty who look on", lambda: load.under_load(there)
            yield (
                "Made-up requests",
                lambda: fuzz.fuzz(there, _in(seconds * SHARE["fuzz"]), max(4, int(seconds / 12))),
            )
        with installed(like) as there:
            count = max(5, int(KILLS_A_MINUTE * seconds * SHARE["kills"] / 60))
            yield "Kills", lambda: kills.kills(there, count, _in(seconds * SHARE["kills"]))
        with installed(like) as there:
            part = min(1.0, seconds / USUAL_S)
            yield "A big cellar", lambda: _big_cellar(there, part)


def _in(seconds: float) -> float:
    return time.monotonic() + seconds


def _big_cellar(there: Installation, part: float) -> list[Figure]:
    """An answer's time with a big cellar, or a part of one, against the demo's."""
    before = _answers(there)
    with there.engine() as engine:
        batches, jars = cellar.fill(engine, *(round(part * n) for n in BIG))
    after = _answers(there)
    with_both = f"with {batches} batches and {jars} jars, against the demo's"
    return [
        Figure(f"{name} {with_both}", after[name] / before[name], TIMES_DEMO, "×", of_time=True)
        for name in before
    ]


def _answers(there: Installation) -> dict[str, float]:
    """The middle time of each answer [s], when something has happened before each."""
    with there.client(timeout_s=120) as client:
        asked: dict[str, Ask] = {p: partial(client.get, p) for p in ASKED_OF_A_CELLAR}
        asked["a plan"] = partial(client.post, "/api/plans", json=hands.PLAN)
        asked["a start"] = partial(client.post, "/api/batches", json=hands.PLAN)
        happens = partial(hands.happen, client)
        found = {name: middle_s(_sound(ask), TURNS, happens) for name, ask in asked.items()}
    hands.give_up_all(there)
    return found


def _sound(ask: Ask) -> Callable[[], object]:
    """A question whose answer has to be a good one."""
    return lambda: ask().raise_for_status()
