"""Sums of the kitchen: one question each, with its answer and what else is known then."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from typing import Literal

from elderberry.core import heat, jars, materials, serving, solve, texture, water
from elderberry.core.composition import Composition, of_material
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.kitchen import Kitchen
from elderberry.core.operations.reducing import PAN_SPREAD
from elderberry.core.wording import figure

Quantity = Literal["volume_ml", "little_ml", "mass_g", "brix", "temp_c", "depth_cm", "minutes",
                   "parts", "percent", "degrees", "words"]  # fmt: skip


@dataclass(frozen=True)
class Said:
    """A figure of a sum, or words; the page says it in the kitchen's units."""

    key: str
    label: str
    quantity: Quantity
    value: Estimate | None = None
    words: str = ""


@dataclass(frozen=True)
class Sum:
    """What a sum comes to: the answer, what else is known then, and what its picture shows.

    draws: figures of the picture in base units or shares; refused: why there is no answer.
    """

    answer: Said
    then: list[Said] = field(default_factory=list)
    note: str = ""
    draws: dict[str, float] = field(default_factory=dict)


def _exact(value: float) -> Estimate:
    return Estimate(value, value, value, Evidence.MEASURED)


def _said(key: str, label: str, quantity: Quantity, value: float) -> Said:
    return Said(key, label, quantity, _exact(value))


def _words(key: str, label: str, words: str) -> Said:
    return Said(key, label, "words", None, words)


def _cold(brix: float) -> Said:
    """How a syrup pours at 20 °C."""
    return _words("pours", "cold it", texture.pours(texture.viscosity_mpa_s(min(brix, 86.0), 20)))


def syrup(volume_ml: float, brix: float) -> Composition:
    """So much of a liquid as sweet as that, of sugar and water [mL, °Bx]."""
    one = of_material("sugar_white", brix) + of_material("water", 100.0 - brix)
    return one * (volume_ml / float(one.volume_ml))


def boils_c(here: Kitchen, mix: Composition) -> float:
    """Where something boils in this kitchen [°C]."""
    return float(water.boiling_point_c(mix, here.altitude_m or 0.0, here.pressure_pa))


def sweeten(here: Kitchen, volume_ml: float, brix: float, target: float, material: str) -> Sum:
    """What brings a liquid to a Brix: a sweetener, or water where it is sweeter already."""
    pot = syrup(volume_ml, brix)
    thins = target < brix
    solved = solve.thin(pot, target) if thins else solve.sweeten(pot, target, material)
    name = "water" if thins else materials.ingredient(material).name.lower()
    poured = float(solved.result.volume_ml)
    return Sum(
        _said("add", f"{name} to put in", "mass_g", solved.amount_g),
        [
            _said("volume", "there is then", "volume_ml", poured),
            _said("more", "which is more by", "little_ml", poured - volume_ml),
            _said("boils", "it boils here at", "temp_c", boils_c(here, solved.result)),
            _cold(target),
        ],
        draws={"before": volume_ml, "after": poured, "brix": target, "grams": solved.amount_g},
    )


StopAt = Literal["brix", "share", "depth", "temp"]


def boil_down(
    here: Kitchen, volume_ml: float, brix: float, width_cm: float, stop: StopAt, target: float
) -> Sum:
    """How long a pot boils until it is as sweet, as low or as hot as it should be."""
    pot = syrup(volume_ml, brix)
    deep_cm = depth_cm(volume_ml, width_cm)
    rate = heat.evaporation_kg_h(here.burner_kw, here.burner_kind)
    goal = {
        "brix": {"brix": target},
        "share": {"volume_share": target / 100.0},
        "depth": {"volume_share": target / deep_cm},
        "temp": {"boiling_c": target},
    }[stop]
    down = solve.boil_down(
        pot, **goal, altitude_m=here.altitude_m or 0.0, pressure_pa=here.pressure_pa,
        rate_kg_h=rate,
    )  # fmt: skip
    left, minutes = float(down.result.volume_ml), down.minutes or 0.0
    lo, hi = PAN_SPREAD
    at = float(down.result.brix)
    return Sum(
        Said("minutes", "it will take", "minutes",
             Estimate(minutes * lo, minutes, minutes * hi, Evidence.TYPICAL)),
        [
            _said("left", "then there is", "volume_ml", left),
            _said("depth", "it stands deep", "depth_cm", depth_cm(left, width_cm)),
            _said("brix", "it is as sweet as", "brix", at),
            _said("boils", "it boils at", "temp_c", down.boils_at_c),
            _cold(at),
            _words("jars", "which is", _half_pints(here, left)),
        ],
        f"{figure(rate, 'kg')} of water an hour from this ring; "
        "two readings of the pot would tell better",
        {"before": deep_cm, "after": depth_cm(left, width_cm), "brix": at, "width": width_cm},
    )  # fmt: skip


