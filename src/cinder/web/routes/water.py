"""Water: the hot-water store through a day, the flows through the pipes, one circuit or two, frost, the plant and what to buy."""

from __future__ import annotations

from typing import Literal

from fastapi import FastAPI
from starlette.responses import Response

from cinder.errors import NotFound
from cinder.exchange.report.plant_svg import drawn
from cinder.exchange.tables import shopping
from cinder.service.services import Services
from cinder.store.record import Applied
from cinder.web import answers
from cinder.web.asking import Asker
from cinder.web.respond import KINDS, attached, stamped

PlantState = Literal["heating", "hot water", "defrost", "off"]


def install(app: FastAPI, on: Services) -> None:
    remembered = on.remembered

    @app.get("/api/jobs/{job_id}/water-days", responses={200: {"model": answers.WaterDaysOut}})
    async def water_days(who: Asker, job_id: str) -> Response:
        """The hot-water store through a day, other sizes and temperatures, and the schools of hygiene."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, water_days=remembered.water_days(who, at.job, at.version))
        )

    @app.get("/api/jobs/{job_id}/flows", responses={200: {"model": answers.FlowsOut}})
    async def flows(who: Asker, job_id: str) -> Response:
        """What every emitter really gets, how the house is balanced, and what would leave the pump more room."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, flows=remembered.flows(who, at.job, at.version))
        )

    @app.get("/api/jobs/{job_id}/separating", responses={200: {"model": answers.SeparatingOut}})
    async def separating(who: Asker, job_id: str) -> Response:
        """One circuit or two, the water that stays open, the zones."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, separating=remembered.separating(who, at.job, at.version))
        )

    @app.get("/api/jobs/{job_id}/protecting", responses={200: {"model": answers.ProtectingOut}})
    async def protecting(who: Asker, job_id: str) -> Response:
        """Glycol, freeze valves or neither, and what each comes to."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, protecting=remembered.protecting(who, at.job, at.version))
        )

    @app.get("/api/jobs/{job_id}/pipes-tested", responses={200: {"model": answers.PipesTestedOut}})
    async def pipes_tested(who: Asker, job_id: str) -> Response:
        """Hidden pipes, fitted to what the water did when the pump was stepped."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, tested=remembered.pipes_tested(who, at.job, at.version))
        )

    @app.get("/api/jobs/{job_id}/routes", responses={200: {"model": answers.RoutesOut}})
    async def routes(who: Asker, job_id: str) -> Response:
        """The storeys pipes lie in, where they begin and end, and a tree laid by rule."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, routes=remembered.routes(who, at.job, at.version))
        )

    @app.get("/api/jobs/{job_id}/plant", responses={200: {"model": answers.PlantOut}})
    async def plant(who: Asker, job_id: str) -> Response:
        """The plant as a picture: parts, pipes, states."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, plant=remembered.plant(who, at.job, at.version))
        )

    @app.get("/api/jobs/{job_id}/plant.svg")
    async def plant_file(who: Asker, job_id: str, state: PlantState = "heating") -> Response:
        """The picture as a file."""

        def work(at: Applied) -> Response:
            found = remembered.plant(who, at.job, at.version)
            if found.lacks:
                raise NotFound(found.lacks)
            return attached(drawn(found, state).encode(), f"{job_id}.plant.svg", "image/svg+xml")

        return await on.slowly(who, job_id, work)

    @app.get("/api/jobs/{job_id}/materials", responses={200: {"model": answers.MaterialsOut}})
    async def materials(who: Asker, job_id: str) -> Response:
        """What to buy, why, and what it costs."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, materials=remembered.materials(who, at.job, at.version))
        )

    @app.get("/api/jobs/{job_id}/materials.{form}")
    async def materials_file(who: Asker, job_id: str, form: Literal["csv", "xlsx"]) -> Response:
        """The list as a table."""

        def work(at: Applied) -> Response:
            found = remembered.materials(who, at.job, at.version)
            write = shopping.to_csv if form == "csv" else shopping.to_xlsx
            return attached(write(found, at.job.currency), f"{job_id}.materials.{form}", KINDS[form])

        return await on.slowly(who, job_id, work)
