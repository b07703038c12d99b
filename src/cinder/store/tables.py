"""The tables. Every row that belongs to a company carries its company, every change its person."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import (
    ARRAY,
    BigInteger,
    Boolean,
    DateTime,
    Float,
    ForeignKey,
    ForeignKeyConstraint,
    Index,
    LargeBinary,
    String,
    Text,
    UniqueConstraint,
    func,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    type_annotation_map = {
        dict[str, Any]: JSONB(none_as_null=True),
        list[Any]: JSONB(none_as_null=True),
        datetime: DateTime(timezone=True),
    }


class Company(Base):
    __tablename__ = "companies"
    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    name: Mapped[str] = mapped_column(Text)


class Person(Base):
    __tablename__ = "people"
    company_id: Mapped[str] = mapped_column(ForeignKey("companies.id"), primary_key=True)
    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    name: Mapped[str] = mapped_column(Text)


class JobRow(Base):
    """A job's current document and version; `summary` is written after the design, for the job list."""

    __tablename__ = "jobs"
    company_id: Mapped[str] = mapped_column(ForeignKey("companies.id"), primary_key=True)
    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    title: Mapped[str] = mapped_column(Text)
    version: Mapped[int] = mapped_column(BigInteger)
    schema_version: Mapped[int]
    document: Mapped[dict[str, Any]]
    summary: Mapped[dict[str, Any] | None]
    created_at: Mapped[datetime] = mapped_column(server_default=func.now())
    changed_at: Mapped[datetime] = mapped_column(server_default=func.now())
    archived_at: Mapped[datetime | None]


class ChangeRow(Base):
    """One entry of the log: what was done, its inverse, by whom, on which version it was made.

    `kind`: create (with a snapshot), edit, undo, redo, migration (with a snapshot; undo stops there).
    """

    __tablename__ = "changes"
    company_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    job_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    version: Mapped[int] = mapped_column(BigInteger, primary_key=True)
    change_id: Mapped[str] = mapped_column(String(64))
    person_id: Mapped[str] = mapped_column(String(64))
    kind: Mapped[str] = mapped_column(String(16))
    label: Mapped[str] = mapped_column(Text)
    refers_to: Mapped[str | None] = mapped_column(String(64))
    base_version: Mapped[int] = mapped_column(BigInteger)
    schema_version: Mapped[int]
    operations: Mapped[list[Any]]
    inverse: Mapped[list[Any]]
    touched: Mapped[list[Any]]
    body_sha256: Mapped[str] = mapped_column(String(64))
    snapshot: Mapped[dict[str, Any] | None]
    effect: Mapped[dict[str, Any] | None]
    at: Mapped[datetime] = mapped_column(server_default=func.now())

    __table_args__ = (
        ForeignKeyConstraint(["company_id", "job_id"], ["jobs.company_id", "jobs.id"]),
        ForeignKeyConstraint(["company_id", "person_id"], ["people.company_id", "people.id"]),
        Index("changes_by_id", "company_id", "job_id", "change_id", unique=True),
    )


class PhotoRow(Base):
    """A picture, kept as upright JPEG at three sizes under the fingerprint of the file that was sent."""

    __tablename__ = "photos"
    company_id: Mapped[str] = mapped_column(ForeignKey("companies.id"), primary_key=True)
    sha256: Mapped[str] = mapped_column(String(64), primary_key=True)
    person_id: Mapped[str] = mapped_column(String(64))
    width_px: Mapped[int]
    height_px: Mapped[int]
    full: Mapped[bytes] = mapped_column(LargeBinary)
    view: Mapped[bytes] = mapped_column(LargeBinary)
    thumb: Mapped[bytes] = mapped_column(LargeBinary)
    at: Mapped[datetime] = mapped_column(server_default=func.now())

    __table_args__ = (ForeignKeyConstraint(["company_id", "person_id"], ["people.company_id", "people.id"]),)


