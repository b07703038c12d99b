"""Sections, weather, the year, bills, measures, papers, as another program sees them."""

import time
import uuid

import pytest

from cinder.exchange.weather.weather_file import write_epw
from cinder.library import HourlyYear, load, shipped_year
from tests.web.conftest import change

CLIMATE = load().climates["cool-inland"]
BYTES = {"content-type": "application/octet-stream"}


def test_a_section_is_cut_and_a_bad_one_says_where(client):
    wall = load().constructions["wall-cavity-filled"].model_dump(mode="json")
    cut = client.post("/api/section", json={"entry": wall, "outside_c": -5.0}).json()["section"]
    assert cut["u_w_m2k"] == pytest.approx(client.get("/api/library").json()["u_values"]["wall-cavity-filled"])
    assert len(cut["temperature_c"]) == len(cut["layers"]) + 1
    wall["layers"][1]["thickness_m"] = 0
    refused = client.post("/api/section", json={"entry": wall})
    assert refused.status_code == 422
    assert refused.json()["problems"][0]["path"] == "/layers/1/thickness_m"


def test_own_constructions_over_the_wire(client):
    wall = load().constructions["wall-brick-one"].model_dump(mode="json") | {"label": "Cob and brick"}
    kept = client.put("/api/company/constructions/own-cob", json=wall)
    assert kept.status_code == 200
    assert kept.json()["u_w_m2k"] == pytest.approx(2.09, abs=0.01)
    assert "own-cob" in [entry["id"] for entry in client.get("/api/company/constructions").json()["entries"]]
    assert client.put("/api/company/constructions/Own%20Cob", json=wall).status_code == 422
    assert client.put("/api/company/constructions/wall-brick-one", json=wall).status_code == 422
    assert client.get("/api/company/spoons").status_code == 404
    assert client.delete("/api/company/constructions/own-cob").status_code == 204
    assert client.delete("/api/company/constructions/own-cob").status_code == 404


def test_weather_is_taken_in_used_and_given_out(client, job):
    shipped = shipped_year(CLIMATE.year_sha256)
    colder = HourlyYear(shipped.outdoor_c - 0.7, shipped.ghi_w_m2, shipped.dni_w_m2, shipped.dhi_w_m2)
    data = write_epw(CLIMATE.model_copy(update={"label": "Upper Sedge"}), colder)
    taken = client.post("/api/weather?label=Upper%20Sedge", content=data, headers=BYTES)
    assert taken.status_code == 200
    made = taken.json()
    frozen = {"origin": "company", "edition": str(made["edition"]), "sha256": made["sha256"], "data": made["entry"]}
    answer = change(client, job, [
        {"op": "add", "path": f"/library/climates/{made['id']}", "value": frozen},
        {"op": "replace", "path": "/climate/entry", "value": made["id"]},
    ])  # fmt: skip
    assert answer.status_code == 200
    assert answer.json()["design"]["house"]["climate_label"] == "Upper Sedge"
    found = client.get(f"/api/jobs/{job}/year").json()
    assert found["version"] == 2
    assert found["year"]["heat_kwh"] > 0
    back = client.get(f"/api/jobs/{job}/weather.epw")
    assert back.content.startswith(b"LOCATION,Upper Sedge")
    # the zip takes the year along: on a machine that never saw the file the year is still there
    packed = client.get(f"/api/jobs/{job}/bundle").content
    assert made["entry"]["year_sha256"].encode() in packed


@pytest.mark.parametrize("data", [b"", b"LOCATION,\n1,2,3", b"x" * 1000, "LOCATION,Ü".encode("utf-16")])
def test_no_weather_file_is_said_so(client, data):
    refused = client.post("/api/weather", content=data, headers=BYTES)
    assert refused.status_code in (400, 422)
    assert refused.json()["kept"]


def test_a_foreign_page_cannot_send_weather(client):
    assert client.post("/api/weather", content=b"x", headers={"content-type": "multipart/form-data"}).status_code == 415
    assert (
        client.post("/api/weather", content=b"x", headers=BYTES | {"origin": "http://else.invalid"}).status_code == 403
    )


