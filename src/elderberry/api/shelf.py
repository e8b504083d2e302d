"""The shelf: its stacks and jars, drinks out of them, labels, recall and figures."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, Query, Request, Response

from elderberry.api.deps import Now, Person, Transaction
from elderberry.api.once import ChangeRoute
from elderberry.api.sent.shelf import (
    DrinkAsk,
    DrinkPoured,
    FoundJarsPut,
    FoundLines,
    JarsDone,
    LogFile,
    LogReading,
    RecallAsk,
)
from elderberry.core.shelf import life
from elderberry.core.shelf.worth import Prices
from elderberry.formats.labels import Sheet
from elderberry.formats.labels import sheets as sheets_there
from elderberry.services.cooking.shown import JarView
from elderberry.services.errors import NotFound
from elderberry.services.shelf import (
    figures,
    found,
    labels,
    lives,
    logs,
    recall,
    servings,
    shelf,
    stack,
)  # fmt: skip
from elderberry.services.shelf.shown import DrinkView, JarPage, ServedView, ShelfView, StackPage
from elderberry.store import shelf_queries

router = APIRouter(prefix="/api", tags=["shelf"], route_class=ChangeRoute)
Ids = Annotated[list[int], Query(max_length=labels.MOST)]


@router.get("/shelf")
def whole_shelf(
    orm: Transaction,
    who: Person,
    now: Now,
    find: Annotated[str, Query(max_length=80)] = "",
    most: Annotated[int, Query(ge=1, le=2000)] = shelf.MOST,
) -> ShelfView:
    """The stacks of each place, those to use first in front; those that are looked for."""
    return shelf.view(orm, who, now, find, most)


@router.get("/stacks/{stack_id}")
def stack_page(stack_id: int, orm: Transaction, who: Person, now: Now) -> StackPage:
    """A stack in hand."""
    return stack.page(orm, who, stack_id, now)


@router.get("/jars/{jar_id}")
def jar(jar_id: int, orm: Transaction, who: Person) -> JarPage:
    """A jar's own page."""
    return shelf.jar_page(orm, who, jar_id)


@router.get("/jar-codes/{code}")
def jar_by_code(code: str, orm: Transaction, who: Person) -> JarView:
    """The jar of a code that was typed or scanned."""
    row = shelf_queries.by_code(orm, who.household_id, code.strip().upper())
    if row is None:
        raise NotFound("jar of that code")
    return shelf.jar_page(orm, who, row.id).jar


@router.get("/signs")
def signs(who: Person) -> list[life.Sign]:  # noqa: ARG001  only who belongs to a household
    """What may be wrong with a jar, as it is seen, worst first."""
    return list(life.signs().values())


@router.post("/jars")
def done(sent: JarsDone, orm: Transaction, who: Person, now: Now) -> list[int]:
    """Something is done with jars, all of them or none; the numbers of those that it was."""
    found = lives.do(orm, who, now, sent.which(), sent.what, sent.told())
    return [j.id for j in found]


@router.get("/found/choices")
def found_choices(orm: Transaction, who: Person) -> found.Choices:
    """What jars that were there already may be in and hold."""
    return found.choices(orm, who)


@router.post("/found/lines")
def read_found(sent: FoundLines, orm: Transaction, who: Person, now: Now) -> list[found.LineRead]:
    """What lines say of jars that were there already; nothing is kept of it."""
    return found.read(orm, who, [line.said() for line in sent.lines], now)


@router.post("/found", status_code=201)
def put_found(sent: FoundJarsPut, orm: Transaction, who: Person, now: Now) -> found.Put:
    """Jars that were there already are put on their places: all of them, or none."""
    return found.put(orm, who, [r.row() for r in sent.rows], now)


@router.post("/jars/{jar_id}/drink")
def drink(jar_id: int, sent: DrinkAsk, orm: Transaction, who: Person) -> DrinkView:
    """How a drink is made of a jar; nothing is poured."""
    return servings.ask(orm, who, jar_id, sent.asked())


@router.post("/jars/{jar_id}/servings")
def serve(jar_id: int, sent: DrinkPoured, orm: Transaction, who: Person, now: Now) -> JarPage:
    """A drink is poured of a jar and written down."""
    servings.pour(orm, who, jar_id, sent.asked(), sent.name, now)
    return shelf.jar_page(orm, who, jar_id)


@router.get("/servings")
def usual_drinks(orm: Transaction, who: Person) -> list[ServedView]:
    """Drinks that were written down, to be made again."""
    return servings.usual(orm, who)


@router.get("/labels/sheets")
def sheets(who: Person) -> list[Sheet]:  # noqa: ARG001  only who belongs to a household
    """Sheets and rolls that labels are printed on."""
    return list(sheets_there().values())


@router.get("/labels")
def preview(request: Request, orm: Transaction, who: Person, jar: Ids) -> list[labels.LabelView]:
    """Labels as they will be printed."""
    return labels.shown(orm, who, jar, _origin(request))


@router.get(
    "/labels.pdf",
    response_class=Response,
    responses={200: {"content": {"application/pdf": {}}, "description": "The sheets."}},
)
def printed(
    request: Request, orm: Transaction, who: Person, jar: Ids, on: str = "a4_21", start: int = 1
) -> Response:
    """Labels on sheets or a roll, from a place of the first sheet on."""
    held = labels.printed(orm, who, jar, _origin(request), on, start)
    name = 'inline; filename="labels.pdf"'
    return Response(held, media_type="application/pdf", headers={"Content-Disposition": name})


def _origin(request: Request) -> str:
    """Where this kitchen is found, as the browser that asks has found it."""
    return str(request.base_url).rstrip("/")


@router.get("/recall/known")
def known(orm: Transaction, who: Person) -> recall.Known:
    """What jars can be recalled by."""
    return recall.known(orm, who)


@router.get("/recall")
def recalled(
    orm: Transaction,
    who: Person,
    by: recall.By,
    what: Annotated[str, Query(min_length=1, max_length=120)],
    since: datetime | None = None,
) -> recall.RecallView:
    """Every jar that came of something, where it is and who has it."""
    return recall.find(orm, who, by, what, since)


@router.post("/recall")
def hold(sent: RecallAsk, orm: Transaction, who: Person, now: Now) -> recall.RecallView:
    """Every jar of it that is here is held until somebody has looked at it."""
    recall.hold(orm, who, sent.by, sent.what, sent.since, now)
    return recall.find(orm, who, sent.by, sent.what, sent.since)


Price = Annotated[float, Query(ge=0, le=1_000_000)]


@router.get("/figures")
def all_figures(
    orm: Transaction, who: Person,
    lid: Price = 0.0, kwh: Price = 0.0, hour: Price = 0.0, bought: Price = 0.0,
) -> figures.FiguresView:  # fmt: skip
    """Kept, eaten, given and spoiled; seals by their lids; what a litre cost at these prices."""
    return figures.view(orm, who, Prices(lid, kwh, hour, bought))


@router.post("/places/{place_id}/readings")
def place_reading(
    place_id: int, sent: LogReading, orm: Transaction, who: Person, now: Now
) -> ShelfView:
    """How warm it is at a place now."""
    logs.reading(orm, who, place_id, sent.temp_c, now)
    return shelf.view(orm, who, now)


@router.post("/places/{place_id}/log")
def place_log(place_id: int, sent: LogFile, orm: Transaction, who: Person, now: Now) -> ShelfView:
    """A logger's file of times and temperatures."""
    logs.file(orm, who, place_id, sent.text)
    return shelf.view(orm, who, now)
