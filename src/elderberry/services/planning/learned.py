"""Yields that this household has drawn: one observation a finished batch and way of juicing."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from sqlalchemy.orm import Session as Orm

from elderberry.core import yields
from elderberry.core.batch.pots import unmeasured
from elderberry.core.errors import OutOfRange
from elderberry.core.flow.kinds import kind
from elderberry.services.who import Who
from elderberry.store import Batch, Lot, Operation, Reading, YieldSeen, furniture, queries

TEACHES = {("juice", "volume_ml"), ("peel", "mass_g")}
"""What is read of which kind of lot, so that a yield is learned."""
MOST = 60
"""Of so many of the household's newest batches of a fruit a plan learns."""


def observations(orm: Orm, who: Who, fruit_key: str) -> list[yields.Observation]:
    """Litres a kilo, net of added water, that the household drew of a fruit."""

    def read() -> list[yields.Observation]:
        seen = queries.yields_seen(orm, who.household_id, fruit_key, MOST)
        return [yields.Observation(y.litres_per_kg, y.source, y.way, y.batch_code) for y in seen]

    return furniture.reckoned(orm, (YieldSeen,), (who.household_id, fruit_key), read)


@dataclass(frozen=True)
class Seen:
    """What a batch drew of a fruit by a way."""

    fruit: str
    observation: yields.Observation


def seen_in(
    batch: Batch, operations: Sequence[Operation], lots: Mapping[int, Lot],
    readings: Sequence[Reading],
) -> list[Seen]:  # fmt: skip
    """What a batch teaches: one observation a way of juicing whose every draw was measured.

    A batch whose water nobody measured teaches nothing about the fruit.
    """
    drawn = _drawn(lots, readings)
    if not drawn or any(unmeasured(o) for o in operations):
        return []
    steps: dict[tuple[str, str], list[Operation]] = defaultdict(list)
    for step in operations:
        way = kind(step.kind).learns
        fruit = _of_fruit(step, batch) if way and "yield_fruit_g" in step.params else ""
        if way and fruit:
            steps[fruit, way].append(step)
    found = (
        (fruit, _observation(batch, way, rows, drawn, _source(batch, fruit)))
        for (fruit, way), rows in steps.items()
    )
    return [Seen(fruit, seen) for fruit, seen in found if seen is not None]


def _drawn(lots: Mapping[int, Lot], readings: Sequence[Reading]) -> dict[int, dict[int, float]]:
    """Measured mL of juice, or g of peel, by step and lot; the newest reading of a lot counts."""
    found: dict[int, dict[int, float]] = defaultdict(dict)
    for reading in readings:
        lot = lots.get(reading.lot_id or 0)
        if lot is not None and (lot.kind, reading.quantity) in TEACHES:
            found[reading.operation_id][lot.id] = reading.value
    return found


def _of_fruit(step: Operation, batch: Batch) -> str:
    """The one fruit that a step got juice out of; empty where there were several."""
    told = step.params.get("yield_fruit")
    return str(batch.brief["inputs"][0]["material"] if told is None else told)


def _source(batch: Batch, fruit_key: str) -> str:
    """Where a batch's fruit came from."""
    inputs = batch.brief["inputs"]
    return next((str(i["source"]) for i in inputs if i["material"] == fruit_key), "")


def _observation(
    batch: Batch, way: str, steps: list[Operation], drawn: dict[int, dict[int, float]], source: str
) -> yields.Observation | None:
    """What the steps of one way gave together; None until all of them were measured."""
    volumes = [sum(drawn.get(step.id, {}).values()) for step in steps]
    fruit_kg = sum(step.params["yield_fruit_g"] for step in steps) / 1000.0
    if fruit_kg <= 0 or not all(volumes):
        return None
    water_l = sum(step.params["yield_water_ml"] for step in steps) / 1000.0
    net = (sum(volumes) / 1000.0 - water_l) / fruit_kg / float(steps[0].params["yield_factor"])
    try:
        return yields.Observation(net, source, way, batch.code)
    except OutOfRange:
        return None
