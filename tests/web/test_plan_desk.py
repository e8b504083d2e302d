"""The plan's desk: lines as one says them, several products, worked back, and put right."""

from __future__ import annotations

import json
import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Locator, Page, Request, Route, expect

from tests.web.conftest import Application
from tests.web.hands import (
    add,
    choose,
    fold,
    give_up,
    go,
    later,
    method,
    press,
    say,
    settled,
    start_button,
    unfold,
    work_until,
)

pytestmark = pytest.mark.browser


def goes_in(page: Page) -> Locator:
    return page.get_by_role("region", name="What goes in")


def verdict(page: Page) -> Locator:
    return page.get_by_role("region", name="Verdict").first


def test_a_two_fruit_concentrate_by_cups_into_twelve_half_pints(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "20 cups raspberries")
    add(page, "6 cups gooseberries, chopped")
    add(page, "bottled lemon juice, 600 ml to the litre")
    add(page, "sugar to 38 Brix")
    method(page, "Purée")
    expect(verdict(page)).to_contain_text("citrus concentrate")
    page.get_by_role("radio", name="jars").click()
    page.get_by_label("How many").fill("12")
    choose(page, "Of", "half pint")
    expect(page.get_by_role("region", name="Jars")).to_contain_text("12 half pints")
    expect(verdict(page)).to_contain_text("min in boiling water")
    expect(page.get_by_text(re.compile(r"thin 1 : \d"))).to_be_visible()
    expect(start_button(page)).to_be_enabled()
    sound()


def part_the_juice(page: Page, ends: int) -> None:
    """Take the juice in hand on the ribbon, and part it for one more product."""
    flow = page.get_by_role("region", name="The flow")
    flow.get_by_role("button", name=re.compile(r"^Redcurrant juice(, \d+ lots)? · ")).locator(
        "visible=true"
    ).first.press("Enter")
    press(page, "Part it: one more product")
    expect(page.get_by_role("region", name="Verdict")).to_have_count(ends)


def into(page: Page, line: str, end: str) -> None:
    """A line of what goes in, for one of the ends only."""
    add(page, line)
    row = goes_in(page).get_by_role("listitem").filter(has_text=line)
    unfold(row.get_by_role("button").first)
    row.get_by_role("radio", name=re.compile(f"^{end}")).click()
    fold(row)


def test_a_base_is_parted_in_three_on_the_ribbon_and_each_goes_its_own_way(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "12 kg redcurrants")
    expect(page.get_by_role("heading", name="Redcurrant juice from 12 kg")).to_be_visible()
    part_the_juice(page, 2)
    part_the_juice(page, 3)
    into(page, "1 l apple juice to the litre", "2")
    into(page, "sugar to 30 Brix", "3")
    plain = page.get_by_role("region", name="Redcurrant juice", exact=True).first
    mixed = page.get_by_role("region", name="Apple and redcurrant juice", exact=True)
    for end in (plain, mixed):
        expect(end).to_contain_text("Yes: 15 min in boiling water")
    expect(page.get_by_role("region", name="Redcurrant juice, 2", exact=True)).to_be_visible()
    expect(goes_in(page)).to_contain_text(re.compile(r"sugar to 30 Brix.*[\d.]+ (k?g|lb)"))
    expect(start_button(page)).to_be_enabled()
    sound()
    start_button(page).click()
    expect(page).to_have_url(re.compile(r"/cook/\d+"))
    expect(page.get_by_text(re.compile("^Fill")).first).to_be_attached()


def test_a_base_becomes_two_products_each_with_its_own_verdict(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "9 kg aronia")
    method(page, "Blackcurrant base, plain and with apple")
    plain = page.get_by_role("region", name="Chokeberry juice", exact=True)
    mixed = page.get_by_role("region", name="Chokeberry and apple juice", exact=True)
    for end in (plain, mixed):
        expect(end).to_contain_text("Yes: 15 min in boiling water")
    mixed.get_by_role("button", name="change").click()
    mixed.get_by_role("radio", name="frozen").click()
    expect(mixed).to_contain_text("at -18 °C")
    expect(plain).to_contain_text("Yes: 15 min in boiling water")
    press(mixed, "Give it a name")  # type: ignore[arg-type]
    page.get_by_label("Its name").fill("Winter cup")
    expect(page.get_by_role("region", name="Winter cup", exact=True)).to_be_visible()
    expect(goes_in(page)).to_contain_text("800 ml apple juice to the litre")
    sound()


