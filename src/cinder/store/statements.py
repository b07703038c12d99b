"""What an edit says to the database, made ready once."""

from __future__ import annotations

from sqlalchemy import Text, bindparam, cast, func, select, update
from sqlalchemy.dialects.postgresql import JSONB, insert
from sqlalchemy.orm import defer

from cinder.store.tables import Base, ChangeRow, JobRow

CHANNEL = "cinder_job"
CHANGES, JOBS = (Base.metadata.tables[name] for name in ("changes", "jobs"))
ROW = select(JobRow).where(JobRow.company_id == bindparam("company"), JobRow.id == bindparam("job"))
ROW_ALONE = ROW.options(defer(JobRow.document))
CHANGED = (
    "company_id", "job_id", "version", "change_id", "person_id", "kind", "label", "refers_to", "base_version", "schema_version",
    "operations", "inverse", "touched", "body_sha256", "snapshot",
)  # fmt: skip
"""What an edit says of itself."""
OF_CHANGES = (CHANGES.c.company_id == bindparam("company"), CHANGES.c.job_id == bindparam("job"))
BY_ID = select(ChangeRow).where(
    ChangeRow.company_id == bindparam("company"), ChangeRow.job_id == bindparam("job"),
    ChangeRow.change_id == bindparam("change"),
)  # fmt: skip
_ADDED = (
    insert(CHANGES)
    .values(
        {
            column.name: bindparam(f"new_{column.name}", type_=column.type)
            for column in CHANGES.c
            if column.name in CHANGED
        }
    )
    .on_conflict_do_nothing(index_elements=["company_id", "job_id", "change_id"])
    .returning(CHANGES.c.version)
    .cte("added")
)
WRITE = (
    update(JOBS)
    .where(JOBS.c.company_id == bindparam("company"), JOBS.c.id == bindparam("job"), JOBS.c.version != _ADDED.c.version)
    .values(
        version=_ADDED.c.version, document=cast(bindparam("to_document", type_=Text), JSONB), title=bindparam("to_title"),
        changed_at=bindparam("to_changed_at"),
    )
    .returning(JOBS.c.version, func.pg_notify(CHANNEL, bindparam("news")))
)  # fmt: skip
"""The change, the job as it now is, and the news of it, in one statement; gives nothing where the id of the change was used before."""
NOTE = (
    update(CHANGES)
    .where(*OF_CHANGES, CHANGES.c.version == bindparam("at_version"))
    .values(effect=bindparam("to_effect", type_=CHANGES.c.effect.type))
    .add_cte(
        update(JOBS)
        .where(
            JOBS.c.company_id == bindparam("company"), JOBS.c.id == bindparam("job"),
            JOBS.c.version == bindparam("at_version"),
        )
        .values(summary=bindparam("to_summary", type_=JOBS.c.summary.type))
        .returning(JOBS.c.id)
        .cte("line")
    )
)  # fmt: skip
"""What the design said of a version: beside the change, and as the job's line where it still is at that version."""
