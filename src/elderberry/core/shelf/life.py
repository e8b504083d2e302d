"""The life of a jar on its shelf: one transition table, and what each end of it gives back."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import cache

from elderberry.core import tables
from elderberry.core.batch.lifecycle import Seal
from elderberry.core.errors import IllegalStep, Unknown


class Lives(StrEnum):
    """Where a jar is in its life."""

    MADE = "made"
    """Filled, and not on a place yet."""
    STANDS = "stands"
    OPENED = "opened"
    FINISHED = "finished"
    GIVEN = "given"
    WENT_IN = "went_in"
    """Its content went into another batch."""
    THROWN = "thrown"
    NEVER = "never"
    """Counted by mistake: it was never filled."""


GONE = frozenset({Lives.FINISHED, Lives.GIVEN, Lives.WENT_IN, Lives.THROWN, Lives.NEVER})
KINDS = ("opened", "poured", "used_up", "given", "went_in", "spoiled", "broken", "relabelled",
         "looked_sound", "tasted", "carried", "miscounted")  # fmt: skip
"""What can be done with a jar."""

TRANSITIONS: Mapping[tuple[Lives, str], Lives] = {
    (Lives.STANDS, "opened"): Lives.OPENED,
    (Lives.STANDS, "given"): Lives.GIVEN,
    (Lives.STANDS, "carried"): Lives.STANDS,
    (Lives.STANDS, "miscounted"): Lives.NEVER,
    (Lives.OPENED, "carried"): Lives.OPENED,
    (Lives.OPENED, "poured"): Lives.OPENED,
    (Lives.OPENED, "given"): Lives.GIVEN,
    (Lives.STANDS, "looked_sound"): Lives.STANDS,
    (Lives.OPENED, "looked_sound"): Lives.OPENED,
    **{(there, "used_up"): Lives.FINISHED for there in (Lives.STANDS, Lives.OPENED)},
    **{(there, "went_in"): Lives.WENT_IN for there in (Lives.STANDS, Lives.OPENED)},
    **{(there, "tasted"): there for there in (Lives.STANDS, Lives.OPENED, Lives.FINISHED)},
    **{(there, "relabelled"): there for there in (Lives.MADE, Lives.STANDS, Lives.OPENED)},
    **{(there, "spoiled"): Lives.THROWN for there in (Lives.MADE, Lives.STANDS, Lives.OPENED)},
    **{(there, "broken"): Lives.THROWN for there in (Lives.MADE, Lives.STANDS, Lives.OPENED)},
}
HELD_MAY = frozenset({"spoiled", "broken", "looked_sound", "relabelled", "carried", "miscounted"})
"""What may be done with a jar that is held until somebody has looked at it."""
CLOSED = frozenset({Seal.SEALED, Seal.UNSEALED, Seal.CAPPED})


def after(lives: Lives, what: str, *, held: bool = False) -> Lives:
    """Where a jar is in its life after something was done with it.

    Args:
        lives: where it is.
        what: one of KINDS.
        held: whether its batch is held until every jar of it was looked at.

    Raises:
        IllegalStep: it cannot be done with a jar that is so; the code says how.

    >>> after(Lives.STANDS, "opened")
    <Lives.OPENED: 'opened'>
    """
    if held and what not in HELD_MAY:
        raise IllegalStep(
            "held-until-looked-at",
            "A jar of its batch spoiled: look at this one first, and say that it is sound.",
        )
    following = TRANSITIONS.get((lives, what))
    if following is None:
        raise IllegalStep("jar-not-so", f"A jar that {_SO[lives]} cannot be {_DONE[what]}.")
    return following


def legal(lives: Lives, what: str, *, held: bool = False) -> bool:
    """Whether something can be done with a jar that is so.

    >>> legal(Lives.STANDS, "opened"), legal(Lives.STANDS, "opened", held=True)
    (True, False)
    """
    return (lives, what) in TRANSITIONS and (not held or what in HELD_MAY)


_SO = {
    Lives.MADE: "stands on no place yet",
    Lives.STANDS: "stands closed",
    Lives.OPENED: "is open",
    Lives.FINISHED: "is used up",
    Lives.GIVEN: "was given away",
    Lives.WENT_IN: "went into another batch",
    Lives.THROWN: "was thrown away",
    Lives.NEVER: "was never filled",
}
_DONE = {
    "opened": "opened",
    "poured": "poured from",
    "used_up": "used up",
    "given": "given away",
    "went_in": "used in a batch",
    "spoiled": "thrown away",
    "broken": "broken",
    "relabelled": "given another name",
    "looked_sound": "called sound",
    "tasted": "tasted",
    "carried": "carried elsewhere",
    "miscounted": "called a mistake of counting",
}


def comes_back(lives: Lives, closure: str) -> tuple[bool, bool]:
    """Whether the empty jar, and its lid, come back into stock when a jar ends so.

    What spoiled is thrown away closed, glass and all; what was given away is another's.

    >>> comes_back(Lives.FINISHED, "reusable")
    (True, True)
    """
    if lives is Lives.NEVER:
        return True, True
    emptied = lives in {Lives.FINISHED, Lives.WENT_IN}
    return emptied, emptied and closure in LASTS


LASTS = frozenset({"reusable"})
"""Closures counted by themselves that may close another jar."""


@dataclass(frozen=True)
class Sign:
    """What is seen of a jar that failed on its shelf.

    key; ask: as it is pressed; now: what to do; means: what it says of the others; holds: whether
    its whole batch is held until looked at; ends: spoiled or broken.
    """

    key: str
    ask: str
    now: str
    means: str
    holds: bool
    ends: str


@cache
def signs() -> dict[str, Sign]:
    """Every sign of data/signs.toml, in order."""
    return {key: Sign(key, **row) for key, row in tables.document("signs").items()}


def sign(key: str) -> Sign:
    """A sign by its key.

    Raises:
        Unknown: there is none such.

    >>> sign("cracked").holds
    False
    """
    try:
        return signs()[key]
    except KeyError:
        raise Unknown("sign", key) from None
