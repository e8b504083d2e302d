"""Syrups, jelly and citrus through the page: a drop, a colour, a spoon; at both sizes."""

from __future__ import annotations

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from tests.web.conftest import Application
from tests.web.hands import (
    choose,
    go,
    later,
    method,
    press,
    say,
    settled,
    start_button,
    take,
    work_until,
)

pytestmark = pytest.mark.browser


def begin(page: Page, line: str, how: str) -> None:
    """Plan something by a method, and start it."""
    go(page, "Plan")
    say(page, line)
    method(page, how)


def drop(page: Page, what: str) -> None:
    """Press what the drop on the cold plate did."""
    page.get_by_role("button", name=f"The drop {what}").click()
    pressed = page.get_by_role("button", name=f"The drop {what}", pressed=True)
    expect(pressed).to_be_visible()


def test_caramel_is_overshot_brought_back_and_bottled(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    begin(page, "450 g sugar", "Caramel syrup")
    becomes = page.get_by_role("region", name="What it becomes")
    expect(becomes).to_contain_text("pours like runny honey")
    start_button(page).click()
    expect(page.get_by_role("list", name="Colours it goes through")).to_be_visible()
    sound()
    press(page, "Sugar is on")
    expect(page.get_by_role("timer")).to_be_visible()
    expect(page.get_by_role("textbox")).to_have_count(0)
    page.get_by_role("button", name="It is amber: hot water in").click()
    plate = page.get_by_role("region", name="The cold plate")
    for name in ("Hot water in", "Stir in sugar, citric acid"):
        expect(page.get_by_role("heading", name=name, level=2)).to_be_visible()
        page.get_by_role("button", name="Done", exact=True).click()
        settled(page)
        if page.get_by_role("dialog").is_visible():
            page.get_by_role("button", name="Done, not measured").click()
    expect(plate).to_be_visible()
    press(page, "Start")
    press(page, "It boils: start the time")
    drop(page, "is a ball")
    expect(plate.get_by_role("status")).to_contain_text("brings it back")
    sound()
    plate.get_by_role("button", name=re.compile("of water is in$")).click()
    drop(page, "holds")
    work_until(page, page.get_by_text("This batch is finished"))
    go(page, "Shelf")
    expect(
        page.locator("[data-stack]").filter(has_text=re.compile("syrup", re.I)).first
    ).to_be_visible()


def test_a_vinegar_syrup_stands_overnight(application: Application, kitchen: Page) -> None:
    page = kitchen
    begin(page, "500 ml water", "Mint and vinegar syrup")
    start_button(page).click()
    work_until(page, page.get_by_role("heading", name=re.compile("^Off the heat"), level=2))
    press(page, "Start")
    expect(page.get_by_role("timer")).to_contain_text(re.compile(r"^9:5"))
    later(page, application, 605)
    work_until(page, page.get_by_text("This batch is finished"))


def test_spirit_moves_the_life_of_a_fruit_syrup(kitchen: Page) -> None:
    page = kitchen
    begin(page, "2 kg damsons", "Fruit syrup with spirit")
    becomes = page.get_by_role("region", name="What it becomes")
    expect(becomes).to_contain_text("The spirit in it about doubles")
    expect(page.get_by_text(re.compile(r"Keeps 35 to 84 days"))).to_be_visible()


def test_cocoa_syrup_is_refused_for_the_shelf_with_a_way_on(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    begin(page, "300 ml water", "Cocoa syrup")
    jars = page.get_by_role("region", name="Jars")
    expect(start_button(page)).to_be_enabled()
    jars.get_by_role("radio", name="canned").click()
    expect(jars.get_by_text("No tested home process exists for cocoa syrup")).to_be_visible()
    expect(start_button(page)).to_be_disabled()
    jars.get_by_role("radio", name="by its sugar").click()
    expect(jars.get_by_text("Only a syrup of plain sugar keeps by its sugar")).to_be_visible()
    sound()
    page.get_by_role("button", name="Chill it instead").first.click()
    expect(start_button(page)).to_be_enabled()


def test_strong_syrup_goes_on_the_shelf_by_its_sugar(kitchen: Page) -> None:
    page = kitchen
    begin(page, "300 ml water", "Strong syrup for the shelf")
    expect(page.get_by_role("region", name="What it becomes")).to_contain_text("stays clear")
    start_button(page).click()
    work_until(page, page.get_by_text("This batch is finished"))
    page.get_by_role("link", name="shelf").last.click()
    take(page, "strong syrup")
    page.get_by_role("link", name=re.compile("which goes first")).click()
    expect(page.get_by_text("closed; its sugar keeps it")).to_be_visible()


def test_citrus_is_stretched_and_its_peel_weighed(kitchen: Page, sound: Callable[[], None]) -> None:
    page = kitchen
    begin(page, "6 limes", "Stretched citrus with its own juice")
    start_button(page).click()
    expect(page.get_by_role("heading", name="Peel thinly", level=2)).to_be_visible()
    page.get_by_role("button", name="Done", exact=True).click()
    page.get_by_label("Weight now, if you weigh it").fill("60")
    page.get_by_role("dialog").get_by_role("button", name="Done", exact=True).click()
    expect(page.get_by_text(re.compile("To 60 g of peel"))).to_be_visible()
    sound()
    work_until(page, page.get_by_text("This batch is finished"))


def test_why_one_jelly_set_thicker_than_its_twin(kitchen: Page, sound: Callable[[], None]) -> None:
    page = kitchen
    page.goto(page.url + "notes/18")
    choose(page, "Why did it come out so? Lay another batch beside it", r"QN-\d\d-11")
    found = page.get_by_role("region", name="Beside another batch").get_by_role("status")
    expect(found).to_contain_text("days later picked, so riper")
    sound()
