"""How far a tray has come: before it was weighed, and put right by its weighings."""

from __future__ import annotations

import numpy as np
import pytest

from elderberry.core.drying import air_dry
from elderberry.core.drying.course import course, ended
from elderberry.core.estimates import Estimate

AIR = {"tray_g": 600.0, "first_wet": 0.85, "what": "slices", "k": 0.22, "n": 1.05}
VACUUM = {"tray_g": 500.0, "tray_water_kg": 0.42}
DAY = Estimate(18.0, 24.0, 31.0)


def test_before_it_was_weighed_it_goes_as_its_kind_does() -> None:
    found = course("air_dry", AIR, DAY)
    assert found.curve[0].typ == pytest.approx(600.0)
    assert [p.typ for p in found.curve] == sorted((p.typ for p in found.curve), reverse=True)
    assert all(p.lo <= p.typ + 1e-9 <= p.hi + 2e-9 for p in found.curve)
    assert found.enough_g == pytest.approx(600.0 * air_dry.mass_at(0.20, 0.85))
    assert not found.dry


@pytest.mark.parametrize("slower", [0.6, 1.0, 1.7])
def test_a_weighing_puts_the_hours_right(slower: float) -> None:
    truth = air_dry.Page(0.22 / slower**1.05, 1.05)

    def weighs(h: float) -> float:
        return 600.0 * air_dry.share_at(truth.ratio(h), 0.85)

    weighed = [(h, weighs(h)) for h in (2.0 * slower, 5.0 * slower)]
    found = course("air_dry", AIR, DAY, weighed)
    really = truth.hours_to(air_dry.moisture_ratio(0.175, 0.85))
    assert found.hours.lo < really < found.hours.hi
    assert found.hours.typ == pytest.approx(really, rel=0.1)
    assert found.left_h(5.0 * slower).typ == pytest.approx(found.hours.typ - 5.0 * slower)
    assert course("air_dry", AIR, DAY, [*weighed, (30.0, 105.0)]).dry


def test_weighings_that_cannot_be_change_nothing() -> None:
    before = course("air_dry", AIR, DAY).hours
    assert course("air_dry", AIR, DAY, [(2.0, 900.0)]).hours == before
    assert course("air_dry", AIR, DAY, [(0.0, 590.0)]).hours == before
    assert course("air_dry", AIR, DAY, [(0.05, 590.0)]).hours == before, "before three minutes"
    assert course("air_dry", AIR, DAY, [(0.06, 590.0)]).hours != before


def test_a_tray_under_vacuum_is_timed_by_what_has_left_it() -> None:
    half = 500.0 - 0.6 * 420.0
    found = course("freeze_dry", VACUUM, DAY, [(9.0, half)])
    quick = course("freeze_dry", VACUUM, DAY, [(5.0, half)])
    assert quick.hours.typ < found.hours.typ
    assert found.last_g == pytest.approx(80.0)
    assert found.hours.lo >= 9.0


def test_it_is_dry_when_two_weighings_an_hour_apart_are_the_same() -> None:
    assert course("freeze_dry", VACUUM, DAY, [(22.0, 80.6), (23.0, 80.4)]).dry
    assert not course("freeze_dry", VACUUM, DAY, [(22.0, 86.0), (23.0, 80.4)]).dry
    assert not ended([(22.0, 80.6)])
    assert not ended([(22.0, 80.6), (22.1, 80.6)])
    assert course("freeze_dry", VACUUM, DAY, [(22.0, 80.6), (23.0, 80.4)]).left_h(23.0).hi == 0.0


def slab(fourier: np.ndarray) -> np.ndarray:
    """Moisture ratio of a slab that dries by diffusion alone, from its Fourier number [-].

    Source: Crank (1975), The Mathematics of Diffusion, eq. 4.18.
    """
    odd = 2.0 * np.arange(60) + 1.0
    terms = np.exp(-np.outer(fourier, odd**2) * np.pi**2 / 4.0) / odd**2
    return np.asarray(8.0 / np.pi**2 * terms.sum(axis=1))


def through_skin(hours: np.ndarray, biot: float) -> np.ndarray:
    """The same where the air, or a skin, holds the water back: a lumped surface and the slab."""
    return 1.0 / (1.0 + biot) * np.exp(-0.25 * hours) + biot / (1.0 + biot) * slab(0.08 * hours)


@pytest.mark.parametrize(
    ("name", "biot"), [("thin slices", 40.0), ("berries in their skin", 0.4), ("purée", 2.0)]
)
def test_pages_curve_goes_through_drying_by_diffusion_within_five_per_cent(
    name: str, biot: float
) -> None:
    hours = np.linspace(0.8, 16.0, 20)
    ratios = through_skin(hours, biot)
    weighed = [(h, air_dry.share_at(float(r), 0.86)) for h, r in zip(hours, ratios, strict=True)]
    curve = air_dry.fit(weighed, 0.86)
    fitted = np.array([curve.ratio(h) for h in hours])
    assert np.max(np.abs(fitted - ratios)) < 0.05


def test_two_weighings_in_one_minute_do_not_upset_the_clock() -> None:
    found = course("air_dry", AIR, DAY, [(3.0, 380.0), (3.01, 330.0), (3.02, 380.0)])
    alone = course("air_dry", AIR, DAY, [(3.0, 380.0)])
    assert found.hours.typ == pytest.approx(alone.hours.typ, rel=0.25)
    falling = course("air_dry", AIR, DAY, [(2.0, 200.0), (6.0, 190.0)])
    assert falling.hours.typ < 60.0
