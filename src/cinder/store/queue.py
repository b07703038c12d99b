"""The queue of slow work, kept in the same database: who asks puts a task in, the worker takes it out."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import procrastinate
from procrastinate.exceptions import AlreadyEnqueued
from sqlalchemy import Engine, text

WRITE_PAPER = "write_paper"
HEARTBEAT_S = 10.0
ALIVE_S = 35.0
Writer = Callable[[str, str, str], None]
"""Called with company, person and paper."""


def queue_app(address: str, writer: Writer | None = None) -> procrastinate.App:
    """The queue over a database. Without a `writer` it only takes orders."""
    app = procrastinate.App(connector=procrastinate.PsycopgConnector(conninfo=address, max_size=4))
    if writer is not None:
        write = writer

        @app.task(name=WRITE_PAPER)
        def write_paper(company_id: str, person_id: str, paper_id: str) -> None:
            write(company_id, person_id, paper_id)

    return app


class Orders:
    """Puts tasks into the queue. Opened when first used, so that a process that orders nothing connects nowhere."""

    def __init__(self, address: str) -> None:
        self.address = address
        self._app: procrastinate.App | None = None

    def write_paper(self, company_id: str, person_id: str, paper_id: str) -> None:
        """Order a paper; one that waits already is not ordered twice."""
        if self._app is None:
            app = queue_app(self.address)
            app.open()
            self._app = app
        task = self._app.configure_task(WRITE_PAPER, queueing_lock=f"{company_id}/{paper_id}")
        try:
            task.defer(company_id=company_id, person_id=person_id, paper_id=paper_id)
        except AlreadyEnqueued:
            return

    def close(self) -> None:
        if self._app is not None:
            self._app.close()
            self._app = None


def somebody_works(connection: Engine) -> bool:
    """Whether a worker has given a sign of life lately."""
    wanted = text(
        "SELECT count(*) FROM procrastinate_workers WHERE last_heartbeat > now() - make_interval(secs => :seconds)"
    )
    with connection.connect() as c:
        return bool(c.execute(wanted, {"seconds": ALIVE_S}).scalar_one())


async def run(address: str, writer: Writer, **options: Any) -> None:
    """Work until told to stop. One task at a time: a paper takes all of a core."""
    app = queue_app(address, writer)
    async with app.open_async():
        await app.run_worker_async(
            concurrency=1, update_heartbeat_interval=HEARTBEAT_S, stalled_worker_timeout=ALIVE_S, delete_jobs="successful",
            **options,
        )  # fmt: skip
