"""What is done with jars on their shelves: one function for all of it, one jar or many."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy.orm import Session as Orm

from elderberry.core import jars as kinds
from elderberry.core.batch.lifecycle import Seal
from elderberry.core.errors import Refusal
from elderberry.core.findings import Level
from elderberry.core.shelf import life, tasting
from elderberry.core.shelf.climate import aged_days
from elderberry.core.shelf.life import Lives
from elderberry.services.cooking import ageing, jar_view, kept, places, seals
from elderberry.services.errors import Conflict, FieldError, NotFound
from elderberry.services.household import kitchens
from elderberry.services.journal import record
from elderberry.services.who import Who
from elderberry.store import Batch, Jar, JarStock, LidStock, Place, Tasted, queries, shelf_queries
from elderberry.store.base import Json

MOST_AT_ONCE = 500
"""Jars that one press may change."""
EMPTY_ML = 5.0
"""What is left of a jar below this is none [mL]."""


@dataclass(frozen=True)
class Which:
    """Jars by their numbers, or so many of a stack, those to use first before the others."""

    jars: Sequence[int] = ()
    stack: int | None = None
    count: int = 1


@dataclass(frozen=True)
class Told:
    """What is said with a press.

    place_id: where to; to: whom it is given to; ml: how much was poured [mL]; label: its new name;
    verdict: how it tasted; sign: what is wrong with it.
    """

    place_id: int | None = None
    to: str = ""
    ml: float | None = None
    label: str = ""
    verdict: str = ""
    sign: str = ""


@dataclass(frozen=True)
class Doing:
    """A press at some jars under way."""

    orm: Orm
    who: Who
    now: datetime
    told: Told

    def log(self, jar: Jar, what: str, data: Json) -> None:
        """Write down what was done with a jar."""
        mine = jar.batch_id
        batch = None if mine is None else queries.one(self.orm, self.who.household_id, Batch, mine)
        data = {**data, "code": jar.code}
        record(self.orm, self.who, self.now, what, batch=batch, jar_id=jar.id, data=data)

    def leaves(self, jar: Jar, lives: Lives) -> None:
        """A jar is off its place for good; its glass and lid come back where they may."""
        places.leave(self.orm, jar, lives, kitchens.today(self.orm, self.who, self.now))
        closure = str(jar.contents.get("closure", ""))
        glass, lid = life.comes_back(lives, closure)
        if lives is Lives.NEVER and jar.contents.get(ageing.FOUND):
            return  # its glass was never in stock
        if glass and not kinds.kind(jar.jar_kind).own:
            _back(self.orm, self.who, jar, closure, lid=lid)


def do(orm: Orm, who: Who, now: datetime, which: Which, what: str, told: Told) -> list[Jar]:
    """Do something with jars: all of them, or none.

    Args:
        orm: a session.
        who: whose.
        now: when.
        which: the jars.
        what: one of life.KINDS.
        told: what is said with it.

    Raises:
        NotFound: a jar, stack or place that is not there.
        FieldError: what has to be said with it is missing.
        IllegalStep: it cannot be done with a jar that is so.
    """
    if what not in _DO:
        raise FieldError("/what", "That cannot be done with a jar. Nothing was changed.")
    jars = find(orm, who, which)
    doing = Doing(orm, who, now, told)
    following = [life.after(Lives(j.lives), what, held=j.held) for j in jars]
    for jar, after in zip(jars, following, strict=True):
        _DO[what](doing, jar, after)
    orm.flush()
    kept.jars(orm, who, _with_the_held(orm, who, jars, what))
    orm.flush()
    return jars


def one(orm: Orm, who: Who, jar_id: int) -> Jar:
    """A jar to look at.

    Raises:
        NotFound: missing, or another household's.
    """
    jar = queries.one(orm, who.household_id, Jar, jar_id)
    if jar is None:
        raise NotFound("jar")
    return jar


def may(jar: Jar) -> list[str]:
    """What can be done with a jar as it is, held or not."""
    return [what for what in _DO if life.legal(Lives(jar.lives), what, held=jar.held)]


def find(orm: Orm, who: Who, which: Which) -> list[Jar]:
    """The jars that are meant, held for a change.

    Raises:
        NotFound: one is missing, or fewer are there than were asked for.
        FieldError: none or too many at once.
    """
    ids = list(dict.fromkeys(which.jars))
    if which.stack is not None:
        ids = list(shelf_queries.first_of_stack(orm, who.household_id, which.stack, which.count))
        if len(ids) < which.count:
            raise NotFound("jar in that stack")
    if not 0 < len(ids) <= MOST_AT_ONCE:
        raise FieldError("/jars", f"Between 1 and {MOST_AT_ONCE} jars at once. Nothing changed.")
    found = shelf_queries.by_id(orm, who.household_id, ids)
    if len(found) < len(ids):
        raise NotFound("jar")
    return list(found)


def _opened(doing: Doing, jar: Jar, after: Lives) -> None:
    """It is open: the clock of open jars runs, in the refrigerator where it does not keep open."""
    orm, who, now = doing.orm, doing.who, doing.now
    known = ageing.of(orm, who, [jar], now)
    found = known.best_by(jar, now)
    jar.contents = {**jar.contents, "used_when_opened": found.used if found else 0.0}
    jar.lives, jar.opened_at, jar.left_ml = after, now, jar.fill_ml
    doing.log(jar, "opened", {})
    place = known.place(jar)
    if place is not None and place.kind != "refrigerator" and not ageing.stands_open(jar):
        seals.put(orm, who, jar, kitchens.place(orm, who, "refrigerator"), now)


def _poured(doing: Doing, jar: Jar, _: Lives) -> None:
    if doing.told.ml is None:
        raise FieldError("/ml", "Say how much was poured. Nothing was changed.")
    pour(doing, jar, doing.told.ml)


def pour(doing: Doing, jar: Jar, ml: float) -> None:
    """So much leaves an open jar; an empty one leaves its place.

    Raises:
        FieldError: more than is in it.
    """
    left = jar.there_ml
    if ml > left + EMPTY_ML:
        raise FieldError("/ml", f"Only {left:.0f} ml are left in {jar.code}. Nothing was changed.")
    jar.left_ml = max(0.0, left - ml)
    doing.log(jar, "poured", {"ml": round(ml, 1), "left_ml": round(jar.left_ml, 1)})
    if jar.left_ml <= EMPTY_ML:
        doing.log(jar, "used_up", {})
        doing.leaves(jar, Lives.FINISHED)


def _used_up(doing: Doing, jar: Jar, after: Lives) -> None:
    jar.left_ml = 0.0
    doing.log(jar, "used_up", {})
    doing.leaves(jar, after)


def _given(doing: Doing, jar: Jar, after: Lives) -> None:
    to = doing.told.to.strip()
    if not to:
        raise FieldError("/to", "Say to whom, so that they can be told. Nothing was changed.")
    jar.contents = {**jar.contents, "given_to": to}
    doing.log(jar, "given", {"to": to})
    doing.leaves(jar, after)


def _went_in(doing: Doing, jar: Jar, after: Lives) -> None:
    jar.left_ml = 0.0
    doing.log(jar, "went_in", {"into": doing.told.to})
    doing.leaves(jar, after)


def _thrown(doing: Doing, jar: Jar, after: Lives) -> None:
    """It is thrown away; where its sign speaks of the others, they are held."""
    sign = life.signs().get(doing.told.sign)
    if sign is None:
        raise FieldError("/sign", "Say what is wrong with it. Nothing was changed.")
    words = ["jar_spoiled"] if sign.ends == "spoiled" and sign.holds else []
    doing.log(jar, sign.ends, {"words": words, "sign": sign.key})
    doing.leaves(jar, after)
    if sign.holds:
        for other in beside(doing.orm, doing.who, jar):
            if other.id != jar.id and other.lives in {Lives.STANDS, Lives.OPENED, Lives.MADE}:
                other.held = True


def _miscounted(doing: Doing, jar: Jar, after: Lives) -> None:
    """It was never filled: its glass and lid are in stock as if nobody had counted it."""
    doing.log(jar, "miscounted", {})
    doing.leaves(jar, after)


def _relabelled(doing: Doing, jar: Jar, _: Lives) -> None:
    label = " ".join(doing.told.label.split())
    if not 0 < len(label) <= 120:
        raise FieldError("/label", "A name of up to 120 letters. Nothing was changed.")
    doing.log(jar, "relabelled", {"was": jar.label, "label": label})
    jar.label = label


def _looked_sound(doing: Doing, jar: Jar, _: Lives) -> None:
    for stop in jar_view.stands(jar):
        if stop.level is Level.STOP:
            raise Refusal(stop)
    jar.held = False
    doing.log(jar, "looked_sound", {})


def _tasted(doing: Doing, jar: Jar, _: Lives) -> None:
    """What it tasted like shifts what this household expects of its kind."""
    if doing.told.verdict not in tasting.VERDICTS:
        raise FieldError("/verdict", "Still good, fading or gone? Nothing was recorded.")
    known = ageing.of(doing.orm, doing.who, [jar], doing.now)
    place = known.place(jar)
    doing.log(jar, "tasted", {"verdict": doing.told.verdict})
    if (
        place is None
        or jar.contents.get(ageing.FOUND)
        or (jar.opened_at is not None and (doing.now - jar.opened_at).days > 1)
    ):
        return
    row = ageing.life_row(jar, place)
    doing.orm.add(
        Tasted(
            household_id=doing.who.household_id, jar_id=jar.id, state=row.state,
            product=row.product, aged_d=aged_days(known.spells(jar, doing.now), row),
            verdict=doing.told.verdict,
        )
    )  # fmt: skip


def _carried(doing: Doing, jar: Jar, _: Lives) -> None:
    to = queries.one(doing.orm, doing.who.household_id, Place, doing.told.place_id or 0)
    if to is None:
        raise NotFound("place")
    if to.id == jar.place_id:
        return
    if not _keeps_there(doing.orm, jar, to):
        raise Conflict(
            "does-not-keep-there",
            f"{jar.code} keeps by cold alone: a refrigerator or a freezer. Nothing was moved.",
        )
    if to.kind == "freezer" and jar.fill_ml > kinds.frozen_room_ml(
        kinds.kind(jar.jar_kind), WATER_SWELLS
    ):
        raise Conflict(
            "glass-never-frozen",
            f"{jar.code} has no room for the ice: it would break. Pour it over first.",
        )
    seals.put(doing.orm, doing.who, jar, to, doing.now)


_DO: Mapping[str, Callable[[Doing, Jar, Lives], None]] = {
    "opened": _opened,
    "poured": _poured,
    "used_up": _used_up,
    "given": _given,
    "went_in": _went_in,
    "spoiled": _thrown,
    "relabelled": _relabelled,
    "looked_sound": _looked_sound,
    "tasted": _tasted,
    "carried": _carried,
    "miscounted": _miscounted,
}


WATER_SWELLS = 9.0
"""What water grows by as it freezes [% of volume]: no juice grows by more."""


def _keeps_there(orm: Orm, jar: Jar, to: Place) -> bool:
    """Whether a jar may stand at a place: what no seal nor sugar keeps is kept by cold alone.

    What was there already may stand warm where it stood warm before.
    """
    if to.kind in {"refrigerator", "freezer"} or ageing.stands_open(jar):
        return True
    if jar.seal == Seal.UNKNOWN and jar.place_id is not None:
        here = orm.get_one(Place, jar.place_id)
        return here.kind not in {"refrigerator", "freezer"} and jar.opened_at is None
    return jar.seal == Seal.SEALED and jar.opened_at is None


def _with_the_held(orm: Orm, who: Who, jars: Sequence[Jar], what: str) -> list[Jar]:
    """The jars that a press changed: those that were meant, and those that it held."""
    if what != "spoiled":
        return list(jars)
    listed = {j.id: j for j in jars}
    for one_of_each in {j.batch_id or j.label: j for j in jars}.values():
        listed |= {j.id: j for j in beside(orm, who, one_of_each)}
    return list(listed.values())


def beside(orm: Orm, who: Who, jar: Jar) -> Sequence[Jar]:
    """The jars of its batch; of one that was there already, those of its name that were too."""
    if jar.batch_id is None:
        return shelf_queries.there_already(orm, who.household_id, jar.label)
    return queries.of_batch(orm, who.household_id, Jar, jar.batch_id)


def _back(orm: Orm, who: Who, jar: Jar, closure: str, *, lid: bool) -> None:
    """An empty jar, and a lid that may close another one, are in stock again."""
    stock = {s.jar_kind: s for s in queries.all_of(orm, who.household_id, JarStock)}
    there = stock.get(jar.jar_kind)
    if there is None:
        there = JarStock(household_id=who.household_id, jar_kind=jar.jar_kind, jars=0, lids=0)
        orm.add(there)
    there.jars += 1
    if lid and closure not in life.LASTS:
        there.lids += 1
    elif lid:
        mine = kitchens.lids(orm, who, jar.jar_kind, closure, jar.lid)
        if mine is None:
            mine = LidStock(household_id=who.household_id, jar_kind=jar.jar_kind, closure=closure,
                            colour=jar.lid, lids=0)  # fmt: skip
            orm.add(mine)
        mine.lids += 1
    orm.flush()
