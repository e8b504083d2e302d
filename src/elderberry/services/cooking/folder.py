"""A batch with all its rows, loaded for the core to say what they amount to."""

from __future__ import annotations

from collections.abc import Callable, Hashable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime
from functools import cached_property, lru_cache
from typing import Any, TypeVar

from sqlalchemy.orm import Session as Orm

from elderberry.core import kitchen as core_kitchen
from elderberry.core import method as methods
from elderberry.core.batch.laid import LaidOut
from elderberry.core.batch.lifecycle import Phase
from elderberry.core.batch.standing import Standing, words
from elderberry.core.flow.inputs import Brief
from elderberry.core.flow.rows import brief_of
from elderberry.core.kitchen import Heater
from elderberry.core.process import Lookup, OwnProcess
from elderberry.core.quantities import System
from elderberry.core.yields import YieldForecast
from elderberry.services.errors import NotFound
from elderberry.services.household import kitchens, own_processes
from elderberry.services.who import Who
from elderberry.store import (
    Batch,
    Event,
    Jar,
    Lot,
    Operation,
    Person,
    Reading,
    Station,
    furniture,
    queries,
)
from elderberry.store.base import Owned

TAKEN_BACK = "taken_back"
"""The event that a press was taken back; it names the rows that the press had made."""
MOST_LAID = 64
"""Batches whose last layout is kept, some 0.3 MB each."""
PAPERS = (
    "operations", "journal", "events", "readings", "lots", "jars", "jars_ever", "edges", "method",
    "brief", "standing", "_said",
)  # fmt: skip
"""What of a folder is the same for whoever looks at it."""
Row = TypeVar("Row", bound=Owned)
Said = TypeVar("Said")


@dataclass
class House:
    """What all batches of a household share: read once for as many as are looked at."""

    orm: Orm
    who: Who

    @cached_property
    def people(self) -> dict[int, str]:
        """Names by id."""
        whose = (self.who.household_id, "names")

        def read() -> dict[int, str]:
            return {p.id: p.name for p in queries.all_of(self.orm, self.who.household_id, Person)}

        return furniture.reckoned(self.orm, (Person,), whose, read)

    @cached_property
    def stations(self) -> dict[int, Station]:
        """Stations by id."""
        return {s.id: s for s in queries.all_of(self.orm, self.who.household_id, Station)}

    @cached_property
    def kitchen(self) -> core_kitchen.Kitchen:
        """The kitchen as the core computes with it."""
        return kitchens.for_core(self.orm, self.who)

    @cached_property
    def own_processes(self) -> dict[str, OwnProcess]:
        """The household's own tested processes."""
        return own_processes.every(self.orm, self.who)

    @cached_property
    def instruments(self) -> list[str]:
        """What there is to read with."""
        return list(kitchens.stored(self.orm, self.who).instruments)


