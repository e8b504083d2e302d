"""What happens at a step: start, time, readings, finish. One transaction each.

Every change locks its batch, checks itself against the step's state, and appends events.
A change that is asked for again is not made again: services.once sees to that.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace
from datetime import timedelta

from elderberry.core import jars as jar_kinds
from elderberry.core.batch import lags, lifecycle
from elderberry.core.batch.lifecycle import Phase, StepEvent
from elderberry.core.batch.midway import GOAL_OF
from elderberry.core.batch.parts import IN_PART
from elderberry.core.batch.pots import WATER_BACK
from elderberry.core.batch.standing import SECOND_GO
from elderberry.core.errors import Refusal, Unknown
from elderberry.core.findings import Finding, Level
from elderberry.core.flow.draft import CONSTANT_ACID
from elderberry.core.flow.kinds import kind, kinds
from elderberry.core.process import FILL_C
from elderberry.core.rules import refuse
from elderberry.core.wording import figure, in_units
from elderberry.services.cooking import reading, seals, stations
from elderberry.services.cooking.change import Change, change
from elderberry.services.cooking.fillings import fill_jars
from elderberry.services.cooking.folder import title
from elderberry.services.cooking.reading import ReadingEntry
from elderberry.services.errors import Conflict, FieldError, NotFound
from elderberry.services.household import kitchens
from elderberry.services.planning import intake
from elderberry.services.planning.plan_view import questions
from elderberry.store.base import Json

__all__ = [
    "Change", "Finish", "JarEntry", "ReadingEntry", "acid", "boil", "change", "correct",
    "filled_now", "finish", "lengthen", "look_at_seal", "note", "put_cold", "repeat", "start",
    "take_reading", "water_back",
]  # fmt: skip

STARTS_BY_ITSELF = {key for key, what in kinds().items() if not what.timed}
"""Steps with nothing to time: a reading or Done starts them, so nobody presses twice."""


@dataclass(frozen=True)
class JarEntry:
    """Jars of a kind that were really filled."""

    kind: str
    count: int


@dataclass(frozen=True)
class Finish:
    """What a person says when a step is done; which parts matter depends on the step."""

    readings: tuple[ReadingEntry, ...] = ()
    jars: tuple[JarEntry, ...] = ()
    part_kind: str | None = None
    part_ml: float = 0.0
    part_said: str = ""
    """What the part-filled one holds as one says it, "half a cup", in the place of part_ml."""
    shared: bool = False
    """The leftover was shared among the jars, so that none is part-filled."""
    place_id: int | None = None
    others_held: bool = False
    """Of a seal check: all held but those of which it was said that they did not."""
    said: tuple[str, ...] = ()
    """What only the cook can say of the jars, in words of the rule book."""
    more: bool = False
    """More of it is to come: the filling goes on when the next load is drawn."""


def start(made: Change) -> None:
    """Start a step: what it needs is there, its station is free, and no stop stands."""
    state = made.folder.standing.states[made.operation.id]
    if state.phase is Phase.WAITING:
        _check_ready(made)
        _check_lags(made)
        _check_station(made)
    data = _MAY_START.get(_role(made), _nothing_more)(made)
    made.append("started", data)


def repeat(made: Change) -> None:
    """Heat once more what was heated and has cooled since; its jars are not filled yet."""
    standing, lots = made.folder.standing, set(made.folder.edges[made.operation.id]["out"])
    for fill in standing.fillings:
        waiting = standing.phase(fill) is Phase.WAITING or standing.in_part(fill)
        if lots & set(made.folder.edges[fill.id]["in"]) and not waiting:
            raise Conflict("already-filled", "It is in its jars already, and is not heated again.")
    _check_station(made)
    made.append("repeated")


def put_cold(made: Change) -> None:
    """What a finished step gave goes into the refrigerator now: from here on it stands cold."""
    if made.folder.phase(made.operation) is not Phase.DONE:
        raise Conflict("not-finished", "Finish this step first.")
    made.log(lags.PUT_COLD, {})


MOST_ACID_G = 20_000.0
LIQUID_BOILED = "liquid_boiled"
"""What is said of the liquid that goes over raw fruit."""


def acid(made: Change, text: str) -> None:
    """Acid stirred into what a step gave, beyond the plan: what a high reading asks for.

    Raises:
        Conflict: there is nothing to stir it into.
        FieldError: the line cannot be read, says no amount, or is of no acid that has the same
            strength every time.
    """
    lot = made.folder.standing.lot_of(made.operation)
    if lot is None:
        raise Conflict("nothing-there", "There is nothing here to stir acid into.")
    line = intake.read_at("/line", text, kitchens.customs(made.orm, made.who))
    if line.material not in CONSTANT_ACID:
        words = "Citric acid, or lemon or lime juice out of a bottle: only they answer a reading."
        raise FieldError("/line", f"{words} Nothing was recorded.")
    if line.how != "amount" or line.mass_g is None or line.mass_g.typ > MOST_ACID_G:
        raise FieldError("/line", "Say how much of it went in. Nothing was recorded.")
    newest = max((r.id for r in made.folder.readings), default=0)
    stirred = {"material": line.material, "grams": line.mass_g.typ, "said": text}
    made.log("acid_added", {"lot": lot.id, "after": newest, **stirred})


def water_back(made: Change, text: str) -> None:
    """Water stirred back into a pot that was boiled too far.

    Raises:
        Conflict: nothing boils down here.
        FieldError: the line is no amount of water.
    """
    _must_be_running(made)
    if _role(made) != "reduce":
        raise Conflict("nothing-boils-down", "Nothing boils down here. Nothing was recorded.")
    grams = reading.amount(made, text, "volume_ml", "/line")
    made.log(WATER_BACK, {"grams": grams, "said": text})
    made.folder.anew()


def filled_now(made: Change, temp_c: float) -> None:
    """A canner load is filled only now, from what was kept hot: its jars have not stood.

    Raises:
        Conflict: the load is in the canner already, or has no jars.
        Refusal: the pot has cooled under what its jars are filled at.
    """
    jars = made.folder.jar_rows(made.operation)
    if made.folder.phase(made.operation) is not Phase.WAITING or not jars:
        raise Conflict("not-waiting", "Only jars that wait for the canner are filled now.")
    standing = made.folder.standing
    fill = standing.fill_of(made.operation)
    found = standing.tested_time([j.jar_kind for j in jars], fill)
    least = made.folder.kitchen.reachable_c(found.time.fill_c if found.time else FILL_C)
    if temp_c < least - 0.05:
        raise refuse("fill-too-cold", made.operation.kind, fill_c=f"{least:.0f}")
    for jar in jars:
        jar.filled_at = made.now
    made.log("filled_now", {"temp_c": temp_c, "jars": len(jars)})


def finish(made: Change, said: Finish) -> None:
    """Finish a step with what was read and done."""
    _start_by_itself(made)
    if made.folder.standing.states[made.operation.id].phase is Phase.RUNNING:
        for entry in (reading.understood(made, r) for r in said.readings):
            reading.keep(made, entry)
        _FINISH.get(_role(made), _nothing_said)(made, said)
    if said.more and _role(made) == "fill":
        return
    made.append("finished")
    if _role(made) == "process":
        _start_cooling(made)
    if kind(made.operation.kind).gets_juice:
        _heat_what_came(made)


def _role(made: Change) -> str:
    return kind(made.operation.kind).role


def take_reading(made: Change, entry: ReadingEntry) -> None:
    """Take a reading at a running step."""
    _must_be_running(made)
    entry = reading.understood(made, entry)
    if _role(made) != "reduce":
        reading.keep(made, entry)
        if entry.quantity == "tray_g":
            reading.put_drying_right(made)
        return
    reading.keep(made, entry, of_pot=True)
    since = made.folder.standing.states[made.operation.id].clock_from
    if since is not None and entry.quantity in GOAL_OF:
        reading.put_clock_right(made, entry, since)


def correct(made: Change, reading_id: int, value: float) -> None:
    """Put a mistaken reading right: the old one stays on record, the new one counts.

    Raises:
        NotFound: this step has no such reading.
        FieldError: a value that cannot be.
    """
    old = next(
        (
            r
            for r in made.folder.readings
            if (r.id, r.operation_id) == (reading_id, made.operation.id)
        ),
        None,
    )
    if old is None:
        raise NotFound("reading")
    lot = made.folder.lots.get(old.lot_id or 0)
    entry = ReadingEntry(old.quantity, value, old.instrument, lot.key if lot else None)
    new = reading.keep(made, entry, of_pot=lot is None)
    made.log("corrected", {"reading": old.id, "by": new.id})
    seals.judge_again(made)


def lengthen(made: Change, minutes: float, reason: str) -> None:
    """Add minutes to a step's timer, with the reason."""
    made.append("lengthened", {"minutes": minutes, "reason": reason})


