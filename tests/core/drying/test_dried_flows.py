"""Flows that dry: trays, water and mass, what foams, what is dry enough, what it makes again."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from elderberry.core import keeping, storage
from elderberry.core.again import again
from elderberry.core.drying.air_dry import SHELF_WET
from elderberry.core.drying.dried import moisture
from elderberry.core.drying.freeze_dry import Cycle
from elderberry.core.errors import DoesNotConnect, DoesNotFit
from elderberry.core.flow import wiring
from elderberry.core.flow.inputs import Brief, End, Input, grams
from elderberry.core.flow.kinds import kind
from elderberry.core.kitchen import Canner, Dryer, FreezeDryer, Juicer, Kitchen, Vessel
from elderberry.core.method import method, methods
from elderberry.core.plan import Plan, plan

HERE = Kitchen(
    585, Juicer(10, 4, 1.8), Canner(7), 2.0, jar_stock={"pint": 60, "m330": 9},
    vessels=(Vessel("barrier", 1.0, 40), Vessel("bag", 1.0, 40)),
)  # fmt: skip
DRY = End("pack", "dry", ("barrier-1000",))
OWN = [m.key for m in methods().values() if any(kind(s.kind).role == "fill" and s.kind == "pack"
       for s in m.steps)]  # fmt: skip


def made(
    rows: Iterable[Mapping[str, Any]], fruit: str = "quince", kg: float = 3.0, end: End = DRY,
    where: Kitchen = HERE, more: tuple[Input, ...] = (), form: str = "whole",
) -> Plan:  # fmt: skip
    chosen = replace(method("steam_juiced"), steps=wiring.wire(rows), ends=(), inputs=())
    brief = Brief((Input("fruit", fruit, grams(1000 * kg), form=form), *more), (end,))
    return plan(chosen, brief, where)


def stops(found: Plan) -> list[str]:
    return [f.id for f in found.verdict.findings if f.level == "stop"]


Rows = list[dict[str, Any]]
SLICES: Rows = [{"kind": "slice_up"}, {"kind": "freeze_dry"}, {"kind": "pack"}]
IN_AIR: Rows = [{"kind": "slice_up"}, {"kind": "air_dry"}, {"kind": "condition"}, {"kind": "pack"}]
JUICE: Rows = [{"kind": "steam_juice"}, {"kind": "freeze_dry"}, {"kind": "grind"}, {"kind": "pack"}]


@settings(max_examples=25, deadline=None)
@given(
    st.floats(0.3, 30.0), st.sampled_from(["quince", "pear", "apple", "rhubarb"]),
    st.integers(1, 12), st.floats(200.0, 3000.0), st.sampled_from(["freeze_dry", "air_dry"]),
)  # fmt: skip
def test_mass_and_water_balance_on_every_tray(
    kg: float, fruit: str, trays: int, cm2: float, dries: str
) -> None:
    where = replace(
        HERE, freeze_dryer=FreezeDryer(trays, cm2), dryer=Dryer(trays, cm2),
        vessels=(Vessel("barrier", 1.0, 400),),
    )  # fmt: skip
    found = made([SLICES[0], {"kind": dries}, {"kind": "pack"}], fruit, kg, where=where)
    loads = [o for o in found.operations if o.kind == dries]
    for load in loads:
        dry, out = (found.lots[k] for k in load.gives)
        laid = load.params["tray_g"] * load.params["trays"]
        assert dry.mass_g.typ + out.mass_g.typ == pytest.approx(laid, rel=1e-6)
        assert load.params["trays"] <= trays
        assert load.params["water_g"] == pytest.approx(out.mass_g.typ)
        assert out.composition.first().mass_g == pytest.approx(out.composition.first().water)
    sliced = found.lots["slices"].mass_g.typ
    everything = sum(found.lots[k].mass_g.typ for o in loads for k in o.gives)
    assert everything == pytest.approx(sliced, rel=1e-6)
    last = found.lots[loads[0].gives[0]]
    if dries == "freeze_dry":
        wet = found.lots["slices"].composition.first()
        sweet = wet.sugars_g / (wet.mass_g - wet.water)
        assert [o.params["sugar_share"] for o in loads] == pytest.approx([sweet] * len(loads))
        assert moisture(last.composition.first()) == pytest.approx(0.03, abs=1e-6)
    else:
        assert moisture(last.composition.first()) <= SHELF_WET


def test_a_tray_is_no_deeper_than_it_is_and_takes_no_more_than_it_may() -> None:
    with pytest.raises(DoesNotFit, match="25 mm"):
        made([SLICES[0], {"kind": "freeze_dry", "params": {"mm": 25.0}}, SLICES[2]])
    heavy = replace(HERE, freeze_dryer=FreezeDryer(6, 5000.0, 20.0, 0.4))
    for load in made(SLICES, kg=4.0, where=heavy).operations:
        assert load.params.get("tray_g", 0.0) <= 400.0 + 1e-6


def test_juice_foams_until_something_carries_it_and_honey_makes_it_worse() -> None:
    honey = Input("honey", "honey", grams(500))
    bare = made(JUICE, "blackcurrant", 5.0, more=(honey,))
    assert stops(bare) == ["will-foam"]
    stop = next(f for f in bare.verdict.findings if f.id == "will-foam")
    needed = float(stop.change.removeprefix("line=").split()[0])
    carried = made(
        JUICE, "blackcurrant", 5.0,
        more=(honey, Input("carrier", "maltodextrin", grams(needed))),
    )  # fmt: skip
    assert stops(carried) == []
    warmer, colder = (
        next(o.params["collapse_c"] for o in p.operations if o.kind == "freeze_dry")
        for p in (carried, bare)
    )
    assert warmer > colder


def test_what_is_sweetened_is_sweetened_before_it_dries_unless_one_says_after() -> None:
    sugar = Input("sugar", "sugar_white", grams(200))
    before = made(JUICE, "blackcurrant", 5.0, more=(sugar,))
    order = [o.kind for o in before.operations]
    assert order.index("stir_in") < order.index("freeze_dry")
    ground = [*JUICE[:2], {"kind": "grind", "takes": ["dry", "sugar"]}, JUICE[3]]
    after = made(ground, "blackcurrant", 5.0, more=(sugar,))
    assert "stir_in" not in [o.kind for o in after.operations]
    assert after.main.filled.mass_g.typ > 190.0


def test_what_is_wet_is_not_packed_dry_nor_what_is_dry_canned() -> None:
    damp = [SLICES[0], {"kind": "air_dry", "params": {"left_pct": 24.0}}, {"kind": "pack"}]
    assert stops(made(damp)) == ["not-dry-enough"]
    assert stops(made(damp, end=replace(DRY, keep="freeze"))) == []
    assert "not-canned-loose" in stops(made(SLICES, end=End("pack", "shelf", ("pint",))))
    assert "not-canned-loose" in stops(
        made([{"kind": "pack"}], "gooseberry", end=End("pack", "shelf", ("pint",)))
    )
    with pytest.raises(DoesNotConnect):
        made([{"kind": "steam_juice"}, {"kind": "pack"}], "damson")
    with pytest.raises(DoesNotConnect):
        made([*SLICES[:2], {"kind": "fill"}])


def test_raw_elder_is_boiled_before_it_dries() -> None:
    raw = made([{"kind": "sort"}, *IN_AIR[1:]], "elderberry")
    assert "never-heated" in stops(raw)


def test_what_came_out_of_warm_air_is_evened_out_first() -> None:
    hasty = [IN_AIR[0], IN_AIR[1], IN_AIR[3]]
    said = {f.id for f in made(hasty, "pear").verdict.findings}
    assert "not-conditioned" in said
    assert "not-conditioned" not in {f.id for f in made(IN_AIR, "pear").verdict.findings}
    hot = [IN_AIR[0], {"kind": "air_dry", "params": {"air_c": 70.0}}, *IN_AIR[2:]]
    assert "case-hardens" in {f.id for f in made(hot, "pear").verdict.findings}


def test_every_method_of_drying_and_freezing_makes_a_sound_plan() -> None:
    assert len(OWN) >= 8
    for key in OWN:
        chosen = method(key)
        begins = chosen.forms[0]
        fruit = (chosen.fruits or (("herb_fresh",) if begins == "as_sold" else ("gooseberry",)))[0]
        brief = Brief(
            (Input("fruit", fruit, grams(2500.0), form=begins), *chosen.inputs),
            chosen.ends_for(()),
        )
        found = plan(chosen, brief, HERE)
        assert stops(found) == [], key
        assert found.main.expected.count + bool(found.main.expected.leftover_kind) > 0, key


@pytest.mark.parametrize(
    ("rows", "fruit", "label", "state"),
    [
        (SLICES, "quince", "Quince, dried slices", "freeze_dried_sealed"),
        (IN_AIR, "pear", "Pear, dried slices", "air_dried_sealed"),
        (JUICE, "rhubarb", "Rhubarb stalk powder", "freeze_dried_sealed"),
    ],
)
def test_it_is_called_and_keeps_as_what_it_is(
    rows: Rows, fruit: str, label: str, state: str
) -> None:
    carrier = (Input("carrier", "maltodextrin", grams(200)),) if rows is JUICE else ()
    found = made(rows, fruit, more=carrier).main
    assert keeping.label_of(found.contents) == label
    assert found.life == storage.dry_row(found.life.product)
    assert found.life.state == state


def test_water_back_for_water_out_makes_it_what_it_was() -> None:
    found = made(SLICES, "quince", 3.0)
    dry = again(found.main.contents)
    assert dry is not None
    sliced = found.lots["slices"].mass_g.typ
    assert dry.wet_g == pytest.approx(sliced, rel=1e-3)
    assert dry.dry_g * (1.0 + dry.water_g_per_g) == pytest.approx(dry.wet_g)
    assert dry.spoons == ()
    pulped: Rows = [{"kind": "simmer", "params": {"water": 0.3}}, {"kind": "mill"}, *JUICE[1:]]
    powder = again(made(pulped, "gooseberry").main.contents)
    assert powder is not None
    spoon = powder.spoons[0]
    assert spoon.water_ml == pytest.approx(powder.spoon_g * powder.water_g_per_g)
    assert [s.strength for s in powder.spoons] == ["as picked", "lighter", "stronger"]
    assert again(made([{"kind": "pack"}], end=replace(DRY, keep="freeze")).main.contents) is None


def test_a_machine_that_is_slow_is_known_after_five_loads() -> None:
    usual = next(o for o in made(JUICE, "damson").operations if o.kind == "freeze_dry")
    ran = tuple(
        Cycle(kg, mm, sugar, frozen=True, hours=1.3 * 24.0 * kg * (mm / 10.0) ** 1.5)
        for kg, mm, sugar in (
            (0.8, 10.0, 0.6), (1.0, 9.0, 0.7), (0.7, 12.0, 0.5), (0.9, 10.0, 0.7), (1.1, 8.0, 0.6)
        )
    )  # fmt: skip
    slow = replace(HERE, freeze_dryer=replace(HERE.freeze_dryer, cycles=ran))
    there = next(o for o in made(JUICE, "damson", where=slow).operations if o.kind == "freeze_dry")
    assert 1.15 < there.minutes.typ / usual.minutes.typ < 1.45
    wide = usual.minutes.hi / usual.minutes.lo
    assert there.minutes.hi / there.minutes.lo < wide
    assert there.params["cycles"] == 5


def test_a_kitchen_without_a_freeze_dryer_says_so_and_frames_stand_in_for_a_dryer() -> None:
    bare = replace(HERE, lacks=frozenset({"freeze_dryer", "dryer"}))
    assert stops(made(SLICES, where=bare)) == ["no-freeze-dryer"]
    assert stops(made(IN_AIR, "pear", where=bare)) == []
    assert "no-dryer" in {f.id for f in made(IN_AIR, "pear", where=bare).verdict.findings}


def test_frost_before_the_press_gives_a_little_more() -> None:
    pressed = [{"kind": "mash"}, {"kind": "press"}, {"kind": "heat_to"}, {"kind": "fill"}]
    end = End("fill", "shelf", ("pint",))
    fresh = made(pressed, "blackcurrant", end=end).main.litres.typ
    frosted = made([{"kind": "freeze_first"}, {"kind": "thaw"}, *pressed], "blackcurrant", end=end)
    assert fresh < frosted.main.litres.typ < 1.08 * fresh
    assert stops(frosted) == []


def test_loose_fruit_fills_bags_by_how_it_packs_and_is_not_frozen_twice() -> None:
    end = End("pack", "freeze", ("bag-1000",))
    found = made([{"kind": "pack"}], "gooseberry", 4.0, end)
    packs = 4000.0 / found.main.litres.typ / 1000.0
    assert 0.4 < packs < 0.8
    assert found.main.product == "whole"
    again_ = made([{"kind": "pack"}], "gooseberry", 4.0, end, form="frozen")
    assert "frozen-again" in {f.id for f in again_.verdict.findings}
    assert "frozen-again" not in {f.id for f in found.verdict.findings}


def test_powder_that_came_dry_is_made_again_as_its_fruit_is_fresh() -> None:
    chosen = method("powder_blend")
    first = Input("fruit", "blackcurrant", grams(100.0), form="powder")
    brief = Brief((first, *chosen.inputs), chosen.ends_for(()))
    found = plan(chosen, brief, HERE)
    assert stops(found) == []
    dry = again(found.main.contents)
    assert dry is not None
    assert dry.dry_g == pytest.approx(297.0, rel=0.01)
    assert 250.0 < dry.wet_g - dry.dry_g < 500.0
    assert found.main.life.product == "powder_or_slices"


def test_one_basket_becomes_slices_and_powder() -> None:
    chosen = method("slices_and_powder")
    brief = Brief((Input("fruit", "quince", grams(1900.0)),), chosen.ends_for(()))
    found = plan(chosen, brief, HERE)
    assert stops(found) == []
    assert [e.product for e in found.ends] == ["dried slices", "powder"]
    loads = [o.params for o in found.operations if o.kind == "freeze_dry"]
    assert [p["lies"] for p in loads] == ["slices", "flakes"]
    assert sum(p["trays"] for p in loads) <= HERE.freeze_dryer.trays


def test_a_glass_and_a_jug_of_it_are_as_strong_as_all_of_it() -> None:
    where = replace(HERE, vessels=(*HERE.vessels, Vessel("jug", 2.0, 1), Vessel("glass", 0.3, 4)))
    found = made(SLICES, where=where).main
    dry = again(found.contents, where.drunk_from_ml)
    assert dry is not None
    assert [p.ml for p in dry.pours] == [where.glass_ml, 2000.0]
    for poured in dry.pours:
        assert poured.dry_g + poured.water_g == pytest.approx(poured.ml)
        assert poured.water_g / poured.dry_g == pytest.approx(dry.water_g_per_g)


def test_a_tray_in_portions_is_one_glass_each_until_it_is_ground() -> None:
    rows: Rows = [
        {"kind": "steam_juice"}, {"kind": "freeze_dry", "params": {"portions": 12}},
        {"kind": "pack"},
    ]  # fmt: skip
    found = made(rows, "blackcurrant", 6.0)
    dry = next(o for o in found.operations if o.kind == "freeze_dry")
    each = float(dry.params["tray_g"]) / 12.0
    assert "12 portions of" in str(dry.params["divided"])
    back = again(found.ends[0].contents)
    assert back is not None
    assert back.portion is not None
    assert back.portions == pytest.approx(12 * dry.params["trays"] * dry.params["loads"], rel=0.01)
    assert 0.8 * each < back.portion.dry_g + back.portion.water_g <= each  # steam is not put back
    rows.insert(2, {"kind": "grind"})
    powder = again(made(rows, "blackcurrant", 6.0).ends[0].contents)
    assert powder is not None
    assert powder.portion is None
    assert powder.spoons
