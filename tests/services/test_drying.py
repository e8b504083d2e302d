"""Drying at the machine and on the shelf: weighings, the week of shaking, packs, and out again."""

from __future__ import annotations

from datetime import timedelta

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.errors import Refusal
from elderberry.core.flow.inputs import End
from elderberry.services.cooking import endings, step_view, steps
from elderberry.services.cooking.step_shown import StepView
from elderberry.services.day import today
from elderberry.services.errors import Conflict
from elderberry.services.household import furnishing
from elderberry.services.planning import plans
from elderberry.services.planning.asked import GoesIn, PlanRequest
from elderberry.services.shelf import labels, lives, servings, shelf
from elderberry.services.shelf.lives import Told, Which
from elderberry.services.who import Who
from elderberry.store import CycleSeen, Jar, Place, Vessel, queries
from tests.factories import NOON, Work, minutes, reading, that_dries

DAY = 24 * 60.0


@pytest.fixture
def who(orm: Orm) -> Who:
    return that_dries(orm)


def asked(line: str, method: str, into: str = "barrier-1000", keep: str = "dry") -> PlanRequest:
    return PlanRequest((GoesIn(line=line),), (End("pack", keep, (into,)),), method_key=method)


def step(work: Work, key: str, at: float = 0.0) -> StepView:
    folder = work.folder
    folder.at = minutes(at)
    return step_view.of(folder, folder.find(work.step_id(key)))


def weigh(work: Work, key: str, at: float, grams: float) -> StepView:
    entry = reading("tray_g", grams, "tray_scale")
    work.do(key, at, lambda made: steps.take_reading(made, entry))
    return step(work, key, at)


def pack(work: Work, at: float) -> None:
    work.pack(at)
    work.finish("store_dry", at + 20)


def powder(orm: Orm, who: Who, line: str = "2 kg gooseberries", hours: float = 16.0) -> Work:
    """Purée from the pot to packs of powder, its machine on for so many hours."""
    work = Work(orm, who, asked(line, "puree_powder_freeze_dried"))
    work.do("simmer", 1)
    work.do("simmer", 5, lambda made: steps.boil(made, reached=True))
    work.finish("simmer", 20)
    work.finish("mill", 45)
    work.do("freeze_dry", 60)
    work.finish("freeze_dry", 60 + 60 * hours)
    work.finish("grind", 80 + 60 * hours)
    pack(work, 90 + 60 * hours)
    return work


@pytest.mark.parametrize("method", ["slices_freeze_dried", "slices_air_dried"])
def test_a_plan_shows_its_trays_for_as_long_as_its_step_takes(
    orm: Orm, who: Who, method: str
) -> None:
    shown = plans.show(orm, who, asked("1.5 kg quinces", method))
    drying = {o.key: o.minutes for o in shown.operations}
    assert shown.trays
    for trays in shown.trays:
        assert trays.hours.typ == pytest.approx(drying[trays.key].typ / 60)
        assert trays.left_h.typ == pytest.approx(trays.hours.typ)
        assert trays.trays * trays.each_g * trays.loads == pytest.approx(1500, rel=0.35)


def test_a_weighing_puts_the_clock_right_and_two_alike_end_it(orm: Orm, who: Who) -> None:
    work = Work(orm, who, asked("1.5 kg quinces", "slices_freeze_dried"))
    work.finish("slice_up", 20)
    work.do("freeze_dry", 30)
    trays = step(work, "freeze_dry", 30).trays
    assert trays is not None
    assert not trays.weighings
    half = trays.each_g - 0.5 * (trays.each_g - trays.last_g)
    late = weigh(work, "freeze_dry", 30 + 7 * 60, half)
    assert late.trays is not None
    assert late.trays.hours.typ > trays.hours.typ
    assert late.due_at is not None
    planned = NOON + timedelta(minutes=30) + timedelta(hours=late.trays.hours.typ)
    assert abs((late.due_at - planned).total_seconds()) < 90
    weigh(work, "freeze_dry", 30 + 15 * 60, trays.last_g * 1.01)
    done = weigh(work, "freeze_dry", 30 + 16 * 60 + 5, trays.last_g * 1.008)
    assert done.trays is not None
    assert done.trays.dry
    assert done.trays.left_h.hi == 0.0


