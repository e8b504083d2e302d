"""Citrus stretched: thin peel, acids and water that stand in for fresh juice."""

from __future__ import annotations

import numpy as np

from elderberry.core import citrus, materials
from elderberry.core.composition import Composition
from elderberry.core.errors import CannotTell
from elderberry.core.estimates import normal_scores
from elderberry.core.flow.draft import Draft, laid, poured
from elderberry.core.flow.lots import Lot, Mix, typical_g
from elderberry.core.flow.steps import Step, about
from elderberry.core.numbers import Values, typical
from elderberry.core.operations.preparing import ingredient, plainly, water_of, weighed
from elderberry.core.wording import listed

OIL_SHARE = 0.5
"""Oil of the peel that goes over [-]; an estimate."""
PEEL_MIN_PER_PIECE, BLEND_MIN, REST_MIN = 1.5, 12.0, 60.0
SOAPY = "So much peel to the water turns soapy: less of it, or more water. "
BITTER = "Resting draws a little more bitterness than blending at once. "


def peel_off(draft: Draft, step: Step) -> Draft:
    """Take the thin peel off whole citrus; the peeled fruit goes its own way."""
    whole = draft.together(*step.takes)
    kind = _citrus(whole)
    way = step.effect("peel", 1.0)
    share = way * _peel_share(draft, kind)
    pieces = typical_g(whole) / citrus.piece_g(kind)
    peel = whole.mix.portion(share, share).as_form("peel", peel=True)
    return laid(
        draft, step, about(max(3.0, PEEL_MIN_PER_PIECE * pieces), 0.7, 1.6),
        (whole.titled("peel"), peel),
        (f"{whole.name}, peeled", whole.mix.portion(1.0 - share, 1.0 - share)),
        params={
            "pieces_words": f", about {pieces:.0f} pieces",
            "peel_words": weighed(typical(peel.composition.mass_g)),
            "yield_fruit": kind,
            "yield_fruit_g": typical_g(whole),
            "yield_water_ml": 0.0,
            "yield_factor": way,
        },
        holds=whole.composition,
    )  # fmt: skip


def _peel_share(draft: Draft, fruit: str) -> Values:
    """Thin peel of a fruit [g/g], as draws: by the tables, and by what this kitchen has weighed."""
    forecast = draft.forecasts.get((fruit, "peel"))
    if forecast is None:
        return citrus.peel_of(fruit, 1.0) / citrus.piece_g(fruit)
    return forecast.median * np.exp(forecast.sigma * normal_scores(_PEEL))


_PEEL = 6


def stretch(draft: Draft, step: Step) -> Draft:
    """Acids, water and a little sugar to a weight of peel, by one school; strained and pressed.

    Raises:
        CannotTell: it is no citrus.
    """
    peel = draft.together(*step.takes)
    grams, kind, school = typical_g(peel), _citrus(peel), str(step.chosen("school"))
    made = citrus.stretch(grams, kind, _way(school), **_asked(step, school))
    grams_of = {"citric_acid": made.citric_g, "malic_acid": made.malic_g,
                "sugar_white": made.sugar_g}  # fmt: skip
    dry = tuple(
        ingredient(step, key, materials.ingredient(key).plain.capitalize(), amount)
        for key, amount in grams_of.items()
        if amount > 0
    )
    water = water_of(draft, f"water_{step.key}", made.water_g)
    base = poured((water, *dry)).mix
    held = citrus.held_by_peel_g(grams) / typical(base.composition.mass_g)
    kept = max(0.0, 1.0 - held)
    drink = base.portion(kept, 0.0) + _given(peel, kept * citrus.peel_solubles_g(grams))
    whole = poured((peel, water, *dry)).mix
    rests = str(step.chosen("rest")) == "rest"
    first = listed([plainly(lot) for lot in dry])
    return laid(
        draft, step, about((REST_MIN if rests else 0.0) + BLEND_MIN, 0.8, 1.5),
        (f"{_name(kind)}, stretched", drink.as_form("peel", peel=True)),
        (f"{_name(kind)} peel, pressed out", whole.less(drink)),
        sources=(water, *dry),
        params={
            "peel_words": weighed(grams),
            "dry_words": first,
            "water_words": plainly(water),
            "rest_words": RESTS if rests else AT_ONCE,
            "strength": made.strength,
            "warn_words": (SOAPY if made.soapy else "") + (BITTER if rests else ""),
            "acid_words": f"{made.acid_g_l:.0f} g/l",
        },
    )  # fmt: skip


RESTS = (
    "Rub the dry acids into the peel and leave it an hour, covered; then the water, and a minute "
    "in the blender."
)
AT_ONCE = "Everything into the blender at once, two minutes."


def _given(peel: Lot, grams: float) -> Mix:
    """What peel gives: so much of its solubles [g], and half of its oil; its own acid stays."""
    held = peel.composition
    sweet = ("sucrose", "glucose", "fructose", "other_soluble")
    there = sum(typical(getattr(held, n)) for n in sweet)
    share = min(1.0, grams / max(there, 1e-9))
    given = Composition(**{n: share * np.asarray(getattr(held, n)) for n in sweet})
    given = given + Composition(peel_oil=OIL_SHARE * np.asarray(held.peel_oil))
    return Mix(given, peel.mix.portion(0.0, 0.0, share).origins)


def _way(school: str) -> str:
    return "by-litre" if school == "own" else school


def _asked(step: Step, school: str) -> dict[str, float]:
    """What a step asks of its school beyond what is usual of it."""
    if school == "own":
        return {
            "peel_per_litre": float(step.chosen("own_peel")),
            "acid_per_litre": float(step.chosen("own_acid")),
            "citric_share": float(step.chosen("own_citric")) / 100.0,
        }
    like = str(step.chosen("like"))
    if school == "by-match" and like != "itself":
        return {"acid_g_l": citrus.fresh_acid_g_l(like)}
    return {}


def _citrus(lot: Lot) -> str:
    """The citrus that a lot is of.

    Raises:
        CannotTell: it is none.
    """
    found = next((f.key for f in lot.fruits if f.key in citrus.CITRUS), None)
    if found is None:
        raise CannotTell("only lemon, lime, orange and grapefruit are stretched by their peel")
    return found


def _name(kind: str) -> str:
    return kind.capitalize()
