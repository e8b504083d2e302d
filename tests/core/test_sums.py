"""Sums of the kitchen: they agree with paper, and keep what there is."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.core import acid, texture
from elderberry.core.citrus import CITRUS
from elderberry.core.composition import of_fruit_juice, of_material
from elderberry.core.errors import CannotTell, Past, Refusal, Unreachable
from elderberry.core.kitchen import Canner, Juicer, Kitchen
from elderberry.core.process import process_minutes
from elderberry.core.quantities import System
from elderberry.core.sums import canning, choices, measures, pots, sour, sweet
from elderberry.core.sums.told import Point, Sum, syrup

HERE = Kitchen(585, Juicer(8, 4, 1.8), Canner(7), 2.2)
SEA = Kitchen(0, Juicer(8, 4, 1.8), Canner(7), 2.2)


def of(found: Sum, key: str) -> float:
    value = next(s.value for s in (found.answer, *found.then) if s.key == key)
    assert value is not None
    return value.typ


@given(st.floats(200, 20_000), st.floats(0, 40), st.floats(41, 75))
def test_sugar_by_paper(volume_ml: float, brix: float, target: float) -> None:
    """(b − a)·m / (100 − b), the mass balance that is done on paper."""
    mass = float(syrup(volume_ml, brix).mass_g)
    found = sweet.sweeten(HERE, volume_ml, brix, target, "sugar_white")
    assert of(found, "add") == pytest.approx((target - brix) * mass / (100 - target), rel=1e-3)
    assert of(found, "volume") > volume_ml


@given(st.floats(200, 20_000), st.floats(20, 80), st.floats(2, 19))
def test_what_is_too_sweet_is_thinned_by_paper(
    volume_ml: float, brix: float, target: float
) -> None:
    mass = float(syrup(volume_ml, brix).mass_g)
    found = sweet.sweeten(HERE, volume_ml, brix, target, "honey")
    assert found.answer.label == "water to put in"
    assert of(found, "add") == pytest.approx(mass * (brix / target - 1), rel=1e-3)


@pytest.mark.parametrize(
    ("stop", "target"), [("brix", 40.0), ("share", 50.0), ("depth", 4.0), ("temp", 99.0)]
)
def test_a_pot_boils_down_to_where_it_is_asked(stop: pots.StopAt, target: float) -> None:
    found = pots.boil_down(HERE, 4000, 14, 28, stop, target)
    told = {"brix": "brix", "depth": "depth", "temp": "boils"}
    if stop == "share":
        assert of(found, "left") == pytest.approx(2000, rel=1e-3)
    else:
        assert of(found, told[stop]) == pytest.approx(target, rel=1e-3)
    sugar_before = 14 * float(syrup(4000, 14).mass_g)
    sugar_after = of(found, "brix") * float(syrup(of(found, "left"), of(found, "brix")).mass_g)
    assert sugar_after == pytest.approx(sugar_before, rel=2e-3)
    assert found.answer.value is not None
    assert found.answer.value.lo < found.answer.value.typ < found.answer.value.hi


def test_a_pot_that_is_past_it_says_so() -> None:
    with pytest.raises(Unreachable, match="past"):
        pots.boil_down(HERE, 4000, 50, 28, "brix", 40)


@pytest.mark.parametrize("brix", [20.0, 50.0, 65.0, 75.0])
def test_a_thermometer_tells_the_way_back(brix: float) -> None:
    boils = of(sweet.thermometer(SEA, brix, None), "boils")
    assert of(sweet.thermometer(SEA, 0, boils), "brix") == pytest.approx(brix, abs=1.5)
    assert of(sweet.thermometer(HERE, brix, None), "boils") < boils


@given(st.floats(30, 70), st.floats(1, 12), st.floats(14, 28))
def test_a_blend_uses_no_more_than_there_is(first: float, second: float, target: float) -> None:
    found = sweet.blend(1000, first, 3000, second, target)
    used = of(found, "first"), of(found, "second")
    assert used[0] <= 1000.001
    assert used[1] <= 3000.001
    assert max(used[0] / 1000, used[1] / 3000) == pytest.approx(1, abs=1e-3)
    sugar = first * float(syrup(used[0], first).mass_g)
    sugar += second * float(syrup(used[1], second).mass_g)
    mass = float(syrup(used[0], first).mass_g) + float(syrup(used[1], second).mass_g)
    assert sugar / mass == pytest.approx(target, rel=5e-3)


def test_a_drop_puts_a_guess_right() -> None:
    guess = sweet.cold_plate(62, 104, 20, "")
    assert guess.answer.words == texture.cold_plate(62, 104, 20).cold
    thick = sweet.cold_plate(62, 104, 20, texture.POURS[-1][1])
    assert of(thick, "brix") > 62
    assert thick.answer.value is not None
    assert thick.answer.value.hi - thick.answer.value.lo < 10


@pytest.mark.parametrize("with_what", ["water", "sparkling water", "tea", "apple juice"])
def test_a_glass_is_neither_too_sweet_nor_too_sharp(with_what: str) -> None:
    found = sour.thin(50, 25, 250, with_what, 18, 9)
    assert of(found, "base") + of(found, "other") == pytest.approx(250)
    assert of(found, "parts") == pytest.approx(of(found, "other") / of(found, "base"))


def test_acid_by_the_scale_brings_a_juice_to_its_ph() -> None:
    found = sour.sharpen(2500, "plum", "citric_acid", "ph", 3.3, ph=3.7)
    juice = of_fruit_juice("plum", 1000, ph=3.7)
    whole = juice * (2500 / float(juice.volume_ml)) + of_material("citric_acid", of(found, "add"))
    assert float(acid.ph(whole)) == pytest.approx(3.3, abs=5e-3)
    amount = found.answer.value
    assert amount is not None
    assert amount.lo < amount.typ < amount.hi


def test_a_meter_narrows_how_much_acid_it_takes() -> None:
    def width(ph: float | None) -> float:
        amount = sour.sharpen(2500, "plum", "citric_acid", "ph", 3.2, ph=ph).answer.value
        assert amount is not None
        return amount.hi - amount.lo

    assert width(3.5) < 0.6 * width(None)


def test_acidity_by_paper() -> None:
    """Citric acid by its own weight: 64.04 g an equivalent, so one gram is 1.0 g as citric."""
    before = of_fruit_juice("apple", 1000)
    before = before * (1000 / float(before.volume_ml))
    now = float(acid.titratable_acidity_g_l(before))
    found = sour.sharpen(1000, "apple", "citric_acid", "acidity", now + 3)
    assert of(found, "add") == pytest.approx(3.0, abs=0.1)
    assert of(found, "acidity") == pytest.approx(now + 3, abs=1e-2)


def test_what_is_sharp_enough_says_so() -> None:
    with pytest.raises(Past):
        sour.sharpen(1000, "lemon", "citric_acid", "ph", 4.0, ph=2.4)


@pytest.mark.parametrize("fruit", CITRUS)
@pytest.mark.parametrize(("by", "amount"), [("count", 6), ("peel", 55), ("volume", 1500)])
def test_citrus_in_all_its_schools(fruit: str, by: sour.By, amount: float) -> None:
    own = {"peel_per_litre": 60.0, "acid_per_litre": 40.0, "citric_share": 0.5}
    found = sour.stretched(fruit, by, amount, "by-litre", own)
    assert [c.title for c in found.beside] == [
        "by the peel", "by the litre", "like the juice", "your own",
    ]  # fmt: skip
    if by == "volume":
        assert of(found, "yield") == pytest.approx(1500)
    if by == "peel":
        assert of(found, "peel") == pytest.approx(55)
    last = {s.key: s.value.typ for s in found.beside[-1].said if s.value}
    assert last["citric"] == pytest.approx(last["malic"])
    assert last["citric"] + last["malic"] == pytest.approx(40 * last["water"] / 1000)


def test_a_mild_citrus_can_be_made_as_sharp_as_another() -> None:
    def acidity(like: str) -> float:
        made = sour.stretched("orange", "peel", 80, "by-match", like=like)
        return next(s.value.typ for s in made.beside[-1].said if s.key == "acidity" and s.value)

    lemon = float(acid.titratable_acidity_g_l(of_fruit_juice("lemon", 1000)))
    assert acidity("lemon") == pytest.approx(lemon, rel=1e-3)
    assert acidity("") < acidity("lemon") / 2


@pytest.mark.parametrize("store_c", [4.0, 15.0, 25.0])
@pytest.mark.parametrize("inverted", [0.0, 15.0, 30.0])
def test_up_to_its_edge_a_syrup_stays_clear(store_c: float, inverted: float) -> None:
    edge = of(sweet.crystals(68, inverted, store_c), "least")
    assert sweet.crystals(edge - 0.2, inverted, store_c).answer.words == "stays clear"
    assert sweet.crystals(edge + 0.2, inverted, store_c).answer.words != "stays clear"


def test_what_would_stop_crystals_does() -> None:
    found = sweet.crystals(72, 0, 15)
    assert found.answer.words == "will crystallise"
    thinner = 72 / (1 + of(found, "water") / 1000)
    assert sweet.crystals(thinner - 0.1, 0, 15).answer.words == "stays clear"
    assert sweet.crystals(72, of(found, "enough"), 15).answer.words == "stays clear"
    assert 5 < of(found, "minutes") < 120


def test_thick_and_large_jars_warm_later() -> None:
    def at_end(jar: str, brix: float, pulp: bool = False) -> float:
        return of(canning.in_jar(HERE, jar, brix, 80, 15, pulp), "end")

    assert at_end("half_pint", 12) > at_end("quart", 12) > at_end("quart", 12, pulp=True)
    seen = canning.in_jar(HERE, "pint", 12, 85, 15, pulp=False)
    assert seen.curve[0] == Point(0.0, 85.0)
    assert "The table time is the time" in seen.cautions[0]


@pytest.mark.parametrize(("units", "beside"), [("metric", "500 m"), ("us", "1000 ft")])
def test_other_altitudes_stand_beside_in_the_units_of_the_kitchen(
    units: System, beside: str
) -> None:
    here = replace(HERE, units=units)
    found = canning.process_time(here, "apple_juice", "apple", "pint", "bath")
    assert beside in [column.title for column in found.beside]


@pytest.mark.parametrize("metres", [0.0, 585.0, 1900.0])
def test_the_time_is_that_of_the_table(metres: float) -> None:
    here = replace(HERE, altitude_m=metres)
    found = canning.process_time(here, "fruit_puree", "quince", "pint", "bath", 3.4)
    pint = process_minutes("fruit_puree", 473, metres, "quince", "bath", 3.4)
    assert of(found, "minutes") == pint.minutes
    assert of(found, "fill") <= here.boiling_point_c


def test_what_has_no_tested_time_is_refused() -> None:
    with pytest.raises(Refusal):
        canning.process_time(HERE, "berry_or_fruit_juice", "elderberry", "pint", "bath")
    with pytest.raises(Refusal, match="altitude"):
        canning.process_time(replace(HERE, altitude_m=None), "apple_juice", "apple", "pint", "bath")


def test_a_pan_lasts_by_paper() -> None:
    """2.2 kW electric: 3600 · 2.2 · 0.75 / 2257 kg an hour, half a litre kept."""
    found = pots.steam_pan(HERE, 6, 4, 30, 1)
    assert of(found, "minutes") == pytest.approx(60 * 3.5 / (3600 * 2.2 * 0.75 / 2257), rel=1e-3)
    assert not found.cautions
    assert pots.steam_pan(HERE, 6, 2, 90, 1).cautions


@pytest.mark.parametrize(
    ("text", "grams"), [("250 g honey", 250), ("2 cups sugar", 425), ("3 tbsp citric acid", 42)]
)
def test_a_line_in_every_measure(text: str, grams: float) -> None:
    found = measures.measures(text)
    assert of(found, "mass") == pytest.approx(grams, rel=0.03)
    assert of(found, "tablespoon") == pytest.approx(of(found, "volume") / 15)


def test_a_line_without_an_amount_says_what_to_do() -> None:
    with pytest.raises(CannotTell, match="say it in cups"):
        measures.measures("sugar to 60 Brix")


@pytest.mark.parametrize(
    ("text", "apart"), [("250 g sugar", "nothing: it was weighed"), ("2 cups sugar", "either way")]
)
def test_how_far_a_measure_may_be_off_is_said(text: str, apart: str) -> None:
    said = {one.key: one.words for one in measures.measures(text).then}
    assert said["range"].endswith(apart)


def test_everything_that_can_be_picked_can_be_reckoned() -> None:
    there = choices.choices(HERE)
    for fruit in there["fruit"]:
        sour.sharpen(1000, fruit.value, "tartaric_acid", "acidity", 80)
    for material in there["material"]:
        sweet.sweeten(HERE, 1000, 10, 60, material.value)
    for jar in there["jar"]:
        canning.in_jar(HERE, jar.value, 30, 80, 15, pulp=False)
    for diluent in there["diluent"]:
        sour.thin(50, 25, 250, diluent.value, 18, 9)
    for drop in there["drop"]:
        sweet.cold_plate(62, 104, 20, drop.value)
    assert {"apple_juice", "jelly"} <= {p.value for p in there["product"]}
