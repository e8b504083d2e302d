"""Whether the figures of a finished step agree, and which one to look at again if they do not."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from elderberry.core import reconcile
from elderberry.core.batch.lifecycle import Phase
from elderberry.core.errors import CoreError
from elderberry.core.estimates import Z_SPAN, Estimate
from elderberry.core.flow.inputs import INSOLUBLE_SHARE
from elderberry.core.flow.rows import estimate_of
from elderberry.core.reconcile import TIE, Adjustment, Measurement, Quantity, Reconciled, Side
from elderberry.services.cooking.folder import Folder
from elderberry.services.cooking.step_shown import BalanceView
from elderberry.store import Lot, Operation

AMOUNTS: tuple[Quantity, ...] = ("mass_g", "volume_ml")
SMALL_SHARE = 0.10
"""Lots that nobody measured may make up this much of a step whose loss is still called known."""
WORTH_SAYING_SHARE = 0.03
LEAST_ERROR_SHARE = 0.01
FEWEST_READINGS = 2
"""One reading beyond a forecast is news; only figures that were read can disagree, be it those
of another load of the same fruit."""
NAMES = {"mass_g": "the weight", "volume_ml": "the litres", "brix": "the sweetness"}


def of_step(folder: Folder, operation: Operation) -> BalanceView | None:
    """The balance of a finished step; None where too little was measured to tell."""
    return folder.once(("balance", operation.id), lambda: _of_step(folder, operation))


def _of_step(folder: Folder, operation: Operation) -> BalanceView | None:
    edges = folder.edges[operation.id]
    outs = [folder.lots[i] for i in edges["out"]]
    ins = [folder.lots[i] for i in edges["in"]]
    if folder.phase(operation) is not Phase.DONE or not any(_measured(folder, o) for o in outs):
        return None
    added = any(lot.kind == "added" for lot in ins)
    read = _readings(folder, [*ins, *outs, *_of_other_loads(folder, operation)])
    if added or read < FEWEST_READINGS:
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
    if found.suspect is None:
        words = f"{unexplained / 1000:.1f} kg unaccounted for" if unexplained > 0 else ""
        return BalanceView(True, unexplained / 1000, words, None, None)
    lots = {lot.key: lot for lot in (*ins, *outs)}
    suspects = _suspects(folder, found, lots)
    first = next((a for a in suspects if _still_there(folder, lots[a.lot])), suspects[0])
    reading = folder.standing.measured(lots[first.lot].id, first.quantity)
    is_most = first == found.suspect and found.rather is not None
    rather = found.rather if is_most else first.consistent
    words = "These figures do not agree with each other. "
    words += _look_again(suspects, first, lots, rather or 0.0)
    return BalanceView(
        False, unexplained / 1000, words, reading.id if reading else None,
        round(rather or 0.0, 3),
    )  # fmt: skip


def _suspects(folder: Folder, found: Reconciled, lots: dict[str, Lot]) -> list[Adjustment]:
    """Every figure that was read and would explain it as well as the most suspect one."""
    most = max(abs(a.normalised) for a in found.adjustments)
    return [
        a
        for a in found.adjustments
        if abs(a.normalised) >= TIE * most
        and a.lot in lots
        and folder.standing.measured(lots[a.lot].id, a.quantity)
    ] or [found.suspect]  # type: ignore[list-item]


def _still_there(folder: Folder, lot: Lot) -> bool:
    """Whether a lot has not gone into a later step yet, so that it can be measured again."""
    takers = [o for o in folder.operations if lot.id in folder.edges[o.id]["in"]]
    return all(folder.phase(o) is Phase.WAITING for o in takers)


def _look_again(
    suspects: list[Adjustment], first: Adjustment, lots: dict[str, Lot], rather: float
) -> str:
    """Which figures to look at again, and what the others say of the first of them."""
    name = lots[first.lot].name.lower()
    said = (
        f"{NAMES[first.quantity]} of {name}: {_say(first.quantity, first.measured)} was read, "
        f"and the others say about {_say(first.quantity, rather)}."
    )
    others = [
        f"{NAMES[a.quantity]} of {lots[a.lot].name.lower()}" for a in suspects if a is not first
    ]
    if not others:
        return f"The one to look at again is {said}"
    return f"It may be {said} Or {' or '.join(others)} is off."


def _of_other_loads(folder: Folder, operation: Operation) -> Iterator[Lot]:
    """What the other loads of the same step gave: what they read speaks of this one too."""
    step = operation.params.get("step")
    for other in folder.operations:
        if step and other is not operation and other.params.get("step") == step:
            yield from (folder.lots[i] for i in folder.edges[other.id]["out"])


def _readings(folder: Folder, lots: Iterable[Lot]) -> int:
    """How many figures were read of some lots."""
    standing = folder.standing
    return sum(
        standing.measured(lot.id, quantity) is not None
        for lot in lots
        for quantity in (*AMOUNTS, "brix")
    )


def _say(quantity: Quantity, value: float) -> str:
    units = {"mass_g": ("kg", 1000.0), "volume_ml": ("l", 1000.0), "brix": ("°Bx", 1.0)}
    unit, scale = units[quantity]
    return f"{value / scale:.1f} {unit}"


def _measured(folder: Folder, lot: Lot) -> bool:
    """Whether somebody read how much of it there is."""
    return any(folder.standing.measured(lot.id, quantity) for quantity in AMOUNTS)


def _mass(folder: Folder, lot: Lot) -> Estimate:
    """What goes through this step of a lot [g]: its share, where several loads take of it."""
    predicted = estimate_of(lot.predicted["mass_g"])
    assert predicted is not None  # every lot was stored with its mass
    takers = sum(lot.id in e["in"] for e in folder.edges.values())
    now = folder.standing.figure_now(lot, "mass_g")
    multiple = now.typ / predicted.typ if predicted.typ > 0 else 1.0
    return predicted.scaled(multiple / max(1, takers))


def _of_lot(folder: Folder, lot: Lot, side: Side) -> Iterator[Measurement]:
    """What is known of a lot: what was read, else its prediction as something assumed."""
    measured = _measured(folder, lot)
    mass = _mass(folder, lot)
    if lot.key in folder.brief.kinds and not measured:
        yield Measurement(lot.key, side, "mass_g", mass.typ)
    elif not measured:
        error = max((mass.hi - mass.lo) / Z_SPAN, LEAST_ERROR_SHARE * mass.typ, 1.0)
        yield Measurement(lot.key, side, "mass_g", mass.typ, error, assumed=True)
    for quantity in (*AMOUNTS, "brix"):
        reading = folder.standing.measured(lot.id, quantity)
        if reading is not None:
            yield Measurement(lot.key, side, quantity, reading.value)
    if folder.standing.measured(lot.id, "brix") is None:
        yield from _assumed_brix(lot, side)


def _assumed_brix(lot: Lot, side: Side) -> Iterator[Measurement]:
    """Soluble share of what nobody read: none in water, the fruit's own in fruit."""
    if lot.kind in {"steam", "water"}:
        yield Measurement(lot.key, side, "brix", 0.0, 0.05, assumed=True)
    predicted = estimate_of(lot.predicted.get("brix"))
    if predicted is None or lot.kind not in {"fruit", "juice"}:
        return
    dry = 1.0 - INSOLUBLE_SHARE if lot.kind == "fruit" else 1.0
    error = max(0.3, (predicted.hi - predicted.lo) / Z_SPAN)
    yield Measurement(lot.key, side, "brix", dry * predicted.typ, error, assumed=True)
