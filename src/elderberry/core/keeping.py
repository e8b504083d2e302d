"""What something is called and how long it keeps, read off what is in the jar."""

from __future__ import annotations

from typing import Literal, get_args

from elderberry.core import water
from elderberry.core.composition import Composition
from elderberry.core.drying.dried import dried, life_product
from elderberry.core.errors import Unknown
from elderberry.core.estimates import from_draws
from elderberry.core.numbers import Array, bisect
from elderberry.core.process.contents import Contents
from elderberry.core.process.standing import STRAINED_PULP_PCT
from elderberry.core.storage import LifeRow, dry_row, life_row, spirited

Keep = Literal["shelf", "sugar", "dry", "chill", "freeze", "now"]
KEEPS: tuple[Keep, ...] = get_args(Keep)
"""Ways that an end is kept: canned, by its sugar alone, dry, cold, frozen; what is drunk now is
kept cold, as far as some is left."""
STATE = {"shelf": "canned_sealed", "sugar": "sugar_shelf", "freeze": "frozen"}
COLD = "chilled_unopened"
SYRUP_BRIX, STRONG_BRIX, HALF_BRIX, THIN_BRIX = 35.0, 60.0, 45.0, 20.0
HEATED_C = 60.0
SPIRIT_PCT = 1.5
"""Ethanol at which a syrup has all the life of one with spirit [% of mass]; less in proportion."""
SWEETENED_G_PER_L = 50.0
INFUSED_WATER_PCT = 50.0
FRESH_CITRUS = frozenset({"lemon", "lime", "orange", "grapefruit"})


def product_word(contents: Contents) -> str:
    """What it is, in a word a label can carry: juice, syrup, purée, drink, powder, jelly."""
    lot = contents.lot
    if lot.loose:
        return dried(lot.dried).name if lot.dried else "whole"
    if contents.whole or contents.sets:
        return "in the jar" if contents.whole else "jelly"
    if contents.fruit and contents.pulp_pct > STRAINED_PULP_PCT:
        return "purée"
    if contents.brix >= SYRUP_BRIX:
        return "syrup"
    thin = contents.water_pct > INFUSED_WATER_PCT or not contents.fruit
    return "drink" if thin or contents.untested == "stretched_citrus" else "juice"


def label_of(contents: Contents) -> str:
    """What a jar of it says: "Damson juice", "Redcurrant, whole", "Syrup"."""
    word = product_word(contents)
    if contents.lot.dried and word.startswith("dried"):
        return contents.lot.titled(word, joined_by=", ")
    if word == "whole" or contents.whole:
        return contents.lot.titled("whole", joined_by=", ")
    return contents.lot.titled(word)


def life_of(contents: Contents, keep: str) -> LifeRow:
    """How long it is at its best, by what is in it and how it is kept.

    Args:
        contents: what is in the jar.
        keep: one of KEEPS.

    Raises:
        Unknown: a way of keeping that there is none of.

    Source: data/storage_life.csv.
    """
    if keep not in KEEPS:
        raise Unknown("ending", keep)
    if keep == "dry":
        return dry_row(life_product(contents.lot.dried, contents.usual))
    ways = {"shelf": _on_the_shelf, "sugar": _by_sugar, "freeze": _frozen}
    product = ways.get(keep, _in_the_cold)(contents)
    return spirited(life_row(STATE.get(keep, COLD), product), spirit_share(contents))


def spirit_share(contents: Contents) -> float:
    """The alcohol in it, of what lengthens the life of a syrup in full [-]; 0 to 1."""
    mass = max(float(contents.usual.mass_g), 1e-9)
    return min(1.0, 100.0 * float(contents.usual.ethanol) / mass / SPIRIT_PCT)


KEEPS_UNDER_AW = 0.75
"""Water activity under which a closed jar keeps at room temperature: water.keeping_class [-]."""
SUGAR_MARGIN_BX = 0.5


