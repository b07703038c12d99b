"""The application: routes, the one dependency that says who asks, static pages."""

from __future__ import annotations

import secrets
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Any

import orjson
from fastapi import BackgroundTasks, FastAPI, Request
from sqlalchemy import text
from sse_starlette.sse import EventSourceResponse
from starlette.responses import FileResponse, RedirectResponse, Response

from cinder import ENGINE_VERSION
from cinder.design import Working, design, effect, working
from cinder.design.apart.doubts import gaps as survey_gaps
from cinder.design.fabric.u_values import Transmittances
from cinder.errors import Forbidden, NewerSchema, NotFound
from cinder.exchange import job_file
from cinder.exchange.apart import apart
from cinder.exchange.starter import start_job
from cinder.library import EDITION, FROZEN, entry_sha256, load
from cinder.model import SCHEMA, parse
from cinder.service.lane import Lanes
from cinder.service.people import DEMO, DEMO_COMPANY, DEMO_PERSON
from cinder.service.remembered import Remembered
from cinder.store.company import CompanyShelf
from cinder.store.database import engine, migrate
from cinder.store.log import Change, ChangeLog, Who
from cinder.store.papers import PaperShelf
from cinder.store.photos import PhotoShelf
from cinder.store.queue import Orders
from cinder.web import answers
from cinder.web.asking import Asker
from cinder.web.events import News
from cinder.web.files import install_files
from cinder.web.gate import PAIR_COOKIE, Gate
from cinder.web.losses import install_losses
from cinder.web.problems import ErrorOut, install
from cinder.web.respond import answered, json_response, stamped
from cinder.web.waterline import install_waterline

PING_S = 20
PAIRED_S = 30 * 24 * 3600


@dataclass(frozen=True)
class Tablet:
    """What lets a tablet on the local network in: this machine's names, the pairing code, the certificate."""

    hosts: tuple[str, ...]
    code: str
    certificate: Path


REFUSALS: dict[int | str, dict[str, Any]] = {
    status: {"model": ErrorOut} for status in (400, 403, 404, 409, 413, 415, 422)
}


@lru_cache(maxsize=1)
def library_answer() -> bytes:
    """The library as the API gives it, worked out once."""
    library = load()
    u = Transmittances(library.constructions)
    body: dict[str, Any] = {
        kind: {key: entry.model_dump(mode="json") for key, entry in getattr(library, kind).items()} for kind in FROZEN
    }
    body["cautions"] = {key: entry.model_dump(mode="json") for key, entry in library.cautions.items()}
    body["enquiry"] = {key: q.model_dump(mode="json", by_alias=True) for key, q in library.enquiry.items()}
    body["walk_round"] = {key: item.model_dump(mode="json") for key, item in library.walk_round.items()}
    body["materials"] = {key: entry.model_dump(mode="json") for key, entry in library.materials.items()}
    body["measures"] = {key: entry.model_dump(mode="json") for key, entry in library.measures.items()}
    body["emitter_prices"] = {key: entry.model_dump(mode="json") for key, entry in library.emitter_prices.items()}
    for kind in ("coverings", "heated_builds", "manifold_parts"):
        body[kind] = {key: entry.model_dump(mode="json") for key, entry in getattr(library, kind).items()}
    body["sha256"] = {
        kind: {key: entry_sha256(entry) for key, entry in getattr(library, kind).items()} for kind in FROZEN
    }
    body["u_values"] = {key: u.u(key) for key in library.constructions}
    return orjson.dumps({"edition": EDITION, **body})


def create_app(database: str, pages: Path | None = None, *, tablet: Tablet | None = None) -> FastAPI:
    """The application over a database; migrations run as it starts. `tablet`: the local network may reach it."""
    connection = engine(database)
    log = ChangeLog(connection)
    company = CompanyShelf(connection)
    remembered = Remembered(log, company)
    orders = Orders(database)
    news = News(database)
    lanes = Lanes()

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        migrate(connection)
        log.ensure_person(DEMO, company=DEMO_COMPANY, person=DEMO_PERSON)
        news.start()
        yield
        news.stop()
        lanes.close()
        orders.close()
        connection.dispose()

    app = FastAPI(
        title="Mellow Cinder", version=ENGINE_VERSION, lifespan=lifespan, docs_url=None, redoc_url=None,
        openapi_url="/api/openapi.json", responses=REFUSALS, separate_input_output_schemas=False,
    )  # fmt: skip
    install(app)
    app.state.log = log
    app.state.lanes = lanes
    _health(app, connection)
    _jobs(app, log, remembered, lanes)
    _edits(app, log, remembered)
    _reading(app, log, remembered, news, lanes)
    install_files(app, log, remembered, PhotoShelf(connection), company, lanes)
    install_losses(app, log, remembered, company, PaperShelf(connection), orders, lanes)
    install_waterline(app, log, remembered, company, lanes)
    if tablet is not None:
        _pairing(app, tablet)
    if pages is not None and pages.is_dir():
        _pages(app, pages)
    app.add_middleware(Gate, hosts=tablet.hosts if tablet else (), pairing=tablet.code if tablet else None)
    return app


