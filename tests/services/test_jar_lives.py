"""What is done with jars on their shelves: only what is legal, with who and when, and in stock."""

from __future__ import annotations

from datetime import timedelta

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.errors import IllegalStep
from elderberry.core.shelf.worth import Prices
from elderberry.services.cooking import jar_view
from elderberry.services.cooking.shown import JarView
from elderberry.services.errors import Conflict, FieldError, NotFound
from elderberry.services.shelf import figures, lives, recall, servings, shelf, stack
from elderberry.services.shelf.lives import Told, Which
from elderberry.services.who import Who
from elderberry.store import Jar, JarStock, LidStock, Place, Stack, queries
from tests.factories import Work, household, minutes, request

LATER = minutes(60 * 24 * 60)


@pytest.fixture
def work(orm: Orm) -> Work:
    """Four sealed pints of damson juice in the cellar, and a part-filled one in the cold."""
    made = Work(orm, household(orm), request())
    made.to_shelf()
    return made


def place(orm: Orm, who: Who, kind: str) -> Place:
    return next(p for p in queries.all_of(orm, who.household_id, Place) if p.kind == kind)


def do(work: Work, what: str, *jars: int, **told: object) -> list[Jar]:
    ids = [work.folder.jars[n].id for n in jars]
    return lives.do(work.orm, work.who, LATER, Which(ids), what, Told(**told))  # type: ignore[arg-type]


def view(work: Work, number: int) -> JarView:
    return jar_view.views(work.orm, work.who, [work.folder.jars[number]])[0]


def said(work: Work, number: int) -> list[str]:
    page = shelf.jar_page(work.orm, work.who, work.folder.jars[number].id)
    return [m.text for m in page.moments]


def hold(work: Work) -> None:
    """What places and stacks say they hold is what stands there."""
    orm, hh = work.orm, work.who.household_id
    jars = queries.all_of(orm, hh, Jar)
    for there in queries.all_of(orm, hh, Place):
        orm.refresh(there)
        assert there.jars == sum(j.place_id == there.id for j in jars)
    for row in queries.all_of(orm, hh, Stack):
        orm.refresh(row)
        mine = [j for j in jars if j.stack_id == row.id]
        assert row.jars == len(mine) > 0
        assert row.best_by == min(j.best_by for j in mine)
    assert all((j.stack_id is None) == (j.place_id is None) for j in jars)


def test_an_open_jar_goes_into_the_cold_and_its_own_clock_runs(work: Work) -> None:
    closed = view(work, 0).best_by
    do(work, "opened", 0)
    found = view(work, 0)
    assert (found.lives, found.place) == ("opened", "Refrigerator")
    assert found.best_by is not None
    assert closed is not None
    assert found.best_by.typ < closed.typ
    assert (found.best_by.typ - LATER.date()).days in range(4, 8)
    assert said(work, 0)[-2:] == ["opened", "carried to: Refrigerator"]
    with pytest.raises(IllegalStep, match="is open cannot be opened"):
        do(work, "opened", 0)
    hold(work)


def test_what_is_poured_is_less_in_the_jar_until_it_is_empty(work: Work) -> None:
    with pytest.raises(IllegalStep, match="stands closed cannot be poured from"):
        do(work, "poured", 0, ml=100)
    do(work, "opened", 0)
    full = view(work, 0).left_ml
    do(work, "poured", 0, ml=200)
    assert view(work, 0).left_ml == pytest.approx(full - 200)
    with pytest.raises(FieldError, match="are left in"):
        do(work, "poured", 0, ml=400)
    do(work, "poured", 0, ml=full - 200)
    assert view(work, 0).lives == "finished"
    hold(work)


def test_empty_jars_come_back_into_stock_and_so_do_lids_that_last(work: Work) -> None:
    hh = work.who.household_id
    stock = next(s for s in queries.all_of(work.orm, hh, JarStock) if s.jar_kind == "pint")
    jars, lids = stock.jars, stock.lids
    do(work, "used_up", 0)
    assert (stock.jars, stock.lids) == (jars + 1, lids)
    jar = work.folder.jars[1]
    jar.contents = {**jar.contents, "closure": "reusable"}
    work.orm.flush()
    do(work, "used_up", 1)
    assert stock.jars == jars + 2
    counted = [s for s in queries.all_of(work.orm, hh, LidStock) if s.closure == "reusable"]
    assert [(s.jar_kind, s.lids) for s in counted] == [("pint", 1)]
    do(work, "given", 2, to="Mallow")
    assert stock.jars == jars + 2
    assert said(work, 2)[-1] == "given to Mallow"


