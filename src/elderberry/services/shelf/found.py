"""Jars that were there already: read from lines, looked at once more, and put on their places."""

from __future__ import annotations

from collections.abc import Container, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import UTC, date, datetime, time
from typing import Any

from sqlalchemy.orm import Session as Orm

from elderberry.core import jars as kinds
from elderberry.core import materials
from elderberry.core.batch.lifecycle import Seal
from elderberry.core.errors import Unknown
from elderberry.core.figures import CannotRead
from elderberry.core.findings import Finding, Level
from elderberry.core.names import letters
from elderberry.core.shelf import found, said
from elderberry.core.shelf.life import GONE, Lives
from elderberry.core.shelf.said import Around, Stands
from elderberry.services import journal
from elderberry.services.cooking import kept
from elderberry.services.cooking.ageing import FOUND
from elderberry.services.errors import FieldError
from elderberry.services.household import kitchens
from elderberry.services.who import Who
from elderberry.store import Jar, JarStock, Place, Vessel, queries, shelf_queries
from elderberry.store.base import Json

MOST_LINES = 200
MOST_AT_ONCE = 2000
"""Jars that may be put on their places at once."""


@dataclass(frozen=True)
class Row:
    """Jars that were there already, as they are to be put on their place.

    said: the line that spoke of them. count, label, product, material, jar_kind, place_id: see
    core.shelf.found.FoundJars. first, last: the days between which they were filled; None where
    nobody knows.
    """

    count: int
    label: str
    jar_kind: str
    place_id: int
    material: str = ""
    product: str = ""
    first: date | None = None
    last: date | None = None
    said: str = ""


@dataclass(frozen=True)
class Known:
    """What else a table may know of jars that were there already.

    code: one that a single jar has already. fill_ml: what is in each [mL], its usual fill where
    nothing is said. batch: one from before that they are of, with the lot they hold. lives,
    left_ml, opened_at, ended_on, lid: as a jar keeps them (store.Jar); what is gone stands nowhere.
    """

    code: str = ""
    fill_ml: float | None = None
    batch: tuple[int, int] | None = None
    lives: Lives = Lives.STANDS
    left_ml: float | None = None
    opened_at: datetime | None = None
    ended_on: date | None = None
    lid: str = ""


NOTHING_MORE = Known()


@dataclass(frozen=True)
class Said:
    """A line, and what was said of it since: what it is mostly of, what it is in, where it is."""

    line: str
    material: str = ""
    jar_kind: str = ""
    place_id: int | None = None


@dataclass(frozen=True)
class LineRead:
    """What a line was understood to be, or why it was not.

    row: as it would be put; None where it cannot be read. filled: when, in words; empty where
    nobody knows. problem: why, with where it stands in the line. doubts: what was guessed at.
    findings: what is to be said of such jars.
    """

    said: str
    row: Row | None
    filled: str
    problem: str
    start: int
    end: int
    doubts: list[str]
    findings: list[Finding]


@dataclass(frozen=True)
class Choice:
    """Something that can be chosen for a row, and what it is called."""

    key: str
    name: str


@dataclass(frozen=True)
class Choices:
    """What jars that were there already may be in and hold."""

    jars: list[Choice]
    materials: list[Choice]
    products: list[Choice]


@dataclass(frozen=True)
class Put:
    """Jars that were put on their places: how many, and their numbers in order."""

    jars: int
    ids: list[int]


def choices(orm: Orm, who: Who) -> Choices:
    """What a row may be corrected to."""
    units = kitchens.units(orm, who)
    own = {kinds.vessel_key(v.kind, v.litres) for v in _vessels(orm, who)}
    fruits = sorted(materials.fruits().values(), key=lambda f: f.name)
    return Choices(
        [Choice(k, kinds.kind(k).named(units)) for k in (*kinds.kinds(), *sorted(own))],
        [Choice(f.key, f.name) for f in fruits],
        [Choice(p, p or "not said") for p in found.products()],
    )


def read(orm: Orm, who: Who, lines: Sequence[Said], now: datetime) -> list[LineRead]:
    """What each line speaks of.

    Raises:
        FieldError: something that was said of one since cannot be.
    """
    around = _around(orm, who, now)
    places = {p.id: p.kind for p in around.places}
    found_there = [_read(line, around, places) for line in lines]
    for number, line in enumerate(found_there):
        for what, words in wrong(line.row, places, around.today) if line.row else ():
            raise FieldError(f"/lines/{number}/{what}", f"{words} Nothing was changed.")
    return found_there


