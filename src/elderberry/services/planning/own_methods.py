"""Methods: those that ship, and the household's own, each in all its versions."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session as Orm

from elderberry.core import method as methods
from elderberry.core.errors import Unknown
from elderberry.core.flow import wiring
from elderberry.core.flow.rows import row_of_end, row_of_input
from elderberry.core.scaling import as_recipe
from elderberry.services.errors import FieldError, NotFound
from elderberry.services.household import kitchens
from elderberry.services.planning.plan_view import MethodView, method_view
from elderberry.services.planning.prepared import Prepared
from elderberry.services.who import Who
from elderberry.store import OwnMethod, queries


@dataclass(frozen=True)
class NewMethod:
    """A flow that is to be kept under a name."""

    name: str
    based_on: str
    steps: tuple[Mapping[str, Any], ...]
    adapted_from: str = ""
    note: str = ""
    fruits: tuple[str, ...] = ()


@dataclass(frozen=True)
class Kept:
    """What keeping it made of it."""

    method: MethodView
    steps: list[dict[str, Any]] = field(default_factory=list)


def find(orm: Orm, who: Who, key: str) -> tuple[methods.Method, bool]:
    """A method by key in its newest version; and whether it is the household's.

    Raises:
        Unknown: neither ships nor is this household's.
    """
    if key in methods.methods():
        return methods.method(key), False
    rows = [r for r in queries.all_of(orm, who.household_id, OwnMethod) if r.key == key]
    if not rows:
        raise Unknown("method", key)
    row = max(rows, key=lambda r: r.version)
    return methods.of_row({**row.row, "version": row.version}), True


def named(orm: Orm, who: Who, key: str) -> methods.Method:
    """A method by the key in an address.

    Raises:
        NotFound: neither ships nor is this household's.
    """
    try:
        return find(orm, who, key)[0]
    except Unknown:
        raise NotFound("method") from None


def everything(orm: Orm, who: Who) -> list[tuple[methods.Method, bool]]:
    """Every method in its newest version, those that ship first, the plainest in front."""
    newest: dict[str, OwnMethod] = {}
    for row in queries.all_of(orm, who.household_id, OwnMethod):
        newest[row.key] = row
    own = [methods.of_row({**r.row, "version": r.version}) for r in newest.values()]
    shipped = [(m, False) for m in methods.methods().values()]
    return shipped + [(m, True) for m in sorted(own, key=lambda m: m.name)]


def lines(orm: Orm, who: Who, fruit_key: str = "", form: str = "") -> list[MethodView]:
    """Every method, or those that suit a fruit in a form; last what this kitchen cannot do."""
    here = kitchens.for_core(orm, who)
    lacks = here.lacks
    found = [
        (m, own)
        for m, own in everything(orm, who)
        if not fruit_key or methods.fits(m, fruit_key, form)
    ]
    found.sort(key=lambda pair: bool(pair[0].stations & lacks))
    return [method_view(m, own, here.units, lacks) for m, own in found]


def usual(
    orm: Orm, who: Who, fruit_key: str, form: str, lacks: frozenset[str] = frozenset()
) -> str:
    """The plainest method that suits a fruit in a form, and a kitchen's lacks where one does.

    Raises:
        CannotTell: none does.
        Unknown: the fruit is not listed.
    """
    offered = (m for m, _ in everything(orm, who))
    return methods.plainest(offered, fruit_key, form, lacks).key


def keep(
    orm: Orm, who: Who, new: NewMethod, now: datetime, planned: Prepared | None = None
) -> Kept:
    """Keep a flow as a method: a new one, or the next version of one of the household's own.

    Where it was planned with, what goes in besides the fruit is kept in its proportions to it, and
    its ends as they are kept and called.

    Raises:
        FieldError: no name, or the name of a method that ships.
        DoesNotConnect: the flow does not hang together.
        Unknown: what it is based on.
    """
    base, _ = find(orm, who, new.based_on)
    _check_name(new.name)
    inputs = as_recipe(planned.brief) if planned else base.inputs
    ends = tuple(replace(e, jar_kinds=()) for e in planned.brief.ends) if planned else base.ends
    wanted = wiring.wire(new.steps) if new.steps else (planned.chosen if planned else base).steps
    begins = {
        wiring.START: base.begins_with[wiring.START], **{i.key: i.lot_kind for i in inputs}
    }  # fmt: skip
    steps = wiring.check(wanted, begins)
    row = {
        "name": new.name,
        "school": base.school,
        "evidence": "own",
        "source": f"this household, from {base.name}",
        "fruits": list(new.fruits or base.fruits),
        "forms": list(base.forms),
        "begins": base.begins,
        "adapted_from": new.adapted_from,
        "note": new.note,
        "inputs": [row_of_input(i) for i in inputs],
        "ends": [row_of_end(e) for e in ends],
        "steps": wiring.rows_of(steps),
    }
    return _stored(orm, who, row, now)


def take_in(orm: Orm, who: Who, row: Mapping[str, Any], now: datetime) -> Kept:
    """Keep a method that came as a file, with its source; the same file again changes nothing.

    Raises:
        FieldError: it has the name of a method that ships.
    """
    _check_name(str(row["name"]))
    return _stored(orm, who, row, now, same_again=False)


def _check_name(name: str) -> None:
    if any(m.name.lower() == name.lower() for m in methods.methods().values()):
        raise FieldError("/name", "A method of that name ships with Elderberry. Choose another.")


def _stored(
    orm: Orm, who: Who, row: Mapping[str, Any], now: datetime, *, same_again: bool = True
) -> Kept:
    """A method as the next version of that name; also where the newest is the same, if asked."""
    name = str(row["name"])
    key = "own_" + (re.sub(r"[^a-z0-9]+", "_", name.lower()).strip("_")[:50] or "method")
    row = {**row, "key": key, "version": 1}
    before = [r for r in queries.all_of(orm, who.household_id, OwnMethod) if r.key == key]
    kept = max(before, key=lambda r: r.version, default=None)
    if kept is None or same_again or methods.of_row(kept.row) != methods.of_row(row):
        kept = OwnMethod(
            household_id=who.household_id,
            key=key,
            version=1 + (kept.version if kept else 0),
            name=name,
            row=row,
            saved_at=now,
            saved_by=who.person_id,
        )
        orm.add(kept)
        orm.flush()
    made = methods.of_row({**row, "version": kept.version})
    return Kept(method_view(made, True, kitchens.units(orm, who)), wiring.rows_of(made.steps))


def versions(orm: Orm, who: Who, key: str) -> list[int]:
    """Versions that there are of a household's own method, oldest first."""
    return [r.version for r in queries.all_of(orm, who.household_id, OwnMethod) if r.key == key]
