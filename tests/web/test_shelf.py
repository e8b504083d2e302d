"""The shelf as a household uses it: opened, poured, given, carried, labelled, recalled."""

from __future__ import annotations

import re
from collections.abc import Callable

import pypdfium2
import pytest
import zxingcpp
from playwright.sync_api import Locator, Page, expect

from tests.web.conftest import Application
from tests.web.hands import go, press, take

pytestmark = pytest.mark.browser


def in_hand(page: Page) -> Locator:
    """The stack in hand."""
    return page.get_by_role("complementary", name="In hand")


def act(page: Page, name: str) -> None:
    """Press a line of what can be done with the stack in hand."""
    in_hand(page).get_by_role("button", name=re.compile(f"^{name}")).click()


def many(page: Page, number: int) -> None:
    """So many of the stack in hand."""
    in_hand(page).get_by_role("textbox", name="How many of them").fill(str(number))


def test_a_jar_is_opened_poured_from_and_finished(kitchen: Page, sound: Callable[[], None]) -> None:
    page = kitchen
    go(page, "Shelf")
    sound()
    take(page, "gooseberry")
    sound()
    act(page, "open one")
    label = page.get_by_role("region", name="Label")
    expect(label).to_contain_text("open since")
    expect(label).to_contain_text("Refrigerator")
    page.get_by_label(re.compile("^Poured, of")).fill("200")
    press(page, "Poured")
    expect(page.get_by_text("200 ml poured")).to_be_visible()
    sound()
    press(page, "still good")
    expect(page.get_by_text("tasted: still good")).to_be_visible()
    press(page, "It is used up")
    expect(label).to_contain_text("used up")
    expect(page.get_by_role("button", name="It is used up")).to_have_count(0)


