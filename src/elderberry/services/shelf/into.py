"""A jar that goes into another batch: what is in it, as lines of what goes in."""

from __future__ import annotations

from elderberry.core import materials
from elderberry.core.errors import Unknown
from elderberry.core.figures import CannotRead
from elderberry.core.lines import read
from elderberry.core.quantities import Customs
from elderberry.services.cooking import jar_view
from elderberry.store import Jar

LEAST_G = 1.0
"""A part of a jar below this is left out [g]."""
STATES = {"powder": "powder", "flakes": "powder", **dict.fromkeys(
    ("slices", "whole", "leather"), "dried"
)}  # fmt: skip
"""What fruit is called that was dried, by how it lies."""
SAID = {"juice": "juice", "pomace": "pomace", "puree": "purée", "zest": "zest", "peel": "peel"}
"""Forms that a line says after its fruit; any other fruit is named by itself."""


def lines_of(jar: Jar, customs: Customs) -> list[str]:
    """What is left in a jar, part by part, as a cook would write it; nothing where nobody knows.

    Each part keeps its own name, so that what is made of it is judged by what is in it.
    """
    grams = jar_view.weighs_g(jar, jar.there_ml)
    if grams is None or jar.gone:
        return []
    state = STATES.get(jar.contents.get("dried", ""), "")
    if not state and jar_view.lies_loose(jar):
        state = "frozen"
    said = [
        f"{part:.0f} g {name}"
        for origin in jar.contents.get("origins", ())
        if (part := grams * float(origin["pct"]) / 100.0) >= LEAST_G
        and (name := _named(str(origin["material"]), str(origin.get("form", "")), state))
    ]
    return said if all(_reads(line, customs) for line in said) else []


def _named(material: str, form: str, state: str) -> str:
    if material in materials.fruits():
        name = materials.fruit(material).name.lower()
        if state:
            return f"{name}, {state}"
        return f"{name} {SAID[form]}" if form in SAID else name
    try:
        return materials.ingredient(material).name.lower()
    except Unknown:
        return ""


def _reads(line: str, customs: Customs) -> bool:
    try:
        return read(line, customs, "").mass_g is not None
    except CannotRead:
        return False
