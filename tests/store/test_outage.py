"""An unlucky hour: the database goes and comes back, the writer of papers dies, two begin at once."""

import contextlib
import os
import shutil
import signal
import subprocess
import sys
import threading
import time
from concurrent.futures import ThreadPoolExecutor

import httpx
import pytest
from sqlalchemy.exc import OperationalError

from cinder.design import design
from cinder.service import worker as module
from cinder.service.demo import DEMO_JOBS
from cinder.service.people import DEMO
from cinder.service.worker import PaperWriter
from cinder.store.database import engine
from cinder.store.log import ChangeLog
from cinder.store.queue import TRIES
from cinder.web.serve import prepare
from tests.conftest import ANNA, Server, free_port, house, new_cluster, new_database


def until(true, seconds=60.0):
    """What `true` gives, once it gives something."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        with contextlib.suppress(httpx.HTTPError):
            found = true()
            if found:
                return found
        time.sleep(0.1)
    raise AssertionError("it did not come to pass")


class Listening:
    """An open page: the news it hears of a job."""

    def __init__(self, url, job):
        self.heard = []
        self.thread = threading.Thread(target=self._listen, args=(f"{url}/api/jobs/{job}/events",), daemon=True)
        self.thread.start()

    def _listen(self, url):
        with contextlib.suppress(httpx.HTTPError), httpx.stream("GET", url, timeout=None) as stream:
            for line in stream.iter_lines():
                if line.startswith("event:"):
                    self.heard.append(line.removeprefix("event:").strip())


def children(pid):
    with open(f"/proc/{pid}/task/{pid}/children") as found:
        return [int(one) for one in found.read().split()]


def test_papers_and_news_come_through_an_outage_of_the_database_and_the_death_of_their_writer():
    cluster, folder = new_cluster()
    served = Server(cluster.start(), free_port())
    environment = os.environ | {"CINDER_DATABASE": served.database}
    command = [sys.executable, "-m", "cinder.service.watch", sys.executable, "-m", "cinder.cli", "worker"]
    watched = subprocess.Popen(command, env=environment)
    client = httpx.Client(base_url=served.url, timeout=10)

    def order(name, kind="heat-loss"):
        return client.post("/api/jobs/oat-store/papers", json={"id": name, "kind": kind}).status_code == 202

    def ready(name):
        found = {paper["id"]: paper for paper in client.get("/api/jobs/oat-store/papers").json()["papers"]}
        assert found.get(name, {}).get("state") != "failed", found[name]["step"]
        return found.get(name, {}).get("state") == "ready"

    try:
        (first,) = until(lambda: children(watched.pid))
        until(lambda: client.get("/api/jobs/oat-store/papers").json()["writer"])
        page = Listening(served.url, "oat-store")
        # the database goes, under the service, the writer and the open page
        cluster.kill()
        refused = client.post("/api/jobs/oat-store/papers", json={"id": "while-away", "kind": "heat-loss"})
        assert refused.status_code == 503
        assert "SQL" not in refused.text
        assert "psycopg" not in refused.text
        assert cluster.start() == served.database
        until(lambda: "missed" in page.heard)
        until(lambda: order("after-outage", "survey"))
        until(lambda: ready("after-outage"))
        assert "paper" in page.heard
        version = client.get("/api/jobs/oat-store").json()["version"]
        edit = {
            "id": "after-the-outage",
            "base_version": version,
            "operations": [{"op": "replace", "path": "/title", "value": "A"}],
        }
        assert client.post("/api/jobs/oat-store/changes", json=edit).status_code == 200
        until(lambda: "version" in page.heard)
        # the writer is killed in the middle of a paper
        (writer,) = children(watched.pid)
        assert writer == first  # it outlived the outage
        assert order("writer-killed")
        until(
            lambda: any(
                p["id"] == "writer-killed" and p["state"] == "working"
                for p in client.get("/api/jobs/oat-store/papers").json()["papers"]
            )
        )
        os.kill(writer, signal.SIGKILL)
        until(lambda: ready("writer-killed"))
        assert children(watched.pid) != [writer]
    finally:
        watched.terminate()
        watched.wait(timeout=20)
        served.kill()
        cluster.stop()
        shutil.rmtree(folder, ignore_errors=True)
    assert not alive(first)


def alive(pid):
    return os.path.exists(f"/proc/{pid}")


@pytest.fixture
def written(log, database, monkeypatch):
    """A paper asked for, and somebody to write it who meets trouble as often as is set."""
    document = house("one-room") | {"id": f"paper-{time.time_ns()}"}
    log.create(ANNA, document)
    writer = PaperWriter(database)
    writer.shelf.ask(ANNA, document["id"], 1, paper_id=document["id"], kind="heat-loss")
    trouble = []

    def material(*args, **more):
        raise trouble[0]

    monkeypatch.setattr(module, "material", material)

    def write():
        writer(ANNA.company_id, ANNA.person_id, document["id"])
        return writer.shelf.paper(ANNA, document["id"])

    yield trouble, write, lambda: writer.shelf.paper(ANNA, document["id"])
    writer.engine.dispose()


def test_a_fault_is_tried_again_and_then_told_by_its_number_alone(written):
    trouble, write, look = written
    trouble.append(RuntimeError("SELECT secret FROM papers"))
    for _ in range(TRIES - 1):
        with pytest.raises(RuntimeError):
            write()
        assert look().state == "waiting"
    paper = write()
    assert paper.state == "failed"
    assert paper.step.startswith("a fault of ours, number ")
    assert "SELECT" not in paper.step


def test_an_outage_leaves_the_paper_waiting_for_the_next_try(written):
    trouble, write, look = written
    trouble.append(OperationalError("SELECT 1", {}, Exception("server closed the connection")))
    with pytest.raises(OperationalError):
        write()
    paper = look()
    assert paper.state == "working"  # nobody has given it up: the next sweep orders it again
    assert "SELECT" not in paper.step


def test_what_kills_its_writer_every_time_is_given_up(written):
    trouble, write, look = written
    trouble.append(KeyboardInterrupt())  # as good as a kill: nothing is told any more
    for _ in range(TRIES):
        with pytest.raises(KeyboardInterrupt):
            write()
    assert look().state == "working"
    assert write().state == "failed"


def test_processes_may_begin_at_once_on_one_empty_database(database):
    url = new_database(database, "begun_at_once")
    with ThreadPoolExecutor(4) as pool:
        for done in [pool.submit(prepare, url) for _ in range(4)]:
            done.result()
    to = engine(url)

    rows = ChangeLog(to).jobs(DEMO)
    assert sorted(row.id for row in rows) == sorted(DEMO_JOBS)
    assert all(row.version == 1 for row in rows)
    assert design(ChangeLog(to).current(DEMO, "tansy-cut").job).house.loss_w > 0
    to.dispose()