def boil(made: Change, reached: bool) -> None:
    """The boil was reached, or lost."""
    made.append("boil_reached" if reached else "boil_lost")


def note(made: Change, what: str, words: str) -> None:
    """Something worth keeping: the pan refilled, a problem in the cook's own words, or what a sum
    came to, which may be reckoned before the step is begun.
    """
    if what == "bench":
        made.log(WORKED_OUT, {"words": words})
    else:
        made.append("noted", {"what": what, "words": words})


WORKED_OUT = "worked_out"


def _check_ready(made: Change) -> None:
    waits = made.folder.standing.waits_for(made.operation)
    if waits is None:
        return
    if kind(waits.kind).role == "sterilise":
        raise refuse("jars-not-sterilised", "fill", minutes=waits.params["min"])
    raise Conflict(
        "not-ready", f"This waits for: {title(made.folder.find(waits.id), made.folder.units)}."
    )


def _check_lags(made: Change) -> None:
    """Nothing has stood too long: hot before its jars, or warm before the next step."""
    standing = made.folder.standing
    found = [*lags.standing_warm(standing, made.operation, made.now)]
    if _role(made) == "fill" and standing.end(made.operation).keep == "shelf":
        found += lags.before_filling(standing, made.operation, made.now)
    for stop in found:
        if stop.level is Level.STOP:
            raise Refusal(stop)


