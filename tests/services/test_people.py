"""Households and people: one each, passwords that are never kept, sessions that end."""

from __future__ import annotations

from datetime import timedelta

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.process import look_up
from elderberry.services.errors import Conflict, FieldError, NotFound, SignInFailed, TooManyTries
from elderberry.services.household import kitchens, own_processes, people
from elderberry.services.who import Who
from elderberry.store import Person, Place, Session, Station, queries
from tests.briefs import a_kitchen, filled
from tests.conftest import CHEAP
from tests.factories import NOON, household

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


def test_a_password_is_kept_as_argon2id_only(orm: Orm) -> None:
    people.found_household(orm, NEW, CHEAP, NOON)
    stored = orm.query(Person).one()
    assert stored.sign_in == "wenna"
    assert stored.password_hash.startswith("$argon2id$")
    assert "correct horse" not in stored.password_hash
    who = people.check_password(orm, "WENNA", "correct horse", CHEAP, NOON)
    assert who.name == "Wenna"


@pytest.mark.parametrize(("name", "password"), [("wenna", "wrong"), ("nobody", "correct horse")])
def test_a_wrong_name_and_a_wrong_password_sound_the_same(
    orm: Orm, name: str, password: str
) -> None:
    people.found_household(orm, NEW, CHEAP, NOON)
    with pytest.raises(SignInFailed, match="do not belong together"):
        people.check_password(orm, name, password, CHEAP, NOON)


def test_too_many_tries_lock_for_a_quarter_of_an_hour(orm: Orm) -> None:
    people.found_household(orm, NEW, CHEAP, NOON)
    for _ in range(people.TRIES):
        people.note_failure(orm, "Wenna", NOON)
    orm.flush()
    with pytest.raises(TooManyTries):
        people.check_password(orm, "wenna", "correct horse", CHEAP, NOON)
    later = NOON + people.TRIES_WITHIN + timedelta(seconds=1)
    assert people.check_password(orm, "wenna", "correct horse", CHEAP, later).name == "Wenna"


def test_a_session_ends_by_time_or_by_signing_out(orm: Orm) -> None:
    who = household(orm)
    token = people.open_session(orm, who, NOON)
    orm.flush()
    assert token not in {s.token_hash for s in queries.all_of(orm, who.household_id, Session)}
    assert people.whose(orm, token, NOON) == who
    assert people.whose(orm, token, NOON + timedelta(days=people.SESSION_DAYS, seconds=1)) is None
    assert people.whose(orm, token + "x", NOON) is None
    people.close_session(orm, token)
    assert people.whose(orm, token, NOON) is None


def test_old_sessions_are_swept_away(orm: Orm) -> None:
    who = household(orm)
    people.open_session(orm, who, NOON)
    orm.flush()
    people.open_session(orm, who, NOON + timedelta(days=90))
    orm.flush()
    assert len(queries.all_of(orm, who.household_id, Session)) == 1


def test_a_kitchen_without_a_station_says_what_is_missing(orm: Orm) -> None:
    who = household(orm)
    for row in queries.all_of(orm, who.household_id, Station):
        if row.kind == "canner":
            orm.delete(row)
    orm.flush()
    with pytest.raises(Conflict, match="no canner"):
        kitchens.for_core(orm, who)
    with pytest.raises(NotFound):
        kitchens.stored(orm, Who(0, 0, "Nobody", "guest"))


def test_a_jar_counts_when_it_has_a_new_lid(orm: Orm) -> None:
    who = household(orm)
    assert kitchens.for_core(orm, who).jar_stock == {"pint": 48, "quart": 18, "half_pint": 12}
    shown = {k.key: (k.jars, k.lids) for k in kitchens.view(orm, who).jar_kinds}
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
