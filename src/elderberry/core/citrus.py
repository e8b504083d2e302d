"""Stretched citrus: peel, acid and water that stand in for fresh juice, in three ways.

One solver with free parameters; a way only says which of them are fixed at first. It is raw
peel oil, so it is chilled or frozen, never processed.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from elderberry.core import acid, materials, storage, tables
from elderberry.core.composition import Composition, of_fruit_juice
from elderberry.core.errors import CannotTell, Unknown, Unreachable, check_range
from elderberry.core.estimates import Estimate

SCHOOLS = ("by-peel", "by-litre", "by-match")
CITRUS = ("lemon", "lime", "orange", "grapefruit")
SOAPY_G_L = 120.0


@dataclass(frozen=True)
class Stretched:
    """What to weigh out [g], and what comes of it.

    acid_g_l is titratable acidity as citric acid; days are at 4 °C.
    """

    peel_g: float
    citric_g: float
    malic_g: float
    water_g: float
    juice_g: float
    sugar_g: float
    salt_g: float
    yield_ml: float
    acid_g_l: float
    brix: float
    ph: float
    replaces_fruit: float
    peel_g_per_l: float
    strength: str
    soapy: bool
    acid_pct_of_water: float
    acid_pct_of_whole: float
    days: Estimate
    composition: Composition


def stretch(peel_g: float, fruit: str, school: str = "by-match", **overrides: float) -> Stretched:
    """Amounts for stretched citrus from a mass of peel.

    Args:
        peel_g: thin peel [g], 1 to 100 000.
        fruit: lemon, lime, orange or grapefruit.
        school: by-peel, by-litre or by-match.
        overrides: any of acid_per_peel, water_per_acid, acid_per_litre, peel_per_litre,
            citric_share, sugar_share; acid_g_l, the titratable acidity as citric acid [g/L] that
            by-match comes to instead of the fresh juice's; and the amounts themselves: acid_g,
            citric_g, malic_g, water_g, juice_g, sugar_g, salt_g [g].

    Raises:
        Unknown: a fruit, school or parameter that is not known.
        OutOfRange: a figure outside its limits.
        Unreachable: the fresh juice's acidity cannot be matched.

    Source: data/citrus.toml; fresh juice from data/fruits.csv; charge balance.

    >>> made = stretch(100, "lime", "by-peel")
    >>> round(made.citric_g, 1), round(made.malic_g, 1), round(made.water_g)
    (42.0, 18.0, 1020)
    >>> matched = stretch(100, "lime")
    >>> fresh = acid.titratable_acidity_g_l(of_fruit_juice("lime", 1000))
    >>> round(matched.acid_g_l / fresh, 4)
    1.0
    """
    check_range("peel", peel_g, "g", 1, 1e5)
    if fruit not in CITRUS:
        raise Unknown("citrus fruit", fruit)
    if school not in SCHOOLS:
        raise Unknown("school", school)
    ways = tables.document("citrus")
    settings = {**ways[school], **ways["made"]}
    known = {k for s in SCHOOLS for k in ways[s]} | set(ways["made"]) | _AMOUNTS | {"acid_g_l"}
    for name, value in overrides.items():
        if name not in known:
            raise Unknown("parameter", name)
        check_range(name, value, "", 0, 1.0 if name.endswith("share") else 1e6)
    settings |= overrides
    return _finish(peel_g, fruit, _amounts(peel_g, fruit, school, settings))


_AMOUNTS = {"acid_g", "citric_g", "malic_g", "water_g", "juice_g", "sugar_g", "salt_g"}


def piece_g(fruit: str) -> float:
    """A whole fruit of a kind [g].

    Raises:
        CannotTell: nobody knows.

    Source: data/fruits.csv.
    """
    known = materials.fruit(fruit).piece_g
    if known is None:
        raise CannotTell(f"nothing is known of how much a {fruit} weighs")
    return known


def held_by_peel_g(peel_g: float) -> float:
    """Liquid that strained and pressed peel keeps [g]."""
    return peel_g * float(tables.document("citrus")["made"]["held_by_peel"])


def peel_solubles_g(peel_g: float) -> float:
    """Solubles that peel gives [g]."""
    return peel_g * float(tables.document("citrus")["made"]["peel_solubles"])


def fresh_acid_g_l(fruit: str) -> float:
    """Titratable acidity of the fresh juice, as citric acid [g/L].

    Source: data/fruits.csv.
    """
    return float(acid.titratable_acidity_g_l(of_fruit_juice(fruit, 1000.0)))


def peel_of(fruit: str, count: float) -> float:
    """Thin peel [g] of so many whole fruit.

    Raises:
        CannotTell: no peel share is known of it.

    Source: data/fruits.csv.

    >>> round(peel_of("lime", 10))
    70
    """
    kind = materials.fruit(fruit)
    if kind.piece_g is None or kind.zest_share is None:
        raise CannotTell(f"no peel share is known of {kind.name}")
    check_range("fruit", count, "", 0, 1e5)
    return count * kind.piece_g * kind.zest_share


def stretch_to_volume(
    volume_ml: float, fruit: str, school: str = "by-match", **overrides: float
) -> Stretched:
    """Amounts for a wanted volume [mL], 10 to 1 000 000: the same recipe, scaled by its peel.

    Raises:
        OutOfRange, Unknown, Unreachable: as stretch.

    Source: every amount is proportional to the peel.

    >>> round(stretch_to_volume(1000, "lemon").yield_ml)
    1000
    """
    check_range("volume", volume_ml, "mL", 10, 1e6)
    if set(overrides) & _AMOUNTS:
        raise CannotTell("for a wanted volume give shares, not amounts")
    trial = stretch(100.0, fruit, school, **overrides)
    return stretch(100.0 * volume_ml / trial.yield_ml, fruit, school, **overrides)


def _amounts(
    peel_g: float, fruit: str, school: str, settings: Mapping[str, Any]
) -> dict[str, float]:
    """Grams of everything that is added, by the school's way or as given."""
    given = {k: float(settings[k]) for k in _AMOUNTS if k in settings}
    fixed = {k: given.get(k, 0.0) for k in ("juice_g", "salt_g")}
    if school == "by-peel":
        sour = given.get("acid_g", peel_g * settings["acid_per_peel"])
        water = given.get("water_g", sour * settings["water_per_acid"])
    else:
        water = given.get("water_g", 1000.0 * peel_g / settings["peel_per_litre"])
        sour = given.get("acid_g", water / 1000.0 * settings.get("acid_per_litre", 0.0))
    sugar = given.get("sugar_g", 0.0)
    share = settings.get("citric_share", 1.0)
    if school == "by-match":
        fresh = of_fruit_juice(fruit, 1000.0)
        per_gram = float(fresh.sugars_g) / 1000.0 * settings["sugar_share"]
        sugar = given.get("sugar_g", per_gram * water)
        share = settings.get("citric_share", _citric_share(fresh))
        if "acid_g" not in given:
            goal = settings.get("acid_g_l") or fresh_acid_g_l(fruit)
            sour = _matching_acid(
                peel_g, fruit, {**fixed, "water_g": water, "sugar_g": sugar}, share, goal
            )
    return {
        **fixed,
        "water_g": water,
        "sugar_g": sugar,
        "citric_g": given.get("citric_g", sour * share),
        "malic_g": given.get("malic_g", sour * (1.0 - share)),
    }


