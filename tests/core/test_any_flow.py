"""Whatever is chosen in a flow, it balances, says its words, and no jar outruns its tested time."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from elderberry.core import composition, jars, materials, process
from elderberry.core.errors import CoreError, DoesNotConnect, Refusal
from elderberry.core.estimates import measured
from elderberry.core.flow import edits, wiring
from elderberry.core.flow.inputs import Brief, Input, grams
from elderberry.core.flow.kinds import Number, kind
from elderberry.core.kitchen import Canner, Juicer, Kitchen, Vessel
from elderberry.core.method import Method, method, methods
from elderberry.core.plan import Plan, plan
from tests.briefs import a_kitchen, load, unsplit

JARS = {"half_pint": 8, "pint": 20, "quart": 6, "swing_500": 4, "m700": 3}


@st.composite
def kitchens(draw: st.DrawFn) -> Kitchen:
    """Any kitchen up to where nothing is tested any more."""
    stock = draw(st.dictionaries(st.sampled_from(sorted(jars.kinds())), st.integers(0, 40)))
    return Kitchen(
        draw(st.floats(-100, 3500)),
        Juicer(draw(st.floats(3, 14)), 4, 1.8),
        Canner(draw(st.integers(1, 16)), heater=draw(st.sampled_from(["bath", "steam"]))),
        draw(st.floats(0.8, 3.5)),
        jar_stock={"pint": 30, **stock},
        vessels=(Vessel("pot", 9.0), Vessel("bowl", 4.5, 2)),
        alkalinity_mg_l=draw(st.floats(0, 400)),
    )


@st.composite
def flows(draw: st.DrawFn) -> tuple[Method, Brief]:
    """Any method with any choices and figures, perhaps with another step put in, for any load."""
    chosen = method(draw(st.sampled_from(sorted(methods()))))
    steps = chosen.steps
    if draw(st.booleans()):
        lot = draw(st.sampled_from(sorted(wiring.lot_kinds(steps, chosen.begins_with))))
        if may := edits.may_follow(steps, lot, chosen.begins_with):
            steps = edits.insert(steps, lot, draw(st.sampled_from(may)), chosen.begins_with)
    for step in steps:
        for option in kind(step.kind).options.values():
            if draw(st.booleans()):
                value = (
                    draw(st.floats(option.lo, option.hi) | st.sampled_from([option.lo, option.hi]))
                    if isinstance(option, Number)
                    else draw(st.sampled_from([o.value for o in option.options]))
                )
                steps = edits.choose(steps, step.key, {option.key: value}, chosen.begins_with)
    fruits = chosen.fruits or tuple(k for k, f in materials.fruits().items() if chosen.suits(f))
    brief = load(
        draw(st.sampled_from(fruits)),
        draw(st.floats(1, 40)),
        brix=draw(st.none() | st.floats(4, 30).map(lambda b: measured(b, 0.3))),
        ph=draw(st.none() | st.floats(2.6, 4.4).map(lambda p: measured(p, 0.1))),
        keep=draw(st.sampled_from(["shelf", "shelf", "chill", "freeze"])),
        form=draw(st.sampled_from(chosen.forms)),
        ingredients_g=draw(
            st.just({})
            | st.dictionaries(
                st.sampled_from(sorted(materials.ingredients())), st.floats(0, 500), max_size=2
            )
        ),
    )
    return replace(chosen, steps=steps), brief


def laid(flow: tuple[Method, Brief], kitchen: Kitchen) -> Plan | None:
    """The plan, or None where it is refused in words."""
    try:
        return plan(*flow, kitchen)
    except CoreError:
        return None


def check_balance(made: Plan) -> None:
    """What came in or joined is what went out or was left, part by part."""
    gives = {k for o in made.operations for k in o.gives}
    takes = {k for o in made.operations for k in o.takes}
    ends = gives - takes | {k for k in gives if made.lots[k].kind == "jars"}
    for part in composition.NAMES:
        went_in, came_out = (
            sum(np.asarray(unsplit(made.lots[k].composition, part)) for k in keys)
            for keys in (takes - gives, ends)
        )
        assert np.allclose(went_in, came_out, rtol=1e-6, atol=1e-5), part


def check_figures(made: Plan) -> None:
    """Every figure that a screen could show is one, and its range rises."""
    for lot in made.lots.values():
        for figure in (lot.mass_g, lot.volume_ml, lot.brix, lot.ph):
            if figure is not None:
                assert math.isfinite(figure.lo)
                assert math.isfinite(figure.hi)
                assert figure.lo <= figure.typ <= figure.hi
        assert lot.mass_g.lo >= 0
    for operation in made.operations:
        assert all("{" not in words for words in operation.text.values())
        assert 0 <= operation.minutes.lo <= operation.minutes.typ <= operation.minutes.hi
    assert all("{" not in f.message + f.remedy for f in made.verdict.findings)


def check_jars(made: Plan, kitchen: Kitchen) -> None:
    """Nobody is sent to the shelf with a jar or a time that the tables do not give."""
    packed = made.main.generous.jars
    assert all(n <= kitchen.jar_stock[k] for k, n in packed.items())
    if made.main.keep != "shelf" or not made.verdict.may_start or not packed:
        return
    time = made.main.process_time
    assert time is not None
    sizes = [jars.kind(k).process_as_ml for k in packed]
    assert None not in sizes
    assert max(s for s in sizes if s) <= time.row.largest_jar_ml
    band = sum(time.altitude_ft > edge for edge in (1000, 3000, 6000))
    assert time.minutes >= (time.row.minutes[band] or math.inf)
    assert all(materials.fruit(i.material).ph_risk != "never" for i in made.brief.inputs if i.fruit)


@settings(max_examples=250)
@given(flow=flows(), kitchen=kitchens())
def test_any_flow_is_refused_in_words_or_holds(
    flow: tuple[Method, Brief], kitchen: Kitchen
) -> None:
    made = laid(flow, kitchen)
    if made is not None:
        check_balance(made)
        check_figures(made)
        check_jars(made, kitchen)


@settings(max_examples=60)
@given(flow=flows(), more=st.floats(1.05, 3))
def test_more_fruit_never_gives_less_juice(flow: tuple[Method, Brief], more: float) -> None:
    kitchen = Kitchen(585, Juicer(8, 4, 1.8), Canner(7), 2.2, jar_stock=JARS)
    chosen, brief = flow
    came_in = brief.inputs[0]
    assert came_in.amount.grams is not None
    heavier = replace(came_in, amount=grams(more * came_in.amount.grams.typ))
    one = laid((chosen, replace(brief, inputs=(came_in,))), kitchen)
    other = laid((chosen, replace(brief, inputs=(heavier,))), kitchen)
    if one and other:
        assert other.main.litres.typ >= one.main.litres.typ * 0.999


@pytest.mark.parametrize("product", sorted({r.product for r in process.process_rows()}))
@given(
    metres=st.floats(-100, 3040),
    higher=st.floats(0, 1500),
    jar=st.sampled_from([120.0, 237.0, 473.0, 710.0, 946.0, 1893.0]),
    fruit=st.sampled_from(sorted(materials.fruits())),
    ph=st.none() | st.floats(2, 5),
)
def test_higher_up_and_in_larger_jars_a_time_never_gets_shorter(
    product: str, metres: float, higher: float, jar: float, fruit: str, ph: float | None
) -> None:
    def minutes(size: float, altitude: float) -> float:
        try:
            return process.process_minutes(product, size, altitude, fruit, measured_ph=ph).minutes
        except Refusal:
            return math.inf

    here = minutes(jar, metres)
    assert here <= minutes(jar, min(3048, metres + higher))
    assert minutes(min(jar, 237.0), metres) <= here


def test_an_edit_that_is_offered_can_be_made() -> None:
    for chosen in methods().values():
        for lot in wiring.lot_kinds(chosen.steps, chosen.begins_with):
            for key in edits.may_follow(chosen.steps, lot, chosen.begins_with):
                edited = edits.insert(chosen.steps, lot, key, chosen.begins_with)
                added = next(s for s in edited if s.key not in {t.key for t in chosen.steps})
                try:
                    back = edits.remove(edited, added.key, chosen.begins_with)
                except DoesNotConnect:
                    continue
                assert [s.kind for s in back] == [s.kind for s in chosen.steps]


@pytest.mark.parametrize("form", ["zest", "peel"])
@pytest.mark.parametrize("key", sorted(k for k, m in methods().items() if "whole" in m.forms))
def test_peel_of_another_fruit_goes_into_any_flow(key: str, form: str) -> None:
    """A rule that asks of sweeteners and acids meets a fruit among what was added."""
    chosen = method(key)
    first = chosen.shown_by
    assert first is not None
    main = Input("fruit", first.key, grams(4000))
    inputs = (main, Input("peel", "grapefruit", grams(20), form), *chosen.inputs)
    made = plan(chosen, Brief(inputs, chosen.ends_for(())), a_kitchen())
    assert made.lots["peel"].mass_g.typ == pytest.approx(20, rel=1e-6)


@pytest.mark.parametrize(("fruit", "form"), [("lemon", "sliced"), ("hibiscus_dried", "dried")])
@pytest.mark.parametrize("key", ["steam_juiced", "simmered_hung", "mashed_pressed", "cold_weight"])
def test_what_a_way_gets_no_juice_out_of_is_warmed_with_it_and_strained(
    key: str, fruit: str, form: str
) -> None:
    """A slice of lemon in a steamer is no dead end: it scents, or cooks along where it can."""
    inputs = (Input("fruit", "damson", grams(4000)), Input("more", fruit, grams(30), form))
    made = plan(method(key), Brief(inputs), a_kitchen())
    (last,) = [o for o in made.operations if "more" in o.takes][-1:]
    assert made.main.litres.typ > 1
    if last.kind == "scent":
        out = made.lots[last.gives[1]].composition.first()
        solids = made.lots["more"].composition.first().insoluble
        assert float(out.insoluble) == pytest.approx(float(solids)), "all of it is strained out"
        assert float(made.lots[last.gives[0]].composition.first().insoluble) <= 1e-6 + float(
            made.lots[last.takes[0]].composition.first().insoluble
        )
        assert last.params["what"]


def test_water_alone_is_a_plan_like_any_other() -> None:
    made = plan(
        method("without_fruit"), Brief((Input("fruit", "water", grams(2000)),)), a_kitchen()
    )
    assert made.main.litres.typ == pytest.approx(2.0, rel=0.02)
    assert not made.main.verdict.may_start
