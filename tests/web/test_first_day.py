"""The first day in one's own kitchen: an empty installation, a household, an empty shelf."""

from __future__ import annotations

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from tests.web.conftest import Application

pytestmark = pytest.mark.browser


@pytest.fixture(scope="module")
def command() -> str:
    """One's own household rather than the demo."""
    return "serve"


def test_an_empty_installation_begins_with_the_altitude(
    application: Application, page: Page, sound: Callable[[], None]
) -> None:
    page.goto(application.url)
    expect(page.get_by_role("heading", name="Your kitchen")).to_be_visible()
    sound()
    page.get_by_label("What is it called?").fill("Kitchen under the hill")
    page.get_by_label("How high above the sea?").fill("15000")
    page.get_by_label("Your name").fill("Wenna")
    page.get_by_label("A password").fill("short")
    page.get_by_role("button", name="Begin").click()
    expect(page.get_by_text("This can be at most 9000")).to_be_visible()
    expect(
        page.get_by_text("This may not be empty.").or_(
            page.get_by_text("At least eight characters")
        )
    ).to_be_visible()
    page.get_by_role("radio", name="pounds, US cups").click()
    page.get_by_label("How high above the sea?").fill("5000")
    page.get_by_label("A password").fill("correct horse")
    page.get_by_label("The largest pot").fill("14")
    page.get_by_label("Its width inside").fill("30")
    page.get_by_role("checkbox", name="thermometer", exact=True).click()
    page.get_by_label("half pints").fill("12")
    page.get_by_label("pints", exact=True).fill("10")
    sound()
    page.get_by_role("button", name="Begin").click()

    expect(page.get_by_text("water boils at 202.8 °F")).to_be_visible()
    expect(page.get_by_text("Nothing needs hands.")).to_be_visible()
    sound()
    page.get_by_role("link", name="Shelf").click()
    expect(page.get_by_text("The shelves are empty")).to_be_visible()
    sound()
    page.get_by_role("link", name="Cook").click()
    expect(page.get_by_text("Nothing is on.")).to_be_visible()
    sound()
    page.get_by_role("link", name="Plan a batch").click()
    expect(page.get_by_role("heading", name=re.compile("^Damson juice from 2"))).to_be_visible()
    expect(page.get_by_text("Yes: 20 min in boiling water")).to_be_visible()
    how = page.get_by_role("combobox", name="How")
    expect(how).not_to_contain_text("Steam")

    page.get_by_role("button", name="sign out").click()
    page.get_by_label("Name you sign in with").fill("WENNA ")
    page.get_by_label("Password").fill("correct horse")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_text("water boils at 202.8 °F")).to_be_visible()
