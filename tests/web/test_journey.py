"""From a crate of apples to named jars on a shelf, by clicking and typing as a person would."""

from __future__ import annotations

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from tests.briefs import sent_plan
from tests.web.conftest import Application
from tests.web.hands import choose, go, later, press, say, unfold

pytestmark = pytest.mark.browser


def test_from_the_crate_to_the_shelf(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    expect(page.get_by_text("water boils at 98.0 °C")).to_be_visible()
    sound()

    go(page, "Plan")
    say(page, "8 kg apples", From="Tree behind the shed")
    choose(page, "Into", "half pint")
    expect(page.get_by_role("heading", name="Apple juice from 8 kg")).to_be_visible()
    expect(page.get_by_text("2 loads of 4.0 kg in a basket of 8 l")).to_be_visible()
    expect(page.get_by_text("Yes: 10 min in boiling water")).to_be_visible()
    sound()
    choose(page, "Into", "pint")
    expect(page.get_by_role("region", name="Jars").get_by_role("heading")).to_contain_text("pints")
    press(page, "Start this batch")

    # The demo's damsons are in the steamer: one juicer holds one load.
    expect(page.get_by_role("heading", name="Steam load 1 of 2")).to_be_visible()
    press(page, "Start")
    expect(page.get_by_role("alert")).to_contain_text("still busy with: Steam load 2 of 3")
    application.rewrite(
        "DELETE FROM event WHERE kind = 'started' AND operation_id = "
        "(SELECT id FROM operation WHERE batch_id = 25 AND `key` = 'steam_juice-2')"
    )
    press(page, "Start")

    expect(page.get_by_role("timer")).to_contain_text(re.compile(r"1:[34]\d:\d\d"))
    expect(page.get_by_text("Clamp shut before you lift the kettle")).to_be_visible()
    sound()
    press(page, "More time")
    press(page, "skins still whole")
    press(page, "Add 10 min")
    expect(page.get_by_text("10 min added")).to_be_visible()
    press(page, "Refilled")
    press(page, "Reading")
    page.get_by_role("radio", name="Sweetness").click()
    page.get_by_label("Sweetness", exact=True).and_(page.locator("input")).fill("10,6")
    press(page, "Keep this reading")
    juice = page.get_by_role("region", name="Juice so far")
    expect(juice).to_contain_text("10.6")

    later(page, application, 118)
    expect(page.get_by_role("timer")).to_contain_text("+")
    press(page, "Done")
    page.get_by_label("Juice drawn").fill("200")
    press(page, "Done")
    expect(page.get_by_role("alert")).to_contain_text("200 l cannot come out of 4 kg")
    page.get_by_label("Juice drawn").fill("1.9")
    press(page, "Done")
    expect(juice).to_contain_text("1.9 l drawn")

    press(page, "Start")
    expect(page.get_by_role("timer")).to_be_visible()
    later(page, application, 108)
    press(page, "Done")
    press(page, "Done, not measured")

    for load in (1, 2):
        empty = f"Boil the empty jars, {load} of 2"
        expect(page.get_by_role("heading", name=empty)).to_be_visible()
        press(page, "Start")
        press(page, "It boils: start the time")
        expect(page.get_by_role("button", name=re.compile("^Done at"))).to_be_disabled()
        later(page, application, 12.5)
        press(page, "Done")

    expect(page.get_by_role("heading", name="Bring to the boil")).to_be_visible()
    press(page, "Start")
    press(page, "Done")
    page.get_by_label("Thermometer, to reach 96 °C").fill("84")
    press(page, "Done")
    expect(page.get_by_role("alert")).to_contain_text("not read at 96 °C or hotter")
    page.get_by_label("Thermometer, to reach 96 °C").fill("96.5")
    page.get_by_label("pH, if you can read it").fill("31")
    press(page, "Done")
    expect(page.get_by_role("alert")).to_contain_text("pH lies between 1.5 and 8: 31 cannot be")
    page.get_by_label("pH, if you can read it").fill("3.5")
    press(page, "Done")

    expect(page.get_by_role("heading", name="Fill the jars")).to_be_visible()
    press(page, "Done")
    page.get_by_label("Full pint jars").fill("70")
    press(page, "Filled")
    expect(page.get_by_role("alert")).to_contain_text("the pot held")
    page.get_by_label("Full pint jars").fill("8")
    page.get_by_label("Holds").fill("150")
    sound()
    press(page, "Filled")

    expect(page.get_by_role("heading", name="Process load 1 of 2")).to_be_visible()
    press(page, "Start")
    press(page, "It boils: start the time")
    expect(page.get_by_role("button", name=re.compile("^Done at"))).to_be_disabled()
    press(page, "Boil lost")
    expect(page.get_by_text("the time starts again from zero")).to_be_visible()
    press(page, "It boils: start the time")
    expect(page.get_by_role("button", name=re.compile("^Done at"))).to_be_disabled()
    later(page, application, 16.5)
    press(page, "Lift them; next load in")
    expect(page.get_by_role("heading", name="Process load 2 of 2")).to_be_visible()
    press(page, "It boils: start the time")
    expect(page.get_by_role("button", name=re.compile("^Done at"))).to_be_disabled()
    later(page, application, 16.5)
    press(page, "Done")
    expect(page.get_by_text("Nothing to press")).to_be_visible()

    later(page, application, 12 * 60 + 5)
    expect(page.get_by_role("heading", name="Check the seals")).to_be_visible()
    sound()
    page.get_by_role("button", name=re.compile("-08 failed$")).click()
    sound()
    page.get_by_role("button", name=re.compile("Into the refrigerator")).click()
    press(page, "The other 7 held")
    expect(page.get_by_text("This batch is finished")).to_be_visible()
    sound()

    go(page, "Shelf")
    cellar = page.get_by_role("region", name="Cellar shelf")
    expect(cellar.get_by_role("button", name=re.compile("apple ×7"))).to_be_visible()
    cold = page.get_by_role("region", name="Refrigerator")
    expect(cold.get_by_role("button", name=re.compile("apple, part")).first).to_be_visible()
    sound()
    cellar.get_by_role("button", name=re.compile("apple ×7")).click()
    page.get_by_role("link", name=re.compile("which goes first")).click()
    expect(page.get_by_role("region", name="Label")).to_contain_text("Apple juice")
    expect(page.get_by_text("10 min asked")).to_be_visible()
    expect(page.get_by_text("USDA guide 2")).to_be_visible()
    expect(page.get_by_text("begun again 1 time")).to_be_visible()
    expect(page.get_by_text("Tree behind the shed")).to_be_visible()
    expect(page.get_by_text(re.compile("Best by"))).to_be_visible()
    sound()


def test_a_stop_is_met_understood_and_resolved(kitchen: Page, sound: Callable[[], None]) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "10 kg elderberries")
    verdict = page.get_by_role("region", name="Verdict")
    expect(verdict).to_contain_text("No tested home process exists for elderberry")
    expect(page.get_by_role("button", name="Start this batch")).to_be_disabled()
    sound()
    press(page, "Chill it instead")
    expect(page.get_by_role("button", name="Start this batch")).to_be_enabled()
    expect(verdict).to_contain_text("Keeps 4 to 8 days at 4 °C")
    cautions = page.get_by_role("region", name="Cautions")
    cautions.get_by_role("button", name=re.compile("cautions and")).click()
    expect(cautions).to_contain_text("Raw berries, stems, leaves and unripe fruit are toxic")
    sound()


