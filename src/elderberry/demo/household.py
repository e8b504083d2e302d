"""The shared kitchen of Sallow Hill Allotments, 585 m above the sea. All of it is made up.

Its history is made by the same services that a person's presses call, at times before now, so
the demo can hold nothing that the tool itself would refuse.
"""

from __future__ import annotations

import secrets
from datetime import datetime, timedelta

from sqlalchemy import func, select
from sqlalchemy.orm import Session as Orm

from elderberry.demo.drying import dried
from elderberry.demo.hands import TIME_ZONE, Cook, at_hour
from elderberry.demo.seasons import seasons, since_then
from elderberry.demo.syrups import syrups
from elderberry.services.cooking import batches, steps
from elderberry.services.household import people
from elderberry.services.household.hashing import Hashing
from elderberry.services.household.people import Login
from elderberry.services.planning import intake
from elderberry.services.planning.asked import of_fruit
from elderberry.services.who import Who
from elderberry.store import (
    Household,
    JarStock,
    Kitchen,
    Person,
    Place,
    Station,
    Vessel,
    queries,
)

DEMO_SIGN_IN = "oda"
NAME = "Sallow Hill Allotments"


def load(orm: Orm, hashing: Hashing, now: datetime) -> bool:
    """Make the demo household where there is no household at all; True where it was made."""
    if orm.scalar(select(func.count()).select_from(Household)):
        return False
    household = Household(name=NAME, created_at=now - timedelta(days=900))
    orm.add(household)
    orm.flush()
    orm.add(
        Kitchen(
            household_id=household.id,
            name="Sallow Hill kitchen",
            altitude_m=585,
            time_zone=TIME_ZONE,
            hardness_mg_l=180,
            instruments=[
                "thermometer",
                "jug",
                "scale",
                "refractometer",
                "ph_meter",
                "ph_strip",
                "ruler",
            ],
            containers={"crate": 9000.0, "bucket": 4500.0},
        )
    )
    people.furnish(orm, household.id)
    _furnish(orm, household.id)
    nobodys = hashing.hash(secrets.token_urlsafe())
    oda, wenna, jorin = (
        people.add_person(orm, household.id, name, Login(sign_in, nobodys, role))
        for name, sign_in, role in (
            ("Oda", DEMO_SIGN_IN, "keeper"),
            ("Wenna", "wenna", "helper"),
            ("Jorin", "jorin", "helper"),
        )
    )
    _hours(oda, wenna, jorin)
    hands = [Who.of(p) for p in (oda, wenna, jorin)]
    seasons(orm, hands, now)
    _the_season(orm, hands, now)
    _damsons_on_the_shelf(orm, hands[0], now)
    _apples_cooling(orm, hands[1], now)
    since_then(orm, hands, now)
    _damsons_in_the_steamer(orm, hands[0], now)
    dried(orm, hands, now)
    return True


def _furnish(orm: Orm, household_id: int) -> None:
    """More jars, the pots and bowls, and what the refrigerator has free."""
    hh = {"household_id": household_id}
    orm.add_all(
        [
            JarStock(**hh, jar_kind="m500", jars=16, lids=16),
            JarStock(**hh, jar_kind="m700", jars=9, lids=9),
            Vessel(**hh, kind="pot", name="Wide pot", litres=9, count=1, diameter_cm=28),
            Vessel(**hh, kind="pot", name="Tall pot", litres=14, count=1, diameter_cm=30),
            Vessel(**hh, kind="bowl", name="Bowl", litres=4.5, count=2, diameter_cm=28),
            Vessel(**hh, kind="bowl", name="Tub", litres=10, count=1, diameter_cm=38),
            Vessel(**hh, kind="jug", name="Jug", litres=2, count=3, marks=[500, 1000, 1500, 2000]),
            Vessel(**hh, kind="box", name="Freezer box", litres=0.5, count=10),
            Vessel(**hh, kind="squeeze", name="Squeeze bottle", litres=0.5, count=3),
            Vessel(**hh, kind="barrier", name="Barrier bag", litres=1, count=30),
            Vessel(**hh, kind="bag", name="Flat bag", litres=1, count=20),
            Station(
                **hh,
                kind="freeze_dryer",
                name="Freeze dryer",
                position=1,
                trays=4,
                tray_cm2=1100,
                tray_mm=20,
                tray_kg=1.2,
            ),
            Station(**hh, kind="dryer", name="Drying cupboard", position=1, trays=8, tray_cm2=1000),
            Vessel(**hh, kind="glass", name="Tumbler", litres=0.25, count=8),
        ]
    )
    for stock in queries.all_of(orm, household_id, JarStock):
        more = {"pint": 90, "half_pint": 40}.get(stock.jar_kind, 10)
        stock.jars, stock.lids = stock.jars + more, stock.lids + more
    for place in queries.all_of(orm, household_id, Place):
        if place.kind == "refrigerator":
            place.room_l = 16
        elif place.kind == "shelf":
            place.swing_c, place.room_l = 4.0, 40.0
    orm.flush()


