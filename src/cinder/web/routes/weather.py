"""Weather files in and out."""

from __future__ import annotations

from fastapi import FastAPI, Request
from starlette.responses import Response

from cinder.errors import NotFound
from cinder.exchange.apart import apart
from cinder.exchange.weather import weather_file
from cinder.service.services import Services
from cinder.store.company import YEAR, CompanyShelf
from cinder.store.record import Who
from cinder.web import answers
from cinder.web.asking import Asker
from cinder.web.respond import attached, json_response
from cinder.web.routes.company import company_line


def install(app: FastAPI, on: Services) -> None:
    log, company, lanes = on.log, on.company, on.lanes

    @app.post("/api/weather", responses={200: {"model": answers.WeatherOut}})
    async def take_weather(who: Asker, request: Request, label: str = "") -> Response:
        """Read a weather file (the body is the file: EPW, TMY3, our CSV) and keep its year and climate for the company."""
        data = await request.body()
        return await lanes.files.run(lambda: _take_weather(company, who, data, label))

    @app.get("/api/jobs/{job_id}/weather.epw")
    def give_weather(who: Asker, job_id: str) -> Response:
        """The hourly year of the job's climate as EPW."""
        job = log.current(who, job_id).job
        frozen = job.library.climates.get(job.climate.entry or "")
        year = company.year(who, frozen.data.year_sha256) if frozen else None
        if frozen is None or year is None:
            raise NotFound("This climate carries no hourly year.")
        return attached(weather_file.write_epw(frozen.data, year), f"{frozen.data.id}.epw", "text/csv; charset=utf-8")


def _take_weather(company: CompanyShelf, who: Who, data: bytes, label: str) -> Response:
    found = apart(weather_file.read_weather, data, label=label[:200])
    climate = found.climate
    company.keep_blob(who, climate.year_sha256 or "", found.year.write(), YEAR)
    edition, entry = company.put(who, "climates", climate.id, climate.model_dump(mode="json"))
    return json_response({**company_line(climate.id, edition, entry), "notes": found.notes})
