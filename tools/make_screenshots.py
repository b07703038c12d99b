"""Takes the pictures of docs/screenshots from the demo data, on a database and a server of their own. Correction and fire-up show a
running plant and are taken by hand.

.venv/bin/python tools/make_screenshots.py
"""

from __future__ import annotations

import sys
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT))

from tests.conftest import whole  # noqa: E402
from tests.journeys.conftest import BROWSER, FLAGS  # noqa: E402

JOB = "/job/tansy-cut"


def parlour(page: Page) -> None:
    page.get_by_label("Open Parlour").click()


def charted(page: Page) -> None:
    page.wait_for_selector("svg.chart", timeout=120_000)


def advised(page: Page) -> None:
    page.get_by_role("button", name="Take the step").wait_for(timeout=120_000)


def promised(page: Page) -> None:
    charted(page)
    page.get_by_role("tab", name="The promise").click()
    page.get_by_text("As it was lived").wait_for(timeout=120_000)


def triple(page: Page) -> None:
    parlour(page)
    page.get_by_label("Type of Bay window of Parlour").select_option("window-triple")
    page.wait_for_timeout(500)
    page.get_by_label("Close Parlour").click()


def room(page: Page) -> None:
    page.locator("[data-plan-room='Bedroom 3']").focus()
    page.keyboard.press("Enter")
    page.get_by_role("region", name="Bedroom 3").get_by_role("button", name="Floor ").click()


def written(page: Page) -> None:
    page.get_by_role("button", name="Write the PDF").click()
    page.get_by_role("link", name="Take the PDF").wait_for(timeout=60_000)


def cheapest(page: Page) -> None:
    way = page.get_by_role("region", name="The cheapest way to cooler water")
    way.get_by_label("Flow temperature wanted").fill("42", timeout=30_000)
    page.keyboard.press("Enter")
    way.get_by_text("Proved").wait_for(timeout=30_000)
    way.get_by_text("Proved").click()  # the field lets go of the keyboard


def beside(page: Page) -> None:
    page.get_by_label("Lay another machine over it").select_option(label="Sedge 6")


def stands(page: Page) -> None:
    page.get_by_role("tab", name="Where it stands").click()


def drawn(page: Page) -> None:
    page.get_by_role("img", name="The store from midnight to midnight").wait_for(timeout=60_000)


def laid(page: Page) -> None:
    page.get_by_role("group", name="Pipes on the plan").wait_for(timeout=60_000)


def ran(page: Page) -> None:
    page.get_by_role("row").filter(has_text="Off at night").wait_for(timeout=90_000)
    page.get_by_role("button", name="Parlour").click()


def banded(page: Page) -> None:
    page.get_by_text("need at the P10 and the P90").wait_for(timeout=60_000)


def pictured(page: Page) -> None:
    page.get_by_role("radio", name="Heating").wait_for(timeout=60_000)


SHOTS = [
    ("offer", f"{JOB}/offer", "day", charted),
    ("pack", f"{JOB}/pack", "day", None),
    ("winters", f"{JOB}/winters", "day", advised),
    ("promise", f"{JOB}/winters", "day", promised),
    ("jobs", "/", "day", None),
    ("plan", f"{JOB}/plan?room=bed3", "day", room),
    ("losses", f"{JOB}/losses", "day", None),
    ("report", f"{JOB}/report", "day", written),
    ("waterline", f"{JOB}/waterline", "day", cheapest),
    ("machine", f"{JOB}/machine", "day", beside),
    ("machine-place", f"{JOB}/machine", "day", stands),
    ("hot-water", f"{JOB}/hot-water", "day", drawn),
    ("pipework", f"{JOB}/pipework", "day", laid),
    ("plant", f"{JOB}/plant", "day", pictured),
    ("curve", f"{JOB}/curve", "dusk", banded),
    ("twin", f"{JOB}/twin", "day", ran),
    ("rooms", f"{JOB}/rooms", "day", triple),  # this one edits: it comes last
]


def main() -> None:
    with whole() as served, sync_playwright() as p:
        browser = p.chromium.launch(executable_path=BROWSER, args=FLAGS)
        for name, path, theme, step in SHOTS:
            page = browser.new_context(viewport={"width": 1280, "height": 800}, locale="en-GB").new_page()
            page.add_init_script(f"localStorage.setItem('cinder-theme', '{theme}')")
            page.goto(served.url + path)
            page.locator("main h1").wait_for()
            page.wait_for_timeout(700)
            if step:
                step(page)
                page.wait_for_timeout(700)
            page.screenshot(path=ROOT / "docs" / "screenshots" / f"{name}.png")
            page.context.close()
        browser.close()


if __name__ == "__main__":
    main()