def test_what_a_method_puts_in_is_said_otherwise_or_left_out(kitchen: Page) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "4 kg rhubarb")
    method(page, "Rhubarb with honey")
    expect(goes_in(page)).to_contain_text("from the method")
    page.get_by_role("button", name="Leave out honey").click()
    expect(goes_in(page)).not_to_contain_text("honey")


def test_what_is_swapped_is_what_the_line_says_and_is_written_on_from(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "3 kg quinces")
    method(page, "Quince jelly")
    goes_in(page).get_by_role("button", name=re.compile("^sugar|sugar.*from the method")).click()
    unfold(page.get_by_role("button", name="Sweeten it with something else"))
    goes_in(page).get_by_role("button", name=re.compile("honey")).first.click()
    line = page.get_by_label("This line")
    expect(line).to_have_value(re.compile("honey"))
    expect(goes_in(page)).to_contain_text("instead of 70 g sugar to 100 g")
    sound()
    line.press("End")
    line.press_sequentially(", warmed")
    expect(line).to_have_value(re.compile("honey.*, warmed$"))


def test_a_line_that_is_misread_is_put_right_where_it_is_wrong(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "5 kg plums")
    page.get_by_label("Add a line").fill("1/2 cup lemon juice")
    expect(goes_in(page)).to_contain_text("bottled lemon juice or fresh lemon juice: say which")
    sound()
    goes_in(page).get_by_role("button", name="bottled lemon juice", exact=True).click()
    expect(goes_in(page)).to_contain_text("1/2 cup bottled lemon juice")
    page.get_by_label("Add a line").fill("2 kg sugar and a prayer")
    expect(goes_in(page).locator("mark")).to_be_visible()
    expect(page.get_by_role("button", name="Add", exact=True)).to_be_disabled()
    page.get_by_label("Add a line").fill("500 g suger")
    expect(goes_in(page)).to_contain_text("read as sugar")
    press(page, "Add")
    page.get_by_role("button", name=re.compile("^500 g suger")).click()
    goes_in(page).get_by_role("button", name="500", exact=True).click()
    page.keyboard.type("400")
    expect(page.get_by_label("This line")).to_have_value("400 g suger")


def test_a_thing_that_no_list_knows_answers_for_itself(
    kitchen: Page, sound: Callable[[], None], size: str
) -> None:
    page = kitchen
    go(page, "Plan")
    name = "moonberries" if size == "wide" else "starberries"
    page.get_by_label("Add a line").fill(f"200 g {name}")
    expect(goes_in(page)).to_contain_text("is not known here yet")
    page.get_by_role("checkbox", name="sour").click()
    sound()
    press(page, f"Keep {name}")
    press(page, "Add")
    expect(goes_in(page)).to_contain_text(name)
    expect(verdict(page)).to_contain_text("shelf")
    expect(start_button(page)).to_be_disabled()


def test_marks_are_set_on_scales_and_served_by_lines(
    kitchen: Page, sound: Callable[[], None], size: str
) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "5 kg damsons")
    if size == "phone":
        press(page, "sweet, sharp, thick: set a mark")
    expect(page.locator("[aria-busy=true]")).to_have_count(0)
    page.get_by_label("Sweet, mark").fill("24")
    page.keyboard.press("Enter")
    expect(goes_in(page)).to_contain_text("sugar to 24 Brix")
    page.get_by_label("pH, mark").fill("2.8")
    page.keyboard.press("Enter")
    expect(goes_in(page)).to_contain_text("citric acid to pH 2.80")
    expect(page.get_by_label("Sweet, mark")).to_have_value("24.0")
    page.get_by_label("pH, mark").fill("4.3")
    page.keyboard.press("Enter")
    scales = page.get_by_role("region", name="Scales")
    expect(scales.get_by_role("alert")).to_contain_text("acid does not come out again")
    expect(scales.get_by_role("button", name=re.compile("^Take "))).to_be_visible()
    sound()
    page.get_by_role("slider", name="Sweet").focus()
    page.keyboard.press("ArrowRight")
    expect(goes_in(page)).to_contain_text("sugar to 24.8 Brix")


