"""What a person's hands do on the page."""

from __future__ import annotations

import re
from typing import Protocol
from weakref import WeakKeyDictionary

from playwright.sync_api import Locator, Page, Request, expect
from playwright.sync_api import TimeoutError as NotInTime

_ASKING: WeakKeyDictionary[Page, set[Request]] = WeakKeyDictionary()
"""What each page has asked the server and is not answered yet."""


TRIES = 4


def watch(page: Page) -> None:
    """Keep in sight what a page asks, so that nobody pulls it away half-way."""
    asking = _ASKING.setdefault(page, set())

    def begun(request: Request) -> None:
        if request.resource_type == "fetch":
            asking.add(request)

    def over(request: Request) -> None:
        asking.discard(request)

    page.on("request", begun)
    page.on("requestfinished", over)
    page.on("requestfailed", over)


DRAWN = "() => new Promise(drawn => requestAnimationFrame(() => setTimeout(drawn)))"


def settled(page: Page) -> None:
    """Wait until what was pressed has been answered, and what was answered is drawn."""
    for _ in range(600):
        quiet = not _ASKING.get(page)
        page.evaluate(DRAWN)
        if quiet and not _ASKING.get(page):
            return
        page.wait_for_timeout(10)
    raise AssertionError("what was pressed is not answered")


class Clock(Protocol):
    """What lets time go by."""

    def pass_time(self, minutes: float) -> None:
        """Let so many minutes go by."""


def later(page: Page, clock: Clock, minutes: float) -> None:
    """Come back to the page after so many minutes."""
    settled(page)
    clock.pass_time(minutes)
    page.reload()


def go(page: Page, screen: str) -> None:
    """Press a tag, and wait until its screen is there."""
    tag = page.get_by_role("link", name=re.compile(f"^{screen}"))
    tag.click()
    expect(tag.and_(page.locator("[aria-current=page]"))).to_be_visible()


def press(page: Page, name: str) -> None:
    """Press a button by what it says."""
    page.get_by_role("button", name=name, exact=True).click()


def choose(page: Page, label: str, option: str) -> None:
    """Choose from a list; one that closed under the hand is opened again."""
    wanted = page.get_by_role("option", name=re.compile(f"^{option}")).first
    for _ in range(TRIES):
        page.get_by_label(label, exact=True).click()
        try:
            wanted.click(timeout=4_000)
        except NotInTime:
            page.keyboard.press("Escape")
        else:
            return
    wanted.click()


def unfold(button: Locator) -> None:
    """Press what opens under itself; what moved away under the hand is pressed again."""
    _until(button.and_(button.page.locator("[aria-expanded=true]")), button)


def fold(row: Locator) -> None:
    """Press Done in a row that is open, until it is closed."""
    shut = row.get_by_role("button").first.and_(row.page.locator("[aria-expanded=false]"))
    _until(shut, row.get_by_role("button", name="Done", exact=True))


def _until(sign: Locator, button: Locator) -> None:
    """Press until there is a sign that the press was met: pages move under a hand."""
    for _ in range(TRIES):
        if not sign.is_visible():
            button.click()
        try:
            sign.wait_for(timeout=4_000)
        except NotInTime:
            continue
        return
    raise AssertionError(f"it was pressed, and there is no {sign}")


def say(page: Page, text: str, place: int = 0, **more: str) -> None:
    """Press a line of what goes in, write it otherwise, and fill what else is known of it."""
    goes_in = page.get_by_role("region", name="What goes in")
    row = goes_in.get_by_role("listitem").nth(place)
    unfold(row.get_by_role("button").first)
    goes_in.get_by_label("This line").fill(text)
    for label, value in more.items():
        goes_in.get_by_label(label, exact=True).fill(value)
    fold(row)


def add(page: Page, text: str) -> None:
    """Type a line of what goes in and keep it."""
    page.get_by_label("Add a line").fill(text)
    page.get_by_role("button", name="Add", exact=True).click()


def start_button(page: Page) -> Locator:
    """The press that starts a batch, wherever it is at this size."""
    return page.get_by_role("button", name="Start this batch").locator("visible=true")


def method(page: Page, name: str) -> None:
    """Choose a method once what goes in has been planned with."""
    first = page.get_by_role("region", name="The flow").get_by_role("figure").first
    expect(first).to_be_attached()
    expect(page.locator("[aria-busy=true]")).to_have_count(0)
    choose(page, "How", name)


WHAT_COMES_NEXT = (
    "No thermometer: it is at a full boil", "Filled", "Poured", "Done, not measured", "Start",
    "Done",
)  # fmt: skip
"""Presses of a step in the order in which one of them is what to do."""
MOST_PRESSES = 60


def work_until(page: Page, sign: Locator) -> int:
    """Press what comes next at each step until something is seen; how many presses that took."""
    named = re.compile(f"^({'|'.join(WHAT_COMES_NEXT)})$")
    ready = page.get_by_role("button", name=named, disabled=False).locator("visible=true")
    for presses in range(MOST_PRESSES):
        settled(page)
        sign.or_(ready).first.wait_for()
        if sign.is_visible():
            return presses
        turns = [WHAT_COMES_NEXT.index(n.splitlines()[0]) for n in ready.all_inner_texts()]
        ready.nth(min(range(len(turns)), key=lambda n: (turns[n], -n))).click()
    raise AssertionError(f"{MOST_PRESSES} presses, and there is no {sign}")


def give_up(page: Page) -> None:
    """Drop the batch, so that its burner is free again."""
    sure = page.get_by_role("button", name="Give it up", exact=True)
    _until(sure, page.get_by_role("button", name="Begun by mistake?", exact=True))
    sure.click()
    expect(page.get_by_text("This batch was given up")).to_be_visible()


def find(page: Page, words: str, name: str) -> None:
    """Find jars by words on the shelf, and take a stack of them in hand."""
    go(page, "Shelf")
    page.get_by_label("Find a jar by words or code").fill(words)
    found = page.get_by_role("region", name=f"Jars found by {words}")
    expect(found.and_(page.locator("[aria-busy=false]"))).to_be_visible()
    take(page, name)


def take(page: Page, name: str) -> None:
    """Take a stack in hand, on the shelf."""
    stack = page.locator("[data-stack]").filter(has_text=re.compile(name, re.IGNORECASE)).first
    stack.click()
    expect(page.get_by_role("complementary", name="In hand")).to_be_visible()
