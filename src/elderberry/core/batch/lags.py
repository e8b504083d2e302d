"""How long things may wait: from the heat to the jars, from the jars to the canner, and warm."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime, timedelta

from elderberry.core.batch.lifecycle import Phase
from elderberry.core.batch.rows import JarRow, LotRow, OperationRow
from elderberry.core.batch.standing import Standing
from elderberry.core.findings import Finding
from elderberry.core.flow.kinds import kind
from elderberry.core.process import Contents
from elderberry.core.process.edge import low_acid
from elderberry.core.rules import rule

HEATED_TO_FILLED = timedelta(minutes=30)
FILLED_TO_CANNER = timedelta(minutes=60)
AGAIN_WITHIN = timedelta(hours=24)
"""Of coming out of the canner, a jar whose seal failed has begun its second process."""
LOW_ACID_HOURS, LOW_ACID_SAY_HOURS = 4.0, 2.0
SOUR_HOURS, SOUR_SAY_HOURS = 24.0, 4.0
COLD_STATIONS = frozenset({"fridge", "freezer"})
PUT_COLD = "put_cold"


def before_filling(standing: Standing, fill: OperationRow, now: datetime) -> Iterator[Finding]:
    """What was heated is filled within half an hour, or heated again."""
    lots = set(standing.edges[fill.id]["in"])
    for heat in standing.of_role("heat"):
        over = standing.states[heat.id].finished_at
        if over is None or not lots & set(standing.edges[heat.id]["out"]):
            continue
        if now - over > HEATED_TO_FILLED:
            minutes = f"{(now - over).total_seconds() / 60:.0f}"
            yield rule("cooled-since-heating").finding("fill", minutes=minutes)


def before_canner(jars: list[JarRow], now: datetime) -> Iterator[Finding]:
    """Jars that are filled hot are in the canner within the hour."""
    since = [now - j.filled_at for j in jars]
    longest = max(since, default=timedelta(0))
    if longest > FILLED_TO_CANNER:
        minutes = f"{longest.total_seconds() / 60:.0f}"
        yield rule("stood-before-canner").finding("process", minutes=minutes)


def warm_hours(standing: Standing, lot: LotRow, now: datetime) -> float:
    """How long a lot has stood between 5 and 60 °C, with what it was made of [h]."""
    maker = next((o for o in standing.operations if lot.id in standing.edges[o.id]["out"]), None)
    if maker is None:
        return 0.0
    state = standing.states[maker.id]
    if state.finished_at is None or _is_cold(standing, maker):
        return 0.0
    ended = _put_cold_at(standing, maker) or now
    what = kind(maker.kind)
    began = state.finished_at
    if what.waits and state.started_at is not None:
        began = state.started_at
    if what.heats or what.role == "steam":
        began = state.finished_at
    return max(0.0, (min(ended, now) - began).total_seconds() / 3600.0)


def _is_cold(standing: Standing, operation: OperationRow) -> bool:
    station = standing.stations.get(operation.station_id or 0, kind(operation.kind).station)
    return station in COLD_STATIONS or operation.params.get("stands") == "cold"


def _put_cold_at(standing: Standing, operation: OperationRow) -> datetime | None:
    """When what a step gave was put into the refrigerator, as it was said at the time."""
    for event in standing.events:
        if event.operation_id == operation.id and event.kind == PUT_COLD:
            return event.at
    return None


def standing_warm(standing: Standing, operation: OperationRow, now: datetime) -> Iterator[Finding]:
    """What a step works on has not stood warm too long; a caution before it has."""
    if standing.phase(operation) is not Phase.WAITING or kind(operation.kind).follows:
        return
    for lot_id in standing.edges[operation.id]["in"]:
        lot = standing.lots[lot_id]
        hours = warm_hours(standing, lot, now)
        low = is_low_acid(standing, lot)
        most, say = (LOW_ACID_HOURS, LOW_ACID_SAY_HOURS) if low else (SOUR_HOURS, SOUR_SAY_HOURS)
        figures = {"hours": f"{hours:.0f}", "most": f"{most:g}"}
        if hours > most:
            yield rule("stood-warm-too-long").finding(operation.kind, **figures)
        elif hours > say:
            yield rule("stands-warm").finding(operation.kind, **figures)


def is_low_acid(standing: Standing, lot: LotRow) -> bool:
    """Whether a lot's pH may pass 4.6, or nobody can tell."""
    now = standing.lot_now(lot)
    return now is None or low_acid(Contents(now), standing.kitchen.alkalinity_mg_l is not None)
