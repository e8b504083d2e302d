"""What the shelf looks like to a person: its stacks, a jar's own page, a drink out of it.

These dataclasses are the shape of the answers; api/ hands them on as they are.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from elderberry.core.again import Again
from elderberry.core.estimates import Estimate
from elderberry.core.findings import Finding
from elderberry.core.shelf.life import Sign
from elderberry.services.cooking.shown import JarView, LineageView
from elderberry.services.planning.end_view import ProcessView


@dataclass(frozen=True)
class StackView:
    """Like jars that stand together: how many are looked for, and the first of them."""

    id: int
    jars: int
    first: JarView


@dataclass(frozen=True)
class Warm:
    """A place that is warmer than it usually is at this time of the year."""

    temp_c: float
    usual_c: float
    since: date
    faster: float
    """How many times faster a sealed jar ages there meanwhile [-]."""


@dataclass(frozen=True)
class ShelfPlace:
    """A place with its stacks, those to use first in front."""

    id: int
    name: str
    kind: str
    temp_c: float
    """Today: as it was logged last, or as it usually is."""
    light: bool
    stacks: list[StackView]
    more: bool
    """Whether other stacks stand behind those that are shown."""
    count: int
    """How many jars stand there."""
    litres: float
    room_l: float | None
    warm: Warm | None


@dataclass(frozen=True)
class ShelfView:
    """The whole shelf: how many jars there are, and how many of them are looked for."""

    places: list[ShelfPlace]
    jars: int
    litres: float
    found: int | None
    """Jars that are looked for; None where none are."""
    understood: str
    """What was typed, as it was understood."""


@dataclass(frozen=True)
class EnoughView:
    """How long what stands there lasts at this household's pace."""

    there: int
    """Jars of it on all places."""
    a_month: float
    till: date | None
    short: int
    fruit_kg: float | None
    fruit: str
    again: date | None
    """When it is made again, as last time."""


@dataclass(frozen=True)
class BatchOf:
    """A batch that jars of a stack are of."""

    id: int
    code: str
    year: int
    jars: int


@dataclass(frozen=True)
class WarmDay:
    """How warm it was around a jar on a day [°C], and how warm it usually is then."""

    on: date
    temp_c: float
    usual_c: float


@dataclass(frozen=True)
class StackPage:
    """A stack in hand: its jars, where they come from, and whether they last."""

    id: int
    label: str
    first: JarView
    """The one that goes first."""
    jars: list[int]
    """Numbers of those that go first, in that order."""
    may: list[str]
    """What can be done with the first of them now."""
    count: int
    batches: list[BatchOf]
    enough: EnoughView
    warmth: list[WarmDay]


@dataclass(frozen=True)
class DrinkView:
    """What a drink takes and what it is; see core.serving.Drink."""

    base_ml: float
    diluent_ml: float
    melt_ml: float
    sugar_g: float
    brix: float
    acid_g_l: float
    alcohol_pct: float
    limited_by: str
    too_thin: bool
    glasses: float
    glass_ml: float
    left_ml: float
    """What is in the jar [mL]."""
    jars: int
    """Jars like it that the drink takes."""
    notes: list[str]


@dataclass(frozen=True)
class ServedView:
    """A drink that was written down."""

    name: str
    at: datetime
    by: str
    base_ml: float
    asked: dict[str, Any]


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
    batch: LineageView | None
    """None where it was there already."""
    said: str
    """What was said of it then, word for word."""
    moments: list[JarMoment]
    siblings: list[JarView]
    signs: list[Sign]
    """What may be wrong with it, as it is seen."""
    findings: list[Finding]
    warmth: list[WarmDay]
    """How warm it was where it stood, a few times a month."""
    may: list[str]
    """What can be done with it now: opened, poured, given and so on."""
    as_lines: list[str]
    """What is left in it as lines of what goes into another batch; none where it cannot be told."""
    servings: list[ServedView]
    """Drinks that were poured of it."""
    again: Again | None
    """What is left of it makes so much again with water, where it is dry."""
    thaws_h: Estimate | None
    """How long it takes to thaw in the refrigerator [h], where it stands in a freezer."""
