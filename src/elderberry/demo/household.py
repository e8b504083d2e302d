"""The shared kitchen of Sallow Hill Allotments, 585 m above the sea. All of it is made up.

Its history is made by the same services that a person's presses call, at times before now, so
the demo can hold nothing that the tool itself would refuse.
"""

from __future__ import annotations

import secrets
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, timedelta

from argon2 import PasswordHasher
from sqlalchemy import func, select
from sqlalchemy.orm import Session as Orm

from elderberry.services import batches, people, steps
from elderberry.services.folder import folder_of, jar_ids
from elderberry.services.plans import PlanRequest
from elderberry.services.who import Who
from elderberry.store import Batch, Household, JarStock, Kitchen, Operation, queries

DEMO_SIGN_IN = "oda"
NAME = "Sallow Hill Allotments"


@dataclass
class Cook:
    """A hand in the demo: does steps of a batch at given moments."""

    orm: Orm
    who: Who
    batch: Batch

    def at(self, now: datetime, key: str, act: Callable[[steps.Change], None]) -> None:
        """Do something at the step with this key."""
        step = self._step(key)
        steps.change(self.orm, self.who, self.batch.id, step.id, now, None, act)

    def steam(self, start: datetime, load: int, litres: float, brix: float | None = None) -> None:
        """Steam a load from start to its end, and draw its juice."""
        key = f"steam_juice-{load}"
        read = [steps.ReadingEntry("volume_ml", litres * 1000, "jug")]
        if brix is not None:
            read.append(steps.ReadingEntry("brix", brix, "refractometer"))
        self.at(start, key, steps.start)
        end = start + timedelta(minutes=self._step(key).minutes + 4)
        self.at(end, key, lambda made: steps.finish(made, steps.Finish(readings=tuple(read))))

    def heat(self, now: datetime, temp_c: float) -> None:
        """Heat the juice and read the thermometer."""
        self.at(now - timedelta(minutes=20), "heat_to", steps.start)
        said = steps.Finish(readings=(steps.ReadingEntry("temp_c", temp_c, "thermometer"),))
        self.at(now, "heat_to", lambda made: steps.finish(made, said))

    def fill(self, now: datetime, kind: str, count: int, part_ml: float) -> None:
        """Fill the jars, the last one in part."""
        said = steps.Finish(
            jars=(steps.JarEntry(kind, count),),
            part_kind=kind if part_ml else None,
            part_ml=part_ml,
        )
        self.at(now, "fill", lambda made: steps.finish(made, said))

    def process(self, now: datetime, load: int) -> datetime:
        """Process a canner load; returns when its jars came out."""
        key, minutes = f"process-{load}", self._step(f"process-{load}").minutes
        self.at(now, key, steps.start)
        boil = now + timedelta(minutes=11)
        self.at(boil, key, lambda made: steps.boil(made, reached=True))
        out = boil + timedelta(minutes=minutes + 1)
        self.at(out, key, lambda made: steps.finish(made, steps.Finish()))
        return out

    def check_seals(self, now: datetime) -> None:
        """Look at every jar; all of them held."""
        step = self._step("seal_check")
        folder = folder_of(self.orm, self.who, self.batch.id)
        for number, jar_id in enumerate(jar_ids(folder, step)):
            moment = now + timedelta(seconds=20 * number)
            self.at(moment, "seal_check", _held(jar_id))
        done = now + timedelta(minutes=8)
        self.at(done, "seal_check", lambda made: steps.finish(made, steps.Finish()))

    def _step(self, key: str) -> Operation:
        rows = queries.of_batch(self.orm, self.who.household_id, Operation, self.batch.id)
        return next(o for o in rows if o.key == key)


def _held(jar_id: int) -> Callable[[steps.Change], None]:
    return lambda made: steps.look_at_seal(made, jar_id, held=True, way_on=None)


def load(orm: Orm, hasher: PasswordHasher, now: datetime) -> bool:
    """Make the demo household where there is no household at all; True where it was made."""
    if orm.scalar(select(func.count()).select_from(Household)):
        return False
    household = Household(name=NAME, created_at=now - timedelta(days=400))
    orm.add(household)
    orm.flush()
    orm.add(
        Kitchen(
            household_id=household.id,
            name="Sallow Hill kitchen",
            altitude_m=585,
            time_zone="Europe/Vienna",
        )
    )
    people.furnish(orm, household.id)
    _more_jars(orm, household.id)
    oda, wenna, jorin = (
        people.add_person(orm, household.id, name, sign_in, secrets.token_urlsafe(), role, hasher)
        for name, sign_in, role in (
            ("Oda", DEMO_SIGN_IN, "keeper"),
            ("Wenna", "wenna", "helper"),
            ("Jorin", "jorin", "helper"),
        )
    )
    hands = [Who(household.id, p.id, p.name, p.role) for p in (oda, wenna, jorin)]
    _damsons_on_the_shelf(orm, hands[0], now)
    _apples_cooling(orm, hands[1], now)
    _damsons_in_the_steamer(orm, hands[0], now)
    return True


def _more_jars(orm: Orm, household_id: int) -> None:
    orm.add_all(
        [
            JarStock(household_id=household_id, jar_kind="m500", jars=16, lids=16),
            JarStock(household_id=household_id, jar_kind="m700", jars=9, lids=9),
        ]
    )
    orm.flush()


def _damsons_on_the_shelf(orm: Orm, who: Who, now: datetime) -> None:
    """Five days ago: two loads of damsons, finished and on the cellar shelf."""
    began = now - timedelta(days=5, hours=6)
    request = PlanRequest(
        "damson", 9.6, brix=15.6, jar_kinds=("pint",), source="Damson hedge, plot 14"
    )
    cook = Cook(orm, who, batches.start(orm, who, request, began))
    cook.steam(began + timedelta(minutes=15), 1, 2.5, 13.4)
    cook.steam(began + timedelta(minutes=90), 2, 2.4, 13.1)
    cook.heat(began + timedelta(minutes=190), 89.5)
    cook.fill(began + timedelta(minutes=205), "pint", 10, 310)
    out = cook.process(began + timedelta(minutes=210), 1)
    out = cook.process(out + timedelta(minutes=6), 2)
    cook.check_seals(out + timedelta(hours=14))


def _apples_cooling(orm: Orm, who: Who, now: datetime) -> None:
    """Last evening: apples, cooling since 13 hours ago, their seals due."""
    began = now - timedelta(hours=18, minutes=20)
    request = PlanRequest("apple", 8.8, jar_kinds=("quart",), source="Market, late russets")
    cook = Cook(orm, who, batches.start(orm, who, request, began))
    cook.steam(began + timedelta(minutes=10), 1, 2.1)
    cook.steam(began + timedelta(minutes=112), 2, 2.2)
    cook.heat(began + timedelta(minutes=242), 88.5)
    cook.fill(began + timedelta(minutes=252), "quart", 4, 520)
    cook.process(began + timedelta(minutes=256), 1)


def _damsons_in_the_steamer(orm: Orm, who: Who, now: datetime) -> None:
    """Today: damsons, the first load drawn, the second 22 minutes in the steam."""
    began = now - timedelta(minutes=100)
    request = PlanRequest(
        "damson", 14.0, brix=15.8, jar_kinds=("pint",), source="Damson by the gate"
    )
    cook = Cook(orm, who, batches.start(orm, who, request, began))
    cook.steam(began + timedelta(minutes=10), 1, 2.4, 13.2)
    cook.at(now - timedelta(minutes=22), "steam_juice-2", steps.start)
