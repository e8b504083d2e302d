"""A household's own tested processes: entered with their source, never lifting another stop."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy.orm import Session as Orm

from elderberry.core import process
from elderberry.core.process import OwnProcess
from elderberry.services.errors import FieldError
from elderberry.services.who import Who
from elderberry.store import OwnProcessEntry, furniture, queries


@dataclass(frozen=True)
class NewOwnProcess:
    """What a person enters; minutes are asked for the kitchen's own altitude."""

    product: str
    jar_ml: float
    minutes: int
    up_to_m: float
    max_ph: float
    source: str


@dataclass(frozen=True)
class OwnProcessView:
    """An own process as the Safety page shows it."""

    id: int
    product: str
    jar_ml: float
    minutes: dict[str, int]
    max_ph: float
    source: str


def enter(orm: Orm, who: Who, new: NewOwnProcess, now: datetime) -> None:
    """Enter a tested process for a product that has none.

    Raises:
        FieldError: a product that has a tested time already, or must not be processed at all.
        CoreError: a figure that no tested process has.
    """
    if new.product not in process.fillable():
        raise FieldError(
            "/product",
            "An own source can only fill a gap. This product has its tested time, or must not be "
            "processed at any acidity. Nothing was recorded.",
        )
    made = OwnProcess(
        new.product, new.jar_ml, {new.up_to_m: new.minutes}, new.max_ph, new.source,
        now.date().isoformat(),
    )  # fmt: skip
    orm.add(
        OwnProcessEntry(
            household_id=who.household_id,
            product=made.product,
            jar_ml=made.jar_ml,
            minutes={f"{metres:g}": minutes for metres, minutes in made.minutes.items()},
            max_ph=made.max_ph,
            source=made.source,
            entered_at=now,
            entered_by=who.person_id,
        )
    )
    orm.flush()


def every(orm: Orm, who: Who) -> dict[str, OwnProcess]:
    """The household's newest own process for each product that it has one for."""
    whose = (who.household_id, "own processes")
    return furniture.reckoned(orm, (OwnProcessEntry,), whose, lambda: _every(orm, who))


def _every(orm: Orm, who: Who) -> dict[str, OwnProcess]:
    found = {}
    for row in queries.all_of(orm, who.household_id, OwnProcessEntry):
        minutes = {float(metres): count for metres, count in row.minutes.items()}
        entered = row.entered_at.date().isoformat()
        found[row.product] = OwnProcess(
            row.product, row.jar_ml, minutes, row.max_ph, row.source, entered
        )
    return found


def views(orm: Orm, who: Who) -> list[OwnProcessView]:
    """Every own process of the household, newest first."""
    return [
        OwnProcessView(
            r.id, r.product.replace("_", " "), r.jar_ml, dict(r.minutes), r.max_ph,
            f"{r.source}, entered {r.entered_at.date().isoformat()}",
        )
        for r in reversed(queries.all_of(orm, who.household_id, OwnProcessEntry))
    ]  # fmt: skip
