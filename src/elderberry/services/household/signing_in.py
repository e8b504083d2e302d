"""Signing in and out: tries, sessions, and browsers that are known.

Tries are counted for each name and where they come from, before a password is looked at, so that
many at once are no more than one after the other. A browser that has signed in before counts for
itself: whoever tries names from elsewhere cannot lock a household out of its own kitchen.
"""

from __future__ import annotations

import hashlib
import secrets
from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy import Select, delete, func, select
from sqlalchemy.orm import Session as Orm

from elderberry.services.errors import FieldError, NotFound, TooManyTries
from elderberry.services.household.people import known_as
from elderberry.services.who import Who
from elderberry.store import (
    Event,
    Household,
    KnownBrowser,
    Person,
    Session,
    SignInTry,
    queries,
)
from elderberry.store.furniture import Furnished

SESSION_DAYS = 30
BROWSER_DAYS = 400
TRIES = 8
TRIES_WITHIN = timedelta(minutes=15)
MOST_BROWSERS = 20
"""Browsers that are known of a person; the one seen longest ago is forgotten."""


@dataclass(frozen=True)
class Try:
    """A sign-in under way: whose it would be, what their password is checked against."""

    number: int
    whence: str
    person_id: int | None
    stored: str | None
    browser: str
    """The token of a browser that is known for this person; empty where it is not."""


def begin(orm: Orm, sign_in: str, address: str, browser: str, now: datetime) -> Try:
    """Count a try, and look up what its password is to be checked against.

    Args:
        orm: a transaction to be committed before anybody asks whether it goes on.
        sign_in: the name as typed.
        address: where the request comes from.
        browser: the token by which a browser is known; empty where it has none.
        now: the time.

    Raises:
        FieldError: no name is that long.
    """
    name = known_as(sign_in)
    person = orm.scalar(select(Person).where(Person.sign_in == name))
    known = browser if person and _browser(orm, person.id, browser) else ""
    whence = _hash(f"{name}\n{known or address}")
    over = SignInTry.at < now - TRIES_WITHIN
    if orm.scalar(select(SignInTry.id).where(over).limit(1)):  # to delete waits for all tries
        orm.execute(delete(SignInTry).where(over))
    mine = SignInTry(whence=whence, at=now)
    orm.add(mine)
    orm.flush()
    if person is None:
        return Try(mine.id, whence, None, None, known)
    return Try(mine.id, whence, person.id, person.password_hash, known)


def too_many(orm: Orm, tried: Try, now: datetime) -> TooManyTries | None:
    """What stands against a try that has been counted: eight others within a quarter of an hour
    under this name from there. It is then counted no longer.

    Args:
        orm: a transaction that began after that of the try was committed. Of as many as come at
            once, the last that was counted sees all others that go on: they are never over eight.
        tried: the try.
        now: the time.
    """
    others = select(SignInTry.at).where(
        SignInTry.whence == tried.whence,
        SignInTry.id != tried.number,
        SignInTry.at >= now - TRIES_WITHIN,
    )
    times = sorted(orm.scalars(others))
    if len(times) < TRIES:
        return None
    orm.execute(delete(SignInTry).where(SignInTry.id == tried.number))
    wait = (times[-TRIES] + TRIES_WITHIN - now).total_seconds()
    words = "Too many tries. Wait a quarter of an hour, then sign in again."
    return TooManyTries(words, max(1, round(wait)))


@dataclass(frozen=True)
class Welcome:
    """Someone who has signed in, with what their browser keeps."""

    who: Who
    session: str
    browser: str


def welcome(orm: Orm, tried: Try, now: datetime) -> Welcome:
    """The password was right: earlier tries are forgotten, a session begins."""
    person = orm.get_one(Person, tried.person_id)
    orm.execute(delete(SignInTry).where(SignInTry.whence == tried.whence))
    who = Who.of(person)
    return come_in(orm, who, now, tried.browser)


