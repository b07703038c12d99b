"""The API as another program sees it: answers, refusals with their status and place, nothing half written."""

import itertools
import json

import httpx
import pytest

from tests.conftest import house

NUMBER = itertools.count()


@pytest.fixture
def job(client):
    answer = client.post(
        "/api/jobs",
        json={"id": f"api-{next(NUMBER)}", "title": "By hand", "age": "1960-1980", "climate": "mild-maritime"},
    )
    assert answer.status_code == 201
    return answer.json()["job"]["id"]


def change(version, operations, change_id=None, **more):
    return {"id": change_id or f"api-change-{next(NUMBER)}", "base_version": version, "operations": operations} | more


RENAME = [{"op": "replace", "path": "/title", "value": "Other"}]


def test_health_and_library(client):
    assert client.get("/api/health").json()["database"] == "answers"
    library = client.get("/api/library").json()
    assert len(library["constructions"]) >= 25
    assert library["u_values"]["window-triple"] == pytest.approx(0.812)


def test_demo_job_is_there(client):
    listed = {job["id"]: job for job in client.get("/api/jobs").json()["jobs"]}
    assert listed["tansy-cut"]["summary"]["rooms"] == 10


def test_an_edit_answers_with_the_design_and_its_effect(client):
    client.post("/api/jobs/import", json=house("three-rooms") | {"id": "effects"})
    sent = change(1, [{"op": "replace", "path": "/survey/rooms/living/height_m", "value": 2.8}], label="higher")
    answer = client.post("/api/jobs/effects/changes", json=sent).json()
    assert answer["version"] == 2
    assert answer["effect"]["headline"]["loss"]["after"] > answer["effect"]["headline"]["loss"]["before"]
    assert set(answer["effect"]["rooms"]) >= {"living"}
    again = client.post("/api/jobs/effects/changes", json=sent).json()
    assert (again["replayed"], again["version"], again["effect"]) == (True, 2, answer["effect"])
    undone = client.post("/api/jobs/effects/undo", json={"id": "undo-the-height"}).json()
    assert undone["job"]["survey"]["rooms"]["living"]["height_m"] == 2.5
    assert undone["redo_label"] == "higher"
    assert client.post("/api/jobs/effects/redo", json={"id": "redo-the-height"}).json()["version"] == 4
    kinds = [entry["kind"] for entry in client.get("/api/jobs/effects/history").json()["entries"]]
    assert kinds == ["redo", "undo", "edit", "create"]


def heights(tag, *values):
    """Changes made one on top of the other before any was answered."""
    ids = [f"row-{tag}-{n}" for n in range(len(values))]
    return [
        change(
            1,
            [{"op": "replace", "path": "/survey/rooms/living/height_m", "value": value}],
            key,
            knows=ids[:n],
            label=key,
        )
        for n, (key, value) in enumerate(zip(ids, values, strict=True))
    ]


def test_a_row_of_changes_is_kept_one_by_one_and_worked_out_once(client):
    client.post("/api/jobs/import", json=house("three-rooms") | {"id": "rows"})
    sent = heights("kept", 2.6, 2.7, 2.8)
    answer = client.post("/api/jobs/rows/changes/row", json={"changes": sent}).json()
    assert (answer["version"], answer["kept"]) == (4, [one["id"] for one in sent])
    assert answer["job"]["survey"]["rooms"]["living"]["height_m"] == 2.8
    assert answer["effect"]["edits"] == 3
    one_by_one = client.post("/api/jobs/import", json=house("three-rooms") | {"id": "rows-2"}).json()
    assert answer["effect"]["headline"]["loss"]["before"] == next(
        figure["value"] for figure in one_by_one["design"]["headline"] if figure["key"] == "loss"
    )
    again = client.post("/api/jobs/rows/changes/row", json={"changes": sent}).json()
    assert (again["replayed"], again["version"]) == (True, 4)
    entries = client.get("/api/jobs/rows/history").json()["entries"]
    assert [entry["label"] for entry in entries] == ["row-kept-2", "row-kept-1", "row-kept-0", "Job opened"]
    undone = client.post("/api/jobs/rows/undo", json={"id": "undo-one-of-the-row"}).json()
    assert undone["job"]["survey"]["rooms"]["living"]["height_m"] == 2.7