def test_some_are_given_away_and_recalled_by_who_has_them(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    go(page, "Shelf")
    take(page, "damson ×")
    code = in_hand(page).get_by_role("link", name=re.compile("which goes first")).inner_text()
    many(page, 2)
    act(page, "give 2 away")
    page.get_by_label("Who has it now").fill("Mallow of plot 3")
    sound()
    press(page, "Given")
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.get_by_role("link", name="recall").click()
    page.get_by_role("radio", name="batch").click()
    page.get_by_label("Which").click()
    page.get_by_role("option", name=code[:8]).click()
    expect(page.get_by_text("tell Mallow of plot 3")).to_be_visible()
    sound()


def test_twelve_are_carried_and_keyboard_reaches_all_of_it(
    application: Application, kitchen: Page
) -> None:
    page = kitchen
    go(page, "Shelf")
    stack = page.locator("[data-stack]").filter(has_text="quince jelly").first
    stack.focus()
    page.keyboard.press("Enter")
    expect(in_hand(page)).to_contain_text("Quince jelly")
    many(page, 12)
    page.get_by_role("heading", level=1).click()
    page.keyboard.press("m")
    page.get_by_role("dialog").get_by_role("button", name=re.compile("^Kitchen shelf")).click()
    shelf = page.get_by_role("region", name="Kitchen shelf")
    expect(shelf.get_by_role("button", name=re.compile("quince jelly ×12"))).to_be_visible()
    moved = application.sql(
        "SELECT COUNT(*) FROM jar j JOIN place p ON p.id = j.place_id "
        "WHERE j.label = 'Quince jelly' AND p.name = 'Kitchen shelf'"
    )
    assert moved[0][0] == 12


def test_a_jar_that_fails_holds_its_batch_until_looked_at(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    go(page, "Shelf")
    take(page, "redcurrant ×")
    act(page, "something is wrong")
    sound()
    page.get_by_role("button", name=re.compile("^It leaks, or its lid came loose")).click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.goto(page.url.split("?")[0] + "?find=held")
    expect(page.locator("[data-stack]").first).to_contain_text("held: look at it")
    sound()
    page.locator("[data-stack]").first.click()
    in_hand(page).get_by_role("button", name=re.compile("^all ")).click()
    act(page, "looked at: sound")
    page.get_by_role("button", name=re.compile("^(These|This)")).click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    go(page, "Today")
    expect(page.get_by_text(re.compile("^Look at"))).to_have_count(0)


def test_a_part_sheet_of_labels_is_printed_and_its_square_read_back(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    go(page, "Shelf")
    take(page, "damson ×")
    many(page, 3)
    act(page, "labels, 3")
    expect(page.get_by_role("heading", name="3 labels")).to_be_visible()
    page.get_by_role("button", name="Begin at label 5", exact=True).click()
    expect(page.get_by_text("It begins at the 5th of 21")).to_be_visible()
    sound()
    address = page.get_by_role("link", name=re.compile("^Print")).get_attribute("href")
    answer = page.request.get(f"{application.url.rstrip('/')}{address}", max_retries=2)
    assert answer.headers["content-type"] == "application/pdf"
    document = pypdfium2.PdfDocument(answer.body())
    picture = document[0].render(scale=300 / 72).to_numpy()
    said = {code.text for code in zxingcpp.read_barcodes(picture)}
    assert said
    assert all(re.fullmatch(rf"{re.escape(application.url)}shelf/\d+", text) for text in said)
    page.goto(next(iter(said)))
    expect(page.get_by_role("region", name="Label")).to_contain_text("Damson")


def test_a_code_that_is_typed_leads_to_its_jar(kitchen: Page, sound: Callable[[], None]) -> None:
    page = kitchen
    go(page, "Shelf")
    take(page, "damson ×")
    code = in_hand(page).get_by_role("link", name=re.compile("which goes first")).inner_text()
    press(page, "put back")
    press(page, "Scan")
    expect(page.get_by_text("No camera here").or_(page.get_by_label("What the camera sees"))
           ).to_be_visible()  # fmt: skip
    sound()
    page.get_by_label("What is on its label").fill(code.split(",")[0].lower())
    press(page, "Go to it")
    expect(page.get_by_role("region", name="Label")).to_contain_text("Damson")


def test_a_party_is_served_and_written_down(kitchen: Page, sound: Callable[[], None]) -> None:
    page = kitchen
    go(page, "Shelf")
    take(page, "redcurrant ×")
    act(page, "drink it")
    page.get_by_role("radio", name="guests").click()
    page.get_by_label("How many, 2 glasses each").fill("12")
    made = page.get_by_role("region", name="What goes in")
    expect(made).to_contain_text("24 glasses")
    expect(made).to_contain_text("jars like it")
    page.get_by_role("radio", name="a glass").click()
    page.get_by_label("In the glass besides").fill("2 sprigs of mint")
    expect(made).to_contain_text("2 sprigs of mint")
    page.get_by_label("Written down as").fill("Evening glass")
    sound()
    press(page, "Pour it")
    expect(page.get_by_role("heading", name="Drinks of it")).to_be_visible()
    expect(page.get_by_text("Evening glass")).to_be_visible()
    page.get_by_role("link", name="A drink of it").click()
    expect(page.get_by_role("button", name="Evening glass")).to_be_visible()


def test_a_hot_week_is_logged_warned_of_and_seen_in_a_jars_life(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    go(page, "Shelf")
    cellar = page.get_by_role("region", name="Cellar shelf")
    cellar.get_by_role("button", name=re.compile(r"^\d+ °C$")).click()
    page.get_by_label("The thermometer shows").fill("27")
    sound()
    press(page, "That is how warm it is today")
    expect(cellar).to_contain_text("27 °C since")
    expect(cellar).to_contain_text("times as fast")
    go(page, "Today")
    expect(page.get_by_text(re.compile("^Cellar shelf is 27 °C"))).to_be_visible()
    sound()


def test_what_it_came_to_by_fruit_and_year(kitchen: Page, sound: Callable[[], None]) -> None:
    page = kitchen
    go(page, "Shelf")
    page.get_by_role("link", name="what it came to").click()
    expect(page.get_by_role("heading", name="What became of them")).to_be_visible()
    expect(page.get_by_text("Gooseberry").first).to_be_visible()
    page.get_by_label("A litre like it, bought").fill("6")
    expect(page.get_by_text(re.compile("than bought")).first).to_be_visible()
    sound()
