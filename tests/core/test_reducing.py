"""Boiling down: to a part, a sweetness, a temperature or a depth; a thing joins where it says."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest

from elderberry.core import heat, method, water
from elderberry.core.errors import CannotTell
from elderberry.core.flow import wiring
from elderberry.core.flow.edits import choose
from elderberry.core.flow.inputs import Brief, Input, grams
from elderberry.core.flow.said import input_of_line
from elderberry.core.kitchen import Vessel
from elderberry.core.lines import read
from elderberry.core.plan import Plan, plan
from tests.briefs import a_kitchen

POT = Vessel("pot", 20.0, 1, 32.0)
KITCHEN = a_kitchen(585, vessels=(POT,))


def boiled_down(**params: object) -> Plan:
    chosen = method.method("apple_reduced")
    steps = choose(chosen.steps, "reduce", params)
    made = method.unnamed(steps)
    return plan(made, Brief((Input("fruit", "apple", grams(20_000)),)), KITCHEN)


def test_to_a_part_of_the_volume() -> None:
    found = boiled_down(to="share", share=40.0)
    there, left = found.lots["clear"], found.lots["reduced"]
    assert left.volume_ml.typ == pytest.approx(0.4 * there.volume_ml.typ, rel=0.01)
    step = next(o for o in found.operations if o.kind == "reduce")
    rate = heat.evaporation_kg_h(KITCHEN.burner_kw, KITCHEN.burner_kind)
    gone = found.lots["vapour"].mass_g.typ
    assert step.minutes.typ == pytest.approx(60 * gone / 1000 / rate)
    assert there.mass_g.typ == pytest.approx(left.mass_g.typ + gone)


def test_to_a_sweetness_that_is_met_whatever_the_fruit_was() -> None:
    left = boiled_down(to="brix", brix=45.0).lots["reduced"]
    assert left.brix is not None
    assert left.brix.lo == pytest.approx(45, abs=0.2)
    assert left.brix.hi == pytest.approx(45, abs=0.2)
    assert left.volume_ml.hi > 1.1 * left.volume_ml.lo


def test_to_a_temperature_that_is_right_at_this_altitude() -> None:
    found = boiled_down(to="boiling", boiling=100.0)
    left = found.lots["reduced"].composition.first()
    assert water.boiling_point_c(left, 585) == pytest.approx(100.0, abs=0.05)
    with pytest.raises(CannotTell, match=r"98\.\d °C here"):
        boiled_down(to="boiling", boiling=90.0)


def test_to_a_depth_in_this_pot() -> None:
    left = boiled_down(to="depth", depth=5.0).lots["reduced"]
    assert left.volume_ml.typ == pytest.approx(math.pi / 4 * 32**2 * 5.0, rel=0.01)
    with pytest.raises(CannotTell, match="cm deep already"):
        boiled_down(to="depth", depth=40.0)


def test_what_is_past_its_goal_is_refused() -> None:
    with pytest.raises(CannotTell, match="past that already"):
        boiled_down(to="brix", brix=6.0)


def lines(key: str, fruit: str, *texts: str) -> Plan:
    inputs = [input_of_line(read(text), f"in{n}") for n, text in enumerate(texts)]
    first = Input("fruit", fruit, grams(4000))
    return plan(method.method(key), Brief((first, *inputs)), KITCHEN)


@pytest.mark.parametrize(
    ("key", "fruit", "text", "kind"),
    [
        ("pureed", "gooseberry", "400 g raspberries", "soak"),
        ("pureed", "gooseberry", "300 g raspberries to the kilo", "stir_in"),
        ("simmered_hung", "quince", "1 stick cinnamon", "simmer"),
        ("simmered_hung", "quince", "water to cover", "simmer"),
        ("steam_juiced", "damson", "1 stick cinnamon", "scent"),
        ("steam_juiced", "damson", "1 tsp ground cinnamon", "stir_in"),
        ("steam_juiced", "damson", "300 g sugar", "stir_in"),
        ("steam_juiced", "damson", "1 clove in each jar", "fill"),
        ("pureed", "gooseberry", "200 g rhubarb purée", "simmer"),
    ],
)
def test_each_thing_joins_where_it_should(key: str, fruit: str, text: str, kind: str) -> None:
    found = lines(key, fruit, text)
    takes = {o.kind for o in found.operations if "in0" in o.takes}
    assert kind in takes
    assert found.lots["in0"].mass_g.typ > 0


def test_covering_water_is_reckoned_once_and_as_covering() -> None:
    plain = lines("simmered_hung", "quince")
    covered = lines("simmered_hung", "quince", "water to cover")
    waters = [x for x in covered.lots.values() if x.kind == "water"]
    assert [x.key for x in waters] == ["in0"]
    assert all(s.covering for s in waters[0].sources)
    assert waters[0].mass_g.hi > 1.2 * waters[0].mass_g.lo
    assert covered.main.litres.typ > plain.main.litres.typ


def test_all_that_went_in_is_in_one_lot_or_another() -> None:
    found = lines("simmered_hung", "quince", "1 stick cinnamon", "50 g ginger, sliced",
                  "500 g sugar", "2 l water, with the fruit")  # fmt: skip
    into = sum(x.mass_g.typ for x in found.lots.values() if x.key.startswith(("in", "fruit")))
    used = {t for o in found.operations for t in o.takes}
    left = sum(x.mass_g.typ for x in found.lots.values()
               if x.key not in used or x.kind == "jars")  # fmt: skip
    assert left == pytest.approx(into, rel=1e-6)


def test_a_flow_without_fruit_begins_with_its_water() -> None:
    chosen = method.method("without_fruit")
    water_in = Input("fruit", "water", grams(1000))
    sweet = input_of_line(read("300 g sugar"), "sugar")
    found = plan(chosen, Brief((water_in, sweet)), KITCHEN)
    assert "product-untested" in {s.id for s in found.verdict.stops}
    assert wiring.fills(chosen.steps)


@pytest.mark.parametrize("heated", [{}, {"heat": "gentle"}])
def test_by_the_clock_it_says_when_it_would_scorch(heated: dict[str, str]) -> None:
    syrup = method.method("sugar_syrup")
    brief = Brief((Input(wiring.START, "water", grams(900.0)), *syrup.inputs))

    def cooked(minutes: float) -> Plan:
        steps = choose(syrup.steps, "cook_syrup", {"to": "minutes", "minutes": minutes, **heated},
                       syrup.begins_with)  # fmt: skip
        return plan(replace(syrup, steps=steps), brief, KITCHEN)

    with pytest.raises(CannotTell, match=r"for 600 min.*scorches after \d+ min") as refused:
        cooked(600.0)
    after = int(str(refused.value).split("after ")[1].split(" ")[0])
    with pytest.raises(CannotTell, match=f"after {after} min"):
        cooked(after + 1.0)
    assert 86 < cooked(after - 1.0).main.filled.composition.first().brix < 93
