"""One step of a batch as Cook shows it."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime, timedelta

from elderberry.core import closures, heat, process
from elderberry.core import jars as jar_kinds
from elderberry.core.batch import lags, readings
from elderberry.core.batch.lifecycle import OPEN, Phase, StepState
from elderberry.core.batch.plate import Plate
from elderberry.core.batch.rows import OperationRow
from elderberry.core.batch.standing import SECOND_GO, Standing, words
from elderberry.core.colour import SWATCHES
from elderberry.core.estimates import Estimate
from elderberry.core.findings import Finding
from elderberry.core.flow.inputs import End
from elderberry.core.flow.kinds import Choice, kind
from elderberry.core.flow.rows import estimate_of
from elderberry.core.flow.steps import Step
from elderberry.core.sums.canning import how_it_heats
from elderberry.core.telling import told
from elderberry.core.wording import in_units, worded
from elderberry.services.cooking import (
    at_bench,
    balances,
    drying_view,
    glance,
    mishaps,
    traces,
    waters,
)
from elderberry.services.cooking.folder import Folder
from elderberry.services.cooking.step_shown import ReadingView, StepView, Swatch
from elderberry.services.cooking.steps import STARTS_BY_ITSELF, WORKED_OUT
from elderberry.services.planning.end_view import jar_counts
from elderberry.services.planning.plan_view import Question, questions
from elderberry.store import Operation, Reading


def of(folder: Folder, operation: Operation) -> StepView:
    """One step as Cook shows it."""
    standing, what = folder.standing, kind(operation.kind)
    state = standing.states[operation.id]
    fills = what.role == "fill"
    packed = (
        folder.once(("packed", operation.id), lambda: standing.packing(operation))
        if fills else None
    )  # fmt: skip
    hot = standing.hot_ml(operation) if fills else 0.0
    coming = standing.to_come(operation) if fills else []
    shared = _shared(standing, operation, packed, hot) if packed else None
    edges = folder.edges[operation.id]
    return StepView(
        **vars(glance.at(folder, operation)),
        drawing=what.drawing,
        to_come=[words(o, "title", folder.units) for o in coming],
        in_parts=fills
        and folder.once(("in parts", operation.id), lambda: standing.fills_in_part(operation)),
        left_l=standing.left_ml(operation).scaled(0.001) if fills else None,
        checks=_checks(folder, operation),
        headspace_mm=operation.params.get("headspace_mm")
        if fills and standing.end(operation).keep != "now"
        else None,
        pings=_noted(folder, operation, "ping"),
        lift_at=_lift_at(operation, state),
        hands=words(standing.shown(operation), "hands", folder.units),
        minutes=Estimate(
            min(operation.minutes_lo, state.minutes),
            state.minutes,
            max(operation.minutes_hi, state.minutes),
        ),
        started_at=state.started_at,
        extra_minutes=state.extra_minutes,
        reasons=list(what.reasons) or ["not there yet"],
        wet=what.wet,
        may_repeat=_may_repeat(standing, operation),
        may_put_cold=_may_put_cold(standing, operation),
        may_fill_now=_may_fill_now(folder, operation),
        may_acidify=state.phase is Phase.RUNNING and "ph" in what.asks,
        starts_by_itself=operation.kind in STARTS_BY_ITSELF,
        traces=traces.views(folder, operation),
        finished_at=state.finished_at,
        finished_by=state.finished_by,
        cautions=[
            told(f, folder.units)
            for f in (*drying_view.stands(folder, operation), *standing.cautions_at(operation))
        ],
        lies_open_until=drying_view.lies_open_until(folder, operation),
        stops=_stops(folder, operation),
        readings=[_reading(folder, r) for r in folder.readings if r.operation_id == operation.id],
        colours=_colours(operation) if what.role == "caramel" else [],
        plate=_plate(folder, operation),
        midway=_midway(folder, operation),
        target_c=operation.params.get("target"),
        inside=folder.once(
            ("inside", operation.id), lambda: _inside(folder, operation, state.minutes)
        ),
        water=waters.of_step(standing, operation),
        balance=balances.of_step(folder, operation),
        choices=_choices(folder, operation),
        questions=_questions(folder, operation) if fills else [],
        rooms=_rooms(folder, operation) if fills else {},
        packing=jar_counts(packed.jars, folder.units) if packed else [],
        part_kind=packed.leftover_kind if packed else None,
        part_ml=packed.leftover_ml if packed else 0.0,
        shared=jar_counts(shared.jars, folder.units) if shared else [],
        shared_off_mm=shared.off_mm if shared else 0.0,
        sums=at_bench.links(folder, operation) if state.phase in OPEN else [],
        mishaps=mishaps.at_step(folder, operation),
        notes=_notes(folder, operation),
        takes=[folder.lots[i].key for i in edges["in"]],
        gives=[folder.lots[i].key for i in edges["out"]],
    )


def _noted(folder: Folder, operation: Operation, what: str) -> int:
    """How often something was noted at a step by a press."""
    noted = folder.standing.happened(operation, "noted")
    return sum(e.data.get("what") == what for e in noted)


REST_BEFORE_LIFT = timedelta(minutes=5)
"""How long jars rest in the canner, heat off and lid off, before they are lifted out."""


def _lift_at(operation: Operation, state: StepState) -> datetime | None:
    cools = kind(operation.kind).role == "cool" and state.started_at is not None
    return state.started_at + REST_BEFORE_LIFT if cools and state.started_at else None


def _checks(folder: Folder, operation: Operation) -> list[str]:
    """What is looked at at a step; at a filling, how its jars are closed besides."""
    what = kind(operation.kind)
    end = folder.standing.end(operation) if what.role == "fill" else None
    if end is not None and end.keep == "now":
        return []
    figures = {**what.usual, **operation.params}
    said = [worded(check, figures, folder.units) for check in what.checks]
    return [*said, *(_closing(end) if end else [])]


def _closing(end: End) -> list[str]:
    """How the jars of an end are closed."""
    kinds = end.jar_kinds or ()
    used = dict.fromkeys(end.closure or jar_kinds.kind(k).closure for k in kinds)
    return [closures.closure(c).close for c in used]


def _shared(
    standing: Standing, fill: OperationRow, packed: jar_kinds.Packing, hot_ml: float
) -> jar_kinds.Shared | None:
    """The rest shared among the jars, where there is one and no ice needs their room."""
    if not packed.leftover_kind or standing.end(fill).keep == "freeze":
        return None
    return jar_kinds.share(packed, hot_ml)


def _colours(operation: Operation) -> list[Swatch]:
    """The colours that melted sugar goes through; the one to stop at is the first so hot."""
    to = float(operation.params["to"])
    stop = next(w for w, c, _ in SWATCHES if c >= to)
    return [Swatch(word, c, colour, word == stop) for word, c, colour in SWATCHES]


def _plate(folder: Folder, operation: Operation) -> Plate | None:
    """The cold plate of a pot that is on, or comes next."""
    found = folder.standing.plate(operation) if folder.phase(operation) in OPEN else None
    return replace(found, note=in_units(found.note, folder.units)) if found else None


def _midway(folder: Folder, operation: Operation) -> str:
    running = folder.phase(operation) is Phase.RUNNING
    found = folder.standing.midway(operation) if running else None
    return in_units(found.words, folder.units) if found else ""


def _may_repeat(standing: Standing, operation: OperationRow) -> bool:
    """Whether something was heated and has not been filled yet."""
    lots = set(standing.edges[operation.id]["out"])
    waiting = (
        standing.phase(f) is Phase.WAITING or standing.in_part(f)
        for f in standing.fillings
        if lots & set(standing.edges[f.id]["in"])
    )
    heated = kind(operation.kind).role == "heat" and standing.phase(operation) is Phase.DONE
    return heated and any(waiting)


def _may_fill_now(folder: Folder, operation: Operation) -> bool:
    """Whether jars of a later load wait for the canner, so that they are better filled now."""
    process = kind(operation.kind).role == "process"
    waits = process and folder.phase(operation) is Phase.WAITING
    return waits and operation.params["load"] > 1 and bool(folder.jar_rows(operation))


def _may_put_cold(standing: Standing, operation: OperationRow) -> bool:
    """Whether what a finished step gave still waits somewhere warm."""
    lots = standing.edges[operation.id]["out"]
    takers = [o for o in standing.operations if set(lots) & set(standing.edges[o.id]["in"])]
    said = bool(standing.happened(operation, lags.PUT_COLD))
    waits = any(standing.phase(o) is Phase.WAITING for o in takers)
    cut = kind(operation.kind).form == "sliced"
    wet = cut or any(standing.lots[i].kind in {"juice", "mash"} for i in lots)
    return standing.phase(operation) is Phase.DONE and waits and wet and not said


def _inside(folder: Folder, operation: Operation, minutes: float) -> heat.InsideJar | None:
    """What happens in the slowest jar of a canner load in a bath that boils here, and what losing
    the boil did.
    """
    mine = [j.jar_kind for j in folder.jar_rows(operation)]
    if kind(operation.kind).role != "process" or not mine:
        return None
    largest = max((jar_kinds.kind(k) for k in mine), key=lambda k: k.nominal_ml)
    fill = folder.standing.fill_of(operation)
    contents = folder.standing.contents(fill) if fill else None
    brix, pulp = (contents.brix, contents.pulp_pct) if contents else (0.0, 0.0)
    how = how_it_heats(largest, brix, conducts=pulp > CONDUCTS_PULP_PCT)
    temps = [r.value for r in folder.standing.counted if r.row.quantity == "temp_c"]
    boiling = folder.kitchen.boiling_point_c
    start = min(temps[-1] if temps else process.FILL_C, boiling)
    return heat.inside_jar(minutes, start, boiling, how, lost=_spells(folder, operation))


CONDUCTS_PULP_PCT = 1.0
"""Pulp over which what is in a jar does not circulate [g/100 g]: heat.heating."""


def _spells(folder: Folder, operation: Operation) -> list[tuple[float, float]]:
    """Minutes at the boil and then off it, for each time that it was lost and came back [min]."""
    boils = folder.standing.happened(operation, "boil_reached", "boil_lost")
    turns = [(e.kind, e.at) for e in boils]
    found = []
    for (_, on), (lost, off), (_, again) in zip(turns, turns[1:], turns[2:], strict=False):
        if lost == "boil_lost":
            spells = ((off - on).total_seconds() / 60, (again - off).total_seconds() / 60)
            found.append((min(spells[0], MOST_DRAWN_MIN), min(spells[1], MOST_DRAWN_MIN)))
    return found


MOST_DRAWN_MIN = 240.0
"""Of a spell at the boil or off it, at most so much is drawn [min]."""


def _rooms(folder: Folder, fill: Operation) -> dict[str, float]:
    """What a jar of each kind that stands ready is filled with."""
    end = folder.standing.end(fill)
    ready = {*folder.kitchen.ready(end.keep, end.closure, end.lid), *end.jar_kinds}
    return {kind: folder.standing.room_ml(fill, kind) for kind in ready}


def _stops(folder: Folder, operation: Operation) -> list[Finding]:
    """Stops that stand at a step now, such as a canner waiting for a reading."""
    standing = folder.standing
    if kind(operation.kind).role != "process" or standing.over(operation):
        return []
    kinds = [j.jar_kind for j in folder.jar_rows(operation)]
    planned = [jar["kind"] for jar in folder.batch.predicted["expected"]["jars"]]
    found = folder.once(
        ("tested", operation.id),
        lambda: standing.tested_time(kinds or planned, standing.fill_of(operation)),
    )
    waits = folder.phase(operation) is Phase.WAITING and operation.params["load"] <= SECOND_GO
    stood = lags.before_canner(list(folder.jar_rows(operation)), folder.at) if waits else ()
    return [told(stop, folder.units) for stop in (*found.stops, *stood)]


def _questions(folder: Folder, fill: Operation) -> list[Question]:
    """What only the cook can say of jars; of glasses there is nothing to say."""
    if folder.standing.end(fill).keep == "now":
        return []
    said, units = folder.standing.said, folder.units
    raw = questions("raw_fill", said, units) if folder.standing.raw_pack(fill) else []
    return [*raw, *questions("fill", said, units)]


def _choices(folder: Folder, operation: Operation) -> list[str]:
    """What was chosen about a step otherwise than usual, in words."""
    if "step" not in operation.params:
        return []
    step = next((s for s in folder.method.steps if s.key == operation.params["step"]), None)
    choices = kind(step.kind).choices if step else ()
    return [_chosen(step, c) for c in choices if step and step.chosen(c.key) != c.default]


def _chosen(step: Step, choice: Choice) -> str:
    return f"{choice.label}: {choice.option(str(step.chosen(choice.key))).label}"


def _reading(folder: Folder, reading: Reading) -> ReadingView:
    what = readings.quantity(reading.quantity)
    lot = folder.lots.get(reading.lot_id or 0)
    predicted = estimate_of(lot.predicted.get(reading.quantity)) if lot else None
    word, words = folder.standing.compared(lot, reading.quantity, reading.value)
    return ReadingView(
        id=reading.id,
        quantity=reading.quantity,
        name=what.name,
        unit=what.unit,
        value=reading.value,
        instrument=reading.instrument,
        evidence=reading.evidence,
        at=reading.at,
        by=folder.people.get(reading.person_id, ""),
        lot_id=reading.lot_id,
        predicted=predicted,
        agreement=word,
        words=words,
        corrected=reading.id in folder.standing.corrected,
    )


def _notes(folder: Folder, operation: Operation) -> list[str]:
    """What was written down at a step, in the words of whoever did."""
    written = folder.standing.happened(operation, "noted", WORKED_OUT)
    return [e.data["words"] for e in written if e.data.get("words")]
