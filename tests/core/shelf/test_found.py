"""Jars that were there already: what lines say of them, and what nobody vouches for."""

from __future__ import annotations

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.core import jars, materials, storage
from elderberry.core.figures import CannotRead
from elderberry.core.quantities import Customs
from elderberry.core.shelf import found, said
from elderberry.core.shelf.said import Around, Stands

TODAY = date(2026, 3, 10)
CELLAR, FRIDGE, SHELF, FREEZER = 1, 2, 3, 4
PLACES = (
    Stands(CELLAR, "Cellar", "cellar"), Stands(FRIDGE, "Refrigerator", "refrigerator"),
    Stands(SHELF, "Kitchen shelf", "shelf"), Stands(FREEZER, "Freezer", "freezer"),
)  # fmt: skip
HERE = Around(PLACES, TODAY, stock=("m500", "m330"), vessels={"green crock": "pot-3000"})
US = Around(PLACES, TODAY, Customs("us"))


@pytest.mark.parametrize(
    ("line", "count", "kind", "label", "material", "product", "place"),
    [
        ("12 pints plum, cellar, August 2025", 12, "pint", "Plum", "plum", "", CELLAR),
        ("3 bottles rosehip syrup, fridge", 3, "m330", "Rosehip syrup", "rosehip", "syrup", FRIDGE),
        ("6 x 250 ml damson juice, kitchen shelf, 2025", 6, "m250", "Damson juice", "damson",
         "juice", SHELF),
        ("a dozen half-pints of medlar jelly", 12, "half_pint", "Medlar jelly", "medlar", "jelly",
         CELLAR),
        ("two bags of raspberries in the freezer", 2, "bag-1000", "Raspberries", "raspberry", "",
         FREEZER),
        ("1 l bottle of sea buckthorn", 1, "m1000", "Sea buckthorn", "sea_buckthorn", "", CELLAR),
        ("4 × 0,7 l aronia cordial (cellar)", 4, "m700", "Aronia cordial", "aronia", "syrup",
         CELLAR),
        ("½ pint rowan jelly, pantry", 1, "half_pint", "Rowan jelly", "rowan", "jelly", SHELF),
        ("2 green crocks quince, pantry", 2, "pot-3000", "Quince", "quince", "", SHELF),
        ("5 12-oz jars gooseberry", 5, "twelve_oz", "Gooseberry", "gooseberry", "", CELLAR),
        ("8 half gallons apple juice in the basement", 8, "half_gallon", "Apple juice", "apple",
         "juice", CELLAR),
        ("3 jars plum and fig, cellar", 3, "m500", "Plum and fig", "fig", "", CELLAR),
        ("7 jars green beans, cellar", 7, "m500", "Green beans", "", "", CELLAR),
        ("2 jars crab apple and quince, cellar", 2, "m500", "Crab apple and quince",
         "crabapple", "", CELLAR),
        ("2 bags apple rings", 2, "bag-1000", "Apple rings", "apple", "dried", CELLAR),
    ],
)  # fmt: skip
def test_a_line_is_read_as_it_is_said(
    line: str, count: int, kind: str, label: str, material: str, product: str, place: int
) -> None:
    read = said.read(line, HERE)
    assert (read.count, read.jar_kind, read.label) == (count, kind, label)
    assert (read.material, read.product, read.place_id) == (material, product, place)


@pytest.mark.parametrize(
    ("when", "first", "last"),
    [
        ("August 2025", date(2025, 8, 1), date(2025, 8, 31)),
        ("Aug '24", date(2024, 8, 1), date(2024, 8, 31)),
        ("12 August 2025", date(2025, 8, 12), date(2025, 8, 12)),
        ("Oct 3, 2025", date(2025, 10, 3), date(2025, 10, 3)),
        ("2025-09", date(2025, 9, 1), date(2025, 9, 30)),
        ("2025-09-07", date(2025, 9, 7), date(2025, 9, 7)),
        ("3.10.2025", date(2025, 10, 3), date(2025, 10, 3)),
        ("2023", date(2023, 1, 1), date(2023, 12, 31)),
        ("last year", date(2025, 1, 1), date(2025, 12, 31)),
        ("this year", date(2026, 1, 1), TODAY),
        ("last autumn", date(2025, 9, 1), date(2025, 11, 30)),
        ("winter 2024", date(2024, 12, 1), date(2025, 2, 28)),
        ("July", date(2025, 7, 1), date(2025, 7, 31)),
        ("March", date(2026, 3, 1), TODAY),
    ],
)
def test_days_are_as_wide_as_they_are_said(when: str, first: date, last: date) -> None:
    read = said.read(f"4 jars damson, cellar, {when}", HERE)
    assert (read.filled.first, read.filled.last) == (first, last)
    assert read.label == "Damson"
    assert "filled" not in read.doubts


