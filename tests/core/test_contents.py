"""Nothing is permitted that a second, plain reading of the tables refuses: 20 000 cases.

How many of them end in which row, and how many by which stops, is as it was before: a rule that is
stricter than it was permits nothing that the plain reading refuses, and yet is seen.
"""

from __future__ import annotations

import random
from collections import Counter
from collections.abc import Iterator, Mapping
from dataclasses import replace

import pytest

from elderberry.core import jars, materials, process
from elderberry.core.composition import NAMES
from elderberry.core.errors import CannotTell, CoreError
from elderberry.core.estimates import measured
from elderberry.core.flow import edits, wiring
from elderberry.core.flow.acidity import Acidity
from elderberry.core.flow.inputs import Brief, End, Input, grams
from elderberry.core.flow.kinds import Number, kind
from elderberry.core.flow.seen import Seen
from elderberry.core.kitchen import Canner, Juicer, Kitchen
from elderberry.core.method import methods
from elderberry.core.plan import Plan, plan
from elderberry.core.process import Contents, Lookup, look_up
from tests.briefs import a_kitchen, filled
from tests.core import plain_reading as plain
from tests.facts import Book

SEEDS = range(20)
MIXES, FLOWS = 700, 300
"""Cases a seed: contents put together at random, and flows laid out, edited and read."""
FRUITS = [k for k, f in materials.fruits().items() if f.brix is not None]
COMMON = (
    "apple", "damson", "cherry_sweet", "plum", "raspberry", "blackberry", "grape_table", "pear",
    "quince", "redcurrant", "rhubarb", "lemon", "peach", "strawberry", "aronia",
)  # fmt: skip
SIDES: Mapping[str, tuple[float, float]] = {
    "sugar_white": (50, 1500), "water": (50, 1500), "citric_acid": (1, 20),
    "lemon_bottled": (5, 120), "lemon_fresh": (5, 300), "vinegar_cider": (5, 300),
    "honey": (20, 400), "butter": (1, 8), "ginger_fresh": (2, 60), "herb_fresh": (2, 40),
    "spice_whole": (1, 20), "pectin_regular": (3, 20), "pectin_low": (3, 20), "cocoa": (5, 60),
    "spirit_40": (5, 100), "maple_syrup": (20, 300),
}  # fmt: skip
USUAL = ("sugar_white", "water", "citric_acid", "lemon_bottled", "lemon_fresh")
SIZES = (118.0, 237.0, 473.0, 946.0, 1893.0)


def pieces(contents: Contents) -> list[plain.Piece]:
    """What is in the jar as bare figures."""
    mix = contents.lot.mix
    found = []
    for source, held in mix.origins.items():
        there = mix.usual_part(source)
        whole = float(source.usual.mass_g)
        solute, solid = (float(plain_first(x)) for x in (held.solute, held.solid))
        dried = source.form == "dried" or source.fruit is None
        form = held.form or source.form
        found.append(
            plain.Piece(
                material=source.material,
                form={"juice": "bought", "pomace": "pomace"}.get(source.form, form),
                went_in_g=whole * (max(solute, solid) if dried else solute),
                in_pieces_g=whole * solid,
                grams={n: float(getattr(there, n)) for n in NAMES},
                boiled_min=held.boiled_min,
                hottest_c=held.hottest_c,
                read_ph=source.ph_read,
                steam=source.form == "steam",
                covering=source.covering,
                peel=held.peel,
            )
        )
    return [p for p in found if p.mass > 1e-9]


def plain_first(value: object) -> float:
    try:
        return float(value)  # type: ignore[arg-type]
    except TypeError:
        return float(value[0])  # type: ignore[index]


def as_jar(
    contents: Contents, jar_ml: float | None, kitchen: Kitchen, history: History
) -> plain.Jar:
    feet = (kitchen.altitude_m or 0.0) / 0.3048
    known = kitchen.alkalinity_mg_l is not None
    meter, high = history
    what, boils = pieces(contents), kitchen.boiling_point_c
    return plain.Jar(what, jar_ml, round(feet, 3), boils, known, meter, high)


History = tuple[float | None, list[tuple[float, float, bool, bool, float | None]]]


