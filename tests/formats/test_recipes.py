"""Recipes of others: what goes in is read, whatever is around it; what is no recipe is refused."""

from __future__ import annotations

import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.formats.recipes import LONGEST_LINE, MOST_LINES, NoRecipe, read, write

LINES = ["3 kg rowan berries", "2 1/2 cups sugar", "1 lemon, sliced"]
LD = {
    "@context": "https://schema.org", "@type": ["Recipe", "HowTo"], "name": "Rowan &amp; lemon",
    "author": {"@type": "Person", "name": "Over the fence"}, "recipeIngredient": LINES,
}  # fmt: skip


@pytest.mark.parametrize(
    "text",
    [
        json.dumps(LD), json.dumps([{"@type": "WebSite"}, LD]), json.dumps({"@graph": [LD]}),
        f'<html><script type="application/ld+json">{json.dumps(LD)}</script><p>4 eggs</p></html>',
    ],
)  # fmt: skip
def test_a_page_or_its_description_is_read(text: str) -> None:
    found = read(text)
    assert (found.name, found.source) == ("Rowan & lemon", "Over the fence")
    assert list(found.lines) == LINES


@pytest.mark.parametrize(
    "text",
    [
        "Rowan base\n\nIngredients:\n- 3 kg rowan berries\n• 2 1/2 cups sugar\n\n"
        "* 1 lemon, sliced\n\nMethod\n1. Boil for 20 minutes.\n2. Fill.",
        "Rowan base\n3 kg rowan berries\n2 1/2 cups sugar\n1 lemon, sliced",
        "Rowan base\nYou will need\n1) 3 kg rowan berries\n2) 2 1/2 cups sugar\n"
        "3. 1 lemon, sliced\nInstructions: boil it",
    ],
)  # fmt: skip
def test_plain_text_is_read(text: str) -> None:
    found = read(text)
    assert found.name == "Rowan base"
    assert list(found.lines) == LINES


@pytest.mark.parametrize("text", ["", "\n \n", "{}", '{"@type": "Recipe"}', "Method\nBoil."])
def test_what_says_nothing_of_what_goes_in_is_refused(text: str) -> None:
    with pytest.raises(NoRecipe, match="Nothing was kept"):
        read(text)


@given(st.text(max_size=3000))
def test_any_text_is_read_or_refused(text: str) -> None:
    try:
        found = read(text)
    except NoRecipe:
        return
    assert 1 <= len(found.lines) <= MOST_LINES
    assert all(0 < len(line) <= LONGEST_LINE for line in found.lines)


def test_what_is_written_is_read() -> None:
    written = write("Rowan", "a neighbour", LINES, ["Boil."], "4 pints", 95.4)
    found = read(json.dumps(written))
    assert (found.name, found.source, list(found.lines)) == ("Rowan", "a neighbour", LINES)
    assert written["totalTime"] == "PT95M"
