"""What a household has kept, as tables for a spreadsheet."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from zoneinfo import ZoneInfo

from sqlalchemy import func, select
from sqlalchemy.orm import Session as Orm

from elderberry.core import jars as kinds
from elderberry.core import names
from elderberry.core.batch import readings
from elderberry.core.flow.rows import brief_of
from elderberry.formats.sheets import Cell
from elderberry.services.household import kitchens
from elderberry.services.who import Who
from elderberry.store import Batch, Jar, Lot, Operation, Person, Place, Reading, Serving, queries
from elderberry.store.jar import FAR_OFF

AT_ONCE = 1000
Rows = Iterator[Sequence[Cell]]


@dataclass(frozen=True)
class Sheet:
    """A table: the headings of its columns, and what fills them."""

    headings: tuple[str, ...]
    rows: Callable[[Orm, Who, ZoneInfo], Rows]


def sheet(orm: Orm, who: Who, what: str) -> tuple[tuple[str, ...], Rows]:
    """A table of a household: its headings and its rows, moments in the kitchen's zone.

    Raises:
        KeyError: there is no such table.
    """
    found = SHEETS[what]
    return found.headings, found.rows(orm, who, kitchens.zone(orm, who))


def _jars(orm: Orm, who: Who, zone: ZoneInfo) -> Rows:
    places = {p.id: p.name for p in queries.all_of(orm, who.household_id, Place)}
    query = (
        select(Jar, Batch.code).outerjoin(Batch, Batch.id == Jar.batch_id)
        .where(Jar.household_id == who.household_id).order_by(Jar.id)
    )  # fmt: skip
    for jar, batch in orm.execute(query.execution_options(yield_per=AT_ONCE)):
        best_by = None if jar.best_by == FAR_OFF else jar.best_by
        yield (
            jar.code, jar.label, batch, kinds.kind(jar.jar_kind).name, jar.fill_ml, jar.there_ml,
            str(jar.seal), str(jar.lives), places.get(jar.place_id or 0),
            jar.filled_at.astimezone(zone),
            jar.opened_at and jar.opened_at.astimezone(zone), jar.ended_on, best_by,
            jar.contents.get("brix"), jar.contents.get("ph"), jar.contents.get("product"), jar.lid,
        )  # fmt: skip


def _lots(orm: Orm, who: Who, zone: ZoneInfo) -> Rows:
    mine = queries.mine(who.household_id, Lot).where(Lot.intake.is_not(None))
    for lot in orm.scalars(mine.execution_options(yield_per=AT_ONCE)):
        told = lot.intake or {}
        yield (
            lot.id, lot.name, lot.material, told.get("form"), lot.mass_g, lot.left_g, lot.source,
            lot.picked_on, lot.created_at.astimezone(zone), told.get("brix"), told.get("ph"),
        )  # fmt: skip


def _batches(orm: Orm, who: Who, zone: ZoneInfo) -> Rows:
    query = (
        select(Batch, Person.name, func.count(Jar.id), func.sum(Jar.fill_ml))
        .join(Person, Person.id == Batch.started_by)
        .outerjoin(Jar, Jar.batch_id == Batch.id)
        .where(Batch.household_id == who.household_id)
        .group_by(Batch.id, Person.name).order_by(Batch.id)
    )  # fmt: skip
    for batch, by, jars, ml in orm.execute(query):
        yield (
            batch.code, batch.title, _went_in(batch), batch.material, batch.method_key,
            batch.started_at.astimezone(zone), by, batch.finished, jars, float(ml or 0.0),
        )  # fmt: skip


def _went_in(batch: Batch) -> str:
    """What went into a batch, as lines say it."""
    said = []
    for given in brief_of(batch.brief).inputs:
        amount = given.amount
        if amount.said:
            said.append(amount.said)
        elif amount.grams is not None:
            said.append(f"{amount.grams.typ:.0f} g {names.told(given.material)}")
    return "; ".join(said)


def _readings(orm: Orm, who: Who, zone: ZoneInfo) -> Rows:
    query = (
        select(Reading, Batch.code, Operation.kind, Person.name)
        .join(Batch, Batch.id == Reading.batch_id)
        .join(Operation, Operation.id == Reading.operation_id)
        .join(Person, Person.id == Reading.person_id)
        .where(Reading.household_id == who.household_id).order_by(Reading.id)
    )  # fmt: skip
    for reading, batch, step, by in orm.execute(query.execution_options(yield_per=AT_ONCE)):
        what = readings.quantities().get(reading.quantity)
        yield (
            batch, step, what.name if what else reading.quantity, reading.value,
            what.unit if what else None, reading.instrument, str(reading.evidence),
            reading.at.astimezone(zone), by,
        )  # fmt: skip


def _servings(orm: Orm, who: Who, zone: ZoneInfo) -> Rows:
    query = (
        select(Serving, Jar.code, Jar.label, Person.name)
        .join(Jar, Jar.id == Serving.jar_id).join(Person, Person.id == Serving.person_id)
        .where(Serving.household_id == who.household_id).order_by(Serving.id)
    )  # fmt: skip
    for served, jar, label, by in orm.execute(query.execution_options(yield_per=AT_ONCE)):
        yield served.name, jar, label, served.base_ml, served.at.astimezone(zone), by


SHEETS = {
    "jars": Sheet(
        ("code", "label", "batch", "jar", "filled with [ml]", "left [ml]", "seal", "state",
         "place", "filled", "opened", "ended", "best by", "sweetness [°Bx]", "pH", "product",
         "lid"), _jars,
    ),
    "came-in": Sheet(
        ("number", "name", "material", "form", "came in [g]", "left [g]", "source", "picked",
         "came", "sweetness [°Bx]", "pH"), _lots,
    ),
    "batches": Sheet(
        ("code", "title", "went in", "material", "method", "begun", "by", "finished", "jars",
         "in jars [ml]"), _batches,
    ),
    "readings": Sheet(
        ("batch", "step", "what", "value", "unit", "instrument", "evidence", "at", "by"),
        _readings,
    ),
    "servings": Sheet(("name", "jar", "label", "of it [ml]", "at", "by"), _servings),
}  # fmt: skip
"""Every table that can be taken out, by its name in the address."""
