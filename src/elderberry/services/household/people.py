"""Households, people and sign-in."""

from __future__ import annotations

import hashlib
import secrets
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerifyMismatchError
from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session as Orm

from elderberry.core import jars
from elderberry.core.batch import readings
from elderberry.core.kitchen import Heater
from elderberry.core.quantities import System
from elderberry.services.errors import Conflict, FieldError, SignInFailed, TooManyTries
from elderberry.services.who import Who
from elderberry.store import (
    Household,
    JarStock,
    Kitchen,
    Person,
    Place,
    Session,
    SignInFailure,
    Station,
    Vessel,
)

SESSION_DAYS = 30
TRIES = 8
TRIES_WITHIN = timedelta(minutes=15)


@dataclass(frozen=True)
class Things:
    """What a kitchen has, as is asked on its first day; None where there is none of a thing.

    juicer_l: the steam juicer's basket [L]. canner: bath or steam, for canner_jars at a time.
    pot_l, pot_cm: the largest pot [L] and its inner width [cm]. jars: how many, by kind.
    """

    juicer_l: float | None = 8.0
    canner: Heater | None = "bath"
    canner_jars: int = 7
    pot_l: float | None = None
    pot_cm: float | None = None
    instruments: tuple[str, ...] = ("thermometer", "jug", "scale")
    jars: Mapping[str, int] = field(
        default_factory=lambda: {"pint": 48, "quart": 18, "half_pint": 12}
    )
    units: System = "metric"


USUAL = Things()


@dataclass(frozen=True)
class NewHousehold:
    """What is asked of whoever opens Elderberry for the first time."""

    household: str
    altitude_m: float
    time_zone: str
    name: str
    sign_in: str
    password: str
    things: Things = USUAL


def found_household(orm: Orm, new: NewHousehold, hasher: PasswordHasher, now: datetime) -> Who:
    """The first household of an empty installation, with what its kitchen has.

    Raises:
        Conflict: there is a household already.
        FieldError: an instrument or a kind of jar there is none of.
    """
    if orm.scalar(select(func.count()).select_from(Household)):
        raise Conflict("household-exists", "This Elderberry already has a household. Sign in.")
    household = Household(name=new.household, created_at=now)
    orm.add(household)
    orm.flush()
    orm.add(
        Kitchen(
            household_id=household.id,
            name=new.household,
            altitude_m=new.altitude_m,
            time_zone=new.time_zone,
            units=new.things.units,
            cup=new.things.units,
            instruments=_known(new.things.instruments),
        )
    )
    furnish(orm, household.id, new.things)
    person = add_person(orm, household.id, new.name, new.sign_in, new.password, "keeper", hasher)
    return Who(household.id, person.id, person.name, person.role)


def _known(instruments: Sequence[str]) -> list[str]:
    unknown = next((i for i in instruments if i not in readings.INSTRUMENTS), None)
    if unknown:
        raise FieldError("/things/instruments", f"There is no instrument called {unknown}.")
    return list(instruments)


def furnish(orm: Orm, household_id: int, things: Things = USUAL) -> None:
    """Stations, places, pots and jars: those that were told of, and what every kitchen has."""
    unknown = next((k for k in things.jars if k not in jars.kinds()), None)
    if unknown:
        raise FieldError("/things/jars", f"There is no jar called {unknown}.")
    there = [
        Place(name="Cellar shelf", kind="cellar", temp_c=13, light=False),
        Place(name="Kitchen shelf", kind="shelf", temp_c=19, light=True),
        Place(name="Refrigerator", kind="refrigerator", temp_c=4, light=False),
        Place(name="Freezer", kind="freezer", temp_c=-18, light=False),
    ]
    rows: tuple[Sequence[Station | Place], ...] = (_stations(things), there)
    for alike in rows:
        for position, row in enumerate(alike, start=1):
            row.household_id, row.position = household_id, position
            orm.add(row)
    if things.pot_l is not None:
        orm.add(Vessel(household_id=household_id, kind="pot", name="Large pot", count=1,
                       litres=things.pot_l, diameter_cm=things.pot_cm))  # fmt: skip
    for jar_kind, count in things.jars.items():
        if count:
            lids = count + count // SPARE_LIDS_OF
            orm.add(JarStock(household_id=household_id, jar_kind=jar_kind, jars=count, lids=lids))
    orm.flush()


