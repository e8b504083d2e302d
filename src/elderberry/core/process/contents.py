"""What is in the jar: a lot that is filled, reckoned the way the conditions of the tables are.

Every percentage and per-litre figure is without sweeteners and spice; those on pulp, vinegar,
ethanol, calyces, ginger and butter are without added water too, so that nothing is sugared or
watered into another row. Figures are of the typical case.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property

from elderberry.core import acid, materials
from elderberry.core.composition import Composition
from elderberry.core.errors import CannotTell
from elderberry.core.flow.lots import Held, Lot, Source
from elderberry.core.kitchen import NEAR_BOIL_C
from elderberry.core.numbers import typical
from elderberry.core.rules import rule

SPICE = frozenset({"spice_whole", "salt"})
SHARP = frozenset({"lemon", "lime", "lemon_fresh", "lemon_bottled", "lime_bottled"})
"""What sharpens: no fruit to the tables, except where a concentrate is made of it."""
CALYX = frozenset({"hibiscus_dried"})
FRESH_LEAVES = frozenset({"herb_fresh"})
BOTTLED_ML_PER_L, CITRIC_G_PER_L = 32.0, 2.5
"""The dose that stands for a meter: bottled lemon or lime juice, or citric acid, to the litre."""
BOTTLED = frozenset({"lemon_bottled", "lime_bottled"})
SETS_BRIX, FRUIT_SETS_BRIX, SETS_PH = 55.0, 65.0, 3.5
REGULAR_G_PER_KG, LOW_G_PER_KG = 4.0, 6.0
"""Pectin that sets a jelly by sugar and acid, and by its own dose [g/kg]; as sold, by the packs."""
RICH_IN_PECTIN = frozenset(
    [
        "apple",
        "crabapple",
        "quince",
        "redcurrant",
        "blackcurrant",
        "gooseberry",
        "grape_slipskin",
        "cranberry",
        "plum",
        "damson",
        "rowan",
    ]
)
LEAST = 1e-9
SCENTED_CITRUS = 1.0 / 3.0
"""Citrus under this share of the fruit only scents; from it on a drink is one of citrus [-]."""


@dataclass(frozen=True)
class Part:
    """What a lot holds of one source, in the typical case."""

    source: Source
    held: Held
    composition: Composition

    @property
    def material(self) -> str:
        """What it is."""
        return self.source.material

    @property
    def kind(self) -> str:
        """The kind of ingredient that it is; of fruit, "fruit"."""
        return materials.kind_of(self.material)

    @property
    def solids_g(self) -> float:
        """Soluble solids [g]."""
        return float(self.composition.soluble_g)

    @property
    def went_in_g(self) -> float:
        """How much of it, as it went in, this stands for [g]: by what it gave or by its pieces."""
        share = max(typical(self.held.solute), typical(self.held.solid))
        return float(self.source.usual.mass_g) * share

    @property
    def pieces_g(self) -> float:
        """How much of it is there in pieces, as it went in [g]."""
        return float(self.source.usual.mass_g) * typical(self.held.solid)


@dataclass(frozen=True, eq=False)
class Contents:
    """A lot that is filled, as the tables ask about it.

    said: what the cook has said, in words of the rule book.
    """

    lot: Lot
    said: frozenset[str] = frozenset()

    @cached_property
    def parts(self) -> tuple[Part, ...]:
        """What it holds of each source, nothing left out that is there."""
        mix = self.lot.mix
        found = (Part(s, h, mix.usual_part(s)) for s, h in mix.origins.items())
        return tuple(p for p in found if p.composition.mass_g > LEAST or p.solids_g > LEAST)

    @cached_property
    def usual(self) -> Composition:
        """All of it."""
        return self.lot.composition.first()

    @cached_property
    def brix(self) -> float:
        """Soluble solids [g/100 g]."""
        return _or_zero(lambda: float(self.usual.brix))

    @cached_property
    def litres(self) -> float:
        """All of it [L]."""
        return max(float(self.usual.volume_ml) / 1000.0, LEAST)

    @cached_property
    def base(self) -> tuple[Part, ...]:
        """Its parts without sweeteners and spice."""
        return tuple(p for p in self.parts if not _is_sweet(p) and p.material not in SPICE)

    @cached_property
    def undiluted(self) -> Composition:
        """Its base without what water the cook put in."""
        return _sum(p for p in self.base if not _is_added_water(p))

    @cached_property
    def undiluted_l(self) -> float:
        """The same [L]."""
        return max(float(self.undiluted.volume_ml) / 1000.0, LEAST)

    @cached_property
    def base_g(self) -> float:
        """Its base with the water in it [g]."""
        return max(float(_sum(self.base).mass_g), LEAST)

    @cached_property
    def pulp_pct(self) -> float:
        """Dry insoluble solids [g/100 g], however much it was watered.

        Dried fruit counts with the water that it lost, as far as it took up any.
        """
        fresh = float(self.undiluted.mass_g) + sum(_lost_g(p) for p in self.base)
        return 100.0 * float(self.undiluted.insoluble) / max(min(fresh, self.base_g), LEAST)

    @cached_property
    def fruit(self) -> tuple[Part, ...]:
        """Its parts that are fruit to the tables; what only sharpens is none, unless it is all."""
        fruit = [p for p in self.base if p.source.fruit is not None]
        main = [p for p in fruit if p.material not in SHARP]
        return tuple(main or fruit)

    @cached_property
    def shares(self) -> Mapping[str, float]:
        """Each fruit's part of all soluble solids that came from fruit [-]."""
        return _shares((p.material, p.solids_g) for p in self.fruit)

    @cached_property
    def fruit_solids_g(self) -> float:
        """Soluble solids from fruit [g]."""
        return sum(p.solids_g for p in self.fruit)

    @cached_property
    def fruit_share(self) -> float:
        """Fruit's part of everything that is filled, sweeteners included [-], by mass."""
        grams = sum(float(p.composition.mass_g) for p in self.fruit)
        return grams / max(float(self.usual.mass_g), LEAST)

    @cached_property
    def citrus_share(self) -> float:
        """The part of lemon and lime in all juice and purée there is [-], by volume."""
        sharp = [p for p in self.base if p.material in SHARP]
        others = [p for p in self.base if p.source.fruit is not None and p.material not in SHARP]
        there = float(_sum([*sharp, *others]).volume_ml)
        return float(_sum(sharp).volume_ml) / there if there > LEAST else 0.0

    @cached_property
    def water_pct(self) -> float:
        """Water that the cook put in and did not boil off [% of mass].

        A simmer's covering water counts beyond a kilo to the kilo of fruit (cranberry 2.1).
        """
        free = sum(
            float(p.source.usual.mass_g) * typical(p.held.solute)
            * (2.1 if p.material == "cranberry" else 1.0)
            for p in self.base
            if p.source.pieces
        )  # fmt: skip
        grams = 0.0
        for part in (p for p in self.base if _is_added_water(p)):
            there = float(part.composition.mass_g)
            let = min(there, free) if part.source.covering else 0.0
            free -= let
            grams += there - let
        return 100.0 * grams / self.base_g

    @cached_property
    def whole(self) -> Mapping[str, float]:
        """Whole and unpressed fruit by kind [g], as it went in."""
        found: dict[str, float] = {}
        for part in self.parts:
            if part.source.fruit and part.source.pieces and part.held.form == "whole":
                found[part.material] = found.get(part.material, 0.0) + part.pieces_g
        return {key: grams for key, grams in found.items() if grams > 0.01 * self.base_g}

    @cached_property
    def whole_g_per_l(self) -> float:
        """Whole fruit to the litre of jar [g/L]."""
        return sum(self.whole.values()) / self.litres

    @cached_property
    def sliced(self) -> bool:
        """Whether fruit is in it in pieces that are neither whole nor crushed."""
        return any(p.held.form == "sliced" and p.pieces_g > LEAST for p in self.parts)

    @cached_property
    def watch_share(self) -> float:
        """The part of fruits that can pass pH 4.2 [-], of all fruit-derived solids."""
        risky = (s for k, s in self.shares.items() if materials.fruit(k).ph_risk == "watch")
        return sum(risky)

    def heated_through(self, boiling_c: float) -> bool:
        """Whether the whole of it has come to a boil since everything raw went in [°C]."""
        return all(
            h.boiled_min > 0 or h.hottest_c >= boiling_c - NEAR_BOIL_C
            for h in (p.held for p in self.base if not _is_acid(p))
        )

    def toxic_left(self, minutes: float) -> str:
        """A fruit that is toxic raw and has not boiled so long [min]; empty where there is none."""
        raw = rule("elder-raw").fruits
        short = (p for p in self.parts if p.material in raw and p.held.boiled_min < minutes)
        return next((p.material for p in short), "")

    @cached_property
    def dose(self) -> float:
        """Acid of constant strength that went in, as a multiple of the dose for a meter [-]."""
        ml = sum(float(p.composition.volume_ml) for p in self.parts if p.material in BOTTLED)
        grams = sum(float(p.composition.mass_g) for p in self.parts if p.material == "citric_acid")
        return (ml / BOTTLED_ML_PER_L + grams / CITRIC_G_PER_L) / self.litres

    @cached_property
    def untested(self) -> str:
        """The product it is where no home process was tested for such a thing; else empty."""
        return next(self._untested(), "")

    def _untested(self) -> Iterator[str]:
        keys = {p.material for p in self.parts}
        kinds = {p.kind for p in self.parts}
        if "elderberry" in keys:
            yield "elderberry"
        peel = any(p.held.peel for p in self.parts)
        if peel or float(self.usual.peel_oil) > LEAST:
            scented = not peel and self.fruit and self.citrus_share < SCENTED_CITRUS
            yield "juice_with_citrus_peel" if scented else "stretched_citrus"
        if "cocoa" in keys and not self.fruit:
            yield "cocoa_syrup"
        if self.grams_per_l(CALYX) > 2.0:
            yield "hibiscus_concentrate"
        if self._vinegar_pct > 5.0:
            yield "vinegar_syrup"
        if not self.fruit and kinds & materials.SWEET:
            yield "plain_sugar_syrup"
        if not self.fruit:
            yield "a drink without fruit"

    @cached_property
    def never(self) -> tuple[str, ...]:
        """Fruits in it that have no tested home process whatever the acid, in any amount."""
        fruits = (p.source.fruit for p in self.parts)
        return tuple(dict.fromkeys(f.key for f in fruits if f is not None and f.ph_risk == "never"))

    def off_shelf(self) -> Iterator[tuple[str, str]]:
        """What keeps the batch off the shelf, as a rule's id and what it is of."""
        ethanol = 100.0 * float(self.undiluted.ethanol) / max(float(self.undiluted.mass_g), LEAST)
        barred = [
            p for p in self.parts if p.source.ingredient and p.source.ingredient.shelf == "never"
        ]
        if barred or ethanol > 0.5:
            yield "ingredient-keeps-off-shelf", "spirit" if not barred else barred[0].material
        if self.grams_per_l({"butter"}) > 2.5:
            yield "fat-over-a-trace", "butter"
        if any(p.material in FRESH and p.pieces_g > 0.1 * p.source.usual.mass_g
               for p in self.parts):  # fmt: skip
            yield "fresh-left-in", "ginger or herbs"
        if self.grams_per_l({"ginger_fresh"}) > 20.0:
            yield "too-much-ginger", "ginger_fresh"
        if self.holds_pectin and not self.sets:
            yield "pectin-not-set", "pectin"

    def grams_per_l(self, keys: Iterable[str]) -> float:
        """Grams of some materials, as they went in, to the litre without added water [g/L]."""
        named = frozenset(keys)
        return sum(p.went_in_g for p in self.parts if p.material in named) / self.undiluted_l

    @cached_property
    def _vinegar_pct(self) -> float:
        sour = [p for p in self.base if p.kind == "vinegar"]
        return 100.0 * float(_sum(sour).volume_ml) / max(float(self.undiluted.volume_ml), LEAST)

    @cached_property
    def holds_pectin(self) -> bool:
        """Whether pectin was put in."""
        return any(p.kind == "pectin" for p in self.parts)

    @cached_property
    def sets(self) -> bool:
        """Whether it is a jelly: by the pectin put in, or by its own with a drop that showed it."""
        kilos = max(float(self.usual.mass_g) / 1000.0, LEAST)
        low = sum(p.went_in_g for p in self.parts if p.material == "pectin_low") / kilos
        regular = sum(p.went_in_g for p in self.parts if p.material == "pectin_regular") / kilos
        sharp = self.ph is not None and self.ph <= SETS_PH
        rich = sum(s for k, s in self.shares.items() if k in RICH_IN_PECTIN)
        return (
            (low >= LOW_G_PER_KG)
            or (regular >= REGULAR_G_PER_KG and self.brix >= SETS_BRIX and sharp)
            or ("drop_sets" in self.said and self.brix >= FRUIT_SETS_BRIX and rich >= 0.5)
        )

    @cached_property
    def ph(self) -> float | None:
        """pH in the typical case [-]; None where there is too little acid to tell."""
        try:
            return float(acid.ph(self.usual))
        except CannotTell:
            return None


