"""Sums of pots and their water: how long one boils down, and how long a steamer's pan lasts."""

from __future__ import annotations

from typing import Literal

from elderberry.core import heat, jars, juicing, solve
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.kitchen import Kitchen
from elderberry.core.operations.reducing import PAN_SPREAD, depth_cm, share_at_depth
from elderberry.core.sums.told import Said, Sum, cold_of, figure_of, syrup, words_of
from elderberry.core.wording import figure

StopAt = Literal["brix", "share", "depth", "temp"]


def boil_down(
    here: Kitchen, volume_ml: float, brix: float, width_cm: float, stop: StopAt, target: float
) -> Sum:
    """How long a pot boils until it is as sweet, as low or as hot as it should be.

    Raises:
        Past: it is past that already, or never stood so deep.
    """
    pot = syrup(volume_ml, brix)
    rate = heat.evaporation_kg_h(here.burner_kw, here.burner_kind)
    goal: dict[str, float]
    match stop:
        case "brix":
            goal = {"brix": target}
        case "temp":
            goal = {"boiling_c": target}
        case "share":
            goal = {"volume_share": target / 100.0}
        case "depth":
            goal = {"volume_share": share_at_depth(volume_ml, width_cm, target)}
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
            figure_of("left", "then there is", "volume_ml", left),
            figure_of("depth", "it stands deep", "depth_cm", depth_cm(left, width_cm)),
            figure_of("brix", "it is as sweet as", "brix", at),
            figure_of("boils", "it boils at", "temp_c", down.boils_at_c),
            cold_of(at),
            words_of("jars", "which is", _half_pints(here, left)),
        ],
        f"{figure(rate, 'kg')} of water an hour from this ring; "
        "two readings of the pot would tell better",
        {"before": depth_cm(volume_ml, width_cm), "after": depth_cm(left, width_cm), "brix": at,
         "width": width_cm},
    )  # fmt: skip


def _half_pints(here: Kitchen, volume_ml: float) -> str:
    kind = jars.kind("half_pint")
    return f"{volume_ml / kind.nominal_ml:.1f} {kind.named(here.units)}s"


FRUIT_COLD_C = 15.0


def steam_pan(here: Kitchen, fruit_kg: float, water_l: float, minutes: float, lifts: int) -> Sum:
    """How long the water under a steamer lasts, and what its steam puts into the kettle.

    Args:
        here: whose ring it stands on.
        fruit_kg: prepared fruit in the basket [kg].
        water_l: water in the pan [L].
        minutes: how long it is steamed [min].
        lifts: how often the lid comes off.

    Source: juicing.minutes_to_dry, juicing.condensate_kg.
    """
    rate = heat.evaporation_kg_h(here.burner_kw, here.burner_kind)
    dry = juicing.minutes_to_dry(water_l, rate)
    gone = min(water_l, rate * minutes / 60.0)
    steam = juicing.condensate_kg(fruit_kg, here.boiling_point_c, FRUIT_COLD_C, gone, lifts)
    into = juicing.KETTLE_SHARE * steam
    lo, hi = PAN_SPREAD
    lasts = dry >= minutes
    after = max(0.0, rate * minutes / 60.0 + juicing.PAN_RESERVE_KG - water_l)
    enough = "enough" if lasts else f"too little: pour {figure(after, 'l')} after"
    return Sum(
        Said("minutes", "the pan lasts", "minutes",
             Estimate(dry * lo, dry, dry * hi, Evidence.TYPICAL)),
        [
            figure_of("gone", "boils off in that time", "volume_ml", 1000.0 * gone),
            Said("into", "steam that ends in the kettle", "little_ml",
                 Estimate(750.0 * into, 1000.0 * into, 1250.0 * into, Evidence.TYPICAL)),
            words_of("refill", "for that time it is", enough),
        ],
        f"half a litre has to stay in it; {figure(rate, 'kg')} of water an hour from this ring",
        {"share": min(1.0, minutes / max(dry, 1e-9)), "water": water_l},
        cautions=[] if lasts else ["A pan that boils dry warps and burns. Set a clock for it."],
    )  # fmt: skip
