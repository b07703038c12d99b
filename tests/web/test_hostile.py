"""What a hostile or unlucky hour brings: no one body, file or row of questions stops the others, and a no has its reason."""

import asyncio
import hashlib
import io
import json
import threading
import uuid
import zipfile
from concurrent.futures import ThreadPoolExecutor

import httpx
import pytest
from PIL import Image
from sqlalchemy import event
from sqlalchemy.exc import DataError, IntegrityError, OperationalError, ProgrammingError

from cinder import patience
from cinder.errors import LeftAlone, NotFound
from cinder.exchange.survey.sheet import guard, unguard
from cinder.library import HourlyYear, entry_sha256, load, shipped_year
from cinder.library.years import sha256_of
from cinder.model import parse
from cinder.service.lane import Lane, has_left
from cinder.service.people import DEMO
from cinder.service.remembered import Remembered
from cinder.store.company import YEAR, CompanyShelf
from cinder.store.database import engine
from cinder.store.log import ChangeLog
from cinder.web.app import create_app
from cinder.web.gate import Gate
from cinder.web.problems import database_answer
from tests.conftest import ANNA, tansy_cut
from tests.web.conftest import change
from tests.web.test_survey_api import jpeg

ZIP = {"content-type": "application/zip"}
JSON = {"content-type": "application/json"}


def edit(base=1, value=2.5):
    operations = [{"op": "replace", "path": "/survey/rooms/hall/height_m", "value": value}]
    return {"id": uuid.uuid4().hex, "base_version": base, "operations": operations, "label": "test"}


# ---- lanes


class Inside:
    """The application in this process, with its lanes at hand."""

    def __init__(self, database):
        self.app = create_app(database)

    def run(self, scenario):
        """Run a coroutine that is given a client, in a thread without a loop of its own."""

        async def whole():
            async with self.app.router.lifespan_context(self.app):
                transport = httpx.ASGITransport(self.app, client=("127.0.0.1", 1))
                async with httpx.AsyncClient(transport=transport, base_url="http://127.0.0.1", timeout=60) as client:
                    return await scenario(client)

        with ThreadPoolExecutor(1) as pool:
            return pool.submit(lambda: asyncio.run(whole())).result()


@pytest.fixture
def inside(database):
    return Inside(database)


def test_slow_questions_take_no_thread_from_edits(inside):
    """The slow lane stands still, 120 questions wait in it: edits and health are answered all the same."""
    job = f"lanes-{uuid.uuid4().hex[:8]}"
    lanes = inside.app.state.services.lanes

    async def scenario(client):
        assert (await client.post("/api/jobs/import", json=tansy_cut() | {"id": job})).status_code == 201
        free = threading.Event()
        holding = asyncio.create_task(lanes.slow.run(free.wait))
        kinds = ("doubts", "year", "bills", "holding", "front", "schemes")
        asked = [asyncio.create_task(client.get(f"/api/jobs/{job}/{kinds[n % len(kinds)]}")) for n in range(120)]
        try:
            await asyncio.sleep(0.1)
            for n in range(3):
                answer = await asyncio.wait_for(
                    client.post(f"/api/jobs/{job}/changes", json=edit(1 + n, 2.5 + n / 10)), 30
                )
                assert answer.status_code == 200
                assert (await asyncio.wait_for(client.get("/api/health"), 30)).status_code == 200
            assert not any(task.done() for task in asked)
            assert lanes.slow.waiting == 121
        finally:
            free.set()
        await holding
        answers = await asyncio.gather(*asked)
        return {answer.status_code for answer in answers}

    assert inside.run(scenario) == {200}


def test_a_full_lane_says_come_again_and_edits_go_on(inside):
    job = f"lanes-{uuid.uuid4().hex[:8]}"
    lanes = inside.app.state.services.lanes
    lanes.slow.most = 3

    async def scenario(client):
        assert (await client.post("/api/jobs/import", json=tansy_cut() | {"id": job})).status_code == 201
        free = threading.Event()
        holding = [asyncio.create_task(lanes.slow.run(free.wait)) for _ in range(3)]
        try:
            await asyncio.sleep(0.1)
            refused = await client.get(f"/api/jobs/{job}/doubts")
            taken = await client.post(f"/api/jobs/{job}/changes", json=edit())
        finally:
            free.set()
        await asyncio.gather(*holding)
        return refused, taken

    refused, taken = inside.run(scenario)
    assert refused.status_code == 503
    assert refused.json()["code"] == "busy"
    assert taken.status_code == 200


