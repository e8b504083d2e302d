"""What every page says of some batches, press by press, is what it said before.

After each press stand the figures and words that are others by then, on the page of the batch, on
the hob, the stove, Today, the shelf, its first jar's page and label.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.flow.inputs import End
from elderberry.services.cooking import (
    ageing,
    batch_view,
    endings,
    folder,
    jar_view,
    kept,
    mishaps,
    steps,
    undo,
)
from elderberry.services.day import stove, today
from elderberry.services.notes import notes
from elderberry.services.planning.asked import GoesIn, PlanRequest
from elderberry.services.shelf import labels, lives, servings, shelf
from elderberry.services.shelf.shown import DrinkView
from elderberry.services.who import Who
from elderberry.store import Place, queries
from tests.factories import NOON, Work, forget, household, minutes, reading, request, that_dries
from tests.facts import Book, facts_of

DAY = 24 * 60.0


class Still(datetime):
    """A clock that stands at the moment of a press."""

    at: datetime = NOON

    @classmethod
    def now(cls, tz: Any = None) -> datetime:  # type: ignore[override]
        """The moment of the press."""
        return cls.at


@pytest.fixture(autouse=True)
def still(monkeypatch: pytest.MonkeyPatch) -> None:
    """Nothing asks the clock on the wall."""
    stand_still(monkeypatch)


def stand_still(monkeypatch: pytest.MonkeyPatch) -> None:
    """What asks what time it is hears the moment of the press."""
    for module in (ageing, folder, jar_view, kept, shelf):
        monkeypatch.setattr(module, "datetime", Still)


def on_the_shelf(orm: Orm, monkeypatch: pytest.MonkeyPatch) -> Work:
    """Four sealed pints of a batch that is over, and the rest of it in the refrigerator."""
    stand_still(monkeypatch)
    work = Work(orm, household(orm))
    work.to_shelf()
    return work


@pytest.fixture
def who(orm: Orm) -> Who:
    return that_dries(orm)


Press = Callable[[Work, float], object]


def nothing(_: Work, __: float) -> object:
    """Nobody presses anything."""
    return None


def starts(key: str) -> Press:
    return lambda work, at: work.do(key, at)


def boils(key: str, reached: bool = True) -> Press:
    return lambda work, at: work.do(key, at, lambda made: steps.boil(made, reached=reached))


def done(key: str, **more: object) -> Press:
    """A step is finished; figures are readings, as quantity=(value, instrument)."""
    read = tuple(reading(k, *v) for k, v in more.items() if isinstance(v, tuple) and k in READ)
    rest = {k: v for k, v in more.items() if k not in READ}
    return lambda work, at: work.finish(key, at, readings=read, **rest)


READ = {"volume_ml", "mass_g", "brix", "ph", "temp_c", "tray_g", "depth_cm"}


def reads(key: str, quantity: str, value: float, instrument: str) -> Press:
    entry = reading(quantity, value, instrument)
    return lambda work, at: work.do(key, at, lambda made: steps.take_reading(made, entry))


def goes_wrong(key: str, what: str, words: str = "", *jars: int) -> Press:
    told = mishaps.Said(words, jars)
    return lambda work, at: work.do(key, at, lambda made: mishaps.happened(made, what, told))


def fills(key: str, count: int, kind: str = "pint", part_ml: float = 0.0) -> Press:
    part = kind if part_ml else None
    return done(key, jars=(steps.JarEntry(kind, count),), part_kind=part, part_ml=part_ml)


def packs(key: str = "pack") -> Press:
    return lambda work, at: work.pack(at, key)


def acts(key: str, act: Callable[..., None], *more: object) -> Press:
    return lambda work, at: work.do(key, at, lambda made: act(made, *more))


def corrects(key: str, value: float) -> Press:
    """The newest reading of a step is put right."""

    def press(work: Work, at: float) -> object:
        newest = max(r.id for r in work.folder.readings)
        return work.do(key, at, lambda made: steps.correct(made, newest, value))

    return press


def looks(number: int, held: bool = True, way_on: str | None = None) -> Press:
    return lambda work, at: work.look(number, at, held, way_on)


def jar_is(what: str, *numbers: int, kind: str = "", **told: Any) -> Press:
    def press(work: Work, at: float) -> object:
        there = queries.all_of(work.orm, work.who.household_id, Place)
        to = next((p.id for p in there if p.kind == kind), None)
        which = lives.Which([work.folder.jars[n].id for n in numbers])
        told_ = lives.Told(place_id=to, **told)
        return lives.do(work.orm, work.who, minutes(at), which, what, told_)

    return press


def drinks(number: int, ml: float, diluent: str, *in_it: str) -> Press:
    def press(work: Work, at: float) -> object:
        jar, asked = work.folder.jars[number].id, servings.Asked(ml, diluent, in_it=in_it)
        return servings.pour(work.orm, work.who, jar, asked, "For the bench", minutes(at))

    return press


def asks(line: str, method: str, *ends: End, more: tuple[str, ...] = ()) -> PlanRequest:
    inputs = (GoesIn(line=line), *(GoesIn(line=x) for x in more))
    return PlanRequest(inputs, ends or (End("fill", "shelf", ("pint",)),), method_key=method)


def into_bags(line: str, method: str) -> PlanRequest:
    return asks(line, method, End("pack", "dry", ("barrier-1000",)))


@dataclass(frozen=True)
class Job:
    """What is asked for, and what is pressed at which minute after noon."""

    asked: PlanRequest
    presses: tuple[tuple[float, str, Press], ...]


JOBS: dict[str, Job] = {
    "damsons": Job(request("damson", 4.0), (
        (2, "steam", starts("steam_juice-1")),
        (20, "drawn", reads("steam_juice-1", "volume_ml", 700, "jug")),
        (31, "hose off", goes_wrong("steam_juice-1", "hose_off", "1 cup")),
        (66, "steamed", done("steam_juice-1",
                             volume_ml=(1950, "jug"), brix=(13.5, "refractometer"))),
        (70, "heat", starts("heat_to")),
        (82, "hot", done("heat_to", temp_c=(90, "thermometer"), ph=(3.3, "ph_meter"))),
        (95, "filled", fills("fill", 3, part_ml=280)),
        (98, "in the canner", starts("process-1")),
        (106, "boils", boils("process-1")),
        (111, "lost the boil", boils("process-1", reached=False)),
        (113, "boils again", boils("process-1")),
        (130, "out", done("process-1")),
        (130.1, "taken back", lambda work, at: undo.take_back(
            work.orm, work.who, work.batch.id, minutes(at))),
        (136, "out again", done("process-1")),
        (DAY, "cool", done("cool-1")),
        (DAY + 1, "one held", looks(0)),
        (DAY + 2, "one did not", looks(1, held=False, way_on="chill")),
        (DAY + 4, "the others held", done("seal_check", others_held=True)),
        (9 * DAY, "moved", jar_is("carried", 0, kind="refrigerator")),
        (40 * DAY, "opened", jar_is("opened", 2)),
        (41 * DAY, "a glass", drinks(2, 250, "sparkling water", "1 tsp sugar")),
        (43 * DAY, "poured", jar_is("poured", 2, ml=90.0)),
        (44 * DAY, "tasted", jar_is("tasted", 2, verdict="good")),
        (300 * DAY, "given", jar_is("given", 0, to="the allotment fair")),
    )),
    "syrup": Job(asks("1 l water", "strong_syrup", End("fill", "sugar", ("half_pint",)),
                      more=("1.8 kg sugar", "4 g citric acid")), (
        (1, "stirred", done("stir_in")),
        (2, "cook", starts("cook_syrup")),
        (6, "boils", boils("cook_syrup")),
        (12, "read", reads("cook_syrup", "brix", 69, "refractometer")),
        (16, "hotter", reads("cook_syrup", "temp_c", 104.5, "thermometer")),
        (24, "too far", done("cook_syrup", brix=(78, "refractometer"))),
        (30, "filled", fills("fill", 6, "half_pint", part_ml=100)),
        (60, "put away", done("shelve")),
        (700, "used up", jar_is("used_up", 1)),
    )),
    "slices": Job(into_bags("2 kg apples", "slices_air_dried"), (
        (20, "cut", done("slice_up")),
        (30, "dries", starts("air_dry")),
        (200, "weighed", reads("air_dry", "tray_g", 130, "tray_scale")),
        (500, "weighed again", reads("air_dry", "tray_g", 62, "tray_scale")),
        (560, "dry", done("air_dry", mass_g=(370, "scale"))),
        (570, "shaken", starts("condition")),
        (7 * DAY + 580, "even", done("condition")),
        (7 * DAY + 600, "packed", packs()),
        (7 * DAY + 620, "put away", done("store_dry")),
    )),
    "powder": Job(into_bags("2.2 kg gooseberries", "puree_powder_freeze_dried"), (
        (1, "simmer", starts("simmer")),
        (9, "boils", boils("simmer")),
        (24, "soft", done("simmer")),
        (45, "milled", done("mill", mass_g=(1900, "scale"))),
        (60, "freezes", starts("freeze_dry")),
        (17 * 60, "dry", done("freeze_dry")),
        (17 * 60 + 20, "ground", done("grind")),
        (17 * 60 + 40, "packed", packs()),
        (18 * 60, "put away", done("store_dry")),
        (30 * DAY, "opened", jar_is("opened", 0)),
        (31 * DAY, "spoiled", jar_is("spoiled", 0, sign="smells")),
    )),
    "jelly": Job(asks("3 kg redcurrants", "redcurrant_jelly",
                      End("fill", "chill", ("half_pint",))), (
        (10, "washed", done("soak")),
        (12, "simmer", starts("simmer")),
        (20, "boils", boils("simmer")),
        (40, "soft", done("simmer")),
        (45, "hung", starts("drain")),
        (300, "drained", done("drain", volume_ml=(1600, "jug"), brix=(11, "refractometer"))),
        (310, "acid", lambda work, at: work.do(
            "drain", at, lambda m: steps.acid(m, "3 g citric acid"))),
        (315, "sugar", done("stir_in")),
        (320, "cook", starts("cook_syrup")),
        (330, "boils", boils("cook_syrup")),
        (333, "a drop", reads("cook_syrup", "drop", 2, "plate")),
        (336, "burns", goes_wrong("cook_syrup", "scorched")),
        (341, "water back", lambda work, at: work.do(
            "cook_syrup", at, lambda m: steps.water_back(m, "100 ml"))),
        (346, "another drop", reads("cook_syrup", "drop", 4, "plate")),
        (350, "sets", done("cook_syrup", brix=(63, "refractometer"))),
        (360, "filled", fills("fill", 8, "half_pint", part_ml=60)),
        (370, "cold", done("chill")),
    )),
    "rosehips": Job(asks("2 kg rosehips", "rosehip_steep", End("fill", "freeze", ("pint",))), (
        (12, "sorted", done("sort")),
        (14, "worked out", acts("steep", steps.note, "bench", "4 l of water for 2 kg")),
        (15, "steep", starts("steep")),
        (21, "deep", reads("steep", "depth_cm", 14, "ruler")),
        (23, "deeper", corrects("steep", 16)),
        (30, "longer", acts("steep", steps.lengthen, 20.0, "still hard")),
        (44, "a problem", acts("steep", steps.note, "problem", "hairs in it")),
        (95, "steeped", done("steep", volume_ml=(3900, "jug"), ph=(4.0, "ph_strip"))),
        (101, "cold", acts("steep", steps.put_cold)),
        (200, "strained", done("strain", mass_g=(3700, "scale"))),
        (220, "hot", done("heat_to", temp_c=(93, "thermometer"))),
        (300, "hot again", acts("heat_to", steps.repeat)),
        (320, "really", done("heat_to", temp_c=(92, "thermometer"))),
        (330, "filled", fills("fill", 7, part_ml=200)),
        (400, "frozen", done("freeze")),
        (90 * DAY, "thawed", jar_is("carried", 0, kind="refrigerator")),
        (91 * DAY, "opened", jar_is("opened", 0)),
        (91 * DAY + 1, "a glass", drinks(0, 200, "wine", "20 ml vodka")),
        (92 * DAY, "used up", jar_is("used_up", 0)),
    )),
    "two ways": Job(asks("3 kg blackcurrants", "blackcurrant_two_ways", End("fill"), End("fill-2"),
                         more=("1 l apple juice to the litre",)), (
        (8, "washed", done("soak")),
        (10, "steam", starts("steam_juice-1")),
        (25, "near dry", goes_wrong("steam_juice-1", "pan_near_dry")),
        (40, "lid lifted", goes_wrong("steam_juice-1", "lid_lifted")),
        (80, "steamed", done("steam_juice-1", mass_g=(1650, "scale"), ph=(3.0, "ph_meter"))),
        (84, "parted", done("split")),
        (95, "hot", done("heat_to", temp_c=(91, "thermometer"))),
        (100, "filled", fills("fill", 1, "pint", part_ml=150)),
        (101, "stirred", done("stir_in")),
        (104, "in the canner", starts("process-1")),
        (110, "boils", boils("process-1")),
        (118, "water low", goes_wrong("process-1", "water_low")),
        (122, "boils again", boils("process-1")),
        (140, "out", done("process-1")),
    )),
    "whole": Job(asks("2 kg gooseberries", "whole_raw"), (
        (15, "sorted", done("sort", mass_g=(1850, "scale"))),
        (20, "divert", lambda work, at: endings.divert(
            work.orm, work.who, work.batch.id, "freeze", minutes(at))),
        (30, "given up", lambda work, at: endings.give_up(
            work.orm, work.who, work.batch.id, minutes(at))),
    )),
}  # fmt: skip


def pages(work: Work, at: float) -> Iterator[tuple[str, Any]]:
    """What is looked at, by its name, at a minute."""
    orm, who, now = work.orm, work.who, minutes(at)
    forget(orm)
    there = folder.folder_of(orm, who, work.batch.id)
    yield "batch", batch_view.of(there)
    yield "hob", today.hob(orm, who, now)
    yield "stove", stove.view(orm, who, now)
    yield "today", today.view(orm, who, now)
    yield "shelf", shelf.view(orm, who, now)
    if there.standing.finished:
        yield "note", notes.page(orm, who, work.batch.id)
    if there.jars:
        first = there.jars[0].id
        yield "jar", shelf.jar_page(orm, who, first)
        yield "label", labels.shown(orm, who, [first], "http://here")


def facts(work: Work, at: float) -> dict[str, str]:
    """Every figure and word of every page, by where it stands."""
    found: dict[str, str] = {}
    for name, page in pages(work, at):
        found.update(facts_of(name, page))
    return found


def told(work: Work, job: Job) -> Iterator[str]:
    """What each press changes, line by line."""
    known: Mapping[str, str] = {}
    for at, words, press in ((0.0, "begun", nothing), *job.presses):
        Still.at = minutes(at)
        answer = press(work, at)
        now = facts(work, at)
        if isinstance(answer, DrinkView):
            now.update(facts_of("drink", answer))
        yield from (f"{words}: {k} {v}" for k, v in now.items() if known.get(k) != v)
        yield f"{words}: {len(known.keys() - now.keys())} no longer said"
        known = now


BOOK = Book(__file__, "told.txt", JOBS)


@pytest.mark.parametrize("name", JOBS)
def test_pages_say_what_they_said(orm: Orm, who: Who, name: str) -> None:
    Still.at = NOON
    BOOK.holds(name, told(Work(orm, who, JOBS[name].asked), JOBS[name]))
