"""What requests that only read keep for each other: rows, and what was reckoned from them.

Each is kept with a stamp, which is another as soon as one of its rows is (store/telling.py), and
never for longer than a moment: somebody may write to the tables by hand. Rows are taken out of the
session that read them: many requests look at them at once, and none writes to them.
"""

from __future__ import annotations

import threading
import time
from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Any, NamedTuple

FOR_S = 2.0
MOST = 300
"""Things that are kept: the small tables of some households, and the batches looked at last."""


class Kept(NamedTuple):
    """Something that is kept: what it holds for, and since when [s]."""

    stamp: object
    since: float
    thing: Any


class Memory:
    """Things by their names, each with the stamp it holds for; those used longest ago go first."""

    def __init__(self, most: int = MOST, clock: Callable[[], float] = time.monotonic) -> None:
        self._most, self._clock = most, clock
        self._kept: OrderedDict[Hashable, Kept] = OrderedDict()
        self._newest: dict[int, int] = {}
        self._lock = threading.Lock()

    def hear(self, household_id: int, newest: int, ours: Callable[[int], bool]) -> None:
        """What another process wrote, or somebody by hand, is told by an event that is not ours.

        Args:
            household_id: whose.
            newest: its newest event.
            ours: whether an event is of this process.
        """
        with self._lock:
            if newest != self._newest.get(household_id, newest) and not ours(newest):
                self._kept.clear()
            self._newest[household_id] = newest

    def find(self, name: Hashable, stamp: object) -> Any | None:
        """What was kept under a name a moment ago, if it holds for this stamp."""
        with self._lock:
            kept = self._kept.get(name)
            if kept is None or kept.stamp != stamp or self._clock() - kept.since > FOR_S:
                return None
            self._kept.move_to_end(name)
            return kept.thing

    def keep(self, name: Hashable, stamp: object, thing: object) -> None:
        """Keep something under a name for a moment, as long as its stamp is the same."""
        with self._lock:
            self._kept[name] = Kept(stamp, self._clock(), thing)
            self._kept.move_to_end(name)
            while len(self._kept) > self._most:
                self._kept.popitem(last=False)
