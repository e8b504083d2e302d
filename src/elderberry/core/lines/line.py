"""What a line amounts to once it was read."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

from elderberry.core.estimates import Estimate
from elderberry.core.figures import CannotRead

How = Literal["amount", "share", "target", "to_taste"]
Per = Literal["g/g", "g/l", "g/jar"]
Where = Literal["", "start", "simmer", "strained", "off_heat", "jar", "glass"]
"""When something joins: with the fruit, while it simmers, once it is strained, off the heat, in
the jar, in the glass; where it usually does when nothing is said."""
Target = Literal["", "brix", "ph", "acid_g_l", "volume_ml", "cover", "fill", "rest", "last"]
"""What a line is brought to. last: as the last batch was, more (value 1) or less (−1) of it."""


@dataclass(frozen=True)
class Line:
    """One line of what goes in, as it was understood.

    said: word for word. material: key of fruits.csv or ingredients.csv. called: what the cook calls
    it. measured_as: the form in which it was measured, which sets the grams; form: the form in
    which it joins, which decides. mass_g: [g], where an amount was said. share: g of it to a gram
    (per "g/g"), a litre ("g/l") or a jar ("g/jar") of what it joins, or of `of`. target: what
    `value` speaks of. where: at what time it joins; leaves: whether it is strained out again.
    places: where in the text each part stands, so that a misread part can be pressed.
    """

    said: str
    material: str
    called: str
    how: How
    form: str = "whole"
    measured_as: str = "whole"
    mass_g: Estimate | None = None
    amount: str = ""
    """How much, as it is said back: "2 1/2 cups"."""
    share: float = 0.0
    per: Per = "g/g"
    of: str = ""
    target: Target = ""
    value: float = 0.0
    where: Where = ""
    leaves: bool = False
    guessed: bool = False
    """Whether its name was misspelt, so that it was guessed at."""
    by_volume: bool = False
    places: Mapping[str, tuple[int, int]] = field(default_factory=dict)


@dataclass(frozen=True)
class Meaning:
    """One thing that a line could mean, and the words that would say so."""

    words: str
    line: str


class CouldBe(CannotRead):
    """A name that several materials share; choices are lines that say which."""

    def __init__(
        self, message: str, text: str, start: int, end: int, choices: tuple[Meaning, ...]
    ) -> None:
        self.choices = choices
        super().__init__(message, text, start, end)


class NotListed(CannotRead):
    """Something that no list here knows, by its name: it can become the household's own."""

    def __init__(self, name: str, text: str, start: int, end: int) -> None:
        self.name = name
        super().__init__(f'"{name}" is not known here yet.', text, start, end)
