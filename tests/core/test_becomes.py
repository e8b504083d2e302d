"""What a cook is told of a syrup before the pot is washed."""

from __future__ import annotations

import pytest

from elderberry.core import keeping
from elderberry.core.becomes import sentences
from elderberry.core.process.contents import Contents
from tests.briefs import filled


def syrup(sugar_g: float, *more: tuple[str, float], fruit: str = "damson") -> Contents:
    """A kilogram of juice with so much sugar."""
    return filled((fruit, 1000.0), ("sugar_white", sugar_g), *more)


@pytest.mark.parametrize(("sugar_g", "told"), [(0.0, False), (500.0, False), (540.0, True)])
def test_of_a_thin_one_nothing_is_said(sugar_g: float, told: bool) -> None:
    """From 45 Brix on it is a syrup of about half sugar."""
    contents = syrup(sugar_g)
    assert (contents.brix >= 45.0) == told
    assert bool(sentences(contents, "shelf", 12.0)) == told


def test_the_stronger_the_thicker() -> None:
    half, strong = (sentences(syrup(s), "shelf", 12.0)[0] for s in (800.0, 1400.0))
    assert half.startswith("53 °Bx: cold it pours like cream")
    assert strong.startswith("65 °Bx: cold it coats a spoon")


def test_plain_sugar_and_water_crystallise_and_what_fruit_splits_does_not() -> None:
    plain = filled(("sugar_white", 2000.0), ("water", 900.0))
    told = " ".join(sentences(plain, "shelf", 12.0))
    assert "At «12.00 C» it will crystallise" in told
    assert "yeasts and moulds grow, bacteria do not" in told
    honeyed = filled(("quince", 1000.0), ("honey", 2500.0))
    assert "It stays clear at «12.00 C»." in sentences(honeyed, "shelf", 12.0)


def test_only_in_the_cold_the_neck_and_the_spirit_are_spoken_of() -> None:
    shelf, cold = (" ".join(sentences(syrup(800.0), k, 4.0)) for k in ("shelf", "chill"))
    assert "clean rims" in cold
    assert "spirit" in cold
    assert "clean rims" not in shelf
    assert "spirit" not in shelf


@pytest.mark.parametrize("sugar_g", [700.0, 900.0])
def test_as_much_spirit_as_is_said_has_the_full_of_its_life(sugar_g: float) -> None:
    """Stirred in, what was said brings a share of one; half of it, a life in between."""
    told = sentences(syrup(sugar_g), "chill", 4.0)[-1]
    ml = float(told.split("«")[1].split(" ml")[0])
    lives = {}
    for part in (0.0, 0.5, 1.01):
        made = syrup(sugar_g, ("spirit_40", ml * part * 0.95))
        said = sentences(made, "chill", 4.0)[-1]
        lives[part] = keeping.life_of(made, "chill").days_typ
        assert ("about doubles how long it keeps." in said) == (part > 1)
        assert ("counts in proportion" in said) == (part == 0.5)
    assert lives[0.0] < lives[0.5] < lives[1.01]
    assert lives[1.01] == pytest.approx(2 * lives[0.0], rel=0.3)


def test_a_trace_of_spirit_is_none_and_a_strong_syrup_asks_for_none() -> None:
    assert (
        "counts in proportion" not in sentences(syrup(800.0, ("spirit_40", 2.0)), "chill", 4.0)[-1]
    )
    assert "counts in proportion" in sentences(syrup(800.0, ("spirit_40", 6.0)), "chill", 4.0)[-1]
    assert not any("spirit" in s for s in sentences(syrup(1400.0), "chill", 4.0))
    unfruited = filled(("sugar_white", 1000.0), ("water", 900.0))
    assert not any("spirit" in s for s in sentences(unfruited, "chill", 4.0))


@pytest.mark.parametrize(("brix", "speaks"), [(59.9, True), (60.0, False)])
def test_from_sixty_brix_a_syrup_keeps_by_its_sugar_and_asks_for_no_spirit(
    monkeypatch: pytest.MonkeyPatch, brix: float, speaks: bool
) -> None:
    monkeypatch.setattr(Contents, "brix", brix)
    assert any("spirit" in s for s in sentences(syrup(1100.0), "chill", 4.0)) == speaks
