"""The service on loopback: an edit with its commit, many engineers, what would hold it up, packs and readings."""

from __future__ import annotations

import hashlib
import itertools
import os
import random
import secrets
import shutil
import statistics
import threading
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from pathlib import Path

import httpx
from bench.table import beat, fourteen_rooms, row
from tests.conftest import Server, free_port, new_cluster, whole


def handed() -> None:
    """A pack written, and a winter's readings brought in and drawn."""
    from bench.handed import packs, readings

    with whole() as served:
        for one in itertools.chain(packs(served.url), readings(served.url)):
            *line, yards = one
            row(*line, yards=yards)


def edits() -> None:
    cluster, folder = new_cluster()
    served = Server(cluster.start(), free_port())
    try:
        editor = Editor(served.url, "bench")
        editor.edits(30, pause_s=0.05)
        editor.bytes.clear()
        times, yards = [], []
        before = beat()
        for _ in range(200):
            times.append(editor.edit())
            after = beat()
            yards.append(2 * times[-1] / (before + after))  # each beside the pace of its own moment
            time.sleep(0.05)  # an engineer's next edit is never sooner
            before = beat()
        for name, goal, share in (("median", "none", 0.5), ("p95", "≤ 8 yardsticks", 0.95)):
            shown = sorted(times)[int(200 * share)]
            in_yards = sorted(yards)[int(200 * share)]
            row(f"one edit, HTTP to HTTP with commit, {name}", f"{shown:.1f} ms", goal, shown, yards=in_yards)
        row("its answer, median", f"{statistics.median(editor.bytes) / 1000:.1f} kB", "≤ 20 kB", None)
        row("its answer, greatest", f"{max(editor.bytes) / 1000:.1f} kB", "none", None)
        whole = editor.client.get("/api/jobs/bench")
        sent = int(whole.headers.get("content-length", 0)) / 1000
        row(
            "the whole answer, and what of it goes over the line",
            f"{len(whole.content) / 1000:.0f}, {sent:.0f} kB",
            "none",
            None,
        )
        row("memory of the service after that", f"{resident_mb(served.process.pid):.0f} MB", "none", None)
    finally:
        served.stop()
        cluster.stop()
        shutil.rmtree(folder, ignore_errors=True)


def resident_mb(process: int) -> float:
    """What a process and those it started hold, MB."""
    children = Path(f"/proc/{process}/task/{process}/children").read_text().split()
    pages = int(Path(f"/proc/{process}/statm").read_text().split()[1])
    return pages * 4096 / 1e6 + sum(resident_mb(int(child)) for child in children)


class Editor:
    """Somebody who edits a job of fourteen rooms, one field after the other, as a page does: holding what it was told."""

    def __init__(self, url: str, job: str, *, seed: int = 0) -> None:
        line = httpx.Limits(keepalive_expiry=75.0)  # a browser keeps its line as long as the server does
        self.client, self.job = httpx.Client(base_url=url, timeout=120, limits=line), job
        self.random = random.Random(seed)
        self.document = fourteen_rooms() | {"id": job}
        answer = self.client.post("/api/jobs/import", json=self.document).json()
        self.version, self.emitters = answer["version"], list(answer["job"]["survey"]["emitters"].items())
        self.rooms, self.bytes = list(self.document["survey"]["rooms"]), []

    def operation(self) -> dict:
        """What engineers do most: a height, a window, a temperature, a name, a radiator."""
        room = self.random.choice(self.rooms)
        path, faces = f"/survey/rooms/{room}", self.document["survey"]["rooms"][room].get("faces", {})
        windows = [
            f"{path}/faces/{f}/openings/{o}/width_m" for f, face in faces.items() for o in face.get("openings", {})
        ]
        kind = self.random.randrange(6)
        if kind == 0:
            return {"op": "replace", "path": f"{path}/height_m", "value": round(self.random.uniform(2.3, 2.6), 3)}
        if kind == 1:
            known = self.document["survey"]["rooms"][room]
            op = "replace" if "target_c" in known else "add"
            known["target_c"] = round(self.random.uniform(18, 21), 1)
            return {"op": op, "path": f"{path}/target_c", "value": known["target_c"]}
        if kind == 2:
            return {"op": "replace", "path": f"{path}/label", "value": f"Room {self.version}"}
        if kind == 3 or not windows:
            key = self.random.choice([k for k, e in self.emitters if e["spec"].get("length_m")])
            value = round(self.random.uniform(0.6, 1.6), 2)
            return {"op": "replace", "path": f"/survey/emitters/{key}/spec/length_m", "value": value}
        return {"op": "replace", "path": self.random.choice(windows), "value": round(self.random.uniform(0.6, 1.2), 3)}

    def edit(self) -> float:
        """One edit; how long it took, ms."""
        body = {"id": secrets.token_urlsafe(9), "base_version": self.version, "operations": [self.operation()]}
        start = time.perf_counter()
        answer = self.client.post(f"/api/jobs/{self.job}/changes", params={"holds": self.version}, json=body)
        took = (time.perf_counter() - start) * 1000
        assert answer.status_code == 200, answer.text
        self.version = answer.json()["version"]
        self.bytes.append(len(answer.content))
        return took

    def edits(self, times: int, *, pause_s: float = 0.02) -> list[float]:
        found = []
        for _ in range(times):
            found.append(self.edit())
            time.sleep(pause_s)
        return sorted(found)

    def paced(self, every_s: float, until: float) -> list[float]:
        """Edits with a pause between them, begun at a moment of one's own."""
        found = []
        time.sleep(self.random.uniform(0, every_s))
        while time.monotonic() < until:
            begun = time.monotonic()
            found.append(self.edit())
            time.sleep(max(every_s - (time.monotonic() - begun), 0.0))
        return found


