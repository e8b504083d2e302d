"""Starting a batch: the plan becomes lots, operations and the edges between them."""

from __future__ import annotations

from dataclasses import asdict
from datetime import datetime
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.orm import Session as Orm

from elderberry.core import materials
from elderberry.core import method as methods
from elderberry.core.errors import Refusal
from elderberry.core.estimates import Estimate
from elderberry.core.flow import draft as flow
from elderberry.core.flow import kinds, wiring
from elderberry.core.flow.draft import Lot, Operation
from elderberry.services import kitchens, plan_view, plans
from elderberry.services.errors import NotFound
from elderberry.services.plan_view import predictions
from elderberry.services.who import Who
from elderberry.store import Batch, Event, Household, OperationLot, queries
from elderberry.store import Lot as StoredLot
from elderberry.store import Operation as StoredOperation
from elderberry.store.base import Json

POSITION_STEP = 100
"""Operations are numbered with room between, for steps that turn out to be needed."""


def start(
    orm: Orm, who: Who, request: plans.PlanRequest, now: datetime, key: str | None = None
) -> Batch:
    """A batch from a plan.

    Raises:
        Refusal: a stop stands that nothing at a later step could clear.
        CoreError: a figure that cannot be, or a fruit that is not juiced this way.
    """
    orm.scalar(select(Household).where(Household.id == who.household_id).with_for_update())
    if key and (done := queries.by_idempotency_key(orm, who.household_id, key)):
        return find(orm, who, done.batch_id or 0)
    prepared = plans.prepare(orm, who, request)
    plan = prepared.plan()
    for stop in plan.verdict.stops:
        if not stop.in_cook:
            raise Refusal(stop)
    batch = _store_batch(orm, who, plan, prepared.request, now)
    lots = {lot.key: _store_lot(orm, who, batch, plan, lot, now) for lot in _made_lots(plan)}
    lots["fruit"] = batch.fruit_lot_id
    for number, operation in enumerate(plan.operations, start=1):
        _store_operation(orm, who, batch, operation, number * POSITION_STEP, lots)
    record(orm, who, now, "batch_started", batch=batch, key=key)
    return batch


def find(orm: Orm, who: Who, batch_id: int, lock: bool = False) -> Batch:
    """A batch of this household.

    Raises:
        NotFound: missing, or another household's.
    """
    batch = queries.one(orm, who.household_id, Batch, batch_id, lock=lock)
    if batch is None:
        raise NotFound("batch")
    return batch


def record(
    orm: Orm,
    who: Who,
    now: datetime,
    kind: str,
    *,
    batch: Batch | None = None,
    operation: StoredOperation | None = None,
    jar_id: int | None = None,
    data: Json | None = None,
    key: str | None = None,
) -> Event:
    """Append an event."""
    event = Event(
        household_id=who.household_id,
        batch_id=batch.id if batch else operation.batch_id if operation else None,
        operation_id=operation.id if operation else None,
        jar_id=jar_id,
        kind=kind,
        at=now,
        person_id=who.person_id,
        data=data or {},
        idempotency_key=key,
    )
    orm.add(event)
    orm.flush()
    return event


def _store_batch(
    orm: Orm, who: Who, plan: methods.Plan, request: plans.PlanRequest, now: datetime
) -> Batch:
    fruit = materials.fruit(plan.load.fruit_key)
    came_in = StoredLot(
        household_id=who.household_id,
        key="fruit",
        kind=plan.load.lot_kind,
        name=flow.name_of(plan.load),
        fruit_key=fruit.key,
        predicted=predictions(plan.lots["fruit"]),
        mass_g=plan.load.fruit_kg * 1000,
        source=request.source or None,
        picked_on=request.picked_on,
        created_at=now,
        from_lot_id=request.lot_id,
    )
    orm.add(came_in)
    orm.flush()
    view = plan_view.view(plan)
    batch = Batch(
        household_id=who.household_id,
        code=_next_code(orm, who, fruit.key, now),
        title=view.title,
        method_key=plan.method.key,
        method_version=plan.method.version,
        fruit_key=fruit.key,
        fruit_lot_id=came_in.id,
        keep=plan.load.keep,
        load=_load(plan, request),
        predicted={
            "juice_l": asdict(plan.juice_l),
            "minutes": asdict(plan.minutes),
            "expected": asdict(view.expected),
            "generous": asdict(view.generous),
        },
        process=asdict(view.process) if view.process else {},
        started_at=now,
        started_by=who.person_id,
        version=1,
    )
    orm.add(batch)
    orm.flush()
    came_in.batch_id = batch.id
    return batch


