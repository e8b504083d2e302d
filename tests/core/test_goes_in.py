"""What a cook writes down goes in once: it takes the place of what a method or a step puts in."""

from __future__ import annotations

from dataclasses import replace

import pytest

from elderberry.core.flow import edits
from elderberry.core.flow.inputs import Brief, Input
from elderberry.core.flow.kinds import kind
from elderberry.core.flow.lots import WORKED_ON
from elderberry.core.flow.said import input_of_line, own_key
from elderberry.core.flow.wiring import START
from elderberry.core.lines import read
from elderberry.core.method import Method, method, methods
from elderberry.core.numbers import typical
from elderberry.core.plan import Plan, plan
from elderberry.core.process.standing import STRAINED_PULP_PCT
from tests.core.test_ways import HERE


def asked(*lines: str) -> tuple[Input, ...]:
    """Lines as somebody types them, the first of them what it begins with."""
    found: list[Input] = []
    for text in lines:
        line = read(text)
        key = own_key(line.material, {i.key for i in found}) if found else START
        found.append(input_of_line(line, key))
    return tuple(found)


def planned(chosen: Method, *lines: str, without: tuple[str, ...] = ()) -> Plan:
    """A method with what somebody types."""
    inputs = chosen.goes_in(asked(*lines), without)
    return plan(chosen, Brief(inputs, chosen.ends_for(())), HERE)


def went_in_g(laid: Plan, material: str) -> float:
    """How much of a material went in [g], steam left out."""
    sources = {s for lot in laid.lots.values() for s in lot.sources}
    mine = (s for s in sources if s.material == material and s.form != "steam")
    return sum(typical(s.composition.mass_g) for s in mine)


@pytest.mark.parametrize(
    ("key", "main", "line", "grams"),
    [
        ("fruit_syrup", "7 kg damsons", "900 g sugar", 900.0),
        ("gooseberry_puree", "2.6 kg gooseberries", "0.5 kg sugar", 500.0),
        ("rhubarb_simmered", "3.3 kg rhubarb", "250 g sugar", 250.0),
        ("calyx_steep", "45 g hibiscus", "110 g sugar", 110.0),
        ("redcurrants_in_the_jar", "2 kg redcurrants", "400 g sugar", 400.0),
        ("whole_hot", "2 kg gooseberries", "350 g sugar", 350.0),
        ("sugar_syrup", "700 g water", "1.4 kg sugar", 1400.0),
    ],
)
def test_sugar_that_is_weighed_is_all_the_sugar(
    key: str, main: str, line: str, grams: float
) -> None:
    laid = planned(method(key), main, line)
    assert went_in_g(laid, "sugar_white") == pytest.approx(grams)
    assert [i.amount.said for i in laid.brief.inputs if i.material == "sugar_white"] == [line]


def test_what_is_another_thing_or_is_said_of_a_time_goes_in_besides() -> None:
    syrup = method("fruit_syrup")
    sweetened = planned(syrup, "7 kg damsons", "300 g honey")
    assert went_in_g(sweetened, "honey") == pytest.approx(300.0)
    assert sweetened.main.filled.composition.first().brix == pytest.approx(60.0, abs=0.5)
    twice = planned(syrup, "7 kg damsons", "300 g sugar", "200 g sugar")
    assert went_in_g(twice, "sugar_white") == pytest.approx(500.0)
    in_jars = planned(syrup, "7 kg damsons", "300 g sugar, in the jar")
    assert went_in_g(in_jars, "sugar_white") > 2000.0


def test_spice_takes_the_place_of_what_is_called_the_same() -> None:
    spiced = method("damson_spiced")
    own = {i.called for i in spiced.inputs}
    assert own == {"cinnamon", "clove"}
    said = {i.called: i for i in spiced.goes_in(asked("4 kg damsons", "2 sticks cinnamon"))}
    assert said["cinnamon"].amount.said == "2 sticks cinnamon"
    assert said["clove"].amount.how == "share"
    other = spiced.goes_in(asked("4 kg damsons", "3 pieces star anise"))
    assert {i.called for i in other} >= {*own, "star anise"}


def test_what_a_step_takes_by_name_is_what_was_typed() -> None:
    jelly = method("damson_jelly")
    laid = planned(jelly, "4 kg damsons", "30 g regular pectin")
    assert went_in_g(laid, "pectin_regular") == pytest.approx(30.0)
    assert "pectin" in {i.key for i in laid.brief.inputs}