def test_a_mark_goes_by_the_methods_own_line(kitchen: Page, size: str) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "3 kg damsons")
    method(page, "Damson jelly")
    expect(goes_in(page)).to_contain_text("sugar to 65 Brix")
    if size == "phone":
        press(page, "sweet, sharp, thick: set a mark")
    page.get_by_label("Sweet, mark").fill("58")
    page.keyboard.press("Enter")
    expect(goes_in(page)).to_contain_text("instead of sugar to 65 Brix")
    expect(page.get_by_label("Sweet, mark")).to_have_value("58.0")


def test_apples_that_nobody_measured_with_bottled_lemon_by_the_litre(kitchen: Page) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "a bushel of apples")
    add(page, "32 ml bottled lemon juice to the litre")
    expect(goes_in(page)).to_contain_text("before the jars")
    expect(verdict(page)).to_contain_text("min in boiling water")


def test_a_puree_and_a_spiced_infusion_without_fruit_steps(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "6 kg apricots")
    method(page, "Purée")
    expect(verdict(page)).to_contain_text("fruit puree")
    say(page, "2 l water")
    add(page, "400 g honey")
    add(page, "3 sticks cinnamon")
    method(page, "Stirred together")
    expect(page.get_by_role("button", name="Chill it instead").first).to_be_visible()
    page.get_by_role("button", name="Chill it instead").first.click()
    expect(start_button(page)).to_be_enabled()
    expect(goes_in(page)).to_contain_text("warmed with it, then strained out")
    sound()


def test_nothing_moves_away_while_a_line_is_being_read(kitchen: Page) -> None:
    page = kitchen
    go(page, "Plan")
    row = goes_in(page).get_by_role("listitem").first
    unfold(row.get_by_role("button").first)
    expect(row.get_by_role("button", name="damsons", exact=True)).to_be_visible()
    expect(page.locator("[aria-busy=true]")).to_have_count(0)
    held: list[Route] = []
    plans: list[Request] = []

    def hold(route: Route) -> None:
        held.append(route)

    page.route("**/api/lines", hold)
    page.on("request", lambda r: plans.append(r) if r.url.endswith("/api/plans") else None)
    done = row.get_by_role("button", name="Done", exact=True)
    before = done.bounding_box()
    with page.expect_request("**/api/lines"):
        page.get_by_label("This line").fill("12 kg damsons")
    page.wait_for_timeout(100)
    assert (done.bounding_box(), plans) == (before, [])
    for route in held:
        route.continue_()
    expect(page.get_by_role("heading", level=1)).to_contain_text("from 12 kg")
    asked = [json.loads(r.post_data or "{}")["inputs"] for r in plans]
    assert [line["line"] for lines in asked for line in lines] == ["12 kg damsons"]


def test_a_late_answer_closes_nothing_that_was_opened_since(kitchen: Page) -> None:
    page = kitchen
    go(page, "Plan")
    flow = page.get_by_role("region", name="The flow")
    flow.get_by_role("button", name=re.compile("^Damson juice")).locator(
        "visible=true"
    ).first.click()
    strain = flow.get_by_role("button", name="strain", exact=True)
    expect(strain).to_be_visible()
    held: list[Route] = []

    def hold(route: Route) -> None:
        if json.loads(route.request.post_data or "{}")["act"] == "insert":
            held.append(route)
        else:
            route.continue_()

    page.route("**/api/flows", hold)
    with page.expect_request("**/api/flows"):
        strain.click()
    flow.get_by_role("button", name=re.compile("^Pomace")).locator("visible=true").first.click()
    again = flow.get_by_role("button", name="press again", exact=True)
    expect(again).to_be_visible()
    for route in held:
        route.continue_()
    expect(flow.get_by_role("button", name=re.compile("^strain"))).to_be_visible()
    expect(again).to_be_visible()