def _load(plan: methods.Plan, request: plans.PlanRequest) -> Json:
    """What was asked for, with the flow as it was then: a method may have moved on since."""
    return {
        "fruit_kg": plan.load.fruit_kg,
        "form": plan.load.form,
        "brix": request.brix,
        "ph": request.ph,
        "ingredients_g": dict(plan.load.ingredients_g),
        "holds_g": dict(plan.holds_g),
        "jar_kinds": list(plan.load.jar_kinds),
        "said": sorted(plan.load.said),
        "watered_down": plan.watered_down,
        "method": _method(plan.method),
        "product": plan.product,
    }


def _method(method: methods.Method) -> dict[str, Any]:
    row = asdict(method)
    return {**row, "steps": wiring.rows_of(method.steps)}


def _next_code(orm: Orm, who: Who, fruit_key: str, now: datetime) -> str:
    """A code such as DM-26-07: the fruit, the year, the household's seventh batch of it."""
    year = now.astimezone(kitchens.zone(orm, who)).year % 100
    consonants = [c for c in fruit_key[1:] if c.isalpha() and c not in "aeiou"]
    letters = (fruit_key[0] + (consonants[0] if consonants else fruit_key[1])).upper()
    so_far = select(func.count()).where(
        Batch.household_id == who.household_id, Batch.code.like(f"__-{year:02d}-%")
    )
    return f"{letters}-{year:02d}-{(orm.scalar(so_far) or 0) + 1:02d}"


def _made_lots(plan: methods.Plan) -> list[Lot]:
    return [lot for key, lot in plan.lots.items() if key != "fruit"]


def _store_lot(
    orm: Orm, who: Who, batch: Batch, plan: methods.Plan, lot: Lot, now: datetime
) -> int:
    row = StoredLot(
        household_id=who.household_id,
        batch_id=batch.id,
        key=lot.key,
        kind=lot.kind,
        name=lot.name,
        fruit_key=plan.load.fruit_key,
        predicted=predictions(lot),
        created_at=now,
    )
    orm.add(row)
    orm.flush()
    return row.id


def _store_operation(
    orm: Orm, who: Who, batch: Batch, operation: Operation, position: int, lots: dict[str, int]
) -> StoredOperation:
    row = add_operation(
        orm, who, batch, operation.key, operation.kind, position,
        operation.minutes, _params(operation),
    )  # fmt: skip
    sides = [("in", operation.takes), ("out", operation.gives)]
    for side, keys in sides:
        for lot in keys:
            connect(orm, who, row, lots[lot], side)
    return row


def _params(operation: Operation) -> Json:
    """The figures of its words, with the step of the method it belongs to and what it holds."""
    holds = asdict(operation.holds_l) if operation.holds_l else None
    return {**operation.params, "step": operation.step, "holds_l": holds}


def add_operation(
    orm: Orm, who: Who, batch: Batch, key: str, kind: str, position: int,
    minutes: Estimate, params: Json,
) -> StoredOperation:  # fmt: skip
    """A step of a batch, on the first station of the kind it needs."""
    station = kitchens.station(orm, who, kinds.kind(kind).station)
    row = StoredOperation(
        household_id=who.household_id,
        batch_id=batch.id,
        position=position,
        key=key,
        kind=kind,
        station_id=station.id,
        minutes_lo=minutes.lo,
        minutes=minutes.typ,
        minutes_hi=minutes.hi,
        params=params,
    )
    orm.add(row)
    orm.flush()
    return row


def connect(orm: Orm, who: Who, operation: StoredOperation, lot_id: int, side: str) -> None:
    """An edge of the flow."""
    orm.add(
        OperationLot(
            household_id=who.household_id, operation_id=operation.id, lot_id=lot_id, side=side
        )
    )
    orm.flush()
