"""A shelf that is written in, a table with mistakes, a probe's file; and what goes out on paper."""

from __future__ import annotations

import re
from collections.abc import Callable
from datetime import datetime, timedelta

import pytest
from playwright.sync_api import FilePayload, Page, expect

from tests.web.conftest import Application
from tests.web.hands import choose, find, go, press

pytestmark = pytest.mark.browser

SHELF = """12 pints plum juice, cellar, August 2025
3 bottles rosehip syrup, fridge
4 jars of our own, cellar, 2024
sloes"""


def file_of(name: str, text: str) -> FilePayload:
    return {"name": name, "mimeType": "text/csv", "buffer": text.encode()}


def test_a_shelf_that_is_there_already_is_written_in(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    go(page, "Shelf")
    page.get_by_role("link", name="jars from before").click()
    lines = page.get_by_label("A line for each kind")
    lines.fill(SHELF)
    said = page.get_by_role("list", name="As they were understood")
    expect(said.get_by_text("12 × Plum juice")).to_be_visible()
    expect(said.get_by_text("How many? Begin with a figure.")).to_be_visible()
    expect(said.get_by_text("not known to be sour enough")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("on their places"))).to_be_disabled()
    sound()
    lines.fill(SHELF.replace("\nsloes", ""))
    choose(page, "Mostly of what?", "Damson")
    expect(said.get_by_text("not known to be sour enough")).to_have_count(0)
    press(page, "Put 19 jars on their places")
    expect(page.get_by_role("heading", name="19 jars stand on their places")).to_be_visible()
    sound()
    page.get_by_role("link", name="Print their labels").click()
    expect(page.get_by_text("Was there already").first).to_be_visible()
    go(page, "Shelf")
    find(page, "plum juice", "plum")
    page.get_by_role("link", name=re.compile("PL-25-F01")).click()
    expect(page.get_by_text("nobody vouches for it")).to_be_visible()
    expect(page.get_by_text("written in as “12 pints plum juice")).to_be_visible()
    expect(page.get_by_text("filled in August 2025")).to_be_visible()
    sound()


JARS = """label,jar,filled with [ml],place,filled,colour
Plum juice,pint,much,Cellar shelf,2025-08,red
Quince jelly,bathtub,,attic,2024,
Pear juice,half pint,230,Refrigerator,2026-01-02,
"""


def test_a_table_with_mistakes_is_put_right_and_taken_in_whole(
    kitchen: Page, sound: Callable[[], None]
) -> None:
    page = kitchen
    page.get_by_role("link", name=re.compile("water boils")).click()
    page.get_by_role("link", name="Take a table in").click()
    taking = page.get_by_label("A table as CSV")
    taking.set_input_files(file_of("old.csv", "name\n1,2,3\n"))
    expect(page.get_by_role("alert")).to_contain_text("Nothing was recorded")
    taking.set_input_files(file_of("old.csv", JARS))
    expect(page.get_by_role("status").filter(has_text="3 wrong")).to_be_visible()
    wrong = page.get_by_role("list", name="What is wrong")
    expect(wrong.get_by_role("listitem")).to_have_text([
        "Line 2, filled with: “much” is no number.",
        "Line 3, jar: There is no jar or vessel called “bathtub” here.",
        "Line 3, place: There is no place called “attic”.",
    ])  # fmt: skip
    expect(page.get_by_role("button", name=re.compile("^Take .* in$"))).to_have_count(0)
    sound()
    right = (
        JARS.replace("much", "460").replace("bathtub", "250 ml").replace("attic", "Cellar shelf")
    )
    taking.set_input_files(file_of("old.csv", right))
    press(page, "Take 3 rows in")
    expect(page.get_by_text("3 rows taken in.")).to_be_visible()
    sound()
    taking.set_input_files(file_of("old.csv", right))
    expect(page.get_by_role("status").filter(has_text="3 here already")).to_be_visible()
    page.get_by_role("link", name="Shelf").click()
    find(page, "quince jelly", "quince jelly")


def test_a_probes_file_tells_of_a_boil_that_was_lost(
    application: Application, kitchen: Page, sound: Callable[[], None]
) -> None:
    page, home = kitchen, application.url.rstrip("/")
    notes = page.request.get(f"{home}/api/notes").json()
    for line in (b for season in notes["seasons"] for b in season["batches"]):
        note = page.request.get(f"{home}/api/notes/{line['id']}").json()
        baths = [s["id"] for s in note["steps"] if s["bath"]]
        if baths:
            break
    batch = page.request.get(f"{home}/api/batches/{line['id']}").json()
    step = next(s for s in batch["steps"] if s["id"] == baths[0])
    boiled = datetime.fromisoformat(step["clock_from"])
    temps = [97.9 - 3 * max(0, -n) - (3.0 if 4 <= n < 7 else 0.0) for n in range(-8, 18)]
    rows = [
        f"{(boiled + timedelta(minutes=n - 8)).isoformat()};{t:.1f}".replace(".", ",", 1)
        for n, t in enumerate(temps)
    ]
    page.goto(f"{home}/notes/{line['id']}")
    press(page, "A probe's file")
    taking = page.get_by_label("A probe's file")
    taking.set_input_files(file_of("probe.csv", "no;log\n"))
    expect(page.get_by_role("alert")).to_contain_text("Nothing was recorded")
    sound()
    taking.set_input_files(file_of("probe.csv", "time;temp\n" + "\n".join(rows)))
    seen = page.get_by_role("region", name="What probes saw")
    expect(seen).to_contain_text("Below its boil from")
    sound()
    go(page, "Today")
    expect(page.get_by_text(f"Do not eat from {line['code']}")).to_be_visible()


def test_what_goes_out_on_paper(kitchen: Page, sound: Callable[[], None]) -> None:
    page = kitchen
    go(page, "Plan")
    page.get_by_role("link", name="Shopping list").click()
    listed = page.get_by_role("region", name="To get")
    expect(listed).to_contain_text("Damson")
    expect(page.get_by_role("region", name="Jars and lids")).to_contain_text("pint")
    sound()
    with page.expect_download() as coming:
        press(page, "As a PDF")
    assert coming.value.suggested_filename == "shopping-list.pdf"
    go(page, "Notes")
    page.get_by_role("link", name="on one page").first.click()
    expect(page.get_by_role("heading", name=re.compile("^The season of"))).to_be_visible()
    sound()
    page.emulate_media(media="print")
    expect(page.get_by_role("button", name="Print")).to_be_hidden()
    expect(page.get_by_text("Follow the tested times")).to_be_visible()
    page.emulate_media(media="screen")
    with page.expect_download() as coming:
        page.get_by_role("link", name="As a PDF").click()
    assert coming.value.suggested_filename.startswith("season-")
