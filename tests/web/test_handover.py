"""Offer, pack, winters over HTTP: issued once and kept, accepted once, files of others looked at, a winter brought in from elsewhere."""

import io
import itertools
import json
import re
import time
import uuid
import zipfile
from datetime import UTC, date, datetime, timedelta

import numpy as np
import pypdf
import pytest
import vobject
from openpyxl import Workbook, load_workbook

from cinder.design.explained import num
from cinder.library import load, shipped_year
from tests.web.conftest import change

NUMBER = itertools.count()
CSV = {"content-type": "text/csv"}
XLSX = {"content-type": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"}


def issue(client, job, kind, issue_id=None):
    return client.post(f"/api/jobs/{job}/issued", json={"id": issue_id or uuid.uuid4().hex, "kind": kind})


def ready(client, job, issue_id, seconds=180):
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        line = next(one for one in client.get(f"/api/jobs/{job}/issued").json()["issued"] if one["id"] == issue_id)
        if line["state"] in ("ready", "failed"):
            return line
        time.sleep(0.3)
    raise AssertionError("it was not written in time")


def test_an_offer_is_issued_once_kept_and_accepted_once(client, job):
    drawn = client.get(f"/api/jobs/{job}/offer").json()["offer"]
    first = issue(client, job, "offer").json()
    assert issue(client, job, "offer", first["id"]).json()["number"] == 1  # asked twice with one id it is one
    assert (
        change(client, job, [{"op": "replace", "path": "/handover/offer/reserve_share", "value": 0.2}]).status_code
        == 200
    )
    kept = client.get(f"/api/issued/{first['id']}/offer").json()["offer"]
    assert kept == drawn
    assert (
        client.get(f"/api/jobs/{job}/offer").json()["offer"]["variants"][0]["sums"]["pay"]
        > drawn["variants"][0]["sums"]["pay"]
    )
    today = date.today().isoformat()
    for body, said in (
        ({"variant": "nobody", "by": "K", "day": today}, "no such variant"),
        ({"variant": "lukewarm", "by": " ", "day": today}, "Who accepts"),
        ({"variant": "lukewarm", "by": "K", "day": "2020-01-01"}, "before"),
        ({"variant": "lukewarm", "by": "K", "day": (date.today() + timedelta(days=60)).isoformat()}, "ran out"),
        ({"variant": "lukewarm", "by": "K", "day": "soon"}, "no day"),
    ):
        refused = client.post(f"/api/issued/{first['id']}/accept", json=body)
        assert refused.status_code == 400
        assert said in refused.json()["message"]
    taken = client.post(
        f"/api/issued/{first['id']}/accept", json={"variant": "lukewarm", "by": "The keeper", "day": today}
    )
    assert taken.json()["accepted"]["label"] == "Lukewarm water"
    again = client.post(
        f"/api/issued/{first['id']}/accept", json={"variant": "plain", "by": "The keeper", "day": today}
    )
    assert again.status_code == 409
    book = load_workbook(io.BytesIO(client.get(f"/api/issued/{first['id']}/offer.xlsx").content))
    assert book.sheetnames == ["Offer", "1 Lukewarm water", "2 Swap the boiler only"]
    rows = {row[0]: row[1] for row in book["Offer"].iter_rows(min_row=3, max_row=14, values_only=True)}
    assert rows["To pay"] == pytest.approx(drawn["variants"][0]["sums"]["pay"] / 100)
    second = issue(client, job, "offer").json()
    assert second["number"] == 2


def squeezed(text):
    return re.sub(r"\s", "", text)


def test_a_pack_is_one_zip_of_one_version_and_says_what_moved_since(client, job, worker):
    records = {one["key"]: one for one in client.get(f"/api/jobs/{job}/pack").json()["pack"]["records"]}
    assert records["offer"]["state"] == "lacks"
    offered = issue(client, job, "offer").json()
    pay = client.get(f"/api/issued/{offered['id']}/offer").json()["offer"]["variants"][0]["sums"]["pay"]
    today = date.today()
    taken = {"variant": "lukewarm", "by": "The keeper", "day": today.isoformat()}
    assert client.post(f"/api/issued/{offered['id']}/accept", json=taken).status_code == 200
    change(client, job, [{"op": "replace", "path": "/handover/offer/reserve_share", "value": 0.2}])
    line = issue(client, job, "pack").json()
    done = ready(client, job, line["id"])
    assert done["state"] == "ready", done
    packed = zipfile.ZipFile(io.BytesIO(client.get(f"/api/papers/{line['id']}/file").content))
    listed = json.loads(packed.read("pack.json"))
    assert set(listed["files"]) == set(packed.namelist()) - {"pack.json"}
    assert listed["fingerprint"] == line["fingerprint"]
    states = {one["key"]: one for one in listed["records"]}
    assert states["heat-loss"]["files"]
    # the offer as it was issued and taken, not as it would be made since
    [named] = states["offer"]["files"]
    accepted = packed.read(next(name for name in packed.namelist() if name.endswith(named)))
    front = squeezed(pypdf.PdfReader(io.BytesIO(accepted)).pages[0].extract_text())
    assert squeezed(f"Accepted: Lukewarm water, by The keeper, {today:%d.%m.%Y}") in front
    now = client.get(f"/api/jobs/{job}/offer").json()["offer"]["variants"][0]["sums"]["pay"]
    assert squeezed(num(pay / 100, 0)) in front
    assert squeezed(num(now / 100, 0)) not in front
    named = next(name for name in packed.namelist() if "Sound" in name)
    pages = pypdf.PdfReader(io.BytesIO(packed.read(named))).pages
    assert all(
        line["fingerprint"][:12] in page.extract_text() and "version 2 · engine" in page.extract_text()
        for page in pages
    )
    calendar = next(name for name in packed.namelist() if name.endswith(".ics"))
    assert vobject.readOne(packed.read(calendar).decode()).vevent.sequence.value == "1"
    assert json.loads(packed.read("job.json"))["id"] == job
    before = client.get(f"/api/papers/{line['id']}/file").content
    assert change(client, job, [{"op": "add", "path": "/schemes/lukewarm/flow_c", "value": 52.0}]).status_code == 200
    after = next(one for one in client.get(f"/api/jobs/{job}/issued").json()["issued"])
    assert any("Flow" in one and "52" in one for one in after["differs"]), after["differs"]
    assert client.get(f"/api/papers/{line['id']}/file").content == before


def test_a_pack_of_a_job_without_a_machine_is_refused(client, job):
    change(client, job, [{"op": "remove", "path": "/schemes/lukewarm/chosen"}])
    refused = issue(client, job, "pack")
    assert refused.status_code == 400
    assert "no machine is chosen" in refused.json()["message"]
    assert refused.json()["kept"] == "Nothing was issued."
    assert client.get(f"/api/jobs/{job}/issued").json()["issued"] == []


def test_files_of_others_are_looked_at_before_they_are_kept(client):
    def put(data, media="application/pdf"):
        return client.put("/api/files", content=data, headers={"content-type": media})

    whole = b"%PDF-1.7\n1 0 obj<<>>endobj\ntrailer<<>>\n%%EOF\n"
    kept = put(whole).json()
    answer = client.get(f"/api/files/{kept['sha256']}")
    assert answer.content == whole
    assert "sandbox" in answer.headers["content-security-policy"]
    assert put(whole[:-8]).status_code == 400
    assert "cut off" in put(whole[:-8]).json()["message"]
    assert put(b"<script>alert(1)</script>").status_code == 400
    assert put(whole, "text/html").status_code == 415
    assert client.get(f"/api/files/{'0' * 64}").status_code == 404


def foreign(days=60, first=datetime(2025, 1, 1, tzinfo=UTC), h=200.0):
    """A winter as some other logger tells it: semicolons, commas, kW, a heat meter in MWh, no names of ours."""
    rng = np.random.default_rng(1)
    rows, heat = ["Zeit;T1;Vorlauf;Leistung kW;Zaehler MWh;Stube"], 3.2
    for n in range(days * 24):
        out = 3 + 4 * np.sin(n / 130) + 2 * np.sin(n / 24 * 6.28) + rng.normal(0, 0.4)
        kw = 0.001 * h * max(20 - out - 2, 0)
        heat += kw / 1000
        at = first + timedelta(hours=n)
        rows.append(f"{at:%d.%m.%Y %H:%M};{out:.2f};38,0;{kw / 3.6:.3f};{heat:.5f};20,0".replace(".", ",", 0))
    return (
        "\n".join(rows)
        .replace(".", ",")
        .replace(",2025", ".2025")
        .replace(",01.", ".01.")
        .replace(",02.", ".02.")
        .replace(",03.", ".03.")
    )


MAPPED = {
    "Zeit": "time",
    "T1": "outdoor_c",
    "Vorlauf": "supply_c",
    "Leistung kW": "electric_w",
    "Zaehler MWh": "heat_kwh",
    "Stube": "room:parlour",
}


def bring(client, job, text, mapped=MAPPED):
    return client.post(
        f"/api/jobs/{job}/readings",
        params={"label": "foreign", "mapped": json.dumps(mapped)},
        content=text.encode(),
        headers=CSV,
    )


def test_a_foreign_winter_is_mapped_once_remembered_and_judged(client, job):
    text = foreign()
    look = client.post(f"/api/jobs/{job}/readings/look", content=text.encode(), headers=CSV).json()
    assert next(one for one in look["columns"] if one["name"] == "Stube")["channel"] == ""
    taken = bring(client, job, text)
    assert taken.status_code == 200, taken.text
    assert taken.json()["added"] == 60 * 24
    again = client.post(f"/api/jobs/{job}/readings/look", content=text.encode(), headers=CSV).json()
    assert {one["name"]: one["channel"] for one in again["columns"]} == MAPPED
    assert "last time" in again["notes"][0]
    found = client.get(f"/api/jobs/{job}/winters/{taken.json()['source']}").json()["winter"]
    assert found["signature"]["h_w_k"]["low"] < 200 < found["signature"]["h_w_k"]["high"]
    assert found["machine"]["performance"] == pytest.approx(3.6, rel=0.01)
    held = client.get(f"/api/jobs/{job}/winters/{taken.json()['source']}/kept").json()
    assert held["pack"] is None
    assert held["kept"]["movers"]
    drawn = client.get(
        f"/api/jobs/{job}/readings/{taken.json()['source']}/drawn",
        params={"channels": "outdoor_c,electric_w", "points": 50},
    ).json()
    assert len(drawn["at"]) <= 51
    assert min(drawn["channels"]["outdoor_c"]["least"]) == pytest.approx(-4.3, abs=1.0)
    assert (
        client.get(
            f"/api/jobs/{job}/readings/{taken.json()['source']}/drawn", params={"channels": "nothing"}
        ).status_code
        == 404
    )


def test_nothing_is_half_taken(client, job):
    before = client.get(f"/api/jobs/{job}/readings").json()
    twice = "time,outdoor,Flow,Flow\n2025-01-01T00:00Z,1,2,3\n"
    refused = client.post(f"/api/jobs/{job}/readings", content=twice.encode(), headers=CSV)
    assert refused.status_code == 422
    assert refused.json()["problems"][0]["path"] == "line 1, column 3"
    late = foreign() + "\n99.99.2025 00:00;1;2;3;4;5\n"
    assert bring(client, job, late).status_code == 422
    assert client.get(f"/api/jobs/{job}/readings").json() == before


def test_a_workbook_is_taken_too(client, job):
    book = Workbook()
    book.active.append(["time", "Outdoor", "Parlour"])
    for n in range(48):
        book.active.append([datetime(2025, 1, 1) + timedelta(hours=n), 3.0, 20.0])
    out = io.BytesIO()
    book.save(out)
    taken = client.post(f"/api/jobs/{job}/readings", params={"label": "book"}, content=out.getvalue(), headers=XLSX)
    assert taken.json()["added"] == 48


def test_meters_read_by_hand_do_not_run_backwards(client, job):
    def read(day, **figures):
        return client.post(f"/api/jobs/{job}/readings/hand", json={"day": day, **figures})

    assert read("2025-01-01", electric_kwh=100.0, heat_kwh=300.0).status_code == 200
    assert read("2025-02-01", electric_kwh=400.0, heat_kwh=1300.0).status_code == 200
    back = read("2025-03-01", electric_kwh=390.0)
    assert back.status_code == 400
    assert "01.02.2025" in back.json()["message"]
    assert read("2025-01-15", electric_kwh=450.0).status_code == 400
    assert read("2025-03-01", electric_kwh=12.0, new_meter=True).status_code == 200
    assert read("2025-03-02").status_code == 400
    assert read("2025-02-30", electric_kwh=1.0).status_code == 400
    rows = client.get(f"/api/jobs/{job}/readings/hand").json()["rows"]
    assert [row["figures"][0] for row in rows] == [12.0, 400.0, 100.0]
    assert client.delete(f"/api/jobs/{job}/readings/hand/2025-02-01").status_code == 204
    assert len(client.get(f"/api/jobs/{job}/readings/hand").json()["rows"]) == 2


def test_a_heat_meter_read_once_a_month_says_what_the_house_loses(client, job):
    """The lock-keeper's house, some 240 W/K, read every four weeks: 0.024 times so much for every kelvin and day under 16 °C, as the
    climate's ordinary year has them; the band holds it."""
    climate = client.get(f"/api/jobs/{job}").json()["job"]["climate"]["entry"]
    year = shipped_year(load().climates[climate].year_sha256)
    day_c = np.asarray(year.outdoor_c).reshape(365, 24).mean(axis=1)
    stands, first = 5000.0, date(2024, 10, 1)
    for n in range(9):
        day = first + timedelta(28 * n)
        sent = {"day": day.isoformat(), "heat_kwh": round(stands, 1), "inside_c": 19.5}
        assert client.post(f"/api/jobs/{job}/readings/hand", json=sent).status_code == 200
        these = [(day + timedelta(k)).timetuple().tm_yday - 1 for k in range(28)]
        stands += float((0.024 * 240.0 * np.maximum(16.0 - day_c[np.minimum(these, 364)], 0.0) + 4.0).sum())
    found = client.get(f"/api/jobs/{job}/winters/by-hand").json()["winter"]
    assert found["lacks"] == ""
    assert found["signature"]["h_w_k"]["low"] < 240 < found["signature"]["h_w_k"]["high"]
    assert "an ordinary year" in " ".join(found["notes"])
    assert found["machine"] is None
    kept = client.get(f"/api/jobs/{job}/winters/by-hand/kept").json()["kept"]
    assert kept["days"] == 28 * 8


def test_hours_and_buckets_of_the_database_are_those_of_numpy(client, job):
    rng = np.random.default_rng(3)
    at = [datetime(2025, 1, 1, tzinfo=UTC) + timedelta(minutes=7 * n) for n in range(1500)]
    out, mode = rng.normal(4, 3, 1500).round(2), rng.integers(0, 4, 1500)
    text = "time,Outdoor,mode\n" + "\n".join(f"{t.isoformat()},{o},{m}" for t, o, m in zip(at, out, mode, strict=True))
    source = client.post(f"/api/jobs/{job}/readings", content=text.encode(), headers=CSV).json()["source"]
    drawn = client.get(
        f"/api/jobs/{job}/readings/{source}/drawn", params={"channels": "outdoor_c", "points": 300}
    ).json()
    width = drawn["width_s"]
    bucket = np.array([(t - at[0]).total_seconds() // width for t in at]).astype(int)
    assert drawn["channels"]["outdoor_c"]["greatest"] == pytest.approx(
        [out[bucket == n].max() for n in np.unique(bucket)]
    )
    assert width < 3600
    assert drawn["channels"]["outdoor_c"]["mean"] == pytest.approx([out[bucket == n].mean() for n in np.unique(bucket)])


def test_what_other_jobs_winters_teach_is_asked_for_by_job(client, job):
    """Nothing before three houses; simulated winters count only where they are asked for."""
    found = client.get(f"/api/jobs/{job}/lessons").json()["lessons"]
    assert "3 are needed" in found["lacks"]
    assert found["proposals"] == []
    assert client.get("/api/jobs/nothing/lessons").status_code == 404


def test_papers_of_others_travel_with_the_job(client, job):
    whole = b"%PDF-1.7\n1 0 obj<<>>endobj\ntrailer<<>>\n%%EOF\n" + job.encode()
    kept = client.put("/api/files", content=whole, headers={"content-type": "application/pdf"}).json()["sha256"]
    paper = {"kind": "other", "label": "Chimney sweep", "sha256": kept, "file_name": "sweep.pdf"}
    assert change(client, job, [{"op": "add", "path": "/handover/papers/a", "value": paper}]).status_code == 200
    zipped = client.get(f"/api/jobs/{job}/bundle").content
    packed = zipfile.ZipFile(io.BytesIO(zipped))
    assert packed.read(f"papers/{kept}") == whole

    def sent(files):
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as again:
            for name, data in files.items():
                again.writestr(name, data)
        return client.post("/api/jobs/bundle", content=out.getvalue(), headers={"content-type": "application/zip"})

    files = {name: packed.read(name) for name in packed.namelist()}
    document = json.loads(files["job.json"]) | {"id": f"{job}-again"}
    files["job.json"] = json.dumps(document).encode()
    lost = sent({name: data for name, data in files.items() if not name.startswith("papers/")})
    assert lost.status_code == 422
    assert lost.json()["problems"][0]["path"] == "/handover/papers"
    spoilt = sent({name: b"<html>" if name.startswith("papers/") else data for name, data in files.items()})
    assert spoilt.status_code in (400, 422)
    assert client.get(f"/api/jobs/{job}-again").status_code == 404
    assert sent(files).status_code == 201
    back = client.get(f"/api/jobs/{job}-again").json()["job"]["handover"]["papers"]["a"]["sha256"]
    assert client.get(f"/api/files/{back}").content == whole
