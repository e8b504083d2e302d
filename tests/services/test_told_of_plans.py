"""What Plan says of some things to be made, and what there is to get for them, is as before."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.flow.inputs import End
from elderberry.core.scaling import Goal
from elderberry.services.household import furnishing, kitchens
from elderberry.services.planning import card, marks, plans, recipes, shopping, swaps
from elderberry.services.planning.asked import GoesIn, PlanRequest
from elderberry.services.who import Who
from elderberry.store import LidStock, Station, Vessel
from tests.factories import asks, household
from tests.facts import Book, facts_of, on_paper


@pytest.fixture
def who(orm: Orm) -> Who:
    """A household with a freeze dryer, jugs, bags, a wide pot and lids of its own."""
    owner = household(orm)
    hh = owner.household_id
    orm.add_all([
        Station(household_id=hh, kind="freeze_dryer", name="Freeze dryer", position=1, trays=4),
        Vessel(household_id=hh, kind="jug", name="Jug", litres=1.5, count=2),
        Vessel(household_id=hh, kind="pot", name="Jam pan", litres=9.0, count=1, diameter_cm=34.0),
        Vessel(household_id=hh, kind="barrier", name="Bag", litres=1.0, count=2),
        LidStock(household_id=hh, jar_kind="pint", closure="reusable", colour="red", lids=3),
    ])  # fmt: skip
    orm.flush()
    return owner


PINTS = (End("fill", "shelf", ("pint",)),)
PLANS: dict[str, PlanRequest] = {
    "twelve jars": asks("5 kg damsons", "300 g honey", "2 sticks cinnamon", ends=PINTS,
                        goal=Goal("jars", 12, "pint")),
    "red lids": asks("4 kg redcurrants", "400 g sugar", "water to cover",
                     ends=(End("fill", "shelf", ("pint",), closure="reusable", lid="red"),)),
    "three jugs": asks("2 kg rhubarb", "150 g sugar to the litre",
                       ends=(End("fill", "chill", ("jug-1500",)),),
                       goal=Goal("jars", 3, "jug-1500")),
    "two ways": asks("6 kg blackcurrants", "1 l apple juice", method_key="blackcurrant_two_ways"),
    "dry": asks("3 kg apples", method_key="slices_freeze_dried",
                ends=(End("pack", "dry", ("barrier-1000",)),)),
    "caramel": asks("900 g sugar", method_key="caramel_syrup",
                    ends=(End("fill", "chill", ("half_pint",)),)),
    "read before": PlanRequest((
        GoesIn(line="2 kg gooseberries", brix=11.5, ph=2.9), GoesIn(line="300 g honey")), PINTS),
    "elder, raw and warm": asks("2 kg elderberries", ends=PINTS),
    "jelly": asks("2.5 kg quinces", "900 g sugar", "10 g low sugar pectin",
                  method_key="quince_jelly", ends=(End("fill", "shelf", ("half_pint",)),)),
}  # fmt: skip


def pages(orm: Orm, who: Who, asked: PlanRequest) -> Iterator[tuple[str, Any]]:
    """What is looked at of a plan, by its name."""
    plan, to_get = plans.show(orm, who, asked), shopping.view(orm, who, asked)
    yield "plan", plan
    yield "shopping", to_get
    units = kitchens.units(orm, who)
    yield (
        "papers",
        {
            "card": on_paper(card.of_plan(plan, units, "")),
            "shopping": on_paper(shopping.sheet(to_get, "")),
            "recipe": recipes.of_method(orm, who, plan.method.key, asked.inputs[0].line),
        },
    )
    yield "swaps", swaps.swaps(orm, who, asked, 1)
    end = plans.make(orm, who, asked).main.end.key
    for which, value in (("sweet", 44.0), ("ph", 2.9), ("sharp", 25.0), ("thick", 60.0)):
        yield f"mark {which}", marks.mark(orm, who, asked, which, value, end)  # type: ignore[arg-type]


UNITS = ("metric", "us")
BOOK = Book(__file__, "told_of_plans.txt", [f"{name}, {u}" for name in PLANS for u in UNITS])


def told(orm: Orm, who: Who, asked: PlanRequest, units: str) -> dict[str, str]:
    """Every figure and word of a plan, by where it stands, in some units."""
    furnishing.change_kitchen(orm, who, {"units": units})
    return {k: v for name, page in pages(orm, who, asked) for k, v in facts_of(name, page)}


@pytest.mark.parametrize("name", PLANS)
def test_a_plan_says_what_it_said(orm: Orm, who: Who, name: str) -> None:
    usual, other = (told(orm, who, PLANS[name], units) for units in UNITS)
    BOOK.holds(f"{name}, metric", (f"{k} {v}" for k, v in usual.items()))
    BOOK.holds(f"{name}, us", (f"{k} {v}" for k, v in other.items() if usual.get(k) != v))
