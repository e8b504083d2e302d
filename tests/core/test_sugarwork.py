"""Syrups, caramel and what keeps them: mass kept, figures that agree with the books."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.core import acid, citrus, jelly, keeping, storage, sugar, texture, water, yields
from elderberry.core.batch.midway import midway
from elderberry.core.batch.plate import plate
from elderberry.core.composition import Composition, of_material
from elderberry.core.flow import edits
from elderberry.core.flow.inputs import Brief, End, Input, grams
from elderberry.core.flow.wiring import START
from elderberry.core.kitchen import Kitchen
from elderberry.core.method import method
from elderberry.core.numbers import typical
from elderberry.core.operations.reducing import PAN_SPREAD, boiled_down
from elderberry.core.plan import Plan, plan
from tests.briefs import a_kitchen, filled

HERE = a_kitchen(585.0, jar_stock={"pint": 30, "half_pint": 30})
SYRUPS = ["sugar_syrup", "strong_syrup", "invert_syrup", "spiced_syrup", "cocoa_syrup",
          "ginger_syrup", "vinegar_herb_syrup", "caramel_syrup"]  # fmt: skip


def made(
    key: str, g: float = 500.0, keep: str = "", here: Kitchen = HERE, **chosen: object
) -> Plan:
    """A syrup laid out, with choices of its cooking."""
    which = method(key)
    main = "sugar_white" if which.begins else "water"
    steps = which.steps
    for name, value in chosen.items():
        at, _, what = name.partition("__")
        steps = edits.choose(steps, at, {what: value}, which.begins_with)
    ends = (End("fill", keep),) if keep else which.ends_for(())
    inputs = (Input(START, main, grams(g)), *which.inputs)
    return plan(replace(which, steps=steps), Brief(inputs, ends), here)


def stops(laid: Plan) -> set[str]:
    return {f.id for f in laid.verdict.stops}


@pytest.mark.parametrize("key", SYRUPS)
@given(g=st.floats(220, 4000))
def test_what_goes_into_a_syrup_comes_out_of_it(key: str, g: float) -> None:
    laid = made(key, g)
    given_ = {k for o in laid.operations for k in o.gives}
    taken = {k for o in laid.operations for k in o.takes}
    jars = {k for k, lot in laid.lots.items() if lot.kind == "jars"}
    went_in = sum(typical(laid.lots[k].composition.mass_g) for k in taken - given_)
    came_out = sum(typical(laid.lots[k].composition.mass_g) for k in (given_ - taken) | jars)
    assert came_out == pytest.approx(went_in, rel=1e-6)


@pytest.mark.parametrize("value", ["30", "150", "1000", "8000"])
def test_a_syrup_cooked_to_a_thickness_is_that_thick_cold(value: str) -> None:
    laid = made("sugar_syrup", cook_syrup__to="thick", cook_syrup__thick=value)
    brix = typical(laid.main.filled.composition.brix)
    assert texture.viscosity_mpa_s(brix, 20) == pytest.approx(float(value), rel=0.02)


def test_so_many_minutes_drive_off_what_the_ring_can() -> None:
    """2.0 kW electric: 3600 · 2 · 0.75 / 2257 = 2.39 kg an hour."""
    laid = made("sugar_syrup", 2000.0)
    lost = typical(laid.lots["vapour"].composition.mass_g)
    assert lost == pytest.approx(1000 * 3600 * 2 * 0.75 / 2257 * 2 / 60, rel=1e-3)


def test_a_gentle_simmer_splits_more_of_the_sugar() -> None:
    quick = made("strong_syrup", cook_syrup__heat="boil").main.filled.composition.first()
    slow = made("strong_syrup", cook_syrup__heat="gentle").main.filled.composition.first()
    assert float(quick.brix) == pytest.approx(float(slow.brix), abs=0.05)
    assert float(slow.glucose) > 2 * float(quick.glucose)
    assert texture.crystals(slow, 15) == "stays clear"
    assert texture.crystals(quick, 15) != "stays clear"


def test_inversion_is_that_of_the_book() -> None:
    """Half an hour at one temperature, acid and water, by hand: 1 − exp(−k·t)."""
    pot = (
        of_material("sugar_white", 700) + of_material("water", 296) + of_material("citric_acid", 4)
    )
    split = pot.inverted(sugar.inverted_share([0, 30], [104, 104], 2.6, 0.39))
    assert float(split.mass_g) == pytest.approx(float(pot.mass_g))
    k = float(sugar.inversion_rate_per_min(104, 2.6, 0.39))
    left = float(pot.sucrose) * 2.718281828 ** (-30 * k)
    assert float(split.sucrose) == pytest.approx(left, rel=1e-3)
    assert float(split.brix) > float(pot.brix)


@pytest.mark.parametrize(
    ("stage", "hottest", "darker"),
    [("honey", 165, 0.06), ("amber", 176, 0.11), ("copper", 188, 0.2)],
)
def test_caramel_is_stopped_at_its_stage(stage: str, hottest: float, darker: float) -> None:
    laid = made("caramel_syrup", caramelise__stage=stage)
    caramel = laid.lots["caramel"]
    assert caramel.temp_c <= hottest
    brown = typical(caramel.composition.other_soluble) / typical(caramel.composition.mass_g)
    assert darker / 3 < brown < darker
    assert caramel.mass_g.typ < 500
    assert "hot-sugar-bursts" in {f.id for f in laid.verdict.findings}


def test_wet_caramel_boils_its_water_off_first() -> None:
    dry, wet = made("caramel_syrup"), made("caramel_syrup", caramelise__way="wet")
    minutes = [
        next(o for o in p.operations if o.kind == "caramelise").minutes.typ for p in (dry, wet)
    ]
    assert minutes[1] > minutes[0] + 2
    assert wet.lots["caramel"].mass_g.typ == pytest.approx(dry.lots["caramel"].mass_g.typ, rel=0.02)


@pytest.mark.parametrize("altitude_m", [0.0, 585.0, 2200.0])
def test_only_what_its_sugar_keeps_goes_on_the_shelf_uncanned(altitude_m: float) -> None:
    here = a_kitchen(altitude_m, jar_stock={"pint": 30})
    strong = made("strong_syrup", keep="sugar", here=here)
    assert stops(strong) == set()
    assert {o.kind for o in strong.operations} >= {"shelve"}
    assert not {o.kind for o in strong.operations} & {"process", "seal_check", "chill"}
    thin = made("caramel_syrup", keep="sugar", here=here)
    assert stops(thin) == {"too-thin-to-keep"}
    needed = next(f for f in thin.verdict.stops).message
    assert "77 °Bx" in needed


def test_it_keeps_by_the_wetter_edge_of_what_is_known() -> None:
    """Stopped by a thermometer at the edge, the wetter half of the band would spoil."""
    by_glass = made("strong_syrup", keep="sugar", cook_syrup__brix=77.0)
    air = float(water.air_pressure_pa(585))
    edge = next(c / 10 for c in range(1000, 1200)
                if air / float(water.saturation_pressure_pa(c / 10)) < 0.748)  # fmt: skip
    by_degrees = made(
        "strong_syrup", keep="sugar", cook_syrup__to="boiling", cook_syrup__boiling=edge
    )
    assert stops(by_glass) == set()
    assert float(water.water_activity(by_degrees.main.contents.usual)) < 0.75
    assert stops(by_degrees) == {"too-thin-to-keep"}


@pytest.mark.parametrize("key", ["cocoa_syrup", "vinegar_herb_syrup"])
def test_what_is_more_than_sugar_is_refused_by_its_sugar(key: str) -> None:
    laid = made(key, keep="sugar", cook_syrup__to="brix", cook_syrup__brix=80.0)
    assert stops(laid) == {"not-sugar-alone"}


def test_a_strong_syrup_that_was_meant_for_the_canner_has_a_way_on() -> None:
    laid = made("strong_syrup", keep="shelf")
    way_on = {f.id: f.change for f in laid.verdict.stops}
    assert way_on == {"product-untested": "keep=sugar"}
    assert {f.change for f in made("sugar_syrup", keep="shelf").verdict.stops} == {"keep=chill"}


def test_the_brix_that_would_keep_it_keeps_it() -> None:
    contents = made("caramel_syrup").main.contents
    needed = keeping.brix_to_keep(contents)
    dry = contents.usual.without_water(float(contents.usual.water))
    grams_ = float(dry.mass_g) * (100.0 / needed - 1.0)
    assert float(water.water_activity(dry + Composition(water=grams_))) < 0.75


POT = of_material("sugar_white", 800) + of_material("water", 600) + of_material("citric_acid", 1)


def test_the_plate_says_hot_and_cold_what_the_books_say() -> None:
    found = plate(POT, ("brix", 72.0), HERE, 10.0)
    assert found is not None
    assert found.cold_mpa_s == pytest.approx(texture.viscosity_mpa_s(72, 20))
    assert found.hot_mpa_s < found.cold_mpa_s / 20
    assert found.stop_c == pytest.approx(float(water.boiling_point_c(
        boiled_down(POT, ("brix", 72.0), HERE).result, 585)))  # fmt: skip
    assert plate(POT, ("brix", 40.0), HERE, 10.0) is None


@pytest.mark.parametrize("drop", range(6))
def test_a_thicker_drop_is_a_sweeter_pot(drop: int) -> None:
    rate = 2.0
    found = midway(POT, ("brix", 72.0), ("drop", float(drop)), 8.0, rate, HERE)
    assert found.brix.lo < found.brix.typ < found.brix.hi
    if drop:
        before = midway(POT, ("brix", 72.0), ("drop", drop - 1.0), 8.0, rate, HERE)
        assert found.brix.typ > before.brix.typ
        assert found.left_min.typ <= before.left_min.typ


def test_water_brings_a_pot_back_that_went_too_far() -> None:
    gone = midway(POT, ("brix", 66.0), ("brix", 74.0), 20.0, 2.0, HERE)
    assert gone.back_g > 0
    back = midway(POT, ("brix", 66.0), ("brix", 74.0), 20.0, 2.0, HERE, gone.back_g)
    assert back.back_g == 0
    assert back.brix.typ == pytest.approx(66, abs=0.1)
    by_paper = float(POT.soluble_g) * (100 / 66 - 100 / 74)
    assert gone.back_g == pytest.approx(by_paper, rel=1e-3)


def test_a_guess_is_no_narrower_than_the_pan_allows() -> None:
    found = midway(POT, ("brix", 72.0), ("drop", 3.0), 8.0, 2.0, HERE)
    assert found.brix.hi - found.brix.lo > 1
    assert PAN_SPREAD[0] < 1 < PAN_SPREAD[1]


@pytest.mark.parametrize("school", ["by-match", "by-peel", "by-litre"])
@pytest.mark.parametrize("fruit", citrus.CITRUS)
def test_the_step_weighs_out_what_the_solver_says(fruit: str, school: str) -> None:
    which = method("stretched_peel")
    steps = edits.choose(which.steps, "stretch", {"school": school}, which.begins_with)
    brief = Brief((Input(START, fruit, grams(90.0), "peel"),), (End("fill", "chill"),))
    laid = plan(replace(which, steps=steps), brief, HERE)
    alone = citrus.stretch(90.0, fruit, school)
    assert laid.lots["citric_acid_stretch"].mass_g.typ == pytest.approx(alone.citric_g)
    assert laid.lots["water_stretch"].mass_g.typ == pytest.approx(alone.water_g)
    drink = laid.lots["stretched"]
    assert drink.volume_ml.typ == pytest.approx(alone.yield_ml, rel=0.02)
    acidity = typical(acid.titratable_acidity_g_l(drink.composition))
    assert acidity == pytest.approx(alone.acid_g_l, rel=0.02)
    assert "product-untested" in {
        f.id for f in plan(which, replace(brief, ends=(End("fill", "shelf"),)), HERE).verdict.stops
    }


def test_peel_as_it_was_weighed_decides_how_much_acid() -> None:
    which = method("stretched_citrus")
    brief = Brief((Input(START, "lime", grams(700.0)),), which.ends_for(()))
    laid = plan(which, brief, HERE)
    assert laid.lots["thin_peel"].mass_g.typ == pytest.approx(citrus.peel_of("lime", 10), rel=1e-3)
    assert {e.keep for e in laid.ends} == {"chill", "freeze"}


def sets(*parts: tuple[str, float], **more: object) -> str:
    found = jelly.forecast(filled(*parts, **more))  # type: ignore[arg-type]
    return found.word if found else ""


def test_a_jelly_sets_by_its_dose_its_sugar_and_its_acid() -> None:
    juice, much = ("damson", 1000.0), ("sugar_white", 1500.0)
    assert sets(juice, much, ("pectin_regular", 20.0)) == "sets firmly"
    assert sets(juice, much, ("pectin_regular", 12.0)) == "sets softly"
    assert sets(juice, much, ("pectin_regular", 4.0)) == "stays a syrup"
    assert sets(juice, ("sugar_white", 300.0), ("pectin_regular", 20.0)) == "stays a syrup"
    assert sets(juice, ("sugar_white", 300.0), ("pectin_low", 9.0)) == "sets softly"
    assert sets(juice, ("sugar_white", 300.0), ("pectin_low", 14.0)) == "sets firmly"
    assert sets(juice) == ""


def test_by_its_own_pectin_only_a_drop_tells() -> None:
    parts = ("quince", 700.0), ("sugar_white", 1300.0)
    assert sets(*parts) == "may set: a drop on a cold plate tells"
    assert sets(*parts, said=frozenset({"drop_sets"})) == "sets"
    assert sets(("raspberry", 700.0), ("sugar_white", 1300.0)) == ""


def test_it_says_why_it_does_not_set() -> None:
    found = jelly.forecast(
        filled(("damson", 1000.0), ("sugar_white", 300.0), ("pectin_regular", 4.0))
    )
    assert found is not None
    assert any("too little: 4 g at least" in w for w in found.why)
    assert any("too thin: boil or sweeten it to 55" in w for w in found.why)


@pytest.mark.parametrize("key", ["stretched_citrus", "stretched_with_juice"])
@pytest.mark.parametrize("fruit", citrus.CITRUS)
def test_stretched_citrus_never_goes_into_a_canner(key: str, fruit: str) -> None:
    which = method(key)
    ends = tuple(replace(e, keep="shelf") for e in which.ends_for(()))
    laid = plan(which, Brief((Input(START, fruit, grams(1500.0)),), ends), HERE)
    assert "product-untested" in {f.id for f in laid.ends[0].verdict.stops}


def test_a_lime_gives_more_or_less_than_the_table_as_this_kitchen_has_weighed() -> None:
    which = method("stretched_citrus")
    brief = Brief((Input(START, "lime", grams(700.0)),), which.ends_for(()))
    by_table = plan(which, brief, HERE).lots["thin_peel"].mass_g
    assert by_table.lo < 60 < by_table.typ < 80 < by_table.hi
    seen = [yields.Observation(0.085, "", "peel", f"LM-{n}") for n in range(3)]
    learned = plan(which, brief, HERE, {"lime": seen}).lots["thin_peel"].mass_g
    assert by_table.typ > learned.typ > 58
    assert learned.hi - learned.lo < by_table.hi - by_table.lo


def test_what_scents_off_the_heat_stands_in_it_after_it_was_cooked() -> None:
    which = method("sugar_syrup")
    mint = Input("mint", "herb_fresh", grams(20.0), where="off_heat")
    inputs = (Input(START, "water", grams(500.0)), mint, *which.inputs)
    laid = plan(which, Brief(inputs, which.ends_for(())), HERE)
    kinds = [o.kind for o in laid.operations]
    assert kinds.index("cook_syrup") < kinds.index("infuse_off") < kinds.index("fill")
    early = replace(mint, where="")
    warm = plan(which, Brief((inputs[0], early, *which.inputs), which.ends_for(())), HERE)
    assert "scent" in {o.kind for o in warm.operations}


def test_low_acid_syrup_does_not_stand_warm_overnight() -> None:
    which = method("sugar_syrup")
    mint = Input("mint", "herb_fresh", grams(20.0), where="off_heat")
    brief = Brief((Input(START, "water", grams(500.0)), mint, *which.inputs), which.ends_for(()))
    steps = plan(which, brief, HERE)
    assert "low-acid-steep-warm" in {f.id for f in steps.verdict.findings}
    cold = made("vinegar_herb_syrup")
    assert not {f.id for f in cold.verdict.findings} & {
        "low-acid-steep-warm",
        "steep-too-long-warm",
    }


@pytest.mark.parametrize("share", [0.0, 0.4, 1.0])
def test_spirit_lengthens_life_in_proportion_and_says_what_is_missing(share: float) -> None:
    row = storage.life_row("chilled_unopened", "fruit_syrup_50brix")
    full = storage.life_row("chilled_unopened", "fruit_syrup_50brix_with_spirit")
    there = storage.spirited(row, share)
    assert there.days_typ == pytest.approx(row.days_typ + share * (full.days_typ - row.days_typ))
    assert (
        storage.spirited(storage.life_row("chilled_unopened", "vinegar_syrup"), share).days_typ
        == 120
    )


@pytest.mark.parametrize("share", [60.0, 150.0])
def test_caramel_of_which_nobody_says_its_water_gets_a_share_of_it(share: float) -> None:
    which = method("caramel_syrup")
    steps = edits.choose(which.steps, "quench", {"water": share}, which.begins_with)
    steps = tuple(replace(s, takes=s.takes[:1]) if s.kind == "quench" else s for s in steps)
    first = Input(START, "sugar_white", grams(500.0))
    laid = plan(replace(which, steps=steps, inputs=()), Brief((first,), which.ends_for(())), HERE)
    went_in = laid.lots["hot_water"].mass_g.typ
    assert went_in == pytest.approx(share / 100.0 * laid.lots["caramel"].mass_g.typ)


def test_peel_that_nobody_has_weighed_is_by_the_piece() -> None:
    which = method("stretched_citrus")
    brief = Brief((Input(START, "lime", grams(700.0)),), which.ends_for(()))
    laid = plan(which, brief, HERE, forecasts={})
    by_piece = citrus.peel_of("lime", 700.0 / citrus.piece_g("lime"))
    assert laid.lots["thin_peel"].mass_g.typ == pytest.approx(by_piece)