def test_a_tray_is_read_by_the_scale_that_there_is_and_is_no_weight_of_the_lot(
    orm: Orm, who: Who
) -> None:
    work = Work(orm, who, asked("2 kg apples", "slices_air_dried", "pint"))
    work.finish("slice_up", 20)
    work.do("air_dry", 30)
    asks = {a.quantity: a.instruments for a in step(work, "air_dry").asks}
    assert asks["tray_g"] == ["tray_scale"]
    weigh(work, "air_dry", 150, 200.0)
    dry = work.folder.standing.lot_now(next(x for x in work.folder.lots.values() if x.key == "dry"))
    assert dry is not None
    assert dry.mass_g.typ > 300.0


def test_what_is_weighed_damp_is_not_packed_and_goes_to_the_freezer(orm: Orm, who: Who) -> None:
    work = Work(orm, who, asked("2 kg apples", "slices_air_dried", "pint"))
    work.finish("slice_up", 20)
    work.do("air_dry", 30)
    work.finish("air_dry", 600, readings=(reading("mass_g", 700, "scale"),))
    work.do("condition", 610)
    work.finish("condition", 610 + 7 * DAY)
    with pytest.raises(Refusal) as refused:
        pack(work, 620 + 7 * DAY)
    assert refused.value.finding.id == "not-dry-enough"
    endings.divert(orm, who, work.batch.id, "freeze", minutes(630 + 7 * DAY))
    kinds = [o.kind for o in work.folder.operations if o.phase != "dropped"]
    assert "store_dry" not in kinds
    packed = work.folder.standing.packing(work.folder.find(work.step_id("pack")))
    work.finish("pack", 640 + 7 * DAY, jars=tuple(
        steps.JarEntry(k, n) for k, n in packed.jars.items()))  # fmt: skip
    work.finish("freeze", 660 + 7 * DAY)
    places = {p.id: p.kind for p in queries.all_of(orm, who.household_id, Place)}
    assert {places[j.place_id] for j in work.folder.jars if j.place_id} == {"freezer"}


def test_the_week_asks_every_day_and_only_once_a_day(orm: Orm, who: Who) -> None:
    work = Work(orm, who, asked("2 kg pears", "slices_air_dried", "pint"))
    work.finish("slice_up", 20)
    work.do("air_dry", 30)
    work.finish("air_dry", 700)
    work.do("condition", 710)

    def shake(at: float) -> None:
        work.do("condition", at, lambda made: steps.note(made, "shaken", ""))

    def says(at: float) -> bool:
        items = today.view(orm, who, minutes(at)).items
        return any(i.text.startswith("Shake the jars of pear") and i.kind == "now" for i in items)

    assert says(720)
    shake(730)
    assert not says(740)
    assert says(740 + DAY)
    shake(745 + DAY)
    shake(750 + DAY)
    shown = step(work, "condition", 760 + DAY).shakes
    assert shown is not None
    assert (shown.days, shown.of, shown.today) == (2, 7, True)


def test_a_load_that_took_long_is_learned_by_the_next_plan(orm: Orm, who: Who) -> None:
    before = plans.make(orm, who, asked("2 kg gooseberries", "puree_powder_freeze_dried"))
    for number in range(3):
        powder(orm, who, f"{2 + 0.1 * number} kg gooseberries", hours=26.0)
    assert len(queries.all_of(orm, who.household_id, CycleSeen)) == 3
    after = plans.make(orm, who, asked("2 kg gooseberries", "puree_powder_freeze_dried"))
    hours = [
        next(o.minutes.typ for o in p.operations if o.kind == "freeze_dry") / 60.0
        for p in (before, after)
    ]
    assert hours[1] > 1.2 * hours[0]
    assert abs(hours[1] - 26.0) < 6.0


