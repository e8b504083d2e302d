"""One composition, conserved: what a quantity of anything holds, and plain arithmetic on it.

Fields are grams unless they say otherwise, plain floats or arrays of draws (estimates.py).
Properties that need chemistry live in sugar, acid, water and texture.
"""

from __future__ import annotations

from dataclasses import dataclass, fields
from functools import cache, cached_property
from typing import Any

import numpy as np

from elderberry.core import charge, materials
from elderberry.core.errors import CannotTell, CoreError, check_range
from elderberry.core.numbers import Values, as_given, least, most, typical
from elderberry.core.sugar import apparent_density_kg_m3, density_kg_m3

ETHANOL_G_ML = 0.86
"""Apparent density of ethanol in a mix; fits a 40 % spirit."""
INSOLUBLE_G_ML = 1.5
PEEL_OIL_G_ML = 0.85
SUGARS = ("sucrose", "glucose", "fructose")


@dataclass(frozen=True, eq=False)
class Composition:
    """What a quantity holds, in grams; strong_base_mol and carbonate_mol in mol.

    Raises:
        CoreError: an amount of mass is negative or not a number.

    >>> syrup = Composition(water=400, sucrose=600)
    >>> syrup.mass_g, syrup.brix
    (1000.0, 60.0)
    """

    water: Values = 0.0
    sucrose: Values = 0.0
    glucose: Values = 0.0
    fructose: Values = 0.0
    other_soluble: Values = 0.0
    salt: Values = 0.0
    erythritol: Values = 0.0
    insoluble: Values = 0.0
    ethanol: Values = 0.0
    citric: Values = 0.0
    malic: Values = 0.0
    tartaric: Values = 0.0
    acetic: Values = 0.0
    ascorbic: Values = 0.0
    gluconic: Values = 0.0
    succinic: Values = 0.0
    peel_oil: Values = 0.0
    strong_base_mol: Values = 0.0
    carbonate_mol: Values = 0.0

    def __post_init__(self) -> None:
        for name in self.there:
            value = getattr(self, name)
            lowest = -np.inf if name == "strong_base_mol" else -1e-9
            if not (lowest <= least(value) and most(value) < np.inf):
                raise CoreError(f"{name} cannot be {value} in a composition")

    @cached_property
    def there(self) -> tuple[str, ...]:
        """The parts of which there is anything in any draw: nothing else need be reckoned."""
        mine = vars(self)
        return tuple(_kept({n: mine[n] for n in NAMES}))

    def __add__(self, other: Composition) -> Composition:
        """Both together; mass, sugar and acid balance by construction."""
        mine, theirs = vars(self), vars(other)
        parts = {n: mine[n] for n in self.there}
        for n in other.there:
            parts[n] = parts[n] + theirs[n] if n in parts else theirs[n]
        return _sound(parts)

    def __sub__(self, other: Composition) -> Composition:
        """What stays when `other` is taken away: never less than nothing, to rounding.

        Raises:
            CoreError: more of something would come out than there is.
        """
        mine, theirs = vars(self), vars(other)
        parts = {n: mine[n] for n in self.there}
        for n in other.there:
            parts[n] = _left(n, parts.get(n, 0.0), theirs[n])
        return _sound(parts)

    def __mul__(self, factor: Values) -> Composition:
        """A multiple (factor ≥ 0) of it."""
        check_range("factor", factor, "", 0, 1e12)
        mine = vars(self)
        return _sound({n: mine[n] * factor for n in self.there})

    __rmul__ = __mul__

    @cached_property
    def mass_g(self) -> Any:
        """Total mass [g]."""
        return self._total(_MASSES)

    @property
    def sugars_g(self) -> Any:
        """Sucrose, glucose and fructose [g]."""
        return self._total(_SUGARS)

    @cached_property
    def soluble_g(self) -> Any:
        """Soluble solids [g]; acetic acid is volatile and left out."""
        return self._total(_SOLUBLE)

    @property
    def acid_g(self) -> Any:
        """All acids together [g]."""
        return self._total(_ACIDS)

    @cached_property
    def brix(self) -> Any:
        """True soluble solids [g/100 g] of everything but the insoluble part.

        Raises:
            CannotTell: nothing but insoluble matter, or nothing at all.
        """
        liquid = self.mass_g - self.insoluble
        if least(liquid) <= 0:
            raise CannotTell("there is no liquid whose Brix could be told")
        return 100.0 * self.soluble_g / liquid

    @cached_property
    def volume_ml(self) -> Any:
        """Volume [mL] at 20 °C by apparent densities; acetic acid counts as volume-neutral."""
        solution = self.water + self.soluble_g
        share = self.soluble_g / np.maximum(solution, 1e-12)
        liquid = 1000.0 * solution / apparent_density_kg_m3(100.0 * share)
        volume = (
            liquid
            + self.ethanol / ETHANOL_G_ML
            + self.insoluble / INSOLUBLE_G_ML
            + self.peel_oil / PEEL_OIL_G_ML
        )
        return as_given(volume)

    def _total(self, names: frozenset[str]) -> Any:
        """Some of the parts together."""
        mine = vars(self)
        return sum((mine[n] for n in self.there if n in names), start=0.0)

    def portion(self, water: Values, solute: Values, solid: Values) -> Composition:
        """So much of its water, of all that is dissolved in it, and of what is not [-], each ≥ 0.

        >>> half = Composition(water=80, sucrose=10, insoluble=10).portion(0.5, 0.5, 0.0)
        >>> half.mass_g, half.insoluble
        (45.0, 0.0)
        """
        share, mine = {"water": water, "insoluble": solid}, vars(self)
        return _sound({n: mine[n] * share.get(n, solute) for n in self.there})

    def portion_g(self, water: float, solute: float, solid: float) -> float:
        """What such a portion weighs in the typical case [g].

        >>> Composition(water=80, sucrose=10, insoluble=10).portion_g(0.5, 0.5, 0.0)
        45.0
        """
        of_water, dry = typical(self.water), typical(self.insoluble)
        dissolved = typical(self.mass_g) - of_water - dry
        return of_water * water + dissolved * solute + dry * solid

    def without_water(self, grams: Values) -> Composition:
        """The same after driving off grams of water, as boiling down does; under 0 adds it."""
        water = _left("water", self.water, grams)
        return _sound({n: vars(self)[n] for n in self.there} | {"water": water})

    def inverted(self, share: Values) -> Composition:
        """The same once a share of its sucrose [-] is split into glucose and fructose.

        Splitting takes up water: 342.3 g and 18.0 g make 180.2 g of each; the mass stays.

        >>> split = Composition(water=50, sucrose=50).inverted(0.5)
        >>> round(split.mass_g, 6), round(split.sucrose, 1), round(split.glucose, 1)
        (100.0, 25.0, 13.2)
        """
        gone = self.sucrose * share
        taken_up = gone * (2.0 * HEXOSE_G_MOL / SUCROSE_G_MOL - 1.0)
        each = gone * HEXOSE_G_MOL / SUCROSE_G_MOL
        mine = {n: getattr(self, n) for n in self.there}
        return _sound(
            {**mine, "sucrose": self.sucrose - gone, "water": self.water - taken_up,
             "glucose": self.glucose + each, "fructose": self.fructose + each}
        )  # fmt: skip

    def first(self) -> Composition:
        """The typical case alone, out of a composition of draws."""
        return _sound({n: typical(getattr(self, n)) for n in self.there})


