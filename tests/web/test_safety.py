"""The Safety page: every time and rule with its source, found by words, and a card to print."""

from __future__ import annotations

from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

pytestmark = pytest.mark.browser


def test_times_and_rules_are_all_there_and_searchable(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    page.get_by_role("link", name="safety").click()
    card = page.get_by_role("region", name="Altitude card")
    expect(card).to_contain_text("585 m, 1919 ft")
    apple = card.get_by_role("row", name="apple juice")
    expect(apple.get_by_role("cell")).to_have_text(["10", "10", "15"])
    syrup = card.get_by_role("row", name="fruit syrup")
    expect(syrup.get_by_role("cell")).to_have_text(["15", "", ""])
    expect(page.get_by_text("elderberry: no tested time")).to_be_visible()
    sound()
    find = page.get_by_role("searchbox", name="Find a time or a rule")
    find.fill("rhubarb")
    expect(page.get_by_text("Rhubarb leaves are poisonous.")).to_be_visible()
    expect(page.get_by_text("elderberry: no tested time")).to_have_count(0)
    find.fill("unicorn")
    expect(page.get_by_text("What is not listed counts as untested")).to_be_visible()


def test_an_own_source_fills_a_gap_and_nothing_else(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    page.get_by_role("link", name="safety").click()
    page.get_by_role("button", name="Enter a source").click()
    page.get_by_label("Product").click()
    products = page.get_by_role("option")
    expect(products).to_have_text(["hibiscus concentrate", "vinegar syrup"])
    page.get_by_role("option", name="vinegar syrup").click()
    page.get_by_label("At a full boil, here").fill("2")
    page.get_by_label("Tested up to").fill("4.6")
    page.get_by_role("button", name="Enter it").click()
    expect(page.get_by_text("This has to be at least 5.")).to_be_visible()
    expect(page.get_by_text("This can be at most 4.2.")).to_be_visible()
    sound()
    page.get_by_label("At a full boil, here").fill("15")
    page.get_by_label("Tested up to").fill("3.6")
    page.get_by_label("Where is it published, and when?").fill("Food authority leaflet 12, 2025")
    page.get_by_role("button", name="Enter it").click()
    expect(page.get_by_text("15 min up to 585 m")).to_be_visible()
    expect(page.get_by_text("Food authority leaflet 12, 2025, entered")).to_be_visible()


def test_only_the_card_is_printed(kitchen: Page) -> None:
    page = kitchen
    page.get_by_role("link", name="safety").click()
    expect(page.get_by_role("region", name="Altitude card")).to_be_visible()
    page.emulate_media(media="print")
    expect(page.get_by_role("region", name="Altitude card")).to_be_visible()
    for hidden in ("Every rule", "Every row of the tables", "Tested times and rules"):
        expect(page.get_by_text(hidden, exact=True)).to_be_hidden()
    expect(page.get_by_role("region", name="On the hob")).to_be_hidden()
