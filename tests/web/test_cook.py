"""Cook and its neighbours: timers that ring, two screens at once, stops that lead somewhere."""

from __future__ import annotations

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.web.conftest import SIZES, Application, come_in
from tests.web.hands import later, say

pytestmark = pytest.mark.browser


@pytest.fixture(params=["phone"], scope="module")
def size(request: pytest.FixtureRequest) -> str:
    """By the hob it is mostly the phone."""
    return str(request.param)


def plan(page: Page, application: Application, query: str) -> None:
    """Start a batch from a plan's address."""
    page.goto(f"{application.url}plan?{query}")
    page.get_by_role("button", name="Start this batch").click()
    expect(page.get_by_role("heading", name=re.compile("^Steam load 1"))).to_be_visible()


def clear_steamer(application: Application) -> None:
    """Lift what is in the steamer: end whatever load is running."""
    application.rewrite(
        "INSERT INTO event (household_id, batch_id, operation_id, kind, at, person_id, data) "
        "SELECT s.household_id, s.batch_id, s.operation_id, 'finished', s.at, s.person_id, '{}' "
        "FROM event s JOIN operation o ON o.id = s.operation_id AND o.kind = 'steam_juice' "
        "WHERE s.kind = 'started' AND NOT EXISTS (SELECT 1 FROM event e "
        "WHERE e.operation_id = s.operation_id AND e.kind = 'finished')"
    )


def press(page: Page, name: str) -> None:
    """Press a button by what it says."""
    page.get_by_role("button", name=name, exact=True).click()


def steam(page: Page, application: Application, minutes: float, litres: str) -> None:
    """One load from Start to its juice in the jug."""
    press(page, "Start")
    expect(page.get_by_role("button", name="Refilled")).to_be_visible()
    later(page, application, minutes)
    press(page, "Done")
    page.get_by_label("Juice drawn").fill(litres)
    press(page, "Done")


def heat(page: Page, degrees: str, ph: str | None = None, strip: bool = False) -> None:
    """Heat and read the thermometer, and perhaps the acidity."""
    press(page, "Start")
    press(page, "Done")
    page.get_by_label("Thermometer, to reach 88 °C").fill(degrees)
    if ph:
        page.get_by_label("pH, if you can read it").fill(ph)
        if strip:
            page.get_by_role("radio", name="paper strip").click()
    press(page, "Done")


def test_two_screens_show_the_same_batch(
    application: Application, kitchen: Page, browser: Browser
) -> None:
    width, height = SIZES["wide"]
    laptop = browser.new_page(viewport={"width": width, "height": height})
    come_in(application, laptop)
    for page in (kitchen, laptop):
        page.goto(f"{application.url}cook/25")
        expect(page.get_by_role("heading", name="Steam load 2 of 3")).to_be_visible()
    press(kitchen, "More time")
    press(kitchen, "skins still whole")
    press(kitchen, "Add 10 min")
    expect(laptop.get_by_text("10 min added")).to_be_visible(timeout=8000)
    laptop.close()


def test_a_timer_rings_on_every_screen_until_somebody_looks(
    application: Application, kitchen: Page
) -> None:
    page = kitchen
    page.get_by_role("link", name="Shelf").click()
    expect(page).to_have_title("Elderberry")
    later(page, application, 90)
    expect(page).to_have_title("Now: Damson, load 2 of 3")
    page.get_by_role("link", name=re.compile("Damson, load 2 of 3")).click()
    expect(page.get_by_role("heading", name="Steam load 2 of 3")).to_be_visible()
    expect(page).to_have_title("Elderberry")


