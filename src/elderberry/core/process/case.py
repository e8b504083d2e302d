"""The case: what the tables say of what is in the jar, here, in these jars, with what was read.

Plan and batch ask this one function. Nothing computed here ever shortens a table time.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property

from elderberry.core import materials
from elderberry.core.findings import Finding
from elderberry.core.kitchen import Heater, Kitchen
from elderberry.core.process.contents import Contents
from elderberry.core.process.edge import upper_edge
from elderberry.core.process.rows import (
    HIGHEST_FT,
    STEAM_LIMIT_MIN,
    OwnProcess,
    ProcessRow,
    ProcessTime,
    altitude_ft,
    fillable,
    sterilising_minutes,
    time_of_row,
)
from elderberry.core.process.standing import (
    STRAINED_PULP_PCT,
    Conditions,
    products,
    standing_rows,
)
from elderberry.core.rules import rule

DOSE_MARGIN_PH = 0.1
"""How far under a row's limit the upper edge has to be for a dose to stand for a meter [pH]."""
PLACE = "process"


@dataclass(frozen=True)
class Lookup:
    """What the tables say of a case: its time, if any, its stops, and the rows that were asked."""

    time: ProcessTime | None
    stops: tuple[Finding, ...]
    rows: tuple[ProcessRow, ...] = ()
    edge: float | None = None
    """Upper edge of the predicted pH, where the tables ask for it [-]."""

    @property
    def product(self) -> str:
        """The product whose rows hold; empty where none does."""
        return self.time.row.product if self.time else self.rows[0].product if self.rows else ""

    @property
    def max_ph(self) -> float | None:
        """The pH up to which it was tested [-]; None where no row speaks."""
        return min((r.max_ph for r in self.rows if r.max_ph is not None), default=None)


@dataclass(frozen=True, eq=False)
class Case:
    """What is filled, and the kitchen it is filled in.

    own: the household's own processes by product. jars_sterile: whether empty jars were boiled.
    heater: bath or steam; the kitchen's canner when not said.
    """

    contents: Contents
    kitchen: Kitchen
    own: Mapping[str, OwnProcess] = field(default_factory=dict)
    jars_sterile: bool = True
    heater: Heater | None = None

    @property
    def feet(self) -> float | None:
        """Altitude [ft]."""
        metres = self.kitchen.altitude_m
        return None if metres is None or math.isnan(metres) else altitude_ft(metres)

    @cached_property
    def own_process(self) -> OwnProcess | None:
        """The household's own process, where it is for such a thing as this and may fill a gap."""
        product = self.contents.untested
        return self.own.get(product) if product in fillable() else None

    @cached_property
    def rows(self) -> tuple[ProcessRow, ...]:
        """The rows that hold."""
        if self.own_process:
            return (self.own_process.as_row(),)
        if self.contents.untested or self.contents.never:
            return ()
        where = Conditions(self.kitchen.boiling_point_c, self.jars_sterile)
        return standing_rows(self.contents, where)

    @cached_property
    def edge(self) -> float | None:
        """Upper edge of the predicted pH [-]."""
        known = self.kitchen.alkalinity_mg_l is not None
        return upper_edge(self.contents, known, citrus=any(r.form == "citrus" for r in self.rows))

    @property
    def largest_jar_ml(self) -> float:
        """Largest jar that everything it is tested as allows [mL]; 0 where there is none."""
        return min((max(r.largest_jar_ml for r in p) for p in products(self.rows)), default=0.0)

    def in_jars(self, jar_ml: float | None) -> Lookup:
        """The time that waits and every stop, in jars of a tested size [mL]; None: not tested."""
        stops = tuple(dict.fromkeys(_stops(self, jar_ml)))
        time = _time(self, jar_ml) if all(s.in_cook for s in stops) else None
        return Lookup(time, stops, self.rows, self.edge if self.rows else None)


def look_up(
    contents: Contents,
    jar_ml: float | None,
    kitchen: Kitchen,
    own: Mapping[str, OwnProcess] | None = None,
    jars_sterile: bool = True,
    heater: Heater | None = None,
) -> Lookup:
    """What the tables say of what is in the jar: the time that waits, and every stop.

    Args:
        contents: what is filled.
        jar_ml: tested size of the largest jar [mL], from data/jars.csv; None where one has none.
        kitchen: where it happens.
        own: the household's own processes, by product.
        jars_sterile: whether the empty jars were boiled.
        heater: bath or steam; the kitchen's canner when not said.

    Source: data/process_times.csv and its conditions.
    """
    return Case(contents, kitchen, own or {}, jars_sterile, heater).in_jars(jar_ml)


def _stops(case: Case, jar_ml: float | None) -> Iterator[Finding]:
    """The stops of a case, the most fundamental first."""
    barred = tuple(_barred(case))
    yield from barred
    if not case.rows:
        if not barred:
            yield _why_none(case)
        return
    yield from _altitude(case)
    yield from _jar(case, jar_ml)
    yield from _acidity(case)
    yield from _short_of_boil(case)
    yield from _too_long_for_steam(case, jar_ml)


def _barred(case: Case) -> Iterator[Finding]:
    """What has no tested process in any amount."""
    contents = case.contents
    for key in (k for k in contents.never if k != contents.untested):
        yield rule("fruit-never").finding(PLACE, fruit=materials.fruit(key).name)
    if contents.untested and not case.own_process:
        product = contents.untested.replace("_", " ")
        yield rule("product-untested").finding(PLACE, product=product)
    for rule_id, what in contents.off_shelf():
        yield rule(rule_id).finding(PLACE, what=what.replace("_", " "))


