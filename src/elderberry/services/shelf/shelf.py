"""The shelf: jars on their places, those to use first in front, and a jar's own page."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, datetime

from sqlalchemy.orm import Session as Orm

from elderberry.core.findings import Level
from elderberry.core.rules import Facts, standing
from elderberry.services.cooking import batch_view, jar_view
from elderberry.services.cooking.folder import folder_of
from elderberry.services.errors import Conflict, NotFound
from elderberry.services.journal import record
from elderberry.services.planning.end_view import ProcessView
from elderberry.services.planning.plan_view import questions
from elderberry.services.shown import (
    JarMoment,
    JarPage,
    ShelfPlace,
    ShelfView,
)
from elderberry.services.who import Who
from elderberry.store import Batch, Event, Jar, Person, Place, queries
from elderberry.store.base import Json

FAR_OFF = date(9999, 12, 31)
SAID = {
    "filled": "filled",
    "seal_held": "seal held",
    "seal_failed": "seal failed",
    "reprocessed": "to be processed again with a new lid",
    "chilled": "into the refrigerator",
    "frozen": "into the freezer",
    "used_up": "used up",
    "spoiled": "found spoiled, thrown away untasted",
}


def view(orm: Orm, who: Who) -> ShelfView:
    """Every jar that stands somewhere."""
    made = {b.id: b for b in queries.all_of(orm, who.household_id, Batch)}
    jars = jar_view.views(orm, who, queries.jars_on_places(orm, who.household_id), made)
    jars.sort(key=lambda j: (j.best_by.typ if j.best_by else FAR_OFF, j.code))
    places = sorted(queries.all_of(orm, who.household_id, Place), key=lambda p: p.position)
    return ShelfView(
        places=[
            ShelfPlace(
                p.id, p.name, p.kind, p.temp_c, p.light, [j for j in jars if j.place_id == p.id]
            )
            for p in places
        ],
        jars=len(jars),
        litres=sum(j.fill_ml for j in jars) / 1000,
    )


def jar_page(orm: Orm, who: Who, jar_id: int) -> JarPage:
    """A jar's page.

    Raises:
        NotFound: missing, or another household's.
    """
    jar = _jar(orm, who, jar_id)
    batch = batch_view.view(orm, who, folder_of(orm, who, jar.batch_id).batch)
    shown = next(j for j in batch.jars if j.id == jar.id)
    people = {p.id: p.name for p in queries.all_of(orm, who.household_id, Person)}
    kept = dict(jar.process)
    boiled_from, boiled_until = (kept.pop(k, None) for k in ("boiled_from", "boiled_until"))
    lost = kept.pop("boils_lost", 0)
    kept.pop(jar_view.FELL_SHORT, None)
    short = jar_view.fell_short(jar)
    events = queries.jar_events(orm, who.household_id, jar.id)
    said = frozenset(w for e in events if e.kind == "spoiled" for w in e.data["words"])
    return JarPage(
        jar=shown,
        process=ProcessView(**kept) if kept else None,
        boiled_from=_moment(boiled_from),
        boiled_until=_moment(boiled_until),
        boils_lost=lost,
        batch=batch,
        moments=[JarMoment(e.kind, e.at, people.get(e.person_id, ""), _said(e)) for e in events],
        siblings=[j for j in batch.jars if j.id != jar.id],
        questions=questions("jar", said),
        findings=[
            *([short] if short else []),
            *(f for f in standing(Facts(said=said)) if f.level is Level.STOP),
        ],
    )


def use_up(orm: Orm, who: Who, jar_id: int, now: datetime) -> None:
    """A jar is empty and leaves its place; a vessel of the household is free again.

    Raises:
        NotFound: missing, or another household's.
        Conflict: it stands nowhere any more, or is still on its way to its place.
    """
    jar = _jar(orm, who, jar_id, lock=True)
    if jar.place_id is None:
        raise Conflict("not-on-a-shelf", f"{jar.code} stands on no shelf. Nothing was changed.")
    _leaves(orm, who, now, jar, "used_up", {})


def give_up(orm: Orm, who: Who, jar_id: int, words: Sequence[str], now: datetime) -> None:
    """A jar that looks or smells wrong leaves its place, untasted; what was seen stays on record.

    Raises:
        NotFound: missing, or another household's.
    """
    jar = _jar(orm, who, jar_id, lock=True)
    asked = {q.word for q in questions("jar", ())}
    _leaves(orm, who, now, jar, "spoiled", {"words": sorted(asked & set(words))})


def _jar(orm: Orm, who: Who, jar_id: int, *, lock: bool = False) -> Jar:
    """A jar of the household, held where something is to happen to it."""
    jar = queries.one(orm, who.household_id, Jar, jar_id, lock=lock)
    if jar is None:
        raise NotFound("jar")
    return jar


def _leaves(orm: Orm, who: Who, now: datetime, jar: Jar, why: str, data: Json) -> None:
    """A jar is off its place for good; why stays on record."""
    batch = queries.one(orm, who.household_id, Batch, jar.batch_id)
    record(orm, who, now, why, batch=batch, jar_id=jar.id, data={**data, "code": jar.code})
    jar.place_id = None
    orm.flush()


def _said(event: Event) -> str:
    if event.kind == "moved":
        return f"carried to: {event.data.get('place', '')}"
    return SAID.get(event.kind, event.kind)


def _moment(stored: str | None) -> datetime | None:
    return datetime.fromisoformat(stored) if stored else None
