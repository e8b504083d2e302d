"""Takes the pictures in this folder anew, from a fresh demo: python docs/screenshots/take.py"""

from __future__ import annotations

import re
import sys
import tempfile
from pathlib import Path

from playwright.sync_api import sync_playwright

HERE = Path(__file__).resolve().parent
ROOT = HERE.parents[1]
sys.path[:0] = [str(ROOT), str(ROOT / "src")]

from tests.web.conftest import SIZES, Application, come_in, launch_arguments  # noqa: E402

VIEWS = {
    "today": ("", "wide"),
    "plan": ("plan?kg=24.5&fruit=damson&brix=15.8&ph=3", "wide"),
    "plan-stop": ("plan?kg=6&fruit=elderberry", "wide"),
    "plan-second": ("plan?kg=5.5&fruit=gooseberry&method=weighted_gooseberry", "wide"),
    "plan-choice": ("plan?kg=10&fruit=damson", "wide"),
    "kitchen": ("kitchen", "wide"),
    "cook": ("cook/13", "wide"),
    "seal-check": ("cook/12", "wide"),
    "shelf": ("shelf", "wide"),
    "jar": ("shelf/1", "wide"),
    "cook-phone": ("cook/13", "phone"),
    "safety": ("safety", "wide"),
    "shelf-phone": ("shelf", "phone"),
}
PRESSED = {"plan-choice": re.compile("^steam")}


def main() -> None:
    """Start a demo, look at every view, and keep what is seen."""
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        application = Application(Path(folder))
        application.start()
        browser = playwright.chromium.launch(**launch_arguments())
        for name, (address, size) in VIEWS.items():
            width, height = SIZES[size]
            page = browser.new_page(viewport={"width": width, "height": height})
            come_in(application, page)
            page.goto(application.url + address)
            page.get_by_role("heading", level=1).wait_for()
            page.wait_for_timeout(700)
            if name in PRESSED:
                page.get_by_role("button", name=PRESSED[name]).first.click()
                page.wait_for_timeout(900)
            page.screenshot(path=HERE / f"{name}.png")
            page.close()
        browser.close()
        application.stop()


if __name__ == "__main__":
    main()