def _check_station(made: Change) -> None:
    """One step at a time on a juicer, burner or canner; another one of its kind that is free will
    do as well.
    """
    place = stations.found(made.folder, made.operation)
    if place.busy:
        raise Conflict("station-busy", f"{place.busy} Finish that step first.")
    if place.station is not None:
        made.operation.station_id = place.station.id


def _start_by_itself(made: Change) -> None:
    waiting = made.folder.standing.states[made.operation.id].phase is Phase.WAITING
    if waiting and made.operation.kind in STARTS_BY_ITSELF:
        start(made)


def _must_be_running(made: Change) -> None:
    """Only a running step takes readings and looks; any other says how it stands."""
    _start_by_itself(made)
    state = made.folder.standing.states[made.operation.id]
    if state.phase is not Phase.RUNNING:
        lifecycle.transition(state, StepEvent("noted", made.now, made.who.name))


def _nothing_more(_: Change) -> Json | None:
    return None


def _may_process(made: Change) -> Json:
    """The tested minutes of the jars that are really in this load; stops forbid it."""
    jars = made.folder.jar_rows(made.operation)
    if not jars:
        raise Conflict("no-jars", "There are no jars in this load. Fill them first.")
    if any(j.part_filled for j in jars):
        raise refuse("jar-part-filled", "process")
    found = made.folder.tested_time(made.operation)
    for stop in (*found.stops, *_waited(made)):
        raise Refusal(stop)
    assert found.time is not None  # a look-up without stops has a time
    return {"minutes": found.time.minutes, "row": found.time.row.key}


