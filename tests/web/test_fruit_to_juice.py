"""Every way of getting juice out, by clicking and typing as a person would, at both sizes."""

from __future__ import annotations

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect
from sqlalchemy import create_engine
from sqlalchemy.orm import Session as Orm

from elderberry.services.planning import plans
from elderberry.services.planning.asked import of_fruit
from elderberry.services.who import Who
from elderberry.store import Person
from tests.web.conftest import Application
from tests.web.hands import choose, go, later, press, start_button, take

pytestmark = pytest.mark.browser


@pytest.fixture(autouse=True)
def _free_stations(application: Application) -> None:
    """What other hands have on the stove comes off it, so that ours have room."""
    over = "SELECT operation_id FROM event WHERE kind IN ('finished', 'dropped')"
    application.rewrite(
        f"DELETE FROM event WHERE kind IN ('started', 'boil_reached', 'noted') "
        f"AND operation_id NOT IN "
        f"(SELECT operation_id FROM ({over} AND operation_id IS NOT NULL) AS over_ones)"
    )


def plan_for(page: Page, application: Application, query: str) -> None:
    """Open a plan by its address and start the batch."""
    page.goto(f"{application.url}plan?{query}")
    start_button(page).click()
    expect(page).to_have_url(re.compile(r"/cook/\d+"))


def done(page: Page, **typed: str) -> None:
    """Finish the step in focus, typing what is asked."""
    press(page, "Done")
    sheet = page.get_by_role("dialog")
    if typed or sheet.is_visible():
        for label, value in typed.items():
            sheet.get_by_label(re.compile(label.replace("_", " "), re.IGNORECASE)).fill(value)
        sheet.get_by_role("button", name=re.compile("^Done")).click()
        expect(sheet).not_to_be_visible()


def waited(page: Page, application: Application, minutes: float) -> None:
    """Start the step in focus and let its time go by."""
    press(page, "Start")
    expect(page.get_by_role("timer")).to_be_visible()
    later(page, application, minutes)


def into_jars(page: Page, application: Application, kind: str, count: int) -> None:
    """Fill, process every load, let them cool and check the seals."""
    step(page, "Fill the jars")
    press(page, "Done")
    page.get_by_label(f"Full {kind} jars").fill(str(count))
    boiled = page.get_by_role("checkbox", name=re.compile("full boil as it went over"))
    if boiled.is_visible():
        boiled.click()
    if page.get_by_label("Holds").is_visible():
        page.get_by_label("Holds").fill("0")
    press(page, "Filled")
    step(page, "Process load 1")
    press(page, "Start")
    press(page, "It boils: start the time")
    expect(page.get_by_role("button", name=re.compile("^Done at"))).to_be_visible()
    later(page, application, 45)
    press(page, "Done")
    expect(page.get_by_text("Nothing to press")).to_be_visible()
    later(page, application, 60 * 13)
    step(page, "Check the seals")
    page.get_by_role("button", name=re.compile(r"^(All \d+|It) held")).click()
    expect(page.get_by_text("This batch is finished")).to_be_visible()


def step(page: Page, title: str) -> None:
    """The step in focus has this title."""
    expect(page.get_by_role("heading", level=2, name=re.compile(title))).to_be_visible()


