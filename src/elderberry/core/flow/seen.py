"""What was read of a lot, or seen of a step, and what it makes of the lot from there on."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from elderberry.core import acid
from elderberry.core.charge import ACIDS, base_for_ph, molarities
from elderberry.core.composition import Composition, of_material
from elderberry.core.errors import CannotTell
from elderberry.core.estimates import Evidence, normal_scores
from elderberry.core.flow.lots import Figures, Lot, Mix, Source
from elderberry.core.numbers import Array, Values, bisect, typical

JUG_SHARE, SCALE_SHARE, BRIX_ERROR, PH_ERROR = 0.03, 0.01, 0.3, 0.1
"""Half-widths of the 80 % range of jug and scale [-], refractometer [°Bx] and pH meter [pH]."""
Z90 = 1.2816
_AMOUNT, _BRIX = 0, 1


@dataclass(frozen=True)
class Seen:
    """What was read of a lot, the newest of each; pH by a meter in the order it was read.

    meter: each reading by a meter, or None where acid was stirred into it at that moment.
    acids: what of constant strength was stirred into it beyond the plan, each with its grams.
    """

    volume_ml: float | None = None
    mass_g: float | None = None
    brix: float | None = None
    brix_error: float = BRIX_ERROR
    """Half-width of the 80 % range of how sweet it was read [°Bx]."""
    water_g: float = 0.0
    """Water that went into it beyond the plan since it was read [g]."""
    lost: float = 0.0
    """Share of it that was spilled since it was read, 0 to 1 [-]."""
    meter: tuple[float | None, ...] = ()
    acids: tuple[tuple[str, float], ...] = ()


@dataclass(frozen=True)
class StepSeen:
    """What was seen of an operation: heat that it really gave, and water by the pot's depth.

    boiled_min: minutes at the boil [min]; None while it is not over. hottest_c: as a thermometer
    read it [°C]. water_l: water that it was found to hold [L].
    """

    boiled_min: float | None = None
    hottest_c: float | None = None
    water_l: float | None = None


def as_seen(lot: Lot, seen: Seen, boiled: bool = False) -> Lot:
    """A lot as it was read: amount, sweetness and acidity hold from here on.

    boiled: only water has left it since it was last known, so that of amount and sweetness the one
    that was read tells the other.
    """
    mix = lot.mix
    evidence = lot.figures.evidence
    weighed = seen.volume_ml is not None or seen.mass_g is not None
    sure = Evidence.MEASURED if seen.brix_error <= BRIX_ERROR else Evidence.READ
    if weighed and boiled and seen.brix is None:
        mix, evidence = _boiled_to(mix, seen), Evidence.MEASURED
    elif weighed:
        mix, evidence = _so_much(mix, seen), Evidence.MEASURED
    if seen.brix is not None and boiled and not weighed:
        mix, evidence = _boiled_to(mix, seen), sure
    elif seen.brix is not None:
        mix, evidence = _so_sweet(mix, seen.brix, seen.brix_error), sure
    mix = _since(mix, lot.key, seen)
    for ph in seen.meter[-1:]:
        if ph is not None:
            mix = _so_sharp(mix, ph)
    read = replace(lot, figures=Figures(mix.composition, evidence), origins=mix.origins)
    for ph in seen.meter:
        read = (
            replace(read, acidity=read.acidity.acidified()) if ph is None else read.meter_shows(ph)
        )
    return read


def _since(mix: Mix, key: str, seen: Seen) -> Mix:
    """With what was spilled of it, or went into it beyond the plan, since it was read."""
    if seen.lost > 0.0:
        mix = mix.portion(1.0 - seen.lost, 1.0 - seen.lost)
    if seen.water_g > 0.0:
        added = of_material("water", seen.water_g)
        mix = mix + Mix.of(Source(f"back_{key}", "water", "as_sold", added))
    for number, (material, grams) in enumerate(seen.acids):
        held = of_material(material, grams)
        mix = mix + Mix.of(Source(f"acid_{number}_{key}", material, "as_sold", held))
    return mix


def _boiled_to(mix: Mix, seen: Seen) -> Mix:
    """With so much water gone, or less of it, as its mass, volume or sweetness was read."""
    whole = mix.composition
    drawn = bool(np.ndim(whole.mass_g))
    liquid = whole.mass_g - whole.insoluble
    if seen.brix is not None:
        spread = seen.brix_error / Z90 * normal_scores(_BRIX) if drawn else 0.0
        wanted = np.maximum(seen.brix + spread, 0.5) / 100.0
        gone = liquid - whole.soluble_g / wanted
    elif seen.mass_g is not None:
        error = 1.0 + SCALE_SHARE / Z90 * normal_scores(_AMOUNT) if drawn else 1.0
        gone = whole.mass_g - seen.mass_g * error
    else:
        error = 1.0 + JUG_SHARE / Z90 * normal_scores(_AMOUNT) if drawn else 1.0
        gone = _off_to_volume(whole, (seen.volume_ml or 0.0) * error)
    return mix.without_water(np.minimum(gone, MOST_GONE * np.asarray(whole.water)))


MOST_GONE = 0.98


def _off_to_volume(whole: Composition, volume_ml: Values) -> Values:
    """Water whose going leaves so much [g]; less than nothing where there is more than known."""

    most = MOST_GONE * np.asarray(whole.water)

    def too_much(gone: Array) -> Any:
        return whole.without_water(np.minimum(gone, most)).volume_ml - volume_ml

    found: Values = bisect(too_much, -2.0 * np.asarray(whole.mass_g), most)
    return found


def _so_much(mix: Mix, seen: Seen) -> Mix:
    there, read, share = (
        (mix.composition.mass_g, seen.mass_g, SCALE_SHARE)
        if seen.mass_g is not None
        else (mix.composition.volume_ml, seen.volume_ml or 0.0, JUG_SHARE)
    )
    error = 1.0 + share / Z90 * normal_scores(_AMOUNT) if np.ndim(there) else 1.0
    factor = read * error / np.maximum(there, 1e-9)
    return mix.portion(factor, factor)


def _so_sweet(mix: Mix, brix: float, error: float) -> Mix:
    """The same mass of liquid with the solutes that a refractometer found."""
    whole = mix.composition
    solute = whole.soluble_g
    if typical(solute) <= 0:
        return mix
    spread = error / Z90 * normal_scores(_BRIX) if np.ndim(solute) else 0.0
    liquid = whole.mass_g - whole.insoluble
    wanted = np.maximum(brix + spread, 0.05) / 100.0 * liquid
    more = wanted / np.maximum(solute, 1e-9)
    water = np.maximum(1.0 - (wanted - solute) / np.maximum(whole.water, 1e-9), 0.01)
    return mix.portion(water, 1.0, more)


def _so_sharp(mix: Mix, ph: float) -> Mix:
    """The same with the strong base that holds it at the pH a meter showed."""
    whole = mix.composition
    try:
        acid.ph(whole)
    except CannotTell:
        return mix
    litres = whole.volume_ml / 1000.0
    moles = molarities({n: getattr(whole, n) for n in ACIDS}, litres)
    base = base_for_ph(moles, ph) * litres
    held = Composition(strong_base_mol=base - whole.strong_base_mol)
    return Mix(whole + held, mix.origins)