def stood(lane, scenario):
    """Run a coroutine with a lane of one place that is held until `free` is set."""

    async def whole():
        free = threading.Event()
        holding = asyncio.create_task(lane.run(free.wait))
        await asyncio.sleep(0)
        try:
            return await asyncio.wait_for(scenario(free), 30)
        finally:
            free.set()
            await holding
            lane.close()

    with ThreadPoolExecutor(1) as pool:
        return pool.submit(lambda: asyncio.run(whole())).result()


def asked_by(lane, leaves, work):
    """A question of somebody who leaves when the event is set."""
    has_left.set(leaves.wait)
    return asyncio.create_task(lane.run(work))


def test_questions_of_those_who_left_come_last_and_are_answered_all_the_same():
    lane, done = Lane("test", width=1), []

    async def scenario(free):
        left, stays = asyncio.Event(), asyncio.Event()
        one, two, three = (
            asked_by(lane, leaves, lambda name=name: done.append(name))
            for name, leaves in (("one", left), ("two", stays), ("three", stays))
        )
        await asyncio.sleep(0.01)
        left.set()
        await asyncio.sleep(0.01)
        free.set()
        await asyncio.gather(one, two, three)
        return done

    assert stood(lane, scenario) == ["two", "three", "one"]


@pytest.mark.parametrize("somebody_waits", [True, False])
def test_work_nobody_waits_for_is_given_up_only_where_somebody_waits_behind_it(somebody_waits):
    lane = Lane("test", width=1)

    async def scenario(free):
        left, stays, began, finish = asyncio.Event(), asyncio.Event(), threading.Event(), threading.Event()

        def long():
            began.set()
            finish.wait(20)
            patience.go_on()
            return "whole"

        one = asked_by(lane, left, long)
        free.set()
        await asyncio.to_thread(began.wait, 20)
        two = asked_by(lane, stays, lambda: "two") if somebody_waits else None
        await asyncio.sleep(0.01)
        left.set()
        await asyncio.sleep(0.01)
        finish.set()
        answers = await asyncio.gather(one, *([two] if two else []), return_exceptions=True)
        return [str(answer) if isinstance(answer, LeftAlone) else answer for answer in answers]

    gave_up = ["Nobody waits for this answer any more.", "two"]
    assert stood(lane, scenario) == (gave_up if somebody_waits else ["whole"])


def test_a_connection_that_is_closed_is_one_who_left(inside):
    """Two ask through the application, the first closes its connection: the second is answered first."""
    job = f"lanes-{uuid.uuid4().hex[:8]}"
    lanes = inside.app.state.services.lanes

    async def scenario(client):
        assert (await client.post("/api/jobs/import", json=tansy_cut() | {"id": job})).status_code == 201
        free, order = threading.Event(), []
        holding = asyncio.create_task(lanes.slow.run(free.wait))

        def asks(what, stays):
            sent = iter([{"type": "http.request", "body": b"", "more_body": False}])

            async def receive():
                for message in sent:
                    return message
                await stays.wait()
                return {"type": "http.disconnect"}

            async def send(message):
                if message["type"] == "http.response.start":
                    order.append((what, message["status"]))

            path = f"/api/jobs/{job}/{what}"
            scope = {
                "type": "http", "asgi": {"version": "3.0"}, "http_version": "1.1", "method": "GET", "scheme": "http", "path": path,
                "raw_path": path.encode(), "query_string": b"", "headers": [(b"host", b"127.0.0.1")], "client": ("127.0.0.1", 1),
                "server": ("127.0.0.1", 80), "root_path": "",
            }  # fmt: skip
            return asyncio.create_task(inside.app(scope, receive, send))

        closed, open_ = asyncio.Event(), asyncio.Event()
        asked = [asks("bills", closed), asks("wiring", open_)]
        while lanes.slow.waiting < 3:
            await asyncio.sleep(0.01)
        closed.set()
        await asyncio.sleep(0.05)
        free.set()
        await asyncio.gather(holding, *asked)
        return order

    assert inside.run(scenario) == [("wiring", 200), ("bills", 200)]


