"""Which passwords are too easily guessed."""

from __future__ import annotations

import re
from collections.abc import Iterable
from pathlib import Path

from elderberry.services.errors import FieldError

COMMON = frozenset((Path(__file__).parent / "common_passwords.txt").read_text().split())
"""Words that lists of stolen passwords begin with, and those that lie near in a kitchen; with any
figures and signs behind them. After published tallies of the commonest."""
KEYBOARD = ("abcdefghijklmnopqrstuvwxyz", "01234567890", "qwertyuiop", "qwertzuiop", "asdfghjkl")


def check(password: str, field: str, names: Iterable[str] = ()) -> None:
    """Refuse a password that is guessed among the first.

    Args:
        password: what was chosen.
        field: JSON pointer to where.
        names: what anybody knows of them: names, the household.

    Raises:
        FieldError: it is common, a name, or a row of keys.
    """
    plain = password.lower()
    bare = re.sub(r"[^a-zäöüß@]+$|^[^a-zäöüß@]+", "", plain)
    known = {n.strip().lower() for n in names} | {n.replace(" ", "").lower() for n in names}
    if (
        plain in COMMON
        or bare in COMMON
        or bare.replace("0", "o").replace("1", "i").replace("3", "e") in COMMON
        or {plain, bare} & known
        or len(set(plain)) <= MOST_ALIKE
        or _is_a_row(plain)
    ):
        raise FieldError(
            field,
            "That password is among the first that anybody would try. "
            "Three or four words of your own are easy to keep and hard to guess.",
        )


MOST_ALIKE = 2
"""A password of so few different letters is no secret."""


def _is_a_row(plain: str) -> bool:
    """Whether it walks along the keys, up or down, round and round."""
    rows = [row * 3 for row in KEYBOARD] + [row[::-1] * 3 for row in KEYBOARD]
    return any(plain in row for row in rows)
