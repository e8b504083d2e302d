"""Editing a flow: one change at a time, checked by the core, with what could follow each lot."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from sqlalchemy.orm import Session as Orm

from elderberry.core.flow import edits, wiring
from elderberry.core.flow.inputs import forms
from elderberry.core.flow.kinds import kind
from elderberry.core.method import NO_FRUIT
from elderberry.services.planning import own_methods
from elderberry.services.who import Who


@dataclass(frozen=True)
class Edit:
    """A change: "insert" a kind after a lot, or "part" the lot for an end of its own; "swap" a step
    for another kind; "remove", "earlier", "later" or "choose" at a step.
    """

    act: str
    lot: str = ""
    kind: str = ""
    step: str = ""
    params: Mapping[str, Any] = field(default_factory=dict)


@dataclass(frozen=True)
class Possible:
    """A kind of step that could be done next."""

    kind: str
    role: str
    verb: str
    look_for: str


@dataclass(frozen=True)
class FlowView:
    """A flow as it is sent back, what could follow a lot, and what could stand for a step."""

    steps: list[dict[str, Any]]
    following: list[Possible]
    instead: list[Possible]


def edited(
    orm: Orm, who: Who, method_key: str, rows: Sequence[Mapping[str, Any]], form: str, edit: Edit
) -> FlowView:
    """A flow after a change; the method's own where no rows are sent.

    Raises:
        DoesNotConnect: the change would take the flow apart.
        Unknown: no such method.
    """
    chosen = own_methods.find(orm, who, method_key)[0] if method_key else None
    steps = wiring.wire(rows) if rows or chosen is None else chosen.steps
    begins = chosen.begins_with if chosen else {}
    first = begins.get(wiring.START, "water") if form == NO_FRUIT else forms()[form].lot_kind
    start = {wiring.START: first, **{k: v for k, v in begins.items() if k != wiring.START}}
    made = _changed(steps, edit, start)
    asked = edit.act == "show"
    following = edits.may_follow(made, edit.lot, start) if asked and edit.lot else []
    instead = edits.may_replace(made, edit.step, start) if asked and edit.step else {}
    return FlowView(
        wiring.rows_of(made),
        [_possible(key, (key,)) for key in following],
        [_possible(key, chain) for key, chain in instead.items()],
    )


def _possible(key: str, chain: Sequence[str]) -> Possible:
    """A step that could be done, by all that it takes: "mash and press"."""
    what = kind(key)
    verbs = " and ".join(kind(k).words["verb"] for k in chain)
    return Possible(key, what.role, verbs, what.words["look_for"])


def _changed(steps: wiring.Steps, edit: Edit, start: wiring.Inputs) -> wiring.Steps:
    """The flow after the change; unchanged where it was only to be shown."""
    match edit.act:
        case "insert":
            made = edits.insert(steps, edit.lot, edit.kind, start)
        case "part":
            made = edits.part(steps, edit.lot, start)
        case "swap":
            made = edits.swap(steps, edit.step, edit.kind, start)
        case "remove":
            made = edits.remove(steps, edit.step, start)
        case "earlier" | "later":
            made = edits.move(steps, edit.step, later=edit.act == "later", inputs=start)
        case "choose":
            made = edits.choose(steps, edit.step, edit.params, start)
        case _:
            made = steps
    return made
