"""The Bench in the page: by keys alone, at both sizes; the address is the sum."""

from __future__ import annotations

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import BrowserContext, Locator, Page, expect

from tests.web.conftest import Application
from tests.web.hands import choose, go

pytestmark = pytest.mark.browser


def answer(page: Page) -> Locator:
    """What the sum comes to."""
    return page.get_by_role("region", name="What it comes to")


def fill(page: Page, label: str, text: str) -> None:
    """Type a figure by keys."""
    page.get_by_role("textbox", name=label, exact=True).focus()
    page.keyboard.press("ControlOrMeta+a")
    page.keyboard.type(text)


def test_sugar_for_a_liquid_and_the_same_sum_in_another_window(
    application: Application, kitchen: Page, context: BrowserContext, sound: Callable[[], None]
) -> None:
    page = kitchen
    go(page, "Bench")
    expect(page.get_by_role("heading", name="Sweeten", level=1)).to_be_visible()
    fill(page, "There is", "1.5")
    fill(page, "As sweet as", "10")
    fill(page, "To", "60")
    expect(answer(page)).to_contain_text("sugar to put in")
    expect(answer(page)).to_contain_text(re.compile(r"1\.[89]\d? kg"))
    sound()
    said = answer(page).text_content()
    other = context.new_page()
    other.goto(page.url)
    expect(answer(other)).to_have_text(str(said))
    other.close()
    fill(page, "To", "5")
    expect(answer(page)).to_contain_text("water to put in")
    expect(page).to_have_url(re.compile("target=5"))


def test_a_pot_is_moved_by_the_arrow_keys(kitchen: Page, sound: Callable[[], None]) -> None:
    page = kitchen
    go(page, "Bench")
    page.get_by_role("main").get_by_role("link", name="boil down").click()
    expect(answer(page)).to_contain_text("it will take")
    page.get_by_role("radio", name="a depth").click()
    handle = page.get_by_role("slider", name="Stop at, dragged")
    handle.focus()
    before = answer(page).text_content()
    page.keyboard.press("ArrowLeft")
    expect(answer(page)).not_to_have_text(str(before))
    fill(page, "Stop at", "3")
    expect(answer(page)).to_contain_text("3.0 cm")
    sound()


@pytest.mark.parametrize(
    ("name", "says"),
    [
        ("thermometer", "it boils here at"),
        ("sharpen", "citric acid to stir in"),
        ("citrus", "like the juice it makes"),
        ("crystals", "where it stands it"),
        ("a bottle", "a litre of your own costs"),
        ("in the jar", "The table time is the time"),
        ("freeze-dry", "water that comes out, of all trays"),
        ("air-dry", "dry enough from"),
        ("back again", "level spoons of powder"),
        ("measures", "brown sugar weighs"),
        ("process time", "in boiling water here"),
        ("steam pan", "the pan lasts"),
        ("blend", "there is at most"),
        ("cold plate", "on the plate it"),
        ("thin", "parts of water to one"),
    ],
)
def test_each_is_reached_by_keys_and_its_address_is_the_sum(
    kitchen: Page, context: BrowserContext, sound: Callable[[], None], name: str, says: str
) -> None:
    page = kitchen
    go(page, "Bench")
    page.get_by_role("main").get_by_role("link", name=name).press("Enter")
    expect(answer(page)).to_contain_text(says)
    sound()
    if page.get_by_role("slider").count():
        page.get_by_role("slider").first.press("ArrowRight")
        expect(page).to_have_url(re.compile("[?].+="))
    other = context.new_page()
    other.goto(page.url)
    said = str(answer(other).text_content())
    other.close()
    expect(answer(page)).to_have_text(said)


def test_a_drop_puts_the_guess_right(kitchen: Page) -> None:
    page = kitchen
    page.goto(page.url + "bench/cold-plate?brix=62&hot_c=104")
    expect(answer(page)).to_contain_text("pours like")
    choose(page, "The drop", "stands like set honey")
    expect(answer(page)).to_contain_text("it is as sweet as")


def test_what_cannot_be_is_said(kitchen: Page) -> None:
    page = kitchen
    page.goto(page.url + "bench/boil-down?brix=50&stop=brix&target=30")
    expect(page.get_by_role("alert")).to_contain_text("past that already")


def test_a_sum_is_opened_from_a_step_and_its_answer_goes_back(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    page.goto(page.url + "cook/25")
    page.get_by_role("main").get_by_role("link", name="steam pan").click()
    expect(page.get_by_role("heading", name="Steam and its pan", level=1)).to_be_visible()
    expect(answer(page)).to_contain_text("the pan lasts")
    fill(page, "Water in the pan", "2")
    page.get_by_role("link", name="Take it to the step").click()
    told = page.get_by_role("region", name="From the Bench")
    expect(told).to_contain_text("the pan lasts")
    sound()
    told.get_by_role("button", name="Write it down here").click()
    expect(told).to_have_count(0)
    notes = page.get_by_role("list", name="Written down here")
    expect(notes).to_contain_text("the pan lasts")


def test_a_household_lays_its_own_way_beside_the_schools(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    page.goto(page.url + "bench/citrus")
    beside = page.get_by_role("region", name="Side by side")
    expect(beside.get_by_role("heading")).to_have_count(3)
    page.get_by_role("radio", name="our own way").click()
    fill(page, "Peel to a litre", "60")
    expect(beside.get_by_role("heading")).to_have_text(
        ["by the peel", "by the litre", "like the juice", "your own"]
    )
    choose(page, "As sharp as", "Lemon")
    expect(page).to_have_url(re.compile("like=lemon"))
    sound()


def test_a_time_that_is_not_there_is_refused_in_words(kitchen: Page) -> None:
    page = kitchen
    page.goto(page.url + "bench/process-time?jar=half_gallon")
    expect(page.get_by_role("alert")).to_contain_text("largest")
