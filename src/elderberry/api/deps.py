"""What handlers depend on: the transaction, the time, the person, the retry key."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import UTC, datetime
from typing import Annotated

from fastapi import Cookie, Depends, Header, HTTPException, Request
from sqlalchemy.orm import Session as Orm

from elderberry.api.settings import Settings
from elderberry.services.household import people
from elderberry.services.who import Who

COOKIE = "elderberry_session"


def settings(request: Request) -> Settings:
    """The settings of this application."""
    found: Settings = request.app.state.settings
    return found


def transaction(chosen: Annotated[Settings, Depends(settings)]) -> Iterator[Orm]:
    """One transaction a request, committed before the answer goes out."""
    with Orm(chosen.engine) as orm, orm.begin():
        yield orm


Transaction = Annotated[Orm, Depends(transaction, scope="function")]
Chosen = Annotated[Settings, Depends(settings)]


def now() -> datetime:
    """The time of the request."""
    return datetime.now(UTC)


Now = Annotated[datetime, Depends(now)]


def signed_in(
    orm: Transaction, at: Now, elderberry_session: Annotated[str | None, Cookie()] = None
) -> Who:
    """The signed-in person, or 401."""
    who = people.whose(orm, elderberry_session, at) if elderberry_session else None
    if who is None:
        raise HTTPException(401, "Please sign in. Nothing was lost.")
    return who


Person = Annotated[Who, Depends(signed_in)]


def retry_key(idempotency_key: Annotated[str | None, Header(max_length=64)] = None) -> str | None:
    """The key by which a retried change is known."""
    return idempotency_key or None


RetryKey = Annotated[str | None, Depends(retry_key)]
