"""A probe's file at a step: drawn, held against the boil, and never in favour of a shorter time."""

from __future__ import annotations

from datetime import timedelta

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.batch.traced import Probe
from elderberry.services.cooking import batch_view, jar_view, traces
from elderberry.services.errors import Conflict, FieldError
from elderberry.services.notes import notes
from tests.factories import NOON, Work, household, request


@pytest.fixture
def work(orm: Orm) -> Work:
    """Four pints of damson juice in the canner: at the boil from minute 100, to be held 15."""
    made = Work(orm, household(orm), request())
    made.to_canner(jars=4, part_ml=0)
    return made


def log(work: Work, since: float, *temps: float) -> str:
    lines = [
        f"{NOON + timedelta(minutes=since + n):%Y-%m-%dT%H:%M:%S}+00:00,{t}"
        for n, t in enumerate(temps)
    ]
    return "time,temp °C\n" + "\n".join(lines)


def take(work: Work, key: str, at: float, text: str, probe: Probe) -> None:
    work.do(key, at, lambda made: traces.take(made, text, probe))


def test_a_boil_that_a_probe_saw_lost_begins_the_time_again(work: Work) -> None:
    before = work.folder.standing.states[work.step_id("process-1")].due_at
    take(work, "process-1", 110, log(work, 98, 97, 98, 98, 98, 94, 93, 98, 98, 98), "bath")
    view = batch_view.of(work.folder)
    step = next(s for s in view.steps if s.key == "process-1")
    assert step.clock_from == NOON + timedelta(minutes=104)
    assert step.boils_lost == 1
    assert step.due_at is not None
    assert before is not None
    assert step.due_at > before
    assert [len(t.lost) for t in step.traces] == [1]
    assert step.traces[0].boils_c == pytest.approx(98.0, abs=0.1)


def test_a_bath_still_below_its_boil_waits_for_it(work: Work) -> None:
    take(work, "process-1", 110, log(work, 99, 98, 98, 98, 93, 90), "bath")
    step = next(s for s in batch_view.of(work.folder).steps if s.key == "process-1")
    assert (step.clock_from, step.press) == (None, "boil-reached")


def test_the_same_file_twice_changes_nothing(work: Work) -> None:
    text = log(work, 98, 97, 98, 98, 98, 94, 93, 98, 98, 98)
    for at in (110, 111):
        take(work, "process-1", at, text, "bath")
    step = next(s for s in batch_view.of(work.folder).steps if s.key == "process-1")
    assert (step.boils_lost, len(step.traces)) == (1, 1)


def test_a_probe_in_a_jar_changes_no_time(work: Work) -> None:
    before = work.folder.standing.states[work.step_id("process-1")]
    take(work, "process-1", 110, log(work, 98, 40, 55, 68, 80, 88, 93, 96, 97), "jar")
    after = work.folder.standing.states[work.step_id("process-1")]
    assert after == before
    work.finish("process-1", 116)
    assert not any(j.stop for j in jar_view.views(work.orm, work.who, work.folder.jars))


@pytest.mark.parametrize(
    ("temps", "short"),
    [
        ((98,) * 17, False),
        ((98,) * 6 + (94,) + (98,) * 10, True),
        ((98,) * 16 + (90,), False),  # out of the bath by then
    ],
)
def test_jars_of_a_bath_that_lost_its_boil_fell_short(
    work: Work, temps: tuple[float, ...], short: bool
) -> None:
    work.finish("process-1", 116)
    take(work, "process-1", 130, log(work, 100, *temps), "bath")
    stops = [j.stop for j in jar_view.views(work.orm, work.who, work.folder.jars) if j.stop]
    assert bool(stops) == short
    assert all("without a break, by the probe" in s for s in stops)
    page = notes.page(work.orm, work.who, work.batch.id)
    assert [t.trace.probe for t in page.traces] == ["bath"]


def test_a_good_file_after_a_bad_one_lifts_nothing(work: Work) -> None:
    work.finish("process-1", 116)
    take(work, "process-1", 130, log(work, 100, 98, 98, 94, 93, 92, 98, 98), "bath")
    take(work, "process-1", 140, log(work, 100, *(98,) * 17), "bath")
    assert any(j.stop for j in jar_view.views(work.orm, work.who, work.folder.jars))


def test_what_is_in_it_is_drawn_and_nothing_more(work: Work) -> None:
    take(work, "heat_to", 100, log(work, 66, 40, 60, 80, 89), "in_it")
    step = next(s for s in batch_view.of(work.folder).steps if s.key == "heat_to")
    assert [(p.minute, p.temp_c) for p in step.traces[0].points][-1] == (3.0, 89.0)
    assert step.traces[0].hottest_c == 89.0


@pytest.mark.parametrize(
    ("key", "text", "probe", "why"),
    [
        ("process-1", "nothing\nat all", "bath", "No line of it"),
        ("process-1", "time,t\n2026-10-03 12:00,900\n", "bath", "temperature"),
        ("process-1", "time,t\n2019-10-03 12:00,90\n", "bath", "another time"),
        ("process-1", "time,t\n2026-10-03 14:00,90\n", "in_it", "in the bath or in a jar"),
        ("heat_to", "time,t\n2026-10-03 14:00,90\n", "bath", "no bath"),
    ],
)
def test_what_is_no_log_of_it_is_refused(
    work: Work, key: str, text: str, probe: Probe, why: str
) -> None:
    with pytest.raises(FieldError, match=why):
        take(work, key, 110, text, probe)
    assert all(not s.traces for s in batch_view.of(work.folder).steps)


def test_what_has_not_begun_has_no_log(work: Work) -> None:
    with pytest.raises(Conflict, match="has not begun"):
        take(work, "cool-1", 110, log(work, 98, 97), "in_it")
