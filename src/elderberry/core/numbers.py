"""The number type of the core, and two root finders that work on whole arrays."""

from __future__ import annotations

from collections.abc import Callable, Sequence
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


def as_values(given: Any) -> Values:
    """Numbers to calculate with: one stays a plain float, several become an array.

    >>> as_values(2), as_values([1, 2])
    (2.0, array([1., 2.]))
    """
    return float(given) if isinstance(given, (int, float)) else np.asarray(given, dtype=float)


def typical(values: Values) -> float:
    """The typical case of a figure: the first of its draws, or the plain number itself.

    >>> typical(np.array([2.0, 1.8, 2.3])), typical(3)
    (2.0, 3.0)
    """
    return float(values.flat[0]) if isinstance(values, np.ndarray) else float(values)


def least(values: Values) -> float:
    """The smallest of all draws; not a number where one of them is none.

    >>> least(np.array([2.0, 1.8, 2.3]))
    1.8
    """
    return float(values.min()) if isinstance(values, np.ndarray) else float(values)


def most(values: Values) -> float:
    """The largest of all draws; not a number where one of them is none.

    >>> most(np.array([2.0, 1.8, 2.3]))
    2.3
    """
    return float(values.max()) if isinstance(values, np.ndarray) else float(values)


def polynomial(x: Values, coefficients: Sequence[float]) -> Any:
    """The sum of coefficients times rising powers of x, by Horner's rule.

    >>> polynomial(2.0, (1.0, 0.0, 3.0))
    13.0
    """
    total: Any = coefficients[-1]
    for coefficient in reversed(coefficients[:-1]):
        total = total * x + coefficient
    return total


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
    tolerance: float = 1e-5,
) -> Any:
    """The root of a falling function by Newton steps that never leave a shrinking bracket.

    It stops at the first Newton step under the tolerance; what error is left is about its square.

    >>> round(newton_bracketed(lambda x: (2 - x * x, -2 * x), 0.0, 2.0, 1.0), 9)
    1.414213562
    """
    shape = 0.0 * (np.asarray(low) + np.asarray(high) + np.asarray(start))
    lo, hi, x = shape + low, shape + high, shape + start
    with np.errstate(divide="ignore", invalid="ignore"):
        for _ in range(80):
            value, slope = value_and_slope(x)
            above = value > 0
            lo, hi = np.where(above, x, lo), np.where(above, hi, x)
            step = x - value / slope
            inside = (step >= lo) & (step <= hi)
            following = np.where(inside, step, 0.5 * (lo + hi))
            if (inside & (np.abs(following - x) < tolerance)).all():
                return as_given(following)
            x = following
    return as_given(x)
