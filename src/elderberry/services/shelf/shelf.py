"""The shelf: jars on their places, those to use first in front, and a jar's own page."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from functools import partial

from sqlalchemy.orm import Session as Orm

from elderberry.core import jars
from elderberry.core.findings import Level
from elderberry.core.quantities import System
from elderberry.core.rules import Facts, standing
from elderberry.core.shelf import life, tasting
from elderberry.core.shelf import looking as looking_for
from elderberry.core.shelf.looking import Looking
from elderberry.services.cooking import ageing, batch_view, jar_view, kept
from elderberry.services.cooking.folder import folder_of
from elderberry.services.cooking.shown import JarView
from elderberry.services.errors import NotFound
from elderberry.services.household import kitchens
from elderberry.services.planning.end_view import ProcessView
from elderberry.services.shelf import into, lives, servings, warm_days
from elderberry.services.shelf.shown import (
    JarMoment,
    JarPage,
    ShelfPlace,
    ShelfView,
    StackView,
    Warm,
)
from elderberry.services.who import Who
from elderberry.store import Event, Jar, Person, Place, Vessel, furniture, queries, shelf_queries
from elderberry.store.base import Json
from elderberry.store.shelf_queries import Stacks, Wanted

SAID = {
    "opened": "opened",
    "found": "was there already, and is counted now",
    "looked_sound": "looked at: sound",
    "miscounted": "never filled: counted by mistake",
    "filled": "filled",
    "seal_held": "seal held",
    "seal_failed": "seal failed",
    "reprocessed": "to be processed again with a new lid",
    "chilled": "into the refrigerator",
    "frozen": "into the freezer",
    "siphoned": "juice left it in the canner",
    "broken": "cracked or mouldy, thrown away",
    "used_up": "used up",
    "spoiled": "found spoiled, thrown away untasted",
}


MOST = 16
"""Stacks of a place that are shown at first; more where they are asked for."""


def view(orm: Orm, who: Who, now: datetime, text: str = "", most: int = MOST) -> ShelfView:
    """The places with their stacks, those to use first in front.

    Args:
        orm: a session.
        who: whose.
        now: when.
        text: what is looked for, as it was typed.
        most: of so many stacks each place is shown at most.
    """
    hh = who.household_id
    there = sorted(queries.all_of(orm, hh, Place), key=lambda p: p.position)
    looking = looking_for.read(text)
    own = queries.all_of(orm, hh, Vessel) if looking.words else ()
    kinds = {*jars.kinds(), *(jars.vessel_key(v.kind, v.litres) for v in own)}
    wanted = _wanted(looking, kinds, kitchens.units(orm, who), now)
    of_places = {p.id: _but_for(p, wanted) for p in there if p.jars}
    found = _stacks(orm, hh, of_places, most)
    ids = tuple(first for rows in found.values() for *_, first in rows)
    find = partial(queries.by_ids, orm, hh, Jar, ids)
    views = {j.id: j for j in jar_view.listed(orm, who, ("stacks", ids), find)}
    climates = ageing.climates(orm, who)
    today = kitchens.today(orm, who, now)
    return ShelfView(
        places=[
            ShelfPlace(
                p.id, p.name, p.kind, warm_days.now(climates[p.id], today), p.light,
                [StackView(s, n, views[first]) for s, n, first in found.get(p.id, ())
                 if first in views],
                len(found.get(p.id, ())) >= most,
                p.jars, p.jars_ml / 1000, p.room_l, warm_days.warm(climates[p.id], today),
            )
            for p in there
        ],
        jars=sum(p.jars for p in there),
        litres=sum(p.jars_ml for p in there) / 1000,
        found=None if looking.everything else sum(
            p.jars if w.everything else shelf_queries.count(orm, hh, p.id, w)
            for p in there if (w := of_places.get(p.id)) is not None
        ),
        understood=_understood(looking),
    )  # fmt: skip


def _wanted(looking: Looking, kinds: Iterable[str], units: System, now: datetime) -> Wanted:
    """What is looked for, as the store can answer it."""
    return Wanted(
        words=_kinds_called(looking.words, kinds, units),
        filled_by=None if looking.older_d is None else now - timedelta(days=looking.older_d),
        best_by=None if looking.left_d is None else (now + timedelta(days=looking.left_d)).date(),
        year=looking.year,
        state=looking.state,
    )


def _but_for(place: Place, wanted: Wanted) -> Wanted:
    """What is looked for on a place whose own name may say a part of it."""
    words = {w: k for w, k in wanted.words.items() if w not in place.name.lower()}
    return replace(wanted, words=words)


def _stacks(orm: Orm, hh: int, wanted: Mapping[int, Wanted], most: int) -> Stacks:
    """The stacks of each place that are looked for, those to use first in front."""
    if not all(w.everything for w in wanted.values()):
        return {p: shelf_queries.stacks(orm, hh, p, w, most) for p, w in wanted.items()}
    find = partial(shelf_queries.all_stacks, orm, hh, [*wanted], most)
    return furniture.shared(orm, (Jar, Place), (hh, "stacks", most), find)


def _understood(looking: Looking) -> str:
    """What was typed, in words."""
    said = [
        *looking.words,
        f"filled over {looking.older_d} days ago" if looking.older_d else "",
        f"under {looking.left_d} days left" if looking.left_d else "",
        f"filled in {looking.year}" if looking.year else "",
        looking.state,
    ]
    return ", ".join(filter(None, said))


def _kinds_called(
    words: Sequence[str], kinds: Iterable[str], units: System
) -> dict[str, list[str]]:
    """Words in lower case, each with the kinds of jar or vessel in whose name it is found."""
    names = {key: jars.kind(key).named(units).lower() for key in sorted(kinds)}
    return {w: [key for key, name in names.items() if w in name] for w in map(str.lower, words)}


MOST_PRESSING = 40
"""Jars that are looked through for what should be used first."""


def in_all(orm: Orm, who: Who) -> tuple[int, float]:
    """How many jars stand on the places, and the litres in them."""
    there = queries.all_of(orm, who.household_id, Place)
    return sum(p.jars for p in there), sum(p.jars_ml for p in there) / 1000


def to_use(orm: Orm, who: Who, until: date) -> list[JarView]:
    """The jars that are at their best until a day or less, the most pressing first."""
    hh = who.household_id
    find = partial(shelf_queries.to_use, orm, hh, until, MOST_PRESSING)
    return jar_view.listed(orm, who, ("to use", until), find)


def fallen_short(orm: Orm, who: Who) -> list[JarView]:
    """The jars whose process is not enough for what is known since."""
    find = partial(shelf_queries.fallen_short, orm, who.household_id, MOST_PRESSING)
    return jar_view.listed(orm, who, "fallen short", find)


def held(orm: Orm, who: Who) -> list[JarView]:
    """The jars that are held until somebody has looked at them."""
    find = partial(shelf_queries.held, orm, who.household_id, MOST_PRESSING)
    return jar_view.listed(orm, who, "held", find)


def warm_places(orm: Orm, who: Who, now: datetime) -> list[tuple[str, int, Warm]]:
    """Places with jars that are warmer than they usually are: name, jars, and how warm."""
    today, there = kitchens.today(orm, who, now), ageing.climates(orm, who)
    return [
        (p.name, p.jars, found)
        for p in queries.all_of(orm, who.household_id, Place)
        if p.jars and (found := warm_days.warm(there[p.id], today)) is not None
    ]


def place_changed(orm: Orm, who: Who, place_id: int) -> None:
    """A place is warmer, lighter or of another kind: its jars keep for another time."""
    kept.jars(orm, who, shelf_queries.on_place(orm, who.household_id, place_id))
    orm.flush()


def jar_page(orm: Orm, who: Who, jar_id: int) -> JarPage:
    """A jar's page.

    Raises:
        NotFound: missing, or another household's.
    """
    jar = lives.one(orm, who, jar_id)
    folder = None if jar.batch_id is None else folder_of(orm, who, jar.batch_id)
    mine = [jar] if folder is None else folder.jars
    now = datetime.now(UTC)
    known = ageing.of(orm, who, mine, now)
    jars = {j.id: j for j in jar_view.views(orm, who, mine, known)}
    if jar.id not in jars:  # its filling was taken back
        raise NotFound("jar")
    shown = jars.pop(jar.id)
    people = {p.id: p.name for p in queries.all_of(orm, who.household_id, Person)}
    went_through = dict(jar.process)
    boiled_from, boiled_until = (went_through.pop(k, None) for k in ("boiled_from", "boiled_until"))
    lost = went_through.pop("boils_lost", 0)
    went_through.pop(jar_view.FELL_SHORT, None)
    events = queries.jar_events(orm, who.household_id, jar.id)
    said = frozenset(w for e in events if e.kind == "spoiled" for w in e.data.get("words", ()))
    return JarPage(
        jar=shown,
        process=ProcessView(**went_through) if went_through else None,
        boiled_from=_moment(boiled_from),
        boiled_until=_moment(boiled_until),
        boils_lost=lost,
        batch=None if folder is None else batch_view.lineage(folder),
        said=(jar.contents.get(ageing.FOUND) or {}).get("said", ""),
        moments=[JarMoment(e.kind, e.at, people.get(e.person_id, ""), _said(e)) for e in events],
        siblings=list(jars.values()),
        signs=list(life.signs().values()),
        findings=[
            *jar_view.stands(jar),
            *(f for f in standing(Facts(said=said)) if f.level is Level.STOP),
        ],
        warmth=warm_days.of_jar(known, jar, now),
        may=lives.may(jar),
        as_lines=into.lines_of(jar, kitchens.customs(orm, who)),
        servings=servings.of_jar(orm, who, jar.id),
        again=jar_view.again(jar, [] if folder is None else folder.kitchen.drunk_from_ml),
        thaws_h=jar_view.thaws_h(jar, known),
    )


def _said(event: Event) -> str:
    data, sign = event.data, life.signs().get(event.data.get("sign", ""))
    if sign is not None:
        return sign.ask[:1].lower() + sign.ask[1:]
    say = _SAY.get(event.kind)
    return say(data) if say else SAID.get(event.kind, event.kind)


_SAY: Mapping[str, Callable[[Json], str]] = {
    "moved": lambda d: f"carried to: {d.get('place', '')}",
    "given": lambda d: f"given to {d.get('to', '')}",
    "poured": lambda d: f"{d['ml']:.0f} ml poured, {d['left_ml']:.0f} ml left",
    "went_in": lambda d: f"went into batch {d.get('into', '')}",
    "relabelled": lambda d: f"called {d['label']}, and {d['was']} before",
    "tasted": lambda d: f"tasted: {tasting.SAID.get(d['verdict'], '')}",
    "held": lambda d: f"held until looked at: recalled by its {d.get('by', '')}",
}


def _moment(stored: str | None) -> datetime | None:
    return datetime.fromisoformat(stored) if stored else None
