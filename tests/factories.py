"""Households and batches for tests, made by the services themselves."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from typing import Any

from sqlalchemy.orm import Session as Orm

from elderberry.core.flow.inputs import End
from elderberry.services.cooking import batches, steps
from elderberry.services.cooking.folder import Folder, folder_of
from elderberry.services.household import people
from elderberry.services.planning.asked import GoesIn, PlanRequest, of_fruit
from elderberry.services.who import Who
from elderberry.store import Batch, Household, Kitchen, Station, Vessel, furniture
from tests.conftest import CHEAP

NOON = datetime(2026, 10, 3, 12, tzinfo=UTC)


def minutes(count: float) -> datetime:
    """So many minutes after noon."""
    return NOON + timedelta(minutes=count)


def household(orm: Orm, name: str = "Sallow Hill", altitude_m: float | None = 585) -> Who:
    """A furnished household with one keeper, whose password is the sign-in name twice."""
    row = Household(name=name, created_at=NOON)
    orm.add(row)
    orm.flush()
    orm.add(
        Kitchen(household_id=row.id, name=name, altitude_m=altitude_m, time_zone="Europe/Vienna")
    )
    people.furnish(orm, row.id)
    sign_in = name.lower().replace(" ", "-")
    person = people.add_person(
        orm, row.id, "Oda", people.Login(sign_in, CHEAP.hash(sign_in * 2), "keeper")
    )
    return Who.of(person)


def that_dries(orm: Orm, name: str = "Sallow Hill") -> Who:
    """A household with a freeze dryer, a drying cupboard and barrier bags."""
    who = household(orm, name)
    hh = who.household_id
    orm.add_all([
        Station(household_id=hh, kind="freeze_dryer", name="Freeze dryer", position=1, trays=4),
        Station(household_id=hh, kind="dryer", name="Cupboard", position=1, trays=8),
        Vessel(household_id=hh, kind="barrier", name="Bag", litres=1.0, count=12),
    ])  # fmt: skip
    orm.flush()
    return who


def asks(*lines: str, ends: tuple[End, ...] = (), **more: Any) -> PlanRequest:
    """Lines as one says them."""
    return PlanRequest(tuple(GoesIn(line=x) for x in lines), ends, **more)


def request(fruit: str = "damson", kg: float = 4.0, **more: object) -> PlanRequest:
    """A small load that makes one basket."""
    return of_fruit(fruit, kg, **{"jar_kinds": ("pint",), **more})  # type: ignore[arg-type]


def forget(orm: Orm) -> None:
    """As if a session had read nothing yet; rows are then read together, and not one by one."""
    orm.flush()
    orm.expire_all()
    furniture.forget(orm)


class Work:
    """A batch under the hands of a test."""

    def __init__(
        self, orm: Orm, who: Who, asked: PlanRequest | None = None, begun: float = 0.0
    ) -> None:
        """asked: what is made, damson juice else; begun: minutes after noon."""
        self.orm, self.who = orm, who
        self.batch: Batch = batches.start(orm, who, asked or request(), minutes(begun))

    @property
    def folder(self) -> Folder:
        """The batch as it stands."""
        forget(self.orm)
        return folder_of(self.orm, self.who, self.batch.id)

    def step_id(self, key: str) -> int:
        """Id of the step with this key."""
        return next(o.id for o in self.folder.operations if o.key == key)

    def do(
        self,
        key: str,
        at: float,
        act: Callable[[steps.Change], None] = steps.start,
    ) -> Folder:
        """Do something at a step, so many minutes after noon."""
        return steps.change(self.orm, self.who, self.batch.id, self.step_id(key), minutes(at), act)

    def finish(self, key: str, at: float, **said: object) -> Folder:
        """Finish a step with what was said."""
        done = steps.Finish(**said)  # type: ignore[arg-type]
        return self.do(key, at, lambda made: steps.finish(made, done))

    def to_hot(self) -> None:
        """Steam and heat."""
        self.do("steam_juice-1", 1)
        self.finish("steam_juice-1", 65, readings=(reading("volume_ml", 2000, "jug"),))
        self.do("heat_to", 66)
        self.finish("heat_to", 80, readings=(reading("temp_c", 89, "thermometer"),))

    def to_filled(self, jars: int = 4, part_ml: float = 100) -> None:
        """Steam, heat and fill."""
        self.to_hot()
        self.finish(
            "fill",
            90,
            jars=(steps.JarEntry("pint", jars),),
            part_kind="pint" if part_ml else None,
            part_ml=part_ml,
        )

    def to_canner(self, jars: int = 4, part_ml: float = 100) -> None:
        """In the canner, at the boil from minute 100 on; it takes 15."""
        self.to_filled(jars, part_ml)
        self.do("process-1", 92)
        self.do("process-1", 100, lambda made: steps.boil(made, reached=True))

    def to_cooling(self, jars: int = 4, part_ml: float = 100) -> None:
        """All the way to the cool rack, out of the canner at minute 116."""
        self.to_canner(jars, part_ml)
        self.finish("process-1", 116)

    def to_shelf(self, jars: int = 4, part_ml: float = 100) -> None:
        """Every seal held the next morning, and the jars are in the cellar."""
        morning = 116 + 13 * 60
        self.to_cooling(jars, part_ml)
        self.finish("cool-1", morning)
        for number in range(jars):
            self.look(number, morning + 1)
        self.finish("seal_check", morning + 2)

    def pack(self, at: float, key: str = "pack") -> Folder:
        """Pack what is dry, as the step says."""
        packed = self.folder.standing.packing(self.folder.find(self.step_id(key)))
        return self.finish(
            key,
            at,
            jars=tuple(steps.JarEntry(k, n) for k, n in packed.jars.items()),
            part_kind=packed.leftover_kind,
            part_ml=packed.leftover_ml,
        )

    def look(self, number: int, at: float, held: bool = True, way_on: str | None = None) -> Folder:
        """Look at the seal of a jar, counted from 0."""
        jar_id = self.folder.jars[number].id
        check = [o.key for o in self.folder.operations if o.kind == "seal_check"][-1]
        return self.do(check, at, lambda made: steps.look_at_seal(made, jar_id, held, way_on))


def reading(quantity: str, value: float, instrument: str) -> steps.ReadingEntry:
    """A reading as typed."""
    return steps.ReadingEntry(quantity, value, instrument)
