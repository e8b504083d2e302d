"""What is on, and what needs hands, as a person sees it.

These dataclasses are the shape of the answers; api/ hands them on as they are.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True)
class HobSlot:
    """A station in use: what it holds, its time, and what it needs next."""

    batch_id: int
    step_id: int
    station: str
    kind: str
    role: str
    holds: str
    clock_from: datetime | None
    due_at: datetime | None
    until: datetime | None
    next: str
    warn_at: datetime | None
    warning: str


@dataclass(frozen=True)
class StoveItem:
    """A step that is on, or could begin: what it needs next and when."""

    batch_id: int
    step_id: int
    batch: str
    colour: str
    station: str
    title: str
    role: str
    on: bool
    """Whether it is on; it could begin where it is not."""
    words: str
    """What to look for while it is on; what to do before it begins."""
    clock_from: datetime | None
    due_at: datetime | None
    opens_at: datetime | None
    press: str
    holds_boil: bool


@dataclass(frozen=True)
class StoveView:
    """Everything that is on by station, what is due next in front, and what could begin."""

    on: list[StoveItem]
    ready: list[StoveItem]


@dataclass(frozen=True)
class TodayItem:
    """Something that needs hands: a sentence, the hour it falls due, and where to go."""

    kind: str
    text: str
    detail: str
    at: datetime | None
    until: datetime | None
    batch_id: int | None
    step_id: int | None
    jar_id: int | None
    lot_id: int | None = None


@dataclass(frozen=True)
class TodayView:
    """What needs hands now and next."""

    items: list[TodayItem]
    jars: int
    litres: float
