"""Charge: what acids give up at a pH, and the strong base that holds a pH up. No mixes here."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

from elderberry.core.numbers import Values, as_given, as_values, most

PKA: dict[str, tuple[float, ...]] = {
    "citric": (3.128, 4.761, 6.396),
    "malic": (3.40, 5.11),
    "tartaric": (3.04, 4.37),
    "acetic": (4.756,),
    "ascorbic": (4.17,),
    "gluconic": (3.86,),
    "succinic": (4.21, 5.64),
}
"""Acid exponents at 25 °C and zero ionic strength (CRC Handbook). They read about 0.15 pH high
on juices, which errs on the safe side."""
CARBONATE_PKA = (6.35, 10.33)
ACIDS = tuple(PKA)
MOLAR_G: dict[str, float] = {
    "citric": 192.12,
    "malic": 134.09,
    "tartaric": 150.09,
    "acetic": 60.05,
    "ascorbic": 176.12,
    "gluconic": 196.16,
    "succinic": 118.09,
}
EQUIVALENT_G: dict[str, float] = {"citric": 64.04, "malic": 67.05, "tartaric": 75.05}
"""Grams per equivalent in which titratable acidity is expressed."""
KW = 1e-14
LN10 = math.log(10.0)
TITRATION_PH = 8.2


def mean_charge(pka: tuple[float, ...], ph: Values) -> Any:
    """Mean charge z̄ [-] that a molecule of an acid has given up at a pH.

    >>> round(mean_charge(PKA["acetic"], 4.756), 3)
    0.5
    """
    return as_given(charge_moments(pka, hydrogen(ph))[0])


def hydrogen(ph: Values) -> Any:
    """[H⁺] at a pH [mol/L].

    >>> hydrogen(3.0)
    0.001
    """
    return 10.0 ** -as_values(ph)


def charge_moments(pka: tuple[float, ...], h: Values) -> tuple[Any, Any]:
    """Mean and variance of the charge at [H⁺] h: z̄ rises with pH by ln 10 times the variance.

    >>> mean, variance = charge_moments((3.0,), 0.001)
    >>> mean, variance
    (0.5, 0.25)
    """
    weight: Any = 10.0 ** -pka[0] / h
    total, first, second = 1.0 + weight, weight, weight
    for charge, exponent in enumerate(pka[1:], start=2):
        weight = weight * (10.0**-exponent / h)
        total, first, second = total + weight, first + charge * weight, second + charge**2 * weight
    mean = first / total
    return mean, second / total - mean**2


def total_acid_and_base(
    equivalents: Values, ph: Values, shares: Mapping[str, float]
) -> tuple[Any, Any]:
    """Total acid C and strong base B [mol/L] from titratable acidity [eq/L] and pH.

    Source: charge balance at pH and at the titration's end, pH 8.2.

    >>> c, b = total_acid_and_base(0.1, 3.0, {"citric": 1.0})
    >>> 0.03 < c < 0.04, b > 0
    (True, True)
    """
    end = sum(share * mean_charge(PKA[n], TITRATION_PH) for n, share in shares.items())
    here = sum(share * mean_charge(PKA[n], ph) for n, share in shares.items())
    h, h_end = hydrogen(ph), hydrogen(TITRATION_PH)
    total = (equivalents + h_end - KW / h_end - h + KW / h) / (end - here)
    return as_given(total), as_given(total * here + KW / h - h)


def base_for_ph(acid_mol_l: Mapping[str, Values], ph: Values) -> Any:
    """Strong base B [mol/L] that holds these acids [mol/L] at a pH.

    >>> base_for_ph({"acetic": 0.1}, 4.756) > 0.049
    True
    """
    h = hydrogen(ph)
    held = sum(c * mean_charge(PKA[n], ph) for n, c in acid_mol_l.items())
    return as_given(held + KW / h - h)


def molarities(grams: Mapping[str, Values], litres: Values) -> dict[str, Any]:
    """Acids that are there [mol/L], from grams of each in so many litres [L].

    >>> molarities({"acetic": 60.05, "citric": 0.0}, 2.0)
    {'acetic': 0.5}
    """
    return {n: g / MOLAR_G[n] / litres for n, g in grams.items() if most(g) > 0}
