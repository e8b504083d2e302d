"""Sums of sweetness: sweeten, blend, what a thermometer and a drop tell, what crystallises."""

from __future__ import annotations

import math

from elderberry.core import materials, solve, sugar, texture, water
from elderberry.core.composition import Composition
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.kitchen import Kitchen
from elderberry.core.numbers import bisect
from elderberry.core.sums.told import (
    Said,
    Sum,
    boils_c,
    cold_of,
    figure_of,
    keeps_as,
    keeps_of,
    syrup,
    words_of,
)


def sweeten(here: Kitchen, volume_ml: float, brix: float, target: float, material: str) -> Sum:
    """What brings a liquid to a Brix: a sweetener, or water where it is sweeter already."""
    pot = syrup(volume_ml, brix)
    thins = target < brix
    solved = solve.thin(pot, target) if thins else solve.sweeten(pot, target, material)
    name = "water" if thins else materials.ingredient(material).plain
    poured = float(solved.result.volume_ml)
    return Sum(
        figure_of("add", f"{name} to put in", "mass_g", solved.amount_g),
        [
            figure_of("volume", "there is then", "volume_ml", poured),
            figure_of("more", "which is more by", "little_ml", poured - volume_ml),
            figure_of("boils", "it boils here at", "temp_c", boils_c(here, solved.result)),
            cold_of(target),
        ],
        draws={"before": volume_ml, "after": poured, "brix": target, "grams": solved.amount_g},
    )


def thermometer(here: Kitchen, brix: float, reads_c: float | None) -> Sum:
    """Where a syrup boils here, or how sweet one is that boils as hot as the thermometer reads."""
    plain = here.boiling_point_c
    if reads_c is not None:
        brix = float(water.brix_from_boiling_point(reads_c, here.altitude_m or 0.0))
        around = Estimate(brix - READS_WITHIN, brix, brix + READS_WITHIN, Evidence.READ)
        answer = Said("brix", "it is as sweet as", "brix", around)
    boils = boils_c(here, syrup(1000.0, brix))
    if reads_c is None:
        answer = figure_of("boils", "it boils here at", "temp_c", boils)
    return Sum(
        answer,
        [
            figure_of("plain", "water boils here at", "temp_c", plain),
            figure_of("above", "which is above it by", "degrees", boils - plain),
            words_of("class", "at 20 °C", keeps_of(brix)),
        ],
        draws={"reads": boils, "plain": plain, "brix": brix},
    )


READS_WITHIN = 1.5
"""How far a Brix off a thermometer may be [°Bx]: water.brix_from_boiling_point."""


def blend(first_ml: float, first: float, second_ml: float, second: float, target: float) -> Sum:
    """How two liquids are poured together to be as sweet as wanted, from what there is of each."""
    one, other = syrup(first_ml, first), syrup(second_ml, second)
    found = solve.blend(one, other, target, lambda mix: float(mix.brix))
    share = found.share
    masses = float(one.mass_g), float(other.mass_g)
    most = min(
        masses[0] / share if share > 0 else float("inf"),
        masses[1] / (1 - share) if share < 1 else float("inf"),
    )
    used = share * most / masses[0] * first_ml, (1 - share) * most / masses[1] * second_ml
    whole = float((found.result * most).volume_ml)
    return Sum(
        figure_of("whole", "there is at most", "volume_ml", whole),
        [
            figure_of("first", "of the first", "volume_ml", used[0]),
            figure_of("second", "of the second", "volume_ml", used[1]),
            figure_of("share", "the first is", "percent", 100.0 * used[0] / max(sum(used), 1e-9)),
        ],
        draws={"first": used[0] / first_ml, "second": used[1] / second_ml, "brix": target},
    )


def cold_plate(brix: float, hot_c: float, plate_c: float, drop: str) -> Sum:
    """What a syrup does in the hot pot and on the cold plate, put right by what a drop did."""
    guess = Estimate(max(0.0, brix - GUESSED_WITHIN), brix, min(86.0, brix + GUESSED_WITHIN))
    found = texture.corrected_by_drop(guess, drop, plate_c) if drop else guess
    plate = texture.cold_plate(min(max(found.typ, 0.0), 86.0), hot_c, plate_c)
    return Sum(
        Said("brix", "it is as sweet as", "brix", found) if drop
        else words_of("cold", "on the plate it", plate.cold),
        [
            words_of("hot", "in the pot it", plate.hot),
            words_of("plate", "on the plate it", plate.cold),
            words_of("keeps", "at 20 °C", keeps_of(min(max(found.typ, 1.0), 80.0))),
        ],
        "a drop lies a minute on the plate before it tells",
        {"cold": plate.cold_mpa_s, "hot": plate.hot_mpa_s, "brix": found.typ},
    )  # fmt: skip


GUESSED_WITHIN = 5.0
"""How far a Brix that nobody read is taken to be off [°Bx]."""


