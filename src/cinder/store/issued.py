"""Offers and packs as they were issued, and files brought in for them."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import Engine, func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session, sessionmaker

from cinder import ENGINE_VERSION
from cinder.errors import Conflict, NotFound
from cinder.store.record import Who
from cinder.store.tables import FileRow, IssuedRow, JobRow


@dataclass(frozen=True)
class Issued:
    """Something issued, with what it says."""

    id: str
    job_id: str
    kind: str
    number: int
    version: int
    engine: str
    fingerprint: str
    content: dict[str, Any]
    accepted: dict[str, Any] | None
    at: datetime


def _issued(row: IssuedRow) -> Issued:
    return Issued(
        row.id, row.job_id, row.kind, row.number, row.version, row.engine, row.fingerprint, row.content, row.accepted, row.at
    )  # fmt: skip


class IssuedShelf:
    """What companies issued, in one database. Nothing here is ever changed but that an offer is accepted, once."""

    def __init__(self, engine: Engine) -> None:
        self.session = sessionmaker(engine, expire_on_commit=False)

    def issue(
        self, who: Who, job_id: str, *, issue_id: str, kind: str, version: int, fingerprint: str, content: dict[str, Any]
    ) -> Issued:  # fmt: skip
        """Keep something as it is now, under the next number of its kind; asked for twice with one id, it is the same."""
        with self.session.begin() as session:
            known = session.get(IssuedRow, (who.company_id, issue_id))
            if known is not None:
                if known.job_id != job_id or known.kind != kind:
                    raise NotFound("Nothing of that name was issued for this job.")
                return _issued(known)
            # the job's row is held, so that two who issue at once get two numbers
            session.get(JobRow, (who.company_id, job_id), with_for_update=True)
            last = session.scalar(
                select(func.max(IssuedRow.number)).where(
                    IssuedRow.company_id == who.company_id, IssuedRow.job_id == job_id, IssuedRow.kind == kind
                )
            )
            row = IssuedRow(
                company_id=who.company_id, id=issue_id, job_id=job_id, person_id=who.person_id, kind=kind, number=(last or 0) + 1,
                version=version, engine=ENGINE_VERSION, fingerprint=fingerprint, content=content, accepted=None,
            )  # fmt: skip
            session.add(row)
            session.flush()
            session.refresh(row)
            return _issued(row)

    def of_job(self, who: Who, job_id: str, kind: str | None = None) -> list[Issued]:
        """What was issued for a job, the newest first."""
        wanted = select(IssuedRow).where(IssuedRow.company_id == who.company_id, IssuedRow.job_id == job_id)
        if kind is not None:
            wanted = wanted.where(IssuedRow.kind == kind)
        with self.session() as session:
            return [
                _issued(row) for row in session.scalars(wanted.order_by(IssuedRow.at.desc(), IssuedRow.number.desc()))
            ]

    def one(self, who: Who, issue_id: str) -> Issued:
        with self.session() as session:
            return _issued(self._row(session, who, issue_id))

    def known(self, who: Who, issue_id: str) -> Issued | None:
        """As `one`; None where nothing of that name was issued."""
        with self.session() as session:
            row = session.get(IssuedRow, (who.company_id, issue_id))
            return _issued(row) if row is not None else None

    def accept(self, who: Who, issue_id: str, accepted: dict[str, Any]) -> Issued:
        """Note who took which variant. Raises `Conflict` where that was said before, and otherwise."""
        with self.session.begin() as session:
            row = self._row(session, who, issue_id)
            if row.accepted is not None and row.accepted != accepted:
                raise Conflict("This offer was accepted before; it stays as it was accepted.")
            row.accepted = accepted
            return _issued(row)

    def _row(self, session: Session, who: Who, issue_id: str) -> IssuedRow:
        row = session.get(IssuedRow, (who.company_id, issue_id))
        if row is None:
            raise NotFound("Nothing of that name was issued.")
        return row


class FileShelf:
    """Files brought in, by fingerprint."""

    def __init__(self, engine: Engine) -> None:
        self.session = sessionmaker(engine, expire_on_commit=False)

    def keep(self, who: Who, data: bytes, media: str, *, session: Session | None = None) -> str:
        """Keep a file; gives its fingerprint. One that is there already is the same. `session`: of a transaction it belongs to."""
        sha256 = hashlib.sha256(data).hexdigest()
        row = {"company_id": who.company_id, "sha256": sha256, "person_id": who.person_id, "media": media, "data": data}
        stored = insert(FileRow).values(row).on_conflict_do_nothing()
        if session is not None:
            session.execute(stored)
        else:
            with self.session.begin() as own:
                own.execute(stored)
        return sha256

    def file(self, who: Who, sha256: str) -> tuple[str, bytes]:
        """Its kind and its bytes."""
        with self.session() as session:
            row = session.get(FileRow, (who.company_id, sha256))
        if row is None:
            raise NotFound("There is no such file.")
        return row.media, bytes(row.data)

    def has(self, who: Who, sha256: str) -> bool:
        with self.session() as session:
            return session.scalar(
                select(func.count()).select_from(FileRow).where(FileRow.company_id == who.company_id, FileRow.sha256 == sha256)
            ) == 1  # fmt: skip
