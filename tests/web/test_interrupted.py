"""Reload, kill -9 of server and MariaDB, stop and start: the batch stands where it was."""

from __future__ import annotations

import re
import subprocess
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.web.conftest import Application, come_in

pytestmark = pytest.mark.browser


@pytest.fixture(params=["wide"], scope="module")
def size(request: pytest.FixtureRequest) -> str:
    """One size is enough here."""
    return str(request.param)


@pytest.fixture
def mortal(home: Path) -> Iterator[Application]:
    """An application that a test may kill."""
    running = Application(home)
    running.start()
    yield running
    running.stop()


def read(page: Page, brix: str) -> None:
    """Take a reading of sweetness."""
    page.get_by_role("button", name="Reading", exact=True).click()
    page.get_by_role("radio", name="Sweetness").click()
    page.get_by_role("textbox", name="Sweetness").fill(brix)
    page.get_by_role("button", name="Keep this reading").click()


def test_a_batch_outlives_reload_and_kill(mortal: Application, page: Page) -> None:
    come_in(mortal, page)
    page.goto(f"{mortal.url}cook/25")
    juice = page.get_by_role("region", name="Juice so far")
    read(page, "13.3")
    expect(juice).to_contain_text("13.3")
    due = page.get_by_text(re.compile(r"rings at \d\d:\d\d")).text_content()
    page.reload()
    expect(page.get_by_text(str(due))).to_be_visible()
    before = mortal.sql("SELECT count(*), max(id) FROM event")

    mortal.kill()
    mortal.start()
    assert mortal.sql("SELECT count(*), max(id) FROM event") == before
    page.goto(f"{mortal.url}cook/25")
    expect(page.get_by_role("heading", name="Steam load 2 of 3")).to_be_visible()
    expect(page.get_by_text(str(due))).to_be_visible()
    expect(juice).to_contain_text("13.3")
    page.get_by_role("button", name="Done", exact=True).click()
    page.get_by_label("Juice drawn").fill("2.4")
    page.get_by_role("dialog").get_by_role("button", name="Done").click()
    expect(page.get_by_role("heading", name="Steam load 3 of 3")).to_be_visible()


def test_a_reading_survives_the_store_going_away_under_it(mortal: Application, page: Page) -> None:
    come_in(mortal, page)
    page.goto(f"{mortal.url}cook/25")
    page.get_by_role("button", name="Start", exact=True).click()
    expect(page.get_by_role("button", name="Refilled")).to_be_visible()
    mortal.kill_database()
    read(page, "12.9")
    expect(page.get_by_role("region", name="Juice so far")).to_contain_text("12.9")
    kept = mortal.sql(
        "SELECT count(*) FROM reading WHERE quantity = 'brix' AND value = 12.9 AND batch_id = 25"
    )
    assert kept == [(1,)]


def test_it_stops_cleanly_and_leaves_nobody_behind(home: Path) -> None:
    running = Application(home)
    running.start()
    second = subprocess.run(
        ["./elderberry", "demo"], capture_output=True, text=True, check=False,
        env={"ELDERBERRY_HOME": str(home), "PATH": "/usr/bin:/bin:/usr/sbin"},
    )  # fmt: skip
    assert second.returncode == 1
    assert "already running at http://127.0.0.1:" in second.stderr
    assert running.stop() == 0
    assert not running.database.run.exists()
    left = subprocess.run(["pgrep", "-f", str(home)], capture_output=True, check=False)
    assert left.stdout == b""
