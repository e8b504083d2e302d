"""What is done, kept or poured otherwise than usual changes a plan as it did before.

Each case lays a method out once as usual and once otherwise, and says only what is another line:
so it is read as an answer to "what if".
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from functools import cache, partial
from typing import Any

import pytest

from elderberry.core import colour, jars, keeping, materials
from elderberry.core.drying import freeze_dry
from elderberry.core.errors import CoreError
from elderberry.core.estimates import Estimate, Evidence, measured
from elderberry.core.flow import edits
from elderberry.core.flow.inputs import Amount, Brief, End, Input, forms, grams
from elderberry.core.flow.kinds import Choice, Number, kinds
from elderberry.core.flow.wiring import START
from elderberry.core.kitchen import Canner, Dryer, FreezeDryer, Juicer, Kitchen, Vessel
from elderberry.core.method import method, methods
from elderberry.core.pace import PRIOR_SIGMA, learn
from elderberry.core.plan import Plan, plan
from elderberry.core.yields import Observation
from tests.core.test_planned import KG, of_end, of_lot, of_step
from tests.core.test_ways import HERE, made
from tests.facts import Book, said


@cache
def of(key: str) -> Plan:
    """A method as it is usually laid out."""
    return made(key, KG)


def again(
    key: str,
    brief: Brief | None = None,
    kitchen: Kitchen = HERE,
    choices: Mapping[str, Mapping[str, Any]] | None = None,
    **more: object,
) -> Plan:
    """A method laid out for something else, somewhere else, or with a step done otherwise."""
    which = method(key)
    steps = which.steps
    for step, chosen in (choices or {}).items():
        steps = edits.choose(steps, step, dict(chosen), which.begins_with)
    return plan(replace(which, steps=steps), brief or of(key).brief, kitchen, **more)  # type: ignore[arg-type]


def with_one_more(key: str, given: Input) -> Plan:
    """A method with something that goes in besides."""
    brief = of(key).brief
    return again(key, replace(brief, inputs=(*brief.inputs, given)))


def with_first(key: str, **more: object) -> Plan:
    """A method whose first input is another, or known in another way."""
    brief = of(key).brief
    first, *rest = brief.inputs
    return again(key, replace(brief, inputs=(replace(first, **more), *rest)))  # type: ignore[arg-type]


def with_ends(key: str, **more: object) -> Plan:
    """A method whose ends are kept otherwise."""
    brief = of(key).brief
    return again(key, replace(brief, ends=tuple(replace(e, **more) for e in brief.ends)))  # type: ignore[arg-type]


def steps_done_otherwise() -> Iterator[tuple[str, partial[Plan]]]:
    """Every choice and figure of every kind of step, in the first method that has it."""
    for what in kinds().values():
        of_kind = ((k, s.key) for k in sorted(methods()) for s in method(k).steps
                   if s.kind == what.key)  # fmt: skip
        key, step = next(of_kind, ("", ""))
        for name, option in what.options.items() if key else ():
            for value, more in _values(what.options, name, option):
                chosen = {step: {**more, name: value}}
                yield f"{what.key}.{name}={value}", partial(again, key, choices=chosen)


PUT_IN = (
    ("bought_juice", "fruit"), ("bought_juice", "clear"), ("mashed_pressed", "rinsed"),
    ("mashed_pressed", "pomace"), ("pureed_bought", "fruit"), ("sugar_syrup", "reduced"),
)  # fmt: skip


def steps_put_in() -> Iterator[tuple[str, partial[Plan]]]:
    """Every step that can be put in after some lots of some methods."""
    for key, lot in PUT_IN:
        which = method(key)
        for what in edits.may_follow(which.steps, lot, which.begins_with):
            steps = edits.insert(which.steps, lot, what, which.begins_with)
            laid = partial(plan, replace(which, steps=steps), of(key).brief, HERE)
            yield f"{what} after {lot} of {key}", laid


def _values(
    options: Mapping[str, Choice | Number], name: str, option: Choice | Number
) -> Iterator[tuple[Any, dict[str, Any]]]:
    """Other ways and figures, each with the choice without which it says nothing.

    A larger figure is asked for with everything else done otherwise as well.
    """
    more = ONLY_WITH.get(name, {})
    if isinstance(option, Choice):
        yield from ((o.value, more) for o in option.options[1:])
        return
    goal = options.get("to")
    if isinstance(goal, Choice) and any(o.value == name for o in goal.options):
        more = {"to": name}
    last = {k: o.options[-1].value for k, o in options.items() if isinstance(o, Choice)}
    for share, rest in ((0.1, {}), (0.7, last)):
        yield round(option.lo + share * (option.hi - option.lo), 2), {**rest, **more}


ONLY_WITH: dict[str, dict[str, str]] = {
    "thick": {"to": "thick"},
    "own_peel": {"school": "own"},
    "own_acid": {"school": "own"},
    "own_citric": {"school": "own"},
}
"""Choices and figures that are asked for with another choice only."""


KITCHENS: dict[str, dict[str, Any]] = {
    "unknown altitude": {"altitude_m": None},
    "high up": {"altitude_m": 2250.0},
    "a low barometer": {"pressure_pa": 92_000.0},
    "gas": {"burner_kw": 3.2, "burner_kind": "gas"},
    "induction": {"burner_kw": 1.4, "burner_kind": "induction"},
    "hard water": {"alkalinity_mg_l": 380.0},
    "soft water": {"alkalinity_mg_l": 12.0},
    "steam canner": {"canner": Canner(4, "steam")},
    "small juicer": {"juicer": Juicer(2.5, 1.2, 0.9, "gas")},
    "mixed jars": {"jar_stock": {"m250": 2, "m500": 1, "quart": 1, "half_pint": 3}},
    "few jars": {"jar_stock": {"pint": 2}},
    "no jars": {"jar_stock": {}},
    "jars without lids": {"jar_stock": {"pint": 1}, "jars_there": {"pint": 9, "m750": 3}},
    "warm shelf": {"store_c": 24.0},
    "cups and pounds": {"units": "us"},
    "pints": {"units": "imperial"},
    "small vessels": {"vessels": (Vessel("pot", 2.0, 1, 18.0), Vessel("bowl", 1.5, 2, full=1),
                                  Vessel("jug", 1.0, 3))},
    "wide pot": {"vessels": (Vessel("pot", 16.0, 1, 40.0),)},
    "little room": {"fridge_free_l": 0.6, "freezer_free_l": 0.4, "shelf_free_l": 0.5},
    "nothing to can with": {"lacks": frozenset({"canner", "juicer"})},
    "small freeze dryer": {"freeze_dryer": FreezeDryer(
        2, 500.0, 12.0, 0.5, (freeze_dry.Cycle(1.8, 9.0, 0.2, True, 31.0),))},
    "small dryer": {"dryer": Dryer(2, 700.0)},
    "damp air": {"humidity_pct": 82.0},
    "slow hands": {"paces": {r: learn(r, [1.6, 1.7, 1.5, 1.6])
                             for r in PRIOR_SIGMA}},
}  # fmt: skip
"""Kitchens that are not as those of the other tests are."""
OF_KITCHENS = (
    "steamed_damson", "pressed_apple", "rosehip_steep", "sugar_syrup", "whole_raw",
    "slices_freeze_dried", "berries_air_dried", "quince_jelly",
)  # fmt: skip


def in_other_kitchens() -> Iterator[tuple[str, partial[Plan]]]:
    """Methods of every sort in kitchens of every sort."""
    for name, here in KITCHENS.items():
        for key in OF_KITCHENS:
            yield f"in {name}, {key}", partial(again, key, kitchen=replace(HERE, **here))


OF_ENDS = ("steamed_damson", "strong_syrup", "pureed", "berries_air_dried", "fruit_syrup")


def kept_otherwise() -> Iterator[tuple[str, partial[Plan]]]:
    """Every way to keep what is filled, in every jar, under every lid."""
    for key in OF_ENDS:
        for keep in keeping.KEEPS:
            yield f"kept {keep}, {key}", partial(with_ends, key, keep=keep)
    for jar in jars.kinds():
        for keep in ("shelf", "freeze", "chill"):
            way = "" if keep == "shelf" else f", to {keep}"
            yield (
                f"in {jar}{way}",
                partial(with_ends, "steamed_damson", keep=keep, jar_kinds=(jar,)),
            )
    for closure in ("cap", "reusable", "one_piece"):
        yield f"closed {closure}", partial(with_ends, "steamed_damson", closure=closure)
    for lid in colour.LIDS:
        yield f"lid {lid}", partial(with_ends, "steamed_damson", lid=lid)
    yield "in jugs", partial(
        again, "steamed_damson",
        replace(of("steamed_damson").brief, ends=(End("fill", "chill", ("jug-1500",)),)),
        replace(HERE, vessels=(Vessel("jug", 1.5, 4),)),
    )  # fmt: skip


AMOUNTS: dict[str, tuple[str, Amount]] = {
    "sugar to 30": ("sugar_white", Amount("target", target="brix", value=30.0)),
    "acid to 3.0": ("citric_acid", Amount("target", target="ph", value=3.0)),
    "acid to 14 g/l": ("citric_acid", Amount("target", target="acid_g_l", value=14.0)),
    "water to 4 l": ("water", Amount("target", target="volume_ml", value=4000.0)),
    "water to cover": ("water", Amount("target", target="cover")),
    "water to fill": ("water", Amount("target", target="fill")),
    "a fifth honey": ("honey", Amount("share", share=0.2, of=START)),
    "60 g a litre": ("sugar_raw", Amount("share", share=60.0, per="g/l")),
    "about a pound": ("honey", grams(Estimate(380.0, 450.0, 520.0, Evidence.TYPICAL))),
}
PLACES = ("", "start", "simmer", "strained", "off_heat", "jar", "glass")


def with_something_more() -> Iterator[tuple[str, partial[Plan]]]:
    """Every ingredient, amounts as cooks say them, and whenever it goes in."""
    for material in materials.ingredients():
        one = Input("more", material, grams(80.0))
        yield f"and {material}", partial(with_one_more, "steamed_damson", one)
    for words, (material, amount) in AMOUNTS.items():
        one = Input("more", material, amount)
        yield f"and {words}", partial(with_one_more, "simmered_redcurrant", one)
    for place in PLACES:
        for material in ("water", "herb_fresh"):
            one = Input("more", material, grams(120.0), where=place)  # type: ignore[arg-type]
            name = f"and {material} {place or 'whenever'}"
            yield name, partial(with_one_more, "simmered_redcurrant", one)
    for form in ("whole", "juice", "puree", "zest", "dried", "powder"):
        one = Input("more", "aronia" if form != "zest" else "grapefruit", grams(300.0), form)
        yield f"and {one.material} {form}", partial(with_one_more, "steamed_damson", one)


def known_otherwise() -> Iterator[tuple[str, partial[Plan]]]:
    """Fruit in every form, of every fruit's nature, and as it was read."""
    for form in forms():
        for key in ("steam_juiced", "pureed", "steeped_any"):
            yield f"{form} into {key}", partial(made, key, KG, form=form)
    readings: dict[str, dict[str, Any]] = {
        "sweet": {"brix": measured(19.0, 0.3)},
        "sour": {"ph": measured(2.9, 0.1)},
        "mild": {"ph": measured(4.4, 0.1)},
        "mild by a strip": {"ph": measured(4.4, 0.3), "ph_by_meter": False},
        "cold": {"temp_c": -18.0},
        "much": {"amount": grams(41_000.0)},
        "little": {"amount": grams(420.0)},
    }
    for name, known in readings.items():
        for key in ("steamed_damson", "pureed"):
            yield f"{name}, {key}", partial(with_first, key, **known)
    for key, sort in (("steamed_damson", "steam"), ("pressed_apple", "press")):
        seen = [Observation(0.5 + 0.02 * n, sort, "", f"B-{n}") for n in range(5)]
        shown = method(key).shown_by
        learned = {shown.key if shown else "damson": seen}
        yield f"weighed before, {key}", partial(again, key, observations=learned)


