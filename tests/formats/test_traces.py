"""Loggers' files, in the layouts that loggers write."""

from __future__ import annotations

from datetime import UTC, datetime
from zoneinfo import ZoneInfo

import pytest

from elderberry.formats.traces import CannotRead, read

ZURICH = ZoneInfo("Europe/Zurich")
SIX = datetime(2026, 7, 1, 4, tzinfo=UTC)  # six in the morning there


@pytest.mark.parametrize(
    "text",
    [
        "2026-07-01 06:00,18.5\n2026-07-01 18:00,21.0",
        "time;temperature °C\n01.07.2026 06:00;18,5\n01.07.2026 18:00;21,0",
        "﻿Date/Time\tTemp\n2026-07-01T06:00:00\t18.5\n2026-07-01T18:00:00\t21",
        "No.,Time,Temperature (F)\n1,07/01/2026 06:00:00 AM,65.3\n2,07/01/2026 06:00:00 PM,69.8",
        "Logger 4\n\n2026-07-01T04:00:00Z,18.5\n2026-07-01T16:00:00Z,21",
        "1,2026/07/01 06:00,18.5°C,55 %\n2,2026/07/01 18:00,21°C,50 %",
    ],
)
def test_a_file_is_read_whatever_logger_wrote_it(text: str) -> None:
    found = read(text, ZURICH)
    assert [round(t, 1) for _, t in found] == [18.5, 21.0]
    assert found[0][0] == SIX


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("", "No line"),
        ("quince\njelly", "No line"),
        ("2026-07-01 06:00,18\n2026-07-01 07:00,warm", "Line 2"),
    ],
)
def test_a_file_that_is_none_says_which_line(text: str, why: str) -> None:
    with pytest.raises(CannotRead, match=why):
        read(text, ZURICH)