def _pairing(app: FastAPI, tablet: Tablet) -> None:
    @app.get("/pair/{code}", include_in_schema=False)
    def pair(code: str) -> Response:
        """Give a tablet that knows the code the cookie it needs from then on."""
        if not secrets.compare_digest(code.encode(), tablet.code.encode()):
            raise Forbidden("That is not the code ./start --tls printed.")
        answer = RedirectResponse("/", status_code=303)
        answer.set_cookie(
            PAIR_COOKIE, tablet.code, max_age=PAIRED_S, httponly=True, secure=True, samesite="strict", path="/"
        )
        return answer

    @app.get("/certificate", include_in_schema=False)
    def certificate() -> Response:
        """The self-signed certificate, to be trusted by the tablet."""
        name = {"content-disposition": 'attachment; filename="mellow-cinder.crt"'}
        return FileResponse(tablet.certificate, media_type="application/x-x509-ca-cert", headers=name)


def _health(app: FastAPI, connection: Any) -> None:
    @app.get("/api/health", response_model=answers.Health)
    def health() -> dict[str, str]:
        """Whether the service and its database answer."""
        with connection.connect() as c:
            c.execute(text("SELECT 1"))
        return {"engine": ENGINE_VERSION, "database": "answers"}

    @app.get("/api/library", responses={200: {"model": answers.LibraryOut}})
    def library() -> Response:
        """Every table of the library, with fingerprints for freezing."""
        return Response(library_answer(), media_type="application/json")


def _jobs(app: FastAPI, log: ChangeLog, remembered: Remembered, lanes: Lanes) -> None:
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
    def open_job(who: Asker, new: answers.NewJobIn, later: BackgroundTasks) -> Response:
        """Open a new, empty job."""
        document = start_job(job_id=new.id, title=new.title, age=new.age, climate=new.climate, library=load())
        return opened(who, document, later)

    @app.post("/api/jobs/import", status_code=201, responses={201: {"model": answers.Answer}})
    async def import_job(who: Asker, request: Request, later: BackgroundTasks) -> Response:
        """Take in a job file (the body is the file)."""
        data = await request.body()
        return await lanes.files.run(lambda: opened(who, apart(job_file.document, data), later))

    @app.get("/api/jobs/{job_id}", responses={200: {"model": answers.Answer}})
    def job(who: Asker, job_id: str) -> Response:
        """A job with its Design."""
        return json_response(remembered.answer(who, log.current(who, job_id))[0])

    @app.get("/api/jobs/{job_id}/file")
    def file(who: Asker, job_id: str) -> Response:
        """The job as a file."""
        data = job_file.write(log.current(who, job_id).document)
        name = f'attachment; filename="{job_id}.job.json"'
        return Response(data, media_type="application/json", headers={"content-disposition": name})

    @app.post("/api/jobs/{job_id}/archive", status_code=204)
    def archive(who: Asker, job_id: str, wanted: answers.ArchiveIn) -> None:
        """Put a job away, or take it out again. Nothing is deleted."""
        log.archive(who, job_id, archived=wanted.archived)


