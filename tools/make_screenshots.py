"""Takes the pictures of docs/screenshots from the demo data, on a database and a server of their own.

.venv/bin/python tools/make_screenshots.py
"""

from __future__ import annotations

import shutil
import sys
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT))

from tests.conftest import Server, free_port, new_cluster  # noqa: E402
from tests.journeys.conftest import FLAGS  # noqa: E402

JOB = "/job/tansy-cut"


def parlour(page: Page) -> None:
    page.get_by_label("Open Parlour").click()


def triple(page: Page) -> None:
    parlour(page)
    page.get_by_label("Type of Bay window of Parlour").select_option("window-triple")
    page.wait_for_timeout(500)
    page.get_by_label("Close Parlour").click()


def working(page: Page) -> None:
    page.get_by_label("Loss of Parlour: show the working").click()


def plain(page: Page) -> None:
    page.get_by_label("Scheme on show").select_option("plain")
    page.wait_for_timeout(400)
    page.keyboard.press("Escape")


def room(page: Page) -> None:
    page.locator("[data-plan-room='Bedroom 3']").focus()
    page.keyboard.press("Enter")
    page.get_by_role("region", name="Bedroom 3").get_by_role("button", name="Floor ").click()


def walking(page: Page) -> None:
    page.locator("#wanted").wait_for()
    for reading in ("Box room", "2.38", "3.62", "2.94", "2.10", "1.18"):
        page.keyboard.type(reading)
        page.keyboard.press("Enter")
        page.wait_for_timeout(150)
    page.keyboard.press("ArrowLeft")
    page.wait_for_timeout(150)
    page.keyboard.type("1520")


SHOTS = [
    ("jobs", "/", "day", (1280, 800), None),
    ("first-call", f"{JOB}/call", "day", (1280, 800), None),
    ("walk-round", f"{JOB}/walk-round", "day", (1280, 800), None),
    ("plan", f"{JOB}/plan?room=bed3", "day", (1280, 800), room),
    ("room-walk", "/job/oat-store/plan?walk=new", "day", (1280, 800), walking),
    ("doubts", f"{JOB}/doubts", "day", (1280, 800), None),
    ("rooms", f"{JOB}/rooms", "day", (1280, 800), None),
    ("room-open", f"{JOB}/rooms", "day", (1280, 800), parlour),
    ("working", f"{JOB}/rooms", "day", (1280, 800), working),
    ("waterline", f"{JOB}/waterline", "day", (1280, 800), None),
    ("machine", f"{JOB}/machine", "day", (1280, 800), None),
    ("hot-water", f"{JOB}/hot-water", "day", (1280, 800), None),
    ("pipework", f"{JOB}/pipework", "day", (1280, 800), None),
    ("curve", f"{JOB}/curve", "day", (1280, 800), None),
    ("site", f"{JOB}/site", "day", (1280, 800), None),
    ("rooms-tablet", f"{JOB}/rooms", "day", (820, 1180), None),
    ("one-edit", f"{JOB}/rooms", "day", (1280, 800), triple),
    ("waterline-dusk", f"{JOB}/waterline", "dusk", (1280, 800), plain),
]


def main() -> None:
    cluster, folder = new_cluster()
    served = Server(cluster.start(), free_port())
    try:
        with sync_playwright() as p:
            browser = p.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
            for name, path, theme, (width, height), step in SHOTS:
                page = browser.new_context(viewport={"width": width, "height": height}, locale="en-GB").new_page()
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
    finally:
        served.stop()
        cluster.stop()
        shutil.rmtree(folder, ignore_errors=True)


if __name__ == "__main__":
    main()
