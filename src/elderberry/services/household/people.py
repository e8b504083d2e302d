"""Households, people and sign-in."""

from __future__ import annotations

import hashlib
import secrets
from dataclasses import dataclass
from datetime import datetime, timedelta

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerifyMismatchError
from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session as Orm

from elderberry.services.errors import Conflict, SignInFailed, TooManyTries
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
)

SESSION_DAYS = 30
TRIES = 8
TRIES_WITHIN = timedelta(minutes=15)


@dataclass(frozen=True)
class NewHousehold:
    """What is asked of whoever opens Elderberry for the first time."""

    household: str
    altitude_m: float
    time_zone: str
    name: str
    sign_in: str
    password: str


def found_household(orm: Orm, new: NewHousehold, hasher: PasswordHasher, now: datetime) -> Who:
    """The first household of an empty installation, with a usual kitchen to start from.

    Raises:
        Conflict: there is a household already.
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
        )
    )
    furnish(orm, household.id)
    person = add_person(orm, household.id, new.name, new.sign_in, new.password, "keeper", hasher)
    return Who(household.id, person.id, person.name, person.role)


def furnish(orm: Orm, household_id: int) -> None:
    """Stations, places and jars that most kitchens have."""

    def station(position: int, kind: str, name: str, **sizes: object) -> Station:
        return Station(household_id=household_id, position=position, kind=kind, name=name, **sizes)

    electric = {"power_kind": "electric"}
    orm.add_all(
        [
            station(
                1, "juicer", "Steamer, ring 1", basket_l=8, pan_l=4.0, power_kw=1.8, **electric
            ),
            station(2, "burner", "Ring 2", power_kw=2.2, **electric),
            station(3, "canner", "Canner, ring 3", jars=7, heater="bath", power_kw=2.5, **electric),
            station(4, "worktop", "Worktop"),
            station(5, "cool_rack", "Cool rack"),
            station(6, "fridge", "Refrigerator"),
            station(7, "freezer", "Freezer"),
            Place(household_id=household_id, position=1, name="Cellar shelf", kind="cellar",
                  temp_c=13, light=False),
            Place(household_id=household_id, position=2, name="Kitchen shelf", kind="shelf",
                  temp_c=19, light=True),
            Place(household_id=household_id, position=3, name="Refrigerator", kind="refrigerator",
                  temp_c=4, light=False),
            Place(household_id=household_id, position=4, name="Freezer", kind="freezer",
                  temp_c=-18, light=False),
            JarStock(household_id=household_id, jar_kind="pint", jars=48, lids=60),
            JarStock(household_id=household_id, jar_kind="quart", jars=18, lids=24),
            JarStock(household_id=household_id, jar_kind="half_pint", jars=12, lids=12),
        ]
    )  # fmt: skip
    orm.flush()


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