def _kept(parts: dict[str, Values]) -> dict[str, Values]:
    """Parts of which there is anything in any draw."""
    return {n: p for n, p in parts.items() if not isinstance(p, float) or p != 0.0}


def _sound(parts: dict[str, Values]) -> Composition:
    """A composition of amounts that are known to be sound, since they come of sound ones."""
    made = object.__new__(Composition)
    kept = _kept(parts)
    made.__dict__.update(kept, there=tuple(kept))
    return made


def _left(name: str, there: Values, gone: Values) -> Values:
    """What is left of one part; what rounding takes below nothing counts as nothing."""
    left = there - gone
    if name == "strong_base_mol":
        return left
    if least(left) >= 0:
        return left
    if not np.all(left >= -1e-6 * (1 + np.asarray(there))):
        raise CoreError(f"more {name} would come out than went in")
    return np.maximum(left, 0.0)


HEXOSE_G_MOL, SUCROSE_G_MOL = 180.156, 342.297
NAMES: tuple[str, ...] = tuple(f.name for f in fields(Composition))
MASSES: tuple[str, ...] = tuple(n for n in NAMES if not n.endswith("_mol"))
SOLUBLE: tuple[str, ...] = (
    *SUGARS, "other_soluble", "salt", "erythritol", *(n for n in charge.ACIDS if n != "acetic")
)  # fmt: skip
_MASSES, _SUGARS, _SOLUBLE, _ACIDS = map(frozenset, (MASSES, SUGARS, SOLUBLE, charge.ACIDS))