def a_history(dice: random.Random, contents: Contents) -> tuple[Acidity, History]:
    """Readings, acid and other things joining, in any order; and what they plainly amount to."""
    total = contents.lot.fruit_solids_g
    events: list[tuple[str, float, float]] = []
    for _ in range(dice.choice((0, 0, 0, 1, 1, 2, 3, 4))):
        what = dice.choice(("read", "read", "acid", "join"))
        events.append((what, round(dice.uniform(2.8, 4.8), 2), dice.choice((0.2, 0.4, 0.7, 1.0))))
    acidity = Acidity()
    for what, ph, part in events:
        if what == "read":
            acidity = acidity.read(ph, part * total)
        else:
            acidity = acidity.acidified() if what == "acid" else acidity.joined()
    return acidity, plainly(events)


def plainly(events: list[tuple[str, float, float]]) -> History:
    high: list[tuple[float, float, bool, bool, float | None]] = []
    meter = None
    for place, (what, ph, part) in enumerate(events):
        if what != "read":
            continue
        later = events[place + 1 :]
        joins = [n for n, e in enumerate(later) if e[0] == "join"]
        since = later[joins[-1] + 1 :] if joins else later
        reads = [n for n, e in enumerate(since) if e[0] == "read"]
        after = since[reads[-1]][1] if reads else None
        start = (joins[-1] + 1 if joins else 0) + (reads[-1] if reads else 0)
        acid = any(e[0] == "acid" for e in later[:start])
        high.append((ph, part, acid, False, after))
        if not joins:
            meter = ph if not reads else after
    return meter, high


def a_mix(dice: random.Random) -> Contents | None:
    """Anything that could stand in a jar; None where its readings are refused in words."""
    parts: list[tuple[str, float, str] | tuple[str, float]] = []
    for _ in range(dice.choice((1, 1, 1, 2, 2, 3))):
        fruit = dice.choice(COMMON if dice.random() < 0.85 else FRUITS)
        form = dice.choice(("juice", "juice", "juice", "puree", "whole"))
        parts.append((fruit, dice.uniform(30, 1500), form))
    for side, (low, high) in SIDES.items():
        if dice.random() < (0.3 if side in USUAL else 0.03):
            parts.append((side, dice.uniform(low, high)))
    read = {p[0]: round(dice.uniform(2.8, 4.4), 2) for p in parts if dice.random() < 0.1}
    heat = dice.choice((20.0, 89.0, 100.0, 100.0))
    boiled = dice.choice((0.0, 0.0, 15.0))
    known = {k: v for k, v in read.items() if k in materials.fruits()}
    try:
        return filled(*parts, heated_c=heat, boiled_min=boiled, read=known)
    except CannotTell:
        return None


BOOK = Book(__file__, "judged.txt", [f"{what} {n}" for what in ("mixes", "flows") for n in SEEDS])


def counted(ways: Counter[str]) -> list[str]:
    """How many cases are judged in each way."""
    return [f"{ways[how]} {how}" for how in sorted(ways)]


def judged(found: Lookup) -> str:
    """The row and the minutes of what is permitted, or what stops it."""
    if found.time and not found.stops:
        return f"{found.time.row.key} {found.time.minutes} min"
    return " ".join(sorted({f.id for f in found.stops})) or "no time"


def holds(found: Lookup, jar: plain.Jar, what: str) -> bool:
    """Whether it is permitted; and if so, that a plain reading permits it for no longer."""
    if found.stops:
        return False
    assert found.time is not None, what
    least = plain.minutes(jar)
    assert least is not None, f"{what}: permitted as {found.time.row.key}"
    assert found.time.minutes >= least, f"{what}: {found.time.minutes} < {least}"
    return True


@pytest.mark.parametrize("seed", SEEDS)
def test_no_mix_is_permitted_that_the_tables_refuse(seed: int) -> None:
    dice, permitted, ways = random.Random(seed), 0, Counter[str]()
    for case in range(MIXES):
        contents = a_mix(dice)
        if contents is None:
            continue
        acidity, history = a_history(dice, contents)
        contents = Contents(replace(contents.lot, acidity=acidity))
        metres = dice.choice((0.0, 304.8, 585.0, 1200.0, 2000.0, 3000.0, 3100.0))
        kitchen = a_kitchen(metres, alkalinity_mg_l=dice.choice((None, 150.0)))
        size = dice.choice((None, *SIZES, *SIZES, *SIZES))
        made_of = [
            (p.source.material, round(p.source.usual.mass_g), p.source.form) for p in contents.parts
        ]
        what = f"seed {seed} case {case}: {made_of} in {size} at {metres} m, {history}"
        found = look_up(contents, size, kitchen)
        ways[judged(found)] += 1
        permitted += holds(found, as_jar(contents, size, kitchen, history), what)
    assert permitted > MIXES / 25
    BOOK.holds(f"mixes {seed}", counted(ways))


