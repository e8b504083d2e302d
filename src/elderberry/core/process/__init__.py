"""Tested process times, and what has none. Nothing computed here ever shortens a table time."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cache
from typing import Literal

from elderberry.core import acid, materials, tables
from elderberry.core.errors import CoreError, Refusal, Unknown, check_range
from elderberry.core.findings import Finding
from elderberry.core.rules import rule

Heater = Literal["bath", "steam"]
FT_M = 0.3048
HIGHEST_FT = 10_000
STEAM_LIMIT_MIN = 45
FILL_C = 88.0
"""Filling temperature of hot juice [°C]: what every juice row asks, and what cold keeping takes."""
STERILISE_BELOW_MIN = 10
SYRUP_BRIX = 35.0
"""How sweet a juice may be and still take a juice's row [g/100 g]."""
JUICES = frozenset({"apple_juice", "grape_juice", "berry_or_fruit_juice"})


@dataclass(frozen=True)
class ProcessRow:
    """One row of data/process_times.csv; minutes by altitude band, None where there is no time."""

    key: str
    product: str
    fruits: tuple[str, ...]
    pack: str
    largest_jar_ml: float
    minutes: tuple[int | None, int | None, int | None, int | None]
    headspace_in: float
    fill_c: float | None
    max_ph: float | None
    gate: str
    evidence: str
    source: str
    implied_fruit: bool
    note: str

    def takes(self, fruit: materials.Fruit | None) -> bool:
        """Whether the row was tested with, or speaks for, a fruit."""
        if fruit is None:
            return self.implied_fruit
        named = {fruit.key, fruit.group} - {""}
        if fruit.ph_risk == "low":
            named |= {"low-risk fruit", "lemon|lime with low-risk fruit"}
        return "any" in self.fruits or bool(named & set(self.fruits))


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


FILLABLE = frozenset({"vinegar_syrup", "hibiscus_concentrate"})
"""Products without a tested process that a household's own source may fill; every other one
without a row must not be processed at any acidity, and no entry changes that."""


@dataclass(frozen=True)
class ProcessTime:
    """The minutes a process takes here, and everything that belongs to them."""

    minutes: int
    row: ProcessRow
    altitude_ft: float
    heater: Heater
    schools: dict[str, int]
    """Minutes by each way of reckoning altitude; the longest is taken."""

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
        return self.row.fill_c or 100.0

    @property
    def headspace_in(self) -> float:
        """Room left under the lid [in]."""
        return self.row.headspace_in

    @property
    def sterilise_min(self) -> int | None:
        """Minutes to boil the empty jars first, where the process is under 10 min; else None."""
        if self.minutes >= STERILISE_BELOW_MIN:
            return None
        return sterilising_minutes(self.altitude_ft)


@dataclass(frozen=True)
class Lookup:
    """What the tables say of a case: its time, if any, and its stops."""

    time: ProcessTime | None
    stops: tuple[Finding, ...]


@dataclass(frozen=True)
class _Case:
    product: str
    jar_ml: float | None
    altitude_m: float | None
    fruit_key: str | None
    heater: Heater
    measured_ph: float | None
    predicted_ph_hi: float | None
    place: str
    own: OwnProcess | None = None
    must_read: bool = False


@cache
def process_rows() -> tuple[ProcessRow, ...]:
    """Every row of the process tables."""
    return tuple(_row(r) for r in tables.rows("process_times"))


def process_minutes(
    product: str,
    process_as_ml: float | None,
    altitude_m: float | None,
    fruit: str | None = None,
    heater: Heater = "bath",
    measured_ph: float | None = None,
    predicted_ph_hi: float | None = None,
) -> ProcessTime:
    """Minutes in a boiling-water bath or steam canner for a product in a jar at an altitude.

    Args:
        product: product of data/process_times.csv, such as apple_juice.
        process_as_ml: tested size of the jar [mL], from data/jars.csv; None where it has none.
        altitude_m: altitude [m]; None when it is not known.
        fruit: fruit key; may be left out only where the product's name says it.
        heater: bath or steam.
        measured_ph: pH meter reading [-] of what is filled, if there is one.
        predicted_ph_hi: upper edge of its predicted pH [-]; typical of the fruit when left out.

    Returns:
        The longest time of the row's band and, for practice rows, of both altitude schools.

    Raises:
        Refusal: no tested process, or a condition of it is not met; carries the stop.

    Source: USDA Complete Guide to Home Canning (2015); extension bulletins, as the rows say.

    >>> process_minutes("apple_juice", 946, 585).minutes
    10
    >>> process_minutes("elderberry", 473, 0)
    Traceback (most recent call last):
    elderberry.core.errors.Refusal: No tested home process exists for elderberry.
    """
    found = look_up(product, process_as_ml, altitude_m, fruit, heater, measured_ph, predicted_ph_hi)
    for stop in found.stops:
        raise Refusal(stop)
    assert found.time is not None  # a case without stops has a time
    return found.time