def _hours(oda: Person, wenna: Person, jorin: Person) -> None:
    oda.hours = {"start": "08:00", "end": "20:30"}
    wenna.hours = {"start": "16:00", "end": "22:00"}
    jorin.hours = {"start": "09:00", "end": "13:00"}


def _the_season(orm: Orm, hands: list[Who], now: datetime) -> None:
    """What was made since summer, so that yields have a history, and what has just come in."""
    oda, wenna, jorin = hands
    for days, kg, litres, source in (
        (131, 5.0, 2.35, "Gooseberries, plot 9"), (128, 6.2, 2.75, "Gooseberries, plot 9"),
        (122, 4.1, 1.95, "Gooseberries, plot 3"),
    ):  # fmt: skip
        _gooseberries(orm, jorin, at_hour(now, -days, 19.5), kg, litres, source)
    for days, kg, litres in ((119, 4.0, 2.95), (117, 5.2, 3.7), (112, 4.4, 1.9)):
        _redcurrants(orm, wenna, at_hour(now, -days, 14), kg, litres)
    _currants_in_jars(orm, oda, at_hour(now, -110, 10))
    _rosehips(orm, wenna, at_hour(now, -6, 16.5))
    for days, kg, litres in ((88, 5.0, 2.55), (79, 5.0, 2.4)):
        _damsons_before(orm, oda, at_hour(now, -days, 9.5), kg, litres)
    syrups(orm, hands, now)
    for days, new in (
        (1, intake.NewLot("3 kg frozen blackcurrants", source="Row 3, from the freezer")),
        (2, intake.NewLot("18 quinces", source="Quince by the shed", source_kind="tree",
                          picked_on=(now - timedelta(days=3)).date())),
        (1, intake.NewLot("half a crate of gooseberries", source="Plot 9", source_kind="plot",
                          picked_on=(now - timedelta(days=4)).date(), ripeness="ripe")),
    ):  # fmt: skip
        intake.take_in(orm, oda, new, now - timedelta(days=days))


def _gooseberries(
    orm: Orm, who: Who, began: datetime, kg: float, litres: float, source: str
) -> None:
    """Drained under weight overnight, pressed twice."""
    request = of_fruit(
        "gooseberry", kg, jar_kinds=("pint",), source=source, method_key="weighted_gooseberry"
    )
    cook = Cook(orm, who, batches.start(orm, who, request, began))
    at = cook.work(began, "sort", 25)
    at = cook.work(at, "mash", 15)
    at = cook.work(at, "drain_cold", 60 * 12, volume_ml=1000 * litres, brix=10.4)
    at = cook.work(at, "press_again", 45, volume_ml=690 * litres, brix=5.6)
    at = cook.work(at, "combine", 5)
    at = cook.work(at, "strain", 12, volume_ml=1660 * litres)
    jars = int(1660 * litres * 1.03 / 473)
    cook.can(at, "pint", jars, 0)


def _redcurrants(orm: Orm, who: Who, began: datetime, kg: float, litres: float) -> None:
    """Simmered and hung; the last lot came off wet from the rain and gave little."""
    request = of_fruit(
        "redcurrant", kg, jar_kinds=("pint",), source="Redcurrants, row 2",
        method_key="simmered_redcurrant",
    )  # fmt: skip
    cook = Cook(orm, who, batches.start(orm, who, request, began))
    at = cook.work(began, "soak", 12)
    at = cook.work(at, "sort", 10)
    at = cook.work(at, "simmer", 25)
    at = cook.work(at, "drain", 60 * 4.5, volume_ml=1000 * litres, brix=9.6)
    cook.can(at, "pint", int(1000 * litres * 1.03 / 473), 0)