class CompanyEntryRow(Base):
    """An entry a company keeps for itself beside the library: a construction, a climate, its prices of a measure."""

    __tablename__ = "company_entries"
    company_id: Mapped[str] = mapped_column(ForeignKey("companies.id"), primary_key=True)
    kind: Mapped[str] = mapped_column(String(32), primary_key=True)
    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    person_id: Mapped[str] = mapped_column(String(64))
    edition: Mapped[int]
    data: Mapped[dict[str, Any]]
    at: Mapped[datetime] = mapped_column(server_default=func.now())

    __table_args__ = (ForeignKeyConstraint(["company_id", "person_id"], ["people.company_id", "people.id"]),)


class BlobRow(Base):
    """Something bulky (an hourly year), under its fingerprint."""

    __tablename__ = "blobs"
    company_id: Mapped[str] = mapped_column(ForeignKey("companies.id"), primary_key=True)
    sha256: Mapped[str] = mapped_column(String(64), primary_key=True)
    media: Mapped[str] = mapped_column(Text)
    data: Mapped[bytes] = mapped_column(LargeBinary)
    at: Mapped[datetime] = mapped_column(server_default=func.now())


class PaperRow(Base):
    """A document written in the background from a job at a version: how far it is, and at last the file."""

    __tablename__ = "papers"
    company_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    job_id: Mapped[str] = mapped_column(String(64))
    person_id: Mapped[str] = mapped_column(String(64))
    kind: Mapped[str] = mapped_column(String(32))
    version: Mapped[int] = mapped_column(BigInteger)
    state: Mapped[str] = mapped_column(String(16))
    progress: Mapped[int]
    step: Mapped[str] = mapped_column(Text)
    engine: Mapped[str] = mapped_column(Text)
    data: Mapped[bytes | None] = mapped_column(
        LargeBinary, deferred=True
    )  # megabytes: read where the file itself is asked for
    sha256: Mapped[str | None] = mapped_column(String(64))
    seconds: Mapped[float | None]
    tries: Mapped[int] = mapped_column(server_default="0")
    at: Mapped[datetime] = mapped_column(server_default=func.now())

    __table_args__ = (
        ForeignKeyConstraint(["company_id", "job_id"], ["jobs.company_id", "jobs.id"]),
        ForeignKeyConstraint(["company_id", "person_id"], ["people.company_id", "people.id"]),
        Index("papers_of_job", "company_id", "job_id", "at"),
    )


class ReadingSourceRow(Base):
    """Where readings of a job come from: a plant that was watched, or a file. `channels` name the places of every reading's figures;
    `told` what was odd about it."""

    __tablename__ = "reading_sources"
    company_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    job_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    person_id: Mapped[str] = mapped_column(String(64))
    kind: Mapped[str] = mapped_column(String(16))
    label: Mapped[str] = mapped_column(Text)
    channels: Mapped[list[str]] = mapped_column(ARRAY(Text))
    told: Mapped[list[Any]] = mapped_column(server_default="[]")
    at: Mapped[datetime] = mapped_column(server_default=func.now())

    __table_args__ = (ForeignKeyConstraint(["company_id", "job_id"], ["jobs.company_id", "jobs.id"]),)


class ReadingRow(Base):
    """One moment of a source: a figure for every channel, NULL where there is none."""

    __tablename__ = "readings"
    company_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    job_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    source_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    at: Mapped[datetime] = mapped_column(primary_key=True)
    figures: Mapped[list[float | None]] = mapped_column(ARRAY(Float))

    __table_args__ = (
        ForeignKeyConstraint(
            ["company_id", "job_id", "source_id"],
            ["reading_sources.company_id", "reading_sources.job_id", "reading_sources.id"],
            ondelete="CASCADE",
        ),
    )


class ReadingHourRow(Base):
    """A source that is whole (a file) by the hour: `mean` of every channel and of what its mode says, `least` and `greatest` of every
    channel; `hour` its end. Worked out once, so that a year by minutes is drawn at once."""

    __tablename__ = "reading_hours"
    company_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    job_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    source_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    hour: Mapped[datetime] = mapped_column(primary_key=True)
    mean: Mapped[list[float | None]] = mapped_column(ARRAY(Float))
    least: Mapped[list[float | None]] = mapped_column(ARRAY(Float))
    greatest: Mapped[list[float | None]] = mapped_column(ARRAY(Float))

    __table_args__ = (
        ForeignKeyConstraint(
            ["company_id", "job_id", "source_id"],
            ["reading_sources.company_id", "reading_sources.job_id", "reading_sources.id"],
            ondelete="CASCADE",
        ),
    )


