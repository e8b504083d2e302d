"""The kitchen, Today and the hob rail."""

from __future__ import annotations

from fastapi import APIRouter

from elderberry.api.deps import Now, Person, Transaction
from elderberry.api.once import ChangeRoute
from elderberry.api.sent.furnishing import OwnProcessCreate
from elderberry.services.day import stove, today
from elderberry.services.day.shown import HobSlot, StoveView, TodayView
from elderberry.services.household import kitchen_view, own_processes, safety_page
from elderberry.services.household.kitchen_view import KitchenView
from elderberry.services.household.safety_page import SafetyView

router = APIRouter(prefix="/api", tags=["kitchen"], route_class=ChangeRoute)


@router.get("/kitchen")
def kitchen(orm: Transaction, who: Person) -> KitchenView:
    """The kitchen: altitude, boiling point, fruits, jars and places."""
    return kitchen_view.view(orm, who)


@router.get("/today")
def what_needs_hands(orm: Transaction, who: Person, now: Now) -> TodayView:
    """What needs hands now and next."""
    return today.view(orm, who, now)


@router.get("/stove")
def stove_now(orm: Transaction, who: Person, now: Now) -> StoveView:
    """Every step that is on or could begin, of all batches."""
    return stove.view(orm, who, now)


@router.get("/hob")
def hob(orm: Transaction, who: Person, now: Now) -> list[HobSlot]:
    """One slot for each station in use."""
    return today.hob(orm, who, now)


@router.get("/safety")
def safety(orm: Transaction, who: Person) -> SafetyView:
    """Every tested time and every rule, with its source."""
    return safety_page.view(orm, who)


@router.post("/own-processes", status_code=201)
def enter_own_process(
    sent: OwnProcessCreate, orm: Transaction, who: Person, now: Now
) -> SafetyView:
    """Enter a tested process for a product that has none."""
    own_processes.enter(orm, who, own_processes.NewOwnProcess(**sent.model_dump()), now)
    return safety_page.view(orm, who)
