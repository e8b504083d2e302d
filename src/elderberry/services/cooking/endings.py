"""Another ending: what may not go on a shelf is chilled or frozen, so no stop is a dead end."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime

from sqlalchemy.orm import Session as Orm

from elderberry.core.batch import lifecycle
from elderberry.core.batch.lifecycle import Phase, Seal
from elderberry.core.estimates import Estimate
from elderberry.core.flow.inputs import Brief
from elderberry.core.flow.kinds import after_filling, kind
from elderberry.services.cooking import batches
from elderberry.services.cooking.change import Change, settled
from elderberry.services.cooking.folder import Folder, folder_of
from elderberry.services.cooking.shown import Became
from elderberry.services.errors import Conflict
from elderberry.services.journal import record
from elderberry.services.planning import intake
from elderberry.services.who import Who
from elderberry.store import Batch, Jar, Lot, Operation, queries

IN_THE_WARM = frozenset({"shelf", "dry"})
"""Ways of keeping that the cold can stand in for."""
GIVEN_UP = "given up"
"""Why steps are dropped of a batch that was begun by mistake."""
SEALED_AS = {"chill": "chilled", "freeze": "frozen"}


def divert(orm: Orm, who: Who, batch_id: int, keep: str, now: datetime) -> Folder:
    """Chill or freeze what was meant for the shelf, canned or dry, and is not in the canner yet.

    Steps towards the shelf that have not begun are dropped; jars already filled that wait for the
    canner become jars for the cold. Loads that are on or done go on as they are.

    Raises:
        NotFound: no such batch in this household.
        Conflict: nothing of it is meant for the shelf any more, or all of it has been canned.
    """
    folder = folder_of(orm, who, batch_id, lock=True)
    standing = folder.standing
    fills = [f for f in standing.fillings if standing.end(f).keep in IN_THE_WARM]
    if not fills:
        raise Conflict("not-for-shelf", "This batch is not meant for the shelf.")
    moved = False
    for fill in fills:
        row = folder.find(fill.id)
        moved = _divert_end(Change(folder, row, now), keep, _begun(folder, row)) or moved
    if not moved:
        raise Conflict(
            "already-in-canner",
            "All jars of this batch are in the canner or have been. Finish that, then say of each "
            "jar at the seal check what becomes of it.",
        )
    return settled(folder)


def give_up(orm: Orm, who: Who, batch_id: int, now: datetime) -> Folder:
    """Give a mistaken batch up: nothing of it waits any more, and its stations are free.

    Where no step was begun, what went in waits again as it came.

    Raises:
        NotFound: no such batch in this household.
        Conflict: it is finished, or its jars are filled.
    """
    folder = folder_of(orm, who, batch_id, lock=True)
    standing = folder.standing
    if standing.finished:
        raise Conflict("already-finished", "This batch is finished. Nothing was changed.")
    if folder.jars:
        raise Conflict(
            "jars-are-filled",
            "Its jars are filled, and each of them is to be accounted for: finish it, or chill or "
            "freeze it.",
        )
    untouched = all(standing.phase(o) is Phase.WAITING for o in standing.operations)
    made = Change(folder, folder.operations[0], now)
    for operation in folder.operations:
        if not folder.standing.over(operation):
            made.append("dropped", {"reason": GIVEN_UP}, operation=operation)
    if untouched:
        for lot in folder.lots.values():
            if lot.from_lot_id is not None:
                came_from, lot.from_lot_id = lot.from_lot_id, None
                orm.flush()
                intake.keep_left(orm, orm.get_one(Lot, came_from))
    return settled(folder)


def became(brief: Brief, jars: int, *, given_up: bool) -> Became:
    """What came of a batch that is over, by its ends and how many jars it filled."""
    if jars:
        return "jars"
    if given_up:
        return "nothing"
    return "glasses" if any(end.keep == "now" for end in brief.ends) else "jars"


def came_of(folder: Folder) -> Became | None:
    """What came of a batch; None while it is under way."""
    if not folder.standing.finished:
        return None
    dropped = (e.data for e in folder.events if e.kind == "dropped")
    mistaken = any(data.get("reason") == GIVEN_UP for data in dropped)
    return became(folder.brief, len(folder.jars), given_up=mistaken)


def given_up(orm: Orm, who: Who, batches: Iterable[Batch]) -> set[int]:
    """Those of some batches that were given up."""
    return queries.dropped_for(orm, who.household_id, (b.id for b in batches), GIVEN_UP)


def _begun(folder: Folder, fill: Operation) -> set[int]:
    """The canner loads of an end that are on or done."""
    standing = folder.standing
    return {
        o.params["load"]
        for o in standing.of_role("process")
        if standing.fill_of(o) is fill and standing.phase(o) in {Phase.RUNNING, Phase.DONE}
    }


def _divert_end(made: Change, keep: str, begun: set[int]) -> bool:
    """What of an end can still go to the cold goes there; whether there was any."""
    folder = made.folder
    waiting = [j for j in folder.standing.jars_of(made.operation) if j.canner_load not in begun]
    left = [j for j in folder.jars if j in waiting and j.seal == Seal.COOLING]
    if begun and not left:
        return False
    _drop_shelf_steps(made, keep, begun)
    if not begun:
        made.log("diverted", {"keep": keep, "fill": made.operation.key})
    for jar in left:
        jar.seal = lifecycle.jar_transition(Seal(jar.seal), SEALED_AS[keep])
        jar.canner_load = 0
        record(
            made.orm, made.who, made.now, SEALED_AS[keep], batch=folder.batch, jar_id=jar.id,
            data={"code": jar.code},
        )  # fmt: skip
    _add_ending(made, keep, left if begun else [])
    return True


def _drop_shelf_steps(made: Change, keep: str, begun: set[int]) -> None:
    """Steps towards the shelf that are not needed any more."""
    standing = made.folder.standing
    meant = standing.end(made.operation).keep
    for row in standing.operations:
        what = kind(row.kind)
        mine = meant in what.endings and standing.fill_of(row) is made.operation
        still = begun and (what.role == "check" or row.params.get("load") in begun)
        if mine and not still and standing.phase(row) is Phase.WAITING:
            made.append("dropped", {"reason": keep}, operation=made.folder.find(row.id))


def _add_ending(made: Change, keep: str, jars: list[Jar]) -> None:
    """The carrying into the cold; only of some jars, where others go to the shelf."""
    folder, last = made.folder, made.folder.operations[-1]
    what = after_filling(keep)[0]
    suffix = made.operation.key.removeprefix(made.operation.kind)
    params = {"fill": made.operation.key, "jars": [j.id for j in jars]}
    added = batches.add_operation(
        folder.orm, folder.who, folder.batch, f"{what}{suffix}", what,
        last.position + batches.POSITION_STEP, Estimate(5, 10, 20), params,
    )  # fmt: skip
    lot = folder.edges[made.operation.id]["out"][0]
    batches.connect(folder.orm, folder.who, added, lot, "in")
