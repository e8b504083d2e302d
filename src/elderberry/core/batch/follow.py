"""Following a batch: what its readings make of the figures that were predicted.

Every lot is known as a multiple of its prediction. A reading fixes the multiple; a lot that nobody
read takes that of what it came from, so one jug read at the steamer moves every jar after it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from elderberry.core.estimates import Estimate, Evidence, weakest


@dataclass(frozen=True)
class Made:
    """An operation that has been planned: the lots it takes and gives, by any key."""

    takes: Sequence[int]
    gives: Sequence[int]
    added_g: float = 0.0
    """What its first lot holds beyond the prediction, such as water that was more [g]."""


@dataclass(frozen=True)
class Known:
    """A lot as it is known now: multiple of its prediction, and how well."""

    multiple: float
    evidence: Evidence


def follow(
    operations: Sequence[Made],
    predicted_g: Mapping[int, Estimate],
    read: Mapping[int, float],
) -> dict[int, Known]:
    """Every lot as a multiple of its prediction, in the order of the flow.

    Args:
        operations: in their order.
        predicted_g: what each lot was expected to weigh [g].
        read: lots that were read, as multiples of their prediction.

    Source: proportion; a lot is mixed evenly.

    >>> expected = {1: Estimate(900, 1000, 1100), 2: Estimate(450, 500, 550)}
    >>> follow([Made([1], [2])], expected, {1: 1.2})[2].multiple
    1.2
    """
    known: dict[int, Known] = {}

    def of(lot: int) -> Known:
        if lot in read:
            return Known(read[lot], Evidence.MEASURED)
        return known.get(lot, Known(1.0, predicted_g[lot].evidence))

    for operation in operations:
        expected = sum(predicted_g[lot].typ for lot in operation.takes)
        there = sum(predicted_g[lot].typ * of(lot).multiple for lot in operation.takes)
        multiple = there / expected if expected > 0 else 1.0
        grades = [of(lot).evidence for lot in operation.takes] or [Evidence.TYPICAL]
        for place, lot in enumerate(operation.gives):
            beyond = operation.added_g / max(predicted_g[lot].typ, 1e-9) if place == 0 else 0.0
            found = Known(max(0.0, multiple + beyond), weakest(*grades))
            known[lot] = of(lot) if lot in read else found
    return {lot: of(lot) for lot in predicted_g}


def now(predicted: Estimate, known: Known, spread_share: float) -> Estimate:
    """A predicted figure as it is known now: a read one is tight, any other keeps its range.

    Args:
        predicted: what was expected.
        known: the lot as it is known.
        spread_share: half-width of the instrument's 80 % range, as a share of the reading [-].

    >>> now(Estimate(2, 3, 4), Known(0.9, Evidence.MEASURED), 0.03).hi
    2.781
    """
    scaled = predicted.scaled(known.multiple)
    if known.evidence is Evidence.MEASURED:
        half = spread_share * scaled.typ
        return Estimate(scaled.typ - half, scaled.typ, scaled.typ + half, Evidence.MEASURED)
    return Estimate(scaled.lo, scaled.typ, scaled.hi, known.evidence)
