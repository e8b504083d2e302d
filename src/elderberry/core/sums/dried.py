"""Sums of drying: a tray in the freeze dryer, a sheet in warm air, and back again with water."""

from __future__ import annotations

from elderberry.core import materials
from elderberry.core.composition import Composition, of_fruit_juice, of_material
from elderberry.core.drying import air_dry, freeze_dry
from elderberry.core.drying.back import BULK_G_ML, STRENGTHS, Strength, back, for_drink
from elderberry.core.errors import check_range
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.sums.told import Column, Point, Said, Sum, figure_of, words_of

POINTS = 24
DOES = {
    "dries": "dries well",
    "sticky": "dries slowly, and stays sticky",
    "foams": "foams up and collapses",
}


def tray(
    fruit: str, mass_g: float, thickness_mm: float, trays: int = 1,
    sweet_g: float = 0.0, with_what: str = "sugar_white", frozen: bool = True,
) -> Sum:  # fmt: skip
    """Juice on the trays of a freeze dryer: whether it dries, how long, and what is left.

    Args:
        fruit: whose juice, a key of data/fruits.csv.
        mass_g: juice on each tray [g].
        thickness_mm: how deep it lies [mm].
        trays: how many, all alike.
        sweet_g: sweetener in it [g].
        with_what: which, a key of data/ingredients.csv.
        frozen: whether it goes in frozen.

    Raises:
        OutOfRange: a tray that is empty, or deeper than any.

    Source: drying.freeze_dry.
    """
    mixed: Composition = of_fruit_juice(fruit, mass_g).first()
    if sweet_g > 0:
        mixed = mixed + of_material(with_what, sweet_g)
    one = freeze_dry.Tray(mixed, thickness_mm, frozen)
    took, does = freeze_dry.hours([one]), freeze_dry.does(mixed)
    dry = freeze_dry.powder_g(one)
    pulp = freeze_dry.pulp_to_dry(mixed)
    return Sum(
        Said("hours", "in the machine", "hours",
             Estimate(took.lo, took.typ, took.hi, Evidence.TYPICAL)),
        [
            words_of("does", "it", DOES[does]),
            *([figure_of("pulp", "dry pulp on each tray would help", "mass_g", pulp)]
              if does != "dries" else []),
            figure_of("water", "water that comes out, of all trays", "mass_g",
                      one.water_g * trays),
            figure_of("powder", "powder that is left", "mass_g", dry * trays),
            figure_of("spoon", f"juice of {materials.fruit(fruit).name.lower()} in a spoon of it",
                      "mass_g", back(dry, one.water_g).fruit_a_spoon_g),
        ],
        "the slowest tray decides: fill them alike, and thin",
        {"thickness": thickness_mm, "does": {"dries": 0.0, "sticky": 0.5, "foams": 1.0}[does],
         "dry": dry / (one.water_g + dry)},
        cautions=["Hours of a usual machine: yours is known after a few cycles. Dry is when two "
                  "weighings an hour apart are the same.",
                  "Open powder takes up water: "
                  f"{freeze_dry.minutes_open(60):.0f} min in a room of 60 % humidity."],
    )  # fmt: skip


def warm_air(
    kind: str, mass_g: float, wet_pct: float, thickness_mm: float, air_c: float,
    humidity_pct: float, after_h: float | None = None, left_g: float | None = None,
) -> Sum:  # fmt: skip
    """Slices, leather, peel or herbs in warm air: how long, and what they weigh when they are dry.

    Args:
        kind: one of air_dry.TARGETS.
        mass_g: as it went in [g].
        wet_pct: its moisture then [% of its mass].
        thickness_mm: how thick [mm].
        air_c: the dryer [°C].
        humidity_pct: of the room [%].
        after_h: hours after which it was weighed; None where it was not [h].
        left_g: what it weighed then [g].

    Raises:
        OutOfRange: figures that no dryer has.

    Source: drying.air_dry.
    """
    wet = wet_pct / 100.0
    weighed = after_h is not None and left_g is not None
    if after_h is not None and left_g is not None:
        check_range("what is left", left_g, "g", (1.0 - wet) * mass_g, mass_g)
        curve = air_dry.fit([(after_h, left_g / mass_g)], wet)
    else:
        curve = air_dry.usual(kind, thickness_mm, air_c, humidity_pct)
    low, high = air_dry.TARGETS[kind]
    first, last = (curve.hours_to(air_dry.moisture_ratio(m, wet)) for m in (high, low))
    hard = air_c > air_dry.CASE_HARDENS_C
    light, heavy = (mass_g * air_dry.mass_at(m, wet) for m in (low, high))
    return Sum(
        Said("hours", "until it is dry", "hours", air_dry.until(curve, wet, kind, weighed)),
        [
            figure_of("heavy", "dry enough from", "mass_g", heavy),
            figure_of("light", "down to", "mass_g", light),
            figure_of("moist", "moisture then, at most", "percent", 100.0 * high),
            *([figure_of("shelf", "for the shelf, dried on to", "mass_g",
                         mass_g * air_dry.mass_at(air_dry.SHELF_WET, wet))]
              if high > air_dry.SHELF_WET else []),
            words_of("keeps", "as it is", _packed(high)),
        ],
        "weigh a tray now and then: a weighing puts the hours right",
        {"first": first, "last": last, "heavy": heavy / mass_g},
        curve=[
            Point(60.0 * t, 100.0 * air_dry.share_at(curve.ratio(t), wet))
            for t in (last * 1.15 * n / POINTS for n in range(POINTS + 1))
        ],
        cautions=[
            *(["Over 65 °C the outside hardens and holds the water in: cooler, and longer."]
              if hard else []),
            "A week in a jar shaken every day shows whether it is evenly dry; beads on the glass: "
            "back into the dryer.",
            *(["Raw elder and rowan are boiled before they are dried."] if kind != "herbs" else []),
        ],
    )  # fmt: skip


def _packed(wet: float) -> str:
    """What may be done with it at a moisture."""
    if air_dry.water_activity(wet) <= air_dry.DRY_AW:
        return "packed tight for the shelf"
    return "kept in the freezer"


def again(
    powder_g: float, water_out_g: float, drink_ml: float, strength: Strength = "as picked",
    bulk_g_ml: float = BULK_G_ML,
) -> Sum:  # fmt: skip
    """Powder and water for a glass, a jug or a sachet.

    Args:
        powder_g: what the powder of a batch weighs [g].
        water_out_g: water that came out of it [g].
        drink_ml: what is to be drunk [mL].
        strength: as picked, lighter or stronger.
        bulk_g_ml: what a millilitre of this powder weighs [g].

    Raises:
        OutOfRange: no powder, or no drink.

    Source: drying.back.
    """
    found = for_drink(drink_ml, powder_g, water_out_g, strength, bulk_g_ml)
    return Sum(
        figure_of("powder", "powder", "mass_g", found.powder_g),
        [
            figure_of("water", "water", "little_ml", found.water_g),
            figure_of("spoons", "level spoons of powder, 15 ml each", "count", found.spoons),
            figure_of("fruit", "fruit that a spoon stands for", "mass_g", found.fruit_a_spoon_g),
            figure_of("whole", "all of it makes", "volume_ml",
                      drink_ml * powder_g / found.powder_g),
        ],
        "water back for water that came out: by mass it is exact",
        {"base": found.powder_g / drink_ml, "brix": 60.0},
        [
            Column(name, [figure_of("powder", "powder", "mass_g", for_drink(
                drink_ml, powder_g, water_out_g, name, bulk_g_ml).powder_g)])
            for name in STRENGTHS
        ],
    )  # fmt: skip
