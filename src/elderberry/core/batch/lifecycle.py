"""The life of a step and of a jar: one transition table each, one pure transition function.

No clock: the time of an event comes with it. Times are any datetimes of one zone.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from enum import StrEnum
from typing import Any

from elderberry.core.errors import IllegalStep
from elderberry.core.flow.kinds import LOSES_WATER, kind
from elderberry.core.rules import refuse


class Phase(StrEnum):
    """Where a step stands."""

    WAITING = "waiting"
    RUNNING = "running"
    DONE = "done"
    DROPPED = "dropped"


OPEN = frozenset({Phase.WAITING, Phase.RUNNING})
"""Where a step still has something to be done at it."""


@dataclass(frozen=True)
class StepEvent:
    """Something that happened to a step."""

    kind: str
    at: datetime
    by: str = ""
    data: Mapping[str, Any] | None = None


@dataclass(frozen=True)
class StepState:
    """A step as its events have left it; the clock of a timer runs from clock_from."""

    kind: str
    minutes: float
    phase: Phase = Phase.WAITING
    started_at: datetime | None = None
    clock_from: datetime | None = None
    extra_minutes: float = 0.0
    boils_lost: int = 0
    finished_at: datetime | None = None
    finished_by: str = ""

    @property
    def due_at(self) -> datetime | None:
        """When the timer rings; None while no clock runs."""
        if self.clock_from is None or self.phase is not Phase.RUNNING:
            return None
        return self.clock_from + timedelta(minutes=self.minutes + self.extra_minutes)


TRANSITIONS: Mapping[tuple[Phase, str], Phase] = {
    (Phase.WAITING, "started"): Phase.RUNNING,
    (Phase.WAITING, "dropped"): Phase.DROPPED,
    (Phase.RUNNING, "boil_reached"): Phase.RUNNING,
    (Phase.RUNNING, "boil_lost"): Phase.RUNNING,
    (Phase.RUNNING, "lengthened"): Phase.RUNNING,
    (Phase.RUNNING, "retimed"): Phase.RUNNING,
    (Phase.RUNNING, "noted"): Phase.RUNNING,
    (Phase.RUNNING, "finished"): Phase.DONE,
    (Phase.RUNNING, "dropped"): Phase.DROPPED,
    (Phase.DONE, "repeated"): Phase.RUNNING,
}
"""What is heated again is repeated; nothing else that is done begins anew."""


def transition(state: StepState, event: StepEvent) -> StepState:
    """The state after an event.

    Raises:
        IllegalStep: the event does not fit the state; the code says how.
        Refusal: a boiled step is to be finished before its unbroken minutes are over.

    >>> from datetime import UTC
    >>> noon = datetime(2026, 10, 3, 12, tzinfo=UTC)
    >>> running = transition(StepState("steam_juice", 60), StepEvent("started", noon))
    >>> running.due_at.hour
    13
    """
    phase = TRANSITIONS.get((state.phase, event.kind))
    if phase is None:
        raise _illegal(state)
    return _EFFECTS.get(event.kind, _no_effect)(replace(state, phase=phase), event)


def replay(state: StepState, events: Iterable[StepEvent]) -> StepState:
    """The state after all events, in order.

    >>> replay(StepState("fill", 10), []).phase
    <Phase.WAITING: 'waiting'>
    """
    for event in events:
        state = transition(state, event)
    return state


def _started(state: StepState, event: StepEvent) -> StepState:
    clock = None if kind(state.kind).boil else event.at
    minutes = max(state.minutes, float((event.data or {}).get("minutes", 0.0)))
    return replace(state, started_at=event.at, clock_from=clock, minutes=minutes)


def _boil_reached(state: StepState, event: StepEvent) -> StepState:
    if not kind(state.kind).boil:
        raise IllegalStep("no-boil-here", "This step does not count from a boil.")
    if state.clock_from is not None:
        raise IllegalStep("already-boiling", "The time is already running.")
    return replace(state, clock_from=event.at)


def _boil_lost(state: StepState, _: StepEvent) -> StepState:
    if state.clock_from is None:
        raise IllegalStep("not-boiling", "The time was not running, so nothing was lost.")
    return replace(state, clock_from=None, boils_lost=state.boils_lost + 1)


def _lengthened(state: StepState, event: StepEvent) -> StepState:
    minutes = float((event.data or {})["minutes"])
    if not 0 < minutes <= 600:
        raise IllegalStep("minutes-only-added", "Time can only be added: 1 to 600 minutes.")
    return replace(state, extra_minutes=state.extra_minutes + minutes)


def _retimed(state: StepState, event: StepEvent) -> StepState:
    """A reading told how long it really takes; only what water leaves to a goal asks that."""
    if kind(state.kind).role not in LOSES_WATER:
        raise IllegalStep("minutes-only-added", "No reading changes the time of this step.")
    return replace(state, minutes=float((event.data or {})["minutes"]), extra_minutes=0.0)


def _finished(state: StepState, event: StepEvent) -> StepState:
    if kind(state.kind).boil == "holds":
        _refuse_short_boil(state, event.at)
    return replace(state, finished_at=event.at, finished_by=event.by)


def _refuse_short_boil(state: StepState, at: datetime) -> None:
    """Stop a boiled step that ends before its table time; added minutes are the cook's own."""
    boiled = (at - state.clock_from).total_seconds() / 60 if state.clock_from else 0.0
    if boiled < state.minutes:
        missing = max(1, round(state.minutes - boiled + 0.49))
        raise refuse(
            kind(state.kind).short,
            state.kind,
            minutes=f"{state.minutes:g}",
            missing=f"{missing} min",
        )


