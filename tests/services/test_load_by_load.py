"""Jars are filled and processed load by load, while the next load still steams."""

from __future__ import annotations

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.batch.lifecycle import Phase
from elderberry.services.cooking import batch_view, steps
from elderberry.services.cooking.step_shown import StepView
from elderberry.services.errors import Conflict
from tests.factories import Work, household, reading, request


@pytest.fixture
def work(orm: Orm) -> Work:
    """Damsons for two loads of the basket."""
    who = household(orm)
    return Work(orm, who, request("damson", 8.0, loads=2))


def step(work: Work, key: str) -> StepView:
    return next(s for s in batch_view.of(work.folder).steps if s.key == key)


def steam(work: Work, load: int, at: float, ml: float) -> None:
    work.do(f"steam_juice-{load}", at)
    said = (reading("volume_ml", ml, "jug"),)
    work.finish(f"steam_juice-{load}", at + 60, readings=said)


def heat(work: Work, at: float) -> None:
    work.finish("heat_to", at, readings=(reading("temp_c", 89, "thermometer"),))


def fill(work: Work, at: float, pints: int, *, more: bool = False) -> None:
    work.finish("fill", at, jars=(steps.JarEntry("pint", pints),), more=more)


def can(work: Work, load: int, at: float) -> None:
    work.do(f"process-{load}", at)
    work.do(f"process-{load}", at + 8, lambda m: steps.boil(m, reached=True))
    work.finish(f"process-{load}", at + 40)


def test_the_first_load_is_in_the_canner_before_the_second_is_drawn(work: Work) -> None:
    assert not step(work, "heat_to").ready
    steam(work, 1, 0, 3000)
    assert step(work, "heat_to").ready
    heat(work, 75)
    filling = step(work, "fill")
    assert filling.in_parts
    assert len(filling.to_come) == 1
    assert filling.left_l
    assert filling.left_l.typ == pytest.approx(3.0, rel=0.01)
    fill(work, 85, 6, more=True)
    assert step(work, "fill").idle
    can(work, 1, 90)
    assert work.folder.phase(work.folder.operations[0]) is Phase.DONE
    assert step(work, "steam_juice-2").phase == "waiting"
    assert [j.process["minutes"] > 0 for j in work.folder.jars] == [True] * 6


def test_a_filling_is_not_over_while_more_is_to_come(work: Work) -> None:
    steam(work, 1, 0, 3000)
    heat(work, 75)
    with pytest.raises(Conflict, match="More is to come: Steam load 2 of 2"):
        fill(work, 85, 6)
    assert not work.folder.jars
    fill(work, 85, 6, more=True)
    assert len(work.folder.jars) == 6


def test_the_rest_is_heated_again_and_what_was_left_over_goes_with_it(work: Work) -> None:
    steam(work, 1, 0, 3000)
    heat(work, 75)
    fill(work, 85, 6, more=True)
    steam(work, 2, 70, 2900)
    assert step(work, "heat_to").phase == "running"
    with pytest.raises(Conflict, match="drawn after the pot was heated"):
        fill(work, 135, 6)
    heat(work, 145)
    left = step(work, "fill").left_l
    assert left
    jars_l = 6 * 0.473 * work.folder.standing.hot_ratio(work.folder.standing.fillings[0])
    assert left.typ == pytest.approx(5.9 - jars_l, rel=0.02)
    fill(work, 150, 6)
    assert step(work, "fill").phase == "done"
    assert sorted({j.canner_load for j in work.folder.jars}) == [1, 2]
    assert len({j.code for j in work.folder.jars}) == len(work.folder.jars) == 12


def test_a_load_that_waits_with_room_is_filled_up_first(work: Work) -> None:
    steam(work, 1, 0, 3000)
    heat(work, 75)
    fill(work, 85, 4, more=True)
    steam(work, 2, 70, 2900)
    heat(work, 135)
    fill(work, 140, 5)
    loads = [j.canner_load for j in work.folder.jars]
    assert loads.count(1) == work.folder.kitchen.canner.jars
    phases = {o.key: work.folder.phase(o) for o in work.folder.operations}
    assert phases["process-1"] is Phase.WAITING
    assert not any(k.startswith("process-3") and p is Phase.WAITING for k, p in phases.items())


def test_what_only_a_reading_of_all_of_it_opens_is_filled_at_once(orm: Orm) -> None:
    work = Work(orm, household(orm), request("cherry_sweet", 8.0, loads=2))
    steam(work, 1, 0, 3000)
    work.finish("heat_to", 75, readings=(
        reading("temp_c", 89, "thermometer"), reading("ph", 3.9, "ph_meter"),
    ))  # fmt: skip
    assert not step(work, "fill").in_parts
    with pytest.raises(Conflict, match="filled once all of it is there"):
        fill(work, 80, 6, more=True)
