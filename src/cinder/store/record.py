"""What is written to the log and read from it: who, a change, a job at a version, an entry."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from datetime import datetime
from typing import Any

import orjson

from cinder.model import SCHEMA, Job
from cinder.model.operation import Operation


@dataclass(frozen=True)
class Who:
    """The person a request runs as."""

    company_id: str
    person_id: str


@dataclass(frozen=True)
class Change:
    """A change as a client sends it."""

    id: str
    base_version: int
    operations: list[Operation]
    label: str = ""
    knows: tuple[str, ...] = ()
    """Ids of the sender's own earlier changes that this one was made on top of, before they were answered."""
    schema: int = SCHEMA
    """The schema of the document it was made on."""

    def sha256(self) -> str:
        body = {"base": self.base_version, "operations": self.operations, "label": self.label}
        return hashlib.sha256(orjson.dumps(body, option=orjson.OPT_SORT_KEYS)).hexdigest()


@dataclass(frozen=True)
class Applied:
    """A job at a version, with what undo and redo would do then. `replayed`: the change had been applied before."""

    version: int
    document: dict[str, Any]
    job: Job
    before_version: int
    undo_label: str | None = None
    redo_label: str | None = None
    replayed: bool = False
    operations: list[Operation] | None = None
    """What was done to the job since `before_version`, where that is known."""
    summary: dict[str, Any] | None = None
    """The job's line in the list as it was last written, where the job was read and not edited."""
    put_away: bool = False
    """Somebody took it out of the list of jobs; it can be read and edited as before."""


@dataclass(frozen=True)
class Held:
    """A job as this process last wrote or read it: told from what others write by its version and its moment."""

    version: int
    changed_at: datetime
    document: dict[str, Any]
    job: Job


@dataclass(frozen=True)
class Done:
    """A line of somebody's own undo stack."""

    version: int
    kind: str
    label: str


@dataclass(frozen=True)
class Entry:
    """A line of the history."""

    version: int
    change_id: str
    person_id: str
    person: str
    kind: str
    label: str
    at: datetime
    effect: dict[str, Any] | None
