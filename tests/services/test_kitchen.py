"""The kitchen itself: furnished, kept usable under work, and changed by whoever may."""

from __future__ import annotations

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core import jars
from elderberry.services.cooking import batch_view
from elderberry.services.errors import Conflict, FieldError, NotAllowed, NotFound
from elderberry.services.household import furnishing, kitchen_view, kitchens
from elderberry.services.planning import plans
from elderberry.services.who import Who
from elderberry.store import Jar, JarStock, Station, Vessel, queries
from tests.factories import Work, household, request


def test_a_kitchen_is_furnished_and_keeps_what_it_needs(orm: Orm) -> None:
    who = household(orm)
    before = kitchen_view.view(orm, who)
    burner = {"kind": "burner", "name": "Gas ring", "power_kw": 3.0, "power_kind": "gas"}
    furnishing.put(orm, who, "station", None, burner)
    furnishing.count_jars(orm, who, "quart", 5, 3)
    furnishing.put(
        orm,
        who,
        "place",
        None,
        {"kind": "cellar", "name": "Deep cellar", "temp_c": 9, "light": False},
    )
    after = kitchen_view.view(orm, who)
    assert [s.name for s in after.stations][-1] == "Gas ring"
    assert next(k for k in after.jar_kinds if k.key == "quart").lids == 3
    assert len(after.places) == len(before.places) + 1
    ring = next(s for s in after.stations if s.name == "Gas ring")
    furnishing.drop_station(orm, who, ring.id)
    with pytest.raises(NotFound):
        furnishing.put(orm, who, "station", ring.id, burner)
    with pytest.raises(Conflict, match="needs one burner"):
        furnishing.drop_station(orm, who, next(s.id for s in after.stations if s.kind == "burner"))
    furnishing.drop_station(orm, who, next(s.id for s in after.stations if s.kind == "juicer"))
    assert kitchen_view.view(orm, who).lacks == ["dryer", "freeze_dryer", "juicer"]
    fridge = next(p for p in after.places if p.kind == "refrigerator")
    with pytest.raises(Conflict, match="needs one refrigerator"):
        furnishing.drop_place(orm, who, fridge.id)


def test_a_second_ring_takes_what_the_first_has_no_room_for(orm: Orm) -> None:
    who = household(orm)
    asked = request("redcurrant", 1, method_key="simmered_redcurrant")
    first, second, third = (Work(orm, who, asked) for _ in range(3))
    for work in (first, second, third):
        work.finish("soak", 1)
        work.finish("sort", 2)
    first.do("simmer", 3)
    with pytest.raises(Conflict, match="Ring 2 is still busy"):
        second.do("simmer", 4)
    ring = {"kind": "burner", "name": "Ring 4", "power_kw": 1.5, "power_kind": "gas"}
    furnishing.put(orm, who, "station", None, ring)
    second.do("simmer", 5)
    view = batch_view.view(orm, who, second.folder.batch)
    station = next(s for s in view.steps if s.key == "simmer").station
    assert station is not None
    assert station.name == "Ring 4"
    with pytest.raises(Conflict, match="still busy"):
        third.do("simmer", 6)


def test_nothing_is_taken_away_from_under_work_or_jars(orm: Orm) -> None:
    who = household(orm)
    burner = {"kind": "burner", "name": "Spare ring", "power_kw": 3.0, "power_kind": "gas"}
    furnishing.put(orm, who, "station", None, burner)
    work = Work(orm, who)
    used = next(o.station_id for o in work.folder.operations if o.kind == "heat_to")
    with pytest.raises(Conflict, match="still has work"):
        furnishing.drop_station(orm, who, used or 0)
    work.to_filled()
    jar = next(j for j in queries.all_of(orm, who.household_id, Jar) if j.part_filled)
    with pytest.raises(Conflict, match="Jars stand in"):
        furnishing.drop_place(orm, who, jar.place_id or 0)
    assert queries.one(orm, who.household_id, Station, used or 0) is not None


def test_hours_are_ones_own_and_what_there_is_none_of_is_refused(orm: Orm) -> None:
    keeper = household(orm)
    helper = Who(keeper.household_id, 0, "Helper", "helper")
    with pytest.raises(NotAllowed):
        furnishing.set_hours(orm, helper, keeper.person_id, None)
    for wrong in ({"instruments": ["crystal ball"]}, {"time_zone": "Moon/Base"}):
        with pytest.raises(FieldError):
            furnishing.change_kitchen(orm, keeper, wrong)


def test_a_barometer_tells_the_altitude_on_the_safe_side(orm: Orm) -> None:
    who = household(orm, altitude_m=None)
    assert [s.id for s in plans.make(orm, who, request()).verdict.stops] == ["altitude-unknown"]
    furnishing.change_kitchen(orm, who, {"pressure_pa": 94_500.0})
    here = kitchen_view.view(orm, who)
    assert here.boiling_point_c == pytest.approx(98.05, abs=0.05)
    assert here.effect.altitude_m == pytest.approx(586 + kitchens.WEATHER_M, abs=6)
    assert plans.make(orm, who, request()).verdict.may_start
    high = kitchen_view.effect(1900.0, None)
    low = kitchen_view.effect(100.0, None)
    pairs = zip(low.minutes, high.minutes, strict=True)
    assert all((a.minutes or 0) <= (b.minutes or 0) for a, b in pairs)
    assert kitchen_view.effect(None, None).minutes[0].minutes is None


def test_vessels_and_jars_of_another_kind_come_and_go(orm: Orm) -> None:
    who = household(orm)
    furnishing.put(
        orm, who, "vessel", None, {"kind": "pot", "name": "Jam pan", "litres": 9, "count": 1}
    )
    pan = next(v for v in queries.all_of(orm, who.household_id, Vessel) if v.name == "Jam pan")
    furnishing.drop_vessel(orm, who, pan.id)
    assert "Jam pan" not in {v.name for v in queries.all_of(orm, who.household_id, Vessel)}
    with pytest.raises(NotFound):
        furnishing.drop_vessel(orm, who, pan.id)
    stood = {s.jar_kind for s in queries.all_of(orm, who.household_id, JarStock)}
    kind = next(k for k in jars.kinds() if k not in stood)
    furnishing.count_jars(orm, who, kind, 7, 4, " Lids of spring ")
    row = next(s for s in queries.all_of(orm, who.household_id, JarStock) if s.jar_kind == kind)
    assert (row.jars, row.lids, row.packet) == (7, 4, "Lids of spring")
    furnishing.count_jars(orm, who, kind, 2, 1)
    assert (row.jars, row.lids, row.packet) == (2, 1, "")
