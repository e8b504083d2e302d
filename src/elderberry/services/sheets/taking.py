"""What every table that comes in has in common."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import cached_property
from typing import Any, ClassVar
from zoneinfo import ZoneInfo

from sqlalchemy.orm import Session as Orm

from elderberry.core.errors import CoreError
from elderberry.services.errors import ServiceError
from elderberry.services.household import kitchens
from elderberry.services.sheets.cells import Cells, Column
from elderberry.services.who import Who

AT_ONCE = 5_000
"""Rows that are written at a time."""


@dataclass
class Taking:
    """A table that comes in: what its rows mean here, and how they are written.

    by_hash: whether a row that has no name of its own here is known again by what stands in it.
    """

    orm: Orm
    who: Who
    now: datetime
    columns: ClassVar[tuple[Column, ...]] = ()
    passed_over: ClassVar[tuple[str, ...]] = ()
    """Columns that go out and do not come in: Elderberry finds them itself."""
    by_hash: ClassVar[bool] = True
    most: ClassVar[int] = 200_000

    @cached_property
    def zone(self) -> ZoneInfo:
        """The kitchen's zone."""
        return kitchens.zone(self.orm, self.who)

    def known(self, cells: Cells) -> bool:
        """Whether a row is here already, by a name of its own; its differences are remembered."""
        raise NotImplementedError

    def item(self, cells: Cells) -> Any:
        """What a row means here; what is wrong with it is remembered by its cells."""
        raise NotImplementedError

    def write(self, items: Sequence[Any]) -> Iterator[int]:
        """Write what was looked through: how many at a time."""
        raise NotImplementedError

    def tried(self, cells: Cells, column: str, act: Callable[[], object]) -> None:
        """Do something that may be refused: why is remembered as wrong with a column."""
        try:
            with self.orm.begin_nested():
                act()
        except (CoreError, ServiceError) as wrong:
            words = str(wrong).removesuffix(" Nothing was recorded.")
            cells.fail(column, words[:1].upper() + words[1:])


def slices(items: Sequence[Any]) -> Iterator[Sequence[Any]]:
    """Items, so many at a time."""
    for start in range(0, len(items), AT_ONCE):
        yield items[start : start + AT_ONCE]
