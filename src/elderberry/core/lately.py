"""What was made lately, beside all that it hangs on: whoever asks for the same finds it made.

A page asks again whenever anything happens in its household, and most of it is about something
else. What a thing hangs on is compared, so that nothing has to be told of.
"""

from __future__ import annotations

import threading
from collections import deque
from collections.abc import Callable
from typing import Generic, TypeVar

On = TypeVar("On")
Made = TypeVar("Made")


class Lately(Generic[On, Made]):
    """The last few things that were made, beside all that they hang on."""

    def __init__(self, most: int = 1) -> None:
        self._kept: deque[tuple[On, Made]] = deque(maxlen=most)
        self._lock = threading.Lock()

    def made(self, on: On, make: Callable[[], Made]) -> Made:
        """What is made of it: the same as before, where it hangs on the same as one of the last."""
        with self._lock:
            there = list(self._kept)
        before = next((pair for pair in reversed(there) if pair[0] == on), None)
        if before is not None:
            return before[1]
        made = make()
        with self._lock:
            self._kept.append((on, made))
        return made
