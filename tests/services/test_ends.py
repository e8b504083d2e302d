"""Ends as batches: vessels that are full and empty again, plain caps, what is drunk now."""

from __future__ import annotations

from dataclasses import replace

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.errors import IllegalStep
from elderberry.core.flow.inputs import End
from elderberry.services.cooking import batch_view, steps
from elderberry.services.errors import FieldError
from elderberry.services.household import furnishing, kitchens
from elderberry.services.planning import own_methods, plans
from elderberry.services.planning.asked import GoesIn
from elderberry.services.shelf import lives, shelf
from elderberry.services.who import Who
from elderberry.store import JarStock, queries
from tests.factories import Work, household, minutes, reading, request


def with_vessels(orm: Orm) -> Who:
    """A household with two jugs, four boxes and a glass."""
    who = household(orm)
    for kind, litres, count in (("jug", 1.0, 2), ("box", 0.5, 4), ("glass", 0.3, 6)):
        said = {"kind": kind, "name": f"our {kind}", "litres": litres, "count": count}
        furnishing.put(orm, who, "vessel", None, said)
    return who


def filled(orm: Orm, who: Who, end: End, **said: object) -> Work:
    """A steamed batch that is filled as an end says."""
    work = Work(orm, who, replace(request(), ends=(end,)))
    work.do("steam_juice-1", 1)
    work.finish("steam_juice-1", 65, readings=(reading("volume_ml", 1900, "jug"),))
    work.finish("heat_to", 80, readings=(reading("temp_c", 89, "thermometer"),))
    work.finish("fill", 90, **said)
    return work


def ready(orm: Orm, who: Who, keep: str = "chill") -> dict[str, int]:
    return kitchens.for_core(orm, who).ready(keep)


def test_full_jugs_are_not_filled_again_until_they_are_empty(orm: Orm) -> None:
    who = with_vessels(orm)
    end = End("fill", "chill", ("jug-1000",))
    jugs = (steps.JarEntry("jug-1000", 2),)
    work = filled(orm, who, end, jars=jugs)
    assert ready(orm, who)["jug-1000"] == 0
    work.finish("chill", 100)
    jar = work.folder.jars[0]
    assert (jar.jar_kind, jar.seal) == ("jug-1000", "unsealed")
    with pytest.raises(FieldError, match="only 0 stand ready"):
        filled(orm, who, end, jars=jugs)
    empty = lives.Which((jar.id,))
    lives.do(orm, who, minutes(200), empty, "used_up", lives.Told())
    assert ready(orm, who)["jug-1000"] == 1
    with pytest.raises(IllegalStep, match="is used up cannot be used up"):
        lives.do(orm, who, minutes(201), empty, "used_up", lives.Told())
    page = shelf.jar_page(orm, who, jar.id)
    assert page.moments[-1].text == "used up"
    assert page.jar.closure == "none"


def test_boxes_are_frozen_and_named_as_the_household_measures(orm: Orm) -> None:
    who = with_vessels(orm)
    furnishing.change_kitchen(orm, who, {"units": "us"})
    end = End("fill", "freeze", ("box-500",))
    work = filled(orm, who, end, jars=(steps.JarEntry("box-500", 3),))
    work.finish("freeze", 100)
    view = batch_view.view(orm, who, work.folder.batch)
    assert all(j.kind_name.endswith("box") and " l" not in j.kind_name for j in view.jars)
    assert view.finished


def test_plain_caps_take_jars_and_leave_the_lids(orm: Orm) -> None:
    who = household(orm)

    def pints() -> JarStock:
        stock = queries.all_of(orm, who.household_id, JarStock)
        return next(s for s in stock if s.jar_kind == "pint")

    jars, lids = pints().jars, pints().lids
    end = End("fill", "chill", ("pint",), closure="cap", lid="green")
    work = filled(orm, who, end, jars=(steps.JarEntry("pint", 4),))
    assert (pints().jars, pints().lids) == (jars - 4, lids)
    jar = batch_view.view(orm, who, work.folder.batch).jars[0]
    assert (jar.closure, jar.lid) == ("cap", "#4d7a4a")