@dataclass
class Folder:
    """A batch with all its rows; what they amount to is its standing.

    house: what it shares with others that are looked at with it; its own where none is given.
    """

    orm: Orm
    who: Who
    batch: Batch
    house: House = None  # type: ignore[assignment]
    at: datetime = field(default_factory=lambda: datetime.now(UTC))
    """The moment that it is looked at."""

    def __post_init__(self) -> None:
        self.house = self.house or House(self.orm, self.who)

    @cached_property
    def operations(self) -> list[Operation]:
        """Steps in their order."""
        rows = queries.of_batch(self.orm, self.who.household_id, Operation, self.batch.id)
        return sorted(rows, key=lambda o: o.position)

    @cached_property
    def journal(self) -> Sequence[Event]:
        """Everything that happened, in order, with what was taken back."""
        return queries.of_batch(self.orm, self.who.household_id, Event, self.batch.id)

    @cached_property
    def _taken_back(self) -> dict[str, set[int]]:
        """Ids of the rows that presses made which were taken back, by table."""
        found: dict[str, set[int]] = {}
        for event in self.journal:
            for table, ids in (
                event.data.get("made", {}).items() if event.kind == TAKEN_BACK else ()
            ):
                found.setdefault(table, set()).update(ids)
        read = {
            e.data["id"] for e in self.journal
            if e.kind == "reading" and e.id in found.get("event", ())
        }  # fmt: skip
        return {**found, "reading": read}

    def _that_stand(self, rows: Sequence[Row], table: str) -> Sequence[Row]:
        gone = self._taken_back.get(table)
        return [r for r in rows if r.id not in gone] if gone else rows

    @cached_property
    def events(self) -> Sequence[Event]:
        """Everything that happened and stands, in order."""
        return self._that_stand(self.journal, "event")

    @cached_property
    def readings(self) -> Sequence[Reading]:
        """Every reading that stands, in order."""
        rows = queries.of_batch(self.orm, self.who.household_id, Reading, self.batch.id)
        return self._that_stand(rows, "reading")

    @cached_property
    def lots(self) -> dict[int, Lot]:
        """Lots by id."""
        rows = queries.of_batch(self.orm, self.who.household_id, Lot, self.batch.id)
        return {row.id: row for row in rows}

    @cached_property
    def jars(self) -> Sequence[Jar]:
        """The batch's jars."""
        return self._that_stand(self.jars_ever, "jar")

    @cached_property
    def jars_ever(self) -> Sequence[Jar]:
        """Its jars with those whose filling was taken back, so that no code comes twice."""
        return queries.of_batch(self.orm, self.who.household_id, Jar, self.batch.id)

    @cached_property
    def edges(self) -> Mapping[int, Mapping[str, list[int]]]:
        """Lots in and out of each operation."""
        return queries.edges(self.orm, self.who.household_id, [self.batch.id])

    @property
    def people(self) -> dict[int, str]:
        """Names by id."""
        return self.house.people

    @property
    def stations(self) -> dict[int, Station]:
        """Stations by id."""
        return self.house.stations

    @property
    def units(self) -> System:
        """The units that its figures are said in."""
        return self.kitchen.units

    @property
    def kitchen(self) -> core_kitchen.Kitchen:
        """The kitchen as the core computes with it."""
        return self.house.kitchen

    @cached_property
    def method(self) -> methods.Method:
        """The method as it was when the batch began."""
        row = self.batch.method
        return methods.of_row(row) if row else methods.method(self.batch.method_key)

    @property
    def own_processes(self) -> dict[str, OwnProcess]:
        """The household's own tested processes."""
        return self.house.own_processes

    @cached_property
    def brief(self) -> Brief:
        """What goes in and the ends it is for."""
        return brief_of(self.batch.brief)

    @cached_property
    def standing(self) -> Standing:
        """What it amounts to now."""
        return Standing(
            method=self.method,
            brief=self.brief,
            kitchen=self.kitchen,
            operations=self.operations,
            lots=self.lots,
            edges=self.edges,
            events=self.events,
            readings=self.readings,
            jars=self.jars,
            stations={s.id: s.kind for s in self.stations.values()},
            people=self.people,
            own=self.own_processes,
            forecasts=forecasts_of(self.batch.predicted.get("forecasts", ())),
            laid=_laid(self.batch.id),
        )

    def recalled(self) -> bool:
        """Whether a session that only reads, as this one does, has read it before as it stands."""
        if not furniture.looks_on(self.orm):
            return False
        papers = furniture.kept(self.orm, self._name, self._stamp)
        self.__dict__.update(papers or {})
        return papers is not None

    def leave(self) -> None:
        """Leave what was read, and what it amounts to, to others that only read."""
        if furniture.looks_on(self.orm):
            read = (
                *self.operations,
                *self.lots.values(),
                *self.journal,
                *self.jars_ever,
                *self.readings,
            )
            papers = {name: getattr(self, name) for name in PAPERS}
            furniture.keep(self.orm, self._name, self._stamp, papers, read)

    @property
    def _name(self) -> tuple[str, int]:
        return "batch", self.batch.id

    @property
    def _stamp(self) -> tuple[object, ...]:
        """What is another as soon as what it amounts to is."""
        return self.batch.touched, self.kitchen, self.own_processes, self.stations, self.people

    @cached_property
    def _said(self) -> dict[Hashable, Any]:
        return {}

    def once(self, name: Hashable, say: Callable[[], Said]) -> Said:
        """What is said of it in a view that hangs on nothing else, and not on the time of day."""
        if name not in self._said:
            self._said[name] = say()
        found: Said = self._said[name]
        return found

    def anew(self) -> None:
        """Forget what it amounted to: a row was added or changed."""
        for name in ("standing", "_said"):
            self.__dict__.pop(name, None)

    def tested_time(self, process: Operation) -> Lookup:
        """What the tables say of the jars of a canner load, in the canner that it stands on."""
        kinds = [j.jar_kind for j in self.jar_rows(process)]
        station = self.stations.get(process.station_id or 0)
        heater: Heater = "steam" if station and station.heater == "steam" else "bath"
        return self.standing.tested_time(kinds, self.standing.fill_of(process), heater)

    def phase(self, operation: Operation) -> Phase:
        """Where a step stands."""
        return self.standing.phase(operation)

    @property
    def instruments(self) -> list[str]:
        """What there is to read with."""
        return self.house.instruments

    def find(self, operation_id: int) -> Operation:
        """The row of a step that the core speaks of."""
        return next(o for o in self.operations if o.id == operation_id)

    def jar_rows(self, operation: Operation) -> list[Jar]:
        """The jars that a step is about."""
        ids = set(self.standing.jar_ids(operation))
        return [j for j in self.jars if j.id in ids]


