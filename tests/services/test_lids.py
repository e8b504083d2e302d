"""Lids by kind and colour: counted by themselves, they go down with the jars that they close."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.errors import Unknown
from elderberry.services.cooking import batch_view, steps, undo
from elderberry.services.errors import FieldError, NotFound
from elderberry.services.household import furnishing, kitchens
from elderberry.services.who import Who
from elderberry.store import JarStock, LidStock, Place, Station, queries
from tests.factories import Work, household, minutes, request


def work_with(orm: Orm, who: Who, closure: str = "", lid: str = "") -> Work:
    """A batch whose jars are closed with some lids."""
    asked = request()
    end = replace(asked.ends[0], closure=closure, lid=lid)  # type: ignore[arg-type]
    return Work(orm, who, replace(asked, ends=(end,)))


def stock(orm: Orm, who: Who) -> dict[tuple[str, str], int]:
    """Lids for pints, by closure and colour; the usual ones under no name."""
    usual = next(s for s in queries.all_of(orm, who.household_id, JarStock) if s.jar_kind == "pint")
    others = queries.all_of(orm, who.household_id, LidStock)
    return {("", ""): usual.lids, **{(s.closure, s.colour): s.lids for s in others}}


@pytest.mark.parametrize(
    ("closure", "lid"), [("", "red"), ("reusable", ""), ("one_piece", "white")]
)
def test_those_that_were_chosen_go_down_and_no_others(orm: Orm, closure: str, lid: str) -> None:
    who = household(orm)
    for kind, colour in (("", "red"), ("reusable", ""), ("one_piece", "white")):
        furnishing.count_lids(orm, who, "pint", kind, colour, 9)
    before = stock(orm, who)
    work_with(orm, who, closure, lid).to_filled(jars=4, part_ml=0)
    after = stock(orm, who)
    assert after == {**before, (closure, lid): 5}


def test_a_colour_that_nobody_counts_is_of_the_usual_ones(orm: Orm) -> None:
    who = household(orm)
    before = stock(orm, who)
    work_with(orm, who, "", "green").to_filled(jars=4, part_ml=0)
    assert stock(orm, who) == {("", ""): before["", ""] - 4}


def test_no_more_jars_are_ready_than_there_are_lids_for(orm: Orm) -> None:
    who = household(orm)
    furnishing.count_lids(orm, who, "pint", "reusable", "", 3)
    here = kitchens.for_core(orm, who)
    assert here.ready("shelf", "reusable")["pint"] == 3
    assert here.ready("shelf", "one_piece")["pint"] == 0
    work = work_with(orm, who, "reusable")
    work.to_hot()
    with pytest.raises(FieldError, match="only 3 stand ready"):
        work.finish("fill", 90, jars=(steps.JarEntry("pint", 4),))


def test_lids_come_back_with_a_filling_that_is_taken_back(orm: Orm) -> None:
    who = household(orm)
    furnishing.count_lids(orm, who, "pint", "", "red", 9)
    work = work_with(orm, who, "", "red")
    work.to_filled(jars=4, part_ml=0)
    undo.take_back(orm, who, work.batch.id, minutes(90) + timedelta(seconds=5))
    assert stock(orm, who)["", "red"] == 9


def test_what_is_not_counted_by_itself_is_refused(orm: Orm) -> None:
    who = household(orm)
    with pytest.raises(FieldError, match="say a colour"):
        furnishing.count_lids(orm, who, "pint", "", "", 3)
    with pytest.raises(FieldError, match="not counted"):
        furnishing.count_lids(orm, who, "pint", "cap", "", 3)
    with pytest.raises(Unknown):
        furnishing.count_lids(orm, who, "pint", "", "plaid", 3)


def test_a_lid_that_no_table_was_tested_with_is_said(orm: Orm) -> None:
    who = household(orm)
    furnishing.count_lids(orm, who, "pint", "reusable", "", 9)
    view = batch_view.of(work_with(orm, who, "reusable").folder)
    fill = next(s for s in view.steps if s.role == "fill")
    assert any("quarter turn back" in check for check in fill.checks)


@pytest.mark.parametrize(
    ("heater", "says"), [("bath", "over the lids"), ("steam", "dome stays shut")]
)
def test_each_canner_has_its_own_words(orm: Orm, heater: str, says: str) -> None:
    who = household(orm)
    for station in queries.all_of(orm, who.household_id, Station):
        if station.kind == "canner":
            station.heater = heater
    orm.flush()
    work = Work(orm, who)
    work.to_filled()
    steps_ = batch_view.of(work.folder).steps
    process = next(s for s in steps_ if s.role == "process")
    assert any(says in check for check in process.checks)
    assert not any("{" in check or "«" in check for s in steps_ for check in s.checks)


def test_jars_that_held_go_where_they_are_said_to_stand(orm: Orm) -> None:
    """Not into the cold, nor where there is nothing."""
    who = household(orm)
    furnishing.put(
        orm, who, "place", None,
        {"kind": "cellar", "name": "Deep cellar", "temp_c": 9, "light": False},
    )  # fmt: skip
    places = {p.name: p for p in queries.all_of(orm, who.household_id, Place)}
    work = Work(orm, who)
    work.to_cooling(jars=2, part_ml=0)
    work.finish("cool-1", 116 + 13 * 60)
    for number in range(2):
        work.look(number, 117 + 13 * 60)
    cold = next(p for p in places.values() if p.kind == "refrigerator")
    with pytest.raises(FieldError, match="on a shelf or in the cellar"):
        work.finish("seal_check", 118 + 13 * 60, place_id=cold.id)
    with pytest.raises(NotFound):
        work.finish("seal_check", 118 + 13 * 60, place_id=999_999)
    work.finish("seal_check", 118 + 13 * 60, place_id=places["Deep cellar"].id)
    assert {j.place_id for j in work.folder.jars} == {places["Deep cellar"].id}
