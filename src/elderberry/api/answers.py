"""What was answered a moment ago, for whoever asks the same before anything has happened.

When something happens, every page that looks on asks again: it is found out once. An answer holds
only while nothing happened in the household, since whatever does has an event of a higher number;
and never for longer than a moment, since some answers speak of the time.
"""

from __future__ import annotations

import threading
import time
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass

from elderberry.services.once import Answered

FOR_S = 2.0
MOST_BYTES = 32 * 1024 * 1024


@dataclass(frozen=True)
class Question:
    """Who asks what, and the newest event of the household as it is asked."""

    person_id: int
    what: str
    """Verb, address with its query, and the SHA-256 of what is sent."""
    newest: int


class Answers:
    """Answers of a moment ago; those used longest ago are forgotten first."""

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        self._clock = clock
        self._kept: OrderedDict[Question, tuple[float, Answered]] = OrderedDict()
        self._bytes = 0
        self._lock = threading.Lock()

    def find(self, question: Question) -> Answered | None:
        """What was answered to it a moment ago, if it still holds."""
        with self._lock:
            at, answered = self._kept.get(question, (0.0, None))
            if answered is None or self._clock() - at > FOR_S:
                return None
            self._kept.move_to_end(question)
            return answered

    def keep(self, question: Question, answered: Answered) -> None:
        """Keep an answer for a moment."""
        with self._lock:
            _, before = self._kept.pop(question, (0.0, None))
            self._bytes += len(answered.body) - (len(before.body) if before else 0)
            self._kept[question] = (self._clock(), answered)
            while self._bytes > MOST_BYTES:
                _, (_, oldest) = self._kept.popitem(last=False)
                self._bytes -= len(oldest.body)
