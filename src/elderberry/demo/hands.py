"""A hand in the demo kitchen: what its presses are, at moments before now."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

from sqlalchemy.orm import Session as Orm

from elderberry.core.batch.lifecycle import Phase
from elderberry.core.drying import freeze_dry
from elderberry.core.flow.kinds import kinds
from elderberry.services.cooking import steps
from elderberry.services.cooking.folder import folder_of
from elderberry.services.who import Who
from elderberry.store import Batch, Operation, queries

INSTRUMENT = {
    "volume_ml": "jug", "mass_g": "scale", "brix": "refractometer", "depth_cm": "ruler",
}  # fmt: skip
TIME_ZONE = "Europe/Vienna"


@dataclass
class Cook:
    """A hand in the demo: does steps of a batch at given moments."""

    orm: Orm
    who: Who
    batch: Batch

    def at(self, now: datetime, key: str, act: Callable[[steps.Change], None]) -> None:
        """Do something at the step with this key."""
        step = self._step(key)
        steps.change(self.orm, self.who, self.batch.id, step.id, now, act)

    def steam(
        self, start: datetime, load: int, litres: float, brix: float | None = None,
        ph: float | None = None,
    ) -> None:  # fmt: skip
        """Steam a load from start to its end, and draw its juice."""
        key = f"steam_juice-{load}"
        read = [steps.ReadingEntry("volume_ml", litres * 1000, "jug")]
        if brix is not None:
            read.append(steps.ReadingEntry("brix", brix, "refractometer"))
        if ph is not None:
            read.append(steps.ReadingEntry("ph", ph, "ph_meter"))
        self.at(start, key, steps.start)
        end = start + timedelta(minutes=self._step(key).minutes + 4)
        self.at(end, key, lambda made: steps.finish(made, steps.Finish(readings=tuple(read))))

    def steam_all(
        self, start: datetime, litres: float, brix: float, every: float, ph: float | None = None
    ) -> datetime:
        """Steam every load, one after so many minutes of the other; returns when it is over."""
        rows = queries.of_batch(self.orm, self.who.household_id, Operation, self.batch.id)
        loads = sum(o.kind == "steam_juice" for o in rows)
        for load in range(1, loads + 1):
            self.steam(start, load, litres / loads, brix, ph)
            start += timedelta(minutes=every)
        return start

    def work(self, start: datetime, key: str, minutes: float, **read: float) -> datetime:
        """Do a step from start on, reading what came of it; returns when it was done."""
        said = tuple(
            steps.ReadingEntry(quantity, value, INSTRUMENT[quantity])
            for quantity, value in read.items()
        )
        what = kinds()[self._step(key).kind]
        if what.timed:
            self.at(start, key, steps.start)
        if what.boil:
            boiling = start + timedelta(minutes=min(9, minutes / 2))
            self.at(boiling, key, lambda made: steps.boil(made, reached=True))
        end = start + timedelta(minutes=minutes)
        self.at(end, key, lambda made: steps.finish(made, steps.Finish(readings=said)))
        return end

    def can(self, start: datetime, kind: str, count: int, part_ml: float) -> None:
        """Heat, fill, process every load and check the seals the next day."""
        self.heat(start + timedelta(minutes=20), 89.0)
        self.into_jars(start + timedelta(minutes=35), kind, count, part_ml)

    def into_jars(self, start: datetime, kind: str, count: int, part_ml: float) -> None:
        """Fill, process every load and check the seals the next day."""
        self.fill(start, kind, count, part_ml)
        out = start + timedelta(minutes=5)
        rows = queries.of_batch(self.orm, self.who.household_id, Operation, self.batch.id)
        loads = sum(o.kind == "process" and o.phase != Phase.DROPPED for o in rows)
        for load in range(1, 1 + loads):
            out = self.process(out + timedelta(minutes=5), load)
        self.check_seals(out)

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
            said=(steps.LIQUID_BOILED,),
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

    def check_seals(self, out: datetime) -> None:
        """Look at every jar in the morning after it came out; all of them held."""
        now = max(out + timedelta(hours=12), at_hour(out, days=1, hour=8.5))
        step = self._step("seal_check")
        jars = folder_of(self.orm, self.who, self.batch.id).standing.jar_ids(step)

        def look(made: steps.Change) -> None:
            for jar_id in jars:
                steps.look_at_seal(made, jar_id, held=True, way_on=None)

        self.at(now, "seal_check", look)
        done = now + timedelta(minutes=8)
        self.at(done, "seal_check", lambda made: steps.finish(made, steps.Finish()))

    def read(self, now: datetime, key: str, quantity: str, value: float, by: str) -> None:
        """Take a reading while a step is on."""
        entry = steps.ReadingEntry(quantity, value, by)
        self.at(now, key, lambda made: steps.take_reading(made, entry))

    def fill_end(self, now: datetime, key: str, **jars: int) -> None:
        """Fill the jars of an end, so many of each kind."""
        said = steps.Finish(jars=tuple(steps.JarEntry(k, n) for k, n in jars.items()))
        self.at(now, key, lambda made: steps.finish(made, said))

    def has(self, key: str) -> bool:
        """Whether its flow has a step with this key."""
        rows = queries.of_batch(self.orm, self.who.household_id, Operation, self.batch.id)
        return any(o.key == key for o in rows)

    def minutes(self, key: str, *, usual: bool = False) -> float:
        """How long a step is planned for; usual: before anything was learned of this machine."""
        step = self._step(key)
        if not usual:
            return step.minutes
        told = step.params
        tray = freeze_dry.law_h(float(told["tray_water_kg"]), float(told["mm"]))
        return 60.0 * tray

    def figure(self, key: str, name: str) -> float:
        """A figure of a step."""
        return float(self._step(key).params[name])

    def start(self, key: str, now: datetime) -> None:
        """Start a step that takes its time."""
        self.at(now, key, steps.start)

    def finish(self, key: str, now: datetime) -> datetime:
        """Finish a step without reading anything; returns when."""
        self.at(now, key, lambda made: steps.finish(made, steps.Finish()))
        return now

    def pack(self, now: datetime) -> None:
        """Pack all of it into as many as were planned for."""
        step = self._step("pack")
        packed = folder_of(self.orm, self.who, self.batch.id).standing.packing(step)
        jars = tuple(steps.JarEntry(k, n) for k, n in packed.jars.items())
        said = steps.Finish(jars=jars, part_kind=packed.leftover_kind, part_ml=packed.leftover_ml)
        self.at(now, "pack", lambda made: steps.finish(made, said))

    def _step(self, key: str) -> Operation:
        rows = queries.of_batch(self.orm, self.who.household_id, Operation, self.batch.id)
        return next(o for o in rows if o.key == key)


def at_hour(moment: datetime, days: int, hour: float) -> datetime:
    """So many days later (or before), at an hour of the kitchen's own clock."""
    day = (moment.astimezone(ZoneInfo(TIME_ZONE)) + timedelta(days=days)).replace(
        hour=0, minute=0, second=0, microsecond=0
    )
    return (day + timedelta(hours=hour)).astimezone(UTC)