def look_up(
    product: str,
    process_as_ml: float | None,
    altitude_m: float | None,
    fruit: str | None = None,
    heater: Heater = "bath",
    measured_ph: float | None = None,
    predicted_ph_hi: float | None = None,
    place: str = "",
    own: OwnProcess | None = None,
    must_read: bool = False,
) -> Lookup:
    """Every stop that process_minutes would raise, with the time that waits behind them.

    Arguments as for process_minutes; place is where in a flow the findings stand, own a process
    that the household has entered for the product; must_read asks for a meter reading whatever
    the row's gate, as after acid was stirred into a juice that had read too high. There is a
    time where nothing stops the process but a reading that can still be taken.

    >>> [f.id for f in look_up("apple_juice", None, None).stops]
    ['altitude-unknown', 'jar-not-for-processing']
    >>> look_up("berry_or_fruit_juice", 473, 585, "plum").time.minutes
    15
    """
    case = _Case(
        product,
        process_as_ml,
        altitude_m,
        fruit,
        heater,
        measured_ph,
        predicted_ph_hi,
        place,
        own,
        must_read,
    )
    stops = tuple(_own_stops(case) if _own_fills(case) else _stops(case))
    if not all(s.in_cook for s in stops):
        return Lookup(None, stops)
    return Lookup(_own_time(case) if _own_fills(case) else _time(case), stops)


def _own_fills(case: _Case) -> bool:
    """Whether the household's own process speaks for a product that has no tested row."""
    own = case.own
    return own is not None and own.product == case.product and case.product in FILLABLE


def _own_stops(case: _Case) -> Iterator[Finding]:
    """Altitude, jar, acidity and canner hold for a household's own process as for any other."""
    own = case.own
    assert own is not None  # asked only where one speaks
    if case.fruit_key is not None and materials.fruits().get(case.fruit_key) is None:
        yield rule("fruit-unlisted").finding(case.place, fruit=case.fruit_key)
    elif case.fruit_key is not None and materials.fruit(case.fruit_key).ph_risk == "never":
        yield rule("fruit-never").finding(case.place, fruit=materials.fruit(case.fruit_key).name)
    yield from _altitude_stops(case)
    if case.altitude_m is not None and own.at(case.altitude_m) is None:
        yield rule("altitude-over-10000-ft").finding(case.place)
    yield from _jar_stops(case, [_own_row(own)])
    yield from _acid_stops(case, _own_row(own), None)
    minutes = own.at(case.altitude_m) if case.altitude_m is not None else None
    if case.heater == "steam" and minutes is not None and minutes > STEAM_LIMIT_MIN:
        yield rule("steam-canner-too-long").finding(case.place, minutes=minutes)


def _own_row(own: OwnProcess) -> ProcessRow:
    """The household's process as a row that asks for a meter reading."""
    return ProcessRow(
        key=f"own-{own.product}",
        product=own.product,
        fruits=("any",),
        pack="hot",
        largest_jar_ml=own.jar_ml,
        minutes=(None, None, None, None),
        headspace_in=own.headspace_in,
        fill_c=own.fill_c,
        max_ph=own.max_ph,
        gate="measured",
        evidence="own",
        source=f"{own.source}, entered by this household on {own.entered}",
        implied_fruit=False,
        note="",
    )


def _own_time(case: _Case) -> ProcessTime:
    own, metres = case.own, case.altitude_m
    assert own is not None  # asked only where one speaks
    assert metres is not None  # an unknown altitude has stopped it
    minutes = own.at(metres) or 0
    return ProcessTime(minutes, _own_row(own), altitude_ft(metres), case.heater, {"own": minutes})


def juice_product(fruit_key: str) -> str:
    """The juice product whose rows a fruit's strained juice takes.

    >>> juice_product("apple"), juice_product("damson"), juice_product("elderberry")
    ('apple_juice', 'berry_or_fruit_juice', 'elderberry')
    """
    for row in process_rows():
        if row.implied_fruit and fruit_key in row.fruits and not row.product.startswith("whole"):
            return row.product
    return "berry_or_fruit_juice"


