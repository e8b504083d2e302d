"""A step at a glance: what the next press is, and what the rail says of it, from start to end."""

from __future__ import annotations

from collections.abc import Callable

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.services.cooking import glance, step_view, steps
from elderberry.services.cooking.step_shown import StepGlance
from elderberry.services.day import today
from elderberry.services.household import kitchens
from tests.factories import Work, household, minutes, reading, request

Press = Callable[[Work], object]
JUG, HOT = reading("volume_ml", 2000, "jug"), reading("temp_c", 89, "thermometer")
COURSE: list[tuple[str, Press, dict[str, str]]] = [
    ("nothing yet", lambda _: None,
     {"steam_juice-1": "start", "heat_to": "", "fill": "", "process-1": ""}),
    ("it steams", lambda w: w.do("steam_juice-1", 1), {"steam_juice-1": "say", "heat_to": ""}),
    ("juice", lambda w: w.finish("steam_juice-1", 65, readings=(JUG,)),
     {"steam_juice-1": "", "heat_to": "start"}),
    ("it heats", lambda w: w.do("heat_to", 66), {"heat_to": "say", "fill": ""}),
    ("hot", lambda w: w.finish("heat_to", 80, readings=(HOT,)),
     {"heat_to": "", "fill": "say", "process-1": ""}),
    ("filled", lambda w: w.finish("fill", 90, jars=(steps.JarEntry("pint", 4),)),
     {"fill": "", "process-1": "start"}),
    ("in the canner", lambda w: w.do("process-1", 92), {"process-1": "boil-reached"}),
    ("at the boil", lambda w: w.do("process-1", 100, lambda m: steps.boil(m, reached=True)),
     {"process-1": "finish"}),
    ("the boil is lost", lambda w: w.do("process-1", 103, lambda m: steps.boil(m, reached=False)),
     {"process-1": "boil-reached"}),
    ("again", lambda w: w.do("process-1", 106, lambda m: steps.boil(m, reached=True)),
     {"process-1": "finish"}),
    ("on the rack", lambda w: w.finish("process-1", 122), {"process-1": "", "cool-1": ""}),
]  # fmt: skip


@pytest.fixture
def work(orm: Orm) -> Work:
    """A load of damsons that makes one basket."""
    return Work(orm, household(orm), request())


def seen(work: Work) -> dict[str, StepGlance]:
    """Every step of it at a glance."""
    folder = work.folder
    return {o.key: glance.at(folder, o) for o in folder.operations}


def pressed(work: Work, until: str) -> dict[str, StepGlance]:
    """Its steps once it has come so far."""
    for name, press, _ in COURSE:
        press(work)
        if name == until:
            break
    return seen(work)


def test_the_next_press_at_every_moment(work: Work) -> None:
    for name, press, wanted in COURSE:
        press(work)
        found = seen(work)
        assert {key: found[key].press for key in wanted} == wanted, name
        assert all(not s.press for s in found.values() if s.waits_for), name


def test_it_is_the_same_step_with_less_said(work: Work) -> None:
    for _, press, _ in COURSE[:6]:
        press(work)
        folder = work.folder
        for operation in folder.operations:
            whole = vars(step_view.of(folder, operation))
            less = vars(glance.at(folder, operation))
            assert {k: whole[k] for k in less} == less


def test_one_step_at_a_time_is_ready_and_the_others_say_for_what_they_wait(work: Work) -> None:
    found = pressed(work, "juice")
    ready = [s.key for s in found.values() if s.ready]
    assert ready == ["heat_to"]
    assert found["fill"].waits_for.startswith("Heat to 88 °C")
    assert found["process-1"].waits_for.startswith("Fill")


def test_a_pan_warns_before_it_is_dry_and_counts_from_its_refill(work: Work) -> None:
    steaming = pressed(work, "it steams")["steam_juice-1"]
    assert steaming.pan is not None
    assert steaming.pan.warn_at < steaming.pan.dry_at
    assert (steaming.pan.dry_at - steaming.pan.warn_at).total_seconds() == 600
    work.do("steam_juice-1", 40, lambda made: steps.note(made, "refilled", ""))
    later = seen(work)["steam_juice-1"]
    assert later.pan is not None
    assert (later.pan.dry_at - steaming.pan.dry_at).total_seconds() == pytest.approx(39 * 60)
    assert seen(work)["heat_to"].pan is None


def test_without_an_instrument_there_is_nothing_to_say(work: Work) -> None:
    kitchens.stored(work.orm, work.who).instruments = []
    work.orm.flush()
    found = pressed(work, "it steams")["steam_juice-1"]
    assert (found.asks, found.says, found.press) == ([], False, "finish")


def test_the_rail_says_what_each_station_needs(work: Work) -> None:
    said = []
    for name, press, _ in COURSE:
        press(work)
        slots = today.hob(work.orm, work.who, minutes(100))
        said.append((name, [(s.holds, s.next) for s in slots]))
    of = dict(said)
    assert of["nothing yet"] == []
    assert of["it steams"] == [("Damson, load 1 of 1", "draw the juice into the jug")]
    assert of["in the canner"] == [("4 jars of damson", "start the time at the boil")]
    assert of["the boil is lost"] == [("4 jars of damson", "boil lost: bring it back")]
    assert of["on the rack"] == [("4 jars of damson", "seal check")]


def test_while_there_is_time_the_rail_says_what_to_look_for(work: Work) -> None:
    pressed(work, "it steams")
    (slot,) = today.hob(work.orm, work.who, minutes(10))
    assert (slot.next, slot.warning) == ("skins pale", "pan near dry: refill")
    assert slot.due_at is not None
    assert slot.due_at > minutes(10)
