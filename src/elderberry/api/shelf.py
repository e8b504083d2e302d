"""The shelf and its jars."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from elderberry.api.deps import Now, Person, Transaction
from elderberry.api.once import ChangeRoute
from elderberry.api.schemas import JarSaid
from elderberry.services.shelf import shelf
from elderberry.services.shown import JarPage, ShelfView

router = APIRouter(prefix="/api", tags=["shelf"], route_class=ChangeRoute)


@router.get("/shelf")
def whole_shelf(
    orm: Transaction,
    who: Person,
    find: Annotated[str, Query(max_length=80)] = "",
    most: Annotated[int, Query(ge=1, le=2000)] = shelf.MOST,
) -> ShelfView:
    """The jars of each place, those to use first in front; those that words are found in."""
    return shelf.view(orm, who, find.split()[:6], most)


@router.get("/jars/{jar_id}")
def jar(jar_id: int, orm: Transaction, who: Person) -> JarPage:
    """A jar's own page."""
    return shelf.jar_page(orm, who, jar_id)


@router.post("/jars/{jar_id}/used-up")
def used_up(jar_id: int, orm: Transaction, who: Person, now: Now) -> JarPage:
    """It is empty: off the shelf."""
    shelf.use_up(orm, who, jar_id, now)
    return shelf.jar_page(orm, who, jar_id)


@router.post("/jars/{jar_id}/spoiled")
def spoiled(jar_id: int, sent: JarSaid, orm: Transaction, who: Person, now: Now) -> JarPage:
    """It looks or smells wrong: off the shelf, untasted."""
    shelf.give_up(orm, who, jar_id, sent.said, now)
    return shelf.jar_page(orm, who, jar_id)