def as_filled(product: str, fruit_key: str, brix: float) -> str:
    """The product whose rows speak, once it is known how sweet it is filled.

    A juice over 35 Brix is no juice any more: it is thicker, and was tested as a syrup in pints.

    Args:
        product: as it would be unsweetened.
        fruit_key: key in data/fruits.csv.
        brix: of what is filled [g/100 g], 0 to 100.

    Raises:
        OutOfRange: a Brix outside its limits.

    Source: syrup rows of data/process_times.csv, from 1 part sugar to 2 of juice, about 42 Brix;
    what lies between that and juice takes the stricter of the two.

    >>> [as_filled("berry_or_fruit_juice", f, 50) for f in ("damson", "raspberry")]
    ['fruit_syrup', 'berry_syrup']
    >>> as_filled("apple_juice", "apple", 30)
    'apple_juice'
    """
    check_range("Brix", brix, "°Bx", 0, 100)
    if brix <= SYRUP_BRIX or product not in JUICES:
        return product
    fruit = materials.fruits().get(fruit_key)
    listed = any(r.product == "berry_syrup" and r.takes(fruit) for r in process_rows())
    return "berry_syrup" if listed else "fruit_syrup"


def no_jar(largest_ml: float) -> Finding:
    """The stop for a stock without a single jar of a tested size.

    >>> no_jar(946).id
    'no-jar-in-stock'
    """
    return rule("no-jar-in-stock").finding("process", largest_ml=f"{largest_ml:g}")


def largest_jar_ml(product: str, fruit_key: str, own: OwnProcess | None = None) -> float:
    """Largest tested jar [mL] for a product of a fruit; 0 where there is none.

    own is a process that the household has entered for it: it speaks where no row does.

    >>> largest_jar_ml("berry_or_fruit_juice", "damson")
    946.0
    """
    known = materials.fruits().get(fruit_key)
    return max(
        (r.largest_jar_ml for r in process_rows() if r.product == product and r.takes(known)),
        default=own.jar_ml if own else 0.0,
    )


def ph_limit(product: str, fruit_key: str) -> float | None:
    """The pH up to which a product of a fruit was tested [-]; None where no row speaks.

    >>> ph_limit("berry_or_fruit_juice", "plum")
    4.2
    """
    known = materials.fruits().get(fruit_key)
    limits = [r.max_ph for r in process_rows() if r.product == product and r.takes(known)]
    return min((limit for limit in limits if limit is not None), default=None)


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


def _stops(case: _Case) -> Iterator[Finding]:
    """The stops of a case, the most fundamental first."""
    product = case.product.replace("_", " ")
    known = [r for r in process_rows() if r.product == case.product]
    if not known or all(r.pack == "none" for r in known):
        yield rule("product-untested").finding(case.place, product=product)
        return
    try:
        fruit = materials.fruit(case.fruit_key) if case.fruit_key is not None else None
    except Unknown:
        yield rule("fruit-unlisted").finding(case.place, fruit=str(case.fruit_key))
        return
    if fruit is not None and fruit.ph_risk == "never":
        yield rule("fruit-never").finding(case.place, fruit=fruit.name)
        return
    rows = [r for r in known if r.takes(fruit)]
    if not rows:
        named = ", ".join(sorted({f for r in known for f in r.fruits}))
        yield rule("fruit-not-in-row").finding(
            case.place,
            product=product,
            fruits=named,
            fruit=fruit.name if fruit else "an unnamed fruit",
        )
        return
    yield from _altitude_stops(case)
    yield from _jar_stops(case, rows)
    yield from _acid_stops(case, rows[0], fruit)
    yield from _heater_stops(case)


def _altitude_stops(case: _Case) -> Iterator[Finding]:
    if case.altitude_m is None or math.isnan(case.altitude_m):
        yield rule("altitude-unknown").finding(case.place)
    elif altitude_ft(case.altitude_m) > HIGHEST_FT:
        yield rule("altitude-over-10000-ft").finding(case.place)


def _jar_stops(case: _Case, rows: list[ProcessRow]) -> Iterator[Finding]:
    largest = max(r.largest_jar_ml for r in rows)
    if case.jar_ml is None or not case.jar_ml > 0:
        yield rule("jar-not-for-processing").finding(case.place)
    elif case.jar_ml > largest:
        yield rule("jar-too-large").finding(
            case.place, jar_ml=f"{case.jar_ml:g}", largest_ml=f"{largest:g}"
        )


def _acid_stops(case: _Case, row: ProcessRow, fruit: materials.Fruit | None) -> Iterator[Finding]:
    if row.max_ph is None:
        return
    read = case.measured_ph
    if read is not None and not read <= row.max_ph:
        yield rule("ph-too-high").finding(case.place, ph=f"{read:.2f}", max_ph=f"{row.max_ph:g}")
    elif read is None and (case.must_read or not _gate_open(case, row, fruit)):
        yield rule("ph-reading-needed").finding(case.place, max_ph=f"{row.max_ph:g}")


