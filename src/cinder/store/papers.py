"""Documents written in the background: their state, their progress as news, the file at the end."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from datetime import datetime

import orjson
from sqlalchemy import Engine, select, text
from sqlalchemy.orm import Session, sessionmaker

from cinder import ENGINE_VERSION
from cinder.errors import NotFound
from cinder.store.record import Who
from cinder.store.statements import CHANNEL
from cinder.store.tables import PaperRow

SHOWN = 20


@dataclass(frozen=True)
class Paper:
    """A document without its file."""

    id: str
    job_id: str
    kind: str
    version: int
    state: str
    progress: int
    step: str
    sha256: str | None
    seconds: float | None
    at: datetime


def _paper(row: PaperRow) -> Paper:
    return Paper(
        row.id, row.job_id, row.kind, row.version, row.state, row.progress, row.step, row.sha256, row.seconds, row.at
    )


class PaperShelf:
    """Papers of companies in one database."""

    def __init__(self, engine: Engine) -> None:
        self.engine = engine
        self.session = sessionmaker(engine, expire_on_commit=False)

    def ask(self, who: Who, job_id: str, version: int, *, paper_id: str, kind: str) -> tuple[Paper, bool]:
        """Note a wanted document; asked for twice with one id, it is the same. True when it is new."""
        with self.session.begin() as session:
            row = session.get(PaperRow, (who.company_id, paper_id))
            if row is not None:
                if row.job_id != job_id:
                    raise NotFound("There is no such document of this job.")
                return _paper(row), False
            row = PaperRow(
                company_id=who.company_id, id=paper_id, job_id=job_id, person_id=who.person_id, kind=kind,
                version=version, state="waiting", progress=0, step="waiting for its turn", engine=ENGINE_VERSION,
            )  # fmt: skip
            session.add(row)
            session.flush()
            session.refresh(row)
            return _paper(row), True

    def begin(self, who: Who, paper_id: str) -> tuple[Paper, int]:
        """A document somebody begins to write, and how often that was done, this time counted."""
        with self.session.begin() as session:
            row = self._row(session, who, paper_id)
            if row.state != "ready":
                row.tries += 1
            return _paper(row), row.tries

    def tell(self, who: Who, paper_id: str, *, progress: int, step: str, state: str = "working") -> None:
        """How far a document is; everyone who looks at the job hears of it."""
        with self.session.begin() as session:
            row = self._row(session, who, paper_id)
            row.progress, row.step, row.state = progress, step, state
            self._news(session, row)

    def finish(self, who: Who, paper_id: str, data: bytes, seconds: float) -> None:
        with self.session.begin() as session:
            row = self._row(session, who, paper_id)
            row.data, row.sha256, row.seconds = data, hashlib.sha256(data).hexdigest(), seconds
            row.progress, row.step, row.state = 100, "ready", "ready"
            self._news(session, row)

    def paper(self, who: Who, paper_id: str) -> Paper:
        with self.session() as session:
            return _paper(self._row(session, who, paper_id))

    def unfinished(self) -> list[tuple[Who, str]]:
        """Every company's documents that were asked for and never came to an end."""
        with self.session() as session:
            wanted = select(PaperRow).where(PaperRow.state.in_(("waiting", "working"))).order_by(PaperRow.at)
            return [(Who(row.company_id, row.person_id), row.id) for row in session.scalars(wanted)]

    def of_job(self, who: Who, job_id: str) -> list[Paper]:
        """The documents of a job, newest first."""
        with self.session() as session:
            wanted = (
                select(PaperRow)
                .where(PaperRow.company_id == who.company_id, PaperRow.job_id == job_id)
                .order_by(PaperRow.at.desc())
                .limit(SHOWN)
            )
            return [_paper(row) for row in session.scalars(wanted)]

    def file(self, who: Who, paper_id: str) -> bytes:
        with self.session() as session:
            data = self._row(session, who, paper_id).data
        if data is None:
            raise NotFound("This document is not ready yet.")
        return bytes(data)

    def _row(self, session: Session, who: Who, paper_id: str) -> PaperRow:
        row = session.get(PaperRow, (who.company_id, paper_id))
        if row is None:
            raise NotFound("There is no such document.")
        return row

    def _news(self, session: Session, row: PaperRow) -> None:
        news = {"company": row.company_id, "job": row.job_id, "paper": row.id, "state": row.state,
                "progress": row.progress, "step": row.step}  # fmt: skip
        session.execute(
            text("SELECT pg_notify(:channel, :news)"), {"channel": CHANNEL, "news": orjson.dumps(news).decode()}
        )
