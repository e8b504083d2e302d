"""Tested times: every cell of the table, every refusal, and a plain reading as an oracle."""

import csv
import math
from importlib import resources

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.core import materials, process
from elderberry.core.errors import Refusal

EDGES_FT = [(0, 0), (1000, 0), (1001, 1), (3000, 1), (3001, 2), (6000, 2), (6001, 3), (10000, 3)]
SAMPLE = {"any": "aronia", "berry": "gooseberry", "lemon": "lemon"}


def plain_rows() -> list[dict[str, str]]:
    text = (resources.files("elderberry.core") / "data/process_times.csv").read_text("utf-8")
    return list(csv.DictReader(ln for ln in text.splitlines() if not ln.startswith("#")))


ROWS = [row for row in plain_rows() if row["pack"] != "none"]


def a_fruit_for(row: dict[str, str]) -> str:
    first = row["fruits"].split(" with ")[0].split("|")[0]
    return SAMPLE.get(first, first)


@pytest.mark.parametrize("row", ROWS, ids=lambda r: r["row"])
@pytest.mark.parametrize(("feet", "band"), EDGES_FT)
def test_every_cell_is_read_and_never_shortened(row: dict[str, str], feet: int, band: int) -> None:
    cells = [row[c] for c in ("ft_0_1000", "ft_1001_3000", "ft_3001_6000", "ft_over_6000")]
    time = process.process_minutes(
        row["product"], float(row["largest_jar_ml"]), feet * 0.3048, a_fruit_for(row), measured_ph=3
    )
    assert time.minutes >= int(cells[band])
    assert time.minutes == max(time.schools.values())
    if time.row.key == row["row"] and row["evidence"] == "table":
        assert time.minutes == int(cells[band])


def test_apple_juice_is_the_government_time() -> None:
    minutes = [process.process_minutes("apple_juice", 946, m).minutes for m in (0, 585, 1500, 2500)]
    assert minutes == [5, 10, 10, 15]


def test_a_short_process_asks_for_sterilised_jars() -> None:
    assert process.process_minutes("apple_juice", 473, 0).sterilise_min == 10
    assert process.process_minutes("apple_juice", 473, 585).sterilise_min == 12
    assert process.process_minutes("berry_or_fruit_juice", 473, 0, "damson").sterilise_min is None


def test_practice_rows_take_the_longest_school() -> None:
    high = process.process_minutes("berry_or_fruit_juice", 946, 2700, "damson")
    assert high.schools == {"row": 25, "banded": 35, "per_thousand": 24}
    assert high.minutes == 35


def test_a_jar_takes_the_next_tested_size() -> None:
    small = process.process_minutes("berry_or_fruit_juice", 118, 0, "damson")
    between = process.process_minutes("berry_or_fruit_juice", 710, 0, "damson")
    assert (small.row.largest_jar_ml, between.row.largest_jar_ml) == (473, 946)


@pytest.mark.parametrize(
    ("arguments", "stop", "neighbour"),
    [
        (("moonshine", 473, 0), "product-untested", ("apple_juice", 473, 0)),
        (("elderberry", 473, 0), "product-untested", ("grape_juice", 473, 0)),
        (("berry_or_fruit_juice", 473, 0, "durian"), "fruit-unlisted", None),
        (("berry_or_fruit_juice", 473, 0, None), "fruit-not-in-row", None),
        (("berry_or_fruit_juice", 473, 0, "fig"), "fruit-never", None),
        (("apple_juice", 473, 0, "pear"), "fruit-not-in-row", ("apple_juice", 473, 0, "apple")),
        (("apple_juice", 473, None), "altitude-unknown", ("apple_juice", 473, -20)),
        (("apple_juice", 473, 3049), "altitude-over-10000-ft", ("apple_juice", 473, 3048)),
        (("apple_juice", None, 0), "jar-not-for-processing", None),
        (("apple_juice", 1894, 0), "jar-too-large", ("apple_juice", 1893, 0)),
        (("fruit_syrup", 946, 0, "damson"), "jar-too-large", ("fruit_syrup", 473, 0, "damson")),
        (("apple_juice", 473, 0, "apple", "bath", 4.21), "ph-too-high", None),
        (("apple_juice", 473, 0, "apple", "bath", math.nan), "ph-too-high", None),
        (
            ("berry_or_fruit_juice", 473, 0, "plum"),
            "ph-reading-needed",
            ("berry_or_fruit_juice", 473, 0, "plum", "bath", 4.2),
        ),
        (
            ("berry_or_fruit_juice", 473, 0, "damson", "bath", None, 4.2),
            "ph-reading-needed",
            ("berry_or_fruit_juice", 473, 0, "damson", "bath", None, 4.19),
        ),
        (
            ("whole_grapes", 946, 3000, "grape_table", "steam"),
            None,
            ("whole_grapes", 946, 3000, "grape_table", "bath"),
        ),
    ],
)
def test_a_refusal_and_its_neighbour(
    arguments: tuple[object, ...], stop: str | None, neighbour: tuple[object, ...] | None
) -> None:
    if stop:
        with pytest.raises(Refusal) as refused:
            process.process_minutes(*arguments)  # type: ignore[arg-type]
        assert refused.value.finding.id == stop
        assert refused.value.finding.remedy
    else:
        assert process.process_minutes(*arguments).minutes > 0  # type: ignore[arg-type]
    if neighbour:
        assert process.process_minutes(*neighbour).minutes > 0  # type: ignore[arg-type]


def plainly_refused(product: str, ml: float, metres: float, fruit: str, ph: float | None) -> bool:
    """Read the tables as a careful cook would, sharing no code with the tool."""
    listed = materials.fruits().get(fruit)
    if listed is None or listed.ph_risk == "never" or metres > 3048:
        return True
    for row in plain_rows():
        names = row["fruits"].replace(" with ", "|").split("|")
        suits = fruit in names or "any" in names or ("berry" in names and listed.group == "berry")
        if row["product"] != product or not suits or row["pack"] == "none":
            continue
        limit = float(row["max_ph"])
        if ph is not None and ph > limit:
            continue
        gated = row["gate"] != "none" and ph is None
        if gated and (listed.ph_risk != "low" or listed.ph is None or listed.ph.hi >= limit):
            continue
        if ml <= float(row["largest_jar_ml"]):
            return False
    return True


@given(
    st.sampled_from(sorted({r["product"] for r in plain_rows()})),
    st.sampled_from([118.0, 237.0, 473.0, 946.0, 1893.0]),
    st.floats(-100, 4000),
    st.sampled_from([*materials.fruits(), "durian"]),
    st.none() | st.floats(2, 6),
)
def test_nothing_is_permitted_that_a_plain_reading_refuses(
    product: str, ml: float, metres: float, fruit: str, ph: float | None
) -> None:
    try:
        time = process.process_minutes(product, ml, metres, fruit, measured_ph=ph)
    except Refusal:
        return
    assert not plainly_refused(product, ml, metres, fruit, ph)
    assert time.minutes >= 5
