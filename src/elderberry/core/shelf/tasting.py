"""What tastings say of how long things keep here: they shift what this household expects."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal, get_args

import numpy as np

from elderberry.core.errors import Unknown, check_range
from elderberry.core.numbers import Array
from elderberry.core.storage import LifeRow

Verdict = Literal["good", "fading", "gone"]
VERDICTS: tuple[Verdict, ...] = get_args(Verdict)
SAID: dict[str, str] = {"good": "still good", "fading": "fading", "gone": "gone"}
BETWEEN_JARS = 0.20
"""Standard deviation of the log of life between jars of one kind; an estimate of ours."""
FADES_FROM, FADES_TO = 0.85, 1.25
"""Shares of its life at which a taster calls a jar fading [-]; an estimate of ours."""
NINE_TENTHS = 1.2815515655446004
MOST_SHIFT = math.log(4.0)
TINY = 1e-300


def verdict(word: str) -> Verdict:
    """A verdict by its word.

    Raises:
        Unknown: there is none such.

    >>> verdict("fading")
    'fading'
    """
    for known in VERDICTS:
        if word == known:
            return known
    raise Unknown("verdict of a tasting", word)


@dataclass(frozen=True)
class Tasting:
    """What a jar was found to be like after so many days at its row's reference [d]."""

    aged_d: float
    verdict: Verdict


def learned(row: LifeRow, tastings: Sequence[Tasting]) -> LifeRow:
    """A row with the life that this household's tastings say.

    The log of the typical life is normal before anything was tasted, its spread from the row's
    band. A jar that is still good has a life beyond its age, one that is gone a shorter one, one
    that fades is near its end: interval censoring, with scatter between jars.

    Args:
        row: as the tables have it.
        tastings: of jars of this row.

    Raises:
        OutOfRange: an age below nothing.

    Source: log-normal with interval censoring; BETWEEN_JARS, FADES_FROM, FADES_TO are ours.

    >>> from elderberry.core.storage import life_row
    >>> juice = life_row("canned_sealed", "juice")
    >>> learned(juice, []) == juice
    True
    >>> 365 < learned(juice, [Tasting(500, "good")] * 3).days_typ < 700
    True
    """
    return _learned(row, tuple(tastings)) if tastings else row


@lru_cache(maxsize=512)
def _learned(row: LifeRow, tastings: tuple[Tasting, ...]) -> LifeRow:
    width = math.log(row.days_hi / row.days_lo) / (2.0 * NINE_TENTHS)
    prior = max(width, 0.05)
    shift = np.linspace(-MOST_SHIFT, MOST_SHIFT, 1201)
    weight = -0.5 * (shift / prior) ** 2
    for tasting in tastings:
        weight += _likelihood(math.log(row.days_typ) + shift, tasting)
    share = np.exp(weight - weight.max())
    below = np.cumsum(share) / share.sum()
    lo, typ, hi = (float(np.interp(p, below, shift)) for p in (0.1, 0.5, 0.9))
    scatter = NINE_TENTHS * BETWEEN_JARS
    return replace(
        row,
        days_lo=row.days_typ * math.exp(typ - math.hypot(typ - lo, scatter)),
        days_typ=row.days_typ * math.exp(typ),
        days_hi=row.days_typ * math.exp(typ + math.hypot(hi - typ, scatter)),
    )


def _likelihood(log_life: Array, tasting: Tasting) -> Array:
    """The log of how likely a verdict is at each typical life."""
    check_range("age of what was tasted", tasting.aged_d, "days", 0, 36_500)
    age = math.log(max(tasting.aged_d, 0.01))
    ended = _normal((age - math.log(FADES_TO) - log_life) / BETWEEN_JARS)
    begun = _normal((age - math.log(FADES_FROM) - log_life) / BETWEEN_JARS)
    chance = {"good": 1.0 - begun, "fading": begun - ended, "gone": ended}
    return np.asarray(np.log(np.maximum(chance[tasting.verdict], TINY)))


def _normal(z: Array) -> Array:
    """The cumulative normal distribution."""
    return np.asarray([0.5 * math.erfc(-float(x) / math.sqrt(2.0)) for x in z])