def _read(told_of: Said, around: Around, places: dict[int, str]) -> LineRead:
    line = told_of.line
    try:
        told = said.read(line, around)
    except CannotRead as wrong:
        return LineRead(line, None, "", str(wrong), wrong.start, wrong.end, [], [])
    asked = told_of.place_id
    place_id = asked if asked is not None and asked in places else told.place_id
    material = told_of.material or told.material
    known = "filled" not in told.doubts
    row = Row(
        told.count, told.label, told_of.jar_kind or told.jar_kind, place_id, material,
        told.product, told.filled.first if known else None, told.filled.last if known else None,
        line,
    )  # fmt: skip
    findings = found.findings(material, told.product, places[place_id])
    words = _when(told.filled) if known else ""
    return LineRead(
        line, row, words, "", 0, 0, [d for d in found.DOUBTS if d in told.doubts], findings
    )


def _when(filled: found.Filled) -> str:
    return found.when(filled.middle, filled.off_days) or f"on {filled.first:%-d %B %Y}"


def _around(orm: Orm, who: Who, now: datetime) -> Around:
    hh = who.household_id
    places = sorted(queries.all_of(orm, hh, Place), key=lambda p: (-p.jars, p.position))
    stock = sorted(queries.all_of(orm, hh, JarStock), key=lambda s: -s.jars)
    return Around(
        tuple(Stands(p.id, p.name, p.kind) for p in places),
        kitchens.today(orm, who, now),
        kitchens.customs(orm, who),
        tuple(s.jar_kind for s in stock if s.jars),
        {v.name.lower(): kinds.vessel_key(v.kind, v.litres) for v in _vessels(orm, who)},
    )


def _vessels(orm: Orm, who: Who) -> Sequence[Vessel]:
    return [v for v in queries.all_of(orm, who.household_id, Vessel) if v.kind != "glass"]


def put(orm: Orm, who: Who, rows: Sequence[Row], now: datetime) -> Put:
    """Put jars on their places, as jars that nobody vouches for: all of them, or none.

    Raises:
        FieldError: a row that cannot be, with its place; too many jars at once.
    """
    if not 0 < sum(r.count for r in rows) <= MOST_AT_ONCE:
        raise FieldError("/rows", f"Between 1 and {MOST_AT_ONCE} jars at once. Nothing changed.")
    places = {p.id for p in queries.all_of(orm, who.household_id, Place)}
    today = kitchens.today(orm, who, now)
    for number, row in enumerate(rows):
        for what, words in wrong(row, places, today):
            raise FieldError(f"/rows/{number}/{what}", f"{words} Nothing was recorded.")
    ids = Writer(orm, who, now).write((row, NOTHING_MORE) for row in rows)
    return Put(len(ids), ids)


def wrong(row: Row, places: Container[int], today: date) -> list[tuple[str, str]]:
    """What is wrong with a row: field and words.

    places: numbers of the household's; today: the kitchen's day.
    """
    said_wrong = []
    if not any(c.isalpha() for c in row.label):
        said_wrong.append(("label", "Say what is in it."))
    try:
        kinds.kind(row.jar_kind)
    except Unknown:
        said_wrong.append(("jar_kind", "There is no such jar."))
    if row.place_id not in places:
        said_wrong.append(("place_id", "There is no such place."))
    if row.product not in found.products():
        said_wrong.append(("product", "There is no such product."))
    known = row.material in materials.fruits() or row.material in materials.ingredients()
    if row.material and not known:
        said_wrong.append(("material", "No list knows it."))
    if row.first is not None and not row.first <= (row.last or row.first) <= today:
        said_wrong.append(("first", "The days that it was filled on are over by today."))
    if row.first is not None and row.first.year < today.year - said.OLDEST_YEARS:
        said_wrong.append(("first", "That is more than 20 years ago."))
    return said_wrong


