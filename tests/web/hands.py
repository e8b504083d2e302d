"""What a person's hands do on the page."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page


def go(page: Page, screen: str) -> None:
    """Press a tag."""
    page.get_by_role("link", name=re.compile(f"^{screen}")).click()


def press(page: Page, name: str) -> None:
    """Press a button by what it says."""
    page.get_by_role("button", name=name, exact=True).click()


def choose(page: Page, label: str, option: str) -> None:
    """Choose from a list."""
    page.get_by_label(label, exact=True).click()
    page.get_by_role("option", name=re.compile(f"^{option}")).first.click()


def say(page: Page, text: str, place: int = 0, **more: str) -> None:
    """Press a line of what goes in, write it otherwise, and fill what else is known of it."""
    goes_in = page.get_by_role("region", name="What goes in")
    goes_in.get_by_role("listitem").nth(place).get_by_role("button").first.click()
    goes_in.get_by_label("This line").fill(text)
    for label, value in more.items():
        goes_in.get_by_label(label, exact=True).fill(value)
    goes_in.get_by_role("button", name="Done", exact=True).click()


def add(page: Page, text: str) -> None:
    """Type a line of what goes in and keep it."""
    page.get_by_label("Add a line").fill(text)
    page.get_by_role("button", name="Add", exact=True).click()


def start_button(page: Page) -> Locator:
    """The press that starts a batch, wherever it is at this size."""
    return page.get_by_role("button", name="Start this batch").locator("visible=true")