def test_a_pack_of_powder_from_the_shelf_to_the_glass(orm: Orm, who: Who) -> None:
    work = powder(orm, who)
    jar = work.folder.jars[0]
    page = shelf.jar_page(orm, who, jar.id)
    assert page.jar.label == "Gooseberry powder"
    assert page.jar.dried == "powder"
    assert page.jar.loose_g == pytest.approx(0.45 * jar.fill_ml)
    assert page.jar.best_by is not None
    assert page.jar.best_by.typ.year > NOON.year + 5
    assert page.again is not None
    assert page.again.dry_g == pytest.approx(page.jar.loose_g)
    assert page.as_lines == [f"{page.jar.loose_g:.0f} g gooseberry, powder"]
    with pytest.raises(Conflict, match="weighed"):
        servings.in_the_jar(orm, who, jar)
    printed = labels.shown(orm, who, [jar.id], "http://here")[0].lines
    assert any("level spoon" in line for line in printed)
    assert not any("°Bx" in line or "sugar in 100 g" in line for line in printed)


def test_a_pack_of_slices_says_how_much_water_makes_them_again(orm: Orm, who: Who) -> None:
    work = Work(orm, who, asked("1.5 kg quinces", "slices_freeze_dried"))
    work.finish("slice_up", 20)
    work.do("freeze_dry", 30)
    work.finish("freeze_dry", 30 + 20 * 60)
    pack(work, 40 + 20 * 60)
    jar = work.folder.jars[0]
    again = shelf.jar_page(orm, who, jar.id).again
    assert again is not None
    line = next(x for x in labels.shown(orm, who, [jar.id], "http://here")[0].lines if "water" in x)
    grams = float(line.split(" g of water")[0])
    assert grams == pytest.approx(100 * again.water_g_per_g, abs=5)
    assert line.endswith("of water to 100 g, overnight in the cold.")


def test_powder_is_opened_where_it_stands_and_does_not_keep_open(orm: Orm, who: Who) -> None:
    work = powder(orm, who)
    jar = work.folder.jars[0]
    stood = jar.place_id
    at = minutes(40 * DAY)
    lives.do(orm, who, at, Which([jar.id]), "opened", Told())
    orm.refresh(jar)
    assert jar.place_id == stood
    opened = shelf.jar_page(orm, who, jar.id).jar
    assert opened.best_by is not None
    assert (opened.best_by.typ - at.date()).days <= 1
    lives.do(orm, who, at, Which([jar.id]), "poured", Told(ml=jar.fill_ml / 2))
    half = shelf.jar_page(orm, who, jar.id)
    assert half.again is not None
    assert half.again.dry_g == pytest.approx(0.45 * jar.fill_ml / 2)


def test_a_shelf_with_dry_packs_may_change_its_warmth(orm: Orm, who: Who) -> None:
    work = powder(orm, who)
    place_id = work.folder.jars[0].place_id
    place = next(p for p in queries.all_of(orm, who.household_id, Place) if p.id == place_id)
    furnishing.put(orm, who, "place", place.id, {"kind": place.kind, "temp_c": 22.0})
    jar = orm.get_one(Jar, work.folder.jars[0].id)
    assert jar.place_id == place.id


def test_mixed_trays_of_one_batch_go_into_the_machine_together(orm: Orm, who: Who) -> None:
    work = Work(orm, who, PlanRequest(
        (GoesIn(line="2 kg quinces"),),
        (End("pack", "dry", ("barrier-1000",)), End("pack_2", "dry", ("barrier-1000",))),
        method_key="slices_and_powder",
    ))  # fmt: skip
    work.finish("split", 3)
    work.finish("slice_up", 20)
    work.do("simmer", 21)
    work.do("simmer", 30, lambda made: steps.boil(made, reached=True))
    work.finish("simmer", 46)
    work.finish("mill", 60)
    work.do("freeze_dry", 70)
    work.do("freeze_dry_2", 75)
    folder = work.folder
    running = [o.key for o in folder.operations if o.phase == "running"]
    assert running == ["freeze_dry", "freeze_dry_2"]
    assert len({folder.find(work.step_id(k)).station_id for k in running}) == 1
    other = Work(orm, who, asked("1 kg rhubarb", "slices_freeze_dried"))
    other.finish("slice_up", 80)
    with pytest.raises(Conflict, match="busy"):
        other.do("freeze_dry", 90)


