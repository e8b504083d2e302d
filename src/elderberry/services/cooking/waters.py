"""Water that nobody measured: inferred from the depth of a pot or from how thin the liquor is."""

from __future__ import annotations

from elderberry.core import juicing
from elderberry.core.batch.pots import unmeasured
from elderberry.core.batch.rows import OperationRow
from elderberry.core.batch.standing import Standing
from elderberry.core.errors import CoreError
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.flow.rows import estimate_of
from elderberry.services.cooking.step_shown import WaterView

JUICE_SHARE = 0.9
"""Juice of its own in fruit [g/g]."""


def of_step(standing: Standing, operation: OperationRow) -> WaterView | None:
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
    by_depth = standing.water_by_depth(operation)
    if by_depth is not None:
        return WaterView(by_depth, "the depth in the pot")
    by_brix = _by_brix(standing, operation)
    if by_brix is not None:
        return WaterView(by_brix, "the sweetness of the liquor")
    return WaterView(plan, "the packing of the fruit")


def _by_brix(standing: Standing, operation: OperationRow) -> Estimate | None:
    """Water by the sweetness of the liquor, where the fruit's own is known or typical [L]."""
    edges = standing.edges[operation.id]
    lots = [standing.lots[i] for i in edges["out"]]
    wet = (lot for lot in lots if lot.kind in {"juice", "mash"})
    read = next((r for lot in wet if (r := standing.measured(lot.id, "brix"))), None)
    own = estimate_of(standing.lots[edges["in"][0]].predicted.get("brix"))
    if read is None or own is None or standing.brief.main.shape.leaves_as == "dried":
        return None
    kg = float(operation.params["fruit_kg"]) * JUICE_SHARE
    try:
        return juicing.water_from_brix_l(own, kg, read.value)
    except CoreError:
        return None
