"""Finished batches: listed by season and found by word, each with its page."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import groupby

from sqlalchemy.orm import Session as Orm

from elderberry.core import jars as kinds
from elderberry.core import safety
from elderberry.core.batch import readings
from elderberry.core.batch.lifecycle import Phase
from elderberry.core.batch.standing import words
from elderberry.core.flow.kinds import kind
from elderberry.core.flow.rows import brief_of, estimate_of
from elderberry.core.hands import hands_min
from elderberry.core.method import method, methods
from elderberry.core.wording import figure, in_units
from elderberry.services.cooking import batch_view, endings, jar_view, traces
from elderberry.services.cooking.folder import Folder, folder_of, title
from elderberry.services.household import kitchens
from elderberry.services.notes import deviations
from elderberry.services.notes.shown import (
    FigureRow,
    NoteLine,
    NotePage,
    NotesView,
    Season,
    Standing,
    StepTook,
    StepTrace,
)
from elderberry.services.planning.end_view import ProcessView
from elderberry.services.planning.plan_view import InputView
from elderberry.services.who import Who
from elderberry.store import Batch, Lot, Operation, Person, queries

MOST = 40
"""Batches that are listed at a time."""
LEAST_CLOCK_MIN = 1.0
"""A step that took less was only ticked off, and no clock tells how long it took [min]."""


def view(orm: Orm, who: Who, find: Sequence[str] = (), before: int | None = None) -> NotesView:
    """Finished batches by the year that they were begun in, the newest first.

    find: words that all have to be in their title, code, method, or in what went in and was
    written down. before: only those older than this one.
    """
    found = queries.finished_with(orm, who.household_id, find, before, MOST + 1)
    shown, zone = found[:MOST], kitchens.zone(orm, who)
    by_year = groupby(lines(orm, who, shown), lambda b: b.started_at.astimezone(zone).year)
    seasons = [Season(str(year), list(of_year)) for year, of_year in by_year]
    return NotesView(seasons, len(found) > MOST)


def lines(orm: Orm, who: Who, batches: Sequence[Batch]) -> list[NoteLine]:
    """Batches as a list shows them, in their order."""
    filled = queries.filled_in(orm, who.household_id, [b.id for b in batches])
    given_up = endings.given_up(orm, who, batches)
    people = {p.id: p.name for p in queries.all_of(orm, who.household_id, Person)}
    return [_line(b, filled.get(b.id, (0, 0.0)), people, b.id in given_up) for b in batches]


def _line(
    batch: Batch, filled: tuple[int, float], people: dict[int, str], given_up: bool
) -> NoteLine:
    brief = brief_of(batch.brief)
    return NoteLine(
        batch.id, batch.code, batch.title, brief.colour, batch.started_at,
        people.get(batch.started_by, ""), _method_name(batch), *filled,
        endings.became(brief, filled[0], given_up=given_up),
    )  # fmt: skip


def _method_name(batch: Batch) -> str:
    if batch.method:
        return str(batch.method["name"])
    return method(batch.method_key).name if batch.method_key in methods() else ""


def page(orm: Orm, who: Who, batch_id: int) -> NotePage:
    """A batch as a page: how it went, what came of it, and where that is now.

    Raises:
        NotFound: no such batch in this household.
    """
    folder = folder_of(orm, who, batch_id)
    batch, standing = folder.batch, folder.standing
    litres = sum(j.fill_ml for j in folder.jars) / 1000.0
    hands = sum(_hands(folder, o) for o in folder.operations) / 60.0
    cost = _cost(folder)
    return NotePage(
        id=batch.id,
        code=batch.code,
        title=batch.title,
        method=_method_name(batch),
        finished=standing.finished,
        started_at=batch.started_at,
        picked_on=batch_view.picked_on(folder),
        people=_people(folder),
        flow=batch_view.lineage(folder),
        came_in=[f"{i.name}: {_weighed(folder, i)}" for i in batch_view.inputs(folder)],
        figures=[row for lot in folder.lots.values() for row in _figures(folder, lot)],
        steps=[_took(folder, o) for o in folder.operations if folder.phase(o) is Phase.DONE],
        deviations=deviations.of_batch(folder),
        traces=[
            StepTrace(title(o, folder.units), trace)
            for o in folder.operations
            for trace in traces.views(folder, o)
        ],
        litres=litres,
        litres_planned=estimate_of(batch.predicted.get("juice_l")),
        litres_per_kg=_litres_per_kg(folder),
        cost_minor=cost,
        cost_per_litre_minor=round(cost / litres) if cost is not None and litres else None,
        hands_h=hands,
        hands_h_per_litre=hands / litres if litres else None,
        process=ProcessView(**batch.process) if batch.process else None,
        jars=_where(folder),
        gone=sum(j.gone for j in folder.jars),
        safety=safety.STANDING_LINE,
    )


def _weighed(folder: Folder, given: InputView) -> str:
    """How much of it went in: as it was said, else what it weighed."""
    return given.said or in_units(figure(given.mass_g.typ, "g"), folder.units)


def _people(folder: Folder) -> list[str]:
    """Whoever did something at it, the one who began first."""
    ids = [folder.batch.started_by, *(e.person_id for e in folder.events)]
    return [folder.people[i] for i in dict.fromkeys(ids) if i in folder.people]


def _figures(folder: Folder, lot: Lot) -> list[FigureRow]:
    """What was measured of a lot, beside what was planned."""
    found = []
    for quantity in ("mass_g", "volume_ml", "brix", "ph"):
        reading = folder.standing.measured(lot.id, quantity)
        if reading is not None:
            unit, planned = (
                readings.quantity(quantity).unit,
                estimate_of(lot.predicted.get(quantity)),
            )
            _, said = folder.standing.compared(lot, quantity, reading.value)
            found.append(FigureRow(lot.name, quantity, unit, planned, reading.value, said))
    return found


def _took(folder: Folder, operation: Operation) -> StepTook:
    state = folder.standing.states[operation.id]
    return StepTook(
        id=operation.id,
        bath=kind(operation.kind).boil == "holds",
        title=title(operation, folder.units),
        planned_min=operation.minutes,
        took_min=_minutes(folder, operation),
        finished_at=state.finished_at,
        by=state.finished_by,
    )


def _minutes(folder: Folder, operation: Operation) -> float | None:
    """How long a step took by the clock [min]; None where it was only ticked off."""
    state = folder.standing.states[operation.id]
    if state.started_at is None or state.finished_at is None:
        return None
    took = (state.finished_at - state.started_at).total_seconds() / 60.0
    return took if took >= LEAST_CLOCK_MIN else None


def _hands(folder: Folder, operation: Operation) -> float:
    """Minutes of hands that a finished step took, by the clock or as planned [min]."""
    if folder.phase(operation) is not Phase.DONE:
        return 0.0
    took = _minutes(folder, operation)
    said = words(operation, "hands", folder.units)
    length = operation.minutes if took is None or kind(operation.kind).waits else took
    return hands_min(said, min(length, 3.0 * operation.minutes_hi))


def _litres_per_kg(folder: Folder) -> float | None:
    """What was drawn of the fruit that went in, where all of it was measured [L/kg]."""
    _, drawn_ml = folder.standing.juice_ml()
    given = (lot for lot in folder.lots.values() if lot.key == folder.brief.main.key)
    mass = next((lot.mass_g for lot in given if lot.kind == "fruit" and lot.mass_g), None)
    return drawn_ml / mass if mass and drawn_ml else None


def _cost(folder: Folder) -> int | None:
    """What went in that came with a price, by the part of it that was taken [minor units]."""
    found = []
    for lot in folder.lots.values():
        came = folder.orm.get(Lot, lot.from_lot_id) if lot.from_lot_id else None
        price = came.intake.get("cost_minor") if came and came.intake else None
        if came and price is not None and came.mass_g and lot.mass_g:
            found.append(price * lot.mass_g / came.mass_g)
    return round(sum(found)) if found else None


def _where(folder: Folder) -> list[Standing]:
    """The jars that are left, by where they stand and of which kind they are."""
    shown = {j.id: j for j in jar_view.views(folder.orm, folder.who, folder.jars)}
    left = [shown[j.id] for j in folder.jars if not j.gone]
    ordered = sorted(left, key=lambda j: (j.place, j.kind, j.code))
    return [
        Standing(
            place or "not carried away yet", _counted(kind_key, jars_), [j.code for j in jars_]
        )
        for (place, kind_key), group in groupby(ordered, key=lambda j: (j.place, j.kind))
        if (jars_ := list(group))
    ]


def _counted(kind_key: str, jars_: Sequence[object]) -> str:
    return f"{len(jars_)} × {kinds.kind(kind_key).name}"
