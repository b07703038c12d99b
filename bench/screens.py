"""The pages in a browser: the first screen, a move, a drag."""

from __future__ import annotations

import gzip
import shutil
import statistics
import time
from pathlib import Path

import httpx
import numpy as np
from bench.table import row
from bench.working_out import four_storeys
from tests.conftest import Server, free_port, new_cluster

ROOT = Path(__file__).parents[1]


def pages() -> None:
    build = ROOT / "frontend" / "build"
    html = (build / "index.html").read_text()
    scripts = {part.split('"')[0] for part in html.split("/_app/immutable/")[1:]}
    size = sum(len(gzip.compress((build / "_app/immutable" / s).read_bytes())) for s in scripts if s.endswith(".js"))
    row("initial script, gzipped", f"{size / 1000:.1f} kB", "≤ 200 kB", None)
    from playwright.sync_api import sync_playwright
    from tests.journeys.conftest import BROWSER, FLAGS

    cluster, folder = new_cluster()
    served = Server(cluster.start(), free_port())
    try:
        with sync_playwright() as p:
            browser = p.chromium.launch(executable_path=BROWSER, args=FLAGS)
            times = []
            for _ in range(5):
                page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
                start = time.perf_counter()
                page.goto(f"{served.url}/job/tansy-cut/rooms")
                page.get_by_label("Height of Hall").wait_for()
                times.append((time.perf_counter() - start) * 1000)
                page.context.close()
            dragging(browser, served.url)
            browser.close()
        value = statistics.median(times)
        row("first screen usable on loopback, median of 5", f"{value:.0f} ms", "≤ 1000 ms", value)
    finally:
        served.stop()
        cluster.stop()
        shutil.rmtree(folder, ignore_errors=True)


def dragging(browser, url: str) -> None:
    """Frames a second while a room of the 25 is slid about for two seconds."""
    httpx.post(f"{url}/api/jobs/import", json=four_storeys())
    page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
    page.goto(f"{url}/job/storeys/plan")
    room = page.locator("[data-plan-room='Room 5']")
    room.wait_for()
    box = room.bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.evaluate("""() => { window.frames_ = []; const tick = (t) => { window.frames_.push(t); requestAnimationFrame(tick) };
        requestAnimationFrame(tick) }""")
    started = time.perf_counter()
    n = 0
    while time.perf_counter() - started < 2:
        n += 1
        page.mouse.move(x + 60 * np.sin(n / 9), y + 40 * np.cos(n / 7))
    frames = page.evaluate("window.frames_")
    page.mouse.up()
    page.context.close()
    gaps = np.diff(frames)
    row("frames a second while a room is slid, median", f"{1000 / np.median(gaps):.0f} /s", "≥ 50 /s", None)