CASES = dict(
    case
    for cases in (
        steps_done_otherwise, steps_put_in, in_other_kitchens, kept_otherwise, with_something_more,
        known_otherwise,
    )
    for case in cases()
)  # fmt: skip


TOLD_TWICE = {"kind", "params", "fruit", "fruit_kg", "generous"}
"""What follows from what is said beside it."""


def facts(laid: Plan) -> dict[str, str]:
    """What a plan says, each figure and word by what it is of."""
    found = {"steps": " ".join(o.key for o in laid.operations), "lots": " ".join(laid.lots)}
    for operation in laid.operations:
        told = of_step(operation) | {k: said(v) for k, v in operation.params.items()}
        found |= {f"step {operation.key} {k}": v for k, v in told.items() if k not in TOLD_TWICE}
    for name, lot in laid.lots.items():
        found |= {f"lot {name} {k}": v for k, v in of_lot(lot).items() if k not in TOLD_TWICE}
    for end in laid.ends:
        found |= {
            f"end {end.end.key} {k}": v for k, v in of_end(end).items() if k not in TOLD_TWICE
        }
    return found


@cache
def usually(key: str) -> dict[str, str]:
    """What a method says as it is usually laid out."""
    return facts(of(key))


def otherwise(name: str) -> list[str]:
    """What a plan says that it does not say as it is usually laid out."""
    try:
        laid = CASES[name]()
    except CoreError as refused:
        return [str(refused)]
    usual = usually(laid.method.key)
    changed = [f"{k} {v}" for k, v in facts(laid).items() if usual.get(k) != v]
    return changed or ["as usual"]


BOOK = Book(__file__, "planned_otherwise.txt", CASES, ": ")


@pytest.mark.parametrize("name", CASES)
def test_done_otherwise_it_says_what_it_said(name: str) -> None:
    BOOK.holds(name, otherwise(name))
