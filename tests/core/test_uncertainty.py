"""Ranges are honest: what is said to cover four in five does, in a kitchen simulated by itself."""

from __future__ import annotations

import numpy as np
import pytest
from numpy.typing import NDArray

from elderberry.core import acid, juicing, materials
from elderberry.core.composition import Composition, of_fruit_juice, of_material
from elderberry.core.estimates import (
    Estimate,
    Evidence,
    agreement,
    correlated,
    from_draws,
    measured,
    normal_scores,
    weakest,
)
from elderberry.core.flow.lots import Figures
from elderberry.core.kitchen import Canner, Juicer, Kitchen
from elderberry.core.method import method
from elderberry.core.plan import Plan, plan
from tests.briefs import load

BATCHES = 4000
Z = 1.2815515655


def two_sided(rng: np.random.Generator, e: Estimate, z: NDArray[np.float64]) -> NDArray[np.float64]:
    return np.where(z < 0, e.typ + z * (e.typ - e.lo) / Z, e.typ + z * (e.hi - e.typ) / Z)


def simulated(fruit_key: str, kg: float, made: Plan, kitchen: Kitchen) -> Composition:
    """Thousands of batches of one kitchen, drawn at random and juiced by the plain formulas."""
    rng = np.random.default_rng(26)
    fruit = materials.fruit(fruit_key)
    assert fruit.brix
    assert fruit.ph
    assert fruit.acid_pct
    sour = rng.standard_normal(BATCHES)
    ph_z = -0.7 * sour + np.sqrt(1 - 0.49) * rng.standard_normal(BATCHES)
    brix = np.maximum(
        two_sided(rng, fruit.brix, rng.standard_normal(BATCHES)), 0.4 * fruit.brix.typ
    )
    sours = np.clip(two_sided(rng, fruit.acid_pct, sour), 0.3 * fruit.acid_pct.lo, 0.55 * brix)
    phs = np.clip(two_sided(rng, fruit.ph, ph_z), 1.6, 7.4)
    assert made.fruit_yield
    given = made.fruit_yield.estimate()
    litres = (
        kg
        * given.typ
        * np.exp(np.log(given.hi / given.lo) / (2 * Z) * rng.standard_normal(BATCHES))
    )
    boil_off = kitchen.juicer.boil_off_kg_h * (fruit.steam_min or 0) / 60 * made.loads
    steam = juicing.condensate_kg(kg, kitchen.boiling_point_c, boil_off_kg=boil_off) * 1000
    water = 0.5 * steam * np.clip(1 + 0.25 / Z * rng.standard_normal(BATCHES), 0.3, 2)
    own = of_fruit_juice(fruit_key, 1.0, brix, phs, sours)
    own_g = (1000 * litres - water) / own.volume_ml
    juice: Composition = own * own_g + Composition(water=water)
    return juice


@pytest.mark.parametrize("fruit", ["damson", "apple", "quince", "blackcurrant"])
def test_eighty_per_cent_ranges_cover_about_eighty_per_cent(fruit: str) -> None:
    kitchen = Kitchen(585, Juicer(8, 4, 1.8), Canner(7), 2.2, jar_stock={"pint": 99})
    made = plan(method("steam_juiced"), load(fruit, 12), kitchen)
    happened = simulated(fruit, 12, made, kitchen)
    hot = made.lots["hot"]
    assert hot.brix
    assert hot.ph
    meter = acid.ph(happened) + 0.2 / Z * np.random.default_rng(7).standard_normal(BATCHES)
    for said, seen in (
        (made.main.litres, happened.volume_ml / 1000),
        (hot.brix, happened.brix),
        (hot.ph, meter),
    ):
        covered = np.mean((seen >= said.lo) & (seen <= said.hi))
        assert covered == pytest.approx(0.8, abs=0.05)
        assert np.mean(seen > said.hi) == pytest.approx(0.1, abs=0.05)


def test_jars_to_have_ready_are_enough_nine_times_in_ten() -> None:
    kitchen = Kitchen(585, Juicer(8, 4, 1.8), Canner(7), 2.2, jar_stock={"pint": 99})
    made = plan(method("steam_juiced"), load("damson", 20), kitchen)
    happened = simulated("damson", 20, made, kitchen)
    ready_ml = (made.main.generous.count + 1) * 473 * 0.967
    assert np.mean(happened.volume_ml <= ready_ml) >= 0.88


def test_the_same_inputs_give_the_same_range() -> None:
    kitchen = Kitchen(585, Juicer(8, 4, 1.8), Canner(7), 2.2, jar_stock={"pint": 99})
    first, second = (plan(method("steam_juiced"), load("quince", 9), kitchen) for _ in "ab")
    assert first.main.litres == second.main.litres
    assert first.lots["hot"].ph == second.lots["hot"].ph


def test_scores_are_standard_normal_and_inputs_independent() -> None:
    scores = [normal_scores(d)[1:] for d in range(6)]
    for one in scores:
        assert one.mean() == pytest.approx(0, abs=0.03)
        assert one.std() == pytest.approx(1, abs=0.04)
    crossed = np.corrcoef(scores)
    assert np.abs(crossed - np.eye(6)).max() < 0.08
    tied = correlated(normal_scores(0), normal_scores(1), -0.7)
    assert np.corrcoef(tied[1:], scores[0])[0, 1] == pytest.approx(-0.7, abs=0.06)


def test_a_ph_is_surer_in_juice_than_in_syrup() -> None:
    juice = of_fruit_juice("damson", 1000.0 + 0.0 * normal_scores(0), 16.0, 3.0, 2.2)
    syrup = juice + of_material("sugar_white", 1200.0)
    widths = [ph.hi - ph.lo for c in (juice, syrup) if (ph := Figures(c).ph)]
    assert widths == pytest.approx([0.4, 1.0], abs=0.02)


def test_evidence_is_as_strong_as_the_weakest_input() -> None:
    assert weakest(Evidence.MEASURED, Evidence.READ) is Evidence.READ
    assert weakest(Evidence.READ, Evidence.TYPICAL, Evidence.MEASURED) is Evidence.TYPICAL
    assert measured(12, 0.3).evidence is Evidence.MEASURED


@pytest.mark.parametrize(
    ("value", "half", "word"),
    [(2.4, 0, "low"), (2.4, 0.2, "agrees"), (2.5, 0, "agrees"), (3.4, 0, "high")],
)
def test_agreement_allows_for_the_instrument(value: float, half: float, word: str) -> None:
    assert agreement(Estimate(2.5, 2.9, 3.3), value, half) == word


def test_one_value_is_an_estimate_without_width() -> None:
    assert from_draws(3.0) == Estimate(3.0, 3.0, 3.0)
