"""The syrups, jellies and stretched citrus of the season: judged by a drop, a colour, a spoon."""

from __future__ import annotations

from datetime import date, datetime, timedelta

from sqlalchemy.orm import Session as Orm

from elderberry.core.flow.inputs import End
from elderberry.demo.hands import Cook, at_hour
from elderberry.services.cooking import batches, steps
from elderberry.services.planning.asked import GoesIn, PlanRequest
from elderberry.services.who import Who

HOLDS, WRINKLES = 3.0, 4.0
"""What a drop on the cold plate did, by its number."""


def syrups(orm: Orm, hands: list[Who], now: datetime) -> None:
    """Six batches: two jellies that are twins but for a fortnight, three syrups, and citrus."""
    oda, wenna, jorin = hands
    for days, kg, picked in ((41, 2.2, 42), (24, 2.1, 25)):
        began = at_hour(now, -days, 9)
        _jelly(orm, oda, began, kg, (now - timedelta(days=picked)).date())
    _shelf_syrup(orm, wenna, at_hour(now, -60, 17))
    _caramel(orm, oda, at_hour(now, -33, 18))
    _mint(orm, jorin, at_hour(now, -20, 20.5))
    _grapefruit(orm, wenna, at_hour(now, -3, 17))


def _begin(
    orm: Orm, who: Who, began: datetime, line: str, method: str, *ends: End,
    picked_on: date | None = None, source: str = "",
) -> Cook:  # fmt: skip
    goes_in = GoesIn(line=line, picked_on=picked_on, source=source)
    request = PlanRequest((goes_in,), ends or (End("fill"),), method_key=method)
    return Cook(orm, who, batches.start(orm, who, request, began))


def _jelly(orm: Orm, who: Who, began: datetime, kg: float, picked_on: date) -> None:
    """Quinces dripped through the day, boiled in the evening until a drop wrinkled."""
    jars = End("fill", "shelf", ("half_pint",))
    cook = _begin(
        orm, who, began, f"{kg} kg quinces", "quince_jelly", jars, picked_on=picked_on,
        source="Quince by the shed",
    )  # fmt: skip
    at = cook.work(began, "soak", 10)
    at = cook.work(at, "mash", 15)
    at = cook.work(at, "simmer", 55)
    at = cook.work(at, "drain", 60 * 8, volume_ml=1500 * kg, brix=6.4)
    at = cook.work(at, "stir_in", 5)
    cook.at(at, "cook_syrup", steps.start)
    boils = at + timedelta(minutes=8)
    cook.at(boils, "cook_syrup", lambda made: steps.boil(made, reached=True))
    cook.read(boils + timedelta(minutes=30), "cook_syrup", "drop", HOLDS, "plate")
    over = boils + timedelta(minutes=42)
    cook.read(over, "cook_syrup", "drop", WRINKLES, "plate")
    cook.at(over, "cook_syrup", lambda made: steps.finish(made, steps.Finish()))
    cook.into_jars(over + timedelta(minutes=4), "half_pint", 11, 0)


def _shelf_syrup(orm: Orm, who: Who, began: datetime) -> None:
    """Strong enough for its sugar to keep it: onto the shelf without a canner."""
    jars = End("fill", "sugar", ("half_pint",))
    cook = _begin(orm, who, began, "400 ml water", "strong_syrup", jars)
    at = cook.work(began, "stir_in", 6)
    at = cook.work(at, "cook_syrup", 24, brix=79.2)
    cook.fill_end(at + timedelta(minutes=6), "fill", half_pint=2)
    cook.work(at + timedelta(minutes=70), "shelve", 5)


def _caramel(orm: Orm, who: Who, began: datetime) -> None:
    """Amber, the water in, boiled a little too far and brought back."""
    jars = End("fill", "chill", ("half_pint",))
    cook = _begin(orm, who, began, "600 g sugar", "caramel_syrup", jars)
    at = cook.work(began, "caramelise", 9)
    at = cook.work(at, "quench", 4)
    at = cook.work(at, "stir_in", 4)
    cook.at(at, "cook_syrup", steps.start)
    boils = at + timedelta(minutes=3)
    cook.at(boils, "cook_syrup", lambda made: steps.boil(made, reached=True))
    cook.read(boils + timedelta(minutes=4), "cook_syrup", "drop", WRINKLES, "plate")
    cook.at(
        boils + timedelta(minutes=5), "cook_syrup", lambda made: steps.water_back(made, "60 ml")
    )
    cook.read(boils + timedelta(minutes=6), "cook_syrup", "drop", HOLDS, "plate")
    done = boils + timedelta(minutes=7)
    cook.at(done, "cook_syrup", lambda made: steps.finish(made, steps.Finish()))
    cook.fill_end(done + timedelta(minutes=5), "fill", half_pint=3)
    cook.work(done + timedelta(minutes=70), "chill", 5)


def _mint(orm: Orm, who: Who, began: datetime) -> None:
    """Sugar, vinegar and mint, overnight in the refrigerator."""
    jars = End("fill", "chill", ("half_pint",))
    cook = _begin(orm, who, began, "700 ml water", "vinegar_herb_syrup", jars)
    at = cook.work(began, "stir_in_2", 5)
    at = cook.work(at, "cook_syrup", 12)
    at = cook.work(at + timedelta(minutes=3), "stir_in", 4)
    at = cook.work(at, "infuse_off", 60 * 11)
    cook.fill_end(at + timedelta(minutes=10), "fill", half_pint=4)
    cook.work(at + timedelta(minutes=30), "chill", 5)


def _grapefruit(orm: Orm, who: Who, began: datetime) -> None:
    """Stretched by its peel; its own juice waits in the freezer."""
    cook = _begin(orm, who, began, "5 grapefruit", "stretched_citrus",
                  End("fill", "chill", ("m500",)), End("fill_2", "freeze", ("box-500",)),
                  source="Greengrocer, unwaxed")  # fmt: skip
    at = cook.work(began, "peel_off", 14, mass_g=168)
    at = cook.work(at, "stretch", 75, volume_ml=1900)
    cook.fill_end(at + timedelta(minutes=6), "fill", m500=3)
    cook.work(at + timedelta(minutes=10), "chill", 4)
    at = cook.work(at + timedelta(minutes=15), "squeeze", 10, volume_ml=640, brix=10.4)
    at = cook.work(at, "strain", 6)
    cook.fill_end(at + timedelta(minutes=4), "fill_2", **{"box-500": 1})
    cook.work(at + timedelta(minutes=12), "freeze_2", 4)
