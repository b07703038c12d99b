"""Readings, plants and practice over the line."""

import itertools
import subprocess
import sys
import time

import pytest

from tests.conftest import GATEWAY, oat_store

CSV = {"content-type": "text/csv"}
NUMBER = itertools.count()


def lines(days=3):
    rows = ["Time,Outside,Flow,Parlour,Mystery"]
    rows += [f"2026-01-{10 + n // 24:02d}T{n % 24:02d}:00Z,4,39,19.5,7" for n in range(24 * days)]
    return "\n".join(rows) + "\n"


def test_a_file_is_looked_at_kept_weighed_and_let_go_of(client, job):
    look = client.post(f"/api/jobs/{job}/readings/look", content=lines(), headers=CSV).json()
    assert {c["name"]: c["channel"] for c in look["columns"]} == {
        "Time": "time", "Outside": "outdoor_c", "Flow": "supply_c", "Parlour": "room:parlour", "Mystery": "",
    }  # fmt: skip
    assert client.get(f"/api/jobs/{job}/readings").json()["sources"] == []
    taken = client.post(f"/api/jobs/{job}/readings", params={"label": "January"}, content=lines(), headers=CSV).json()
    assert taken["added"] == 72
    source = client.get(f"/api/jobs/{job}/readings").json()["sources"][0]
    assert (source["label"], source["count"]) == ("January", 72)
    found = client.get(f"/api/jobs/{job}/correction").json()["correction"]
    assert found["looks"] == 3
    assert next(r for r in found["rooms"] if r["id"] == "parlour")["seen_c"] == pytest.approx(19.5)
    assert client.delete(f"/api/jobs/{job}/readings/{source['id']}").status_code == 204
    assert "No look" in client.get(f"/api/jobs/{job}/correction").json()["correction"]["lacks"]


def test_a_bad_file_says_where_and_leaves_what_is_there(client, job):
    client.post(f"/api/jobs/{job}/readings", content=lines(1), headers=CSV)
    bad = client.post(f"/api/jobs/{job}/readings", content="time,outside\nsoon,3\n", headers=CSV)
    assert bad.status_code == 422
    assert bad.json()["problems"][0]["path"].startswith("line 2")
    assert len(client.get(f"/api/jobs/{job}/readings").json()["sources"]) == 1
    assert (
        client.post(f"/api/jobs/{job}/readings", params={"mapped": "[1]"}, content=lines(1), headers=CSV).status_code
        == 400
    )


def test_only_listed_gateways_are_watched_and_only_settings_are_written(client, job):
    said = client.post(f"/api/jobs/{job}/watched", json={"address": "192.0.2.7:502"}).json()
    assert "192.0.2.7:502" in said["message"]
    assert GATEWAY in said["message"]
    assert client.post(f"/api/jobs/{job}/watched", json={"stand_in": {"faults": ["gremlins"]}}).status_code == 404
    assert (
        "No plant"
        in client.post(f"/api/jobs/{job}/watched/orders", json={"key": "cold_flow_c", "value": 44}).json()["message"]
    )
    assert (
        "beyond"
        in client.post(f"/api/jobs/{job}/watched/orders", json={"key": "cold_flow_c", "value": 99}).json()["message"]
    )
    assert (
        "no setting"
        in client.post(f"/api/jobs/{job}/watched/orders", json={"key": "outdoor_c", "value": 5}).json()["message"]
    )


def until(client, job, wanted, seconds=90):
    """How the plant stands once it does as wanted (a wait, not a speed)."""
    for _ in range(seconds * 4):
        now = client.get(f"/api/jobs/{job}/watched").json()
        if wanted(now):
            return now
        time.sleep(0.25)
    raise AssertionError(f"still {now['state']}: {now['said']}")


def test_a_stand_in_is_read_written_to_and_stopped(client, job, worker):
    client.post(f"/api/jobs/{job}/watched", json={"stand_in": {"speed": 600}, "every_s": 0.5})
    live = until(client, job, lambda now: now["state"] == "live" and len(now["times"]) > 2)
    assert live["simulated"]
    assert 0 < live["figures"]["room:parlour"] < 30
    assert live["figures"]["tail:r-hall:return"] is not None
    assert live["times"] == sorted(live["times"])
    client.post(f"/api/jobs/{job}/watched/orders", json={"key": "cold_flow_c", "value": 51.5})
    until(client, job, lambda now: now["figures"].get("cold_flow_c") == 51.5)
    day = client.get(f"/api/jobs/{job}/fire-up").json()["fire_up"]
    assert day["outdoor_c"] is not None
    client.delete(f"/api/jobs/{job}/watched")
    stopped = client.get(f"/api/jobs/{job}/watched").json()
    assert (stopped["state"], stopped["watched"]) == ("stopped", False)
    assert stopped["times"]  # what was read stays


def test_a_gateway_that_is_not_there_is_told_and_read_once_it_is(client, job, worker):
    client.post(f"/api/jobs/{job}/watched", json={"address": GATEWAY, "every_s": 0.5})
    lost = until(client, job, lambda now: now["state"] == "lost")
    assert GATEWAY in lost["said"]
    command = [
        sys.executable,
        "-m",
        "cinder.cli",
        "gateway",
        "--port",
        GATEWAY.rpartition(":")[2],
        "--speed",
        "60",
        "--minutes",
        "5",
    ]
    process = subprocess.Popen(command, stdout=subprocess.DEVNULL)
    try:
        until(client, job, lambda now: now["state"] == "live")
    finally:
        process.terminate()
        process.wait(timeout=20)
        client.delete(f"/api/jobs/{job}/watched")


def test_a_job_without_a_machine_is_not_watched(client, worker):
    document = oat_store() | {"id": f"plant-{next(NUMBER)}", "title": "No machine yet"}
    client.post("/api/jobs/import", json=document)
    client.post(f"/api/jobs/{document['id']}/watched", json={"stand_in": {}})
    assert "no machine" in until(client, document["id"], lambda now: now["state"] == "refused")["said"]
    client.delete(f"/api/jobs/{document['id']}/watched")
    assert client.post(f"/api/jobs/{document['id']}/practice", json={}).status_code == 400


def test_an_attempt_is_kept_as_it_was_done(client, job):
    began = client.post(f"/api/jobs/{job}/practice", json={"level": "easy", "seed": 5}).json()
    at = f"/api/jobs/{job}/practice/{began['id']}"
    assert client.post(at, json={"kind": "repair", "key": "magic"}).status_code == 400
    done = client.post(at, json={"kind": "finish"}).json()["practice"]
    assert client.get(at).json()["practice"] == done
    line = client.get(f"/api/jobs/{job}/practice").json()["attempts"][0]
    assert (line["deeds"], line["total"], line["of"]) == (1, done["score"]["total"], 1)
    assert client.post(at, json={"kind": "finish"}).status_code == 400
    assert client.get(f"/api/jobs/{job}/practice/none").status_code == 404


def test_the_controller_record_over_the_line(client, job):
    found = client.get(f"/api/jobs/{job}/wiring").json()["wiring"]
    assert found["outputs"] + found["inputs"] == len(found["points"])
