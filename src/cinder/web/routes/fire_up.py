"""Fire-up: the kinds of controller beside each other, and the house run in time."""

from __future__ import annotations

from fastapi import FastAPI
from starlette.responses import Response

from cinder.service.services import Services
from cinder.twin.result import Week
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

    @app.get("/api/jobs/{job_id}/twin", responses={200: {"model": answers.TwinOut}})
    async def twin(who: Asker, job_id: str) -> Response:
        """The house run through a year in every way that is argued about."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, twin=remembered.twin(who, at.job, at.version))
        )

    @app.get("/api/jobs/{job_id}/room-control", responses={200: {"model": answers.RoomControlOut}})
    async def room_control(who: Asker, job_id: str) -> Response:
        """What to set at the room controller of this house, and why; the occupant's plain page."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, room_control=remembered.room_control(who, at.job, at.version))
        )

    @app.get("/api/jobs/{job_id}/twin/week", responses={200: {"model": answers.TwinWeekOut}})
    async def twin_week(who: Asker, job_id: str, week: Week = "cold", way: str = "now") -> Response:
        """A week of it, run in one way, quarter of an hour by quarter of an hour."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, week=remembered.twin_week(who, at.job, at.version, week, way))
        )