def test_what_is_drunk_now_is_over_once_it_is_poured(orm: Orm) -> None:
    who = with_vessels(orm)
    work = filled(orm, who, End("fill", "now"))
    assert work.folder.standing.finished
    assert work.folder.jars == []
    view = batch_view.view(orm, who, work.folder.batch)
    assert (view.became, view.ends[0].keep) == ("glasses", "now")
    assert (view.steps[-1].title, view.steps[-1].headspace_mm) == ("Pour it out", None)


def test_glasses_are_the_households_own(orm: Orm) -> None:
    who = with_vessels(orm)
    asked = replace(request(), ends=(End("fill", "now"),))
    end = plans.show(orm, who, asked).ends[0]
    assert end.glass_ml == 300
    assert end.glasses == int(end.litres.typ / 0.3)


def test_a_concentrate_is_thinned_in_the_glass_and_the_jug_that_there_are(orm: Orm) -> None:
    who = with_vessels(orm)
    asked = replace(
        request("blackcurrant"),
        inputs=(*request("blackcurrant").inputs, GoesIn(line="equal weight of sugar")),
    )
    thin = plans.show(orm, who, asked).ends[0].servings[0]
    assert thin.glass_ml == 300
    (jug,) = thin.jugs
    assert jug.jug_ml == 1000
    assert jug.base_ml / jug.jug_ml == pytest.approx(thin.base_ml / thin.glass_ml, rel=0.01)


def test_parts_kept_apart_say_how_they_are_mixed(orm: Orm) -> None:
    who = household(orm)
    asked = replace(request("grapefruit"), method_key="grapefruit_apart", ends=())
    juice, base = plans.show(orm, who, asked).ends
    assert juice.mixed is not None
    assert juice.mixed.end == base.key
    assert juice.mixed.life.days_typ < base.life.days_typ
    assert base.mixed is None


def test_a_recipe_is_kept_with_its_lines_and_ends(orm: Orm) -> None:
    who = household(orm)
    lines = (GoesIn(line="4 kg damsons"), GoesIn(line="600 g honey"))
    asked = replace(request(), inputs=lines, ends=(End("fill", "chill", name="Plot syrup"),))
    planned = plans.prepare(orm, who, asked)
    new = own_methods.NewMethod("Damsons with honey", planned.chosen.key, ())
    kept = own_methods.keep(orm, who, new, minutes(0), planned)
    half = replace(asked, inputs=(GoesIn(line="2 kg damsons"),), ends=(),
                   method_key=kept.method.key)  # fmt: skip
    plan = plans.show(orm, who, half)
    honey = next(i for i in plan.inputs if i.material == "honey")
    assert honey.mass_g.typ == pytest.approx(300, rel=0.01)
    assert (plan.ends[0].keep, plan.ends[0].label) == ("chill", "Plot syrup")


# -- acid that nobody planned, as one says it


def heated(orm: Orm) -> Work:
    """Mild apple juice that has been heated, before it is filled."""
    work = Work(orm, household(orm), request("apple", ph=4.4, citric_acid_g=12.0))
    work.do("steam_juice-1", 1)
    work.finish("steam_juice-1", 95, readings=(reading("volume_ml", 2000, "jug"),))
    return work


@pytest.mark.parametrize(
    ("line", "material"),
    [
        ("10 g citric acid", "citric_acid"),
        ("4 tbsp bottled lemon juice", "lemon_bottled"),
        ("1/4 cup lime juice, bottled", "lime_bottled"),
    ],
)
def test_acid_that_nobody_planned_is_said_as_a_line(orm: Orm, line: str, material: str) -> None:
    work = heated(orm)
    juice = work.folder.find(work.step_id("steam_juice-1"))
    before = work.folder.standing.contents(work.folder.standing.fillings[0])
    work.do(juice.key, 96, lambda made: steps.acid(made, line))
    after = work.folder.standing.contents(work.folder.standing.fillings[0])
    assert before is not None
    assert after is not None
    assert before.ph is not None
    assert after.ph is not None
    assert after.ph < before.ph
    assert material in {s.material for s in after.lot.origins}


