"""A batch through its steps on a real MariaDB: what is stored, refused, and kept."""

from __future__ import annotations

from functools import partial

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.batch.lifecycle import Phase, Seal
from elderberry.core.errors import IllegalStep, Refusal
from elderberry.services.cooking import batch_list, batch_view, batches, endings, jar_view, steps
from elderberry.services.cooking.folder import find
from elderberry.services.cooking.step_shown import StepView
from elderberry.services.day import today
from elderberry.services.errors import Conflict, FieldError, NotFound
from elderberry.services.planning import plans
from elderberry.services.shelf import shelf
from elderberry.store import Event, JarStock, Kitchen, queries
from elderberry.store.event import HistoryChanged
from tests.factories import Work, household, minutes, reading, request

HALF_A_DAY = 116 + 12 * 60 + 1


def test_a_batch_becomes_operations_lots_and_edges(orm: Orm) -> None:
    work = Work(orm, household(orm), request(kg=12))
    keys = [o.key for o in work.folder.operations]
    assert keys == [
        "steam_juice-1", "steam_juice-2", "steam_juice-3",
        "heat_to", "fill", "process-1", "cool-1", "process-2", "cool-2", "seal_check",
    ]  # fmt: skip
    shown = batch_view.view(orm, work.who, work.batch)
    assert shown.code == "DM-26-01"
    first = shown.steps[0]
    assert (first.takes, first.gives) == (["fruit", "steam-1"], ["juice-1", "pomace-1"])
    assert [s.ready for s in shown.steps[:4]] == [True, True, True, False]
    assert shown.steps[3].waits_for == "Steam load 1 of 3"


def test_a_list_says_where_a_batch_is(orm: Orm) -> None:
    work = Work(orm, household(orm))

    def line() -> str:
        return next(b.now for b in batch_list.lines(orm, work.who) if b.id == work.batch.id)

    assert line() == "next: Steam load 1 of 1"
    work.do("steam_juice-1", 1)
    assert line() == "Steam load 1 of 1"
    work.finish("steam_juice-1", 65, readings=(reading("volume_ml", 2000, "jug"),))
    assert line() == "next: Heat to 88 °C"
    endings.give_up(orm, work.who, work.batch.id, minutes(70))
    assert line() == "given up"