def _gate_open(case: _Case, row: ProcessRow, fruit: materials.Fruit | None) -> bool:
    """Whether a row goes without a reading: always, never, or by a low-risk fruit's prediction."""
    if row.gate == "none":
        return True
    if row.gate != "low_risk_or_measured" or fruit is None or fruit.ph_risk != "low":
        return False
    edge = case.predicted_ph_hi
    if edge is None:
        edge = _typical_ph_edge(fruit)
    return edge is not None and row.max_ph is not None and edge < row.max_ph


def _typical_ph_edge(fruit: materials.Fruit) -> float | None:
    """Upper edge of a pH predicted from the tables alone: their spread and the model's, squared."""
    if fruit.ph is None:
        return None
    return fruit.ph.typ + math.hypot(fruit.ph.hi - fruit.ph.typ, acid.MODEL_HALF_WIDTH)


def _heater_stops(case: _Case) -> Iterator[Finding]:
    if case.heater != "steam" or case.altitude_m is None or case.jar_ml is None:
        return
    try:
        minutes = _time(case).minutes
    except Refusal:
        return
    if minutes > STEAM_LIMIT_MIN:
        yield rule("steam-canner-too-long").finding(case.place, minutes=minutes)


def _time(case: _Case) -> ProcessTime:
    """The longest time of the smallest tested size that the jar fits, and of both schools."""
    fruit = materials.fruit(case.fruit_key) if case.fruit_key is not None else None
    jar, feet = case.jar_ml or math.inf, altitude_ft(case.altitude_m or 0.0)
    rows = [r for r in process_rows() if r.product == case.product and r.takes(fruit)]
    roomy = [r for r in rows if r.largest_jar_ml >= jar]
    band = _band(feet)
    smallest = min((r.largest_jar_ml for r in roomy), default=None)
    timed = [r for r in roomy if r.largest_jar_ml == smallest and r.minutes[band] is not None]
    if not timed or feet > HIGHEST_FT:
        raise Refusal(rule("product-untested").finding(case.place, product=case.product))
    row = max(timed, key=lambda r: r.minutes[band] or 0)
    return _of_row(row, feet, case.heater)


def time_of_row(row: ProcessRow, altitude_m: float, heater: Heater = "bath") -> ProcessTime | None:
    """The time of one row at an altitude [m], for a table of them; None where there is none.

    It asks nothing of fruit, jar or acidity: to process something, ask process_minutes.

    >>> [time_of_row(r, 585).minutes for r in process_rows()[:2]]
    [10, 15]
    """
    feet = altitude_ft(altitude_m)
    if feet > HIGHEST_FT or row.minutes[_band(feet)] is None:
        return None
    return _of_row(row, feet, heater)


def _of_row(row: ProcessRow, feet: float, heater: Heater) -> ProcessTime:
    """The longest of the row's own band and, for practice rows, of both altitude schools."""
    schools = {"row": row.minutes[_band(feet)] or 0}
    sea_level = row.minutes[0]
    if row.evidence == "practice" and sea_level is not None:
        schools |= _school_minutes(sea_level, feet)
    return ProcessTime(max(schools.values()), row, feet, heater, schools)


def _school_minutes(sea_level: int, feet: float) -> dict[str, int]:
    """Minutes by each published way of adding for altitude to a sea-level time."""
    begun = max(0, math.ceil(round(feet / 1000, 6)))
    minutes = {"per_thousand": sea_level + begun * (1 if sea_level <= 20 else 2)}
    for band in tables.rows("altitude_additions"):
        if float(band["over_ft"]) < feet <= float(band["to_ft"]):
            minutes[band["school"]] = sea_level + int(band["add_min"])
    return minutes


def _band(feet: float) -> int:
    """Index of the altitude band, inclusive at its upper end."""
    return sum(feet > edge for edge in (1000, 3000, 6000))


def _row(row: tables.Row) -> ProcessRow:
    bands = [tables.number(row[c]) for c in tables.ALTITUDE_COLUMNS]
    first, second, third, fourth = (None if b is None else int(b) for b in bands)
    whole = row["fruits"]
    return ProcessRow(
        key=row["row"],
        product=row["product"],
        fruits=(whole,) if " with " in whole else tables.words(whole),
        pack=row["pack"],
        largest_jar_ml=float(row["largest_jar_ml"]),
        minutes=(first, second, third, fourth),
        headspace_in=float(row["headspace_in"]),
        fill_c=tables.number(row["fill_c"]),
        max_ph=tables.number(row["max_ph"]),
        gate=row["gate"],
        evidence=row["evidence"],
        source=row["source"],
        implied_fruit=row["implied_fruit"] == "yes",
        note=row["note"],
    )