def test_many_at_once_all_of_them_or_none(work: Work) -> None:
    first = queries.one(work.orm, work.who.household_id, Jar, work.folder.jars[0].id)
    assert first is not None
    shelf_of = place(work.orm, work.who, "refrigerator")
    assert first.stack_id is not None
    moved = lives.do(
        work.orm, work.who, LATER, Which(stack=first.stack_id, count=3), "carried",
        Told(place_id=shelf_of.id),
    )  # fmt: skip
    assert [j.code[-2:] for j in moved] == ["01", "02", "03"]
    hold(work)
    do(work, "used_up", 3)
    with pytest.raises(IllegalStep):
        do(work, "given", 0, 3, to="Mallow")
    with pytest.raises(NotFound):
        lives.do(work.orm, work.who, LATER, Which(stack=first.stack_id, count=9), "used_up", Told())
    with pytest.raises(FieldError):
        lives.do(work.orm, work.who, LATER, Which(), "used_up", Told())
    with pytest.raises(FieldError, match="to whom"):
        do(work, "given", 0)


def test_what_no_seal_keeps_is_not_carried_out_of_the_cold(work: Work) -> None:
    cellar = place(work.orm, work.who, "cellar")
    with pytest.raises(Conflict, match="keeps by cold alone"):
        do(work, "carried", 4, place_id=cellar.id)
    do(work, "opened", 0)
    with pytest.raises(Conflict, match="keeps by cold alone"):
        do(work, "carried", 0, place_id=cellar.id)
    freezer = place(work.orm, work.who, "freezer")
    with pytest.raises(Conflict, match="no room for the ice"):
        do(work, "carried", 1, place_id=freezer.id)


def test_a_jar_that_spoiled_holds_its_batch_until_each_was_looked_at(work: Work) -> None:
    with pytest.raises(FieldError, match="what is wrong"):
        do(work, "spoiled", 0)
    do(work, "spoiled", 0, sign="bulges")
    assert view(work, 0).lives == "thrown"
    assert [view(work, n).held for n in (1, 2, 3, 4)] == [True] * 4
    with pytest.raises(IllegalStep, match="look at this one first"):
        do(work, "opened", 1)
    held = shelf.view(work.orm, work.who, LATER, "held")
    assert held.found == 4
    do(work, "looked_sound", 1)
    do(work, "opened", 1)
    do(work, "spoiled", 2, sign="leaks")
    assert view(work, 1).held
    hold(work)


def test_a_crack_says_nothing_of_the_others(work: Work) -> None:
    do(work, "spoiled", 0, sign="cracked")
    assert not any(view(work, n).held for n in (1, 2, 3))
    assert said(work, 0)[-1] == "it broke or cracked"


def test_another_name_is_on_its_label_and_the_old_one_on_record(work: Work) -> None:
    do(work, "relabelled", 0, 1, label="  Hedge   damson ")
    assert view(work, 0).label == "Hedge damson"
    assert said(work, 1)[-1] == "called Hedge damson, and Damson juice before"
    assert shelf.view(work.orm, work.who, LATER, "hedge").found == 2


def test_tastings_shift_what_this_household_expects(work: Work) -> None:
    before = view(work, 1).best_by
    jar = work.folder.jars[0]
    late = jar.filled_at + timedelta(days=600)
    for _ in range(3):
        lives.do(work.orm, work.who, late, Which([jar.id]), "tasted", Told(verdict="good"))
    after = view(work, 1).best_by
    assert before is not None
    assert after is not None
    assert after.typ > before.typ + timedelta(days=60)
    with pytest.raises(FieldError, match="good, fading or gone"):
        do(work, "tasted", 0, verdict="sour")


def test_a_drink_is_poured_written_down_and_made_again(work: Work) -> None:
    jar = work.folder.jars[0]
    glass = servings.Asked(250.0, "sparkling water", in_it=("10 ml vodka",))
    asked = servings.ask(work.orm, work.who, jar.id, glass)
    assert asked.base_ml + asked.diluent_ml == pytest.approx(240, abs=2)
    assert asked.alcohol_pct == pytest.approx(1.6, abs=0.2)
    assert "With alcohol: not for children." in asked.notes
    assert view(work, 0).lives == "stands"
    servings.pour(work.orm, work.who, jar.id, glass, "Evening glass", LATER)
    found = view(work, 0)
    assert found.lives == "opened"
    assert found.left_ml == pytest.approx(found.fill_ml - asked.base_ml, abs=0.2)
    usual = servings.usual(work.orm, work.who)
    assert [s.name for s in usual] == ["Evening glass"]
    again = servings.Asked(**{**usual[0].asked, "in_it": tuple(usual[0].asked["in_it"])})
    assert again == glass
    party = servings.ask(work.orm, work.who, jar.id, servings.Asked(6000.0, "water"))
    assert party.jars > 1
    with pytest.raises(FieldError, match="Say how much of it"):
        servings.ask(work.orm, work.who, jar.id, servings.Asked(250.0, in_it=("mint to taste",)))