FRESH = FRESH_LEAVES | {"ginger_fresh"}


CALYX_BRIX = 10.0
"""Soluble solids in calyces before they were dried, which the tables do not list [g/100 g]."""


def _lost_g(part: Part) -> float:
    """Water that dried fruit lost, of what there is of it [g]."""
    fruit = part.source.fruit
    if fruit is None or part.source.form not in {"dried", "powder"}:
        return 0.0
    brix = fruit.brix.typ if fruit.brix else CALYX_BRIX
    return max(0.0, 100.0 * part.solids_g / brix - float(part.composition.mass_g))


def _is_sweet(part: Part) -> bool:
    return part.kind in materials.SWEET


def _is_acid(part: Part) -> bool:
    return part.kind == "acid" or part.material in BOTTLED


def _is_added_water(part: Part) -> bool:
    return part.kind == "water" and part.source.form != "steam"


def _sum(parts: Iterable[Part]) -> Composition:
    return sum((p.composition for p in parts), start=Composition())


def _shares(weighed: Iterable[tuple[str, float]]) -> Mapping[str, float]:
    found: dict[str, float] = {}
    for key, weight in weighed:
        found[key] = found.get(key, 0.0) + weight
    total = sum(found.values())
    return {k: w / total for k, w in found.items()} if total > LEAST else {}


def _or_zero(ask: object) -> float:
    try:
        return float(ask())  # type: ignore[operator]
    except CannotTell:
        return 0.0
