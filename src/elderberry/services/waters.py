"""Water that nobody measured: inferred from the depth of a pot or from how thin the liquor is."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from elderberry.core import juicing
from elderberry.core.errors import CoreError
from elderberry.core.estimates import Estimate, Evidence

if TYPE_CHECKING:
    from elderberry.core.kitchen import Kitchen
    from elderberry.services.folder import Folder
    from elderberry.store import Operation, Reading

POT_CM = 24.0
"""Inner width of a pot when the kitchen's list does not tell [cm]."""


@dataclass(frozen=True)
class WaterView:
    """Water of a step [L]: planned, or inferred, and from what."""

    litres: Estimate
    inferred_from: str


def of_step(folder: Folder, operation: Operation) -> WaterView | None:
    """The water of a step as it is known now; None where none is added."""
    planned = operation.params.get("water_range_ml")
    if not planned or planned[1] <= 0:
        return None
    low, high = planned
    typical = float(operation.params["water_ml"])
    known = Evidence(operation.params["water_known"])
    plan = Estimate(low / 1000, typical / 1000, high / 1000, known)
    if not unmeasured(operation):
        return WaterView(plan, "")
    inferred = by_depth(folder.readings, operation, folder.kitchen) or _by_brix(folder, operation)
    return inferred or WaterView(plan, "the packing of the fruit")


def unmeasured(operation: Operation) -> bool:
    """Whether a step holds water that nobody measured, so that a pot's depth would tell."""
    return operation.params.get("water_known") == Evidence.READ.value


def by_depth(
    readings: Iterable[Reading], operation: Operation, kitchen: Kitchen
) -> WaterView | None:
    """Water by the newest depth read in the pot of a step."""
    depths = [
        r.value for r in readings if r.operation_id == operation.id and r.quantity == "depth_cm"
    ]
    if not depths:
        return None
    kg = float(operation.params["fruit_kg"])
    try:
        litres = juicing.water_from_depth_l(depths[-1], kitchen.widest_pot_cm() or POT_CM, kg)
    except CoreError:
        return None
    return WaterView(litres, "the depth in the pot")


def _by_brix(folder: Folder, operation: Operation) -> WaterView | None:
    """Water by the sweetness of the liquor, where the fruit's own is known or typical."""
    lots = [folder.lots[i] for i in folder.edges[operation.id]["out"]]
    read = next(
        (
            r
            for lot in lots
            if lot.kind in {"juice", "mash"} and (r := folder.measured(lot.id, "brix"))
        ),
        None,
    )
    fruit = folder.lots[folder.edges[operation.id]["in"][0]]
    own = fruit.predicted.get("brix")
    if read is None or own is None or folder.batch.load.get("form") == "dried":
        return None
    kg = float(operation.params["fruit_kg"]) * 0.9
    try:
        litres = juicing.water_from_brix_l(
            Estimate(own["lo"], own["typ"], own["hi"]), kg, read.value
        )
    except CoreError:
        return None
    return WaterView(litres, "the sweetness of the liquor")


def beyond_g(readings: Iterable[Reading], operation: Operation, kitchen: Kitchen) -> float:
    """Water beyond what a step was planned with, where the pot's depth says so [g]."""
    if not unmeasured(operation):
        return 0.0
    found = by_depth(readings, operation, kitchen)
    return 1000.0 * found.litres.typ - float(operation.params["water_ml"]) if found else 0.0