def _edits(app: FastAPI, log: ChangeLog, remembered: Remembered) -> None:
    def as_sent(sent: answers.ChangeIn) -> Change:
        if sent.schema_version > SCHEMA:
            raise NewerSchema(f"The change has schema {sent.schema_version}; this engine reads up to {SCHEMA}.")
        operations = [operation.plain() for operation in sent.operations]
        return Change(sent.id, sent.base_version, operations, sent.label, tuple(sent.knows), sent.schema_version)

    @app.post("/api/jobs/{job_id}/changes", responses={200: {"model": answers.Answer}})
    def change(who: Asker, job_id: str, sent: answers.ChangeIn, later: BackgroundTasks) -> Response:
        """Apply one change, once."""
        return answered(remembered, who, log.apply(who, job_id, as_sent(sent)), later)

    @app.post("/api/jobs/{job_id}/changes/row", responses={200: {"model": answers.RowAnswer}})
    def change_row(who: Asker, job_id: str, sent: answers.ChangeRowIn, later: BackgroundTasks) -> Response:
        """Apply changes that waited, each once, up to the first that is refused; the chain is worked out once, at the end."""
        applied, kept = log.apply_row(who, job_id, [as_sent(one) for one in sent.changes])
        return answered(remembered, who, applied, later, kept=kept)

    @app.post("/api/jobs/{job_id}/undo", responses={200: {"model": answers.Answer}})
    def undo(who: Asker, job_id: str, sent: answers.TakeBackIn, later: BackgroundTasks) -> Response:
        """Take back my last change, as a new change."""
        return answered(remembered, who, log.undo(who, job_id, sent.id, of=sent.of), later)

    @app.post("/api/jobs/{job_id}/redo", responses={200: {"model": answers.Answer}})
    def redo(who: Asker, job_id: str, sent: answers.TakeBackIn, later: BackgroundTasks) -> Response:
        """Take back my last undo, as a new change."""
        return answered(remembered, who, log.redo(who, job_id, sent.id), later)

    @app.post("/api/jobs/{job_id}/what-if", responses={200: {"model": answers.WhatIfAnswer}})
    def what_if(who: Asker, job_id: str, sent: answers.WhatIfIn) -> Response:
        """What these operations would do. Nothing is written."""
        version, now, then = log.what_if(who, job_id, [operation.plain() for operation in sent.operations])
        result = design(then)
        did = effect(remembered.design_of(who, job_id, version, now), result)
        return stamped(version, design=result, effect=did)


def _reading(app: FastAPI, log: ChangeLog, remembered: Remembered, news: News, lanes: Lanes) -> None:
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

    @app.get("/api/jobs/{job_id}/doubts", responses={200: {"model": answers.DoubtsOut}})
    async def doubt_range(who: Asker, job_id: str, standing: str | None = None) -> Response:
        """The sampled range, every doubt by what it moves, and the gaps, nearest first from the room one stands in."""

        def work() -> Response:
            current = log.current(who, job_id)
            found = remembered.doubts(who, current.job, current.version)
            left = survey_gaps.leaving(current.job, standing=standing, doubts=found)
            return stamped(current.version, doubts=found, leaving=left)

        return await lanes.slow.run(work)

    @app.get("/api/jobs/{job_id}/working/{key}", response_model=Working)
    def show_working(who: Asker, job_id: str, key: str) -> Working:
        """The working behind a figure."""
        current = log.current(who, job_id)
        return working(current.job, remembered.design(who, current.job, current.version), key)

    @app.get("/api/jobs/{job_id}/versions/{version}/file")
    async def old_version(who: Asker, job_id: str, version: int) -> Response:
        """The job as it was at a version."""

        def work() -> Response:
            document = log.document_at(who, job_id, version)
            parse(document)
            return Response(job_file.write(document), media_type="application/json")

        return await lanes.slow.run(work)

    @app.get("/api/jobs/{job_id}/events")
    async def events(who: Asker, job_id: str) -> EventSourceResponse:
        """Server-sent events: a `version` event whenever the job changes."""
        return EventSourceResponse(news.follow(who.company_id, job_id), ping=PING_S)


def _pages(app: FastAPI, pages: Path) -> None:
    """The built pages; unknown paths outside /api fall back to the single page."""
    root = pages.resolve()

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        if path.startswith("api/"):
            raise NotFound("There is no such address.")
        try:
            wanted = (root / path).resolve()
            there = wanted.is_relative_to(root) and wanted.is_file()
        except (OSError, ValueError):  # longer than a name may be, or with U+0000 in it
            there = False
        if there:
            kept = "public, max-age=31536000, immutable" if "/immutable/" in f"/{path}" else "no-cache"
            return FileResponse(wanted, headers={"cache-control": kept})
        return FileResponse(root / "index.html", headers={"cache-control": "no-cache"})
