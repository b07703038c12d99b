"""The speeds we hold ourselves to, measured here and now.

    .venv/bin/python bench/run.py

Machines are noisy, so each figure stands beside a yardstick taken in the same run (a fixed piece of numpy and Python
work), and beside the goal of docs/architecture.md. Starts a PostgreSQL and a server of its own on loopback; both end
with it.
"""

from __future__ import annotations

import gzip
import secrets
import shutil
import statistics
import sys
import time
from collections.abc import Callable
from pathlib import Path

import httpx
import numpy as np

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT))

from tests.conftest import Server, free_port, house, new_cluster, tansy_cut  # noqa: E402

from cinder.design import design  # noqa: E402
from cinder.model import parse  # noqa: E402
from cinder.web.serve import settle_memory  # noqa: E402


def timed(work: Callable[[], object], times: int) -> list[float]:
    work()
    out = []
    for _ in range(times):
        start = time.perf_counter()
        work()
        out.append((time.perf_counter() - start) * 1000)
    return sorted(out)


def yardstick() -> object:
    """A fixed piece of work: 200 small numpy calls and a Python loop."""
    a = np.arange(400.0)
    for _ in range(200):
        a = np.sqrt(a * a + 1.0)
    return sum(i * i for i in range(20_000))


def fourteen_rooms() -> dict:
    """The demo house with four of its rooms a second time."""
    document = tansy_cut()
    rooms, emitters = document["survey"]["rooms"], document["survey"]["emitters"]
    for key in ("kitchen", "bed2", "hall", "landing"):
        rooms[f"{key}-2"] = rooms[key]
        emitters[f"r-{key}-2"] = emitters[f"r-{key}"] | {"room": f"{key}-2"}
    return document


def row(name: str, value: str, goal: str, base: float, milliseconds: float | None) -> None:
    ratio = f"{milliseconds / base:8.2f}" if milliseconds is not None else " " * 8
    print(f"{name:52}{value:>24}{ratio}   {goal}")


def main() -> None:
    base = statistics.median(timed(yardstick, 40))
    print(f"{'':52}{'measured':>24}{'/ yard':>8}   goal        (yardstick {base:.2f} ms)")
    job = parse(fourteen_rooms())
    settle_memory()  # as the service does
    assert len(job.survey.rooms) == 14
    times = timed(lambda: design(job), 120)
    row(
        "fast design, 14 rooms, median", f"{statistics.median(times):.1f} ms", "≤ 15 ms", base, statistics.median(times)
    )
    row("fast design, 14 rooms, worst", f"{times[-1]:.1f} ms", "≤ 40 ms", base, times[-1])
    large = parse(house("sixty-rooms"))
    times = timed(lambda: design(large), 30)
    row("fast design, 60 rooms, median", f"{statistics.median(times):.1f} ms", "none", base, statistics.median(times))
    document = fourteen_rooms()
    times = timed(lambda: parse(document), 60)
    row(
        "parse and check a job, 14 rooms, median",
        f"{statistics.median(times):.1f} ms",
        "none",
        base,
        statistics.median(times),
    )
    edits(base)
    pages(base)


def edits(base: float) -> None:
    cluster, folder = new_cluster()
    served = Server(cluster.start(), free_port())
    try:
        with httpx.Client(base_url=served.url) as client:
            document = fourteen_rooms() | {"id": "bench"}
            version = client.post("/api/jobs/import", json=document).json()["version"]
            times = []
            for n in range(150):
                operation = {"op": "replace", "path": "/survey/rooms/hall/height_m", "value": 2.4 + n / 1000}
                body = {"id": secrets.token_urlsafe(9), "base_version": version, "operations": [operation]}
                start = time.perf_counter()
                answer = client.post("/api/jobs/bench/changes", json=body)
                times.append((time.perf_counter() - start) * 1000)
                version = answer.json()["version"]
                time.sleep(0.05)  # an engineer's next edit is never sooner
            times.sort()
            row("one edit, HTTP to HTTP with commit, median", f"{times[75]:.1f} ms", "none", base, times[75])
            row("one edit, HTTP to HTTP with commit, p95", f"{times[142]:.1f} ms", "≤ 60 ms", base, times[142])
    finally:
        served.stop()
        cluster.stop()
        shutil.rmtree(folder, ignore_errors=True)


def pages(base: float) -> None:
    build = ROOT / "frontend" / "build"
    html = (build / "index.html").read_text()
    scripts = {part.split('"')[0] for part in html.split("/_app/immutable/")[1:]}
    size = sum(len(gzip.compress((build / "_app/immutable" / s).read_bytes())) for s in scripts if s.endswith(".js"))
    row("initial script, gzipped", f"{size / 1000:.1f} kB", "≤ 200 kB", base, None)
    from playwright.sync_api import sync_playwright
    from tests.journeys.conftest import FLAGS

    cluster, folder = new_cluster()
    served = Server(cluster.start(), free_port())
    try:
        with sync_playwright() as p:
            browser = p.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
            times = []
            for _ in range(5):
                page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
                start = time.perf_counter()
                page.goto(f"{served.url}/job/tansy-cut/rooms")
                page.get_by_label("Height of Hall").wait_for()
                times.append((time.perf_counter() - start) * 1000)
                page.context.close()
            browser.close()
        value = statistics.median(times)
        row("first screen usable on loopback, median of 5", f"{value:.0f} ms", "≤ 1000 ms", base, value)
    finally:
        served.stop()
        cluster.stop()
        shutil.rmtree(folder, ignore_errors=True)


if __name__ == "__main__":
    main()
