"""What the tests of the API share: a client that waits for slow answers, a job that is the demo house, an edit."""

import itertools
import uuid

import httpx
import pytest

from tests.conftest import tansy_cut

NUMBER = itertools.count()


@pytest.fixture(scope="module")
def client(server):
    with httpx.Client(base_url=server.url, timeout=60) as client:
        yield client


@pytest.fixture
def job(client):
    document = tansy_cut() | {"id": f"demo-api-{next(NUMBER)}"}
    assert client.post("/api/jobs/import", json=document).status_code == 201
    return document["id"]


def change(client, job, operations, base=1):
    body = {"id": uuid.uuid4().hex, "base_version": base, "operations": operations, "label": "test"}
    return client.post(f"/api/jobs/{job}/changes", json=body)
