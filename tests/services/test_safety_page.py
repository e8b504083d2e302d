"""The Safety page: the tested times of this kitchen, and none that is shorter."""

from __future__ import annotations

import itertools
import math

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core import process, rules
from elderberry.services.household import furnishing, kitchens, safety_page
from elderberry.services.household.safety_page import SafetyView
from tests.factories import household

HEIGHTS = [0.0, 210.0, 585.0, 1400.0, 2500.0, 3100.0]


def at(orm: Orm, altitude_m: float | None) -> SafetyView:
    return safety_page.view(orm, household(orm, altitude_m=altitude_m))


@pytest.mark.parametrize("altitude_m", HEIGHTS)
def test_every_row_says_its_own_minutes_here(orm: Orm, altitude_m: float) -> None:
    view = at(orm, altitude_m)
    rows = {row.key: row for row in process.process_rows()}
    assert {t.row for t in view.times} == set(rows)
    for time in view.times:
        there = process.time_of_row(rows[time.row], altitude_m, "bath")
        assert time.minutes_here == (there.minutes if there else None), time.row
        assert time.source
        if time.evidence == "none":
            assert time.minutes_here is None


@pytest.mark.parametrize("altitude_m", HEIGHTS)
def test_the_card_never_shortens_a_tested_time(orm: Orm, altitude_m: float) -> None:
    view = at(orm, altitude_m)
    for line in view.card:
        timed = [t for t in view.times if t.product == line.product and t.minutes_here]
        for size, minutes in zip(view.card_sizes_ml, line.minutes, strict=True):
            roomy = [t for t in timed if t.jar_ml >= size]
            assert (minutes is None) == (not roomy), line.product
            if minutes is not None:
                nearest = min(t.jar_ml for t in roomy)
                assert minutes >= max(t.minutes_here or 0 for t in roomy if t.jar_ml == nearest)


def test_minutes_rise_with_the_altitude(orm: Orm) -> None:
    views = []
    who = household(orm)
    for altitude_m in HEIGHTS[:-1]:
        furnishing.change_kitchen(orm, who, {"altitude_m": altitude_m})
        views.append({t.row: t.minutes_here or math.inf for t in safety_page.view(orm, who).times})
    for lower, higher in itertools.pairwise(views):
        assert all(higher[row] >= lower[row] for row in lower)


def test_where_nobody_knows_the_altitude_there_is_no_time(orm: Orm) -> None:
    view = at(orm, None)
    assert view.card == []
    assert view.sterilise_min is None
    assert all(t.minutes_here is None for t in view.times)


def test_a_barometer_tells_the_altitude_here_as_it_does_in_a_plan(orm: Orm) -> None:
    who = household(orm, altitude_m=None)
    furnishing.change_kitchen(orm, who, {"pressure_pa": 88_000.0})
    view, here = safety_page.view(orm, who), kitchens.for_core(orm, who)
    assert here.altitude_m is not None
    assert view.altitude_m == here.altitude_m
    assert view.boiling_point_c == here.boiling_point_c
    assert any(t.minutes_here for t in view.times)


def test_every_rule_of_the_book_is_said_with_its_source(orm: Orm) -> None:
    view = at(orm, 585)
    assert {r.id for r in view.rules} == set(rules.rules())
    for rule in view.rules:
        assert rule.source, rule.id
        assert not {"{", "}", "«", "»"} & set(rule.message + rule.remedy), rule.id


def test_in_pounds_the_rules_say_no_litres(orm: Orm) -> None:
    who = household(orm)
    metric = {r.id: r.message for r in safety_page.view(orm, who).rules}
    furnishing.change_kitchen(orm, who, {"units": "us"})
    pounds = {r.id: r.message for r in safety_page.view(orm, who).rules}
    changed = [key for key in metric if metric[key] != pounds[key]]
    assert changed
    assert all("°C" not in pounds[key] for key in changed)
