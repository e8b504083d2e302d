"""How long this kitchen takes, against what the tables say: learned from finished steps."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from elderberry.core.errors import Unknown, check_range

PRIOR_SIGMA: Mapping[str, float] = {"heat": 0.35, "reduce": 0.30, "steam": 0.20}
"""Standard deviation of the log of how much slower a kitchen is than planned, by role of step."""
SCATTER = 0.20
"""The same between finished steps of one kitchen; both are estimates of ours."""
SLOWEST, FASTEST = 4.0, 0.25
"""Beyond these somebody forgot to press, and nothing is learned [-]."""


@dataclass(frozen=True)
class Pace:
    """How much longer a kind of step takes here than planned [-], and how many steps say so."""

    factor: float = 1.0
    used: int = 0


def learn(role: str, ratios: Sequence[float]) -> Pace:
    """The pace of a kind of step, from minutes that were taken over minutes that were planned.

    Log ratio = kitchen + scatter, both normal; the kitchen's is drawn towards none at all as long
    as few steps have been finished. Ratios under a quarter or over four are left out.

    Args:
        role: heat, reduce or steam.
        ratios: of finished steps [-], above 0.

    Raises:
        Unknown: a kind of step whose time is not learned.
        OutOfRange: a ratio of nothing.

    Source: conjugate normal model; PRIOR_SIGMA, SCATTER.

    >>> learn("heat", []).factor, round(learn("heat", [1.5] * 6).factor, 2)
    (1.0, 1.47)
    """
    if role not in PRIOR_SIGMA:
        raise Unknown("time that is learned", role)
    for ratio in ratios:
        check_range("ratio", ratio, "", 1e-6, 1e6)
    kept = [math.log(r) for r in ratios if FASTEST <= r <= SLOWEST]
    if not kept:
        return Pace()
    weight = len(kept) / (len(kept) + (SCATTER / PRIOR_SIGMA[role]) ** 2)
    return Pace(math.exp(weight * sum(kept) / len(kept)), len(kept))
