"""What is measured is said with its limit, and a breaking of code is a breaking of code."""

from __future__ import annotations

import ast

import pytest

from elderberry.trial.figures import Figure, middle_s, percentile_95
from tests import broken


@pytest.mark.parametrize(("value", "holds"), [(4.9, True), (5.0, True), (5.1, False)])
def test_a_figure_holds_up_to_its_limit(value: float, holds: bool) -> None:
    figure = Figure("a plan", value, 5, "×", said="of 40")
    assert figure.holds is holds
    assert ("TOO MUCH" in figure.line()) is not holds
    assert figure.line().rstrip().endswith("of 40")


def test_the_middle_is_taken_of_what_comes_after_the_first() -> None:
    happened: list[str] = []
    assert middle_s(lambda: happened.append("act"), 3, lambda: happened.append("before")) < 0.1
    assert happened == ["act", *["before", "act"] * 3]


def test_ninety_five_of_a_hundred_are_not_above() -> None:
    assert percentile_95([1.0] * 95 + [9.0] * 5) < 9.0
    assert percentile_95([1.0] * 90 + [9.0] * 10) == 9.0
    assert percentile_95([2.5]) == 2.5
    assert percentile_95([]) == 0.0


def test_every_place_can_be_broken_into_code_that_still_reads() -> None:
    places = broken.places()
    assert len(places) > 5000
    for place in places[:: len(places) // 150]:
        source = place.file.read_bytes()
        assert source[place.start : place.end].decode() == place.was
        other = source[: place.start] + place.becomes.encode() + source[place.end :]
        assert other != source
        ast.parse(other)
