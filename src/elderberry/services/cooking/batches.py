"""Starting a batch: the plan becomes lots, operations and the edges between them."""

from __future__ import annotations

from dataclasses import asdict, replace
from datetime import datetime

from sqlalchemy import func, select
from sqlalchemy.orm import Session as Orm

from elderberry.core import plan as core
from elderberry.core.errors import Refusal
from elderberry.core.estimates import Estimate
from elderberry.core.flow import kinds
from elderberry.core.flow.inputs import Brief
from elderberry.core.flow.lots import Lot
from elderberry.core.flow.rows import row_of_brief
from elderberry.core.flow.steps import Operation
from elderberry.core.method import row_of
from elderberry.core.names import letters
from elderberry.services.cooking.folder import rows_of_forecasts
from elderberry.services.household import kitchens
from elderberry.services.journal import record
from elderberry.services.planning import intake, plan_view, plans
from elderberry.services.planning.asked import GoesIn, PlanRequest
from elderberry.services.planning.plan_view import predictions
from elderberry.services.who import Who
from elderberry.store import Batch, OperationLot
from elderberry.store import Lot as StoredLot
from elderberry.store import Operation as StoredOperation
from elderberry.store.base import Json

POSITION_STEP = 100
"""Operations are numbered with room between, for steps that turn out to be needed."""


def start(orm: Orm, who: Who, request: PlanRequest, now: datetime) -> Batch:
    """A batch from a plan.

    Raises:
        Refusal: a stop stands that nothing at a later step could clear.
        CoreError: a figure that cannot be, or a fruit that is not juiced this way.
    """
    prepared = plans.prepare(orm, who, request)
    plan = prepared.plan()
    for stop in plan.verdict.stops:
        if not stop.in_cook:
            raise Refusal(stop)
    batch = _store_batch(orm, who, plan, now)
    given = {i.key: g for i, g in zip(plan.brief.inputs, prepared.request.inputs, strict=False)}
    lots = {key: _lot(who, batch, lot, given.get(key), now) for key, lot in plan.lots.items()}
    steps = [
        _operation(
            orm, who, batch, operation.key, operation.kind, number * POSITION_STEP,
            operation.minutes, _params(operation),
        )
        for number, operation in enumerate(plan.operations, start=1)
    ]  # fmt: skip
    orm.add_all([*lots.values(), *steps])
    orm.flush()
    for step, operation in zip(steps, plan.operations, strict=True):
        for side, keys in (("in", operation.takes), ("out", operation.gives)):
            orm.add_all(_edge(who, step, lots[key].id, side) for key in keys)
    orm.flush()
    for taken in {g.lot_id for g in given.values() if g.lot_id}:
        intake.keep_left(orm, orm.get_one(StoredLot, taken))
    record(orm, who, now, "batch_started", batch=batch)
    return batch


def _store_batch(orm: Orm, who: Who, plan: core.Plan, now: datetime) -> Batch:
    view = plan_view.view(plan)
    main = view.ends[0]
    batch = Batch(
        household_id=who.household_id,
        code=_next_code(orm, who, plan.brief.main.material, now),
        title=view.title,
        method_key=plan.method.key,
        method_version=plan.method.version,
        brief=row_of_brief(_as_planned(plan)),
        method=row_of(plan.method),
        predicted={
            "juice_l": asdict(main.litres),
            "minutes": asdict(plan.minutes),
            "expected": asdict(main.expected),
            "generous": asdict(main.generous),
            "forecasts": rows_of_forecasts(plan.forecasts),
        },
        process=asdict(main.process) if main.process else {},
        started_at=now,
        started_by=who.person_id,
        version=1,
        material=plan.brief.main.material,
    )
    orm.add(batch)
    orm.flush()
    return batch


def _as_planned(plan: core.Plan) -> Brief:
    """What goes in and its ends, with the jars and basket loads that were planned."""
    ends = tuple(replace(e.end, jar_kinds=e.kinds) for e in plan.ends)
    return replace(plan.brief, ends=ends, loads=plan.loads or None)


def _next_code(orm: Orm, who: Who, material: str, now: datetime) -> str:
    """A code such as DM-26-07: the fruit, the year, the household's seventh batch of the year."""
    year = now.astimezone(kitchens.zone(orm, who)).year % 100
    so_far = select(func.count()).where(
        Batch.household_id == who.household_id, Batch.code.like(f"__-{year:02d}-%")
    )
    return f"{letters(material)}-{year:02d}-{(orm.scalar(so_far) or 0) + 1:02d}"


def _lot(who: Who, batch: Batch, lot: Lot, given: GoesIn | None, now: datetime) -> StoredLot:
    """A lot of a batch; what goes in says what it is, where it came from and how much it was."""
    return StoredLot(
        household_id=who.household_id,
        batch_id=batch.id,
        key=lot.key,
        kind=lot.kind,
        name=lot.name,
        material=given.material if given else "",
        predicted=predictions(lot),
        mass_g=lot.mass_g.typ if given and lot.mass_g.typ > 0 else None,
        source=given.source or None if given else None,
        picked_on=given.picked_on if given else None,
        created_at=now,
        from_lot_id=given.lot_id if given else None,
    )


def _params(operation: Operation) -> Json:
    """The figures of its words, with the step of the method it belongs to and what it holds."""
    holds = asdict(operation.holds_l) if operation.holds_l else None
    return {**operation.params, "step": operation.step, "holds_l": holds}


def _operation(
    orm: Orm, who: Who, batch: Batch, key: str, kind: str, position: int,
    minutes: Estimate, params: Json,
) -> StoredOperation:  # fmt: skip
    """A step of a batch, on the first station of the kind it needs."""
    return StoredOperation(
        household_id=who.household_id,
        batch_id=batch.id,
        position=position,
        key=key,
        kind=kind,
        station_id=kitchens.station(orm, who, kinds.kind(kind).station).id,
        minutes_lo=minutes.lo,
        minutes=minutes.typ,
        minutes_hi=minutes.hi,
        params=params,
    )


def add_operation(
    orm: Orm, who: Who, batch: Batch, key: str, kind: str, position: int,
    minutes: Estimate, params: Json,
) -> StoredOperation:  # fmt: skip
    """A step that a batch turns out to need, on the first station of the kind it needs."""
    row = _operation(orm, who, batch, key, kind, position, minutes, params)
    orm.add(row)
    orm.flush()
    return row


def _edge(who: Who, operation: StoredOperation, lot_id: int, side: str) -> OperationLot:
    return OperationLot(
        household_id=who.household_id, operation_id=operation.id, lot_id=lot_id, side=side
    )


def connect(orm: Orm, who: Who, operation: StoredOperation, lot_id: int, side: str) -> None:
    """An edge of the flow."""
    orm.add(_edge(who, operation, lot_id, side))
    orm.flush()
