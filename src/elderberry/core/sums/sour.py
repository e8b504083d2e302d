"""Sums of sharpness: to sharpen, to stretch citrus, to thin for the glass."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Literal

from elderberry.core import acid, citrus, materials, serving, solve
from elderberry.core.composition import Composition, of_fruit_juice, of_material
from elderberry.core.errors import CannotTell, CoreError, Past
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.sums.told import Column, Said, Sum, figure_of, syrup, words_of


def thin(
    brix: float, acid_g_l: float, glass_ml: float, with_what: str, sweet: float, sharp: float
) -> Sum:
    """How a concentrate is thinned for a glass to be neither too sweet nor too sharp."""
    base = syrup(1000.0, brix) + of_material("citric_acid", acid_g_l)
    found = serving.ratio(base, serving.diluent(with_what), sweet, sharp)
    concentrate, other = found.glass(glass_ml)
    return Sum(
        figure_of("parts", f"parts of {with_what} to one", "parts", found.parts),
        [
            figure_of("base", "concentrate in the glass", "little_ml", concentrate),
            figure_of("other", f"{with_what} in the glass", "little_ml", other),
            words_of(
                "by",
                "because else it is",
                "too sweet" if found.limited_by == "sweet" else "too sharp",
            ),
        ],
        draws={"base": concentrate / glass_ml, "brix": brix},
    )


Goal = Literal["ph", "acidity"]
Solver = Callable[[Composition, float, str], solve.Solved]


def sharpen(
    volume_ml: float, fruit: str, with_what: str, goal: Goal, target: float,
    ph: float | None = None,
) -> Sum:  # fmt: skip
    """What brings a juice to a pH or an acidity, from the least to the most that it may need.

    Args:
        volume_ml: juice [mL].
        fruit: whose juice, a key of data/fruits.csv.
        with_what: an acid or bottled juice, a key of data/ingredients.csv.
        goal: what the target is, a pH [-] or titratable acidity as citric acid [g/L].
        target: the goal.
        ph: what a meter showed of it [-]; None where nobody read it.

    Raises:
        Past: it is that sharp already.
        Unreachable: this does not get there.

    Source: solve.acidify_to_ph, solve.acidify_to_acidity; ranges of data/fruits.csv.
    """
    solver: Solver = solve.acidify_to_ph if goal == "ph" else solve.acidify_to_acidity

    def of(kind: Composition) -> Composition:
        return kind * (volume_ml / float(kind.volume_ml))

    usual = of(of_fruit_juice(fruit, 1000.0, ph=ph))
    solved = solver(usual, target, with_what)
    edges = [_needed(of(juice), target, with_what, solver) for juice in _edges(fruit, ph)]
    amount = Estimate(
        min(*edges, solved.amount_g), solved.amount_g, max(*edges, solved.amount_g),
        Evidence.TYPICAL if ph is None else Evidence.READ,
    )  # fmt: skip
    what = materials.ingredient(with_what)
    poured = what.kind == "juice"
    per = float(of_material(with_what, 1.0).volume_ml) if poured else 1.0
    after = solved.result
    there = float(acid.ph(after))
    within = acid.half_width(float(after.brix))
    return Sum(
        Said("add", f"{what.plain} to stir in", "little_ml" if poured else "mass_g",
             amount.scaled(per)),
        [
            Said("ph", "its pH is then", "ph",
                 Estimate(there - within, there, there + within, Evidence.TYPICAL)),
            figure_of("acidity", "its acidity is then", "acid_g_l",
                      float(acid.titratable_acidity_g_l(after))),
            words_of("taste", "it tastes", acid.taste_word(float(acid.sugar_to_acid(after)))),
            figure_of("before", "before it the pH was", "ph", float(acid.ph(usual))),
        ],
        "stir in the least, read it, and go on from there",
        {"before": float(acid.ph(usual)), "after": there},
        cautions=["A figure on paper clears no stop: what is canned is read with a meter where "
                  "its row asks for one."],
    )  # fmt: skip


def _edges(fruit: str, ph: float | None) -> list[Composition]:
    """The same juice as sharp, and as little sharp, as the tables know it."""
    known = materials.fruit(fruit)
    found = []
    for side in ("lo", "hi"):
        sour = getattr(known.acid_pct, side) if known.acid_pct else None
        own = ph if ph is not None or known.ph is None else (
            known.ph.hi if side == "lo" else known.ph.lo
        )  # fmt: skip
        try:
            found.append(of_fruit_juice(fruit, 1000.0, ph=own, acid_pct=sour))
        except CoreError:
            continue
    return found or [of_fruit_juice(fruit, 1000.0, ph=ph)]


def _needed(juice: Composition, target: float, with_what: str, solver: Solver) -> float:
    """What it needs [g]; nothing where it is there already."""
    try:
        return solver(juice, target, with_what).amount_g
    except Past:
        return 0.0


GOOD_FOR = {
    "by-peel": "sharp and clear; only the peel is weighed",
    "by-litre": "mild, one solution for all; for drinks by the jug",
    "by-match": "stands in for the fresh juice in any recipe",
    "own": "your own way",
}
"""What each way of stretching is good for."""
TITLES = {"by-peel": "by the peel", "by-litre": "by the litre", "by-match": "like the juice",
          "own": "your own"}  # fmt: skip
By = Literal["count", "peel", "volume"]
School = Literal["by-peel", "by-litre", "by-match", "own"]
SCHOOLS: tuple[School, ...] = ("by-peel", "by-litre", "by-match", "own")


def stretched(
    fruit: str, by: By, amount: float, school: School, own: Mapping[str, float] | None = None,
    like: str = "", juice_g: float = 0.0,
) -> Sum:  # fmt: skip
    """Stretched citrus in every school beside each other, the one in hand in front.

    Args:
        fruit: lemon, lime, orange or grapefruit.
        by: what is known: whole fruit counted, thin peel weighed [g], or the volume wanted [mL].
        amount: so much of it.
        school: the one in hand: by-peel, by-litre, by-match or own.
        own: a household's own way, parameters of citrus.stretch by the litre.
        like: a citrus whose juice it is to be as sharp as; the fruit itself where empty.
        juice_g: its own fresh juice that goes back in [g].

    Raises:
        CannotTell, Unreachable, OutOfRange: as citrus.stretch.

    Source: citrus.stretch.
    """
    schools: tuple[School, ...] = SCHOOLS if own else SCHOOLS[:-1]
    made = {s: _made(fruit, by, amount, s, own or {}, like, juice_g) for s in schools}
    if school not in made:
        raise CannotTell("say your own way first: peel and acid to the litre of water")
    chosen = made[school]
    return Sum(
        figure_of("yield", f"{TITLES[school]} it makes", "volume_ml", chosen.yield_ml),
        [
            figure_of("peel", "thin peel", "mass_g", chosen.peel_g),
            *_to_weigh(chosen),
            figure_of("replaces", "in place of whole fruit", "count", chosen.replaces_fruit),
            Said("days", "keeps in the refrigerator", "days", chosen.days),
        ],
        "peel thinly, no white: rest it in the dry acids an hour, or blend at once with the water; "
        "resting draws a little more bitterness; freeze what is over in small bottles",
        {"peel": chosen.peel_g, "strength": chosen.peel_g_per_l, "share": 1.0},
        [Column(TITLES[key], _figures(one), GOOD_FOR[key]) for key, one in made.items()],
        cautions=["Raw peel oil is never canned. Use fruit that was not waxed or sprayed.",
                  *(["So much peel to the water tastes soapy."] if chosen.soapy else [])],
    )  # fmt: skip


def _made(
    fruit: str, by: By, amount: float, school: School, own: Mapping[str, float], like: str,
    juice_g: float,
) -> citrus.Stretched:  # fmt: skip
    settings = dict(own) if school == "own" else {}
    if like and school == "by-match":
        settings["acid_g_l"] = citrus.fresh_acid_g_l(like)
    way = "by-litre" if school == "own" else school
    if by == "volume":
        return citrus.stretch_to_volume(amount, fruit, way, **settings)
    peel = citrus.peel_of(fruit, amount) if by == "count" else amount
    if juice_g:
        settings["juice_g"] = juice_g
    return citrus.stretch(peel, fruit, way, **settings)


def _to_weigh(made: citrus.Stretched) -> list[Said]:
    weighed = [("citric", "citric acid", made.citric_g), ("malic", "malic acid", made.malic_g),
               ("sugar", "sugar", made.sugar_g), ("juice", "its own juice", made.juice_g),
               ("water", "water", made.water_g)]  # fmt: skip
    return [figure_of(key, label, "mass_g", grams) for key, label, grams in weighed if grams > 0]


def _figures(made: citrus.Stretched) -> list[Said]:
    """What is compared between the schools."""
    return [
        *_to_weigh(made),
        figure_of("yield", "makes", "volume_ml", made.yield_ml),
        figure_of("acidity", "acidity", "acid_g_l", made.acid_g_l),
        figure_of("brix", "sweetness", "brix", made.brix),
        figure_of("ph", "pH", "ph", made.ph),
        words_of("strength", "peel", made.strength),
        Said("days", "keeps chilled", "days", made.days),
    ]
