"""Reading a document into a Job: recognise it, bring it up to date, validate it, check its references."""

from __future__ import annotations

import secrets
from typing import Any

from pydantic import ValidationError

from cinder.errors import InvalidJob, NewerSchema, NotAJob
from cinder.library import EDITION, Entry, Library, entry_sha256
from cinder.library.plainly import problems_of
from cinder.model.job import FORMAT, Job
from cinder.model.references import problems
from cinder.model.sharing import Sharing
from cinder.model.spoken import said
from cinder.model.upgrade import SCHEMA, upgraded, version_of

SHOWN_PROBLEMS = 20
_sharing = Sharing()


def new_id() -> str:
    """A fresh id with 64 random bits."""
    return secrets.token_urlsafe(8)


def freeze(entry: Entry, *, edition: str = EDITION) -> dict[str, Any]:
    """The frozen copy of a library entry, as it lies in a job."""
    return {
        "origin": "library",
        "edition": edition,
        "sha256": entry_sha256(entry),
        "data": entry.model_dump(mode="json"),
    }


def empty_job(*, job_id: str, title: str, library: Library) -> dict[str, Any]:
    """A new job document: the standard tables, one part, one storey, one scheme; nothing surveyed."""
    return {
        "format": FORMAT,
        "schema": SCHEMA,
        "id": job_id,
        "title": title,
        "library": {
            "constructions": {}, "emitter_types": {}, "pipe_families": {}, "machines": {}, "climates": {},
            "tables": {"standard": freeze(library.tables["standard"])},
        },
        "survey": {
            "parts": {"main": {"label": "Main house", "loft": "loft"}},
            "storeys": {"ground": {"label": "Ground floor", "pos": 0}, "upper": {"label": "Upper floor", "pos": 1}},
            "rooms": {},
            "spaces": {"loft": {"label": "Loft", "kind": "loft-underlay"}},
            "neighbours": {},
            "emitters": {},
            "pipes": {},
            "stores": {},
            "sources": {},
            "tightness": {},
            "household": {},
            "walk_round": {},
            "photos": {},
        },
        "schemes": {
            "proposal": {
                "label": "Proposal", "measures": {}, "targets": {}, "emitters": {}, "candidates": {}, "pipes": {},
                "separation": {}, "hot_water": {}, "control": {},
            }
        },
        "active_scheme": "proposal",
        "climate": {},
        "site": {},
        "practice": {},
    }  # fmt: skip


def parse(document: Any, like: tuple[dict[str, Any], Job] | None = None) -> Job:
    """Validate a document, of whatever schema up to today's.

    `like`: a document of today's schema that was read before, with its job; parts of it that are the same objects here are
    not read again, so nobody may have changed them.

    Raises `NotAJob` for another kind of file, `NewerSchema` for one written later than this engine,
    `InvalidJob` with one `Problem` per place otherwise.
    """
    if not isinstance(document, dict) or document.get("format") != FORMAT:
        raise NotAJob("This file is no job of ours: its format is not 'mellow-cinder-job'.")
    version = version_of(document)
    if version is not None and version > SCHEMA:
        raise NewerSchema(f"This job has schema {version}; this engine reads up to {SCHEMA}. Update it first.")
    today = upgraded(document)
    shared, unknown = _sharing.with_known(today, like if today is document or version == SCHEMA else None)
    try:
        job = Job.model_validate(shared)
    except ValidationError as error:
        raise InvalidJob(
            "The job breaks its own rules.", problems=said(today, problems_of(error, SHOWN_PROBLEMS))
        ) from None
    _sharing.keep(job, unknown)
    found = problems(job)
    if found:
        raise InvalidJob("The job points at something that is not there.", problems=said(today, found[:SHOWN_PROBLEMS]))
    return job
