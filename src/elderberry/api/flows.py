"""Methods, and edits of a flow that is not kept yet."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import APIRouter, Query

from elderberry.api.deps import Now, Person, Transaction
from elderberry.api.once import ChangeRoute
from elderberry.api.sent.plans import FlowEdit, MethodCreate, MethodIn, RecipeAsk
from elderberry.formats.methods import MethodFile, file_of, row_of
from elderberry.formats.recipes import NoRecipe, Recipe, read
from elderberry.services.errors import FieldError
from elderberry.services.planning import flows, own_methods, plans, recipes
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


@router.get("/methods/schema.json")
def method_schema() -> dict[str, Any]:
    """The JSON Schema of a method as a file."""
    return MethodFile.model_json_schema()


@router.get("/methods/{key}.json")
def method_file(key: str, orm: Transaction, who: Person) -> dict[str, Any]:
    """A method as a file."""
    return file_of(own_methods.named(orm, who, key))


@router.get("/methods/{key}/recipe.json")
def method_recipe(
    key: str, orm: Transaction, who: Person, of: Annotated[str, Query(max_length=200)]
) -> dict[str, Any]:
    """What a method makes of a line, as schema.org describes a recipe."""
    return recipes.of_method(orm, who, key, of)


@router.post("/recipes")
def read_recipe(sent: RecipeAsk, who: Person) -> Recipe:  # noqa: ARG001  whoever is signed in
    """What goes in by a recipe: its lines, to be read and asked about in a plan."""
    try:
        return read(sent.text)
    except NoRecipe as none:
        raise FieldError("/text", str(none)) from none


@router.post("/methods/file", status_code=201)
def take_in_method(sent: MethodIn, orm: Transaction, who: Person, now: Now) -> Kept:
    """Keep a method that came as a file; it claims nothing, and keeps where it is from."""
    return own_methods.take_in(orm, who, row_of(sent), now)


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
