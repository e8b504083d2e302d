"""What goes wrong at a step: what to do now, what it means, and what it changes in the figures."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from elderberry.core import tables
from elderberry.core.errors import Unknown
from elderberry.core.flow.kinds import Kind
from elderberry.core.quantities import System

FIRST_AID = (
    "A burn: cool running water for 20 minutes, no ice and no butter. Rings off before it swells. "
    "Cover it with clean film. Larger than a hand, on the face, or a child's: call for help."
)
"""First aid that is always at hand. Source: Red Cross, burns and scalds."""


@dataclass(frozen=True)
class Mishap:
    """Something that goes wrong at some kinds of step, and what follows from it."""

    key: str
    title: str
    now: str
    means: str
    roles: frozenset[str]
    kinds: frozenset[str]
    loses: bool = False
    """Part of what is in the pot is gone; how much is said with the press."""
    minutes: float = 0.0
    """So much more on the timer [min]."""
    refills: bool = False
    restarts: bool = False
    jars: str = ""
    """What becomes of the jars that are named: gone, cold or siphoned."""
    water: bool = False

    def at(self, key: str, what: Kind) -> bool:
        """Whether it happens at a kind of step."""
        return key in self.kinds or bool(what.role and what.role in self.roles)

    @property
    def by_amount(self) -> bool:
        """Whether how much is said with the press."""
        return self.loses or self.water

    @property
    def changes(self) -> str:
        """What it changes in the figures, in words."""
        said = (
            (self.loses, "So much less is in the pot from here on."),
            (self.water, "So much more water is in the pot."),
            (self.refills, "The pan counts as full again."),
            (self.minutes > 0, f"{self.minutes:.0f} minutes more on the timer."),
            (self.restarts, "The time starts again from zero at the next full boil."),
            (self.jars == "gone", "That jar leaves the batch."),
            (self.jars == "cold", "That jar goes into the refrigerator."),
            (self.jars == "siphoned", "That jar is dated a fifth shorter."),
        )
        return " ".join(words for holds, words in said if holds) or "Nothing in the figures."


def amounts(system: System = "metric") -> tuple[str, ...]:
    """What is said with a press where nobody measures what ran out, or went in.

    >>> amounts(), amounts("us")
    (('1/4 cup', '1 cup', '1 litre'), ('1/4 cup', '1 cup', '1 quart'))
    """
    return "1/4 cup", "1 cup", "1 litre" if system == "metric" else "1 quart"


@cache
def mishaps() -> dict[str, Mishap]:
    """Every mishap by key.

    Source: data/mishaps.toml.
    """
    return {
        key: Mishap(
            key, row["title"], row["now"], row["means"],
            frozenset(row.get("roles", ())), frozenset(row.get("kinds", ())),
            **{k: row[k] for k in FOLLOWS if k in row},
        )
        for key, row in tables.document("mishaps").items()
    }  # fmt: skip


FOLLOWS = ("loses", "minutes", "refills", "restarts", "jars", "water")


def mishap(key: str) -> Mishap:
    """The mishap of this key.

    Raises:
        Unknown: there is none.

    >>> mishap("water_low").restarts
    True
    """
    try:
        return mishaps()[key]
    except KeyError:
        raise Unknown("mishap", key) from None


def at_step(key: str, what: Kind) -> tuple[Mishap, ...]:
    """What may go wrong at a kind of step.

    >>> from elderberry.core.flow.kinds import kind
    >>> [m.key for m in at_step("steam_juice", kind("steam_juice"))]
    ['hose_off', 'pan_near_dry', 'lid_lifted']
    """
    return tuple(m for m in mishaps().values() if m.at(key, what))
