"""Pictures, sheets, doubts and a chain of waiting edits, as another program sees them; and a tablet that is paired."""

import asyncio
import hashlib
import io
import itertools
import zipfile
from concurrent.futures import ThreadPoolExecutor

import httpx
import pytest
from cryptography import x509
from PIL import Image

from cinder.web import tls
from cinder.web.app import Tablet, create_app

NUMBER = itertools.count()


def jpeg(color="teal"):
    out = io.BytesIO()
    Image.new("RGB", (800, 600), color).save(out, "JPEG")
    data = out.getvalue()
    return hashlib.sha256(data).hexdigest(), data


def put(client, sha256, data, kind="image/jpeg"):
    return client.put(f"/api/photos/{sha256}", content=data, headers={"content-type": kind})


def test_a_picture_comes_before_its_change_and_leaves_with_the_job(client, job):
    sha256, data = jpeg()
    assert put(client, sha256, data).json() == {"sha256": sha256, "width_px": 800, "height_px": 600}
    assert put(client, sha256, data).status_code == 200  # sent again: it is there
    operation = {"op": "add", "path": "/survey/photos/one", "value": {"sha256": sha256, "room": "kitchen"}}
    body = {"id": f"photo-{job}", "base_version": 1, "operations": [operation]}
    assert client.post(f"/api/jobs/{job}/changes", json=body).status_code == 200
    with zipfile.ZipFile(io.BytesIO(client.get(f"/api/jobs/{job}/bundle").content)) as packed:
        assert sorted(packed.namelist()) == ["job.json", f"photos/{sha256}.jpg"]
        files = {name: packed.read(name) for name in packed.namelist()}
    files["job.json"] = files["job.json"].replace(job.encode(), f"{job}-back".encode())
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as packed:
        for name, content in files.items():
            packed.writestr(name, content)
    back = client.post("/api/jobs/bundle", content=out.getvalue(), headers={"content-type": "application/zip"})
    assert back.status_code == 201
    assert back.json()["job"]["survey"]["photos"]["one"]["room"] == "kitchen"


def test_a_photo_of_nothing_there_is_refused(client, job):
    operation = {"op": "add", "path": "/survey/photos/one", "value": {"sha256": "0" * 64, "room": "cellar"}}
    body = {"id": f"nowhere-{job}", "base_version": 1, "operations": [operation]}
    answer = client.post(f"/api/jobs/{job}/changes", json=body)
    assert answer.status_code == 422
    assert answer.json()["problems"][0]["path"] == "/survey/photos/one/room"


SVG = b"<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>"


@pytest.mark.parametrize(
    ("data", "kind", "status", "said"),
    [
        (SVG, "image/svg+xml", 400, "no photograph"),
        (b"<html>", "image/jpeg", 400, "no photograph"),
        (b"\0\0\0\x18ftypheic", "image/heic", 400, "HEIC"),
        (jpeg()[1], "text/html", 415, "image/*"),
        (b"0" * (26 * 1024 * 1024), "image/jpeg", 413, "26,214,400"),
    ],
)
def test_what_is_no_picture_is_refused_and_nothing_kept(client, data, kind, status, said):
    sha256 = hashlib.sha256(data).hexdigest()
    answer = put(client, sha256, data, kind)
    assert answer.status_code == status
    assert said in answer.json()["message"]
    if sha256 != jpeg()[0]:
        assert client.get(f"/api/photos/{sha256}").status_code == 404


def test_a_picture_cut_off_on_the_way_is_refused(client):
    sha256, data = jpeg("navy")
    answer = put(client, sha256, data[:-20])
    assert answer.status_code == 400
    assert "fingerprint" in answer.json()["message"]


def test_a_file_is_taken_only_where_files_are_taken(client, job):
    """A write that is not JSON is let through at the few places that read files, and nowhere else."""
    csv = {"content-type": "text/csv"}
    assert client.post(f"/api/jobs/{job}/changes", content=b"What,Room\n", headers=csv).status_code == 415
    assert (
        client.post(f"/api/jobs/{job}/sheet", content=b"{}", headers={"content-type": "text/plain"}).status_code == 415
    )
    foreign = csv | {"origin": "http://elsewhere.example"}
    assert client.post(f"/api/jobs/{job}/sheet", content=b"What,Room\n", headers=foreign).status_code == 403


def test_a_sheet_says_what_it_would_do_and_changes_nothing(client, job):
    data = client.get(f"/api/jobs/{job}/survey.csv")
    assert data.headers["content-type"].startswith("text/csv")
    answer = client.post(f"/api/jobs/{job}/sheet", content=data.content, headers={"content-type": "text/csv"}).json()
    assert (answer["rooms"], answer["emitters"]) == (10, 10)  # floor loops are no row of a sheet
    assert client.get(f"/api/jobs/{job}").json()["version"] == 1
    body = {"id": f"taken-{job}", "base_version": 1, "operations": answer["operations"]}
    after = client.post(f"/api/jobs/{job}/changes", json=body).json()
    assert len(after["job"]["survey"]["rooms"]) == 20
    bad = b"What,Room,Height\n" + b"room,A,tall\n" * 3
    refused = client.post(f"/api/jobs/{job}/sheet", content=bad, headers={"content-type": "text/csv"})
    assert refused.status_code == 422
    assert [p["path"] for p in refused.json()["problems"]] == ["row 2, Height", "row 3, Room", "row 4, Room"]


