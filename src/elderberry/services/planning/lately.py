"""Plans that were shown lately: whoever asks again from the same kitchen finds them laid out.

A page asks for its plan again whenever anything happens in the household, and most of it is about
something else. What a plan hangs on is compared, so that nothing has to be told of.
"""

from __future__ import annotations

import threading
from collections import deque
from collections.abc import Callable
from typing import Generic, TypeVar

On = TypeVar("On")
Shown = TypeVar("Shown")
MOST = 16


class Lately(Generic[On, Shown]):
    """What was shown lately, beside all that it hangs on."""

    def __init__(self, most: int = MOST) -> None:
        self._kept: deque[tuple[On, Shown]] = deque(maxlen=most)
        self._lock = threading.Lock()

    def shown(self, on: On, show: Callable[[], Shown]) -> Shown:
        """What is shown of it: as it was, where it hangs on the same as one shown lately."""
        with self._lock:
            there = list(self._kept)
        before = next((pair for pair in reversed(there) if pair[0] == on), None)
        if before is not None:
            return before[1]
        made = show()
        with self._lock:
            self._kept.append((on, made))
        return made
