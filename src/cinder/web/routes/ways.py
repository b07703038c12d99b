"""Ways to cooler water: the front, ways of a room, who holds it up, schemes beside each other."""

from __future__ import annotations

from fastapi import FastAPI
from starlette.responses import Response

from cinder.design.apart import ways
from cinder.service.services import Services
from cinder.store.record import Applied
from cinder.web import answers, bodies
from cinder.web.asking import Asker
from cinder.web.respond import json_response, stamped


def install(app: FastAPI, on: Services) -> None:
    remembered = on.remembered

    @app.get("/api/jobs/{job_id}/front", responses={200: {"model": answers.FrontOut}})
    async def front(who: Asker, job_id: str) -> Response:
        """The cheapest set of changes for every flow temperature, with the season it gives."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, front=remembered.front(who, at.job, at.version))
        )

    @app.get("/api/jobs/{job_id}/front/rooms/{room_id}", responses={200: {"model": answers.RoomOptionsOut}})
    async def room_options(who: Asker, job_id: str, room_id: str) -> Response:
        """Everything that may be done in a room, each with the water the room would then need."""

        def work(current: Applied) -> Response:
            found, _ = remembered.options(who, current.job, current.version)
            return stamped(current.version, room=ways.of_room(found, room_id))

        return await on.slowly(who, job_id, work)

    @app.get("/api/jobs/{job_id}/holding", responses={200: {"model": answers.HoldingOut}})
    async def holding(who: Asker, job_id: str) -> Response:
        """The rooms that hold the water up, and the effect of taking each out."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, holding=remembered.holding(who, at.job, at.version))
        )

    @app.get("/api/jobs/{job_id}/schemes", responses={200: {"model": answers.SchemesOut}})
    async def schemes(who: Asker, job_id: str) -> Response:
        """Every scheme and the house as found, side by side."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, side=remembered.schemes(who, at.job, at.version))
        )

    @app.post("/api/jobs/{job_id}/front/change", responses={200: {"model": answers.OperationsOut}})
    async def take_front(who: Asker, job_id: str, sent: bodies.FlowIn) -> Response:
        """The one change that takes the cheapest set at a flow temperature into the scheme shown."""

        def work(current: Applied) -> Response:
            found, _ = remembered.options(who, current.job, current.version)
            return json_response({"operations": ways.operations_of(found, sent.flow_c)})

        return await on.slowly(who, job_id, work)

    @app.post("/api/jobs/{job_id}/front/way", responses={200: {"model": answers.OperationsOut}})
    async def take_way(who: Asker, job_id: str, sent: bodies.WayIn) -> Response:
        """The one change that takes a single way of a room into the scheme shown; the water stays as it is."""

        def work(current: Applied) -> Response:
            found, _ = remembered.options(who, current.job, current.version)
            return json_response({"operations": ways.operations_of_way(found, sent.way)})

        return await on.slowly(who, job_id, work)
