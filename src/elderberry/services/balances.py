"""Whether the figures of a finished step agree, and which one to look at again if they do not."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from elderberry.core import reconcile
from elderberry.core.batch.lifecycle import Phase
from elderberry.core.errors import CoreError
from elderberry.core.estimates import Z_SPAN, Estimate
from elderberry.core.flow.draft import INSOLUBLE_SHARE
from elderberry.core.reconcile import Measurement, Quantity, Reconciled, Side
from elderberry.services.plan_view import estimate_from
from elderberry.services.views import BalanceView
from elderberry.store import Lot, Operation

if TYPE_CHECKING:
    from elderberry.services.folder import Folder

AMOUNTS: tuple[Quantity, ...] = ("mass_g", "volume_ml")
SMALL_SHARE = 0.10
"""Lots that nobody measured may make up this much of a step whose loss is still called known."""
WORTH_SAYING_SHARE = 0.03
LEAST_ERROR_SHARE = 0.01
NAMES = {"mass_g": "the weight", "volume_ml": "the litres", "brix": "the sweetness"}


def of_step(folder: Folder, operation: Operation) -> BalanceView | None:
    """The balance of a finished step; None where too little was measured to tell."""
    edges = folder.edges[operation.id]
    outs = [folder.lots[i] for i in edges["out"]]
    if folder.phase(operation) is not Phase.DONE or not any(_measured(folder, o) for o in outs):
        return None
    ins = [folder.lots[i] for i in edges["in"]]
    if any(lot.kind == "added" for lot in ins):
        return None
    measurements = [m for lot in ins for m in _of_lot(folder, lot, "in")]
    measurements += [m for lot in outs for m in _of_lot(folder, lot, "out")]
    try:
        found = reconcile.reconcile(measurements)
    except CoreError:
        return None
    return _view(folder, found, ins, outs)


def _view(folder: Folder, found: Reconciled, ins: list[Lot], outs: list[Lot]) -> BalanceView:
    went_in = sum(_mass(folder, lot).typ for lot in ins)
    open_g = sum(_mass(folder, lot).typ for lot in outs if not _measured(folder, lot))
    told = open_g <= SMALL_SHARE * went_in
    unexplained = found.unexplained_g if told else 0.0
    if abs(unexplained) < WORTH_SAYING_SHARE * went_in:
        unexplained = 0.0
    suspect = found.suspect
    if suspect is None:
        words = f"{unexplained / 1000:.1f} kg unaccounted for" if unexplained > 0 else ""
        return BalanceView(True, unexplained / 1000, words, None, None)
    lot = next((o for o in (*ins, *outs) if o.key == suspect.lot), None)
    reading = folder.measured(lot.id, suspect.quantity) if lot else None
    name = lot.name.lower() if lot else suspect.lot
    rather = None if found.rather is None else round(found.rather, 3)
    words = (
        f"These figures do not agree with each other. The one to look at again is "
        f"{NAMES[suspect.quantity]} of {name}: {_say(suspect.quantity, suspect.measured)} was "
        f"read, and the others say about {_say(suspect.quantity, found.rather or 0.0)}."
    )
    return BalanceView(False, unexplained / 1000, words, reading.id if reading else None, rather)


def _say(quantity: Quantity, value: float) -> str:
    units = {"mass_g": ("kg", 1000.0), "volume_ml": ("l", 1000.0), "brix": ("°Bx", 1.0)}
    unit, scale = units[quantity]
    return f"{value / scale:.1f} {unit}"


def _measured(folder: Folder, lot: Lot) -> bool:
    """Whether somebody read how much of it there is."""
    return any(folder.measured(lot.id, quantity) for quantity in AMOUNTS)


def _mass(folder: Folder, lot: Lot) -> Estimate:
    """What goes through this step of a lot [g]: its share, where several loads take of it."""
    predicted = estimate_from(lot.predicted["mass_g"])
    assert predicted is not None  # every lot was stored with its mass
    takers = sum(lot.id in e["in"] for e in folder.edges.values())
    return predicted.scaled(folder.known[lot.id].multiple / max(1, takers))


def _of_lot(folder: Folder, lot: Lot, side: Side) -> Iterator[Measurement]:
    """What is known of a lot: what was read, else its prediction as something assumed."""
    measured = _measured(folder, lot)
    mass = _mass(folder, lot)
    if lot.id == folder.batch.fruit_lot_id and not measured:
        yield Measurement(lot.key, side, "mass_g", mass.typ)
    elif not measured:
        error = max((mass.hi - mass.lo) / Z_SPAN, LEAST_ERROR_SHARE * mass.typ, 1.0)
        yield Measurement(lot.key, side, "mass_g", mass.typ, error, assumed=True)
    for quantity in (*AMOUNTS, "brix"):
        reading = folder.measured(lot.id, quantity)
        if reading is not None:
            yield Measurement(lot.key, side, quantity, reading.value)
    if folder.measured(lot.id, "brix") is None:
        yield from _assumed_brix(lot, side)


def _assumed_brix(lot: Lot, side: Side) -> Iterator[Measurement]:
    """Soluble share of what nobody read: none in water, the fruit's own in fruit."""
    if lot.kind in {"steam", "water"}:
        yield Measurement(lot.key, side, "brix", 0.0, 0.05, assumed=True)
    predicted = estimate_from(lot.predicted.get("brix"))
    if predicted is None or lot.kind not in {"fruit", "juice"}:
        return
    dry = 1.0 - INSOLUBLE_SHARE if lot.kind == "fruit" else 1.0
    error = max(0.3, (predicted.hi - predicted.lo) / Z_SPAN)
    yield Measurement(lot.key, side, "brix", dry * predicted.typ, error, assumed=True)
