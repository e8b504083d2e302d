"""Yields that this household has drawn: one observation a finished batch and way of juicing."""

from __future__ import annotations

from collections import defaultdict

from sqlalchemy.orm import Session as Orm

from elderberry.core import yields
from elderberry.core.batch.standing import unmeasured
from elderberry.core.errors import OutOfRange
from elderberry.core.flow.kinds import kind
from elderberry.services.who import Who
from elderberry.store import Batch, Operation, queries


def observations(orm: Orm, who: Who, fruit_key: str) -> list[yields.Observation]:
    """Litres a kilo, net of added water, of batches whose every draw by a way was measured.

    A batch whose water nobody measured teaches nothing about the fruit and is left out.
    """
    hh = who.household_id
    drawn = queries.drawn_volumes(orm, hh)
    if not drawn:
        return []
    steps: dict[tuple[int, str], list[Operation]] = defaultdict(list)
    query = queries.mine(hh, Operation).where(Operation.batch_id.in_(drawn))
    rows = orm.scalars(query).all()
    unknown = {r.batch_id for r in rows if unmeasured(r)}
    batches = {b.id: b for b in orm.scalars(queries.mine(hh, Batch).where(Batch.id.in_(drawn)))}
    for step in rows:
        way = kind(step.kind).way
        tells = way and "yield_fruit_g" in step.params and step.batch_id not in unknown
        if tells and _of_fruit(step, batches[step.batch_id]) == fruit_key:
            steps[step.batch_id, way].append(step)
    found = [
        _observation(batches[batch], way, rows, drawn[batch], _source(batches[batch], fruit_key))
        for (batch, way), rows in steps.items()
    ]
    return [o for o in found if o is not None]


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
