"""What closes a jar, and how."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from elderberry.core import tables
from elderberry.core.errors import Unknown

NEW = ""
"""The usual new lids of a kind of jar."""


@dataclass(frozen=True)
class Closure:
    """A closure: its name, how it is closed, and whether its lids are counted by themselves."""

    key: str
    name: str
    close: str
    counted: bool = False


@cache
def closures() -> dict[str, Closure]:
    """Every closure by key.

    Source: data/closures.toml.
    """
    return {
        key: Closure(key, row["name"], row["close"], bool(row.get("counted", False)))
        for key, row in tables.document("closures").items()
    }


def named(key: str) -> str:
    """What a closure is called; nothing chosen is the usual new lids.

    Raises:
        Unknown: there is none.

    >>> named(NEW)
    'new lids'
    """
    return closure(key).name if key else "new lids"


def closure(key: str) -> Closure:
    """The closure of this key.

    Raises:
        Unknown: there is none.

    >>> closure("reusable").counted, closure("twist").counted
    (True, False)
    """
    try:
        return closures()[key]
    except KeyError:
        raise Unknown("closure", key) from None
