"""Solving for a target: how much of what brings a quantity to where it should be.

What cannot be reached raises Unreachable, which says why and names the nearest that can.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from elderberry.core import acid, water
from elderberry.core.composition import Composition, of_material, of_water
from elderberry.core.errors import CannotTell, Past, Unreachable, check_range


@dataclass(frozen=True)
class Solved:
    """Grams of something to add (or drive off), and what comes of it."""

    amount_g: float
    result: Composition


@dataclass(frozen=True)
class SolvedTwo:
    """Grams of two things that reach two targets at once."""

    sugar_g: float
    acid_g: float
    result: Composition


@dataclass(frozen=True)
class BoiledDown:
    """Water to drive off [g], what stays, where it boils then [°C], and the minutes it takes."""

    water_g: float
    result: Composition
    boils_at_c: float
    minutes: float | None


@dataclass(frozen=True)
class Blended:
    """The share of the first [-, by mass] in a blend, and the blend of one gram."""

    share: float
    result: Composition


def sweeten(
    composition: Composition, target_brix: float, with_material: str = "sugar_white"
) -> Solved:
    """Sugar, honey or any sweet ingredient to bring a quantity to a Brix.

    x = (b L − 100 S) / (100 s − b l), with S and s the soluble solids and L and l the liquid of
    the quantity and of one gram of the ingredient.

    Args:
        composition: what is sweetened (typical case).
        target_brix: wanted Brix [g/100 g], 0 to 100.
        with_material: ingredient key.

    Raises:
        Unreachable: it is sweeter already, or the ingredient is not that strong.
        Unknown: the ingredient is not listed.
        OutOfRange: a target outside its limits.

    Source: mass balance on soluble solids.

    >>> juice = Composition(water=880, sucrose=120)
    >>> round(sweeten(juice, 50).amount_g), round(sweeten(juice, 50, "honey").amount_g)
    (760, 1159)
    """
    check_range("target Brix", target_brix, "°Bx", 0, 100)
    now, one = float(composition.brix), of_material(with_material, 1.0)
    if target_brix < now - 1e-9:
        raise Unreachable(f"it has {now:.1f} °Bx already: thin it with water instead", now)
    strength = float(one.brix)
    if target_brix >= strength:
        raise Unreachable(
            f"{with_material} itself has {strength:.0f} °Bx: boil down instead", strength
        )
    liquid = float(composition.mass_g - composition.insoluble)
    needed = target_brix * liquid - 100.0 * float(composition.soluble_g)
    per_gram = 100.0 * float(one.soluble_g) - target_brix * float(one.mass_g - one.insoluble)
    grams = max(0.0, needed / per_gram)
    return Solved(grams, composition + one * grams)


def thin(composition: Composition, target_brix: float, alkalinity_mg_l: float = 0.0) -> Solved:
    """Water to thin a quantity to a Brix.

    Args:
        composition: what is thinned (typical case).
        target_brix: wanted Brix [g/100 g], above 0, to 100.
        alkalinity_mg_l: the kitchen's water [mg/L as CaCO₃], 0 to 600.

    Raises:
        Unreachable: it is thinner already.
        OutOfRange: a figure outside its limits.

    Source: mass balance on soluble solids.

    >>> round(thin(Composition(water=300, sucrose=700), 65).amount_g, 1)
    76.9
    """
    check_range("target Brix", target_brix, "°Bx", 1e-6, 100)
    now = float(composition.brix)
    if target_brix > now + 1e-9:
        raise Unreachable(f"it has only {now:.1f} °Bx: sweeten or boil down instead", now)
    liquid = float(composition.mass_g - composition.insoluble)
    grams = max(0.0, 100.0 * float(composition.soluble_g) / target_brix - liquid)
    return Solved(grams, composition + of_water(grams, alkalinity_mg_l))


def acidify_to_ph(
    composition: Composition, target_ph: float, with_material: str = "citric_acid"
) -> Solved:
    """Acid, bottled lemon juice or vinegar to bring a quantity to a pH [-], 1.5 to 7.

    Raises:
        Past: it is below already; nearest is where it stands.
        Unreachable: no amount of this gets there; names the nearest.
        OutOfRange: a target outside its limits.

    Source: acid.acidify.

    >>> from elderberry.core.composition import of_fruit_juice
    >>> solved = acidify_to_ph(of_fruit_juice("plum", 1000), 3.2)
    >>> round(acid.ph(solved.result), 3)
    3.2
    """
    try:
        grams = acid.acidify(composition, target_ph, with_material)
    except Past:
        raise
    except Unreachable as why:
        raise Unreachable(str(why), float(acid.ph(of_material(with_material, 1.0)))) from why
    return Solved(grams, composition + of_material(with_material, grams))


def acidify_to_acidity(
    composition: Composition,
    target_g_l: float,
    with_material: str = "citric_acid",
    as_acid: str = "citric",
) -> Solved:
    """Acid ingredient to bring a quantity to a titratable acidity.

    Args:
        composition: what is acidified (typical case).
        target_g_l: wanted acidity [g/L], 0 to 400.
        with_material: ingredient key.
        as_acid: the acid it is expressed in.

    Raises:
        Past: it is there already.
        Unreachable: the ingredient is not that sharp.
        OutOfRange: a target outside its limits.

    Source: bracketing on titratable_acidity_g_l.

    >>> solved = acidify_to_acidity(Composition(water=900, sucrose=100), 6.0)
    >>> round(solved.amount_g, 1)
    5.8
    """
    check_range("target acidity", target_g_l, "g/L", 0, 400)
    one = of_material(with_material, 1.0)

    def reached(mix: Composition) -> float:
        return float(acid.titratable_acidity_g_l(mix, as_acid))

    now = reached(composition)
    if now > target_g_l + 1e-9:
        raise Past(f"it has {now:.1f} g/L already: thin or sweeten it instead", now)
    most = 20.0 * float(composition.mass_g)
    strongest = reached(composition + one * most)
    if strongest < target_g_l:
        raise Unreachable(f"{with_material} is not sharp enough for that", strongest)
    grams = _bracket(lambda g: target_g_l - reached(composition + one * g), 0.0, most)
    return Solved(grams, composition + one * grams)


def boil_down(
    composition: Composition,
    *,
    brix: float | None = None,
    volume_share: float | None = None,
    boiling_c: float | None = None,
    altitude_m: float = 0.0,
    pressure_pa: float | None = None,
    rate_kg_h: float | None = None,
) -> BoiledDown:
    """Water to drive off to reach a Brix, a share of the volume, or a boiling temperature here.

    Give one target. "By a third" means volume_share 2/3: volume, not mass.

    Args:
        composition: the pot (typical case).
        brix: wanted Brix [g/100 g], up to 95.
        volume_share: wanted share of the volume [-], 0 to 1.
        boiling_c: wanted boiling temperature [°C].
        altitude_m: altitude [m].
        pressure_pa: barometer [Pa], overrides the altitude.
        rate_kg_h: evaporation, measured or from heat.evaporation_kg_h [kg/h]; for the minutes.

    Raises:
        CannotTell: no target, or more than one.
        Unreachable: the pot is past the target already, or it cannot be got by boiling.
        OutOfRange: a figure outside its limits.

    Source: mass balance; water.boiling_point_c.

    >>> pot = Composition(water=880, sucrose=120)
    >>> down = boil_down(pot, brix=60, rate_kg_h=2.0)
    >>> round(down.water_g), round(down.boils_at_c, 1), round(down.minutes)
    (800, 103.1, 24)
    """
    targets = [t for t in (brix, volume_share, boiling_c) if t is not None]
    if len(targets) != 1:
        raise CannotTell("give one target: a Brix, a share of the volume or a boiling point")
    whole = float(composition.volume_ml)

    def boils(pot: Composition) -> float:
        return float(water.boiling_point_c(pot, altitude_m, pressure_pa))

    if brix is not None:
        check_range("target Brix", brix, "°Bx", 0, 95)
        grams = _drive_off(composition, brix, lambda pot: float(pot.brix))
    elif volume_share is not None:
        check_range("share of the volume", volume_share, "", 0, 1)
        grams = _drive_off(composition, -volume_share, lambda pot: -float(pot.volume_ml) / whole)
    else:
        check_range("boiling temperature", targets[0], "°C", 40, 160)
        plain = float(water.boiling_point_c(None, altitude_m, pressure_pa))
        if targets[0] < plain:
            raise Unreachable(f"water itself boils at {plain:.1f} °C here, and no pot below", plain)
        grams = _drive_off(composition, targets[0], boils)
    result = composition.without_water(grams)
    minutes = None if rate_kg_h is None else _minutes(grams, rate_kg_h)
    return BoiledDown(grams, result, boils(result), minutes)


def measured_rate_kg_h(composition: Composition, volume_ml: float, minutes: float) -> float:
    """Evaporation of a pan [kg/h] from two volumes: what was in it, and what is left of it.

    The volumes are those at 20 °C, or both as hot as they boil; a jug is good to 3 %, so let a
    quarter go before trusting it.

    Args:
        composition: the pot at the start (typical case).
        volume_ml: what is left of it [mL], above 0.
        minutes: of boiling between the two [min], 1 to 1440.

    Raises:
        Unreachable: more is left than there was, or less than boiling can leave.
        OutOfRange: a figure outside its limits.

    Source: mass balance; ICUMSA density.

    >>> pot = Composition(water=880, sucrose=120)
    >>> left = boil_down(pot, brix=30).result.volume_ml
    >>> round(measured_rate_kg_h(pot, left, 20), 2)
    1.8
    """
    check_range("volume", volume_ml, "mL", 1e-6, 1e9)
    check_range("boiling", minutes, "min", 1, 1440)
    share = volume_ml / float(composition.volume_ml)
    if share > 1:
        raise Unreachable("more is left than there was: read the jug again", 1.0)
    return boil_down(composition, volume_share=share).water_g / 1000.0 / (minutes / 60.0)


def _drive_off(
    composition: Composition, goal: float, measure: Callable[[Composition], float]
) -> float:
    """Grams of water after which a measure that rises with boiling reaches its goal."""
    most = 0.999 * float(composition.water)
    now, last = measure(composition), measure(composition.without_water(most))
    if now > goal + 1e-9:
        raise Past("the pot is past that already: thin it with water", abs(now))
    if last < goal:
        raise Unreachable("boiling alone does not get there", abs(last))
    return _bracket(lambda g: goal - measure(composition.without_water(g)), 0.0, most)


def _minutes(grams: float, rate_kg_h: float) -> float:
    check_range("evaporation", rate_kg_h, "kg/h", 0.01, 100)
    return 60.0 * grams / 1000.0 / rate_kg_h


def blend(
    one: Composition, other: Composition, target: float, measure: Callable[[Composition], float]
) -> Blended:
    """The share of one in a blend of two that reaches a target of any measure between theirs.

    Args:
        one: any amount of the first.
        other: any amount of the second.
        target: wanted value, between the two.
        measure: such as acid.ph or a function that gives the Brix.

    Raises:
        Unreachable: the target does not lie between the two; names the nearer of them.

    Source: bracketing on the blend of unit masses.

    >>> sweet, thin_ = Composition(water=40, sucrose=60), Composition(water=90, sucrose=10)
    >>> round(blend(sweet, thin_, 35, lambda c: float(c.brix)).share, 6)
    0.5
    """
    first, second = one * (1.0 / float(one.mass_g)), other * (1.0 / float(other.mass_g))
    ends = float(measure(first)), float(measure(second))
    if not min(ends) <= target <= max(ends):
        nearest = min(ends, key=lambda e: abs(e - target))
        raise Unreachable(
            f"a blend of these lies between {min(ends):.2f} and {max(ends):.2f}", nearest
        )

    def mixed(share: float) -> Composition:
        return first * share + second * (1.0 - share)

    sign = 1.0 if ends[0] >= ends[1] else -1.0
    share = _bracket(lambda s: sign * (target - float(measure(mixed(s)))), 0.0, 1.0)
    return Blended(share, mixed(share))


def sweeten_and_acidify(
    composition: Composition,
    target_brix: float,
    target_ph: float,
    sugar: str = "sugar_white",
    sour: str = "citric_acid",
) -> SolvedTwo:
    """Sugar and acid that bring a quantity to a Brix and a pH at once.

    Args:
        composition: what is made up (typical case).
        target_brix: wanted Brix [g/100 g].
        target_ph: wanted pH [-].
        sugar: ingredient key.
        sour: ingredient key.

    Raises:
        Unreachable: one of the two cannot be had with these.
        OutOfRange: a target outside its limits.

    Source: the two solutions in turn until neither moves.

    >>> from elderberry.core.composition import of_fruit_juice
    >>> both = sweeten_and_acidify(of_fruit_juice("plum", 1000), 50, 3.2)
    >>> round(float(both.result.brix), 3), round(acid.ph(both.result), 3)
    (50.0, 3.2)
    """
    acid_g = 0.0
    for _ in range(60):
        soured = composition + of_material(sour, acid_g)
        sugar_g = sweeten(soured, target_brix, sugar).amount_g
        sweetened = composition + of_material(sugar, sugar_g)
        following = acidify_to_ph(sweetened, target_ph, sour).amount_g
        if abs(following - acid_g) < 1e-7 * (1.0 + following):
            break
        acid_g = following
    result = composition + of_material(sugar, sugar_g) + of_material(sour, following)
    return SolvedTwo(sugar_g, following, result)


def scale_to_volume(composition: Composition, volume_ml: float) -> Composition:
    """As much of the same as fills a volume [mL], such as twelve half-pints.

    Raises:
        OutOfRange: a negative volume.
        CannotTell: there is nothing to scale.

    Source: proportion.

    >>> round(float(scale_to_volume(Composition(water=40, sucrose=60), 12 * 237).mass_g))
    3659
    """
    check_range("volume", volume_ml, "mL", 0, 1e9)
    now = float(composition.volume_ml)
    if now <= 0:
        raise CannotTell("there is nothing to scale")
    return composition * (volume_ml / now)


def scale_to_mass(composition: Composition, mass_g: float) -> Composition:
    """As much of the same as a mass [g] makes, such as the fruit at hand.

    Raises:
        OutOfRange: a negative mass.
        CannotTell: there is nothing to scale.

    Source: proportion.

    >>> float(scale_to_mass(Composition(water=40, sucrose=60), 250).sucrose)
    150.0
    """
    check_range("mass", mass_g, "g", 0, 1e9)
    now = float(composition.mass_g)
    if now <= 0:
        raise CannotTell("there is nothing to scale")
    return composition * (mass_g / now)


def _bracket(short_of: Callable[[float], float], low: float, high: float) -> float:
    """The root of a falling function of one number."""
    for _ in range(80):
        middle = 0.5 * (low + high)
        low, high = (middle, high) if short_of(middle) > 0 else (low, middle)
    return 0.5 * (low + high)
