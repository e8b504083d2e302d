"""Each mishap pressed once: what is written, and what becomes of figures, clock and jars."""

from __future__ import annotations

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core import mishaps as core
from elderberry.core.batch.lifecycle import Phase
from elderberry.core.flow.kinds import kind, kinds
from elderberry.services.cooking import batch_view, mishaps, steps
from elderberry.services.cooking.shown import BatchView
from elderberry.services.errors import Conflict, FieldError, NotFound
from elderberry.services.notes import deviations
from tests.factories import Work, household, minutes, reading, request

CUP_ML = 250.0


@pytest.fixture
def work(orm: Orm) -> Work:
    """Damsons for the steamer."""
    return Work(orm, household(orm), request())


def press(work: Work, key: str, at: float, what: str, said: str = "", *jars: int) -> BatchView:
    folder = work.do(key, at, lambda m: mishaps.happened(m, what, mishaps.Said(said, jars)))
    return batch_view.of(folder)


def litres(view: BatchView) -> float:
    return view.ends[0].litres.typ


def test_a_cup_lost_is_a_cup_less_until_it_is_measured(work: Work) -> None:
    work.do("steam_juice-1", 0)
    before = litres(batch_view.of(work.folder))
    after = press(work, "steam_juice-1", 30, "hose_off", "1 cup")
    assert before - litres(after) == pytest.approx(CUP_ML / 1000, rel=0.02)
    work.finish("steam_juice-1", 65, readings=(reading("volume_ml", 2000, "jug"),))
    assert litres(batch_view.of(work.folder)) == pytest.approx(2.0, rel=0.01)


def test_what_boils_over_on_the_way_to_the_jars_is_missing_there(work: Work) -> None:
    work.do("steam_juice-1", 0)
    work.finish("steam_juice-1", 65, readings=(reading("volume_ml", 2000, "jug"),))
    work.do("heat_to", 66)
    after = press(work, "heat_to", 70, "boiled_over", "250 ml")
    assert litres(after) == pytest.approx(1.75, rel=0.02)


def test_what_is_spilled_at_the_jars_is_missing_there(work: Work) -> None:
    work.to_hot()
    after = press(work, "fill", 82, "spilled", "half a litre")
    assert litres(after) == pytest.approx(1.5, rel=0.02)


def test_a_pan_that_ran_low_is_full_again_and_its_load_takes_longer(work: Work) -> None:
    work.do("steam_juice-1", 0)
    step = batch_view.of(work.folder).steps[0]
    after = press(work, "steam_juice-1", 40, "pan_near_dry").steps[0]
    assert after.extra_minutes == step.extra_minutes + 5
    assert after.pan
    assert after.pan.since == minutes(40)
    assert press(work, "steam_juice-1", 41, "lid_lifted").steps[0].extra_minutes == 8


@pytest.mark.parametrize("what", ["boil_lost", "water_low"])
def test_a_time_that_was_broken_begins_again(work: Work, what: str) -> None:
    work.to_filled()
    work.do("process-1", 92)
    work.do("process-1", 100, lambda m: steps.boil(m, reached=True))
    view = press(work, "process-1", 104, what)
    step = next(s for s in view.steps if s.key == "process-1")
    assert step.clock_from is None
    assert step.boils_lost == 1


def test_a_cracked_jar_is_no_more_and_the_others_are_checked(work: Work) -> None:
    work.to_cooling()
    cracked = work.folder.jars[1]
    view = press(work, "cool-1", 120, "jar_cracked", "", cracked.id)
    check = next(s for s in view.steps if s.role == "check")
    assert cracked.id not in check.jar_ids
    assert len(check.jar_ids) == 3
    with pytest.raises(NotFound):
        press(work, "cool-1", 121, "siphoned", "", cracked.id)


def test_a_jar_that_lost_juice_is_eaten_first(work: Work) -> None:
    work.to_cooling()
    jar = work.folder.jars[0]
    view = press(work, "cool-1", 120, "siphoned", "", jar.id)
    assert (
        next(j for j in view.jars if j.id == jar.id).note
        == "Juice left it in the canner: eat it first."
    )
    for number in range(4):
        work.look(number, 900)
    work.finish("seal_check", 901)
    first, *others = (j.best_by for j in batch_view.of(work.folder).jars if not j.part_filled)
    assert first
    assert all(o and o.typ > first.typ for o in others)


def test_a_buckled_lid_sends_its_jar_to_the_cold(work: Work) -> None:
    work.to_cooling()
    jar = work.folder.jars[0]
    view = press(work, "cool-1", 120, "lid_buckled", "", jar.id)
    shown = next(j for j in view.jars if j.id == jar.id)
    assert (shown.seal, shown.place) == ("unsealed", "Refrigerator")


def test_what_does_not_happen_here_is_refused_in_words(work: Work) -> None:
    with pytest.raises(FieldError, match="does not happen"):
        press(work, "steam_juice-1", 0, "jar_cracked")
    work.do("steam_juice-1", 0)
    with pytest.raises(FieldError, match="Nothing was recorded"):
        press(work, "steam_juice-1", 1, "hose_off", "a lot of it")


def test_each_step_offers_what_happens_there_and_every_mishap_has_its_step(work: Work) -> None:
    offered = {m.key for key, what in kinds().items() for m in core.at_step(key, what)}
    assert offered == set(core.mishaps())
    assert {r for m in core.mishaps().values() for r in m.roles} <= {
        k.role for k in kinds().values()
    }
    assert {k for m in core.mishaps().values() for k in m.kinds} <= set(kinds())
    assert kind("steam_juice").role == "steam"
    view = batch_view.of(work.folder)
    assert [s.mishaps for s in view.steps if s.phase is Phase.WAITING and s.role == "steam"] == [[]]


def test_what_went_too_thick_gets_its_water_back(orm: Orm) -> None:
    work = Work(orm, household(orm), request("apple", 8.0, method_key="apple_reduced"))
    before = [o.key for o in work.folder.operations]
    boils = next(o.key for o in work.folder.operations if o.kind == "reduce")
    for number, key in enumerate(before[: before.index(boils)]):
        work.do(key, 1000 * number)
        work.finish(key, 1000 * number + 900)
    began = 1000.0 * before.index(boils)
    work.do(boils, began)
    with pytest.raises(FieldError, match="amount"):
        press(work, boils, began + 30, "too_thick", "some")
    press(work, boils, began + 30, "too_thick", "500 ml")
    back = [e.data for e in work.folder.events if e.kind == "water_back"]
    assert back == [{"grams": pytest.approx(500), "said": "500 ml"}]
    words = [d.words for d in deviations.of_batch(work.folder)]
    assert words == ["It has gone too thick", "water back into the pot: 500 ml"]


def test_what_is_over_is_noted_where_one_is(work: Work) -> None:
    work.to_cooling()
    with pytest.raises(Conflict, match="This step is over"):
        press(work, "steam_juice-1", 117, "hose_off", "1 cup")
    with pytest.raises(FieldError, match="Say which jar"):
        press(work, "cool-1", 120, "jar_cracked")
