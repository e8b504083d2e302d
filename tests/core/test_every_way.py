"""Every fruit has a way in every form, and every tested row is reached by a method that ships."""

from __future__ import annotations

import pytest

from elderberry.core import materials, method
from elderberry.core.flow.inputs import Brief, End, Input, grams
from elderberry.core.method import Method
from elderberry.core.plan import Plan, plan
from elderberry.core.process.rows import process_rows
from tests.briefs import a_kitchen

KITCHEN = a_kitchen(585, jar_stock={"pint": 90, "quart": 40, "half_gallon": 20})
GROWN = ("whole", "frozen", "sliced", "chopped", "crushed", "puree", "juice", "dried", "pomace")


def planned(chosen: Method, fruit: str, form: str, jar: str = "pint", keep: str = "shelf") -> Plan:
    first = Input("fruit", fruit, grams(5000), form)
    return plan(chosen, Brief((first, *chosen.inputs), (End("fill", keep, (jar,)),)), KITCHEN)


def ways(fruit: materials.Fruit, form: str) -> list[Method]:
    return [m for m in method.methods().values() if form in m.forms and m.suits(fruit)]


@pytest.mark.parametrize("fruit", materials.fruits().values(), ids=lambda f: f.key)
def test_no_fruit_ends_in_an_empty_page(fruit: materials.Fruit) -> None:
    for form in ("dried",) if fruit.brix is None else GROWN:
        found = ways(fruit, form)
        assert found, f"{fruit.key} {form}"
        for chosen in found:
            assert planned(chosen, fruit.key, form, keep="freeze").ends


@pytest.mark.parametrize(
    ("fruit", "way"),
    [
        ("blackcurrant", "steam"), ("blackcurrant", "drain"), ("blackcurrant", "press"),
        ("blackcurrant", "weight"), ("blackcurrant", "steep"), ("lemon", "press"),
        ("quince", "steam"), ("quince", "drain"), ("medlar", "drain"), ("grape_table", "press"),
    ],
)  # fmt: skip
def test_general_methods_ask_for_a_nature_and_no_name(fruit: str, way: str) -> None:
    general = [m for m in ways(materials.fruit(fruit), "whole") if not m.fruits]
    assert way in {m.way for m in general}


def test_every_tested_row_but_jelly_is_reached() -> None:
    reached = set()
    for chosen in method.methods().values():
        suited = (f for f in materials.fruits().values() if f.brix and chosen.suits(f))
        fruits = () if chosen.forms[0] == method.NO_FRUIT else suited
        for fruit in fruits:
            for jar in ("pint", "quart", "half_gallon"):
                found = planned(chosen, fruit.key, chosen.forms[0], jar)
                reached |= {e.process_time.row.key for e in found.ends if e.process_time}
    rows = {r.key for r in process_rows() if r.evidence != "none" and r.product != "jelly"}
    assert rows <= reached


@pytest.mark.parametrize(
    ("key", "row", "brix"),
    [
        ("quince_apple", "berry_or_fruit_juice", (7, 10)),
        ("redcurrant_raspberry", "berry_or_fruit_juice", (8, 11)),
        ("blackcurrant_lemon", "citrus_concentrate", (37, 39)),
        ("grapefruit_lemon", "citrus_concentrate", (35, 37)),
        ("gooseberry_puree", "fruit_puree", (18, 23)),
        ("apple_sauce", "applesauce", (10, 14)),
        ("quince_puree", "fruit_puree", (13, 20)),
        ("damson_spiced", "berry_or_fruit_juice", (11, 15)),
        ("aronia_ginger", "berry_or_fruit_juice", (17, 23)),
        ("rhubarb_honey", "berry_or_fruit_juice", (9, 15)),
        ("berry_syrup", "berry_syrup", (59, 61)),
    ],
)  # fmt: skip
def test_our_recipes_are_what_they_say(key: str, row: str, brix: tuple[float, float]) -> None:
    chosen = method.method(key)
    found = planned(chosen, chosen.fruits[0], chosen.forms[0])
    end = found.main
    assert found.verdict.may_start, [s.id for s in found.verdict.stops]
    assert end.process_time is not None
    assert end.process_time.row.product == row
    assert end.filled.figures.brix is not None
    assert brix[0] <= end.filled.figures.brix.typ <= brix[1]


def test_one_base_becomes_two_products() -> None:
    chosen = method.method("blackcurrant_two_ways")
    plain, mixed = planned(chosen, "blackcurrant", "whole").ends
    assert {f.key for f in plain.filled.fruits} == {"blackcurrant"}
    assert {f.key for f in mixed.filled.fruits} == {"blackcurrant", "apple"}
    assert mixed.litres.typ == pytest.approx(1.8 * plain.litres.typ, rel=0.02)


def test_dried_fruit_holds_the_sugar_of_the_fruit_it_was() -> None:
    found = planned(method.method("steeped_dried"), "apple", "dried", keep="chill")
    fruit = found.lots["fruit"].composition.first()
    assert 0.5 * 5000 < fruit.sugars_g < 0.65 * 5000
    assert fruit.water == pytest.approx(0.18 * 5000)
    drawn = found.main.filled.composition.first()
    assert 0.2 * fruit.sugars_g < drawn.sugars_g < 0.6 * fruit.sugars_g