def _repeated(state: StepState, event: StepEvent) -> StepState:
    if kind(state.kind).role != "heat":
        raise _illegal(replace(state, phase=Phase.DONE))
    clock = None if kind(state.kind).boil else event.at
    return replace(state, started_at=event.at, clock_from=clock, finished_at=None, finished_by="")


def _no_effect(state: StepState, _: StepEvent) -> StepState:
    return state


_EFFECTS = {
    "started": _started,
    "boil_reached": _boil_reached,
    "boil_lost": _boil_lost,
    "lengthened": _lengthened,
    "retimed": _retimed,
    "finished": _finished,
    "repeated": _repeated,
}


def _illegal(state: StepState) -> IllegalStep:
    if state.phase is Phase.DONE:
        who = f" by {state.finished_by}" if state.finished_by else ""
        return IllegalStep("already-finished", f"This step is already finished{who}.")
    if state.phase is Phase.DROPPED:
        return IllegalStep("not-needed", "This step turned out not to be needed.")
    if state.phase is Phase.WAITING:
        return IllegalStep("not-started", "This step has not been started yet.")
    return IllegalStep("already-running", "This step is already running.")


class Seal(StrEnum):
    """How a jar is closed."""

    COOLING = "cooling"
    SEALED = "sealed"
    FAILED = "failed"
    UNSEALED = "unsealed"
    CAPPED = "capped"
    """Closed by a lid that holds nothing; its sugar keeps it."""
    UNKNOWN = "unknown"
    """Closed before anybody here looked: it was there already."""


JAR_TRANSITIONS: Mapping[tuple[Seal, str], Seal] = {
    (Seal.COOLING, "seal_held"): Seal.SEALED,
    (Seal.COOLING, "seal_failed"): Seal.FAILED,
    (Seal.COOLING, "chilled"): Seal.UNSEALED,
    (Seal.COOLING, "frozen"): Seal.UNSEALED,
    (Seal.FAILED, "reprocessed"): Seal.COOLING,
    (Seal.FAILED, "chilled"): Seal.UNSEALED,
    (Seal.FAILED, "frozen"): Seal.UNSEALED,
    (Seal.SEALED, "moved"): Seal.SEALED,
    (Seal.UNSEALED, "moved"): Seal.UNSEALED,
    (Seal.CAPPED, "moved"): Seal.CAPPED,
    (Seal.UNKNOWN, "moved"): Seal.UNKNOWN,
}


def jar_transition(seal: Seal, event: str) -> Seal:
    """The seal after an event of a jar.

    Raises:
        IllegalStep: the event does not fit.

    >>> jar_transition(Seal.COOLING, "seal_failed")
    <Seal.FAILED: 'failed'>
    """
    following = JAR_TRANSITIONS.get((seal, event))
    if following is None:
        raise IllegalStep(
            "jar-not-so", f"A jar that is {seal} cannot be {event.replace('_', ' ')}."
        )
    return following