def depth_cm(volume_ml: float, width_cm: float) -> float:
    """How deep so much stands in a round pot of an inner width [cm]."""
    return float(volume_ml / (math.pi * (width_cm / 2.0) ** 2))


def _half_pints(here: Kitchen, volume_ml: float) -> str:
    kind = jars.kind("half_pint")
    return f"{volume_ml / kind.nominal_ml:.1f} {kind.named(here.units)}s"


def thermometer(here: Kitchen, brix: float, reads_c: float | None) -> Sum:
    """Where a syrup boils here, or how sweet one is that boils as hot as the thermometer reads."""
    plain = here.boiling_point_c
    if reads_c is not None:
        brix = float(water.brix_from_boiling_point(reads_c, here.altitude_m or 0.0))
        around = Estimate(brix - READS_WITHIN, brix, brix + READS_WITHIN, Evidence.READ)
        answer = Said("brix", "it is as sweet as", "brix", around)
    boils = boils_c(here, syrup(1000.0, brix))
    if reads_c is None:
        answer = _said("boils", "it boils here at", "temp_c", boils)
    return Sum(
        answer,
        [
            _said("plain", "water boils here at", "temp_c", plain),
            _said("above", "which is above it by", "degrees", boils - plain),
            _words("class", "at 20 °C it keeps as", _keeps(brix)),
        ],
        draws={"reads": boils, "plain": plain, "brix": brix},
    )


READS_WITHIN = 1.5
"""How far a Brix off a thermometer may be [°Bx]: water.brix_from_boiling_point."""


def _keeps(brix: float) -> str:
    return water.keeping_class(float(water.water_activity(syrup(1000.0, brix)))).replace("_", " ")


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
        _said("whole", "there is at most", "volume_ml", whole),
        [
            _said("first", "of the first", "volume_ml", used[0]),
            _said("second", "of the second", "volume_ml", used[1]),
            _said("share", "the first is", "percent", 100.0 * used[0] / max(sum(used), 1e-9)),
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
        else _words("cold", "on the plate it", plate.cold),
        [
            _words("hot", "in the pot it", plate.hot),
            _words("plate", "on the plate it", plate.cold),
            _words("keeps", "at 20 °C it keeps as", _keeps(min(max(found.typ, 1.0), 80.0))),
        ],
        "a drop lies a minute on the plate before it tells",
        {"cold": plate.cold_mpa_s, "hot": plate.hot_mpa_s, "brix": found.typ},
    )  # fmt: skip


GUESSED_WITHIN = 5.0
"""How far a Brix that nobody read is taken to be off [°Bx]."""
DROPS = [words for _, words in texture.POURS]


def thin(
    brix: float, acid_g_l: float, glass_ml: float, with_what: str, sweet: float, sharp: float
) -> Sum:
    """How a concentrate is thinned for a glass to be neither too sweet nor too sharp."""
    base = syrup(1000.0, brix) + of_material("citric_acid", acid_g_l)
    found = serving.ratio(base, serving.diluent(with_what), sweet, sharp)
    concentrate, other = found.glass(glass_ml)
    return Sum(
        _said("parts", f"parts of {with_what} to one", "parts", found.parts),
        [
            _said("base", "concentrate in the glass", "little_ml", concentrate),
            _said("other", f"{with_what} in the glass", "little_ml", other),
            _words(
                "by",
                "because else it is",
                "too sweet" if found.limited_by == "sweet" else "too sharp",
            ),
        ],
        draws={"base": concentrate / glass_ml, "brix": brix},
    )
