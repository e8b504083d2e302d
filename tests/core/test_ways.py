"""Every way of getting juice out: balances, what choices cost, water, second pressings."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.core import composition, juicing, materials, yields
from elderberry.core.errors import CannotTell, DoesNotFit, OutOfRange
from elderberry.core.estimates import Estimate, Evidence, measured
from elderberry.core.flow import edits, wiring
from elderberry.core.flow.draft import drawn
from elderberry.core.flow.inputs import Brief, End, Input, grams, lot_of
from elderberry.core.flow.kinds import kinds
from elderberry.core.flow.lots import clarity, group
from elderberry.core.kitchen import Canner, Juicer, Kitchen, Vessel
from elderberry.core.method import NO_FRUIT, method, methods
from elderberry.core.numbers import Array, typical
from elderberry.core.operations import laying
from elderberry.core.plan import Plan, plan
from elderberry.core.process import OwnProcess
from tests.briefs import load, unsplit

STOCK = {"pint": 90, "quart": 40}
HERE = Kitchen(585, Juicer(10, 4, 1.8), Canner(7), 2.0, jar_stock=STOCK)
KEYS = sorted(methods())


def made(key: str, kg: float = 6.0, fruit: str = "", where: Kitchen = HERE, **more: object) -> Plan:
    """A method laid out, with choices as step__choice=value."""
    chosen = method(key)
    asked = {k: v for k, v in more.items() if "__" in k}
    steps = chosen.steps
    for name, value in asked.items():
        step, _, choice = name.partition("__")
        steps = edits.choose(steps, step, {choice: value}, chosen.begins_with)
    rest = {k: v for k, v in more.items() if "__" not in k}
    rest.setdefault("form", chosen.forms[0])
    shown = chosen.shown_by
    kind_of = fruit or (shown.key if shown else "damson")
    if chosen.forms[0] == NO_FRUIT:
        main = chosen.of if chosen.begins else "water"
        sugar = () if chosen.inputs else (Input("sugar", "sugar_white", grams(300 * kg)),)
        ends = chosen.ends_for(())
        first = Brief((Input(wiring.START, main, grams(1000 * kg)), *sugar), ends)
    else:
        first = load(kind_of, kg, **rest)  # type: ignore[arg-type]
    brief = replace(first, inputs=(*first.inputs, *chosen.inputs))
    return plan(replace(chosen, steps=steps), brief, where)


def brix(laid: Plan, name: str) -> float:
    found = laid.lots[name].figures.brix
    assert found is not None
    return found.typ


def test_there_are_at_least_fourteen_methods_of_our_own() -> None:
    wanted = {
        "steamed_apple", "steamed_damson", "steamed_blackcurrant", "steamed_quince",
        "steamed_aronia", "pressed_apple", "simmered_redcurrant", "weighted_gooseberry",
        "rosehip_steep", "calyx_steep", "redcurrants_in_the_jar", "rhubarb_simmered",
        "sea_buckthorn_pressed", "pomace_second_run",
    }  # fmt: skip
    assert wanted <= set(methods())
    for found in methods().values():
        assert wiring.check(found.steps, found.begins_with) == found.steps
        assert found.source
        assert found.school
        assert all(f in materials.fruits() for f in found.fruits)


TURN = {"sucrose", "glucose", "fructose", "other_soluble", "water"}
"""What caramel turns into each other, or into steam."""


@pytest.mark.parametrize("key", KEYS)
@given(kg=st.floats(0.8, 12))
def test_every_method_conserves_mass_sugar_and_acid(key: str, kg: float) -> None:
    laid = made(key, kg)
    made_lots = {k for o in laid.operations for k in o.gives}
    taken = {k for o in laid.operations for k in o.takes}
    browned = any(o.kind == "caramelise" for o in laid.operations)
    names = {*composition.NAMES} - (TURN if browned else set()) | {"mass_g"}
    for name in sorted(names):

        def total(keys: set[str], part: str = name) -> Array:
            parts = (np.asarray(unsplit(laid.lots[k].composition, part)) for k in keys)
            return sum(parts, start=np.zeros(1))

        sources, sinks = taken - made_lots, made_lots - taken
        jars = {k for k, lot in laid.lots.items() if lot.kind == "jars"}
        carried = made_lots & taken - jars
        assert sources
        assert np.allclose(total(sources), total(sinks | jars), rtol=1e-6, atol=1e-6), (
            name,
            carried,
        )


@pytest.mark.parametrize("key", KEYS)
def test_every_method_scales_with_the_fruit_and_says_all_its_words(key: str) -> None:
    one, three = made(key, 2.0), made(key, 6.0)
    assert three.main.litres.typ == pytest.approx(3 * one.main.litres.typ, rel=0.16)
    assert three.main.litres.lo <= three.main.litres.typ <= three.main.litres.hi
    for operation in three.operations:
        words = operation.text
        assert all("{" not in w for w in words.values())
        assert operation.minutes.lo <= operation.minutes.typ <= operation.minutes.hi


def test_every_kind_that_can_be_chosen_can_be_laid_out() -> None:
    offered = {k.key for k in kinds().values() if k.in_editor}
    assert all(callable(laying(kinds()[key].does)) for key in offered)
    used = {s.kind for m in methods().values() for s in m.steps}
    assert {"steam_juice", "press", "squeeze", "drain", "drain_cold", "press_again"} <= used
    assert {"steep", "infuse", "blend", "simmer", "strain", "settle", "skim"} <= used


def test_the_second_pressing_nearly_doubles_the_volume_at_equal_water() -> None:
    """science: at equal water the volume nearly doubles and strength falls by about a third."""
    laid = made("weighted_gooseberry", press_again__water=1.0)
    first, second = laid.lots["juice"], laid.lots["second"]
    assert second.volume_ml.typ == pytest.approx(first.volume_ml.typ, rel=0.06)
    assert brix(laid, "blend") / brix(laid, "juice") == pytest.approx(2 / 3, abs=0.09)
    held = laid.lots["pomace"].composition
    liquid = typical(held.mass_g - held.insoluble)
    water = laid.lots["water_press_again"].mass_g.typ
    share = juicing.recovered_share(water, liquid)
    solids = typical(second.composition.soluble_g)
    assert solids / typical(held.soluble_g) == pytest.approx(share, abs=0.05)


def test_more_water_in_the_second_pressing_gives_more_and_thinner_juice() -> None:
    little, much = (made("weighted_gooseberry", press_again__water=w) for w in (0.5, 1.2))
    assert much.main.litres.typ > little.main.litres.typ
    assert brix(much, "blend") < brix(little, "blend")


def test_early_and_late_draws_are_lots_with_their_own_sweetness() -> None:
    twice = made("steamed_quince", 12)
    once = made("steamed_quince", 12, steam_juice__draws="once")
    assert brix(twice, "juice-1") > brix(twice, "juice-1-late") + 0.5
    assert {group(k) for k in twice.lots} >= {"juice", "pomace", "hot"}
    assert twice.main.litres.typ == pytest.approx(once.main.litres.typ, rel=1e-3)
    assert brix(twice, "hot") == pytest.approx(brix(once, "hot"), abs=0.02)
    assert [o.kind for o in twice.operations].count("steam_on") == twice.loads


@pytest.mark.parametrize(
    ("key", "choice", "value", "more", "less"),
    [
        ("steamed_damson", "steam_juice__lid", "look", None, "brix"),
        ("steamed_damson", "steam_juice__press", "press", "juice pulp", None),
        ("pressed_apple", "press__squeeze", "gentle", None, "juice"),
        ("simmered_redcurrant", "drain__squeeze", "squeeze", "juice pulp", None),
        ("simmered_redcurrant", "simmer__boil", "hard", "brix", "minutes"),
        ("simmered_redcurrant", "sort__stems", "off", "minutes juice", None),
        ("grapefruit_squeezed", "skim__foam", "on", "juice pulp", "minutes"),
        ("grapefruit_squeezed", "strain__cloth", "bag", "minutes", "pulp"),
        ("weighted_gooseberry", "mash__seeds", "out", "minutes", "juice"),
        ("rosehip_steep", "steep__heat", "low", "brix", "waits"),
    ],
)
def test_a_choice_shows_what_it_costs(
    key: str, choice: str, value: str, more: str | None, less: str | None
) -> None:
    plain, other = made(key), made(key, **{choice: value})  # type: ignore[arg-type]

    def figures(laid: Plan) -> Mapping[str, float]:
        return {
            "juice": laid.main.litres.typ,
            "brix": laid.main.contents.brix,
            "pulp": laid.main.filled.figures.pulp_pct,
            "minutes": laid.minutes.typ,
            "waits": laid.waits_h,
        }

    before, after = figures(plain), figures(other)
    for name in (more or "").split():
        assert after[name] > before[name], name
    for name in (less or "").split():
        assert after[name] < before[name], name


def test_covered_with_water_is_a_legal_entry_and_widens_the_range() -> None:
    covered, told = made("rosehip_steep"), made("rosehip_steep", steep__water=1.07)
    water = covered.lots["water_steep"]
    assert water.figures.evidence is Evidence.READ
    assert water.mass_g.hi > 1.2 * water.mass_g.typ
    assert told.lots["water_steep"].figures.evidence is Evidence.MEASURED
    wide, narrow = covered.main.litres, told.main.litres
    assert wide.hi - wide.lo > 1.3 * (narrow.hi - narrow.lo)
    step = next(o for o in covered.operations if o.kind == "steep")
    assert "Covered with water" in step.text["before"]


def test_water_is_inferred_from_the_pot_or_from_the_sweetness() -> None:
    by_depth = juicing.water_from_depth_l(12, 24, 2.0)
    assert by_depth.lo < 3.49 < by_depth.hi
    assert by_depth.evidence is Evidence.READ
    assert juicing.water_from_depth_l(14, 24, 2.0).typ > by_depth.typ
    thin = juicing.water_from_brix_l(Estimate(11, 12, 13), 1.5, 4.0)
    assert thin.typ == pytest.approx(3.0)
    with pytest.raises(CannotTell):
        juicing.water_from_depth_l(1, 24, 2.0)
    with pytest.raises(CannotTell):
        juicing.water_from_brix_l(Estimate(11, 12, 13), 1.5, 14)
    for wrong in (
        lambda: juicing.water_from_depth_l(0, 24, 2),
        lambda: juicing.water_to_cover_l(-1, 0.6),
        lambda: juicing.drained_share(-1, 4),
        lambda: juicing.recovered_share(-1, 300),
    ):
        with pytest.raises(OutOfRange):
            wrong()


@given(st.floats(0.1, 60), st.floats(0.1, 60), st.sampled_from([2 / 3, 4.0]))
def test_draining_flattens_and_never_gives_back(first: float, more: float, tau: float) -> None:
    early, late = juicing.drained_share(first, tau), juicing.drained_share(first + more, tau)
    assert early < late < 1
    assert juicing.drained_share(first + 2 * more, tau) - late < late - early + 1e-12


@pytest.mark.parametrize("litres", [0.6, 1.2])
def test_weight_and_hours_decide_what_drains(litres: float) -> None:
    short, long = (made("weighted_gooseberry", drain_cold__hours=h) for h in (2.0, 24.0))
    assert long.lots["juice"].volume_ml.typ > short.lots["juice"].volume_ml.typ
    assert litres > 0


def test_fruit_in_the_jar_is_counted_by_the_litre_of_jar() -> None:
    laid = made("redcurrants_in_the_jar", 3.0, infuse__fruit=300.0, infuse__sugar=120.0)
    prepared = laid.lots["sorted"].mass_g.typ / 1000
    assert laid.main.litres.typ == pytest.approx(prepared / 0.3, rel=0.01)
    assert laid.main.process_time is not None
    assert laid.main.process_time.row.product == "whole_berries"
    assert laid.verdict.may_start
    assert laid.lots["sugar_white_infuse"].mass_g.typ == pytest.approx(
        120 * laid.main.litres.typ, rel=0.01
    )


def test_what_has_no_tested_process_is_for_the_cold_or_needs_an_own_source() -> None:
    refused = made("calyx_steep", 0.3)
    assert [s.id for s in refused.verdict.stops] == ["product-untested"]
    assert made("calyx_steep", 0.3, keep="chill").verdict.may_start
    own = OwnProcess(
        "hibiscus_concentrate", 500, {900.0: 20}, 3.8, "Test kitchen, 2025", "2026-01-01"
    )
    chosen = method("calyx_steep")
    brief = load("hibiscus_dried", 0.3, form="dried", ph=measured(2.6, 0.1))
    laid = plan(chosen, brief, HERE, own={own.product: own})
    assert [s.id for s in laid.verdict.stops] == ["ph-reading-needed"]
    assert laid.verdict.may_start
    assert laid.main.process_time is not None
    assert laid.main.process_time.evidence == "own"
    whole = made("grapefruit_whole", keep="shelf")
    assert not whole.verdict.may_start


def test_juice_that_is_not_strained_is_no_juice_to_the_tables() -> None:
    chosen = method("pressed_apple")
    steps = edits.remove(edits.remove(chosen.steps, "strain"), "settle")
    laid = plan(replace(chosen, steps=steps), load("apple", 6), HERE)
    assert not laid.verdict.stops
    blended = method("grapefruit_whole")
    wet = plan(
        replace(blended, steps=wiring.wire(
            [{"kind": "squeeze"}, {"kind": "heat_to"}, {"kind": "fill"}])),
        load("grapefruit", 6), HERE,
    )  # fmt: skip
    assert wet.main.process_time is not None
    assert wet.main.process_time.row.product == "fruit_puree"
    assert wet.main.product == "purée"
    thick = load("pear_asian", 6)
    pears = plan(replace(method("pressed_apple"), steps=wiring.wire(
        [{"kind": "mash"}, {"kind": "heat_to"}, {"kind": "fill"}])), thick, HERE)  # fmt: skip
    assert [s.id for s in pears.verdict.stops] == ["juice-not-strained"]
    assert "strain" in pears.verdict.stops[0].remedy


def test_what_must_not_go_raw_is_stopped() -> None:
    rows = [{"kind": "steam_juice"}, {"kind": "fill"}]
    raw = replace(method("steam_juiced"), steps=wiring.wire(rows))
    for fruit, keep, why in (
        ("elderberry", "chill", "poisonous"), ("rowan", "freeze", "poisonous"),
        ("damson", "shelf", "88 °C"),
    ):  # fmt: skip
        stops = {s.id: s for s in plan(raw, load(fruit, 4, keep=keep), HERE).verdict.stops}
        assert why in stops["never-heated"].message
        assert not stops["never-heated"].in_cook
    cold = plan(raw, load("damson", 4, keep="chill"), HERE).verdict
    assert "never-heated" not in {f.id for f in cold.findings}
    jarred = made("redcurrants_in_the_jar", 2)
    assert not jarred.verdict.stops


def test_a_watered_down_juice_is_judged_by_its_own_acidity() -> None:
    second = made("pomace_second_run", 6, "apple")
    assert second.main.contents.water_pct > 50
    assert [s.id for s in second.verdict.stops] == ["ph-reading-needed"]
    sharp = made("pomace_second_run", 6, "redcurrant", simmer__water=0.4)
    assert 10 < sharp.main.contents.water_pct < 50
    assert not sharp.verdict.stops


def test_a_shelf_that_would_be_full_is_said_beforehand() -> None:
    full = replace(HERE, shelf_free_l=0.5)
    found = {f.id: f for f in made("steam_juiced", where=full).verdict.findings}
    assert "room for 0 l more" in found["shelf-full"].message
    assert "shelf-full" not in {f.id for f in made("steam_juiced").verdict.findings}


def test_a_bowl_too_small_and_a_full_refrigerator_are_caught() -> None:
    small = replace(HERE, vessels=(Vessel("bowl", 2.0), Vessel("pot", 4.0)), fridge_free_l=1.5)
    found = {f.id: f for f in made("weighted_gooseberry", where=small).verdict.findings}
    assert "2 l" in found["vessel-too-small"].message
    assert "1.5 l" in found["fridge-full"].message
    roomy = replace(HERE, vessels=(Vessel("bowl", 12.0, 2), Vessel("pot", 12.0)), fridge_free_l=30)
    ids = {f.id for f in made("weighted_gooseberry", where=roomy).verdict.findings}
    assert not ids & {"vessel-too-small", "fridge-full", "shelf-full"}
    assert not ids & {f.id for f in made("weighted_gooseberry").verdict.findings} - ids


def test_frozen_fruit_gives_a_little_more_and_pomace_none_of_its_own() -> None:
    fresh, frozen = made("steamed_damson"), made("steamed_damson", form="frozen")
    assert frozen.main.litres.typ == pytest.approx(1.05 * fresh.main.litres.typ, rel=0.01)
    run = made("pomace_second_run", 4)
    water = run.lots["water_simmer"].volume_ml.typ - run.lots["vapour"].volume_ml.typ
    assert run.main.litres.typ * 1000 == pytest.approx(water, rel=0.02)


@pytest.mark.parametrize("way", ["press", "drain"])
def test_what_a_simmer_steams_off_is_missing_from_the_juice(way: str) -> None:
    def after(minutes: float) -> Plan:
        rows = [{"kind": k} for k in ("simmer", way, "strain", "heat_to", "fill")]
        steps = edits.choose(wiring.wire(rows), "simmer", {"minutes": minutes})
        return plan(replace(method("steam_juiced"), steps=steps), load("redcurrant", 4), HERE)

    brief, long = after(5), after(30)
    gone = long.lots["vapour"].volume_ml.typ - brief.lots["vapour"].volume_ml.typ
    missing = brief.lots["juice"].volume_ml.typ - long.lots["juice"].volume_ml.typ
    assert gone > 50
    assert missing == pytest.approx(gone, rel=0.05)


def test_bought_juice_is_a_lot_like_any_other() -> None:
    laid = made("bought_juice", 5, "apple", brix=measured(11.4, 0.3))
    assert laid.main.litres.typ == pytest.approx(5 / 1.046, rel=0.02)
    assert brix(laid, "hot") == pytest.approx(11.4, abs=0.05)
    assert laid.main.process_time is not None


def test_a_basket_asks_for_as_many_loads_as_it_needs() -> None:
    laid = made("steamed_damson", 24.5)
    assert laid.loads == 4
    with pytest.raises(DoesNotFit, match="it takes 4"):
        made("steamed_damson", 24.5, loads=2)


@pytest.mark.parametrize("way", ["steam", "press", "drain", "weight", "steep"])
def test_ways_learn_apart_from_each_other(way: str) -> None:
    fruit = materials.fruit("gooseberry")
    prior = yields.prior(way, fruit)
    assert prior is not None
    assert prior.lo < prior.typ < prior.hi < 1
    assert yields.prior("teleport", fruit) is None
    seen = yields.Observation(prior.typ * 0.9, "plot 3", way, "GS-26-01")
    forecast = yields.predict(prior, [seen], "plot 3")
    assert forecast.median < prior.typ
    assert forecast.hi / forecast.lo < prior.hi / prior.lo


def test_a_plan_counts_only_the_batches_of_its_own_way() -> None:
    seen = [yields.Observation(0.40, "", "drain", "A"), yields.Observation(0.56, "", "steam", "B")]
    laid = plan(method("steam_juiced"), load("damson", 5), HERE, {"damson": seen})
    assert laid.fruit_yield is not None
    assert laid.fruit_yield.used == 1
    assert laid.fruit_yield.median > 0.5


@pytest.mark.parametrize(
    ("pulp", "word"), [(0.01, "clear"), (0.2, "hazy"), (0.9, "cloudy"), (3.0, "thick with pulp")]
)
def test_clarity_is_said_in_a_word(pulp: float, word: str) -> None:
    assert clarity(pulp) == word


def test_what_steps_put_in_is_judged_like_what_is_stirred_in() -> None:
    spiced = made("rosehip_steep", keep="chill", steep__spice_whole=8.0)
    assert spiced.holds_g["spice_whole"] == pytest.approx(8.0 * 5.7, rel=0.01)
    assert spiced.lots["spice_whole_steep"].kind == "added"
    steps = edits.insert(method("steam_juiced").steps, "juice", "dissolve")
    sweet = plan(replace(method("steam_juiced"), steps=steps), load("rhubarb", 3), HERE)
    assert sweet.holds_g["sugar_white"] == pytest.approx(
        sweet.lots["sugar_white_dissolve"].mass_g.typ, rel=1e-6
    )


@pytest.mark.parametrize(
    ("fruit", "brix", "product", "largest"),
    [
        ("damson", 30.0, "berry_or_fruit_juice", 946),
        ("damson", 50.0, "fruit_syrup", 473),
        ("raspberry", 50.0, "berry_syrup", 473),
        ("apple", 40.0, "fruit_syrup", 473),
    ],
)
def test_a_juice_sweetened_far_up_is_tested_as_a_syrup(
    fruit: str, brix: float, product: str, largest: float
) -> None:
    steps = edits.choose(
        edits.insert(method("steam_juiced").steps, "juice", "dissolve"), "dissolve", {"brix": brix}
    )
    sweet = replace(method("steam_juiced"), steps=steps)
    brief = load(fruit, 5, ph=measured(3.1, 0.1), jar_kinds=("pint",))
    here = replace(HERE, jar_stock={"pint": 40, "quart": 20})
    laid = plan(sweet, brief, here)
    assert laid.main.process_time is not None
    assert laid.main.process_time.row.product == product
    roomy = plan(sweet, replace(brief, ends=(End("fill", "shelf", ("quart",)),)), here)
    assert (roomy.main.process_time is not None) == (largest == 946)
    assert roomy.verdict.may_start == (largest == 946)


def test_what_has_no_tested_time_gets_none_by_sugar() -> None:
    steps = edits.insert(method("steam_juiced").steps, "juice", "dissolve")
    steps = edits.choose(steps, "dissolve", {"brix": 60.0})
    laid = plan(replace(method("steam_juiced"), steps=steps), load("elderberry", 4), HERE)
    assert not laid.verdict.may_start


@pytest.mark.parametrize(("pulp_pct", "share"), [(0.0, 0.0), (1.0, None), (90.0, 0.5)])
def test_juice_carries_half_of_the_pulp_at_the_most(pulp_pct: float, share: float | None) -> None:
    mash = lot_of(Input("mash", "damson", grams(1000.0), "crushed"), 1000.0, 0.0).mix
    juice = drawn(mash, 400.0, pulp_pct).composition
    there = typical(mash.composition.insoluble)
    liquid = typical(mash.composition.mass_g) - there
    part = 400.0 / typical(mash.composition.portion(1.0, 1.0, 0.0).volume_ml)
    expected = pulp_pct / 100 * liquid * part if share is None else share * there
    assert typical(juice.insoluble) == pytest.approx(expected)
