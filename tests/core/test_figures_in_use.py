"""Figures that a cook at the pot would have called wrong, each put right."""

from __future__ import annotations

from dataclasses import replace

import pytest

from elderberry.core import jars
from elderberry.core.errors import CoreError
from elderberry.core.flow import edits, wiring
from elderberry.core.flow.inputs import Amount, Brief, End, Input, grams
from elderberry.core.flow.kinds import kind
from elderberry.core.flow.seen import Seen
from elderberry.core.flow.steps import Operation
from elderberry.core.kitchen import Canner, Kitchen
from elderberry.core.method import Method, method, unnamed
from elderberry.core.plan import Plan, plan
from elderberry.core.wording import worded
from tests.briefs import a_kitchen, load

TO_40 = Amount("target", target="brix", value=40.0)


def laid(made: Method | str, brief: Brief, kitchen: Kitchen | None = None, **more: object) -> Plan:
    way = method(made) if isinstance(made, str) else made
    return plan(way, brief, kitchen or a_kitchen(585.0), **more)  # type: ignore[arg-type]


def step_of(made: Plan, role_or_kind: str) -> Operation:
    return next(
        o for o in made.operations if role_or_kind in {kind(o.kind).role, o.kind}
    )  # fmt: skip


def all_words(made: Plan, operation: Operation) -> str:
    what = kind(operation.kind)
    figures = {**what.usual, **operation.params}
    return " ".join(words.format(**figures) for words in what.words.values())


# -- what is measured moves what follows


def test_sugar_for_a_target_follows_what_was_measured_since() -> None:
    steps = wiring.wire([{"kind": "press"}, {"kind": "stir_in", "takes": ["juice", "sugar"]},
                         {"kind": "heat_to"}, {"kind": "fill"}])  # fmt: skip
    given = (Input("fruit", "redcurrant", grams(5000)),
             Input("sugar", "sugar_white", TO_40))  # fmt: skip
    brief = Brief(given, (End("fill", "shelf", ("pint",)),))
    way = replace(method("pressed_apple"), key="x", steps=steps, fruits=(), inputs=())
    planned = laid(way, brief)
    more = laid(way, brief, seen={"juice": Seen(volume_ml=4000.0, brix=9.0)})
    less = laid(way, brief, seen={"juice": Seen(volume_ml=2000.0, brix=9.0)})
    sugar = [p.lots["sugar"].mass_g.typ for p in (less, planned, more)]
    assert sugar == sorted(sugar)
    assert sugar[2] == pytest.approx(2 * sugar[0], rel=0.02)
    for made in (planned, more, less):
        assert made.main.filled.brix is not None
        assert made.main.filled.brix.typ == pytest.approx(40, abs=0.3)


def test_a_flow_without_fruit_is_legal_and_stays_in_the_cold() -> None:
    steps = wiring.wire([{"kind": "stir_in", "takes": ["water", "sugar"]}, {"kind": "fill"}])
    given = (Input("water", "water", grams(1000)),
             Input("sugar", "sugar_white", Amount("share", share=2.0, of="water")))  # fmt: skip
    cold = laid(unnamed(steps), Brief(given, (End("fill", "chill", ("pint",)),)))
    assert cold.main.filled.brix is not None
    assert cold.main.filled.brix.typ == pytest.approx(66.7, abs=0.2)
    assert cold.verdict.may_start
    shelf = laid(unnamed(steps), Brief(given, (End("fill", "shelf", ("pint",)),)))
    assert not shelf.verdict.may_start


# -- heat


def test_what_starts_cold_takes_longer_to_heat_than_what_runs_hot() -> None:
    bought = laid("bought_juice", load("redcurrant", 4, form="juice", jar_kinds=("pint",)))
    steamed = laid("steam_juiced", load("redcurrant", 7.5, jar_kinds=("pint",)))
    cold, hot = (step_of(p, "heat").minutes.typ for p in (bought, steamed))
    assert cold > 3 * hot


