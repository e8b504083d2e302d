"""Which station a step takes: its own, or another one of its kind that is free."""

from __future__ import annotations

from dataclasses import dataclass

from elderberry.core.batch.under_way import EXCLUSIVE
from elderberry.services.cooking.folder import Folder, title
from elderberry.services.household import kitchens
from elderberry.store import Operation, Station, queries


@dataclass(frozen=True)
class Place:
    """Where a step would stand: a free station, or what keeps the only ones busy.

    station: the one it would take; its own where it needs none to itself. busy: in words, why there
    is none.
    """

    station: Station | None
    busy: str = ""


def found(folder: Folder, operation: Operation) -> Place:
    """The station that a step would take now."""
    own = folder.stations.get(operation.station_id or 0)
    if own is None or own.kind not in EXCLUSIVE:
        return Place(own)
    busy = [
        other
        for other in queries.operations_in_use(folder.orm, folder.who.household_id)
        if other.id != operation.id
    ]
    in_use = {other.station_id: other for other in busy}
    mine = all(o.batch_id == folder.batch.id for o in busy if o.station_id == own.id)
    if own.id not in in_use or (mine and folder.standing.fits_beside(operation)):
        return Place(own)
    alike = [s for s in kitchens.stations(folder.orm, folder.who) if s.kind == own.kind]
    left = [s for s in alike if s.id not in in_use]
    free = min(left, key=lambda s: s.heater != own.heater, default=None)
    if free is not None:
        return Place(free)
    return Place(None, f"{own.name} is still busy with: {title(in_use[own.id], folder.units)}.")