def bottle(
    sugar_g_100ml: float, price: float, bottle_ml: float, own_litres: float, own_price: float,
    own_brix: float,
) -> Sum:  # fmt: skip
    """A bought bottle beside one's own: what a litre costs, and how much sugar is in it.

    Args:
        sugar_g_100ml: as its label says [g/100 mL].
        price: of the bottle, in any money.
        bottle_ml: what it holds [mL].
        own_litres: what was made [L].
        own_price: what went into it cost, in the same money.
        own_brix: how sweet one's own is [g/100 g].

    Raises:
        OutOfRange: more sugar than a syrup holds.

    Source: density of sucrose solutions.
    """
    brix = float(bisect(lambda b: sugar_g_100ml - grams_in_100ml(float(b)), 0.0, 85.0))
    bought, made = 1000.0 * price / bottle_ml, own_price / own_litres
    its = made / max(bought, 1e-9)
    return Sum(
        figure_of("made", "a litre of your own costs", "money", made),
        [
            figure_of("bought", "a litre of the bought one", "money", bought),
            figure_of("share", "yours costs, of that", "percent", 100.0 * its),
            figure_of("brix", "the bought one is as sweet as", "brix", brix),
            figure_of("own_sugar", "your own holds in 100 ml", "mass_g", grams_in_100ml(own_brix)),
            figure_of("sugar", "for the sugar alone yours costs, of that", "percent",
                      100.0 * its * sugar_g_100ml / max(grams_in_100ml(own_brix), 1e-9)),
        ],
        "labels say sugar; a Brix counts acid and the rest as well, so yours reads a little higher",
        {"first": min(1.0, 0.25 + 0.6 * min(1.0, its)), "second": 0.85},
    )  # fmt: skip


def grams_in_100ml(brix: float) -> float:
    """Sugar in 100 mL of a syrup at 20 °C [g]."""
    return brix / 1000.0 * float(sugar.density_kg_m3(brix))


COOK_C, COOK_PH = 104.0, 3.3
"""A syrup with lemon in it at a simmer: what inversion is reckoned at."""
SAFE_INDEX = 0.95
"""Below this a syrup stays clear: texture.crystals."""


def crystals(brix: float, inverted_pct: float, store_c: float) -> Sum:
    """Whether a syrup crystallises where it stands, and what would stop it.

    Args:
        brix: soluble solids [g/100 g], 1 to 86.
        inverted_pct: share of its sugar that is glucose and fructose [%].
        store_c: where it stands [°C].

    Raises:
        OutOfRange: a figure outside its limits.

    Source: texture.crystals; Vukov (1965) for the minutes.
    """
    mix = inverted(brix, inverted_pct / 100.0)
    found = texture.crystals(mix, store_c)
    clear = found == "stays clear"
    least = sweetest_clear(inverted_pct / 100.0, store_c)
    return Sum(
        words_of("crystals", "where it stands it", found),
        [
            figure_of(
                "sugar", "of the sugar that could stay dissolved", "percent", held_pct(mix, store_c)
            ),
            figure_of("least", "it stays clear up to", "brix", least),
            *([] if clear else _stops(brix, inverted_pct / 100.0, store_c, least)),
            words_of("keeps", "at 20 °C", keeps_as(mix)),
        ],
        ""
        if clear
        else "one grain on the rim is enough to start it: warm the jar, swirl, pour off",
        {"share": min(held_pct(mix, store_c), 150.0), "brix": brix},
    )


def inverted(brix: float, share: float) -> Composition:
    """100 g of a syrup of which a share of the sugar is split into glucose and fructose."""
    split = brix * share
    return Composition(
        water=100.0 - brix, sucrose=brix - split, glucose=split / 2.0, fructose=split / 2.0
    )


def held_pct(mix: Composition, store_c: float) -> float:
    """Sucrose in it against what would stay dissolved there [%]; 0 where invert sugar decides."""
    if float(mix.glucose + mix.fructose) / float(mix.water) > MOST_INVERT:
        return 0.0
    return 100.0 * float(texture.crystallisation_index(mix, store_c))


MOST_INVERT = 2.5
"""Invert sugar to water up to which the index holds: texture.crystallisation_index."""


def sweetest_clear(share: float, store_c: float) -> float:
    """The Brix up to which a syrup of such sugar stays clear [g/100 g]."""
    return float(
        bisect(
            lambda b: 100.0 * SAFE_INDEX - held_pct(inverted(float(b), share), store_c), 40.0, 80.0
        )
    )


def _stops(brix: float, share: float, store_c: float, least: float) -> list[Said]:
    """What keeps a syrup clear that would not stay so: water, or more of its sugar split."""
    water_g = 1000.0 * (brix / least - 1.0)
    said = [figure_of("water", "water that stops it, to a kilo", "little_ml", max(0.0, water_g))]
    enough = next(
        (s / 100.0 for s in range(round(100 * share), 101)
         if texture.crystals(inverted(brix, s / 100.0), store_c) == "stays clear"),
        None,
    )  # fmt: skip
    if enough is None:
        return [*said, words_of("invert", "or more invert sugar", "no share of it is enough")]
    share_more = (enough - share) / max(1.0 - share, 1e-9)
    wet = float(inverted(brix, share).water) / float(inverted(brix, share).volume_ml)
    rate = sugar.inversion_rate_per_min(COOK_C, COOK_PH, wet)
    minutes = -math.log(max(1.0 - share_more, 1e-3)) / rate
    return [
        *said,
        figure_of("enough", "or of its sugar inverted", "percent", 100.0 * enough),
        figure_of("minutes", f"a simmer at pH {COOK_PH:g} does that in", "minutes", minutes),
    ]