def test_honey_by_the_cup_in_a_kitchen_of_us_units(application: Application, kitchen: Page) -> None:
    page = kitchen
    application.sql("UPDATE kitchen SET units = 'us', cup = 'us'")
    try:
        page.reload()
        go(page, "Plan")
        say(page, "10 lb rhubarb")
        add(page, "2 1/2 cups honey")
        expect(page.get_by_role("heading", level=1)).to_contain_text("from 10 lb")
        expect(goes_in(page)).to_contain_text(re.compile(r"honey.*before the jars.*1\.\d lb"))
        settled(page)  # a step more, and the beads after it move under the hand
        page.get_by_role("button", name=re.compile("^heat")).click()
        expect(page.get_by_role("heading", name="Heat to 190 °F")).to_be_visible()
    finally:
        application.sql("UPDATE kitchen SET units = 'metric', cup = 'metric'")


def test_a_reduced_juice_says_how_far_and_how_long(kitchen: Page) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "12 kg apples")
    method(page, "Apple juice boiled down")
    page.get_by_role("button", name=re.compile("^boil down")).click()
    panel = page.get_by_role("region", name=re.compile("^Boil down to 25 % of it"))
    expect(panel).to_contain_text("l left")
    panel.get_by_role("button", name=re.compile("^a sweetness")).click()
    expect(page.get_by_role("region", name=re.compile("^Boil down to 40 °Bx"))).to_be_visible()


def test_a_reduced_juice_is_put_right_by_a_reading_midway(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "14 kg pears")
    method(page, "Apple juice boiled down")
    start_button(page).click()
    expect(page).to_have_url(re.compile(r"/cook/\d+"))
    boil_down = page.get_by_role("heading", name=re.compile("^Boil down to"), level=2)
    work_until(page, boil_down)
    press(page, "Start")
    press(page, "It boils: start the time")
    expect(page.get_by_text("the time starts at the full boil")).to_have_count(0)
    planned = page.get_by_role("timer").inner_text()
    later(page, application, 45)
    press(page, "Reading")
    page.get_by_role("radio", name="Volume").click()
    page.get_by_label("Volume", exact=True).and_(page.locator("input")).fill("5.5")
    press(page, "Keep this reading")
    expect(page.get_by_text(re.compile(r"About \d+.* more on this ring"))).to_be_visible()
    expect(page.get_by_role("timer")).not_to_have_text(planned)
    sound()
    press(page, "Reading")
    page.get_by_role("radio", name="Volume").click()
    page.get_by_label("Volume", exact=True).and_(page.locator("input")).fill("1.2")
    press(page, "Keep this reading")
    expect(page.get_by_text(re.compile("brings it back")).first).to_be_visible()
    give_up(page)


def test_a_drink_of_three_lines_in_few_presses(application: Application, kitchen: Page) -> None:
    page = kitchen
    presses = 0

    def pressed(act: Callable[[], None]) -> None:
        nonlocal presses
        act()
        presses += 1

    page.goto(f"{application.url}plan")
    pressed(lambda: say(page, "2 l water"))
    presses += 2
    pressed(lambda: add(page, "250 g sugar"))
    pressed(lambda: add(page, "60 g citric acid"))
    pressed(page.get_by_role("button", name="Chill it instead").first.click)
    pressed(lambda: start_button(page).click())
    expect(page).to_have_url(re.compile(r"/cook/\d+"))
    presses += work_until(page, page.get_by_text("This batch is finished"))
    expect(page.get_by_text("This batch is finished")).to_be_visible()
    assert presses <= 15


def test_a_mistaken_batch_is_given_up_and_its_fruit_waits_again(kitchen: Page) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "3 kg gooseberries")
    start_button(page).click()
    expect(page).to_have_url(re.compile(r"/cook/\d+"))
    give_up(page)
