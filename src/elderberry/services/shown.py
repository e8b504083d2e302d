"""What a batch looks like to a person: its steps as their events left them, lots, jars, findings.

These dataclasses are the shape of the answers; api/ hands them on as they are.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime

from elderberry.core.estimates import Estimate
from elderberry.core.findings import Finding
from elderberry.core.heat import InsideJar
from elderberry.services.planning.end_view import JarCount, ProcessView
from elderberry.services.planning.plan_view import (
    FlowLot,
    FlowOperation,
    InputView,
    MethodView,
    Question,
)


@dataclass(frozen=True)
class WaterView:
    """Water of a step [L]: planned, or inferred, and from what."""

    litres: Estimate
    inferred_from: str


@dataclass(frozen=True)
class ReadingView:
    """A reading beside what was predicted."""

    id: int
    quantity: str
    name: str
    unit: str
    value: float
    instrument: str
    evidence: str
    at: datetime
    by: str
    lot_id: int | None
    predicted: Estimate | None
    agreement: str
    words: str
    corrected: bool
    """Whether a later entry put it right."""


@dataclass(frozen=True)
class Askable:
    """A quantity that may be read at a step, with its prediction and instruments."""

    quantity: str
    name: str
    unit: str
    lo: float
    hi: float
    instruments: list[str]
    lot_key: str | None
    predicted: Estimate | None


@dataclass(frozen=True)
class PanView:
    """The juicer's water pan: full at `since`, down to its reserve at `dry_at`."""

    full_l: float
    since: datetime
    dry_at: datetime
    warn_at: datetime


@dataclass(frozen=True)
class BalanceView:
    """How the figures of a step agree: what is unexplained, and which figure is most suspect."""

    agrees: bool
    unexplained_kg: float
    words: str
    reading_id: int | None
    rather: float | None
    """What the other figures say it should have read [its base unit]."""


@dataclass(frozen=True)
class StationView:
    """A station by name."""

    id: int
    name: str
    kind: str


@dataclass(frozen=True)
class StepView:
    """One step of a batch."""

    id: int
    key: str
    kind: str
    role: str
    """What the work does with it: steam, heat, fill, process, cool, check and so on."""
    drawing: str
    title: str
    station: StationView | None
    phase: str
    ready: bool
    waits_for: str
    opens_at: datetime | None
    """When a seal check may begin: 12 hours after the last jar came out."""
    before: str
    look_for: str
    then: str
    hands: str
    minutes: Estimate
    started_at: datetime | None
    clock_from: datetime | None
    due_at: datetime | None
    extra_minutes: float
    counts_from_boil: bool
    holds_boil: bool
    """Whether it may not end before its minutes at the boil are over."""
    reasons: list[str]
    """Why its time may be lengthened, in the cook's words."""
    wet: bool
    may_repeat: bool
    """Whether it is heated once more before its jars are filled."""
    may_put_cold: bool
    may_fill_now: bool
    """Whether its jars may be filled only now, when their load's turn in the canner comes."""
    may_acidify: bool
    """Whether acid can be stirred in beyond the plan, and read again."""
    starts_by_itself: bool
    boils_lost: int
    finished_at: datetime | None
    finished_by: str
    cautions: list[Finding]
    stops: list[Finding]
    readings: list[ReadingView]
    asks: list[Askable]
    pan: PanView | None
    midway: str
    """How far it has boiled down by the newest reading, and what that asks for."""
    target_c: float | None
    inside: InsideJar | None
    water: WaterView | None
    balance: BalanceView | None
    choices: list[str]
    """What was chosen about this step otherwise than usual, in words."""
    questions: list[Question]
    """What only the cook can say when it is done."""
    rooms: dict[str, float]
    """What a jar of each kind is filled with here, where it is filled [mL]."""
    packing: list[JarCount]
    part_kind: str | None
    part_ml: float
    shared: list[JarCount]
    """The jars if the leftover is shared among them; empty where that is too far off."""
    shared_off_mm: float
    jar_ids: list[int]
    takes: list[str]
    gives: list[str]


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
    batch_id: int
    batch_code: str
    colour: str
    best_by: BestByView | None
    lid: str
    """The colour of its lid; empty for its kind's own."""
    closure: str
    """two_piece, clip, twist and so on; cap for a plain one, none for an open vessel."""
    stop: str = ""
    """Why it is not to be eaten from, where what was put right since says so."""


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
    steps: list[StepView]
    lots: list[LotView]
    operations: list[FlowOperation]
    jars: list[JarView]
    juice_l: Estimate
    juice_measured_l: float
    jars_ready: list[JarCount]
    process: ProcessView | None
    findings: list[Finding]


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


@dataclass(frozen=True)
class ShelfPlace:
    """A place with its jars, those to use first in front."""

    id: int
    name: str
    kind: str
    temp_c: float
    light: bool
    jars: list[JarView]
    count: int
    """How many stand there; jars are those in front."""


@dataclass(frozen=True)
class ShelfView:
    """The whole shelf."""

    places: list[ShelfPlace]
    jars: int
    litres: float


@dataclass(frozen=True)
class JarMoment:
    """Something that happened to a jar."""

    kind: str
    at: datetime
    by: str
    text: str


@dataclass(frozen=True)
class JarPage:
    """A jar's own page: label, process record, life and lineage."""

    jar: JarView
    process: ProcessView | None
    boiled_from: datetime | None
    boiled_until: datetime | None
    boils_lost: int
    batch: BatchView
    moments: list[JarMoment]
    siblings: list[JarView]
    questions: list[Question]
    """What only eyes and nose can tell of it."""
    findings: list[Finding]
