"""Ways to lose less."""

from __future__ import annotations

from fastapi import FastAPI
from starlette.responses import Response

from cinder.design.apart import measures
from cinder.errors import InvalidChange, Problem
from cinder.library import load
from cinder.service.services import Services
from cinder.store.record import Applied
from cinder.web import answers, bodies
from cinder.web.asking import Asker
from cinder.web.respond import json_response


def install(app: FastAPI, on: Services) -> None:
    remembered, company = on.remembered, on.company

    @app.post("/api/jobs/{job_id}/measures", responses={200: {"model": answers.MeasuresOut}})
    async def try_measures(who: Asker, job_id: str, sent: bodies.ChosenIn) -> Response:
        """Every measure alone on the scheme shown, the chosen ones together."""

        def work(current: Applied) -> Response:
            found = remembered.measures(who, current.job, current.version)
            together = None
            if sent.chosen:
                table = company.measures(who, load().measures)
                weather, shift = remembered.weather(who, current.job)
                together = measures.together(
                    current.job, sent.chosen, table=table, weather=weather, shift_k=shift
                ).model_dump()
            body = {"version": current.version, "measures": {**found.model_dump(), "together": together}}
            return json_response(body)

        return await on.slowly(who, job_id, work)

    @app.post("/api/jobs/{job_id}/measures/change", responses={200: {"model": answers.OperationsOut}})
    async def adopt(who: Asker, job_id: str, sent: bodies.ChosenIn) -> Response:
        """The one change that takes the chosen measures into the scheme shown; the page sends it as any other."""
        if not sent.chosen:
            raise InvalidChange("No measure is chosen.", problems=(Problem("/chosen", "empty"),))

        def work(current: Applied) -> Response:
            job = current.job
            return json_response(
                {"operations": measures.operations(job, sent.chosen, company.measures(who, load().measures))}
            )

        return await on.slowly(who, job_id, work)
