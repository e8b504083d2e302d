"""Mishaps: one press says what went wrong, and the figures follow."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from elderberry.core import mishaps
from elderberry.core.batch.lifecycle import OPEN, Phase
from elderberry.core.batch.pots import MISHAP, WATER_BACK
from elderberry.core.flow.kinds import kind
from elderberry.core.mishaps import Mishap
from elderberry.core.quantities import System
from elderberry.core.shelf.life import Lives
from elderberry.core.wording import in_units
from elderberry.services.cooking import places, reading, seals
from elderberry.services.cooking.change import Change
from elderberry.services.cooking.folder import Folder
from elderberry.services.cooking.step_shown import MishapView
from elderberry.services.errors import Conflict, FieldError, NotFound
from elderberry.services.household import kitchens
from elderberry.store import Jar, Operation

SIPHONED, BROKEN = "siphoned", "broken"
"""What happens to a jar that lost juice in the canner, and to one that is no more."""


@dataclass(frozen=True)
class Said:
    """What is said with the press: how much, as one says it, or which jars."""

    amount: str = ""
    jars: Sequence[int] = ()


def at_step(folder: Folder, operation: Operation) -> list[MishapView]:
    """What may go wrong at a step now, where it is open or has jars that cool."""
    if folder.phase(operation) not in OPEN:
        return []
    jars = folder.jar_rows(operation)
    what = kind(operation.kind)
    return [
        MishapView(
            m.key, m.title, in_units(m.now, folder.units), in_units(m.means, folder.units),
            m.changes, _asks(m), _amounts(m, folder.units),
        )
        for m in mishaps.at_step(operation.kind, what)
        if _possible(folder, operation, m, jars)
    ]  # fmt: skip


def _possible(folder: Folder, operation: Operation, what: Mishap, jars: Sequence[Jar]) -> bool:
    running = folder.phase(operation) is Phase.RUNNING
    if what.jars:
        return bool(jars) and (running or kind(operation.kind).role == "check")
    return running or not kind(operation.kind).timed


def _amounts(what: Mishap, units: System) -> list[str]:
    return list(mishaps.amounts(units)) if what.by_amount else []


def _asks(what: Mishap) -> str:
    if what.jars:
        return "jar"
    return "amount" if what.by_amount else ""


def happened(made: Change, key: str, said: Said) -> None:
    """Something went wrong at a step; what it changes is changed.

    Raises:
        FieldError: no such mishap happens here, an amount that is none, or no jar is named.
        NotFound: a jar that is not of this step.
        Conflict: the step is over, or has not begun.
        IllegalStep: the time was not running.
    """
    found = {m.key: m for m in mishaps.at_step(made.operation.kind, kind(made.operation.kind))}
    if key not in found:
        raise FieldError("/what", "That does not happen at this step. Nothing was recorded.")
    what = found[key]
    if made.folder.phase(made.operation) not in OPEN:
        raise Conflict("step-is-over", "This step is over. Note it at the one that is on.")
    said_ml = _amount(made, what, said)
    lost = {"lost_ml": said_ml} if what.loses and said_ml else {}
    jars = _jars(made, what, said)
    codes = {"codes": [j.code for j in jars]} if jars else {}
    made.log(MISHAP, {"what": key, "words": what.title, **lost, **codes})
    if what.water:
        made.log(WATER_BACK, {"grams": said_ml, "said": said.amount})
    for jar in jars:
        _jar(made, jar, what)
    _on_the_clock(made, what)


def _amount(made: Change, what: Mishap, said: Said) -> float:
    if not what.by_amount:
        return 0.0
    if not said.amount and what.loses:
        return 0.0
    return reading.amount(made, said.amount, "volume_ml", "/amount")


def _jars(made: Change, what: Mishap, said: Said) -> list[Jar]:
    if not what.jars:
        return []
    mine = {j.id: j for j in made.folder.jar_rows(made.operation)}
    if not said.jars:
        raise FieldError("/jars", "Say which jar. Nothing was recorded.")
    if not set(said.jars) <= set(mine):
        raise NotFound("jar of this step")
    return [mine[i] for i in said.jars]


def _on_the_clock(made: Change, what: Mishap) -> None:
    running = made.folder.phase(made.operation) is Phase.RUNNING
    if what.refills and running:
        made.append("noted", {"what": "refilled", "words": ""})
    if what.restarts and made.folder.standing.states[made.operation.id].clock_from is not None:
        made.append("boil_lost")
    if what.minutes and running:
        made.append("lengthened", {"minutes": what.minutes, "reason": what.title.lower()})


def _jar(made: Change, jar: Jar, what: Mishap) -> None:
    """What becomes of a jar."""
    if what.jars == SIPHONED:
        jar.contents = {**jar.contents, SIPHONED: True}
        made.log(SIPHONED, {"code": jar.code}, jar_id=jar.id)
        return
    if what.jars == "cold":
        seals.to_the_cold(made, jar)
        return
    places.leave(made.orm, jar, Lives.THROWN, kitchens.today(made.orm, made.who, made.now))
    made.log(BROKEN, {"code": jar.code, "words": what.title}, jar_id=jar.id)
