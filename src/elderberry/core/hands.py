"""How much of a person a step takes, by the words that say it."""

from __future__ import annotations

import re

from elderberry.core.errors import Unknown, check_range

WHOLE = frozenset({"all the time", "at the pot", "both hands, all the time"})
A_FEW_MIN, START_AND_END_MIN, A_GLANCE_MIN = 5.0, 10.0, 1.0
"""Minutes of hands for "a few minutes", for both ends of a step, and for one look [min]."""
_EVERY = re.compile(r"^a (?:glance|stir) every (\d+) min$")


def hands_min(hands: str, minutes: float) -> float:
    """Minutes of a person's hands that a step takes [min].

    Args:
        hands: how much of a person it takes, in the words of data/operations.toml.
        minutes: how long it takes [min], 0 to 20 000.

    Raises:
        Unknown: words that say nothing of hands.
        OutOfRange: a length that cannot be.

    Source: our own estimates.

    >>> hands_min("all the time", 20), hands_min("a glance every 15 min", 60), hands_min("none", 9)
    (20, 4.0, 0.0)
    """
    check_range("minutes", minutes, "min", 0, 20_000)
    if hands in WHOLE:
        return minutes
    if every := _EVERY.match(hands):
        return min(minutes, A_GLANCE_MIN * minutes / float(every[1]))
    known = {
        "a few minutes": A_FEW_MIN, "at the start and the end": START_AND_END_MIN, "none": 0.0,
    }  # fmt: skip
    if hands not in known:
        raise Unknown("hands", hands)
    return min(minutes, known[hands])
