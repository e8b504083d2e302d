"""Times are learned from finished steps, and the next plan counts on them."""

from __future__ import annotations

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core import pace
from elderberry.core.errors import CoreError
from elderberry.services.planning import paces, plans
from elderberry.services.planning.plan_view import FlowOperation
from tests.factories import Work, household, reading, request


def steamed(orm: Orm, work: Work, slower: float, at: float = 0.0) -> float:
    """A load that took so much longer than planned; the minutes that it was planned with."""
    step = next(o for o in work.folder.operations if o.kind == "steam_juice")
    work.do(step.key, at)
    said = (reading("volume_ml", 2000, "jug"),)
    work.finish(step.key, at + slower * step.minutes, readings=said)
    return step.minutes


def step(orm: Orm, work: Work, kind: str) -> FlowOperation:
    view = plans.show(orm, work.who, request())
    return next(o for o in view.operations if o.kind == kind)


def test_nothing_is_learned_of_nothing() -> None:
    assert pace.learn("steam", []) == pace.Pace()
    with pytest.raises(CoreError):
        pace.learn("sort", [1.0])


@pytest.mark.parametrize("ratio", [0.6, 1.0, 1.4])
def test_the_more_steps_say_so_the_more_it_is_believed(ratio: float) -> None:
    few, many = pace.learn("heat", [ratio]), pace.learn("heat", [ratio] * 30)
    assert abs(few.factor - 1) <= abs(many.factor - 1)
    assert many.factor == pytest.approx(ratio, rel=0.03)


def test_what_somebody_forgot_to_press_teaches_nothing() -> None:
    assert pace.learn("steam", [1.2, 60.0, 0.01]) == pace.learn("steam", [1.2])


def test_the_next_plan_takes_as_long_as_this_kitchen_does(orm: Orm) -> None:
    work = Work(orm, household(orm))
    planned = steamed(orm, work, slower=1.4)
    again = step(orm, work, "steam_juice")
    assert again.minutes.typ > 1.1 * planned
    assert "times what the tables say" in again.learned


def test_what_was_learned_is_not_learned_twice(orm: Orm) -> None:
    work = Work(orm, household(orm))
    planned = steamed(orm, work, slower=1.4)
    second = Work(orm, work.who)
    row = next(o for o in second.folder.operations if o.kind == "steam_juice")
    second.do(row.key, 200)
    second.finish(row.key, 200 + 1.4 * planned, readings=(reading("volume_ml", 2000, "jug"),))
    learned = paces.here(orm, work.who)["steam"]
    assert learned.factor == pytest.approx(pace.learn("steam", [1.4, 1.4]).factor)


def test_heating_is_learned_and_a_tick_is_not(orm: Orm) -> None:
    work = Work(orm, household(orm), request("damson", 20.0))
    for load in (o for o in work.folder.operations if o.kind == "steam_juice"):
        work.do(load.key, 0)
        work.finish(load.key, 0.1, readings=(reading("volume_ml", 2000, "jug"),))
    planned = next(o for o in work.folder.operations if o.kind == "heat_to").minutes
    work.do("heat_to", 1)
    said = (reading("temp_c", 89, "thermometer"),)
    work.finish("heat_to", 1 + 1.5 * planned, readings=said)
    learned = paces.here(orm, work.who)
    assert learned["heat"].factor == pytest.approx(pace.learn("heat", [1.5]).factor)
    assert learned["steam"].used == 0


def test_another_household_learns_nothing_of_it(orm: Orm) -> None:
    steamed(orm, Work(orm, household(orm)), slower=1.4)
    assert paces.here(orm, household(orm, "Next door"))["steam"] == pace.Pace()
