"""A step at a glance: what Today, the hob, the stove and the calendar say of it.

The rail is on every screen: nothing is asked for here that would lay the batch out anew.
"""

from __future__ import annotations

from datetime import datetime, timedelta

from elderberry.core import juicing
from elderberry.core.batch import readings
from elderberry.core.batch.lifecycle import OPEN, Phase, StepState
from elderberry.core.batch.pots import unmeasured
from elderberry.core.batch.rows import OperationRow
from elderberry.core.batch.standing import Standing, words
from elderberry.core.flow.kinds import kind
from elderberry.core.flow.rows import estimate_of
from elderberry.services.cooking import drying_view
from elderberry.services.cooking.folder import Folder
from elderberry.services.cooking.step_shown import Askable, PanView, StationView, StepGlance
from elderberry.store import Operation

PAN_WARNING = timedelta(minutes=10)
UNITS_OF_LOT = {"volume_ml", "brix", "ph", "mass_g"}


def at(folder: Folder, operation: Operation) -> StepGlance:
    """One step at a glance."""
    standing, what = folder.standing, kind(operation.kind)
    state, shown = standing.states[operation.id], standing.shown(operation)
    waits = standing.waits_for(operation)
    station = folder.stations.get(operation.station_id or 0)
    asks = _asks(folder, operation)
    return StepGlance(
        id=operation.id,
        key=operation.key,
        kind=operation.kind,
        role=what.role,
        title=words(shown, "title", folder.units),
        station=StationView(station.id, station.name, station.kind) if station else None,
        phase=state.phase,
        ready=state.phase is Phase.WAITING and waits is None,
        waits_for=words(waits, "title", folder.units) if waits else "",
        press=_press(standing, operation, bool(asks)),
        says=_says(operation, bool(asks)),
        asks=asks,
        idle=what.role == "fill" and standing.idle(operation),
        opens_at=_opens_at(standing, operation),
        before=words(shown, "before", folder.units),
        look_for=words(shown, "look_for", folder.units),
        then=words(shown, "then", folder.units),
        clock_from=state.clock_from,
        due_at=state.due_at,
        counts_from_boil=bool(what.boil),
        holds_boil=what.boil == "holds",
        boils_lost=state.boils_lost,
        pan=_pan(folder, operation, state),
        trays=drying_view.trays(folder, operation),
        shakes=drying_view.shakes(folder, operation),
        jar_ids=standing.jar_ids(operation),
    )


def _press(standing: Standing, operation: OperationRow, asks: bool) -> str:
    """What the next press at a step is; asks: whether something may be read when it is done."""
    state, what = standing.states[operation.id], kind(operation.kind)
    waiting = state.phase is Phase.WAITING
    if (
        what.role == "cool"
        or state.phase not in OPEN
        or (waiting and standing.waits_for(operation))
    ):
        return ""
    if what.role in {"check", "caramel"}:
        return "say"
    if waiting and (what.timed or what.role == "heat"):
        return "start"
    if what.boil and not waiting and state.clock_from is None:
        return "boil-reached"
    return "say" if _says(operation, asks) else "finish"


def _says(operation: OperationRow, asks: bool) -> bool:
    """Whether finishing a step asks for more than a press: jars, or what may be read."""
    what = kind(operation.kind)
    return what.role == "fill" or (asks and what.boil != "holds")


def _opens_at(standing: Standing, operation: OperationRow) -> datetime | None:
    is_check = kind(operation.kind).role == "check"
    window = standing.seal_window(operation) if is_check else None
    return window[0] if window else None


def _asks(folder: Folder, operation: Operation) -> list[Askable]:
    """What may be read at a step with the instruments that this kitchen has."""
    found = []
    for quantity in kind(operation.kind).asks:
        usable = readings.usable(quantity, folder.instruments)
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


def _pan(folder: Folder, operation: Operation, state: StepState) -> PanView | None:
    """The water pan of a running steam load, since its start or its last refill."""
    if kind(operation.kind).role != "steam" or state.phase is not Phase.RUNNING:
        return None
    noted = folder.standing.happened(operation, "noted")
    refills = [e.at for e in noted if e.data.get("what") == "refilled"]
    since = refills[-1] if refills else state.started_at
    if since is None:
        return None
    pan_l, rate = operation.params["pan_l"], operation.params["boil_off_kg_h"]
    dry_at = since + timedelta(minutes=juicing.minutes_to_dry(pan_l, rate))
    return PanView(pan_l, since, dry_at, dry_at - PAN_WARNING)
