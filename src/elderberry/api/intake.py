"""What came in and waits for a batch."""

from __future__ import annotations

from fastapi import APIRouter

from elderberry.api.deps import Now, Person, Transaction
from elderberry.api.once import ChangeRoute
from elderberry.api.sent.plans import LotCreate
from elderberry.services.planning import intake
from elderberry.services.planning.intake import IntakeView

router = APIRouter(prefix="/api/lots", tags=["lots"], route_class=ChangeRoute)


@router.get("")
def list_lots(orm: Transaction, who: Person) -> list[IntakeView]:
    """What waits, the most pressing first."""
    return intake.lots(orm, who)


@router.post("", status_code=201)
def take_in(sent: LotCreate, orm: Transaction, who: Person, now: Now) -> IntakeView:
    """Something comes in."""
    row = intake.take_in(orm, who, sent.new(), now)
    return intake.find(orm, who, row.id)


@router.delete("/{lot_id}")
def throw_away(lot_id: int, orm: Transaction, who: Person) -> list[IntakeView]:
    """What is left of it waits no longer."""
    intake.throw_away(orm, who, lot_id)
    return intake.lots(orm, who)
