"""Documents: the report as a page, papers that are written in the background."""

from __future__ import annotations

from typing import Any

from fastapi import FastAPI
from starlette.responses import HTMLResponse, Response

from cinder.errors import NotFound
from cinder.exchange import packaged
from cinder.exchange.report import PAPERS
from cinder.service.report import material
from cinder.service.services import Services
from cinder.store.papers import Paper
from cinder.store.queue import somebody_works
from cinder.web import answers, bodies
from cinder.web.asking import Asker
from cinder.web.respond import IMMUTABLE, attached, json_response

ZIP = b"PK"


def install(app: FastAPI, on: Services) -> None:
    log, papers, orders, lanes = on.log, on.papers, on.orders, on.lanes

    @app.get("/api/jobs/{job_id}/report", response_class=HTMLResponse)
    async def report(who: Asker, job_id: str, kind: bodies.PaperKind = "heat-loss") -> Response:
        """A paper as a page: the whole report unless another is asked for."""
        page = await lanes.slow.run(lambda: PAPERS[kind][1](material(log, on.handed, on.photos, who, job_id)))
        headers = {"content-security-policy": "default-src 'none'; style-src 'unsafe-inline'; font-src 'self'; "
                   "img-src 'self'; frame-ancestors 'self'",
                   "x-frame-options": "SAMEORIGIN"}  # fmt: skip
        return HTMLResponse(page, headers=headers)

    @app.get("/api/report-fonts/{name}")
    def report_font(name: str) -> Response:
        """A font of the reports."""
        try:
            return Response(packaged.font(name), media_type="font/ttf", headers={"cache-control": IMMUTABLE})
        except KeyError:
            raise NotFound("There is no such font.") from None

    @app.get("/api/jobs/{job_id}/papers", responses={200: {"model": answers.PapersOut}})
    def listed(who: Asker, job_id: str) -> Response:
        """The documents of a job, newest first, and whether somebody is there to write them."""
        log.current(who, job_id)
        body = {"papers": [_paper(p) for p in papers.of_job(who, job_id)], "writer": somebody_works(papers.engine)}
        return json_response(body)

    @app.post("/api/jobs/{job_id}/papers", status_code=202, responses={202: {"model": answers.PaperOut}})
    def order(who: Asker, job_id: str, sent: bodies.PaperIn) -> Response:
        """Ask for a paper as PDF. It is written in the background, from the job as it is now."""
        current = log.current(who, job_id)
        paper, _ = papers.ask(who, job_id, current.version, paper_id=sent.id, kind=sent.kind)
        if paper.state not in ("ready", "failed"):
            orders.write_paper(who.company_id, who.person_id, paper.id)
        return json_response(_paper(paper), status=202)

    @app.get("/api/papers/{paper_id}/file")
    def paper_file(who: Asker, paper_id: str) -> Response:
        """A finished document."""
        paper = papers.paper(who, paper_id)
        data = papers.file(who, paper_id)
        ending, kind = ("zip", "application/zip") if data[:2] == ZIP else ("pdf", "application/pdf")
        return attached(data, f"{paper.job_id}.{paper.kind}.v{paper.version}.{ending}", kind)


def _paper(paper: Paper) -> dict[str, Any]:
    return {
        "id": paper.id, "job": paper.job_id, "kind": paper.kind, "version": paper.version, "state": paper.state,
        "progress": paper.progress, "step": paper.step, "seconds": paper.seconds, "at": paper.at.isoformat(),
    }  # fmt: skip