class WatchedPlantRow(Base):
    """The plant a job is watched at: where, how often, who holds the lease, how it stands. `stand_in`: how a simulated one is to run;
    `orders` settings that are to be written, oldest first."""

    __tablename__ = "watched_plants"
    company_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    job_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    source_id: Mapped[str] = mapped_column(String(64))
    address: Mapped[str] = mapped_column(Text)
    stand_in: Mapped[dict[str, Any] | None]
    every_s: Mapped[float] = mapped_column(Float)
    wanted: Mapped[bool] = mapped_column(Boolean)
    lease_by: Mapped[str | None] = mapped_column(String(64))
    lease_until: Mapped[datetime | None]
    state: Mapped[str] = mapped_column(String(16))
    said: Mapped[str] = mapped_column(Text)
    problems: Mapped[list[Any]] = mapped_column(server_default="[]")
    orders: Mapped[list[Any]] = mapped_column(server_default="[]")
    last_at: Mapped[datetime | None]
    heard_at: Mapped[datetime | None]
    at: Mapped[datetime] = mapped_column(server_default=func.now())

    __table_args__ = (ForeignKeyConstraint(["company_id", "job_id"], ["jobs.company_id", "jobs.id"]),)


class AttemptRow(Base):
    """An attempt at practice: the job at a version, a seed, and what was done, in order; its score once it is over."""

    __tablename__ = "attempts"
    company_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    job_id: Mapped[str] = mapped_column(String(64))
    version: Mapped[int] = mapped_column(BigInteger)
    person_id: Mapped[str] = mapped_column(String(64))
    level: Mapped[str] = mapped_column(String(16))
    seed: Mapped[int] = mapped_column(BigInteger)
    deeds: Mapped[list[Any]] = mapped_column(server_default="[]")
    score: Mapped[dict[str, Any] | None]
    at: Mapped[datetime] = mapped_column(server_default=func.now())

    __table_args__ = (ForeignKeyConstraint(["company_id", "job_id"], ["jobs.company_id", "jobs.id"]),)


class IssuedRow(Base):
    """An offer or a pack as it was issued: from a version, by an engine, with the fingerprint of job and Design; `content` what it says,
    never changed afterwards; `accepted` who took which variant, when."""

    __tablename__ = "issued"
    company_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    job_id: Mapped[str] = mapped_column(String(64))
    person_id: Mapped[str] = mapped_column(String(64))
    kind: Mapped[str] = mapped_column(String(16))
    number: Mapped[int]
    version: Mapped[int] = mapped_column(BigInteger)
    engine: Mapped[str] = mapped_column(Text)
    fingerprint: Mapped[str] = mapped_column(String(64))
    content: Mapped[dict[str, Any]]
    accepted: Mapped[dict[str, Any] | None]
    at: Mapped[datetime] = mapped_column(server_default=func.now())

    __table_args__ = (
        ForeignKeyConstraint(["company_id", "job_id"], ["jobs.company_id", "jobs.id"]),
        UniqueConstraint("company_id", "job_id", "kind", "number", name="issued_numbers"),
    )


class FileRow(Base):
    """A file somebody brought in for the pack, under its fingerprint."""

    __tablename__ = "files"
    company_id: Mapped[str] = mapped_column(ForeignKey("companies.id"), primary_key=True)
    sha256: Mapped[str] = mapped_column(String(64), primary_key=True)
    person_id: Mapped[str] = mapped_column(String(64))
    media: Mapped[str] = mapped_column(Text)
    data: Mapped[bytes] = mapped_column(LargeBinary)
    at: Mapped[datetime] = mapped_column(server_default=func.now())


class ColumnMapRow(Base):
    """What the columns of a file of readings were said to be, by the heads of the file: the next such file is read so."""

    __tablename__ = "column_maps"
    company_id: Mapped[str] = mapped_column(ForeignKey("companies.id"), primary_key=True)
    heads_sha256: Mapped[str] = mapped_column(String(64), primary_key=True)
    mapped: Mapped[dict[str, Any]]
    at: Mapped[datetime] = mapped_column(server_default=func.now())
