"""Ends: jars, the household's own vessels, plain caps, what is drunk now, what is kept apart."""

from __future__ import annotations

from dataclasses import replace

import pytest

from elderberry.core import jars, scaling
from elderberry.core.batch.standing import words
from elderberry.core.containers import vessel_key, vessel_types
from elderberry.core.ends import mixed
from elderberry.core.errors import Unknown
from elderberry.core.flow import wiring
from elderberry.core.flow.inputs import Brief, End, Input, grams
from elderberry.core.flow.kinds import kind
from elderberry.core.kitchen import Canner, Juicer, Kitchen, Vessel
from elderberry.core.method import method, of_row, row_of, unnamed
from elderberry.core.plan import Plan, plan

VESSELS = (
    Vessel("jug", 2.0, 3, full=1), Vessel("box", 1.0, 8), Vessel("squeeze", 0.5, 4),
    Vessel("pot", 9.0), Vessel("glass", 0.3),
)  # fmt: skip
HERE = Kitchen(
    585, Juicer(10, 4, 1.8), Canner(7), 2.0, jar_stock={"pint": 4, "m330": 9},
    jars_there={"pint": 30, "m330": 9}, vessels=VESSELS,
)  # fmt: skip


def ending(end: End, fruit: str = "damson", kg: float = 6.0, where: Kitchen = HERE) -> Plan:
    brief = Brief((Input("fruit", fruit, grams(1000 * kg)),), (end,))
    return plan(method("steam_juiced"), brief, where)


def stops(made: Plan) -> list[str]:
    return [f.id for f in made.main.verdict.stops]


@pytest.mark.parametrize("what", list(vessel_types()))
@pytest.mark.parametrize("litres", [0.25, 1.0, 4.5])
def test_any_vessel_of_any_size_is_a_container(what: str, litres: float) -> None:
    jar = jars.kind(vessel_key(what, litres))
    assert jar.brim_ml == pytest.approx(1000 * litres)
    assert jar.nominal_ml < jar.brim_ml
    assert jar.process_as_ml is None
    area = 3.14159 * jar.inner_radius_mm**2
    assert area * jar.inner_height_mm / 1000 == pytest.approx(jar.brim_ml, rel=1e-4)


@pytest.mark.parametrize("key", ["jug", "jug-", "jug-9", "vat-2000", "jug-2e3", "jug-900000", ""])
def test_what_is_no_vessel_is_unknown(key: str) -> None:
    with pytest.raises(Unknown):
        jars.kind(key)


def test_a_vessel_is_named_in_the_units_of_its_kitchen() -> None:
    assert jars.kind("jug-2000").named("metric") == "2 l jug"
    assert jars.kind("jug-2000").named("us") == "2 quart jug"
    assert jars.kind("bowl-5000").named("us") == "5 1/4 quart bowl"
    assert jars.kind("jug-1500").named("imperial") == "2 5/8 pint jug"


def test_what_is_empty_is_filled_and_what_is_full_is_not() -> None:
    assert HERE.ready("chill")["jug-2000"] == 2
    assert "jug-2000" not in HERE.ready("freeze")
    assert "glass-300" not in HERE.ready("chill")
    assert HERE.ready("shelf") == {"pint": 4, "m330": 9}


def test_jugs_are_filled_for_the_refrigerator() -> None:
    made = ending(End(keep="chill", jar_kinds=("jug-2000",)))
    packing = made.main.expected
    assert stops(made) == []
    assert packing.jars == {"jug-2000": 1}
    assert packing.leftover_kind == "jug-2000"
    fill = next(o for o in made.operations if kind(o.kind).role == "fill")
    assert fill.params["fill_title"] == "Fill the jugs"
    assert not any(kind(o.kind).role == "process" for o in made.operations)


def test_a_frozen_box_keeps_room_for_its_ice() -> None:
    made = ending(End(keep="freeze", jar_kinds=("box-1000",)))
    assert stops(made) == []
    assert made.main.room_ml(jars.kind("box-1000")) <= 1000 / 1.08
    assert made.main.expected.count >= 3


def test_soft_bottles_are_not_filled_hot() -> None:
    made = ending(End(keep="chill", jar_kinds=("squeeze-500",)))
    fill = next(o for o in made.operations if kind(o.kind).role == "fill")
    assert "softens" in fill.params["fill_words"]
    assert fill.params["fill_title"] == "Fill the squeeze bottles"


@pytest.mark.parametrize(
    ("end", "stop"),
    [
        (End(keep="freeze", jar_kinds=("jug-2000",)), "open-never-frozen"),
        (End(keep="freeze", jar_kinds=("m330",)), "glass-never-frozen"),
        (End(keep="shelf", jar_kinds=("jug-2000",)), "never-seals"),
        (End(keep="shelf", jar_kinds=("box-1000", "pint")), "never-seals"),
        (End(keep="shelf", jar_kinds=("pint",), closure="cap"), "never-seals"),
    ],
)
def test_what_a_vessel_or_cap_cannot_do_is_stopped(end: End, stop: str) -> None:
    assert stop in stops(ending(end))
    assert not ending(end).main.verdict.may_start


