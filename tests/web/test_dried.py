"""Cold and dry through the page: trays to packs and back to a glass; frozen and used again."""

from __future__ import annotations

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.web.conftest import Application
from tests.web.hands import (
    add,
    choose,
    find,
    go,
    later,
    method,
    press,
    say,
    settled,
    start_button,
    work_until,
)

pytestmark = pytest.mark.browser


def trays(page: Page) -> Locator:
    return page.get_by_role("region", name="The trays")


def weigh(page: Page, grams: float) -> None:
    """Weigh a tray and say so."""
    trays(page).get_by_label("What is on one tray weighs").fill(f"{grams:.0f}")
    with page.expect_response(lambda r: r.request.method == "POST"):
        trays(page).get_by_role("button", name="Weighed").click()


def each_g(page: Page) -> float:
    """What lies on each tray [g], as its picture says."""
    said = (
        trays(page).get_by_role("figure", name=re.compile("on each$")).get_attribute("aria-label")
    )
    found = re.search(r"([\d.]+) (k?g) on each", said or "")
    assert found
    return float(found[1]) * (1000.0 if found[2] == "kg" else 1.0)


def finish_jars(page: Page) -> None:
    """Press what is left, to the end of the batch."""
    work_until(page, page.get_by_text("This batch is finished"))


