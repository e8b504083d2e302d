"""What handlers depend on: the transaction, the time, the person, and their change."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from datetime import UTC, datetime
from typing import Annotated

from fastapi import Cookie, Depends, Header, HTTPException, Request
from sqlalchemy.orm import Session as Orm

from elderberry.api import roles
from elderberry.api.answers import Answers, Question
from elderberry.api.once import Changing, Repeated
from elderberry.api.settings import Settings
from elderberry.services.household import signing_in
from elderberry.services.household.signing_in import Asking
from elderberry.services.once import Asked
from elderberry.services.who import Who
from elderberry.store import furniture, queries
from elderberry.store.memory import Memory

COOKIE = "elderberry_session"


async def settings(request: Request) -> Settings:
    """The settings of this application; nothing to wait for, so in no thread of its own."""
    found: Settings = request.app.state.settings
    return found


def transaction(chosen: Annotated[Settings, Depends(settings)]) -> Iterator[Orm]:
    """One transaction a request, committed before the answer goes out."""
    with Orm(chosen.engine) as orm, orm.begin():
        yield orm


Transaction = Annotated[Orm, Depends(transaction, scope="function")]
Chosen = Annotated[Settings, Depends(settings)]


async def now() -> datetime:
    """The time of the request; as little to wait for."""
    return datetime.now(UTC)


Now = Annotated[datetime, Depends(now)]
Token = Annotated[str | None, Cookie(alias=COOKIE)]


def signed_in(
    request: Request,
    orm: Transaction,
    at: Now,
    token: Token = None,
    idempotency_key: Annotated[str | None, Header(max_length=64)] = None,
) -> Who:
    """The signed-in person, who may do this; a change of theirs is begun.

    Raises:
        HTTPException: 401, nobody is signed in.
        NotAllowed: their role does not do this.
        Repeated: this was made, or asked, before.
        Conflict: its key was used for something else.
    """
    asks = signing_in.asking(orm, token, at) if token else None
    if asks is None:
        raise HTTPException(401, "Please sign in. Nothing was lost.")
    who = asks.who
    route = (request.method, request.scope["route"].path)
    roles.check(who, route)
    memory: Memory = request.app.state.memory
    if roles.is_change(route):
        held = replace(asks.furnished, tables=queries.hold(orm, who.household_id))
        furniture.look_on(orm, memory, who.household_id, held, only=False)
        what = f"{request.method} {request.url.path}"
        key = idempotency_key or None
        asked = Asked(key, what[:240], request.state.sent) if key else None
        request.state.changing = Changing(orm, who, at, asked, what)
        request.state.changing.begin()
    else:
        _asked_just_now(request, asks)
        furniture.look_on(orm, memory, who.household_id, asks.furnished, only=True)
    return who


def _asked_just_now(request: Request, asks: Asking) -> None:
    """Nothing is found out twice while nothing has happened.

    Raises:
        Repeated: it was asked a moment ago.
    """
    sent = getattr(request.state, "sent", "")
    what = f"{request.method} {request.url.path}?{request.url.query} {sent}"
    question = Question(asks.who.person_id, what, asks.furnished.newest)
    answers: Answers = request.app.state.answers
    found = answers.find(question)
    if found is not None:
        raise Repeated(found)
    request.state.question = question


Person = Annotated[Who, Depends(signed_in)]
