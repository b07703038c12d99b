"""Fire-up: the kinds of controller beside each other."""

from __future__ import annotations

from fastapi import FastAPI
from starlette.responses import Response

from cinder.service.services import Services
from cinder.web import answers
from cinder.web.asking import Asker
from cinder.web.respond import stamped


def install(app: FastAPI, on: Services) -> None:
    remembered = on.remembered

    @app.get("/api/jobs/{job_id}/controllers", responses={200: {"model": answers.ControllersOut}})
    async def controllers(who: Asker, job_id: str) -> Response:
        """Every kind of controller fitted to this house, the line moved as a whole, the need's band."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, controllers=remembered.controllers(who, at.job, at.version))
        )