def test_slashes_are_read_as_the_kitchen_writes_them() -> None:
    assert said.read("4 jars damson, 3/10/2025", US).filled.first == date(2025, 3, 10)
    assert said.read("4 jars damson, 3/10/2025", HERE).filled.first == date(2025, 10, 3)


def test_what_is_not_said_is_guessed_and_asked() -> None:
    read = said.read("4 quince jelly", HERE)
    assert read.doubts == {"jar_kind", "place", "filled"}
    assert (read.filled.first, read.filled.last) == (said.oldest(TODAY), TODAY)
    assert "material" in said.read("4 pints mixed, cellar, 2025", HERE).doubts
    assert said.read("4 pints quince, cellar, 2025", HERE).doubts == set()


@pytest.mark.parametrize(
    ("line", "marked"),
    [
        ("gooseberries, cellar", "goo"), ("12 pints, cellar", "12 pints, cellar"), ("", ""),
        ("4 jars damson, December 2026", "December 2026"), ("0 jars plum", "0"),
        ("4 jars damson, 31.2.2025", "31.2.2025"), ("900 jars plum", "900"),
        ("4 jars damson, 1999", "1999"),
    ],
)  # fmt: skip
def test_what_cannot_be_is_marked_where_it_stands(line: str, marked: str) -> None:
    with pytest.raises(CannotRead) as refused:
        said.read(line, HERE)
    assert line[refused.value.start : refused.value.end] == marked


def test_a_place_that_is_not_there_is_not_guessed() -> None:
    only = Around((Stands(1, "Cellar", "cellar"),), TODAY)
    with pytest.raises(CannotRead, match="There is no freezer here yet"):
        said.read("2 bags plums, freezer", only)


@given(st.text(max_size=60))
def test_any_text_is_read_or_refused(text: str) -> None:
    try:
        read = said.read(text, HERE)
    except CannotRead as refused:
        place = (refused.start, refused.end)
    else:
        place = (0, 1)
        assert 0 < read.count <= found.MOST
        assert read.filled.first <= read.filled.last <= TODAY
        assert jars.kind(read.jar_kind).nominal_ml > 0
    assert 0 <= place[0] < place[1]


@given(
    count=st.integers(1, 500), fruit=st.sampled_from(sorted(materials.fruits())),
    kind=st.sampled_from(sorted(jars.kinds())), place=st.sampled_from(PLACES),
    day=st.dates(date(2010, 1, 1), TODAY),
)  # fmt: skip
def test_what_is_written_out_is_read_back(
    count: int, fruit: str, kind: str, place: Stands, day: date
) -> None:
    name = materials.fruit(fruit).name.lower()
    line = f"{count} {jars.kind(kind).name} {name}, {place.name}, {day.isoformat()}"
    read = said.read(line, HERE)
    assert (read.count, read.jar_kind, read.place_id) == (count, kind, place.id)
    assert read.filled == found.Filled(day, day)


@pytest.mark.parametrize("product", found.products())
@pytest.mark.parametrize("place", ["cellar", "shelf", "refrigerator", "freezer"])
def test_nobody_vouches_so_the_clock_is_the_careful_one(product: str, place: str) -> None:
    row = found.life_row(product, place)
    own = storage.life_rows()[row.state, row.product]
    assert row.days_lo < row.days_typ == own.days_lo < own.days_typ
    assert row.days_hi >= own.days_hi


