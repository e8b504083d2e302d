"""What people write, and how they say it back."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.core.errors import CannotTell, OutOfRange, Unknown
from elderberry.core.figures import CannotRead
from elderberry.core.quantities import (
    Customs,
    Quantity,
    System,
    convert,
    mass_g,
    parse,
    show,
    volume_ml,
)

US, UK = Customs("us", {"crate": Quantity(9000, "mass")}), Customs("imperial")
CUP = 236.5882365


@pytest.mark.parametrize(
    ("text", "amount", "dimension", "of"),
    [
        ("1 1/4 cups", 1.25 * CUP, "volume", None),
        ("1¼ cups", 1.25 * CUP, "volume", None),
        ("2½ lb", 1133.98, "mass", None),
        ("2 1/2 pounds", 1133.98, "mass", None),
        ("3 qt", 2839.06, "volume", None),
        ("500 g", 500, "mass", None),
        ("500g", 500, "mass", None),
        ("a pint", 473.176, "volume", None),
        ("1,5 kg", 1500, "mass", None),
        ("1.5 kg", 1500, "mass", None),
        ("1,234,567 mg", 1234.567, "mass", None),
        ("half a crate", 4500, "mass", None),
        ("2 crates", 18000, "mass", None),
        ("18 quinces", 18, "count", "quince"),
        ("a dozen apples", 12, "count", "apple"),
        ("2 dozen pears", 24, "count", "pear"),
        ("half a dozen lemons", 6, "count", "lemon"),
        ("2 lb 3 oz", 992.23, "mass", None),
        ("three quarters of a cup", 0.75 * CUP, "volume", None),
        ("a quarter of a cup", 0.25 * CUP, "volume", None),
        ("2 cups of honey", 2 * CUP, "volume", "honey"),
        ("1 cup white sugar", CUP, "volume", "sugar_white"),
        ("10 kg damsons", 10_000, "mass", "damson"),
        ("½ tsp. citric acid", 2.4645, "volume", "citric_acid"),
        ("1 T", 14.787, "volume", None),
        ("1 t", 4.929, "volume", None),
        ("8 fl oz", 236.588, "volume", None),
        ("212 °F", 100, "temperature", None),
        ("88 degrees C", 88, "temperature", None),
        ("5 ft 2 in", 1574.8, "length", None),
        ("585 m", 585_000, "length", None),
        ("two and a half cups", 2.5 * CUP, "volume", None),
        ("one and a quarter pints", 591.47, "volume", None),
        ("1-1/2 cups", 1.5 * CUP, "volume", None),
        ("three-quarters cup", 0.75 * CUP, "volume", None),
        ("two thirds of a cup", 2 / 3 * CUP, "volume", None),
        ("an eighth of a cup", CUP / 8, "volume", None),
        ("a couple of crates", 18_000, "mass", None),
        ("2 lb and 3 oz", 992.23, "mass", None),
        ("3 x 500 g", 1500, "mass", None),
        ("2 × 1½ cups", 3 * CUP, "volume", None),
        ("2 imperial pints", 1136.52, "volume", None),
        ("1 metric cup sugar", 250, "volume", "sugar_white"),
        ("1 uk gallon", 4546.09, "volume", None),
        ("20 dag", 200, "mass", None),
        ("half a bushel of apples", 17_619.5, "volume", "apple"),
        ("a pinch of salt", 0.3125, "volume", "salt"),
        ("1 cup sugar", CUP, "volume", "sugar_white"),
        ("30 ml bottled lemon juice", 30, "volume", "lemon_bottled"),
        ("2 kg red currants", 2000, "mass", "redcurrant"),
        ("3 kg sea-buckthorn", 3000, "mass", "sea_buckthorn"),
        ("-18 °C", -18, "temperature", None),
        ("-4 °F", -20, "temperature", None),
    ],
)
def test_reading(text: str, amount: float, dimension: str, of: str | None) -> None:
    read = parse(text, US)
    assert (read.dimension, read.of) == (dimension, of)
    assert read.amount == pytest.approx(amount, rel=1e-4)


@pytest.mark.parametrize(
    ("text", "words", "place"),
    [
        ("", "nothing to read", ""),
        ("sugar", "figure was expected", "sugar"),
        ("5", "unit is missing", "5"),
        ("2 C", "cups or degrees Celsius", "C"),
        ("300 F", "°F", "F"),
        ("1,500 g", "1500 or 1.500", "1,500"),
        ("1-2 cups", "range", "-"),
        ("1 to 2 cups", "range", "to"),
        ("3 bananas", "no unit, container or fruit", "bananas"),
        ("1.5.2 g", "no figure", "1.5.2"),
        ("1/0 cup", "divided by nought", "1/0"),
        ("12 345 g", "Two figures in a row", "345"),
        ("2 lb 3 cups", "do not add up", "cups"),
        ("2 cups moonshine", "cannot be read", "moonshine"),
        ("-5 g", "figure was expected", "-"),
        ("2 cups sugar and more", "cannot be read", "and"),
        ("30 ml lemon juice", "bottled.* or .*fresh", "lemon juice"),
        ("1 cup vinegar", "white vinegar.* or cider", "vinegar"),
        ("2 and 3 cups", "no unit", "and"),
        ("2 x kg", "expected after", "x"),
        ("3 us", "no unit", "us"),
    ],
)
def test_what_cannot_be_read_points_at_the_place(text: str, words: str, place: str) -> None:
    with pytest.raises(CannotRead, match=words) as wrong:
        parse(text, US)
    if place:
        assert text[wrong.value.start : wrong.value.end] == place
        assert wrong.value.pointed().endswith("^" * len(place))


def test_each_system_has_its_own_cup_and_pint() -> None:
    assert parse("1 cup").amount == pytest.approx(250)
    assert parse("1 cup", UK).amount == pytest.approx(284.13, abs=0.01)
    assert parse("1 pint", UK).amount == pytest.approx(568.26, abs=0.01)
    assert parse("1 tbsp").amount == pytest.approx(15)
    assert parse("1 tbsp", UK).amount == pytest.approx(17.76, abs=0.01)


GRIDS: dict[tuple[System, str], tuple[float, int]] = {
    ("us", "cups"): (CUP / 8, 31),
    ("metric", "ml"): (5.0, 199),
    ("metric", "g"): (5.0, 199),
    ("metric", "kg"): (10.0, 3000),
    ("us", "oz"): (28.349523125 / 4, 400),
}


@given(st.sampled_from(sorted(GRIDS)), st.integers(1, 5000))
def test_reading_what_was_said_gives_the_same(case: tuple[System, str], step: int) -> None:
    size, most = GRIDS[case]
    system, unit = case
    amount = size * (step % most + 1)
    if unit == "kg":
        amount += 1000
    said = Quantity(amount, "mass" if unit in {"g", "kg", "oz"} else "volume")
    again = parse(show(said, system), Customs(system))
    assert again.amount == pytest.approx(said.amount, rel=1e-6)
    assert show(again, system) == show(said, system)


@pytest.mark.parametrize(
    ("quantity", "system", "words"),
    [
        (Quantity(1.25 * CUP, "volume"), "us", "1 1/4 cups"),
        (Quantity(2.46, "volume"), "us", "1/2 tsp"),
        (Quantity(29.6, "volume"), "us", "2 tbsp"),
        (Quantity(4000, "volume"), "us", "4 1/4 quarts"),
        (Quantity(1134, "mass"), "us", "2 lb 8 oz"),
        (Quantity(1252, "mass"), "metric", "1.25 kg"),
        (Quantity(997.5, "mass"), "metric", "1 kg"),
        (Quantity(997.4, "mass"), "metric", "995 g"),
        (Quantity(7.3, "mass"), "metric", "7 g"),
        (Quantity(3.14, "mass"), "metric", "3.1 g"),
        (Quantity(88, "temperature"), "us", "190 °F"),
        (Quantity(88.2, "temperature"), "metric", "88 °C"),
        (Quantity(6.35, "length"), "us", "1/4 in"),
        (Quantity(18, "count", "quince"), "metric", "18 quinces"),
        (Quantity(1, "count", "apple"), "metric", "1 apple"),
        (Quantity(200, "mass", "sugar_white"), "metric", "200 g white sugar"),
    ],
)
def test_saying(quantity: Quantity, system: System, words: str) -> None:
    assert show(quantity, system) == words


def test_mass_and_volume_go_through_the_ingredient() -> None:
    assert mass_g(parse("1 cup white sugar", US)) == pytest.approx(200, abs=1)
    assert mass_g(parse("1 cup", US), "honey") == pytest.approx(336, abs=1)
    assert volume_ml(parse("1 kg damsons")) == pytest.approx(1000 / 0.62, rel=1e-6)
    assert mass_g(parse("18 quinces")) == 18 * 250
    assert mass_g(parse("1 quart", US), "lemon", poured=True) == pytest.approx(974, abs=4)
    assert mass_g(parse("1 quart apple juice", US)) == pytest.approx(994, abs=3)
    assert mass_g(parse("2 cups gooseberries", US)) < 400
    assert volume_ml(parse("500 ml")) == 500
    with pytest.raises(CannotTell):
        mass_g(parse("1 cup", US))
    with pytest.raises(CannotTell):
        mass_g(parse("20 °C"))
    with pytest.raises(CannotTell, match="weigh it"):
        mass_g(parse("12 redcurrants"))
    with pytest.raises(Unknown):
        mass_g(parse("1 cup", US), "unobtainium")


@given(st.floats(-40, 300))
def test_temperatures_there_and_back(celsius: float) -> None:
    fahrenheit = convert(celsius, "°C", "°F")
    assert fahrenheit == pytest.approx(celsius * 1.8 + 32)
    assert convert(fahrenheit, "°F", "°C") == pytest.approx(celsius, abs=1e-6)


def test_units_of_two_dimensions_do_not_convert() -> None:
    assert convert(1919.3, "ft", "m") == pytest.approx(585, abs=0.1)
    with pytest.raises(CannotTell, match="say of what"):
        convert(1, "cup", "g")
    with pytest.raises(Unknown):
        convert(1, "hogshead", "l")
    with pytest.raises(OutOfRange):
        Quantity(-1, "mass")
