"""What goes in as lines: read over HTTP, planned as they are said, and put right where misread."""

from __future__ import annotations

from typing import Any

import pytest

from tests.api.conftest import Kitchen
from tests.api.test_fruit_to_juice import sent


def lines(kitchen: Kitchen, *texts: str) -> Any:
    return sent(kitchen, "POST", "/lines", {"lines": list(texts)})


def planned(kitchen: Kitchen, *texts: str, **more: Any) -> Any:
    body = {"inputs": [{"line": text} for text in texts], **more}
    return sent(kitchen, "POST", "/plans", body)


def masses(plan: Any) -> dict[str, float]:
    return {i["key"]: round(i["mass_g"]["typ"]) for i in plan["inputs"]}


def test_lines_are_shown_back_as_what_they_were_understood_to_be(here: Kitchen) -> None:
    honey, mint, sugar = lines(here, "2 cups honey", "a handful of mint", "sugar to 46 Brix")
    assert (honey["material"], honey["how"], honey["amount"]) == ("honey", "amount", "2 cups")
    assert mint["called"] == "mint"
    assert mint["mass_g"]["lo"] == 3
    assert (sugar["target"], sugar["value"]) == ("brix", 46)
    assert {p["part"] for p in honey["places"]} == {"amount", "unit", "material"}


def test_a_line_that_cannot_be_read_says_where_and_what_to_choose(here: Kitchen) -> None:
    lemon, odd = lines(here, "1 cup lemon juice", "3 bananas")
    assert [c["line"] for c in lemon["wrong"]["choices"]] == [
        "1 cup bottled lemon juice", "1 cup fresh lemon juice",
    ]  # fmt: skip
    assert (odd["wrong"]["new_name"], odd["wrong"]["counts_as"]) == ("bananas", "unlisted_sweet")
    both = [{"line": "2 kg plums"}, {"line": "1 cup lemon juice"}]
    refused = sent(here, "POST", "/plans", {"inputs": both}, 422)
    assert refused["errors"][0]["pointer"] == "/inputs/1/line"


def test_what_no_list_knows_becomes_the_households_own_and_stays_off_the_shelf(
    here: Kitchen,
) -> None:
    named = sent(here, "POST", "/ingredients", {"name": "Moonberry ", "sour": True}, 201)
    assert named == [{"name": "moonberry", "material": "unlisted_sour"}]
    read = lines(here, "200 g moonberry")[0]
    assert (read["material"], read["called"]) == ("unlisted_sour", "moonberry")
    plan = planned(here, "4 kg damsons", "200 g moonberry")
    assert "ingredient-keeps-off-shelf" in {f["id"] for f in plan["findings"]}
    assert "Moonberry" in {i["name"] for i in plan["inputs"]}
    known = sent(here, "POST", "/ingredients", {"name": "honey"}, 422)
    assert known["errors"][0]["pointer"] == "/name"


def test_two_fruits_sugar_and_acid_are_planned_as_they_are_said(here: Kitchen) -> None:
    plan = planned(
        here, "7 kg blackcurrants", "1.5 kg pears, chopped", "sugar to 46 Brix",
        "2 tbsp bottled lemon juice to the litre", method_key="steam_juiced",
    )  # fmt: skip
    end = plan["ends"][0]
    assert end["brix"]["typ"] == pytest.approx(46, abs=0.4)
    assert masses(plan)["pear"] == 1500
    assert {i["said"] for i in plan["inputs"]} >= {"7 kg blackcurrants", "sugar to 46 Brix"}
    assert "pear" in plan["operations"][0]["takes"]
    stirred = next(o for o in plan["operations"] if o["kind"] == "stir_in")
    assert set(stirred["takes"]) >= {"sugar_white", "lemon_bottled"}


def test_what_is_written_down_takes_the_place_of_what_the_method_puts_in(here: Kitchen) -> None:
    own = planned(here, "7 kg aronia", method_key="fruit_syrup")
    mine = planned(here, "7 kg aronia", "1.2 kg sugar", method_key="fruit_syrup")
    assert {i["key"] for i in mine["inputs"]} == {i["key"] for i in own["inputs"]}
    assert masses(mine)["sugar"] == 1200
    said = {i["said"]: i["instead_of"] for i in mine["inputs"]}
    assert said == {"7 kg aronia": "", "1.2 kg sugar": "sugar to 60 Brix"}
    assert mine["ends"][0]["brix"]["hi"] < 45


def test_two_targets_hold_together(here: Kitchen) -> None:
    plan = planned(
        here, "6 kg apples", "sugar to 40 Brix", "citric acid to pH 3.2", method_key="steamed_apple"
    )
    end = plan["ends"][0]
    assert end["brix"]["typ"] == pytest.approx(40, abs=0.1)
    assert end["ph"]["typ"] == pytest.approx(3.2, abs=0.02)


def test_spice_is_warmed_with_the_juice_and_leaves_again(here: Kitchen) -> None:
    plan = planned(here, "5 kg damsons", "3 sticks cinnamon", "20 g ginger, sliced")
    scent = next(o for o in plan["operations"] if o["kind"] == "scent")
    assert scent["takes"][-2:] == ["spice_whole", "ginger_fresh"]
    assert "cinnamon" in scent["title"]
    out = next(lot for lot in plan["lots"] if lot["key"] == "taken_out")
    assert out["mass_g"]["typ"] > 10
    assert plan["may_start"]


