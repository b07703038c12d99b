"""The company's machines over the line: kept with editions, looked at without being kept, the library's names left alone."""

import httpx
import pytest

from cinder.exchange.tables import machine_list
from cinder.library import load

SHEET = (
    "id,name,outdoor_c,water_c,output_kw,cop\n"
    "wren-5,Wren 5,-7,35,5.1,3.0\nwren-5,Wren 5,7,35,6.3,4.5\nwren-5,Wren 5,7,55,5.8,2.9\n"
)
CSV = {"content-type": "text/csv"}


@pytest.fixture(scope="module")
def client(server):
    with httpx.Client(base_url=server.url, timeout=60) as client:
        yield client


def test_kept_with_editions_and_forgotten(client):
    for edition in (1, 2):
        kept = client.post("/api/machines", content=SHEET, headers=CSV).json()["machines"]
        assert [(one["id"], one["edition"], one["worked_out"]) for one in kept] == [("wren-5", edition, 1)]
    assert any("turns down" in what for what in kept[0]["lacks"])
    entry = client.get("/api/company/machines").json()["entries"][0]
    assert entry["entry"]["cop"][1] == [4.5, 2.9]
    book = client.get("/api/machines.xlsx").content  # the form is filled with one's own
    assert [one.id for one in machine_list.read(book, source="back")] == ["wren-5"]
    assert client.delete("/api/company/machines/wren-5").status_code == 204
    shown = machine_list.read(client.get("/api/machines.csv").content, source="back")
    assert [one.id for one in shown] == list(load().machines)[:2]


def test_looked_at_and_not_kept(client):
    said = client.post("/api/machines/look", content=SHEET, headers=CSV).json()
    assert said["look"]["points"] == 3
    assert said["look"]["worked_out"] == 1
    assert len(said["look"]["lines"]) == 2
    assert said["machine"]["id"] == "wren-5"
    assert client.get("/api/company/machines").json()["entries"] == []
    wrong = client.post("/api/machines/look", content=SHEET.replace("4.5", "9.5"), headers=CSV)
    assert wrong.status_code == 422
    assert "not credible" in wrong.json()["problems"][0]["message"]


def test_refusals(client):
    taken = client.post("/api/machines", content=SHEET.replace("wren-5", "sedge-9"), headers=CSV)
    assert taken.status_code == 400
    assert "library's own name" in taken.json()["message"]
    assert client.post("/api/machines/look", content=b"PK\x03\x04", headers=CSV).status_code == 400
    assert client.post("/api/machines/look", content="x" * 70_000, headers=CSV).status_code == 413
    assert client.post("/api/machines", content=SHEET, headers={"content-type": "application/json"}).status_code in (
        400,
        415,
    )
    assert client.get("/api/company/machines").json()["entries"] == []
