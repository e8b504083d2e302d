"""Notes: finished batches, their pages, and the sheet of one as a file."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Response

from elderberry.api.deps import Person, Transaction
from elderberry.api.once import ChangeRoute
from elderberry.formats import paper
from elderberry.services.household import kitchens
from elderberry.services.notes import notes
from elderberry.services.notes import sheet as sheets
from elderberry.services.notes.shown import NotePage, NotesView

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


@router.get("/{batch_id}")
def note_page(batch_id: int, orm: Transaction, who: Person) -> NotePage:
    """A batch as a page."""
    return notes.page(orm, who, batch_id)


@router.get(
    "/{batch_id}/sheet.pdf",
    response_class=Response,
    responses={200: {"content": {"application/pdf": {}}, "description": "The sheet."}},
)
def sheet(batch_id: int, orm: Transaction, who: Person) -> Response:
    """The page of a batch on a sheet of paper."""
    page, units = notes.page(orm, who, batch_id), kitchens.units(orm, who)
    printed = sheets.of_page(page, units, kitchens.zone(orm, who))
    held = paper.pdf(printed, "letter" if units == "us" else "a4")
    name = f'inline; filename="{page.code}.pdf"'
    return Response(held, media_type="application/pdf", headers={"Content-Disposition": name})
