"""Drying in the cold and in warm air, and back again: balances, limits, and what machines teach."""

from __future__ import annotations

import math
import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.core.composition import of_fruit_juice, of_material
from elderberry.core.drying import air_dry, freeze_dry
from elderberry.core.drying.air_dry import Page
from elderberry.core.drying.back import back, for_drink
from elderberry.core.drying.freeze_dry import Cycle, Tray, collapse_c, does, hours, powder_g
from elderberry.core.errors import OutOfRange, Unreachable

SYRUP = of_material("sugar_white", 40) + of_material("water", 60)
HONEY = of_material("honey", 60) + of_material("citric_acid", 14) + of_material("water", 40)


def test_sugar_kinds_decide_whether_it_dries_or_foams() -> None:
    assert collapse_c(SYRUP) == pytest.approx(-32)
    assert does(SYRUP) == "dries"
    assert collapse_c(HONEY) < -42
    assert does(HONEY) == "foams"
    assert does(HONEY, liquid=False) == "sticky"
    assert does(of_fruit_juice("damson", 1000.0)) in {"sticky", "foams"}


def test_pulp_brings_a_honeyed_juice_to_dry() -> None:
    grams = freeze_dry.pulp_to_dry(HONEY)
    solids = float(HONEY.mass_g) - float(HONEY.water)
    mixed = (collapse_c(HONEY) * solids - 10.0 * grams) / (solids + grams)
    assert mixed == pytest.approx(-36.0)
    assert freeze_dry.pulp_to_dry(SYRUP) == 0.0
    with pytest.raises(Unreachable):
        freeze_dry.pulp_to_dry(HONEY, -5.0)
    with pytest.raises(OutOfRange):
        collapse_c(of_material("water", 10))


@given(water=st.floats(50, 3000), sugar=st.floats(5, 1500))
def test_what_comes_out_and_what_stays_is_what_went_in(water: float, sugar: float) -> None:
    tray = Tray(of_material("water", water) + of_material("sugar_white", sugar), 10.0)
    assert tray.water_g + powder_g(tray) == pytest.approx(water + sugar, rel=1e-6) or (
        tray.water_g == 0
    )


def test_a_fuller_and_a_thicker_tray_takes_longer() -> None:
    def tray(grams: float, mm: float) -> Tray:
        return Tray(SYRUP * (grams / 100.0), mm)

    thin, thick = hours([tray(800, 8)]), hours([tray(800, 16)])
    assert thick.typ / thin.typ == pytest.approx(2**1.5, rel=0.01)
    assert hours([tray(800, 8), tray(800, 16)]).typ == thick.typ
    assert thin.lo < thin.typ < thin.hi
    with pytest.raises(OutOfRange):
        hours([])


@pytest.mark.parametrize("slower", [0.7, 1.0, 1.6])
def test_after_five_cycles_a_machine_is_known(slower: float) -> None:
    dice = random.Random(7)
    past: list[Cycle] = []
    inside = 0
    for run in range(45):
        water, mm = dice.uniform(0.4, 1.2), dice.uniform(6, 14)
        took = 24 * water * (mm / 10) ** 1.5 * slower * math.exp(dice.gauss(0, 0.08))
        if run >= 5:
            tray = Tray(SYRUP * (water / 0.058), mm)
            found = hours([tray], past[:5])
            inside += found.lo <= took <= found.hi
        past.append(Cycle(water, mm, 1.0, True, took))
    assert inside >= 30  # four of five, within chance


def test_powder_clumps_sooner_in_a_damp_room() -> None:
    assert freeze_dry.gain_pct(60, 10) == pytest.approx(3.2)
    assert freeze_dry.minutes_open(80) < freeze_dry.minutes_open(50) < math.inf
    assert freeze_dry.minutes_open(15) == math.inf


@given(k=st.floats(0.05, 0.6), n=st.floats(0.8, 1.3), wet=st.floats(0.7, 0.92))
def test_a_curve_is_found_again_through_its_weighings(k: float, n: float, wet: float) -> None:
    true = Page(k, n)
    rest, first = air_dry.dry_basis(0.05), air_dry.dry_basis(wet)
    seen = []
    for t in (1.0, 2.0, 4.0):
        moist = rest + true.ratio(t) * (first - rest)
        if true.ratio(t) > 1e-4:
            seen.append((t, air_dry.mass_at(moist / (1 + moist), wet)))
    if len(seen) < 2:
        return
    found = air_dry.fit(seen, wet)
    assert found.k == pytest.approx(k, rel=0.02)
    assert found.n == pytest.approx(n, rel=0.02)


def test_thin_warm_and_dry_air_is_faster() -> None:
    usual = air_dry.usual("slices", 6, 57, 50)
    assert air_dry.usual("slices", 3, 57, 50).k == pytest.approx(4 * usual.k)
    assert air_dry.usual("slices", 6, 65, 50).k > usual.k
    assert air_dry.usual("slices", 6, 57, 80).k < usual.k
    target = air_dry.moisture_ratio(0.18, 0.85)
    assert 8 < usual.hours_to(target) < 20
    with pytest.raises(OutOfRange):
        air_dry.usual("stones", 6, 57, 50)
    with pytest.raises(OutOfRange):
        air_dry.wet_at(0.05, 0.85)


def test_what_is_packed_for_the_shelf_is_dry_enough() -> None:
    assert air_dry.water_activity(0.18) <= air_dry.DRY_AW + 1e-9
    assert air_dry.water_activity(0.22) > air_dry.DRY_AW
    for low, high in air_dry.TARGETS.values():
        assert low < high
        assert air_dry.water_activity(low) < 0.6


def test_water_back_for_water_out() -> None:
    whole = back(120, 880)
    assert whole.water_g == 880
    assert back(120, 880, "lighter").water_g == pytest.approx(1320)
    glass = for_drink(250, 120, 880)
    assert glass.water_g + glass.powder_g == pytest.approx(250)
    assert glass.powder_g == pytest.approx(30)
    assert for_drink(250, 120, 880, bulk_g_ml=0.3).spoons > glass.spoons
    with pytest.raises(OutOfRange):
        back(0, 100)


@pytest.mark.parametrize(
    ("wet", "active"),
    [(0.05, 0.20), (0.10, 0.38), (0.14, 0.50), (0.18, 0.60), (0.22, 0.68), (0.27, 0.75),
     (0.35, 0.83), (0.50, 0.92), (0.70, 0.97)],
)  # fmt: skip
def test_dried_fruit_binds_its_water_as_its_sorption_says(wet: float, active: float) -> None:
    """Iglesias and Chirife (1982); and between two of its points, between their figures."""
    assert air_dry.water_activity(wet) == pytest.approx(active)
    before, after = (air_dry.water_activity(wet + d) for d in (-0.01, 0.01))
    assert active - 0.05 < before < active < after < active + 0.05
