"""What the losses may be off by, what the survey lacks, and the working behind a figure."""

from __future__ import annotations

from fastapi import FastAPI
from starlette.responses import Response

from cinder.design import Working, working
from cinder.design.apart.doubts import gaps as survey_gaps
from cinder.service.services import Services
from cinder.store.record import Applied
from cinder.web import answers
from cinder.web.asking import Asker
from cinder.web.respond import stamped


def install(app: FastAPI, on: Services) -> None:
    log, remembered = on.log, on.remembered

    @app.get("/api/jobs/{job_id}/doubts", responses={200: {"model": answers.DoubtsOut}})
    async def doubt_range(who: Asker, job_id: str, standing: str | None = None) -> Response:
        """The sampled range, every doubt by what it moves, and the gaps, nearest first from the room one stands in."""

        def work(current: Applied) -> Response:
            found = remembered.doubts(who, current.job, current.version)
            left = survey_gaps.leaving(current.job, standing=standing, doubts=found)
            return stamped(current.version, doubts=found, leaving=left)

        return await on.slowly(who, job_id, work)

    @app.get("/api/jobs/{job_id}/working/{key}", response_model=Working)
    def show_working(who: Asker, job_id: str, key: str) -> Working:
        """The working behind a figure."""
        current = log.current(who, job_id)
        return working(current.job, remembered.design(who, current.job, current.version), key)
