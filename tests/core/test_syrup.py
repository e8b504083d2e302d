"""Syrups and citrus: inversion, the cold plate, crystals, ice, and stretched juice."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.core import acid, citrus, sugar, texture, water
from elderberry.core.composition import Composition, of_fruit_juice
from elderberry.core.errors import CannotTell, CoreError, OutOfRange, Unknown
from elderberry.core.estimates import Estimate


def syrup(brix: float) -> Composition:
    return Composition(water=100 - brix, sucrose=brix)


def test_inversion_over_a_record_adds_up_its_parts() -> None:
    whole = sugar.inverted_share([0, 30, 60], [100, 104, 80], 3.4, 0.3)
    parts = [
        sugar.inverted_share([0, 30], [100, 104], 3.4, 0.3),
        sugar.inverted_share([30, 60], [104, 80], 3.4, 0.3),
    ]
    assert 1 - whole == pytest.approx((1 - parts[0]) * (1 - parts[1]))
    assert sugar.inverted_share([0, 600], [5, 5], 3.0, 0.3) == 0


def test_acid_reads_low_on_a_refractometer() -> None:
    assert sugar.true_brix(10, 5) == pytest.approx(11)
    assert sugar.sugar_alone_pct(10, 5) == pytest.approx(6)


@pytest.mark.parametrize(
    ("brix", "cold"),
    [
        (10, "pours like water"),
        (50, "pours like cream"),
        (65, "coats a spoon"),
        (72, "pours like runny honey"),
        (79, "stands like set honey"),
        (84, "sets to toffee"),
    ],
)
def test_the_cold_plate_says_how_it_pours(brix: float, cold: str) -> None:
    plate = texture.cold_plate(brix, 104)
    assert plate.cold == cold
    assert plate.hot_mpa_s < plate.cold_mpa_s


@given(st.sampled_from([words for _, words in texture.POURS]), st.floats(5, 35))
def test_a_drop_tells_the_brix_that_behaves_like_it(words: str, temp_c: float) -> None:
    told = texture.brix_of_drop(words, temp_c)
    middle = texture.cold_plate(told.typ, 100, temp_c)
    assert middle.cold == words


@given(st.floats(40, 75), st.floats(1, 8))
def test_a_drop_never_widens_an_estimate(typ: float, half: float) -> None:
    before = Estimate(typ - half, typ, typ + half)
    after = texture.corrected_by_drop(before, texture.cold_plate(typ, 100).cold)
    assert after.hi - after.lo < before.hi - before.lo


def test_caramel_by_temperature() -> None:
    stages = [texture.caramel_stage(t) for t in (120, 135, 150, 160, 170, 180, 190, 196)]
    assert stages == [
        "syrup", "soft crack", "hard crack", "pale caramel", "amber", "dark", "bitter", "burnt",
    ]  # fmt: skip


def test_invert_sugar_holds_crystals_off_and_glucose_brings_its_own() -> None:
    plain = Composition(water=32, sucrose=68)
    part_inverted = Composition(water=32, sucrose=45, glucose=11.5, fructose=11.5)
    assert texture.crystals(plain, 20) == "will crystallise"
    assert texture.crystals(part_inverted, 20) == "stays clear"
    honey_like = [Composition(water=17, glucose=g, fructose=40) for g in (25, 32, 38)]
    assert [texture.crystals(h, 20) for h in honey_like] == [
        "stays clear", "granulates slowly", "granulates surely",
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("brix", "ph", "sets"),
    [(66, 3.1, True), (64.9, 3.1, False), (66, 3.5, False), (66, 2.7, False)],
)
def test_jelly(brix: float, ph: float, sets: bool) -> None:
    assert texture.jelly_sets(brix, ph) is sets


@pytest.mark.parametrize(
    ("solution", "published"),
    [(syrup(10), -0.63), (syrup(20), -1.46), (syrup(30), -2.64), (syrup(40), -4.45)],
)
def test_published_freezing_points(solution: Composition, published: float) -> None:
    assert water.freezing_point_c(solution) == pytest.approx(published, abs=0.2)


@given(st.floats(5, 50), st.floats(-40, -1))
def test_what_stays_unfrozen_freezes_right_there(brix: float, temp_c: float) -> None:
    juice = syrup(brix)
    share = water.frozen_share(juice, temp_c)
    if share == 0:
        assert water.freezing_point_c(juice) <= temp_c + 1e-6
        return
    left = juice - Composition(water=share * juice.water)
    assert water.freezing_point_c(left) == pytest.approx(temp_c, abs=0.01)


def test_water_swells_by_its_ice() -> None:
    assert water.ice_headspace_share(Composition(water=100)) == pytest.approx(0.09, abs=0.002)
    assert water.ice_headspace_share(syrup(60)) < 0.02


@pytest.mark.parametrize(
    ("activity", "words"),
    [(0.98, "spoils fast"), (0.95, "spoils fast"), (0.9, "needs cold or a process"),
     (0.83, "yeasts and moulds grow, bacteria do not"), (0.78, "tolerant moulds grow"),
     (0.7, "keeps at room temperature while sealed"), (0.5, "nothing grows")],
)  # fmt: skip
def test_keeping_classes(activity: float, words: str) -> None:
    assert water.keeping_class(activity) == words


def test_taste_words() -> None:
    words = [acid.taste_word(r) for r in (7.9, 8, 13.9, 14, 22, 40)]
    assert words == ["sharp", "lively", "lively", "round", "flat", "flat"]
    with pytest.raises(CannotTell):
        acid.sugar_to_acid(syrup(10))


@pytest.mark.parametrize("fruit", citrus.CITRUS)
def test_a_matched_drink_is_as_sharp_as_the_fresh_juice(fruit: str) -> None:
    made, fresh = citrus.stretch(120, fruit), of_fruit_juice(fruit, 1000.0)
    assert made.acid_g_l == pytest.approx(acid.titratable_acidity_g_l(fresh), rel=1e-6)
    share = made.citric_g / (made.citric_g + made.malic_g)
    assert share == pytest.approx(fresh.citric / (fresh.citric + fresh.malic), rel=1e-6)
    assert 0 < made.sugar_g < fresh.sugars_g * made.water_g / 1000
    assert made.strength == "rounded"


def test_the_three_ways_fix_different_things() -> None:
    by_peel = citrus.stretch(100, "lime", "by-peel")
    double = citrus.stretch(200, "lime", "by-peel")
    for name in ("citric_g", "malic_g", "water_g", "yield_ml"):
        assert getattr(double, name) == pytest.approx(2 * getattr(by_peel, name))
    litre = citrus.stretch(100, "lime", "by-litre", peel_per_litre=80)
    assert litre.water_g == pytest.approx(1250)
    assert litre.citric_g + litre.malic_g == pytest.approx(48 * 1.25)
    assert litre.acid_g_l < by_peel.acid_g_l


def test_free_parameters_override_a_school() -> None:
    made = citrus.stretch(100, "lemon", "by-peel", water_g=800, citric_share=1.0, juice_g=150)
    assert (made.water_g, made.malic_g, made.juice_g) == (800, 0, 150)
    plain = citrus.stretch(100, "lemon", "by-peel", water_g=800, citric_share=1.0)
    assert made.yield_ml > plain.yield_ml + 120
    assert made.days.typ < plain.days.typ
    assert made.acid_pct_of_whole < made.acid_pct_of_water


def test_too_much_peel_turns_soapy() -> None:
    words = [
        citrus.stretch(p, "lime", "by-peel", water_g=1000).strength for p in (40, 80, 110, 130)
    ]
    assert words == ["thin", "rounded", "strong", "soapy"]
    assert citrus.stretch(130, "lime", "by-peel", water_g=1000).soapy


@given(st.floats(100, 20_000), st.sampled_from(citrus.SCHOOLS), st.sampled_from(citrus.CITRUS))
def test_a_wanted_volume_is_what_comes_out(volume: float, school: str, fruit: str) -> None:
    made = citrus.stretch_to_volume(volume, fruit, school)
    assert made.yield_ml == pytest.approx(volume, rel=1e-6)
    assert made.replaces_fruit > 0


@pytest.mark.parametrize(
    ("call", "error"),
    [
        (lambda: citrus.stretch(100, "damson"), Unknown),
        (lambda: citrus.stretch(100, "lime", "by-magic"), Unknown),
        (lambda: citrus.stretch(100, "lime", moonbeams=3), Unknown),
        (lambda: citrus.stretch(-1, "lime"), OutOfRange),
        (lambda: citrus.stretch(100, "lime", citric_share=2.0), OutOfRange),
        (lambda: citrus.stretch_to_volume(500, "lime", water_g=3), CannotTell),
        (lambda: citrus.peel_of("damson", 3), CannotTell),
        (lambda: texture.brix_of_drop("wobbles"), Unknown),
        (lambda: sugar.inverted_share([0, -5], [90, 90], 3, 0.3), OutOfRange),
        (lambda: texture.caramel_stage(20), OutOfRange),
    ],
)
def test_nonsense_is_refused(call: object, error: type[CoreError]) -> None:
    with pytest.raises(error):
        call()  # type: ignore[operator]


def test_properties_of_ten_thousand_at_once() -> None:
    brix = np.linspace(8, 16, 10_000)
    juices = of_fruit_juice("damson", 1000.0, brix, 3.0, 2.0)
    assert np.allclose(acid.ph(juices), 3.0, atol=1e-6)
    assert water.water_activity(juices).shape == brix.shape


@pytest.mark.parametrize(
    ("from_c", "before", "stage"),
    [
        (132.0, "syrup", "soft crack"), (143.0, "soft crack", "between the cracks"),
        (146.0, "between the cracks", "hard crack"), (154.0, "hard crack", "just before colour"),
        (155.0, "just before colour", "pale caramel"), (167.0, "pale caramel", "amber"),
        (176.0, "amber", "dark"), (188.0, "dark", "bitter"), (195.1, "bitter", "burnt"),
    ],
)  # fmt: skip
def test_a_stage_of_caramel_begins_at_its_degree(from_c: float, before: str, stage: str) -> None:
    assert texture.caramel_stage(from_c) == stage
    assert texture.caramel_stage(from_c - 0.1) == before


@pytest.mark.parametrize(
    ("from_mpa_s", "before", "then"),
    [
        (5.0, "pours like water", "pours like cream"), (50.0, "pours like cream", "coats a spoon"),
        (300.0, "coats a spoon", "pours like runny honey"),
        (3_000.0, "pours like runny honey", "stands like set honey"),
        (30_000.0, "stands like set honey", "sets to toffee"),
    ],
)  # fmt: skip
def test_how_it_pours_changes_at_these_thicknesses(
    from_mpa_s: float, before: str, then: str
) -> None:
    assert texture.pours(from_mpa_s) == then
    assert texture.pours(0.999 * from_mpa_s) == before
