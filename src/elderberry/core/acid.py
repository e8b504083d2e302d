"""Acid: pH by charge balance, titratable acidity, acidifying to a target."""

from __future__ import annotations

from typing import Any

import numpy as np

from elderberry.core.charge import (
    ACIDS,
    CARBONATE_PKA,
    EQUIVALENT_G,
    KW,
    LN10,
    MOLAR_G,
    PKA,
    TITRATION_PH,
    base_for_ph,
    charge_moments,
    mean_charge,
    molarities,
    total_acid_and_base,
)
from elderberry.core.composition import Composition, of_material
from elderberry.core.errors import CannotTell, Past, Unknown, Unreachable, check_range
from elderberry.core.numbers import (
    Array,
    Values,
    as_given,
    least,
    most,
    newton_bracketed,
)

__all__ = [
    "ACIDS",
    "CARBONATE_PKA",
    "EQUIVALENT_G",
    "KW",
    "MOLAR_G",
    "PKA",
    "TITRATION_PH",
    "acidify",
    "base_for_ph",
    "concentrations",
    "half_width",
    "mean_charge",
    "ph",
    "sugar_to_acid",
    "taste_word",
    "titratable_acidity_g_l",
    "total_acid_and_base",
]
"""The charges that acids give up are kept apart (charge.py), and are part of this all the same."""

USUAL_BASE_MOL_L = (0.0, 0.15)
"""Strong base that fruit juices hold [mol/L]; outside, their pH and acidity disagree."""
MODEL_HALF_WIDTH, THICK_HALF_WIDTH, THICK_BRIX = 0.2, 0.3, 40.0
"""Half-width of the 80 % range of a predicted pH, and what comes on top above 40 Brix, where
meters drift [pH]."""
LEAST_ACID_MOL_L = 0.005
"""Below this much acid a pH hangs on traces, and none is given."""


def concentrations(composition: Composition, litres: Values) -> dict[str, Any]:
    """The acids that are there [mol/L], in litres [L] of mix.

    >>> from elderberry.core.composition import Composition
    >>> {n: float(c) for n, c in concentrations(Composition(water=1000, acetic=60.05), 2.0).items()}
    {'acetic': 0.5}
    """
    return molarities({n: getattr(composition, n) for n in ACIDS}, litres)


def ph(composition: Composition) -> Any:
    """pH [-] by charge balance: [H] + B − Kw/[H] − Σ Cᵢ z̄ᵢ(pH) = 0, per litre at 20 °C.

    Within 0.2 of a meter on mixes of measured juices, 0.3 on typical ones.

    Args:
        composition: anything with at least 5 mmol/L of acid.

    Raises:
        CannotTell: too little acid, or no volume.

    Source: acid exponents of PKA; charge balance.

    >>> from elderberry.core.composition import Composition
    >>> round(ph(Composition(water=990.1, citric=19.212)), 2)
    2.08
    """
    litres = composition.volume_ml / 1000.0
    if least(litres) <= 0:
        raise CannotTell("nothing is there whose pH could be told")
    there = concentrations(composition, litres)
    if not there or least(sum(there.values())) < LEAST_ACID_MOL_L:
        raise CannotTell("there is too little acid to tell a pH; measure it")
    base = composition.strong_base_mol / litres
    balances = [(PKA[n], c) for n, c in there.items()]
    carbonate = composition.carbonate_mol / litres
    if most(carbonate) > 0:
        balances.append((CARBONATE_PKA, carbonate))

    def balance(at: Array) -> tuple[Any, Any]:
        h = np.exp(-LN10 * at)
        oh = KW / h
        value, rise = h + base - oh, h + oh
        for pka, c in balances:
            mean, variance = charge_moments(pka, h)
            value, rise = value - c * mean, rise + c * variance
        return value, -LN10 * rise

    return newton_bracketed(balance, 0.0 * litres, 14.0, 3.2, tolerance=1e-4)


