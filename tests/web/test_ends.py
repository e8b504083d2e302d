"""Ends of every kind, from the cupboard to the glass; another way; recipes and methods to read."""

from __future__ import annotations

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from tests.web.hands import add, choose, find, go, method, press, say, start_button, work_until

pytestmark = pytest.mark.browser


def own(page: Page, kind: str, name: str, holds: str, count: str) -> None:
    """List a vessel under Kitchen."""
    part = page.get_by_role("region", name="Pots, jugs, boxes and glasses")
    part.get_by_role("button", name="add one").click()
    sheet = page.get_by_role("dialog")
    choose(page, "Kind", kind)
    sheet.get_by_label("Name").fill(name)
    sheet.get_by_label("Holds to the brim").fill(holds)
    sheet.get_by_label("How many").fill(count)
    press(page, "Keep")
    expect(part.get_by_role("button", name=re.compile(f"^{name}"))).to_be_visible()


def kept(page: Page, how: str) -> None:
    """Say how what is filled is kept."""
    page.get_by_role("radio", name=how, exact=True).click()


def test_boxes_of_the_household_go_from_the_cupboard_to_the_freezer_and_are_empty_again(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    page.goto(f"{page.url.split('/', 3)[0]}//{page.url.split('/')[2]}/kitchen")
    own(page, "box", "Flat box", "0.7", "9")
    go(page, "Plan")
    say(page, "2.4 kg gooseberries")
    add(page, "300 g sugar")
    method(page, "Purée")
    kept(page, "frozen")
    choose(page, "Into", "700 ml box")
    page.get_by_role("button", name="blue lids").click()
    expect(page.get_by_role("heading", name=re.compile(r"\d × 700 ml box"))).to_be_visible()
    start_button(page).click()
    work_until(page, page.get_by_text("This batch is finished"))
    find(page, "gooseberry pur", "gooseberry purée")
    page.get_by_role("link", name=re.compile("which goes first")).click()
    expect(page.get_by_role("region", name="Label")).to_contain_text("in a 700 ml box")
    press(page, "It is used up")
    expect(page.get_by_role("region", name="Label").get_by_text("used up")).to_be_visible()
    sound()


def test_a_jug_never_goes_on_a_shelf(kitchen: Page) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "2 kg rhubarb")
    kept(page, "cold")
    choose(page, "Into", "2 l jug")
    verdict = page.get_by_role("region", name="Verdict")
    expect(verdict).to_contain_text(re.compile(r"Keeps \d+ to \d+ days"))
    kept(page, "frozen")
    expect(page.get_by_role("region", name="Jars")).to_contain_text(re.compile(r"\d pints?"))
    kept(page, "canned")
    expect(verdict).to_contain_text("min in boiling water")


def test_a_plain_cap_is_for_the_cold_only(kitchen: Page) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "2 kg rhubarb")
    kept(page, "cold")
    page.get_by_role("radio", name="plain caps").click()
    expect(page.get_by_text("A plain cap never seals")).to_be_visible()
    kept(page, "canned")
    verdict = page.get_by_role("region", name="Verdict")
    expect(verdict).to_contain_text("A plain cap never seals, so nothing under it keeps")
    expect(start_button(page)).to_be_disabled()


def test_a_drink_is_poured_and_over(kitchen: Page, sound: Callable[[], None]) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "1 l water")
    add(page, "20 g dried hibiscus")
    add(page, "80 g honey")
    kept(page, "drunk now")
    expect(page.get_by_role("region", name="Jars")).to_contain_text(re.compile(r"\d glasses"))
    start_button(page).click()
    work_until(page, page.get_by_role("heading", name="Pour it out"))
    work_until(page, page.get_by_text("This batch is finished. It was poured"))
    sound()


def test_a_base_and_its_juice_are_kept_apart_until_they_are_drunk(kitchen: Page) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "3 kg grapefruit")
    method(page, "Grapefruit juice and its sharp base")
    juice = page.get_by_role("region", name="Grapefruit juice", exact=True)
    base = page.get_by_role("region", name="Sharp grapefruit base", exact=True)
    expect(juice).to_contain_text(re.compile(r"when used, 1 : \d"))
    expect(juice).to_contain_text("with sharp grapefruit base")
    expect(base).to_be_visible()


def test_another_way_takes_one_press_and_is_kept_read_and_compared(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "6 kg quinces")
    add(page, "400 g honey")
    method(page, "Steam-juiced quince")
    flow = page.get_by_role("region", name="The flow")
    flow.get_by_role("button", name=re.compile(r"^steam\b")).first.click()
    instead = page.get_by_role("region", name="Instead of it")
    instead.get_by_role("button", name="simmer and drain").click()
    expect(flow.get_by_role("button", name=re.compile("^drain"))).to_be_visible()
    press(page, "Keep it as a method")
    page.get_by_label("Name", exact=True).fill("Plot quinces with honey")
    press(page, "Keep it")
    expect(page.get_by_text("the flow was changed")).to_have_count(0)
    page.get_by_role("link", name="read it, or lay another beside it").click()
    expect(page.get_by_role("heading", name="Plot quinces with honey")).to_be_visible()
    expect(page.get_by_role("region", name="To weigh out")).to_contain_text("Honey400 g")
    page.get_by_label("Shown for").fill("3 kg quinces")
    expect(page.get_by_role("region", name="To weigh out")).to_contain_text("200 g")
    choose(page, "Beside it", "Steam-juiced quince")
    results = page.get_by_role("region", name="What comes of it")
    expect(results.get_by_role("listitem").first).to_contain_text("Made")
    expect(page.get_by_role("region", name="Step by step")).to_contain_text("Steam")
    page.get_by_role("link", name="all methods").click()
    page.get_by_label("Find a method by words or fruit").fill("plot")
    expect(page.get_by_role("region", name="Our own")).to_contain_text("Plot quinces with honey")
    sound()