def test_a_simmer_counts_from_the_boil_and_boils_through() -> None:
    made = laid("simmered_redcurrant", load("redcurrant", 4, jar_kinds=("pint",)))
    simmer = step_of(made, "simmer")
    assert kind("simmer").boil == "counts"
    assert simmer.minutes.typ == pytest.approx(float(made.method.steps[2].chosen("minutes")), abs=8)
    juice = made.main.contents
    assert juice.heated_through(97.0)
    assert all(p.held.boiled_min > 0 for p in juice.fruit)


@pytest.mark.parametrize(("metres", "words"), [(0.0, "88"), (4200.0, "8")])
def test_no_fill_temperature_is_beyond_the_boil_here(metres: float, words: str) -> None:
    brief = load("redcurrant", 4, keep="chill", jar_kinds=("pint",))
    kitchen = a_kitchen(metres)
    made = laid("steam_juiced", brief, kitchen)
    heat = [o for o in made.operations if kind(o.kind).role == "heat"]
    for operation in heat:
        assert float(operation.params["target"]) <= kitchen.boiling_point_c - 2.0 + 1e-9
        assert str(operation.params["target_c"]).startswith(words)
    assert (metres > 4000.0) is (kitchen.boiling_point_c < 88.0)


def test_foam_is_taken_off_the_boil_only_where_it_boiled() -> None:
    cold = laid("grapefruit_squeezed", load("grapefruit", 5, jar_kinds=("pint",)))
    if any(o.kind == "skim" for o in cold.operations):
        assert "Off the boil" not in all_words(cold, step_of(cold, "skim"))
    way = method("steam_juiced")
    steps = edits.insert(way.steps, "juice", "skim", way.begins_with)
    run = laid(replace(way, steps=steps), load("redcurrant", 4, jar_kinds=("pint",)))
    assert "Off the boil" not in all_words(run, step_of(run, "skim"))


def test_a_steam_canner_is_not_told_to_cover_its_lids() -> None:
    brief = load("redcurrant", 4, jar_kinds=("pint",))
    bath = laid("steam_juiced", brief)
    steam = laid("steam_juiced", brief, replace(a_kitchen(585.0), canner=Canner(7, heater="steam")))
    assert "over the lids" in all_words(bath, step_of(bath, "process"))
    assert "over the lids" not in all_words(steam, step_of(steam, "process"))
    assert "vent" in all_words(steam, step_of(steam, "process"))


# -- what drains, and what stays


def test_a_little_squeezing_gives_a_good_part_of_the_juice() -> None:
    made = laid("grapefruit_squeezed", load("grapefruit", 5, jar_kinds=("pint",)))
    assert made.main.litres.typ > 1.2


@pytest.mark.parametrize(("fruit", "minutes"), [("grapefruit", 5.5), ("sea_buckthorn", 19.8)])
def test_squeezing_takes_its_time_by_the_piece_and_else_by_weight(
    fruit: str, minutes: float
) -> None:
    made = laid("grapefruit_squeezed", load(fruit, 4, jar_kinds=("pint",), keep="chill"))
    assert step_of(made, "squeeze").minutes.typ == pytest.approx(minutes, rel=0.01)


def test_mashed_fruit_swims_in_its_own_juice() -> None:
    whole = laid("simmered_redcurrant", load("redcurrant", 4, jar_kinds=("pint",)))
    kinds = [o.kind for o in whole.operations]
    assert "simmer" in kinds
    way = method("simmered_redcurrant")
    steps = edits.insert(way.steps, "sorted", "mash", way.begins_with)
    mashed = laid(replace(way, steps=steps), load("redcurrant", 4, jar_kinds=("pint",)))
    added = [p.lots["water_simmer"].mass_g.typ for p in (whole, mashed) if "water_simmer" in p.lots]
    assert len(added) < 2 or added[1] <= added[0]


