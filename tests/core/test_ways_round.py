"""Ways round the tables, each tried and found shut."""

from __future__ import annotations

from dataclasses import replace

import pytest

from elderberry.core import materials
from elderberry.core.flow import edits, wiring
from elderberry.core.flow.inputs import Brief, End, Input, grams
from elderberry.core.flow.kinds import kind
from elderberry.core.flow.seen import Seen
from elderberry.core.kitchen import Canner
from elderberry.core.method import Method, method
from elderberry.core.plan import Plan, plan
from elderberry.core.process import Contents, Lookup, look_up
from tests.briefs import a_kitchen, filled, load

PINT, QUART = 473.0, 946.0


def ask(contents: Contents, jar_ml: float = PINT, **more: object) -> Lookup:
    return look_up(contents, jar_ml, a_kitchen(585.0), **more)  # type: ignore[arg-type]


def stops(found: Lookup) -> set[str]:
    return {s.id for s in found.stops}


def planned(made: Method | str, brief: Brief, **more: object) -> Plan:
    chosen = method(made) if isinstance(made, str) else made
    return plan(chosen, brief, a_kitchen(585.0), **more)  # type: ignore[arg-type]


def stopped(made: Plan) -> set[str]:
    return {s.id for s in made.main.verdict.stops}


@pytest.mark.parametrize("sugar_g", [0, 100, 300, 800])
def test_sugar_lifts_no_stop_of_a_high_reading(sugar_g: float) -> None:
    """Apple at pH 4.5 to 20 °Bx, sweet cherry at 4.6 to 50 °Bx: the fruit was read too mild."""
    for fruit, ph in (("apple", 4.5), ("cherry_sweet", 4.6)):
        sweet = filled((fruit, 1000), ("sugar_white", max(sugar_g, 1)), meter=ph)
        assert "ph-too-high" in stops(ask(sweet)), fruit


@pytest.mark.parametrize("also", ["sugar_white", "honey", "water", "redcurrant"])
def test_what_joins_later_lifts_no_stop_of_a_high_reading(also: str) -> None:
    inputs = (Input("fruit", "cherry_sweet", grams(4000)), Input("more", also, grams(400)))
    brief = Brief(inputs, (End("fill", "shelf", ("pint",)),))
    made = planned("steam_juiced", brief, seen={"juice-1": Seen(meter=(4.6,))})
    assert "ph-too-high" in stopped(made)


def test_no_meter_gate_opens_as_a_juice_grows_sweeter() -> None:
    minutes = []
    for brix_sugar in (0, 150, 280, 330, 480, 600):
        found = ask(filled(("cherry_sweet", 1000), ("sugar_white", max(brix_sugar, 1))))
        assert "ph-reading-needed" in stops(found), brix_sugar
        read = ask(filled(("cherry_sweet", 1000), ("sugar_white", max(brix_sugar, 1)), meter=3.9))
        minutes += [read.time.minutes] if read.time else []
    assert minutes[1:] == sorted(minutes[1:])


def test_a_load_read_too_mild_is_outlived_by_no_other_load() -> None:
    brief = load("cherry_sweet", 12, jar_kinds=("pint",))
    calm = {f"juice-{n}": Seen(meter=(3.8,)) for n in (1, 2, 3)}
    assert "ph-too-high" not in stopped(planned("steam_juiced", brief, seen=calm))
    one_high = {**calm, "juice-1": Seen(meter=(4.6,))}
    assert "ph-too-high" in stopped(planned("steam_juiced", brief, seen=one_high))
    typed = replace(brief.main, ph=None)
    assert typed == brief.main
    typed_low = load("cherry_sweet", 12, jar_kinds=("pint",), ph=None)
    assert "ph-too-high" in stopped(planned("steam_juiced", typed_low, seen=one_high))


def test_of_two_halves_the_unheated_one_stays_unheated() -> None:
    chosen = method("steam_juiced")
    parted = edits.insert(chosen.steps, "juice", "split", chosen.begins_with)
    assert set(wiring.lot_kinds(parted, chosen.begins_with))
    fresh = filled(("elderberry", 900, "juice"), heated_c=20.0)
    hot = filled(("elderberry", 900, "juice"), heated_c=100.0, boiled_min=20.0)
    mixed = Contents(
        replace(fresh.lot, origins={**fresh.lot.origins, **hot.lot.mix.portion(0.5, 0.5).origins})
    )
    for contents in (fresh, mixed):
        assert ask(contents).time is None


def test_raw_elder_is_poisonous_whatever_is_drained_round_its_boiling() -> None:
    raw = filled(("elderberry", 300, "juice"), ("redcurrant", 800), heated_c=90.0)
    assert stops(ask(raw)) & {"fruit-never", "product-untested"}
    assert ask(raw).time is None


