"""Sums of the kitchen: they agree with paper, and keep what there is."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.core import sums, texture
from elderberry.core.errors import Unreachable
from elderberry.core.kitchen import Canner, Juicer, Kitchen
from elderberry.core.sums import Sum

HERE = Kitchen(585, Juicer(8, 4, 1.8), Canner(7), 2.2)
SEA = Kitchen(0, Juicer(8, 4, 1.8), Canner(7), 2.2)


def of(found: Sum, key: str) -> float:
    value = next(s.value for s in (found.answer, *found.then) if s.key == key)
    assert value is not None
    return value.typ


@given(st.floats(200, 20_000), st.floats(0, 40), st.floats(41, 75))
def test_sugar_by_paper(volume_ml: float, brix: float, target: float) -> None:
    """(b − a)·m / (100 − b), the mass balance that is done on paper."""
    mass = float(sums.syrup(volume_ml, brix).mass_g)
    found = sums.sweeten(HERE, volume_ml, brix, target, "sugar_white")
    assert of(found, "add") == pytest.approx((target - brix) * mass / (100 - target), rel=1e-3)
    assert of(found, "volume") > volume_ml


@given(st.floats(200, 20_000), st.floats(20, 80), st.floats(2, 19))
def test_what_is_too_sweet_is_thinned_by_paper(
    volume_ml: float, brix: float, target: float
) -> None:
    mass = float(sums.syrup(volume_ml, brix).mass_g)
    found = sums.sweeten(HERE, volume_ml, brix, target, "honey")
    assert found.answer.label == "water to put in"
    assert of(found, "add") == pytest.approx(mass * (brix / target - 1), rel=1e-3)


@pytest.mark.parametrize(
    ("stop", "target"), [("brix", 40.0), ("share", 50.0), ("depth", 4.0), ("temp", 99.0)]
)
def test_a_pot_boils_down_to_where_it_is_asked(stop: sums.StopAt, target: float) -> None:
    found = sums.boil_down(HERE, 4000, 14, 28, stop, target)
    told = {"brix": "brix", "depth": "depth", "temp": "boils"}
    if stop == "share":
        assert of(found, "left") == pytest.approx(2000, rel=1e-3)
    else:
        assert of(found, told[stop]) == pytest.approx(target, rel=1e-3)
    sugar_before = 14 * float(sums.syrup(4000, 14).mass_g)
    sugar_after = of(found, "brix") * float(sums.syrup(of(found, "left"), of(found, "brix")).mass_g)
    assert sugar_after == pytest.approx(sugar_before, rel=2e-3)
    assert found.answer.value is not None
    assert found.answer.value.lo < found.answer.value.typ < found.answer.value.hi


def test_a_pot_that_is_past_it_says_so() -> None:
    with pytest.raises(Unreachable, match="past"):
        sums.boil_down(HERE, 4000, 50, 28, "brix", 40)


@pytest.mark.parametrize("brix", [20.0, 50.0, 65.0, 75.0])
def test_a_thermometer_tells_the_way_back(brix: float) -> None:
    boils = of(sums.thermometer(SEA, brix, None), "boils")
    assert of(sums.thermometer(SEA, 0, boils), "brix") == pytest.approx(brix, abs=1.5)
    assert of(sums.thermometer(HERE, brix, None), "boils") < boils


@given(st.floats(30, 70), st.floats(1, 12), st.floats(14, 28))
def test_a_blend_uses_no_more_than_there_is(first: float, second: float, target: float) -> None:
    found = sums.blend(1000, first, 3000, second, target)
    used = of(found, "first"), of(found, "second")
    assert used[0] <= 1000.001
    assert used[1] <= 3000.001
    assert max(used[0] / 1000, used[1] / 3000) == pytest.approx(1, abs=1e-3)
    sugar = first * float(sums.syrup(used[0], first).mass_g)
    sugar += second * float(sums.syrup(used[1], second).mass_g)
    mass = float(sums.syrup(used[0], first).mass_g) + float(sums.syrup(used[1], second).mass_g)
    assert sugar / mass == pytest.approx(target, rel=5e-3)


def test_a_drop_puts_a_guess_right() -> None:
    guess = sums.cold_plate(62, 104, 20, "")
    assert guess.answer.words == texture.cold_plate(62, 104, 20).cold
    thick = sums.cold_plate(62, 104, 20, sums.DROPS[-1])
    assert of(thick, "brix") > 62
    assert thick.answer.value is not None
    assert thick.answer.value.hi - thick.answer.value.lo < 10


@pytest.mark.parametrize("with_what", ["water", "sparkling water", "tea", "apple juice"])
def test_a_glass_is_neither_too_sweet_nor_too_sharp(with_what: str) -> None:
    found = sums.thin(50, 25, 250, with_what, 18, 9)
    assert of(found, "base") + of(found, "other") == pytest.approx(250)
    assert of(found, "parts") == pytest.approx(of(found, "other") / of(found, "base"))
