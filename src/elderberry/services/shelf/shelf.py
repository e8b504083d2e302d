"""The shelf: jars on their places, those to use first in front, and a jar's own page."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, datetime

from sqlalchemy.orm import Session as Orm

from elderberry.core import jars
from elderberry.core.findings import Level
from elderberry.core.quantities import System
from elderberry.core.rules import Facts, standing
from elderberry.services.cooking import batch_view, jar_view, kept, places
from elderberry.services.cooking.folder import folder_of
from elderberry.services.errors import Conflict, NotFound
from elderberry.services.household import kitchens
from elderberry.services.journal import record
from elderberry.services.planning.end_view import ProcessView
from elderberry.services.planning.plan_view import questions
from elderberry.services.shown import (
    JarMoment,
    JarPage,
    JarView,
    ShelfPlace,
    ShelfView,
)
from elderberry.services.who import Who
from elderberry.store import Batch, Event, Jar, Person, Place, queries
from elderberry.store.base import Json
from elderberry.store.jar import FAR_OFF

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


MOST = 100
"""Jars of a place that are shown at first; more where they are asked for."""


def view(orm: Orm, who: Who, words: Sequence[str] = (), most: int = MOST) -> ShelfView:
    """The places with their jars, those to use first in front.

    Args:
        orm: a session.
        who: whose.
        words: only jars in whose label, code, kind or place each of them is found.
        most: of so many jars each place is shown at most.
    """
    hh = who.household_id
    there = sorted(queries.all_of(orm, hh, Place), key=lambda p: p.position)
    of_kind = _kinds_called(words, kitchens.units(orm, who))
    found = {
        p.id: queries.jars_on(
            orm, hh, p.id, most, {w: k for w, k in of_kind.items() if w not in p.name.lower()}
        )
        for p in there
        if p.jars
    }
    shown = [jar for jars in found.values() for jar in jars]
    views = {j.id: j for j in jar_view.views(orm, who, shown)}
    return ShelfView(
        places=[
            ShelfPlace(
                p.id, p.name, p.kind, p.temp_c, p.light,
                [views[j.id] for j in found.get(p.id, ())], p.jars,
            )
            for p in there
        ],
        jars=sum(p.jars for p in there),
        litres=sum(p.jars_ml for p in there) / 1000,
    )  # fmt: skip


def _kinds_called(words: Sequence[str], units: System) -> dict[str, list[str]]:
    """Words in lower case, each with the kinds of jar in whose name it is found."""
    names = {key: kind.named(units).lower() for key, kind in jars.kinds().items()}
    return {w: [key for key, name in names.items() if w in name] for w in map(str.lower, words)}


MOST_PRESSING = 40
"""Jars that are looked through for what should be used first."""


def in_all(orm: Orm, who: Who) -> tuple[int, float]:
    """How many jars stand on the places, and the litres in them."""
    there = queries.all_of(orm, who.household_id, Place)
    return sum(p.jars for p in there), sum(p.jars_ml for p in there) / 1000


def to_use(orm: Orm, who: Who, until: date) -> list[JarView]:
    """The jars that are at their best until a day or less, the most pressing first."""
    found = queries.jars_to_use(orm, who.household_id, until, MOST_PRESSING)
    return jar_view.views(orm, who, found)


def fallen_short(orm: Orm, who: Who) -> list[JarView]:
    """The jars whose process is not enough for what is known since."""
    found = queries.jars_fallen_short(orm, who.household_id, MOST_PRESSING)
    return jar_view.views(orm, who, found)


def place_changed(orm: Orm, who: Who, place_id: int) -> None:
    """A place is warmer, lighter or of another kind: its jars keep for another time."""
    kept.jars(orm, who, queries.jars_on(orm, who.household_id, place_id))
    orm.flush()


def jar_page(orm: Orm, who: Who, jar_id: int) -> JarPage:
    """A jar's page.

    Raises:
        NotFound: missing, or another household's.
    """
    jar = _jar(orm, who, jar_id)
    batch = batch_view.view(orm, who, folder_of(orm, who, jar.batch_id).batch)
    shown = next(j for j in batch.jars if j.id == jar.id)
    people = {p.id: p.name for p in queries.all_of(orm, who.household_id, Person)}
    went_through = dict(jar.process)
    boiled_from, boiled_until = (went_through.pop(k, None) for k in ("boiled_from", "boiled_until"))
    lost = went_through.pop("boils_lost", 0)
    went_through.pop(jar_view.FELL_SHORT, None)
    short = jar_view.fell_short(jar)
    events = queries.jar_events(orm, who.household_id, jar.id)
    said = frozenset(w for e in events if e.kind == "spoiled" for w in e.data["words"])
    return JarPage(
        jar=shown,
        process=ProcessView(**went_through) if went_through else None,
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
    places.stand(orm, jar, None)
    jar.gone, jar.best_by = True, FAR_OFF
    orm.flush()


def _said(event: Event) -> str:
    if event.kind == "moved":
        return f"carried to: {event.data.get('place', '')}"
    return SAID.get(event.kind, event.kind)


def _moment(stored: str | None) -> datetime | None:
    return datetime.fromisoformat(stored) if stored else None