def test_what_was_told_to_be_done_is_done_whoever_leaves():
    """Only a question is ended by leaving: of a write nobody looks whether its sender is still there."""
    asked = {
        ("GET", "/api/jobs/x/issued"): True, ("POST", "/api/jobs/x/issued"): False, ("POST", "/api/jobs/x/changes"): False,
        ("POST", "/api/jobs/x/measures"): True, ("POST", "/api/jobs/x/front/way"): True,  # a question with a body
    }  # fmt: skip
    watched = {}

    async def app(scope, receive, send):
        watched[scope["method"], scope["path"]] = has_left.get() is not None

    async def receive():
        return {"type": "http.request", "body": b"{}", "more_body": False}

    async def send(message):
        raise AssertionError(message)

    async def both():
        for method, path in asked:
            headers = [(b"host", b"127.0.0.1"), (b"content-type", b"application/json"), (b"content-length", b"2")]
            scope = {"type": "http", "method": method, "path": path, "headers": headers}
            await asyncio.create_task(Gate(app)(scope, receive, send))

    with ThreadPoolExecutor(1) as pool:
        pool.submit(lambda: asyncio.run(both())).result()
    assert watched == asked


def test_files_under_way_take_no_thread_from_edits(inside):
    """Both places for files are taken, and the check of a large body is under way: an edit is answered."""
    job = f"lanes-{uuid.uuid4().hex[:8]}"
    lanes = inside.app.state.services.lanes

    async def scenario(client):
        assert (await client.post("/api/jobs/import", json=tansy_cut() | {"id": job})).status_code == 201
        free = threading.Event()
        holding = [asyncio.create_task(lanes.files.run(free.wait)) for _ in range(2)]
        sent = asyncio.create_task(client.post("/api/jobs/import", content=b"[" * 4_000_000, headers=JSON))
        try:
            await asyncio.sleep(0.1)
            taken = await asyncio.wait_for(client.post(f"/api/jobs/{job}/changes", json=edit()), 30)
            assert not sent.done()
        finally:
            free.set()
        await asyncio.gather(*holding)
        return taken, await sent

    taken, sent = inside.run(scenario)
    assert taken.status_code == 200
    assert sent.status_code == 400


@pytest.mark.parametrize(("body", "status"), [
    (b"[" * 1_900_000, 400),
    (b'{"a":' + b"[[]," * 400_000 + b"[]", 400),
    (b'{"x":"' + b"y" * 7_900_000 + b'"}', 413),
    (b'{"id": "12345678", "base_version": 1, "operations": [{"op": "add", "path": "/a", "value": 1e999}]}', 400),
    (b'{"id": "12345678", "base_version": 18446744073709551616, "operations": []}', 400),
], ids=["deep", "many", "long", "infinite", "beyond 64 bits"])  # fmt: skip
def test_bodies_made_to_hold_the_server(client, job, body, status):
    answer = client.post(f"/api/jobs/{job}/changes", content=body, headers=JSON)
    assert answer.status_code in (status, 422)
    assert answer.json()["kept"]
    assert client.get(f"/api/jobs/{job}").json()["version"] == 1


# ---- a bundle is taken whole or not at all; a picture keeps its own name


def packed(files):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as zipped:
        for name, data in files.items():
            zipped.writestr(name, data)
    return out.getvalue()


def with_picture(name, sha256):
    document = tansy_cut() | {"id": name}
    document["survey"]["photos"] = {"one": {"sha256": sha256, "room": "kitchen"}}
    return json.dumps(document).encode()


