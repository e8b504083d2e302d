"""Inside the jar: a picture that obeys heat, and never a permission."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.core import heat, jars
from elderberry.core.errors import CannotTell, OutOfRange
from elderberry.core.heat import Heating

TIMES = np.arange(0.0, 121.0)


@given(st.floats(4, 60), st.floats(1, 2.5), st.floats(20, 95))
def test_a_bath_at_one_temperature_gives_the_published_law(
    f: float, j: float, start: float
) -> None:
    curve = heat.jar_temperatures(TIMES, np.full_like(TIMES, 98.0), start, Heating(f, j))
    law = 98.0 - (98.0 - start) * np.minimum(1.0, j * 10.0 ** (-TIMES / f))
    assert np.allclose(curve, law, atol=1e-6)


@given(st.floats(5, 40), st.floats(1.05, 2.2))
def test_a_probe_trace_gives_back_its_f_and_j(f: float, j: float) -> None:
    curve = heat.jar_temperatures(TIMES, np.full_like(TIMES, 98.0), 70.0, Heating(f, j))
    found = heat.fit_heating(TIMES, curve, 98.0)
    assert found.f_min == pytest.approx(f, rel=0.02)
    assert found.lag == pytest.approx(j, rel=0.03)


def test_a_noisy_trace_is_fitted_all_the_same() -> None:
    rng = np.random.default_rng(3)
    curve = heat.jar_temperatures(TIMES, np.full_like(TIMES, 98.0), 60.0, Heating(14, 1.5))
    found = heat.fit_heating(TIMES, curve + 0.2 * rng.standard_normal(TIMES.size), 98.0)
    assert found.f_min == pytest.approx(14, rel=0.1)


@pytest.mark.parametrize("key", ["half_pint", "pint", "quart", "half_gallon"])
def test_thick_heats_slower_than_thin_and_large_than_small(key: str) -> None:
    kind = jars.kind(key)
    size = (kind.nominal_ml, kind.inner_radius_mm, kind.inner_height_mm)
    thin, between, thick = (heat.heating(*size, viscosity_60c_mpa_s=v) for v in (1, 40, 1000))
    assert thin.f_min < between.f_min < thick.f_min
    assert thin.lag < between.lag < thick.lag
    assert heat.heating(*size, conducts=True) == thick
    smaller = jars.kind("q_pint")
    little = heat.heating(smaller.nominal_ml, smaller.inner_radius_mm, smaller.inner_height_mm)
    assert little.f_min < thin.f_min


def test_losing_the_boil_costs_lethality() -> None:
    steady = np.full_like(TIMES, 98.0)
    lost = np.where((TIMES > 10) & (TIMES < 16), 88.0, 98.0)
    how = Heating(8, 1.2)
    kept, less = (
        heat.lethality_min(TIMES, heat.jar_temperatures(TIMES, bath, 80, how))
        for bath in (steady, lost)
    )
    assert less < kept - 1


def test_cooling_in_air_is_slow_and_counts() -> None:
    bath = np.where(TIMES <= 15, 98.0, 20.0)
    curve = heat.jar_temperatures(TIMES, bath, 85, Heating(8, 1.2), room_c=20.0)
    quick = heat.jar_temperatures(TIMES, bath, 85, Heating(8, 1.2))
    assert curve[30] > quick[30] + 10
    whole, hot_only = heat.lethality_min(TIMES, curve), heat.lethality_min(TIMES[:16], curve[:16])
    assert whole > hot_only


def test_lethality_by_hand() -> None:
    assert heat.lethality_min([0, 10], [93.3 + 8.9] * 2) == pytest.approx(100)
    assert heat.lethality_min([0, 10], [93.3 - 8.9] * 2) == pytest.approx(1)
    assert heat.lethality_min([0, 5, 10], [93.3] * 3) == pytest.approx(10)


@pytest.mark.parametrize(
    ("jar_c", "level"), [(60, ""), (48, ""), (47, "caution"), (28, "caution"), (27, "stop")]
)
def test_thermal_shock(jar_c: float, level: str) -> None:
    step, word = heat.thermal_shock(jar_c, 88, 98)
    assert (step, word) == (max(88 - jar_c, 10), level)


@pytest.mark.parametrize(
    ("call", "error"),
    [
        (lambda: heat.heating(10, 38, 115), OutOfRange),
        (lambda: heat.lethality_min([5, 0], [90, 90]), OutOfRange),
        (lambda: heat.jar_temperatures([0, 1], [98, 400], 60, Heating(8, 1)), OutOfRange),
        (lambda: heat.fit_heating([0, 1, 2], [60, 61, 62], 98), CannotTell),
        (lambda: heat.fit_heating([0, 1], [99, 99], 98), OutOfRange),
        (lambda: heat.minutes_to_heat(5, 20, 88, 0), OutOfRange),
        (lambda: heat.evaporation_kg_h(100), OutOfRange),
    ],
)
def test_nonsense_is_refused(call: object, error: type[Exception]) -> None:
    with pytest.raises(error):
        call()  # type: ignore[operator]


def test_a_pot_takes_its_time() -> None:
    quick, slow = heat.minutes_to_heat(5, 40, 88, 3.0), heat.minutes_to_heat(5, 40, 88, 1.0, "gas")
    assert quick < slow
    assert heat.minutes_to_heat(5, 90, 88, 2.0) == 0
    assert heat.evaporation_kg_h(1.0) < 1.6


def test_losing_the_boil_counts_for_nothing_and_is_drawn() -> None:
    how = heat.heating(473, 38, 115)
    whole = heat.inside_jar(15, 80, 98, how)
    lost = heat.inside_jar(15, 80, 98, how, lost=[(6, 9), (3, 4)])
    assert (whole.counted_min, lost.counted_min) == (0, 22)
    assert lost.temps_c[15] < lost.temps_c[6]
    assert len(lost.times_min) == len(whole.times_min) + 22
    assert lost.lethality_min >= whole.lethality_min
