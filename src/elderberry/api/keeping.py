"""What a household keeps of itself: backups, its archive."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path as File
from typing import Annotated, Any, Literal

from fastapi import APIRouter, HTTPException, Path, Response
from fastapi.responses import FileResponse, StreamingResponse
from pydantic import BaseModel
from sqlalchemy.orm import Session as Orm
from starlette.background import BackgroundTask

from elderberry.api.deps import Chosen, Now, Person, Transaction
from elderberry.api.once import ChangeRoute
from elderberry.api.settings import Backups, CannotKeep, Settings
from elderberry.formats.sheets import csv_of
from elderberry.services.day import dates
from elderberry.services.errors import Conflict
from elderberry.services.household import archiving, kitchens, sheets
from elderberry.services.who import Who

router = APIRouter(prefix="/api/keeping", tags=["keeping"], route_class=ChangeRoute)


@dataclass(frozen=True)
class KeepingView:
    """Backups of this installation: whether it makes any, the newest, whether every night.

    feed_since: since when a calendar can fetch what falls due for this person.
    """

    backups: bool
    newest: datetime | None
    nightly: bool
    folder: str
    feed_since: datetime | None


class NightlyPut(BaseModel):
    """Whether a backup is made every night."""

    nightly: bool


@dataclass(frozen=True)
class FeedMade:
    """The address of a calendar, as it is said this once."""

    path: str


def _view(orm: Orm, who: Who, chosen: Settings) -> KeepingView:
    kept, feed = chosen.backups, dates.feed_made_at(orm, who)
    if kept is None:
        return KeepingView(backups=False, newest=None, nightly=False, folder="", feed_since=feed)
    return KeepingView(True, kept.newest(), kept.nightly, str(kept.folder), feed)


def _backups(chosen: Settings) -> Backups:
    if chosen.backups is None:
        raise Conflict("no-backups", "Its database is looked after elsewhere. Ask whoever does.")
    return chosen.backups


@router.put("/nightly")
def every_night(sent: NightlyPut, orm: Transaction, who: Person, chosen: Chosen) -> KeepingView:
    """Make a backup every night, or no longer."""
    _backups(chosen).every_night(on=sent.nightly)
    return _view(orm, who, chosen)


files = APIRouter(tags=["keeping"])
"""Files, which are never answered from memory, and for which nobody waits."""


@files.get("/api/keeping")
def keeping(orm: Transaction, who: Person, chosen: Chosen) -> KeepingView:
    """When the last backup was made, and whether one is made every night."""
    return _view(orm, who, chosen)


@files.post("/api/keeping/backup", status_code=201)
def back_up(orm: Transaction, who: Person, chosen: Chosen, now: Now) -> KeepingView:
    """Make a backup now."""
    try:
        _backups(chosen).make(now)
    except CannotKeep as wrong:
        raise Conflict("no-backup", str(wrong)) from wrong
    return _view(orm, who, chosen)


@files.get(
    "/api/keeping/archive.zip",
    response_class=Response,
    responses={200: {"content": {"application/zip": {}}, "description": "The archive."}},
)
def household_archive(who: Person, orm: Transaction, chosen: Chosen, now: Now) -> Response:
    """Everything of the household in one file, that gives the same household again."""
    handle, path = tempfile.mkstemp(prefix="elderberry-", suffix=".zip")
    try:
        with os.fdopen(handle, "wb") as out:
            archiving.write(chosen.engine, who, out, now)
    except BaseException:
        File(path).unlink()
        raise
    today = kitchens.today(orm, who, now)
    return FileResponse(
        path, media_type="application/zip", filename=f"elderberry-{today}.zip",
        background=BackgroundTask(File(path).unlink),
    )  # fmt: skip


CALENDAR = "text/calendar; charset=utf-8"
AS_CALENDAR: dict[int | str, dict[str, Any]] = {
    200: {"content": {"text/calendar": {}}, "description": "What falls due, as iCalendar."}
}


@router.get("/calendar.ics", response_class=Response, responses=AS_CALENDAR)
def what_falls_due(who: Person, orm: Transaction, now: Now) -> Response:
    """What falls due, as a file for a calendar program."""
    name = {"Content-Disposition": 'attachment; filename="elderberry.ics"'}
    return Response(dates.ics(orm, who, now), media_type=CALENDAR, headers=name)


@router.post("/feed", status_code=201)
def make_feed(who: Person, orm: Transaction, now: Now) -> FeedMade:
    """A new private address at which a calendar fetches what falls due."""
    return FeedMade(f"/api/feeds/{dates.make_feed(orm, who, now)}.ics")


@router.delete("/feed", status_code=204)
def withdraw_feed(who: Person, orm: Transaction) -> None:
    """Withdraw the address of one's calendar."""
    dates.withdraw_feed(orm, who)


@files.get(
    "/api/keeping/{what}.csv",
    response_class=Response,
    responses={200: {"content": {"text/csv": {}}, "description": "The table."}},
)
def table(
    what: Literal["jars", "came-in", "batches", "readings", "servings"], who: Person,
    chosen: Chosen,
) -> Response:  # fmt: skip
    """A table of what was kept, for a spreadsheet."""

    def pieces() -> Iterator[str]:
        with Orm(chosen.engine) as orm:
            yield from csv_of(*sheets.sheet(orm, who, what))

    name = {"Content-Disposition": f'attachment; filename="elderberry-{what}.csv"'}
    return StreamingResponse(pieces(), media_type="text/csv; charset=utf-8", headers=name)


@files.get("/api/feeds/{token}.ics", response_class=Response, responses=AS_CALENDAR)
def feed(token: Annotated[str, Path(max_length=64)], orm: Transaction, now: Now) -> Response:
    """What falls due, for whoever has the address; it is not found once it is withdrawn."""
    who = dates.whose_feed(orm, token)
    if who is None:
        raise HTTPException(404, "There is no calendar at this address: it may be withdrawn.")
    return Response(dates.ics(orm, who, now), media_type=CALENDAR)
