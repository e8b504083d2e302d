"""Strength by taste: as the household's own last batch was, or more or less so."""

from __future__ import annotations

from dataclasses import replace

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.flow.kinds import kind
from elderberry.services.cooking.steps import JarEntry
from elderberry.services.errors import FieldError
from elderberry.services.planning import last_time, plans
from elderberry.services.planning.asked import GoesIn, PlanRequest
from elderberry.services.who import Who
from elderberry.store import Jar, queries
from tests.factories import Work, household, reading, request


def with_line(line: str, fruit: str = "damson") -> PlanRequest:
    return replace(request(fruit), inputs=(*request(fruit).inputs, GoesIn(line=line)))


def made_before(orm: Orm) -> tuple[Who, float]:
    """A household with a filled batch of sweetened damsons, and its sweetness."""
    who = household(orm)
    work = Work(orm, who, with_line("400 g sugar"))
    work.do("steam_juice-1", 1)
    work.finish("steam_juice-1", 65, readings=(reading("volume_ml", 2000, "jug"),))
    work.finish(next(o.key for o in work.folder.operations if kind(o.kind).role == "join"), 68)
    work.finish("heat_to", 80, readings=(reading("temp_c", 89, "thermometer"),))
    work.finish("fill", 90, jars=(JarEntry("pint", 4),))
    before = last_time.last_time(orm, who, "damson")
    assert before is not None
    assert before.brix is not None
    return who, before.brix


@pytest.mark.parametrize(
    ("line", "more"),
    [
        ("sugar as last time", 0),
        ("honey, sweeter than last time", 1),
        ("sugar, less sweet than last time", -1),
    ],
)
def test_a_line_may_take_its_strength_from_the_last_batch(orm: Orm, line: str, more: int) -> None:
    who, before = made_before(orm)
    plan = plans.show(orm, who, with_line(line))
    brix = plan.ends[0].brix
    assert brix is not None
    assert brix.typ == pytest.approx(before * last_time.STRONGER**more, abs=0.15)


def test_sharpness_goes_by_ph(orm: Orm) -> None:
    who, _ = made_before(orm)
    before = last_time.last_time(orm, who, "damson")
    assert before is not None
    assert before.ph is not None
    plan = plans.show(orm, who, with_line("citric acid, sharper than last time"))
    ph = plan.ends[0].ph
    assert ph is not None
    assert ph.typ == pytest.approx(before.ph - last_time.SHARPER_PH, abs=0.03)


def test_without_an_earlier_batch_it_says_what_to_write(orm: Orm) -> None:
    who, _ = made_before(orm)
    with pytest.raises(FieldError, match="say how much"):
        plans.show(orm, who, with_line("sugar as last time", "quince"))
    assert plans.show(orm, who, request("quince")).last_time is None


def test_a_plan_shows_what_the_last_one_came_out_as(orm: Orm) -> None:
    who, before = made_before(orm)
    shown = plans.show(orm, who, request()).last_time
    assert shown is not None
    assert shown.brix == before
    assert before > 20
    assert shown.less_sweet is not None
    assert shown.sweeter is not None
    assert shown.less_sweet < before < shown.sweeter
    assert last_time.last_time(orm, household(orm, "Elsewhere"), "damson") is None


def test_what_is_nearly_all_sugar_is_made_no_sweeter_than_a_line_can_say(orm: Orm) -> None:
    who, _ = made_before(orm)
    for row in queries.all_of(orm, who.household_id, Jar):
        row.contents = {**row.contents, "brix": 78.0}
    orm.flush()
    found = last_time.last_time(orm, who, "damson")
    assert found is not None
    assert found.brix == 78.0
    assert found.sweeter == 85.0
    assert found.less_sweet == pytest.approx(78.0 / last_time.STRONGER)
