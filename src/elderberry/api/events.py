"""Live updates: server-sent events that tail the household's event table."""

from __future__ import annotations

import asyncio
import json
from collections.abc import AsyncIterator
from typing import Annotated

from fastapi import APIRouter, Header, Request
from fastapi.responses import StreamingResponse
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session as Orm
from starlette.concurrency import run_in_threadpool

from elderberry.api.deps import Chosen, Person
from elderberry.api.settings import Settings
from elderberry.services.who import Who
from elderberry.store import queries

router = APIRouter(prefix="/api", tags=["events"])
LOOK_EVERY_S = 1.0
SIGN_OF_LIFE_EVERY = 15


@router.get("/events", response_class=StreamingResponse)
async def tail(
    request: Request,
    chosen: Chosen,
    who: Person,
    last_event_id: Annotated[int | None, Header()] = None,
) -> StreamingResponse:
    """Every event after the one last seen; the stream ends when the server stops."""
    return StreamingResponse(
        _stream(request, chosen, who, last_event_id),
        media_type="text/event-stream",
        headers={"Cache-Control": "no-store", "X-Accel-Buffering": "no"},
    )


async def _stream(
    request: Request, chosen: Settings, who: Who, seen: int | None
) -> AsyncIterator[str]:
    yield "retry: 2000\n\n"
    quiet = 0
    while not request.app.state.stopping.is_set() and not await request.is_disconnected():
        try:
            seen, messages = await run_in_threadpool(_look, chosen, who, seen)
        except SQLAlchemyError:
            messages = []  # the store is coming back; the client has lost nothing
        for message in messages:
            yield message
        quiet = 0 if messages else quiet + 1
        if quiet >= SIGN_OF_LIFE_EVERY:
            quiet = 0
            yield ": still here\n\n"
        await asyncio.sleep(LOOK_EVERY_S)


def _look(chosen: Settings, who: Who, seen: int | None) -> tuple[int, list[str]]:
    with Orm(chosen.engine) as orm:
        if seen is None:
            return queries.newest_event_id(orm, who.household_id), []
        found = queries.events_after(orm, who.household_id, seen)
        messages = [
            f"id: {e.id}\ndata: {json.dumps({'kind': e.kind, 'batch_id': e.batch_id})}\n\n"
            for e in found
        ]
        return (found[-1].id if found else seen), messages