def _waited(made: Change) -> Iterator[Finding]:
    """Jars filled hot are in the canner within the hour; a failed seal within a day."""
    jars = made.folder.jar_rows(made.operation)
    if made.operation.params["load"] > SECOND_GO:
        seals.check_within_a_day(jars, made.now)
    else:
        yield from lags.before_canner(list(jars), made.now)


def _may_check_seals(made: Change) -> Json | None:
    """Seals are looked at once every jar has cooled 12 hours."""
    window = made.folder.standing.seal_window(made.operation)
    if window is None:
        raise Conflict("not-ready", "The jars have not come out of the canner yet.")
    missing = window[0] - made.now
    if missing > timedelta(0):
        hours, minutes = divmod(int(missing.total_seconds() / 60) + 1, 60)
        raise refuse("seal-too-early", "seal_check", missing=f"{hours} h {minutes:02d} min")
    standing = made.folder.standing
    jars = set(standing.jar_ids(made.operation))
    for other in standing.of_role("cool"):
        if standing.phase(other) is Phase.RUNNING and jars & set(standing.jar_ids(other)):
            made.append("finished", operation=made.folder.find(other.id))
    return None


_MAY_START: Mapping[str, Callable[[Change], Json | None]] = {
    "process": _may_process,
    "check": _may_check_seals,
}


def _nothing_said(_made: Change, _said: Finish) -> None:
    return None


def _check_hot(made: Change, _said: Finish) -> None:
    """What is filled for the shelf was read as hot as its filling asks."""
    standing = made.folder.standing
    fill = standing.fill_of(made.operation)
    if kind(made.operation.kind).boil or (fill and standing.end(fill).keep != "shelf"):
        return
    target = float(made.operation.params["target"])
    temps = standing.read_at(made.operation, "temp_c")
    if not temps or temps[-1] < target - 0.05:
        raise refuse("fill-too-cold", made.operation.kind, fill_c=f"{target:.0f}")


def _heat_what_came(made: Change) -> None:
    """Juice that comes while its end is filled load by load is heated next, as the others were."""
    standing = made.folder.standing
    for fill in standing.fillings:
        heat = standing.heat_of(fill)
        if heat is not None and standing.in_part(fill) and standing.to_heat(fill):
            made.append("repeated", operation=made.folder.find(heat.id))


def _fill(made: Change, said: Finish) -> None:
    standing = made.folder.standing
    _check_parts(made, said)
    juice = standing.left_ml(made.operation)
    if said.part_said:
        part_ml = reading.amount(made, said.part_said, "volume_ml", at="/part_ml")
        said = replace(said, part_ml=part_ml)
    counts = {j.kind: j.count for j in said.jars if j.count}
    _check_filled(made, counts, said, juice.hi / standing.hot_ratio(made.operation))
    level = _shared_level(made, counts) if said.shared else 1.0
    part = (None, 0.0) if said.shared else (said.part_kind, said.part_ml)
    if standing.raw_pack(made.operation) and LIQUID_BOILED not in said.said:
        raise refuse("raw-pack-liquid", "fill")
    asked = {q.word for where in ("fill", "raw_fill") for q in questions(where, ())}
    words = sorted(asked & set(said.said))
    if words:
        made.log("said", {"words": words})
    lots = [lot.id for lot in standing.drawn(made.operation)]
    fill_jars(made, counts, *part, level, last=not said.more)
    if said.more:
        made.log(IN_PART, {"lots": lots})


def _check_parts(made: Change, said: Finish) -> None:
    """What is filled is hot, and more of it is only promised where it may be filled in parts.

    Raises:
        Conflict: juice was drawn since it was heated, or there is nothing more to come.
    """
    standing = made.folder.standing
    heat = standing.heat_of(made.operation)
    on = heat is not None and standing.phase(heat) is Phase.RUNNING
    if on or (standing.to_heat(made.operation) and not said.more):
        raise Conflict(
            "not-heated",
            "Some of it was drawn after the pot was heated. Heat it as hot as before, then fill. "
            "Nothing was recorded.",
        )
    coming = standing.to_come(made.operation)
    if coming and not said.more:
        words = title(made.folder.find(coming[0].id), made.folder.units)
        raise Conflict("more-to-come", f"More is to come: {words}. Nothing was recorded.")
    if said.more and not standing.fills_in_part(made.operation):
        raise Conflict(
            "all-at-once",
            "This is filled once all of it is there: its reading has to be of what is in every "
            "jar. Nothing was recorded.",
        )


