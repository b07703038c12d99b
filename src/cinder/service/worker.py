"""The worker: takes papers out of the queue and writes them, and watches plants. Started, and watched over, by ./start beside the server."""

from __future__ import annotations

import asyncio
import logging
import sys
import time
from dataclasses import replace
from functools import partial

import psycopg
from procrastinate.exceptions import ConnectorException
from sqlalchemy.exc import DBAPIError

from cinder import memory
from cinder.errors import CinderError, NoDatabase
from cinder.exchange import pack_zip, papers
from cinder.exchange.report import PAPERS, Material
from cinder.handover.pack import PackFound
from cinder.handover.promise import Promise
from cinder.library import load
from cinder.service.faults import fault_number
from cinder.service.handed import Handed
from cinder.service.plants import PlantWatch
from cinder.service.remembered import Remembered
from cinder.service.report import material
from cinder.store.company import CompanyShelf
from cinder.store.database import engine, migrate
from cinder.store.issued import FileShelf, Issued, IssuedShelf
from cinder.store.log import ChangeLog
from cinder.store.papers import Paper, PaperShelf
from cinder.store.photos import PhotoShelf
from cinder.store.queue import TRIES, Orders, forget_the_dead, run
from cinder.store.record import Who
from cinder.twin.compiled import ready

AWAY = (psycopg.OperationalError, psycopg.InterfaceError, ConnectorException, DBAPIError)
"""What is raised while the database is away."""
AGAIN_S = 2.0
logger = logging.getLogger("cinder.worker")


class PaperWriter:
    """Writes papers from the jobs of one database, saying how far it is."""

    def __init__(self, database: str) -> None:
        self.engine = engine(database)
        log = ChangeLog(self.engine)
        self.shelf = PaperShelf(self.engine)
        self.remembered = Remembered(log, CompanyShelf(self.engine))
        self.issued, self.files, self.photos = IssuedShelf(self.engine), FileShelf(self.engine), PhotoShelf(self.engine)
        self.handed = Handed(self.remembered, self.issued)
        self.log = log

    def __call__(self, company_id: str, person_id: str, paper_id: str) -> None:
        """Write one paper. What it was refused for is told in the paper; a fault is tried again, three times in all.

        Raises what the database raises while it is away, and faults that are to be tried again.
        """
        who = Who(company_id, person_id)
        started = time.perf_counter()
        paper, tries = self.shelf.begin(who, paper_id)
        if paper.state == "ready":
            return
        if tries > TRIES:
            self._give_up(who, paper_id, f"it was begun {TRIES} times and never came to an end. Ask for it once more.")
            return
        try:
            self.shelf.tell(who, paper_id, progress=10, step="reckoning the job and its range")
            made_of = material(self.log, self.handed, self.photos, who, paper.job_id, paper.version, issued=paper_id)
            self.shelf.tell(who, paper_id, progress=35, step="laying out the pages")
            data = self._written(who, paper, made_of)
            self.shelf.finish(who, paper_id, data, time.perf_counter() - started)
        except AWAY:
            raise
        except CinderError as error:
            self._give_up(who, paper_id, error.message)
        except Exception as error:
            number = fault_number(error)
            if tries >= TRIES:
                self._give_up(who, paper_id, f"a fault of ours, number {number} in the log.")
                return
            self.shelf.tell(who, paper_id, progress=0, step="it is tried once more", state="waiting")
            raise

    def _written(self, who: Who, paper: Paper, made_of: Material) -> bytes:
        """The file: a PDF, or the zip of an issued pack."""
        pack = self.issued.known(who, paper.id) if paper.kind == "pack" else None
        if pack is None:
            return papers.pdf(PAPERS[paper.kind][1](made_of, for_print=True), made_of.picture)
        accepted = next((one for one in self.issued.of_job(who, paper.job_id, "offer") if one.accepted), None)
        said = PackFound.model_validate(pack.content["pack"])
        kept = replace(
            made_of, pack=lambda: said, upkeep=lambda: self.handed.upkeep(who, made_of.job, paper.version, sequence=pack.number),
            promise=lambda: Promise.model_validate(pack.content["promise"]),
        )  # fmt: skip

        def brought(sha256: str) -> tuple[str, bytes] | None:
            return self.files.file(who, sha256) if self.files.has(who, sha256) else None

        return pack_zip.write(
            kept, self.log.document_at(who, paper.job_id, paper.version), number=pack.number, brought=brought,
            offer=partial(self._offer_page, who, accepted) if accepted else None,
            told=lambda n, step: self.shelf.tell(who, paper.id, progress=n, step=step),
        )  # fmt: skip

    def _offer_page(self, who: Who, accepted: Issued) -> str:
        """The accepted offer as it was issued, with who took it on its front."""
        made_of = material(
            self.log, self.handed, self.photos, who, accepted.job_id, accepted.version, issued=accepted.id
        )
        return PAPERS["offer"][1](made_of, for_print=True)

    def _give_up(self, who: Who, paper_id: str, why: str) -> None:
        self.shelf.tell(who, paper_id, progress=0, step=why, state="failed")


def work(*, database: str | None) -> None:
    """Work until stopped by a signal. Papers left over from a worker that died are taken up again; while the database is
    away it waits for it."""
    if not database:
        raise NoDatabase("No database address: set CINDER_DATABASE or give --database. ./start does it for you.")
    writer = PaperWriter(database)
    orders = Orders(database)

    def sweep() -> None:
        for who, paper_id in writer.shelf.unfinished():
            orders.write_paper(who.company_id, who.person_id, paper_id)

    plants = PlantWatch(writer.engine, writer.log, writer.remembered)
    papers.warm()  # so that the first paper does not wait for what draws, reckons and is read
    load()
    ready()
    memory.settle()
    while True:
        try:
            migrate(writer.engine)
            forget_the_dead(writer.engine)
            sweep()
            plants.start()
            asyncio.run(run(database, writer, sweep))
            plants.stop()
            return
        except AWAY as error:
            print(
                f"worker: the database is away ({type(error).__name__}); waiting for it.", file=sys.stderr, flush=True
            )
            writer.engine.dispose()
            orders.close()
            time.sleep(AGAIN_S)
