"""The queue of slow work, kept in the same database: who asks puts a task in, the worker takes it out."""

from __future__ import annotations

import asyncio
import contextlib
from collections.abc import Callable
from typing import Any

import procrastinate
from procrastinate.exceptions import AlreadyEnqueued, ConnectorException
from sqlalchemy import Engine, text

WRITE_PAPER = "write_paper"
TRIES = 3
"""How often a paper is begun before it is given up."""
WAIT_S = 2
SWEEP_S = 20.0
LOOK_S = 2.0
"""How often the queue is looked at, should the call that something came be missed."""
HEARTBEAT_S = 10.0
ALIVE_S = 35.0
Writer = Callable[[str, str, str], None]
"""Called with company, person and paper."""


def queue_app(address: str, writer: Writer | None = None) -> procrastinate.App:
    """The queue over a database. Without a `writer` it only takes orders."""
    app = procrastinate.App(connector=procrastinate.PsycopgConnector(conninfo=address, max_size=4))
    if writer is not None:
        write = writer

        @app.task(name=WRITE_PAPER, retry=procrastinate.RetryStrategy(max_attempts=TRIES, wait=WAIT_S))
        def write_paper(company_id: str, person_id: str, paper_id: str) -> None:
            write(company_id, person_id, paper_id)

    return app


class Orders:
    """Puts tasks into the queue. Opened when first used, so that a process that orders nothing connects nowhere."""

    def __init__(self, address: str) -> None:
        self.address = address
        self._app: procrastinate.App | None = None

    def write_paper(self, company_id: str, person_id: str, paper_id: str) -> None:
        """Order a paper; one that waits already is not ordered twice.

        Connections that an outage has cut are replaced; while the database is away it raises `ConnectorException`.
        """
        try:
            self._order(company_id, person_id, paper_id)
        except ConnectorException:
            self.close()
            self._order(company_id, person_id, paper_id)

    def _order(self, company_id: str, person_id: str, paper_id: str) -> None:
        if self._app is None:
            app = queue_app(self.address)
            app.open()
            self._app = app
        task = self._app.configure_task(WRITE_PAPER, queueing_lock=f"{company_id}/{paper_id}")
        with contextlib.suppress(AlreadyEnqueued):
            task.defer(company_id=company_id, person_id=person_id, paper_id=paper_id)

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


def forget_the_dead(connection: Engine) -> None:
    """Take out of the queue what a worker held that gives no sign of life; what it was to write is ordered anew."""
    gone = text(
        "DELETE FROM procrastinate_jobs WHERE status = 'doing' AND task_name = :task AND (worker_id IS NULL OR worker_id "
        "NOT IN (SELECT id FROM procrastinate_workers WHERE last_heartbeat > now() - make_interval(secs => :seconds)))"
    )
    with connection.begin() as c:
        c.execute(gone, {"task": WRITE_PAPER, "seconds": ALIVE_S})


async def run(address: str, writer: Writer, sweep: Callable[[], None], **options: Any) -> None:
    """Work until told to stop. One task at a time: a paper takes all of a core.

    `sweep` is called now and then, to order what was asked for and never came into the queue. Raises what the database
    raises when it goes away.
    """
    app = queue_app(address, writer)

    async def now_and_then() -> None:
        while True:
            await asyncio.sleep(SWEEP_S)
            await asyncio.to_thread(sweep)

    async with app.open_async():
        work = asyncio.ensure_future(
            app.run_worker_async(
                concurrency=1, update_heartbeat_interval=HEARTBEAT_S, stalled_worker_timeout=ALIVE_S,
                delete_jobs="always", fetch_job_polling_interval=LOOK_S, **options,
            )
        )  # fmt: skip
        tidy = asyncio.ensure_future(now_and_then())
        done, _ = await asyncio.wait({work, tidy}, return_when=asyncio.FIRST_COMPLETED)
        for task in (work, tidy):
            task.cancel()
        await asyncio.gather(work, tidy, return_exceptions=True)
        for task in done:
            task.result()
