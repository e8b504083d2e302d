"""The number type of the core, and two root finders that work on whole arrays."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeAlias

import numpy as np
from numpy.typing import NDArray

Array: TypeAlias = NDArray[np.float64]
Values: TypeAlias = float | Array
"""A plain number, or an array of draws of it."""


def as_given(result: Any) -> Any:
    """A zero-dimensional array as a float; anything longer as it is.

    >>> as_given(np.array(2.0))
    2.0
    """
    return float(result) if np.ndim(result) == 0 else result


def bisect(falling: Callable[[Array], Any], low: Values, high: Values, steps: int = 60) -> Any:
    """The root of a falling function between low and high, element by element.

    >>> round(bisect(lambda x: 2 - x * x, 0.0, 2.0), 6)
    1.414214
    """
    lo, hi = np.broadcast_arrays(np.asarray(low, float), np.asarray(high, float))
    for _ in range(steps):
        mid = 0.5 * (lo + hi)
        above = np.asarray(falling(mid)) > 0
        lo, hi = np.where(above, mid, lo), np.where(above, hi, mid)
    return as_given(0.5 * (lo + hi))


def newton_bracketed(
    value_and_slope: Callable[[Array], tuple[Any, Any]],
    low: Values,
    high: Values,
    start: Values,
    tolerance: float = 1e-10,
) -> Any:
    """The root of a falling function by Newton steps that never leave a shrinking bracket.

    >>> round(newton_bracketed(lambda x: (2 - x * x, -2 * x), 0.0, 2.0, 1.0), 9)
    1.414213562
    """
    lo, hi, x = (
        np.array(a)
        for a in np.broadcast_arrays(*(np.asarray(v, float) for v in (low, high, start)))
    )
    for _ in range(80):
        value, slope = value_and_slope(x)
        lo, hi = np.where(value > 0, x, lo), np.where(value > 0, hi, x)
        with np.errstate(divide="ignore", invalid="ignore"):
            step = x - value / slope
        inside = (step >= lo) & (step <= hi)
        following = np.where(inside, step, 0.5 * (lo + hi))
        if np.all(np.abs(following - x) < tolerance):
            return as_given(following)
        x = following
    return as_given(x)