def test_spice_simmers_with_fruit_that_simmers(here: Kitchen) -> None:
    plan = planned(here, "3 kg rhubarb", "1 stick cinnamon", "1 l water, with the fruit",
                   method_key="rhubarb_simmered")  # fmt: skip
    simmer = next(o for o in plan["operations"] if o["kind"] == "simmer")
    assert set(simmer["takes"]) == {"fruit", "water", "spice_whole"} or "sorted" in simmer["takes"]
    assert "cinnamon" in simmer["before"]
    assert sum(lot["kind"] == "water" for lot in plan["lots"]) == 1


def test_something_in_each_jar_joins_at_the_filling(here: Kitchen) -> None:
    plan = planned(here, "5 kg redcurrants", "1 bay leaf to each jar")
    fill = next(o for o in plan["operations"] if o["kind"] == "fill")
    assert "spice_whole" in fill["takes"]
    assert "bay leaf" in fill["before"]
    count = plan["ends"][0]["expected"]["count"]
    assert masses(plan)["spice_whole"] == pytest.approx(0.2 * count, abs=1.5)


def test_fresh_leaves_left_in_the_jar_keep_it_off_the_shelf(here: Kitchen) -> None:
    plan = planned(here, "5 kg redcurrants", "2 sprigs mint in each jar")
    assert "fresh-left-in" in {f["id"] for f in plan["findings"]}


def test_no_taste_stands_for_a_dose(here: Kitchen) -> None:
    plain = planned(here, "4 kg pears", method_key="steam_juiced")
    sour = planned(here, "4 kg pears", "citric acid to taste", method_key="steam_juiced")
    assert "ph-reading-needed" in {f["id"] for f in plain["findings"]}
    assert "ph-reading-needed" in {f["id"] for f in sour["findings"]}


def test_a_lot_that_came_in_is_spoken_of_without_its_name(here: Kitchen) -> None:
    lot = sent(here, "POST", "/lots", {"line": "18 quinces"}, 201)
    body = {"inputs": [{"line": "12", "lot_id": lot["id"]}]}
    assert masses(sent(here, "POST", "/plans", body))["fruit"] == 3000
    body = {"inputs": [{"line": "the rest", "lot_id": lot["id"]}]}
    assert masses(sent(here, "POST", "/plans", body))["fruit"] == 4500
    refused = sent(here, "POST", "/plans", {"inputs": [{"line": "the rest of the plums"}]}, 422)
    assert "The rest of how much" in refused["detail"]


def marked(kitchen: Kitchen, scale: str, value: float, *texts: str, **more: Any) -> Any:
    plan = {"inputs": [{"line": text} for text in texts], **more}
    return sent(kitchen, "POST", "/plans/marks", {"plan": plan, "scale": scale, "value": value})


def value_of(plan: Any, scale: str) -> float:
    found = next(s for s in plan["ends"][0]["scales"] if s["key"] == scale)
    return float(found["value"]["typ"])


@pytest.mark.parametrize(
    ("scale", "value", "near", "words"),
    [
        ("sweet", 46.0, 0.2, "sugar to 46 Brix"),
        ("sweet", 9.0, 0.2, "water to 9 Brix"),
        ("ph", 2.7, 0.03, "citric acid to pH 2.70"),
        ("sharp", 35.0, 0.3, "citric acid to 35 g/l acid"),
        ("ratio", 14.0, 0.5, "sugar to"),
        ("thick", 40.0, 2.0, "sugar to"),
    ],
)
def test_a_mark_is_served_by_a_line_that_gets_there(
    here: Kitchen, scale: str, value: float, near: float, words: str
) -> None:
    fruit = "5 kg damsons"
    found = marked(here, scale, value, fruit)
    assert not found["refused"]
    assert found["line"].startswith(words)
    plan = planned(here, fruit, found["line"])
    assert value_of(plan, scale) == pytest.approx(value, abs=near)


def test_a_second_mark_takes_the_place_of_the_first_and_two_stand_together(here: Kitchen) -> None:
    fruit = "5 kg apples"
    again = marked(here, "sweet", 30, fruit, "honey to 20 Brix")
    assert (again["line"], again["replaces"]) == ("honey to 30 Brix", 1)
    sour = marked(here, "ph", 3.2, fruit, "honey to 30 Brix")
    assert (sour["line"], sour["replaces"]) == ("citric acid to pH 3.20", None)
    plan = planned(here, fruit, "honey to 30 Brix", sour["line"])
    assert value_of(plan, "sweet") == pytest.approx(30, abs=0.2)
    assert value_of(plan, "ph") == pytest.approx(3.2, abs=0.03)


def test_what_cannot_be_reached_says_why_and_gives_the_nearest(here: Kitchen) -> None:
    found = marked(here, "ph", 4.2, "5 kg damsons")
    assert "acid does not come out again" in found["refused"]
    assert found["nearest"] == pytest.approx(3.0, abs=0.1)


