"""Lots, what they are made of, and the heat they have had.

What goes into a flow is a Source. A Mix is a composition that knows which part of which source it
holds, so that what is in a jar can always be told from what went into the pot.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property

import numpy as np

from elderberry.core import acid, estimates, materials
from elderberry.core.composition import Composition
from elderberry.core.errors import CannotTell
from elderberry.core.estimates import Estimate, Evidence, from_draws, normal_scores
from elderberry.core.flow.acidity import Acidity
from elderberry.core.numbers import Values, typical
from elderberry.core.wording import listed

WORKED_ON = frozenset({"fruit", "mash", "pomace", "dried"})
"""Kinds of lot that a step works on beside what it takes first."""
WET = frozenset({"fruit", "mash", "juice", "jars"})
"""Kinds of lot whose Brix and pH mean something."""
FRESH = "fresh"
"""How fruit lies that was packed without liquid."""
NO_PIECES = frozenset({"juice", "pomace", "zest", "peel", "powder"})
"""Forms of a fruit out of which no juice is got any more."""
_PH_MODEL = 5
ROOM_C = 18.0
ONLY_SCENT = frozenset({"zest", "peel"})
"""Forms of a fruit that give scent and no more."""
NAMED_FROM, MOST_NAMED = 0.05, 3
"""A fruit that makes less of all fruit in something does not name it [-]; nor does a fourth."""


@dataclass(frozen=True, eq=False)
class Source:
    """Something that went into a flow: a fruit in a form, an ingredient, water or steam.

    material: key in data/fruits.csv or data/ingredients.csv, or of a household's own.
    ph_read: pH that a meter showed of it before it went in [-].
    """

    key: str
    material: str
    form: str
    composition: Composition
    ph_read: float | None = None
    covering: bool = False
    """Whether it is the covering water of a simmer, of which a part is not called added."""

    @property
    def fruit(self) -> materials.Fruit | None:
        """The fruit that it is, if it is one."""
        return materials.fruits().get(self.material)

    @property
    def ingredient(self) -> materials.Ingredient | None:
        """The ingredient that it is, if it is one."""
        return materials.ingredients().get(self.material)

    @property
    def peeled(self) -> bool:
        """Whether it is whole citrus, whose peel holds oil."""
        return self.fruit is not None and self.fruit.zest_share is not None and self.pieces

    @cached_property
    def usual(self) -> Composition:
        """All of it in the typical case."""
        return self.composition.first()

    @property
    def pieces(self) -> bool:
        """Whether it is fruit that still holds its juice: what a way of juicing gets it out of."""
        return self.fruit is not None and self.form not in NO_PIECES


@dataclass(frozen=True)
class Held:
    """How much of a source is held: parts of its water, its solutes and its solids [-].

    form: as it is there, where that is no longer as it came. boiled_min: how long it has boiled
    through [min]. hottest_c: the hottest that the whole of it has been [°C].
    """

    water: Values = 1.0
    solute: Values = 1.0
    solid: Values = 1.0
    form: str = ""
    boiled_min: float = 0.0
    hottest_c: float = ROOM_C
    peel: bool = False
    """Whether the raw peel of citrus went through the blender with it."""

    def portion(self, water: Values, solute: Values, solid: Values) -> Held:
        """A part of it."""
        return replace(
            self, water=self.water * water, solute=self.solute * solute, solid=self.solid * solid
        )

    def __add__(self, other: Held) -> Held:
        """Both together: what was heated less decides."""
        return Held(
            self.water + other.water, self.solute + other.solute, self.solid + other.solid,
            self.form if self.form == other.form else "",
            min(self.boiled_min, other.boiled_min), min(self.hottest_c, other.hottest_c),
            self.peel or other.peel,
        )  # fmt: skip


Origins = Mapping[Source, Held]


@dataclass(frozen=True, eq=False)
class Mix:
    """A composition and what it is made of."""

    composition: Composition
    origins: Origins = field(default_factory=dict)

    @classmethod
    def of(cls, source: Source, form: str = "") -> Mix:
        """All of one source."""
        return cls(source.composition, {source: Held(form=form or source.form)})

    def __add__(self, other: Mix) -> Mix:
        """Both together."""
        origins = dict(self.origins)
        for source, held in other.origins.items():
            origins[source] = origins[source] + held if source in origins else held
        return Mix(self.composition + other.composition, origins)

    def portion(self, liquid: Values, solid: Values, solute: Values | None = None) -> Mix:
        """So much of its liquid and of its solids [-]; the solutes go with the liquid unless said.

        What is held evenly is parted evenly.
        """
        solute = liquid if solute is None else solute
        return Mix(
            self.composition.portion(liquid, solute, solid),
            {s: h.portion(liquid, solute, solid) for s, h in self.origins.items()},
        )

    def less(self, taken: Mix) -> Mix:
        """What stays when a part of it is taken away.

        Raises:
            CoreError: more of something would be taken than there is.
        """
        rest = self.composition - taken.composition
        origins = {
            s: replace(
                h,
                water=np.maximum(h.water - t.water, 0.0),
                solute=np.maximum(h.solute - t.solute, 0.0),
                solid=np.maximum(h.solid - t.solid, 0.0),
            )
            if (t := taken.origins.get(s))
            else h
            for s, h in self.origins.items()
        }
        return Mix(rest, origins)

    def without_water(self, grams: Values) -> Mix:
        """The same after driving off grams of water: what was added goes first."""
        left, origins = grams, dict(self.origins)
        for source in sorted(origins, key=lambda s: s.material != "water"):
            held = origins[source]
            there = source.composition.water * held.water
            gone = np.minimum(left, there)
            if typical(there) > 0:
                share = 1.0 - gone / np.maximum(there, 1e-12)
                origins[source] = replace(held, water=held.water * share)
            left = left - gone
        return Mix(self.composition.without_water(grams), origins)

    def inverted(self, share: Values) -> Mix:
        """The same once a share of its sucrose is split [-]."""
        return Mix(self.composition.inverted(share), self.origins)

    def as_form(self, form: str, peel: bool = False) -> Mix:
        """The same with its fruit in another form, its peel with it or not."""
        if not form:
            return self
        changed = {
            s: replace(h, form=form, peel=h.peel or (peel and s.peeled)) if s.fruit else h
            for s, h in self.origins.items()
        }
        return Mix(self.composition, changed)

    def heated(self, to_c: float, boiled_min: float = 0.0) -> Mix:
        """The same once the whole of it was so hot [°C] and has boiled so long [min]."""
        return Mix(
            self.composition,
            {
                s: replace(
                    h, boiled_min=h.boiled_min + boiled_min, hottest_c=max(h.hottest_c, to_c)
                )
                for s, h in self.origins.items()
            },
        )

    def part(self, source: Source) -> Composition:
        """What it holds of a source."""
        held = self.origins[source]
        return source.composition.portion(held.water, held.solute, held.solid)

    def usual_part(self, source: Source) -> Composition:
        """What it holds of a source in the typical case."""
        held = self.origins[source]
        return source.usual.portion(typical(held.water), typical(held.solute), typical(held.solid))

    def usual_solids_g(self, source: Source) -> float:
        """What of that is dissolved [g]."""
        return typical(source.usual.soluble_g) * typical(self.origins[source].solute)

    def usual_part_g(self, source: Source) -> float:
        """What that weighs [g]."""
        held = self.origins[source]
        shares = typical(held.water), typical(held.solute), typical(held.solid)
        return source.usual.portion_g(*shares)


@dataclass(frozen=True, eq=False)
class Figures:
    """What a composition amounts to, each figure computed once; lots that are alike share it."""

    composition: Composition
    evidence: Evidence = Evidence.TYPICAL

    @cached_property
    def mass_g(self) -> Estimate:
        """Mass [g]."""
        return from_draws(self.composition.mass_g, self.evidence)

    @cached_property
    def volume_ml(self) -> Estimate:
        """Volume [mL] at 20 °C."""
        return from_draws(self.composition.volume_ml, self.evidence)

    @cached_property
    def brix(self) -> Estimate | None:
        """Soluble solids [g/100 g], where there is any liquid."""
        try:
            return from_draws(self.composition.brix, self.evidence)
        except CannotTell:
            return None

    @cached_property
    def ph(self) -> Estimate | None:
        """pH [-] with the model's own error, where there is acid enough to tell."""
        try:
            ph = acid.ph(self.composition)
        except CannotTell:
            return None
        width = acid.half_width(typical(self.composition.brix))
        error = width / estimates.Z90 * normal_scores(_PH_MODEL)
        return from_draws(ph + error, self.evidence)

    @property
    def pulp_pct(self) -> float:
        """Undissolved matter [g/100 g] in the typical case: what makes a juice cloudy."""
        mass = typical(self.composition.mass_g)
        return 100.0 * typical(self.composition.insoluble) / mass if mass else 0.0


