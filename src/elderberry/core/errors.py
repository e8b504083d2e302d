"""What the core raises.

CoreError
├── OutOfRange      a value outside the limits within which a formula holds
├── Unknown         a fruit, ingredient, jar or row that the data files do not list
├── CannotTell      the inputs do not determine the answer
├── DoesNotConnect  steps that would not hang together as one flow
├── DoesNotFit      more than a vessel holds
├── Unreachable     a target that no amount of the given means will reach
├── IllegalStep     an event that a step in this state cannot take
└── Refusal         the work would not be safe; carries the stop that says why
"""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from elderberry.core.numbers import as_values, least, most

if TYPE_CHECKING:
    from elderberry.core.findings import Finding
    from elderberry.core.numbers import Values


class CoreError(Exception):
    """Anything the core cannot or will not do."""


class OutOfRange(CoreError):
    """A value outside the limits of a formula; names quantity, value, unit and limits."""

    def __init__(self, quantity: str, value: Values, unit: str, low: float, high: float) -> None:
        self.quantity, self.value, self.unit = quantity, value, unit
        self.low, self.high = low, high
        worst = _furthest_outside(value, low, high)
        of = unit and f" {unit}"
        super().__init__(f"{quantity} {worst:g}{of} is outside {low:g} to {high:g}{of}")


class Unknown(CoreError):
    """A key that the data files do not list."""

    def __init__(self, kind: str, key: str) -> None:
        self.kind, self.key = kind, key
        super().__init__(f"there is no {kind} called {key!r}")


class CannotTell(CoreError):
    """The inputs do not determine the answer; the message says what would."""


class DoesNotConnect(CoreError):
    """Steps that would not hang together; the message says at which place and why."""


class DoesNotFit(CoreError):
    """More than a vessel holds; the message says how many goes it takes."""


class Unreachable(CoreError):
    """A target that cannot be reached by the given means; nearest is the closest that can be."""

    def __init__(self, message: str, nearest: float | None = None) -> None:
        self.nearest = nearest
        super().__init__(message)


class Past(Unreachable):
    """A target that lies behind already; nearest is where it stands now."""


class IllegalStep(CoreError):
    """An event that does not fit the state of a step."""

    def __init__(self, code: str, message: str) -> None:
        self.code = code
        super().__init__(message)


class Refusal(CoreError):
    """Unsafe work: carries the stop (`finding`) with its reason and remedy."""

    def __init__(self, finding: Finding) -> None:
        self.finding = finding
        super().__init__(finding.message)

    @property
    def stop(self) -> Finding:
        """The stop that it carries."""
        return self.finding


def check_range(quantity: str, value: Values, unit: str, low: float, high: float) -> None:
    """Raise OutOfRange unless every value lies in [low, high].

    >>> check_range("Brix", 50.0, "°Bx", 0, 85)
    >>> check_range("Brix", 90.0, "°Bx", 0, 85)
    Traceback (most recent call last):
    elderberry.core.errors.OutOfRange: Brix 90 °Bx is outside 0 to 85 °Bx
    """
    values = as_values(value)
    if isinstance(values, np.ndarray) and values.size == 0:
        return
    if not (low <= least(values) and most(values) <= high):
        raise OutOfRange(quantity, value, unit, low, high)


def _furthest_outside(value: Values, low: float, high: float) -> float:
    values = np.atleast_1d(np.asarray(value, dtype=float))
    distance = np.maximum(low - values, values - high)
    return float(values[np.argmax(np.where(np.isnan(distance), np.inf, distance))])
