"""News of changed jobs and of papers being written: PostgreSQL NOTIFY in, server-sent events out. Works across processes."""

from __future__ import annotations

import asyncio
import logging
import threading
import time
from collections.abc import AsyncIterator

import orjson
import psycopg
from fastapi import FastAPI
from sse_starlette.sse import EventSourceResponse

from cinder.store.statements import CHANNEL
from cinder.web.asking import Asker

KINDS = ("missed", "paper", "reading", "plant", "put_away")
"""Events beside that of a new version."""
PING_S = 20
RETRY_S = 1.0
POLL_S = 1.0
logger = logging.getLogger("cinder.news")


class News:
    """One listening thread per process; each open page has a queue."""

    def __init__(self, address: str) -> None:
        self.address = address
        self.queues: dict[tuple[str, str], set[asyncio.Queue[bytes]]] = {}
        self.stopped = threading.Event()
        self.loop: asyncio.AbstractEventLoop | None = None
        self.thread = threading.Thread(target=self._listen, name="news", daemon=True)

    def start(self) -> None:
        self.loop = asyncio.get_running_loop()
        self.thread.start()

    def stop(self) -> None:
        self.stopped.set()

    def _listen(self) -> None:
        first = True
        while not self.stopped.is_set():
            try:
                with psycopg.connect(self.address, autocommit=True) as connection:
                    connection.execute(f"LISTEN {CHANNEL}")
                    if not first:
                        self._missed()
                    first = False
                    while not self.stopped.is_set():
                        for note in connection.notifies(timeout=POLL_S):
                            self._hand_out(note.payload.encode())
                        connection.execute("SELECT 1")  # a connection that was cut says so only when it is spoken to
            except (psycopg.Error, OSError):
                time.sleep(RETRY_S)
            except Exception:
                logger.exception("news")
                time.sleep(RETRY_S)

    def _missed(self) -> None:
        """After an outage nobody knows what was not heard: every open page is told to look."""
        for (company, job), queues in list(self.queues.items()):
            payload = orjson.dumps({"company": company, "job": job, "missed": True})
            for queue in list(queues):
                self._put(queue, payload)

    def _hand_out(self, payload: bytes) -> None:
        news = orjson.loads(payload)
        for queue in list(self.queues.get((news["company"], news["job"]), ())):
            self._put(queue, payload)

    def _put(self, queue: asyncio.Queue[bytes], payload: bytes) -> None:
        if self.loop is not None and not self.loop.is_closed():
            self.loop.call_soon_threadsafe(queue.put_nowait, payload)

    async def follow(self, company_id: str, job_id: str) -> AsyncIterator[dict[str, str]]:
        queue: asyncio.Queue[bytes] = asyncio.Queue()
        listeners = self.queues.setdefault((company_id, job_id), set())
        listeners.add(queue)
        try:
            while True:
                payload = await queue.get()
                said = orjson.loads(payload)
                kind = next((one for one in KINDS if one in said), "version")
                yield {"event": kind, "data": payload.decode()}
        finally:
            listeners.discard(queue)
            if not listeners:
                self.queues.pop((company_id, job_id), None)


def install(app: FastAPI, news: News) -> None:
    @app.get("/api/jobs/{job_id}/events")
    async def events(who: Asker, job_id: str) -> EventSourceResponse:
        """Server-sent events: a `version` event whenever the job changes."""
        return EventSourceResponse(news.follow(who.company_id, job_id), ping=PING_S)
