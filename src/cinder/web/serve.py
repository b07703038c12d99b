"""Run the application on loopback."""

from __future__ import annotations

import json
import os
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import Any

import uvicorn
from fastapi import FastAPI

from cinder import memory
from cinder.errors import NoDatabase
from cinder.service.demo import seed
from cinder.service.people import DEMO, DEMO_COMPANY, DEMO_PERSON
from cinder.store.database import alone, engine, migrate
from cinder.store.log import ChangeLog
from cinder.store.photos import PhotoShelf
from cinder.twin.compiled import ready
from cinder.web.app import Tablet, create_app
from cinder.web.beside import SideBySide

KEEP_ALIVE_S = 75
"""How long a page that says nothing keeps its line: an engineer looks at a screen for a minute."""
HEALTH_S = 60
"""How long one of several processes may be silent before it is replaced."""


@dataclass(frozen=True)
class Served:
    """What a process that serves must know; handed on in its environment, so that several may serve one port."""

    database: str
    pages: str | None
    hosts: tuple[str, ...]
    code: str | None
    certificate: str | None


VARIABLE = "CINDER_SERVED"


def application() -> FastAPI:
    """The application as `serve` has been asked for it."""
    said = Served(**json.loads(os.environ[VARIABLE]))
    tablet = Tablet(tuple(said.hosts), said.code, Path(said.certificate)) if said.code and said.certificate else None
    app = create_app(said.database, Path(said.pages) if said.pages else None, tablet=tablet)
    ready()
    memory.settle()
    return app


def prepare(database: str) -> None:
    """Tables up to date, sample jobs there; processes that start at once wait for each other."""
    connection = engine(database)
    try:
        with alone(connection):
            migrate(connection)
            log = ChangeLog(connection)
            log.ensure_person(DEMO, company=DEMO_COMPANY, person=DEMO_PERSON)
            seed(log, PhotoShelf(connection), DEMO)
    finally:
        connection.dispose()


def serve(*, port: int, database: str | None, pages: Path | None, tls: Path | None = None, processes: int = 1) -> None:
    """Migrate, seed the sample jobs, serve on 127.0.0.1. Ends with the process.

    With `tls` (a folder for certificate and pairing code) it serves HTTPS to the local network, to paired tablets. With
    several `processes` they share the port, the database and the news; each remembers answers of its own.
    """
    if not database:
        raise NoDatabase("No database address: set CINDER_DATABASE or give --database. ./start does it for you.")
    prepare(database)
    options: dict[str, Any] = {"host": "127.0.0.1"}
    hosts: tuple[str, ...] = ()
    code, certificate = None, None
    if tls is not None:
        from cinder.web.tls import addresses, make, pairing_code

        hosts, code = tuple(addresses()), pairing_code(tls)
        certificate, key = make(tls, list(hosts))
        options = {"host": "0.0.0.0", "ssl_certfile": certificate, "ssl_keyfile": key}
    said = Served(database, str(pages) if pages else None, hosts, code, str(certificate) if certificate else None)
    os.environ[VARIABLE] = json.dumps(asdict(said))
    options |= {
        "factory": True, "port": port, "log_level": "warning", "timeout_graceful_shutdown": 2,
        "timeout_worker_healthcheck": HEALTH_S, "timeout_keep_alive": KEEP_ALIVE_S,
    }  # fmt: skip
    if processes > 1:
        SideBySide(uvicorn.Config("cinder.web.serve:application", workers=processes, **options)).run()
    else:
        uvicorn.run("cinder.web.serve:application", **options)