def test_what_lies_open_is_timed_and_warned_of(orm: Orm, who: Who) -> None:
    work = Work(orm, who, asked("1.5 kg quinces", "slices_freeze_dried"))
    work.finish("slice_up", 20)
    work.do("freeze_dry", 30)
    work.finish("freeze_dry", 30 + 600)
    soon = step(work, "pack", 635)
    assert soon.lies_open_until is not None
    assert 5 < (soon.lies_open_until - minutes(630)).total_seconds() / 60 < 30
    assert "powder-lay-open" not in {f.id for f in soon.cautions}
    late = step(work, "pack", 700)
    assert "powder-lay-open" in {f.id for f in late.cautions}


def test_a_freezer_that_is_full_says_so(orm: Orm, who: Who) -> None:
    freezer = next(p for p in queries.all_of(orm, who.household_id, Place) if p.kind == "freezer")
    freezer.room_l = 2.0
    orm.add(Vessel(household_id=who.household_id, kind="bag", name="Flat", litres=1.0, count=20))
    orm.flush()
    made = plans.make(orm, who, asked("4 kg gooseberries", "frozen_loose", "bag-1000", "freeze"))
    assert "freezer-full" in {f.id for f in made.verdict.findings}
    little = plans.make(orm, who, asked("500 g gooseberries", "frozen_loose", "bag-1000", "freeze"))
    assert "freezer-full" not in {f.id for f in little.verdict.findings}


def test_whole_fruit_waits_for_its_load_and_cut_fruit_only_in_the_cold(orm: Orm, who: Who) -> None:
    berries = Work(orm, who, asked("9 kg aronia", "berries_air_dried", "pint"))
    berries.finish("sort", 20)
    berries.do("air_dry-1", 30)
    berries.finish("air_dry-1", 30 + 30 * 60)
    berries.do("air_dry-2", 40 + 30 * 60)
    berries.finish("air_dry-2", 40 + 60 * 60)
    slices = Work(orm, who, asked("9 kg pears", "slices_air_dried", "pint"))
    plan = plans.make(orm, who, asked("9 kg pears", "slices_air_dried", "pint"))
    assert "loads-wait-cold" in {f.id for f in plan.verdict.findings}
    start = 61 * 60.0
    slices.finish("slice_up", start)
    slices.do("air_dry-1", start + 10)
    slices.finish("air_dry-1", start + 28 * 60)
    with pytest.raises(Refusal) as refused:
        slices.do("air_dry-2", start + 28 * 60 + 10)
    assert refused.value.finding.id == "stood-warm-too-long"
    cold = Work(orm, who, asked("9 kg pears", "slices_air_dried", "pint"))
    later = start + 29 * 60
    cold.finish("slice_up", later)
    cold.do("slice_up", later + 5, steps.put_cold)
    cold.do("air_dry-1", later + 10)
    cold.finish("air_dry-1", later + 28 * 60)
    cold.do("air_dry-2", later + 28 * 60 + 10)


@pytest.mark.parametrize(("hours", "learned"), [(1.9, 0), (2.1, 1), (119.0, 1), (121.0, 0)])
def test_what_was_only_ticked_off_or_forgotten_teaches_nothing(
    orm: Orm, who: Who, hours: float, learned: int
) -> None:
    powder(orm, who, hours=hours)
    assert len(queries.all_of(orm, who.household_id, CycleSeen)) == learned
