"""Reading the core's own data files. A blank cell is None: not known, never zero."""

from __future__ import annotations

import csv
import tomllib
from functools import cache
from importlib import resources
from typing import Any

from elderberry.core.estimates import Estimate

Row = dict[str, str]
ALTITUDE_COLUMNS = ("ft_0_1000", "ft_1001_3000", "ft_3001_6000", "ft_over_6000")


@cache
def rows(name: str) -> tuple[Row, ...]:
    """The rows of data/<name>.csv; lines that begin with # are comments."""
    text = (resources.files("elderberry.core") / "data" / f"{name}.csv").read_text("utf-8")
    lines = [line for line in text.splitlines() if line and not line.startswith("#")]
    return tuple(csv.DictReader(lines))


@cache
def document(name: str) -> dict[str, Any]:
    """The contents of data/<name>.toml."""
    text = (resources.files("elderberry.core") / "data" / f"{name}.toml").read_text("utf-8")
    return tomllib.loads(text)


def number(cell: str) -> float | None:
    """A cell as a number, or None where it is blank.

    >>> number("3.5"), number("")
    (3.5, None)
    """
    return float(cell) if cell.strip() else None


def estimate(cell: str) -> Estimate | None:
    """A cell "lo|typ|hi" as an estimate, or None where it is blank.

    >>> estimate("3.3|3.5|4.0").typ
    3.5
    """
    if not cell.strip():
        return None
    lo, typ, hi = (float(part) for part in cell.split("|"))
    return Estimate(lo, typ, hi)


def words(cell: str) -> tuple[str, ...]:
    """A cell "a|b" as its words.

    >>> words("apple|pear")
    ('apple', 'pear')
    """
    return tuple(part.strip() for part in cell.split("|") if part.strip())
