"""The season on one page: what came in, what it gave, what went otherwise, where it is now."""

from __future__ import annotations

import statistics
from collections import defaultdict
from collections.abc import Iterator, Sequence
from itertools import zip_longest

from sqlalchemy.orm import Session as Orm

from elderberry.core import materials, yields
from elderberry.core.quantities import System
from elderberry.core.wording import figure, in_units
from elderberry.formats.paper import Block, Sheet
from elderberry.services.household import kitchens
from elderberry.services.notes import notes
from elderberry.services.notes.shown import (
    FruitOfSeason,
    NoteLine,
    SeasonPage,
    WayOfSeason,
    WentWrong,
)
from elderberry.services.shelf import figures
from elderberry.services.who import Who
from elderberry.store import season_queries as store

WENT_WRONG = {
    "boil_lost": "a boil was lost", "seal_failed": "a seal failed",
    "mishap": "something went wrong",
    "diverted": "went to the cold instead", "lengthened": "took longer", "broken": "a jar broke",
    "spoiled": "a jar spoiled",
}  # fmt: skip
MOST = 200
"""Batches of a season that are listed."""


def page(orm: Orm, who: Who, year: int) -> SeasonPage:
    """The season of a year."""
    zone = kitchens.zone(orm, who)
    batches = store.batches(orm, who.household_id, year, zone)
    jars = [y for y in figures.years(orm, who) if y.year == year]
    weighed = store.kilos(orm, who.household_id, [b.id for b in batches])
    counts = store.happened(orm, who.household_id, [b.id for b in batches], tuple(WENT_WRONG))
    return SeasonPage(
        year=year,
        batches=notes.lines(orm, who, batches[:MOST]),
        more=max(0, len(batches) - MOST),
        litres=sum(y.litres for y in jars),
        jars=sum(y.kept + y.eaten + y.given + y.spoiled for y in jars),
        fruits=_fruits(jars, weighed),
        ways=list(_ways(orm, who, [b.id for b in batches])),
        hours=figures.hours_of(orm, who, year),
        wrong=[WentWrong(WENT_WRONG[k], n) for k, n in counts.items()],
        years=store.years(orm, who.household_id, zone),
    )


def _fruits(jars: list[figures.FruitYear], weighed: dict[str, float]) -> list[FruitOfSeason]:
    """What each fruit came to, the most first; fruit that filled no jar as well."""
    by_name = {y.fruit: y for y in jars}
    grams = {materials.fruit(key).name: g for key, g in weighed.items() if key in _FRUITS}
    colours = {f.name: f.colour for f in _FRUITS.values()}
    found = []
    for name in dict.fromkeys([*by_name, *grams]):
        year = by_name.get(name)
        found.append(
            FruitOfSeason(
                name, colours.get(name, ""), grams.get(name, 0.0) / 1000.0,
                year.litres if year else 0.0, year.kept if year else 0, year.eaten if year else 0,
                year.given if year else 0, year.spoiled if year else 0,
            )
        )  # fmt: skip
    return sorted(found, key=lambda f: (-f.litres, -f.kg))


_FRUITS = materials.fruits()


def _ways(orm: Orm, who: Who, batch_ids: list[int]) -> Iterator[WayOfSeason]:
    """What each fruit gave by each way of juicing [L/kg]: least, middle and most."""
    seen: dict[tuple[str, str], list[float]] = defaultdict(list)
    for fruit, way, litres in store.yields(orm, who.household_id, batch_ids):
        seen[fruit, way].append(litres)
    for (fruit, way), found in sorted(seen.items()):
        yield WayOfSeason(
            materials.fruit(fruit).name, yields.way_name(way), len(found), min(found),
            statistics.median(found), max(found),
        )  # fmt: skip


def sheet(found: SeasonPage, units: System, foot: str) -> Sheet:
    """A season as a sheet of paper."""
    lead = (
        f"{len(found.batches) + found.more} batches · {found.jars} jars · "
        f"{in_units(figure(found.litres, 'l'), units)} · about {found.hours:.0f} h of hands"
    )
    blocks = [
        Block(
            "Fruit: went in, filled, kept, eaten, given, spoiled",
            [_fruit_row(f, units) for f in found.fruits],
            (0.28, 0.16, 0.16, 0.1, 0.1, 0.1, 0.1),
        ),
        Block(
            "What a kilo gave, in litres: least, middle, most",
            [(w.fruit, w.way, f"{w.lo:.2f}", f"{w.middle:.2f}", f"{w.hi:.2f}") for w in found.ways],
            (0.3, 0.25, 0.15, 0.15, 0.15),
        ),
        Block("Batches", _two_a_row(found.batches), (0.1, 0.4, 0.1, 0.4)),
        Block(
            "Otherwise than planned", [(f"{w.times} ×", w.words) for w in found.wrong], (0.1, 0.9)
        ),
    ]
    return Sheet(f"The season of {found.year}", lead, [b for b in blocks if b.rows], foot)


def _fruit_row(f: FruitOfSeason, units: System) -> tuple[str, ...]:
    went_in = in_units(figure(f.kg, "kg"), units) if f.kg else ""
    jars = (str(n or "") for n in (f.kept, f.eaten, f.given, f.spoiled))
    return (f.fruit, went_in, in_units(figure(f.litres, "l"), units), *jars)


def _came_of(batch: NoteLine) -> str:
    jars = "1 jar" if batch.jars == 1 else f"{batch.jars} jars"
    return {"glasses": "poured", "nothing": "given up"}.get(batch.became, jars)


def _two_a_row(batches: Sequence[NoteLine]) -> list[tuple[str, ...]]:
    """Batches down two columns, so that a usual season is one page."""
    said = [(f"{b.started_at:%-d %b}", f"{b.title}: {_came_of(b)}") for b in batches]
    half = -(-len(said) // 2)
    return [(*left, *right) for left, right in zip_longest(said[:half], said[half:],
                                                           fillvalue=("", ""))]  # fmt: skip
