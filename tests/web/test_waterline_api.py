"""The waterline as another program sees it: the front, ways of a room, floors, lists of products, the schedule."""

import csv
import io

import pytest
from openpyxl import load_workbook

from tests.web.conftest import change

CSV = {"content-type": "text/csv"}


def test_the_front_is_asked_for_taken_and_refused(client, job):
    found = client.get(f"/api/jobs/{job}/front").json()
    assert found["version"] == 1
    assert len(found["front"]["points"]) == 31
    operations = client.post(f"/api/jobs/{job}/front/change", json={"flow_c": 43.0}).json()["operations"]
    answer = change(client, job, operations).json()
    assert answer["design"]["waterline"]["chosen_flow_c"] == 43.0
    assert answer["design"]["waterline"]["short"] == []
    refused = client.post(f"/api/jobs/{job}/front/change", json={"flow_c": 30.0})
    assert refused.status_code == 404
    assert "Garden room by" in refused.json()["message"]
    assert client.post(f"/api/jobs/{job}/front/change", json={"flow_c": 300.0}).status_code == 422


def test_ways_of_a_room_are_listed_and_one_is_taken(client, job):
    found = client.get(f"/api/jobs/{job}/front/rooms/kitchen").json()["room"]
    assert found["label"] == "Kitchen"
    deeper = next(o for o in found["options"] if "T33 1500 × 600" in o["what"])
    operations = client.post(f"/api/jobs/{job}/front/way", json={"way": deeper["key"]}).json()["operations"]
    answer = change(client, job, operations).json()
    kitchen = next(r for r in answer["design"]["rooms"] if r["id"] == "kitchen")
    assert kitchen["needed_flow_c"] == pytest.approx(deeper["needed_flow_c"], abs=0.1)
    assert client.post(f"/api/jobs/{job}/front/way", json={"way": "way:gone"}).status_code == 404
    assert client.get(f"/api/jobs/{job}/front/rooms/attic").status_code == 404


def test_who_holds_the_water_up(client, job):
    found = client.get(f"/api/jobs/{job}/holding").json()["holding"]
    assert found["rooms"][0]["label"] == "Parlour"
    assert found["rooms"][0]["flow_without_c"] < found["flow_c"]


def test_a_floor_is_looked_at_without_writing_anything(client):
    body = {
        "heated": {"area_m2": 12.0, "spacing_m": 0.2, "cover_m": 0.045, "supply_m": 3.0},
        "room_c": 20.0,
        "flow_c": 38.0,
    }
    rows = client.post("/api/heated", json=body).json()["rows"]
    assert [r["spacing_m"] for r in rows] == [0.1, 0.15, 0.2, 0.25, 0.3]
    fluxes = [r["flux_w_m2"] for r in rows]
    assert fluxes == sorted(fluxes, reverse=True)
    assert rows[2]["chosen"]
    assert rows[2]["loop_m"] == pytest.approx(12 / 0.2 + 6)
    cold = client.post("/api/heated", json=body | {"flow_c": 24.0})
    assert cold.status_code == 422
    assert "no warmer than the room" in cold.json()["message"]
    wide = client.post("/api/heated", json=body | {"heated": body["heated"] | {"spacing_m": 0.9}})
    assert "0.05 to 0.375 m" in wide.json()["message"]


LIST = """id;kind;name;length_mm;height_mm;output_w;exponent;price;speed;electric_w
a1;panel;Slim 1500;1500;600;4100;1,32;410;;
f1;fan;Breeze;800;500;900;1,05;500;quiet;7
f1;fan;Breeze;800;500;2000;1,05;500;full;22
"""


def test_a_list_is_brought_in_offered_and_forgotten(client, job):
    kept = client.post("/api/catalogues?label=Our list", content=LIST.encode(), headers=CSV).json()
    assert (kept["id"], kept["edition"], kept["products"]) == ("our-list", 1, 2)
    lists = client.get("/api/catalogues").json()["lists"]
    own = next(one for one in lists if one["own"])
    fan = next(p for p in own["list"]["products"] if p["kind"] == "fan")
    assert [s["electric_w"] for s in fan["speeds"]] == [7.0, 22.0]
    options = client.get(f"/api/jobs/{job}/front/rooms/kitchen").json()["room"]["options"]
    assert any("Slim 1500" in o["what"] for o in options)
    bad = client.post("/api/catalogues?label=Our list", content=LIST.replace("4100", "lots").encode(), headers=CSV)
    assert bad.status_code == 422
    assert bad.json()["problems"][0]["path"] == "row 2, output_w"
    assert "earlier edition stands" in bad.json()["kept"]
    again = client.post("/api/catalogues?label=Our list", content=LIST.encode(), headers=CSV).json()
    assert again["edition"] == 2
    assert client.delete("/api/company/catalogues/our-list").status_code == 204
    options = client.get(f"/api/jobs/{job}/front/rooms/kitchen").json()["room"]["options"]
    assert not any("Slim 1500" in o["what"] for o in options)
    generic = client.get("/api/catalogue.csv")
    assert generic.text.startswith("id,kind,name")
    assert client.post("/api/catalogues?label=Same", content=generic.content, headers=CSV).json()["products"] > 250
    client.delete("/api/company/catalogues/same")


def test_the_schedule_goes_out_as_csv_and_as_workbook(client, job):
    text = client.get(f"/api/jobs/{job}/emitters.csv").content.decode("utf-8-sig")
    rows = list(csv.DictReader(io.StringIO(text)))
    assert len(rows) == 12
    loop = next(r for r in rows if r["Emitter"] == "Floor loops")
    assert (loop["Loops"], loop["Loop m"], loop["Limit degC"]) == ("1", "87.0", "29.0")
    assert next(r for r in rows if r["Emitter"] == "Gable side")["Fate"] == "new"
    book = load_workbook(io.BytesIO(client.get(f"/api/jobs/{job}/emitters.xlsx").content))
    assert book.sheetnames == ["Emitters", "Manifolds"]
    assert book["Emitters"].max_row == 13
    assert next(row[0].value for row in book["Manifolds"].iter_rows(min_row=2)) == "Blending valve"


def test_bad_emitters_are_refused_with_their_place(client, job):
    at = "/survey/emitters/r-kitchen/spec"
    for field, value in (("exponent", 0), ("output_w", 0), ("spread_k", 0), ("length_m", -1)):
        refused = change(client, job, [{"op": "add", "path": f"{at}/{field}", "value": value}])
        assert refused.status_code == 422, field
        assert refused.json()["problems"][0]["path"].startswith(f"{at}/{field}")
        assert refused.json()["kept"]


def test_the_quick_rule_over_the_wire(client):
    rows = client.get("/api/quick-rule", params={"mean_c": 50, "load_w": 1500}).json()["rows"]
    assert [row["type"] for row in rows] == ["t11", "t21", "t22", "t33"]
    assert client.get("/api/quick-rule", params={"mean_c": 15}).status_code == 422
    assert client.get("/api/quick-rule", params={"load_w": 0}).status_code == 422
    assert client.get("/api/quick-rule.pdf").content[:5] == b"%PDF-"
