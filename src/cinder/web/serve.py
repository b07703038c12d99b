"""Run the application on loopback."""

from __future__ import annotations

from pathlib import Path

import uvicorn

from cinder.errors import Refused
from cinder.store.database import engine, migrate
from cinder.store.log import ChangeLog
from cinder.web.app import DEMO, DEMO_COMPANY, DEMO_PERSON, create_app
from cinder.web.demo import seed


class NoDatabase(Refused):
    code = "no_database"


def serve(*, port: int, database: str | None, pages: Path | None) -> None:
    """Migrate, seed the sample job, serve on 127.0.0.1. Ends with the process."""
    if not database:
        raise NoDatabase("No database address: set CINDER_DATABASE or give --database. ./start does it for you.")
    connection = engine(database)
    migrate(connection)
    log = ChangeLog(connection)
    log.ensure_person(DEMO, company=DEMO_COMPANY, person=DEMO_PERSON)
    seed(log, DEMO)
    connection.dispose()
    uvicorn.run(
        create_app(database, pages), host="127.0.0.1", port=port, log_level="warning", timeout_graceful_shutdown=2
    )
