"""The stream of what happens in a household."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Header, HTTPException, Request
from fastapi.responses import StreamingResponse

from elderberry.api.deps import Token
from elderberry.api.live import Live

router = APIRouter(prefix="/api", tags=["events"])


@router.get("/events", response_class=StreamingResponse)
async def tail(
    request: Request, token: Token = None, last_event_id: Annotated[int | None, Header()] = None
) -> StreamingResponse:
    """Every event after the one last seen, until sign-out or until the server stops."""
    live: Live = request.app.state.live
    onlooker = await live.admit(token, last_event_id)
    if onlooker is None:
        raise HTTPException(401, "Please sign in. Nothing was lost.")
    return StreamingResponse(
        live.messages(onlooker),
        media_type="text/event-stream",
        headers={"Cache-Control": "no-store", "X-Accel-Buffering": "no"},
    )