@pytest.mark.parametrize(
    ("form", "start"),
    [("xlsx", b"PK"), ("dxf", b"  0"), ("svg", b"<svg"), ("pdf", b"%PDF"), ("csv", b"\xef\xbb\xbfWhat")],
)
def test_every_paper_goes_out(client, job, form, start):
    answer = client.get(f"/api/jobs/{job}/survey.{form}")
    assert answer.status_code == 200
    assert answer.content.startswith(start)
    assert "attachment" in answer.headers["content-disposition"]


def test_a_drawing_comes_in(client, job):
    data = client.get(f"/api/jobs/{job}/survey.dxf").content
    answer = client.post(f"/api/jobs/{job}/drawing", content=data, headers={"content-type": "image/vnd.dxf"})
    assert answer.json()["rooms"] == 10


def test_doubts_are_stamped_with_their_version(client, job):
    answer = client.get(f"/api/jobs/{job}/doubts", params={"standing": "bath"}).json()
    assert answer["version"] == 1
    assert answer["doubts"]["house"]["p10_w"] < answer["doubts"]["single_w"] < answer["doubts"]["house"]["p90_w"]
    assert answer["leaving"]["gaps"][0]["room"] == "bath"
    assert client.get("/api/jobs/none/doubts").status_code == 404


def test_a_chain_of_waiting_edits_knows_its_own_and_meets_only_others(client, job):
    """Three edits of one place made on version 1: the later know the earlier ones; somebody else's is still met."""

    def send(n, value, knows, path="/survey/rooms/kitchen/height_m"):
        operation = {"op": "replace", "path": path, "value": value}
        body = {"id": f"chain-{job}-{n}", "base_version": 1, "operations": [operation], "knows": knows}
        return client.post(f"/api/jobs/{job}/changes", json=body)

    assert send(1, 2.41, []).status_code == 200
    assert send(2, 2.42, []).json()["code"] == "stale_version"
    assert send(2, 2.42, [f"chain-{job}-1"]).status_code == 200
    other = {"op": "replace", "path": "/survey/rooms/kitchen/height_m", "value": 2.6}
    assert client.post(
        f"/api/jobs/{job}/changes", json={"id": f"other-{job}", "base_version": 3, "operations": [other]}
    ).status_code == 200  # fmt: skip
    met = send(3, 2.43, [f"chain-{job}-1", f"chain-{job}-2"])
    assert met.status_code == 409
    assert met.json()["detail"]["theirs"] == 2.6
    assert send(4, 2.5, [f"chain-{job}-1", f"chain-{job}-2"], "/survey/rooms/hall/height_m").status_code == 200


def test_an_undo_that_means_another_change_is_refused(client, job):
    operation = {"op": "replace", "path": "/title", "value": "A"}
    client.post(f"/api/jobs/{job}/changes", json={"id": f"first-{job}", "base_version": 1, "operations": [operation]})
    wrong = client.post(f"/api/jobs/{job}/undo", json={"id": f"undo-{job}-1", "of": f"never-{job}"})
    assert wrong.json()["code"] == "nothing_to_undo"
    right = client.post(f"/api/jobs/{job}/undo", json={"id": f"undo-{job}-2", "of": f"first-{job}"})
    assert right.status_code == 200


# ---- a tablet on the local network


def test_the_certificate_names_this_machine_and_is_kept(tmp_path):
    names = tls.addresses()
    assert names[-2:] == ["localhost", "127.0.0.1"]
    certificate, key = tls.make(tmp_path, names)
    first = certificate.read_bytes()
    made = x509.load_pem_x509_certificate(first)
    known = made.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    assert {str(name.value) for name in known} == set(names)
    assert key.stat().st_mode & 0o077 == 0
    assert tls.make(tmp_path, names)[0].read_bytes() == first
    assert tls.make(tmp_path, [*names, "other.local"])[0].read_bytes() != first
    assert tls.pairing_code(tmp_path) == tls.pairing_code(tmp_path)


class Tap:
    """Asks the application in this process, as if from an address of the network."""

    def __init__(self, app, address, host):
        self.transport = httpx.ASGITransport(app, client=(address, 4711))
        self.host, self.jar = host, {}

    def get(self, path, **headers):
        async def ask():
            async with httpx.AsyncClient(transport=self.transport, base_url=f"https://{self.host}") as client:
                return await client.get(path, headers=headers, cookies=self.jar)

        with ThreadPoolExecutor(1) as pool:  # the browser tests keep a loop running in this thread
            return pool.submit(lambda: asyncio.run(ask())).result()


def test_a_tablet_needs_the_code_and_only_our_names_are_answered(database, tmp_path):
    (tmp_path / "c.crt").write_text("certificate")
    app = create_app(database, tablet=Tablet(("192.0.2.7",), "right-code", tmp_path / "c.crt"))
    tablet = Tap(app, "192.0.2.50", "192.0.2.7:8740")
    assert tablet.get("/api/library").status_code == 403
    assert tablet.get("/certificate").text == "certificate"
    assert tablet.get("/pair/wrong-code").status_code == 403
    assert tablet.get("/pair/gr%C3%BCn").status_code == 403
    paired = tablet.get("/pair/right-code")
    cookie = paired.headers["set-cookie"].lower()
    assert all(word in cookie for word in ("httponly", "secure", "samesite=strict"))
    tablet.jar = {"cinder_pair": "right-code"}
    assert tablet.get("/api/library").status_code == 200
    assert tablet.get("/api/library", host="evil.example").status_code == 403
    assert Tap(app, "127.0.0.1", "127.0.0.1:8740").get("/api/library").status_code == 200