def test_a_few_berries_in_much_water_are_no_jar_of_berries() -> None:
    for berries, fine in ((50, False), (120, False), (700, True)):
        jar = filled(("redcurrant", berries, "whole"), ("water", 950 - berries))
        assert (ask(jar).time is not None) is fine, berries
    assert "too-little-fruit" in stops(ask(filled(("redcurrant", 50, "whole"), ("water", 900))))


def test_a_berry_puree_is_no_jar_of_whole_berries() -> None:
    puree = ask(filled(("redcurrant", 900, "puree")))
    assert puree.product == "fruit_puree"
    assert ask(filled(("redcurrant", 900))).product == "berry_or_fruit_juice"


def test_grapes_in_the_jar_take_their_own_row() -> None:
    jar = filled(("grape_table", 700, "whole"), ("water", 250), ("sugar_white", 80))
    assert ask(jar, QUART).product == "whole_grapes"


def test_calyces_have_no_row() -> None:
    tea = filled(("hibiscus_dried", 40, "dried"), ("water", 900), ("citric_acid", 8))
    assert ask(tea).time is None
    beside = filled(("hibiscus_dried", 40, "dried"), ("apple", 900))
    assert ask(beside).time is None


NEVER = sorted(k for k, f in materials.fruits().items() if f.ph_risk == "never" and f.brix)


@pytest.mark.parametrize("fruit", NEVER)
def test_bought_juice_of_a_fruit_without_a_process_has_none(fruit: str) -> None:
    juice = ask(filled((fruit, 1000, "juice"), ("citric_acid", 10)))
    assert juice.time is None
    assert stops(juice) & {"fruit-never", "product-untested"}


def test_lemon_and_puree_and_berry_syrup_take_their_own_rows() -> None:
    lemon = ask(filled(("lemon", 900), ("sugar_white", 900)))
    assert lemon.product == "citrus_concentrate"
    berry = ask(filled(("raspberry", 900), ("sugar_white", 1300)))
    assert berry.product == "berry_syrup"
    thick = ask(filled(("plum", 900, "puree"), ("sugar_white", 150), meter=3.6))
    assert thick.product == "fruit_puree"
    for found in (lemon, berry, thick):
        assert found.time is not None


def test_pulp_and_water_escape_no_check() -> None:
    murky = filled(("redcurrant", 300, "puree"), ("sugar_white", 2000))
    assert "juice-not-strained" in stops(ask(murky)) or ask(murky).product == "fruit_puree"
    tea = filled(("apple", 60), ("water", 1200))
    assert ask(tea).time is None
    assert "ph-cannot-be-told" in stops(ask(tea))


def test_a_short_process_never_goes_without_sterilised_jars() -> None:
    chosen = method("pressed_apple")
    without = replace(chosen, steps=tuple(s for s in chosen.steps if s.kind != "sterilise"))
    brief = load("apple", 8, jar_kinds=("pint",))
    for metres in (0.0, 585.0, 2500.0):
        made = plan(without, brief, a_kitchen(metres))
        assert made.main.process_time is not None
        boiled = any(kind(o.kind).role == "sterilise" for o in made.operations)
        assert boiled or "jars-not-sterilised" in stopped(made), metres


def test_fresh_lemon_that_makes_it_sour_enough_is_a_stop() -> None:
    said = frozenset({"acid_makes_it_safe"})
    brief = load("plum", 4, jar_kinds=("pint",), ingredients_g={"lemon_fresh": 60}, said=said)
    assert "fresh-citrus-makes-it-safe" in stopped(planned("steam_juiced", brief))


def test_sixty_brix_read_in_the_pot_is_no_juice_in_quarts() -> None:
    brief = load("damson", 4, jar_kinds=("quart",))
    calm = planned("steam_juiced", brief)
    assert calm.main.process_time is not None
    thick = planned("steam_juiced", brief, seen={"juice-1": Seen(brix=60.0)})
    found = thick.main.found
    assert found.product != calm.main.found.product
    assert found.time is None or found.time.row.largest_jar_ml >= QUART
    assert not {r.product for r in found.rows} & {"berry_or_fruit_juice"}


def test_a_steam_canner_never_takes_more_than_its_water_lasts() -> None:
    high = look_up(
        filled(("damson", 900, "whole"), ("water", 300)), QUART,
        replace(a_kitchen(2900.0), canner=Canner(7, heater="steam")),
    )  # fmt: skip
    for found in (high,):
        assert found.time is None or found.time.minutes <= 45 or found.stops
