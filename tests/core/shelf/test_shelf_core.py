"""Words that find jars, tastings, the life of a jar, and whether what is there lasts."""

from __future__ import annotations

import math
from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.core.errors import IllegalStep, OutOfRange, Unknown
from elderberry.core.shelf import life
from elderberry.core.shelf.enough import lasts
from elderberry.core.shelf.life import GONE, KINDS, Lives, after, comes_back
from elderberry.core.shelf.looking import Looking, read
from elderberry.core.shelf.tasting import Tasting, learned, verdict
from elderberry.core.shelf.worth import Prices, worth
from elderberry.core.storage import life_row

JUICE = life_row("canned_sealed", "juice")


@pytest.mark.parametrize(
    ("text", "meant"),
    [
        ("", Looking()),
        ("Damson CELLAR", Looking(("damson", "cellar"))),
        ("over a year", Looking(older_d=365)),
        ("older than 8 months quince", Looking(("quince",), older_d=240)),
        ("under 4 weeks left", Looking(left_d=28)),
        ("2 weeks left, open", Looking(left_d=14, state="opened")),
        ("aronia from 2024", Looking(("aronia",), year=2024)),
        ("held", Looking(state="held")),
        ("half a year left", Looking(left_d=182)),
    ],
)
def test_what_is_typed_is_understood(text: str, meant: Looking) -> None:
    assert read(text) == meant
    assert read(text).everything == (text == "")


@given(st.text(max_size=80))
def test_whatever_is_typed_is_read(text: str) -> None:
    assert len(read(text).words) <= 6


def test_more_tastings_say_more() -> None:
    typical = [learned(JUICE, [Tasting(600, "good")] * n).days_typ for n in range(6)]
    assert typical == sorted(typical)
    assert typical[0] == 365
    assert typical[5] > 550
    gone = learned(JUICE, [Tasting(200, "gone")] * 4)
    assert gone.days_typ < 220
    assert gone.days_lo < gone.days_typ < gone.days_hi
    fading = learned(JUICE, [Tasting(500, "fading")] * 8)
    assert fading.days_typ == pytest.approx(500, rel=0.08)
    assert math.log(fading.days_hi / fading.days_lo) < 2 * math.log(JUICE.days_hi / JUICE.days_lo)


def test_good_while_young_says_next_to_nothing() -> None:
    assert learned(JUICE, [Tasting(30, "good")] * 9).days_typ == pytest.approx(365, rel=0.01)
    with pytest.raises(Unknown):
        verdict("sour")
    with pytest.raises(OutOfRange):
        learned(JUICE, [Tasting(-1, "good")])


def test_what_is_gone_stays_gone_and_is_only_tasted() -> None:
    for lives in GONE:
        for what in KINDS:
            if (lives, what) == (Lives.FINISHED, "tasted"):
                continue
            with pytest.raises(IllegalStep):
                after(lives, what)


def test_a_jar_that_is_held_is_looked_at_before_anything_else() -> None:
    for what in ("opened", "given", "used_up", "went_in", "tasted"):
        with pytest.raises(IllegalStep, match="look at this one first"):
            after(Lives.STANDS, what, held=True)
    assert after(Lives.STANDS, "looked_sound", held=True) is Lives.STANDS
    assert after(Lives.STANDS, "spoiled", held=True) is Lives.THROWN


def test_what_comes_back_into_stock() -> None:
    assert comes_back(Lives.FINISHED, "") == (True, False)
    assert comes_back(Lives.WENT_IN, "reusable") == (True, True)
    assert comes_back(Lives.GIVEN, "reusable") == (False, False)
    assert comes_back(Lives.THROWN, "") == (False, False)


def test_every_sign_says_what_to_do_and_what_it_means() -> None:
    assert len(life.signs()) >= 6
    for sign in life.signs().values():
        assert sign.now
        assert sign.means
        assert sign.ends in {"spoiled", "broken"}
        assert sign.holds != sign.means.startswith("Only this one")
    with pytest.raises(Unknown):
        life.sign("sings")


def test_enough_is_a_matter_of_pace() -> None:
    today, again = date(2026, 11, 27), date(2027, 9, 1)
    found = lasts(11, 26, 364, today, again, kg_a_jar=0.5)
    assert found.a_month == pytest.approx(2.143, abs=0.001)
    assert found.till == date(2027, 4, 30)
    assert found.short == round(26 / 364 * 278 - 11)
    assert found.fruit_kg == pytest.approx(0.5 * 26 / 364 * 365)
    assert lasts(11, 0, 364, today, again).till is None
    with pytest.raises(OutOfRange):
        lasts(-1, 0, 10, today, again)


def test_a_litre_that_nothing_was_paid_for_costs_nothing() -> None:
    free = worth(5, 0, 0, 0, 0, Prices())
    assert (free.together, free.saved) == (0, None)
    with pytest.raises(OutOfRange):
        worth(0, 0, 0, 0, 0, Prices())
