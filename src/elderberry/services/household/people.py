"""Households, people and sign-in."""

from __future__ import annotations

import unicodedata
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime

from sqlalchemy import func, select
from sqlalchemy.orm import Session as Orm

from elderberry.core import jars
from elderberry.core.batch import readings
from elderberry.core.kitchen import Heater
from elderberry.core.quantities import System
from elderberry.services.errors import Conflict, FieldError
from elderberry.services.household import passwords, zones
from elderberry.services.household.hashing import Hashing
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


def found_household(orm: Orm, new: NewHousehold, hashing: Hashing, now: datetime) -> Who:
    """The first household of an empty installation, with what its kitchen has.

    Raises:
        Conflict: there is a household already.
        FieldError: an instrument, a time zone or a kind of jar there is none of; a password that
            is guessed among the first.
    """
    names = (new.name, new.sign_in, new.household)
    keeper = Login(new.sign_in, hashed(new.password, names, hashing), "keeper")
    queries.hold_all(orm)
    if orm.scalar(select(func.count()).select_from(Household)):
        raise Conflict("household-exists", "This Elderberry already has a household. Sign in.")
    if queries.under_way(orm):
        raise Conflict("being-replaced", "An archive is being taken in: wait a moment.")
    household = Household(name=new.household, created_at=now)
    orm.add(household)
    orm.flush()
    orm.add(
        Kitchen(
            household_id=household.id,
            name=new.household,
            altitude_m=new.altitude_m,
            time_zone=zones.zone(new.time_zone).key,
            units=new.things.units,
            cup=new.things.units,
            instruments=_known(new.things.instruments),
        )
    )
    furnish(orm, household.id, new.things)
    person = add_person(orm, household.id, new.name, keeper)
    return Who.of(person)


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


LONGEST_NAME = 80
"""Letters of a sign-in name, in lower case, where some letters become two."""


def known_as(sign_in: str) -> str:
    """A sign-in name as it is kept: whoever writes it in capitals means the same.

    Raises:
        FieldError: it is longer than it can be kept.

    >>> known_as(" Oda "), known_as("ODA")
    ('oda', 'oda')
    """
    name = unicodedata.normalize("NFKC", sign_in).strip().lower()
    if not 1 <= len(name) <= LONGEST_NAME:
        words = f"A sign-in name has up to {LONGEST_NAME} letters. Choose a shorter one."
        raise FieldError("/sign_in", words)
    return name


@dataclass(frozen=True)
class Login:
    """How a person signs in: their name, what is kept of the password, and as what."""

    sign_in: str
    hashed: str
    role: str


def hashed(password: str, names: Iterable[str], hashing: Hashing) -> str:
    """What is kept of a password that somebody chose.

    Raises:
        FieldError: it is guessed among the first.
        Busy: too many are being hashed.
    """
    passwords.check(password, "/password", names)
    return hashing.hash(password)


def add_person(orm: Orm, household_id: int, name: str, login: Login) -> Person:
    """A person with a sign-in name of their own, kept in lower case.

    Raises:
        FieldError: the name is longer than it can be kept.
    """
    person = Person(
        household_id=household_id,
        name=name,
        sign_in=known_as(login.sign_in),
        password_hash=login.hashed,
        role=login.role,
    )
    orm.add(person)
    orm.flush()
    return person
