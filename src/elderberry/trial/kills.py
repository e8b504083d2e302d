"""Kills while entries are made: what was acknowledged is there, once."""

from __future__ import annotations

import random
import threading
import time
from collections import Counter

import httpx2 as httpx
from sqlalchemy import select
from sqlalchemy.orm import Session as Orm

from elderberry.store import Lot
from elderberry.trial.figures import Figure
from elderberry.trial.installation import Installation

WRITERS = 3
LATER = 0.05
BACK_S = 10.0
"""How long after a start the first entry is waited for that one more kill could lose."""


class Writers:
    """Hands that take fruit in, and try again under the same key until they are answered."""

    def __init__(self, there: Installation) -> None:
        self._there = there
        self._over = threading.Event()
        self._lock = threading.Lock()
        self.acknowledged: list[str] = []
        self._number = 0
        self._threads = [threading.Thread(target=self._write) for _ in range(WRITERS)]

    def __enter__(self) -> Writers:
        """They begin."""
        for thread in self._threads:
            thread.start()
        return self

    def __exit__(self, *_: object) -> None:
        """They finish what they have begun."""
        self._over.set()
        for thread in self._threads:
            thread.join()

    def wait_for_one(self) -> None:
        """Until one more entry is acknowledged, or nobody is answered for too long."""
        before, until = len(self.acknowledged), time.monotonic() + BACK_S
        while len(self.acknowledged) == before and time.monotonic() < until:
            time.sleep(LATER)

    def _write(self) -> None:
        while not self._over.is_set():
            with self._lock:
                self._number += 1
                source = f"entry {self._number}"
            if self._until_answered({"line": "1 kg damsons", "source": source}, source):
                with self._lock:
                    self.acknowledged.append(source)

    def _until_answered(self, sent: dict[str, str], key: str) -> bool:
        for _ in range(400):
            try:
                with self._there.client(timeout_s=10) as client:
                    headers = {"Idempotency-Key": key}
                    answer = client.post("/api/lots", json=sent, headers=headers)
                if answer.status_code == httpx.codes.CREATED:
                    return True
            except (httpx.HTTPError, OSError):
                pass
            time.sleep(LATER)
        return False


def kills(there: Installation, count: int, until: float) -> list[Figure]:
    """Kill server, database or both so often, or until a moment; look whether anything is lost."""
    dice = random.Random(count)
    ways = Counter[str]()
    slowest = 0.0
    with Writers(there) as writers:
        while sum(ways.values()) < count and time.monotonic() < until:
            writers.wait_for_one()
            time.sleep(dice.uniform(0.0, 0.9))
            way = dice.choice(("server", "database", "both"))
            ways[way] += 1
            if way == "database":
                there.kill_database()
                continue
            (there.kill if way == "both" else there.kill_server)()
            slowest = max(slowest, there.start())
    with there.engine() as engine, Orm(engine) as orm:
        kept = Counter(orm.scalars(select(Lot.source).where(Lot.source.like("entry %"))))
    lost = [e for e in writers.acknowledged if e not in kept]
    twice = [e for e, n in kept.items() if n > 1]
    done = f"of {len(writers.acknowledged)} in {dict(ways)}"
    return [
        Figure("acknowledged entries that a kill lost", len(lost), 0, said=done),
        Figure("entries that a retry made twice", len(twice), 0),
        Figure("the slowest start after a kill", slowest, 15, "s", of_time=True),
    ]