def test_a_row_stops_at_the_first_change_that_is_refused(client):
    client.post("/api/jobs/import", json=house("three-rooms") | {"id": "rows-3"})
    sent = heights("refused", 2.6, -4.0, 2.8)
    answer = client.post("/api/jobs/rows-3/changes/row", json={"changes": sent})
    assert (answer.status_code, answer.json()["version"], answer.json()["kept"]) == (200, 2, ["row-refused-0"])
    assert answer.json()["job"]["survey"]["rooms"]["living"]["height_m"] == 2.6
    first = client.post("/api/jobs/rows-3/changes/row", json={"changes": sent[1:]})
    assert (first.status_code, first.json()["code"]) == (422, "invalid_job")
    assert client.get("/api/jobs/rows-3").json()["version"] == 2
    newer = client.post("/api/jobs/rows-3/changes/row", json={"changes": [sent[2] | {"schema_version": 999}]})
    assert (newer.status_code, newer.json()["code"]) == (422, "newer_schema")
    assert client.post("/api/jobs/rows-3/changes/row", json={"changes": []}).status_code == 422


def test_what_if_keeps_nothing(client, job):
    what = {"operations": [{"op": "add", "path": "/climate/design_c", "value": -9.0}]}
    answer = client.post(f"/api/jobs/{job}/what-if", json=what).json()
    assert answer["design"]["house"]["outdoor_c"] == -9.0
    assert client.get(f"/api/jobs/{job}").json()["version"] == 1
    assert len(client.get(f"/api/jobs/{job}/history").json()["entries"]) == 1


REFUSED = [
    ([{"op": "move", "path": "/a", "value": 1}], 422, "invalid_change"),
    ([{"op": "replace", "path": "/nowhere", "value": 1}], 422, "invalid_change"),
    ([{"op": "replace", "path": "/title", "value": 7}], 422, "invalid_job"),
    ([{"op": "add", "path": "/survey/rooms/x", "value": {"height_m": -2.4}}], 422, "invalid_job"),
    ([{"op": "add", "path": "/survey/rooms/x", "value": {"height_m": True}}], 422, "invalid_job"),
    ([{"op": "add", "path": "/survey/household/bedrooms", "value": 1000000000}], 422, "invalid_job"),
    ([{"op": "add", "path": "/survey/emitters/x", "value": {"room": "none"}}], 422, "invalid_job"),
]


@pytest.mark.parametrize(("operations", "status", "code"), REFUSED)
def test_refused_changes(client, job, operations, status, code):
    answer = client.post(f"/api/jobs/{job}/changes", json=change(1, operations))
    assert (answer.status_code, answer.json()["code"]) == (status, code)
    assert answer.json()["kept"]
    assert answer.json()["problems"][0]["path"]
    assert client.get(f"/api/jobs/{job}").json()["version"] == 1


def test_versions_and_ids(client, job):
    assert client.post(f"/api/jobs/{job}/changes", json=change(9, RENAME)).json()["code"] == "future_version"
    assert client.post(f"/api/jobs/{job}/changes", json=change(1, RENAME, "one-and-the-same")).status_code == 200
    other = change(1, [{"op": "replace", "path": "/title", "value": "Third"}], "one-and-the-same")
    assert client.post(f"/api/jobs/{job}/changes", json=other).json()["code"] == "change_id_reused"
    stale = client.post(
        f"/api/jobs/{job}/changes", json=change(1, [{"op": "replace", "path": "/title", "value": "Mine"}])
    )
    assert (stale.status_code, stale.json()["code"]) == (409, "stale_version")
    assert (stale.json()["detail"]["yours"], stale.json()["detail"]["theirs"]) == ("Mine", "Other")
    assert (
        client.post(f"/api/jobs/{job}/changes", json=change(1, RENAME, schema_version=9)).json()["code"]
        == "newer_schema"
    )
    assert client.post(f"/api/jobs/{job}/changes", json=change(0, RENAME)).status_code == 422
    assert client.post("/api/jobs", json={"id": job, "title": "Twin"}).status_code == 409


RAW = [
    (b'{"id": "aaaaaaaa", "id": "bbbbbbbb"}', 400), (b'{"a": NaN}', 400), (b'{"a": 1e400}', 400), (b"[" * 5000 + b"]" * 5000, 400),
    (b'{"a": "\\u0000"}', 400), (b'{"a": "\\ud800"}', 400), (b"not json", 400), (b"\xff", 400), (b"{}", 422), (b"[]", 422),
]  # fmt: skip


@pytest.mark.parametrize(("data", "status"), RAW)
def test_raw_bodies(client, job, data, status):
    answer = client.post(f"/api/jobs/{job}/changes", content=data, headers={"content-type": "application/json"})
    assert answer.status_code == status
    assert answer.json()["message"]
    assert client.get(f"/api/jobs/{job}").json()["version"] == 1


