"""The Safety page: every tested time and every rule, with its source, for this kitchen."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy.orm import Session as Orm

from elderberry.core import materials, process, rules
from elderberry.core.kitchen import Heater
from elderberry.core.wording import retold
from elderberry.services.household import kitchens, own_processes
from elderberry.services.household.own_processes import OwnProcessView
from elderberry.services.who import Who

GATES = {
    "none": "no reading needed for these fruits",
    "measured": "a pH meter reading at or under the limit",
    "low_risk_or_measured": "low-risk fruit by its prediction, any other by a pH meter",
}


@dataclass(frozen=True)
class TimeRow:
    """One row of the process tables, with its minutes here; None where there is no time."""

    row: str
    product: str
    fruits: list[str]
    jar_ml: float
    minutes_here: int | None
    bands: list[int | None]
    schools: dict[str, int]
    sterilise_min: int | None
    fill_c: float | None
    headspace_mm: float
    max_ph: float | None
    gate: str
    evidence: str
    source: str
    note: str


@dataclass(frozen=True)
class RuleRow:
    """One rule of the rule book, in its own words."""

    id: str
    level: str
    message: str
    remedy: str
    source: str


@dataclass(frozen=True)
class CardLine:
    """A product's minutes by the card's jar sizes; None where nothing that large was tested."""

    product: str
    minutes: list[int | None]


@dataclass(frozen=True)
class SafetyView:
    """Everything the tool holds to, and where it is from."""

    kitchen: str
    altitude_m: float | None
    altitude_ft: float | None
    boiling_point_c: float
    sterilise_min: int | None
    card_sizes_ml: list[float]
    card: list[CardLine]
    times: list[TimeRow]
    own: list[OwnProcessView]
    fillable: list[str]
    rules: list[RuleRow]


def view(orm: Orm, who: Who) -> SafetyView:
    """The tables and the rule book for this kitchen."""
    kitchen, here = kitchens.stored(orm, who), kitchens.for_core(orm, who)
    metres = here.altitude_m
    feet = None if metres is None else process.altitude_ft(metres)
    times = [_time_row(row, metres, here.canner.heater) for row in process.process_rows()]
    sizes = sorted({t.jar_ml for t in times if t.minutes_here is not None})
    return SafetyView(
        kitchen=kitchen.name,
        altitude_m=metres,
        altitude_ft=feet,
        boiling_point_c=here.boiling_point_c,
        sterilise_min=None if feet is None else process.sterilising_minutes(feet),
        card_sizes_ml=sizes,
        card=_card(times, sizes),
        times=times,
        own=own_processes.views(orm, who),
        fillable=sorted(process.fillable()),
        rules=[
            RuleRow(
                r.id,
                r.level,
                retold(_plain(r.message), here.units),
                retold(_plain(r.remedy), here.units),
                r.source,
            )
            for r in rules.rules().values()
        ],
    )


def _time_row(row: process.ProcessRow, metres: float | None, heater: Heater) -> TimeRow:
    time = None if metres is None else process.time_of_row(row, metres, heater)
    return TimeRow(
        row=row.key,
        product=row.product.replace("_", " "),
        fruits=[_fruit_name(key) for key in row.fruits],
        jar_ml=row.largest_jar_ml,
        minutes_here=time.minutes if time else None,
        bands=list(row.minutes),
        schools=dict(time.schools) if time else {},
        sterilise_min=time.sterilise_min if time else None,
        fill_c=row.fill_c,
        headspace_mm=round(row.headspace_in * 25.4, 1),
        max_ph=row.max_ph,
        gate=GATES.get(row.gate, row.gate),
        evidence=row.evidence,
        source=row.source,
        note=row.note,
    )


def _card(times: list[TimeRow], sizes: list[float]) -> list[CardLine]:
    """By product and jar size: a smaller jar takes the time of the next tested size."""
    timed = [t for t in times if t.minutes_here is not None]
    return [
        CardLine(product, [_minutes(timed, product, size) for size in sizes])
        for product in dict.fromkeys(t.product for t in timed)
    ]


def _minutes(timed: list[TimeRow], product: str, size: float) -> int | None:
    roomy = [t for t in timed if t.product == product and t.jar_ml >= size]
    smallest = min((t.jar_ml for t in roomy), default=None)
    return max((t.minutes_here or 0 for t in roomy if t.jar_ml == smallest), default=None)


def _fruit_name(key: str) -> str:
    known = materials.fruits().get(key)
    return known.name.lower() if known else key.replace("|", " or ")


def _plain(words: str) -> str:
    """A rule's words with its figures named rather than filled in."""
    return words.replace("{", "‹").replace("}", "›").replace("_", " ")
