"""What a probe saw at a step: a curve to look at, and whether a bath kept its boil.

It shortens nothing. Where the bath was seen below its boil, the minutes before that do not count.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any, Literal

from elderberry.core.batch.rows import EventRow
from elderberry.core.errors import check_range

Probe = Literal["bath", "jar", "in_it"]
"""Where a probe was: in the water of a canner, in a jar, or in what a step works on."""
PROBE_OFF_C = 1.0
"""What a probe may show too little of a boil [°C]."""
MOST_POINTS = 240
LO_C, HI_C = -40.0, 200.0

Point = tuple[datetime, float]
"""A moment and what the probe showed then [°C]."""


Data = Mapping[str, Any]
"""What an event keeps of it."""


@dataclass(frozen=True)
class Break:
    """A stretch in which a bath was below its boil: the last moment at it, and the first again.

    until is None where it was still below when the log ended.
    """

    since: datetime
    until: datetime | None


def check(points: Sequence[Point]) -> None:
    """See that a log tells temperatures of a kitchen, in their order.

    Raises:
        OutOfRange: one that no probe in a kitchen shows.
    """
    for _, temp_c in points:
        check_range("temperature", temp_c, "°C", LO_C, HI_C)


def breaks(points: Sequence[Point], boils_c: float, since: datetime) -> list[Break]:
    """Where a bath was below its boil, once it had been there.

    Args:
        points: what a probe in the water saw, in order.
        boils_c: where water boils there [°C].
        since: from when on its boil counts.

    Source: USDA Complete Guide to Home Canning (2015), guide 1: a boil that is lost begins anew.

    >>> noon = datetime(2026, 10, 3, 12)
    >>> seen = [(noon + timedelta(minutes=n), t) for n, t in enumerate((98, 98, 95, 98))]
    >>> [(b.since.minute, b.until.minute) for b in breaks(seen, 98.0, noon)]
    [(1, 3)]
    """
    found: list[Break] = []
    last: datetime | None = None
    below = False
    for at, temp_c in points:
        if at < since:
            continue
        boils = temp_c >= boils_c - PROBE_OFF_C
        if boils and below:
            found[-1] = Break(found[-1].since, at)
        elif not boils and not below:
            found.append(Break(last or since, None))
        below, last = not boils, at
    return found


def unbroken_min(since: datetime, until: datetime, broken: Iterable[Break]) -> float:
    """The longest that a bath kept its boil between two moments [min].

    What nobody saw counts as it was pressed.

    >>> noon = datetime(2026, 10, 3, 12)
    >>> lost = Break(noon + timedelta(minutes=5), noon + timedelta(minutes=8))
    >>> unbroken_min(noon, noon + timedelta(minutes=20), [lost])
    12.0
    """
    longest, from_ = timedelta(0), since
    for gap in sorted(broken, key=lambda b: b.since):
        longest = max(longest, min(gap.since, until) - from_)
        from_ = until if gap.until is None else max(from_, gap.until)
    return max(longest, until - from_).total_seconds() / 60.0


def few(points: Sequence[Point]) -> list[Point]:
    """So many of the points as are kept, the hottest and the coldest among them."""
    step = -(-len(points) // MOST_POINTS)
    if step <= 1:
        return list(points)
    kept = dict(points[::step])
    for chosen in (min, max):
        at, temp_c = chosen(points, key=lambda p: p[1])
        kept[at] = temp_c
    at, temp_c = points[-1]
    kept[at] = temp_c
    return sorted(kept.items())


TRACED = "traced"
"""The event that keeps what a probe saw."""


def row(
    probe: Probe, points: Sequence[Point], boils_c: float | None, lost: Sequence[Break]
) -> Data:
    """What a probe saw, as an event keeps it."""
    return {
        "probe": probe,
        "boils_c": boils_c,
        "points": [[at.isoformat(), temp_c] for at, temp_c in points],
        "lost": [
            [gap.since.isoformat(), gap.until.isoformat() if gap.until else None] for gap in lost
        ],
    }


def points_of(data: Data) -> list[Point]:
    """What a probe saw, of what an event has kept."""
    return [(datetime.fromisoformat(at), float(temp_c)) for at, temp_c in data["points"]]


def breaks_of(data: Data) -> list[Break]:
    """Where a bath was below its boil, of what an event has kept."""
    return [
        Break(datetime.fromisoformat(since), datetime.fromisoformat(until) if until else None)
        for since, until in data["lost"]
    ]


def broken(traces: Iterable[EventRow]) -> list[Break]:
    """Every break that probes saw in the bath of a step."""
    return [gap for trace in traces for gap in breaks_of(trace.data)]
