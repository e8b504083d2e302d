"""Reading jars: where they stand, and until when they are at their best."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime

from sqlalchemy.orm import Session as Orm

from elderberry.core import colour, materials, storage
from elderberry.core import jars as kinds
from elderberry.core.batch.lifecycle import Seal
from elderberry.core.findings import Finding
from elderberry.core.flow.rows import brief_of
from elderberry.core.quantities import System
from elderberry.core.rules import rule
from elderberry.core.wording import figure, in_units
from elderberry.services.household import kitchens
from elderberry.services.shown import BestByView, JarView
from elderberry.services.who import Who
from elderberry.store import Jar, Place, queries

FELL_SHORT = "fell_short"
"""What a jar's process lacks by what is known now, in its record."""


def views(orm: Orm, who: Who, jars: Sequence[Jar]) -> list[JarView]:
    """Jars with their places and their best-by."""
    places = {p.id: p for p in queries.all_of(orm, who.household_id, Place)}
    moves = stays_of(orm, who, [jar.id for jar in jars])
    units = kitchens.units(orm, who)
    codes = queries.codes_of(orm, who.household_id, jars)
    colours = _colours(orm, who, jars)
    return [
        _view(
            jar, codes[jar.batch_id], colours[jar.id], places.get(jar.place_id or 0),
            moves.get(jar.id, []), units,
        )
        for jar in jars
    ]  # fmt: skip


def _view(
    jar: Jar, code: str, hue: str, place: Place | None, stays: list[storage.Stay], units: System
) -> JarView:
    kind = kinds.kind(jar.jar_kind)
    return JarView(
        id=jar.id,
        code=jar.code,
        label=jar.label,
        kind=kind.key,
        kind_name=kind.named(units),
        nominal_ml=kind.nominal_ml,
        radius_mm=kind.inner_radius_mm,
        height_mm=kind.inner_height_mm,
        fill_ml=jar.fill_ml,
        part_filled=jar.part_filled,
        canner_load=jar.canner_load,
        seal=jar.seal,
        place_id=jar.place_id,
        place=place.name if place else "",
        filled_at=jar.filled_at,
        batch_id=jar.batch_id,
        batch_code=code,
        colour=hue,
        best_by=best_by(jar, place, stays, units) if place else None,
        lid=colour.LIDS.get(jar.lid, ""),
        closure=jar.contents.get("closure") or kind.closure,
        stop=short.message if (short := fell_short(jar)) else "",
    )


def fell_short(jar: Jar) -> Finding | None:
    """The stop on a jar whose process is not enough for what is known of it since.

    A jar that went to the cold instead is not kept by its process any more.
    """
    why = jar.process.get(FELL_SHORT) if jar.seal in {Seal.COOLING, Seal.SEALED} else ""
    return rule("process-fell-short").finding("process", why=why) if why else None


def life_row(jar: Jar, place: Place) -> storage.LifeRow:
    """The quality clock that runs for a jar where it stands, by what is in it."""
    life = jar.contents.get("life") or {}
    if place.kind == "freezer":
        return storage.life_row("frozen", life.get("freeze", "juice"))
    if jar.seal == Seal.SEALED:
        return storage.life_row("canned_sealed", life.get("shelf", "juice"))
    if jar.process:
        product = "syrup" if jar.contents.get("sugared") else "juice"
        return storage.canned_row(product, sealed=False)
    return storage.life_row("chilled_unopened", life.get("chill", "juice_unprocessed"))


def _colours(orm: Orm, who: Who, jars: Sequence[Jar]) -> dict[int, str]:
    """The colour of what is in each jar: of its first fruit, else of what its batch began with."""
    known = {j.id: _of_fruit(j) for j in jars}
    others = {j.batch_id for j in jars if not known[j.id]}
    briefs = queries.briefs_of(orm, who.household_id, others) if others else {}
    began = {batch_id: brief_of(row).colour for batch_id, row in briefs.items()}
    return {j.id: known[j.id] or began[j.batch_id] for j in jars}


def _of_fruit(jar: Jar) -> str:
    """The colour of the first fruit in a jar; empty where there is none that is listed."""
    fruits = jar.contents.get("fruits") or [""]
    fruit = materials.fruits().get(fruits[0])
    return fruit.colour if fruit else ""


def best_by(jar: Jar, place: Place, stays: list[storage.Stay], units: System) -> BestByView | None:
    """Best-by from the places a jar has been; None where its clock does not hold there."""
    row = life_row(jar, place)
    if not storage.holds_at(row, place.temp_c):
        return None
    past = [s for s in stays if storage.holds_at(row, s.temp_c)]
    canned = row.state == "canned_sealed"
    factor = storage.life_factor(light=place.light and canned)
    found = storage.best_by(jar.placed_at.date(), row, place.temp_c, past, factor)
    now = datetime.now(UTC)
    here = storage.Stay(max(0.0, (now - jar.placed_at).total_seconds() / 86400), place.temp_c)
    used = storage.life_used([*past, here], row) / factor
    words = f"{row.state.replace('_', ' ')}, {in_units(figure(place.temp_c, 'C'), units)}"
    return BestByView(found.lo, found.typ, found.hi, used, words)


def stays_of(orm: Orm, who: Who, jar_ids: Sequence[int]) -> dict[int, list[storage.Stay]]:
    """Where some jars stood before, from their moves."""
    found: dict[int, list[storage.Stay]] = {}
    for event in queries.moves_of(orm, who.household_id, jar_ids):
        if event.jar_id is not None and "stay_days" in event.data:
            stay = storage.Stay(event.data["stay_days"], event.data["temp_c"])
            found.setdefault(event.jar_id, []).append(stay)
    return found
