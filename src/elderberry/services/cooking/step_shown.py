"""What a step looks like to a person: how its events left it, what it asks and what it warns of.

These dataclasses are the shape of the answers; api/ hands them on as they are.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from elderberry.core.batch.plate import Plate
from elderberry.core.batch.traced import Break
from elderberry.core.estimates import Estimate
from elderberry.core.findings import Finding
from elderberry.core.heat import InsideJar
from elderberry.services.planning.end_view import JarCount
from elderberry.services.planning.plan_view import Question
from elderberry.services.planning.trays import TraysView


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
class Swatch:
    """A colour that melted sugar goes through, about how hot it is then, and whether to stop."""

    word: str
    temp_c: float
    colour: str
    stop: bool


@dataclass(frozen=True)
class SumLink:
    """A sum of the Bench, with the figures of a step in it."""

    key: str
    figures: dict[str, str]


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
class MishapView:
    """Something that may go wrong at a step: one press, and the figures follow."""

    key: str
    title: str
    now: str
    """What to do now."""
    means: str
    """What it means for the batch."""
    changes: str
    """What it changes in the figures."""
    asks: str
    """Whether it asks how much ("amount") or which "jar"; empty where neither."""
    amounts: list[str]
    """How much it usually is, as one says it; one press each."""


@dataclass(frozen=True)
class Seen:
    """A moment, in minutes after the first, and what the probe showed then [°C]."""

    minute: float
    temp_c: float


@dataclass(frozen=True)
class TraceView:
    """What a probe saw at a step.

    probe: bath, jar or in_it; boils_c: where water boils there, for a bath; lost: stretches below
    its boil.
    """

    probe: str
    since: datetime
    points: list[Seen]
    hottest_c: float
    boils_c: float | None
    lost: list[Break]


@dataclass(frozen=True)
class StepGlance:
    """One step of a batch at a glance: what it is, how far it is, and what it asks for next."""

    id: int
    key: str
    kind: str
    role: str
    """What the work does with it: steam, heat, fill, process, cool, check and so on."""
    title: str
    station: StationView | None
    phase: str
    ready: bool
    waits_for: str
    press: str
    """What the next press at it is: start, boil-reached, finish, or say where it asks for more than
    a press; empty where it waits."""
    says: bool
    """Whether finishing it asks for more than a press."""
    asks: list[Askable]
    idle: bool
    """Whether it has begun, and waits for more."""
    opens_at: datetime | None
    """When a seal check may begin: 12 hours after the last jar came out."""
    before: str
    look_for: str
    then: str
    clock_from: datetime | None
    due_at: datetime | None
    counts_from_boil: bool
    holds_boil: bool
    """Whether it may not end before its minutes at the boil are over."""
    boils_lost: int
    pan: PanView | None
    trays: TraysView | None
    shakes: ShakesView | None
    jar_ids: list[int]


@dataclass(frozen=True)
class StepView(StepGlance):
    """One step of a batch, with all there is to know of it."""

    drawing: str
    to_come: list[str]
    """Steps that still give some of what is filled here."""
    in_parts: bool
    """Whether jars may be filled with what is there, and the rest later."""
    left_l: Estimate | None
    """What there is to fill now [L]; None at any other step."""
    checks: list[str]
    """What is looked at before one press says that it is done."""
    headspace_mm: float | None
    """Room that is left under the lid when jars are filled [mm]; None at any other step."""
    pings: int
    """Lids that were heard to pull down while jars cool."""
    lift_at: datetime | None
    """When jars come out of a canner whose heat is off; None at any other step."""
    hands: str
    minutes: Estimate
    started_at: datetime | None
    extra_minutes: float
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
    traces: list[TraceView]
    """What probes saw."""
    finished_at: datetime | None
    finished_by: str
    cautions: list[Finding]
    stops: list[Finding]
    readings: list[ReadingView]
    colours: list[Swatch]
    """Colours of caramel, where it is one."""
    plate: Plate | None
    """The cold plate, where it is cooked to a syrup."""
    midway: str
    """How far it has boiled down by the newest reading, and what that asks for."""
    lies_open_until: datetime | None
    """Until when what came out of the freeze dryer may lie open before it clumps."""
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
    sums: list[SumLink]
    mishaps: list[MishapView]
    notes: list[str]
    """What was written down here: problems, and what a sum came to."""
    takes: list[str]
    gives: list[str]


@dataclass(frozen=True)
class ShakesView:
    """Jars that are shaken once a day: on how many days they were, of how many, and whether today
    is one of them.
    """

    days: int
    of: int
    today: bool
