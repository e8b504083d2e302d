"""Ways round a verdict in the kitchen, each tried and found shut."""

from __future__ import annotations

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.errors import Refusal
from elderberry.services.cooking import steps
from elderberry.services.cooking.folder import find
from elderberry.services.day import today
from elderberry.services.errors import Conflict
from elderberry.services.household import furnishing, kitchens, own_processes
from elderberry.services.shelf import shelf
from tests.factories import NOON, Work, household, minutes, reading, request

HALF_A_DAY = 116 + 12 * 60 + 1


def refused(stop: pytest.ExceptionInfo[Refusal]) -> str:
    return stop.value.finding.id


def a_meter_reads(work: Work, key: str, at: float, ph: float) -> None:
    work.do(key, at, lambda made: steps.take_reading(made, reading("ph", ph, "ph_meter")))


def steamed(work: Work, *read: float) -> float:
    """Steam a load for each pH that a meter reads in it; when it was over."""
    for n, ph in enumerate(read, start=1):
        at = 70 * (n - 1) + 1
        work.do(f"steam_juice-{n}", at)
        a_meter_reads(work, f"steam_juice-{n}", at + 30, ph)
        work.finish(f"steam_juice-{n}", at + 64, readings=(reading("volume_ml", 2000, "jug"),))
    return 70.0 * len(read)


def filled(work: Work, at: float, jars: int = 4) -> None:
    """Bring it to the boil and fill."""
    work.do("heat_to", at)
    work.finish("heat_to", at + 12, readings=(reading("temp_c", 97, "thermometer"),))
    work.finish("fill", at + 20, jars=(steps.JarEntry("pint", jars),))


def test_a_load_that_read_too_mild_is_not_outlived_by_the_others(orm: Orm) -> None:
    """It is a third of the whole: only a reading of the whole answers it."""
    work = Work(orm, household(orm), request("plum", 12))
    end = steamed(work, 4.6, 3.5, 3.5)
    filled(work, end, jars=10)
    with pytest.raises(Refusal) as stop:
        work.do("process-1", end + 25)
    assert refused(stop) == "ph-reading-needed"


def test_a_strip_or_a_typed_figure_does_not_outlive_a_meter(orm: Orm) -> None:
    work = Work(orm, household(orm), request("plum", 4, ph=3.2))
    work.do("steam_juice-1", 1)
    a_meter_reads(work, "steam_juice-1", 20, 4.6)
    strip = steps.ReadingEntry("ph", 3.4, "ph_strip")
    work.do("steam_juice-1", 25, lambda made: steps.take_reading(made, strip))
    work.finish("steam_juice-1", 65, readings=(reading("volume_ml", 2000, "jug"),))
    with pytest.raises(Refusal) as stop:
        filled(work, 66)
    assert refused(stop) == "ph-too-high"


def test_a_reading_put_right_after_the_process_takes_the_verdict_again(orm: Orm) -> None:
    work = Work(orm, household(orm), request("plum", 4))
    filled(work, steamed(work, 3.5))
    work.do("process-1", 92)
    work.do("process-1", 100, lambda made: steps.boil(made, reached=True))
    work.finish("process-1", 125)
    assert work.folder.jars[0].process["minutes"] >= 10
    wrong = [r for r in work.folder.readings if r.quantity == "ph"]
    for read in wrong:
        at = next(o.key for o in work.folder.operations if o.id == read.operation_id)
        work.do(at, 130, lambda made, r=read: steps.correct(made, r.id, 4.7))  # type: ignore[misc]
    with pytest.raises(Refusal) as stop:
        work.look(0, HALF_A_DAY + 30)
    assert refused(stop) == "process-fell-short"
    page = shelf.jar_page(orm, work.who, work.folder.jars[0].id)
    assert "process-fell-short" in [f.id for f in page.findings]
    assert "4.70 was read" in page.jar.stop
    work.look(0, HALF_A_DAY + 31, held=False, way_on="chill")
    chilled = shelf.jar_page(orm, work.who, work.folder.jars[0].id)
    assert (chilled.findings, chilled.jar.stop) == ([], "")


