"""Seals: looked at jar by jar; a failed one is processed again, chilled or frozen."""

from __future__ import annotations

from dataclasses import asdict
from datetime import datetime, timedelta
from typing import TYPE_CHECKING

from sqlalchemy.orm import Session as Orm

from elderberry.core.batch import lifecycle
from elderberry.core.batch.lifecycle import Seal, StepState
from elderberry.core.estimates import Estimate
from elderberry.core.rules import refuse
from elderberry.services import batches, kitchens
from elderberry.services.errors import Conflict, FieldError, NotFound
from elderberry.services.fillings import add_canner_load
from elderberry.services.folder import SECOND_GO, Folder, jar_ids
from elderberry.services.plan_view import process_view
from elderberry.services.who import Who
from elderberry.store import Jar, Place, queries

if TYPE_CHECKING:
    from elderberry.services.steps import Change

AGAIN_WITHIN = timedelta(hours=24)
WAYS_ON = {"reprocess": "reprocessed", "chill": "chilled", "freeze": "frozen"}


def write_process(folder: Folder, load: int, state: StepState, now: datetime) -> None:
    """Write the record of a finished process onto its jars."""
    jars = [j for j in folder.jars if j.canner_load == load]
    found = folder.tested_time([j.jar_kind for j in jars])
    record = asdict(process_view(found.time)) if found.time else {}
    record["boiled_from"] = state.clock_from.isoformat() if state.clock_from else None
    record["boiled_until"] = now.isoformat()
    record["boils_lost"] = state.boils_lost
    for jar in jars:
        jar.process = record


def put(orm: Orm, who: Who, jar: Jar, place: Place, now: datetime) -> None:
    """Carry a jar to a place, remembering how long it stood where it was."""
    data: dict[str, object] = {"place": place.name}
    if jar.place_id is not None:
        before = queries.one(orm, who.household_id, Place, jar.place_id)
        if before is not None:
            data |= {
                "stay_days": max(0.0, (now - jar.placed_at).total_seconds() / 86400),
                "temp_c": before.temp_c,
            }
    batch = batches.find(orm, who, jar.batch_id)
    batches.record(orm, who, now, "moved", batch=batch, jar_id=jar.id, data=data)
    jar.place_id, jar.placed_at = place.id, now


def look_at(made: Change, jar_id: int, held: bool, way_on: str | None) -> None:
    """Say of one jar whether its seal held and, where it did not, what becomes of it.

    Raises:
        NotFound: no such jar in this check.
        FieldError: a failed seal without a way on.
        Refusal: to be processed again more than 24 hours later.
        IllegalStep: the jar was looked at already.
    """
    jar = next((j for j in made.folder.jars if j.id == jar_id), None)
    if jar is None or jar.id not in jar_ids(made.folder, made.operation):
        raise NotFound("jar in this check")
    if held:
        _set(made, jar, "seal_held")
        return
    if way_on not in WAYS_ON:
        raise FieldError("/way_on", "Say what becomes of it: process again, chill or freeze.")
    if way_on == "reprocess":
        _check_within_a_day(made, jar)
    _set(made, jar, "seal_failed")
    _set(made, jar, WAYS_ON[way_on])
    if way_on == "reprocess":
        jar.canner_load = _again_load(made)
    else:
        kind = "refrigerator" if way_on == "chill" else "freezer"
        put(made.orm, made.who, jar, kitchens.place(made.orm, made.who, kind), made.now)


def conclude(made: Change, place_id: int | None) -> None:
    """End a seal check: every jar was looked at; sealed ones go to their place."""
    mine = [j for j in made.folder.jars if j.id in jar_ids(made.folder, made.operation)]
    left = [j for j in mine if j.seal == Seal.COOLING]
    if left:
        raise Conflict(
            "jars-not-checked",
            f"{len(left)} {'jar has' if len(left) == 1 else 'jars have'} not been looked at: "
            f"{', '.join(j.code for j in left[:4])}. Say of each whether its seal held.",
        )
    place = _place(made, place_id)
    for jar in mine:
        if jar.seal == Seal.SEALED and jar.place_id is None:
            put(made.orm, made.who, jar, place, made.now)
    again = _again_load(made)
    if any(j.canner_load == again for j in made.folder.jars):
        _process_again(made, again)


def _set(made: Change, jar: Jar, event: str) -> None:
    jar.seal = lifecycle.jar_transition(Seal(jar.seal), event)
    made.log(event, {"code": jar.code}, jar_id=jar.id)


def _check_within_a_day(made: Change, jar: Jar) -> None:
    until = jar.process.get("boiled_until")
    if until is None or made.now - datetime.fromisoformat(until) > AGAIN_WITHIN:
        raise refuse("failed-seal-too-late", "seal_check")


def _again_load(made: Change) -> int:
    """Number of the canner load that takes this check's failed jars: 101, 102 and so on."""
    checks = [o for o in made.folder.operations if o.kind == "seal_check"]
    return SECOND_GO + 1 + [o.id for o in checks].index(made.operation.id)


def _process_again(made: Change, load: int) -> None:
    """One more process, cooling and check, for the jars whose seal failed."""
    position = add_canner_load(made, load, load, f"again-{load - SECOND_GO}")
    check = batches.add_operation(
        made.orm, made.who, made.folder.batch, f"seal_check-{load - SECOND_GO + 1}", "seal_check",
        position + 100, Estimate(5, 10, 20), {"canner_loads": [load]},
    )  # fmt: skip
    lot = next(lot for lot in made.folder.lots.values() if lot.key == "jars")
    batches.connect(made.orm, made.who, check, lot.id, "in")


def _place(made: Change, place_id: int | None) -> Place:
    if place_id is None:
        return kitchens.place(made.orm, made.who, "cellar", "shelf")
    place = queries.one(made.orm, made.who.household_id, Place, place_id)
    if place is None:
        raise NotFound("place")
    if place.kind not in {"cellar", "shelf"}:
        raise FieldError("/place_id", "Sealed jars stand on a shelf or in the cellar.")
    return place
