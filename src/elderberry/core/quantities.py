"""Kitchen quantities: reading what people write, converting, and saying it as people do.

Amounts are held in base units: g, mL, °C, mm, or pieces. Which cup is meant is the household's
choice; US, metric and imperial are known.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from fractions import Fraction
from functools import cache
from typing import Any, Literal

from elderberry.core import materials, names, sugar, tables
from elderberry.core.errors import CannotTell, Unknown, check_range
from elderberry.core.figures import CannotRead, Cursor, Token

System = Literal["us", "metric", "imperial"]
Dimension = Literal["mass", "volume", "temperature", "length", "count"]
BASE_UNIT: dict[str, str] = {
    "mass": "gram",
    "volume": "milliliter",
    "temperature": "degC",
    "length": "millimeter",
}
SAID_UNIT: dict[str, str] = {
    "mass": "g",
    "volume": "ml",
    "temperature": "°C",
    "length": "mm",
    "count": "",
}
_SYSTEM_WORDS: dict[str, System] = {
    "us": "us",
    "metric": "metric",
    "imperial": "imperial",
    "uk": "imperial",
}
Unit = tuple[Dimension, dict[str, str]]
"""A unit's dimension, and what pint calls it in each system."""


@dataclass(frozen=True)
class Quantity:
    """An amount in its dimension's base unit [g, mL, °C, mm or pieces], and of what, if said."""

    amount: float
    dimension: Dimension
    of: str | None = None
    juice: bool = False
    """Whether it is of a fruit's juice."""

    def __post_init__(self) -> None:
        if self.dimension != "temperature":
            check_range(self.dimension, self.amount, SAID_UNIT[self.dimension], 0, 1e12)


@dataclass(frozen=True)
class Customs:
    """How a household measures: which cup, and what its own containers hold."""

    system: System = "metric"
    containers: Mapping[str, Quantity] = field(default_factory=dict)
    marks: Mapping[str, tuple[float, ...]] = field(default_factory=dict)
    """What its vessels hold at their marks, from the lowest [mL], by their names."""
    own: Mapping[str, str] = field(default_factory=dict)
    """Its own ingredients: what it calls them, and the material each counts as."""


def parse(text: str, customs: Customs | None = None) -> Quantity:
    """What a person wrote, as a quantity.

    Takes whole, decimal (point or comma), mixed and vulgar fractions, number words, unit words,
    sums such as "2 lb 3 oz", multiples such as "3 x 500 g", counted fruit, the household's own
    containers, a system before its unit ("2 US cups"), frost ("-18 °C"), and a trailing ingredient.

    Args:
        text: such as "1 1/4 cups sugar", "2½ lb", "a pint", "half a crate", "18 quinces".
        customs: the household's cup and containers; metric when not given.

    Raises:
        CannotRead: it is no quantity, or it could be two; points at the place.

    Source: data/units.csv.

    >>> round(parse("1 1/4 cups", Customs("us")).amount, 1)
    295.7
    >>> parse("2 lb 3 oz").dimension, round(parse("2 lb 3 oz").amount, 1)
    ('mass', 992.2)
    """
    customs = customs or Customs()
    reader = Reader(text, customs)
    return reader.whole()


def convert(amount: float, from_unit: str, to_unit: str, system: System = "us") -> float:
    """An amount in another unit of its dimension; units are words of data/units.csv.

    Raises:
        Unknown: a word that is no unit.
        CannotTell: units of two dimensions.

    Source: pint's registry with the definitions of data/units.csv.

    >>> round(convert(212, "°F", "°C"), 6), round(convert(1, "gal", "l"), 4)
    (100.0, 3.7854)
    """
    found = _units()
    for word in (from_unit, to_unit):
        if word not in found:
            raise Unknown("unit", word)
    (one, by_one), (other, by_other) = found[from_unit], found[to_unit]
    if one != other:
        raise CannotTell(f"{from_unit} is {one} and {to_unit} is {other}: say of what")
    return float(_registry().Quantity(amount, by_one[system]).to(by_other[system]).magnitude)


