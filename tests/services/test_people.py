"""Households and people: one each, passwords that are never kept, sessions that end."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime, timedelta

import pytest
from sqlalchemy import Engine
from sqlalchemy.orm import Session as Orm

from elderberry.core.process import look_up
from elderberry.services.errors import Conflict, FieldError, NotFound, TooManyTries
from elderberry.services.household import (
    furnishing,
    kitchen_view,
    kitchens,
    own_processes,
    passwords,
    people,
    signing_in,
)
from elderberry.services.planning import own_methods, plans
from elderberry.services.who import Who
from elderberry.store import Person, Place, Session, SignInTry, Station, queries
from tests.briefs import a_kitchen, filled
from tests.conftest import CHEAP
from tests.factories import NOON, Work, household, request

BARE = people.Things(juicer_l=None, canner=None, pot_l=9, pot_cm=26, jars={"m500": 10})
NEW = people.NewHousehold("Ours", 585, "Europe/Vienna", "Wenna", " Wenna ", "correct horse")


def test_a_first_household_comes_with_a_usual_kitchen(orm: Orm) -> None:
    who = people.found_household(orm, NEW, CHEAP, NOON)
    kitchen = kitchens.for_core(orm, who)
    assert (kitchen.altitude_m, kitchen.canner.jars, kitchen.juicer.basket_l) == (585, 7, 8)
    assert {p.kind for p in queries.all_of(orm, who.household_id, Place)} == {
        "cellar", "shelf", "refrigerator", "freezer",
    }  # fmt: skip
    with pytest.raises(Conflict, match="already has a household"):
        people.found_household(orm, NEW, CHEAP, NOON)


def test_a_kitchen_that_has_less_is_planned_for_as_it_is(orm: Orm) -> None:
    """No steamer: another way by itself. No canner: nothing for a shelf, and all for the cold."""
    who = people.found_household(orm, replace(NEW, things=BARE), CHEAP, NOON)
    here = kitchens.for_core(orm, who)
    assert here.lacks == {"juicer", "canner", "freeze_dryer", "dryer"}
    assert (here.jar_stock, here.widest_pot_cm()) == ({"m500": 10}, 26)
    asked = request("gooseberry", 3, jar_kinds=("m500",))
    plan = plans.make(orm, who, asked)
    assert plan.method.key != "steam_juiced"
    assert "no-canner" in {f.id for f in plan.verdict.stops}
    cold = request("gooseberry", 3, jar_kinds=("m500",), keep="freeze")
    assert plans.make(orm, who, cold).verdict.may_start
    Work(orm, who, cold)
    steamed = replace(cold, method_key="steam_juiced")
    assert "no-juicer" in {f.id for f in plans.make(orm, who, steamed).verdict.stops}
    lines = own_methods.lines(orm, who, "gooseberry", "whole")
    assert not lines[0].lacks
    assert {"juicer", "freeze_dryer"} <= {what for m in lines for what in m.lacks}
    furnishing.put(orm, who, "station", None, {
        "kind": "canner", "name": "Deep pot", "jars": 5, "heater": "bath", "power_kw": 2.0,
    })  # fmt: skip
    assert plans.make(orm, who, asked).verdict.may_start


def test_a_kitchen_without_a_canner_only_still_steams(orm: Orm) -> None:
    """What a method needs is not what its jars are scalded in: any ring does for those."""
    things = people.Things(canner=None)
    who = people.found_household(orm, replace(NEW, things=things), CHEAP, NOON)
    cold = request("damson", 4, jar_kinds=("pint",), keep="chill")
    assert plans.make(orm, who, cold).method.key == "steam_juiced"
    dried = {"dryer", "freeze_dryer"}
    assert all({*m.lacks} <= dried for m in own_methods.lines(orm, who, "damson", "whole"))
    Work(orm, who, cold)


def test_things_nobody_knows_are_refused_on_the_first_day(orm: Orm) -> None:
    for odd in (people.Things(jars={"bucket": 3}), people.Things(instruments=("nose",))):
        with pytest.raises(FieldError, match="There is no"):
            people.found_household(orm, replace(NEW, things=odd), CHEAP, NOON)
        orm.rollback()


def test_a_password_is_kept_as_argon2id_only(orm: Orm) -> None:
    people.found_household(orm, NEW, CHEAP, NOON)
    stored = orm.query(Person).one()
    assert stored.sign_in == "wenna"
    assert stored.password_hash.startswith("$argon2id$")
    assert "correct horse" not in stored.password_hash


def test_a_name_is_known_in_any_case_and_unknown_names_are_as_slow(orm: Orm) -> None:
    people.found_household(orm, NEW, CHEAP, NOON)
    tried = signing_in.begin(orm, " WENNA ", "10.0.0.1", "", NOON)
    assert CHEAP.matches(tried.stored, "correct horse")
    assert signing_in.welcome(orm, tried, NOON).who.name == "Wenna"
    nobody = signing_in.begin(orm, "nobody", "10.0.0.1", "", NOON)
    assert not CHEAP.matches(nobody.stored, "correct horse")


def tries(
    orm: Orm, address: str, browser: str = "", at: datetime = NOON, name: str = "wenna"
) -> TooManyTries | None:
    """What stands against one more try."""
    return signing_in.too_many(orm, signing_in.begin(orm, name, address, browser, at), at)


def fail(orm: Orm, times: int, address: str, browser: str = "") -> None:
    for _ in range(times):
        assert tries(orm, address, browser) is None


def test_too_many_tries_lock_that_place_for_a_quarter_of_an_hour(orm: Orm) -> None:
    people.found_household(orm, NEW, CHEAP, NOON)
    fail(orm, signing_in.TRIES, "10.0.0.1")
    locked = tries(orm, "10.0.0.1", name="Wenna")
    assert locked is not None
    assert locked.after_s == signing_in.TRIES_WITHIN.total_seconds()
    assert tries(orm, "10.0.0.2") is None
    later = NOON + signing_in.TRIES_WITHIN + timedelta(seconds=1)
    assert tries(orm, "10.0.0.1", at=later) is None


def counted(orm: Orm) -> signing_in.Try:
    """A try as it is counted."""
    row = SignInTry(whence="here", at=NOON)
    orm.add(row)
    orm.flush()
    return signing_in.Try(row.id, "here", None, None, "")


def test_no_more_go_on_however_late_some_are_counted(committed: Engine) -> None:
    """Numbers are given out in one order, and what they are given to is seen in another."""
    slow = [Orm(committed) for _ in range(signing_in.TRIES)]
    tried = [counted(orm) for orm in slow]
    with Orm(committed) as quick, quick.begin():
        last = counted(quick)
    with Orm(committed) as asked, asked.begin():
        going_on = [signing_in.too_many(asked, last, NOON) is None]
    for orm in slow:
        orm.commit()
        orm.close()
    for one in tried:
        with Orm(committed) as asked, asked.begin():
            going_on.append(signing_in.too_many(asked, one, NOON) is None)
    assert going_on.count(True) == signing_in.TRIES


def test_a_browser_that_signed_in_before_is_not_locked_out_by_others(orm: Orm) -> None:
    who = people.found_household(orm, NEW, CHEAP, NOON)
    known = signing_in.come_in(orm, who, NOON).browser
    fail(orm, signing_in.TRIES, "127.0.0.1")
    assert tries(orm, "127.0.0.1", "made up") is not None
    tried = signing_in.begin(orm, "wenna", "127.0.0.1", known, NOON)
    assert signing_in.welcome(orm, tried, NOON).browser == known
    fail(orm, signing_in.TRIES, "127.0.0.1", known)
    assert tries(orm, "127.0.0.1", known) is not None


def test_another_password_signs_out_whoever_used_the_old_one(orm: Orm) -> None:
    who = people.found_household(orm, NEW, CHEAP, NOON)
    token = signing_in.open_session(orm, who, NOON)
    signing_in.change_password(orm, who, who.person_id, CHEAP.hash("three damson trees"))
    assert signing_in.whose(orm, token, NOON) is None
    stored = orm.query(Person).one().password_hash
    assert CHEAP.matches(stored, "three damson trees")
    assert not CHEAP.matches(stored, "correct horse")


@pytest.mark.parametrize(
    "password",
    ["password", "Passw0rd!", "qwertyuiop", "12345678", "aaaaaaaa", "elderberry1", "sallowhill",
     "Wenna", "87654321", "ababababab"],
)  # fmt: skip
def test_what_is_tried_first_is_no_password(password: str) -> None:
    with pytest.raises(FieldError, match="among the first"):
        passwords.check(password, "/password", ("Wenna", "Sallow Hill"))


@pytest.mark.parametrize("password", ["two damson trees", "correct horse", "Quitten im Herbst 7"])
def test_words_of_ones_own_are(password: str) -> None:
    passwords.check(password, "/password", ("Wenna", "Sallow Hill"))


def test_a_session_ends_by_time_or_by_signing_out(orm: Orm) -> None:
    who = household(orm)
    token = signing_in.open_session(orm, who, NOON)
    orm.flush()
    assert token not in {s.token_hash for s in queries.all_of(orm, who.household_id, Session)}
    assert signing_in.whose(orm, token, NOON) == who
    assert (
        signing_in.whose(orm, token, NOON + timedelta(days=signing_in.SESSION_DAYS, seconds=1))
        is None
    )
    assert signing_in.whose(orm, token + "x", NOON) is None
    signing_in.close_session(orm, token)
    assert signing_in.whose(orm, token, NOON) is None


def test_old_sessions_are_swept_away(orm: Orm) -> None:
    who = household(orm)
    signing_in.open_session(orm, who, NOON)
    orm.flush()
    signing_in.open_session(orm, who, NOON + timedelta(days=90))
    orm.flush()
    assert len(queries.all_of(orm, who.household_id, Session)) == 1


def test_a_kitchen_without_a_station_says_what_is_missing(orm: Orm) -> None:
    who = household(orm)
    for row in queries.all_of(orm, who.household_id, Station):
        if row.kind == "burner":
            orm.delete(row)
    orm.flush()
    with pytest.raises(Conflict, match="no burner"):
        kitchens.for_core(orm, who)
    with pytest.raises(NotFound):
        kitchens.stored(orm, Who(0, 0, "Nobody", "guest"))


def test_a_jar_counts_when_it_has_a_new_lid(orm: Orm) -> None:
    who = household(orm)
    assert kitchens.for_core(orm, who).jar_stock == {"pint": 48, "quart": 18, "half_pint": 12}
    shown = {k.key: (k.jars, k.lids) for k in kitchen_view.view(orm, who).jar_kinds}
    assert shown["pint"] == (48, 60)
    assert shown["m330"] == (0, 0)


def test_an_own_process_reaches_the_core_and_stays_at_home(orm: Orm) -> None:
    who, others = household(orm), household(orm, "Elsewhere")
    for minutes in (15, 20):
        new = own_processes.NewOwnProcess("vinegar_syrup", 473, minutes, 600, 3.6, "Leaflet 12")
        own_processes.enter(orm, who, new, NOON)
    entered = own_processes.every(orm, who)
    assert own_processes.every(orm, others) == {}
    shrub = filled(("damson", 600.0), ("vinegar_cider", 300.0), meter=3.4)
    found = look_up(shrub, 473, a_kitchen(585), entered)
    assert found.time is not None
    assert found.time.minutes == 20
    assert found.time.source == "Leaflet 12, entered by this household on 2026-10-03"
    with pytest.raises(FieldError, match="only fill a gap"):
        own_processes.enter(
            orm, who, own_processes.NewOwnProcess("elderberry", 473, 15, 600, 3.6, "x"), NOON
        )
