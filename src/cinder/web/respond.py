"""Answers in JSON, and files to be kept."""

from __future__ import annotations

from typing import Any

import orjson
from fastapi import BackgroundTasks
from pydantic import BaseModel
from starlette.responses import Response

from cinder.service.remembered import Remembered
from cinder.store.record import Applied, Who

XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
KINDS = {
    "csv": "text/csv; charset=utf-8",
    "xlsx": XLSX,
    "dxf": "image/vnd.dxf",
    "svg": "image/svg+xml",
    "pdf": "application/pdf",
}
IMMUTABLE = "private, max-age=31536000, immutable"


def attached(data: bytes, name: str, kind: str) -> Response:
    """A file to be kept, never run by the browser."""
    headers = {"content-disposition": f'attachment; filename="{name}"', "content-security-policy": "sandbox"}
    return Response(data, media_type=kind, headers=headers)


def json_response(body: Any, status: int = 200) -> Response:
    return Response(orjson.dumps(body), status_code=status, media_type="application/json")


def answered(
    remembered: Remembered, who: Who, applied: Applied, later: BackgroundTasks, *, status: int = 200,
    holds: int | None = None, **more: object,
) -> Response:  # fmt: skip
    """The answer to what was written: document, Design, effect; summary and effect are noted after it has gone."""
    body, result, did = remembered.answer(who, applied, holds=holds, **more)
    response = json_response(body, status)
    if not applied.replayed:
        later.add_task(remembered.note, who, applied, result, did)
        response.background = later
    return response


def stamped(version: int, **results: BaseModel | None) -> Response:
    """Results with the version of the job they belong to."""
    dumped = {name: result.model_dump() if result is not None else None for name, result in results.items()}
    return json_response({"version": version, **dumped})