def _citric_share(fresh: Composition) -> float:
    """Citric acid's share [-, by mass] of the fresh juice's citric and malic acid."""
    return float(fresh.citric / (fresh.citric + fresh.malic))


def _matching_acid(
    peel_g: float, fruit: str, amounts: Mapping[str, float], share: float, goal: float
) -> float:
    """Grams of acid with which the drink has the titratable acidity that is wanted [g/L]."""
    low, high = 0.0, 2.0 * float(amounts["water_g"]) + 1.0

    def reached(grams: float) -> float:
        sour = {"citric_g": grams * share, "malic_g": grams * (1.0 - share)}
        drink = _mixed(peel_g, fruit, {**amounts, **sour})
        return float(acid.titratable_acidity_g_l(drink))

    if reached(0.0) > goal or reached(high) < goal:
        raise Unreachable("that acidity cannot be had with this", goal)
    for _ in range(60):
        middle = 0.5 * (low + high)
        low, high = (middle, high) if reached(middle) < goal else (low, middle)
    return high


def _mixed(peel_g: float, fruit: str, amounts: Mapping[str, float]) -> Composition:
    """The strained drink before what the peel holds back is taken off."""
    base = Composition(
        water=amounts["water_g"],
        sucrose=amounts["sugar_g"],
        citric=amounts["citric_g"],
        malic=amounts["malic_g"],
        salt=amounts["salt_g"],
        other_soluble=peel_solubles_g(peel_g),
    )
    juice = amounts["juice_g"]
    return base + of_fruit_juice(fruit, juice) if juice > 0 else base


def _finish(peel_g: float, fruit: str, amounts: Mapping[str, float]) -> Stretched:
    whole = _mixed(peel_g, fruit, amounts)
    held = held_by_peel_g(peel_g)
    kept = max(0.0, 1.0 - held / float(whole.mass_g))
    drink = whole * kept
    sour = amounts["citric_g"] + amounts["malic_g"]
    strength = 1000.0 * peel_g / max(amounts["water_g"], 1e-9)
    kind = materials.fruit(fruit)
    per_fruit_ml = (kind.piece_g or 0.0) * (kind.press_l_per_kg.typ if kind.press_l_per_kg else 0.0)
    yield_ml = float(drink.volume_ml)
    return Stretched(
        peel_g=peel_g,
        **amounts,
        yield_ml=yield_ml,
        acid_g_l=float(acid.titratable_acidity_g_l(drink)),
        brix=float(drink.brix),
        ph=float(acid.ph(drink)),
        replaces_fruit=yield_ml / per_fruit_ml if per_fruit_ml else 0.0,
        peel_g_per_l=strength,
        strength=_strength(strength),
        soapy=strength > SOAPY_G_L,
        acid_pct_of_water=100.0 * sour / max(amounts["water_g"], 1e-9),
        acid_pct_of_whole=100.0 * sour / float(whole.mass_g),
        days=_days(amounts, yield_ml),
        composition=drink,
    )


def _strength(peel_g_per_l: float) -> str:
    edges = tables.document("citrus")["strength"]
    for word in ("thin", "rounded", "strong"):
        if peel_g_per_l <= edges[word]:
            return word
    return "soapy"


def _days(amounts: Mapping[str, float], yield_ml: float) -> Estimate:
    """Days it keeps at 4 °C: clear and unsweetened to the upper end; sugar and juice shorten it."""
    row = storage.life_row("chilled_unopened", "stretched_citrus")
    sugar = min(1.0, 10.0 * amounts["sugar_g"] / yield_ml)
    juice = min(1.0, 4.0 * amounts["juice_g"] / yield_ml)
    typ = row.days_hi - (row.days_hi - row.days_lo) * min(1.0, 0.4 + 0.3 * sugar + 0.3 * juice)
    return Estimate(row.days_lo, max(row.days_lo, typ), row.days_hi)
