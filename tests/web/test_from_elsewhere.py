"""Recipes and methods from elsewhere: what is doubtful is asked, and nothing is claimed."""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.web.hands import go, press, say, start_button

pytestmark = pytest.mark.browser

RECIPE = """Hedge syrup

Ingredients
- 2.5 kg elderberries
- 300 g moonlight
- 1 heap of sugar
- 2 lemons, sliced

Method
Boil and bottle, no need to process.
"""


def to_methods(page: Page) -> None:
    """Open the list of methods."""
    go(page, "Plan")
    page.get_by_role("link", name="read it, or lay another beside it").click()
    page.get_by_role("link", name="all methods").click()
    expect(page.get_by_role("heading", name="Methods", level=1)).to_be_visible()


def test_a_recipe_is_pasted_and_its_doubtful_lines_are_asked(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    to_methods(page)
    press(page, "Take one in")
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("Its lines, or a whole page that holds it").fill("Method\nBoil.")
    press(page, "Read it")
    expect(sheet.get_by_role("alert")).to_contain_text("Nothing was kept")
    sound()
    sheet.get_by_label("Its lines, or a whole page that holds it").fill(RECIPE)
    press(page, "Read it")
    goes_in = page.get_by_role("region", name="What goes in")
    expect(goes_in.get_by_role("listitem")).to_have_count(4)
    expect(page.get_by_text("adapted from Hedge syrup")).to_be_visible()
    expect(goes_in).to_contain_text("moonlight")
    sound()
    say(page, "300 g honey", 1)
    say(page, "200 g sugar", 2)
    expect(page.get_by_role("region", name="The flow").get_by_role("figure").first).to_be_attached()
    expect(start_button(page)).to_be_visible()
    expect(page.get_by_role("region", name="Jars")).to_be_visible()


def test_a_method_goes_out_as_a_file_and_comes_in_under_another_name(
    kitchen: Page, tmp_path: Path, sound: Callable[[], None]
) -> None:
    page = kitchen
    to_methods(page)
    page.get_by_role("link", name=re.compile("^Rhubarb with honey")).click()
    with page.expect_download() as coming:
        page.get_by_role("link", name="As a file").click()
    written = json.loads(Path(coming.value.path()).read_text())
    written |= {"name": "Rhubarb from over the fence", "adapted_from": "a neighbour"}
    file = tmp_path / "method.json"
    file.write_text(json.dumps(written))
    page.get_by_role("link", name="all methods").click()
    press(page, "Take one in")
    page.get_by_label("A file with a recipe or a method").set_input_files(file)
    expect(page.get_by_role("heading", name="Rhubarb from over the fence")).to_be_visible()
    expect(page.get_by_text(re.compile("adapted from a neighbour"))).to_be_visible()
    sound()
    with page.expect_download() as coming:
        page.get_by_role("link", name="As a file").click()
    assert json.loads(Path(coming.value.path()).read_text()) == written
    with page.expect_download() as coming:
        page.get_by_role("link", name="As a recipe").click()
    recipe = json.loads(Path(coming.value.path()).read_text())
    assert recipe["@type"] == "Recipe"
    assert any("honey" in line for line in recipe["recipeIngredient"])
