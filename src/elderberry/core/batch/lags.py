"""How long things may wait: from the heat to the jars, from the jars to the canner, and warm."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime, timedelta

from elderberry.core.batch.lifecycle import Phase
from elderberry.core.batch.rows import JarRow, LotRow, OperationRow
from elderberry.core.batch.standing import Standing
from elderberry.core.drying.dried import BRITTLE, moisture
from elderberry.core.drying.freeze_dry import gain_pct, minutes_open
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
    """How long a lot has stood between 5 and 60 °C, with what it was made of [h].

    What is dry grows nothing, however long it stands; fruit that is neither cut nor heated waits as
    long as fresh fruit does.
    """
    maker = standing.makers.get(lot.id)
    if maker is None or lot.kind == "dried":
        return 0.0
    state = standing.states[maker.id]
    if state.finished_at is None or _is_cold(standing, maker) or _is_fresh(standing, lot):
        return 0.0
    ended = _put_cold_at(standing, maker) or now
    what = kind(maker.kind)
    began = state.finished_at
    if what.waits and state.started_at is not None:
        began = state.started_at
    if what.heats or what.role == "steam":
        began = state.finished_at
    return max(0.0, (min(ended, now) - began).total_seconds() / 3600.0)


def _is_fresh(standing: Standing, lot: LotRow) -> bool:
    """Whether a lot is fruit as it was picked."""
    now = standing.lot_now(lot) if lot.kind == "fruit" else None
    if now is None:
        return False
    return all(
        (held.form or source.form) == "whole" and held.hottest_c <= FRESH_C
        for source, held in now.origins.items()
    )


FRESH_C = 40.0
"""Hotter than this no fruit is as it was picked [°C]."""


def _is_cold(standing: Standing, operation: OperationRow) -> bool:
    station = standing.stations.get(operation.station_id or 0, kind(operation.kind).station)
    return station in COLD_STATIONS or operation.params.get("stands") == "cold"


def _put_cold_at(standing: Standing, operation: OperationRow) -> datetime | None:
    """When what a step gave was put into the refrigerator, as it was said at the time."""
    return next((e.at for e in standing.happened(operation, PUT_COLD)), None)


def standing_warm(standing: Standing, operation: OperationRow, now: datetime) -> Iterator[Finding]:
    """What a step works on has not stood warm too long; a caution before it has."""
    if standing.phase(operation) is not Phase.WAITING or kind(operation.kind).follows:
        return
    for lot_id in standing.edges[operation.id]["in"]:
        lot = standing.lots[lot_id]
        hours = warm_hours(standing, lot, now)
        if hours <= 0.0:
            continue
        low = is_low_acid(standing, lot)
        most, say = (LOW_ACID_HOURS, LOW_ACID_SAY_HOURS) if low else (SOUR_HOURS, SOUR_SAY_HOURS)
        figures = {"hours": f"{hours:.0f}", "most": f"{most:g}"}
        if hours > most:
            yield rule("stood-warm-too-long").finding(operation.kind, **figures)
        elif hours > say:
            yield rule("stands-warm").finding(operation.kind, **figures)


def lies_open(standing: Standing, operation: OperationRow) -> tuple[datetime, datetime] | None:
    """Since when what a step works on lies open after the freeze dryer, and until when it may.

    Source: drying.freeze_dry.minutes_open, by the humidity of the kitchen.
    """
    if standing.phase(operation) is not Phase.WAITING:
        return None
    for lot_id in standing.edges[operation.id]["in"]:
        lot = standing.lot_now(standing.lots[lot_id])
        maker = standing.makers.get(lot_id)
        over = standing.states[maker.id].finished_at if maker else None
        if lot is None or over is None or not lot.dried:
            continue
        minutes = minutes_open(standing.kitchen.humidity_pct)
        if moisture(lot.composition.first()) <= BRITTLE and minutes < A_DAY_MIN:
            return over, over + timedelta(minutes=minutes)
    return None


A_DAY_MIN = 1440.0


def taken_up(standing: Standing, operation: OperationRow, now: datetime) -> Iterator[Finding]:
    """Powder that lay open longer than the air of the room allows."""
    found = lies_open(standing, operation)
    if found is None or now <= found[1]:
        return
    minutes = (now - found[0]).total_seconds() / 60.0
    gained = min(gain_pct(standing.kitchen.humidity_pct, minutes), MOST_GAINED_PCT)
    figures = {"minutes": f"{minutes:.0f}", "gained": f"{gained:.0f}"}
    yield rule("powder-lay-open").finding(operation.kind, **figures)


MOST_GAINED_PCT = 15.0
"""What powder takes up at most before it is in balance with a usual room [%]."""


def is_low_acid(standing: Standing, lot: LotRow) -> bool:
    """Whether a lot's pH may pass 4.6, or nobody can tell."""
    now = standing.lot_now(lot)
    return now is None or low_acid(Contents(now), standing.kitchen.alkalinity_mg_l is not None)
