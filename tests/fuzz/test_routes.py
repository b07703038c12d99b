"""Every route, asked oddly: an answer or a refusal with words; never a fault, never a silent database."""

import asyncio
import copy
import re
import uuid
from concurrent.futures import ThreadPoolExecutor

import httpx
import pytest

from cinder.service.people import DEMO, DEMO_COMPANY, DEMO_PERSON
from cinder.web.app import create_app
from tests.conftest import house, tansy_cut
from tests.fuzz.mutate import ODD, WORDS, instead, leaves, mangled, put, seeds

STEPS = [
    "²", "%00", "%2e%2e%2f", "x" * 300, "0", "-1", "1", "99999999", str(2**63), str(2**70), "٣", "%F0%9F%A6%86", "a b", "~1", "~2", "",
    "parlour", "tansy", "lukewarm", "NaN", "1e400", "%ED%A0%80", "%", "constructions", "measures", "oak",
]  # fmt: skip
PATHS = ["/title", "/survey/rooms/parlour/walk/²", "/survey/rooms/parlour/walk/²/length_m", "/survey/rooms/parlour/walk/٣/length_m",
         "/survey/rooms/parlour/walk/1/length_m", "/survey/rooms/parlour/walk/-1/length_m", "/survey/rooms/parlour/label/0",
         "/survey/rooms/parlour/walk/-", "/survey/rooms/parlour/walk/0", "/a/~2", "", "/",
         "/survey/rooms/parlour/height_m", "/survey/rooms/parlour/walk/99999999999999999999", "/x" * 240, "/survey/rooms/\u00b2",
         "/survey/rooms/parlour/walk/01", "/schemes/lukewarm/flow_c", "/library/constructions/x"]  # fmt: skip
VALUES = [2**63, 2**70, -(2**64), 1e308, "\u202eabc", "x" * 5000, {}, [], {"a": {"b": []}}, True, None, 0.1, -0.0, "²"]


@pytest.fixture(scope="module")
def client(database):
    """The application in this process, so that a fault shows where it comes from."""
    app = create_app(database)
    app.state.services.log.ensure_person(DEMO, company=DEMO_COMPANY, person=DEMO_PERSON)
    client = httpx.AsyncClient(transport=httpx.ASGITransport(app=app), base_url="http://127.0.0.1")
    # a thread of its own: a browser's loop may be running in this one
    with ThreadPoolExecutor(1) as thread, asyncio.Runner() as runner:
        yield Asking(client, runner, thread)
    app.state.services.lanes.close()


class Asking:
    def __init__(self, client, runner, thread):
        self.client, self.runner, self.thread = client, runner, thread

    def request(self, method, path, **more):
        return self.thread.submit(self.runner.run, self.client.request(method, path, **more)).result()


@pytest.fixture(scope="module")
def job(client):
    document = tansy_cut() | {"id": f"odd-{uuid.uuid4().hex[:8]}"}
    assert client.request("POST", "/api/jobs/import", json=document).status_code == 201
    return document["id"]


def routes(client):
    """Method, path and body of everything the API says it has."""
    said = client.request("GET", "/api/openapi.json").json()
    for path, methods in said["paths"].items():
        if "/events" in path:
            continue  # it never ends
        for method, what in methods.items():
            yield method.upper(), path, what.get("requestBody")


def bodies(job):
    """Bodies that are nearly right, by the end of the path."""
    operation = {"op": "replace", "path": "/title", "value": "A"}
    change = {"id": "fuzz-change-1", "base_version": 1, "operations": [operation], "label": "A", "knows": []}
    return {
        "changes": change, "row": {"changes": [change]}, "undo": {"id": "fuzz-change-2"}, "redo": {"id": "fuzz-change-3"},
        "what-if": {"operations": [operation]}, "jobs": {"id": "fuzz-job", "title": "A", "age": "1920-1960", "climate": "mild-maritime"},
        "import": house("one-room"), "archive": {"archived": False}, "measures": {"chosen": ["draught-proofing"]},
        "change": {"chosen": ["x"], "flow_c": 44.0}, "way": {"way": "way:x"}, "papers": {"id": "fuzz-paper", "kind": "heat-loss"},
        "section": {"entry": {"id": "a", "label": "A", "element": "wall", "layers": []}, "inside_c": 20, "outside_c": -5},
        "heated": {"heated": {"method": "wet", "area_m2": 12.0, "spacing_m": 0.1}, "room_c": 20.0, "flow_c": 35.0, "spread_k": 5.0},
    }  # fmt: skip


def odd_body(rng, ends, job):
    shapes = bodies(job)
    body = shapes.get(ends, rng.choice(list(shapes.values())))
    places = list(leaves(body))
    body = copy.deepcopy(body)
    if isinstance(body, dict) and "id" in body:
        body["id"] = f"fuzz-{rng.seed_of}-{rng.randrange(10**6)}"
    for path, value in rng.sample(places, min(len(places), rng.randint(0, 3))):
        new = (
            rng.choice(PATHS)
            if path[-1] == "path"
            else rng.choice(VALUES)
            if path[-1] == "value"
            else instead(value, rng)
        )
        put(body, path, new)
    if rng.random() < 0.1:
        body = rng.choice([*ODD, *WORDS])
    return body


def test_no_odd_request_is_a_fault(client, job):
    every = list(routes(client))
    tried = 0
    for rng in seeds(2.0):
        method, path, wants = rng.choice(every)
        asked = path.replace("{job_id}", job) if rng.random() < 0.7 else path
        while "{" in asked:
            asked = re.sub(r"\{\w+\}", rng.choice(STEPS).replace("\\", ""), asked, count=1)
        query = (
            {}
            if rng.random() < 0.6
            else {rng.choice(["room_c", "load_w", "size", "label", "standing", "archived"]): rng.choice(STEPS)}
        )
        headers, content = {}, None
        if method in ("POST", "PUT", "PATCH") or wants:
            kind = rng.choice(["application/json"] * 6 + ["text/csv", "application/zip", "image/jpeg", "image/vnd.dxf"])
            headers = {"content-type": kind}
            body = odd_body(rng, path.rsplit("/", 1)[-1], job)
            try:
                content = httpx.Request("POST", "http://x", json=body).content
            except (TypeError, ValueError):
                content = repr(body).encode()
            if rng.random() < 0.15:
                content = mangled(content, rng)
        of = (rng.seed_of, method, asked, query, content and content[:300])
        try:
            answer = client.request(method, asked, params=query, headers=headers, content=content)
        except httpx.InvalidURL:
            continue
        except Exception as error:
            raise AssertionError((of, type(error), str(error)[:300])) from error
        assert answer.status_code < 500, (of, answer.status_code, answer.text[:300])
        tried += 1
    assert tried > 20
