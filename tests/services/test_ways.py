"""Ways of juicing as batches: readings carry on, figures are weighed, water is inferred."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core import jars
from elderberry.core import method as methods
from elderberry.core.batch.lifecycle import Seal
from elderberry.core.errors import CannotTell, DoesNotConnect, Refusal, Unknown
from elderberry.core.flow import edits, wiring
from elderberry.core.flow.inputs import End
from elderberry.services.cooking import batch_view, places, steps
from elderberry.services.errors import FieldError, NotFound
from elderberry.services.household import furnishing, own_processes
from elderberry.services.planning import flows, intake, own_methods, plans
from elderberry.services.planning.asked import GoesIn
from elderberry.services.shelf import lives, shelf
from elderberry.services.who import Who
from elderberry.store import OwnMethod, Place, queries
from tests.factories import NOON, Work, household, minutes, reading, request


def gooseberries(orm: Orm, who: Who, kg: float = 4.0) -> Work:
    """A batch that is drained under weight and pressed again, as far as the first juice."""
    asked = request("gooseberry", kg, method_key="weighted_gooseberry")
    work = Work(orm, who, asked)
    work.finish("sort", 20)
    work.finish("mash", 30)
    work.do("drain_cold", 31)
    return work


def test_a_reading_moves_every_lot_after_it(orm: Orm) -> None:
    work = gooseberries(orm, household(orm))
    before = work.folder.standing.juice_ml()[0]
    work.finish("drain_cold", 760, readings=(reading("volume_ml", 1500, "jug"),))
    view = batch_view.view(orm, work.who, work.folder.batch)
    lots = {lot.key: lot for lot in view.lots}
    assert lots["juice"].now_ml.typ == pytest.approx(1500)
    assert view.juice_l.typ < before.typ / 1000
    assert view.juice_measured_l == 1.5
    work.finish("press_again", 800, readings=(reading("volume_ml", 1100, "jug"),))
    work.finish("combine", 805)
    work.finish("strain", 815, readings=(reading("volume_ml", 2550, "jug"),))
    now = work.folder.standing
    assert now.juice_ml()[0].typ == pytest.approx(2550, rel=0.01)
    assert now.packing().count == 5


def test_sorted_fruit_is_weighed_and_the_rest_follows(orm: Orm) -> None:
    work = Work(orm, household(orm), request("gooseberry", 4.0, method_key="weighted_gooseberry"))

    def juice() -> float:
        lots = {lot.key: lot for lot in batch_view.view(orm, work.who, work.folder.batch).lots}
        return lots["juice"].now_ml.typ

    before = juice()
    work.finish("sort", 20, readings=(reading("mass_g", 3000, "scale"),))
    assert juice() == pytest.approx(before * 3000 / 3840, rel=0.01)


def test_figures_that_disagree_are_named_and_put_right(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.do("steam_juice-1", 1)
    said = (reading("volume_ml", 3600, "jug"), reading("brix", 13.2, "refractometer"))
    work.finish("steam_juice-1", 65, readings=said)
    step = batch_view.view(orm, work.who, work.folder.batch).steps[0]
    assert step.balance is not None
    assert not step.balance.agrees
    assert "3.6 l was read" in step.balance.words
    assert step.balance.rather == pytest.approx(2000, rel=0.15)
    wrong = step.balance.reading_id
    assert wrong is not None
    work.do("steam_juice-1", 70, lambda made: steps.correct(made, wrong, 2050))
    after = batch_view.view(orm, work.who, work.folder.batch).steps[0]
    assert after.balance is not None
    assert after.balance.agrees
    assert [r.corrected for r in after.readings] == [True, False, False]
    assert work.folder.standing.juice_ml()[1] == 2050
    with pytest.raises(NotFound):
        work.do("heat_to", 71, lambda made: steps.correct(made, wrong, 2050))


def test_one_reading_beyond_the_forecast_is_news_and_no_disagreement(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.do("steam_juice-1", 1)
    work.finish("steam_juice-1", 65, readings=(reading("volume_ml", 3000, "jug"),))
    step = batch_view.view(orm, work.who, work.folder.batch).steps[0]
    assert step.balance is None
    assert step.readings[0].agreement == "high"


def test_what_a_cloth_swallowed_stays_in_sight(orm: Orm) -> None:
    work = gooseberries(orm, household(orm))
    work.finish("drain_cold", 760, readings=(reading("volume_ml", 1900, "jug"),))
    work.finish("press_again", 800, readings=(reading("volume_ml", 1300, "jug"),))
    work.finish("combine", 805, readings=(reading("volume_ml", 3200, "jug"),))
    work.finish("strain", 815, readings=(reading("volume_ml", 3000, "jug"),))
    strained = next(
        s for s in batch_view.view(orm, work.who, work.folder.batch).steps if s.key == "strain"
    )
    assert strained.balance is not None
    assert strained.balance.agrees
    assert strained.balance.unexplained_kg == pytest.approx(0.18, abs=0.08)


def test_water_that_nobody_measured_is_inferred(orm: Orm) -> None:
    who = household(orm)
    furnishing.change_kitchen(orm, who, {"instruments": ["jug", "ruler", "refractometer"]})
    furnishing.put(orm, who, "vessel", None,
        {"kind": "pot", "name": "Pot", "litres": 8, "count": 1, "diameter_cm": 28},
    )  # fmt: skip
    work = Work(orm, who, request("rosehip", 1.5, keep="chill", method_key="rosehip_steep"))

    def water() -> tuple[float, str]:
        view = batch_view.view(orm, who, work.folder.batch)
        found = next(s for s in view.steps if s.key == "steep").water
        assert found is not None
        return found.litres.typ, found.inferred_from

    assert water()[1] == "the packing of the fruit"
    before = work.folder.standing.juice_ml()[0].typ
    work.finish("sort", 10)
    work.do("steep", 11)
    work.do("steep", 20, lambda m: steps.take_reading(m, reading("depth_cm", 9, "ruler")))
    litres, by = water()
    assert by == "the depth in the pot"
    assert litres == pytest.approx(9 * 3.14159 * 14**2 / 1000 - 1.4 / 1.03, abs=0.06)
    assert work.folder.standing.juice_ml()[0].typ > before
    other = Work(orm, who, request("rosehip", 1.5, keep="chill", method_key="rosehip_steep"))
    other.finish("sort", 10)
    other.do("steep", 25)
    other.finish("steep", 140, readings=(reading("brix", 6.0, "refractometer"),))
    step = next(s for s in batch_view.view(orm, who, other.folder.batch).steps if s.key == "steep")
    assert step.water is not None
    assert step.water.inferred_from == "the sweetness of the liquor"


def test_early_and_late_draws_are_read_apart(orm: Orm) -> None:
    steamed = [{"kind": "steam_juice", "params": {"draws": "twice"}}]
    rows = (*steamed, {"kind": "heat_to"}, {"kind": "sterilise"}, {"kind": "fill"})
    work = Work(orm, household(orm), request(steps=rows))
    work.do("steam_juice-1", 1)
    work.finish("steam_juice-1", 40, readings=(reading("volume_ml", 1200, "jug"),))
    work.do("steam_juice_on-1", 41)
    work.finish(
        "steam_juice_on-1", 70,
        readings=(reading("volume_ml", 700, "jug"), reading("brix", 11, "refractometer")),
    )  # fmt: skip
    view = batch_view.view(orm, work.who, work.folder.batch)
    assert view.steps[0].choices == ["Draw the juice: early and late"]
    lots = {lot.key: lot for lot in view.lots}
    assert lots["juice-1"].volume_ml == 1200
    assert lots["juice-1-late"].brix == 11
    learned = plans.show(orm, work.who, request()).fruit_yield
    assert learned is not None
    assert [d.yield_l_per_kg for d in learned.dots] == [pytest.approx(1.9 / 4)]
    assert work.folder.standing.juice_ml()[0].typ == pytest.approx(1900, rel=0.01)


def test_pomace_that_was_kept_waits_for_a_second_run(orm: Orm) -> None:
    who = household(orm)
    rows = flows.edited(
        orm, who, "pressed_apple", (), "whole", flows.Edit("insert", lot="pomace", kind="set_aside")
    ).steps
    work = Work(orm, who, request("apple", 5, method_key="pressed_apple", steps=tuple(rows)))
    for number, key in enumerate(("soak", "sort", "mash", "press"), start=1):
        work.finish(key, 10 * number)
    work.finish("set_aside", 60)
    kept = intake.lots(orm, who)
    assert [(k.form, k.fruit_key) for k in kept] == [("pomace", "apple")]
    assert 1.5 < kept[0].left_kg < 2.5
    second = Work(orm, who, request("apple", 1.5, lot_id=kept[0].id, keep="chill"))
    assert second.folder.method.key == "pomace_second_run"
    assert intake.find(orm, who, kept[0].id).left_kg == pytest.approx(kept[0].left_kg - 1.5)
    with pytest.raises(FieldError, match="are left"):
        plans.make(orm, who, request("apple", 4, lot_id=kept[0].id))


def test_what_comes_in_is_said_in_a_cooks_own_measures(orm: Orm) -> None:
    who = household(orm)
    furnishing.change_kitchen(orm, who, {"containers": {"crate": 9000.0}})
    crate = intake.take_in(orm, who, intake.NewLot("2 crates of damsons"), NOON)
    counted = intake.take_in(orm, who, intake.NewLot("18 quinces"), NOON)
    plain = intake.take_in(orm, who, intake.NewLot("3,5 kg quinces"), NOON)
    assert [r.mass_g for r in (crate, counted, plain)] == [18000, 4500, 3500]
    furnishing.change_kitchen(orm, who, {"units": "us"})
    pounds = intake.take_in(orm, who, intake.NewLot("10 lb quinces"), NOON)
    assert pounds.mass_g == pytest.approx(4535.9, abs=0.1)
    for line in (
        "quinces", "1 g quince", "900 kg quinces", "3 kg honey", "sugar to 40 Brix", "3 kg moon",
    ):  # fmt: skip
        with pytest.raises(FieldError):
            intake.take_in(orm, who, intake.NewLot(line), NOON)


def test_fruit_waits_by_its_kind_and_goes_when_it_is_gone(orm: Orm) -> None:
    who = household(orm)
    new = intake.NewLot("2 kg raspberries", picked_on=date(2026, 10, 2), ripeness="over")
    intake.take_in(orm, who, new, NOON)
    lot = intake.lots(orm, who)[0]
    assert lot.work_by == date(2026, 10, 2)
    assert lot.said == []
    intake.throw_away(orm, who, lot.id)
    assert intake.lots(orm, who) == []


def test_wild_fruit_that_nobody_is_certain_of_is_refused(orm: Orm) -> None:
    who = household(orm)
    wild = intake.take_in(orm, who, intake.NewLot("3 kg sea buckthorn", wild=True), NOON)
    asked = request("sea_buckthorn", 3, lot_id=wild.id)
    assert [s.id for s in plans.make(orm, who, asked).verdict.stops] == ["wild-not-identified"]
    with pytest.raises(Refusal):
        Work(orm, who, asked)
    sure = intake.NewLot("3 kg sea buckthorn", wild=True, certain=True)
    known = intake.take_in(orm, who, sure, NOON)
    assert plans.make(orm, who, request("sea_buckthorn", 3, lot_id=known.id)).verdict.may_start


def test_an_edited_flow_is_kept_in_versions(orm: Orm) -> None:
    who = household(orm)
    edit = flows.Edit("insert", lot="juice", kind="strain")
    rows = tuple(flows.edited(orm, who, "steam_juiced", (), "whole", edit).steps)
    new = own_methods.NewMethod("Damson, strained", "steam_juiced", rows, "Jorin", "", ("damson",))
    first = own_methods.keep(orm, who, new, NOON)
    again = own_methods.keep(orm, who, new, minutes(5))
    assert (first.method.version, again.method.version) == (1, 2)
    assert again.method.adapted_from == "Jorin"
    assert own_methods.versions(orm, who, first.method.key) == [1, 2]
    suited = [m.key for m in own_methods.lines(orm, who, "damson", "whole")]
    assert first.method.key in suited
    assert first.method.key not in [m.key for m in own_methods.lines(orm, who, "apple", "whole")]
    work = Work(orm, who, request(method_key=first.method.key))
    assert [o.key for o in work.folder.operations][1] == "strain"
    assert work.folder.method.name == "Damson, strained"
    stranger = household(orm, "Elsewhere")
    with pytest.raises(Unknown):
        own_methods.find(orm, stranger, first.method.key)
    taken = own_methods.NewMethod("Pressed apple, heated and bottled", "steam_juiced", rows)
    with pytest.raises(FieldError, match="ships with"):
        own_methods.keep(orm, who, taken, NOON)
    with pytest.raises(DoesNotConnect):
        own_methods.keep(orm, who, own_methods.NewMethod("Empty", "steam_juiced", rows[:1]), NOON)
    with pytest.raises(CannotTell):
        own_methods.usual(orm, who, "melon", "pickled")


def test_a_batch_and_a_method_of_older_rules_still_open(orm: Orm) -> None:
    who = household(orm)
    work = Work(orm, who)
    rows = wiring.rows_of(methods.method("steam_juiced").steps)
    older = [*rows[:-1], {**rows[0], "kind": "settle", "key": "settle", "takes": ["hot"],
                          "gives": ["rested", "sediment"], "params": {}}, rows[-1]]  # fmt: skip
    batch = work.folder.batch
    batch.method = {**batch.method, "steps": older}
    kept = own_methods.NewMethod("Rested hot", "steam_juiced", tuple(rows))
    own_methods.keep(orm, who, kept, NOON)
    stored = queries.all_of(orm, who.household_id, OwnMethod)[0]
    stored.row = {**stored.row, "steps": older}
    orm.flush()
    assert batch_view.view(orm, who, work.folder.batch).steps
    assert "own_rested_hot" in [m.key for m in own_methods.lines(orm, who)]
    with pytest.raises(DoesNotConnect, match="straight into the jars"):
        plans.make(orm, who, request(method_key="own_rested_hot"))


def test_each_option_says_what_it_would_make_of_the_batch(orm: Orm) -> None:
    who = household(orm)
    found = plans.differences(orm, who, request(kg=8), "steam_juice")
    by = {(d.choice, d.value): d for d in found}
    assert by["lid", "shut"].chosen
    assert by["lid", "look"].brix < by["lid", "shut"].brix
    assert by["press", "press"].juice_l > by["press", "leave"].juice_l
    assert by["press", "press"].clarity != by["press", "leave"].clarity
    with pytest.raises(DoesNotConnect):
        plans.differences(orm, who, request(), "dance")


def test_an_own_tested_source_is_named_on_the_jar(orm: Orm) -> None:
    who = household(orm)
    asked = request(
        "hibiscus_dried", 0.25, form="dried", method_key="calyx_steep", jar_kinds=("half_pint",)
    )
    with pytest.raises(Refusal, match="No tested home process"):
        Work(orm, who, asked)
    own = own_processes.NewOwnProcess(
        "hibiscus_concentrate", 500, 20, 900, 3.6, "Test kitchen leaflet 12, 2025"
    )
    own_processes.enter(orm, who, own, NOON)
    nothing_said = replace(asked, ends=(End(),))
    (proposed,) = plans.make(orm, who, nothing_said).main.kinds
    assert jars.fits(jars.kind(proposed), own.jar_ml)
    work = Work(orm, who, asked)
    work.do("steep", 1)
    work.finish("steep", 40, readings=(reading("volume_ml", 2000, "jug"),))
    assert set(work.folder.standing.packing().jars) == {"half_pint"}
    work.finish("strain", 50)
    work.finish("stir_in", 60, readings=(reading("ph", 2.6, "ph_meter"),))
    work.do("heat_to", 61)
    work.finish("heat_to", 75, readings=(reading("temp_c", 90, "thermometer"),))
    work.finish("fill", 90, jars=(steps.JarEntry("half_pint", 7),))
    work.do("process-1", 92)
    work.do("process-1", 100, lambda made: steps.boil(made, reached=True))
    work.finish("process-1", 121)
    jar = work.folder.jars[0]
    page = shelf.jar_page(orm, who, jar.id)
    assert page.process is not None
    assert page.process.evidence == "own"
    assert "leaflet 12" in page.process.source


def test_a_kitchen_without_instruments_is_asked_for_nothing_it_cannot_read(orm: Orm) -> None:
    who = household(orm)
    furnishing.change_kitchen(orm, who, {"instruments": []})
    work = Work(orm, who, request("redcurrant", 2, method_key="simmered_redcurrant"))
    view = batch_view.view(orm, who, work.folder.batch)
    asked = {a.quantity for s in view.steps for a in s.asks}
    assert asked == {"temp_c"}
    assert [a.instruments for s in view.steps for a in s.asks] == [["boiling"]]
    for key, at in (("soak", 5), ("sort", 10)):
        work.finish(key, at)
    work.do("simmer", 11)
    work.finish("simmer", 30)
    work.do("drain", 31)
    work.finish("drain", 280)
    work.do("heat_to", 281)
    work.finish("heat_to", 300, readings=(reading("temp_c", 98.0, "boiling"),))
    assert (
        work.folder.standing.waits_for(next(o for o in work.folder.operations if o.kind == "fill"))
        is None
    )


def test_whole_fruit_in_the_jar_takes_its_own_row(orm: Orm) -> None:
    work = Work(
        orm, household(orm), request("redcurrant", 1.5, method_key="redcurrants_in_the_jar")
    )
    work.finish("soak", 5)
    work.finish("sort", 15)
    work.finish("infuse", 30)
    with pytest.raises(Refusal, match="boiling liquid"):
        work.finish("fill", 50, jars=(steps.JarEntry("pint", 9),), said=("headspace_off",))
    said = ("headspace_off", steps.LIQUID_BOILED)
    work.finish("fill", 50, jars=(steps.JarEntry("pint", 9),), said=said)
    work.do("process-1", 52)
    work.do("process-1", 60, lambda made: steps.boil(made, reached=True))
    work.finish("process-1", 81)
    assert work.folder.jars[0].process["product"] == "whole_berries"
    findings = {f.id for f in batch_view.view(orm, work.who, work.folder.batch).findings}
    assert "headspace-off" in findings


def test_a_jar_that_smells_wrong_leaves_the_shelf_untasted(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.to_cooling()
    work.look(0, 116 + 13 * 60)
    jar = work.folder.jars[0]
    places.stand(orm, jar, queries.all_of(orm, work.who.household_id, Place)[0])
    smells, it = lives.Told(sign="smells"), lives.Which((jar.id,))
    lives.do(orm, work.who, minutes(2000), it, "spoiled", smells)
    page = shelf.jar_page(orm, work.who, jar.id)
    assert [f.id for f in page.findings] == ["jar-spoiled"]
    assert page.jar.place_id is None
    assert page.jar.seal == Seal.SEALED
    assert "it smells wrong" in page.moments[-1].text
    assert work.folder.jars[1].held
    with pytest.raises(NotFound):
        lives.do(orm, household(orm, "Elsewhere"), NOON, it, "spoiled", smells)


def test_a_syrup_takes_a_syrups_row_all_the_way_to_its_jar(orm: Orm) -> None:
    shipped = methods.method("steam_juiced").steps
    steps_ = edits.choose(edits.insert(shipped, "juice", "dissolve"), "dissolve", {"brix": 50.0})
    asked = request("damson", 3.0, steps=tuple(wiring.rows_of(steps_)))
    work = Work(orm, household(orm), asked)
    work.do("steam_juice-1", 1)
    work.finish("steam_juice-1", 65, readings=(reading("volume_ml", 1500, "jug"),))
    work.finish("dissolve", 75, readings=(reading("ph", 3.1, "ph_meter"),))
    work.do("heat_to", 76)
    work.finish("heat_to", 90, readings=(reading("temp_c", 90, "thermometer"),))
    assert "quart" not in work.folder.standing.packing().jars
    found = work.folder.standing.tested_time(["pint"])
    assert found.time is not None
    assert (found.time.row.product, found.time.minutes) == ("fruit_syrup", 15)
    assert [s.id for s in work.folder.standing.tested_time(["quart"]).stops] == ["jar-too-large"]


@pytest.mark.parametrize(
    "line",
    ["sugar to 5 Brix", "water to 40 Brix", "citric acid to pH 4", "bottled lemon to pH 3.9"],
)
def test_what_is_there_already_takes_nothing_more_and_says_so(orm: Orm, line: str) -> None:
    who, asked = household(orm), request("redcurrant")
    plain = plans.show(orm, who, asked)
    there = plans.show(orm, who, replace(asked, inputs=(*asked.inputs, GoesIn(line=line))))
    assert there.inputs[-1].mass_g.hi == 0
    assert there.inputs[-1].joins == "none goes in: it is there already"
    stirred = next(o for o in there.operations if o.kind == "stir_in")
    assert stirred.before == "It is there already: nothing more goes in."
    assert there.ends[0].litres.typ == pytest.approx(plain.ends[0].litres.typ)