def test_fifty_megabytes_are_refused(client, job):
    data = b'{"a": "' + b"x" * 50_000_000 + b'"}'
    try:
        answer = client.post(f"/api/jobs/{job}/changes", content=data, headers={"content-type": "application/json"})
        assert answer.status_code == 413
    except httpx.WriteError:
        pass  # the server hung up before all of it was sent, as it may
    assert client.get(f"/api/jobs/{job}").json()["version"] == 1


@pytest.mark.parametrize(
    ("headers", "status"),
    [({"content-type": "text/plain"}, 415), ({"content-type": "application/x-www-form-urlencoded"}, 415),
     ({"content-type": "application/json", "origin": "http://elsewhere.example"}, 403),
     ({"content-type": "application/json", "host": "elsewhere.example"}, 403),
     ({"content-type": "application/json", "sec-fetch-site": "cross-site"}, 403),
     ({"content-type": "application/json", "origin": "null"}, 403)],
)  # fmt: skip
def test_other_pages_cannot_write(client, job, headers, status):
    answer = client.post(f"/api/jobs/{job}/changes", content=json.dumps(change(1, RENAME)), headers=headers)
    assert answer.status_code == status
    assert client.get(f"/api/jobs/{job}").json()["version"] == 1


def test_our_own_page_can(client, server, job):
    headers = {"content-type": "application/json", "origin": server.url, "sec-fetch-site": "same-origin"}
    assert (
        client.post(f"/api/jobs/{job}/changes", content=json.dumps(change(1, RENAME)), headers=headers).status_code
        == 200
    )


def test_import_of_what_is_no_job(client):
    for document, code in (({"some": "thing"}, "not_a_job"), (house("three-rooms") | {"schema": 99}, "newer_schema")):
        answer = client.post("/api/jobs/import", json=document)
        assert (answer.status_code, answer.json()["code"]) == (422, code)


def test_file_out_and_in_again(client):
    document = house("three-rooms") | {"id": "travels"}
    client.post("/api/jobs/import", json=document)
    assert client.get("/api/jobs/travels/file").json() == document


def test_put_away_and_taken_out(client, job):
    assert client.post(f"/api/jobs/{job}/archive", json={"archived": True}).status_code == 204
    assert job not in {line["id"] for line in client.get("/api/jobs").json()["jobs"]}
    assert job in {line["id"] for line in client.get("/api/jobs?archived=true").json()["jobs"]}
    assert client.get(f"/api/jobs/{job}").json()["put_away"] is True
    version = client.get(f"/api/jobs/{job}").json()["version"]
    edited = client.post(f"/api/jobs/{job}/changes", json=change(version, RENAME) | {"id": f"away-{job}"[:40]}).json()
    assert (edited["version"], edited["put_away"]) == (version + 1, True)  # nothing is lost, and it is said
    client.post(f"/api/jobs/{job}/archive", json={"archived": False})
    assert client.get(f"/api/jobs/{job}").json()["put_away"] is False


@pytest.mark.parametrize(
    "path", ["/api/jobs/none", "/api/jobs/none/history", "/api/nothing", "/api/jobs/tansy-cut/working/x"]
)
def test_not_found_is_said_in_the_same_shape(client, path):
    answer = client.get(path)
    assert answer.status_code == 404
    assert set(answer.json()) == {"code", "message", "kept", "problems", "detail"}


def test_pages_fall_back_and_stay_inside(client):
    assert "<html" in client.get("/job/tansy-cut/rooms").text
    assert "<html" in client.get("/..%2f..%2fpyproject.toml").text
    assert client.get("/icon.svg").headers["content-type"].startswith("image/svg")


def test_working_over_http(client):
    working = client.get("/api/jobs/tansy-cut/working/room:parlour").json()
    assert working["steps"]
    assert working["cautions"]


def test_every_question_is_answered_for_a_house_without_a_room(client):
    """A job just begun: what is asked for apart says what it lacks, and no question ends in a fault of ours."""
    begun = {"id": "no-room-yet", "title": "No room yet", "age": "before-1920", "climate": "mild-maritime"}
    assert client.post("/api/jobs", json=begun).status_code == 201
    for what in (
        "doubts", "year", "running", "water-days", "flows", "routes", "separating", "protecting", "plant", "materials", "bills", "front",
        "holding", "schemes", "sections", "alternatives",
    ):  # fmt: skip
        answer = client.get(f"/api/jobs/no-room-yet/{what}")
        assert answer.status_code in (200, 409, 422), (what, answer.status_code, answer.text[:200])
