"""Reading the log inside a transaction: what was done since, by whom it can be taken back, how the document once was."""

from __future__ import annotations

from typing import Any

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from cinder.errors import NotFound
from cinder.model.operation import Operation
from cinder.store import patch
from cinder.store.record import Done, Entry, Who
from cinder.store.tables import ChangeRow, Person

UNDO_DEPTH = 500
MOST_VERSION = 2**62


def operations_between(session: Session, who: Who, job_id: str, version: int, to: int) -> list[Operation] | None:
    """What was done to a job between two versions; None where it cannot be told as operations (it was brought up to
    another schema, or there is no such version)."""
    rows = session.execute(
        select(ChangeRow.kind, ChangeRow.operations)
        .where(
            ChangeRow.company_id == who.company_id, ChangeRow.job_id == job_id, ChangeRow.version > version,
            ChangeRow.version <= to,
        )
        .order_by(ChangeRow.version)
    ).all()  # fmt: skip
    told = version >= 1 and len(rows) == to - version and all(row.kind != "migration" for row in rows)
    return [operation for row in rows for operation in row.operations] if told else None


def changes_after(session: Session, who: Who, job_id: str, after: int) -> list[ChangeRow]:
    rows = select(ChangeRow).where(
        ChangeRow.company_id == who.company_id, ChangeRow.job_id == job_id, ChangeRow.version > after
    )
    return list(session.scalars(rows.order_by(ChangeRow.version)))


def stacks(session: Session, who: Who, job_id: str) -> tuple[list[Done], list[Done]]:
    """This person's changes that stand, and those taken back and not yet redone, newest last."""
    of = (ChangeRow.company_id == who.company_id, ChangeRow.job_id == job_id)
    brought_up = select(func.coalesce(func.max(ChangeRow.version), 0)).where(*of, ChangeRow.kind == "migration")
    rows = select(ChangeRow.version, ChangeRow.kind, ChangeRow.label).where(
        *of, ChangeRow.person_id == who.person_id, ChangeRow.version > brought_up.scalar_subquery()
    )
    mine = [Done(*row) for row in session.execute(rows.order_by(ChangeRow.version.desc()).limit(UNDO_DEPTH))]
    undo: list[Done] = []
    redo: list[Done] = []
    for done in reversed(mine):
        if done.kind == "edit":
            undo.append(done)
            redo.clear()
        elif done.kind == "undo" and undo:
            undo.pop()
            redo.append(done)
        elif done.kind == "redo" and redo:
            redo.pop()
            undo.append(done)
        elif done.kind == "create":
            undo.clear()
            redo.clear()
    return undo, redo


def labels(session: Session, who: Who, job_id: str) -> tuple[str | None, str | None]:
    """What undo and redo would do now."""
    undo, redo = stacks(session, who, job_id)
    return (undo[-1].label if undo else None, redo[-1].label if redo else None)


def document_at(session: Session, who: Who, job_id: str, version: int) -> dict[str, Any]:
    """The document as it was at a version. Only what lies between the last snapshot and the version is read."""
    of = (ChangeRow.company_id == who.company_id, ChangeRow.job_id == job_id)
    there = 0 < version <= MOST_VERSION and session.scalar(
        select(ChangeRow.version).where(*of, ChangeRow.version == version)
    )
    if not there:
        raise NotFound(f"There is no version {version} of this job.")
    begun = session.scalar(
        select(func.max(ChangeRow.version)).where(*of, ChangeRow.version <= version, ChangeRow.snapshot.is_not(None))
    )
    steps = select(ChangeRow.snapshot, ChangeRow.operations).where(
        *of, ChangeRow.version >= (begun or 0), ChangeRow.version <= version
    )
    document: Any = None
    for snapshot, operations in session.execute(steps.order_by(ChangeRow.version)):
        document = snapshot if snapshot is not None else patch.apply(document, operations)[0]
    return dict(document)


def entries(session: Session, who: Who, job_id: str, limit: int) -> list[Entry]:
    """The history of a job, newest first."""
    rows = session.execute(
        select(ChangeRow, Person.name)
        .join(Person, (Person.company_id == ChangeRow.company_id) & (Person.id == ChangeRow.person_id))
        .where(ChangeRow.company_id == who.company_id, ChangeRow.job_id == job_id)
        .order_by(ChangeRow.version.desc())
        .limit(limit)
    )
    return [Entry(r.version, r.change_id, r.person_id, name, r.kind, r.label, r.at, r.effect) for r, name in rows]
