"""What clients send about jars on their shelves."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import Field

from elderberry.api.sent.base import Day, Id, Key, Sent
from elderberry.core import serving
from elderberry.core.shelf.found import MOST
from elderberry.services.shelf import found, lives, recall, servings


class JarsDone(Sent):
    """Something is done with jars: those that are named, or so many of a stack."""

    what: Key
    jars: Annotated[list[Id], Field(default_factory=list, max_length=lives.MOST_AT_ONCE)]
    stack: Id | None = None
    count: Annotated[int, Field(ge=1, le=lives.MOST_AT_ONCE)] = 1
    place_id: Id | None = None
    to: Annotated[str, Field(max_length=80)] = ""
    ml: Annotated[float, Field(gt=0, le=100_000)] | None = None
    label: Annotated[str, Field(max_length=120)] = ""
    verdict: Annotated[str, Field(max_length=8)] = ""
    sign: Annotated[str, Field(max_length=24)] = ""

    def which(self) -> lives.Which:
        """The jars that are meant."""
        return lives.Which(tuple(self.jars), self.stack, self.count)

    def told(self) -> lives.Told:
        """What is said with it."""
        return lives.Told(self.place_id, self.to, self.ml, self.label, self.verdict, self.sign)


class DrinkAsk(Sent):
    """A drink as it is wanted."""

    ml: Annotated[float, Field(ge=20, le=100_000)]
    diluent: Annotated[str, Field(max_length=24)] = "water"
    brix: Annotated[float, Field(ge=0.5, le=40)] = serving.GLASS_BRIX
    acid_g_l: Annotated[float, Field(ge=0.5, le=40)] = serving.GLASS_ACID_G_L
    ice_g: Annotated[float, Field(ge=0, le=50_000)] = 0.0
    in_it: Annotated[
        list[Annotated[str, Field(max_length=120)]], Field(default_factory=list, max_length=12)
    ]

    def asked(self) -> servings.Asked:
        """The drink, as the services ask for it."""
        return servings.Asked(
            self.ml, self.diluent, self.brix, self.acid_g_l, self.ice_g, tuple(self.in_it)
        )


class DrinkPoured(DrinkAsk):
    """A drink that is poured and written down under a name."""

    name: Annotated[str, Field(min_length=1, max_length=80)]


class RecallAsk(Sent):
    """What jars are recalled by."""

    by: recall.By
    what: Annotated[str, Field(min_length=1, max_length=120)]
    since: Annotated[datetime, Field(strict=False)] | None = None


class FoundLine(Sent):
    """A line that speaks of jars which were there already, and what was said of it since."""

    line: Annotated[str, Field(max_length=300)]
    material: Annotated[str, Field(max_length=40)] = ""
    jar_kind: Annotated[str, Field(max_length=24)] = ""
    place_id: Id | None = None

    def said(self) -> found.Said:
        """As the services take it."""
        return found.Said(**self.model_dump())


class FoundLines(Sent):
    """Lines that speak of jars which were there already."""

    lines: Annotated[list[FoundLine], Field(min_length=1, max_length=found.MOST_LINES)]


class FoundRow(Sent):
    """Jars that were there already, as they are to be put on their place."""

    said: Annotated[str, Field(max_length=300)] = ""
    count: Annotated[int, Field(ge=1, le=MOST)]
    label: Annotated[str, Field(min_length=1, max_length=120)]
    material: Annotated[str, Field(max_length=40)] = ""
    product: Annotated[str, Field(max_length=24)] = ""
    jar_kind: Annotated[str, Field(min_length=1, max_length=24)]
    place_id: Id
    first: Day | None = None
    last: Day | None = None

    def row(self) -> found.Row:
        """As the services take it."""
        return found.Row(**self.model_dump())


class FoundJarsPut(Sent):
    """What was there already, row by row: all of it, or nothing."""

    rows: Annotated[list[FoundRow], Field(min_length=1, max_length=found.MOST_LINES)]


class LogReading(Sent):
    """How warm it is at a place now [°C]."""

    temp_c: Annotated[float, Field(ge=-40, le=45)]


class LogFile(Sent):
    """A file of times and temperatures."""

    text: Annotated[str, Field(min_length=5, max_length=8_000_000)]