def of_fruit_juice(
    fruit_key: str,
    mass_g: Values,
    brix: Values | None = None,
    ph: Values | None = None,
    acid_pct: Values | None = None,
) -> Composition:
    """The composition of a fruit's undiluted juice; what is not given is typical of the fruit.

    Titratable acidity is not total acid: with N the acidity [eq/L], total acid is
    C = (N + [H]₈.₂ − [OH]₈.₂ − [H] + [OH]) / (z̄(8.2) − z̄(pH)) and the strong base that holds
    the pH up is B = C·z̄(pH) + [OH] − [H]. Sugars are the rest of the Brix.

    Args:
        fruit_key: key in data/fruits.csv.
        mass_g: juice [g], ≥ 0.
        brix: soluble solids [g/100 g], 0 to 40.
        ph: pH [-], 1.5 to 7.5.
        acid_pct: titratable acidity [g main acid/100 g juice], 0 to 12.

    Raises:
        Unknown: the fruit is not listed.
        CannotTell: no figure is typical and none was given, or acid exceeds the Brix.
        OutOfRange: a figure no juice has.

    Source: charge balance as in acid.ph; typical figures in data/fruits.csv.

    >>> from elderberry.core import acid
    >>> juice = of_fruit_juice("damson", 1000, brix=16, ph=3.0)
    >>> round(juice.brix, 6), round(acid.ph(juice), 4)
    (16.0, 3.0)
    """
    fruit = materials.fruit(fruit_key)
    brix = _given_or_typical(brix, fruit.brix, "Brix", fruit.name)
    ph = _given_or_typical(ph, fruit.ph, "pH", fruit.name)
    acid_pct = _given_or_typical(acid_pct, fruit.acid_pct, "acidity", fruit.name)
    check_range("Brix of a juice", brix, "°Bx", 0, 40)
    check_range("pH of a juice", ph, "pH", 1.5, 7.5)
    check_range("acidity of a juice", acid_pct, "%", 0, 12)
    check_range("mass", mass_g, "g", 0, 1e9)

    density = density_kg_m3(brix) / 1000.0
    litres = mass_g / (1000.0 * density)
    equivalents = 10.0 * acid_pct * density / charge.EQUIVALENT_G[fruit.main_acid]
    shares = {fruit.main_acid: fruit.main_acid_share}
    if fruit.second_acid:
        shares[fruit.second_acid] = 1.0 - fruit.main_acid_share
    total, base = charge.total_acid_and_base(equivalents, ph, shares)
    acid_g = {n: total * share * charge.MOLAR_G[n] * litres for n, share in shares.items()}
    solids = mass_g * brix / 100.0
    sugar = solids - sum(acid_g.values())
    if least(sugar) < 0:
        raise CannotTell(f"{fruit.name}: more acid than the Brix allows; measure both again")
    simple = sugar * (1.0 - fruit.sucrose_share) / 2.0
    return _sound(
        {
            "water": mass_g - solids,
            "sucrose": sugar * fruit.sucrose_share,
            "glucose": simple,
            "fructose": simple,
            "strong_base_mol": base * litres,
            **acid_g,
        }
    )


DRIED_WATER_SHARE = 0.10
DRIED_SOLUBLE_SHARE = 0.45
"""What hot water draws out of dried calyces, acids included [-]; published yields 0.4 to 0.6."""
DRIED_INFUSION_G_PER_L = 40.0
DRIED_INFUSION_PH = 2.5


