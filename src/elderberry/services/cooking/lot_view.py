"""What a batch holds, lot by lot: its newest readings beside its predictions."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from elderberry.core import colour
from elderberry.core.estimates import Evidence
from elderberry.core.flow.rows import estimate_of
from elderberry.services.cooking.folder import Folder
from elderberry.services.cooking.shown import LotView
from elderberry.services.planning import plan_view
from elderberry.services.planning.plan_view import FlowLot
from elderberry.store import Lot


def of(folder: Folder, lot: Lot) -> LotView:
    """A lot with its newest readings beside its predictions."""
    return folder.once(("lot", lot.id), lambda: _anew(folder, lot))


def _anew(folder: Folder, lot: Lot) -> LotView:
    newest = {q: folder.standing.measured(lot.id, q) for q in ("mass_g", "volume_ml", "brix", "ph")}
    compared = {
        q: folder.standing.compared(lot, q, r.value)[1] for q, r in newest.items() if r is not None
    }

    def value(quantity: str) -> float | None:
        reading = newest[quantity]
        return reading.value if reading else None

    there = folder.standing.lot_now(lot)
    now = plan_view.flow_lot(there) if there else _predicted(lot)
    return LotView(
        id=lot.id,
        key=lot.key,
        kind=lot.kind,
        name=lot.name,
        material=lot.material,
        predicted=replace(_predicted(lot), colour=_colour(folder, lot)),
        now_ml=folder.standing.volume_of(lot),
        now=now,
        known=_known(folder, lot, now, was_read=any(newest.values())),
        mass_g=value("mass_g"),
        volume_ml=value("volume_ml"),
        brix=value("brix"),
        ph=value("ph"),
        agreement={q: words for q, words in compared.items() if words},
    )


def _known(folder: Folder, lot: Lot, now: FlowLot, *, was_read: bool) -> str:
    """How it is known how much of a lot there is, in a word.

    What was weighed before it went in is measured, whatever is known of its make-up; what only
    follows from others is predicted.
    """
    given = next((i for i in folder.brief.inputs if i.key == lot.key), None)
    weighed = given.amount.grams if given else None
    evidence = weighed.evidence if weighed else now.mass_g.evidence
    if was_read or (given and evidence is Evidence.MEASURED):
        return "measured"
    return "read" if evidence is Evidence.READ else "predicted"


def _colour(folder: Folder, lot: Lot) -> str:
    """The colour of what a lot holds; that of the batch where it cannot be laid out any more."""
    now = folder.standing.now
    there = now.lots.get(lot.key) if now else None
    return colour.of_lot(there) if there else folder.standing.brief.colour


def _predicted(lot: Lot) -> FlowLot:
    """A stored lot for the ribbon."""
    predicted: dict[str, Any] = {k: estimate_of(v) for k, v in lot.predicted.items()}
    return FlowLot(lot.key, lot.kind, lot.name, **predicted)