def test_a_recipe_is_worked_back_from_jars_and_from_litres(here: Kitchen) -> None:
    texts = ("7 kg blackcurrants", "sugar to 40 Brix")
    for count in (1, 12, 40):
        goal = {"by": "jars", "count": count, "jar": "half_pint"}
        plan = planned(here, *texts, goal=goal)
        packed = plan["ends"][0]["expected"]
        stock = plan["ends"][0]["stock"]
        assert packed["count"] == min(count, stock)
        assert packed["unplaced_ml"] + packed["part_ml"] < 10 or stock < count
    plan = planned(here, *texts, goal={"by": "litres", "count": 3.5})
    assert plan["ends"][0]["litres"]["typ"] == pytest.approx(3.5, rel=0.01)
    assert next(i for i in plan["inputs"] if i["key"] == "fruit")["said"] == texts[0]


def test_as_much_as_came_in_names_what_runs_out_first(here: Kitchen) -> None:
    for fruit, amount in (("damson", "6 kg"), ("pear", "0.5 kg")):
        sent(here, "POST", "/lots", {"line": f"{amount} {fruit}"}, 201)
    plan = planned(here, "2 kg damsons", "400 g pears", all_there_is=True)
    assert masses(plan) == {"fruit": 2500, "pear": 500}
    assert [i["key"] for i in plan["inputs"] if i["runs_out"]] == ["pear"]
    nothing = sent(here, "POST", "/plans", {"inputs": [{"line": "2 kg aronia"}],
                                            "all_there_is": True}, 422)  # fmt: skip
    assert "take it in first" in nothing["detail"]


def test_of_a_lot_that_was_chosen_there_is_as_much_as_came_in_with_it(here: Kitchen) -> None:
    lots = [sent(here, "POST", "/lots", {"line": f"{kg} kg damsons"}, 201) for kg in (6, 4)]
    for lot, kilos in zip(lots, (6, 4), strict=True):
        asked = [{"line": "2 kg damsons", "lot_id": lot["id"]}, {"line": "100 g sugar"}]
        plan = sent(here, "POST", "/plans", {"inputs": asked, "all_there_is": True})
        assert list(masses(plan).values()) == [1000 * kilos, 50 * kilos]
    both = planned(here, "2 kg damsons", "100 g sugar", all_there_is=True)
    assert masses(both)["fruit"] == 10_000


def test_only_a_range_that_changes_something_is_said_to_matter(here: Kitchen) -> None:
    plan = planned(here, "30 cups damsons", "a pinch of salt")
    assert {i["key"]: i["matters"] for i in plan["inputs"]} == {"fruit": True, "salt": False}


def test_a_base_says_how_it_is_thinned(here: Kitchen) -> None:
    strong = planned(here, "5 kg blackcurrants", "sugar to 46 Brix")["ends"][0]["servings"]
    water = next(s for s in strong if s["diluent"] == "water")
    assert 3 < water["parts"] < 6
    assert water["base_ml"] * (1 + water["parts"]) == pytest.approx(water["glass_ml"])
    assert not planned(here, "5 kg pears", method_key="steam_juiced")["ends"][0]["servings"][1:2]


def test_what_a_method_puts_in_can_be_left_out(here: Kitchen) -> None:
    with_it = planned(here, "4 kg rhubarb", method_key="rhubarb_honey")
    assert "honey" in masses(with_it)
    assert next(i["said"] for i in with_it["inputs"] if i["key"] == "honey") == (
        "130 g honey to the litre"
    )
    without = planned(here, "4 kg rhubarb", method_key="rhubarb_honey", without=["honey"])
    assert "honey" not in masses(without)


@pytest.mark.parametrize("fruit", ["pears", "plums", "blackberries", "sweet cherries"])
def test_a_kitchen_without_a_meter_is_offered_a_dose_that_opens_the_canner(
    here: Kitchen, fruit: str
) -> None:
    first = f"5 kg {fruit}"
    plan = planned(here, first, method_key="steam_juiced")
    stop = next(f for f in plan["ends"][0]["findings"] if f["id"] == "ph-reading-needed")
    what, _, line = stop["change"].partition("=")
    assert what == "line"
    assert "into each jar first" in stop["remedy"]
    with_it = planned(here, first, line, method_key="steam_juiced")
    assert "ph-reading-needed" not in {f["id"] for f in with_it["findings"]}
    ml = float(line.split()[0])
    less = planned(here, first, f"{0.9 * ml:.0f} ml bottled lemon juice", method_key="steam_juiced")
    assert "ph-reading-needed" in {f["id"] for f in less["findings"]}
    assert ml >= 32 * plan["ends"][0]["litres"]["typ"]


def test_no_dose_is_offered_for_what_was_read_too_mild(here: Kitchen) -> None:
    body = {"inputs": [{"line": "5 kg pears", "ph": 4.5}], "method_key": "steam_juiced"}
    plan = sent(here, "POST", "/plans", body)
    stops = {f["id"]: f["change"] for f in plan["ends"][0]["findings"]}
    assert not any(change.startswith("line=") for change in stops.values())
