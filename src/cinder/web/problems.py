"""Our errors as HTTP answers, in one shape and one place."""

from __future__ import annotations

from typing import Any

import orjson
from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from procrastinate.exceptions import ConnectorException
from pydantic import BaseModel
from sqlalchemy.exc import DataError, DBAPIError, IntegrityError, InterfaceError, OperationalError
from sqlalchemy.exc import TimeoutError as PoolTimeout
from starlette.exceptions import HTTPException
from starlette.responses import Response

from cinder.errors import CinderError
from cinder.service.faults import fault_number


class ProblemOut(BaseModel):
    path: str
    message: str
    value: Any = None
    where: str = ""


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
    problems = [ProblemOut(path=p.path, message=p.message, value=p.value, where=p.where) for p in error.problems]
    body = ErrorOut(code=error.code, message=error.message, kept=error.kept, problems=problems, detail=error.detail)
    return _answer(error.http_status, body)


def fault_answer(error: BaseException) -> Response:
    """A fault of ours, by its number: never mistaken for a lost line, never more told than that."""
    number = fault_number(error)
    body = ErrorOut(
        code="fault", message=f"A fault of ours, number {number}: it stands in the log under that number.",
        kept="Nothing was changed.", problems=[], detail={"number": number},
    )  # fmt: skip
    return _answer(500, body)


def _silent(message: str) -> Response:
    body = ErrorOut(
        code="database_silent", message=message, kept="What was answered before is kept; send this again in a moment.",
        problems=[], detail={},
    )  # fmt: skip
    return _answer(503, body)


def database_answer(error: DBAPIError) -> Response:
    """A lost connection may be tried again (503); a value the database cannot hold is the sender's (422); two at one place
    at once is a conflict (409); anything else is a fault of ours."""
    if error.connection_invalidated or isinstance(error, OperationalError | InterfaceError):
        return _silent("The database does not answer.")
    if isinstance(error, IntegrityError):
        body = ErrorOut(
            code="met_another", message="Somebody else did the same at the same moment.",
            kept="Nothing of this was changed; look at it again.", problems=[], detail={},
        )  # fmt: skip
        return _answer(409, body)
    if isinstance(error, DataError):
        body = ErrorOut(
            code="unkeepable", message="A value in this cannot be kept: too large a number, or text the database does not hold.",
            kept="Nothing was changed.", problems=[], detail={},
        )  # fmt: skip
        return _answer(422, body)
    return fault_answer(error)


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
    async def of_the_database(request: Request, error: DBAPIError) -> Response:
        return database_answer(error)

    @app.exception_handler(ConnectorException)
    async def queue_away(request: Request, error: ConnectorException) -> Response:
        return _silent("The database does not answer.")

    @app.exception_handler(PoolTimeout)
    async def crowded(request: Request, error: PoolTimeout) -> Response:
        return _silent("The database is busy.")

    @app.exception_handler(Exception)
    async def fault(request: Request, error: Exception) -> Response:
        return fault_answer(error)

    @app.exception_handler(HTTPException)
    async def plain(request: Request, error: HTTPException) -> Response:
        body = ErrorOut(code="http", message=str(error.detail), kept="Nothing was changed.", problems=[], detail={})
        return _answer(error.status_code, body)