def folders(
    orm: Orm, who: Who, batches: Sequence[Batch], now: datetime | None = None
) -> list[Folder]:
    """The folders of several batches, read together, as they stand at a moment."""
    house, at = House(orm, who), now or datetime.now(UTC)
    found = [Folder(orm, who, b, house, at=at) for b in batches]
    unread = [folder for folder in found if not folder.recalled()]
    if unread:
        _read(orm, who.household_id, unread)
    return found


def _read(orm: Orm, hh: int, unread: Sequence[Folder]) -> None:
    """Read the rows of several batches together."""
    ids = [folder.batch.id for folder in unread]
    operations = queries.of_batches(orm, hh, Operation, ids)
    lots = queries.of_batches(orm, hh, Lot, ids)
    events = queries.of_batches(orm, hh, Event, ids)
    readings = queries.of_batches(orm, hh, Reading, ids)
    jars = queries.of_batches(orm, hh, Jar, ids)
    edges = queries.edges(orm, hh, ids)
    for folder in unread:
        mine = folder.batch.id
        folder.operations = sorted(operations[mine], key=lambda o: o.position)
        folder.lots = {row.id: row for row in lots[mine]}
        folder.journal, folder.jars_ever = events[mine], jars[mine]
        folder.readings = folder._that_stand(readings[mine], "reading")
        folder.edges = {o.id: edges[o.id] for o in operations[mine]}
        folder.leave()


@lru_cache(maxsize=MOST_LAID)
def _laid(batch_id: int) -> LaidOut:
    """How a batch was laid out last, by any request: it is compared before it is used."""
    del batch_id
    return LaidOut()


def forecasts_of(rows: Sequence[Mapping[str, Any]]) -> dict[tuple[str, str], YieldForecast]:
    """The yields that a batch was planned with, from their stored form."""
    return {
        (str(r["fruit"]), str(r["way"])): YieldForecast(
            float(r["median"]), float(r["sigma"]), int(r["used"]), ()
        )
        for r in rows
    }  # fmt: skip


def rows_of_forecasts(
    forecasts: Mapping[tuple[str, str], YieldForecast],
) -> list[dict[str, object]]:
    """The yields that a batch is planned with, as they are stored."""
    return [
        {"fruit": fruit, "way": way, "median": f.median, "sigma": f.sigma, "used": f.used}
        for (fruit, way), f in forecasts.items()
    ]


def title(operation: Operation, system: System = "metric") -> str:
    """A step's title in plain words, in the units of a kitchen."""
    return words(operation, "title", system)


def find(orm: Orm, who: Who, batch_id: int, lock: bool = False) -> Batch:
    """A batch of this household.

    Raises:
        NotFound: missing, or another household's.
    """
    batch = queries.one(orm, who.household_id, Batch, batch_id, lock=lock)
    if batch is None:
        raise NotFound("batch")
    return batch


def folder_of(orm: Orm, who: Who, batch_id: int, lock: bool = False) -> Folder:
    """The folder of a batch of this household.

    Raises:
        NotFound: missing, or another household's.
    """
    return opened(orm, who, find(orm, who, batch_id, lock=lock))


def opened(orm: Orm, who: Who, batch: Batch) -> Folder:
    """The folder of a batch: read as it is needed where it is to be changed, else all at once."""
    return folders(orm, who, [batch])[0] if furniture.looks_on(orm) else Folder(orm, who, batch)