def a_flow(dice: random.Random) -> tuple[Plan, Kitchen] | None:
    """A method with other steps, figures, fruit and readings; None where it is refused in words."""
    chosen = dice.choice(list(methods().values()))
    steps, kinds = chosen.steps, chosen.begins_with
    try:
        for _ in range(dice.choice((0, 0, 1, 2))):
            lot = dice.choice(sorted(wiring.lot_kinds(steps, kinds)))
            may = edits.may_follow(steps, lot, kinds)
            steps = edits.insert(steps, lot, dice.choice(may), kinds) if may else steps
        for step in steps:
            for option in kind(step.kind).options.values():
                if dice.random() < 0.25:
                    steps = edits.choose(
                        steps, step.key, {option.key: a_value(dice, option)}, kinds
                    )
    except CoreError:
        return None
    main = (
        dice.choice(chosen.fruits) if chosen.fruits and dice.random() < 0.6 else dice.choice(FRUITS)
    )
    ph = round(dice.uniform(2.8, 4.6), 2) if dice.random() < 0.2 else None
    given = [Input("fruit", main, grams(dice.uniform(1000, 9000)), dice.choice(chosen.forms),
                   ph=None if ph is None else measured(ph, 0.1))]  # fmt: skip
    for n in range(dice.choice((0, 0, 1, 2))):
        side = dice.choice((*USUAL, "honey", dice.choice(list(SIDES))))
        low, high = SIDES[side]
        given.append(Input(f"more{n}", side, grams(dice.uniform(low, high))))
    kitchen = Kitchen(
        dice.choice((0.0, 585.0, 1500.0, 2600.0)), Juicer(10, 4, 1.8), Canner(7), 2.0,
        jar_stock={"half_pint": 60, "pint": 90, "quart": 40, "half_gallon": 9},
        alkalinity_mg_l=dice.choice((None, 120.0)),
    )  # fmt: skip
    kinds_of_jar = (dice.choice(("half_pint", "pint", "quart", "half_gallon")),)
    brief = Brief(tuple(given), (End("fill", "shelf", kinds_of_jar),))
    try:
        return plan(
            replace(chosen, steps=steps), brief, kitchen, seen=dict(some_read(dice))
        ), kitchen
    except CoreError:
        return None


def a_value(dice: random.Random, option: object) -> object:
    if isinstance(option, Number):
        return dice.choice((option.lo, option.hi, round(dice.uniform(option.lo, option.hi), 2)))
    return dice.choice([o.value for o in option.options])  # type: ignore[attr-defined]


def some_read(dice: random.Random) -> Iterator[tuple[str, Seen]]:
    for lot in ("juice", "juice-1", "pulp", "sweet", "hot", "blend", "clear"):
        if dice.random() < 0.15:
            meter = tuple(round(dice.uniform(2.9, 4.7), 2) for _ in range(dice.choice((0, 1, 2))))
            brix = round(dice.uniform(4, 65), 1) if dice.random() < 0.3 else None
            yield lot, Seen(brix=brix, meter=meter)


@pytest.mark.parametrize("seed", SEEDS)
def test_no_flow_is_permitted_that_the_tables_refuse(seed: int) -> None:
    dice, permitted, laid, ways = random.Random(1000 + seed), 0, 0, Counter[str]()
    for case in range(FLOWS):
        made = a_flow(dice)
        if made is None or not made[0].main.expected.count:
            continue
        laid += 1
        found, contents = made[0].main.found, made[0].main.contents
        sizes = [jars.kind(k).process_as_ml for k in made[0].main.generous.jars]
        acidity = contents.lot.acidity
        total = contents.lot.fruit_solids_g
        high = [(s.ph, s.solids_g / total if total else 1.0, s.acid, s.lemon, s.after)
                for s in acidity.shown]  # fmt: skip
        jar = as_jar(contents, max(s for s in sizes if s), made[1], (acidity.meter, high))
        stopped = made[0].main.verdict.stops
        found = replace(found, stops=stopped)
        ways[judged(found)] += 1
        permitted += holds(found, jar, f"seed {seed} case {case}")
    assert laid > FLOWS / 4
    assert permitted > laid / 40
    BOOK.holds(f"flows {seed}", counted(ways))


def test_process_rows_are_read_from_the_same_table() -> None:
    assert len(plain.ROWS) == sum(r.pack != "none" for r in process.process_rows())
