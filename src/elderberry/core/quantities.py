"""Kitchen quantities: reading what people write, converting, and saying it as people do.

Amounts are held in base units: g, mL, °C, mm, or pieces. Which cup is meant is the household's
choice; US, metric and imperial are known.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from fractions import Fraction
from functools import cache
from typing import Any, Literal, NoReturn

from elderberry.core import materials, sugar, tables
from elderberry.core.errors import CannotTell, CoreError, Unknown, check_range

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
_VULGAR = {"¼": "1/4", "½": "1/2", "¾": "3/4", "⅓": "1/3", "⅔": "2/3"} | {
    "⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8", "⅙": "1/6", "⅚": "5/6", "⅕": "1/5",
}  # fmt: skip
_COUNTED = "one two three four five six seven eight nine ten eleven twelve"
_NUMBER_WORDS: dict[str, Fraction] = {
    **{word: Fraction(n) for n, word in enumerate(_COUNTED.split(), start=1)},
    **dict.fromkeys(("a", "an"), Fraction(1)),
    "couple": Fraction(2),
    "dozen": Fraction(12),
}
_PART_WORDS: dict[str, Fraction] = {
    **dict.fromkeys(("half", "halves"), Fraction(1, 2)),
    **dict.fromkeys(("third", "thirds"), Fraction(1, 3)),
    **dict.fromkeys(("quarter", "quarters"), Fraction(1, 4)),
    **dict.fromkeys(("eighth", "eighths"), Fraction(1, 8)),
}
_FIGURE_WORDS = _NUMBER_WORDS | _PART_WORDS
_SYSTEM_WORDS: dict[str, System] = {
    "us": "us",
    "metric": "metric",
    "imperial": "imperial",
    "uk": "imperial",
}
POUND_G = 453.59237
COUNTED_G = 40.0
"""Fruit from this on is counted as readily as it is weighed [g]."""
_DIGITS = frozenset({"vulgar", "mixed", "fraction", "number"})
_TOKEN = re.compile(
    r"\s*(?:(?P<vulgar>[¼½¾⅓⅔⅛⅜⅝⅞⅙⅚⅕])|(?P<mixed>\d+(?:\s+|-)\d+\s*[/⁄]\s*\d+)|(?P<fraction>\d+\s*[/⁄]\s*\d+)"
    r"|(?P<number>\d+(?:[.,]\d+)*)|(?P<word>[^\W\d_]+(?:['’][^\W\d_]+)*|°\s*[CF]|[\"'″′])"
    r"|(?P<other>\S))"
)


class CannotRead(CoreError):
    """Text that is no quantity, or could be two; start and end point at the place."""

    def __init__(self, message: str, text: str, start: int, end: int) -> None:
        self.text, self.start, self.end = text, start, max(end, start + 1)
        super().__init__(message)

    def pointed(self) -> str:
        """The text with carets under the place."""
        return f"{self.text}\n{' ' * self.start}{'^' * (self.end - self.start)}"


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


@dataclass(frozen=True)
class _Token:
    kind: str
    text: str
    start: int
    end: int


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
    reader = _Reader(text, customs)
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
        return quantity.amount * (_juice_density(key) if juice else _density(key))
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
    return mass_g(quantity, key) / _density(key)


def said_g(
    text: str, key: str, customs: Customs | None = None, poured: bool = False, pounds: bool = False
) -> float:
    """Mass [g] of something as it was said to come in: "9.6", "3 crates", "18 quinces", "5 lb".

    A bare figure is kilos, or pounds where the household weighs in them; a bare whole figure of a
    fruit that is counted could be either, and is asked again.

    Args:
        text: what was said.
        key: fruit or ingredient that it is of.
        customs: the household's cup and containers.
        poured: whether it is juice, so that a volume is of juice.
        pounds: whether a bare figure is pounds.

    Raises:
        CannotRead: it cannot be read, or it could be two.
        CannotTell: no mass can be told.

    >>> said_g("9,6", "quince"), said_g("18 quinces", "quince")
    (9600.0, 4500.0)
    """
    bare = re.fullmatch(r"\s*(\d+)(?:[.,](\d+))?\s*", text)
    if not bare:
        return mass_g(parse(text, customs), key, poured)
    unit, grams = ("lb", POUND_G) if pounds else ("kg", 1000.0)
    piece = materials.fruits()[key].piece_g if key in materials.fruits() and not poured else None
    if bare[2] is None and piece and piece >= COUNTED_G:
        words = f"{bare[1]} {unit} or {bare[1]} {_plural(_name(key))}"
        raise CannotRead(f"This could be {words}: write which.", text, 0, len(text))
    return float(f"{bare[1]}.{bare[2] or 0}") * grams


def _name(key: str) -> str:
    thing = materials.fruits().get(key) or materials.ingredient(key)
    return thing.name.lower()


def _juice_density(key: str) -> float:
    """Kilograms a litre of a fruit's own juice, or of an ingredient, at 20 °C."""
    if key in materials.ingredients():
        return _density(key)
    brix = materials.fruit(key).brix
    if brix is None:
        raise CannotTell(f"nothing is typical of {_name(key)} juice: weigh it")
    return float(sugar.density_kg_m3(brix.typ) / 1000.0)