def test_jars_on_the_shelf_that_fell_short_are_named_today(orm: Orm) -> None:
    work = Work(orm, household(orm), request("plum", 4))
    filled(work, steamed(work, 3.5))
    work.do("process-1", 92)
    work.do("process-1", 100, lambda made: steps.boil(made, reached=True))
    work.finish("process-1", 125)
    for number in range(4):
        work.look(number, HALF_A_DAY + 30)
    work.finish("seal_check", HALF_A_DAY + 40)
    later = minutes(HALF_A_DAY + 60)
    assert not [i for i in today.view(orm, work.who, later).items if "Do not eat" in i.text]
    read = next(r for r in work.folder.readings if r.quantity == "ph")
    at = next(o.key for o in work.folder.operations if o.id == read.operation_id)
    work.do(at, HALF_A_DAY + 50, lambda made: steps.correct(made, read.id, 4.7))
    said = next(i for i in today.view(orm, work.who, later).items if "Do not eat" in i.text)
    assert said.text.startswith("Do not eat from PL-26-01")
    assert said.detail.count("PL-26-01-0") == 4


def test_a_correction_stands_where_its_original_stood(orm: Orm) -> None:
    """The older of two readings is put right later: the newer one still is the last word."""
    work = Work(orm, household(orm), request("plum", 4))
    work.do("steam_juice-1", 1)
    a_meter_reads(work, "steam_juice-1", 20, 3.9)
    a_meter_reads(work, "steam_juice-1", 40, 4.5)
    first = next(r for r in work.folder.readings if r.quantity == "ph")
    work.do("steam_juice-1", 50, lambda made: steps.correct(made, first.id, 3.4))
    lot = next(x for x in work.folder.lots.values() if x.key == "juice-1")
    found = work.folder.standing.measured(lot.id, "ph")
    assert found is not None
    assert found.value == 4.5


def test_jars_filled_hot_wait_no_hours_for_the_canner(orm: Orm) -> None:
    work = Work(orm, household(orm), request("damson", 4))
    work.to_filled(part_ml=0)
    with pytest.raises(Refusal) as stop:
        work.do("process-1", 90 + 5 * 60)
    assert refused(stop) == "stood-before-canner"


def test_a_later_load_is_filled_when_its_turn_comes(orm: Orm) -> None:
    """A pot that is kept hot is filled from load by load; a cold one is not."""
    work = Work(orm, household(orm), request("damson", 10))
    steam = [o.key for o in work.folder.operations if o.kind == "steam_juice"]
    for n, key in enumerate(steam):
        work.do(key, 1 + 70 * n)
        work.finish(key, 66 + 70 * n, readings=(reading("volume_ml", 2400, "jug"),))
    end = 70.0 * len(steam)
    work.do("heat_to", end)
    work.finish("heat_to", end + 12, readings=(reading("temp_c", 90, "thermometer"),))
    work.finish("fill", end + 20, jars=(steps.JarEntry("pint", 9),))
    work.do("process-1", end + 25)
    work.do("process-1", end + 45, lambda made: steps.boil(made, reached=True))
    work.finish("process-1", end + 62)
    late = end + 90
    with pytest.raises(Refusal) as stop:
        work.do("process-2", late)
    assert refused(stop) == "stood-before-canner"
    with pytest.raises(Refusal) as stop:
        work.do("process-2", late, lambda made: steps.filled_now(made, 60.0))
    assert refused(stop) == "fill-too-cold"
    work.do("process-2", late, lambda made: steps.filled_now(made, 89.0))
    work.do("process-2", late + 2)
    with pytest.raises(Conflict, match="wait for the canner"):
        work.do("process-2", late + 3, lambda made: steps.filled_now(made, 89.0))


def test_hot_juice_is_not_filled_after_hours(orm: Orm) -> None:
    work = Work(orm, household(orm), request("damson", 4))
    work.do("steam_juice-1", 1)
    work.finish("steam_juice-1", 65, readings=(reading("volume_ml", 2000, "jug"),))
    work.do("heat_to", 66)
    work.finish("heat_to", 80, readings=(reading("temp_c", 89, "thermometer"),))
    with pytest.raises(Refusal) as stop:
        work.finish("fill", 80 + 4 * 60, jars=(steps.JarEntry("pint", 4),))
    assert refused(stop) == "cooled-since-heating"


