"""Core formulas against published table values, with the tolerance each claims."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.core import acid, composition, sugar, texture, water
from elderberry.core.composition import Composition, of_fruit_juice, of_material, of_water
from elderberry.core.errors import CannotTell, CoreError, OutOfRange, Unknown, Unreachable


def syrup(brix: float) -> Composition:
    return Composition(water=100 - brix, sucrose=brix)


@pytest.mark.parametrize(
    ("computed", "published", "tolerance"),
    [
        (sugar.density_kg_m3(20), 1081.0, 0.1),
        (sugar.density_kg_m3(40), 1176.5, 0.1),
        (sugar.density_kg_m3(65), 1316.6, 0.1),
        (sugar.density_kg_m3(0, 80), 971.8, 1.0),
        (sugar.sucrose_solubility_pct(20), 66.6, 0.1),
        (sugar.sugar_to_reach(1000, 12, 50), 760, 0.5),
        (texture.viscosity_mpa_s(60, 20), 60, 2),
        (texture.viscosity_mpa_s(70, 20), 482, 5),
        (texture.viscosity_mpa_s(80, 104), 34, 1),
        (water.water_activity(syrup(60)), 0.895, 0.001),
        (water.water_activity(syrup(65)), 0.865, 0.001),
        (water.water_activity(syrup(70)), 0.824, 0.001),
        (water.water_activity(syrup(80)), 0.679, 0.001),
        (water.boiling_point_c(None, 1524), 94.90, 0.01),
        (water.boiling_point_c(None, 0), 99.97, 0.01),
        (water.boiling_point_c(None, 585), 98.0, 0.06),
        (water.boiling_point_c(syrup(60)), 103.1, 0.1),
        (water.boiling_point_c(syrup(70)), 105.5, 0.1),
        (water.boiling_point_c(syrup(80)), 111.2, 0.1),
        (water.saturation_pressure_pa(25), 3169.9, 0.5),
        (water.air_pressure_pa(3000), 70109, 5),
        (acid.ph(Composition(water=990, citric=19.212)), 2.08, 0.02),
        (acid.ph(Composition(water=1000, acetic=6.005)), 2.88, 0.02),
        (acid.ph(Composition(water=990, malic=13.409)), 2.21, 0.02),
    ],
)
def test_published_value(computed: float, published: float, tolerance: float) -> None:
    assert computed == pytest.approx(published, abs=tolerance)


def test_inversion_of_a_jam_boil() -> None:
    for ph, share in ((3.5, 0.26), (4.0, 0.09)):
        k = sugar.inversion_rate_per_min(104, ph, 0.282)
        assert 1 - math.exp(-45 * k) == pytest.approx(share, abs=0.01)


@given(st.floats(0, 84.9))
def test_gravity_and_brix_are_inverse(brix: float) -> None:
    assert sugar.brix_from_sg(sugar.sg_from_brix(brix)) == pytest.approx(brix, abs=1e-6)


@given(st.floats(1, 84), st.floats(0, 3000))
def test_a_boiling_pot_tells_its_brix(brix: float, altitude: float) -> None:
    boiling = water.boiling_point_c(syrup(brix), altitude)
    assert water.brix_from_boiling_point(boiling, altitude) == pytest.approx(brix, abs=1e-4)


@given(st.floats(6, 20), st.floats(2.7, 4.5), st.floats(0.3, 2.5))
def test_a_juice_keeps_what_was_measured(brix: float, ph: float, acid_pct: float) -> None:
    juice = of_fruit_juice("damson", 750, brix, ph, acid_pct)
    density = sugar.density_kg_m3(brix) / 1000
    assert juice.mass_g == pytest.approx(750)
    assert juice.brix == pytest.approx(brix)
    assert acid.ph(juice) == pytest.approx(ph, abs=1e-6)
    titrated = acid.titratable_acidity_g_l(juice, "malic")
    assert titrated == pytest.approx(10 * acid_pct * density, rel=1e-3)


@given(st.floats(0.1, 50), st.floats(0.1, 0.9))
def test_acid_never_raises_ph_and_splitting_is_undone_by_joining(grams: float, part: float) -> None:
    juice = of_fruit_juice("plum", 1000)
    assert acid.ph(juice + of_material("citric_acid", grams)) < acid.ph(juice)
    again = juice * part + juice * (1 - part)
    for name in composition.NAMES:
        assert getattr(again, name) == pytest.approx(getattr(juice, name), rel=1e-9, abs=1e-9)


@given(st.floats(0.0, 1.0))
def test_what_is_taken_away_and_what_stays_are_the_whole(part: float) -> None:
    whole = of_fruit_juice("plum", 1000) + of_material("salt", 5) + of_material("erythritol", 20)
    taken = whole * part
    again = taken + (whole - taken)
    for name in composition.NAMES:
        assert getattr(again, name) == pytest.approx(getattr(whole, name), rel=1e-9, abs=1e-9)
    emptied = taken - taken * (1 + 1e-12)
    assert emptied.salt == emptied.water == 0


def test_a_ph_is_as_exact_from_afar_as_from_near() -> None:
    brix, phs = np.linspace(8, 16, 200), np.linspace(1.8, 4.4, 200)
    juices = of_fruit_juice("damson", 1000.0, brix, phs, 1.2)
    assert np.allclose(acid.ph(juices), phs, atol=1e-7)


@given(st.floats(2.6, 3.3))
def test_acidify_reaches_its_target(target: float) -> None:
    juice = of_fruit_juice("plum", 1000)
    grams = acid.acidify(juice, target)
    assert acid.ph(juice + of_material("citric_acid", grams)) == pytest.approx(target, abs=1e-6)


def test_blending_is_not_an_average_of_ph() -> None:
    sour, mild = of_fruit_juice("blackcurrant", 500), of_fruit_juice("pear", 500)
    average = (acid.ph(sour) + acid.ph(mild)) / 2
    assert acid.ph(sour) < acid.ph(sour + mild) < average


def test_hard_water_works_against_acid() -> None:
    juice = of_fruit_juice("apple", 500)
    assert acid.ph(juice + of_water(500, 300)) > acid.ph(juice + of_water(500)) + 0.02


def test_properties_run_on_whole_arrays() -> None:
    brix = np.linspace(8, 16, 50)
    juices = of_fruit_juice("damson", 1000.0, brix, 3.0, 2.0)
    assert np.allclose(juices.brix, brix)
    assert np.allclose(acid.ph(juices), 3.0, atol=1e-6)
    one = of_fruit_juice("damson", 1000.0, float(brix[7]), 3.0, 2.0)
    assert water.boiling_point_c(juices)[7] == pytest.approx(water.boiling_point_c(one), abs=1e-6)


def test_vinegar_and_lemon_have_the_ph_of_the_bottle() -> None:
    for key, ph in (("vinegar_white", 2.45), ("lemon_bottled", 2.4), ("honey", 3.9)):
        assert acid.ph(of_material(key, 1000)) == pytest.approx(ph, abs=0.01)


@pytest.mark.parametrize(
    ("call", "error"),
    [
        (lambda: sugar.density_kg_m3(86), OutOfRange),
        (lambda: sugar.density_kg_m3(float("nan")), OutOfRange),
        (lambda: sugar.sugar_to_reach(1000, 50, 40), Unreachable),
        (lambda: sugar.sugar_to_reach(1000, 12, 85, 83), Unreachable),
        (lambda: sugar.water_to_reach(1000, 10, 12), Unreachable),
        (lambda: water.air_pressure_pa(20_000), OutOfRange),
        (lambda: water.brix_from_boiling_point(95, 0), OutOfRange),
        (lambda: water.water_activity(of_material("sugar_white", 5)), CannotTell),
        (lambda: acid.ph(Composition(water=1000)), CannotTell),
        (lambda: acid.titratable_acidity_g_l(syrup(10), "acetic"), Unknown),
        (lambda: of_fruit_juice("durian", 100), Unknown),
        (lambda: of_fruit_juice("damson", 100, ph=31), OutOfRange),
        (lambda: of_fruit_juice("hibiscus_dried", 100), CannotTell),
        (lambda: of_fruit_juice("damson", 100, brix=1, acid_pct=5), CannotTell),
        (lambda: Composition(water=-5), CoreError),
        (lambda: syrup(10) - syrup(20), CoreError),
        (lambda: of_material("unobtainium", 1), Unknown),
    ],
)
def test_what_cannot_be_is_refused(call: object, error: type[Exception]) -> None:
    with pytest.raises(error):
        call()  # type: ignore[operator]


def test_an_out_of_range_error_names_quantity_value_unit_and_limits() -> None:
    with pytest.raises(OutOfRange, match=r"Brix 90 °Bx is outside 0 to 85 °Bx"):
        sugar.density_kg_m3(90)


@pytest.mark.parametrize(
    ("solute", "molar_g", "particles"),
    [
        ("sucrose", 342.30, 1), ("glucose", 180.16, 1), ("fructose", 180.16, 1),
        ("other_soluble", 342.0, 1), ("erythritol", 122.12, 1), ("ethanol", 46.07, 1),
        ("salt", 58.44, 2), ("citric", 192.12, 1), ("malic", 134.09, 1), ("tartaric", 150.09, 1),
        ("acetic", 60.05, 1), ("ascorbic", 176.12, 1), ("gluconic", 196.16, 1),
        ("succinic", 118.09, 1),
    ],
)  # fmt: skip
def test_a_thin_solution_goes_by_its_particles(solute: str, molar_g: float, particles: int) -> None:
    """Raoult: a tenth of a mole to the kilogram of water, by the molar masses of the tables."""
    mixed = Composition(water=1000.0, **{solute: 0.1 * molar_g})
    moles = 1000.0 / 18.015
    expected = moles / (moles + 0.1 * particles)
    assert float(water.water_activity(mixed)) == pytest.approx(expected, abs=6e-5)
