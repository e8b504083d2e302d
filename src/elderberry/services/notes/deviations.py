"""What went otherwise than planned, in words, from the journal of a batch."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from elderberry.core.batch import readings
from elderberry.core.wording import figure, in_units
from elderberry.services.cooking.folder import Folder, title
from elderberry.services.notes.shown import Deviation
from elderberry.store import Event
from elderberry.store.base import Json

DAY_TO_DAY = frozenset({"refilled", "bench", "ping"})
"""Notes that belong to every batch."""


def of_batch(folder: Folder) -> list[Deviation]:
    """Everything that went otherwise than planned, in its order."""
    steps = {o.id: title(o, folder.units) for o in folder.operations}
    found = []
    for event in folder.events:
        words = _words(folder, event)
        if words:
            step = steps.get(event.operation_id or 0, "")
            by = folder.people.get(event.person_id, "")
            found.append(Deviation(event.at, step, in_units(words, folder.units), by))
    return found


def _words(folder: Folder, event: Event) -> str:
    if event.kind == "noted":
        return "" if event.data.get("what") in DAY_TO_DAY else str(event.data.get("words", ""))
    if event.kind == "corrected":
        return _corrected(folder, event.data)
    say = SAYS.get(event.kind)
    return say(event.data) if say else ""


def _corrected(folder: Folder, data: Json) -> str:
    by_id = {r.id: r for r in folder.readings}
    old, new = by_id.get(data["reading"]), by_id.get(data["by"])
    if old is None or new is None:
        return ""
    what = readings.quantity(old.quantity)
    return f"{what.name} put right: {old.value:g} was {new.value:g} {what.unit}".rstrip()


def _mishap(data: Mapping[str, Any]) -> str:
    lost = f", about {figure(data['lost_ml'], 'ml')} lost" if data.get("lost_ml") else ""
    jars = f": {', '.join(data['codes'])}" if data.get("codes") else ""
    return f"{data['words']}{lost}{jars}"


def _lengthened(data: Mapping[str, Any]) -> str:
    return f"{data['minutes']:g} min more: {data['reason']}"


def _diverted(data: Mapping[str, Any]) -> str:
    return f"to the {'freezer' if data['keep'] == 'freeze' else 'refrigerator'} instead"


SAYS: Mapping[str, Callable[[Mapping[str, Any]], str]] = {
    "mishap": _mishap,
    "lengthened": _lengthened,
    "boil_lost": lambda _: "the boil was lost, and the time began again",
    "diverted": _diverted,
    "acid_added": lambda data: f"stirred in beyond the plan: {data['said']}",
    "water_back": lambda data: f"water back into the pot: {data['said']}",
    "seal_failed": lambda data: f"the seal of {data['code']} failed",
    "repeated": lambda _: "heated once more",
}
