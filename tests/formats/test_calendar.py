"""iCalendar: whatever words there are, a parser reads them as they were."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta

import icalendar
from hypothesis import given
from hypothesis import strategies as st

from elderberry.formats.calendar import Entry, a_day, ics

NOW = datetime(2026, 11, 28, tzinfo=UTC)
words = st.text(st.characters(exclude_categories=("Cs", "Cc")), max_size=200)


@given(st.lists(st.tuples(words, words, st.dates(date(2000, 1, 1), date(2099, 1, 1))), max_size=5))
def test_words_and_days_come_back(said: list[tuple[str, str, date]]) -> None:
    written = ics("Kitchen", (a_day(str(n), *one) for n, one in enumerate(said)), NOW)
    assert all(len(line) <= 75 for line in written.split(b"\r\n"))
    found = icalendar.Calendar.from_ical(written).walk("VEVENT")
    assert [(str(e["SUMMARY"]), str(e["DESCRIPTION"]), e.decoded("DTSTART")) for e in found] == said
    assert [e.decoded("DTEND") - e.decoded("DTSTART") for e in found] == [timedelta(1)] * len(said)


def test_a_moment_is_said_in_utc() -> None:
    at = datetime(2026, 11, 28, 15, 30, tzinfo=UTC)
    written = ics("Kitchen", [Entry("step-1", "Seals", "", at, at + timedelta(hours=12))], NOW)
    assert b"DTSTART:20261128T153000Z" in written
    assert b"UID:step-1@elderberry" in written
    assert b"X-WR-CALNAME:Kitchen" in written
