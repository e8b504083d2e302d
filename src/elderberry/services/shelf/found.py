"""Jars that were there already: read from lines, looked at once more, and put on their places."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, time

from sqlalchemy.orm import Session as Orm

from elderberry.core import jars as kinds
from elderberry.core import materials
from elderberry.core.batch.lifecycle import Seal
from elderberry.core.errors import Unknown
from elderberry.core.figures import CannotRead
from elderberry.core.findings import Finding, Level
from elderberry.core.names import letters
from elderberry.core.shelf import found, said
from elderberry.core.shelf.life import Lives
from elderberry.core.shelf.said import Around, Stands
from elderberry.services import journal
from elderberry.services.cooking import kept
from elderberry.services.cooking.ageing import FOUND
from elderberry.services.errors import FieldError
from elderberry.services.household import kitchens
from elderberry.services.who import Who
from elderberry.store import Jar, JarStock, Place, Vessel, queries, shelf_queries

MOST_LINES = 200
MOST_AT_ONCE = 2000
"""Jars that may be put on their places at once."""
AT_ONCE = 1000
"""Rows that are written at a time."""


@dataclass(frozen=True)
class Row:
    """Jars that were there already, as they are to be put on their place.

    said: the line that spoke of them. count, label, product, material, jar_kind, place_id: see
    core.shelf.found.FoundJars. first, last: the days between which they were filled; None where
    nobody knows. code: one that they have already, for a single jar. fill_ml: what is in each [mL],
    its usual fill where nothing is said.
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
    code: str = ""
    fill_ml: float | None = None


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
        for field, words in wrong(orm, who, line.row, now) if line.row else ():
            raise FieldError(f"/lines/{number}/{field}", f"{words} Nothing was changed.")
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
    for number, row in enumerate(rows):
        for field, words in wrong(orm, who, row, now):
            raise FieldError(f"/rows/{number}/{field}", f"{words} Nothing was recorded.")
    made = write(orm, who, rows, now)
    return Put(len(made), [j.id for j in made])


def wrong(orm: Orm, who: Who, row: Row, now: datetime) -> list[tuple[str, str]]:
    """What is wrong with a row: field and words."""
    said_wrong = []
    if not any(c.isalpha() for c in row.label):
        said_wrong.append(("label", "Say what is in it."))
    try:
        kinds.kind(row.jar_kind)
    except Unknown:
        said_wrong.append(("jar_kind", "There is no such jar."))
    if queries.one(orm, who.household_id, Place, row.place_id) is None:
        said_wrong.append(("place_id", "There is no such place."))
    if row.product not in found.products():
        said_wrong.append(("product", "There is no such product."))
    known = row.material in materials.fruits() or row.material in materials.ingredients()
    if row.material and not known:
        said_wrong.append(("material", "No list knows it."))
    today = kitchens.today(orm, who, now)
    if row.first is not None and not row.first <= (row.last or row.first) <= today:
        said_wrong.append(("first", "The days that it was filled on are over by today."))
    if row.first is not None and row.first.year < today.year - said.OLDEST_YEARS:
        said_wrong.append(("first", "That is more than 20 years ago."))
    return said_wrong


def write(orm: Orm, who: Who, rows: Iterable[Row], now: datetime) -> list[Jar]:
    """Write jars that were looked through already, a thousand at a time."""
    places = {p.id: p for p in queries.all_of(orm, who.household_id, Place)}
    today = kitchens.today(orm, who, now)
    taken: dict[str, list[str]] = {}
    waiting: list[Jar] = []
    made: list[Jar] = []
    for row in rows:
        waiting += _jars(orm, who, row, places[row.place_id], today, now, taken)
        if len(waiting) >= AT_ONCE:
            made += _written(orm, who, waiting, places, now)
            waiting = []
    return made + (_written(orm, who, waiting, places, now) if waiting else [])


def _jars(
    orm: Orm, who: Who, row: Row, place: Place, today: date, now: datetime,
    taken: dict[str, list[str]],
) -> list[Jar]:  # fmt: skip
    filled = _filled(row, today)
    codes = [row.code] if row.code else _codes(orm, who, row, filled.middle, taken)
    dry = found.lives_as(row.product).get("dry")
    stops = any(
        f.level is Level.STOP for f in found.findings(row.material, row.product, place.kind)
    )
    kind = kinds.kind(row.jar_kind)
    at = datetime.combine(filled.middle, time(12), kitchens.zone(orm, who)).astimezone(UTC)
    return [
        Jar(
            household_id=who.household_id, code=code, label=row.label, jar_kind=row.jar_kind,
            fill_ml=row.fill_ml or kind.nominal_ml, part_filled=False, canner_load=0,
            seal=Seal.CAPPED if dry else Seal.UNKNOWN, place_id=place.id, placed_at=min(at, now),
            filled_at=min(at, now), process={}, contents=_contents(row, place, filled.off_days),
            lives=Lives.STANDS, held=stops,
        )
        for code in codes
    ]  # fmt: skip


def _filled(row: Row, today: date) -> found.Filled:
    if row.first is None:
        return found.Filled(said.oldest(today), today)
    return found.Filled(row.first, row.last or row.first)


def _codes(
    orm: Orm, who: Who, row: Row, on: date, taken: dict[str, list[str]]
) -> list[str]:  # fmt: skip
    """The next free codes of its letters and year."""
    head = letters(row.material or "".join(c for c in row.label.lower() if c.isascii()) or "jar")
    begins = f"{head}-{on.year % 100:02d}-F"
    if begins not in taken:
        taken[begins] = shelf_queries.codes_like(orm, who.household_id, begins)
    codes = found.codes(head, on.year % 100, taken[begins], row.count)
    taken[begins] = [*taken[begins], *codes]
    return codes


def _contents(row: Row, place: Place, off_days: int) -> dict[str, object]:
    """What is kept of what is in it: what was said, and nothing that nobody knows."""
    return {
        "product": row.product,
        "life": found.lives_as(row.product),
        "fruits": [row.material] if row.material in materials.fruits() else [],
        "sugared": False,
        FOUND: {
            "said": row.said, "material": row.material, "stood": place.kind, "off_days": off_days,
        },
    }  # fmt: skip


def _written(
    orm: Orm, who: Who, jars: list[Jar], places: dict[int, Place], now: datetime
) -> list[Jar]:
    orm.add_all(jars)
    orm.flush()
    journal.of_jars(
        orm, who, now, "found",
        {j.id: {"code": j.code, "said": j.contents[FOUND]["said"]} for j in jars},
    )  # fmt: skip
    there: dict[int, list[Jar]] = defaultdict(list)
    for jar in jars:
        there[jar.place_id or 0].append(jar)
    for place_id, mine in there.items():
        places[place_id].jars += len(mine)
        places[place_id].jars_ml += sum(j.fill_ml for j in mine)
    kept.jars(orm, who, jars)
    orm.flush()
    return jars
