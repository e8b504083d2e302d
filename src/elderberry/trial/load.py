"""Under load: many who read with open streams, and many who cannot sign in."""

from __future__ import annotations

import threading
import time
from collections import Counter
from concurrent.futures import ThreadPoolExecutor
from contextlib import ExitStack

import httpx2 as httpx

from elderberry.api.answers import FOR_S
from elderberry.services.household.signing_in import TRIES
from elderberry.trial.figures import Figure, percentile_95
from elderberry.trial.installation import Installation

READS = ("/api/today", "/api/hob", "/api/shelf", "/api/kitchen", "/api/lots")
READERS, READS_EACH, PAUSE_S = 50, 6, 2.0
ROUNDS_ALONE, ALL_IN_S = 3, 60.0
WRONG_SIGN_INS = 60


def under_load(there: Installation, readers: int = READERS) -> list[Figure]:
    """An answer's time with so many readers, against that of one; none is ever refused.

    They begin once all have their streams open.
    """
    idle = _idle(there)
    times: list[float] = []
    codes: Counter[int] = Counter()
    lock, all_in = threading.Lock(), threading.Barrier(readers, timeout=ALL_IN_S)

    def read(number: int) -> None:
        with there.client() as client, client.stream("GET", "/api/events"):
            all_in.wait()
            time.sleep(PAUSE_S * number / readers)
            for turn in range(READS_EACH):
                path = READS[(number + turn) % len(READS)]
                began = time.perf_counter()
                status = client.get(path).status_code
                took = time.perf_counter() - began
                with lock:
                    times.append(took)
                    codes[status] += 1
                time.sleep(max(0.0, PAUSE_S - took))

    with ThreadPoolExecutor(readers) as pool:
        list(pool.map(read, range(readers)))
    loaded = percentile_95(times)
    odd = {code: n for code, n in codes.items() if code != httpx.codes.OK}
    return [
        Figure(
            f"95 of 100 answers for {readers} readers, against one",
            loaded / idle,
            5,
            "×",
            of_time=True,
        ),
        Figure("their questions that were not answered", sum(odd.values()), 0, said=str(odd or "")),
    ]


def _idle(there: Installation) -> float:
    """What 95 of 100 answers take when only one asks, once it is warm [s].

    The same is asked again once it is no longer remembered: most of what fifty ask together is.
    """
    times = []
    with there.client() as client:
        for path in READS:
            client.get(path)
        for _ in range(ROUNDS_ALONE):
            time.sleep(FOR_S)
            for path in READS:
                began = time.perf_counter()
                client.get(path)
                times.append(time.perf_counter() - began)
    return percentile_95(times)


def wrong_sign_ins(there: Installation, count: int = WRONG_SIGN_INS) -> list[Figure]:
    """So many wrong passwords at once: answered or put off in time, and few of them looked at."""
    ready = threading.Barrier(count)
    times: list[float] = []

    def guess(name: str) -> tuple[int, bool]:
        with httpx.Client(base_url=there.url, timeout=60) as client:
            ready.wait()
            began = time.perf_counter()
            sent = {"sign_in": name, "password": "guess"}
            answer = client.post("/api/session", json=sent)
            times.append(time.perf_counter() - began)
            return answer.status_code, "retry-after" in answer.headers

    with ExitStack() as held:
        pool = held.enter_context(ThreadPoolExecutor(count))
        one_name = Counter(code for code, _ in pool.map(guess, ["somebody"] * count))
        answers = list(pool.map(guess, (f"nobody{n}" for n in range(count))))
    odd = Counter(code for code, _ in answers if code not in {401, 429, 503})
    unhinted = sum(code in {429, 503} and not hint for code, hint in answers)
    return [
        Figure(f"the slowest of {count} wrong sign-ins at once", max(times), 15, "s", of_time=True),
        Figure("of them answered neither 401, 429 nor 503", odd.total(), 0, said=str(odd or "")),
        Figure("of them put off without saying until when", unhinted, 0),
        Figure("passwords looked at of as many under one name", one_name[401], TRIES),
    ]
