"""Sign-in and sign-out.

None of it is done while a connection to the database waits for a password to be hashed.
"""

from __future__ import annotations

import io
from dataclasses import dataclass
from typing import Annotated

from fastapi import APIRouter, Body, Cookie, HTTPException, Request, Response
from sqlalchemy import func, select
from sqlalchemy.orm import Session as Orm

from elderberry.api.deps import COOKIE, Chosen, Now, Token, Transaction
from elderberry.api.sent.people import HouseholdCreate, PasswordPut, SignIn
from elderberry.api.settings import CannotKeep, Settings
from elderberry.demo.household import DEMO_SIGN_IN
from elderberry.services.errors import Conflict, SignInFailed
from elderberry.services.household import people, signing_in
from elderberry.services.household.archiving import Came
from elderberry.services.household.signing_in import Welcome
from elderberry.services.who import Who
from elderberry.store import Household, Person

router = APIRouter(prefix="/api/session", tags=["session"])
BROWSER = "elderberry_browser"
Browser = Annotated[str, Cookie(alias=BROWSER)]
DAY_S = 86_400


@dataclass(frozen=True)
class SessionPublic:
    """Who is signed in, and how one may sign in here."""

    name: str | None
    role: str | None
    demo: bool
    founded: bool


@router.get("")
def who_am_i(orm: Transaction, chosen: Chosen, now: Now, token: Token = None) -> SessionPublic:
    """Who is signed in; never an error, so that a page can ask before it shows anything."""
    who = signing_in.whose(orm, token, now) if token else None
    founded = bool(orm.scalar(select(func.count()).select_from(Household)))
    return SessionPublic(who.name if who else None, who.role if who else None, chosen.demo, founded)


@router.post("")
def sign_in(
    sent: SignIn,
    request: Request,
    response: Response,
    chosen: Chosen,
    now: Now,
    browser: Browser = "",
) -> SessionPublic:
    """Sign in by name and password."""
    address = request.client.host if request.client else ""
    with Orm(chosen.engine) as orm, orm.begin():
        tried = signing_in.begin(orm, sent.sign_in, address, browser, now)
    with Orm(chosen.engine) as orm, orm.begin():
        too_many = signing_in.too_many(orm, tried, now)
    if too_many is not None:
        raise too_many
    if not chosen.hashing.matches(tried.stored, sent.password):
        raise SignInFailed("That name and password do not belong together.")
    with Orm(chosen.engine) as orm, orm.begin():
        welcome = signing_in.welcome(orm, tried, now)
    return _welcome(response, chosen, welcome)


@router.post("/demo")
def enter_demo(response: Response, orm: Transaction, chosen: Chosen, now: Now) -> SessionPublic:
    """Sign in to the demo household by one button; only where the demo was started."""
    person = orm.scalar(select(Person).where(Person.sign_in == DEMO_SIGN_IN))
    if not chosen.demo or person is None:
        raise HTTPException(404, "There is no demo here.")
    who = Who.of(person)
    return _welcome(response, chosen, signing_in.come_in(orm, who, now))


@router.post("/household", status_code=201)
def found(
    sent: HouseholdCreate, response: Response, orm: Transaction, chosen: Chosen, now: Now
) -> SessionPublic:
    """The first household of an empty installation, and its keeper signed in."""
    who = people.found_household(orm, sent.new(), chosen.hashing, now)
    return _welcome(response, chosen, signing_in.come_in(orm, who, now))


@router.post("/archive", status_code=201)
def take_archive_in(
    held: Annotated[bytes, Body(media_type="application/zip")], chosen: Chosen, now: Now
) -> Came:
    """The household of an archive, in an installation that has none yet; how its keepers sign in.

    Passwords are in no archive: each keeper gets a first one, said this once.
    """
    if chosen.backups is None:
        raise Conflict("no-archive", "Its database is looked after elsewhere. Ask whoever does.")
    try:
        return chosen.backups.take_in(io.BytesIO(held), now, chosen.hashing)
    except CannotKeep as wrong:
        raise Conflict("no-archive", str(wrong)) from wrong


@router.put("/password")
def change_password(
    sent: PasswordPut, response: Response, chosen: Chosen, now: Now, token: Token = None
) -> SessionPublic:
    """Another password of one's own; every other browser is signed out."""
    with Orm(chosen.engine) as orm:
        who = signing_in.whose(orm, token, now) if token else None
        person = orm.get(Person, who.person_id) if who else None
    if who is None or person is None:
        raise HTTPException(401, "Please sign in. Nothing was lost.")
    if not chosen.hashing.matches(person.password_hash, sent.old):
        raise signing_in.not_theirs("/old")
    names = (person.name, person.sign_in)
    hashed = people.hashed(sent.password, names, chosen.hashing)
    with Orm(chosen.engine) as orm, orm.begin():
        signing_in.change_password(orm, who, who.person_id, hashed)
        welcome = signing_in.come_in(orm, who, now)
    return _welcome(response, chosen, welcome)


@router.delete("", status_code=204)
def sign_out(response: Response, orm: Transaction, token: Token = None) -> None:
    """Sign out."""
    if token:
        signing_in.close_session(orm, token)
    response.delete_cookie(COOKIE)


@router.delete("/all", status_code=204)
def sign_out_everywhere(
    response: Response, orm: Transaction, now: Now, token: Token = None
) -> None:
    """Sign out here and in every other browser."""
    who = signing_in.whose(orm, token, now) if token else None
    if who is not None:
        signing_in.close_all(orm, who, who.person_id)
    response.delete_cookie(COOKIE)


def _welcome(response: Response, chosen: Settings, welcome: Welcome) -> SessionPublic:
    for name, token, path, days in (
        (COOKIE, welcome.session, "/", signing_in.SESSION_DAYS),
        (BROWSER, welcome.browser, "/api/session", signing_in.BROWSER_DAYS),
    ):
        response.set_cookie(
            name, token, max_age=days * DAY_S, path=path, httponly=True, samesite="strict",
            secure=chosen.secure_cookie,
        )  # fmt: skip
    return SessionPublic(welcome.who.name, welcome.who.role, chosen.demo, founded=True)
