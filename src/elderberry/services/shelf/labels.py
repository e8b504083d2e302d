"""What stands on the label of a jar."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

from sqlalchemy.orm import Session as Orm

from elderberry.core import materials, serving
from elderberry.core.again import Again
from elderberry.core.colour import LIDS
from elderberry.core.errors import CoreError, Unknown
from elderberry.core.materials import fruits, ingredient
from elderberry.core.quantities import System
from elderberry.core.wording import figure, in_units
from elderberry.formats import labels as drawn
from elderberry.services.cooking import jar_view
from elderberry.services.cooking.ageing import FOUND
from elderberry.services.cooking.shown import JarView
from elderberry.services.errors import NotFound
from elderberry.services.household import kitchens
from elderberry.services.shelf import servings
from elderberry.services.who import Who
from elderberry.store import Jar, Place, queries

MOST = 500
"""Labels that are printed at once."""
LEAST_PCT = 0.5
"""A part of the contents below this is not named, unless it is honey [% of mass]."""
MOST_NAMED = 6


@dataclass(frozen=True)
class LabelView:
    """A label as it will be printed, its square as rows of dark and light."""

    jar_id: int
    name: str
    code: str
    days: str
    lines: list[str]
    square: list[str]
    colour: str
    lid: str


def shown(orm: Orm, who: Who, ids: Sequence[int], origin: str) -> list[LabelView]:
    """Labels of jars as they will be printed."""
    return [
        LabelView(view.id, label.name, label.code, label.days, list(label.lines),
                  drawn.square(label.url), label.colour, view.lid)
        for view, label in _labels(orm, who, ids, origin)
    ]  # fmt: skip


def printed(orm: Orm, who: Who, ids: Sequence[int], origin: str, on: str, start: int) -> bytes:
    """Labels of jars on sheets, as a PDF.

    Args:
        orm: a session.
        who: whose.
        ids: of the jars, in order.
        origin: address of this kitchen, which the squares lead back to.
        on: key of a sheet.
        start: first free label of the first sheet, from 1.

    Raises:
        NotFound: a jar that is not there.
        Unknown: a sheet that there is none of.
        OutOfRange: a place that the sheet does not have.
    """
    return drawn.pdf([label for _, label in _labels(orm, who, ids, origin)], drawn.sheet(on), start)


def _labels(
    orm: Orm, who: Who, ids: Sequence[int], origin: str
) -> list[tuple[JarView, drawn.Label]]:
    rows = {j.id: j for j in queries.by_ids(orm, who.household_id, Jar, ids)}
    if len(rows) < len(set(ids)):
        raise NotFound("jar")
    views = {v.id: v for v in jar_view.views(orm, who, list(rows.values()))}
    units, thinned = kitchens.units(orm, who), dict[int | None, str]()
    places = queries.all_of(orm, who.household_id, Place)
    freezers = {p.id for p in places if p.kind == "freezer"}
    found = []
    for jar_id in ids:
        jar, view = rows[jar_id], views[jar_id]
        if jar.lot_id not in thinned:
            thinned[jar.lot_id] = _thinned(orm, who, jar)
        cautions = _cautions(jar, frozen=jar.place_id in freezers)
        lines = [*cautions, *_contents(jar, units), thinned[jar.lot_id]]
        label = drawn.Label(
            view.label, view.code, _days(view), [x for x in lines if x],
            f"{origin}/shelf/{jar.id}", view.colour,
        )  # fmt: skip
        found.append((view, label))
    return found


def _days(view: JarView) -> str:
    """Made and best by, as a label says it."""
    made = f"made {view.filled_words or f'{view.filled_at:%-d %b %Y}'}"
    if view.best_by is None:
        return made
    close = (view.best_by.typ - view.filled_at.date()).days < SHORT_D
    until = f"{view.best_by.typ:%-d %b %Y}" if close else f"{view.best_by.typ:%b %Y}"
    return f"{made}, best by {until}"


SHORT_D = 90
"""What is at its best for less than this says its day, not its month [d]."""


def _contents(jar: Jar, units: System) -> list[str]:
    """What is in it and how much, the most first, and its sugar."""
    parts = _parts(jar)
    said = ["Of " + ", ".join(f"{name} {pct:.0f} %" for name, pct in parts)] if parts else []
    brix, grams = jar.contents.get("brix"), jar_view.weighs_g(jar, jar.fill_ml)
    amount = in_units(figure(jar.fill_ml, "ml"), units)
    if grams is None:
        return [*said, amount]
    weight = in_units(figure(grams, "g"), units)
    if jar_view.lies_loose(jar):
        return [*said, weight]
    return [*said, f"{amount}, {weight}, {brix:.0f} g of sugar in 100 g"]


def _parts(jar: Jar) -> list[tuple[str, float]]:
    """What is in it, each thing once whatever way it came in, the most first [% of mass]."""
    shares: dict[str, float] = defaultdict(float)
    for origin in jar.contents.get("origins", ()):
        shares[_named(str(origin["material"]), str(origin.get("form", "")))] += float(origin["pct"])
    most_first = sorted(shares.items(), key=lambda part: -part[1])
    return [p for p in most_first if p[1] >= LEAST_PCT or p[0] == "honey"][:MOST_NAMED]


def _named(material: str, form: str) -> str:
    """A part of what is in it, in words: "damson juice"."""
    if material in fruits():
        part = "" if form in {"", "whole"} else f" {form.replace('_', ' ')}"
        return f"{materials.fruit(material).name.lower()}{part}"
    try:
        return ingredient(material).name.lower()
    except Unknown:
        return material.replace("_", " ")


def _cautions(jar: Jar, *, frozen: bool) -> list[str]:
    """What whoever opens it has to know."""
    in_it = {str(o["material"]) for o in jar.contents.get("origins", ())}
    said = []
    if jar.contents.get(FOUND):
        said.append("Was there already: look at it before it is opened.")
    if "honey" in in_it:
        said.append("Honey: not for children under one year.")
    if in_it & ELDERS:
        said.append("Elder, cooked: never eaten raw.")
    if jar.seal not in {"sealed", "cooling", "capped", "unknown"}:
        said.append("Keep frozen." if frozen else "Keep cold.")
    if jar.lid in LIDS:
        said.append(f"{jar.lid.capitalize()} lid.")
    return said


ELDERS = frozenset({"elderberry", "elderflower"})


def _thinned(orm: Orm, who: Who, jar: Jar) -> str:
    """How it is thinned, or made again, with water; nothing for what is drunk as it is."""
    dry, units = jar_view.again(jar), kitchens.units(orm, who)
    if dry is not None:
        return _made_again(dry, units)
    if jar_view.lies_loose(jar) or jar.contents.get(FOUND):
        return ""
    try:
        found = serving.ratio(servings.in_the_jar(orm, who, jar), "water")
    except (CoreError, NotFound):
        return ""
    if found.parts < LEAST_PARTS:
        return ""
    return f"Thin 1 part with {found.parts:.0f} of water."


def _made_again(dry: Again, units: System) -> str:
    """Water to a spoon of powder, or to what is weighed; and what all of it makes."""
    whole = in_units(figure(1000.0 * dry.litres, "ml"), units)
    if dry.portion:
        water = in_units(figure(dry.portion.water_g, "ml"), units)
        return (
            f"1 portion to {water} of water; all {dry.portions:.0f} make {whole}. Close it at once."
        )
    if dry.spoons:
        water = in_units(figure(dry.spoons[0].water_ml, "ml"), units)
        return f"1 level spoon to {water} of water; all of it makes {whole}. Close it at once."
    each = in_units(figure(100.0 * dry.water_g_per_g, "g"), units)
    return f"{each} of water to {in_units(figure(100.0, 'g'), units)}, overnight in the cold."


LEAST_PARTS = 0.5