@pytest.mark.parametrize(
    ("material", "product", "place", "ids"),
    [
        ("damson", "juice", "cellar", ["found-not-vouched"]),
        ("pear", "syrup", "shelf", ["found-watch", "found-not-vouched"]),
        ("melon", "juice", "cellar", ["found-not-sour"]),
        ("", "", "cellar", ["found-not-sour"]),
        ("honey", "", "cellar", ["found-not-sour"]),
        ("", "", "freezer", ["found-not-vouched"]),
        ("melon", "leather", "shelf", ["found-not-vouched"]),
    ],
)
def test_what_is_not_known_to_be_sour_stops_on_a_shelf(
    material: str, product: str, place: str, ids: list[str]
) -> None:
    assert [f.id for f in found.findings(material, product, place)] == ids


@pytest.mark.parametrize(
    ("line", "place"),
    [
        ("4 bags frozen mulberries", FREEZER),
        ("3 trays of rhubarb cubes", FREEZER),
        ("2 bottles chilled aronia juice", FRIDGE),
        ("2 bottles aronia juice", CELLAR),
        ("2 bags frozen plums, cellar", CELLAR),
    ],
)
def test_what_is_called_frozen_is_looked_for_in_the_freezer(line: str, place: int) -> None:
    """Only a guess, which is asked; and what somebody says of it goes before."""
    read = said.read(line, HERE)
    assert read.place_id == place
    assert ("place" in read.doubts) is ("cellar" not in line)


def test_without_a_freezer_it_is_guessed_as_all_others() -> None:
    cellar = Around(PLACES[:1], TODAY)
    assert said.read("4 bags frozen mulberries", cellar).place_id == CELLAR


def test_a_name_of_the_household_may_be_long() -> None:
    mine = "aunt Tilda's very dark old hedge mix"
    here = Around(PLACES, TODAY, Customs("metric", own={mine: "unlisted_plain"}))
    assert said.read(f"3 bottles {mine}, cellar", here).material == "unlisted_plain"


@pytest.mark.parametrize(
    ("today", "season", "year"),
    [
        ("2026-08-10", "summer", 2026), ("2026-08-10", "last summer", 2025),
        ("2026-08-31", "last summer", 2025), ("2026-09-01", "last summer", 2026),
        ("2026-05-31", "summer", 2025), ("2026-06-01", "summer", 2026),
        ("2026-06-01", "last summer", 2025), ("2026-03-10", "last summer", 2025),
        ("2026-12-20", "last winter", 2025), ("2026-12-20", "winter", 2026),
        ("2026-01-10", "winter", 2025), ("2026-01-10", "last winter", 2024),
        ("2026-03-01", "last winter", 2025),
    ],
)  # fmt: skip
def test_a_season_that_still_runs_is_not_the_last_one(today: str, season: str, year: int) -> None:
    here = Around(PLACES, date.fromisoformat(today))
    filled = said.read(f"3 pints plum, cellar, {season}", here).filled
    assert filled.first.year == year
    assert filled.last <= date.fromisoformat(today)


@pytest.mark.parametrize(
    ("there", "line", "place", "label"),
    [
        (PLACES, "2 pints plum, cellar", CELLAR, "Plum"),
        (PLACES[1:], "2 pints plum, cellar", SHELF, "Plum"),
        (PLACES[:2], "2 pints plum on the pantry shelf", CELLAR, "Plum"),
        (PLACES, "2 pints of plum in jars, fridge", FRIDGE, "Plum"),
        (PLACES, "2 pints of the plum in the freezer", FREEZER, "Plum"),
    ],
)
def test_a_place_that_is_not_there_is_the_next_like_it(
    there: tuple[Stands, ...], line: str, place: int, label: str
) -> None:
    read = said.read(line, Around(there, TODAY))
    assert (read.place_id, read.label) == (place, label)


def test_no_other_place_is_cold() -> None:
    with pytest.raises(CannotRead, match="There is no freezer here yet"):
        said.read("2 bags of raspberries in the freezer", Around(PLACES[:3], TODAY))
