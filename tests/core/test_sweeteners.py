"""One sweetener for another, as sweet to the tongue."""

from __future__ import annotations

import pytest

from elderberry.core import materials, sweeteners
from elderberry.core.errors import CannotTell, OutOfRange


@pytest.mark.parametrize("one", sweeteners.USUAL)
@pytest.mark.parametrize("other", sweeteners.USUAL)
def test_there_and_back_is_the_same_amount(one: str, other: str) -> None:
    there = sweeteners.as_sweet_g(one, 500, other)
    assert sweeteners.as_sweet_g(other, there, one) == pytest.approx(500)


@pytest.mark.parametrize(
    ("material", "least", "most"),
    [
        ("honey", 0.6, 0.8),
        ("maple_syrup", 0.55, 0.7),
        ("agave_syrup", 0.7, 0.9),
        ("sugar_brown", 0.9, 1.0),
        ("dextrose", 0.6, 0.7),
        ("fructose", 1.15, 1.3),
        ("erythritol", 0.6, 0.7),
        ("stevia_spoon", 2.0, 2.2),
    ],
)
def test_how_sweet_things_are(material: str, least: float, most: float) -> None:
    assert least <= sweeteners.against_sugar(material) <= most


def test_every_sugar_sweetens_and_nothing_else_does() -> None:
    for key, item in materials.ingredients().items():
        if item.kind in materials.SWEET:
            assert sweeteners.against_sugar(key) > 0
    with pytest.raises(CannotTell):
        sweeteners.against_sugar("citric_acid")
    with pytest.raises(OutOfRange):
        sweeteners.as_sweet_g("honey", -1, "sugar_white")
