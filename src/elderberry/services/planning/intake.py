"""What came in: fruit, pomace and bought juice that wait for a batch."""

from __future__ import annotations

from dataclasses import asdict, dataclass, replace
from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

from sqlalchemy.orm import Session as Orm

from elderberry.core import materials, waiting
from elderberry.core.errors import CoreError
from elderberry.core.figures import CannotRead
from elderberry.core.flow import wiring
from elderberry.core.flow.inputs import Input, grams, lot_of
from elderberry.core.flow.said import form_of
from elderberry.core.lines import Line, read
from elderberry.core.quantities import Customs
from elderberry.services.errors import FieldError, NotFound
from elderberry.services.household import kitchens
from elderberry.services.planning.asked import GoesIn, PlanRequest
from elderberry.services.planning.plan_view import predictions
from elderberry.services.who import Who
from elderberry.store import Lot, queries

SAID = ("wild_not_certain", "peel_waxed")
"""What is asked of fruit as it comes in, as the rule book says it."""
WAITS: dict[str, waiting.Where] = {"whole": "cool", "frozen": "frozen", "dried": "cool"}
"""Where each form waits; any other in the cold."""
LEAST_G = 50.0
"""Less than this is not taken in; more than a kitchen works on is no line at all [g]."""
OLDEST = timedelta(days=3 * 366)
"""How long ago something may have been picked that comes in: frozen fruit waits years."""


