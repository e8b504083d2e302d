"""The shelf and its jars."""

from __future__ import annotations

from fastapi import APIRouter

from elderberry.api.deps import Person, Transaction
from elderberry.services import shelf
from elderberry.services.views import JarPage, ShelfView

router = APIRouter(prefix="/api", tags=["shelf"])


@router.get("/shelf")
def whole_shelf(orm: Transaction, who: Person) -> ShelfView:
    """Every jar on its place, those to use first in front."""
    return shelf.view(orm, who)


@router.get("/jars/{jar_id}")
def jar(jar_id: int, orm: Transaction, who: Person) -> JarPage:
    """A jar's own page."""
    return shelf.jar_page(orm, who, jar_id)
