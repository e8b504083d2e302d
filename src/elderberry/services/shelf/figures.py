"""Figures of the shelf: kept, eaten, given, spoiled; seals by their lids; what a litre costs."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

from sqlalchemy.orm import Session as Orm

from elderberry.core import closures, jars, materials
from elderberry.core.flow import kinds
from elderberry.core.hands import hands_min
from elderberry.core.kitchen import ON_A_RING
from elderberry.core.shelf.life import Lives
from elderberry.core.shelf.worth import Prices, Worth, worth
from elderberry.services.household import kitchens
from elderberry.services.who import Who
from elderberry.store import shelf_sums

COLUMNS = {
    Lives.MADE: "kept",
    Lives.STANDS: "kept",
    Lives.OPENED: "eaten",
    Lives.FINISHED: "eaten",
    Lives.WENT_IN: "eaten",
    Lives.GIVEN: "given",
    Lives.THROWN: "spoiled",
}


@dataclass(frozen=True)
class FruitYear:
    """What became of the jars of a fruit that were filled in a year [jars], and litres of all."""

    year: int
    fruit: str
    colour: str
    kept: int
    eaten: int
    given: int
    spoiled: int
    litres: float


@dataclass(frozen=True)
class SealRow:
    """Seals that were looked at, by the jar and its lid: how many, and how many failed."""

    jar: str
    lid: str
    looked_at: int
    failed: int


@dataclass(frozen=True)
class YearCost:
    """What a litre of a year cost, against buying it [minor units], by what it is made of."""

    year: int
    litres: float
    worth: Worth


@dataclass(frozen=True)
class FiguresView:
    """The figures of a household's shelf."""

    years: list[FruitYear]
    seals: list[SealRow]
    costs: list[YearCost]


def view(orm: Orm, who: Who, prices: Prices) -> FiguresView:
    """The figures, with what a litre costs at some prices."""
    return FiguresView(years(orm, who), _seals(orm, who), _costs(orm, who, prices))


def hours_of(orm: Orm, who: Who, year: int) -> float:
    """Hours of hands in a year, of its steps as they were planned [h]."""
    _, hours = _work(orm, who)
    return hours[year]


def years(orm: Orm, who: Who) -> list[FruitYear]:
    """What became of the jars of each year and fruit, the newest and most first."""
    counts: dict[tuple[int, str], dict[str, int]] = defaultdict(lambda: defaultdict(int))
    litres: dict[tuple[int, str], float] = defaultdict(float)
    for year, fruit, lives, n, ml in shelf_sums.by_year(orm, who.household_id):
        if lives == Lives.NEVER:
            continue
        counts[year, fruit][COLUMNS[Lives(lives)]] += n
        litres[year, fruit] += ml / 1000.0
    found = []
    for (year, fruit), by in counts.items():
        listed = materials.fruits().get(fruit)
        found.append(
            FruitYear(
                year, listed.name if listed else "without fruit", listed.colour if listed else "",
                by["kept"], by["eaten"], by["given"], by["spoiled"], litres[year, fruit],
            )
        )  # fmt: skip
    return sorted(found, key=lambda f: (-f.year, -f.litres))


def _seals(orm: Orm, who: Who) -> list[SealRow]:
    units = kitchens.units(orm, who)
    found = []
    for kind, closure, n, failed in shelf_sums.seals_by_closure(orm, who.household_id):
        jar = jars.kind(kind)
        found.append(SealRow(jar.named(units), closures.named(closure), n, failed))
    return sorted(found, key=lambda s: -s.looked_at)


def _costs(orm: Orm, who: Who, prices: Prices) -> list[YearCost]:
    """By year: fruit that came with a price, lids, heat and hours, over the litres made."""
    found = []
    heat_kwh, hours = _work(orm, who)
    for year, sums in shelf_sums.spent_by_year(orm, who.household_id).items():
        if sums.litres > 0:
            made = worth(
                sums.litres, sums.fruit_minor, sums.lids, heat_kwh[year], hours[year], prices
            )
            found.append(YearCost(year, sums.litres, made))
    return sorted(found, key=lambda c: -c.year)


def _work(orm: Orm, who: Who) -> tuple[dict[int, float], dict[int, float]]:
    """Heat [kWh] and hours of hands [h] by year, of the steps as they were planned."""
    usual_kw = kitchens.for_core(orm, who).burner_kw
    heat_kwh: dict[int, float] = defaultdict(float)
    hours: dict[int, float] = defaultdict(float)
    for row in shelf_sums.steps_done(orm, who.household_id):
        what = kinds.kind(row.kind)
        if what.station in ON_A_RING:
            heat_kwh[row.year] += (row.power_kw or usual_kw) * row.minutes / 60.0
        each = hands_min(what.words["hands"], row.minutes / row.steps)
        hours[row.year] += row.steps * each / 60.0
    return heat_kwh, hours
