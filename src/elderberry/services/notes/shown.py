"""What Notes show of a batch: how it went, what came of it, and where that is now."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime

from elderberry.core.estimates import Estimate
from elderberry.services.cooking.shown import Became, LineageView
from elderberry.services.cooking.step_shown import TraceView
from elderberry.services.planning.end_view import ProcessView


@dataclass(frozen=True)
class NoteLine:
    """A finished batch in the list."""

    id: int
    code: str
    title: str
    colour: str
    started_at: datetime
    started_by: str
    method: str
    jars: int
    litres: float
    became: Became


@dataclass(frozen=True)
class Season:
    """The batches of a year, the newest first."""

    name: str
    batches: list[NoteLine]


@dataclass(frozen=True)
class NotesView:
    """Finished batches by season; more where they are older than those that are shown."""

    seasons: list[Season]
    more: bool


@dataclass(frozen=True)
class FruitOfSeason:
    """What a fruit came to in a year: what went in [kg], what was filled [L], and its jars."""

    fruit: str
    colour: str
    kg: float
    litres: float
    kept: int
    eaten: int
    given: int
    spoiled: int


@dataclass(frozen=True)
class WayOfSeason:
    """What a kilo of a fruit gave by a way of juicing [L/kg], of so many batches."""

    fruit: str
    way: str
    batches: int
    lo: float
    middle: float
    hi: float


@dataclass(frozen=True)
class WentWrong:
    """Something that went otherwise than planned, and how often."""

    words: str
    times: int


@dataclass(frozen=True)
class SeasonPage:
    """A year on one page; more: batches beyond those that are listed."""

    year: int
    batches: list[NoteLine]
    more: int
    litres: float
    jars: int
    fruits: list[FruitOfSeason]
    ways: list[WayOfSeason]
    hours: float
    """Hours of hands, as its steps were planned [h]."""
    wrong: list[WentWrong]
    years: list[int]
    """Years that have a page, the newest first."""


@dataclass(frozen=True)
class FigureRow:
    """A figure of a lot, planned and measured."""

    lot: str
    quantity: str
    unit: str
    planned: Estimate | None
    measured: float
    words: str


@dataclass(frozen=True)
class StepTook:
    """A step, how long it was to take and how long it took."""

    id: int
    bath: bool
    """Whether jars stood in a bath that had to keep its boil."""
    title: str
    planned_min: float
    took_min: float | None
    """None where no clock ran."""
    finished_at: datetime | None
    by: str


@dataclass(frozen=True)
class Deviation:
    """Something that went otherwise than planned."""

    at: datetime
    step: str
    words: str
    by: str


@dataclass(frozen=True)
class Standing:
    """Jars of a kind on a place."""

    place: str
    jars: str
    codes: list[str]


@dataclass(frozen=True)
class StepTrace:
    """What a probe saw at a step."""

    step: str
    trace: TraceView


@dataclass(frozen=True)
class NotePage:
    """A batch as a page."""

    id: int
    code: str
    title: str
    method: str
    finished: bool
    started_at: datetime
    picked_on: date | None
    people: list[str]
    flow: LineageView
    came_in: list[str]
    figures: list[FigureRow]
    steps: list[StepTook]
    deviations: list[Deviation]
    traces: list[StepTrace]
    litres: float
    litres_planned: Estimate | None
    litres_per_kg: float | None
    cost_minor: int | None
    """What came in with a price, for what went into it; None where nothing had one."""
    cost_per_litre_minor: int | None
    hands_h: float
    hands_h_per_litre: float | None
    process: ProcessView | None
    jars: list[Standing]
    gone: int
    """Jars that are eaten, given or thrown away."""
    safety: str
    """The line that stands under every sheet."""