def come_in(orm: Orm, who: Who, now: datetime, browser: str = "") -> Welcome:
    """A session begins; browser: the token of one that is known, empty where it is not."""
    return Welcome(who, open_session(orm, who, now), know_browser(orm, who, browser, now))


def not_theirs(field: str) -> FieldError:
    """What is said of an old password that is not the one that was kept."""
    return FieldError(field, "That is not your password until now. Nothing was changed.")


def know_browser(orm: Orm, who: Who, token: str, now: datetime) -> str:
    """A browser in which somebody has signed in; the token by which it is known again."""
    there = _browser(orm, who.person_id, token)
    if there is not None:
        there.seen_at = now
        return token
    token = secrets.token_urlsafe(32)
    orm.add(KnownBrowser(household_id=who.household_id, person_id=who.person_id,
                         token_hash=_hash(token), seen_at=now))  # fmt: skip
    orm.flush()
    of_theirs = select(KnownBrowser.id).where(KnownBrowser.person_id == who.person_id)
    newest = of_theirs.order_by(KnownBrowser.id.desc())
    old = orm.scalars(newest.offset(MOST_BROWSERS).limit(MOST_BROWSERS)).all()
    orm.execute(delete(KnownBrowser).where(KnownBrowser.id.in_(old)))
    return token


def _browser(orm: Orm, person_id: int, token: str) -> KnownBrowser | None:
    if not token:
        return None
    query = select(KnownBrowser).where(
        KnownBrowser.person_id == person_id, KnownBrowser.token_hash == _hash(token)
    )
    return orm.scalar(query)


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
    found = orm.execute(_of_token(token, now)).first()
    return Who(*found) if found else None


@dataclass(frozen=True)
class Asking:
    """Who asks, and how their household stood at that moment."""

    who: Who
    furnished: Furnished


def asking(orm: Orm, token: str, now: datetime) -> Asking | None:
    """The person a token belongs to and where their household stands, seen at one moment."""
    newest = (
        select(func.max(Event.id)).where(Event.household_id == Person.household_id)
    ).scalar_subquery()
    query = _of_token(token, now).join(Household, Household.id == Person.household_id)
    found = orm.execute(query.add_columns(newest, Household.furnished)).first()
    if found is None:
        return None
    *who, last, furnished = found
    return Asking(Who(*who), Furnished(last or 0, furnished))


def _of_token(token: str, now: datetime) -> Select[int, int, str, str]:
    return (
        select(Person.household_id, Person.id, Person.name, Person.role)
        .join(Session, Session.person_id == Person.id)
        .where(Session.token_hash == _hash(token), Session.expires_at > now)
    )


def still_open(orm: Orm, tokens: set[str], now: datetime) -> set[str]:
    """Those of some tokens whose sessions are still open."""
    by_hash = {_hash(token): token for token in tokens}
    query = select(Session.token_hash).where(
        Session.token_hash.in_(list(by_hash)), Session.expires_at > now
    )
    return {by_hash[found] for found in orm.scalars(query)}


def close_session(orm: Orm, token: str) -> None:
    """Sign out."""
    orm.execute(delete(Session).where(Session.token_hash == _hash(token)))


def close_all(orm: Orm, who: Who, person_id: int) -> None:
    """Sign a person of the household out everywhere."""
    mine = Session.household_id == who.household_id
    orm.execute(delete(Session).where(mine, Session.person_id == person_id))


def change_password(orm: Orm, who: Who, person_id: int, hashed: str) -> None:
    """Another password for a person of the household; whoever used the old one is signed out.

    Raises:
        NotFound: nobody of this household.
    """
    queries.hold(orm, who.household_id)
    person = queries.one(orm, who.household_id, Person, person_id)
    if person is None:
        raise NotFound("person")
    person.password_hash = hashed
    close_all(orm, who, person_id)
    orm.flush()


def _hash(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()
