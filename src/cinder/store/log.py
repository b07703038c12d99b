"""How an edit is kept: one transaction on the locked job row, the change and its inverse in the log."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import UTC, datetime
from typing import Any

import orjson
from sqlalchemy import Engine, event, func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session, sessionmaker
from sqlalchemy.orm.attributes import set_committed_value

from cinder.errors import (
    ChangeIdReused,
    CinderError,
    FutureVersion,
    NotFound,
    NothingToUndo,
    Problem,
    StaleVersion,
    TooLarge,
)
from cinder.model import SCHEMA, Job, parse, upgraded, upgraded_operations
from cinder.model.operation import Operation
from cinder.store import past, patch
from cinder.store.record import Applied, Change, Entry, Held, Who
from cinder.store.statements import BY_ID, CHANNEL, NOTE, ROW, ROW_ALONE, WRITE
from cinder.store.tables import ChangeRow, Company, JobRow, Person

MAX_DOCUMENT_BYTES = 8 * 1024 * 1024
SNAPSHOT_EVERY = 100
"""Changes after which the log keeps the whole document, so that an old version is read in constant time."""
HELD = 256
"""Jobs whose document is held in a process as it was last written or read (our choice)."""
REUSED = "The change id {!r} was used before for something else."


class ChangeLog:
    """Jobs and their log in one database."""

    def __init__(self, engine: Engine) -> None:
        self.engine = engine
        self.session = sessionmaker(engine, expire_on_commit=False)
        self._held: OrderedDict[tuple[str, str], Held] = OrderedDict()
        self._lock = threading.Lock()

    def _hold(self, who: Who, job_id: str, held: Held) -> None:
        with self._lock:
            self._held[who.company_id, job_id] = held
            self._held.move_to_end((who.company_id, job_id))
            while len(self._held) > HELD:
                self._held.popitem(last=False)

    def _holds(self, who: Who, job_id: str) -> Held | None:
        with self._lock:
            return self._held.get((who.company_id, job_id))

    def ensure_person(self, who: Who, *, company: str, person: str) -> None:
        """A company and a person of it, where they are not there yet; several processes may ask at once."""
        with self.session.begin() as session:
            session.execute(insert(Company).values(id=who.company_id, name=company).on_conflict_do_nothing())
            row = {"company_id": who.company_id, "id": who.person_id, "name": person}
            session.execute(insert(Person).values(row).on_conflict_do_nothing())

    def jobs(self, who: Who, *, archived: bool = False) -> list[JobRow]:
        with self.session() as session:
            rows = select(JobRow).where(JobRow.company_id == who.company_id)
            rows = rows.where(JobRow.archived_at.is_not(None) if archived else JobRow.archived_at.is_(None))
            return list(session.scalars(rows.order_by(JobRow.changed_at.desc())))

    def create(self, who: Who, document: dict[str, Any], *, beside: Callable[[Session], None] | None = None) -> Applied:
        """A new job; the log starts with a snapshot of it. Raises `ChangeIdReused` when the id is taken.

        `beside` keeps what belongs to the job in the same transaction: both are there, or neither.
        """
        document = upgraded(document)
        job = parse(document)
        self._written(document)
        with self.session.begin() as session:
            row = {"company_id": who.company_id, "id": job.id, "title": job.title, "version": 1,
                   "schema_version": SCHEMA, "document": document}  # fmt: skip
            made = session.execute(insert(JobRow).values(row).on_conflict_do_nothing().returning(JobRow.id))
            if made.scalar_one_or_none() is None:
                raise ChangeIdReused(f"There is already a job with the id {job.id!r}.")
            if beside is not None:
                beside(session)
            session.add(
                ChangeRow(
                    company_id=who.company_id, job_id=job.id, version=1, change_id=f"create-{job.id}"[:64],
                    person_id=who.person_id, kind="create", label="Job opened", base_version=0,
                    schema_version=SCHEMA, operations=[], inverse=[], touched=[], body_sha256="0" * 64,
                    snapshot=document,
                )
            )  # fmt: skip
        return Applied(1, document, job, 0)

    def current(self, who: Who, job_id: str) -> Applied:
        with self.session() as session:
            row = self._row(session, who, job_id, lock=False)
            labels = past.labels(session, who, job_id)
            job = self._job(who, row)
            return Applied(row.version, row.document, job, row.version, *labels, summary=row.summary,
                           put_away=row.archived_at is not None)  # fmt: skip

    def archive(self, who: Who, job_id: str, *, archived: bool) -> None:
        with self.session.begin() as session:
            row = self._row(session, who, job_id, lock=True)
            row.archived_at = datetime.now(UTC) if archived else None
            news = orjson.dumps({"company": who.company_id, "job": row.id, "put_away": archived})
            session.execute(select(func.pg_notify(CHANNEL, news.decode())))

    def apply(self, who: Who, job_id: str, change: Change) -> Applied:
        """Apply a change once. Commits before it returns: what is answered is kept.

        Raises `NotFound`, `InvalidChange`, `InvalidJob`, `ChangeIdReused`, `FutureVersion`,
        `StaleVersion` (with both values), `Conflict`.
        """
        patch.check(change.operations)
        sent = change.sha256()
        change = replace(change, operations=upgraded_operations(change.operations, change.schema))
        with self.session.begin() as session:
            row = self._row(session, who, job_id, lock=True)
            if change.base_version > row.version:
                raise FutureVersion(f"Version {change.base_version} is not written yet; the job is at {row.version}.")
            if change.base_version < row.version:  # what was applied before was made on an older version
                again = self._again(session, who, row, change.id, "edit", sent)
                if again is not None:
                    return again
            paths = patch.touched(row.document, change.operations)
            if change.base_version < row.version:
                self._rebase(session, who, row, change, paths)
            return self._write(session, who, row, change, paths, kind="edit", refers_to=None, sha256=sent)

    def apply_batch(self, who: Who, job_id: str, changes: Sequence[Change]) -> tuple[Applied, list[str]]:
        """Apply changes one after the other, each kept by itself, up to the first that is refused.

        The job after the last one kept, as one step from before the first, and the ids kept. Raises what `apply`
        raises when the first is refused: nothing was kept then.
        """
        first = last = self.apply(who, job_id, changes[0])
        kept, done = [changes[0].id], list(first.operations or [])
        for change in changes[1:]:
            try:
                last = self.apply(who, job_id, change)
            except CinderError:
                break
            kept.append(change.id)
            done += last.operations or []
        whole = last.version - first.before_version == len(kept)
        return replace(
            last, before_version=first.before_version, replayed=first.replayed and last.replayed,
            operations=done if whole else None,
        ), kept  # fmt: skip

    def undo(self, who: Who, job_id: str, change_id: str, *, of: str | None = None) -> Applied:
        """Take back this person's last change that stands, as a new change; `of` names the change that is meant."""
        return self._take_back(who, job_id, change_id, kind="undo", of=of)

    def redo(self, who: Who, job_id: str, change_id: str) -> Applied:
        """Take back this person's last undo, as a new change."""
        return self._take_back(who, job_id, change_id, kind="redo")

    def what_if(self, who: Who, job_id: str, operations: list[Operation]) -> tuple[int, dict[str, Any], Job]:
        """Version and document of the job as it is, and the job as it would be; nothing is written."""
        patch.check(operations)
        with self.session() as session:
            row = self._row(session, who, job_id, lock=False)
            now = self._job(who, row)
            document, _ = patch.apply(row.document, operations)
            return row.version, row.document, parse(document, (row.document, now))

    def since(self, who: Who, job_id: str, version: int, to: int) -> list[Operation] | None:
        """What was done to a job between two versions; None where it cannot be told as operations."""
        with self.session() as session:
            return past.operations_between(session, who, job_id, version, to)

    def history(self, who: Who, job_id: str, *, limit: int = 200) -> list[Entry]:
        with self.session() as session:
            self._row(session, who, job_id, lock=False)
            return past.entries(session, who, job_id, limit)

    def undoable(self, who: Who, job_id: str) -> tuple[str | None, str | None]:
        """Labels of what undo and redo would do now."""
        with self.session() as session:
            return past.labels(session, who, job_id)

    def document_at(self, who: Who, job_id: str, version: int) -> dict[str, Any]:
        """The document as it was at a version, by replaying the log from its last snapshot."""
        with self.session() as session:
            return past.document_at(session, who, job_id, version)

    def note(self, who: Who, job_id: str, version: int, *, summary: dict[str, Any], effect: dict[str, Any]) -> None:
        """Write what the design said of a version: only if the job is still at it."""
        with self.session.begin() as session:
            session.execute(
                NOTE,
                {
                    "company": who.company_id, "job": job_id, "at_version": version, "to_summary": summary,
                    "to_effect": effect,
                },
            )  # fmt: skip

    # ---- inside one transaction

    def _row(self, session: Session, who: Who, job_id: str, *, lock: bool) -> JobRow:
        held = self._holds(who, job_id)
        rows = ROW if held is None else ROW_ALONE  # its document is at hand, if nobody has written meanwhile
        row = session.scalar(rows.with_for_update() if lock else rows, {"company": who.company_id, "job": job_id})
        if row is None:
            raise NotFound(f"There is no job {job_id!r}.")
        if held is not None and (held.version, held.changed_at) == (row.version, row.changed_at):
            set_committed_value(row, "document", held.document)
        if row.schema_version < SCHEMA:
            if lock:
                self._bring_up(session, who, row)
            else:  # shown as it will be; written when somebody next writes
                session.expunge(row)
                row.document = upgraded(row.document)
        return row

    def _job(self, who: Who, row: JobRow) -> Job:
        """The job of a row; read again only where it is not held."""
        held = self._holds(who, row.id)
        if held is not None and held.document is row.document:
            return held.job
        job = parse(row.document)
        if row.schema_version == SCHEMA:
            self._hold(who, row.id, Held(row.version, row.changed_at, row.document, job))
        return job

    def _bring_up(self, session: Session, who: Who, row: JobRow) -> None:
        """A job of an older schema, before anything is written to it: an entry of its own, with a snapshot."""
        was = row.schema_version
        row.version, row.document, row.schema_version = row.version + 1, upgraded(row.document), SCHEMA
        session.add(
            ChangeRow(
                company_id=who.company_id, job_id=row.id, version=row.version, person_id=who.person_id, kind="migration",
                change_id=f"schema-{SCHEMA}-{row.version}", label=f"Brought from schema {was} to {SCHEMA}",
                base_version=row.version - 1, schema_version=SCHEMA, operations=[], inverse=[], touched=[],
                body_sha256="0" * 64, snapshot=row.document,
            )
        )  # fmt: skip
        session.flush()

    def _again(
        self, session: Session, who: Who, row: JobRow, change_id: str, kind: str, sha256: str | None
    ) -> Applied | None:
        """The answer given before, when this person sent this very change before; None when the id is new."""
        old = session.scalar(BY_ID, {"company": who.company_id, "job": row.id, "change": change_id})
        if old is None:
            return None
        same = old.kind == kind and old.person_id == who.person_id
        if not same or (sha256 is not None and old.body_sha256 != sha256):
            raise ChangeIdReused(REUSED.format(change_id))
        document = row.document
        if old.version != row.version:
            document = upgraded(past.document_at(session, who, row.id, old.version))
        labels = past.labels(session, who, row.id)
        return Applied(old.version, document, parse(document), old.version - 1, *labels, replayed=True,
                       put_away=row.archived_at is not None)  # fmt: skip

    def _rebase(self, session: Session, who: Who, row: JobRow, change: Change, paths: list[str]) -> None:
        for other in past.changes_after(session, who, row.id, change.base_version):
            if other.person_id == who.person_id and other.change_id in change.knows:
                continue
            met = next((p for p in paths for q in other.touched if patch.meets(p, q)), None)
            if met is None:
                continue
            wanted = next((op.get("value") for op in change.operations if patch.meets(op["path"], met)), None)
            name = session.scalar(
                select(Person.name).where(Person.company_id == who.company_id, Person.id == other.person_id)
            )
            raise StaleVersion(
                f"{name} changed the same place in version {other.version} ({other.label or 'an edit'}).",
                problems=(Problem(met, "was changed meanwhile"),),
                detail={
                    "path": met, "yours": wanted, "theirs": patch.value_at(row.document, met),
                    "version": row.version, "by": name,
                },
            )  # fmt: skip

    def _write(
        self, session: Session, who: Who, row: JobRow, change: Change, paths: list[str], *, kind: str,
        refers_to: str | None, sha256: str | None = None,
    ) -> Applied:  # fmt: skip
        held = self._holds(who, row.id)
        like = (held.document, held.job) if held is not None and held.document is row.document else None
        document, inverse = patch.apply(row.document, change.operations)
        job = parse(document, like)
        written = self._written(document)
        before, version = row.version, row.version + 1
        news = orjson.dumps({"company": who.company_id, "job": row.id, "version": version, "change": change.id})
        changed = datetime.now(UTC)
        said = {
            "company_id": who.company_id, "job_id": row.id, "version": version, "change_id": change.id,
            "person_id": who.person_id, "kind": kind, "label": change.label, "refers_to": refers_to,
            "base_version": change.base_version, "schema_version": SCHEMA, "operations": change.operations,
            "inverse": inverse, "touched": paths, "body_sha256": sha256 or change.sha256(),
            "snapshot": document if version % SNAPSHOT_EVERY == 0 else None,
        }  # fmt: skip
        wrote = session.execute(
            WRITE,
            {
                **{f"new_{name}": value for name, value in said.items()}, "company": who.company_id, "job": row.id,
                "to_document": written, "to_title": job.title, "to_changed_at": changed, "news": news.decode(),
            },
        )  # fmt: skip
        if wrote.first() is None:
            raise ChangeIdReused(REUSED.format(change.id))
        pending = Held(version, changed, document, job)
        event.listen(session, "after_commit", lambda _: self._hold(who, job.id, pending), once=True)
        put_away = row.archived_at is not None
        session.expunge(row)
        # an edit clears what could be done again, so it is known without looking what undo and redo would do now
        labels = (change.label, None) if kind == "edit" else past.labels(session, who, row.id)
        return Applied(version, document, job, before, *labels, operations=change.operations, put_away=put_away)

    def _written(self, document: dict[str, Any]) -> str:
        """A document as it is kept; raises `TooLarge` where it would take too much."""
        data = orjson.dumps(document)
        size = len(data)
        if size > MAX_DOCUMENT_BYTES:
            raise TooLarge(f"The job would take {size:,} bytes; at most {MAX_DOCUMENT_BYTES:,} are kept.")
        return data.decode()

    def _take_back(self, who: Who, job_id: str, change_id: str, *, kind: str, of: str | None = None) -> Applied:
        with self.session.begin() as session:
            row = self._row(session, who, job_id, lock=True)
            again = self._again(session, who, row, change_id, kind, None)
            if again is not None:
                return again
            undo, redo = past.stacks(session, who, job_id)
            stack = undo if kind == "undo" else redo
            if not stack:
                raise NothingToUndo(f"There is nothing of yours to {kind} here.")
            target = session.get_one(ChangeRow, (who.company_id, job_id, stack[-1].version))
            if of is not None and of not in (target.change_id, target.refers_to):
                raise NothingToUndo("The change that was to be taken back is not the last one of yours here.")
            self._untouched_since(session, who, row, target)
            change = Change(change_id, row.version, target.inverse, target.label)
            paths = patch.touched(row.document, target.inverse)
            return self._write(session, who, row, change, paths, kind=kind, refers_to=target.change_id)

    def _untouched_since(self, session: Session, who: Who, row: JobRow, target: ChangeRow) -> None:
        """My own later changes have all been taken back; somebody else's must not meet this one."""
        for other in past.changes_after(session, who, row.id, target.version):
            if other.person_id == who.person_id:
                continue
            met = next((p for p in target.touched for q in other.touched if patch.meets(p, q)), None)
            if met is not None:
                name = session.scalar(
                    select(Person.name).where(Person.company_id == who.company_id, Person.id == other.person_id)
                )
                raise StaleVersion(
                    f"{name} changed the same place since, in version {other.version}.",
                    problems=(Problem(met, "was changed since"),),
                    detail={"path": met, "by": name, "version": other.version},
                )