def test_what_is_left_out_stays_out() -> None:
    laid = planned(method("fruit_syrup"), "7 kg damsons", without=("sugar",))
    assert went_in_g(laid, "sugar_white") == 0.0


def wets(step_kind: str) -> bool:
    """Whether fruit is cooked or covered with water by such a step."""
    return kind(step_kind).cooks or kind(step_kind).covers


def is_wet(chosen: Method) -> bool:
    """Whether the first thing that a method does to get at its fruit is done with water."""
    steps = (s.kind for s in chosen.steps if wets(s.kind) or kind(s.kind).gets_juice)
    return wets(next(steps, "fill")) and chosen.begins_with[START] in WORKED_ON


@pytest.mark.parametrize(
    "chosen", [m for m in methods().values() if is_wet(m)], ids=lambda m: m.key
)
def test_water_that_is_measured_is_all_the_water_that_fruit_is_worked_in(chosen: Method) -> None:
    laid = planned(chosen, chosen.example(), "1.7 l water")
    cooking = next(o for o in laid.operations if wets(o.kind))
    assert "water" in cooking.takes
    assert typical(laid.lots["water"].figures.volume_ml.typ) == pytest.approx(1700, rel=0.01)
    assert not any(k.startswith("water_") for k in cooking.takes)


@pytest.mark.parametrize(
    "line", ["water to 6 l", "1.7 l water, after straining", "water to fill the jars"]
)
def test_water_that_is_said_of_a_time_or_an_amount_in_the_end_thins(line: str) -> None:
    chosen = method("rhubarb_simmered")
    laid = planned(chosen, "4 kg rhubarb", line)
    cooking = next(o for o in laid.operations if kind(o.kind).cooks)
    assert "water" not in cooking.takes
    assert "water" in laid.lots


def test_a_jar_that_is_filled_up_by_hand_says_what_a_litre_of_it_holds() -> None:
    laid = planned(
        method("redcurrants_in_the_jar"), "2 kg redcurrants", "350 g sugar", "2.2 l water"
    )
    measured = next(o for o in laid.operations if o.kind == "infuse")
    litres = laid.main.litres.typ
    assert float(measured.params["water_l"]) == pytest.approx(2.2, rel=0.01)
    assert float(measured.params["sugar_g"]) == pytest.approx(350 / litres, rel=0.05)
    own = planned(method("redcurrants_in_the_jar"), "2 kg redcurrants", "2.2 l water")
    sugar = next(o for o in own.operations if o.kind == "infuse").params["sugar_g"]
    assert float(sugar) == pytest.approx(120, rel=0.05)


def test_what_sweetens_counts_towards_a_strength() -> None:
    steps = edits.insert(method("steam_juiced").steps, "juice", "dissolve")
    sweet = replace(
        method("steam_juiced"), steps=edits.choose(steps, "dissolve", {"brix": 35.0}), inputs=()
    )
    laid = planned(sweet, "5 kg redcurrants", "400 g honey")
    step = next(o for o in laid.operations if o.kind == "dissolve")
    assert {"honey", "sugar_white_dissolve"} <= {*step.takes}
    assert laid.main.filled.composition.first().brix == pytest.approx(35.0, abs=0.3)
    enough = planned(sweet, "5 kg redcurrants", "3 kg honey")
    assert went_in_g(enough, "sugar_white") == 0.0
    assert "sugar_white_dissolve" not in enough.lots


@pytest.mark.parametrize("key", ["redcurrants_in_the_jar", "whole_hot"])
def test_sugar_that_is_said_by_what_comes_of_it_is_stirred_in_once_all_is_there(key: str) -> None:
    chosen = method(key)
    laid = planned(chosen, chosen.example(), "sugar to 34 Brix")
    assert laid.main.filled.composition.first().brix == pytest.approx(34.0, abs=0.3)
    stirred = next(o for o in laid.operations if "sugar_white" in o.takes)
    assert stirred.kind == "stir_in"


@pytest.mark.parametrize("water", ["0.3 l", "0.9 l", "2.4 l"])
def test_a_thin_infusion_of_something_dried_is_no_puree(water: str) -> None:
    laid = planned(method("calyx_steep"), "30 g hibiscus", f"{water} water", without=("sugar",))
    assert laid.main.product != "purée"
    assert laid.main.contents.pulp_pct < STRAINED_PULP_PCT
