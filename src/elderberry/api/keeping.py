"""What a household keeps of itself: backups, its archive."""

from __future__ import annotations

import os
import tempfile
from dataclasses import dataclass
from datetime import datetime

from fastapi import APIRouter, Response
from fastapi.responses import FileResponse
from pydantic import BaseModel
from starlette.background import BackgroundTask

from elderberry.api.deps import Chosen, Now, Person, Transaction
from elderberry.api.once import ChangeRoute
from elderberry.api.settings import Backups, CannotKeep, Settings
from elderberry.services.errors import Conflict
from elderberry.services.household import archiving, kitchens

router = APIRouter(prefix="/api/keeping", tags=["keeping"], route_class=ChangeRoute)


@dataclass(frozen=True)
class KeepingView:
    """Backups of this installation: whether it makes any, the newest, whether every night."""

    backups: bool
    newest: datetime | None
    nightly: bool
    folder: str


class NightlyPut(BaseModel):
    """Whether a backup is made every night."""

    nightly: bool


def _view(chosen: Settings) -> KeepingView:
    kept = chosen.backups
    if kept is None:
        return KeepingView(backups=False, newest=None, nightly=False, folder="")
    return KeepingView(True, kept.newest(), kept.nightly, str(kept.folder))


def _backups(chosen: Settings) -> Backups:
    if chosen.backups is None:
        raise Conflict("no-backups", "Its database is looked after elsewhere. Ask whoever does.")
    return chosen.backups


@router.get("")
def keeping(who: Person, chosen: Chosen) -> KeepingView:  # noqa: ARG001  whoever is signed in
    """When the last backup was made, and whether one is made every night."""
    return _view(chosen)


@router.put("/nightly")
def every_night(sent: NightlyPut, who: Person, chosen: Chosen) -> KeepingView:  # noqa: ARG001
    """Make a backup every night, or no longer."""
    _backups(chosen).every_night(on=sent.nightly)
    return _view(chosen)


@router.post("/backup", status_code=201)
def back_up(who: Person, chosen: Chosen, now: Now) -> KeepingView:  # noqa: ARG001
    """Make a backup now."""
    try:
        _backups(chosen).make(now)
    except CannotKeep as wrong:
        raise Conflict("no-backup", str(wrong)) from wrong
    return _view(chosen)


@router.get(
    "/archive.zip",
    response_class=Response,
    responses={200: {"content": {"application/zip": {}}, "description": "The archive."}},
)
def household_archive(who: Person, orm: Transaction, chosen: Chosen, now: Now) -> Response:
    """Everything of the household in one file, that gives the same household again."""
    handle, path = tempfile.mkstemp(prefix="elderberry-", suffix=".zip")
    with os.fdopen(handle, "wb") as out:
        archiving.write(chosen.engine, who, out, now)
    today = kitchens.today(orm, who, now)
    return FileResponse(
        path, media_type="application/zip", filename=f"elderberry-{today}.zip",
        background=BackgroundTask(os.unlink, path),
    )  # fmt: skip
