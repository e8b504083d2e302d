"""Another ending: what may not go on a shelf is chilled or frozen, so no stop is a dead end."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy.orm import Session as Orm

from elderberry.core.batch import lifecycle
from elderberry.core.batch.lifecycle import Phase, Seal, StepEvent
from elderberry.core.estimates import Estimate
from elderberry.services import batches
from elderberry.services.errors import Conflict
from elderberry.services.folder import Folder, folder_of
from elderberry.services.who import Who
from elderberry.store import queries

ENDINGS = {"chill": "chilled", "freeze": "frozen"}
SHELF_STEPS = {"sterilise", "process", "cool", "seal_check"}


def divert(
    orm: Orm, who: Who, batch_id: int, keep: str, now: datetime, key: str | None = None
) -> Folder:
    """Chill or freeze a batch that was meant for the shelf.

    Steps towards the shelf that have not begun are dropped; jars already filled become jars for
    the cold.

    Raises:
        NotFound: no such batch in this household.
        Conflict: it is not meant for the shelf, or a canner load is on or already done.
    """
    folder = folder_of(orm, who, batch_id, lock=True)
    if key and queries.by_idempotency_key(orm, who.household_id, key):
        return folder
    _check(folder)
    batches.record(orm, who, now, "diverted", batch=folder.batch, data={"keep": keep}, key=key)
    for operation in folder.operations:
        if operation.kind in SHELF_STEPS and folder.phase(operation) is Phase.WAITING:
            event = StepEvent("dropped", now, who.name)
            folder.states[operation.id] = lifecycle.transition(folder.states[operation.id], event)
            batches.record(orm, who, now, "dropped", operation=operation, data={"reason": keep})
    for jar in folder.jars:
        if jar.seal == Seal.COOLING:
            jar.seal = lifecycle.jar_transition(Seal(jar.seal), ENDINGS[keep])
            batches.record(
                orm, who, now, ENDINGS[keep], batch=folder.batch, jar_id=jar.id,
                data={"code": jar.code},
            )  # fmt: skip
    _add_ending(folder, keep)
    folder.batch.keep = keep
    folder.batch.version += 1
    orm.flush()
    return folder_of(orm, who, batch_id)


def _check(folder: Folder) -> None:
    if folder.batch.keep != "shelf":
        raise Conflict("not-for-shelf", "This batch is not meant for the shelf.")
    for operation in folder.operations:
        begun = folder.phase(operation) in {Phase.RUNNING, Phase.DONE}
        if operation.kind == "process" and begun:
            raise Conflict(
                "already-in-canner",
                "Jars of this batch are in the canner or have been. Finish that, then say of each "
                "jar at the seal check what becomes of it.",
            )


def _add_ending(folder: Folder, keep: str) -> None:
    last = folder.operations[-1]
    added = batches.add_operation(
        folder.orm, folder.who, folder.batch, keep, keep,
        last.position + batches.POSITION_STEP, Estimate(5, 10, 20), {},
    )  # fmt: skip
    lot = next(lot for lot in folder.lots.values() if lot.key == "jars")
    batches.connect(folder.orm, folder.who, added, lot.id, "in")
