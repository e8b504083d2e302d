"""Sums of the canner: the tested time of a product here, and what happens in the jar meanwhile."""

from __future__ import annotations

from collections.abc import Callable

from elderberry.core import heat, jars, texture
from elderberry.core.errors import Refusal
from elderberry.core.kitchen import Heater, Kitchen
from elderberry.core.process import Pack, ProcessTime, process_minutes
from elderberry.core.sums.told import Column, Point, Said, Sum, figure_of, words_of

TABLE_HOLDS = "The table time is the time: this is a picture, and never shortens it."
WARM_THROUGH_C = 2.0
"""How near the coldest point comes to the bath before it is called hot through [°C]."""
MEASURED_AT_C = 60.0


def in_jar(here: Kitchen, jar: str, brix: float, start_c: float, minutes: float, pulp: bool) -> Sum:
    """The coldest point of a jar while it boils, and a while after.

    Args:
        here: where it boils.
        jar: kind of data/jars.csv.
        brix: what is in it [g/100 g], 0 to 86.
        start_c: as it goes in [°C].
        minutes: at the boil [min].
        pulp: whether it holds pulp over one in a hundred, or is set, so that it does not circulate.

    Raises:
        OutOfRange: a figure outside its limits.

    Source: heat.inside_jar.
    """
    how = how_it_heats(jars.kind(jar), brix, conducts=pulp)
    boils = here.boiling_point_c
    seen = heat.inside_jar(minutes, min(start_c, boils), boils, how)
    at_end = max(seen.temps_c)
    through = [t for t, c in zip(seen.times_min, seen.temps_c, strict=True)
               if c >= boils - WARM_THROUGH_C]  # fmt: skip
    return Sum(
        figure_of("end", "its coldest point comes to", "temp_c", at_end),
        [
            figure_of("through", "hot through after", "minutes", through[0])
            if through
            else words_of("through", "hot through", "not in this time"),
            figure_of("f", "nine tenths of the way in", "minutes", how.f_min),
            figure_of("kill", "worth, at 93.3 °C", "minutes", seen.lethality_min),
        ],
        "thin juice turns over in the jar; thick syrup and pulp warm only from the wall",
        {"boils": boils, "minutes": minutes, "start": start_c, "end": at_end},
        curve=[Point(t, c) for t, c in zip(seen.times_min, seen.temps_c, strict=True)],
        cautions=[TABLE_HOLDS],
    )


def how_it_heats(jar: jars.JarKind, brix: float, *, conducts: bool) -> heat.Heating:
    """How the coldest point of a jar follows its bath, by its size and how thick its content is.

    Args:
        jar: its kind.
        brix: what is in it [g/100 g]; what is thicker than can be told heats as the thickest.
        conducts: whether it does not circulate, for its pulp or because it is set.

    Source: heat.heating; texture.viscosity_mpa_s at 60 °C.
    """
    thick = texture.viscosity_mpa_s(min(brix, texture.MOST_BRIX), MEASURED_AT_C)
    return heat.heating(jar.nominal_ml, jar.inner_radius_mm, jar.inner_height_mm, thick, conducts)


FOOT_M = 0.3048
BESIDE_M = {f"{m} m": float(m) for m in (0, 500, 1000, 1500, 2000, 2500)}
BESIDE_FT = {f"{ft} ft": FOOT_M * ft for ft in (0, 1000, 3000, 5000, 7000, 9000)}
"""Altitudes whose times stand beside that of this kitchen, as it says them [m]."""


def process_time(
    here: Kitchen, product: str, fruit: str, jar: str, heater: Heater,
    ph: float | None = None, pack: Pack = "any",
) -> Sum:  # fmt: skip
    """The tested minutes of a product in a jar at this altitude.

    Args:
        here: the kitchen, whose altitude counts.
        product: product of data/process_times.csv.
        fruit: key of data/fruits.csv.
        jar: kind of data/jars.csv.
        heater: bath or steam.
        ph: what a meter showed of what is filled [-].
        pack: hot or raw; the longer time of the two where it is not said.

    Raises:
        Refusal: no tested process, or a condition of it is not met; carries the stop.

    Source: process.process_minutes.
    """
    size = jars.kind(jar).process_as_ml

    def at(metres: float | None) -> ProcessTime:
        return process_minutes(product, size, metres, fruit, heater, ph, pack=pack)

    found = at(here.altitude_m)
    row = found.row
    return Sum(
        figure_of("minutes", "in boiling water here" if heater == "bath" else "in steam here",
                  "minutes", float(found.minutes)),
        [
            words_of("row", "published by", row.source),
            words_of("evidence", "which is",
                     "a government table" if found.evidence == "table" else "published practice"),
            figure_of("fill", "filled no colder than", "temp_c", here.reachable_c(found.fill_c)),
            figure_of("head", "room under the lid", "depth_cm", 2.54 * row.headspace_in),
            *_reading(row.max_ph, row.gate),
        ],
        "counted from the full boil, and from the start again where the boil is lost",
        {"minutes": float(found.minutes)},
        [
            Column(said, [_minutes(at, metres)])
            for said, metres in (BESIDE_M if here.units == "metric" else BESIDE_FT).items()
        ],
        cautions=["It holds for what the row says and nothing else: a plan judges what is really "
                  "in the jar.",
                  *(["Jars are boiled first: 10 min, and 1 more for every 300 m begun."]
                    if found.sterilise_min else [])],
    )  # fmt: skip


def _reading(max_ph: float | None, gate: str) -> list[Said]:
    """The pH that the row allows, and whether it has to be read."""
    if max_ph is None:
        return []
    asked = {"none": "without a reading", "measured": "read with a meter"}
    return [
        figure_of("max", "its pH at most", "ph", max_ph),
        words_of("gate", "and that", asked.get(gate, "by a low fruit's tables, or read")),
    ]


def _minutes(at: Callable[[float], ProcessTime], metres: float) -> Said:
    """The minutes at another altitude, or why there are none."""
    try:
        minutes = at(metres).minutes
    except Refusal as refused:
        return words_of("minutes", "minutes", str(refused))
    return figure_of("minutes", "minutes", "minutes", float(minutes))