def _why_none(case: Case) -> Finding:
    """Why no row holds, in the words that help most."""
    c = case.contents
    if c.whole and c.whole_g_per_l < 600:
        return rule("too-little-fruit").finding(PLACE, grams=f"{c.whole_g_per_l:.0f}")
    if c.pulp_pct > STRAINED_PULP_PCT and not c.whole:
        return rule("juice-not-strained").finding("fill", pulp=f"{c.pulp_pct:.1f}")
    if c.water_pct > 50:
        return rule("too-much-water").finding(PLACE, water=f"{c.water_pct:.0f}")
    named = " and ".join(materials.fruit(k).name.lower() for k in c.shares) or "this"
    return rule("product-untested").finding(PLACE, product=f"{named} as it is in the jar")


def _altitude(case: Case) -> Iterator[Finding]:
    feet = case.feet
    if feet is None:
        yield rule("altitude-unknown").finding(PLACE)
    elif feet > HIGHEST_FT or (case.own_process and _own_minutes(case) is None):
        yield rule("altitude-over-10000-ft").finding(PLACE)


def _own_minutes(case: Case) -> int | None:
    own, metres = case.own_process, case.kitchen.altitude_m
    return None if own is None or metres is None else own.at(metres)


def _jar(case: Case, jar_ml: float | None) -> Iterator[Finding]:
    largest = case.largest_jar_ml
    if jar_ml is None or not jar_ml > 0:
        yield rule("jar-not-for-processing").finding(PLACE)
    elif jar_ml > largest:
        yield rule("jar-too-large").finding(PLACE, jar_ml=f"{jar_ml:g}", largest_ml=f"{largest:g}")


def _acidity(case: Case) -> Iterator[Finding]:
    """A reading over the limit, one that is asked for, or a mix of which no pH can be told."""
    limits = [r.max_ph for r in case.rows if r.max_ph is not None]
    if not limits:
        return
    limit = min(limits)
    acidity, meter = case.contents.lot.acidity, case.contents.lot.acidity.meter
    citrus = any(r.form == "citrus" for r in case.rows)
    solids = case.contents.lot.fruit_solids_g
    standing = [s for s in acidity.shown if s.stands_over(limit, solids, citrus)]
    high = [s.ph for s in standing if not s.waits(solids, citrus)]
    figures = {"max_ph": f"{limit:g}"}
    if high:
        yield rule("ph-too-high").finding(PLACE, ph=f"{max(high):.2f}", **figures)
    elif standing:
        yield rule("ph-reading-needed").finding(PLACE, **figures)
    elif meter is None and case.edge is None:
        yield rule("ph-cannot-be-told").finding(PLACE, **figures)
    elif meter is None and not all(_gate_open(case, r) for r in case.rows):
        yield rule("ph-reading-needed").finding(PLACE, **figures)


def _gate_open(case: Case, row: ProcessRow) -> bool:
    """Whether a row goes without a reading."""
    if row.gate == "none":
        return True
    edge, limit, contents = case.edge, row.max_ph, case.contents
    if row.gate == "measured" or edge is None or limit is None:
        return False
    if row.gate == "edge_or_measured":
        return edge <= limit
    low = contents.watch_share < WATCH_SHARE
    return (low and edge < limit) or (contents.dose >= 1.0 and edge <= limit - DOSE_MARGIN_PH)


WATCH_SHARE = 0.05
"""Fruits that can pass pH 4.2 make a mix one that can from this share on [-]."""


def _short_of_boil(case: Case) -> Iterator[Finding]:
    """Raw elder or rowan that has not boiled through."""
    minutes = sterilising_minutes(case.feet or 0.0)
    fruit = case.contents.toxic_left(minutes)
    if fruit:
        name = materials.fruit(fruit).name.lower()
        yield rule("never-heated").finding("fill", why=f"raw {name} is poisonous")


def _heater(case: Case) -> Heater:
    return case.heater or case.kitchen.canner.heater


def _too_long_for_steam(case: Case, jar_ml: float | None) -> Iterator[Finding]:
    if _heater(case) != "steam" or jar_ml is None or case.feet is None:
        return
    time = _time(case, jar_ml)
    if time is not None and time.minutes > STEAM_LIMIT_MIN:
        yield rule("steam-canner-too-long").finding(PLACE, minutes=time.minutes)
    if jar_ml > 946:
        yield rule("jar-too-large").finding(PLACE, jar_ml=f"{jar_ml:g}", largest_ml="946")


def _time(case: Case, jar_ml: float | None) -> ProcessTime | None:
    """The longest time of all rows that compete, each at the smallest size that the jar fits."""
    metres = case.kitchen.altitude_m
    if metres is None or jar_ml is None or case.feet is None or case.feet > HIGHEST_FT:
        return None
    heater = _heater(case)
    if case.own_process is not None:
        minutes = _own_minutes(case)
        row = case.rows[0]
        if minutes is None:
            return None
        return ProcessTime(minutes, row, case.feet, heater, {"own": minutes})
    found = []
    for lines in products(case.rows):
        roomy = [r for r in lines if r.largest_jar_ml >= jar_ml]
        smallest = min((r.largest_jar_ml for r in roomy), default=None)
        times = [time_of_row(r, metres, heater) for r in roomy if r.largest_jar_ml == smallest]
        best = max((t for t in times if t), key=lambda t: t.minutes, default=None)
        if best is None:
            return None
        found.append(best)
    longest = max(found, key=lambda t: (t.minutes, t.row.headspace_in))
    return replace(longest, beside=tuple(t.row for t in found if t is not longest))
