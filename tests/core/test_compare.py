"""Why one batch set thicker than another."""

from __future__ import annotations

from datetime import date

import pytest

from elderberry.core.compare import Figures, differences, figures, thicker
from tests.briefs import filled

TWIN = Figures(66.0, 3.1, 6.0, 10.0, 20.0, 5.0, date(2026, 9, 1))


def test_twins_differ_in_nothing() -> None:
    assert differences(TWIN, TWIN) == []
    assert thicker([]) is None


@pytest.mark.parametrize(
    ("other", "first", "thick"),
    [
        (Figures(62.0, 3.1, 6.0, 10.0, 20.0, 5.0), "4.0 °Bx sweeter", True),
        (Figures(66.0, 3.1, 9.0, 10.0, 20.0, 5.0), "3.0 g less pectin to the kilo", False),
        (Figures(66.0, 3.1, 6.0, 40.0, 20.0, 5.0), "30 min shorter at the boil", True),
        (Figures(66.0, 2.7, 6.0, 10.0, 20.0, 5.0), "0.40 pH less sharp", False),
        (Figures(66.0, 3.1, 6.0, 10.0, 60.0, 5.0), "40 % less of its sugar split", None),
    ],
)
def test_what_explains_most_stands_first(other: Figures, first: str, thick: bool | None) -> None:
    found = differences(TWIN, other)
    assert found[0].words == first
    assert thicker(found) is thick


def test_riper_fruit_sets_less() -> None:
    later = differences(TWIN, Figures(66.0, 3.1, 6.0, 10.0, 20.0, 5.0, date(2026, 8, 14)))
    assert [d.words for d in later] == ["18 days later picked, so riper"]
    assert thicker(later) is False


def test_the_larger_difference_comes_first() -> None:
    found = differences(TWIN, Figures(63.0, 3.1, 1.0, 10.0, 20.0, 5.0))
    assert [d.words for d in found] == ["5.0 g more pectin to the kilo", "3.0 °Bx sweeter"]


def test_figures_are_read_off_the_jar() -> None:
    parts = ("damson", 1000.0), ("sugar_white", 1500.0), ("pectin_regular", 20.0)
    found = figures(filled(*parts, boiled_min=12.0), date(2026, 9, 3))
    assert found.boiled_min == 12
    assert found.pectin_g_per_kg == pytest.approx(1000 * 20 / 2520, rel=1e-3)
    assert found.brix == pytest.approx(100 * (160 + 1500) / 2520, abs=1.5)
