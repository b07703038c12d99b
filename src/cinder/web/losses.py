"""What belongs to losses: sections, the company's own tables, weather, the year, bills, measures, the report."""

from __future__ import annotations

from typing import Any

from fastapi import FastAPI, Request
from starlette.responses import HTMLResponse, Response

from cinder.design.apart import measures
from cinder.design.fabric.section import section
from cinder.errors import InvalidChange, NotFound, Problem
from cinder.exchange import papers as exchange_papers
from cinder.exchange import weather_file
from cinder.exchange.apart import apart
from cinder.exchange.report import heat_loss
from cinder.library import ConstructionEntry, Entry, entry_sha256, load
from cinder.service.lane import Lanes
from cinder.service.remembered import Remembered
from cinder.service.report import material
from cinder.store.company import YEAR, CompanyShelf, entry_of
from cinder.store.log import ChangeLog, Who
from cinder.store.papers import Paper, PaperShelf
from cinder.store.queue import Orders, somebody_works
from cinder.web import answers
from cinder.web.asking import Asker
from cinder.web.files import IMMUTABLE, attached
from cinder.web.respond import json_response, stamped


def install_losses(
    app: FastAPI,
    log: ChangeLog,
    remembered: Remembered,
    company: CompanyShelf,
    shelf: PaperShelf,
    orders: Orders,
    lanes: Lanes,
) -> None:
    _company(app, company)
    _weather(app, log, company, lanes)
    _slow(app, log, remembered, company, lanes)
    _papers(app, log, remembered, shelf, orders, lanes)


def _line(key: str, edition: int, entry: Entry) -> dict[str, Any]:
    u_value = None
    if isinstance(entry, ConstructionEntry):
        u_value = section(entry, inside_c=20.0, outside_c=0.0).u_w_m2k
    return {
        "id": key, "edition": edition, "sha256": entry_sha256(entry), "u_w_m2k": u_value,
        "entry": entry.model_dump(mode="json"),
    }  # fmt: skip


def _company(app: FastAPI, company: CompanyShelf) -> None:
    @app.get("/api/company/{kind}", responses={200: {"model": answers.CompanyEntries}})
    def entries(who: Asker, kind: str) -> Response:
        """The company's own constructions, climates or prices of measures."""
        return json_response({"entries": [_line(key, *kept) for key, kept in company.entries(who, kind).items()]})

    @app.put("/api/company/{kind}/{key}", responses={200: {"model": answers.CompanyEntry}})
    def put_entry(who: Asker, kind: str, key: str, sent: dict[str, Any]) -> Response:
        """Keep an entry, or a new edition of it. Jobs that took an older one keep theirs."""
        edition, entry = company.put(who, kind, key, sent)
        return json_response(_line(key, edition, entry))

    @app.delete("/api/company/{kind}/{key}", status_code=204)
    def drop_entry(who: Asker, kind: str, key: str) -> None:
        """Forget an entry. Jobs that use it hold a copy of their own."""
        company.drop(who, kind, key)

    @app.post("/api/section", responses={200: {"model": answers.SectionOut}})
    def cut(who: Asker, sent: answers.SectionIn) -> Response:
        """A construction cut through between two temperatures. Nothing is written."""
        entry = entry_of("constructions", sent.entry)
        if not isinstance(entry, ConstructionEntry):
            raise NotFound("That is no construction.")
        made = section(entry, inside_c=sent.inside_c, outside_c=sent.outside_c)
        return json_response(
            {"section": made.model_dump(), "entry": entry.model_dump(mode="json"), "sha256": entry_sha256(entry)}
        )


def _weather(app: FastAPI, log: ChangeLog, company: CompanyShelf, lanes: Lanes) -> None:
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
    return json_response({**_line(climate.id, edition, entry), "notes": found.notes})


