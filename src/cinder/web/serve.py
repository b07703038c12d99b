"""Run the application on loopback."""

from __future__ import annotations

import gc
from pathlib import Path

import uvicorn

from cinder.errors import NoDatabase
from cinder.store.database import engine, migrate
from cinder.store.log import ChangeLog
from cinder.store.photos import PhotoShelf
from cinder.web.app import Tablet, create_app
from cinder.web.asking import DEMO, DEMO_COMPANY, DEMO_PERSON
from cinder.web.demo import seed


def settle_memory() -> None:
    """Set everything made so far aside from garbage collection, and collect seldom.

    A full collection over the loaded libraries takes several times as long as an edit; what a request leaves
    behind holds next to no cycles.
    """
    gc.collect()
    gc.freeze()
    gc.set_threshold(20_000, 50, 100)


def serve(*, port: int, database: str | None, pages: Path | None, tls: Path | None = None) -> None:
    """Migrate, seed the sample jobs, serve on 127.0.0.1. Ends with the process.

    With `tls` (a folder for certificate and pairing code) it serves HTTPS to the local network, to paired tablets.
    """
    if not database:
        raise NoDatabase("No database address: set CINDER_DATABASE or give --database. ./start does it for you.")
    connection = engine(database)
    migrate(connection)
    log = ChangeLog(connection)
    log.ensure_person(DEMO, company=DEMO_COMPANY, person=DEMO_PERSON)
    seed(log, PhotoShelf(connection), DEMO)
    connection.dispose()
    if tls is None:
        app = create_app(database, pages)
        settle_memory()
        uvicorn.run(app, host="127.0.0.1", port=port, log_level="warning", timeout_graceful_shutdown=2)
        return
    from cinder.web.tls import addresses, make, pairing_code

    names = addresses()
    certificate, key = make(tls, names)
    app = create_app(database, pages, tablet=Tablet(tuple(names), pairing_code(tls), certificate))
    settle_memory()
    uvicorn.run(
        app, host="0.0.0.0", port=port, log_level="warning", timeout_graceful_shutdown=2, ssl_certfile=certificate,
        ssl_keyfile=key,
    )  # fmt: skip
