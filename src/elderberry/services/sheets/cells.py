"""The cells of a row that comes in, read as what they should be; what is wrong is remembered."""

from __future__ import annotations

import re
from calendar import monthrange
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import date, datetime
from typing import TypeVar
from zoneinfo import ZoneInfo

from elderberry.core.errors import CannotTell, Unknown
from elderberry.core.quantities import System, convert
from elderberry.formats import sheets
from elderberry.formats.sheets import CannotRead, Table

Read = TypeVar("Read")
LONGEST = 120


@dataclass(frozen=True)
class Column:
    """A column that is taken: its name, the unit it is kept in, and whether it has to be there."""

    name: str
    unit: str = ""
    needed: bool = False


@dataclass(frozen=True)
class Wrong:
    """Something wrong with a row: the line of the file, the column, and why in words."""

    line: int
    column: str
    words: str


@dataclass(frozen=True)
class Reading:
    """How the cells of a table are read: its units, its decimal mark, the kitchen's zone."""

    units: Mapping[str, Callable[[float], float]]
    comma: bool
    zone: ZoneInfo


def reading(
    table: Table, columns: tuple[Column, ...], system: System, zone: ZoneInfo
) -> Reading:  # fmt: skip
    """How the cells of a table are read.

    Raises:
        CannotRead: a needed column is missing, or a heading names a unit of something else.
    """
    for column in columns:
        if column.needed and column.name not in table.names:
            raise CannotRead(f"It has no column “{column.name}”, which is needed.")
    units = {c.name: _to_base(table.units.get(c.name, ""), c, system) for c in columns if c.unit}
    return Reading(units, table.comma, zone)


def _to_base(unit: str, column: Column, system: System) -> Callable[[float], float]:
    if unit.lower() in {"", column.unit.lower()}:
        return lambda value: value
    try:
        convert(1.0, unit, column.unit, system)
    except (CannotTell, Unknown) as wrong:
        words = f"“{column.name}” is kept in {column.unit}, and its heading says {unit}."
        raise CannotRead(words) from wrong
    return lambda value: convert(value, unit, column.unit, system)


@dataclass
class Cells:
    """A row that comes in. What a cell should be and is not is remembered as wrong."""

    line: int
    by_name: Mapping[str, str]
    how: Reading
    wrong: list[Wrong] = field(default_factory=list)

    def fail(self, column: str, words: str) -> None:
        """Remember what is wrong."""
        self.wrong.append(Wrong(self.line, column, words))

    def text(self, name: str, *, needed: bool = False, most: int = LONGEST) -> str:
        """A cell as words."""
        said = " ".join(self.by_name.get(name, "").split())
        if needed and not said:
            self.fail(name, "It is empty.")
        if len(said) > most:
            self.fail(name, f"It is longer than {most} letters.")
        return said

    def number(
        self, name: str, lo: float, hi: float, *, needed: bool = False
    ) -> float | None:  # fmt: skip
        """A cell as a number in the unit it is kept in, between two limits."""
        found = self._read(name, lambda said: sheets.number(said, comma=self.how.comma), needed)
        if found is None:
            return None
        found = self.how.units[name](found) if name in self.how.units else found
        if not lo <= found <= hi:
            self.fail(name, f"It lies between {lo:g} and {hi:g}: {found:g} cannot be.")
            return None
        return found

    def day(self, name: str, *, needed: bool = False) -> date | None:
        """A cell as a day."""
        return self._read(name, sheets.day, needed)

    def moment(self, name: str, *, needed: bool = False) -> datetime | None:
        """A cell as a moment, in the kitchen's zone where it says none."""
        return self._read(name, lambda said: sheets.moment(said, self.how.zone), needed)

    def days(self, name: str) -> tuple[date, date] | None:
        """A cell as a day, a month (2025-08) or a year (2025): its first day and its last."""
        return self._read(name, _days, needed=False)

    def truth(self, name: str) -> bool:
        """A cell as yes or no; no where it is empty."""
        return bool(self._read(name, sheets.truth, needed=False))

    def one_of(self, name: str, known: Mapping[str, Read], what: str) -> Read | None:
        """A cell as one of the things of some names, compared small."""
        said = self.text(name)
        if not said:
            return None
        found = known.get(said.lower())
        if found is None:
            self.fail(name, f"There is no {what} called “{said[:40]}”.")
        return found

    def _read(self, name: str, how: Callable[[str], Read], needed: bool) -> Read | None:
        said = self.text(name, needed=needed)
        if not said:
            return None
        try:
            return how(said)
        except CannotRead as wrong:
            self.fail(name, str(wrong))
            return None


def _days(said: str) -> tuple[date, date]:
    match = re.fullmatch(r"(\d{4})(?:-(\d{1,2}))?", said)
    if match is None:
        on = sheets.day(said)
        return on, on
    year, month = int(match[1]), match[2]
    try:
        first = date(year, int(month or 1), 1)
        last = date(year, int(month or 12), monthrange(year, int(month or 12))[1])
    except ValueError:
        raise CannotRead(f"“{said}” is no month.") from None
    return first, last
