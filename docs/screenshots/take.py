"""Takes the pictures in this folder anew, from a fresh demo: python docs/screenshots/take.py"""

from __future__ import annotations

import json
import re
import sys
import tempfile
from pathlib import Path
from urllib.parse import quote

from playwright.sync_api import sync_playwright

HERE = Path(__file__).resolve().parent
ROOT = HERE.parents[1]
sys.path[:0] = [str(ROOT), str(ROOT / "src")]

from tests.web.conftest import SIZES, Application, come_in, launch_arguments  # noqa: E402


def plan(*lines: str, method: str = "") -> str:
    """The address of a plan whose lines say this."""
    said = [{"id": n, "text": line} for n, line in enumerate(lines, start=1)]
    return f"plan?plan={quote(json.dumps({'lines': said, 'method': method}))}"


DRINK = ("7 kg blackcurrants", "1.5 kg pears, chopped", "sugar to 46 Brix", "3 sticks cinnamon")
VIEWS = {
    "today": ("", "wide"),
    "hob": ("cook", "wide"),
    "plan": (plan(*DRINK), "wide"),
    "plan-stop": (plan("6 kg elderberries"), "wide"),
    "trays": (plan("5 kg rhubarb", method="puree_powder_freeze_dried"), "wide"),
    "cook-plate": ("cook/34", "wide"),
    "plan-phone": (plan(*DRINK), "phone"),
    "method": ("methods/rhubarb_honey", "wide"),
    "note": ("notes/23", "wide"),
    "kitchen": ("kitchen", "wide"),
    "cook": ("cook/25", "wide"),
    "cook-trays": ("cook/33", "wide"),
    "shelf": ("shelf", "wide"),
    "jar": ("shelf/40", "wide"),
    "bench": ("bench/boil-down?stop=depth&target=4", "wide"),
    "cook-phone": ("cook/25", "phone"),
    "safety": ("safety", "wide"),
    "shelf-phone": ("shelf", "phone"),
}
PRESSED = {"shelf": re.compile("^gooseberry")}


def caramel(application: Application) -> None:
    """A caramel syrup on the ring, a drop of it on the plate."""
    with application.client() as client:
        plan = {"method_key": "caramel_syrup", "inputs": [{"line": "600 g sugar"}]}
        batch = client.post("/api/batches", json=plan).raise_for_status().json()
        steps = {s["kind"]: f"/api/batches/{batch['id']}/steps/{s['id']}" for s in batch["steps"]}
        for kind, what in (
            ("caramelise", "start"), ("caramelise", "finish"), ("quench", "finish"),
            ("stir_in", "finish"), ("cook_syrup", "start"), ("cook_syrup", "boil-reached"),
        ):  # fmt: skip
            client.post(f"{steps[kind]}/{what}", json={}).raise_for_status()
        drop = {"quantity": "drop", "value": 2, "instrument": "plate"}
        client.post(f"{steps['cook_syrup']}/readings", json=drop).raise_for_status()


def main() -> None:
    """Start a demo, look at every view, and keep what is seen; then the first day of another."""
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        application = Application(Path(folder))
        application.start()
        caramel(application)
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
        application.stop()
        empty = Application(Path(folder) / "empty", "serve")
        empty.start()
        width, height = SIZES["wide"]
        page = browser.new_page(viewport={"width": width, "height": height})
        page.goto(empty.url)
        page.get_by_role("heading", name="Your kitchen").wait_for()
        page.screenshot(path=HERE / "first-day.png", full_page=True)
        browser.close()
        empty.stop()


if __name__ == "__main__":
    main()
