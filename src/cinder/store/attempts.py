"""Attempts at practice: kept as seed and deeds, for each person of a company."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import Engine, select
from sqlalchemy.orm import Session, sessionmaker

from cinder.errors import NotFound, Refused
from cinder.store.record import Who
from cinder.store.tables import AttemptRow

SHOWN = 40
MOST_DEEDS = 60


@dataclass(frozen=True)
class Attempt:
    id: str
    job_id: str
    version: int
    level: str
    seed: int
    deeds: tuple[dict[str, Any], ...]
    score: dict[str, Any] | None
    at: datetime


class AttemptShelf:
    """Attempts of companies in one database."""

    def __init__(self, engine: Engine) -> None:
        self.session = sessionmaker(engine, expire_on_commit=False)

    def begin(self, who: Who, job_id: str, attempt_id: str, *, version: int, level: str, seed: int) -> Attempt:
        with self.session.begin() as session:
            row = AttemptRow(
                company_id=who.company_id,
                id=attempt_id,
                job_id=job_id,
                version=version,
                person_id=who.person_id,
                level=level,
                seed=seed,
                deeds=[],
            )
            session.add(row)
            session.flush()
            session.refresh(row)
            return _attempt(row)

    def of_job(self, who: Who, job_id: str) -> list[Attempt]:
        """The attempts at a house, newest first."""
        wanted = (
            select(AttemptRow)
            .where(AttemptRow.company_id == who.company_id, AttemptRow.job_id == job_id)
            .order_by(AttemptRow.at.desc())
            .limit(SHOWN)
        )
        with self.session() as session:
            return [_attempt(row) for row in session.scalars(wanted)]

    def attempt(self, who: Who, job_id: str, attempt_id: str) -> Attempt:
        with self.session() as session:
            return _attempt(self._row(session, who, job_id, attempt_id))

    def done(
        self, who: Who, job_id: str, attempt_id: str, deed: dict[str, Any], *, before: int, score: dict[str, Any] | None
    ) -> Attempt:
        """One more deed, on top of `before` others; refused where somebody did another meanwhile."""
        with self.session.begin() as session:
            row = self._row(session, who, job_id, attempt_id, lock=True)
            if len(row.deeds) != before:
                raise Refused("Something was done in this attempt meanwhile: look again.")
            if before >= MOST_DEEDS:
                raise Refused(f"An attempt has at most {MOST_DEEDS} deeds: finish it.")
            row.deeds = [*row.deeds, deed]
            row.score = score
            return _attempt(row)

    def _row(self, session: Session, who: Who, job_id: str, attempt_id: str, *, lock: bool = False) -> AttemptRow:
        row = session.get(AttemptRow, (who.company_id, attempt_id), with_for_update=lock)
        if row is None or row.job_id != job_id:
            raise NotFound("There is no such attempt at this house.")
        return row


def _attempt(row: AttemptRow) -> Attempt:
    return Attempt(row.id, row.job_id, row.version, row.level, row.seed, tuple(row.deeds), row.score, row.at)
