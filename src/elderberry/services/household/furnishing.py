"""Changing a kitchen: its place, what stands in it, what is in stock, and who cooks."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from sqlalchemy import func, select
from sqlalchemy.orm import Session as Orm

from elderberry.core import closures, jars
from elderberry.core.batch import readings
from elderberry.core.batch.lifecycle import Seal
from elderberry.core.colour import LIDS
from elderberry.core.errors import Unknown
from elderberry.services.errors import Conflict, FieldError, NotAllowed, NotFound
from elderberry.services.household import kitchens, people, signing_in, zones
from elderberry.services.household.hashing import Hashing
from elderberry.services.who import Who
from elderberry.store import Jar, JarStock, LidStock, Person, Place, Station, Vessel, queries

NEEDED_STATIONS = {"burner", "worktop", "cool_rack", "fridge", "freezer"}
NEEDED_PLACES = {"refrigerator", "freezer"}
Furnishing = Literal["station", "vessel", "place"]
MODELS: Mapping[Furnishing, type[Any]] = {"station": Station, "vessel": Vessel, "place": Place}
MOST = 60
"""Rows of a kind that a kitchen may hold."""


@dataclass(frozen=True)
class NewPerson:
    """Someone who joins the household."""

    name: str
    sign_in: str
    password: str
    role: str


def change_kitchen(orm: Orm, who: Who, changes: Mapping[str, Any]) -> None:
    """Change the kitchen itself: place, barometer, water, units, instruments, containers.

    Raises:
        FieldError: an instrument or time zone there is none of, or no altitude and no barometer.
    """
    row = kitchens.stored(orm, who)
    for name, value in changes.items():
        setattr(row, name, value)
    unknown = set(row.instruments) - set(readings.INSTRUMENTS)
    if unknown:
        raise FieldError("/instruments", f"There is no instrument called {unknown.pop()}.")
    zones.zone(row.time_zone)
    orm.flush()


def put(orm: Orm, who: Who, what: Furnishing, row_id: int | None, said: Mapping[str, Any]) -> None:
    """A new station, vessel or place for jars, or other figures of one.

    Raises:
        NotFound: missing, or another household's.
        Conflict: more than a kitchen holds.
    """
    model = MODELS[what]
    row = _new(orm, who, model) if row_id is None else _row(orm, who, model, row_id)
    if isinstance(row, Place) and row_id is not None:
        _stays_cold(orm, who, row, said)
    for name, value in said.items():
        setattr(row, name, value)
    orm.flush()


COLD_C = {"refrigerator": (0.0, 5.0), "freezer": (-60.0, -15.0)}
"""How warm a place may be that holds jars whose seal does not keep them [°C]."""


def _stays_cold(orm: Orm, who: Who, place: Place, said: Mapping[str, Any]) -> None:
    """What holds unsealed jars stays a refrigerator or a freezer, and as cold as one."""
    if place.kind not in COLD_C:
        return
    unsealed = select(Jar.id).where(
        Jar.household_id == who.household_id, Jar.place_id == place.id,
        Jar.seal.not_in((Seal.SEALED, Seal.CAPPED)),
    )  # fmt: skip
    if orm.scalar(unsealed.limit(1)) is None:
        return
    kind, temp_c = said.get("kind", place.kind), said.get("temp_c", place.temp_c)
    low, high = COLD_C.get(kind, (1.0, 0.0))
    if kind != place.kind or not low <= temp_c <= high:
        limits = COLD_C[place.kind]
        raise Conflict(
            "jars-need-cold",
            f"Jars that are not sealed stand in {place.name}: it stays a {place.kind} between "
            f"{limits[0]:g} and {limits[1]:g} °C. Move them first. Nothing was changed.",
        )


def drop_station(orm: Orm, who: Who, station_id: int) -> None:
    """Retire a station that nothing runs on, unless it is the only one of a kind that is needed."""
    row = _row(orm, who, Station, station_id)
    alike = [s for s in kitchens.stations(orm, who) if s.kind == row.kind]
    if row.kind in NEEDED_STATIONS and len(alike) == 1:
        raise Conflict("still-needed", f"A kitchen needs one {row.kind.replace('_', ' ')}.")
    open_steps = queries.unfinished_on(orm, who.household_id, row.id)
    if open_steps:
        raise Conflict("in-use", f"{row.name} still has work waiting on it. Finish that first.")
    row.retired = True
    orm.flush()


def drop_vessel(orm: Orm, who: Who, vessel_id: int) -> None:
    """A vessel is gone."""
    orm.delete(_row(orm, who, Vessel, vessel_id))
    orm.flush()


def drop_place(orm: Orm, who: Who, place_id: int) -> None:
    """A place is gone; not while jars stand there."""
    row = _row(orm, who, Place, place_id)
    if row.jars:
        raise Conflict("jars-there", f"Jars stand in {row.name}. Move them first.")
    alike = [p for p in queries.all_of(orm, who.household_id, Place) if p.kind == row.kind]
    if row.kind in NEEDED_PLACES and len(alike) == 1:
        raise Conflict("still-needed", f"A kitchen needs one {row.kind}.")
    orm.delete(row)
    orm.flush()


def count_jars(orm: Orm, who: Who, kind: str, count: int, lids: int, packet: str = "") -> None:
    """How many jars of a kind stand ready, and lids for them; of which packet they are."""
    jars.kind(kind)
    stock = {s.jar_kind: s for s in queries.all_of(orm, who.household_id, JarStock)}
    row = stock.get(kind)
    if row is None:
        row = JarStock(household_id=who.household_id, jar_kind=kind)
        orm.add(row)
    row.jars, row.lids, row.packet = count, lids, packet.strip()
    orm.flush()


def count_lids(
    orm: Orm, who: Who, jar_kind: str, closure: str, colour: str, count: int, packet: str = ""
) -> None:
    """How many lids of a closure and a colour there are for a kind of jar.

    Raises:
        Unknown: a kind of jar, or a colour of lids, that there is none of.
        FieldError: a closure whose lids are not counted by themselves, or the usual ones as they
            are, which are counted with their jars.
    """
    jars.kind(jar_kind)
    if colour and colour not in LIDS:
        raise Unknown("colour of lid", colour)
    if closure and not closures.closure(closure).counted:
        raise FieldError("/closure", "Lids of that kind are not counted by themselves.")
    if not closure and not colour:
        raise FieldError("/colour", "The usual lids are counted with their jars: say a colour.")
    row = kitchens.lids(orm, who, jar_kind, closure, colour)
    if row is None:
        row = LidStock(
            household_id=who.household_id, jar_kind=jar_kind, closure=closure, colour=colour,
            lids=count,
        )  # fmt: skip
        orm.add(row)
    row.lids, row.packet = count, packet.strip()
    orm.flush()


def add_person(orm: Orm, who: Who, new: NewPerson, hashing: Hashing) -> None:
    """Someone joins the household.

    Raises:
        FieldError: the sign-in name is taken, or the password is guessed among the first.
    """
    if orm.scalar(select(func.count()).where(Person.sign_in == people.known_as(new.sign_in))):
        raise FieldError("/sign_in", "That sign-in name is taken. Choose another.")
    hashed = people.hashed(new.password, (new.name, new.sign_in), hashing)
    login = people.Login(new.sign_in, hashed, new.role)
    people.add_person(orm, who.household_id, new.name, login)


def give_password(orm: Orm, who: Who, person_id: int, password: str, hashing: Hashing) -> None:
    """Another password for somebody of the household, who is signed out everywhere.

    Raises:
        NotFound: nobody of this household.
        FieldError: it is guessed among the first.
    """
    row = _row(orm, who, Person, person_id)
    hashed = people.hashed(password, (row.name, row.sign_in), hashing)
    signing_in.change_password(orm, who, row.id, hashed)


def sign_out(orm: Orm, who: Who, person_id: int) -> None:
    """Sign somebody of the household out everywhere.

    Raises:
        NotFound: nobody of this household.
    """
    signing_in.close_all(orm, who, _row(orm, who, Person, person_id).id)


def set_hours(orm: Orm, who: Who, person_id: int, hours: dict[str, str] | None) -> None:
    """When someone cooks; everybody says it of themselves, a keeper of everybody."""
    if person_id != who.person_id and who.role != "keeper":
        raise NotAllowed("Only a keeper of this household sets other people's hours.")
    row = _row(orm, who, Person, person_id)
    row.hours = hours
    orm.flush()


def _row(orm: Orm, who: Who, model: type[Any], row_id: int) -> Any:
    row = queries.one(orm, who.household_id, model, row_id, lock=True)
    if row is None or getattr(row, "retired", False):
        raise NotFound(model.__name__.lower())
    return row


def _new(orm: Orm, who: Who, model: type[Any]) -> Any:
    """One more, after those that there are where they stand in an order."""
    rows = queries.all_of(orm, who.household_id, model)
    if len(rows) >= MOST:
        raise Conflict("too-many", f"A kitchen holds at most {MOST} of these.")
    row = model(household_id=who.household_id)
    if model is not Vessel:
        row.position = 1 + max((r.position for r in rows), default=0)
    orm.add(row)
    return row