def _shared_level(made: Change, counts: Mapping[str, int]) -> float:
    """The part of its usual fill that each jar holds when the juice is shared evenly."""
    shared = jar_kinds.evenly(counts, made.folder.standing.hot_ml(made.operation))
    if not shared.close:
        much = "too much" if shared.off_mm > 0 else "too little"
        off = in_units(figure(abs(shared.off_mm), "mm"), made.folder.units)
        raise FieldError(
            "/jars",
            f"Shared like that, every jar has {off} {much} room under its "
            "lid. Keep the last jar apart, part-filled. Nothing was recorded.",
        )
    return shared.level


def _check_filled(made: Change, counts: Mapping[str, int], said: Finish, most_ml: float) -> None:
    """What is said to be in jars has to be something, and no more than the pot held."""
    standing, total = made.folder.standing, said.part_ml
    for jar_kind, count in counts.items():
        try:
            total += standing.room_ml(made.operation, jar_kind) * count
        except Unknown as wrong:
            raise FieldError("/jars", str(wrong)) from wrong
    nothing = total <= 0 and not standing.in_part(made.operation)
    if nothing and standing.end(made.operation).keep != "now":
        raise FieldError("/jars", "Enter how many jars you filled. Nothing was recorded.")
    if said.part_kind and said.part_ml > jar_kinds.kind(said.part_kind).brim_ml:
        raise FieldError("/part_ml", "That is more than such a jar holds. Nothing was recorded.")
    if not said.shared and total > 1.25 * most_ml:
        filled, held = (in_units(figure(ml, "ml"), made.folder.units) for ml in (total, most_ml))
        raise FieldError(
            "/jars",
            f"Those jars hold {filled}, and the pot held about {held} at most. Count again; "
            "nothing was recorded.",
        )


def _start_cooling(made: Change) -> None:
    """The jars' record, and the cooling that begins as they are lifted."""
    standing = made.folder.standing
    seals.write_process(made)
    for other in standing.of_role("cool"):
        same = standing.fill_of(other) is standing.fill_of(made.operation)
        if same and other.params["load"] == made.operation.params["load"]:
            made.append("started", operation=made.folder.find(other.id))


def _set_aside(made: Change, _said: Finish) -> None:
    """Pomace that was kept waits as its own lot."""
    standing = made.folder.standing
    for lot_id in made.folder.edges[made.operation.id]["out"]:
        lot = made.folder.lots[lot_id]
        now = standing.lot_now(lot)
        material = now.fruits[0].key if now and now.fruits else standing.brief.main.material
        grams = standing.figure_now(lot, "mass_g").typ
        kept = intake.keep_pomace(made.orm, made.who, lot, material, grams, made.now)
        made.log("pomace_kept", {"lot": kept.id, "grams": grams})


def _put_away(made: Change, _said: Finish) -> None:
    place = kitchens.place(made.orm, made.who, kind(made.operation.kind).place)
    for jar in made.folder.jar_rows(made.operation):
        seals.put(made.orm, made.who, jar, place, made.now)


_FINISH: Mapping[str, Callable[[Change, Finish], None]] = {
    "heat": _check_hot,
    "keep": _set_aside,
    "fill": _fill,
    "check": lambda made, said: seals.conclude(made, said.place_id, others_held=said.others_held),
    "put_away": _put_away,
}


def look_at_seal(made: Change, jar_id: int, held: bool, way_on: str | None) -> None:
    """Say of one jar of a seal check whether its seal held; the first look starts the check."""
    _must_be_running(made)
    seals.look_at(made, jar_id, held, way_on)
