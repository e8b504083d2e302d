"""Between which figures the core answers: on a limit it does, beyond it it says so in words."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from datetime import UTC, date, datetime

import numpy as np
import pytest

from elderberry.core import (
    acid,
    citrus,
    composition,
    freezing,
    hands,
    heat,
    jars,
    juicing,
    names,
    pace,
    quantities,
    scales,
    scaling,
    serving,
    solve,
    storage,
    sugar,
    sweeteners,
    texture,
    water,
    yields,
)
from elderberry.core.composition import of_fruit_juice, of_material
from elderberry.core.drying import air_dry, back, freeze_dry
from elderberry.core.errors import CannotTell, CoreError, OutOfRange, Unreachable
from elderberry.core.estimates import Estimate, normal_scores
from elderberry.core.figures import CannotRead
from elderberry.core.flow import inputs, lots
from elderberry.core.operations import extracting
from elderberry.core.process.rows import OwnProcess
from elderberry.core.reconcile import Measurement
from elderberry.core.shelf import climate, enough, tasting, worth
from tests.briefs import a_kitchen

JUICE = of_fruit_juice("damson", 1000.0, 14.0, 3.2, 2.0)
THIN = of_fruit_juice("apple", 1000.0, 11.0, 3.6, 0.5)
ROW = storage.life_row("canned_sealed", "juice")
JAR = heat.heating(473.0, 38.0, 120.0)
DAY = date(2026, 7, 1)
PINT = jars.kind("pint")
AGED = 36_500.0
SYRUP = JUICE + of_material("sugar_white", 900.0)
SUGAR = inputs.Input("sugar", "sugar_white", inputs.grams(100.0))
MILD, SWEET = of_material("water", 1000.0), of_material("water", 1000.0) + of_material("salt", 1.0)
TRAY = freeze_dry.Tray(THIN, 10.0)


def an_own(jar_ml: float = 500.0, max_ph: float = 4.0) -> OwnProcess:
    """A tested process that a household has entered."""
    return OwnProcess("syrup", jar_ml, {300.0: 10}, max_ph, "a bulletin", "2026-10-01")


Ask = Callable[[float], object]
LIMITS: dict[str, tuple[Ask, float, float]] = {
    "acidity of a juice": (lambda x: of_fruit_juice("lemon", 1.0, 40.0, 2.4, x), 0.0, 12.0),
    "age of what was tasted": (
        lambda x: tasting.learned(ROW, [tasting.Tasting(x, "good")]), 0.0, AGED,
    ),
    "alkalinity": (lambda x: composition.of_water(100.0, x), 0.0, 600.0),
    "altitude": (water.air_pressure_pa, -430.0, 9000.0),
    "altitude of a kitchen": (a_kitchen, -430.0, 9000.0),
    "barometer": (water.altitude_from_pressure_m, 30_000.0, 106_000.0),
    "basket": (lambda x: juicing.loads(4.0, 0.6, x), 0.5, 100.0),
    "boil-off": (lambda x: juicing.minutes_to_dry(4.0, x), 0.05, 50.0),
    "boiling point of a bath": (lambda x: heat.inside_jar(20.0, 60.0, x, JAR), 60.0, 105.0),
    "boiling point over a basket": (lambda x: juicing.condensate_kg(4.0, x), 60.0, 105.0),
    "Brix of a hydrometer": (sugar.density_kg_m3, 0.0, 85.0),
    "Brix of a juice": (lambda x: of_fruit_juice("plum", 0.0, x), 0.0, 40.0),
    "Brix of a refractometer": (lambda x: sugar.refractometer_at_20c(x, 20.0), 0.0, 85.0),
    "Brix to a pH": (acid.half_width, 0.0, 100.0),
    "caramel": (texture.caramel_stage, 100.0, 260.0),
    "cold plate": (lambda x: texture.brix_of_drop("coats a spoon", x), 0.0, 40.0),
    "condensate of fruit": (lambda x: juicing.condensate_kg(x, 98.0), 0.0, 100.0),
    "depth of water": (lambda x: juicing.water_from_depth_l(x, 28.0, 0.0), 0.5, 100.0),
    "drained for": (lambda x: juicing.drained_share(x, 1.5), 0.0, 200.0),
    "drawn in half": (lambda x: juicing.drained_share(4.0, x), 0.05, 24.0),
    "dry basis": (air_dry.dry_basis, 0.0, 0.9999),
    "evaporation": (
        lambda x: solve.boil_down(JUICE, brix=40.0, rate_kg_h=x), 0.01, 100.0,
    ),
    "factor of a life": (lambda x: storage.best_by(DAY, ROW, factor=x), 0.1, 2.0),
    "freezer": (lambda x: freezing.frozen_share(THIN, x), -40.0, 0.0),
    "frozen mass": (freezing.thaw_h, 10.0, 50_000.0),
    "fruit in a basket": (lambda x: juicing.loads(x, 0.6, 8.0), 0.0, 1000.0),
    "hands at work": (lambda x: hands.hands_min("all the time", x), 0.0, 20_000.0),
    "heat of a burner": (heat.useful_kw, 0.2, 20.0),
    "heated from": (lambda x: heat.minutes_to_heat(1.0, x, 150.0, 2.0), -5.0, 150.0),
    "heated mass": (lambda x: heat.minutes_to_heat(x, 20.0, 90.0, 2.0), 0.0, 500.0),
    "hot ratio": (sugar.hot_ratio, 0.0, 110.0),
    "humidity over a powder": (lambda x: freeze_dry.gain_pct(x, 60.0), 0.0, 100.0),
    "humidity over frames": (lambda x: air_dry.usual("slices", 6.0, 55.0, x), 0.0, 95.0),
    "ice": (water.ice_activity, -60.0, 0.0),
    "jars eaten": (lambda x: enough.lasts(10, x, 90.0, DAY, DAY), 0.0, 1e7),  # type: ignore[arg-type]
    "jelly, its Brix": (lambda x: texture.jelly_sets(x, 3.1), 0.0, 100.0),
    "jelly, its pH": (lambda x: texture.jelly_sets(65.0, x), 1.0, 8.0),
    "lid lifts": (
        lambda x: juicing.condensate_kg(4.0, 98.0, 15.0, 0.0, x),  # type: ignore[arg-type]
        0.0, 50.0,
    ),
    "life used": (lambda x: storage.opened(x, ROW, DAY), 0.0, 1e6),
    "liquor": (
        lambda x: juicing.water_from_brix_l(Estimate(55.0, 60.0, 65.0), 2.0, x), 0.2, 60.0,
    ),
    "litres that cost": (
        lambda x: worth.worth(x, 100.0, 4.0, 2.0, 1.0, worth.Prices()), 1e-3, 1e7,
    ),
    "logged temperature": (
        lambda x: climate.of_log([(datetime(2026, 7, 1, 6), x)]), -40.0, 45.0,
    ),
    "mass of a material": (lambda x: of_material("sugar_white", x), 0.0, 1e9),
    "measured while it boils": (lambda x: solve.measured_rate_kg_h(JUICE, 200.0, x), 1.0, 1440.0),
    "minutes of a process": (lambda x: heat.inside_jar(x, 60.0, 98.0, JAR), 1.0, 240.0),
    "pace of a step": (lambda x: pace.learn("heat", [x]), 1e-6, 1e6),
    "packing of fruit": (lambda x: juicing.loads(4.0, x, 8.0), 0.05, 1.2),
    "peel to stretch": (lambda x: citrus.stretch(x, "grapefruit"), 1.0, 1e5),
    "pH of a juice": (lambda x: of_fruit_juice("plum", 0.0, 12.0, x), 1.5, 7.5),
    "powder": (lambda x: back.back(x, 100.0), 1e-3, 1e6),
    "powder, its density": (lambda x: back.back(10.0, 100.0, bulk_g_ml=x), 0.1, 1.5),
    "share of spirit": (lambda x: storage.spirited(ROW, x), 0.0, 1.0),
    "share of the volume": (lambda x: solve.boil_down(THIN, volume_share=x), 0.3, 1.0),
    "solubility": (sugar.sucrose_solubility_pct, 0.0, 100.0),
    "specific gravity": (lambda x: sugar.sg_at_20c(x, 20.0), 0.98, 1.45),
    "split, its pH": (lambda x: sugar.inversion_rate_per_min(95.0, x, 0.5), 1.0, 8.0),
    "split, its temperature": (lambda x: sugar.inversion_rate_per_min(x, 3.0, 0.5), 20.0, 150.0),
    "split, its water": (lambda x: sugar.inversion_rate_per_min(95.0, 3.0, x), 0.01, 1.0),
    "stay": (lambda x: storage.life_used([storage.Stay(x, 15.0)], ROW), 0.0, AGED),
    "steam canner": (lambda x: heat.steam_canner_water_kg(x, 2.0), 0.0, 600.0),
    "sweetener": (lambda x: sweeteners.as_sweet_g("honey", x, "sugar_white"), 0.0, 1e6),
    "swelling of ice": (lambda x: jars.frozen_room_ml(PINT, x), 0.0, 12.0),
    "thickness of slices": (lambda x: air_dry.usual("slices", x, 55.0, 40.0), 0.2, 30.0),
    "viscosity in words": (texture.pours, 0.0, 1e30),
    "warm air": (lambda x: air_dry.usual("slices", 6.0, x, 40.0), 20.0, 80.0),
    "water activity": (water.keeping_class, 0.0, 1.0),
    "water of a pan": (lambda x: juicing.minutes_to_dry(x, 1.0), 0.0, 100.0),
    "width of a pot": (lambda x: juicing.water_from_depth_l(10.0, x, 0.0), 5.0, 100.0),
    "yield": (lambda x: solve.scale_to_mass(JUICE, x), 0.0, 1e9),
    "acid of a Brix that is read": (lambda x: sugar.refractometer_reads(20.0, x), 0.0, 12.0),
    "acid of a true Brix": (lambda x: sugar.true_brix(20.0, x), 0.0, 12.0),
    "acidity of a glass": (lambda x: serving.ratio(SYRUP, "water", 8.0, x), 0.5, 40.0),
    "amount that goes in": (lambda x: inputs.Input("fruit", "plum", inputs.grams(x)), 0.0, 1e7),
    "barometer over a pot": (
        lambda x: water.boiling_point_c(None, pressure_pa=x), 30_000.0, 110_000.0,
    ),
    "boil-off of a basket": (lambda x: juicing.condensate_kg(4.0, 98.0, 15.0, x), 0.0, 50.0),
    "Brix of a glass": (lambda x: serving.ratio(SYRUP, "water", x), 0.5, 40.0),
    "Brix that is read": (lambda x: sugar.refractometer_reads(x, 1.0), 0.0, 85.0),
    "Brix, true by its acid": (lambda x: sugar.true_brix(x, 1.0), 0.0, 85.0),
    "Brix, viscous": (lambda x: texture.viscosity_genotelle(x, 20.0), 0.0, texture.MOST_BRIX),
    "calibrated at": (lambda x: sugar.sg_at_20c(1.05, 20.0, x), 15.0, 25.0),
    "cooling of a jar": (lambda x: heat.inside_jar(20.0, 60.0, 98.0, JAR, x), 0.0, 240.0),
    "cycle of a freeze-dryer": (
        lambda x: freeze_dry.hours([TRAY], [freeze_dry.Cycle(1.0, 10.0, 0.1, True, x)]), 0.5, 200.0,
    ),
    "drink of a powder": (lambda x: back.for_drink(x, 100.0, 400.0), 10.0, 1e5),
    "filled at": (lambda x: heat.jar_temperatures([0.0, 10.0], [90.0, 90.0], x, JAR), -30.0, 130.0),
    "first weighing": (lambda x: freeze_dry.is_dry(x, x), 1e-3, 1e6),
    "fruit of a peel": (lambda x: citrus.peel_of("grapefruit", x), 0.0, 1e5),
    "fruit that is covered": (lambda x: juicing.water_to_cover_l(x, 0.6), 0.0, 500.0),
    "fruit under water": (lambda x: juicing.water_from_depth_l(90.0, 99.0, x), 0.0, 500.0),
    "fruit, its temperature": (lambda x: juicing.condensate_kg(4.0, 98.0, x), -25.0, 60.0),
    "heat of a canner": (lambda x: heat.steam_canner_water_kg(10.0, x), 0.2, 20.0),
    "held by what is pressed": (lambda x: juicing.recovered_share(100.0, x), 1e-6, 1e6),
    "hours a batch dries": (lambda x: air_dry.fit([(x, 0.5)], 0.85), 1e-3, 1000.0),
    "infusion, its acidity": (lambda x: composition.of_dried("rosehip", 1.0, None, x), 0.0, 40.0),
    "infusion, its pH": (lambda x: composition.of_dried("rosehip", 1.0, x), 1.8, 4.0),
    "jar of its own, how high": (lambda x: heat.heating(473.0, 38.0, x), 10.0, 500.0),
    "jar of its own, how large": (lambda x: heat.heating(x, 38.0, 120.0), 20.0, 5000.0),
    "jar of its own, how thick": (lambda x: heat.heating(473.0, 38.0, 120.0, x), 0.1, 1e6),
    "jar of its own, how wide": (lambda x: heat.heating(473.0, x, 120.0), 5.0, 200.0),
    "jars there": (lambda x: enough.lasts(x, 0, 90.0, DAY, DAY), 0.0, 1e7),  # type: ignore[arg-type]
    "life at a temperature": (lambda x: storage.rate(x, ROW), *ROW.limits_c),
    "mass of a juice": (lambda x: of_fruit_juice("plum", x), 0.0, 1e9),
    "mass that is sweetened": (lambda x: sugar.sugar_to_reach(x, 10.0, 50.0), 0.0, 1e9),
    "mass that is thinned": (lambda x: sugar.water_to_reach(x, 50.0, 10.0), 0.0, 1e9),
    "minutes in the open": (lambda x: freeze_dry.gain_pct(50.0, x), 0.0, 1e5),
    "moisture of a frame": (air_dry.water_activity, 0.0, 0.9999),
    "moisture, its mass": (lambda x: air_dry.mass_at(x, 0.8), 0.0, 0.8),
    "moisture, its share": (lambda x: air_dry.wet_at(x, 0.8), 0.2, 1.0),
    "own process, its jar": (lambda x: an_own(jar_ml=x), 50.0, 2000.0),
    "own process, its pH": (lambda x: an_own(max_ph=x), 2.0, 4.2),
    "packing under water": (lambda x: juicing.water_to_cover_l(4.0, x), 0.05, 1.2),
    "peel, how much of it": (
        lambda x: citrus.stretch(100.0, "grapefruit", "by-peel", citric_share=x), 0.0, 1.0,
    ),
    "pressed with water": (lambda x: juicing.recovered_share(x, 100.0), 0.0, 1e6),
    "pressure of steam": (water.saturation_pressure_pa, 0.0, 373.9),
    "record of a bath": (
        lambda x: heat.jar_temperatures([0.0, 10.0], [90.0, x], 60.0, JAR), -30.0, 130.0,
    ),
    "record of a jar": (lambda x: heat.lethality_min([0.0, 10.0], [60.0, x]), -30.0, 130.0),
    "record of a jar, its steps": (lambda x: heat.lethality_min([0.0, x], [60.0, 60.0]), 0.0, 1e6),
    "record of a syrup": (
        lambda x: sugar.inverted_share([0.0, 10.0], [60.0, x], 3.0, 0.5), -40.0, 150.0,
    ),
    "refractometer, its temperature": (lambda x: sugar.refractometer_at_20c(20.0, x), 10.0, 40.0),
    "specific gravity of a syrup": (
        sugar.brix_from_sg, 1.0, float(sugar.sg_from_brix(85.0)),
    ),
    "thickness on a tray": (lambda x: freeze_dry.law_h(1.0, x), 0.5, 100.0),
    "thinned to a Brix": (lambda x: sugar.water_to_reach(100.0, 100.0, x), 1e-6, 100.0),
    "viscous at": (lambda x: texture.viscosity_genotelle(20.0, x), 0.0, 120.0),
    "volume that is shared out": (lambda x: jars.evenly({"pint": 2}, x), 1.0, 1e6),
    "volume to scale to": (lambda x: solve.scale_to_volume(JUICE, x), 0.0, 1e9),
    "volumes of a hydrometer": (lambda x: sugar.sg_at_20c(1.05, x), 0.0, 60.0),
    "water of a powder": (lambda x: back.back(100.0, x), 0.0, 1e7),
    "water on a tray": (lambda x: freeze_dry.law_h(x, 10.0), 1e-4, 50.0),
    "yield that was seen": (yields.Observation, 0.01, 5.0),
    "acidity to reach": (
        lambda x: solve.acidify_to_acidity(MILD, x, "citric_acid"), 0.0, 400.0,
    ),
    "Brix to sweeten to": (lambda x: solve.sweeten(MILD, x, "sugar_white"), 0.0, 100.0),
    "Brix to boil down to": (lambda x: solve.boil_down(MILD, brix=x), 0.0, 95.0),
    "Brix to thin to": (lambda x: solve.thin(SYRUP, x), 1e-6, 100.0),
    "Brix that sugar raises": (lambda x: sugar.sugar_to_reach(100.0, x, 100.0), 0.0, 100.0),
    "Brix that water lowers": (lambda x: sugar.water_to_reach(100.0, x, 1e-6), 0.0, 100.0),
    "canner, how many jars": (
        lambda x: jars.pack(500.0, {"pint": 2}, 946.0, x),  # type: ignore[arg-type]
        1.0, 60.0,
    ),
    "cold, how deep": (lambda x: water.frozen_share(JUICE, x), -60.0, 0.0),
    "drink, how large": (lambda x: serving.serve(SYRUP, serving.Wish(x)), 20.0, 100_000.0),
    "drink, its ice": (
        lambda x: serving.serve(SYRUP, serving.Wish(90_000.0, ice_g=x)), 0.0, 50_000.0,
    ),
    "everything by a factor": (
        lambda x: scaling.scaled(inputs.Brief((SUGAR,)), x), 1e-4, 1e4,
    ),
    "heated to": (lambda x: heat.minutes_to_heat(1.0, -5.0, x, 2.0), -5.0, 150.0),
    "liquid in a pot": (
        lambda x: juicing.water_from_brix_l(Estimate(14.0, 16.0, 18.0), x, 8.0), 0.0, 500.0,
    ),
    "many times a juice": (lambda x: JUICE * x, 0.0, 1e12),
    "measured acidity": (lambda x: Measurement("pot", "in", "acid_pct", x), 0.0, 20.0),
    "measured Brix": (lambda x: Measurement("pot", "in", "brix", x), 0.0, 90.0),
    "measured mass": (lambda x: Measurement("pot", "out", "mass_g", x), 0.0, 1e7),
    "measured volume": (lambda x: Measurement("pot", "out", "volume_ml", x), 0.0, 1e7),
    "moisture by now": (
        lambda x: air_dry.moisture_ratio(x, 0.85), air_dry.EQUILIBRIUM, 0.85,
    ),
    "moisture ratio": (air_dry.Page(0.2, 1.0).hours_to, 1e-9, 1.0),
    "off the boil": (
        lambda x: heat.inside_jar(20.0, 60.0, 98.0, JAR, lost=[(1.0, x)]), 0.0, 1440.0,
    ),
    "own process, how high": (
        lambda x: OwnProcess("syrup", 500.0, {x: 10}, 4.0, "a bulletin", "2026-10-01"), 0.0, 3048.0,
    ),
    "own process, its minutes": (
        lambda x: OwnProcess("syrup", 500.0, {300.0: x}, 4.0, "a bulletin",  # type: ignore[dict-item]
                             "2026-10-01"), 5.0, 120.0,
    ),
    "packed into jars": (lambda x: jars.pack(x, {"pint": 2}, 946.0, 7), 0.0, 1e6),
    "said of a mass": (lambda x: quantities.Quantity(x, "mass"), 0.0, 1e12),
    "second weighing": (lambda x: freeze_dry.is_dry(100.0, x), 1e-3, 100.1),
    "thickness to reach": (
        lambda x: scales.brix_for("thick", x, inputs.lot_of(SUGAR, 100.0, 0.0)), 1.0, 30_000.0,
    ),
    "boiling point to boil to": (lambda x: solve.boil_down(SWEET, boiling_c=x), 40.0, 160.0),
}  # fmt: skip


@pytest.mark.parametrize("name", LIMITS)
def test_it_answers_on_its_limits(name: str) -> None:
    ask, *ends = LIMITS[name]
    for end in ends:
        with suppress(Unreachable, CannotTell):
            ask(end)


@pytest.mark.parametrize("name", LIMITS)
def test_beyond_them_it_says_so_with_both(name: str) -> None:
    ask, low, high = LIMITS[name]
    if name == "share of the volume":
        low = 0.0
    step = 0.004 * (high - low)
    for beyond in (low - step, high + step):
        with pytest.raises(OutOfRange) as refused:
            ask(beyond)
        assert f"{low:g}" in str(refused.value).replace(",", "")


def test_a_target_ph_is_one_that_food_can_have() -> None:
    grams = acid.acidify(JUICE, 1.6)
    assert acid.ph(JUICE + of_material("citric_acid", grams)) == pytest.approx(1.6, abs=0.01)
    for beyond in (1.49, 7.01):
        with pytest.raises(OutOfRange):
            acid.acidify(JUICE, beyond)


STREAMS = {
    "what was said": inputs._SAID,
    "a reading's Brix": inputs._BRIX,
    "acidity": inputs._ACID,
    "pH": inputs._PH,
    "yield": extracting._YIELD,
    "condensate": extracting._CONDENSATE,
    "the model of pH": lots._PH_MODEL,
}


def test_what_is_uncertain_by_itself_is_drawn_by_itself() -> None:
    """Two figures of one stream would always be high together, and their sum too wide."""
    assert len(set(STREAMS.values())) == len(STREAMS)
    drawn = np.array([normal_scores(n) for n in sorted(STREAMS.values())])
    apart = np.corrcoef(drawn) - np.eye(len(drawn))
    assert np.abs(apart).max() < 0.15


@pytest.mark.parametrize(
    ("limit", "below", "above"),
    [
        (0.60, "nothing grows", "keeps at room temperature while sealed"),
        (0.75, "keeps at room temperature while sealed", "tolerant moulds grow"),
        (0.80, "tolerant moulds grow", "yeasts and moulds grow, bacteria do not"),
        (0.86, "yeasts and moulds grow, bacteria do not", "needs cold or a process"),
        (0.95, "needs cold or a process", "spoils fast"),
    ],
)
def test_what_grows_begins_where_the_books_say(limit: float, below: str, above: str) -> None:
    assert water.keeping_class(limit - 0.001) == below
    assert water.keeping_class(limit + 0.001) == above


def test_a_life_that_is_over_ends_on_the_day_it_is_asked_for() -> None:
    over = [storage.Stay(10 * 365.0, 25.0)]
    assert storage.best_by(DAY, ROW, history=over).typ == DAY


def test_a_stay_that_ends_before_it_begins_is_no_stay() -> None:
    noon, morning = datetime(2026, 7, 1, 12, tzinfo=UTC), datetime(2026, 7, 1, 6, tzinfo=UTC)
    cellar = climate.Climate(12.0)
    assert climate.Spell(cellar, noon, morning).days == 0.0
    assert climate.Spell(cellar, morning, noon).days == 0.25
    assert climate.aged_days([climate.Spell(cellar, noon, morning)], ROW) == 0.0


def test_what_rounding_takes_below_nothing_is_nothing_and_no_more() -> None:
    none = composition.Composition(water=0.0)
    assert (none - composition.Composition(water=1e-6)).water == 0.0
    with pytest.raises(CoreError, match="more water would come out than went in"):
        _ = none - composition.Composition(water=1.1e-6)


def test_a_name_is_never_guessed_by_another_first_letter() -> None:
    guessed = names.nearest("gooseberrys")
    assert guessed is not None
    assert guessed.name == "gooseberry"
    assert names.nearest("looseberries") is None


def test_what_cannot_be_read_is_pointed_at() -> None:
    with pytest.raises(CannotRead) as refused:
        quantities.parse("3 furlongs")
    line, carets = refused.value.pointed().split("\n")
    marked = line[carets.index("^") : carets.rindex("^") + 1]
    assert marked == "furlongs"


def test_of_nothing_no_ph_can_be_told() -> None:
    with pytest.raises(CannotTell, match="nothing is there"):
        acid.ph(composition.Composition())
