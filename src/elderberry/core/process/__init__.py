"""Tested process times: the tables, what is in the jar, and what the one says of the other."""

from __future__ import annotations

from elderberry.core.process.case import Case, Lookup, look_up
from elderberry.core.process.contents import Contents
from elderberry.core.process.lookup import Pack, process_minutes, rows_of
from elderberry.core.process.rows import (
    FILL_C,
    OwnProcess,
    ProcessRow,
    ProcessTime,
    altitude_ft,
    fillable,
    process_rows,
    sterilising_minutes,
    time_of_row,
)

__all__ = [
    "FILL_C",
    "Case",
    "Contents",
    "Lookup",
    "OwnProcess",
    "Pack",
    "ProcessRow",
    "ProcessTime",
    "altitude_ft",
    "fillable",
    "look_up",
    "process_minutes",
    "process_rows",
    "rows_of",
    "sterilising_minutes",
    "time_of_row",
]  # fmt: skip