def mass_g(
    quantity: Quantity, ingredient_or_fruit: str | None = None, poured: bool = False
) -> float:
    """Mass [g] of a quantity, through the ingredient's density or the fruit's piece.

    Args:
        quantity: a mass, volume or count.
        ingredient_or_fruit: key; the quantity's own `of` when not given.
        poured: whether a fruit's volume is of its juice, not of fruit in a basket.

    Raises:
        CannotTell: neither the quantity nor the key says of what, or they say two things, or no
            such figure is known.
        Unknown: a key that is not listed.

    Source: data/ingredients.csv, data/fruits.csv.

    >>> round(mass_g(parse("1 cup white sugar", Customs("us"))))
    200
    >>> mass_g(parse("18 quinces"))
    4500.0
    """
    said = quantity.of
    if said and ingredient_or_fruit and said != ingredient_or_fruit:
        raise CannotTell(f"that is {_name(said)}, and {_name(ingredient_or_fruit)} comes in")
    if quantity.dimension == "mass":
        return quantity.amount
    key = ingredient_or_fruit or quantity.of
    if key is None:
        raise CannotTell("a volume or a count only has a mass once it is said of what")
    if quantity.dimension == "volume":
        juice = poured or quantity.juice
        return quantity.amount * mass_of_litre_kg(key, juice)
    if quantity.dimension == "count":
        piece = materials.fruit(key).piece_g
        if piece is None:
            raise CannotTell(f"{materials.fruit(key).name} is not counted: weigh it")
        return quantity.amount * piece
    raise CannotTell(f"a {quantity.dimension} has no mass")


def volume_ml(quantity: Quantity, ingredient_or_fruit: str | None = None) -> float:
    """Volume [mL] as a cook measures it (packed, granules or liquid) of a mass or volume.

    Raises:
        CannotTell: it is not said of what, or it is a count.
        Unknown: a key that is not listed.

    Source: data/ingredients.csv, data/fruits.csv.

    >>> round(volume_ml(parse("200 g white sugar")))
    237
    """
    if quantity.dimension == "volume":
        return quantity.amount
    key = ingredient_or_fruit or quantity.of
    if key is None:
        raise CannotTell("a mass only has a volume once it is said of what")
    return mass_g(quantity, key) / mass_of_litre_kg(key)


def _name(key: str) -> str:
    thing = materials.fruits().get(key) or materials.ingredient(key)
    return thing.name.lower()


def mass_of_litre_kg(key: str, juice: bool = False) -> float:
    """Kilograms a litre, as measured in a cup or basket; of a fruit's own juice where it is juice.

    Args:
        key: fruit or ingredient.
        juice: whether a fruit's juice is meant.

    Raises:
        CannotTell: no such figure is known.
        Unknown: a key that is not listed.

    Source: data/ingredients.csv, data/fruits.csv; juice at its typical Brix and 20 °C.

    >>> mass_of_litre_kg("honey"), round(mass_of_litre_kg("apple", juice=True), 3)
    (1.42, 1.049)
    """
    if key in materials.ingredients():
        return materials.ingredient(key).density_kg_per_l
    fruit = materials.fruit(key)
    if juice:
        if fruit.brix is None:
            raise CannotTell(f"nothing is typical of {_name(key)} juice: weigh it")
        return float(sugar.density_kg_m3(fruit.brix.typ) / 1000.0)
    if fruit.pack_kg_per_l is None:
        raise CannotTell(f"{fruit.name} is not measured by volume: weigh it")
    return fruit.pack_kg_per_l


def show(quantity: Quantity, system: System = "metric") -> str:
    """A quantity as people say it, rounded to what a kitchen can measure.

    Spoons to quarters, cups to eighths, quarts and pounds to their smaller unit, grams to 1
    under 50 and to 5 above, millilitres likewise, whole °C or °F, quarter inches.

    Args:
        quantity: what to say.
        system: in whose units.

    Source: kitchen sets as sold; rounding is our own.

    >>> show(Quantity(295.74, "volume"), "us"), show(Quantity(1252, "mass"))
    ('1 1/4 cups', '1.25 kg')
    """
    said: str = _SHOW[quantity.dimension](quantity.amount, system)
    return said + _tail(quantity)


def _tail(quantity: Quantity) -> str:
    if quantity.of is None:
        return ""
    if quantity.dimension == "count":
        name = materials.fruit(quantity.of).name.lower()
        return f" {name if quantity.amount == 1 else names.plural(name)}"
    known = materials.ingredients().get(quantity.of)
    return f" {(known or materials.fruit(quantity.of)).name.split(' (')[0].lower()}"


LEAST_OUNCES_G = 14.0
"""Under half an ounce a quarter of one is too coarse to weigh by, and grams are said [g]."""


def _show_mass(grams: float, system: System) -> str:
    if system == "metric" or grams < LEAST_OUNCES_G:
        return _metric(grams, "g", "kg")
    ounces = round(convert(grams, "g", "oz") * 4) / 4
    pounds, rest = divmod(ounces, 16)
    parts = [f"{pounds:.0f} lb"] if pounds else []
    if rest or not parts:
        parts.append(f"{_fraction(rest)} oz")
    return " ".join(parts)


