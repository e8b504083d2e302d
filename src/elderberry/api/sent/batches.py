"""What clients send from a batch that is being cooked."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from elderberry.api.sent.base import Id, Key, Sent
from elderberry.core.batch.traced import Probe
from elderberry.services.cooking.mishaps import Said
from elderberry.services.cooking.steps import Finish, JarEntry, ReadingEntry


class Correction(Sent):
    """What a mistaken reading should have been, in its base unit."""

    value: float


class ReadingCreate(Sent):
    """A reading in base units: mL, g, °C, °Bx, pH; or an amount as one says it."""

    quantity: Literal["volume_ml", "mass_g", "tray_g", "temp_c", "brix", "ph", "depth_cm", "drop"]
    value: float = 0.0
    said: Annotated[str, Field(max_length=120)] = ""
    instrument: Annotated[str, Field(max_length=24)]
    lot_key: Annotated[str, Field(max_length=40)] | None = None

    def entry(self) -> ReadingEntry:
        """As the services take it."""
        return ReadingEntry(**self.model_dump())


class TraceFile(Sent):
    """What a probe has written down, and where the probe was."""

    text: Annotated[str, Field(min_length=5, max_length=8_000_000)]
    probe: Probe


class JarsFilled(Sent):
    """Jars of a kind that were really filled."""

    kind: Annotated[str, Field(max_length=24)]
    count: Annotated[int, Field(ge=0, le=500)]


class StepFinish(Sent):
    """What is said when a step is done."""

    readings: Annotated[list[ReadingCreate], Field(max_length=8)] = []
    jars: Annotated[list[JarsFilled], Field(max_length=12)] = []
    part_kind: Annotated[str, Field(max_length=24)] | None = None
    part_ml: Annotated[float, Field(ge=0, le=5000)] = 0.0
    part_said: Annotated[str, Field(max_length=120)] = ""
    shared: bool = False
    place_id: Id | None = None
    others_held: bool = False
    said: Annotated[list[Key], Field(max_length=12)] = []
    more: bool = False

    def finish(self) -> Finish:
        """As the services take it."""
        return Finish(
            readings=tuple(r.entry() for r in self.readings),
            jars=tuple(JarEntry(j.kind, j.count) for j in self.jars),
            part_kind=self.part_kind,
            part_ml=self.part_ml,
            part_said=self.part_said,
            shared=self.shared,
            place_id=self.place_id,
            others_held=self.others_held,
            said=tuple(self.said),
            more=self.more,
        )


class Ending(Sent):
    """What becomes of a batch that may not go on a shelf."""

    keep: Literal["chill", "freeze"]


class MoreTime(Sent):
    """Minutes to add, and why."""

    minutes: Annotated[float, Field(gt=0, le=600)]
    reason: Annotated[str, Field(min_length=1, max_length=200)]


class AcidAdded(Sent):
    """Acid that was stirred in, as one says it: "15 g citric acid"."""

    line: Annotated[str, Field(min_length=1, max_length=200)]


class WaterBack(Sent):
    """Water that brings a pot back, as one says it: "50 ml", "half a cup"."""

    line: Annotated[str, Field(min_length=1, max_length=200)]


class MishapSaid(Sent):
    """Something that went wrong: how much, as one says it ("a cup"), or which jars."""

    what: Annotated[str, Field(min_length=1, max_length=40)]
    amount: Annotated[str, Field(max_length=200)] = ""
    jars: Annotated[list[int], Field(max_length=200)] = []

    def said(self) -> Said:
        """As the services take it."""
        return Said(self.amount, tuple(self.jars))


class FilledNow(Sent):
    """How hot the pot is that a canner load is filled from now."""

    temp_c: Annotated[float, Field(ge=0, le=130)]


class Note(Sent):
    """Something worth keeping about a step."""

    what: Literal["refilled", "problem", "bench", "ping", "shaken"]
    words: Annotated[str, Field(max_length=400)] = ""


class SealSeen(Sent):
    """Whether a jar's seal held and, where it did not, what becomes of it."""

    held: bool
    way_on: Literal["reprocess", "chill", "freeze"] | None = None
