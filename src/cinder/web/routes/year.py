"""The year hour by hour, the machines through it, and the bills against the calculation."""

from __future__ import annotations

from fastapi import FastAPI
from starlette.responses import Response

from cinder.service.services import Services
from cinder.web import answers
from cinder.web.asking import Asker
from cinder.web.respond import stamped


def install(app: FastAPI, on: Services) -> None:
    remembered = on.remembered

    @app.get("/api/jobs/{job_id}/year", responses={200: {"model": answers.YearOut}})
    async def year(who: Asker, job_id: str) -> Response:
        """The house hour by hour through the year."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, year=remembered.year(who, at.job, at.version))
        )

    @app.get("/api/jobs/{job_id}/running", responses={200: {"model": answers.RunningOut}})
    async def running(who: Asker, job_id: str) -> Response:
        """Every candidate through the year of hours: what it draws, costs and saves."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, running=remembered.running(who, at.job, at.version))
        )

    @app.get("/api/jobs/{job_id}/alternatives", responses={200: {"model": answers.AlternativesOut}})
    async def alternatives(who: Asker, job_id: str) -> Response:
        """Four ways on from a hard house, side by side; each can be begun as a scheme."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, alternatives=remembered.alternatives(who, at.job, at.version))
        )

    @app.get("/api/jobs/{job_id}/bills", responses={200: {"model": answers.BillsOut}})
    async def bills(who: Asker, job_id: str) -> Response:
        """The calculated loss against what was bought."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, bills=remembered.bills(who, at.job, at.version))
        )
