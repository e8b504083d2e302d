"""What a probe wrote down at a step: taken in as a file, and shown."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from datetime import timedelta

from elderberry.core.batch import traced
from elderberry.core.batch.lifecycle import Phase
from elderberry.core.batch.rows import EventRow
from elderberry.core.batch.traced import Break, Point, Probe
from elderberry.core.errors import OutOfRange
from elderberry.core.flow.kinds import kind
from elderberry.formats import traces
from elderberry.services.cooking import seals
from elderberry.services.cooking.change import Change
from elderberry.services.cooking.folder import Folder
from elderberry.services.cooking.step_shown import Seen, TraceView
from elderberry.services.errors import Conflict, FieldError
from elderberry.services.household import kitchens
from elderberry.store import Operation

TRACED = traced.TRACED
AROUND = timedelta(hours=6)
"""How long before and after its step a log is kept."""


def take(made: Change, text: str, probe: Probe) -> None:
    """A probe's file at a step that is on or over; the same file twice changes nothing.

    A bath that was seen below its boil begins anew from when it boiled again; where the step is
    over, its jars are judged by the longest it boiled without a break.

    Raises:
        FieldError: a file that cannot be read, or that tells of another time.
        Conflict: the step has not begun, or a bath is meant where nothing is boiled.
    """
    state = made.folder.standing.states[made.operation.id]
    boils = kind(made.operation.kind).boil == "holds"
    if state.started_at is None or state.phase not in {Phase.RUNNING, Phase.DONE}:
        raise Conflict("not-begun", "This step has not begun yet. Nothing was recorded.")
    if (probe == "in_it") == boils:
        raise FieldError("/probe", "Say where the probe was: in the bath or in a jar."
                         if boils else "There is no bath here: the probe was in it.")  # fmt: skip
    points = _read(made, text)
    until = (state.finished_at or made.now) + AROUND
    points = [p for p in points if state.started_at - AROUND <= p[0] <= until]
    if not points:
        begun = state.started_at.astimezone(kitchens.zone(made.orm, made.who))
        words = f"It tells of another time: this step was begun {begun:%-d %B %Y, %H:%M}."
        raise FieldError("/text", f"{words} Nothing was recorded.")
    boils_c = made.folder.kitchen.boiling_point_c
    lost: list[Break] = []
    if probe == "bath" and state.clock_from is not None:
        lost = traced.breaks(points, boils_c, state.clock_from)
    told = traced.row(probe, traced.few(points), boils_c if probe == "bath" else None, lost)
    if any(_same(e, told) for e in made.folder.standing.happened(made.operation, TRACED)):
        return
    made.log(TRACED, dict(told))
    if state.phase is Phase.RUNNING:
        _boil_again(made, lost)
    else:
        seals.judge_again(made)


def _same(trace: EventRow, told: traced.Data) -> bool:
    """Whether an event keeps the same of the same probe."""
    return all(trace.data[name] == told[name] for name in ("probe", "points"))


def _read(made: Change, text: str) -> list[Point]:
    try:
        found = sorted(traces.read(text, kitchens.zone(made.orm, made.who)))
        traced.check(found)
    except (traces.CannotRead, OutOfRange) as wrong:
        words = str(wrong).removesuffix(".")
        raise FieldError("/text", f"{words}. Nothing was recorded.") from wrong
    return found


def _boil_again(made: Change, lost: Sequence[Break]) -> None:
    """The clock of a bath that lost its boil runs from when it boiled again."""
    if not lost:
        return
    last = lost[-1]
    replace(made, now=last.since).append("boil_lost")
    if last.until is not None:
        replace(made, now=last.until).append("boil_reached")


def views(folder: Folder, operation: Operation) -> list[TraceView]:
    """What probes saw at a step, in the order in which they came."""
    return [_view(e.data) for e in folder.standing.happened(operation, TRACED)]


def _view(data: traced.Data) -> TraceView:
    points = traced.points_of(data)
    first = points[0][0]
    return TraceView(
        probe=data["probe"],
        since=first,
        points=[Seen((at - first).total_seconds() / 60.0, t) for at, t in points],
        hottest_c=max(t for _, t in points),
        boils_c=data["boils_c"],
        lost=traced.breaks_of(data),
    )
