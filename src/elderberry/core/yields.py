"""What fruit will give: a prior from the tables, updated by what this kitchen drew."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from elderberry.core import tables
from elderberry.core.errors import Unknown, check_range
from elderberry.core.estimates import Z90, Z_SPAN, Estimate, Evidence

if TYPE_CHECKING:
    from elderberry.core.materials import Fruit

BATCH_SCATTER = 0.08
"""Standard deviation of log yield between batches of one fruit, way, source and kitchen."""
HOUSEHOLD_SHARE = 0.6
"""Share of what the tables' spread holds beyond batch scatter that is the kitchen's own habit;
the rest goes with the source (tree, plot, market)."""
OUTLIER_SCORES = 3.0
ALIKE = 3
"""Batches that agree with each other, and so are believed against the tables."""


@dataclass(frozen=True)
class Observation:
    """One finished batch: yield_l_per_kg [L/kg prepared fruit] and where the fruit came from.

    way: the way of juicing; batch: a code to find it by.
    """

    yield_l_per_kg: float
    source: str = ""
    way: str = ""
    batch: str = ""

    def __post_init__(self) -> None:
        check_range("yield", self.yield_l_per_kg, "L/kg", 0.01, 5)


@dataclass(frozen=True)
class YieldForecast:
    """Predicted yield [L/kg]: log-normal, with what it was learned from and what was set aside."""

    median: float
    sigma: float
    used: int = 0
    outliers: tuple[Observation, ...] = ()

    @property
    def lo(self) -> float:
        """10th percentile [L/kg]."""
        return self.median * math.exp(-Z90 * self.sigma)

    @property
    def hi(self) -> float:
        """90th percentile [L/kg]: prepare jars for this."""
        return self.median * math.exp(Z90 * self.sigma)

    @property
    def evidence(self) -> Evidence:
        """Measured once this kitchen's own batches speak, typical until then."""
        return Evidence.MEASURED if self.used else Evidence.TYPICAL

    def estimate(self) -> Estimate:
        """The same as an estimate [L/kg]."""
        return Estimate(self.lo, self.median, self.hi, self.evidence)


def way_name(way: str) -> str:
    """What a way of juicing is called.

    Raises:
        Unknown: no such way.

    >>> way_name("drain")
    'Simmered and hung'
    """
    row = next((r for r in tables.rows("ways") if r["way"] == way), None)
    if row is None:
        raise Unknown("way of juicing", way)
    return row["name"]


def prior(way: str, fruit: Fruit) -> Estimate | None:
    """Yield of a fruit by a way of juicing before anybody has tried [L/kg], or None.

    The fruit's steam or press figures times what the way makes of them, spreads added in log.

    Args:
        way: key in data/ways.csv, such as "steam" or "drain".
        fruit: the fruit.

    Source: data/fruits.csv, data/ways.csv.

    >>> from elderberry.core import materials
    >>> prior("steam", materials.fruit("damson")).typ
    0.5
    """
    row = next((r for r in tables.rows("ways") if r["way"] == way), None)
    base = None
    if row is not None:
        base = _base(fruit, row["base"])
    factor = tables.estimate(row["factor"]) if row else None
    if base is None or factor is None:
        return None
    down = math.hypot(math.log(base.typ / base.lo), math.log(factor.typ / factor.lo))
    up = math.hypot(math.log(base.hi / base.typ), math.log(factor.hi / factor.typ))
    typical = base.typ * factor.typ
    return Estimate(typical * math.exp(-down), typical, typical * math.exp(up))


def _base(fruit: Fruit, column: str) -> Estimate | None:
    """The fruit's own figure that a way starts from."""
    if column == "peel":
        share = fruit.zest_share
        return Estimate(share, share, share) if share else None
    return fruit.steam_l_per_kg if column == "steam" else fruit.press_l_per_kg


def predict(
    prior: Estimate, observations: Sequence[Observation] = (), source: str = ""
) -> YieldForecast:
    """Yield of the next batch [L/kg prepared fruit], from the tables and this kitchen's batches.

    Log yield = table median + household effect + source effect + batch scatter (8 %), all
    normal. The prior's spread σ = ln(hi/lo)/2.563 is that of the first batch of a kitchen
    nobody knows. An observation over three standard deviations from what the tables allow is
    set aside and reported, unless two others agree with it: then it is the tables that are off.

    Args:
        prior: the tables' lo, typ, hi [L/kg], all above 0.
        observations: finished batches of this fruit and way in this household.
        source: where the next fruit comes from.

    Raises:
        OutOfRange: a yield no fruit gives.

    Source: conjugate normal model; scatter from extension yield tables.

    >>> forecast = predict(Estimate(0.42, 0.50, 0.58))
    >>> round(forecast.median, 3), round(forecast.hi / forecast.lo, 3)
    (0.5, 1.381)
    """
    check_range("yield", np.array([prior.lo, prior.typ, prior.hi]), "L/kg", 0.01, 5)
    centre, sigma = math.log(prior.typ), math.log(prior.hi / prior.lo) / Z_SPAN
    between = max(sigma**2 - BATCH_SCATTER**2, 0.25 * BATCH_SCATTER**2)
    household = HOUSEHOLD_SHARE * between
    of_source = between - household
    limit = OUTLIER_SCORES * math.sqrt(between + BATCH_SCATTER**2)
    kept = [o for o in observations if _believed(o, observations, centre, limit)]
    aside = tuple(o for o in observations if o not in kept)
    if not kept:
        return YieldForecast(prior.typ, sigma, 0, aside)

    logs = np.array([math.log(o.yield_l_per_kg) for o in kept]) - centre
    same = np.array([[a.source == b.source for b in kept] for a in kept], dtype=float)
    covariance = household + of_source * same + BATCH_SCATTER**2 * np.eye(len(kept))
    towards = household + of_source * np.array([float(o.source == source) for o in kept])
    weights = np.linalg.solve(covariance, towards)
    mean = float(weights @ logs)
    variance = between - float(weights @ towards) + BATCH_SCATTER**2
    return YieldForecast(math.exp(centre + mean), math.sqrt(variance), len(kept), aside)


def _believed(
    one: Observation, all_of_them: Sequence[Observation], centre: float, limit: float
) -> bool:
    """Whether a batch is near enough to the tables, or others bear it out."""
    here = math.log(one.yield_l_per_kg)
    if abs(here - centre) <= limit:
        return True
    apart = OUTLIER_SCORES * math.sqrt(2.0) * BATCH_SCATTER
    near = sum(abs(math.log(o.yield_l_per_kg) - here) <= apart for o in all_of_them)
    return near >= ALIKE