@pytest.mark.parametrize(
    ("line", "why"),
    [
        ("half a lemon", "out of a bottle"),
        ("20 g sugar", "out of a bottle"),
        ("citric acid to taste", "how much"),
        ("5 moons of acid", "Nothing was recorded"),
    ],
)
def test_what_answers_no_reading_is_not_stirred_in(orm: Orm, line: str, why: str) -> None:
    work = heated(orm)
    with pytest.raises(FieldError, match=why):
        work.do("steam_juice-1", 96, lambda made: steps.acid(made, line))


def test_acid_that_was_noted_before_it_was_a_line_still_counts(orm: Orm) -> None:
    work = heated(orm)

    def as_it_was(made: steps.Change) -> None:
        lot = made.folder.standing.lot_of(made.operation)
        assert lot is not None
        made.log("acid_added", {"lot": lot.id, "grams": 10.0, "after": 0})

    work.do("steam_juice-1", 96, as_it_was)
    contents = work.folder.standing.contents(work.folder.standing.fillings[0])
    assert contents is not None
    assert "citric_acid" in {s.material for s in contents.lot.origins}


# -- amounts at the hob as one says them


def drawn(orm: Orm, said: str) -> Work:
    """A load whose juice was measured with what was at hand."""
    who = household(orm)
    said_so = {"kind": "jug", "name": "blue jug", "litres": 1.0, "count": 1,
               "marks": [250.0, 500.0, 750.0]}  # fmt: skip
    furnishing.put(orm, who, "vessel", None, said_so)
    work = Work(orm, who)
    work.do("steam_juice-1", 1)
    entry = steps.ReadingEntry("volume_ml", 0.0, "jug", said=said)
    work.finish("steam_juice-1", 65, readings=(entry,))
    return work


@pytest.mark.parametrize(
    ("said", "ml"),
    [
        ("8 cups", 2000),
        ("2 l and 100 ml", 2100),
        ("two blue jugs", 2000),
        ("to the second mark of the blue jug", 500),
        ("half a blue jug", 500),
    ],
)
def test_juice_is_measured_with_what_is_at_hand(orm: Orm, said: str, ml: float) -> None:
    assert drawn(orm, said).folder.standing.juice_ml()[1] == pytest.approx(ml, rel=0.01)


@pytest.mark.parametrize(
    "said", ["3 lb", "plenty", "to the ninth mark of the blue jug", "2 damsons"]
)
def test_what_is_no_volume_is_refused_at_its_field(orm: Orm, said: str) -> None:
    with pytest.raises(FieldError, match="Nothing was recorded"):
        drawn(orm, said)


@pytest.mark.parametrize("keep", ["chill", "freeze"])
def test_a_box_that_did_not_come_full_goes_with_the_others(orm: Orm, keep: str) -> None:
    who = with_vessels(orm)
    end = End("fill", keep, ("box-500",))
    said = {"jars": (steps.JarEntry("box-500", 3),), "part_kind": "box-500", "part_ml": 120.0}
    work = filled(orm, who, end, **said)
    work.finish(keep, 100)
    assert len({j.place_id for j in work.folder.jars}) == 1
    assert sorted(round(j.fill_ml) for j in work.folder.jars)[0] == 120


def test_the_last_one_is_measured_with_what_is_at_hand(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.to_hot()
    jars = (steps.JarEntry("pint", 4),)
    with pytest.raises(FieldError, match=r"Nothing was recorded") as wrong:
        work.finish("fill", 90, jars=jars, part_kind="pint", part_said="a handful of mint")
    assert wrong.value.pointer == "/part_ml"
    work.finish("fill", 90, jars=jars, part_kind="pint", part_said="half a cup")
    assert work.folder.jars[-1].fill_ml == pytest.approx(125, abs=7)


def test_nothing_is_asked_of_jars_where_there_are_none(orm: Orm) -> None:
    who = with_vessels(orm)
    work = Work(orm, who, replace(request(), ends=(End("fill", "now"),)))
    pour = batch_view.view(orm, who, work.batch).steps[-1]
    assert pour.questions == []
    assert not {"thermal-shock", "oven-warmed-jars"} & {f.id for f in pour.cautions}
    assert "hot-juice" in {f.id for f in pour.cautions}
