"""At the hob: load by load, batches side by side, mishaps and mis-taps, counted in presses."""

from __future__ import annotations

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Locator, Page, expect

from elderberry.core import mishaps
from tests.web.conftest import Application
from tests.web.hands import choose, give_up, go, later, press, start_button, work_until

pytestmark = pytest.mark.browser


@pytest.fixture(autouse=True)
def _free_stations(application: Application) -> None:
    """What other hands have on comes off, there are jars enough, and a basket takes seven kilos."""
    application.rewrite(
        "INSERT INTO event (household_id, batch_id, operation_id, kind, at, person_id, data) "
        "SELECT o.household_id, o.batch_id, o.id, 'dropped', UTC_TIMESTAMP(6), b.started_by, '{}' "
        "FROM operation o JOIN batch b ON b.id = o.batch_id WHERE o.phase IN ('running', 'waiting')"
    )
    application.sql("UPDATE jar_stock SET jars = 60, lids = 60 WHERE jar_kind = 'pint'")
    application.sql("UPDATE station SET basket_l = 12 WHERE kind = 'juicer'")


class Counted:
    """A hand on the page that counts what it presses; typing a figure is no press."""

    def __init__(self, page: Page) -> None:
        self.page, self.presses = page, 0

    def __call__(self, name: str | re.Pattern[str]) -> None:
        """Press a button by what it says."""
        exact = isinstance(name, str)
        self.page.get_by_role("button", name=name, exact=exact, disabled=False).last.click()
        self.presses += 1

    def fill(self, label: str | re.Pattern[str], text: str) -> None:
        """Type a figure."""
        self.page.get_by_label(label).fill(text)


def begin(page: Page, application: Application, query: str) -> None:
    """Start a batch from a plan's address."""
    page.goto(f"{application.url}plan?{query}")
    start_button(page).click()
    expect(page).to_have_url(re.compile(r"/cook/\d+"))


def step(page: Page, title: str) -> None:
    """The step in focus has this title."""
    expect(page.get_by_role("heading", level=2, name=re.compile(f"^{title}"))).to_be_visible()


def steam(page: Page, application: Application, hand: Counted, load: int, litres: str) -> None:
    """A load from Start to its juice in the jug."""
    step(page, f"Steam load {load}")
    hand("Start")
    expect(page.get_by_role("timer")).to_be_visible()
    later(page, application, 61)
    hand("Done")
    hand.fill("Juice drawn", litres)
    hand("Done")


def heat(page: Page, hand: Counted) -> None:
    """The pot to the thermometer's mark."""
    step(page, "Heat to")
    if page.get_by_role("button", name="Start", exact=True).is_visible():
        hand("Start")
    hand("Done")
    hand.fill(re.compile("^Thermometer"), "90")
    hand("Done")


