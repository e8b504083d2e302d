"""Yields that this household has drawn: one observation a finished batch and way of juicing."""

from __future__ import annotations

from collections import defaultdict

from sqlalchemy.orm import Session as Orm

from elderberry.core import yields
from elderberry.core.errors import OutOfRange
from elderberry.core.flow.kinds import kind
from elderberry.services import waters
from elderberry.services.who import Who
from elderberry.store import Batch, Lot, Operation, queries


def observations(orm: Orm, who: Who, fruit_key: str) -> list[yields.Observation]:
    """Litres a kilo, net of added water, of batches whose every draw by a way was measured.

    A batch whose water nobody measured teaches nothing about the fruit and is left out.
    """
    hh = who.household_id
    drawn = queries.drawn_volumes(orm, hh, fruit_key)
    if not drawn:
        return []
    steps: dict[tuple[int, str], list[Operation]] = defaultdict(list)
    query = queries.mine(hh, Operation).where(Operation.batch_id.in_(drawn))
    rows = orm.scalars(query).all()
    unmeasured = {r.batch_id for r in rows if waters.unmeasured(r)}
    for step in rows:
        way = kind(step.kind).way
        if way and "yield_fruit_g" in step.params and step.batch_id not in unmeasured:
            steps[step.batch_id, way].append(step)
    batches = {b.id: b for b in orm.scalars(queries.mine(hh, Batch).where(Batch.id.in_(drawn)))}
    sources = _sources(orm, who, batches)
    found = [
        _observation(batches[batch], way, rows, drawn[batch], sources.get(batch, ""))
        for (batch, way), rows in steps.items()
        if batch in batches
    ]
    return [o for o in found if o is not None]


def _sources(orm: Orm, who: Who, batches: dict[int, Batch]) -> dict[int, str]:
    lots = [b.fruit_lot_id for b in batches.values()]
    rows = orm.scalars(queries.mine(who.household_id, Lot).where(Lot.id.in_(lots)))
    by_lot = {row.id: row.source or "" for row in rows}
    return {b.id: by_lot.get(b.fruit_lot_id, "") for b in batches.values()}


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
