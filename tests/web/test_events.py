"""News of a change reaches every open page, across processes; the remembered designs change no answer."""

import itertools
import json
import threading

import httpx
import pytest

from cinder.design import design
from cinder.model import parse
from cinder.service.remembered import Remembered
from cinder.store.company import CompanyShelf
from cinder.store.record import Change
from cinder.web.gate import LOOPBACK
from tests.conftest import ANNA, Server, free_port, house

NUMBER = itertools.count()


def listen(url, job, got, ready):
    with httpx.Client(timeout=15) as client, client.stream("GET", f"{url}/api/jobs/{job}/events") as stream:
        ready.set()
        for line in stream.iter_lines():
            if line.startswith("data:"):
                got.append(json.loads(line[5:]))
                return


def test_a_change_in_one_process_is_heard_in_another(server, database):
    other = Server(database, free_port())
    job = f"news-{next(NUMBER)}"
    httpx.post(f"{server.url}/api/jobs/import", json=house("three-rooms") | {"id": job})
    got, ready = [], threading.Event()
    ear = threading.Thread(target=listen, args=(other.url, job, got, ready))
    ear.start()
    ready.wait(10)
    for n in range(20):  # the listener may still be connecting to the database
        operation = {"op": "replace", "path": "/title", "value": f"Title {n}"}
        body = {"id": f"news-change-{n:03d}", "base_version": n + 1, "operations": [operation]}
        assert httpx.post(f"{server.url}/api/jobs/{job}/changes", json=body).status_code == 200
        ear.join(0.3)
        if got:
            break
    other.stop()
    assert got
    assert got[0]["job"] == job
    assert got[0]["version"] >= 2
    assert got[0]["change"].startswith("news-change-")


def test_remembered_designs_are_the_designs(log):
    document = house("three-rooms") | {"id": f"desk-{next(NUMBER)}"}
    applied = log.create(ANNA, document)
    desk = Remembered(log, CompanyShelf(log.engine))
    first = desk.design(ANNA, applied.job, 1)
    assert desk.design(ANNA, applied.job, 1) is first
    assert first == design(parse(document))
    change = Change("desk-change-1", 1, [{"op": "replace", "path": "/survey/rooms/bed/height_m", "value": 3.0}])
    later = log.apply(ANNA, document["id"], change)
    cold = Remembered(log, CompanyShelf(log.engine))  # a process that has never seen the version before
    with_memory = desk.effect(ANNA, later, desk.design(ANNA, later.job, 2))
    without = cold.effect(ANNA, later, cold.design(ANNA, later.job, 2))
    assert with_memory == without
    assert with_memory.rooms["bed"].loss_w.after > with_memory.rooms["bed"].loss_w.before


def test_summary_is_written_only_for_the_version_it_belongs_to(log):
    document = house("three-rooms") | {"id": f"note-{next(NUMBER)}"}
    applied = log.create(ANNA, document)
    desk = Remembered(log, CompanyShelf(log.engine))
    desk.note(ANNA, applied, desk.design(ANNA, applied.job, 1), None)
    row = next(row for row in log.jobs(ANNA) if row.id == document["id"])
    assert row.summary["rooms"] == 3
    log.apply(ANNA, document["id"], Change("note-change-1", 1, [{"op": "remove", "path": "/schemes/main/chosen"}]))
    late = design(parse(document)).model_copy(update={"rooms": []})
    desk.note(ANNA, applied, late, None)
    row = next(row for row in log.jobs(ANNA) if row.id == document["id"])
    assert row.summary["rooms"] == 3


@pytest.mark.parametrize("host", LOOPBACK[:2])
def test_loopback_names_are_answered(server, host):
    answer = httpx.get(f"{server.url}/api/health", headers={"host": f"{host}:{server.port}"})
    assert answer.status_code == 200
    assert answer.headers["x-frame-options"] == "DENY"
    assert answer.headers["x-content-type-options"] == "nosniff"


def test_openapi_documents_every_refusal(server):
    document = httpx.get(f"{server.url}/api/openapi.json").json()
    for path, methods in document["paths"].items():
        for method, operation in methods.items():
            assert {"400", "404", "409", "422"} <= set(operation["responses"]), (path, method)
            assert operation.get("description") or operation.get("summary")
