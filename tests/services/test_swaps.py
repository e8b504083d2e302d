"""A sweetener swapped: the line as one would say it, and what it changes."""

from __future__ import annotations

from dataclasses import replace

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.flow.inputs import End
from elderberry.core.flow.wiring import START
from elderberry.core.scales import Which, scale
from elderberry.services.household import furnishing
from elderberry.services.planning import marks, plans, swaps
from elderberry.services.planning.asked import GoesIn, PlanRequest
from tests.factories import asks, household, request


def with_line(line: str) -> PlanRequest:
    return replace(request("redcurrant"), inputs=(*request("redcurrant").inputs, GoesIn(line=line)))


def by_name(found: list[swaps.Swap]) -> dict[str, swaps.Swap]:
    return {s.name: s for s in found}


@pytest.mark.parametrize(
    "line",
    ["500 g sugar", "150 g sugar to the litre", "sugar to 30 Brix", "80 g sugar to the kilo"],
)
def test_every_swap_can_be_planned_with(orm: Orm, line: str) -> None:
    who = household(orm)
    found = swaps.swaps(orm, who, with_line(line), 1)
    assert {"honey", "maple syrup", "agave syrup"} <= set(by_name(found))
    for swap in found:
        plans.show(orm, who, with_line(swap.line))


def test_what_a_swap_changes_is_said(orm: Orm) -> None:
    who = household(orm)
    found = by_name(swaps.swaps(orm, who, with_line("600 g sugar"), 1))
    honey = found["honey"]
    assert honey.line == "860 g honey"
    assert any("infants" in words for words in honey.changes)
    assert any("more to fill" in words for words in honey.changes)
    cold = replace(with_line("600 g sugar"), ends=(End("fill", "chill", ("pint",)),))
    found = by_name(swaps.swaps(orm, who, cold, 1))
    stevia = next(s for name, s in found.items() if "stevia" in name)
    assert any("°Bx less" in words for words in stevia.changes)
    assert any(words.startswith("keeps ") for words in stevia.changes)


def test_in_pounds_it_is_said_in_pounds(orm: Orm) -> None:
    who = household(orm)
    furnishing.change_kitchen(orm, who, {"units": "us"})
    honey = by_name(swaps.swaps(orm, who, with_line("2 cups sugar"), 1))["honey"]
    assert "lb" in honey.line or "oz" in honey.line


def test_what_does_not_sweeten_has_no_swap(orm: Orm) -> None:
    who = household(orm)
    assert swaps.swaps(orm, who, with_line("20 g citric acid"), 1) == []
    assert swaps.swaps(orm, who, with_line("500 g sugar"), 0) == []
    assert swaps.swaps(orm, who, with_line("500 g sugar"), 7) == []


def test_a_line_that_goes_by_brix_is_swapped_for_sugars_only(orm: Orm) -> None:
    who = household(orm)
    found = swaps.swaps(orm, who, with_line("sugar to 30 Brix"), 1)
    assert {s.same for s in found} == {"to the same Brix"}
    assert not any("stevia" in s.name or "erythritol" in s.name for s in found)
    assert {s.same for s in swaps.swaps(orm, who, with_line("500 g sugar"), 1)} == {"as sweet"}


OWN_SUGAR = PlanRequest(
    (GoesIn(line="2.5 kg quinces"), GoesIn(line="900 g sugar")),
    (End("fill", "shelf", ("half_pint",)),),
    method_key="quince_jelly",
)
"""Sugar that takes the place of what the method puts in by itself."""


def test_what_takes_the_place_of_the_methods_sugar_is_swapped_with_it(orm: Orm) -> None:
    """It came besides, and three litres more were said to be filled."""
    who = household(orm)
    honey = by_name(swaps.swaps(orm, who, OWN_SUGAR, 1))["honey"]
    assert honey.key == "sugar"
    fruit, _ = OWN_SUGAR.inputs
    swapped = replace(OWN_SUGAR, inputs=(fruit, GoesIn(line=honey.line, key=honey.key)))
    sweet = [i for i in plans.make(orm, who, swapped).brief.inputs if i.material != "quince"]
    assert [i.material for i in sweet] == ["honey"]
    before, after = (plans.make(orm, who, r).main.litres.typ for r in (OWN_SUGAR, swapped))
    assert after == pytest.approx(before, rel=0.25)
    assert swaps.swaps(orm, who, with_line("600 g sugar"), 1)[0].key == ""


