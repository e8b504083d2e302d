"""What a person's hands do on the page."""

from __future__ import annotations

import re

from playwright.sync_api import Page


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
