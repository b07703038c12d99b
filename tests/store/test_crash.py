"""kill -9 at random moments: every acknowledged edit is there, every other whole or absent, sent again applied once."""

import random
import shutil
import threading
import time

import httpx
import pytest

from cinder.service.people import DEMO
from cinder.store.database import engine
from cinder.store.log import ChangeLog
from tests.conftest import Server, free_port, new_cluster

EDITS = 60
PATHS = ("/survey/rooms/hall/height_m", "/survey/rooms/kitchen/height_m")


def body(n):
    value = 2.0 + n / 1000
    return {
        "id": f"crash-edit-{n:04d}",
        "base_version": 1,
        "label": f"edit {n}",
        "operations": [{"op": "replace", "path": path, "value": value} for path in PATHS],
    }


def send(url, n, acknowledged):
    """One edit as a client sends it: on the newest version it can see, again with the same id until answered."""
    with httpx.Client(base_url=url, timeout=5) as client:
        version = client.get("/api/jobs/tansy-cut").json()["version"]
        answer = client.post("/api/jobs/tansy-cut/changes", json=body(n) | {"base_version": version})
        if answer.status_code == 200:
            acknowledged[n] = answer.json()["version"]


@pytest.mark.parametrize("victim", ["web", "database"])
def test_kill_nine_in_a_stream_of_edits(victim):
    cluster, folder = new_cluster()
    served = Server(cluster.start(), free_port())
    acknowledged: dict[int, int] = {}
    sent = []
    stop = threading.Event()

    def stream():
        for n in range(EDITS):
            if stop.is_set():
                return
            sent.append(n)
            try:
                send(served.url, n, acknowledged)
            except (httpx.HTTPError, KeyError, ValueError):
                time.sleep(0.05)

    worker = threading.Thread(target=stream)
    worker.start()
    for _ in range(600):  # a busy machine takes its time for the first
        if acknowledged:
            break
        time.sleep(0.1)
    time.sleep(1.0 + random.random())
    served.kill() if victim == "web" else cluster.kill()
    time.sleep(0.3)
    stop.set()
    worker.join()
    served.kill()
    url = cluster.start()
    log = ChangeLog(engine(url))
    before = log.current(DEMO, "tansy-cut")
    rooms = before.document["survey"]["rooms"]
    assert rooms["hall"]["height_m"] == rooms["kitchen"]["height_m"]  # an edit writes both, or neither
    kept = {entry.change_id for entry in log.history(DEMO, "tansy-cut")}
    assert acknowledged, "the crash came before the first answer"
    for n in acknowledged:
        assert f"crash-edit-{n:04d}" in kept
    assert log.document_at(DEMO, "tansy-cut", before.version) == before.document

    served = Server(url, served.port)
    lost = [n for n in sent if n not in acknowledged]
    for n in [*lost, *list(acknowledged)[-3:]]:
        with httpx.Client(base_url=served.url) as client:
            known = f"crash-edit-{n:04d}" in kept
            base = next(
                (e.version - 1 for e in log.history(DEMO, "tansy-cut") if e.change_id == f"crash-edit-{n:04d}"), None
            )
            version = base if known else client.get("/api/jobs/tansy-cut").json()["version"]
            answer = client.post("/api/jobs/tansy-cut/changes", json=body(n) | {"base_version": version})
            assert answer.status_code == 200, answer.text
            assert answer.json()["replayed"] is known
    entries = [entry.change_id for entry in log.history(DEMO, "tansy-cut", limit=1000)]
    assert len(entries) == len(set(entries))
    assert {f"crash-edit-{n:04d}" for n in sent} <= set(entries)
    served.stop()
    cluster.stop()
    shutil.rmtree(folder, ignore_errors=True)
