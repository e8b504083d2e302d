"""What was dried: five loads of the freeze dryer, a leather, slices that are being shaken."""

from __future__ import annotations

from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

from sqlalchemy.orm import Session as Orm

from elderberry.core.flow.inputs import End
from elderberry.demo.hands import TIME_ZONE, Cook, at_hour
from elderberry.services.cooking import batches, steps
from elderberry.services.planning.asked import GoesIn, PlanRequest
from elderberry.services.who import Who

SLOWER = 1.22
"""How much longer this machine takes than a usual one."""
SCATTER = (0.97, 1.05, 1.0, 0.94, 1.04)


def dried(orm: Orm, hands: list[Who], now: datetime) -> None:
    """Five loads under vacuum since June, a leather, slices in their week, a load that is on."""
    oda, wenna, jorin = hands
    for turn, (days, line, method) in enumerate(
        (
            (152, "1.7 kg rhubarb", "slices_freeze_dried"),
            (126, "2.1 kg blackcurrants", "puree_powder_freeze_dried"),
            (88, "1.9 kg gooseberries", "puree_powder_freeze_dried"),
            (58, "2.3 kg damsons", "puree_powder_freeze_dried"),
            (35, "1.8 kg quinces", "slices_freeze_dried"),
        )
    ):
        who = wenna if turn % 2 else oda
        _vacuum(orm, who, at_hour(now, -days, 16), line, method, SLOWER * SCATTER[turn])
    _leather(orm, jorin, at_hour(now, -51, 9))
    _slices(orm, wenna, at_hour(now, -4, 8))
    _under_vacuum(orm, oda, now)


def _begin(orm: Orm, who: Who, began: datetime, line: str, method: str, into: str) -> Cook:
    request = PlanRequest((GoesIn(line=line),), (End("pack", "dry", (into,)),), method_key=method)
    return Cook(orm, who, batches.start(orm, who, request, began))


def _prepared(cook: Cook, at: datetime) -> datetime:
    """Everything before the machine: sliced, or cooked soft and milled."""
    for key, minutes in (("slice_up", 26), ("simmer", 19), ("mill", 22)):
        if cook.has(key):
            at = cook.work(at, key, minutes)
    return at


def _vacuum(orm: Orm, who: Who, began: datetime, line: str, method: str, slower: float) -> None:
    cook = _begin(orm, who, began, line, method, "barrier-1000")
    at = _prepared(cook, began) + timedelta(minutes=20)
    at = cook.work(at, "freeze_dry", slower * cook.minutes("freeze_dry", usual=True))
    at = _by_day(at)
    if cook.has("grind"):
        at = cook.work(at + timedelta(minutes=4), "grind", 14)
    cook.pack(at + timedelta(minutes=6))
    cook.work(at + timedelta(minutes=20), "store_dry", 4)


def _by_day(at: datetime) -> datetime:
    """Then, or in the morning: what is dry waits in the machine, its door shut."""
    hour = at.astimezone(ZoneInfo(TIME_ZONE)).hour
    if EARLIEST <= hour < LATEST:
        return at
    return at_hour(at, days=1 if hour >= LATEST else 0, hour=8.5)


EARLIEST, LATEST = 8, 21
"""Hours of the kitchen's own clock between which anybody packs."""


def _leather(orm: Orm, who: Who, began: datetime) -> None:
    """Damson purée in a thin sheet, weighed three times."""
    cook = _begin(orm, who, began, "2.4 kg damsons", "fruit_leather", "half_pint")
    at = _prepared(cook, began)
    at = cook.work(at, "stir_in", 4)
    tray_g = cook.figure("air_dry", "tray_g")
    cook.start("air_dry", at)
    for hours, share in ((2.0, 0.72), (5.0, 0.44), (8.5, 0.292)):
        cook.read(at + timedelta(hours=hours), "air_dry", "tray_g", tray_g * share, "tray_scale")
    at = cook.finish("air_dry", at + timedelta(hours=9))
    cook.pack(at + timedelta(minutes=30))
    cook.work(at + timedelta(minutes=60), "store_dry", 4)


def _slices(orm: Orm, who: Who, began: datetime) -> None:
    """Apple slices, dry since three days, in the week in which they are shaken."""
    cook = _begin(orm, who, began, "3.2 kg apples", "slices_air_dried", "pint")
    at = cook.work(began, "slice_up", 40)
    at = cook.work(at, "air_dry", cook.minutes("air_dry"), mass_g=540)
    cook.start("condition", at + timedelta(hours=1))
    for day in (1, 2):
        shaken = at_hour(at, days=day, hour=9)
        cook.at(shaken, "condition", lambda made: steps.note(made, "shaken", ""))


def _under_vacuum(orm: Orm, who: Who, now: datetime) -> None:
    """A load of gooseberry purée that has been in the machine since last night."""
    cook = _begin(
        orm, who, now - timedelta(hours=11), "2.2 kg gooseberries", "puree_powder_freeze_dried",
        "barrier-1000",
    )  # fmt: skip
    at = _prepared(cook, now - timedelta(hours=10.5))
    cook.start("freeze_dry", at)