@dataclass
class Writer:
    """Writes jars that were looked through already."""

    orm: Orm
    who: Who
    now: datetime
    _last: dict[str, int] = field(default_factory=dict)
    """The last number that was given under each beginning of a code."""

    def write(self, rows: Iterable[tuple[Row, Known]]) -> list[int]:
        """Write the jars of some rows; their numbers, those that are alike together."""
        places = {p.id: p for p in queries.all_of(self.orm, self.who.household_id, Place)}
        today = kitchens.today(self.orm, self.who, self.now)
        alike: dict[tuple[Row, Known], tuple[Jar, list[str]]] = {}
        for row, known in rows:
            filled = _filled(row, today)
            key = (row, replace(known, code=""))
            if key not in alike:
                place = None if known.lives in GONE else places[row.place_id]
                alike[key] = (_jar(self.orm, self.who, key, place, filled, self.now), [])
            codes = [known.code] if known.code else self._codes(row, filled.middle.year)
            alike[key][1].extend(codes)
        return self._written(list(alike.values()), places)

    def _codes(self, row: Row, year: int) -> list[str]:
        """The next free codes of its letters and year."""
        plain = "".join(c for c in row.label.lower() if c.isascii() and c.isalpha())
        begins = found.head(letters(row.material or plain or "jar"), year)
        if begins not in self._last:
            there = shelf_queries.codes_like(self.orm, self.who.household_id, begins)
            self._last[begins] = found.last_number(begins, there)
        first = self._last[begins] + 1
        self._last[begins] += row.count
        return [f"{begins}{number:02d}" for number in range(first, first + row.count)]

    def _written(self, alike: kept.Alike, places: Mapping[int, Place]) -> list[int]:
        ids = kept.new_jars(self.orm, self.who, alike)
        said = [(code, jar.contents[FOUND]["said"]) for jar, codes in alike for code in codes]
        told = {n: {"code": c, "said": s} for n, (c, s) in zip(ids, said, strict=True)}
        journal.of_jars(self.orm, self.who, self.now, "found", told)
        for jar, codes in alike:
            if jar.place_id is not None:
                places[jar.place_id].jars += len(codes)
                places[jar.place_id].jars_ml += len(codes) * jar.fill_ml
        self.orm.flush()
        return ids


def _jar(
    orm: Orm, who: Who, told: tuple[Row, Known], place: Place | None, filled: found.Filled,
    now: datetime,
) -> Jar:  # fmt: skip
    """One that stands for all that are alike; it has no code."""
    row, known = told
    at = datetime.combine(filled.middle, time(12), kitchens.zone(orm, who)).astimezone(UTC)
    batch_id, lot_id = known.batch or (None, None)
    contents = _contents(row, filled.off_days, place.kind if place else NOWHERE)
    return Jar(
        household_id=who.household_id, batch_id=batch_id, lot_id=lot_id, code="",
        label=row.label, jar_kind=row.jar_kind, part_filled=False, canner_load=0, packet="",
        fill_ml=known.fill_ml or kinds.kind(row.jar_kind).nominal_ml, lid=known.lid,
        seal=Seal.CAPPED if "dry" in contents["life"] else Seal.UNKNOWN, placed_at=min(at, now),
        filled_at=min(at, now), process={}, contents=contents,
        **_lives(row, known, place, contents, now),
    )  # fmt: skip


NOWHERE = "refrigerator"
"""Where something is taken for having stood that stands nowhere any more."""


def _lives(
    row: Row, known: Known, place: Place | None, contents: Json, now: datetime
) -> dict[str, Any]:
    """Where it is in its life, and where it stands; held where a stop stands against it."""
    if known.lives in GONE:
        return {"lives": known.lives, "gone": True, "ended_on": known.ended_on or now.date(),
                "left_ml": known.left_ml, "held": False}  # fmt: skip
    told = contents[FOUND]
    findings = found.findings(row.material, row.product, told["stood"])
    opened = known.lives is Lives.OPENED
    return {
        "lives": known.lives,
        "gone": False,
        "place_id": place.id if place else None,
        "held": any(f.level is Level.STOP for f in findings),
        "opened_at": (known.opened_at or now) if opened else None,
        "left_ml": known.left_ml if opened else None,
    }


def _filled(row: Row, today: date) -> found.Filled:
    if row.first is None:
        return found.Filled(said.oldest(today), today)
    return found.Filled(row.first, row.last or row.first)


def _contents(row: Row, off_days: int, stood: str) -> Json:
    """What is kept of what is in it: what was said, and nothing that nobody knows."""
    return {
        "product": row.product,
        "life": found.lives_as(row.product),
        "fruits": [row.material] if row.material in materials.fruits() else [],
        "sugared": False,
        FOUND: {
            "said": row.said, "material": row.material, "stood": stood, "off_days": off_days,
        },
    }  # fmt: skip
