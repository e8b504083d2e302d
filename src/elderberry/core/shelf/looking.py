"""What is typed to find jars: words, and what is said of their age, their time and their state."""

from __future__ import annotations

import re
from dataclasses import dataclass

DAYS = {"day": 1, "week": 7, "month": 30, "year": 365}
_SPAN = r"(?P<n>\d{1,3}|an?|one|two|three|half a)\s+(?P<unit>day|week|month|year)s?"
_OLD = re.compile(rf"\b(?:over|older than|more than)\s+{_SPAN}(?:\s+old)?")
_LEFT = re.compile(rf"\b(?:(?:under|less than|within|up to)\s+)?{_SPAN}\s+left")
_SEASON = re.compile(r"\b(?:from|of|made in)?\s*(?P<year>(?:19|20)\d\d)\b")
_STATES = {"open": "opened", "opened": "opened", "held": "held"}
NUMBERS = {"a": 1.0, "an": 1.0, "one": 1.0, "two": 2.0, "three": 3.0, "half a": 0.5}
MOST_WORDS = 6


@dataclass(frozen=True)
class Looking:
    """What is looked for.

    words: each of them is found in the name, code, kind or place; older_d: filled so many days ago
    or more; left_d: at its best for so many days or fewer; year: filled in it; state: opened, held
    or empty.
    """

    words: tuple[str, ...] = ()
    older_d: int | None = None
    left_d: int | None = None
    year: int | None = None
    state: str = ""

    @property
    def everything(self) -> bool:
        """Whether nothing is asked, so that every jar is meant."""
        return self == Looking()


def read(text: str) -> Looking:
    """What was typed, as it was understood; what is not a saying is a word.

    >>> read("damson, over a year, 4 weeks left")
    Looking(words=('damson',), older_d=365, left_d=28, year=None, state='')
    >>> read("open aronia 2025")
    Looking(words=('aronia',), older_d=None, left_d=None, year=2025, state='opened')
    """
    rest = " ".join(text.lower().replace(",", " ").split())
    rest, older = _taken(_OLD, rest)
    rest, left = _taken(_LEFT, rest)
    year = None
    if found := _SEASON.search(rest):
        year = int(found["year"])
        rest = rest[: found.start()] + " " + rest[found.end() :]
    words = rest.split()
    states = [_STATES[w] for w in words if w in _STATES]
    plain = tuple(w for w in words if w not in _STATES)[:MOST_WORDS]
    return Looking(plain, older, left, year, states[0] if states else "")


def _taken(saying: re.Pattern[str], text: str) -> tuple[str, int | None]:
    """The text without a saying, and the days it stands for."""
    found = saying.search(text)
    if found is None:
        return text, None
    number = NUMBERS.get(found["n"]) or float(found["n"])
    return text[: found.start()] + " " + text[found.end() :], round(number * DAYS[found["unit"]])