def _currants_in_jars(orm: Orm, who: Who, began: datetime) -> None:
    """Whole redcurrants with sugar and boiling water, colouring through since summer."""
    request = of_fruit(
        "redcurrant", 1.6, jar_kinds=("pint",), source="Redcurrants, row 2",
        method_key="redcurrants_in_the_jar",
    )  # fmt: skip
    cook = Cook(orm, who, batches.start(orm, who, request, began))
    at = cook.work(began, "soak", 10)
    at = cook.work(at, "sort", 12, mass_g=1540)
    at = cook.work(at, "infuse", 25)
    cook.into_jars(at, "pint", 10, 0)


def _rosehips(orm: Orm, who: Who, began: datetime) -> None:
    """Covered with water that nobody measured, kept cold."""
    request = of_fruit(
        "rosehip", 1.4, keep="chill", jar_kinds=("m500",), source="Hedge by the gate",
        method_key="rosehip_steep",
    )  # fmt: skip
    cook = Cook(orm, who, batches.start(orm, who, request, began))
    at = cook.work(began, "sort", 15)
    at = cook.work(at, "steep", 130, volume_ml=1750, depth_cm=4.6)
    at = cook.work(at, "strain", 12, volume_ml=1700)
    cook.heat(at + timedelta(minutes=15), 90.0)
    cook.fill(at + timedelta(minutes=25), "m500", 3, 0)
    cook.work(at + timedelta(minutes=90), "chill", 5)


def _damsons_before(orm: Orm, who: Who, began: datetime, kg: float, litres: float) -> None:
    """One load of damsons each, steam-juiced."""
    request = of_fruit("damson", kg, jar_kinds=("pint",), source="Damson hedge, plot 14")
    cook = Cook(orm, who, batches.start(orm, who, request, began))
    at = cook.steam_all(began + timedelta(minutes=10), litres, 13.3, every=75)
    cook.can(at, "pint", int(1000 * litres * 1.03 / 473), 0)


def _damsons_on_the_shelf(orm: Orm, who: Who, now: datetime) -> None:
    """Five days ago: two loads of damsons, finished and on the cellar shelf."""
    began = at_hour(now, -5, 9)
    request = of_fruit(
        "damson", 9.6, brix=15.6, jar_kinds=("pint",), source="Damson hedge, plot 14"
    )
    cook = Cook(orm, who, batches.start(orm, who, request, began))
    cook.steam(began + timedelta(minutes=15), 1, 2.5, 13.4)
    cook.steam(began + timedelta(minutes=90), 2, 2.4, 13.1)
    cook.heat(began + timedelta(minutes=190), 89.5)
    cook.fill(began + timedelta(minutes=205), "pint", 10, 310)
    out = cook.process(began + timedelta(minutes=210), 1)
    out = cook.process(out + timedelta(minutes=6), 2)
    cook.check_seals(out)


def _apples_cooling(orm: Orm, who: Who, now: datetime) -> None:
    """Last evening: apples, cooling since 13 hours ago, their seals due."""
    began = now - timedelta(hours=18, minutes=20)
    request = of_fruit("apple", 8.8, jar_kinds=("quart",), source="Market, late russets")
    cook = Cook(orm, who, batches.start(orm, who, request, began))
    cook.steam(began + timedelta(minutes=10), 1, 2.1)
    cook.steam(began + timedelta(minutes=112), 2, 2.2)
    cook.work(began + timedelta(minutes=222), "sterilise", 24)
    cook.heat(began + timedelta(minutes=250), 97.0)
    cook.fill(began + timedelta(minutes=252), "quart", 4, 520)
    cook.process(began + timedelta(minutes=256), 1)


def _damsons_in_the_steamer(orm: Orm, who: Who, now: datetime) -> None:
    """Today: damsons, the first load drawn, the second 22 minutes in the steam."""
    began = now - timedelta(minutes=100)
    request = of_fruit("damson", 14.0, brix=15.8, jar_kinds=("pint",), source="Damson by the gate")
    cook = Cook(orm, who, batches.start(orm, who, request, began))
    cook.steam(began + timedelta(minutes=10), 1, 2.4, 13.2)
    cook.at(now - timedelta(minutes=22), "steam_juice-2", steps.start)
