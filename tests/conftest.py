"""What the tests share: a PostgreSQL of their own, a served application, the houses."""

from __future__ import annotations

import os
import shutil
import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from importlib.resources import files
from pathlib import Path

import httpx
import pytest
from hypothesis import settings

from cinder.design import design
from cinder.exchange.jobs import brief
from cinder.model import parse
from cinder.store.cluster import Cluster
from cinder.store.database import engine, migrate
from cinder.store.log import ChangeLog
from cinder.store.record import Who

PATIENT = httpx.get.__kwdefaults__[
    "timeout"
]  # one object, which every call and client without a timeout of its own has
PATIENT.read = PATIENT.connect = 60.0  # a wait, not a speed: a busy machine of two cores takes its time
settings.register_profile("here", deadline=None)  # what is compiled is compiled in the first example
settings.load_profile("here")
HOUSES = Path(__file__).parent / "houses"
ROOT = Path(__file__).parents[1]


def free_port() -> int:
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return s.getsockname()[1]


def new_cluster() -> tuple[Cluster, Path]:
    folder = Path(tempfile.mkdtemp(prefix="cinder-"))
    folder.chmod(0o755)
    return Cluster(folder / "pg"), folder


@pytest.fixture(scope="session")
def database() -> Iterator[str]:
    cluster, folder = new_cluster()
    url = cluster.start()
    migrate(engine(url))
    yield url
    cluster.stop()
    shutil.rmtree(folder, ignore_errors=True)


def new_database(url: str, name: str) -> str:
    """The address of an empty database of that name beside the given one."""
    import psycopg

    base, _, _ = url.rpartition("/")
    with psycopg.connect(url, autocommit=True) as connection:
        connection.execute(f"DROP DATABASE IF EXISTS {name}")
        connection.execute(f"CREATE DATABASE {name}")
    return f"{base}/{name}"


ANNA, BERT = Who("company-a", "anna"), Who("company-a", "bert")
STRANGER = Who("company-b", "cleo")


@pytest.fixture(scope="session")
def log(database: str) -> ChangeLog:
    log = ChangeLog(engine(database))
    log.ensure_person(ANNA, company="A", person="Anna")
    log.ensure_person(BERT, company="A", person="Bert")
    log.ensure_person(STRANGER, company="B", person="Cleo")
    return log


def house(name: str) -> dict:
    """A reference house as a job document."""
    return brief.document((HOUSES / f"{name}.toml").read_bytes())


def tansy_cut() -> dict:
    return _demo("tansy-cut")


def counting_house() -> dict:
    return _demo("counting-house")


def oat_store() -> dict:
    return _demo("oat-store")


def _demo(name: str) -> dict:
    return brief.document(files("cinder.exchange").joinpath("demo", f"{name}.toml").read_bytes())


def judged(document: dict):
    return design(parse(document))


GATEWAY = f"127.0.0.1:{free_port()}"
"""The one gateway an operator has listed, for whoever starts one there."""


class Server:
    """The application in a process of its own, as `cinder serve` runs it."""

    def __init__(self, database: str, port: int, *options: str) -> None:
        self.database, self.port, self.options = database, port, options
        self.url = f"http://127.0.0.1:{port}"
        self.start()

    def start(self) -> None:
        pages = ROOT / "frontend" / "build"
        command = [sys.executable, "-m", "cinder.cli", "serve", "--port", str(self.port), "--pages", str(pages)]
        command += self.options
        environment = os.environ | {"CINDER_DATABASE": self.database, "CINDER_GATEWAYS": GATEWAY}
        self.process = subprocess.Popen(command, env=environment)
        for _ in range(900):  # a cold machine reads its libraries from disk first: some 8 s, twice that when it is busy
            try:
                urllib.request.urlopen(f"{self.url}/api/health", timeout=1)
                return
            except OSError:
                if self.process.poll() is not None:
                    raise RuntimeError("the server ended at once") from None
                time.sleep(0.1)
        raise RuntimeError("the server does not answer")

    def kill(self) -> None:
        self.process.kill()
        self.process.wait()

    def stop(self) -> None:
        self.process.terminate()
        self.process.wait(timeout=60)  # a wait, not a speed


@pytest.fixture(scope="session")
def server(database: str) -> Iterator[Server]:
    served = Server(database, free_port())
    yield served
    served.stop()


@contextmanager
def working(server: Server) -> Iterator[subprocess.Popen]:
    """Somebody who writes papers, as `cinder worker` runs it."""
    environment = os.environ | {"CINDER_DATABASE": server.database, "CINDER_GATEWAYS": GATEWAY}
    process = subprocess.Popen([sys.executable, "-m", "cinder.cli", "worker"], env=environment)
    try:
        yield process
    finally:
        process.terminate()
        process.wait(timeout=20)


@pytest.fixture(scope="session")
def worker(server: Server) -> Iterator[subprocess.Popen]:
    with working(server) as process:
        yield process


@contextmanager
def whole() -> Iterator[Server]:
    """The application on a database of its own, with somebody who writes papers; all of it gone afterwards."""
    cluster, folder = new_cluster()
    served = Server(cluster.start(), free_port())
    try:
        with working(served):
            yield served
    finally:
        served.stop()
        cluster.stop()
        shutil.rmtree(folder, ignore_errors=True)