def half_width(brix: float) -> float:
    """Half-width of the 80 % range of a pH that is predicted from measured inputs [pH].

    Args:
        brix: of what it is predicted for [g/100 g], 0 to 100.

    Raises:
        OutOfRange: outside those limits.

    Source: our comparison with meters; pH meters drift in syrups.

    >>> half_width(12), half_width(65)
    (0.2, 0.5)
    """
    check_range("Brix", brix, "°Bx", 0, 100)
    return MODEL_HALF_WIDTH + (THICK_HALF_WIDTH if brix > THICK_BRIX else 0.0)


def titratable_acidity_g_l(composition: Composition, as_acid: str = "citric") -> Any:
    """Titratable acidity [g/L] to pH 8.2, expressed as citric, malic or tartaric acid.

    Args:
        composition: anything with a volume.
        as_acid: the acid it is expressed in.

    Raises:
        Unknown: an acid nobody expresses acidity in.
        CannotTell: no volume.

    Source: charge balance at pH 8.2.

    >>> from elderberry.core.composition import of_fruit_juice
    >>> round(titratable_acidity_g_l(of_fruit_juice("damson", 1000, 16, 3.0, 2.2), "malic"), 1)
    23.4
    """
    if as_acid not in EQUIVALENT_G:
        raise Unknown("acid of expression", as_acid)
    litres = composition.volume_ml / 1000.0
    if least(litres) <= 0:
        raise CannotTell("nothing is there whose acidity could be told")
    given_up = sum(
        c * mean_charge(PKA[n], TITRATION_PH)
        for n, c in concentrations(composition, litres).items()
    )
    end_h = 10.0**-TITRATION_PH
    bound = given_up - composition.strong_base_mol / litres - end_h + KW / end_h
    return as_given(np.maximum(bound, 0.0) * EQUIVALENT_G[as_acid])


def acidify(
    composition: Composition, target_ph: float, with_material: str = "citric_acid"
) -> float:
    """Grams of an acid ingredient that bring a mix to a target pH.

    Args:
        composition: the mix (typical case, not draws).
        target_ph: wanted pH [-], 1.5 to 7.
        with_material: ingredient key, such as citric_acid or lemon_bottled.

    Raises:
        Past: the mix is below the target already.
        Unreachable: no amount of this gets there.
        OutOfRange: a target outside its limits.

    Source: bracketing on acid.ph.

    >>> from elderberry.core.composition import of_fruit_juice
    >>> 1.0 < acidify(of_fruit_juice("plum", 1000), 3.2) < 20
    True
    """
    check_range("target pH", target_ph, "pH", 1.5, 7)
    now = float(ph(composition))
    if now < target_ph - 1e-9:
        raise Past(f"acid only lowers pH, and this has {now:.2f} already", now)
    one = of_material(with_material, 1.0)
    low, high = 0.0, 10.0 * float(composition.mass_g)
    if ph(composition + one * high) > target_ph:
        raise Unreachable(f"no amount of {with_material} brings this to pH {target_ph:g}")
    for _ in range(60):
        middle = 0.5 * (low + high)
        above = ph(composition + one * middle) > target_ph
        low, high = (middle, high) if above else (low, middle)
    return high


TASTE = ((8.0, "sharp"), (14.0, "lively"), (22.0, "round"), (float("inf"), "flat"))
"""Below which sugar-to-acid a drink tastes so; after sensory scales for juices, simplified."""


def sugar_to_acid(composition: Composition) -> Any:
    """Sugar-to-acid [-]: Brix over titratable acidity as citric acid [g/100 mL].

    Raises:
        CannotTell: no acid to speak of.

    Source: the usual maturity index of juices.

    >>> from elderberry.core.composition import of_fruit_juice
    >>> round(sugar_to_acid(of_fruit_juice("damson", 1000)), 1)
    7.2
    """
    acidity = np.asarray(titratable_acidity_g_l(composition)) / 10.0
    if least(acidity) < 0.01:
        raise CannotTell("there is no acid to set the sugar against")
    return as_given(composition.brix / acidity)


def taste_word(ratio: float) -> str:
    """The word for a sugar-to-acid ratio [-]: sharp, lively, round or flat.

    >>> taste_word(7.2), taste_word(30)
    ('sharp', 'flat')
    """
    return next(word for below, word in TASTE if ratio < below)