def test_a_refused_bundle_stores_nothing(client, database):
    shelf = CompanyShelf(engine(database))
    year = shipped_year(load().climates["cool-inland"].year_sha256)
    hourly = HourlyYear(year.outdoor_c - 1.3, year.ghi_w_m2, year.dni_w_m2, year.dhi_w_m2).write()
    sha256, data = jpeg("salmon")
    document = json.loads(with_picture("half-a-bundle", sha256))
    climate = load().climates["cool-inland"].model_copy(update={"id": "own", "year_sha256": sha256_of(hourly)})
    document["library"]["climates"]["own"] = {
        "origin": "company", "edition": "1", "sha256": entry_sha256(climate), "data": climate.model_dump(mode="json"),
    }  # fmt: skip
    files = {
        "job.json": json.dumps(document).encode(),
        f"photos/{sha256}.jpg": data[:900],
        f"years/{sha256_of(hourly)}.csv": hourly,
    }
    refused = client.post("/api/jobs/bundle", content=packed(files), headers=ZIP)
    assert refused.status_code in (400, 422)
    assert "picture" in refused.json()["message"]
    assert client.get("/api/jobs/half-a-bundle").status_code == 404
    own = hashlib.sha256(data[:900]).hexdigest()
    for name in (sha256, own):
        assert client.get(f"/api/photos/{name}").status_code == 404
    assert shelf.blob(DEMO, sha256_of(hourly)) is None
    whole = files | {f"photos/{sha256}.jpg": data}
    taken = client.post("/api/jobs/bundle", content=packed(whole), headers=ZIP)
    assert taken.status_code == 201, taken.text
    assert shelf.blob(DEMO, sha256_of(hourly)) == hourly


def test_a_picture_that_is_not_what_its_name_says_is_kept_under_its_own(client):
    """Another picture under the name of one that is here already must never stand for it."""
    mine, teal = jpeg("teal")
    red, data = jpeg("crimson")
    assert client.put(f"/api/photos/{mine}", content=teal, headers={"content-type": "image/jpeg"}).status_code == 200
    files = {"job.json": with_picture("swapped", mine), f"photos/{mine}.jpg": data}
    taken = client.post("/api/jobs/bundle", content=packed(files), headers=ZIP)
    assert taken.status_code == 201
    assert taken.json()["job"]["survey"]["photos"]["one"]["sha256"] == red
    seen = {
        name: Image.open(io.BytesIO(client.get(f"/api/photos/{name}").content)).getpixel((9, 9)) for name in (mine, red)
    }
    assert seen[mine][0] < 40 < 180 < seen[red][0]  # teal has next to no red in it, crimson much


# ---- a year that is missing is not remembered


def test_a_year_that_was_missing_is_there_once_its_file_is_brought_in_any_process(database):
    log, shelf = ChangeLog(engine(database)), CompanyShelf(engine(database))
    log.ensure_person(ANNA, company="A", person="Anna")
    shipped = shipped_year(load().climates["cool-inland"].year_sha256)
    hourly = HourlyYear(shipped.outdoor_c - 0.4, shipped.ghi_w_m2, shipped.dni_w_m2, shipped.dhi_w_m2).write()
    document = tansy_cut()
    frozen = document["library"]["climates"][document["climate"]["entry"]]
    frozen["data"]["year_sha256"] = sha256_of(hourly)
    job = parse(document)
    first, second = Remembered(log, shelf), Remembered(log, shelf)  # as two processes hold them
    for desk in (first, second):
        assert desk.weather(ANNA, job)[0] is None
        assert desk.year(ANNA, job, 1).lacks
    with shelf.session.begin() as session:
        shelf.keep_blob(ANNA, sha256_of(hourly), hourly, YEAR, session=session)
    for desk in (first, second):
        found, _ = desk.weather(ANNA, job)
        assert found is not None
        assert not desk.year(ANNA, job, 1).lacks
        assert desk.weather(ANNA, job)[0] is found  # one that is there is


# ---- what the database says is told apart


def said(error):
    answer = database_answer(error)
    return answer.status_code, json.loads(answer.body)


def test_the_databases_errors_are_told_apart():
    lost = OperationalError("SELECT secret", {}, Exception("server closed the connection"))
    assert said(lost)[0] == 503
    twice = IntegrityError("INSERT secret", {}, Exception("duplicate key value"))
    assert said(twice)[0] == 409
    bad = DataError("INSERT secret", {}, Exception("integer out of range"))
    assert said(bad)[0] == 422
    fault = said(ProgrammingError("SELECT secret", {}, Exception("no such column")))
    assert fault[0] == 500
    assert fault[1]["code"] == "fault"
    assert fault[1]["detail"]["number"] in fault[1]["message"]
    for error in (lost, twice, bad):
        assert "secret" not in json.dumps(said(error)[1])


