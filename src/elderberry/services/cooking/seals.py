"""Seals: looked at jar by jar; a failed one is processed again, chilled or frozen."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import asdict
from datetime import datetime

from sqlalchemy.orm import Session as Orm

from elderberry.core.batch import lifecycle
from elderberry.core.batch.lags import AGAIN_WITHIN
from elderberry.core.batch.lifecycle import Phase, Seal
from elderberry.core.batch.standing import SECOND_GO
from elderberry.core.errors import Refusal
from elderberry.core.estimates import Estimate
from elderberry.core.flow.kinds import of_role
from elderberry.core.process import Lookup
from elderberry.core.rules import refuse
from elderberry.services.cooking import batches, jar_view, places
from elderberry.services.cooking.change import Change
from elderberry.services.cooking.fillings import add_canner_load
from elderberry.services.cooking.folder import find
from elderberry.services.errors import Conflict, FieldError, NotFound
from elderberry.services.household import kitchens
from elderberry.services.journal import record
from elderberry.services.planning.end_view import process_view
from elderberry.services.who import Who
from elderberry.store import Jar, Place, queries
from elderberry.store.base import Json

WAYS_ON = {"reprocess": "reprocessed", "chill": "chilled", "freeze": "frozen"}


def write_process(made: Change) -> None:
    """Write the record of a finished process onto its jars."""
    state = made.folder.standing.states[made.operation.id]
    kept = _asked(made.folder.tested_time(made.operation))
    kept["boiled_from"] = state.clock_from.isoformat() if state.clock_from else None
    kept["boiled_until"] = made.now.isoformat()
    kept["boils_lost"] = state.boils_lost
    for jar in made.folder.jar_rows(made.operation):
        jar.process = kept


def judge_again(made: Change) -> None:
    """Take the verdict of jars that were processed again, by what is known of them now."""
    folder = made.folder
    load = of_role("process")
    for process in (o for o in folder.operations if o.kind == load):
        if folder.phase(process) is not Phase.DONE:
            continue
        found = folder.tested_time(process)
        short = folder.standing.fell_short(process, found)
        for jar in folder.jar_rows(process):
            jar.process = {**jar.process, **_asked(found), jar_view.FELL_SHORT: short}


def _asked(found: Lookup) -> Json:
    """The tested time as a jar's record keeps it; nothing where there is none."""
    return asdict(process_view(found.time)) if found.time else {}


def put(orm: Orm, who: Who, jar: Jar, place: Place, now: datetime) -> None:
    """Carry a jar to a place, remembering how long it stood where it was."""
    data: dict[str, object] = {"place": place.name}
    if jar.place_id is not None:
        before = queries.one(orm, who.household_id, Place, jar.place_id)
        if before is not None:
            data |= {
                "stay_days": max(0.0, (now - jar.placed_at).total_seconds() / 86400),
                "temp_c": before.temp_c,
                "from": before.id,
            }
    batch = None if jar.batch_id is None else find(orm, who, jar.batch_id)
    record(orm, who, now, "moved", batch=batch, jar_id=jar.id, data=data)
    places.stand(orm, jar, place)
    jar.placed_at = now


def look_at(made: Change, jar_id: int, held: bool, way_on: str | None) -> None:
    """Say of one jar whether its seal held and, where it did not, what becomes of it.

    Raises:
        NotFound: no such jar in this check.
        FieldError: a failed seal without a way on.
        Refusal: to be processed again more than 24 hours later, or to be kept though what was put
            right since asks for more than its process.
        IllegalStep: the jar was looked at already.
    """
    jar = next((j for j in made.folder.jars if j.id == jar_id), None)
    if jar is None or jar.id not in made.folder.standing.jar_ids(made.operation):
        raise NotFound("jar in this check")
    if held:
        stop = jar_view.fell_short(jar)
        if stop is not None:
            raise Refusal(stop)
        _set(made, jar, "seal_held")
        return
    if way_on not in WAYS_ON:
        raise FieldError("/way_on", "Say what becomes of it: process again, chill or freeze.")
    if way_on == "reprocess":
        check_within_a_day([jar], made.now)
    _set(made, jar, "seal_failed")
    _set(made, jar, WAYS_ON[way_on])
    if way_on == "reprocess":
        jar.canner_load = _again_load(made)
    else:
        kind = "refrigerator" if way_on == "chill" else "freezer"
        put(made.orm, made.who, jar, kitchens.place(made.orm, made.who, kind), made.now)


def to_the_cold(made: Change, jar: Jar) -> None:
    """A jar that is not to be trusted goes into the refrigerator, whatever its seal seems.

    Raises:
        IllegalStep: its seal was looked at already.
    """
    if jar.seal == Seal.COOLING:
        _set(made, jar, "seal_failed")
        _set(made, jar, "chilled")
    put(made.orm, made.who, jar, kitchens.place(made.orm, made.who, "refrigerator"), made.now)


def conclude(made: Change, place_id: int | None, *, others_held: bool = False) -> None:
    """End a seal check: every jar was looked at; sealed ones go to their place.

    others_held: all held but those of which it was said that they did not.

    Raises:
        Conflict: there are jars of which nothing was said.
        Refusal: one that held is not to be kept, since what was put right asks for more.
    """
    mine = made.folder.jar_rows(made.operation)
    for jar in mine if others_held else ():
        if jar.seal == Seal.COOLING and jar.canner_load != _again_load(made):
            look_at(made, jar.id, held=True, way_on=None)
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


def check_within_a_day(jars: Iterable[Jar], now: datetime) -> None:
    """The second process of jars whose seal failed has begun within a day of the first.

    Raises:
        Refusal: it is later than that, or nobody knows when they came out.
    """
    for jar in jars:
        until = jar.process.get("boiled_until")
        if until is None or now - datetime.fromisoformat(until) > AGAIN_WITHIN:
            raise refuse("failed-seal-too-late", of_role("check"))


def _again_load(made: Change) -> int:
    """Number of the canner load that takes this check's failed jars: 101, 102 and so on."""
    checks = [o.id for o in made.folder.standing.of_role("check")]
    return SECOND_GO + 1 + checks.index(made.operation.id)


def _process_again(made: Change, load: int) -> None:
    """One more process, cooling and check, for the jars whose seal failed."""
    standing = made.folder.standing
    fill = standing.fill_of(made.operation)
    position = add_canner_load(made, load, load, f"again-{load - SECOND_GO}", again=True)
    what = of_role("check")
    check = batches.add_operation(
        made.orm, made.who, made.folder.batch, f"{what}-{load - SECOND_GO + 1}", what,
        position + 100, Estimate(5, 10, 20),
        {"canner_loads": [load], "fill": fill.key if fill else ""},
    )  # fmt: skip
    if fill is not None:
        lot = made.folder.edges[fill.id]["out"][0]
        batches.connect(made.orm, made.who, check, lot, "in")


def _place(made: Change, place_id: int | None) -> Place:
    if place_id is None:
        return kitchens.place(made.orm, made.who, "cellar", "shelf")
    place = queries.one(made.orm, made.who.household_id, Place, place_id)
    if place is None:
        raise NotFound("place")
    if place.kind not in {"cellar", "shelf"}:
        raise FieldError("/place_id", "Sealed jars stand on a shelf or in the cellar.")
    return place