@pytest.mark.parametrize(
    "said", [{"kind": "shelf"}, {"temp_c": 30.0}, {"kind": "cellar", "temp_c": 12.0}]
)
def test_what_holds_unsealed_jars_stays_cold(orm: Orm, said: dict[str, object]) -> None:
    work = Work(orm, household(orm))
    fridge = kitchens.place(orm, work.who, "refrigerator")
    furnishing.put(orm, work.who, "place", fridge.id, {"temp_c": 5.0})
    work.to_cooling()
    work.look(0, HALF_A_DAY, held=False, way_on="chill")
    with pytest.raises(Conflict, match="not sealed stand in"):
        furnishing.put(orm, work.who, "place", fridge.id, said)
    assert kitchens.place(orm, work.who, "refrigerator").temp_c == 5.0
    furnishing.put(orm, work.who, "place", fridge.id, {"temp_c": 3.0})


def test_a_second_canner_that_steams_takes_over_no_long_process(orm: Orm) -> None:
    """An hour that an own source asks for is longer than a steam canner's water lasts."""
    who = household(orm)
    own = own_processes.NewOwnProcess(
        "hibiscus_concentrate", 500, 60, 900, 3.6, "Test kitchen leaflet 12, 2025"
    )
    own_processes.enter(orm, who, own, NOON)
    furnishing.put(orm, who, "station", None, {"name": "Dome", "kind": "canner", "heater": "steam"})
    dome = next(s for s in kitchens.stations(orm, who) if s.heater == "steam")
    asked = request(
        "hibiscus_dried", 0.25, form="dried", method_key="calyx_steep", jar_kinds=("half_pint",)
    )
    work = Work(orm, who, asked)
    work.do("steep", 1)
    work.finish("steep", 40, readings=(reading("volume_ml", 2000, "jug"),))
    work.finish("strain", 50)
    work.finish("stir_in", 60, readings=(reading("ph", 2.6, "ph_meter"),))
    work.do("heat_to", 61)
    work.finish("heat_to", 75, readings=(reading("temp_c", 90, "thermometer"),))
    work.finish("fill", 90, jars=(steps.JarEntry("half_pint", 7),))
    process = next(o for o in work.folder.operations if o.key == "process-1")
    bath, process.station_id = process.station_id, dome.id
    orm.flush()
    with pytest.raises(Refusal) as stop:
        work.do("process-1", 95)
    assert refused(stop) == "steam-canner-too-long"
    process.station_id = bath
    orm.flush()
    work.do("process-1", 96)


def test_a_chilled_batch_needs_no_canning_temperature(orm: Orm) -> None:
    work = Work(orm, household(orm), request("damson", 4, keep="chill"))
    work.do("steam_juice-1", 1)
    work.finish("steam_juice-1", 65, readings=(reading("volume_ml", 2000, "jug"),))
    heats = [o.key for o in work.folder.operations if o.kind == "heat_to"]
    for key in heats:
        work.do(key, 66)
        work.finish(key, 80, readings=(reading("temp_c", 74, "thermometer"),))
    work.finish("fill", 90, jars=(steps.JarEntry("pint", 4),))
    assert len(work.folder.jars) == 4
    assert find(orm, work.who, work.batch.id).brief["ends"][0]["keep"] == "chill"


def test_a_misread_load_is_seen_beside_the_other_loads(orm: Orm) -> None:
    from elderberry.services.cooking import batch_view

    work = Work(orm, household(orm), request("damson", 12))
    for n, litres in enumerate((2.4, 4.6), start=1):
        work.do(f"steam_juice-{n}", 70 * n)
        drawn = reading("volume_ml", 1000 * litres, "jug")
        work.finish(f"steam_juice-{n}", 70 * n + 64, readings=(drawn,))
    steps_shown = batch_view.view(orm, work.who, work.batch).steps
    first, second = (s.balance for s in steps_shown[:2])
    assert first is None or first.agrees
    assert second is not None
    assert not second.agrees
    assert "4.6 l was read" in second.words


def test_a_step_that_is_not_ready_says_what_it_waits_for(orm: Orm) -> None:
    work = Work(orm, household(orm), request("damson", 4))
    with pytest.raises(Conflict, match="waits for"):
        work.do("heat_to", 5)
