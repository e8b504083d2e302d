"""Freeze-drying: what a tray holds, whether it dries or foams, how long it takes, its end."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from elderberry.core.composition import Composition
from elderberry.core.errors import Unreachable, check_range
from elderberry.core.numbers import Array, typical

COLLAPSE_C: Mapping[str, float] = {
    "sucrose": -32.0, "glucose": -43.0, "fructose": -48.0, "acids": -50.0, "insoluble": -10.0,
    "other": -10.0,
}  # fmt: skip
"""Temperatures at which each of the solids collapses in a freeze dryer [°C]; what is neither sugar
nor acid counts as maltodextrin does."""
DRIES_WELL_C, STICKY_C = -36.0, -42.0
Does = Literal["dries", "sticky", "foams"]
THICKNESS_POWER = 1.5
REF_HOURS, REF_LOAD_KG, REF_MM = 24.0, 1.0, 10.0
"""A usual cycle: hours for a kilo of water on a tray of ten millimetres; an estimate of ours."""
LEAST_HOURS = 8.0
"""What freezing, the vacuum and the last bound water take however thin it lies; ours."""
SPREAD = 0.25
"""Standard deviation of the log of hours before a machine was seen at work; ours."""
END_CHANGE = 0.005
RESIDUAL_WATER = 0.03


@dataclass(frozen=True)
class Tray:
    """What lies on a tray: its composition [g], how thick, and whether it was frozen before."""

    composition: Composition
    thickness_mm: float
    frozen: bool = True

    @property
    def water_g(self) -> float:
        """Water that is to come out, but for what a dry powder keeps [g]."""
        solids = self.solids_g
        return max(0.0, float(typical(self.composition.water)) - solids * RESIDUAL_WATER / 0.97)

    @property
    def solids_g(self) -> float:
        """What is left when all water is gone [g]."""
        whole = self.composition
        return float(typical(whole.mass_g)) - float(typical(whole.water))

    @property
    def sugar_share(self) -> float:
        """Share of sugar in what is left when all water is gone [-]."""
        return float(typical(self.composition.sugars_g)) / max(self.solids_g, 1e-9)


@dataclass(frozen=True)
class Cycle:
    """A cycle that was run: water that came out [kg], thickness [mm], sugar in the solids [-],
    whether it was frozen before, and how long it took [h].
    """

    water_kg: float
    thickness_mm: float
    sugar_share: float
    frozen: bool
    hours: float


@dataclass(frozen=True)
class Hours:
    """How long a cycle takes [h], with the range a tenth of cycles lie beyond on either side."""

    lo: float
    typ: float
    hi: float
    cycles: int


def collapse_c(composition: Composition) -> float:
    """The temperature above which a dried cake falls in on itself [°C].

    Mass-weighted mean over its solids.

    Args:
        composition: what is dried.

    Raises:
        OutOfRange: nothing but water.

    Source: glass transitions of the sugars, Roos (1995), rounded; acids and pulp as design figures.

    >>> from elderberry.core.composition import of_material
    >>> collapse_c(of_material("sugar_white", 100))
    -32.0
    """
    c = composition
    parts = {
        "sucrose": float(typical(c.sucrose)),
        "glucose": float(typical(c.glucose)),
        "fructose": float(typical(c.fructose)),
        "acids": float(typical(c.acid_g)),
        "insoluble": float(typical(c.insoluble)),
    }
    solids = float(typical(c.mass_g)) - float(typical(c.water))
    parts["other"] = max(0.0, solids - sum(parts.values()))
    whole = sum(parts.values())
    check_range("solids", whole, "g", 1e-6, 1e9)
    return sum(COLLAPSE_C[k] * g for k, g in parts.items()) / whole


def does(composition: Composition, *, liquid: bool = True) -> Does:
    """What it does in the machine: dries well, slow and sticky, or foams.

    Only liquids foam: slices that are too sweet stay sticky.

    Source: collapse_c against -36 and -42 °C.

    >>> from elderberry.core.composition import of_material
    >>> does(of_material("sugar_white", 40) + of_material("water", 60))
    'dries'
    """
    at = collapse_c(composition)
    if at > DRIES_WELL_C:
        return "dries"
    return "sticky" if at >= STICKY_C or not liquid else "foams"


def pulp_to_dry(composition: Composition, wanted_c: float = DRIES_WELL_C) -> float:
    """Dry pulp or maltodextrin that brings a liquid to dry well [g].

    Args:
        composition: what foams or sticks.
        wanted_c: the collapse temperature it should have [°C], below -10.

    Raises:
        OutOfRange: nothing but water.
        Unreachable: a temperature that pulp itself does not have.

    Source: the same mean, solved for its insoluble part.

    >>> from elderberry.core.composition import of_material
    >>> round(pulp_to_dry(of_material("sugar_white", 100), -30.0), 1)
    10.0
    """
    if wanted_c >= COLLAPSE_C["insoluble"]:
        raise Unreachable("pulp itself collapses at -10 °C")
    solids = float(typical(composition.mass_g)) - float(typical(composition.water))
    lacks = (wanted_c - collapse_c(composition)) * solids
    return max(0.0, lacks / (COLLAPSE_C["insoluble"] - wanted_c))


def hours(trays: Sequence[Tray], past: Sequence[Cycle] = ()) -> Hours:
    """How long a load takes: by the fullest of a usual machine, put right by this one's cycles.

    hours = 24 × (water/1 kg a tray) × (thickness/10 mm)^1.5 of the slowest tray, eight at
    the least; with cycles, a
    log-linear regression on water, thickness, sugar and freezing, drawn to that law as long as few
    were run.

    Args:
        trays: what goes in, one or more.
        past: cycles of this machine.

    Raises:
        OutOfRange: no tray, or one that is dry.

    Source: heat through the dried layer, Pikal (1985), as a power law; ridge regression.

    >>> from elderberry.core.composition import of_material
    >>> wet = of_material("water", 1000) + of_material("sugar_white", 100)
    >>> round(hours([Tray(wet, 10.0)]).typ, 1)
    23.9
    """
    check_range("trays", len(trays), "", 1, 60)
    features = [
        _features(t.water_g / 1000.0, t.thickness_mm, t.sugar_share, t.frozen) for t in trays
    ]
    prior = [math.log(law_h(t.water_g / 1000.0, t.thickness_mm)) for t in trays]
    shift, cover = _learned(past)
    logs = [p + float(f @ shift) for p, f in zip(prior, features, strict=True)]
    slowest = int(np.argmax(logs))
    wide = 1.2816 * math.sqrt(
        float(features[slowest] @ cover @ features[slowest]) + (SPREAD / 2.0) ** 2
    )
    typ = math.exp(logs[slowest])
    return Hours(typ * math.exp(-wide), typ, typ * math.exp(wide), len(past))


def law_h(water_kg: float, thickness_mm: float) -> float:
    """Hours of a usual machine for so much water on a tray of such a depth [h].

    Raises:
        OutOfRange: figures that no tray has.

    >>> law_h(1.0, 10.0), law_h(0.1, 5.0)
    (24.0, 8.0)
    """
    check_range("water on a tray", water_kg, "kg", 1e-4, 50)
    check_range("thickness", thickness_mm, "mm", 0.5, 100)
    thicker = float((thickness_mm / REF_MM) ** THICKNESS_POWER)
    return max(LEAST_HOURS, REF_HOURS * water_kg / REF_LOAD_KG * thicker)


def _features(water_kg: float, thickness_mm: float, sugar: float, frozen: bool) -> Array:
    return np.array([
        1.0, math.log(water_kg), math.log(thickness_mm / REF_MM), sugar, 0.0 if frozen else 1.0,
    ])  # fmt: skip


PRIOR_SIGMA = np.array([SPREAD, 0.15, 0.3, 0.3, 0.2])


def _learned(past: Sequence[Cycle]) -> tuple[Array, Array]:
    """How this machine differs from the law, and how sure that is."""
    precision = np.diag(1.0 / PRIOR_SIGMA**2)
    towards = np.zeros(len(PRIOR_SIGMA))
    for cycle in past:
        check_range("hours of a cycle", cycle.hours, "h", 0.5, 200)
        x = _features(cycle.water_kg, cycle.thickness_mm, cycle.sugar_share, cycle.frozen)
        off = math.log(cycle.hours / law_h(cycle.water_kg, cycle.thickness_mm))
        precision += np.outer(x, x) / SCATTER**2
        towards += x * off / SCATTER**2
    cover = np.linalg.inv(precision)
    return np.asarray(cover @ towards), np.asarray(cover)


SCATTER = 0.10
"""Standard deviation of the log of hours between cycles of one machine; ours."""


def is_dry(before_g: float, after_g: float) -> bool:
    """Whether two weighings an hour apart say that it is dry: less than half a per cent lost.

    Raises:
        OutOfRange: masses that are none, or more than before.

    >>> is_dry(120.0, 119.6), is_dry(120.0, 118.0)
    (True, False)
    """
    check_range("first weighing", before_g, "g", 1e-3, 1e6)
    check_range("second weighing", after_g, "g", 1e-3, before_g * 1.001)
    return (before_g - after_g) / before_g < END_CHANGE


def powder_g(tray: Tray) -> float:
    """What a tray weighs when it is dry: its solids, and three parts of water in a hundred [g].

    >>> from elderberry.core.composition import of_material
    >>> round(powder_g(Tray(of_material("water", 900) + of_material("sugar_white", 97), 8.0)), 1)
    100.0
    """
    return tray.solids_g / (1.0 - RESIDUAL_WATER)


GAIN = 0.08
CLUMPS_PCT = 5.0


def gain_pct(humidity_pct: float, minutes: float) -> float:
    """Water that a thin layer of powder takes up from the air of a room [% of its mass].

    0.08 × (RH − 20) × minutes/10, from none below 20 %.

    Raises:
        OutOfRange: a humidity outside 0 to 100 %, or minutes below none.

    Source: uptake of freeze-dried fruit powders, rounded to a rule.

    >>> gain_pct(60, 10)
    3.2
    """
    check_range("humidity", humidity_pct, "%", 0, 100)
    check_range("minutes", minutes, "min", 0, 1e5)
    return GAIN * max(0.0, humidity_pct - 20.0) * minutes / 10.0


def minutes_open(humidity_pct: float, most_pct: float = CLUMPS_PCT) -> float:
    """How long powder may lie open before it clumps [min]; infinite in air drier than 20 %.

    >>> round(minutes_open(60), 1)
    15.6
    """
    pace = gain_pct(humidity_pct, 10.0) / 10.0
    return math.inf if pace == 0.0 else most_pct / pace
