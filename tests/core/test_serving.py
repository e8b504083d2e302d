"""A concentrate is thinned so that the glass is neither too sweet nor too sharp."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.core import acid, serving
from elderberry.core.composition import Composition, of_fruit_juice, of_material, of_water
from elderberry.core.errors import OutOfRange, Unknown, Unreachable
from elderberry.core.serving import ratio


def sweetened(fruit: str, sugar_g: float) -> Composition:
    return of_fruit_juice(fruit, 1000.0) + of_material("sugar_white", sugar_g)


def in_the_glass(base: Composition, diluent: Composition, parts: float) -> Composition:
    made: Composition = base * (1.0 / base.volume_ml) + diluent * (parts / diluent.volume_ml)
    return made


@pytest.mark.parametrize("fruit", ["blackcurrant", "sea_buckthorn", "aronia", "rhubarb"])
@pytest.mark.parametrize("sugar_g", [100.0, 600.0, 1200.0])
@pytest.mark.parametrize("with_what", ["water", "tea"])
def test_the_glass_is_what_was_asked_for(fruit: str, sugar_g: float, with_what: str) -> None:
    base = sweetened(fruit, sugar_g)
    tea = of_water(997.0, 150) + Composition(other_soluble=3.0)
    other = of_water(1000.0) if with_what == "water" else tea
    found = ratio(base, other)
    glass = in_the_glass(base, other, found.parts)
    sweet, sharp = glass.brix, acid.titratable_acidity_g_l(glass)
    assert sweet <= 10.5 + 1e-6
    assert sharp <= 5.5 * 1.02
    limited = sweet / 10.5 if found.limited_by == "sweet" else sharp / 5.5
    assert limited == pytest.approx(1.0, rel=0.02)
    assert found.parts == max(found.by_sweet, found.by_sharp)


def test_which_of_the_two_limits_is_said() -> None:
    assert ratio(sweetened("blackcurrant", 900), "water").limited_by == "sweet"
    assert ratio(of_fruit_juice("sea_buckthorn", 1000.0), "water").limited_by == "sharp"


def test_what_thins_brings_its_own_sugar_and_acid() -> None:
    base = sweetened("rhubarb", 700)
    water, sparkling = ratio(base, "water", brix=12), ratio(base, "water_sparkling", brix=12)
    with_juice = ratio(base, "rhubarb", brix=12)
    assert sparkling.parts == pytest.approx(water.parts)
    assert with_juice.by_sweet > water.by_sweet
    assert with_juice.limited_by == "sweet"


def test_what_is_weak_already_is_drunk_as_it_is() -> None:
    assert ratio(of_water(900) + of_material("sugar_white", 60), "water").parts == 0


def test_no_amount_of_something_as_sweet_gets_there() -> None:
    with pytest.raises(Unreachable, match="as sweet"):
        ratio(sweetened("blackcurrant", 600), "apple")
    with pytest.raises(OutOfRange):
        ratio(sweetened("blackcurrant", 600), "water", brix=0)
    with pytest.raises(Unknown):
        ratio(sweetened("blackcurrant", 600), "moonshine")


@given(st.floats(50, 3000), st.floats(0, 1500))
def test_a_glass_is_parted_as_the_ratio_says(glass_ml: float, sugar_g: float) -> None:
    found = ratio(sweetened("redcurrant", sugar_g), "water")
    base, water = found.glass(glass_ml)
    assert base + water == pytest.approx(glass_ml)
    assert water == pytest.approx(found.parts * base)


@pytest.mark.parametrize("name", serving.OUT_OF_THE_JAR)
def test_what_is_usually_thinned_with_is_a_drink_by_itself(name: str) -> None:
    drink = serving.diluent(name)
    assert float(drink.mass_g) == pytest.approx(1000, rel=0.02)
    assert float(drink.insoluble) == pytest.approx(0, abs=0.1) or name == "apple juice"


def test_tea_thins_nearly_as_water_does() -> None:
    base = of_material("sugar_white", 460) + of_material("citric_acid", 20)
    base = base + of_material("water", 520)
    by_water, by_tea = (serving.ratio(base, serving.diluent(n)).parts for n in ("water", "tea"))
    assert by_water < by_tea < 1.1 * by_water
    with pytest.raises(Unknown):
        serving.diluent("ink")
