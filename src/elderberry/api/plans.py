"""Plans, the lines of what goes into them, and ingredients that no list knows."""

from __future__ import annotations

from fastapi import APIRouter, Response

from elderberry.api.deps import Person, Transaction
from elderberry.api.once import ChangeRoute
from elderberry.api.sent.plans import (
    AmountAsk,
    CostsAsk,
    IngredientCreate,
    LinesAsk,
    MarkAsk,
    PlanCreate,
    SwapsAsk,
)
from elderberry.api.sheets import A_SHEET, as_pdf
from elderberry.core.safety import STANDING_LINE
from elderberry.services.household import kitchens, own_ingredients
from elderberry.services.household.own_ingredients import IngredientView, NewIngredient
from elderberry.services.planning import card, lines, marks, plans, shopping, swaps
from elderberry.services.planning.lines import AmountView, LineView
from elderberry.services.planning.marks import Marked
from elderberry.services.planning.plan_view import PlanView
from elderberry.services.planning.plans import Difference
from elderberry.services.planning.shopping import ShoppingView
from elderberry.services.planning.swaps import Swap

router = APIRouter(prefix="/api", tags=["plans"], route_class=ChangeRoute)


@router.post("/plans")
def plan(sent: PlanCreate, orm: Transaction, who: Person) -> PlanView:
    """A plan, computed and not kept."""
    return plans.show(orm, who, sent.request())


@router.post("/plans/shopping")
def shopping_list(sent: PlanCreate, orm: Transaction, who: Person) -> ShoppingView:
    """What a plan still needs: what goes in, jars and lids."""
    return shopping.view(orm, who, sent.request())


@router.post("/plans/shopping.pdf", response_class=Response, responses=A_SHEET)
def shopping_sheet(sent: PlanCreate, orm: Transaction, who: Person) -> Response:
    """The same as a sheet of paper."""
    found = shopping.view(orm, who, sent.request())
    printed = shopping.sheet(found, STANDING_LINE)
    return as_pdf(printed, kitchens.units(orm, who), "shopping-list")


@router.post("/plans/card.pdf", response_class=Response, responses=A_SHEET)
def plan_card(sent: PlanCreate, orm: Transaction, who: Person) -> Response:
    """A plan, or a method as it is planned, as a card on a sheet of paper."""
    units, plan = kitchens.units(orm, who), plans.show(orm, who, sent.request())
    return as_pdf(card.of_plan(plan, units, STANDING_LINE), units, plan.method.key or "plan")


@router.post("/plans/costs")
def costs(sent: CostsAsk, orm: Transaction, who: Person) -> list[Difference]:
    """What each choice at a step costs and buys."""
    return plans.differences(orm, who, sent.plan.request(), sent.step)


@router.post("/plans/sweeteners")
def swap_sweetener(sent: SwapsAsk, orm: Transaction, who: Person) -> list[Swap]:
    """What could sweeten instead of a line, as sweet, and what that changes."""
    return swaps.swaps(orm, who, sent.plan.request(), sent.place)


@router.post("/plans/marks")
def set_mark(sent: MarkAsk, orm: Transaction, who: Person) -> Marked:
    """The line that brings what is filled to a mark on one of its scales."""
    return marks.mark(orm, who, sent.plan.request(), sent.scale, sent.value, sent.end)


@router.post("/lines")
def read_lines(sent: LinesAsk, orm: Transaction, who: Person) -> list[LineView]:
    """What each line was understood to be, or why it was not."""
    return lines.views(orm, who, sent.lines)


@router.post("/amounts")
def read_amount(sent: AmountAsk, orm: Transaction, who: Person) -> AmountView:
    """What an amount comes to that is said as one says it."""
    return lines.amount(orm, who, sent.text, sent.quantity)


@router.get("/ingredients")
def list_ingredients(orm: Transaction, who: Person) -> list[IngredientView]:
    """The household's own ingredients."""
    return own_ingredients.every(orm, who)


@router.post("/ingredients", status_code=201)
def name_ingredient(sent: IngredientCreate, orm: Transaction, who: Person) -> list[IngredientView]:
    """Something that no list knows becomes an ingredient of the household."""
    return own_ingredients.name_it(orm, who, NewIngredient(**sent.model_dump()))
