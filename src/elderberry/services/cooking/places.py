"""Where jars stand."""

from __future__ import annotations

from sqlalchemy.orm import Session as Orm

from elderberry.store import Jar, Place


def stand(orm: Orm, jar: Jar, place: Place | None) -> None:
    """Let a jar stand on a place, or on none any more; the places know what stands on them."""
    before = orm.get(Place, jar.place_id) if jar.place_id is not None else None
    for there, sign in ((before, -1), (place, 1)):
        if there is not None:
            there.jars += sign
            there.jars_ml += sign * jar.fill_ml
    jar.place_id = place.id if place else None