def test_predicted_and_measured_stand_side_by_side(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.do("steam_juice-1", 1)
    said = (reading("volume_ml", 2050, "jug"), reading("brix", 9.0, "refractometer"))
    work.finish("steam_juice-1", 65, readings=said)
    lot = next(x for x in batch_view.view(orm, work.who, work.batch).lots if x.key == "juice-1")
    assert lot.volume_ml == 2050
    assert lot.predicted.volume_ml.typ == pytest.approx(2000, rel=0.05)
    assert lot.agreement["volume_ml"] == "agrees"
    assert lot.agreement["brix"].startswith("a little thin")


@pytest.mark.parametrize(
    ("quantity", "value", "by", "why"),
    [
        ("brix", 95.0, "refractometer", "°Bx: 95 cannot be. Nothing was recorded."),
        ("ph", 15.0, "ph_meter", "between 1.5 and 8: 15 cannot be. Nothing was recorded."),
        ("temp_c", 20.0, "refractometer", "refractometer"),
    ],
)
def test_a_reading_that_cannot_be_says_between_what_it_lies(
    orm: Orm, quantity: str, value: float, by: str, why: str
) -> None:
    work = Work(orm, household(orm))
    work.do("steam_juice-1", 1)
    with pytest.raises(FieldError) as wrong:
        work.finish("steam_juice-1", 65, readings=(reading(quantity, value, by),))
    assert why in str(wrong.value)
    assert work.folder.readings == []


def test_from_fruit_to_a_named_jar_in_the_cellar(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.to_cooling()
    for number in range(4):
        work.look(number, HALF_A_DAY)
    work.finish("seal_check", HALF_A_DAY + 5)
    assert work.folder.standing.finished
    jars = {j.code: j for j in jar_view.views(orm, work.who, work.folder.jars)}
    assert [jars[f"DM-26-01-0{n}"].place for n in (1, 5)] == ["Cellar shelf", "Refrigerator"]
    first = jars["DM-26-01-01"]
    assert first.best_by is not None
    assert first.best_by.lo < first.best_by.typ < first.best_by.hi
    assert (first.best_by.typ - first.filled_at.date()).days == pytest.approx(365 * 2**0.2, abs=2)
    page = shelf.jar_page(orm, work.who, first.id)
    assert page.process is not None
    assert (page.process.minutes, page.process.row) == (15, "berry_or_fruit_juice-hot-473")
    assert [m.text for m in page.moments] == ["filled", "seal held", "carried to: Cellar shelf"]
    assert page.batch is not None
    assert page.batch.lots[0].material == "damson"
    stock = {s.jar_kind: s.jars for s in queries.all_of(orm, work.who.household_id, JarStock)}
    assert stock["pint"] == 48 - 5


def test_the_jars_to_fill_follow_the_juice_that_was_drawn(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.do("steam_juice-1", 1)

    def fill_step() -> StepView:
        steps_ = batch_view.view(orm, work.who, work.batch).steps
        return next(s for s in steps_ if s.kind == "fill")

    assert [(p.kind, p.count) for p in fill_step().packing] == [("pint", 4)]
    work.finish("steam_juice-1", 65, readings=(reading("volume_ml", 1500, "jug"),))
    fewer = fill_step()
    assert [(p.kind, p.count) for p in fewer.packing] == [("pint", 3)]
    assert fewer.part_kind == "pint"
    assert fewer.part_ml == pytest.approx(1500 / 0.9684 - 3 * 473, abs=1)


def test_the_rest_is_shared_where_the_headspace_allows(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.do("steam_juice-1", 1)
    work.finish("steam_juice-1", 65, readings=(reading("volume_ml", 1400, "jug"),))
    work.finish("heat_to", 80, readings=(reading("temp_c", 89, "thermometer"),))
    step = next(s for s in batch_view.view(orm, work.who, work.batch).steps if s.kind == "fill")
    assert [(p.kind, p.count) for p in step.shared] == [("pint", 3)]
    with pytest.raises(FieldError, match="too much room under its lid"):
        work.finish("fill", 90, jars=(steps.JarEntry("pint", 4),), shared=True)
    work.finish("fill", 90, jars=(steps.JarEntry("pint", 3),), shared=True)
    jars = work.folder.jars
    assert [j.part_filled for j in jars] == [False] * 3
    assert sum(j.fill_ml for j in jars) == pytest.approx(1400 / 0.9684, rel=1e-3)


def test_a_cold_pot_is_not_filled_from(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.do("steam_juice-1", 1)
    work.finish("steam_juice-1", 65)
    work.do("heat_to", 66)
    with pytest.raises(Refusal, match="88 °C or hotter"):
        work.finish("heat_to", 80, readings=(reading("temp_c", 84, "thermometer"),))


def test_a_part_filled_jar_never_enters_the_canner(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.to_filled(jars=3)
    part = next(j for j in work.folder.jars if j.part_filled)
    assert (part.canner_load, part.seal) == (0, Seal.UNSEALED)
    part.canner_load = 1
    orm.flush()
    with pytest.raises(Refusal, match="part-filled jar is not processed"):
        work.do("process-1", 92)


def test_the_boil_has_to_be_held_and_begins_again_when_lost(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.to_filled()
    work.do("process-1", 92)
    work.do("process-1", 100, lambda made: steps.boil(made, reached=True))
    work.do("process-1", 110, lambda made: steps.boil(made, reached=False))
    with pytest.raises(Refusal, match="15 min are still to go"):
        work.finish("process-1", 125)
    work.do("process-1", 126, lambda made: steps.boil(made, reached=True))
    with pytest.raises(Refusal, match="unbroken"):
        work.finish("process-1", 140)
    work.finish("process-1", 141)
    page = shelf.jar_page(orm, work.who, work.folder.jars[0].id)
    assert page.boils_lost == 1


def test_a_watched_fruit_waits_for_a_meter_and_a_strip_does_not_do(orm: Orm) -> None:
    work = Work(orm, household(orm), request("plum"))
    work.do("steam_juice-1", 1)
    work.finish("steam_juice-1", 65, readings=(reading("volume_ml", 2000, "jug"),))
    strip, hot = reading("ph", 3.4, "ph_strip"), reading("temp_c", 89, "thermometer")
    work.finish("heat_to", 80, readings=(strip, hot))
    work.finish("fill", 90, jars=(steps.JarEntry("pint", 4),))
    with pytest.raises(Refusal) as refused:
        work.do("process-1", 92)
    assert refused.value.finding.id == "ph-reading-needed"


@pytest.mark.parametrize(("ph", "stop"), [(3.6, None), (4.3, "ph-too-high")])
def test_a_meter_reading_opens_or_shuts_the_canner(orm: Orm, ph: float, stop: str | None) -> None:
    work = Work(orm, household(orm), request("plum"))
    work.do("steam_juice-1", 1)
    work.finish("steam_juice-1", 65)
    said = (reading("ph", ph, "ph_meter"), reading("temp_c", 89, "thermometer"))
    work.finish("heat_to", 80, readings=said)
    filled = (steps.JarEntry("pint", 4),)
    if stop:
        with pytest.raises(Refusal) as refused:
            work.finish("fill", 90, jars=filled)
        assert refused.value.finding.id == stop
        endings.divert(orm, work.who, work.batch.id, "freeze", minutes(91))
        work.finish("fill", 92, jars=filled)
        work.finish("freeze", 200)
        assert work.folder.standing.finished
    else:
        work.finish("fill", 90, jars=filled)
        work.do("process-1", 92)


def test_acid_is_stirred_in_and_the_canner_waits_for_the_new_reading(orm: Orm) -> None:
    work = Work(orm, household(orm), request("apple", ph=4.4, citric_acid_g=12.0))
    stir = next(s for s in batch_view.view(orm, work.who, work.batch).steps if s.kind == "stir_in")
    assert stir.before.startswith("12 g citric acid into")
    assert stir.takes[-1] == "citric_acid"
    work.do("steam_juice-1", 1)
    work.finish("steam_juice-1", 95)
    work.finish("stir_in", 98)
    work.do("sterilise", 80)
    work.do("sterilise", 85, lambda made: steps.boil(made, reached=True))
    work.finish("sterilise", 99)
    work.do("heat_to", 100)
    work.finish("heat_to", 110, readings=(reading("temp_c", 97, "thermometer"),))
    work.finish("fill", 120, jars=(steps.JarEntry("pint", 3),))
    with pytest.raises(Refusal) as refused:
        work.do("process-1", 121)
    assert refused.value.finding.id == "ph-reading-needed"


def test_jars_that_may_not_be_processed_go_to_the_cold(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.to_filled()
    endings.divert(orm, work.who, work.batch.id, "chill", minutes(95))
    assert {j.seal for j in work.folder.jars} == {Seal.UNSEALED}
    with pytest.raises(Conflict, match="not meant for the shelf"):
        endings.divert(orm, work.who, work.batch.id, "freeze", minutes(96))
    work.finish("chill", 150)
    assert work.folder.standing.finished
    canned = Work(orm, household(orm, "Elsewhere"))
    canned.to_cooling()
    with pytest.raises(Conflict, match="in the canner"):
        endings.divert(orm, canned.who, canned.batch.id, "chill", minutes(120))


def test_sterilised_jars_where_the_time_is_short(orm: Orm) -> None:
    work = Work(orm, household(orm, altitude_m=100), request("apple"))
    work.do("steam_juice-1", 1)
    work.finish("steam_juice-1", 95)
    work.finish("heat_to", 110, readings=(reading("temp_c", 98, "thermometer"),))
    filled = (steps.JarEntry("pint", 3),)
    with pytest.raises(Refusal, match="sterilised"):
        work.finish("fill", 115, jars=filled)
    work.do("sterilise", 96)
    work.do("sterilise", 100, lambda made: steps.boil(made, reached=True))
    with pytest.raises(Refusal):
        work.finish("sterilise", 105)
    work.finish("sterilise", 111.1)
    work.finish("fill", 115, jars=filled)


def test_fewer_and_more_jars_than_planned_make_fewer_and_more_canner_loads(orm: Orm) -> None:
    fewer = Work(orm, household(orm), request(kg=12))
    for n in (1, 2, 3):
        fewer.do(f"steam_juice-{n}", 70 * n)
        fewer.finish(f"steam_juice-{n}", 70 * n + 65)
    fewer.finish("heat_to", 300, readings=(reading("temp_c", 89, "thermometer"),))
    fewer.finish("fill", 310, jars=(steps.JarEntry("pint", 6),))
    phases = {o.key: fewer.folder.phase(o) for o in fewer.folder.operations}
    assert phases["process-2"] is Phase.DROPPED
    assert phases["cool-2"] is Phase.DROPPED

    more = Work(orm, household(orm, "Elsewhere"))
    more.to_filled(jars=5, part_ml=0)
    assert "process-2" not in {o.key for o in more.folder.operations}
    bigger = Work(orm, household(orm, "Yonder"), request(jar_kinds=("quart",)))
    bigger.do("steam_juice-1", 1)
    bigger.finish("steam_juice-1", 65)
    bigger.finish("heat_to", 80, readings=(reading("temp_c", 89, "thermometer"),))
    bigger.finish("fill", 90, jars=(steps.JarEntry("half_pint", 9),))
    order = [o.key for o in bigger.folder.operations]
    assert order[-5:] == ["process-1", "cool-1", "process-2", "cool-2", "seal_check"]


def test_seals_wait_half_a_day_and_every_jar_is_looked_at(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.to_cooling()
    with pytest.raises(Refusal, match="still to go"):
        work.look(0, 116 + 11 * 60)
    work.look(0, HALF_A_DAY)
    with pytest.raises(Conflict, match="3 jars have not been looked at"):
        work.finish("seal_check", HALF_A_DAY + 1)
    with pytest.raises(IllegalStep):
        work.look(0, HALF_A_DAY + 1)


def test_a_failed_seal_is_processed_again_chilled_or_frozen(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.to_cooling()
    with pytest.raises(FieldError, match="what becomes of it"):
        work.look(0, HALF_A_DAY, held=False)
    for number, then in enumerate(("reprocess", "chill", "freeze")):
        work.look(number, HALF_A_DAY, held=False, way_on=then)
    work.look(3, HALF_A_DAY)
    work.finish("seal_check", HALF_A_DAY + 5)
    assert [j.seal for j in work.folder.jars] == [
        Seal.COOLING, Seal.UNSEALED, Seal.UNSEALED, Seal.SEALED, Seal.UNSEALED,
    ]  # fmt: skip
    again = HALF_A_DAY + 10
    work.do("process-again-1", again)
    work.do("process-again-1", again + 5, lambda made: steps.boil(made, reached=True))
    work.finish("process-again-1", again + 21)
    work.look(0, again + 21 + 12 * 60 + 1)
    work.finish("seal_check-2", again + 21 + 12 * 60 + 5)
    assert work.folder.standing.finished
    assert work.folder.jars[0].seal == Seal.SEALED
    places = {j.code[-2:]: j.place for j in jar_view.views(orm, work.who, work.folder.jars)}
    assert [places[n] for n in ("01", "02", "03", "04")] == [
        "Cellar shelf", "Refrigerator", "Freezer", "Cellar shelf",
    ]  # fmt: skip


def test_a_check_is_of_its_own_jars(orm: Orm) -> None:
    """The part-filled one went into the cold; nor is there a jar of every number."""
    work = Work(orm, household(orm))
    work.to_cooling()
    strange = max(j.id for j in work.folder.jars) + 1
    for jar_id in (work.folder.jars[-1].id, strange):
        look = partial(steps.look_at_seal, jar_id=jar_id, held=True, way_on=None)
        with pytest.raises(NotFound, match="jar in this check"):
            work.do("seal_check", HALF_A_DAY, look)


def test_after_a_day_a_failed_jar_is_not_processed_again(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.to_cooling()
    with pytest.raises(Refusal, match="24 hours"):
        work.look(0, 116 + 24 * 60 + 1, held=False, way_on="reprocess")
    work.look(0, 116 + 24 * 60 + 1, held=False, way_on="chill")


def test_a_stop_forbids_starting_and_chilling_is_the_way_on(orm: Orm) -> None:
    who = household(orm)
    with pytest.raises(Refusal, match="No tested home process"):
        batches.start(orm, who, request("elderberry"), minutes(0))
    work = Work(orm, who, request("elderberry", keep="chill"))
    work.do("steam_juice-1", 1)
    work.finish("steam_juice-1", 65)
    work.do("boil_through", 66)
    work.do("boil_through", 75, lambda made: steps.boil(made, reached=True))
    with pytest.raises(Refusal):
        work.finish("boil_through", 80)
    work.finish("boil_through", 88)
    work.finish("fill", 90, jars=(steps.JarEntry("pint", 4),))
    work.finish("chill", 120)
    assert work.folder.standing.finished
    assert {j.place_id for j in work.folder.jars} != {None}


@pytest.mark.parametrize(
    ("entry", "pointer"),
    [
        (reading("ph", 31, "ph_meter"), "/ph"),
        (reading("volume_ml", -5, "jug"), "/volume_ml"),
        (reading("volume_ml", 20_000, "jug"), "/volume_ml"),
        (reading("brix", 12, "ph_meter"), "/instrument"),
        (reading("temp_c", float("nan"), "thermometer"), "/temp_c"),
    ],
)
def test_a_reading_that_cannot_be(orm: Orm, entry: steps.ReadingEntry, pointer: str) -> None:
    work = Work(orm, household(orm))
    work.do("steam_juice-1", 1)
    with pytest.raises(FieldError) as wrong:
        work.do("steam_juice-1", 5, lambda made: steps.take_reading(made, entry))
    assert wrong.value.pointer == pointer


def test_nothing_is_read_at_a_step_that_is_over_or_not_begun(orm: Orm) -> None:
    work = Work(orm, household(orm))
    entry = reading("brix", 13, "refractometer")
    with pytest.raises(IllegalStep, match="not been started"):
        work.do("steam_juice-1", 1, lambda made: steps.take_reading(made, entry))
    work.do("steam_juice-1", 1)
    work.finish("steam_juice-1", 65)
    with pytest.raises(IllegalStep, match="already finished by Oda"):
        work.do("steam_juice-1", 66, lambda made: steps.take_reading(made, entry))


def test_a_station_holds_one_step_at_a_time(orm: Orm) -> None:
    who = household(orm)
    work, other = Work(orm, who, request(kg=12)), Work(orm, who)
    work.do("steam_juice-1", 1)
    with pytest.raises(Conflict, match="waits for: Steam load 1 of 3"):
        work.do("steam_juice-2", 2)
    with pytest.raises(Conflict, match="still busy with: Steam load 1 of 3"):
        other.do("steam_juice-1", 2)


def test_jars_are_counted_against_pot_and_stock(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.do("steam_juice-1", 1)
    work.finish("steam_juice-1", 65)
    work.finish("heat_to", 80, readings=(reading("temp_c", 89, "thermometer"),))
    for jars, words in ((20, "the pot held"), (0, "Enter how many")):
        with pytest.raises(FieldError, match=words):
            work.finish("fill", 90, jars=(steps.JarEntry("pint", jars),))
    with pytest.raises(FieldError, match="only 0 stand ready"):
        work.finish("fill", 90, jars=(steps.JarEntry("m250", 4),))
    with pytest.raises(Refusal):
        work.finish("fill", 90, jars=(steps.JarEntry("m700", 2),))


def test_time_is_added_with_a_reason_and_the_pan_is_refilled(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.do("steam_juice-1", 0)
    work.do("steam_juice-1", 50, lambda made: steps.lengthen(made, 15, "skins still whole"))
    work.do("steam_juice-1", 52, lambda made: steps.note(made, "refilled", ""))
    step = batch_view.view(orm, work.who, work.batch).steps[0]
    assert step.due_at == minutes(75)
    assert step.pan is not None
    assert step.pan.since == minutes(52)
    assert step.pan.dry_at > minutes(110)


def test_history_is_appended_and_never_changed(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.do("steam_juice-1", 1)
    event = queries.all_of(orm, work.who.household_id, Event)[0]
    event.kind = "never_happened"
    with pytest.raises(HistoryChanged):
        orm.flush()


def test_finished_batches_teach_the_next_plan(orm: Orm) -> None:
    who = household(orm)
    before = plans.make(orm, who, request())
    for _ in range(3):
        work = Work(orm, who)
        work.do("steam_juice-1", 1)
        work.finish("steam_juice-1", 65, readings=(reading("volume_ml", 2300, "jug"),))
    after = plans.make(orm, who, request())
    assert before.fruit_yield
    assert after.fruit_yield
    assert before.fruit_yield.median < after.fruit_yield.median < 2.3 / 4
    assert (
        after.main.litres.hi - after.main.litres.lo < before.main.litres.hi - before.main.litres.lo
    )
    shown = plans.show(orm, who, request()).fruit_yield
    assert shown
    assert shown.batches == 3
    assert [d.yield_l_per_kg for d in shown.dots] == [pytest.approx(2.3 / 4)] * 3


def test_the_hob_rail_and_today_say_what_needs_hands(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.do("steam_juice-1", 0)
    slot = today.hob(orm, work.who, minutes(5))[0]
    assert (slot.station, slot.holds) == ("Steamer, ring 1", "Damson, load 1 of 1")
    assert slot.due_at == minutes(60)
    work.finish("steam_juice-1", 65)
    texts = [i.text for i in today.view(orm, work.who, minutes(66)).items]
    assert texts == ["Next: Heat to 88 °C, damson juice from 4 kg"]


def test_today_lists_a_seal_check_with_its_window(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.to_cooling()
    early = next(i for i in today.view(orm, work.who, minutes(200)).items if "seals" in i.text)
    due = next(i for i in today.view(orm, work.who, minutes(HALF_A_DAY)).items if "seals" in i.text)
    assert (early.kind, due.kind) == ("later", "now")
    assert early.until is not None
    assert early.at is not None
    assert (early.until - early.at).total_seconds() == 12 * 3600


def test_an_unknown_altitude_stops_the_shelf(orm: Orm) -> None:
    who = household(orm, altitude_m=None)
    assert queries.all_of(orm, who.household_id, Kitchen)[0].altitude_m is None
    with pytest.raises(Refusal, match="altitude of this kitchen is not known"):
        batches.start(orm, who, request(), minutes(0))


def test_another_households_things_are_not_found(orm: Orm) -> None:
    mine, theirs = household(orm), household(orm, "Elsewhere")
    work = Work(orm, mine)
    with pytest.raises(NotFound):
        find(orm, theirs, work.batch.id)
    assert batch_list.lines(orm, theirs) == []
