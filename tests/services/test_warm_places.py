"""How warm places are: logged, warned of, and what it costs the jars that stand there."""

from __future__ import annotations

from datetime import timedelta

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.services.day import today
from elderberry.services.errors import FieldError, NotFound
from elderberry.services.shelf import lives, logs, shelf
from elderberry.services.who import Who
from elderberry.store import Jar, Place, PlaceDay, queries
from tests.factories import Work, household, minutes, request

LATER = minutes(40 * 24 * 60)


@pytest.fixture
def who(orm: Orm) -> Who:
    """A household with four sealed pints in its cellar."""
    owner = household(orm)
    work = Work(orm, owner, request())
    work.to_shelf(jars=4, part_ml=0)
    return owner


def cellar(orm: Orm, who: Who) -> Place:
    return next(p for p in queries.all_of(orm, who.household_id, Place) if p.kind == "cellar")


def hot_fortnight(temp_c: float = 28.0) -> str:
    """Two weeks of a logger's file, up to the morning of LATER."""
    days = [LATER - timedelta(days=n) for n in range(14)]
    rows = [f"{d:%Y-%m-%d} {hour}:00,{temp_c}" for d in days for hour in ("06", "18")]
    return "time,temperature °C\n" + "\n".join(rows)


def test_a_hot_fortnight_warns_dates_anew_and_says_what_it_cost(orm: Orm, who: Who) -> None:
    there = cellar(orm, who)
    before = [j.best_by for j in queries.all_of(orm, who.household_id, Jar)]
    assert logs.file(orm, who, there.id, hot_fortnight()) == 14
    after = [j.best_by for j in queries.all_of(orm, who.household_id, Jar)]
    assert all(a < b - timedelta(days=10) for a, b in zip(after, before, strict=True))
    place = next(p for p in shelf.view(orm, who, LATER).places if p.id == there.id)
    assert place.warm is not None
    assert place.warm.since == (LATER - timedelta(days=13)).date()
    assert place.warm.faster == pytest.approx(2 ** ((28 - there.temp_c) / 10), rel=0.01)
    assert place.temp_c == 28
    jar = queries.all_of(orm, who.household_id, Jar)[0]
    page = shelf.jar_page(orm, who, jar.id)
    assert page.jar.best_by is not None
    assert page.jar.best_by.cost_days > 10
    assert max(d.temp_c - d.usual_c for d in page.warmth) == pytest.approx(28 - there.temp_c)
    said = [i for i in today.view(orm, who, LATER).items if i.kind == "warm"]
    assert len(said) == 1
    assert "4 jars" in said[0].detail
    assert logs.file(orm, who, there.id, hot_fortnight()) == 14
    assert [j.best_by for j in queries.all_of(orm, who.household_id, Jar)] == after


def test_one_jar_ages_by_itself(orm: Orm, who: Who) -> None:
    alone = queries.all_of(orm, who.household_id, Jar)[1:]
    told = lives.Told(to="the neighbours")
    lives.do(orm, who, LATER, lives.Which([j.id for j in alone]), "given", told)
    logs.file(orm, who, cellar(orm, who).id, hot_fortnight())
    said = [i.detail for i in today.view(orm, who, LATER).items if i.kind == "warm"]
    assert len(said) == 1
    assert said[0].startswith("1 jar ages ")


def test_a_figure_now_and_another_in_the_evening_are_one_day(orm: Orm, who: Who) -> None:
    there = cellar(orm, who)
    logs.reading(orm, who, there.id, 20.0, LATER)
    logs.reading(orm, who, there.id, 26.0, LATER + timedelta(hours=6))
    days = [d for d in queries.all_of(orm, who.household_id, PlaceDay) if d.place_id == there.id]
    assert [sorted(d.temps.values()) for d in days] == [[20.0, 26.0]]


def test_what_is_no_log_changes_nothing(orm: Orm, who: Who) -> None:
    there = cellar(orm, who)
    with pytest.raises(FieldError, match="Nothing was recorded"):
        logs.file(orm, who, there.id, "quince, jelly")
    with pytest.raises(FieldError, match="Nothing was recorded"):
        logs.file(orm, who, there.id, hot_fortnight(93))
    with pytest.raises(NotFound):
        logs.reading(orm, household(orm, "Elsewhere"), there.id, 20.0, LATER)
    assert not queries.all_of(orm, who.household_id, PlaceDay)
