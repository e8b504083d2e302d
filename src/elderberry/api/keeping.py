"""What a household keeps of itself: backups, its archive."""

from __future__ import annotations

import json
import os
import tempfile
from collections.abc import Callable, Iterator
from dataclasses import asdict, dataclass
from datetime import datetime
from pathlib import Path as File
from typing import IO, Annotated, Any

from fastapi import APIRouter, Body, HTTPException, Path, Response
from fastapi.responses import FileResponse, StreamingResponse
from sqlalchemy import Engine
from sqlalchemy.orm import Session as Orm
from starlette.background import BackgroundTask

from elderberry.api import problems
from elderberry.api.deps import Chosen, Now, Person, Transaction
from elderberry.api.once import ChangeRoute
from elderberry.api.sent.keeping import NightlyPut
from elderberry.api.settings import Backups, CannotKeep, Settings
from elderberry.formats.sheets import csv_of
from elderberry.services.day import dates
from elderberry.services.errors import Conflict
from elderberry.services.household import archiving, kitchens
from elderberry.services.journal import noted
from elderberry.services.sheets import coming_in
from elderberry.services.sheets import going_out as sheets
from elderberry.services.sheets.cells import Column
from elderberry.services.sheets.coming_in import Looked, Name
from elderberry.services.who import Who
from elderberry.store import queries

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
    name = f"elderberry-{kitchens.today(orm, who, now)}.zip"
    return _file(name, "application/zip", lambda out: archiving.write(chosen.engine, who, out, now))


def _file(name: str, kind: str, write: Callable[[IO[bytes]], object]) -> FileResponse:
    """What is written whole before it is sent, so that nothing waits for whoever reads it."""
    handle, path = tempfile.mkstemp(prefix="elderberry-")
    try:
        with os.fdopen(handle, "wb") as out:
            write(out)
    except BaseException:
        File(path).unlink()
        raise
    gone = BackgroundTask(File(path).unlink)
    return FileResponse(path, media_type=kind, filename=name, background=gone)


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
def table(what: Name, orm: Transaction, who: Person) -> Response:
    """A table of what was kept, for a spreadsheet."""
    pieces = csv_of(*sheets.sheet(orm, who, what))
    return _file(
        f"elderberry-{what}.csv", "text/csv; charset=utf-8",
        lambda out: out.writelines(piece.encode() for piece in pieces),
    )  # fmt: skip


@dataclass(frozen=True)
class TableWanted:
    """A table that can come in: the columns that are taken, and those that are passed over."""

    what: Name
    columns: list[Column]
    passed_over: list[str]


@router.get("/tables")
def tables(who: Person) -> list[TableWanted]:  # noqa: ARG001  only who belongs to a household
    """The tables that can come in, with their columns."""
    return [
        TableWanted(what, list(taking.columns), list(taking.passed_over))
        for what, taking in coming_in.TABLES.items()
    ]


NDJSON = "application/x-ndjson"


@files.post(
    "/api/keeping/{what}.csv",
    response_class=StreamingResponse,
    responses={200: {"content": {NDJSON: {}}, "description": "How far it is, then what came."}},
)
def take_table_in(
    what: Name, held: Annotated[bytes, Body(media_type="text/csv")], who: Person, chosen: Chosen,
    now: Now, keep: bool = False,
) -> StreamingResponse:  # fmt: skip
    """A table is looked through and, where it is to be kept and no row is wrong, written.

    A line of JSON for each thousand rows, and one at the end: what was found, or why nothing was.
    """
    said = coming(chosen.engine, who, what, held, now, keep=keep)
    return StreamingResponse((json.dumps(row) + "\n" for row in said), media_type=NDJSON)


def coming(
    engine: Engine, who: Who, what: Name, held: bytes, now: datetime, *, keep: bool
) -> Iterator[dict[str, Any]]:
    """A table on its way in, in a transaction of its own: all of it, or nothing."""
    try:
        found: Looked | None = None
        with Orm(engine) as orm, orm.begin() as made:
            queries.hold(orm, who.household_id)
            for told in coming_in.take_in(orm, who, what, held, now, keep=keep):
                if isinstance(told, Looked):
                    found = told
                else:
                    yield {"progress": asdict(told)}
            if found is None or not found.written:
                made.rollback()
            else:
                noted(orm, who, now, f"POST /api/keeping/{what}.csv")
        if found is not None:
            yield {"found": asdict(found)}
    except Exception as error:
        yield {"problem": problems.told(error)}


@files.get("/api/feeds/{token}.ics", response_class=Response, responses=AS_CALENDAR)
def feed(token: Annotated[str, Path(max_length=64)], orm: Transaction, now: Now) -> Response:
    """What falls due, for whoever has the address; it is not found once it is withdrawn."""
    who = dates.whose_feed(orm, token)
    if who is None:
        raise HTTPException(404, "There is no calendar at this address: it may be withdrawn.")
    return Response(dates.ics(orm, who, now), media_type=CALENDAR)