def _slow(app: FastAPI, log: ChangeLog, remembered: Remembered, company: CompanyShelf, lanes: Lanes) -> None:
    """What is asked for apart from the edit: each answer carries the version it belongs to."""

    @app.get("/api/jobs/{job_id}/year", responses={200: {"model": answers.YearOut}})
    async def year(who: Asker, job_id: str) -> Response:
        """The house hour by hour through the year."""

        def work() -> Response:
            current = log.current(who, job_id)
            found = remembered.year(who, current.job, current.version)
            return stamped(current.version, year=found)

        return await lanes.slow.run(work)

    @app.get("/api/jobs/{job_id}/bills", responses={200: {"model": answers.BillsOut}})
    async def bills(who: Asker, job_id: str) -> Response:
        """The calculated loss against what was bought."""

        def work() -> Response:
            current = log.current(who, job_id)
            found = remembered.bills(who, current.job, current.version)
            return stamped(current.version, bills=found)

        return await lanes.slow.run(work)

    @app.post("/api/jobs/{job_id}/measures", responses={200: {"model": answers.MeasuresOut}})
    async def try_measures(who: Asker, job_id: str, sent: answers.ChosenIn) -> Response:
        """Every measure alone on the scheme shown, the chosen ones together."""

        def work() -> Response:
            current = log.current(who, job_id)
            found = remembered.measures(who, current.job, current.version)
            together = None
            if sent.chosen:
                table = company.measures(who, load().measures)
                together = measures.together(current.job, sent.chosen, table=table).model_dump()
            body = {"version": current.version, "measures": {**found.model_dump(), "together": together}}
            return json_response(body)

        return await lanes.slow.run(work)

    @app.post("/api/jobs/{job_id}/measures/change", responses={200: {"model": answers.OperationsOut}})
    async def adopt(who: Asker, job_id: str, sent: answers.ChosenIn) -> Response:
        """The one change that takes the chosen measures into the scheme shown; the page sends it as any other."""
        if not sent.chosen:
            raise InvalidChange("No measure is chosen.", problems=(Problem("/chosen", "empty"),))

        def work() -> Response:
            job = log.current(who, job_id).job
            return json_response(
                {"operations": measures.operations(job, sent.chosen, company.measures(who, load().measures))}
            )

        return await lanes.slow.run(work)

    @app.get("/api/jobs/{job_id}/sections", responses={200: {"model": answers.SectionsOut}})
    async def sections(who: Asker, job_id: str) -> Response:
        """Every construction of the job cut through on its design day."""

        def work() -> Response:
            current = log.current(who, job_id)
            outdoor = remembered.design(who, current.job, current.version).house.outdoor_c
            cold = outdoor if outdoor is not None else 0.0
            cuts = {
                key: section(frozen.data, inside_c=heat_loss.INSIDE_C, outside_c=cold).model_dump()
                for key, frozen in current.job.library.constructions.items()
            }
            return json_response({"version": current.version, "sections": cuts})

        return await lanes.slow.run(work)


def _paper(paper: Paper) -> dict[str, Any]:
    return {
        "id": paper.id, "job": paper.job_id, "kind": paper.kind, "version": paper.version, "state": paper.state,
        "progress": paper.progress, "step": paper.step, "seconds": paper.seconds, "at": paper.at.isoformat(),
    }  # fmt: skip


def _papers(
    app: FastAPI, log: ChangeLog, remembered: Remembered, shelf: PaperShelf, orders: Orders, lanes: Lanes
) -> None:
    @app.get("/api/jobs/{job_id}/report", response_class=HTMLResponse)
    async def report(who: Asker, job_id: str) -> Response:
        """The heat-loss report as a page."""
        page = await lanes.slow.run(lambda: heat_loss.html(material(log, remembered, who, job_id)))
        headers = {"content-security-policy": "default-src 'none'; style-src 'unsafe-inline'; font-src 'self'; frame-ancestors 'self'",
                   "x-frame-options": "SAMEORIGIN"}  # fmt: skip
        return HTMLResponse(page, headers=headers)

    @app.get("/api/report-fonts/{name}")
    def report_font(name: str) -> Response:
        """A font of the reports."""
        try:
            return Response(exchange_papers.font(name), media_type="font/woff2", headers={"cache-control": IMMUTABLE})
        except KeyError:
            raise NotFound("There is no such font.") from None

    @app.get("/api/jobs/{job_id}/papers", responses={200: {"model": answers.PapersOut}})
    def listed(who: Asker, job_id: str) -> Response:
        """The documents of a job, newest first, and whether somebody is there to write them."""
        log.current(who, job_id)
        body = {"papers": [_paper(p) for p in shelf.of_job(who, job_id)], "writer": somebody_works(shelf.engine)}
        return json_response(body)

    @app.post("/api/jobs/{job_id}/papers", status_code=202, responses={202: {"model": answers.PaperOut}})
    def order(who: Asker, job_id: str, sent: answers.PaperIn) -> Response:
        """Ask for the report as PDF. It is written in the background, from the job as it is now."""
        current = log.current(who, job_id)
        paper, _ = shelf.ask(who, job_id, current.version, paper_id=sent.id, kind=sent.kind)
        if paper.state not in ("ready", "failed"):
            orders.write_paper(who.company_id, who.person_id, paper.id)
        return json_response(_paper(paper), status=202)

    @app.get("/api/papers/{paper_id}/file")
    def paper_file(who: Asker, paper_id: str) -> Response:
        """A finished document."""
        paper = shelf.one(who, paper_id)
        return attached(
            shelf.file(who, paper_id), f"{paper.job_id}.{paper.kind}.v{paper.version}.pdf", "application/pdf"
        )