def _metric(amount: float, small: str, large: str) -> str:
    if amount >= 997.5:
        text = f"{round(amount / 1000, 2):.2f}".rstrip("0").rstrip(".")
        return f"{text} {large}"
    step = 5 if amount >= 50 else 1 if amount >= 5 else 0.1
    return f"{round(amount / step) * step:g} {small}"


_VOLUMES: dict[str, tuple[tuple[str, str, int, float], ...]] = {
    "us": (
        ("tsp", "tsp", 4, 3), ("tbsp", "tbsp", 2, 4), ("cup", "cups", 8, 4),
        ("quart", "quarts", 4, 16), ("gallon", "gallons", 4, 1e9),
    ),
    "imperial": (
        ("tsp", "tsp", 4, 3), ("tbsp", "tbsp", 2, 4), ("fl oz", "fl oz", 2, 20),
        ("pint", "pints", 8, 8), ("gallon", "gallons", 4, 1e9),
    ),
}  # fmt: skip
"""Unit, its plural, the parts it is divided into, and below how many of them it is used."""


def _show_volume(ml: float, system: System) -> str:
    if system == "metric":
        return _metric(ml, "ml", "l")
    for word, plural, parts, until in _VOLUMES[system]:
        count = Fraction(round(convert(ml, "ml", word, system) * parts), parts)
        if count < until:
            return f"{_fraction(count)} {word if count <= 1 else plural}"
    raise CannotTell("no kitchen unit is that large")


def _show_temperature(celsius: float, system: System) -> str:
    if system == "us":
        return f"{round(convert(celsius, '°C', '°F'))} °F"
    return f"{round(celsius)} °C"


def _show_length(mm: float, system: System) -> str:
    if system == "metric":
        return f"{mm / 1000:g} m" if mm >= 1000 else f"{round(mm)} mm"
    inches = Fraction(round(convert(mm, "mm", "in") * 4), 4)
    feet, rest = divmod(inches, 12)
    parts = [f"{feet} ft"] if feet else []
    if rest or not parts:
        parts.append(f"{_fraction(rest)} in")
    return " ".join(parts)


_SHOW: dict[str, Any] = {
    "mass": _show_mass,
    "volume": _show_volume,
    "temperature": _show_temperature,
    "length": _show_length,
    "count": lambda amount, _: f"{amount:g}",
}


def _fraction(amount: float | Fraction) -> str:
    """1.25 as "1 1/4"."""
    whole, rest = divmod(Fraction(amount).limit_denominator(16), 1)
    if not rest:
        return str(whole)
    return f"{whole} {rest}" if whole else str(rest)