def keeps_by_sugar(contents: Contents) -> bool:
    """Whether sugar alone keeps it on a shelf: a plain syrup, dry enough at its wetter edge.

    Source: water activity under 0.75; data/process_times.csv, plain_sugar_syrup.
    """
    plain = contents.untested == PLAIN_SYRUP and not list(contents.off_shelf())
    return plain and wetter_edge(contents) < KEEPS_UNDER_AW


PLAIN_SYRUP = "plain_sugar_syrup"


def wetter_edge(contents: Contents) -> float:
    """The water activity at its upper edge, by what is known of its sugar [-]."""
    return from_draws(water.water_activity(contents.lot.composition)).hi


def brix_to_keep(contents: Contents) -> float:
    """The Brix to which it would have to be boiled to keep by its sugar alone [g/100 g].

    Source: the same sugars with less water, until the water activity is low enough.
    """
    there = contents.usual
    dry = there - Composition(water=there.water)

    def wet(share: Array) -> float:
        grams = float(share) * float(dry.mass_g)
        return KEEPS_UNDER_AW - float(water.water_activity(dry + Composition(water=grams)))

    held = dry + Composition(water=float(bisect(wet, 0.01, 2.0)) * float(dry.mass_g))
    return float(held.brix) + SUGAR_MARGIN_BX


def sugared(contents: Contents) -> bool:
    """Whether it holds the sugar of its recipe; a little is none."""
    sweet = contents.usual.sugars_g - sum(p.composition.sugars_g for p in contents.base)
    return float(sweet) / contents.litres >= SWEETENED_G_PER_L


def _by_sugar(_: Contents) -> str:
    return "caramel_or_invert_syrup_80brix"


def _on_the_shelf(contents: Contents) -> str:
    word = product_word(contents)
    if word == "in the jar":
        heated = all(p.held.hottest_c > 80.0 for p in contents.fruit)
        return "puree_or_whole_fruit" if heated else "infused_whole_fruit"
    if word == "purée":
        return "puree_or_whole_fruit"
    if word == "jelly":
        return "jelly"
    if word == "syrup" or contents.citrus_share >= 1.0 / 3.0:
        sweet = "sugared" if sugared(contents) else "unsugared"
        return f"syrup_or_concentrate_{sweet}"
    return "juice"


BY_PRODUCT = {
    "vinegar_syrup": "vinegar_syrup",
    "cocoa_syrup": "cocoa_syrup",
    "stretched_citrus": "stretched_citrus",
}


def _in_the_cold(contents: Contents) -> str:
    if contents.untested in BY_PRODUCT:
        return BY_PRODUCT[contents.untested]
    if contents.untested == "hibiscus_concentrate" and sugared(contents):
        return "steeped_concentrate_sugared"
    if contents.brix >= HALF_BRIX:
        return _cold_syrup(contents)
    if sugared(contents) and contents.brix >= THIN_BRIX:
        return "thin_syrup_under_40brix"
    raw = all(p.held.hottest_c < HEATED_C for p in contents.fruit)
    citrus = bool(contents.fruit) and {p.material for p in contents.fruit} <= FRESH_CITRUS
    return "fresh_citrus_juice" if raw and citrus else "juice_unprocessed"


def _cold_syrup(contents: Contents) -> str:
    if contents.brix >= STRONG_BRIX:
        return "simple_syrup_65brix"
    if spirit_share(contents) >= 1.0:
        return "fruit_syrup_50brix_with_spirit"
    return "fruit_syrup_50brix" if contents.fruit else "simple_syrup_50brix"


def _frozen(contents: Contents) -> str:
    if contents.untested == "stretched_citrus":
        return "stretched_citrus"
    word = product_word(contents)
    if contents.lot.dried or word in {"purée", "in the jar", "whole"}:
        return "puree"
    return "syrup_or_concentrate" if word == "syrup" or sugared(contents) else "juice"
