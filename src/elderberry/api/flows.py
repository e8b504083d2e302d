"""Methods, and edits of a flow that is not kept yet."""

from __future__ import annotations

from fastapi import APIRouter

from elderberry.api.deps import Now, Person, Transaction
from elderberry.api.once import ChangeRoute
from elderberry.api.schemas import FlowEdit, MethodCreate
from elderberry.services.planning import flows, own_methods, plans
from elderberry.services.planning.flows import FlowView
from elderberry.services.planning.own_methods import Kept
from elderberry.services.planning.plan_view import MethodView

router = APIRouter(prefix="/api", tags=["methods"], route_class=ChangeRoute)


@router.get("/methods")
def list_methods(
    orm: Transaction, who: Person, fruit: str = "", form: str = "whole"
) -> list[MethodView]:
    """Every method, or those that suit a fruit in a form; the plainest first."""
    return own_methods.lines(orm, who, fruit, form)


@router.post("/methods", status_code=201)
def keep_method(sent: MethodCreate, orm: Transaction, who: Person, now: Now) -> Kept:
    """Keep a flow under a name: a new method, or the next version of one."""
    planned = plans.prepare(orm, who, sent.plan.request()) if sent.plan else None
    return own_methods.keep(orm, who, sent.new(), now, planned)


@router.post("/flows")
def edit_flow(sent: FlowEdit, orm: Transaction, who: Person) -> FlowView:
    """A flow after one change, with what could follow each of its lots."""
    change = flows.Edit(sent.act, sent.lot, sent.kind, sent.step, sent.params)
    return flows.edited(orm, who, sent.method_key, sent.rows(), sent.form, change)
