"""What small rules answer, over the figures that they are asked for, is what they answered before.

Each is asked what a cook could ask it.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from datetime import date, datetime, timedelta
from itertools import product
from typing import Any

import pytest

from elderberry.core import (
    again,
    becomes,
    citrus,
    colour,
    compare,
    freezing,
    hands,
    heat,
    jars,
    jelly,
    keeping,
    mishaps,
    pace,
    quantities,
    scales,
    storage,
    sweeteners,
    texture,
    waiting,
    yields,
)
from elderberry.core.composition import of_fruit_juice, of_material
from elderberry.core.drying import air_dry, back, dried, freeze_dry
from elderberry.core.errors import CoreError
from elderberry.core.flow.kinds import kinds
from elderberry.core.materials import fruit, fruits
from elderberry.core.shelf import climate, enough, found, life, looking, tasting, worth
from tests.briefs import filled
from tests.facts import Book, said

DAY = date(2026, 7, 1)
ROWS = sorted(storage.life_rows())
TEMPS = (-25.0, -18.0, 4.0, 12.0, 20.0, 26.0)
KEEPS = ("shelf", "sugar", "dry", "chill", "freeze", "now")
IN_JARS: dict[str, Any] = {
    "juice": filled(("damson", 900.0)),
    "drink": filled(("elderberry", 500.0), ("sugar_white", 120.0), ("water", 400.0)),
    "syrup": filled(("blackcurrant", 500.0), ("sugar_white", 700.0)),
    "strong": filled(("sugar_white", 800.0), ("water", 220.0)),
    "jelly": filled(("quince", 700.0), ("sugar_white", 900.0), ("pectin_regular", 14.0)),
    "low jelly": filled(("redcurrant", 800.0), ("sugar_white", 200.0), ("pectin_low", 9.0)),
    "spirit": filled(("raspberry", 500.0), ("sugar_white", 300.0), ("spirit_40", 60.0)),
    "vinegar": filled(("sugar_white", 500.0), ("vinegar_cider", 300.0), ("water", 200.0)),
    "purée": filled(("apple", 900.0, "puree"), ("sugar_white", 60.0)),
}
LOG = [(datetime(2026, 7, 1) + timedelta(hours=8 * n), 14.0 + n % 9) for n in range(30)]
WARM = climate.Climate(16.0, 6.0, 210, climate.of_log(LOG), light=True)
TASTED = [
    tasting.Tasting(200.0, "good"), tasting.Tasting(500.0, "fading"),
    tasting.Tasting(640.0, "gone"),
]  # fmt: skip


def spells(row: storage.LifeRow) -> list[climate.Spell]:
    """Three weeks in a warm place, then the rest of the year in a cellar."""
    moved = datetime(2026, 7, 22)
    return [
        climate.Spell(WARM, datetime(2026, 7, 1), moved),
        climate.Spell(climate.Climate(11.0), moved, datetime(2027, 7, 1)),
    ]


def of_row(name: tuple[str, str]) -> Iterator[object]:
    """What is told of a life: how it runs at some temperatures, learned, and once it is opened."""
    row = storage.life_row(*name)
    yield [storage.rate(t, row) for t in TEMPS if storage.holds_at(row, t)]
    yield tasting.learned(row, TASTED)
    yield storage.spirited(row, 0.5)
    yield storage.best_by(DAY, row, factor=0.7)
    if storage.holds_at(row, 4.0):
        yield storage.opened(0.4, row, DAY)
    low, high = row.limits_c
    if low <= 11.0 and high >= 26.0:
        yield climate.aged_days(spells(row), row)
        yield climate.cost_days(spells(row), row)
        ahead = climate.ahead(WARM, row, DAY)
        yield [ahead.day_of(left) for left in (0.0, 40.0, 300.0, 4000.0)]


def of_jar(name: str) -> Iterator[object]:
    """What is told of what is in a jar."""
    contents = IN_JARS[name]
    yield [becomes.sentences(contents, keep, 14.0) for keep in KEEPS]
    yield jelly.forecast(contents)
    yield [scales.scales(contents.lot, limit) for limit in (None, 4.2)]
    yield compare.differences(compare.figures(contents), compare.figures(IN_JARS["juice"]))
    yield keeping.brix_to_keep(contents)
    yield [freezing.swelling_pct(contents.usual, t) for t in (-24.0, -18.0, -6.0)]
    yield [texture.crystals(contents.usual, t) for t in (4.0, 15.0, 25.0)]
    yield colour.of_lot(contents.lot)


Asked = tuple[Callable[..., object], Iterable[tuple[Any, ...]]]
RULES: dict[str, Asked] = {
    "a life": (lambda *name: [*of_row(name)], ROWS),
    "a jar": (lambda name: [*of_jar(name)], ((n,) for n in IN_JARS)),
    "waits": (waiting.waits_days, product(
        ("damson", "raspberry", "quince", "rhubarb"),
        ("whole", "frozen", "dried", "pomace", "juice"),
        ("under", "ripe", "over"), ("cool", "cold"),
    )),
    "hands": (hands.hands_min, product(
        sorted({w.words["hands"] for w in kinds().values()}), (5.0, 60.0, 700.0))),
    "yield": (lambda key, way: yields.prior(way, fruit(key)), product(
        ("damson", "apple", "quince", "rosehip", "lime"),
        ("steam", "press", "drain", "weight", "steep", "peel"))),
    "predicted": (lambda *seen: yields.predict(
        yields.prior("steam", fruit("damson")),  # type: ignore[arg-type]
        [yields.Observation(y, "the old tree", "steam", f"B-{n}") for n, y in enumerate(seen)],
        "the old tree"), ((), (0.4,), (0.6, 0.62), (0.5, 0.52, 0.95), (0.9, 0.92, 0.91))),
    "pace": (pace.learn, product(("heat", "reduce", "steam"), ([1.2], [1.6] * 5, [0.1, 0.9], []))),
    "stretched": (citrus.stretch, product(
        (30.0, 220.0), sorted(citrus.CITRUS), ("by-match", "by-peel", "by-litre"))),
    "sweet": (sweeteners.as_sweet_g, product(
        ("honey", "maple_syrup", "fructose", "stevia_spoon"), (100.0,), ("sugar_white", "honey"))),
    "caramel": (colour.caramel, ((t,) for t in (120.0, 152.0, 163.0, 175.0, 186.0, 200.0))),
    "a jar freezes": (lambda k, s: jars.frozen_room_ml(jars.kind(k), s), product(
        jars.kinds(), (0.0, 6.0, 11.0))),
    "packed": (jars.pack, product(
        (260.0, 1930.0, 5000.0),
        ({"pint": 3, "quart": 2, "half_pint": 4}, {"m500": 9, "m250": 1}), (473.0, 946.0), (4,))),
    "thaws": (freezing.thaws_h, ((g,) for g in (60.0, 900.0, 8000.0))),
    "powder back": (again.of_pack, product(
        ("powder", "slices", "leather"), (40.0, 300.0), (4.0, 8.5), (0.03, 0.12), ((250.0,),))),
    "powder drunk": (back.for_drink, ((250.0, 90.0, 600.0), (1500.0, 40.0, 380.0))),
    "lies": (dried.dried, (("powder",), ("slices",), ("leather",), ("peel",))),
    "air": (air_dry.usual, product(("slices", "leather", "peel", "herbs"), (3.0, 9.0), (45.0, 62.0),
                                   (20.0, 60.0))),
    "vacuum": (lambda mm, n: freeze_dry.hours(
        [freeze_dry.Tray(of_fruit_juice("gooseberry", 800.0), mm)] * n), product(
        (5.0, 14.0), (1, 4))),
    "foams": (lambda *parts: freeze_dry.Tray(
        sum((of_material(m, g) for m, g in parts), start=of_fruit_juice("pear", 400.0)), 8.0), (
        (("sugar_white", 40.0),), (("maltodextrin", 60.0),), (("honey", 200.0),))),
    "lasts": (enough.lasts, product(
        (0, 7, 40), (0, 3, 90), (20.0, 400.0), (DAY,), (date(2026, 9, 20),), (None, 0.8))),
    "worth": (worth.worth, product(
        (0.5, 12.0), (0.0, 900.0), (24.0,), (3.5,), (2.0,),
        (worth.Prices(), worth.Prices(25.0, 30.0, 1500.0, 380.0)))),
    "when": (found.when, product((DAY,), (0, 3, 16, 17, 200, 201, 540))),
    "found lives": (found.life_row, product(
        sorted(found.products()), ("cellar", "shelf", "refrigerator", "freezer"))),
    "found so": (found.findings, product(
        ("damson", "pear", "fig", ""), sorted(found.products()), ("cellar", "freezer"))),
    "comes back": (life.comes_back, product(life.Lives, ("", "cap", "reusable", "one_piece"))),
    "looked for": (looking.read, ((t,) for t in (
        "damson under 3 weeks left", "older than 2 years", "2025 open", "quince jelly held",
        "under 10 days left syrup", "over 6 months old", "within a month left", "over an year old",
        "under half a year left", "two weeks left", "older than three days pear"))),
    "mishap": (mishaps.amounts, (("metric",), ("us",), ("imperial",))),
    "at a step": (
        lambda k: [m.key for m in mishaps.at_step(k, kinds()[k])], ((k,) for k in kinds()),
    ),
    "shown": (lambda g, of, units: quantities.show(quantities.Quantity(g, of), units), product(
        (0.4, 7.0, 16.0, 93.0, 460.0, 1234.0, 20_500.0), ("mass", "volume"),
        ("metric", "us", "imperial"))),
    "inside": (lambda kind, start, minutes: heat.inside_jar(
        minutes, start, 98.0, heat.heating(
            jars.kind(kind).nominal_ml, jars.kind(kind).inner_radius_mm,
            jars.kind(kind).inner_height_mm)).lethality_min, product(
        ("half_pint", "pint", "quart"), (25.0, 70.0), (10.0, 35.0))),
    "peel": (citrus.peel_of, product(sorted(citrus.CITRUS), (1.0, 7.5))),
    "colour": (colour.of_material, ((k,) for k in list(fruits())[:6])),
}  # fmt: skip


ASKED = {name: (ask, [*grid]) for name, (ask, grid) in RULES.items()}


def answers(ask: Callable[..., object], grid: Iterable[tuple[Any, ...]]) -> list[str]:
    """What a rule answers, each with what it was asked."""
    return [f"{', '.join(map(said, asked))}: {answered(ask, asked)}" for asked in grid]


def answered(ask: Callable[..., object], asked: tuple[Any, ...]) -> str:
    """An answer, or why there is none."""
    try:
        return said(ask(*asked)).replace("\n", " ")
    except CoreError as refused:
        return f"refused, {refused}"


BOOK = Book(__file__, "answers.txt", ASKED)


@pytest.mark.parametrize("name", ASKED)
def test_it_answers_as_it_did(name: str) -> None:
    BOOK.holds(name, answers(*ASKED[name]))