def test_plain_caps_need_no_new_lids() -> None:
    lids = ending(End(keep="chill", jar_kinds=("pint",)))
    caps = ending(End(keep="chill", jar_kinds=("pint",), closure="cap"))
    assert lids.main.generous.unplaced_ml > 0
    assert caps.main.generous.unplaced_ml == 0
    assert stops(caps) == []


def test_a_household_without_lids_fills_what_it_has() -> None:
    bare = replace(HERE, jar_stock={}, jars_there={})
    assert ending(End(keep="chill"), where=bare).main.expected.count > 0


def test_what_is_drunk_now_takes_no_jars_and_is_not_kept() -> None:
    made = ending(End(keep="now"))
    assert made.main.expected.count == 0
    assert made.main.expected.unplaced_ml == 0
    assert stops(made) == []
    last = made.operations[-1]
    assert kind(last.kind).role == "fill"
    assert words(_Stored(last.kind, last.params), "title") == "Pour it out"  # type: ignore[arg-type]
    assert made.main.life.days_hi < 10


class _Stored:
    """An operation as its words ask of it."""

    def __init__(self, kind_: str, params: object) -> None:
        self.kind, self.params = kind_, params


def test_raw_elder_is_not_drunk_now_either() -> None:
    cold = wiring.wire([{"kind": k} for k in ("mash", "press", "strain", "fill")])
    elder = Brief((Input("fruit", "elderberry", grams(3000)),), (End(keep="now"),))
    assert "never-heated" in stops(plan(unnamed(cold), elder, HERE))
    damson = Brief((Input("fruit", "damson", grams(3000)),), (End(keep="now"),))
    assert stops(plan(unnamed(cold), damson, HERE)) == []


def test_lids_have_the_colours_that_there_are() -> None:
    assert ending(End(lid="red")).main.end.lid == "red"
    with pytest.raises(Unknown):
        ending(End(lid="mauve"))


# -- kept apart until they are used


def apart(**asked: object) -> Plan:
    chosen = method("grapefruit_apart")
    end = End(key="fill", keep="", **asked)  # type: ignore[arg-type]
    inputs = (Input("fruit", "grapefruit", grams(4000)), *chosen.inputs)
    return plan(chosen, Brief(inputs, chosen.ends_for((end,))), HERE)


def test_a_base_and_its_juice_are_kept_apart_each_with_its_own_life() -> None:
    juice, base = apart().ends
    assert (juice.keep, base.keep) == ("freeze", "chill")
    assert juice.end.used_with == base.end.key
    assert base.product == "Sharp grapefruit base"
    assert juice.life.days_typ > 30 * base.life.days_typ
    together = mixed(juice, base)
    assert together.life.days_typ < base.life.days_typ
    assert together.parts == pytest.approx(base.litres.typ / juice.litres.typ)


def test_mixed_sour_and_sweet_lie_between_the_two() -> None:
    juice, base = apart().ends
    one, other, both = (c.usual.brix for c in (juice.contents, base.contents,
                                                mixed(juice, base).contents))  # fmt: skip
    assert min(one, other) < both < max(one, other)


def test_what_is_asked_goes_over_what_a_method_says() -> None:
    assert apart(jar_kinds=("box-1000",)).ends[0].expected.jars
    chosen = method("grapefruit_apart")
    said = chosen.ends_for((End("fill", "now"), End("fill_2", "", lid="blue")))
    assert [(e.keep, e.lid, e.used_with) for e in said] == [
        ("now", "", "fill_2"),
        ("chill", "blue", ""),
    ]
    assert method("steam_juiced").ends_for(()) == (End(),)


def test_a_method_keeps_its_ends_in_store() -> None:
    chosen = method("grapefruit_apart")
    assert of_row(row_of(chosen)) == chosen


# -- a recipe of one's own


def test_a_recipe_is_its_proportions() -> None:
    honey = Input("honey", "honey", grams(900, "900 g honey"))
    lemon = Input("lemon", "lemon_bottled", grams(60))
    brief = Brief((Input("fruit", "rhubarb", grams(6000, "6 kg rhubarb")), honey, lemon))
    sweet, sour = scaling.as_recipe(brief)
    assert sweet.amount.share == pytest.approx(0.15)
    assert sweet.amount.of == "fruit"
    assert sweet.amount.said == "900 g honey to 6 kg rhubarb"
    half = Brief((Input("fruit", "rhubarb", grams(3000)), sweet, sour))
    made = plan(method("rhubarb_simmered"), half, HERE)
    assert made.holds_g["honey"] == pytest.approx(450, rel=0.01)
