"""A mis-tap taken back: within ten seconds the newest press at a batch is as if it had not been.

Nothing is erased: what the press recorded stays in the journal, beside the event that took it back.
A meter's reading is never taken back; it is put right by a newer one.
"""

from __future__ import annotations

from datetime import datetime, timedelta

from sqlalchemy.orm import Session as Orm

from elderberry.core.batch.readings_of import METER
from elderberry.core.shelf.life import Lives
from elderberry.services.cooking import kept, places
from elderberry.services.cooking.change import settled
from elderberry.services.cooking.folder import TAKEN_BACK, Folder, folder_of, title
from elderberry.services.cooking.shown import PressView
from elderberry.services.errors import Conflict
from elderberry.services.household import kitchens
from elderberry.services.journal import record
from elderberry.services.who import Who
from elderberry.store import Jar, Lot, Operation, queries
from elderberry.store.base import Json
from elderberry.store.trace import TRACED, put_back

WITHIN = timedelta(seconds=10)
ON_THE_WAY = timedelta(seconds=5)
"""How long a press may travel that was made in time."""


def last_press(folder: Folder) -> PressView | None:
    """The newest press at a batch, where it may be taken back."""
    press = folder.batch.last_press
    if not press or press["by"] != folder.who.person_id or _metered(folder, press):
        return None
    at = datetime.fromisoformat(press["at"])
    step = next((o for o in folder.operations if o.id == press["step"]), None)
    words = title(step, folder.units) if step else folder.batch.title
    return PressView(words, at + WITHIN)


def take_back(orm: Orm, who: Who, batch_id: int, now: datetime) -> Folder:
    """Take back the newest press at a batch.

    Raises:
        NotFound: no such batch in this household.
        Conflict: there is none, somebody else made it, it is too long ago, or a meter was read.
    """
    folder = folder_of(orm, who, batch_id, lock=True)
    press = folder.batch.last_press
    if not press or press["by"] != who.person_id:
        raise Conflict("nothing-to-take-back", "There is no press of yours to take back here.")
    if now - datetime.fromisoformat(press["at"]) > WITHIN + ON_THE_WAY:
        raise Conflict(
            "too-late-to-take-back",
            "That is more than ten seconds ago. It stands; put it right with a newer entry.",
        )
    if _metered(folder, press):
        raise Conflict(
            "a-meter-was-read",
            "A meter's reading is not taken back. It stands; put it right by a newer reading.",
        )
    _put_back(folder, press)
    step = orm.get(Operation, press["step"])
    made = {table: ids for table, ids in press["made"].items() if table in {"event", "jar"}}
    record(orm, who, now, TAKEN_BACK, operation=step, data={"made": made})
    kept.count_places(orm, who.household_id)
    return settled(folder)


def _metered(folder: Folder, press: Json) -> bool:
    made = set(press["made"].get("event", ()))
    read = {e.data.get("id") for e in folder.journal if e.id in made and e.kind == "reading"}
    return any(r.id in read and r.instrument == METER for r in folder.readings)


def _put_back(folder: Folder, press: Json) -> None:
    """Rows that were changed are as they were; of those that were made jars are void, others go."""
    orm, hh = folder.orm, folder.who.household_id
    for table, rows in press["before"].items():
        for row_id, was in rows.items():
            row = queries.one(orm, hh, TRACED[table], int(row_id))
            if row is not None:
                put_back(row, was)
    for jar_id in press["made"].get("jar", ()):
        jar = queries.one(orm, hh, Jar, jar_id)
        if jar is not None:
            places.leave(orm, jar, Lives.NEVER, kitchens.today(orm, folder.who, folder.at))
    for model in (Operation, Lot):
        for row_id in press["made"].get(model.__tablename__, ()):
            row = queries.one(orm, hh, model, row_id)
            if row is not None:
                orm.delete(row)
    orm.flush()
