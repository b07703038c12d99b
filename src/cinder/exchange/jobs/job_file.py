"""A job as a file: JSON with our format name, and its published JSON Schema."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import orjson

from cinder.exchange.jobs import brief, strict_json
from cinder.model import Job, parse


def read(path: Path) -> dict[str, Any]:
    """Read a job file (`.json`) or a brief (`.toml`) into a valid document.

    Raises `MalformedJson`, `NotAJob`, `NewerSchema`, `InvalidJob`, `TooLarge`.
    """
    data = path.read_bytes()
    return brief.document(data) if path.suffix == ".toml" else document(data)


def document(data: bytes) -> dict[str, Any]:
    """A job document from the bytes of a file, valid and in its full form."""
    return dump(parse(strict_json.loads(data)))


def dump(job: Job) -> dict[str, Any]:
    """The document of a job; what is unknown is left out."""
    return job.model_dump(mode="json", by_alias=True, exclude_none=True)


def write(document: dict[str, Any]) -> bytes:
    """A job document as readable JSON, keys sorted, one trailing newline."""
    return orjson.dumps(document, option=orjson.OPT_INDENT_2 | orjson.OPT_SORT_KEYS | orjson.OPT_APPEND_NEWLINE)


def json_schema() -> dict[str, Any]:
    """The JSON Schema of job files."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **Job.model_json_schema(by_alias=True)}
