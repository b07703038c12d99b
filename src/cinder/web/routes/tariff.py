"""Prices of electricity by the hour, in from a file and out again."""

from __future__ import annotations

import csv
import io
from dataclasses import asdict

from fastapi import FastAPI, Request
from starlette.responses import Response

from cinder.errors import NotFound
from cinder.exchange.apart import apart
from cinder.exchange.tables import tariff_csv
from cinder.service.services import Services
from cinder.web import answers
from cinder.web.asking import Asker
from cinder.web.respond import KINDS, attached, json_response

HOURS = 24


def install(app: FastAPI, on: Services) -> None:
    log, lanes = on.log, on.lanes

    @app.post("/api/tariff", responses={200: {"model": answers.TariffRead}})
    async def read_tariff(who: Asker, request: Request, zone: str = "UTC", label: str = "") -> Response:
        """Read a tariff by the half-hour or hour (the body is CSV); nothing is kept, the browser puts it into its job."""
        data = await request.body()
        read = await lanes.files.run(lambda: apart(tariff_csv.read, data, zone=zone[:80], label=label[:200]))
        return json_response(asdict(read))

    @app.get("/api/jobs/{job_id}/tariff.csv")
    def tariff_as_csv(who: Asker, job_id: str) -> Response:
        """The job's prices by the hour: a line for every month and hour of the day."""
        hours = log.current(who, job_id).job.tariff.hours
        if hours is None:
            raise NotFound("This job has no prices by the hour.")
        out = io.StringIO()
        writer = csv.writer(out, lineterminator="\r\n")
        writer.writerow(("month", "hour", "price_minor_per_kwh"))
        for month, prices in enumerate(hours.by_month, start=1):
            writer.writerows((month, hour, f"{prices[hour]:g}") for hour in range(HOURS))
        return attached(out.getvalue().encode(), "tariff.csv", KINDS["csv"])
