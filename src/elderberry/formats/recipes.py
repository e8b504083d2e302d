"""Recipes as others write them: schema.org JSON-LD, alone or in a page, and plain text.

Only what goes in is read of one. How it is done is ours to plan and to judge: a recipe claims
nothing, whatever it says of minutes and of safety.
"""

from __future__ import annotations

import html
import json
import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Any

MOST_LINES = 24
LONGEST_LINE = 200
GOES_IN = re.compile(r"(?:ingredients|what goes in|you (?:will )?need)\b.*", re.IGNORECASE)
AND_THEN = re.compile(
    r"(?:method|instructions?|directions?|preparation|steps?|step by step|how to)\b.*",
    re.IGNORECASE,
)
BULLET = re.compile(r"^(?:[-*•·–—▢☐□]+|\d{1,2}[.)]\s)\s*")
IN_A_PAGE = re.compile(
    r"<script[^>]*application/ld\+json[^>]*>(.*?)</script>", re.IGNORECASE | re.DOTALL
)
TAG = re.compile(r"<[^>]+>")


class NoRecipe(ValueError):
    """Nothing of it can be a recipe; the message says why and what to do."""


@dataclass(frozen=True)
class Recipe:
    """What a recipe is called, where it is from, and its lines of what goes in."""

    name: str
    source: str
    lines: tuple[str, ...]


def read(text: str) -> Recipe:
    """A recipe of a text: what a page says of itself, JSON-LD, or lines as one writes them.

    Raises:
        NoRecipe: no line of it says what goes in.

    >>> read("Sloe base\\nIngredients\\n- 2 kg sloes\\n1) 300 g sugar\\nMethod\\nBoil.").lines
    ('2 kg sloes', '300 g sugar')
    """
    found = next(iter(_described(text)), None)
    recipe = _of_ld(found) if found is not None else _of_text(text)
    if not recipe.lines:
        raise NoRecipe("No line of it says what goes in. Nothing was kept. Paste its ingredients.")
    return recipe


def _described(text: str) -> Iterator[dict[str, Any]]:
    """The recipes that a text describes by schema.org."""
    for piece in IN_A_PAGE.findall(text) or [text]:
        try:
            found = json.loads(piece)
        except ValueError:
            continue
        yield from (one for one in _within(found) if _is(one, "Recipe"))


def _within(found: Any) -> Iterator[dict[str, Any]]:
    if isinstance(found, list):
        for one in found:
            yield from _within(one)
    elif isinstance(found, dict):
        yield found
        yield from _within(found.get("@graph", []))


def _is(found: dict[str, Any], kind: str) -> bool:
    kinds = found.get("@type", "")
    return kind in (kinds if isinstance(kinds, list) else [kinds])


def _of_ld(found: dict[str, Any]) -> Recipe:
    listed = found.get("recipeIngredient") or found.get("ingredients") or []
    lines = [listed] if isinstance(listed, str) else listed
    author = found.get("author")
    named = author[0] if isinstance(author, list) and author else author
    by = named.get("name", "") if isinstance(named, dict) else named
    source = found.get("isBasedOn") or found.get("url") or by or ""
    return Recipe(
        _words(found.get("name", "")), _words(source if isinstance(source, str) else ""),
        tuple(_lines(_words(line) for line in lines if isinstance(line, str))),
    )  # fmt: skip


def _of_text(text: str) -> Recipe:
    lines = [line.strip() for line in text.splitlines()]
    begins = next((n for n, line in enumerate(lines) if GOES_IN.fullmatch(line)), None)
    after = -1 if begins is None else begins
    ends = next(
        (n for n, line in enumerate(lines) if n > after and AND_THEN.fullmatch(line)),
        len(lines),
    )
    before = lines[: begins or 0] if begins is not None else lines[:1]
    name = next((line for line in before if line and not re.search(r"\d", line)), "")
    inside = lines[begins + 1 : ends] if begins is not None else lines[:ends]
    goes_in = (line for line in inside if line != name and not line.endswith(":"))
    return Recipe(name[:LONGEST_LINE], "", tuple(_lines(goes_in)))


def _lines(said: Iterable[str]) -> Iterator[str]:
    """Lines without what stands before them in a list; no more than a plan takes."""
    found = (BULLET.sub("", line).strip() for line in said)
    for _, line in zip(range(MOST_LINES), (line for line in found if line), strict=False):
        yield line[:LONGEST_LINE]


def _words(said: object) -> str:
    return " ".join(html.unescape(TAG.sub(" ", str(said))).split())


def write(
    name: str, source: str, lines: Iterable[str], steps: Iterable[str], makes: str, minutes: float
) -> dict[str, Any]:
    """A recipe as schema.org describes one, in JSON-LD.

    Args:
        name: of it.
        source: where it is from.
        lines: what goes in, as one says it.
        steps: what is done, a sentence or two each.
        makes: what comes of it.
        minutes: how long it takes in all [min].

    Source: schema.org/Recipe; durations by ISO 8601.
    """
    return {
        "@context": "https://schema.org",
        "@type": "Recipe",
        "name": name,
        **({"isBasedOn": source} if source else {}),
        "recipeIngredient": list(lines),
        "recipeInstructions": [{"@type": "HowToStep", "text": step} for step in steps],
        "recipeYield": makes,
        "totalTime": f"PT{minutes:.0f}M",
        "recipeCategory": "Preserve",
    }
