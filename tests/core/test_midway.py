"""A boil-down looked at midway: what was read tells the minutes, and what went too far."""

from __future__ import annotations

import pytest

from elderberry.core.batch.midway import Midway, midway
from elderberry.core.composition import Composition
from elderberry.core.errors import CannotTell
from elderberry.core.kitchen import Vessel
from elderberry.core.solve import boil_down
from tests.briefs import a_kitchen

POT = Composition(water=8800, sucrose=1200)
KITCHEN = a_kitchen(585, vessels=(Vessel("pot", 20.0, 1, 32.0),))
USUAL_KG_H = 1.5


def after(minutes: float, quantity: str, value: float, brix: float = 48.0) -> Midway:
    return midway(POT, ("brix", brix), (quantity, value), minutes, USUAL_KG_H, KITCHEN)


def test_the_pan_itself_tells_how_fast_it_boils() -> None:
    """12 °Bx to 48 °Bx drives off 7.5 kg; at 24 °Bx 5 kg is off, whatever the burner should do."""
    found = after(100, "brix", 24.0)
    assert found.goal_g == pytest.approx(7500)
    assert found.gone_g == pytest.approx(5000)
    assert found.measured
    assert found.rate_kg_h == pytest.approx(3.0, rel=0.01)
    assert found.left_min.lo < found.left_min.typ < found.left_min.hi
    assert "more." in found.words


def test_every_instrument_tells_the_same_of_the_same_pot() -> None:
    half = boil_down(POT, brix=24.0, altitude_m=585)
    by_jug = after(200, "volume_ml", half.result.volume_ml)
    by_thermometer = after(200, "temp_c", half.boils_at_c)
    by_ruler = after(200, "depth_cm", half.result.volume_ml / (3.14159 / 4 * 32**2))
    for found in (by_jug, by_thermometer, by_ruler):
        assert found.gone_g == pytest.approx(5000, rel=0.02)
        assert found.left_min.typ == pytest.approx(100, rel=0.06)


def test_a_look_too_early_leaves_the_burner_s_own_pace() -> None:
    found = after(2, "brix", 12.4)
    assert not found.measured
    assert found.rate_kg_h == USUAL_KG_H
    assert "as a pan on this burner should" in found.words


def test_a_misread_jug_cannot_make_the_burner_faster_than_its_heat() -> None:
    found = after(5, "volume_ml", 4000)
    assert found.rate_kg_h == pytest.approx(1.6 * KITCHEN.burner_kw)


def test_what_went_too_far_is_told_the_water_that_brings_it_back() -> None:
    found = after(150, "brix", 60.0)
    left = POT.without_water(found.gone_g)
    back = left + Composition(water=found.back_g)
    assert float(left.brix) == pytest.approx(60)
    assert float(back.brix) == pytest.approx(48, abs=0.01)
    assert found.left_min.hi == 0
    assert "brings it back" in found.words


def test_just_there_asks_for_nothing_more() -> None:
    assert after(150, "brix", 48.1).words == "It is there: off the heat."


def test_a_reading_below_the_start_counts_as_nothing_gone() -> None:
    found = after(30, "brix", 10.0)
    assert found.gone_g == 0
    assert found.left_min.typ == pytest.approx(60 * 7.5 / USUAL_KG_H)


def test_less_than_boiling_can_leave_is_a_misreading() -> None:
    with pytest.raises(CannotTell, match="does not get there"):
        after(60, "volume_ml", 300)
