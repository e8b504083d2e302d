"""What a batch looks like to a person: what went in, its ends, its lots, its jars.

These dataclasses are the shape of the answers; api/ hands them on as they are.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime
from typing import Literal

from elderberry.core.estimates import Estimate
from elderberry.core.findings import Finding
from elderberry.core.jelly import Set
from elderberry.services.cooking.step_shown import StepView
from elderberry.services.planning.end_view import JarCount, ProcessView
from elderberry.services.planning.plan_view import FlowLot, FlowOperation, InputView, MethodView


@dataclass(frozen=True)
class LotView:
    """A lot: predicted and measured side by side."""

    id: int
    key: str
    kind: str
    name: str
    material: str
    predicted: FlowLot
    now_ml: Estimate
    """Its volume as it is known now, from what has been read so far."""
    now: FlowLot
    """All of it as it is known now."""
    known: str
    """How: measured, read (a mark, a depth, a drop) or predicted."""
    mass_g: float | None
    volume_ml: float | None
    brix: float | None
    ph: float | None
    agreement: dict[str, str]


@dataclass(frozen=True)
class BestByView:
    """Best-by with its band, and the share of the typical life already used."""

    lo: date
    typ: date
    hi: date
    used: float
    words: str
    cost_days: float = 0.0
    """Days of life that the warm days there took, over what is usual."""
    ready: date | None = None
    """From when it may be opened, where fruit is still giving to it."""


@dataclass(frozen=True)
class JarView:
    """A filled jar."""

    id: int
    code: str
    label: str
    kind: str
    kind_name: str
    nominal_ml: float
    radius_mm: float
    height_mm: float
    fill_ml: float
    part_filled: bool
    canner_load: int
    seal: str
    place_id: int | None
    place: str
    filled_at: datetime
    batch_id: int | None
    """None where it was there already: of no batch."""
    batch_code: str
    colour: str
    best_by: BestByView | None
    lid: str
    """The colour of its lid; empty for its kind's own."""
    closure: str
    """two_piece, clip, twist and so on; cap for a plain one, none for an open vessel."""
    lives: str = "made"
    """Where it is in its life: made, stands, opened, finished, given, went_in or thrown."""
    left_ml: float = 0.0
    opened_at: datetime | None = None
    held: bool = False
    """Whether it is held until somebody has looked at it, since another of its batch spoiled."""
    note: str = ""
    """What happened to it that one should know."""
    stop: str = ""
    """Why it is not to be eaten from: what was put right since, or that nobody vouches for it."""
    filled_words: str = ""
    """When it was filled, where nobody knows that to the day: "in August 2025"."""
    loose_g: float | None = None
    """What is left in it [g], where it is weighed and not poured."""
    dried: str = ""
    """How it lies dried; empty for what is not."""


@dataclass(frozen=True)
class BatchLine:
    """A batch in a list."""

    id: int
    code: str
    title: str
    colour: str
    started_at: datetime
    started_by: str
    finished: bool
    now: str


@dataclass(frozen=True)
class BatchEnd:
    """An end of a batch as it stands: what is filled, how it is kept, and how much there is."""

    key: str
    step_id: int
    product: str
    keep: str
    litres: Estimate
    dry_g: Estimate | None
    """What is packed of it [g], where it is weighed and not poured."""
    becomes: list[str]
    sets: Set | None


@dataclass(frozen=True)
class PressView:
    """The newest press at a batch, by whoever asks, that may be taken back."""

    step: str
    until: datetime


Became = Literal["jars", "glasses", "nothing"]
"""What came of a batch that is over: it filled jars, or was poured to be drunk, or was given up."""


@dataclass(frozen=True)
class BatchView:
    """A batch as Cook shows it."""

    id: int
    code: str
    title: str
    inputs: list[InputView]
    ends: list[BatchEnd]
    colour: str
    source: str
    picked_on: date | None
    method: MethodView
    started_at: datetime
    started_by: str
    version: int
    finished: bool
    became: Became | None
    """None while it is under way."""
    steps: list[StepView]
    lots: list[LotView]
    operations: list[FlowOperation]
    jars: list[JarView]
    juice_l: Estimate
    juice_measured_l: float
    jars_ready: list[JarCount]
    process: ProcessView | None
    findings: list[Finding]
    press: PressView | None
    first_aid: str


@dataclass(frozen=True)
class BesideView:
    """What a batch is otherwise than another, what explains most first."""

    code: str
    other: str
    other_title: str
    thicker: bool | None
    """Whether it is the thicker of the two by that; None where nothing says so."""
    differences: list[str]


@dataclass(frozen=True)
class LineageView:
    """The flow of a batch as it went: what a jar came from."""

    id: int
    code: str
    title: str
    inputs: list[InputView]
    source: str
    picked_on: date | None
    started_by: str
    lots: list[LotView]
    operations: list[FlowOperation]
    jars: int
    became: Became | None
    unexplained_kg: float
    """What went in that nobody measured coming out."""