def test_steam_juicing_in_four_loads_and_a_misread_jug(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    plan_for(page, application, "fruit=damson&kg=19&jars=pint")
    for load in range(1, 5):
        step(page, f"Steam load {load} of 4")
        waited(page, application, 61)
        done(page, juice_drawn="4.6" if load == 2 else "2.4")
        if load == 2:
            wrong = page.get_by_role("region", name="Figures that disagree")
            expect(wrong).to_contain_text("4.6 l was read")
            sound()
            wrong.get_by_label("It should read").fill("2.6")
            press(page, "Put it right")
            expect(wrong).not_to_be_visible()
    juice = page.get_by_role("region", name="Juice so far")
    expect(juice).to_contain_text("9.8 l drawn")
    step(page, "Heat to 88 °C")


def test_weighted_draining_with_a_second_pressing(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    plan_for(page, application, "fruit=gooseberry&method=weighted_gooseberry&kg=4&jars=pint")
    step(page, "Sort and strip")
    sound()
    done(page, weight_now="3.8")
    step(page, "Mash")
    done(page)
    step(page, "Drain under weight, cold")
    expect(page.get_by_text("Open juice draws flies")).to_be_visible()
    waited(page, application, 60 * 12)
    done(page, juice_drawn="1.8", sweetness="10.4")
    step(page, "Second pressing")
    done(page, juice_drawn="1.2", sweetness="5.4")
    step(page, "Pour together")
    done(page)
    step(page, "Strain")
    done(page, juice_drawn="2.95")
    step(page, "Heat to 88 °C")
    press(page, "Start")
    done(page, thermometer="89")
    into_jars(page, application, "pint", 6)
    page.goto(f"{application.url}plan?fruit=gooseberry&method=weighted_gooseberry&kg=4")
    expect(page.get_by_text("learned from 4 batches")).to_be_visible()


def test_a_steep_overnight_with_water_that_nobody_measured(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    page.goto(
        f"{application.url}plan?fruit=rosehip&method=rosehip_steep&kg=1.5&keep=chill&jars=m500"
    )
    page.get_by_role("button", name=re.compile("^steep")).click()
    sheet = page.get_by_role("region", name="Steep", exact=True)
    expect(sheet.get_by_role("button", name="✓ covered with water")).to_be_visible()
    sheet.get_by_label("Steep for").fill("10")
    sheet.get_by_role("button", name="Set").nth(1).click()
    expect(page.get_by_text("10 h of waiting")).to_be_attached()
    sound()
    sheet.get_by_role("button", name="Done").click()
    start_button(page).click()
    step(page, "Sort and strip")
    done(page)
    step(page, "Steep")
    expect(page.get_by_text("inferred from the packing of the fruit")).to_be_visible()
    press(page, "Start")
    press(page, "Reading")
    page.get_by_role("radio", name="Depth in the pot").click()
    page.get_by_label("Depth in the pot", exact=True).and_(page.locator("input")).fill("5")
    press(page, "Keep this reading")
    expect(page.get_by_text("inferred from the depth in the pot")).to_be_visible()
    later(page, application, 600)
    done(page, juice_drawn="2.2")
    step(page, "Strain")
    done(page, juice_drawn="2.1")
    step(page, "Heat to 88 °C")


def test_a_kitchen_without_meter_or_refractometer_gets_to_a_safe_jar(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    page.get_by_role("link", name="water boils at").click()
    for name in ("thermometer", "refractometer", "pH meter"):
        page.get_by_role("checkbox", name=name, exact=True).click()
        expect(page.get_by_role("checkbox", name=name, exact=True)).not_to_be_checked()
    expect(page.get_by_text("Without a thermometer juice is heated to a full boil")).to_be_visible()
    sound()
    plan_for(page, application, "fruit=redcurrant&method=simmered_redcurrant&kg=2&jars=pint")
    step(page, "Soak")
    done(page)
    step(page, "Sort")
    done(page)
    step(page, "Simmer")
    waited(page, application, 15)
    done(page)
    step(page, "Hang and drain")
    waited(page, application, 60 * 4)
    press(page, "Done")
    expect(page.get_by_role("dialog").get_by_text("Sweetness")).not_to_be_visible()
    page.get_by_label("Juice drawn").fill("1.5")
    page.get_by_role("dialog").get_by_role("button", name="Done", exact=True).click()
    step(page, "Heat to 88 °C")
    press(page, "Start")
    press(page, "Done")
    press(page, "No thermometer: it is at a full boil")
    into_jars(page, application, "pint", 3)


def test_fruit_infused_in_the_jar(application: Application, kitchen: Page) -> None:
    page = kitchen
    plan_for(page, application, "fruit=redcurrant&method=redcurrants_in_the_jar&kg=1&jars=pint")
    step(page, "Soak")
    done(page)
    step(page, "Sort")
    done(page, weight_now="950")
    step(page, "Measure out for the jars")
    expect(page.get_by_text("300 g of redcurrant and 120 g of sugar")).to_be_visible()
    done(page)
    step(page, "Fill the jars")
    expect(page.get_by_text("boiling water to the headspace")).to_be_visible()
    into_jars(page, application, "pint", 6)


def test_a_flow_is_edited_on_the_ribbon_and_kept_as_a_method(
    application: Application, kitchen: Page, sound: Callable[[], None], size: str
) -> None:
    page = kitchen
    page.goto(f"{application.url}plan?fruit=aronia&kg=5&jars=pint")
    page.get_by_role("button", name=re.compile("^Chokeberry juice")).locator(
        "visible=true"
    ).first.click()
    sheet = page.get_by_role("region", name="The flow")
    sound()
    sheet.get_by_role("button", name="strain", exact=True).click()
    expect(page.get_by_role("button", name=re.compile("^strain"))).to_be_visible()
    page.get_by_role("button", name=re.compile("^Pomace")).locator("visible=true").first.click()
    sheet.get_by_role("button", name="press again", exact=True).click()
    press_again = page.get_by_role("button", name=re.compile("^press again"))
    expect(press_again).to_be_visible()
    press_again.click()
    sheet.get_by_label("Water to first juice").fill("0.9")
    sheet.get_by_role("button", name="Set", exact=True).click()
    sheet.get_by_role("button", name="Done", exact=True).click()
    press(page, "Keep it as a method")
    name = f"Aronia twice, {size}"
    page.get_by_label("Name", exact=True).fill(name)
    page.get_by_label("Adapted from", exact=True).fill("Wenna's notebook")
    press(page, "Keep it")
    expect(page.get_by_text("adapted from Wenna's notebook")).to_be_visible()
    expect(page.get_by_label("How", exact=True)).to_contain_text(name)
    page.get_by_role("button", name=re.compile("^strain")).click()
    sheet.get_by_role("button", name="Take it out").click()
    press(page, "Keep it as a method")
    expect(page.get_by_role("dialog")).to_contain_text("it becomes version 2")
    press(page, "Keep it")
    expect(page.get_by_text("version 2")).to_be_visible()


def test_a_choice_says_what_it_costs_before_it_is_taken(
    application: Application, kitchen: Page
) -> None:
    page = kitchen
    page.goto(f"{application.url}plan?fruit=damson&kg=10&jars=pint")
    page.get_by_role("button", name=re.compile("^steam ×3")).click()
    flow = page.get_by_role("region", name="The flow")
    look = flow.get_by_role("button", name=re.compile("^look 3 times"))
    expect(look).to_contain_text("°Bx")
    look.click()
    expect(flow.get_by_role("button", name=re.compile("^✓ look 3 times"))).to_be_visible()
    expect(page.get_by_text("the flow was changed")).to_be_attached()


def test_fruit_comes_in_by_the_crate_and_waits(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    press(page, "Something came in")
    came = page.get_by_label("What came in, and how much")
    came.fill("a bushel of moonlight")
    expect(page.get_by_text("moonlight").first).to_be_visible()
    expect(page.get_by_role("button", name="Take it in")).to_be_disabled()
    came.fill("half a crate of sea buckthron")
    expect(page.get_by_text("read as sea buckthorn · 4.5 kg")).to_be_visible()
    page.get_by_role("radio", name="frozen").click()
    expect(came).to_have_value("half a crate of sea buckthron, frozen")
    page.get_by_role("radio", name="fresh").click()
    choose(page, "Picked", "yesterday")
    choose(page, "From", "wild")
    expect(page.get_by_text("Wild fruit that nobody is certain of is not used")).to_be_visible()
    sound()
    page.get_by_label("Which one").fill("Dunes")
    press(page, "Take it in")
    item = page.get_by_role("link", name=re.compile("4.5 kg of sea buckthorn will not wait"))
    item.click()
    expect(page.get_by_role("heading", name="Sea buckthorn juice from 4.5 kg")).to_be_visible()
    verdict = page.get_by_role("region", name="Verdict")
    expect(verdict).to_contain_text("not identified for certain")
    expect(start_button(page)).to_be_disabled()


def test_the_kitchen_shows_at_once_what_an_altitude_does(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    page.goto(f"{application.url}kitchen")
    page.get_by_label("Altitude", exact=True).fill("1900")
    expect(page.get_by_role("img", name="Water boils at 93.6 °C")).to_be_visible()
    place = page.get_by_role("region", name="Where it stands")
    expect(place).to_contain_text("20 min")
    page.get_by_label("Altitude", exact=True).fill("99000")
    expect(page.get_by_role("alert")).to_contain_text("at most 9000")
    page.get_by_label("Altitude", exact=True).fill("1900")
    press(page, "Keep this")
    expect(page.get_by_text("water boils at 93.6 °C").first).to_be_visible()
    page.get_by_label("Altitude", exact=True).fill("585")
    press(page, "Keep this")
    expect(page.get_by_text("water boils at 98.0 °C").first).to_be_visible()
    page.get_by_role("region", name="Pots, jugs, boxes and glasses").get_by_role(
        "button", name="add one"
    ).click()
    page.get_by_label("Name", exact=True).fill("Preserving pan")
    page.get_by_label("Holds to the brim").fill("11")
    sound()
    press(page, "Keep")
    expect(page.get_by_role("button", name=re.compile("Preserving pan"))).to_be_visible()


def test_a_jar_that_smells_wrong_leaves_the_shelf_untasted(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    go(page, "Shelf")
    take(page, "redcurrant, whole")
    page.get_by_role("link", name=re.compile("which goes first")).click()
    press(page, "Does it look or smell wrong?")
    sound()
    page.get_by_role("button", name=re.compile("^Its lid bulges")).click()
    expect(page.get_by_text("is not tasted")).to_be_visible()
    expect(page.get_by_text("its lid bulges, or it spurted")).to_be_visible()
    expect(page.get_by_text("thrown away").first).to_be_visible()


def test_figures_on_screen_are_the_cores(application: Application, kitchen: Page) -> None:
    page = kitchen
    page.goto(f"{application.url}plan?fruit=quince&kg=7&method=steamed_quince&jars=pint")
    socket = application.database.socket
    engine = create_engine(f"mysql+pymysql://root@/elderberry_demo?unix_socket={socket}")
    with Orm(engine) as orm:
        person = orm.query(Person).filter(Person.sign_in == "oda").one()
        who = Who.of(person)
        asked = of_fruit("quince", 7, jar_kinds=("pint",), method_key="steamed_quince")
        plan = plans.show(orm, who, asked)
    engine.dispose()
    flow = page.get_by_role("region", name="The flow")
    expect(flow).to_contain_text(f"{plan.ends[0].litres.typ:.1f} l")
    assert plan.ends[0].brix is not None
    figures = f"{plan.ends[0].brix.lo:.1f} to {plan.ends[0].brix.hi:.1f} °Bx"
    hot = page.get_by_role("button", name=re.compile(f"^Quince juice, hot.*{figures}"))
    expect(hot.locator("visible=true").first).to_be_visible()
    late = next(lot for lot in plan.lots if lot.key.endswith("-late"))
    assert late.brix is not None
    page.get_by_role("button", name=re.compile("^Quince juice")).locator(
        "visible=true"
    ).first.focus()
    expect(flow.get_by_text(re.compile(r"Quince juice.* · [\d.]+ kg · ")).first).to_be_visible()