@dataclass(frozen=True)
class NewLot:
    """What a person says of something that comes in: a line, and what is asked beside it."""

    line: str
    source: str = ""
    source_kind: str = "garden"
    picked_on: date | None = None
    ripeness: waiting.Ripeness = "ripe"
    where: waiting.Where | None = None
    """Where it waits; as its form usually does where nothing is said."""
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
        FieldError: a line that cannot be read, or figures no such fruit has.
    """
    line, mass = _read(orm, who, new.line)
    form = form_of(line)
    today = kitchens.today(orm, who, now)
    if new.picked_on and not today - OLDEST <= new.picked_on <= today + timedelta(days=1):
        raise FieldError("/picked_on", "That is no day it could have been picked on.")
    came_in = Input(wiring.START, line.material, grams(mass), form)
    try:
        planned = lot_of(came_in, mass, kitchens.for_core(orm, who).hardness_mg_l)
    except CoreError as wrong:
        raise FieldError("/line", f"{wrong}. Nothing was recorded.") from wrong
    asked = zip(SAID, (new.wild and not new.certain, new.peel_waxed), strict=True)
    said = [word for word, so in asked if so]
    kept = {k: v for k, v in asdict(new).items() if k not in {"line", "picked_on", "cost"}}
    row = Lot(
        household_id=who.household_id,
        key="fruit",
        kind=came_in.lot_kind,
        name=planned.name,
        material=line.material,
        predicted=predictions(planned),
        mass_g=mass,
        left_g=mass,
        source=new.source or None,
        picked_on=new.picked_on or today,
        created_at=now,
        intake={
            **kept,
            "amount": new.line,
            "form": form,
            "where": new.where or WAITS.get(form, "cold"),
            "said": said,
            "cost_minor": None if new.cost is None else round(100 * new.cost),
        },
    )
    orm.add(row)
    orm.flush()
    return row


def keep_pomace(
    orm: Orm, who: Who, pomace: Lot, material: str, mass_g: float, now: datetime
) -> Lot:
    """Pomace that a batch set aside comes in again as a lot of its own."""
    name = materials.fruit(material).name.lower()
    new = NewLot(f"{mass_g / 1000:.3f} kg {name} pomace", pomace.name)
    return take_in(orm, who, new, now)


def read_at(field: str, text: str, customs: Customs, of: str = "") -> Line:
    """A line as it was understood.

    Raises:
        FieldError: at its field, where it cannot be read.
    """
    try:
        return read(text, customs, of)
    except CannotRead as wrong:
        raise FieldError(field, f"{wrong} Nothing was recorded.") from wrong


def _read(orm: Orm, who: Who, text: str) -> tuple[Line, float]:
    """What a line says came in, and its mass [g]."""
    line = read_at("/line", text, kitchens.customs(orm, who))
    if line.material not in materials.fruits():
        words = "Fruit, its juice and its pomace wait here; anything else is said where it goes in."
        raise FieldError("/line", f"{words} Nothing was recorded.")
    if line.how != "amount" or line.mass_g is None:
        raise FieldError("/line", "Say how much came in. Nothing was recorded.")
    if line.mass_g.typ < LEAST_G:
        raise FieldError("/line", "Between 50 g and 500 kg comes in. Nothing was recorded.")
    return line, line.mass_g.typ


def lots(orm: Orm, who: Who) -> list[IntakeView]:
    """What came in and is not used up, the most pressing first."""
    here = kitchens.zone(orm, who)
    rows = queries.lots_waiting(orm, who.household_id, USED_UP_G)
    return sorted((_view(row, here) for row in rows), key=lambda v: v.work_by)


def find(orm: Orm, who: Who, lot_id: int) -> IntakeView:
    """One thing that came in.

    Raises:
        NotFound: missing, used up or another household's.
    """
    return _view(_row(orm, who, lot_id), kitchens.zone(orm, who))


def _row(orm: Orm, who: Who, lot_id: int) -> Lot:
    row = queries.one(orm, who.household_id, Lot, lot_id)
    if row is None or (row.left_g or 0.0) <= USED_UP_G:
        raise NotFound("lot")
    return row


USED_UP_G = 20.0
"""What is left of a lot below this is none [g]."""
GONE = "gone_g"


def keep_left(orm: Orm, row: Lot) -> None:
    """Keep what is left of something that came in, after some of it was taken or put back."""
    gone = float((row.intake or {}).get(GONE, 0.0))
    row.left_g = max(0.0, (row.mass_g or 0.0) - queries.taken_g(orm, row.id) - gone)
    orm.flush()


def filled_in(orm: Orm, who: Who, asked: PlanRequest) -> PlanRequest:
    """A request with what is known of the lots that it is taken from."""
    if not any(i.lot_id for i in asked.inputs):
        return asked
    taken = [(i, find(orm, who, i.lot_id) if i.lot_id else None) for i in asked.inputs]
    said = [word for _, lot in taken if lot for word in lot.said]
    return replace(
        asked,
        inputs=tuple(_as_it_came(given, lot) if lot else given for given, lot in taken),
        said=tuple(dict.fromkeys((*asked.said, *said))),
    )


def _as_it_came(given: GoesIn, lot: IntakeView) -> GoesIn:
    if (given.grams or 0.0) > lot.left_kg * 1001:
        raise FieldError("/inputs/0/grams", f"Only {lot.left_kg:.3g} kg of it are left.")
    return replace(
        given,
        material=lot.fruit_key,
        form=lot.form,
        source=given.source or lot.source,
        picked_on=given.picked_on or lot.picked_on,
        brix=given.brix if given.brix is not None else lot.brix,
        ph=given.ph if given.ph is not None else lot.ph,
    )


def throw_away(orm: Orm, who: Who, lot_id: int) -> None:
    """What is left of it went bad or was given away: it waits no longer."""
    row = _row(orm, who, lot_id)
    row.intake = {**(row.intake or {}), GONE: row.left_g}
    keep_left(orm, row)


def _view(row: Lot, here: ZoneInfo) -> IntakeView:
    said = row.intake or {}
    mass = row.mass_g or 0.0
    picked = row.picked_on or row.created_at.astimezone(here).date()
    form = said.get("form", "whole")
    days = waiting.waits_days(
        row.material, form, said.get("ripeness", "ripe"), said.get("where", "cool")
    )
    start = picked if form == "whole" else row.created_at.date()
    early, typical, late = waiting.work_by(start, days)
    return IntakeView(
        id=row.id,
        name=row.name,
        fruit_key=row.material,
        colour=materials.fruit(row.material).colour,
        form=form,
        amount=said.get("amount", ""),
        kg=mass / 1000,
        left_kg=(row.left_g or 0.0) / 1000,
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
