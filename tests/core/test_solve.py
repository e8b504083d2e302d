"""Solving for a target: it is reached, conserves what it should, and says when it cannot be."""

from __future__ import annotations

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from elderberry.core import acid, solve, sugar, water
from elderberry.core.composition import Composition, of_fruit_juice, of_material
from elderberry.core.errors import CannotTell, OutOfRange, Unknown, Unreachable

JUICES = st.sampled_from(["damson", "apple", "plum", "quince", "gooseberry", "aronia"]).map(
    lambda key: of_fruit_juice(key, 1000.0)
)
SWEETS = st.sampled_from(["sugar_white", "sugar_raw", "honey", "maple_syrup", "glucose_syrup"])


def syrup(brix: float, mass: float = 1000.0) -> Composition:
    return Composition(water=mass * (1 - brix / 100), sucrose=mass * brix / 100)


@given(JUICES, st.floats(20, 64), SWEETS)
def test_sweetening_reaches_its_target_and_keeps_acid(
    juice: Composition, target: float, sweet: str
) -> None:
    solved = solve.sweeten(juice, target, sweet)
    assert solved.result.brix == pytest.approx(target)
    assert solved.result.malic == pytest.approx(juice.malic)
    assert solved.result.mass_g == pytest.approx(juice.mass_g + solved.amount_g)


def test_sweetening_agrees_with_the_plain_formula() -> None:
    assert solve.sweeten(syrup(12), 50).amount_g == pytest.approx(
        sugar.sugar_to_reach(1000, 12, 50)
    )


def test_one_to_one_is_fifty_brix_only_in_water() -> None:
    juice = of_fruit_juice("damson", 1000, brix=14)
    assert (juice + of_material("sugar_white", 1000)).brix == pytest.approx(57, abs=0.1)


@given(JUICES, st.floats(0.1, 800))
def test_adding_sugar_never_lowers_brix(juice: Composition, grams: float) -> None:
    assert (juice + of_material("sugar_white", grams)).brix > juice.brix


@given(JUICES, st.floats(0.3, 0.98))
def test_thinning_undoes_boiling_down(juice: Composition, share: float) -> None:
    down = solve.boil_down(juice, volume_share=share)
    back = solve.thin(down.result, float(juice.brix))
    assert back.amount_g == pytest.approx(down.water_g, abs=1e-3)
    assert down.result.sucrose == juice.sucrose


@given(st.floats(15, 80), st.floats(0, 2500))
def test_boiling_to_a_brix_and_to_its_boiling_point_are_the_same(
    brix: float, altitude: float
) -> None:
    pot = syrup(12)
    by_brix = solve.boil_down(pot, brix=brix, altitude_m=altitude)
    by_heat = solve.boil_down(pot, boiling_c=by_brix.boils_at_c, altitude_m=altitude)
    assert by_heat.water_g == pytest.approx(by_brix.water_g, abs=0.5)
    assert by_brix.boils_at_c > water.boiling_point_c(None, altitude)


@given(JUICES, st.floats(0.4, 0.95), st.floats(0.3, 6))
def test_a_pans_own_rate_tells_how_long_it_took(
    juice: Composition, share: float, rate: float
) -> None:
    down = solve.boil_down(juice, volume_share=share, rate_kg_h=rate)
    assert down.minutes is not None
    minutes = min(max(down.minutes, 1.0), 1440.0)
    found = solve.measured_rate_kg_h(juice, float(down.result.volume_ml), minutes)
    assert found == pytest.approx(rate * down.minutes / minutes, rel=1e-3)


def test_reducing_by_a_third_is_of_the_volume() -> None:
    pot = syrup(20)
    down = solve.boil_down(pot, volume_share=2 / 3, rate_kg_h=1.5)
    assert down.result.volume_ml == pytest.approx(pot.volume_ml * 2 / 3)
    assert down.result.mass_g > pot.mass_g * 2 / 3
    assert down.minutes == pytest.approx(60 * down.water_g / 1500)


@given(JUICES, st.sampled_from(["citric_acid", "lemon_bottled", "malic_acid"]))
def test_acid_to_an_acidity(juice: Composition, sour: str) -> None:
    goal = float(acid.titratable_acidity_g_l(juice)) + 3
    solved = solve.acidify_to_acidity(juice, goal, sour)
    assert acid.titratable_acidity_g_l(solved.result) == pytest.approx(goal, abs=1e-4)
    assert acid.ph(solved.result) < acid.ph(juice)


@given(st.floats(0.02, 0.98))
def test_a_blend_lands_between(share: float) -> None:
    sour, mild = of_fruit_juice("blackcurrant", 700), of_fruit_juice("pear", 1300)
    mix = sour * (share / 700) + mild * ((1 - share) / 1300)
    found = solve.blend(sour, mild, float(acid.ph(mix)), lambda c: float(acid.ph(c)))
    assert found.share == pytest.approx(share, abs=1e-4)


@given(JUICES, st.floats(30, 60), st.floats(2.85, 3.1))
def test_two_targets_at_once(juice: Composition, brix: float, ph: float) -> None:
    assume(acid.ph(juice) > ph + 0.1)
    both = solve.sweeten_and_acidify(juice, brix, ph)
    assert both.result.brix == pytest.approx(brix, abs=1e-3)
    assert acid.ph(both.result) == pytest.approx(ph, abs=1e-3)


def test_scaling_fills_the_jars() -> None:
    scaled = solve.scale_to_volume(syrup(50), 12 * 237)
    assert scaled.volume_ml == pytest.approx(12 * 237)
    assert scaled.brix == pytest.approx(50)


@pytest.mark.parametrize(
    ("call", "nearest"),
    [
        (lambda: solve.sweeten(syrup(50), 40), 50),
        (lambda: solve.sweeten(syrup(12), 85, "honey"), 82.7),
        (lambda: solve.sweeten(syrup(12), 100), 100),
        (lambda: solve.thin(syrup(10), 20), 10),
        (lambda: solve.boil_down(syrup(50), brix=40), 50),
        (lambda: solve.boil_down(syrup(10), boiling_c=90), 99.97),
        (lambda: solve.measured_rate_kg_h(syrup(10), 2000, 30), 1),
        (lambda: solve.acidify_to_acidity(syrup(10) + of_material("citric_acid", 20), 5), 20.4),
        (lambda: solve.blend(syrup(10), syrup(20), 30, lambda c: float(c.brix)), 20),
        (lambda: solve.acidify_to_ph(of_fruit_juice("plum", 100), 1.6, "vinegar_white"), 2.45),
    ],
)
def test_what_cannot_be_reached_names_the_nearest(call: object, nearest: float) -> None:
    with pytest.raises(Unreachable) as why:
        call()  # type: ignore[operator]
    assert why.value.nearest == pytest.approx(nearest, rel=0.01)
    assert str(why.value)


@pytest.mark.parametrize(
    ("call", "error"),
    [
        (lambda: solve.boil_down(syrup(10)), CannotTell),
        (lambda: solve.boil_down(syrup(10), brix=20, volume_share=0.5), CannotTell),
        (lambda: solve.boil_down(syrup(10), brix=120), OutOfRange),
        (lambda: solve.boil_down(syrup(10), brix=20, rate_kg_h=0), OutOfRange),
        (lambda: solve.sweeten(syrup(10), 20, "moonshine"), Unknown),
        (lambda: solve.scale_to_volume(Composition(), 100), CannotTell),
    ],
)
def test_nonsense_is_refused(call: object, error: type[Exception]) -> None:
    with pytest.raises(error):
        call()  # type: ignore[operator]
