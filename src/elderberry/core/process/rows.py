"""Tested process times: the rows of the tables, and a household's own."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

from elderberry.core import materials, tables
from elderberry.core.errors import CoreError, check_range
from elderberry.core.kitchen import Heater

FT_M = 0.3048
HIGHEST_FT = 10_000
STEAM_LIMIT_MIN = 45
FILL_C = 88.0
"""Filling temperature of hot juice [°C]: what every juice row asks, and what cold keeping takes."""
STERILISE_BELOW_MIN = 10
GATES = ("none", "edge_or_measured", "low_risk_or_measured", "measured")
"""How a row is opened, the strictest last."""
Minutes = tuple[int | None, int | None, int | None, int | None]


@dataclass(frozen=True)
class ProcessRow:
    """One row of data/process_times.csv; minutes by altitude band, None where there is no time."""

    key: str
    product: str
    fruits: tuple[str, ...]
    form: str
    least_share: float
    brix_lo: float
    brix_hi: float
    gated_under_brix: float
    pieces_brix: float | None
    boils: bool
    water_pct: float | None
    most_water_pct: float | None
    displaces: frozenset[str]
    pack: str
    largest_jar_ml: float
    minutes: Minutes
    unsterilised: Minutes | None
    headspace_in: float
    fill_c: float | None
    max_ph: float | None
    gate: str
    evidence: str
    source: str
    fillable: bool
    implied_fruit: bool
    note: str

    @property
    def any_fruit(self) -> bool:
        """Whether it holds for any listed fruit, so that a row with names displaces it."""
        return self.fruits == ("any",)

    def names(self, fruit: materials.Fruit) -> bool:
        """Whether it names a fruit, or the group that it belongs to."""
        return not {fruit.key, fruit.group or fruit.key}.isdisjoint(self.fruits)

    def takes(self, fruit: materials.Fruit | None) -> bool:
        """Whether the row was tested with, or speaks for, a fruit."""
        if fruit is None:
            return self.implied_fruit
        return "any" in self.fruits or self.names(fruit)


@dataclass(frozen=True)
class OwnProcess:
    """A tested process that a household has entered, with where it is published and when.

    It fills a gap where no tested process exists. It never lifts a stop on acidity or on a
    product or fruit that must not be processed, and never undercuts a table time.

    minutes: by the altitude [m] up to which each holds, such as {300: 10, 900: 15}.
    """

    product: str
    jar_ml: float
    minutes: Mapping[float, int]
    max_ph: float
    source: str
    entered: str
    fill_c: float = 88.0
    headspace_in: float = 0.5

    def __post_init__(self) -> None:
        check_range("jar", self.jar_ml, "mL", 50, 2000)
        check_range("pH limit", self.max_ph, "pH", 2.0, 4.2)
        if not self.source.strip() or not self.minutes:
            raise CoreError("a tested process needs its source and its minutes")
        for metres, minutes in self.minutes.items():
            check_range("altitude", metres, "m", 0, 3048)
            check_range("process", minutes, "min", 5, 120)

    def at(self, altitude_m: float) -> int | None:
        """Minutes at an altitude [m]: those of the next altitude up; None above the highest."""
        up_to = [metres for metres in self.minutes if metres >= altitude_m]
        return self.minutes[min(up_to)] if up_to else None

    def as_row(self) -> ProcessRow:
        """The same as a row that asks for a meter reading."""
        return ProcessRow(
            key=f"own-{self.product}", product=self.product, fruits=("any",), form="own",
            least_share=0.0, brix_lo=0.0, brix_hi=100.0, gated_under_brix=0.0, pieces_brix=None,
            boils=False, water_pct=None, most_water_pct=None, displaces=frozenset(), pack="hot",
            largest_jar_ml=self.jar_ml, minutes=(None, None, None, None), unsterilised=None,
            headspace_in=self.headspace_in, fill_c=self.fill_c, max_ph=self.max_ph,
            gate="measured", evidence="own",
            source=f"{self.source}, entered by this household on {self.entered}",
            fillable=True, implied_fruit=False, note="",
        )  # fmt: skip


@dataclass(frozen=True)
class ProcessTime:
    """The minutes a process takes here, and everything that belongs to them.

    row: the one whose minutes hold. beside: rows of equal standing that compete with it, each of
    which is kept to as well.
    """

    minutes: int
    row: ProcessRow
    altitude_ft: float
    heater: Heater
    schools: dict[str, int]
    """Minutes by each way of reckoning altitude; the longest is taken."""
    beside: tuple[ProcessRow, ...] = ()

    @property
    def rows(self) -> tuple[ProcessRow, ...]:
        """Every row that is kept to."""
        return (self.row, *self.beside)

    @property
    def evidence(self) -> str:
        """table (government guide, exactly these fruits) or practice (extension services)."""
        return self.row.evidence

    @property
    def source(self) -> str:
        """Where the time is published."""
        return self.row.source

    @property
    def fill_c(self) -> float:
        """Coldest juice [°C] that may go into the jar."""
        return max(r.fill_c or 100.0 for r in self.rows)

    @property
    def boils(self) -> bool:
        """Whether the pot has to have come to a boil first."""
        return any(r.boils for r in self.rows)

    @property
    def headspace_in(self) -> float:
        """Room left under the lid [in]."""
        return self.row.headspace_in

    @property
    def max_ph(self) -> float | None:
        """The highest pH that all of the rows were tested up to [-]."""
        limits = [r.max_ph for r in self.rows if r.max_ph is not None]
        return min(limits, default=None)

    @property
    def gate(self) -> str:
        """The strictest of their gates."""
        return max((r.gate for r in self.rows), key=GATES.index)

    @property
    def sterilise_min(self) -> int | None:
        """Minutes to boil the empty jars first, where a row's sea-level time is under 10 min."""
        if all((r.minutes[0] or STERILISE_BELOW_MIN) >= STERILISE_BELOW_MIN for r in self.rows):
            return None
        return sterilising_minutes(self.altitude_ft)


