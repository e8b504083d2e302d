"""A plan that is asked for again is as it was, until something that it hangs on is otherwise."""

from __future__ import annotations

from collections.abc import Callable

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.lately import Lately
from elderberry.services.household import kitchens
from elderberry.services.journal import record
from elderberry.services.planning import plans
from elderberry.services.who import Who
from elderberry.store import JarStock
from tests.factories import NOON, forget, household, request


@pytest.fixture(autouse=True)
def nothing_lately(monkeypatch: pytest.MonkeyPatch) -> None:
    """No plan was shown before."""
    monkeypatch.setattr(plans, "SHOWN", Lately(most=16))


def a_dozen_pints(orm: Orm, who: Who) -> None:
    if not orm.query(JarStock).filter_by(household_id=who.household_id, jar_kind="pint").count():
        orm.add(JarStock(household_id=who.household_id, jar_kind="pint", jars=12, lids=12))
    orm.flush()


def something_happens(orm: Orm, who: Who) -> None:
    record(orm, who, NOON, "noted")


def a_jar_breaks(orm: Orm, who: Who) -> None:
    stock = orm.query(JarStock).filter_by(household_id=who.household_id, jar_kind="pint").one()
    stock.jars -= 1
    stock.lids -= 1


def it_is_carried_uphill(orm: Orm, who: Who) -> None:
    kitchens.stored(orm, who).altitude_m = 1310


@pytest.mark.parametrize(
    ("happens", "times"), [(something_happens, 1), (a_jar_breaks, 2), (it_is_carried_uphill, 2)]
)
def test_it_is_laid_out_again_where_it_hangs_on_what_happened(
    orm: Orm, laid: list[object], happens: Callable[[Orm, Who], None], times: int
) -> None:
    who = household(orm)
    a_dozen_pints(orm, who)
    first = plans.show(orm, who, request("quince", 3.0))
    happens(orm, who)
    forget(orm)
    again = plans.show(orm, who, request("quince", 3.0))
    assert len(laid) == times
    assert (again is first) == (times == 1)


def test_only_so_many_are_kept() -> None:
    kept: Lately[int, list[int]] = Lately(most=3)
    first = kept.made(1, lambda: [1])
    assert kept.made(1, list) is first
    for other in (2, 3, 4):
        kept.made(other, list)
    assert kept.made(1, list) is not first