def _density(key: str) -> float:
    """Kilograms a litre, as measured in a cup or basket."""
    if key in materials.ingredients():
        return materials.ingredient(key).density_kg_per_l
    packed = materials.fruit(key).pack_kg_per_l
    if packed is None:
        raise CannotTell(f"{materials.fruit(key).name} is not measured by volume: weigh it")
    return packed


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
        return f" {name if quantity.amount == 1 else _plural(name)}"
    known = materials.ingredients().get(quantity.of)
    return f" {(known or materials.fruit(quantity.of)).name.split(' (')[0].lower()}"


def _show_mass(grams: float, system: System) -> str:
    if system == "metric":
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


class _Reader:
    """Reads one text: sums of number and unit, then perhaps of what."""

    def __init__(self, text: str, customs: Customs) -> None:
        self.text, self.customs = text, customs
        self.tokens = list(_tokens(text))
        self.at = 0

    def whole(self) -> Quantity:
        if not self.tokens:
            raise CannotRead("There is nothing to read.", self.text, 0, 1)
        total: Quantity | None = None
        while self.at < len(self.tokens) and (total is None or self._number_ahead()):
            total = self._added(total, self._one())
        assert total is not None  # the loop ran at least once
        return self._of(total)

    def _added(self, total: Quantity | None, more: Quantity) -> Quantity:
        if total is None:
            return more
        if more.dimension != total.dimension or total.dimension in {"temperature", "count"}:
            self._fail("These two do not add up.", self.tokens[self.at - 1])
        return Quantity(total.amount + more.amount, total.dimension)

    def _one(self) -> Quantity:
        first = self.tokens[self.at]
        below = first.text in {"-", "−"}
        self.at += below
        number = self._number()
        if number is None:
            self._fail("A figure was expected here.", first)
        number *= self._times()
        system = self._system()
        unit, token = self._unit()
        if below and (unit is None or unit[0] != "temperature"):
            self._fail("A figure was expected: only temperatures go below nought.", first)
        if unit is None or token is None:
            return self._counted(float(number), first)
        dimension, by_system = unit
        amount = _registry().Quantity(float(-number if below else number), by_system[system])
        return Quantity(float(amount.to(BASE_UNIT[dimension]).magnitude), dimension)

    def _ahead(self, by: int = 0) -> str:
        """The word or sign ahead in small letters; empty at the end."""
        at = self.at + by
        return self.tokens[at].text.lower() if at < len(self.tokens) else ""

    def _times(self) -> Fraction:
        """The second figure of "3 x 500 g"; 1 where nothing is multiplied."""
        if self._ahead() not in {"x", "×"}:
            return Fraction(1)
        sign = self.tokens[self.at]
        self.at += 1
        found = self._number()
        if found is None:
            self._fail("A figure was expected after this.", sign)
        return found

    def _system(self) -> System:
        """Whose unit follows: said before it, or the household's."""
        said = _SYSTEM_WORDS.get(self._ahead())
        if said is None or self.at + 1 >= len(self.tokens):
            return self.customs.system
        self.at += 1
        return said

    def _number_ahead(self) -> bool:
        """Whether another figure follows, perhaps after "and"."""
        at = self.at + (self._ahead() == "and")
        found = at < len(self.tokens) and self.tokens[at].kind in _DIGITS
        self.at = at if found else self.at
        return found

    def _number(self) -> Fraction | None:
        """A figure in digits or words, perhaps with a part ("two and a half"); None without one."""
        value, here = self._figures(), self.at
        if value is None or self._ahead() != "and":
            return value
        self.at += 1
        part = self._figures()
        if part is None or part >= 1:
            self.at = here
            return value
        return value + part

    def _figures(self) -> Fraction | None:
        value: Fraction | None = None
        while self.at < len(self.tokens):
            if value is not None and self._ahead() == "-" and self._ahead(1) in _PART_WORDS:
                self.at += 1
            token = self.tokens[self.at]
            more = self._figure(token)
            if more is None:
                break
            if value is not None and token.kind != "word" and not 0 < more < 1:
                self._fail("Two figures in a row: which of them?", token)
            value = _joined(value, more, token)
            self.at += 1
            if token.text.lower() in {*_PART_WORDS, "couple", "dozen"}:
                self._skip("of", "a", "an")
        return value

    def _figure(self, token: _Token) -> Fraction | None:
        if token.kind == "vulgar":
            return Fraction(_VULGAR[token.text])
        if token.kind in {"mixed", "fraction"}:
            *whole, numerator, denominator = (int(n) for n in re.findall(r"\d+", token.text))
            if denominator == 0:
                self._fail("Nothing can be divided by nought.", token)
            return sum(whole) + Fraction(numerator, denominator)
        if token.kind == "number":
            return self._decimal(token)
        return _FIGURE_WORDS.get(token.text.lower())

    def _decimal(self, token: _Token) -> Fraction:
        text = token.text
        if re.fullmatch(r"\d{1,3}(,\d{3})+(\.\d+)?", text):
            if text.count(",") == 1 and "." not in text:
                plain, point = text.replace(",", ""), text.replace(",", ".")
                self._fail(f"This could be {plain} or {point}: write it one way.", token)
            return Fraction(text.replace(",", ""))
        if text.count(",") + text.count(".") > 1:
            self._fail("This is no figure.", token)
        return Fraction(text.replace(",", "."))

    def _unit(self) -> tuple[tuple[Dimension, dict[str, str]] | None, _Token | None]:
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
                    self._skip_dot()
                    return found, first
        return None, None

    def _refuse_ambiguous(self, token: _Token) -> None:
        if token.text in {"C", "c"}:
            self._fail("C could be cups or degrees Celsius: write cups or °C.", token)
        if token.text == "F":
            self._fail("Write °F for degrees Fahrenheit.", token)

    def _counted(self, number: float, first: _Token) -> Quantity:
        """A household's container, or pieces of a fruit."""
        if self.at >= len(self.tokens):
            self._fail("A unit is missing after this figure.", first)
        token = self.tokens[self.at]
        word = self._ahead()
        for name in (word, word.removesuffix("s"), word.removesuffix("es")):
            if name in self.customs.containers:
                self.at += 1
                held = self.customs.containers[name]
                return Quantity(held.amount * number, held.dimension, held.of)
        if word in {"-", "–", "to", "or"}:
            self._fail("This is a range: say one figure.", token)
        length, key = self._named(materials.fruits())
        if key is None:
            self._fail(f'"{token.text}" is no unit, container or fruit known here.', token)
        self.at += length
        return Quantity(number, "count", key)

    def _of(self, total: Quantity) -> Quantity:
        """A trailing ingredient or fruit."""
        self._skip("of")
        if self.at >= len(self.tokens):
            return total
        length, key = self._named({**materials.ingredients(), **materials.fruits()})
        self.at += length
        juice = key in materials.fruits() and self._ahead() == "juice"
        self.at += juice
        if self.at < len(self.tokens):
            token = self.tokens[self.at]
            self._fail(f'"{token.text}" cannot be read here.', token)
        return Quantity(total.amount, total.dimension, key, juice)

    def _named(self, listed: Mapping[str, Any]) -> tuple[int, str | None]:
        """The key of the longest name ahead, singular or plural, and its length in tokens."""
        for length in range(len(self.tokens) - self.at, 0, -1):
            ahead = self.tokens[self.at : self.at + length]
            word = "".join(t.text.lower() for t in ahead if t.text != "-")
            found = [key for key in _called().get(word, ()) if key in listed]
            if len(found) > 1:
                could = " or ".join(listed[key].name.lower() for key in found)
                self._fail(f"This could be {could}: say which.", ahead[0], ahead[-1])
            if found:
                return length, found[0]
        return 0, None

    def _skip(self, *words: str) -> None:
        while self._ahead() in words:
            self.at += 1

    def _skip_dot(self) -> None:
        if self._ahead() == ".":
            self.at += 1

    def _fail(self, message: str, token: _Token, last: _Token | None = None) -> NoReturn:
        raise CannotRead(message, self.text, token.start, (last or token).end)


