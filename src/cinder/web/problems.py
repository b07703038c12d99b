"""Our errors as HTTP answers, in one shape and one place."""

from __future__ import annotations

from typing import Any

import orjson
from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from pydantic import BaseModel
from sqlalchemy.exc import DBAPIError
from starlette.exceptions import HTTPException
from starlette.responses import Response

from cinder.errors import CinderError


class ProblemOut(BaseModel):
    path: str
    message: str
    value: Any = None


class ErrorOut(BaseModel):
    """Every refusal: a stable code, a sentence, the places, what was kept."""

    code: str
    message: str
    kept: str
    problems: list[ProblemOut]
    detail: dict[str, Any]


def _answer(status: int, body: ErrorOut) -> Response:
    return Response(orjson.dumps(body.model_dump()), status_code=status, media_type="application/json")


def problem_response(error: CinderError) -> Response:
    problems = [ProblemOut(path=p.path, message=p.message, value=p.value) for p in error.problems]
    body = ErrorOut(code=error.code, message=error.message, kept=error.kept, problems=problems, detail=error.detail)
    return _answer(error.http_status, body)


def install(app: FastAPI) -> None:
    """Answer our errors, FastAPI's validation errors and plain HTTP errors in the same shape."""

    @app.exception_handler(CinderError)
    async def ours(request: Request, error: CinderError) -> Response:
        return problem_response(error)

    @app.exception_handler(RequestValidationError)
    async def invalid(request: Request, error: RequestValidationError) -> Response:
        problems = [
            ProblemOut(path="/" + "/".join(str(step) for step in item["loc"][1:]), message=item["msg"])
            for item in error.errors()[:20]
        ]
        body = ErrorOut(
            code="invalid_request", message="The request is not as it should be.", kept="Nothing was changed.",
            problems=problems, detail={},
        )  # fmt: skip
        return _answer(422, body)

    @app.exception_handler(DBAPIError)
    async def silent(request: Request, error: DBAPIError) -> Response:
        body = ErrorOut(
            code="database_silent", message="The database does not answer.",
            kept="What was answered before is kept; send this again in a moment.", problems=[], detail={},
        )  # fmt: skip
        return _answer(503, body)

    @app.exception_handler(HTTPException)
    async def plain(request: Request, error: HTTPException) -> Response:
        body = ErrorOut(code="http", message=str(error.detail), kept="Nothing was changed.", problems=[], detail={})
        return _answer(error.status_code, body)
