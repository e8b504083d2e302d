"""Jars that were there already, and the clocks of what nobody vouches for.

Nobody here has seen how they were made. So they are counted, found and dated with a wide band, and
what cannot be told to be sour enough for a shelf is never called good.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from datetime import date
from functools import cache

from elderberry.core import materials, storage, tables
from elderberry.core.errors import Unknown
from elderberry.core.findings import Finding
from elderberry.core.rules import rule
from elderberry.core.storage import LifeRow

COLD = {"refrigerator": "chill", "freezer": "freeze"}
"""How what stands at a kind of place is kept; on a shelf or in a cellar elsewhere."""
STATES = {"shelf": "canned_sealed", "chill": "chilled_unopened", "freeze": "frozen"}
MOST = 500
"""Jars that one line may speak of."""


@dataclass(frozen=True)
class Product:
    """What the word on a jar says it holds.

    clocks: products of storage_life.csv by the way it is kept: shelf, chill, freeze or dry.
    """

    word: str
    words: tuple[str, ...]
    clocks: Mapping[str, tuple[str, ...]]


@cache
def products() -> dict[str, Product]:
    """Every product of data/found.toml by its word, in the order in which they are looked for."""
    return {
        word: Product(
            word, tuple(row["words"]), {k: tuple(v) for k, v in row.items() if k != "words"}
        )
        for word, row in tables.document("found").items()
    }


@dataclass(frozen=True)
class Filled:
    """When jars were filled, as far as anybody knows: a first day and a last one."""

    first: date
    last: date

    @property
    def middle(self) -> date:
        """The day between the two."""
        return self.first + (self.last - self.first) / 2

    @property
    def off_days(self) -> int:
        """How far off the middle may be [d]."""
        return (self.last - self.first).days // 2


@dataclass(frozen=True)
class FoundJars:
    """Jars that were there already, as a line says them.

    said: word for word. count: how many. label: what stands on them. material: what they are
    mostly of, "" where no list knows it. product: a word of products(). jar_kind: what they are
    in. place_id: where they stand. doubts: what was guessed at, of DOUBTS, and is to be looked at.
    """

    said: str
    count: int
    label: str
    material: str
    product: str
    jar_kind: str
    place_id: int
    filled: Filled
    doubts: frozenset[str] = frozenset()


DOUBTS = ("jar_kind", "material", "place", "filled")


A_MONTH_D, A_YEAR_D = 16, 200


def when(middle: date, off_days: int) -> str:
    """When something was filled of which nobody knows the day; nothing where one does.

    Args:
        middle: the likeliest day.
        off_days: how far off it may be [d].

    >>> when(date(2025, 8, 16), 15), when(date(2024, 7, 1), 183), when(date(2025, 5, 1), 547)
    ('in August 2025', 'about July 2024', 'nobody knows when')
    """
    if off_days > A_YEAR_D:
        return "nobody knows when"
    if off_days > A_MONTH_D:
        return f"about {middle:%B %Y}"
    return f"in {middle:%B %Y}" if off_days else ""


@cache
def life_row(product: str, place_kind: str) -> LifeRow:
    """The careful clock of a jar that nobody vouches for.

    The shortest life that a careful cook sees of what it may be counts as the usual one; the band
    goes from that with headspace and light against it to the longest of all.

    Args:
        product: a word of products().
        place_kind: where it stands: shelf, cellar, refrigerator or freezer.

    Raises:
        Unknown: no such product.

    Source: data/found.toml, data/storage_life.csv; the band is our own reckoning.

    >>> life_row("juice", "cellar").days_typ, life_row("", "cellar").days_hi
    (300.0, 540.0)
    """
    clocks = product_of(product).clocks
    way = "dry" if "dry" in clocks else COLD.get(place_kind, "shelf")
    rows = [
        storage.dry_row(name) if way == "dry" else storage.life_row(STATES[way], name)
        for name in clocks[way]
    ]
    short = min(rows, key=lambda r: r.days_lo)
    against = storage.life_factor(light=True, excess_headspace=True)
    return replace(
        short, days_lo=against * short.days_lo, days_typ=short.days_lo,
        days_hi=max(r.days_hi for r in rows),
    )  # fmt: skip


def lives_as(product: str) -> dict[str, str]:
    """The clocks of a product as a jar's contents keep them, the first of each way.

    >>> lives_as("leather"), lives_as("jelly")["shelf"]
    ({'dry': 'leather'}, 'jelly')
    """
    return {way: names[0] for way, names in product_of(product).clocks.items()}


def product_of(word: str) -> Product:
    """A product by its word.

    Raises:
        Unknown: no such product.
    """
    try:
        return products()[word]
    except KeyError:
        raise Unknown("product", word) from None


def findings(material: str, product: str, place_kind: str) -> list[Finding]:
    """What is to be said of a jar that nobody vouches for, where it stood when it was found.

    Dry or cold, nothing stands against it. Warm, what is not listed as a sour fruit stops: without
    a tested process it can carry botulism that nobody sees, smells or tastes.

    Source: data/fruits.csv (ph_risk); USDA Complete Guide to Home Canning (2015), guide 1.

    >>> [f.id for f in findings("damson", "juice", "cellar")]
    ['found-not-vouched']
    >>> [f.id for f in findings("melon", "juice", "shelf")]
    ['found-not-sour']
    """
    return list(_findings(material, product, place_kind))


@cache
def _findings(material: str, product: str, place_kind: str) -> tuple[Finding, ...]:
    if place_kind in COLD or "dry" in product_of(product).clocks:
        return (rule("found-not-vouched").finding(),)
    fruit = materials.fruits().get(material)
    if fruit is None or fruit.ph_risk == "never":
        name = fruit.name if fruit else _told(material)
        return (rule("found-not-sour").finding(what=name),)
    watch = (rule("found-watch").finding(what=fruit.name),) if fruit.ph_risk == "watch" else ()
    return (*watch, rule("found-not-vouched").finding())


def _told(material: str) -> str:
    if material in materials.ingredients():
        return materials.ingredient(material).name
    return "What is in it"


def head(letters: str, year: int) -> str:
    """How the codes of jars begin that were there already.

    >>> head("PL", 2025)
    'PL-25-F'
    """
    return f"{letters}-{year % 100:02d}-F"


def last_number(head: str, taken: Iterable[str]) -> int:
    """The highest number among codes that begin so; 0 where there is none.

    >>> last_number("PL-25-F", ["PL-25-F07", "PL-25-FX"])
    7
    """
    tails = (code.removeprefix(head) for code in taken)
    return max((int(t) for t in tails if t.isdecimal()), default=0)