def _joined(value: Fraction | None, more: Fraction, token: _Token) -> Fraction:
    """Figures in a row: "2 dozen" multiplies, "half a", "two and" follow, "2 ½" adds."""
    if value is None:
        return more
    if token.kind == "word":
        return value * more
    return value + more


def _tokens(text: str) -> Iterator[_Token]:
    """Figures, words and signs with their places."""
    position = 0
    while (match := _TOKEN.match(text, position)) is not None:
        kind = str(match.lastgroup)
        yield _Token(kind, match.group(kind), match.start(kind), match.end(kind))
        position = match.end()


@cache
def _called() -> dict[str, list[str]]:
    """Keys of what goes by a name, one or several of it, written without spaces."""
    found: dict[str, list[str]] = {}
    listed: list[tuple[str, materials.Ingredient | materials.Fruit]] = [
        *materials.ingredients().items(), *materials.fruits().items()
    ]  # fmt: skip
    for key, item in listed:
        plain = item.name.lower().split(" (")[0]
        also = item.also if isinstance(item, materials.Ingredient) else ()
        names = {plain, key.replace("_", " "), " ".join(reversed(key.split("_"))), *also}
        for name in {n.replace(" ", "") for n in names | {_plural(n) for n in names}}:
            found.setdefault(name, []).append(key)
    return found


def _plural(word: str) -> str:
    if word.endswith("y") and word[-2:] not in {"ay", "ey", "oy"}:
        return word[:-1] + "ies"
    return word + ("es" if word.endswith(("s", "x", "ch", "sh")) else "s")


@cache
def _units() -> dict[str, tuple[Dimension, dict[str, str]]]:
    """Unit words with their dimension and their unit in each system."""
    found: dict[str, tuple[Dimension, dict[str, str]]] = {}
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
