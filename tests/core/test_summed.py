"""What the sums of the Bench answer where one thing is asked otherwise, kept as every Book is."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from inspect import signature
from typing import Any

import pytest

from elderberry.core.sums.choices import choices
from tests.api.test_bench import ASKED, RECKONED, USUAL
from tests.briefs import a_kitchen
from tests.core.test_answers import answered
from tests.facts import Book, said

OTHERWISE: dict[str, dict[str, tuple[Any, ...]]] = {
    "sweeten": {"volume_ml": (350, 19_000), "brix": (0, 55), "target": (12, 5, 72),
                "material": ("sugar_white", "maple_syrup", "glucose_syrup")},
    "boil-down": {"volume_ml": (600, 15_000), "brix": (8, 40), "width_cm": (20, 44),
                  "target": (6.4, 2, 7)},
    "thermometer": {"brix": (0, 20, 80), "reads_c": (100.4, 104.5, 112)},
    "sharpen": {"volume_ml": (250, 12_000), "fruit": ("quince", "elderberry", "rhubarb"),
                "with_what": ("malic_acid", "lemon_bottled"), "target": (2.9, 3.05),
                "ph": (3.3, 3.9)},
    "blend": {"first_ml": (150, 6000), "first": (11, 75), "second_ml": (400,), "second": (20, 0.5),
              "target": (12, 58)},
    "citrus": {"fruit": ("lemon", "lime", "orange"), "amount": (20, 700), "by": ("fruit", "volume"),
               "school": ("by-peel", "by-match"), "like": ("lemon",), "juice_g": (240.0,)},
    "cold-plate": {"brix": (48, 60, 70, 78), "hot_c": (88, 112), "plate_c": (4, 30),
                   "drop": tuple(p.value for p in choices(a_kitchen(585.0))["drop"])},
    "crystals": {"brix": (40, 62, 66, 76, 82), "inverted_pct": (0, 40, 90), "store_c": (4, 22)},
    "bottle": {"sugar_g_100ml": (20, 84), "price": (0.9, 30), "bottle_ml": (250,),
               "own_litres": (0.7,), "own_price": (1, 90), "own_brix": (11, 68)},
    "thin": {"brix": (12, 66), "acid_g_l": (4, 45), "glass_ml": (80, 900),
             "with_what": ("water", "apple juice"), "sweet": (4, 30), "sharp": (1, 12)},
    "in-jar": {"jar": ("half_pint", "quart"), "brix": (0, 12, 70, 86), "start_c": (20, 95),
               "minutes": (5, 45), "pulp": (True,)},
    "measures": {"text": ("1/2 lb damsons", "12 fl oz honey", "3 quinces", "2 sticks cinnamon",
                          "a pinch of salt", "1 kg brown sugar", "700 ml water", "4 lemons")},
    "process-time": {"fruit": ("damson", "fig", "gooseberry"),
                     "jar": ("quart", "half_pint", "m500"),
                     "product": ("berry_or_fruit_juice", "jelly"), "ph": (3.9, 4.4, None),
                     "heater": ("steam",), "pack": ("hot", "raw")},
    "steam-pan": {"fruit_kg": (1.2, 9), "water_l": (0.6, 5), "minutes": (25, 150), "lifts": (4,)},
    "freeze-dry": {"fruit": ("rhubarb", "sea_buckthorn"), "mass_g": (90, 1500),
                   "thickness_mm": (4, 22), "trays": (3, 6), "sweet_g": (0, 400),
                   "with_what": ("maltodextrin", "honey"), "frozen": (False,)},
    "air-dry": {"kind": ("slices", "peel", "herbs"), "mass_g": (150, 4000), "wet_pct": (70, 93),
                "after_h": (None, 8), "left_g": (250, 700)},
    "back-again": {"powder_g": (20, 400), "water_out_g": (150, 3000), "drink_ml": (200, 4000),
                   "strength": ("as picked", "lighter"), "bulk_g_ml": (0.2, 0.7)},
}  # fmt: skip
TOGETHER: dict[str, tuple[dict[str, Any], ...]] = {
    "cold-plate": tuple({"drop": "", "brix": brix} for brix in (0, 55, 86)),
    "boil-down": (
        {"stop": "brix", "target": 60}, {"stop": "share", "target": 25},
        {"stop": "temp", "target": 101}, {"width_cm": 44, "target": 1.5},
    ),
    "sharpen": (
        {"goal": "acidity", "target": 28},
        {"goal": "acidity", "target": 40, "with_what": "malic_acid"},
    ),
    "citrus": (
        {"by": "volume", "amount": 1500, "school": "by-match", "like": "lemon"},
        {"fruit": "orange", "by": "fruit", "amount": 6, "school": "by-peel"},
    ),
    "air-dry": tuple(
        {"kind": kind, "after_h": None, "left_g": None, **more}
        for kind in ("slices", "leather", "peel", "herbs")
        for more in ({}, {"air_c": 72, "thickness_mm": 9}, {"humidity_pct": 80, "mass_g": 150})
    ),
}  # fmt: skip
"""What is asked otherwise in several things at once."""


def of_sum(name: str) -> Iterator[str]:
    """What a sum answers, one thing after the other asked otherwise."""
    reckoned, usual = RECKONED[name], USUAL.get(name, {}) | ASKED[name]
    here = {"here": a_kitchen(585.0)} if "here" in signature(reckoned).parameters else {}
    one = [{key: value} for key, values in OTHERWISE[name].items() for value in values]
    for change in (*one, *TOGETHER.get(name, ())):
        yield f"{said(change)}: {answered(partial(reckoned, **usual | change, **here), ())}"


BOOK = Book(__file__, "summed.txt", RECKONED, " ")


@pytest.mark.parametrize("name", RECKONED)
def test_a_sum_asked_otherwise_says_what_it_said(name: str) -> None:
    BOOK.holds(name, of_sum(name))
