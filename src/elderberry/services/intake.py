"""What came in: fruit, pomace and bought juice that wait for a batch."""

from __future__ import annotations

from dataclasses import asdict, dataclass, replace
from datetime import date, datetime
from typing import TYPE_CHECKING, Any

from sqlalchemy.orm import Session as Orm

from elderberry.core import materials, quantities, waiting
from elderberry.core.errors import CoreError
from elderberry.core.flow import draft as flow
from elderberry.core.flow.draft import Form, Load
from elderberry.services import kitchens
from elderberry.services.errors import FieldError, NotFound
from elderberry.services.plan_view import predictions
from elderberry.services.who import Who
from elderberry.store import Lot, queries

if TYPE_CHECKING:
    from elderberry.services.plans import PlanRequest

SAID = ("wild_not_certain", "peel_waxed")
"""What is asked of fruit as it comes in, as the rule book says it."""
POUND_G = 453.59237
"""What a bare number means where the kitchen weighs in pounds [g]."""


@dataclass(frozen=True)
class NewLot:
    """What a person says of something that comes in; amounts as they are said."""

    fruit_key: str
    amount: str
    form: Form = "fresh"
    source: str = ""
    source_kind: str = "garden"
    picked_on: date | None = None
    ripeness: waiting.Ripeness = "ripe"
    where: waiting.Where = "cool"
    wild: bool = False
    certain: bool = False
    """Whether somebody who knows it has identified wild fruit for certain."""
    peel_waxed: bool = False
    brix: float | None = None
    ph: float | None = None
    cost: float | None = None
    """What it cost [in the kitchen's money]."""


@dataclass(frozen=True)
class IntakeView:
    """Something that came in, what is left of it, and how long it will wait."""

    id: int
    name: str
    fruit_key: str
    colour: str
    form: str
    amount: str
    kg: float
    left_kg: float
    source: str
    picked_on: date | None
    ripeness: str
    where: str
    brix: float | None
    ph: float | None
    cost_minor: int | None
    said: list[str]
    work_by_lo: date
    work_by: date
    work_by_hi: date
    came_at: datetime


def take_in(orm: Orm, who: Who, new: NewLot, now: datetime) -> Lot:
    """Something comes in.

    Raises:
        FieldError: an amount that cannot be read, or figures no such fruit has.
        Unknown: a fruit that is not listed.
    """
    fruit = materials.fruit(new.fruit_key)
    grams = _grams(orm, who, new)
    load = Load(fruit.key, grams / 1000.0, form=new.form)
    try:
        planned = flow.begin(load, kitchens.for_core(orm, who)).lots["fruit"]
    except CoreError as wrong:
        raise FieldError("/fruit_key", f"{wrong}. Nothing was recorded.") from wrong
    asked = zip(SAID, (new.wild and not new.certain, new.peel_waxed), strict=True)
    said = [word for word, so in asked if so]
    kept = {k: v for k, v in asdict(new).items() if k not in {"picked_on", "cost"}}
    row = Lot(
        household_id=who.household_id,
        key="fruit",
        kind=load.lot_kind,
        name=planned.name,
        fruit_key=fruit.key,
        predicted=predictions(planned),
        mass_g=grams,
        source=new.source or None,
        picked_on=new.picked_on or kitchens.today(orm, who, now),
        created_at=now,
        intake={
            **kept,
            "said": said,
            "cost_minor": None if new.cost is None else round(100 * new.cost),
        },
    )
    orm.add(row)
    orm.flush()
    return row


def keep_pomace(orm: Orm, who: Who, pomace: Lot, grams: float, now: datetime) -> Lot:
    """Pomace that a batch set aside comes in again as a lot of its own."""
    new = NewLot(pomace.fruit_key, f"{grams / 1000:.3f} kg", "pomace", pomace.name, where="cold")
    return take_in(orm, who, new, now)


