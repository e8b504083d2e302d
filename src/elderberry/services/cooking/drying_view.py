"""Drying as Cook shows it: what waits warm or open, the trays, and the jars that are shaken."""

from __future__ import annotations

from datetime import datetime

from elderberry.core import colour
from elderberry.core.batch import lags
from elderberry.core.findings import Finding, Level
from elderberry.core.flow.kinds import kind
from elderberry.services.cooking.folder import Folder
from elderberry.services.cooking.step_shown import ShakesView
from elderberry.services.household import kitchens
from elderberry.services.planning.trays import TraysView, trays_view
from elderberry.store import Operation


def stands(folder: Folder, operation: Operation) -> list[Finding]:
    """What to mind of what waits for a step: warm for hours, or open to the air of the room."""
    standing, now = folder.standing, folder.at
    found = (
        *lags.standing_warm(standing, operation, now), *lags.taken_up(standing, operation, now)
    )  # fmt: skip
    return [f for f in found if f.level is Level.CAUTION]


def lies_open_until(folder: Folder, operation: Operation) -> datetime | None:
    """Until when what a step works on may lie open to the air of the room."""
    found = lags.lies_open(folder.standing, operation)
    return found[1] if found else None


def trays(folder: Folder, operation: Operation) -> TraysView | None:
    """The trays of a drying step, and how far they have come."""
    found, state = folder.standing.drying(operation), folder.standing.states[operation.id]
    if found is None:
        return None
    lot = folder.lots[folder.edges[operation.id]["in"][0]]
    wet = folder.standing.lot_now(lot)
    until = state.finished_at or folder.at
    after = (until - state.started_at).total_seconds() / 3600.0 if state.started_at else 0.0
    return trays_view(
        operation.key, kind(operation.kind).role, operation.params, found, lot.name,
        colour.of_lot(wet) if wet else folder.brief.colour, after,
    )  # fmt: skip


SHAKEN = "shaken"
"""Noted at a step whose jars are shaken every day."""


def shaken_words(folder: Folder) -> str:
    """What is to be done with jars of a week of evening out."""
    return f"Shake the jars of {folder.batch.title.split(', from')[0].lower()}"


def shakes(folder: Folder, operation: Operation) -> ShakesView | None:
    """On how many days the jars of a week of evening out were shaken."""
    if kind(operation.kind).role != "condition":
        return None
    zone = kitchens.zone(folder.orm, folder.who)
    days = {
        e.at.astimezone(zone).date()
        for e in folder.standing.happened(operation)
        if e.data.get("what") == SHAKEN
    }
    today = folder.at.astimezone(zone).date()
    return ShakesView(len(days), int(operation.params["days"]), today in days)