def test_too_mild_a_juice_is_acidified_by_a_press(kitchen: Page, sound: Callable[[], None]) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "10 kg plums", Acidity="4.4")
    verdict = page.get_by_role("region", name="Verdict")
    expect(verdict).to_contain_text("pH 4.40 was read")
    expect(page.get_by_role("button", name="Start this batch")).to_be_disabled()
    page.get_by_role("button", name=re.compile(r"^Add \d+ g citric acid")).click()
    goes_in = page.get_by_role("region", name="What goes in")
    expect(goes_in.get_by_text(re.compile(r"^\d+ g citric acid"))).to_be_visible()
    expect(verdict).to_contain_text("the canner waits for a pH meter reading")
    expect(page.get_by_role("button", name="Start this batch")).to_be_enabled()
    sound()


@pytest.mark.parametrize(
    ("label", "typed", "words"),
    [
        ("This line", "-3 kg damsons", "goes from nought up"),
        ("This line", "90000 kg damsons", "no kitchen's batch"),
        ("This line", "plenty of damsons", "not understood here"),
        ("Acidity", "31", "at most 7.5"),
        ("Loads", "1", "it takes 5"),
    ],
)
def test_a_bad_figure_is_said_at_its_field(
    kitchen: Page, label: str, typed: str, words: str
) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "20 kg damsons")
    expect(page.get_by_text("basket of 8 l")).to_be_visible()
    if label != "Loads":
        unfold(page.get_by_role("button", name=re.compile("^20 kg damsons")))
    page.get_by_label(label, exact=True).fill(typed)
    if label != "Loads":
        page.get_by_role("button", name="Done", exact=True).click()
    expect(page.get_by_text(words).first).to_be_visible()
    expect(page.get_by_role("button", name="Start this batch")).to_be_disabled()


def test_figures_on_screen_are_the_cores(application: Application, kitchen: Page) -> None:
    page = kitchen
    go(page, "Plan")
    say(page, "12 kg damsons")
    expect(page.get_by_role("heading", name="Damson juice from 12 kg")).to_be_visible()
    plan = page.request.post(
        f"{application.url}api/plans", data=sent_plan("damson", 12, jar_kinds=())
    ).json()
    flow = page.get_by_role("region", name="The flow")
    expect(flow).to_contain_text(
        f"{plan['ends'][0]['litres']['lo']:.1f} to {plan['ends'][0]['litres']['hi']:.1f}"
    )
    expect(flow).to_contain_text(f"{plan['ends'][0]['brix']['typ']:.1f} °Bx")
    count = plan["ends"][0]["expected"]["count"]
    expect(page.get_by_role("region", name="Jars")).to_contain_text(f"{count} pints")


def test_keys_lead_everywhere(kitchen: Page, size: str) -> None:
    page = kitchen
    if size == "phone":
        pytest.skip("a phone has no keys")
    for key, heading in (("2", "juice from"), ("4", "jars, "), ("1", "day")):
        page.keyboard.press(key)
        expect(page.get_by_role("heading", level=1)).to_contain_text(heading)
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_contain_text("done with the step in focus")
    page.keyboard.press("Escape")
    page.keyboard.press("4")
    page.keyboard.press("/")
    page.keyboard.type("damson part")
    expect(
        page.get_by_text(re.compile("damson, part")).or_(page.get_by_text("No jar"))
    ).to_be_visible()
    page.keyboard.press("Tab")
    focused = page.evaluate("document.activeElement !== document.body")
    assert focused


def test_in_by_one_button_out_again_and_a_wrong_password(
    application: Application, page: Page, sound: Callable[[], None]
) -> None:
    page.goto(application.url)
    press(page, "Come in")
    press(page, "sign out")
    expect(page.get_by_role("button", name="Come in")).to_be_visible()
    sound()
    page.get_by_label("Name you sign in with").fill("oda")
    page.get_by_label("Password").fill("guess")
    press(page, "Sign in")
    expect(page.get_by_role("alert")).to_contain_text("do not belong together")
