"""What a house says of itself, once some batches are in their jars, is what it said before."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from datetime import date, datetime, timedelta
from typing import Any

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.shelf.worth import Prices
from elderberry.services.cooking import batch_list, beside
from elderberry.services.day import dates, today
from elderberry.services.household import kitchen_view, kitchens, safety_page
from elderberry.services.notes import notes, season, sheet
from elderberry.services.planning import intake, last_time
from elderberry.services.planning.intake import NewLot
from elderberry.services.sheets import going_out
from elderberry.services.shelf import figures, found, lives, logs, recall, servings, shelf, stack
from elderberry.services.who import Who
from elderberry.store import Jar, Place, Stack, queries
from tests.factories import Work, forget, minutes, that_dries
from tests.facts import Book, facts_of, on_paper
from tests.services.test_told import DAY, JOBS, Still, stand_still

END = 300 * DAY
LOTS = (
    NewLot("12 kg quinces", "the old tree", brix=13.0, picked_on=date(2027, 7, 28)),
    NewLot("2 kg frozen aronia", "the market", "bought", cost=9.5),
    NewLot("800 g rowan berries", "the hedge", "wild", wild=True, certain=True),
)
THERE = (
    "12 pints plum, cellar, August 2025", "3 bottles rosehip syrup, fridge",
    "two bags of raspberries in the freezer", "7 jars green beans, cellar",
)  # fmt: skip
UNDER_WAY = {"damsons": 14, "slices": 5, "rosehips": 2}
"""What is at work, and the last press of it: seals to look at, slices that are shaken, a steep."""
SOUGHT = ("", "damson", "syrup open", "under 4 weeks left", "2026", "held", "half pint")
SHEETS = tuple(going_out.SHEETS)
RECALLED = (("batch", "DM-26-01"), ("instrument", "refractometer"))
PAGES = (
    "today", "notes", "season", "figures", "recalled", "stacks", "kitchen", "safety", "dates",
    "papers", "season on paper", "waiting", "last time", "poured", "beside",
    *(f"recall by {by}" for by, _ in RECALLED),
    *(f"shelf {text}" for text in SOUGHT), *(f"sheet {what}" for what in SHEETS),
)  # fmt: skip


@pytest.fixture
def house(orm: Orm, monkeypatch: pytest.MonkeyPatch) -> Who:
    """Batches that are over and under way, jars from before, a log of the cellar, what came in."""
    stand_still(monkeypatch)
    who = that_dries(orm)
    for name in ("damsons", "syrup", "powder", "rosehips"):
        Still.at = minutes(0)
        work = Work(orm, who, JOBS[name].asked)
        for at, _, press in JOBS[name].presses:
            Still.at = minutes(at)
            press(work, at)
    for name, until in UNDER_WAY.items():
        begun = END - JOBS[name].presses[until][0] - 60
        Still.at = minutes(begun)
        work = Work(orm, who, JOBS[name].asked, begun)
        for at, _, press in JOBS[name].presses[: until + 1]:
            Still.at = minutes(begun + at)
            press(work, begun + at)
    Still.at = now = minutes(END)
    read = found.read(orm, who, [found.Said(line) for line in THERE], now)
    found.put(orm, who, [line.row for line in read if line.row], now)
    cellar = next(p for p in queries.all_of(orm, who.household_id, Place) if p.kind == "cellar")
    logs.keep(orm, who, cellar.id, [
        (minutes(n * DAY), 9.0 + 0.05 * (n % 200)) for n in range(0, 300, 3)
    ])  # fmt: skip
    warm = next(p for p in queries.all_of(orm, who.household_id, Place) if p.kind == "shelf")
    logs.keep(orm, who, warm.id, [(minutes(END - n * DAY), 29.0 - n) for n in range(9)])
    for place in (cellar, warm):
        shelf.place_changed(orm, who, place.id)
    jars = queries.all_of(orm, who.household_id, Jar)
    syrup = next(j.id for j in jars if j.label == "Strong syrup" and j.lives == "stands")
    lives.do(orm, who, now, lives.Which([syrup]), "spoiled", lives.Told(sign="smells"))
    for lot in LOTS:
        intake.take_in(orm, who, lot, now)
    forget(orm)
    return who


def pages(orm: Orm, who: Who, now: datetime) -> Iterator[tuple[str, Any]]:
    """What is looked at, by its name."""
    batches = [line.id for line in batch_list.lines(orm, who)]
    yield "today", today.view(orm, who, now)
    yield "notes", notes.view(orm, who)
    yield "season", season.page(orm, who, 2026)
    yield "figures", figures.view(orm, who, Prices(25.0, 30.0, 1800.0, 450.0))
    yield "recalled", recall.known(orm, who)
    for by, what in RECALLED:
        yield f"recall by {by}", recall.find(orm, who, by, what)  # type: ignore[arg-type]
    for text in SOUGHT:
        yield f"shelf {text}", shelf.view(orm, who, now, text)
    yield "stacks", [replace(stack.page(orm, who, s.id, now), jars=[]) for s in _stacks(orm, who)]
    yield "kitchen", kitchen_view.view(orm, who)
    yield "safety", safety_page.view(orm, who)
    yield "dates", dates.entries(orm, who, now)
    yield "waiting", intake.lots(orm, who)
    yield "last time", [last_time.last_time(orm, who, m) for m in ("damson", "rosehip", "water")]
    yield "poured", servings.usual(orm, who)
    yield "beside", beside.beside(orm, who, batches[0], batches[1])
    units, zone = kitchens.units(orm, who), kitchens.zone(orm, who)
    printed = (sheet.of_page(notes.page(orm, who, n), units, zone) for n in sorted(batches))
    yield "papers", {str(n): on_paper(page) for n, page in enumerate(printed)}
    yield "season on paper", on_paper(season.sheet(season.page(orm, who, 2026), units, ""))
    for what in SHEETS:
        yield f"sheet {what}", {"rows": [*_rows(orm, who, what)]}


def _stacks(orm: Orm, who: Who) -> list[Stack]:
    return sorted(queries.all_of(orm, who.household_id, Stack), key=lambda s: s.id)


def _rows(orm: Orm, who: Who, what: str) -> Iterator[str]:
    """The rows of a table that goes out, without what is another number each time."""
    headings, rows = going_out.sheet(orm, who, what)
    told = [n for n, heading in enumerate(headings) if heading != "number"]
    return (" ; ".join(str(row[n]) for n in told) for row in rows)


BOOK = Book(__file__, "told_of_a_house.txt", PAGES)


def test_a_house_says_what_it_said(orm: Orm, house: Who) -> None:
    for name, page in pages(orm, house, minutes(END) + timedelta(hours=1)):
        BOOK.holds(name, (f"{k} {v}" for k, v in facts_of(name, page)))
