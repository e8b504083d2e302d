"""What a syrup becomes: how it pours cold, whether it stays clear, and what keeps it."""

from __future__ import annotations

from collections.abc import Iterator

from elderberry.core import keeping, materials, texture, water
from elderberry.core.errors import CannotTell
from elderberry.core.process.contents import Contents
from elderberry.core.wording import figure

COLD_C = 20.0
LITTLE_SPIRIT = 0.05
"""Share of a full dose of spirit under which it is not spoken of [-]."""
SPIRIT_G_PER_ML = 0.95
"""Density of forty-per-cent spirit, rounded [g/mL]."""


def sentences(contents: Contents, keep: str, place_c: float) -> tuple[str, ...]:
    """What a cook should know of a syrup before the pot is washed; nothing for what is none.

    Args:
        contents: what is filled.
        keep: how it is kept.
        place_c: where it stands [°C].

    Source: texture.viscosity_mpa_s, texture.crystals, water.keeping_class; data/storage_life.csv.
    """
    if contents.brix < keeping.HALF_BRIX or contents.whole or contents.lot.loose:
        return ()
    return tuple(_said(contents, keep, place_c))


def _said(c: Contents, keep: str, place_c: float) -> Iterator[str]:
    brix = min(c.brix, texture.MOST_BRIX)
    pours = texture.pours(texture.viscosity_mpa_s(brix, COLD_C))
    yield f"{c.brix:.0f} °Bx: cold it {pours}, thicker again after a night."
    yield from _crystals(c, place_c)
    edge = keeping.wetter_edge(c)
    yield f"By its sugar at {figure(COLD_C, 'C')}: {water.keeping_class(edge).replace('_', ' ')}."
    if keep == "chill":
        yield "Mould at the neck is the usual end: clean rims, a clean spoon, no licking."
        yield from _spirit(c)


def _crystals(c: Contents, place_c: float) -> Iterator[str]:
    try:
        does = texture.crystals(c.usual, place_c)
    except CannotTell:
        return
    where = figure(place_c, "C")
    if does == "stays clear":
        yield f"It stays clear at {where}."
        return
    if does.startswith("granulates"):
        yield f"At {where} it {does}: so much sugar is split that its glucose sets. Less acid."
        return
    what = materials.ingredient("glucose_syrup").plain
    yield (
        f"At {where} it {does}: a slice of lemon and twenty minutes more at a simmer split some of "
        f"its sugar, or {what} in the place of a tenth of it keeps it clear."
    )


def _spirit(c: Contents) -> Iterator[str]:
    """How far spirit lengthens its life, and how much is missing to the full of it."""
    share = keeping.spirit_share(c)
    if not c.fruit or c.brix >= keeping.STRONG_BRIX:
        return
    if share >= 1.0:
        yield "The spirit in it about doubles how long it keeps."
        return
    full = keeping.SPIRIT_PCT / 100.0
    missing = (1.0 - share) * full * float(c.usual.mass_g)
    ml = missing / (materials.ingredient("spirit_40").ethanol - full) / SPIRIT_G_PER_ML
    if share > LITTLE_SPIRIT:
        life = keeping.life_of(c, "chill").days_typ
        yield (
            f"The little spirit in it counts in proportion: about {life:.0f} days. "
            f"Another {figure(ml, 'ml')} off the heat would bring it to the full of them."
        )
        return
    yield f"{figure(ml, 'ml')} of spirit off the heat would about double how long it keeps."
