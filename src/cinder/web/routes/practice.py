"""Practice: attempts at a simulated house with something wrong in it."""

from __future__ import annotations

import secrets
from collections.abc import Sequence
from typing import Any

from fastapi import FastAPI
from starlette.responses import Response

from cinder.errors import Refused
from cinder.model import parse
from cinder.service.services import Services
from cinder.store.attempts import Attempt
from cinder.store.record import Who
from cinder.twin import practice
from cinder.twin.of_job import lacks, twin_of
from cinder.web import answers
from cinder.web.asking import Asker
from cinder.web.bodies import AttemptIn, DeedIn
from cinder.web.respond import json_response


def install(app: FastAPI, on: Services) -> None:
    @app.get("/api/jobs/{job_id}/practice", responses={200: {"model": answers.AttemptsOut}})
    def attempts(who: Asker, job_id: str) -> Response:
        """The attempts at a house, newest first."""
        on.log.current(who, job_id)
        return json_response({"attempts": [_line(one) for one in on.attempts.of_job(who, job_id)]})

    @app.post("/api/jobs/{job_id}/practice", responses={200: {"model": answers.AttemptOut}})
    async def begin(who: Asker, job_id: str, body: AttemptIn) -> Response:
        """Begin an attempt at the house as it now stands."""
        at = on.log.current(who, job_id)
        if missing := lacks(at.job, on.remembered.design(who, at.job, at.version)):
            raise Refused(missing)
        seed = body.seed if body.seed is not None else secrets.randbelow(2**31)
        one = on.attempts.begin(who, job_id, secrets.token_hex(8), version=at.version, level=body.level, seed=seed)
        return await on.lanes.slow.run(lambda: _shown(on, who, one))

    @app.get("/api/jobs/{job_id}/practice/{attempt}", responses={200: {"model": answers.AttemptOut}})
    async def look(who: Asker, job_id: str, attempt: str) -> Response:
        """An attempt as it stands."""
        one = on.attempts.attempt(who, job_id, attempt)
        return await on.lanes.slow.run(lambda: _shown(on, who, one))

    @app.post("/api/jobs/{job_id}/practice/{attempt}", responses={200: {"model": answers.AttemptOut}})
    async def do(who: Asker, job_id: str, attempt: str, body: DeedIn) -> Response:
        """Do something in an attempt; refused, it is as if it had not been done."""
        one = on.attempts.attempt(who, job_id, attempt)

        def work() -> Response:
            deed = body.model_dump()
            found = _run(on, who, one, [*one.deeds, deed])
            score = found.score.model_dump(include={"total", "found", "of"}) if found.score else None
            on.attempts.done(who, job_id, attempt, deed, before=len(one.deeds), score=score)
            return json_response({"id": one.id, "practice": found.model_dump()})

        return await on.lanes.slow.run(work)


def _run(on: Services, who: Who, one: Attempt, deeds: Sequence[dict[str, Any]]) -> practice.PracticeFound:
    job = parse(on.log.document_at(who, one.job_id, one.version))
    weather, _ = on.remembered.weather(who, job)
    if weather is None:
        raise Refused("This climate carries no hourly year: bring a weather file, or choose a generic one.")
    return practice.run(twin_of(job), weather, one.level, one.seed, [practice.Deed(**deed) for deed in deeds])


def _shown(on: Services, who: Who, one: Attempt) -> Response:
    return json_response({"id": one.id, "practice": _run(on, who, one, one.deeds).model_dump()})


def _line(one: Attempt) -> dict[str, Any]:
    score = one.score or {}
    return {
        "id": one.id, "level": one.level, "at": one.at, "deeds": len(one.deeds), "total": score.get("total"), "found": score.get("found"),
        "of": score.get("of"),
    }  # fmt: skip