def of_dried(
    fruit_key: str, mass_g: Values, ph: float | None = None, acid_pct: Values | None = None
) -> Composition:
    """The composition of dried calyces, from the acid that is typical per 100 g of them.

    Its strong base is what holds an infusion of 40 g/L at pH 2.5, or at the pH that was read.

    Args:
        fruit_key: key in data/fruits.csv, of something that is bought dried.
        mass_g: dried [g], ≥ 0.
        ph: of an infusion of 40 g/L [-], 1.8 to 4.
        acid_pct: titratable acidity [g main acid/100 g dried]; the typical one when not given.

    Raises:
        Unknown: not listed.
        CannotTell: it has no typical acidity.
        OutOfRange: a pH no such infusion has.

    Source: acidity in data/fruits.csv; soluble share and pH of infusions as published.

    >>> round(of_dried("hibiscus_dried", 100).citric, 2)
    7.65
    """
    fruit = materials.fruit(fruit_key)
    if fruit.acid_pct is None:
        raise CannotTell(f"nothing is typical of {fruit.name}: its acidity is needed")
    wanted = DRIED_INFUSION_PH if ph is None else ph
    check_range("pH of the infusion", wanted, "pH", 1.8, 4)
    shares = {fruit.main_acid: fruit.main_acid_share, fruit.second_acid: 1 - fruit.main_acid_share}
    sour = fruit.acid_pct.typ if acid_pct is None else acid_pct
    check_range("acidity", sour, "%", 0, 40)
    grams = {n: sour / 100.0 * s for n, s in shares.items() if n}
    litres = 1.0 / DRIED_INFUSION_G_PER_L
    moles = {n: g / charge.MOLAR_G[n] / litres for n, g in grams.items()}
    base = charge.base_for_ph(moles, wanted) * litres
    other = DRIED_SOLUBLE_SHARE - sum(grams.values())
    one = Composition(
        water=DRIED_WATER_SHARE,
        other_soluble=other,
        insoluble=1.0 - DRIED_WATER_SHARE - DRIED_SOLUBLE_SHARE,
        strong_base_mol=base,
        **grams,
    )
    return one * mass_g


def of_material(key: str, mass_g: Values) -> Composition:
    """The composition of an ingredient as sold.

    Args:
        key: key in data/ingredients.csv.
        mass_g: amount [g], ≥ 0.

    Raises:
        Unknown: the ingredient is not listed.

    Source: data/ingredients.csv.

    >>> of_material("honey", 1000).water
    172.0
    """
    check_range("mass", mass_g, "g", 0, 1e9)
    return _gram_of_material(key) * mass_g


@cache
def _gram_of_material(key: str) -> Composition:
    item = materials.ingredient(key)
    if item.key in {"salt", "erythritol"}:
        return Composition(**{item.key: 1.0})
    names = ("water", *SUGARS, "other_soluble", "insoluble", "ethanol")
    parts = {name: float(getattr(item, name)) for name in names}
    if not item.acid:
        return Composition(**parts)
    mix = Composition(**parts, **{item.acid: item.acid_fraction})
    if item.ph is None:
        return mix
    litres = mix.volume_ml / 1000.0
    held = charge.base_for_ph(
        charge.molarities({n: getattr(mix, n) for n in charge.ACIDS}, litres), item.ph
    )
    return mix + Composition(strong_base_mol=held * litres)


def of_water(mass_g: Values, alkalinity_mg_l: float = 0.0) -> Composition:
    """Kitchen water with its alkalinity [mg/L as CaCO₃, 0 to 600], which works against acid.

    >>> of_water(1000, 250).strong_base_mol > 0
    True
    """
    check_range("alkalinity", alkalinity_mg_l, "mg/L", 0, 600)
    moles = alkalinity_mg_l / 50040.0 * mass_g / 998.2
    return Composition(water=1.0 * mass_g, strong_base_mol=moles, carbonate_mol=moles)


def _given_or_typical(given: Values | None, typical: Any, what: str, name: str) -> Values:
    if given is not None:
        return given
    if typical is None:
        raise CannotTell(f"no {what} is typical of {name}: it has to be measured")
    return float(typical.typ)