def test_year_and_bills_follow_the_version(client, job):
    first = client.get(f"/api/jobs/{job}/year").json()
    bills = client.get(f"/api/jobs/{job}/bills").json()
    assert bills["bills"]["verdict"] == "life is lower"
    assert (
        change(client, job, [{"op": "replace", "path": "/practice/year_gains", "value": "none"}]).json().get("version")
        == 2
    )
    second = client.get(f"/api/jobs/{job}/year").json()
    assert (first["version"], second["version"]) == (1, 2)
    assert second["year"]["heat_kwh"] > first["year"]["heat_kwh"]


def test_measures_are_tried_combined_and_taken(client, job):
    tried = client.post(f"/api/jobs/{job}/measures", json={}).json()["measures"]
    keys = [tried["tried"][1]["option"]["key"], "draught-proofing"]
    both = client.post(f"/api/jobs/{job}/measures", json={"chosen": keys}).json()["measures"]["together"]
    operations = client.post(f"/api/jobs/{job}/measures/change", json={"chosen": keys}).json()["operations"]
    answer = change(client, job, operations).json()
    assert tried["base_loss_w"] - answer["design"]["house"]["loss_w"] == pytest.approx(both["loss_w"])
    undone = client.post(f"/api/jobs/{job}/undo", json={"id": uuid.uuid4().hex}).json()
    assert undone["design"]["house"]["loss_w"] == pytest.approx(tried["base_loss_w"])
    assert client.post(f"/api/jobs/{job}/measures/change", json={"chosen": []}).status_code == 422
    assert client.post(f"/api/jobs/{job}/measures/change", json={"chosen": ["moon-dust"]}).status_code == 404


def test_the_company_price_moves_the_list(client, job):
    row = load().measures["draught-proofing"].model_dump(mode="json") | {"fixed_minor": 99_900.0}
    client.put("/api/company/measures/draught-proofing", json=row)
    tried = client.post(f"/api/jobs/{job}/measures", json={}).json()["measures"]["tried"]
    assert next(t for t in tried if t["option"]["key"] == "draught-proofing")["option"]["cost_minor"] == 99_900.0
    client.delete("/api/company/measures/draught-proofing")


def test_the_report_as_a_page(client, job):
    page = client.get(f"/api/jobs/{job}/report")
    assert page.headers["content-type"].startswith("text/html")
    assert "default-src 'none'" in page.headers["content-security-policy"]
    assert page.headers["x-frame-options"] == "SAMEORIGIN"
    loss = client.get(f"/api/jobs/{job}").json()["design"]["house"]["loss_w"]
    assert f"{loss / 1000:.2f} kW" in page.text
    assert client.get("/api/report-fonts/atkinson-400.ttf").content[:4] == b"\0\1\0\0"
    assert client.get("/api/report-fonts/..%2Fheat_loss.html.j2").status_code == 404


def wait(client, job, key):
    for _ in range(1200):  # a wait, not a speed: two tests run beside each other and each paper takes a processor
        paper = next(p for p in client.get(f"/api/jobs/{job}/papers").json()["papers"] if p["id"] == key)
        if paper["state"] in ("ready", "failed"):
            return paper
        time.sleep(0.1)
    raise AssertionError("the paper was never written")


def test_a_paper_is_written_in_the_background_of_the_version_it_was_asked_for(client, job, worker):
    key = uuid.uuid4().hex
    asked = client.post(f"/api/jobs/{job}/papers", json={"id": key, "kind": "heat-loss"})
    assert asked.status_code == 202
    change(client, job, [{"op": "replace", "path": "/title", "value": "Another name"}])
    assert client.post(f"/api/jobs/{job}/papers", json={"id": key, "kind": "heat-loss"}).json()["id"] == key  # once
    paper = wait(client, job, key)
    assert (paper["state"], paper["version"]) == ("ready", 1)
    file = client.get(f"/api/papers/{key}/file")
    assert file.content[:5] == b"%PDF-"
    assert f"{job}.heat-loss.v1.pdf" in file.headers["content-disposition"]
    assert client.get(f"/api/jobs/{job}/papers").json()["writer"]
    assert client.get("/api/papers/nothing/file").status_code == 404


def test_a_report_of_a_house_without_a_climate_is_written_too(client, worker):
    opened = client.post("/api/jobs", json={"id": "bare-report", "title": "Bare"}).json()["job"]["id"]
    key = uuid.uuid4().hex
    client.post(f"/api/jobs/{opened}/papers", json={"id": key})
    assert wait(client, opened, key)["state"] == "ready"
    assert client.get(f"/api/jobs/{opened}/report").status_code == 200
