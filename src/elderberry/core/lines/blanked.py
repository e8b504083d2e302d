"""A text of which what was understood is blanked out, so that places stay where they were."""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from typing import NoReturn

from elderberry.core.figures import CannotRead
from elderberry.core.lines.line import Target, Where
from elderberry.core.quantities import Customs, Quantity

Span = tuple[int, int]


@dataclass
class Said:
    """What has been understood of a line besides its material and its amount."""

    target: Target = ""
    value: float = 0.0
    share: float | None = None
    of: str = ""
    by_volume: bool = False
    per: Quantity | None = None
    each_jar: bool = False
    to_taste: bool = False
    where: Where = ""
    leaves: bool = False
    weighed_g: float | None = None
    """A weight that stands in brackets beside the amount."""
    hints: frozenset[str] = frozenset()
    """Words in brackets that tell one material from others of its name."""
    form: str = ""
    """The form that the name itself gives: "lime juice"."""


@dataclass
class Blanked:
    """A line as it is read: the text, what is not yet understood of it, and what is."""

    text: str
    customs: Customs
    named: str = ""
    """The material that is spoken of, where the line need not name it."""
    rest: str = ""
    said: Said = field(default_factory=Said)
    places: dict[str, Span] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.rest = "".join(_plain(c) for c in self.text)

    def take(self, span: Span, part: str = "") -> None:
        """Blank out a place, and remember it as that of a part."""
        start, end = span
        if part:
            self.places[part] = span
        self.rest = self.rest[:start] + " " * (end - start) + self.rest[end:]

    def found(self, pattern: re.Pattern[str], part: str = "") -> re.Match[str] | None:
        """Where a phrase first stands, blanked out; None where it does not."""
        match = pattern.search(self.rest)
        if match:
            self.take(match.span(), part)
        return match

    def kept(self) -> str:
        """What is left of the text, in its own letters."""
        return "".join(o if r != " " else " " for o, r in zip(self.text, self.rest, strict=True))

    def fail(self, message: str, span: Span) -> NoReturn:
        """Raise CannotRead at a place."""
        raise CannotRead(message, self.text, *span)


def _plain(char: str) -> str:
    """One letter, small, so that places stay."""
    small = char.lower()
    return " " if char.isspace() else "'" if char == "’" else small if len(small) == 1 else char
