"""What rows amount to stands in columns, and is always what their events say."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from sqlalchemy.orm import Session as Orm

from elderberry.core.batch.lifecycle import Phase
from elderberry.services.cooking import kept, steps
from elderberry.services.cooking.folder import Folder
from elderberry.services.household import furnishing
from elderberry.services.planning import intake, learned
from elderberry.services.shelf import lives, shelf
from elderberry.store import Batch, Jar, Lot, Operation, Place, YieldSeen, shelf_queries
from elderberry.store.jar import FAR_OFF
from tests.factories import NOON, Work, forget, household, minutes, reading, request

Columns = dict[str, list[tuple[Any, ...]]]


def columns(orm: Orm) -> Columns:
    """Everything that is kept."""
    forget(orm)
    return {
        "batch": [(b.id, b.finished, b.material) for b in orm.query(Batch)],
        "operation": [(o.id, o.phase) for o in orm.query(Operation)],
        "jar": [(j.id, j.best_by, j.gone, j.fell_short, j.own_vessel) for j in orm.query(Jar)],
        "lot": [(x.id, x.left_g) for x in orm.query(Lot)],
        "place": [(p.id, p.jars, round(p.jars_ml, 6)) for p in orm.query(Place)],
        "yield": [(y.batch_id, y.fruit, y.way, y.litres_per_kg) for y in orm.query(YieldSeen)],
    }


def hold(orm: Orm) -> Columns:
    """What is kept is what everything amounts to when it is found anew."""
    before = columns(orm)
    kept.everything(orm)
    assert columns(orm) == before
    return before


def test_from_the_crate_to_the_place_and_out_again(orm: Orm) -> None:
    who = household(orm)
    came = intake.take_in(orm, who, intake.NewLot("10 kg damsons"), NOON)
    work = Work(orm, who, request("damson", 4.0, lot_id=came.id))
    assert orm.get_one(Lot, came.id).left_g == 6000
    hold(orm)
    work.to_cooling(jars=4, part_ml=100)
    found = hold(orm)
    assert [(fruit, way) for _, fruit, way, _ in found["yield"]] == [("damson", "steam")]
    assert {phase for _, phase in found["operation"]} >= {Phase.DONE, Phase.WAITING, Phase.RUNNING}
    cooling = next(o for o in work.folder.operations if o.kind == "cool")
    work.finish(cooling.key, 116 + 13 * 60)
    for number in range(4):
        work.look(number, 117 + 13 * 60, held=number != 3, way_on="chill")
    work.finish("seal_check", 118 + 13 * 60)
    found = hold(orm)
    assert [finished for _, finished, _ in found["batch"]] == [True]
    assert all(day != FAR_OFF for _, day, *_ in found["jar"])
    assert sum(jars for _, jars, _ in found["place"]) == 5
    jar = work.folder.jars[0]
    later = NOON + timedelta(days=40)
    bulging = lives.Told(sign="bulges")
    lives.do(orm, who, later, lives.Which((jar.id,)), "used_up", lives.Told())
    lives.do(orm, who, later, lives.Which((work.folder.jars[1].id,)), "spoiled", bulging)
    found = hold(orm)
    assert sum(jars for _, jars, _ in found["place"]) == 3
    left = sorted((j for j in work.folder.jars if j.place_id), key=lambda j: (j.best_by, j.code))
    assert shelf_queries.to_use(orm, who.household_id, FAR_OFF, 10) == [], "held for the one"
    lives.do(orm, who, later, lives.Which([j.id for j in left]), "looked_sound", lives.Told())
    assert shelf_queries.to_use(orm, who.household_id, FAR_OFF, 10) == left


def test_a_warmer_place_brings_the_day_nearer(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.to_shelf(jars=4, part_ml=0)
    jar = work.folder.jars[0]
    before, place = jar.best_by, orm.get_one(Place, jar.place_id)
    warm = {"kind": place.kind, "name": place.name, "temp_c": 24.0, "light": False, "room_l": None}
    furnishing.put(orm, work.who, "place", place.id, warm)
    shelf.place_changed(orm, work.who, place.id)
    assert orm.get_one(Jar, jar.id).best_by < before
    hold(orm)


def test_a_mistaken_batch_gives_its_fruit_back(orm: Orm) -> None:
    from elderberry.services.cooking import endings

    who = household(orm)
    came = intake.take_in(orm, who, intake.NewLot("5 kg damsons"), NOON)
    work = Work(orm, who, request("damson", 4.0, lot_id=came.id))
    endings.give_up(orm, who, work.batch.id, minutes(2))
    assert orm.get_one(Lot, came.id).left_g == 5000
    assert hold(orm)["batch"][0][1] is True


def test_a_reading_put_right_teaches_the_right_yield(orm: Orm) -> None:
    work = Work(orm, household(orm))
    work.do("steam_juice-1", 1)
    work.finish("steam_juice-1", 65, readings=(reading("volume_ml", 2000, "jug"),))
    first = learned.observations(orm, work.who, "damson")[0].yield_l_per_kg
    wrong = work.folder.readings[-1]
    work.do("heat_to", 66)
    work.do("steam_juice-1", 67, lambda made: steps.correct(made, wrong.id, 2400.0))
    second = learned.observations(orm, work.who, "damson")[0].yield_l_per_kg
    assert second > first
    hold(orm)


def test_a_household_of_several_batches_reads_what_it_shares_once(orm: Orm) -> None:
    work = Work(orm, household(orm))
    first = Folder(orm, work.who, work.batch)
    second = Folder(orm, work.who, work.batch, first.house)
    assert second.kitchen is first.kitchen
