"""The worker: takes papers out of the queue and writes them. Started by ./start beside the server."""

from __future__ import annotations

import asyncio
import time

from cinder.errors import CinderError, NoDatabase
from cinder.exchange import papers
from cinder.exchange.report import heat_loss
from cinder.store.company import CompanyShelf
from cinder.store.database import engine, migrate
from cinder.store.log import ChangeLog, Who
from cinder.store.papers import PaperShelf
from cinder.store.queue import Orders, run
from cinder.web.desk import DesignDesk
from cinder.web.losses import material


class PaperWriter:
    """Writes papers from the jobs of one database, saying how far it is."""

    def __init__(self, database: str) -> None:
        self.engine = engine(database)
        log = ChangeLog(self.engine)
        self.shelf = PaperShelf(self.engine)
        self.desk = DesignDesk(log, CompanyShelf(self.engine))
        self.log = log

    def __call__(self, company_id: str, person_id: str, paper_id: str) -> None:
        """Write one paper. Whatever goes wrong is told in the paper itself; the worker goes on."""
        who = Who(company_id, person_id)
        started = time.perf_counter()
        try:
            paper = self.shelf.one(who, paper_id)
            if paper.state == "ready":
                return
            self.shelf.tell(who, paper_id, progress=10, step="reckoning the job and its range")
            made_of = material(self.log, self.desk, who, paper.job_id, paper.version)
            self.shelf.tell(who, paper_id, progress=35, step="laying out the pages")
            data = papers.pdf(heat_loss.html(made_of, for_print=True))
            self.shelf.finish(who, paper_id, data, time.perf_counter() - started)
        except Exception as error:
            said = error.message if isinstance(error, CinderError) else f"{type(error).__name__}: {str(error)[:200]}"
            self.shelf.tell(who, paper_id, progress=0, step=said, state="failed")


def work(*, database: str | None) -> None:
    """Work until stopped by a signal. Papers left over from a worker that died are taken up again."""
    if not database:
        raise NoDatabase("No database address: set CINDER_DATABASE or give --database. ./start does it for you.")
    writer = PaperWriter(database)
    migrate(writer.engine)
    papers.pdf("<p>warm</p>")  # loads what draws, so that the first paper does not wait for it
    orders = Orders(database)
    for who, paper_id in writer.shelf.unfinished():
        orders.write_paper(who.company_id, who.person_id, paper_id)
    orders.close()
    asyncio.run(run(database, writer))
