"""Notes: finished batches, their pages, and the sheet of one as a file."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Path, Query, Response

from elderberry.api.deps import Person, Transaction
from elderberry.api.once import ChangeRoute
from elderberry.api.sheets import A_SHEET, as_pdf
from elderberry.core.safety import STANDING_LINE
from elderberry.services.household import kitchens
from elderberry.services.notes import notes, season
from elderberry.services.notes import sheet as sheets
from elderberry.services.notes.shown import NotePage, NotesView, SeasonPage

router = APIRouter(prefix="/api/notes", tags=["notes"], route_class=ChangeRoute)


@router.get("")
def all_notes(
    orm: Transaction,
    who: Person,
    find: Annotated[str, Query(max_length=80)] = "",
    before: int | None = None,
) -> NotesView:
    """Finished batches by season, the newest first; those that words are found in."""
    return notes.view(orm, who, find.split()[:6], before)


Year = Annotated[int, Path(ge=1990, le=2199)]


@router.get("/seasons/{year}")
def season_page(year: Year, orm: Transaction, who: Person) -> SeasonPage:
    """The season of a year on one page."""
    return season.page(orm, who, year)


@router.get("/seasons/{year}/sheet.pdf", response_class=Response, responses=A_SHEET)
def season_sheet(year: Year, orm: Transaction, who: Person) -> Response:
    """The season of a year on a sheet of paper."""
    units = kitchens.units(orm, who)
    printed = season.sheet(season.page(orm, who, year), units, STANDING_LINE)
    return as_pdf(printed, units, f"season-{year}")


@router.get("/{batch_id}")
def note_page(batch_id: int, orm: Transaction, who: Person) -> NotePage:
    """A batch as a page."""
    return notes.page(orm, who, batch_id)


@router.get("/{batch_id}/sheet.pdf", response_class=Response, responses=A_SHEET)
def sheet(batch_id: int, orm: Transaction, who: Person) -> Response:
    """The page of a batch on a sheet of paper."""
    page, units = notes.page(orm, who, batch_id), kitchens.units(orm, who)
    printed = sheets.of_page(page, units, kitchens.zone(orm, who))
    return as_pdf(printed, units, page.code)