@cache
def process_rows() -> tuple[ProcessRow, ...]:
    """Every row of the process tables."""
    return tuple(_row(r) for r in tables.rows("process_times"))


@cache
def fillable() -> frozenset[str]:
    """Products without a tested process that a household's own source may fill; every other one
    without a row must not be processed at any acidity, and no entry changes that.

    >>> sorted(fillable())
    ['hibiscus_concentrate', 'vinegar_syrup']
    """
    return frozenset(r.product for r in process_rows() if r.fillable)


def sterilising_minutes(altitude_ft: float) -> int:
    """Minutes to boil empty jars: 10, and 1 more for each 1000 ft begun.

    Source: USDA Complete Guide to Home Canning (2015), guide 1.

    >>> sterilising_minutes(0), sterilising_minutes(1919)
    (10, 12)
    """
    return 10 + max(0, math.ceil(round(altitude_ft / 1000, 6)))


def altitude_ft(altitude_m: float) -> float:
    """Altitude [ft], rounded so that a metre figure for a band's edge stays on its edge.

    >>> altitude_ft(304.8)
    1000.0
    """
    return round(altitude_m / FT_M, 4)


def band(feet: float) -> int:
    """Index of the altitude band, inclusive at its upper end.

    >>> band(1000), band(1001)
    (0, 1)
    """
    return sum(feet > edge for edge in (1000, 3000, 6000))


def time_of_row(row: ProcessRow, altitude_m: float, heater: Heater = "bath") -> ProcessTime | None:
    """The time of one row at an altitude [m]; None where there is none.

    It asks nothing of fruit, jar or acidity: to process something, ask process_minutes.

    >>> [time_of_row(r, 585).minutes for r in process_rows()[:2]]
    [10, 15]
    """
    feet = altitude_ft(altitude_m)
    if feet > HIGHEST_FT or row.minutes[band(feet)] is None:
        return None
    schools = {"row": row.minutes[band(feet)] or 0}
    sea_level = row.minutes[0]
    if row.evidence == "practice" and sea_level is not None:
        schools |= _school_minutes(sea_level, feet)
    return ProcessTime(max(schools.values()), row, feet, heater, schools)


def _school_minutes(sea_level: int, feet: float) -> dict[str, int]:
    """Minutes by each published way of adding for altitude to a sea-level time."""
    begun = max(0, math.ceil(round(feet / 1000, 6)))
    minutes = {"per_thousand": sea_level + begun * (1 if sea_level <= 20 else 2)}
    for added in tables.rows("altitude_additions"):
        if float(added["over_ft"]) < feet <= float(added["to_ft"]):
            minutes[added["school"]] = sea_level + int(added["add_min"])
    return minutes


def _minutes(cells: list[str]) -> Minutes:
    first, second, third, fourth = (
        None if (n := tables.number(cell)) is None else int(n) for cell in cells
    )
    return first, second, third, fourth


def _row(row: tables.Row) -> ProcessRow:
    named, _, others = row["fruits"].partition(" with ")
    short = tables.words(row["unsterilised"])
    return ProcessRow(
        key=row["row"],
        product=row["product"],
        fruits=(*tables.words(named), *tables.words(others)),
        form=row["form"],
        least_share=tables.number(row["least_share"]) or 0.0,
        brix_lo=tables.number(row["brix_lo"]) or 0.0,
        brix_hi=tables.number(row["brix_hi"]) or 100.0,
        gated_under_brix=tables.number(row["gated_under_brix"]) or 0.0,
        pieces_brix=tables.number(row["pieces_brix"]),
        boils=row["boils"] == "yes",
        water_pct=tables.number(row["water_pct"]),
        most_water_pct=tables.number(row["most_water_pct"]),
        displaces=frozenset(tables.words(row["displaces"])),
        pack=row["pack"],
        largest_jar_ml=float(row["largest_jar_ml"]),
        minutes=_minutes([row[c] for c in tables.ALTITUDE_COLUMNS]),
        unsterilised=_minutes(list(short)) if short else None,
        headspace_in=float(row["headspace_in"]),
        fill_c=tables.number(row["fill_c"]),
        max_ph=tables.number(row["max_ph"]),
        gate=row["gate"],
        evidence=row["evidence"],
        source=row["source"],
        fillable=row["fillable"] == "yes",
        implied_fruit=row["implied_fruit"] == "yes",
        note=row["note"],
    )