def test_recall_from_a_tree_a_packet_and_a_batch_to_every_jar_and_who_has_it(work: Work) -> None:
    orm, who = work.orm, work.who
    for jar in work.folder.jars[:3]:
        jar.packet = "L 4471"
    orm.flush()
    do(work, "given", 0, to="Mallow")
    do(work, "used_up", 1)
    found = recall.find(orm, who, "packet", "L 4471")
    assert (found.here, found.gone, found.given) == (1, 2, ["Mallow"])
    assert {r.jar.code[-2:]: r.where for r in found.jars} == {
        "01": "Mallow has it", "02": "used up", "03": "Cellar shelf",
    }  # fmt: skip
    whole = recall.find(orm, who, "batch", work.folder.batch.code)
    assert whole.here == 3
    known = recall.known(orm, who)
    assert known.packet == ["L 4471"]
    assert "jug" in known.instrument
    assert recall.find(orm, who, "instrument", "jug").here == 3
    assert recall.hold(orm, who, "packet", "L 4471", None, LATER) == 1
    assert view(work, 2).held
    elsewhere = household(orm, "Elsewhere")
    assert recall.find(orm, elsewhere, "packet", "L 4471").jars == []


def test_figures_say_what_became_of_them_and_what_a_litre_cost(work: Work) -> None:
    do(work, "used_up", 0)
    do(work, "given", 1, to="Mallow")
    do(work, "spoiled", 2, sign="cracked")
    found = figures.view(work.orm, work.who, Prices(lid=25, kwh=30, bought=450))
    row = found.years[0]
    assert (row.fruit, row.kept, row.eaten, row.given, row.spoiled) == ("Damson", 2, 1, 1, 1)
    assert [(s.looked_at, s.failed) for s in found.seals] == [(4, 0)]
    cost = found.costs[0].worth
    assert cost.together == pytest.approx(cost.fruit + cost.lids + cost.heat + cost.hours)
    assert cost.saved == pytest.approx(450 - cost.together)


def test_enough_is_told_by_the_pace_of_the_last_year(work: Work) -> None:
    do(work, "used_up", 0)
    do(work, "given", 1, to="Mallow")
    first = work.folder.jars[2]
    assert first.stack_id is not None
    page = stack.page(work.orm, work.who, first.stack_id, LATER)
    assert page.enough.there == 3
    assert page.enough.a_month == pytest.approx(1.0, abs=0.1)
    assert page.enough.till is not None
    assert page.enough.short > 0
    assert page.enough.fruit == "Damson"
    assert [b.code for b in page.batches] == [work.folder.batch.code]


def test_a_jar_goes_into_another_batch_as_what_is_in_it(work: Work) -> None:
    page = shelf.jar_page(work.orm, work.who, work.folder.jars[0].id)
    grams = [float(line.split(" g ")[0]) for line in page.as_lines]
    assert page.as_lines[0].endswith("g damson juice")
    assert sum(grams) == pytest.approx(1.04 * page.jar.fill_ml, rel=0.03)
    do(work, "went_in", 0, to="DM-26-02")
    assert said(work, 0)[-1] == "went into batch DM-26-02"
    assert view(work, 0).lives == "went_in"


def test_a_jar_that_was_never_filled_is_put_right_and_its_glass_is_there(work: Work) -> None:
    hh = work.who.household_id
    stock = next(s for s in queries.all_of(work.orm, hh, JarStock) if s.jar_kind == "pint")
    jars, lids = stock.jars, stock.lids
    do(work, "miscounted", 3)
    assert (stock.jars, stock.lids) == (jars + 1, lids + 1)
    assert said(work, 3)[-1] == "never filled: counted by mistake"
    found = figures.view(work.orm, work.who, Prices())
    assert [(y.kept, y.spoiled) for y in found.years] == [(4, 0)]
    hold(work)
    with pytest.raises(IllegalStep, match="was never filled cannot be opened"):
        do(work, "opened", 3)


def test_an_empty_jar_of_a_kind_that_nobody_counted_is_counted_from_then_on(work: Work) -> None:
    orm, hh = work.orm, work.who.household_id
    for row in queries.all_of(orm, hh, JarStock):
        orm.delete(row)
    orm.flush()
    kind = work.folder.jars[0].jar_kind
    for stand in (1, 2):
        do(work, "used_up", stand - 1)
        stock = {s.jar_kind: s for s in queries.all_of(orm, hh, JarStock)}
        assert (stock[kind].jars, stock[kind].lids) == (stand, 0)
