"""Where jars stand, and how they leave."""

from __future__ import annotations

from datetime import date

from sqlalchemy.orm import Session as Orm

from elderberry.core.shelf.life import Lives
from elderberry.store import Jar, Place
from elderberry.store.jar import FAR_OFF


def stand(orm: Orm, jar: Jar, place: Place | None) -> None:
    """Let a jar stand on a place, or on none any more; the places know what stands on them."""
    before = orm.get(Place, jar.place_id) if jar.place_id is not None else None
    for there, sign in ((before, -1), (place, 1)):
        if there is not None:
            there.jars += sign
            there.jars_ml += sign * jar.fill_ml
    jar.place_id = place.id if place else None
    if place is not None and jar.lives == Lives.MADE:
        jar.lives = Lives.STANDS


def leave(orm: Orm, jar: Jar, lives: Lives, on: date) -> None:
    """A jar is off its place for good: emptied, given away or thrown away."""
    stand(orm, jar, None)
    jar.lives, jar.ended_on, jar.held = lives, on, False
    jar.gone, jar.best_by = True, FAR_OFF