def test_two_who_open_one_job_at_once_are_told_apart(client):
    """A lost race is a conflict, and only one of them wins it."""
    body = json.dumps(tansy_cut() | {"id": "raced-for"}).encode()
    with ThreadPoolExecutor(6) as pool:
        answers = list(pool.map(lambda _: client.post("/api/jobs/import", content=body, headers=JSON), range(6)))
    assert sorted(a.status_code for a in answers) == [201, 409, 409, 409, 409, 409]


# ---- odd requests


@pytest.mark.parametrize("path", ["/%00", "/a%00b", "/" + "x" * 5000, "/" + "é" * 300, "/..%2f..%2fetc", "/job/%00"])
def test_odd_paths_give_the_page_or_no(client, path):
    assert client.get(path).status_code in (200, 404, 414)


def test_a_version_that_was_never_written_is_404_and_reads_no_log(client, job, database):
    read = []
    log = ChangeLog(engine(database))

    @event.listens_for(log.engine, "after_cursor_execute")
    def heard(conn, cursor, statement, *_):
        read.append(statement)

    assert client.get(f"/api/jobs/{job}/versions/99999999/file").status_code == 404
    assert client.get(f"/api/jobs/{job}/versions/99999999999999999999999/file").status_code in (404, 422)
    assert client.get(f"/api/jobs/{job}/versions/-1/file").status_code == 404
    with pytest.raises(NotFound):
        log.document_at(DEMO, job, 99_999_999)
    assert not any("operations" in statement for statement in read)


@pytest.mark.parametrize(("label", "kept"), [
    ("Hall \x1b[31mred\x07", "Hall [31mred"),
    ("up\u202enwod", "upnwod"),
    ("two\nlines\tand  more", "two lines and more"),
    ("<b>bold</b>", "<b>bold</b>"),
])  # fmt: skip
def test_labels_of_changes_are_plain_text(client, job, label, kept):
    sent = edit() | {"label": label}
    assert client.post(f"/api/jobs/{job}/changes", json=sent).status_code == 200
    assert client.get(f"/api/jobs/{job}/history").json()["entries"][0]["label"] == kept
    assert client.get(f"/api/jobs/{job}").json()["undo_label"] == kept


@pytest.mark.parametrize(
    "text", ["=1+1", "＝1+1", "\n=1+1", "\r\n＝HYPERLINK()", " \t=1", "+1", "−1", "-1", "＠x", "@x", "'=1", "plain"]
)
def test_cells_that_would_run_are_escaped_and_come_back_as_they_were(text):
    cell = guard(text)
    assert cell[0] in ("'", "p", "−")  # an apostrophe before it, unless it begins as no formula does
    assert unguard(cell) == text


@pytest.mark.parametrize(("host", "status"), [
    ("localhost:8740", 200), ("127.0.0.1", 200), ("[::1]:8740", 200), ("LOCALHOST", 200),
    ("localhost.evil.example", 403), ("127.0.0.1.evil.example", 403), ("evil-localhost", 403), ("[::1].evil.example", 403),
    ("localhost:8740.evil.example", 403), ("127.0.0.1@evil.example", 403), ("localhost:", 403), ("", 403), ("127.0.0.1:99999999", 403),
])  # fmt: skip
def test_the_host_is_compared_whole(inside, host, status):
    async def scenario(client):
        return (await client.get("/api/health", headers={"host": host})).status_code

    assert inside.run(scenario) == status


def test_an_edit_at_a_pointer_that_leads_nowhere_names_it(client, job):
    for path in ("/survey/rooms/hall/faces/²", "/survey/²", "/²/length_m", "/survey/rooms/~3"):
        answer = change(client, job, [{"op": "add", "path": path, "value": 1}])
        assert answer.status_code in (400, 422)
        assert answer.json()["problems"][0]["path"].startswith("/")
