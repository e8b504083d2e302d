"""How a value is known: an estimate with its range and its evidence, and draws from it.

One mechanism carries uncertainty through every formula: an estimate becomes a fixed set of
draws (the first is the typical value itself), formulas run on whole arrays of draws, and the
80 % range of the result is read off them. The draws are a low-discrepancy sequence, so the
same inputs always give the same range.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache
from statistics import NormalDist

import numpy as np

from elderberry.core.errors import CoreError
from elderberry.core.numbers import Array, Values

DRAWS = 256
Z90 = 1.2815515655446004
"""Standard normal score of the 90th percentile."""
Z_SPAN = 2.563103131089201
"""Distance between the 10th and the 90th percentile in standard deviations."""


class Evidence(StrEnum):
    """How a value is known, strongest first."""

    MEASURED = "measured"
    READ = "read"
    TYPICAL = "typical"


@dataclass(frozen=True)
class Estimate:
    """A value with its 80 % range: one in ten lies below `lo`, one in ten above `hi`."""

    lo: float
    typ: float
    hi: float
    evidence: Evidence = Evidence.TYPICAL

    def __post_init__(self) -> None:
        if not self.lo <= self.typ <= self.hi:
            raise CoreError(f"a range must rise: {self.lo}, {self.typ}, {self.hi}")

    def scaled(self, factor: float) -> Estimate:
        """The estimate times a factor ≥ 0.

        >>> Estimate(1, 2, 4).scaled(10)
        Estimate(lo=10, typ=20, hi=40, evidence=<Evidence.TYPICAL: 'typical'>)
        """
        return Estimate(self.lo * factor, self.typ * factor, self.hi * factor, self.evidence)

    def draws(self, scores: Array) -> Array:
        """Draws [same unit] from normal scores, with its own spread on each side of typ."""
        spread = np.where(scores < 0, self.typ - self.lo, self.hi - self.typ) / Z90
        return np.asarray(self.typ + scores * spread, dtype=np.float64)


def measured(value: float, half_width: float = 0.0) -> Estimate:
    """An instrument's value with the half-width of its 80 % range.

    >>> measured(3.0, 0.1).hi
    3.1
    """
    return Estimate(value - half_width, value, value + half_width, Evidence.MEASURED)


def from_draws(values: Values, evidence: Evidence = Evidence.TYPICAL) -> Estimate:
    """The estimate that draws amount to: typical from the first, range from the others.

    >>> from_draws(3.0).hi
    3.0
    """
    array = np.atleast_1d(np.asarray(values, dtype=np.float64))
    if array.size == 1:
        return Estimate(float(array[0]), float(array[0]), float(array[0]), evidence)
    typical = float(array[0])
    ordered = np.sort(array[1:])
    lo, hi = _percentile(ordered, 10), _percentile(ordered, 90)
    return Estimate(min(lo, typical), typical, max(hi, typical), evidence)


def _percentile(ordered: Array, per_cent: int) -> float:
    """Percentile of sorted values, on the line between the two that it lies between."""
    whole, part = divmod(per_cent * (ordered.size - 1), 100)
    here = float(ordered[whole])
    return here + part / 100 * (float(ordered[whole + 1]) - here) if part else here


def agreement(predicted: Estimate, value: float, half_width: float = 0.0) -> str:
    """Whether a measured value agrees with its prediction: "agrees", "low" or "high".

    >>> agreement(Estimate(2.5, 2.9, 3.3), 3.1), agreement(Estimate(13, 14, 15), 12)
    ('agrees', 'low')
    """
    if value + half_width < predicted.lo:
        return "low"
    return "high" if value - half_width > predicted.hi else "agrees"


def weakest(*evidence: Evidence) -> Evidence:
    """The weakest of several grades: a result is known no better than its poorest input.

    >>> weakest(Evidence.MEASURED, Evidence.TYPICAL)
    <Evidence.TYPICAL: 'typical'>
    """
    order = list(Evidence)
    return max(evidence, key=order.index)


@lru_cache(maxsize=32)
def normal_scores(dimension: int, draws: int = DRAWS) -> Array:
    """Standard normal scores [-] of one independent input; the first is 0, the typical case.

    Additive recurrence on the generalised golden ratio of eight dimensions (M. Roberts 2018),
    mapped through the inverse normal distribution and standardised.

    >>> normal_scores(0).shape, float(normal_scores(0)[0])
    ((256,), 0.0)
    """
    ratio = 1.0
    for _ in range(60):
        ratio = (1.0 + ratio) ** (1.0 / 9.0)
    steps = (0.5 + np.arange(1, draws) * ratio ** -(dimension + 1)) % 1.0
    inverse = NormalDist().inv_cdf
    raw = np.array([inverse(min(max(u, 1e-6), 1 - 1e-6)) for u in steps])
    scores = np.array([0.0, *((raw - raw.mean()) / raw.std())])
    scores.setflags(write=False)
    return scores


def correlated(first: Array, second: Array, correlation: float) -> Array:
    """Scores of a second input that moves with the first by a correlation in [-1, 1]."""
    return np.asarray(correlation * first + np.sqrt(1 - correlation**2) * second, dtype=np.float64)
