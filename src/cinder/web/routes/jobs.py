"""Jobs: the list, a new one, one taken in, one read, its history and its files."""

from __future__ import annotations

from typing import Any

from fastapi import BackgroundTasks, FastAPI, Request
from starlette.responses import Response

from cinder.exchange.apart import apart
from cinder.exchange.jobs import job_file
from cinder.exchange.jobs.starter import start_job
from cinder.library import load
from cinder.model import parse
from cinder.service.people import DEMO_COMPANY, DEMO_PERSON
from cinder.service.services import Services
from cinder.store.record import Who
from cinder.web import answers, bodies
from cinder.web.asking import Asker, Holds
from cinder.web.respond import answered, json_response


def install(app: FastAPI, on: Services) -> None:
    log, remembered, lanes = on.log, on.remembered, on.lanes

    def opened(who: Who, document: dict[str, Any], later: BackgroundTasks) -> Response:
        applied = log.create(who, document)
        return answered(remembered, who, applied, later, status=201)

    @app.get("/api/jobs", response_model=answers.JobList)
    def jobs(who: Asker, archived: bool = False) -> dict[str, Any]:
        """The company's jobs, the last changed first."""
        rows = log.jobs(who, archived=archived)
        lines = [
            {
                "id": row.id,
                "title": row.title,
                "place": row.document.get("site", {}).get("place", ""),
                "version": row.version,
                "changed_at": row.changed_at,
                "summary": row.summary,
            }
            for row in rows
        ]
        return {"company": DEMO_COMPANY, "person": DEMO_PERSON, "jobs": lines}

    @app.post("/api/jobs", status_code=201, responses={201: {"model": answers.Answer}})
    def open_job(who: Asker, new: bodies.NewJobIn, later: BackgroundTasks) -> Response:
        """Open a new, empty job."""
        document = start_job(job_id=new.id, title=new.title, age=new.age, climate=new.climate, library=load())
        return opened(who, document, later)

    @app.post("/api/jobs/import", status_code=201, responses={201: {"model": answers.Answer}})
    async def import_job(who: Asker, request: Request, later: BackgroundTasks) -> Response:
        """Take in a job file (the body is the file)."""
        data = await request.body()
        return await lanes.files.run(lambda: opened(who, apart(job_file.document, data), later))

    @app.get("/api/jobs/{job_id}", responses={200: {"model": answers.Answer | answers.Onward}})
    def job(who: Asker, job_id: str, holds: Holds = None) -> Response:
        """A job with its Design."""
        return json_response(remembered.answer(who, log.current(who, job_id), holds=holds)[0])

    @app.get("/api/jobs/{job_id}/fingerprint", responses={200: {"model": answers.FingerprintOut}})
    async def fingerprint(who: Asker, job_id: str) -> Response:
        """SHA-256 of job and Design in the canonical form of RFC 8785: what a page has put together is held against it."""
        return await on.slowly(
            who, job_id, lambda at: json_response({"version": at.version, "sha256": remembered.fingerprint(who, at)})
        )

    @app.get("/api/jobs/{job_id}/file")
    def file(who: Asker, job_id: str) -> Response:
        """The job as a file."""
        data = job_file.write(log.current(who, job_id).document)
        name = f'attachment; filename="{job_id}.job.json"'
        return Response(data, media_type="application/json", headers={"content-disposition": name})

    @app.post("/api/jobs/{job_id}/archive", status_code=204)
    def archive(who: Asker, job_id: str, wanted: bodies.ArchiveIn) -> None:
        """Put a job away, or take it out again. Nothing is deleted."""
        log.archive(who, job_id, archived=wanted.archived)

    @app.get("/api/jobs/{job_id}/history", response_model=answers.History)
    def history(who: Asker, job_id: str) -> dict[str, Any]:
        """The change log, newest first."""
        entries = [
            {
                "version": entry.version, "change_id": entry.change_id, "person": entry.person, "kind": entry.kind,
                "label": entry.label, "at": entry.at, "effect": entry.effect or None,
            }
            for entry in log.history(who, job_id)
        ]  # fmt: skip
        return {"entries": entries}

    @app.get("/api/jobs/{job_id}/versions/{version}/file")
    async def old_version(who: Asker, job_id: str, version: int) -> Response:
        """The job as it was at a version."""

        def work() -> Response:
            document = log.document_at(who, job_id, version)
            parse(document)
            return Response(job_file.write(document), media_type="application/json")

        return await lanes.slow.run(work)
