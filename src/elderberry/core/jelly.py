"""Whether a jelly sets, and why: sugar, acid, the dose of pectin, and what undoes it."""

from __future__ import annotations

from dataclasses import dataclass

from elderberry.core import materials
from elderberry.core.process.contents import (
    FRUIT_SETS_BRIX,
    LOW_G_PER_KG,
    REGULAR_G_PER_KG,
    RICH_IN_PECTIN,
    SETS_BRIX,
    SETS_PH,
    Contents,
)

SHARPEST_PH = 2.8
"""Under this a jelly weeps [pH]."""
FIRM_BRIX, FIRM_REGULAR, FIRM_LOW = 63.0, 6.0, 9.0
"""From which a jelly is firm: sugar [°Bx], pectin by sugar and acid, and by its own dose [g/kg]."""
LONG_BOIL_MIN = 25.0
"""Boiling that begins to break pectin [min]."""
RICH_SHARE = 0.5
ASKED_FROM_BRIX = 60.0


@dataclass(frozen=True)
class Set:
    """What a jelly will do, in a word, and why, each reason a sentence."""

    word: str
    why: tuple[str, ...]


def forecast(contents: Contents) -> Set | None:
    """Whether something sets; None where nobody would ask, since nothing in it could.

    Args:
        contents: what is filled.

    Source: high-methoxyl pectin, USDA guide 7 and Thakur et al. (1997); doses as
        process.contents has them; what breaks pectin is our estimate.
    """
    if contents.lot.loose:
        return None
    if contents.holds_pectin:
        return _by_dose(contents)
    rich = sum(s for k, s in contents.shares.items() if k in RICH_IN_PECTIN)
    if rich < RICH_SHARE or contents.brix < ASKED_FROM_BRIX or contents.untested:
        return None
    return _by_its_own(contents)


def _by_dose(c: Contents) -> Set:
    """By pectin that was put in."""
    low, regular = dose_g_per_kg(c, "pectin_low"), dose_g_per_kg(c, "pectin_regular")
    if low >= max(regular, 0.1):
        why = [_dose(low, LOW_G_PER_KG, "It sets by its dose, however little sugar there is.")]
        firm = low >= FIRM_LOW
    else:
        why = [
            _dose(regular, REGULAR_G_PER_KG, "It needs sugar and acid besides."),
            _sugar(c.brix, SETS_BRIX),
            _acid(c.ph),
        ]
        firm = regular >= FIRM_REGULAR and c.brix >= FIRM_BRIX
    why += _undone(c)
    if not c.sets:
        return Set("stays a syrup", tuple(w for w in why if w))
    return Set("sets firmly" if firm else "sets softly", tuple(w for w in why if w))


def _by_its_own(c: Contents) -> Set:
    """By the fruit's own pectin: only a drop shows it."""
    why = [_sugar(c.brix, FRUIT_SETS_BRIX), _acid(c.ph), *_undone(c)]
    why.append("Fruit just ripe holds more pectin than fruit that is soft.")
    told = tuple(w for w in why if w)
    if c.sets:
        return Set("sets", ("A drop on a cold plate has shown it.", *told))
    thin = c.brix < FRUIT_SETS_BRIX
    return Set("stays a syrup" if thin else "may set: a drop on a cold plate tells", told)


def dose_g_per_kg(contents: Contents, material: str) -> float:
    """How much of an ingredient went in to the kilo of what is filled [g/kg].

    Source: mass balance.
    """
    kilos = max(float(contents.usual.mass_g) / 1000.0, 1e-9)
    return sum(p.went_in_g for p in contents.parts if p.material == material) / kilos


def _dose(grams: float, least: float, otherwise: str) -> str:
    name = "g of pectin to the kilo"
    if grams < least:
        return f"{grams:.1f} {name} is too little: {least:g} g at least."
    return f"{grams:.1f} {name}. {otherwise}"


def _sugar(brix: float, least: float) -> str:
    if brix < least:
        return f"{brix:.0f} °Bx is too thin: boil or sweeten it to {least:g} °Bx."
    return f"{brix:.0f} °Bx is sugar enough."


def _acid(ph: float | None) -> str:
    if ph is None:
        return "Nobody can tell its acid."
    if ph > SETS_PH:
        return f"pH {ph:.1f} is too flat to set: sharpen it to {SETS_PH:g}."
    if ph < SHARPEST_PH:
        return f"pH {ph:.1f} is so sharp that it will weep."
    return f"pH {ph:.1f} is acid enough."


def _undone(c: Contents) -> list[str]:
    """What breaks pectin: boiling on and on once the sugar is in."""
    sweet = (p.held.boiled_min for p in c.parts if p.kind in materials.SWEET)
    longest = max(sweet, default=0.0)
    if longest > LONG_BOIL_MIN:
        return [f"{longest:.0f} min at the boil begin to break its pectin."]
    return []
