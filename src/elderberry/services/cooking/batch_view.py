"""Reading a batch: rows and events in, views out. Nothing here changes anything."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime, timedelta
from typing import Any

from sqlalchemy.orm import Session as Orm

from elderberry.core import colour, heat, juicing, keeping, process
from elderberry.core import jars as jar_kinds
from elderberry.core.batch import lags, readings
from elderberry.core.batch.lifecycle import Phase, StepState
from elderberry.core.batch.rows import OperationRow
from elderberry.core.batch.standing import Standing, unmeasured, words
from elderberry.core.estimates import Estimate
from elderberry.core.findings import Finding
from elderberry.core.flow.inputs import Input
from elderberry.core.flow.kinds import Choice, kind
from elderberry.core.flow.rows import estimate_of
from elderberry.core.flow.steps import Step
from elderberry.core.telling import told
from elderberry.core.wording import in_units
from elderberry.services.cooking import balances, jar_view, waters
from elderberry.services.cooking.folder import Folder, title
from elderberry.services.cooking.steps import STARTS_BY_ITSELF
from elderberry.services.planning.end_view import JarCount, ProcessView, jar_counts
from elderberry.services.planning.plan_view import (
    FlowLot,
    FlowOperation,
    InputView,
    Question,
    method_view,
    questions,
)
from elderberry.services.shown import (
    Askable,
    BatchEnd,
    BatchView,
    LotView,
    PanView,
    ReadingView,
    StationView,
    StepView,
)
from elderberry.services.who import Who
from elderberry.store import Batch, Lot, Operation, Reading

PAN_WARNING = timedelta(minutes=10)
UNITS_OF_LOT = {"volume_ml", "brix", "ph", "mass_g"}


def view(orm: Orm, who: Who, batch: Batch) -> BatchView:
    """A batch as Cook shows it."""
    return of(Folder(orm, who, batch))


def of(folder: Folder) -> BatchView:
    """A batch as Cook shows it, of its folder."""
    batch = folder.batch
    standing, brief = folder.standing, folder.brief
    came_in = next((lot for lot in folder.lots.values() if lot.key == brief.main.key), None)
    fill = standing.fillings[0]
    juice, drawn = standing.juice_ml(fill)
    generous = batch.predicted["generous"]
    return BatchView(
        id=batch.id,
        code=batch.code,
        title=batch.title,
        inputs=[_input(folder, given) for given in brief.inputs],
        ends=[_end(standing, f) for f in standing.fillings],
        colour=brief.colour,
        source=brief.main.source,
        picked_on=came_in.picked_on if came_in else None,
        method=method_view(folder.method, batch.method_key.startswith("own_")),
        started_at=batch.started_at,
        started_by=folder.people.get(batch.started_by, ""),
        version=batch.version,
        finished=standing.finished,
        steps=[step_view(folder, o) for o in folder.operations],
        lots=[lot_view(folder, lot) for lot in folder.lots.values()],
        operations=[_flow_operation(folder, o) for o in folder.operations],
        jars=jar_view.views(folder.orm, folder.who, folder.jars),
        juice_l=juice.scaled(0.001),
        juice_measured_l=drawn / 1000,
        jars_ready=[JarCount(**jar) for jar in generous["jars"]],
        process=ProcessView(**batch.process) if batch.process else None,
        findings=[told(f, folder.units) for f in standing.cautions if f.place in {"", "fruit"}],
    )


def _input(folder: Folder, given: Input) -> InputView:
    """Something that went in, as it was weighed or came to be."""
    lot = next((lot for lot in folder.lots.values() if lot.key == given.key), None)
    mass = estimate_of(lot.predicted["mass_g"]) if lot else given.amount.grams
    return InputView(
        given.key, given.material, given.name, given.form, given.amount.said,
        mass or Estimate(0.0, 0.0, 0.0), colour.of_material(given.material), given.amount.how,
    )  # fmt: skip


def _end(standing: Standing, fill: OperationRow) -> BatchEnd:
    """An end as it stands."""
    contents = standing.contents(fill)
    product = keeping.product_word(contents) if contents else "juice"
    litres = standing.juice_ml(fill)[0].scaled(0.001)
    return BatchEnd(fill.key, fill.id, product, standing.end(fill).keep, litres)


def step_view(folder: Folder, operation: Operation) -> StepView:
    """One step as Cook shows it."""
    standing, what = folder.standing, kind(operation.kind)
    state = standing.states[operation.id]
    waits = standing.waits_for(operation)
    station = folder.stations.get(operation.station_id or 0)
    fills = what.role == "fill"
    packed = standing.packing(operation) if fills else None
    hot = standing.hot_ml(operation) if fills else 0.0
    shared = _shared(standing, operation, packed, hot) if packed else None
    edges = folder.edges[operation.id]
    return StepView(
        id=operation.id,
        key=operation.key,
        kind=operation.kind,
        role=what.role,
        drawing=what.drawing,
        title=title(operation, folder.units),
        station=StationView(station.id, station.name, station.kind) if station else None,
        phase=state.phase,
        ready=state.phase is Phase.WAITING and waits is None,
        waits_for=words(waits, "title", folder.units) if waits else "",
        opens_at=_opens_at(standing, operation),
        before=words(operation, "before", folder.units),
        look_for=words(operation, "look_for", folder.units),
        then=words(operation, "then", folder.units),
        hands=words(operation, "hands", folder.units),
        minutes=Estimate(
            min(operation.minutes_lo, state.minutes),
            state.minutes,
            max(operation.minutes_hi, state.minutes),
        ),
        started_at=state.started_at,
        clock_from=state.clock_from,
        due_at=state.due_at,
        extra_minutes=state.extra_minutes,
        counts_from_boil=bool(what.boil),
        holds_boil=what.boil == "holds",
        reasons=list(what.reasons) or ["not there yet"],
        wet=what.wet,
        may_repeat=_may_repeat(standing, operation),
        may_put_cold=_may_put_cold(standing, operation),
        may_fill_now=_may_fill_now(folder, operation),
        may_acidify=state.phase is Phase.RUNNING and "ph" in what.asks,
        starts_by_itself=operation.kind in STARTS_BY_ITSELF,
        boils_lost=state.boils_lost,
        finished_at=state.finished_at,
        finished_by=state.finished_by,
        cautions=[told(f, folder.units) for f in standing.cautions_at(operation)],
        stops=_stops(folder, operation),
        readings=[_reading(folder, r) for r in folder.readings if r.operation_id == operation.id],
        asks=_asks(folder, operation),
        pan=_pan(folder, operation, state),
        midway=_midway(folder, operation),
        target_c=operation.params.get("target"),
        inside=_inside(folder, operation, state.minutes),
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
        jar_ids=standing.jar_ids(operation),
        takes=[folder.lots[i].key for i in edges["in"]],
        gives=[folder.lots[i].key for i in edges["out"]],
    )


def _shared(
    standing: Standing, fill: OperationRow, packed: jar_kinds.Packing, hot_ml: float
) -> jar_kinds.Shared | None:
    """The rest shared among the jars, where there is one and no ice needs their room."""
    if not packed.leftover_kind or standing.end(fill).keep == "freeze":
        return None
    return jar_kinds.share(packed, hot_ml)


def _midway(folder: Folder, operation: Operation) -> str:
    running = folder.phase(operation) is Phase.RUNNING
    found = folder.standing.midway(operation) if running else None
    return in_units(found.words, folder.units) if found else ""


def _may_repeat(standing: Standing, operation: OperationRow) -> bool:
    """Whether something was heated and has not been filled yet."""
    lots = set(standing.edges[operation.id]["out"])
    waiting = (
        standing.phase(f) is Phase.WAITING
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
    said = any(e.kind == lags.PUT_COLD and e.operation_id == operation.id for e in standing.events)
    waits = any(standing.phase(o) is Phase.WAITING for o in takers)
    wet = any(standing.lots[i].kind in {"juice", "mash"} for i in lots)
    return standing.phase(operation) is Phase.DONE and waits and wet and not said


def _inside(folder: Folder, operation: Operation, minutes: float) -> heat.InsideJar | None:
    """What happens in the slowest jar of a canner load, as thin juice in a bath that boils here."""
    mine = [j.jar_kind for j in folder.jar_rows(operation)]
    if kind(operation.kind).role != "process" or not mine:
        return None
    largest = max((jar_kinds.kind(k) for k in mine), key=lambda k: k.nominal_ml)
    how = heat.heating(largest.nominal_ml, largest.inner_radius_mm, largest.inner_height_mm)
    temps = [r.value for r in folder.standing.counted if r.row.quantity == "temp_c"]
    boiling = folder.kitchen.boiling_point_c
    start = min(temps[-1] if temps else process.FILL_C, boiling)
    return heat.inside_jar(minutes, start, boiling, how)


def _opens_at(standing: Standing, operation: OperationRow) -> datetime | None:
    is_check = kind(operation.kind).role == "check"
    window = standing.seal_window(operation) if is_check else None
    return window[0] if window else None


def _rooms(folder: Folder, fill: Operation) -> dict[str, float]:
    """What a jar of each kind that stands ready is filled with."""
    end = folder.standing.end(fill)
    ready = {*folder.kitchen.ready(end.keep, end.capped), *end.jar_kinds}
    return {kind: folder.standing.room_ml(fill, kind) for kind in ready}


def _stops(folder: Folder, operation: Operation) -> list[Finding]:
    """Stops that stand at a step now, such as a canner waiting for a reading."""
    standing = folder.standing
    if kind(operation.kind).role != "process" or standing.over(operation):
        return []
    kinds = [j.jar_kind for j in folder.jar_rows(operation)]
    planned = [jar["kind"] for jar in folder.batch.predicted["expected"]["jars"]]
    found = standing.tested_time(kinds or planned, standing.fill_of(operation))
    return [told(stop, folder.units) for stop in found.stops]


def _questions(folder: Folder, fill: Operation) -> list[Question]:
    """What only the cook can say of jars; of glasses there is nothing to say."""
    if folder.standing.end(fill).keep == "now":
        return []
    return questions("fill", folder.standing.said, folder.units)


def _asks(folder: Folder, operation: Operation) -> list[Askable]:
    """What may be read at a step with the instruments that this kitchen has."""
    there = set(folder.instruments)
    found = []
    for quantity in kind(operation.kind).asks:
        by = [i for i, (reads, _) in readings.INSTRUMENTS.items() if reads == quantity]
        usable = [i for i in by if i in there or i == "boiling"]
        if usable and (quantity != "depth_cm" or _depth_tells(folder, operation)):
            found.append(_askable(folder, operation, quantity, usable))
    return found


def _depth_tells(folder: Folder, operation: Operation) -> bool:
    """Whether the depth in a pot says something here: how much water, or how much is left."""
    if kind(operation.kind).role == "reduce":
        return folder.kitchen.widest_pot_cm() is not None
    return unmeasured(operation)


def _askable(
    folder: Folder, operation: Operation, quantity: str, instruments: list[str]
) -> Askable:
    what = readings.quantity(quantity)
    lot = folder.standing.lot_of(operation) if quantity in UNITS_OF_LOT else None
    predicted = estimate_of(lot.predicted.get(quantity)) if lot else None
    return Askable(
        quantity, what.name, what.unit, what.lo, what.hi, instruments,
        lot.key if lot else None, predicted,
    )  # fmt: skip


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
    word, words = what.comparison(predicted, reading.value) if predicted else ("", "")
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


def _pan(folder: Folder, operation: Operation, state: StepState) -> PanView | None:
    """The water pan of a running steam load, since its start or its last refill."""
    if kind(operation.kind).role != "steam" or state.phase is not Phase.RUNNING:
        return None
    refills = [
        e.at
        for e in folder.events
        if e.operation_id == operation.id and e.kind == "noted" and e.data.get("what") == "refilled"
    ]
    since = refills[-1] if refills else state.started_at
    if since is None:
        return None
    pan_l, rate = operation.params["pan_l"], operation.params["boil_off_kg_h"]
    dry_at = since + timedelta(minutes=juicing.minutes_to_dry(pan_l, rate))
    return PanView(pan_l, since, dry_at, dry_at - PAN_WARNING)


def lot_view(folder: Folder, lot: Lot) -> LotView:
    """A lot with its newest readings beside its predictions."""
    newest = {q: folder.standing.measured(lot.id, q) for q in ("mass_g", "volume_ml", "brix", "ph")}
    agreement = {}
    for quantity, reading in newest.items():
        predicted = estimate_of(lot.predicted.get(quantity))
        if reading is not None and predicted is not None:
            what = readings.quantity(quantity)
            agreement[quantity] = what.comparison(predicted, reading.value)[1]

    def value(quantity: str) -> float | None:
        reading = newest[quantity]
        return reading.value if reading else None

    return LotView(
        id=lot.id,
        key=lot.key,
        kind=lot.kind,
        name=lot.name,
        material=lot.material,
        predicted=replace(flow_lot(lot), colour=_colour(folder, lot)),
        now_ml=folder.standing.volume_of(lot),
        mass_g=value("mass_g"),
        volume_ml=value("volume_ml"),
        brix=value("brix"),
        ph=value("ph"),
        agreement=agreement,
    )


def _colour(folder: Folder, lot: Lot) -> str:
    """The colour of what a lot holds; that of the batch where it cannot be laid out any more."""
    now = folder.standing.now
    there = now.lots.get(lot.key) if now else None
    return colour.of_lot(there) if there else folder.standing.brief.colour


def flow_lot(lot: Lot) -> FlowLot:
    """A stored lot for the ribbon."""
    predicted: dict[str, Any] = {k: estimate_of(v) for k, v in lot.predicted.items()}
    return FlowLot(lot.key, lot.kind, lot.name, **predicted)


def _flow_operation(folder: Folder, operation: Operation) -> FlowOperation:
    edges = folder.edges[operation.id]
    return FlowOperation(
        key=operation.key,
        kind=operation.kind,
        verb=words(operation, "verb", folder.units),
        title=title(operation, folder.units),
        minutes=Estimate(operation.minutes_lo, operation.minutes, operation.minutes_hi),
        takes=[folder.lots[i].key for i in edges["in"]],
        gives=[folder.lots[i].key for i in edges["out"]],
        step=operation.params.get("step", ""),
        role=kind(operation.kind).role,
        station=kind(operation.kind).station,
        hands=words(operation, "hands", folder.units),
        before=words(operation, "before", folder.units),
        look_for=words(operation, "look_for", folder.units),
    )