def people(count: int, every_s: float, seconds: float) -> tuple[list[float], float]:
    """Times of the edits of many engineers, each at a house of their own, with a process for every core; memory, MB."""
    cluster, folder = new_cluster()
    served = Server(cluster.start(), free_port(), "--processes", str(os.cpu_count() or 1))
    try:
        editors = [Editor(served.url, f"crowd-{n}", seed=n) for n in range(count)]
        for editor in editors:
            editor.edit()
        until = time.monotonic() + seconds
        with ThreadPoolExecutor(count) as pool:
            found = list(pool.map(lambda editor: editor.paced(every_s, until), editors))
        return sorted(one for times in found for one in times), resident_mb(served.process.pid)
    finally:
        served.stop()
        cluster.stop()
        shutil.rmtree(folder, ignore_errors=True)


def crowd() -> None:
    for count, every_s, goal in ((50, 2.0, "≤ 250 ms"), (200, 8.0, "≤ 300 ms")):
        times, memory = people(count, every_s, 40.0)
        p95 = times[int(len(times) * 0.95)]
        row(
            f"{count} engineers, {every_s:g} s between edits, median",
            f"{statistics.median(times):.0f} ms",
            "none",
            None,
        )
        row(f"{count} engineers, {every_s:g} s between edits, p95", f"{p95:.0f} ms", goal, None)
        row(f"memory of the service with {count} engineers", f"{memory:.0f} MB", "none", None)


def hostile() -> dict[str, tuple[str, str, str, bytes]]:
    """Bodies and files made to hold a server: method, path, media type, data."""
    from tests.exchange.test_apart import drawing, png, workbook

    sheet = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
    picture = png(4800, 4800)
    deep = b'{"a":' + b"[[]," * 1_900_000 + b"[]"
    return {
        "a body of 8 MB": ("POST", "/api/jobs/import", "application/json", deep),
        "a workbook of 1.6 million cells": ("POST", "/api/jobs/busy/sheet", sheet, workbook(4000, 400)),
        "a picture of 23 million dots": (
            "PUT", f"/api/photos/{hashlib.sha256(picture).hexdigest()}", "image/png", picture,
        ),
        "a drawing of 3 MB": ("POST", "/api/jobs/busy/drawing", "image/vnd.dxf", drawing(60_000)),
    }  # fmt: skip


@contextmanager
def beside(url: str, method: str, path: str, media: str, data: bytes) -> Iterator[None]:
    """Somebody who sends the same thing again and again meanwhile."""
    stop = threading.Event()

    def send() -> None:
        with httpx.Client(base_url=url, timeout=120) as client:
            while not stop.is_set():
                client.request(method, path, content=data, headers={"content-type": media})

    sender = threading.Thread(target=send)
    sender.start()
    try:
        yield
    finally:
        stop.set()
        sender.join()


def busy() -> None:
    """An edit beside what would hold a server, in edits with nothing beside them; and what a second process brings."""
    cluster, folder = new_cluster()
    database = cluster.start()
    served = Server(database, free_port())
    try:
        editor = Editor(served.url, "busy")
        editor.edits(30)
        alone = statistics.median(editor.edits(60))
        for name, sent in hostile().items():
            with beside(served.url, *sent):
                middle = statistics.median(editor.edits(60))
            row(f"one edit beside {name}", f"{middle / alone:.2f} × alone", "< 3 × alone", middle)
        with ThreadPoolExecutor(120) as pool, httpx.Client(base_url=served.url, timeout=300) as client:
            kinds = ("doubts", "front", "year", "bills", "schemes", "holding")
            asked = [pool.submit(client.get, f"/api/jobs/busy/{kinds[n % len(kinds)]}") for n in range(120)]
            times, health = [], []
            while not all(one.done() for one in asked) and len(times) < 60:
                times.append(editor.edit())
                start = time.perf_counter()
                editor.client.get("/api/health")
                health.append((time.perf_counter() - start) * 1000)
            assert times, "the questions were answered before one edit"
            middle = statistics.median(times)
            row("one edit beside 120 slow questions", f"{middle / alone:.2f} × alone", "< 3 × alone", middle)
            middle = statistics.median(health)
            row("health beside 120 slow questions", f"{middle:.1f} ms", "≤ an edit alone", middle)
    finally:
        served.stop()
    try:
        rates = [_rate(database, processes) for processes in (1, 2)]
        row("edits a second, eight people, one process", f"{rates[0]:.0f} /s", "none", None)
        row("the same, two processes", f"{rates[1] / rates[0]:.2f} × one", "≥ 1.5 × on two cores", None)
    finally:
        cluster.stop()
        shutil.rmtree(folder, ignore_errors=True)


def _rate(database: str, processes: int, people: int = 8, each: int = 25) -> float:
    served = Server(database, free_port(), "--processes", str(processes))
    try:
        editors = [Editor(served.url, f"rate-{processes}-{n}") for n in range(people)]
        for editor in editors:
            editor.edit()
        start = time.perf_counter()
        with ThreadPoolExecutor(people) as pool:
            list(pool.map(lambda editor: [editor.edit() for _ in range(each)], editors))
        return people * each / (time.perf_counter() - start)
    finally:
        served.stop()