def test_a_canner_that_waits_for_a_meter_leads_to_the_cold(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    clear_steamer(application)
    plan(page, application, "fruit=plum&kg=4")
    steam(page, application, 62, "2.1")
    heat(page, "90", ph="3.4", strip=True)
    expect(page.get_by_role("heading", name="Fill the jars")).to_be_visible()
    press(page, "Done")
    press(page, "Filled")
    expect(page.get_by_role("heading", name="Process load 1 of 1")).to_be_visible()
    expect(page.get_by_text("the canner waits for a pH meter reading")).to_be_visible()
    sound()
    press(page, "Start")
    expect(page.get_by_role("alert")).to_contain_text("pH meter reading")
    page.get_by_role("button", name="Chill it instead").first.click()
    expect(page.get_by_role("heading", name="Into the refrigerator")).to_be_visible()
    sound()
    press(page, "Done")
    expect(page.get_by_text("This batch is finished")).to_be_visible()
    page.get_by_role("link", name="Shelf", exact=True).click()
    cold = page.get_by_role("region", name="Refrigerator")
    expect(cold.get_by_role("button", name=re.compile("plum"))).not_to_have_count(0)


def test_a_failed_seal_goes_through_the_canner_again(
    application: Application, kitchen: Page
) -> None:
    page = kitchen
    page.goto(f"{application.url}cook/24")
    expect(page.get_by_role("heading", name="Check the seals")).to_be_visible()
    page.get_by_role("button", name=re.compile("-04 failed$")).click()
    page.get_by_role("button", name=re.compile("Process it again")).click()
    if page.get_by_text("More than 24 hours have passed").count():
        pytest.fail("the demo's jars came out less than a day ago")
    expect(page.get_by_text("To be processed again with a new lid")).to_contain_text("-04")
    press(page, "All 3 held")
    expect(page.get_by_role("heading", name=re.compile("^Process load"))).to_be_visible()
    press(page, "Start")
    press(page, "It boils: start the time")
    expect(page.get_by_role("button", name=re.compile("^Done at"))).to_be_visible()
    later(page, application, 11)
    press(page, "Done")
    expect(page.get_by_text("Nothing to press. Leave the jars alone")).to_be_visible()
    later(page, application, 12 * 60 + 2)
    press(page, "It held")
    expect(page.get_by_text("This batch is finished")).to_be_visible()


def test_a_problem_is_noted_with_advice(application: Application, kitchen: Page) -> None:
    page = kitchen
    clear_steamer(application)
    plan(page, application, "fruit=rhubarb&kg=3")
    press(page, "Start")
    press(page, "Problem")
    press(page, "The hose came off: 1 cup")
    happened = page.get_by_role("region", name="The hose came off")
    expect(happened).to_contain_text("Heat down first")
    press(page, "Done with that")
    press(page, "Problem")
    page.get_by_label("Something else").fill("a wasp in the jug")
    press(page, "Write it down")
    expect(page.get_by_role("dialog")).to_have_count(0)
    press(page, "Somebody is burned")
    expect(page.get_by_role("dialog")).to_contain_text("cool running water for 20 minutes")
    noted = application.sql("SELECT data FROM event WHERE kind = 'noted' ORDER BY id DESC LIMIT 1")
    assert "a wasp in the jug" in noted[0][0]


@pytest.mark.parametrize(
    ("address", "words"),
    [
        ("cook/9999", "There is no such batch in this household"),
        ("shelf/9999", "There is no such jar"),
        ("nowhere", "There is nothing at this address"),
        ("shelf?find=unicorn", 'No jar matches "unicorn"'),
    ],
)
def test_what_is_not_there_says_so(
    application: Application, kitchen: Page, address: str, words: str
) -> None:
    kitchen.goto(application.url + address)
    expect(kitchen.get_by_text(words)).to_be_visible()


def test_a_plan_can_be_sent_by_its_address(application: Application, kitchen: Page) -> None:
    page = kitchen
    page.goto(f"{application.url}plan?fruit=quince&kg=7.5&keep=freeze")
    expect(page.get_by_role("heading", name="Quince juice from 7.5 kg")).to_be_visible()
    say(page, "9 kg quinces")
    expect(page).to_have_url(re.compile(r"9(%20|\+)kg(%20|\+)quinces"))
    page.reload()
    expect(page.get_by_role("heading", name="Quince juice from 9 kg")).to_be_visible()
    expect(page.get_by_role("radio", name="frozen")).to_be_checked()