@dataclass(frozen=True)
class Lot:
    """An amount of something at one place in the flow, as draws of its composition.

    gives: what its fruit still yields, against fruit that was not touched [-].
    temp_c: how warm it is when the next step takes it [°C].
    """

    key: str
    kind: str
    name: str
    figures: Figures
    origins: Origins = field(default_factory=dict)
    gives: float = 1.0
    temp_c: float = ROOM_C
    acidity: Acidity = field(default_factory=Acidity)
    lies: str = ""
    """How it lies loose, by data/dried.csv, or as fresh fruit; empty for what is poured."""
    portion_g: float = 0.0
    """What one of the portions weighs that it was dried in [g]; 0 where it is in none."""

    @property
    def composition(self) -> Composition:
        """What it holds."""
        return self.figures.composition

    @cached_property
    def mix(self) -> Mix:
        """What it holds, with what that is made of."""
        return Mix(self.composition, self.origins)

    @property
    def sources(self) -> tuple[Source, ...]:
        """What it is made of."""
        return tuple(self.origins)

    def holding(self, composition: Composition) -> Lot:
        """The same lot with other contents, of which nobody asks what they are made of."""
        return replace(self, figures=Figures(composition, self.figures.evidence))

    @property
    def mass_g(self) -> Estimate:
        """Mass [g]."""
        return self.figures.mass_g

    @property
    def volume_ml(self) -> Estimate:
        """Volume [mL] at 20 °C."""
        return self.figures.volume_ml

    @property
    def brix(self) -> Estimate | None:
        """Soluble solids [g/100 g], where there is juice or fruit."""
        return self.figures.brix if self.kind in WET else None

    @property
    def ph(self) -> Estimate | None:
        """pH [-], where there is juice or fruit."""
        return self.figures.ph if self.kind in WET else None

    @property
    def loose(self) -> bool:
        """Whether it lies loose where it is packed: what is dry, and fruit without liquid."""
        return bool(self.lies) or self.kind == "fruit"

    @property
    def dried(self) -> str:
        """How it lies dried; empty for what is not dry."""
        return "" if self.lies == FRESH else self.lies

    @property
    def clarity(self) -> str:
        """How clear a juice stands in the glass, in a word; empty for what is no juice."""
        return clarity(self.figures.pulp_pct) if self.kind == "juice" else ""

    @cached_property
    def fruits(self) -> tuple[materials.Fruit, ...]:
        """The fruits in it, the most first."""
        weighed = self._fruit_g(self.sources)
        found = sorted((k for k, g in weighed.items() if g > 0), key=lambda k: -weighed[k])
        return tuple(materials.fruit(k) for k in found)

    @cached_property
    def named_fruits(self) -> tuple[materials.Fruit, ...]:
        """The fruits that it is named after, the most first."""
        weighed = self._fruit_g(s for s in self.sources if s.form not in ONLY_SCENT)
        whole = sum(weighed.values())
        found = [f for f in self.fruits if weighed.get(f.key, 0.0) >= NAMED_FROM * whole > 0]
        return tuple(found[:MOST_NAMED]) or self.fruits[:1]

    def _fruit_g(self, sources: Iterable[Source]) -> dict[str, float]:
        """How much of each fruit it holds from some of its sources [g], in the typical case."""
        weighed: dict[str, float] = {}
        for source in sources:
            if source.fruit:
                grams = self.mix.usual_part_g(source)
                weighed[source.material] = weighed.get(source.material, 0.0) + grams
        return weighed

    @property
    def fruit_words(self) -> str:
        """Its fruits as one says them: "damson", "damson and pear"; no more than three, and none
        of which there is next to nothing or only peel.
        """
        return listed([f.name.lower() for f in self.named_fruits])

    def titled(self, what: str, joined_by: str = " ") -> str:
        """A name for what comes of it: "Damson juice"; "Syrup" where there is no fruit in it."""
        words = self.fruit_words
        return f"{words[0].upper()}{words[1:]}{joined_by}{what}" if words else "Syrup"

    @cached_property
    def fruit_solids_g(self) -> float:
        """Soluble solids in it that came from fruit [g], in the typical case."""
        return sum((self.mix.usual_solids_g(s) for s in self.origins if s.fruit), start=0.0)

    def meter_shows(self, ph: float) -> Lot:
        """The lot once a meter has shown its pH."""
        return replace(self, acidity=self.acidity.read(ph, self.fruit_solids_g))

    def pieces_g(self) -> dict[Source, Values]:
        """Fruit that still gives juice, by its source, as fruit that was not touched [g]."""
        return {
            s: s.composition.mass_g * np.minimum(h.solid, h.solute) * self.gives
            for s, h in self.origins.items()
            if s.pieces
        }


def clarity(pulp_pct: float) -> str:
    """How clear a juice looks with so much undissolved matter [g/100 g].

    >>> clarity(0.05), clarity(0.6)
    ('clear', 'cloudy')
    """
    steps = ((0.06, "clear"), (0.25, "hazy"), (1.0, "cloudy"))
    return next((word for limit, word in steps if pulp_pct <= limit), "thick with pulp")


def group(lot_key: str) -> str:
    """The name that a lot goes by in a method: all loads and draws together.

    >>> group("juice-2-late"), group("hot")
    ('juice', 'hot')
    """
    return lot_key.partition("-")[0]


def typical_g(lot: Lot) -> float:
    """Mass of a lot in the typical case [g]."""
    return typical(lot.composition.mass_g)


def litres(composition: Composition) -> Estimate:
    """Volume of a composition [L]."""
    return from_draws(np.asarray(composition.volume_ml) / 1000.0)