class Reader(Cursor):
    """Reads one text: sums of number and unit, then perhaps of what."""

    def __init__(self, text: str, customs: Customs) -> None:
        super().__init__(text)
        self.customs = customs

    def whole(self) -> Quantity:
        """The quantity that the whole text is.

        Raises:
            CannotRead: it is none.
        """
        if not self.tokens:
            raise CannotRead("There is nothing to read.", self.text, 0, 1)
        total: Quantity | None = None
        while self.at < len(self.tokens) and (total is None or self.number_ahead()):
            total = self._added(total, self._one())
        assert total is not None  # the loop ran at least once
        return self._of(total)

    def _added(self, total: Quantity | None, more: Quantity) -> Quantity:
        if total is None:
            return more
        if more.dimension != total.dimension or total.dimension in {"temperature", "count"}:
            self.fail("These two do not add up.", self.tokens[self.at - 1])
        return Quantity(total.amount + more.amount, total.dimension)

    def _one(self) -> Quantity:
        first = self.tokens[self.at]
        below = first.text in {"-", "−"}
        self.at += below
        number = self.number()
        if number is None:
            self.fail("A figure was expected here.", first)
        number *= self.times()
        system = self.system()
        unit, token = self.unit()
        if below and (unit is None or unit[0] != "temperature"):
            self.fail("A figure was expected: only temperatures go below nought.", first)
        if unit is None or token is None:
            return self._counted(float(number), first)
        return Quantity(in_base(unit, float(-number if below else number), system), unit[0])

    def system(self) -> System:
        """Whose unit follows: said before it, or the household's."""
        said = _SYSTEM_WORDS.get(self.ahead())
        if said is None or self.at + 1 >= len(self.tokens):
            return self.customs.system
        self.at += 1
        return said

    def unit(self) -> tuple[Unit | None, Token | None]:
        """The longest unit word ahead, of one or two tokens."""
        if self.at >= len(self.tokens):
            return None, None
        first = self.tokens[self.at]
        self._refuse_ambiguous(first)
        for length in (2, 1):
            ahead = self.tokens[self.at : self.at + length]
            if len(ahead) == length:
                words = " ".join(t.text.replace(" ", "") for t in ahead)
                found = _units().get(words) or _units().get(words.lower())
                if found:
                    self.at += length
                    self.skip_dot()
                    return found, first
        return None, None

    def _refuse_ambiguous(self, token: Token) -> None:
        if token.text in {"C", "c"}:
            self.fail("C could be cups or degrees Celsius: write cups or °C.", token)
        if token.text == "F":
            self.fail("Write °F for degrees Fahrenheit.", token)

    def _counted(self, number: float, first: Token) -> Quantity:
        """A household's container, or pieces of a fruit."""
        if self.at >= len(self.tokens):
            self.fail("A unit is missing after this figure.", first)
        token = self.tokens[self.at]
        word = self.ahead()
        for name in (word, word.removesuffix("s"), word.removesuffix("es")):
            if name in self.customs.containers:
                self.at += 1
                held = self.customs.containers[name]
                return Quantity(held.amount * number, held.dimension, held.of)
        if word in {"-", "–", "to", "or"}:
            self.fail("This is a range: say one figure.", token)
        length, key = self._named(materials.fruits())
        if key is None:
            self.fail(f'"{token.text}" is no unit, container or fruit known here.', token)
        self.at += length
        return Quantity(number, "count", key)

    def _of(self, total: Quantity) -> Quantity:
        """A trailing ingredient or fruit."""
        self.skip("of")
        if self.at >= len(self.tokens):
            return total
        length, key = self._named({**materials.ingredients(), **materials.fruits()})
        self.at += length
        juice = key in materials.fruits() and self.ahead() == "juice"
        self.at += juice
        if self.at < len(self.tokens):
            token = self.tokens[self.at]
            self.fail(f'"{token.text}" cannot be read here.', token)
        return Quantity(total.amount, total.dimension, key, juice)

    def _named(self, listed: Mapping[str, Any]) -> tuple[int, str | None]:
        """The key of the longest name ahead, singular or plural, and its length in tokens."""
        for length in range(len(self.tokens) - self.at, 0, -1):
            ahead = self.tokens[self.at : self.at + length]
            word = "".join(t.text.lower() for t in ahead if t.text != "-")
            known = names.called().get(word)
            found = [key for key in known.keys if key in listed] if known else []
            if len(found) > 1:
                could = " or ".join(listed[key].name.lower() for key in found)
                self.fail(f"This could be {could}: say which.", ahead[0], ahead[-1])
            if found:
                return length, found[0]
        return 0, None


def in_base(unit: Unit, number: float, system: System) -> float:
    """So many of a unit, as a household means it, in its dimension's base unit."""
    dimension, by_system = unit
    amount = _registry().Quantity(number, by_system[system])
    return float(amount.to(BASE_UNIT[dimension]).magnitude)


def unit_of(word: str) -> Unit:
    """The unit that a word stands for.

    Raises:
        Unknown: it is none.
    """
    if word not in _units():
        raise Unknown("unit", word)
    return _units()[word]


def is_unit(word: str) -> bool:
    """Whether a word is a unit.

    >>> is_unit("cups"), is_unit("sprigs")
    (True, False)
    """
    return word in _units()


@cache
def _units() -> dict[str, Unit]:
    """Unit words with their dimension and their unit in each system."""
    found: dict[str, Unit] = {}
    for row in tables.rows("units"):
        systems = {s: row[s] for s in ("us", "metric", "imperial")}
        for word in tables.words(row["words"]):
            found[word] = (row["dimension"], systems)  # type: ignore[assignment]
    return found


@cache
def _registry() -> Any:
    """pint's registry with the kitchen units it lacks."""
    import pint  # noqa: PLC0415  half a second, and only where units are read

    registry: Any = pint.UnitRegistry()
    registry.define("metric_cup = 250 * milliliter")
    registry.define("metric_tablespoon = 15 * milliliter")
    registry.define("metric_teaspoon = 5 * milliliter")
    registry.define("imperial_tablespoon = imperial_fluid_ounce * 0.625")
    registry.define("imperial_teaspoon = imperial_tablespoon / 3")
    registry.define("pinch = metric_teaspoon / 16")
    registry.define("dash = metric_teaspoon / 8")
    return registry
