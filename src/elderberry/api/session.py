"""Sign-in and sign-out."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from fastapi import APIRouter, Cookie, HTTPException, Response
from sqlalchemy import func, select
from sqlalchemy.orm import Session as Orm

from elderberry.api.deps import COOKIE, Chosen, Now, Transaction
from elderberry.api.schemas import HouseholdCreate, SignIn
from elderberry.api.settings import Settings
from elderberry.demo.household import DEMO_SIGN_IN
from elderberry.services.errors import SignInFailed
from elderberry.services.household import people
from elderberry.services.who import Who
from elderberry.store import Household, Person

router = APIRouter(prefix="/api/session", tags=["session"])


@dataclass(frozen=True)
class SessionPublic:
    """Who is signed in, and how one may sign in here."""

    name: str | None
    role: str | None
    demo: bool
    founded: bool


@router.get("")
def who_am_i(
    orm: Transaction,
    chosen: Chosen,
    now: Now,
    elderberry_session: Annotated[str | None, Cookie()] = None,
) -> SessionPublic:
    """Who is signed in; never an error, so that a page can ask before it shows anything."""
    who = people.whose(orm, elderberry_session, now) if elderberry_session else None
    founded = bool(orm.scalar(select(func.count()).select_from(Household)))
    return SessionPublic(who.name if who else None, who.role if who else None, chosen.demo, founded)


@router.post("")
def sign_in(
    sent: SignIn, response: Response, orm: Transaction, chosen: Chosen, now: Now
) -> SessionPublic:
    """Sign in by name and password."""
    try:
        who = people.check_password(orm, sent.sign_in, sent.password, chosen.hasher, now)
    except SignInFailed:
        with Orm(chosen.engine) as apart, apart.begin():
            people.note_failure(apart, sent.sign_in, now)
        raise
    return _welcome(response, orm, chosen, who, now)


@router.post("/demo")
def enter_demo(response: Response, orm: Transaction, chosen: Chosen, now: Now) -> SessionPublic:
    """Sign in to the demo household by one button; only where the demo was started."""
    person = orm.scalar(select(Person).where(Person.sign_in == DEMO_SIGN_IN))
    if not chosen.demo or person is None:
        raise HTTPException(404, "There is no demo here.")
    who = Who(person.household_id, person.id, person.name, person.role)
    return _welcome(response, orm, chosen, who, now)


@router.post("/household", status_code=201)
def found(
    sent: HouseholdCreate, response: Response, orm: Transaction, chosen: Chosen, now: Now
) -> SessionPublic:
    """The first household of an empty installation, and its keeper signed in."""
    who = people.found_household(orm, sent.new(), chosen.hasher, now)
    return _welcome(response, orm, chosen, who, now)


@router.delete("", status_code=204)
def sign_out(
    response: Response, orm: Transaction, elderberry_session: Annotated[str | None, Cookie()] = None
) -> None:
    """Sign out."""
    if elderberry_session:
        people.close_session(orm, elderberry_session)
    response.delete_cookie(COOKIE)


def _welcome(response: Response, orm: Orm, chosen: Settings, who: Who, now: Now) -> SessionPublic:
    response.set_cookie(
        COOKIE,
        people.open_session(orm, who, now),
        max_age=people.SESSION_DAYS * 86400,
        httponly=True,
        samesite="strict",
        secure=chosen.secure_cookie,
    )
    return SessionPublic(who.name, who.role, chosen.demo, founded=True)