def test_the_load_that_is_on_is_weighed_to_its_end_packed_and_drunk(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    page.get_by_role("link", name=re.compile("Gooseberry, 2 trays")).click()
    expect(page.get_by_role("heading", name="Freeze-dry: 2 trays", level=2)).to_be_visible()
    status = trays(page).get_by_role("status")
    expect(status).to_contain_text("not weighed yet")
    sound()
    left = 0.4 * each_g(page)
    weigh(page, left)
    expect(status).to_contain_text("by its weight")
    later(page, application, 600)
    weigh(page, 0.168 * each_g(page))
    later(page, application, 65)
    weigh(page, 0.168 * each_g(page))
    expect(status).to_contain_text("Dry by its weight")
    finish_jars(page)
    find(page, "gooseberry powder", "gooseberry powder")
    page.get_by_role("link", name=re.compile("which goes first")).click()
    again = page.get_by_role("region", name="Back again")
    expect(again).to_contain_text("1 level spoon to")
    expect(again).to_contain_text("a sachet for a litre")
    sound()
    press(page, "Open it")
    page.get_by_label(re.compile("^Taken, of")).fill("50")
    press(page, "Taken")
    expect(page.get_by_text(re.compile("taken out|poured", re.IGNORECASE)).first).to_be_visible()


def test_mixed_trays_become_packs_and_a_jug(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "1.6 kg quinces")
    method(page, "Slices and powder")
    on_trays = page.get_by_role("region", name="On the trays")
    on_trays.get_by_role("button", name="quince purée").click()
    expect(on_trays.get_by_role("figure", name=re.compile("quince purée"))).to_be_visible()
    sound()
    start_button(page).click()
    work_until(page, page.get_by_role("heading", name=re.compile("^Freeze-dry"), level=2))
    press(page, "Start")
    expect(trays(page).get_by_role("button", name="Weighed")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Freeze-dry")).last.click()
    press(page, "Start")
    running = "SELECT COUNT(*) FROM operation WHERE phase = 'running' AND kind = 'freeze_dry'"
    settled(page)
    assert application.sql(running) == [(2,)]
    finish_jars(page)
    find(page, "quince powder", "quince powder")
    page.get_by_role("link", name=re.compile("which goes first")).click()
    again = page.get_by_role("region", name="Back again")
    expect(again).to_contain_text(re.compile(r"2 l: \d+ g and 1\.\d l of water"))
    sound()


def test_a_frozen_box_is_found_by_its_name_and_says_how_it_thaws(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    find(page, "grapefruit freezer box", "grapefruit")
    page.get_by_role("link", name=re.compile("which goes first")).click()
    expect(page.get_by_role("region", name="Label")).to_contain_text("in a 500 ml box")
    expect(page.get_by_role("region", name="Thawing")).to_contain_text("stir it")
    sound()


def test_a_juice_that_foams_is_changed_until_it_dries(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "3 kg redcurrants")
    add(page, "200 g honey")
    say(page, "3 kg blackcurrants")
    method(page, "Steamed juice, freeze-dried")
    line = (
        page.get_by_role("region", name="What goes in")
        .get_by_role("listitem")
        .filter(has_text="maltodextrin")
    )
    line.get_by_role("button", name=re.compile("[Ll]eave|×|without")).last.click()
    jars = page.get_by_role("region", name="Jars")
    expect(jars.get_by_text(re.compile("would foam up"))).to_be_visible()
    expect(start_button(page)).to_be_disabled()
    expect(page.get_by_role("figure", name="Will it dry? it foams")).to_be_visible()
    sound()
    jars.get_by_role("button", name=re.compile("maltodextrin")).first.click()
    expect(start_button(page)).to_be_enabled()
    expect(page.get_by_role("figure", name="Will it dry? it foams")).to_have_count(0)


def test_leather_is_weighed_three_times_and_rolled(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "2 kg plums")
    method(page, "Fruit leather")
    expect(page.get_by_role("region", name="On the trays")).to_contain_text("a tray goes from")
    start_button(page).click()
    work_until(page, page.get_by_role("heading", name=re.compile("^Dry in warm air"), level=2))
    press(page, "Start")
    expect(trays(page).get_by_label("What is on one tray weighs")).to_be_visible()
    tray = each_g(page)
    for hours, share in ((2.0, 0.72), (3.0, 0.45), (4.0, 0.26)):
        later(page, application, 60 * hours)
        weigh(page, share * tray)
    expect(trays(page).get_by_role("status")).to_contain_text("Dry by its weight")
    sound()
    finish_jars(page)
    find(page, "plum leather", "plum leather")
    expect(page.get_by_role("complementary", name="In hand")).to_contain_text("Plum leather")


def test_slices_are_shaken_for_a_week(kitchen: Page, sound: Callable[[], None]) -> None:
    page = kitchen
    page.get_by_role("link", name=re.compile("^Shake the jars of apple")).click()
    shaken = page.get_by_role("region", name="Shaken")
    expect(shaken.get_by_role("list", name="Shaken on 2 of 7 days")).to_be_visible()
    press(page, "Shaken: no drops on the glass")
    expect(shaken.get_by_role("list", name="Shaken on 3 of 7 days")).to_be_visible()
    expect(shaken.get_by_role("button", name="Shaken today")).to_be_disabled()
    sound()
    go(page, "Today")
    expect(page.get_by_role("link", name=re.compile("^Shake the jars of apple"))).to_have_count(0)


def test_a_frozen_bag_says_how_it_thaws_and_goes_into_another_batch(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "2.4 kg blackcurrants")
    method(page, "Frozen loose")
    start_button(page).click()
    finish_jars(page)
    find(page, "blackcurrant whole freezer", "blackcurrant, whole")
    page.get_by_role("link", name=re.compile("which goes first")).click()
    expect(page.get_by_role("region", name="Thawing")).to_contain_text("in the refrigerator")
    sound()
    page.get_by_role("link", name="Into another batch").click()
    goes_in = page.get_by_role("region", name="What goes in")
    expect(goes_in).to_contain_text("blackcurrant, frozen")
    expect(page.get_by_role("region", name="The flow").get_by_role("figure").first).to_be_attached()
    expect(start_button(page)).to_be_enabled()


def test_bottles_are_sized_for_the_freezer_filled_thawed_and_poured(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "1.7 kg redcurrants")
    method(page, "Mashed and pressed")
    page.get_by_role("radio", name="frozen", exact=True).click()
    choose(page, "Into", "500 ml squeeze bottle")
    expect(
        page.get_by_role("heading", name=re.compile(r"\d × 500 ml squeeze bottle"))
    ).to_be_visible()
    sound()
    start_button(page).click()
    work_until(page, page.get_by_role("heading", name=re.compile("^Fill the squeeze"), level=2))
    expect(page.get_by_role("main")).to_contain_text(re.compile("hand-warm|lukewarm|swells"))
    sound()
    finish_jars(page)
    find(page, "redcurrant juice freezer", "redcurrant")
    page.get_by_role("link", name=re.compile("which goes first")).click()
    expect(page.get_by_role("region", name="Label")).to_contain_text("squeeze bottle")
    expect(page.get_by_role("region", name="Thawing")).to_contain_text("in the refrigerator")
    sound()
    press(page, "Open it")
    page.get_by_label(re.compile("^Taken, of|^Poured, of")).fill("0.2")
    page.get_by_role("button", name=re.compile("^(Taken|Poured)$")).click()
    expect(page.get_by_text(re.compile("taken out|poured", re.IGNORECASE)).first).to_be_visible()