@pytest.mark.parametrize("key", ["weighted_gooseberry", "simmered_redcurrant"])
def test_draining_and_straining_leave_liquid_behind(key: str) -> None:
    fruit = method(key).fruits[0]
    made = laid(key, load(fruit, 4, jar_kinds=("pint",)))
    left = [lot for lot in made.lots.values() if lot.kind in {"pomace", "loss"}]
    wet = [lot for lot in left if float(lot.mix.usual.water_g if hasattr(lot.mix, "usual") else 1)]
    assert wet
    assert sum(lot.mass_g.typ for lot in left) > 200


# -- jars


def test_a_jar_full_but_for_a_millilitre_is_full() -> None:
    pint = jars.kind("pint")
    assert not jars.part_filled(pint, pint.nominal_ml - 1)
    assert not jars.part_filled(pint, pint.nominal_ml - 12)
    assert jars.part_filled(pint, 0.6 * pint.nominal_ml)
    assert 0 <= jars.short_mm(pint, pint.nominal_ml - 12) < 6 < jars.short_mm(pint, 350)


def test_a_small_batch_takes_small_jars_where_there_are_any() -> None:
    stock = {"half_pint": 12, "pint": 30, "quart": 9}
    assert jars.usual(300, stock, 946)[0] == "half_pint"
    assert jars.usual(8000, stock, 946)[0] in {"pint", "quart"}
    assert jars.usual(300, {"pint": 30}, 946) == ("pint",)


def test_many_jars_are_boiled_in_as_many_loads_as_the_canner_needs() -> None:
    made = laid("pressed_apple", load("apple", 34, jar_kinds=("pint",)), a_kitchen(0.0))
    boils = [o for o in made.operations if kind(o.kind).role == "sterilise"]
    assert made.main.generous.count > 14
    assert len(boils) == made.main.expected.loads == -(-made.main.expected.count // 7)


def test_the_jars_are_clean_before_anything_is_hot() -> None:
    made = laid("pressed_apple", load("apple", 9, jar_kinds=("pint",)))
    roles = [kind(o.kind).role for o in made.operations]
    assert roles.index("sterilise") < roles.index("heat") < roles.index("fill")


def test_no_title_keeps_a_planned_count_of_jars() -> None:
    made = laid("steam_juiced", load("redcurrant", 4, jar_kinds=("pint",)))
    fill = step_of(made, "fill")
    what = kind(fill.kind)
    assert worded(what.words["title"], {**what.usual, **fill.params}) == "Fill the jars"


def test_glass_in_the_freezer_is_packed_to_its_room() -> None:
    brief = load("redcurrant", 6, keep="freeze", jar_kinds=("pint",))
    cold = laid("steam_juiced", replace(brief, ends=(End("fill", "chill", ("pint",)),)))
    frozen = laid("steam_juiced", brief)
    assert frozen.main.expected.count >= cold.main.expected.count
    for key in ("pint", "quart", "m500"):
        room = [jars.frozen_room_ml(jars.kind(key), swelling) for swelling in (6.0, 9.0)]
        assert room[1] <= room[0] < jars.kind(key).nominal_ml


def test_a_syrup_in_the_cold_keeps_as_a_syrup() -> None:
    steps = wiring.wire([{"kind": "press"}, {"kind": "stir_in", "takes": ["juice", "sugar"]},
                         {"kind": "fill"}])  # fmt: skip
    way = replace(method("pressed_apple"), key="x", steps=steps, fruits=(), inputs=())

    def kept(brix: float) -> Plan:
        sugar = Input("sugar", "sugar_white", Amount("target", target="brix", value=brix))
        given = (Input("fruit", "redcurrant", grams(3000)), sugar)
        return laid(way, Brief(given, (End("fill", "chill", ("pint",)),)))

    thin, thick = kept(14.0), kept(62.0)
    assert thick.main.product == "syrup"
    assert thin.main.product == "juice"
    assert thick.main.life.days_typ > thin.main.life.days_typ


def test_more_fruit_than_anybody_juices_is_refused_in_words() -> None:
    with pytest.raises(CoreError, match="fruit"):
        laid("steam_juiced", load("redcurrant", 900))