def _grams(orm: Orm, who: Who, new: NewLot) -> float:
    """Mass of an amount as it was said: "9.6", "3 crates", "18 quinces", "5 lb"."""
    try:
        kilos = float(new.amount.replace(",", "."))
    except ValueError:
        kilos = None
    try:
        metric = kitchens.stored(orm, who).units == "metric"
        grams = (
            (1000.0 if metric else POUND_G) * kilos
            if kilos is not None
            else quantities.mass_g(
                quantities.parse(new.amount, kitchens.customs(orm, who)), new.fruit_key
            )
        )
    except CoreError as wrong:
        raise FieldError(
            "/amount", f"{str(wrong).splitlines()[0]} Nothing was recorded."
        ) from wrong
    if not 50 <= grams <= 500_000:
        raise FieldError("/amount", "Between 50 g and 500 kg comes in. Nothing was recorded.")
    return grams


def lots(orm: Orm, who: Who) -> list[IntakeView]:
    """What came in and is not used up, the most pressing first."""
    used = queries.taken_g(orm, who.household_id)
    rows = [r for r in queries.all_of(orm, who.household_id, Lot) if r.intake is not None]
    views = [_view(orm, who, row, used.get(row.id, 0.0)) for row in rows]
    return sorted((v for v in views if v.left_kg > 0.02), key=lambda v: v.work_by)


def find(orm: Orm, who: Who, lot_id: int) -> IntakeView:
    """One thing that came in.

    Raises:
        NotFound: missing, used up or another household's.
    """
    found = next((v for v in lots(orm, who) if v.id == lot_id), None)
    if found is None:
        raise NotFound("lot")
    return found


def filled_in(orm: Orm, who: Who, asked: PlanRequest) -> PlanRequest:
    """A request with what is known of the lot that it is taken from."""
    lot = find(orm, who, asked.lot_id or 0)
    if asked.fruit_kg > lot.left_kg * 1.001:
        raise FieldError("/fruit_kg", f"Only {lot.left_kg:.1f} kg of it are left.")
    form: Any = lot.form
    return replace(
        asked,
        fruit_key=lot.fruit_key,
        form=form,
        source=asked.source or lot.source,
        picked_on=asked.picked_on or lot.picked_on,
        brix=asked.brix if asked.brix is not None else lot.brix,
        ph=asked.ph if asked.ph is not None else lot.ph,
        said=tuple(dict.fromkeys((*asked.said, *lot.said))),
    )


def throw_away(orm: Orm, who: Who, lot_id: int) -> None:
    """What is left of it went bad or was given away: it waits no longer."""
    view = find(orm, who, lot_id)
    row = queries.one(orm, who.household_id, Lot, view.id, lock=True)
    assert row is not None  # the view was just made of it
    row.intake = {**(row.intake or {}), "gone_g": view.left_kg * 1000}


def _view(orm: Orm, who: Who, row: Lot, used_g: float) -> IntakeView:
    said = row.intake or {}
    mass = row.mass_g or 0.0
    picked = row.picked_on or row.created_at.astimezone(kitchens.zone(orm, who)).date()
    form = said.get("form", "fresh")
    days = waiting.waits_days(
        row.fruit_key, form, said.get("ripeness", "ripe"), said.get("where", "cool")
    )
    start = picked if form == "fresh" else row.created_at.date()
    early, typical, late = waiting.work_by(start, days)
    left = max(0.0, mass - used_g - float(said.get("gone_g", 0.0)))
    return IntakeView(
        id=row.id,
        name=row.name,
        fruit_key=row.fruit_key,
        colour=materials.fruit(row.fruit_key).colour,
        form=form,
        amount=said.get("amount", ""),
        kg=mass / 1000,
        left_kg=left / 1000,
        source=row.source or "",
        picked_on=row.picked_on,
        ripeness=said.get("ripeness", "ripe"),
        where=said.get("where", "cool"),
        brix=said.get("brix"),
        ph=said.get("ph"),
        cost_minor=said.get("cost_minor"),
        said=list(said.get("said", [])),
        work_by_lo=early,
        work_by=typical,
        work_by_hi=late,
        came_at=row.created_at,
    )