def test_a_mark_counts_on_no_sugar_of_the_methods_either(orm: Orm) -> None:
    who = household(orm)
    found = marks.mark(orm, who, OWN_SUGAR, "sweet", 66.0, "fill")
    assert (found.line, found.replaces, found.key) == ("", 1, "sugar"), "it boils to there"
    inputs = (GoesIn(line="3 kg redcurrants"), GoesIn(line="2 kg sugar"))
    syrup = replace(OWN_SUGAR, inputs=inputs, method_key="berry_syrup")
    found = marks.mark(orm, who, syrup, "sweet", 48.0, "fill")
    assert (found.line, found.replaces, found.key) == ("sugar to 48 Brix", 1, "sugar")
    served = replace(syrup, inputs=(inputs[0], GoesIn(line=found.line, key=found.key)))
    brix = plans.make(orm, who, served).main.filled.figures.brix
    assert brix is not None
    assert brix.typ == pytest.approx(48.0, abs=0.3)


@pytest.mark.parametrize(
    ("asked", "which", "value"),
    [
        (asks("1 l water", method_key="sugar_syrup"), "sweet", 62.0),
        (asks("2 l water", method_key="ginger_syrup"), "sweet", 57.0),
        (asks("4 kg quinces", method_key="quince_jelly"), "sharp", 18.0),
        (asks("2.5 kg quinces", "900 g sugar", method_key="quince_jelly"), "sharp", 26.0),
        (asks("700 g water", method_key="invert_syrup"), "sharp", 12.0),
        (asks("650 g sugar", method_key="caramel_syrup"), "sweet", 38.0),
        (asks("650 g sugar", method_key="caramel_syrup"), "sharp", 9.0),
        (asks("3 kg blackcurrants", method_key="berry_syrup"), "sweet", 44.0),
        (asks("3 kg damsons", method_key="damson_jelly"), "sweet", 58.0),
        (asks("3 kg redcurrants", method_key="fruit_syrup"), "sweet", 12.0),
    ],
)
def test_a_mark_is_met_in_the_jar_whatever_is_boiled_off_after_its_line(
    orm: Orm, asked: PlanRequest, which: Which, value: float
) -> None:
    """What went in to 60 Brix came out of a boiling at 62, and acid to 20 g/l at 30."""
    who = household(orm)
    found = marks.mark(orm, who, asked, which, value, "fill")
    assert found.refused == ""
    served = replace(asked, inputs=(*asked.inputs, GoesIn(line=found.line, key=found.key)))
    stands = scale(which, plans.make(orm, who, served).main.filled)
    assert stands is not None
    assert stands.value is not None
    assert stands.value.typ == pytest.approx(value, abs=0.1)


def test_a_mark_that_no_kitchen_can_serve_says_so(orm: Orm) -> None:
    orchard = asks("60 kg damsons")
    found = marks.mark(orm, household(orm), orchard, "sweet", 0.6, "fill")
    assert (found.line, found.nearest) == ("", None)
    assert found.refused == "No amount of water that a kitchen can handle brings it there."


@pytest.mark.parametrize(("ratio", "nearest"), [(0.001, 0.22), (5000.0, 160.0)])
def test_a_ratio_out_of_reach_of_any_sweetness_tells_the_nearest_ratio(
    orm: Orm, ratio: float, nearest: float
) -> None:
    asked = asks("3 kg redcurrants", "500 g sugar")
    found = marks.mark(orm, household(orm), asked, "ratio", ratio, "fill")
    assert found.refused == "No sweetness gets there."
    assert found.nearest == pytest.approx(nearest, rel=0.05)


@pytest.mark.parametrize("water", ["500 ml water", "water to 45 Brix"])
@pytest.mark.parametrize("first", [True, False])
def test_caramel_begins_with_its_sugar_whatever_is_said_of_water(
    orm: Orm, water: str, first: bool
) -> None:
    said = (water, "600 g sugar") if first else ("600 g sugar", water)
    made = plans.prepare(orm, household(orm), asks(*said, method_key="caramel_syrup"))
    begins = next(i for i in made.brief.inputs if i.key == START)
    assert (made.chosen.key, begins.material) == ("caramel_syrup", "sugar_white")
    brix = made.plan().main.filled.figures.brix
    assert brix is not None
    assert (brix.typ == pytest.approx(45.0, abs=0.1)) == ("Brix" in water)


@pytest.mark.parametrize("line", ["70 g sugar to 100 g", "120 g sugar to 100 g"])
def test_a_kilogram_of_another_to_the_kilo_is_a_line_that_can_be_read(orm: Orm, line: str) -> None:
    """It was written as 1e+03 g, and nothing was shown."""
    jelly = asks("3 kg quinces", line, method_key="quince_jelly")
    found = swaps.swaps(orm, household(orm), jelly, 1)
    assert found
    assert not any("e+" in s.line for s in found)