def test_from_26_kilos_to_the_shelf_in_forty_presses(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page, hand = kitchen, Counted(kitchen)
    begin(page, application, "fruit=damson&kg=26&jars=pint")
    hand.presses += 1
    for load in range(1, 5):
        steam(page, application, hand, load, "3.3")
    heat(page, hand)
    step(page, "Fill the jars")
    sound()
    hand("Done")
    hand("Filled")
    title = page.get_by_role("heading", level=2, name=re.compile("^Process load 1 of"))
    loads = int(title.inner_text().split(" of ")[1])
    hand("Start")
    for load in range(1, loads + 1):
        step(page, f"Process load {load}")
        if page.get_by_text("These jars were filled").is_visible():
            hand.fill(re.compile("^Filled only now"), "92")
            hand("These jars are filled now")
            hand("Start")
        hand("It boils: start the time")
        expect(page.get_by_role("button", name=re.compile("^Done at"))).to_be_visible()
        later(page, application, 20)
        lift = page.get_by_role("button", name=re.compile("^(Lift them; next load in|Done)$"))
        hand(str(lift.inner_text()).split("\n")[0])
    last = page.get_by_role("heading", level=2, name=f"Process load {loads} of {loads}")
    expect(last).not_to_be_visible()
    later(page, application, 13 * 60)
    step(page, "Check the seals")
    before = hand.presses
    sound()
    hand(re.compile("-03 failed$"))
    hand(re.compile("^Into the refrigerator"))
    hand(re.compile("^The other [0-9]+ held"))
    expect(page.get_by_text("This batch is finished")).to_be_visible()
    jars = application.sql("SELECT COUNT(*) FROM jar WHERE batch_id = (SELECT MAX(id) FROM batch)")
    assert jars[0][0] >= 27
    assert hand.presses - before <= 6
    assert hand.presses <= 40


def test_a_load_is_filled_and_processed_while_the_next_one_steams(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page, hand = kitchen, Counted(kitchen)
    begin(page, application, "fruit=damson&kg=12&jars=pint")
    steam(page, application, hand, 1, "3.2")
    step(page, "Steam load 2")
    hand("Start")
    steps = page.get_by_role("navigation", name="Steps of this batch")
    steps.get_by_role("button", name=re.compile("^Heat to")).click()
    heat(page, hand)
    steps.get_by_role("button", name=re.compile("^Fill the jars")).click()
    hand("Done")
    sheet = page.get_by_role("dialog")
    expect(sheet).to_contain_text("Still to come: steam load 2")
    sound()
    hand("Filled, more to come")
    steps.get_by_role("button", name=re.compile("^Process load 1")).click()
    hand("Start")
    hand("It boils: start the time")
    go(page, "Cook")
    page.goto(f"{application.url}cook")
    expect(page.get_by_role("timer").or_(page.get_by_text("Process load 1")).first).to_be_visible()
    later(page, application, 61)
    page.goto(f"{application.url}cook/{newest(application)}")
    step(page, "Process load 1")
    hand("Done")
    step(page, "Steam load 2")
    hand("Done")
    hand.fill("Juice drawn", "3.1")
    hand("Done")
    heat(page, hand)
    step(page, "Fill the jars")
    hand("Done")
    expect(page.get_by_role("dialog")).not_to_contain_text("Still to come")
    hand("Filled")
    expect(steps.get_by_role("button", name=re.compile("^Process load 2"))).to_be_visible()


def newest(application: Application) -> int:
    """The batch that was begun last."""
    return int(application.sql("SELECT MAX(id) FROM batch")[0][0])


def on_the_stove(page: Page, batch: str) -> Locator:
    """The card of what is on, or could begin, of a batch."""
    return page.get_by_role("article").filter(has_text=batch).first


def test_two_batches_on_three_stations_are_worked_from_one_screen(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    begin(page, application, "fruit=damson&kg=5&jars=pint")
    begin(page, application, "fruit=redcurrant&kg=4&method=simmered_redcurrant&jars=pint")
    go(page, "Cook")
    expect(page.get_by_role("heading", name="At the hob")).to_be_visible()
    sound()
    on_the_stove(page, "Damson").get_by_role("button", name="Start").click()
    on = page.get_by_role("region", name="On now")
    expect(on).to_contain_text("Steam load 1")
    on_the_stove(page, "Redcurrant").get_by_role("button", name="Done").click()
    expect(on_the_stove(page, "Redcurrant")).to_contain_text("Sort and strip")
    on_the_stove(page, "Redcurrant").get_by_role("link", name="Go to it").click()
    press(page, "Done")
    press(page, "Done, not measured")
    step(page, "Simmer until soft")
    go(page, "Cook")
    on_the_stove(page, "Redcurrant").get_by_role("button", name="Start").click()
    expect(on).to_contain_text("Simmer until soft")
    on_the_stove(page, "Redcurrant").get_by_role("button", name="It boils: start the time").click()
    times = on.get_by_role("article")
    expect(times.first).to_contain_text("Simmer until soft")
    expect(times.last).to_contain_text("Steam load 1")
    assert len(set(stations(page))) >= 2
    sound()


def stations(page: Page) -> list[str]:
    """The station of each card."""
    return [text.split("\n")[0] for text in page.get_by_role("article").all_inner_texts()]


def test_a_mis_tap_is_taken_back(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    begin(page, application, "fruit=damson&kg=5&jars=pint")
    press(page, "Start")
    expect(page.get_by_role("timer")).to_be_visible()
    sound()
    page.get_by_role("button", name=re.compile("^Take it back")).click()
    expect(page.get_by_role("button", name="Start", exact=True)).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^Take it back"))).to_have_count(0)


def test_a_steam_canner_speaks_its_own_language(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page, hand = kitchen, Counted(kitchen)
    application.sql("UPDATE station SET heater = 'steam' WHERE kind = 'canner'")
    begin(page, application, "fruit=damson&kg=5&jars=pint")
    steam(page, application, hand, 1, "2.6")
    heat(page, hand)
    hand("Done")
    hand("Filled")
    step(page, "Process load 1")
    looked_at = page.get_by_role("list", name="Look at")
    expect(looked_at).to_contain_text("the dome stays shut")
    expect(looked_at).to_contain_text("45 minutes")
    sound()
    hand("Start")
    expect(page.get_by_text("steam standing steady at the vent")).to_be_visible()
    application.sql("UPDATE station SET heater = 'bath' WHERE kind = 'canner'")


def test_lids_of_two_colours_tell_a_parted_base_apart(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    page.goto(f"{application.url}kitchen")
    jars = page.get_by_role("button", name=re.compile("^pint "))
    jars.first.click()
    choose(page, "Colour", "red")
    page.get_by_label("How many").fill("6")
    sound()
    press(page, "Count these lids")
    expect(page.get_by_role("dialog")).to_contain_text("6 red new lids")
    press(page, "Close")
    page.goto(f"{application.url}plan?fruit=blackcurrant&kg=6&method=blackcurrant_two_ways")
    mixed = page.get_by_role("region", name=re.compile("^Blackcurrant and apple"))
    mixed.get_by_role("button", name="change").click()
    mixed.get_by_role("button", name="red lids").click()
    expect(mixed.get_by_role("button", name="red lids")).to_have_attribute("aria-pressed", "true")
    sound()
    start_button(page).click()
    expect(page).to_have_url(re.compile(r"/cook/\d+"))
    filled = page.get_by_role("heading", level=2, name=re.compile("^Process load 1"))
    work_until(page, filled)
    steps = page.get_by_role("navigation", name="Steps of this batch")
    steps.get_by_role("button", name=re.compile("^Stir")).click()
    step(page, "Stir")
    work_until(page, filled)
    lids = application.sql(
        "SELECT label, lid, COUNT(*) FROM jar WHERE part_filled = 0 AND batch_id = "
        "(SELECT MAX(id) FROM batch) GROUP BY label, lid"
    )
    assert {(label, lid) for label, lid, _ in lids} == {
        ("Blackcurrant juice", ""), ("Blackcurrant and apple juice", "red"),
    }  # fmt: skip
    left = application.sql("SELECT lids FROM lid_stock WHERE colour = 'red'")[0][0]
    assert left == 6 - next(n for _, lid, n in lids if lid == "red")


def goes_wrong(page: Page, *what: str) -> None:
    """Press mishaps at the step in focus; each says what to do now and what it means."""
    for key in what:
        mishap = mishaps.mishap(key)
        page.get_by_role("button", name="Problem", exact=True).last.click()
        sheet = page.get_by_role("dialog", name="What went wrong?")
        sheet.get_by_role("button", name=re.compile(f"^{mishap.title}")).first.click()
        said = page.get_by_role("region", name=mishap.title)
        expect(said).to_contain_text(mishap.now.split("«")[0])
        expect(said).to_contain_text(mishap.means)
        said.get_by_role("button", name="Done with that").click()


def test_each_mishap_is_a_press_and_its_consequence_is_seen(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page, hand = kitchen, Counted(kitchen)
    begin(page, application, "fruit=apple&kg=8&method=apple_reduced&jars=pint")
    goes_wrong(page, "mouldy_fruit")
    work_until(page, page.get_by_role("heading", level=2, name=re.compile("^Boil")))
    press(page, "Start")
    goes_wrong(page, "too_thick", "too_thin")
    give_up(page)
    begin(page, application, "fruit=damson&kg=5&jars=pint")
    press(page, "Start")
    goes_wrong(page, "hose_off", "pan_near_dry", "lid_lifted")
    later(page, application, 75)
    hand("Done")
    hand.fill("Juice drawn", "2.6")
    hand("Done")
    step(page, "Heat to")
    press(page, "Start")
    goes_wrong(page, "boiled_over", "scorched")
    heat(page, hand)
    goes_wrong(page, "spilled")
    hand("Done")
    hand("Filled")
    step(page, "Process load 1")
    hand("Start")
    hand("It boils: start the time")
    goes_wrong(page, "boil_lost")
    hand("It boils: start the time")
    goes_wrong(page, "water_low", "jar_cracked")
    hand("It boils: start the time")
    later(page, application, 30)
    hand("Done")
    step(page, "Cool load 1")
    goes_wrong(page, "siphoned", "lid_buckled")
    later(page, application, 13 * 60)
    step(page, "Check the seals")
    goes_wrong(page, "seal_failed", "mould_in_jar")
    sound()
    hand(re.compile("^(All|The other) [0-9]+ held"))
    expect(page.get_by_text("This batch is finished")).to_be_visible()
    page.goto(f"{application.url}notes/{newest(application)}")
    for title in (m.title for m in mishaps.mishaps().values() if m.key not in AT_THE_APPLES):
        expect(page.get_by_text(title).first).to_be_visible()


AT_THE_APPLES = {"mouldy_fruit", "too_thick", "too_thin"}


def test_notes_keep_what_went_otherwise(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    go(page, "Notes")
    expect(page.get_by_role("heading", name="Notes", level=1)).to_be_visible()
    sound()
    page.get_by_label("Find a batch by a word").fill("caramel")
    line = page.get_by_role("link", name=re.compile("Caramel syrup"))
    line.first.click()
    expect(page.get_by_role("heading", name="What came of it")).to_be_visible()
    expect(page.get_by_text("Follow the tested times of your own food authority")).to_be_visible()
    sound()
    address = page.get_by_role("link", name="As a PDF").get_attribute("href")
    answer = page.request.get(f"{application.url.rstrip('/')}{address}", max_retries=2)
    assert answer.headers["content-type"] == "application/pdf"
    assert answer.body()[:5] == b"%PDF-"
