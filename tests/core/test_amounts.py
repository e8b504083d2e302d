"""Amounts that hang on what is there: a share of something, water to cover, up to a line."""

from __future__ import annotations

from dataclasses import replace

import pytest

from elderberry.core.errors import CoreError, OutOfRange
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.flow import inputs
from elderberry.core.flow.inputs import Amount, Input, lot_of
from elderberry.core.flow.lots import Lot
from elderberry.core.flow.seen import Seen, as_seen
from elderberry.core.flow.solving import Around, cover_l, solved
from elderberry.core.process.case import look_up
from tests.briefs import a_kitchen, filled


def lot(material: str, grams: float | Estimate, form: str = "juice", key: str = "it") -> Lot:
    return lot_of(Input(key, material, inputs.grams(grams), form), grams, 150.0)


JUICE = lot("damson", 2000.0, key="juice-1")
PEEL = replace(lot("grapefruit", 300.0, "whole", key="peel"), kind="peel")
AROUND = Around({"juice-1": JUICE, "peel": PEEL}, 150.0, 473.0)


def share(
    part: float, of: str = "", per: str = "g/g", off: tuple[float, float] = (1.0, 1.0)
) -> Input:
    amount = Amount("share", share=part, of=of, per=per, spread=off)  # type: ignore[arg-type]
    return Input("sugar", "sugar_white", amount)


def brix(of: Lot) -> float:
    return float(of.composition.first().brix)


@pytest.mark.parametrize(
    ("given", "grams"),
    [
        (share(0.5), 0.5 * 2000.0),
        (share(0.5, "juice-1"), 0.5 * 2000.0),
        (share(0.5, "peel"), 0.5 * 300.0),
        (share(2.0, "grapefruit"), 2.0 * 300.0),
        (share(100.0, "juice-1", "g/l"), 100.0 * JUICE.volume_ml.typ / 1000.0),
        (share(10.0, "", "g/jar"), 10.0 * JUICE.volume_ml.typ / 473.0),
    ],
)
def test_a_share_is_of_what_it_joins_or_of_what_is_named(given: Input, grams: float) -> None:
    """By its name, by what it is of, or by its kind."""
    found = solved(given, JUICE, AROUND)
    assert found.typ == pytest.approx(grams)
    assert (found.lo, found.hi) == (found.typ, found.typ)
    assert found.evidence == "measured"


def test_a_share_by_feel_is_as_wide_as_it_is_said() -> None:
    found = solved(share(0.5, off=(0.8, 1.25)), JUICE, AROUND)
    assert (found.lo, found.typ, found.hi) == pytest.approx((800.0, 1000.0, 1250.0))
    assert found.evidence == "read"


def test_a_share_of_what_is_not_there_is_said() -> None:
    with pytest.raises(CoreError, match="there is no quince that white sugar"):
        solved(share(0.5, "quince"), JUICE, AROUND)
    sour = Input("acid", "citric_acid", Amount("target", target="ph", value=7.5))
    with pytest.raises(OutOfRange):
        solved(sour, JUICE, AROUND)


def test_water_to_cover_fills_what_the_fruit_leaves_free() -> None:
    whole = lot("damson", 3000.0, "whole")
    mash = replace(whole, kind="mash")
    assert whole.kind == "fruit"
    assert 0.5 < cover_l(whole).typ < 4.0
    assert cover_l(mash).typ < cover_l(whole).typ, "what is crushed lies closer"
    assert (cover_l(mash).lo, cover_l(mash).hi) == pytest.approx(
        (cover_l(mash).typ / 2, 2 * cover_l(mash).typ)
    )
    water = Input("water", "water", Amount("target", target="cover"))
    assert solved(water, whole, AROUND).typ == pytest.approx(1000 * cover_l(whole).typ, rel=0.01)


def test_what_went_back_into_a_pot_is_in_it() -> None:
    read = Seen(mass_g=1800.0, brix=15.0)
    before, after = (as_seen(JUICE, replace(read, water_g=grams)) for grams in (0.0, 250.0))
    assert after.mass_g.typ - before.mass_g.typ == pytest.approx(250, abs=1)
    assert brix(after) == pytest.approx(brix(before) * 1800 / 2050, rel=0.01)
    assert float(after.composition.first().water) > float(before.composition.first().water)
    spilled = as_seen(JUICE, replace(read, lost=0.25))
    assert spilled.mass_g.typ == pytest.approx(0.75 * before.mass_g.typ, rel=0.01)
    assert brix(spilled) == pytest.approx(brix(before))


@pytest.mark.parametrize(
    ("read", "what", "half"),
    [
        (Seen(mass_g=1800.0), "mass_g", 18.0), (Seen(volume_ml=1700.0), "volume_ml", 51.0),
        (Seen(brix=15.0), "brix", 0.3), (Seen(brix=15.0, brix_error=0.6), "brix", 0.6),
    ],
)  # fmt: skip
def test_what_was_read_is_as_sure_as_what_it_was_read_with(
    read: Seen, what: str, half: float
) -> None:
    """A scale to a hundredth, a jug to three, a refractometer to 0.3 Brix, four times in five."""
    said = Estimate(1500.0, 2000.0, 2500.0, Evidence.READ)
    found = getattr(as_seen(lot("damson", said), read), what)
    assert (found.hi - found.lo) / 2 == pytest.approx(half, rel=0.1)


@pytest.mark.parametrize(("heater", "stopped"), [("steam", True), ("bath", False)])
def test_steam_is_tested_up_to_a_quart(heater: str, stopped: bool) -> None:
    apple = filled(("apple", 1000.0), meter=3.4)
    found = look_up(apple, 1892.0, a_kitchen(0.0), heater=heater)  # type: ignore[arg-type]
    assert ("jar-too-large" in {s.id for s in found.stops}) == stopped
    assert not look_up(apple, 946.0, a_kitchen(0.0), heater=heater).stops  # type: ignore[arg-type]