SPARE_LIDS_OF = 4
"""One lid to spare for so many jars."""


def _stations(things: Things) -> list[Station]:
    def on_a_ring(kind: str, name: str, power_kw: float, **sizes: object) -> Station:
        return Station(kind=kind, name=name, power_kw=power_kw, power_kind="electric", **sizes)

    litres, loads = things.juicer_l, things.canner_jars
    steamer = () if litres is None else (
        on_a_ring("juicer", "Steamer, ring 1", 1.8, basket_l=litres, pan_l=litres / 2),
    )  # fmt: skip
    canner = () if things.canner is None else (
        on_a_ring("canner", "Canner, ring 3", 2.5, jars=loads, heater=things.canner),
    )  # fmt: skip
    return [
        *steamer,
        on_a_ring("burner", "Ring 2", 2.2),
        *canner,
        Station(kind="worktop", name="Worktop"),
        Station(kind="cool_rack", name="Cool rack"),
        Station(kind="fridge", name="Refrigerator"),
        Station(kind="freezer", name="Freezer"),
    ]


def add_person(
    orm: Orm,
    household_id: int,
    name: str,
    sign_in: str,
    password: str,
    role: str,
    hasher: PasswordHasher,
) -> Person:
    """A person with a sign-in name of their own, kept in lower case."""
    person = Person(
        household_id=household_id,
        name=name,
        sign_in=sign_in.strip().lower(),
        password_hash=hasher.hash(password),
        role=role,
    )
    orm.add(person)
    orm.flush()
    return person


def check_password(
    orm: Orm, sign_in: str, password: str, hasher: PasswordHasher, now: datetime
) -> Who:
    """The person with this name and password.

    Raises:
        TooManyTries: eight failures within a quarter of an hour.
        SignInFailed: otherwise, without telling which was wrong.
    """
    name = sign_in.strip().lower()[:80]
    recent = select(func.count()).where(
        SignInFailure.sign_in == name, SignInFailure.at > now - TRIES_WITHIN
    )
    if (orm.scalar(recent) or 0) >= TRIES:
        raise TooManyTries("Too many tries. Wait a quarter of an hour, then sign in again.")
    person = orm.scalar(select(Person).where(Person.sign_in == name))
    stored = person.password_hash if person else _no_ones_hash(hasher)
    try:
        hasher.verify(stored, password)
    except (VerifyMismatchError, InvalidHashError):
        person = None
    if person is None:
        raise SignInFailed("That name and password do not belong together.")
    orm.execute(delete(SignInFailure).where(SignInFailure.sign_in == name))
    return Who(person.household_id, person.id, person.name, person.role)


def note_failure(orm: Orm, sign_in: str, now: datetime) -> None:
    """Remember a failed sign-in; its own transaction, since the attempt is rolled back."""
    orm.add(SignInFailure(sign_in=sign_in.strip().lower()[:80], at=now))


def open_session(orm: Orm, who: Who, now: datetime) -> str:
    """A token for the browser's cookie; only its hash is stored."""
    token = secrets.token_urlsafe(32)
    orm.execute(delete(Session).where(Session.expires_at < now))
    orm.add(
        Session(
            household_id=who.household_id,
            token_hash=_hash(token),
            person_id=who.person_id,
            created_at=now,
            expires_at=now + timedelta(days=SESSION_DAYS),
        )
    )
    return token


def whose(orm: Orm, token: str, now: datetime) -> Who | None:
    """The person a token belongs to, None where it is unknown or over."""
    query = (
        select(Person)
        .join(Session, Session.person_id == Person.id)
        .where(Session.token_hash == _hash(token), Session.expires_at > now)
    )
    person = orm.scalar(query)
    if person is None:
        return None
    return Who(person.household_id, person.id, person.name, person.role)


def close_session(orm: Orm, token: str) -> None:
    """Sign out."""
    orm.execute(delete(Session).where(Session.token_hash == _hash(token)))


def _hash(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


_decoys: dict[int, str] = {}


def _no_ones_hash(hasher: PasswordHasher) -> str:
    """A hash to verify against when nobody has the name, so that both cases take as long."""
    return _decoys.setdefault(hasher.time_cost, hasher.hash("nobody"))
