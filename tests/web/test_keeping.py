"""What a household keeps of itself, by the page: backups, a calendar, an archive out and in."""

from __future__ import annotations

import re
import shutil
from collections.abc import Callable
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from elderberry.trial.installation import in_memory
from tests.web.conftest import Application
from tests.web.hands import go, press

pytestmark = pytest.mark.browser


def test_a_backup_now_and_every_night(kitchen: Page, sound: Callable[[], None]) -> None:
    page = kitchen
    page.get_by_role("link", name=re.compile("water boils")).click()
    yours = page.get_by_role("region", name="Your data is yours")
    expect(yours).to_contain_text("There is no backup yet")
    press(page, "Make one now")
    expect(yours).to_contain_text(re.compile("Last backup (today )?[0-2][0-9]:[0-5][0-9]"))
    yours.get_by_role("checkbox", name=re.compile("^Every night")).click()
    sound()
    page.reload()
    expect(yours.get_by_role("checkbox", name=re.compile("^Every night"))).to_be_checked()


def test_a_calendar_has_an_address_until_it_is_withdrawn(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    page.get_by_role("link", name=re.compile("water boils")).click()
    calendar = page.get_by_role("region", name="In a calendar")
    press(page, "An address to fetch it from")
    address = calendar.get_by_role("status").inner_text()
    assert page.request.get(address).text().startswith("BEGIN:VCALENDAR")
    sound()
    press(page, "Withdraw it")
    expect(calendar.get_by_role("button", name="An address to fetch it from")).to_be_visible()
    assert page.request.get(address).status == 404


def test_an_archive_goes_out_and_the_same_shelf_comes_of_it(
    kitchen: Page, sound: Callable[[], None], tmp_path: Path
) -> None:
    page = kitchen
    go(page, "Shelf")
    jars = page.get_by_role("heading", level=1).inner_text()
    page.get_by_role("link", name=re.compile("water boils")).click()
    with page.expect_download() as coming:
        page.get_by_role("link", name="Everything in one file").click()
    file = tmp_path / coming.value.suggested_filename
    coming.value.save_as(file)
    there = in_memory()
    new = Application(there, "serve")
    new.start()
    try:
        page.goto(new.url)
        taking = page.get_by_label("An archive", exact=True)
        taking.set_input_files({
            "name": "torn.zip", "mimeType": "application/zip", "buffer": file.read_bytes()[:9000],
        })  # fmt: skip
        expect(page.get_by_role("alert")).to_contain_text("Nothing was changed")
        taking.set_input_files(file)
        taken = page.get_by_role("region", name="Taken in")
        expect(taken).to_contain_text("Sallow Hill")
        name = taken.get_by_role("term").first.inner_text()
        password = taken.get_by_role("definition").first.inner_text()
        sound()
        press(page, "Sign in")
        page.get_by_label("Name you sign in with").fill(name)
        page.get_by_label("Password").fill(password)
        press(page, "Sign in")
        go(page, "Shelf")
        expect(page.get_by_role("heading", level=1)).to_have_text(jars)
    finally:
        new.stop()
        shutil.rmtree(there, ignore_errors=True)
