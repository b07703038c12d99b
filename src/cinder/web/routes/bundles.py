"""A job with its photos and weather as one file."""

from __future__ import annotations

import hashlib
import tempfile
from typing import BinaryIO

from fastapi import BackgroundTasks, FastAPI, Request
from sqlalchemy.orm import Session
from starlette.responses import Response

from cinder.errors import NotFound
from cinder.exchange.apart import apart
from cinder.exchange.files import brought, pictures
from cinder.exchange.jobs import bundle, job_file
from cinder.exchange.weather import weather_file
from cinder.service.services import Services
from cinder.store.company import YEAR
from cinder.store.photos import PhotoShelf
from cinder.store.record import Who
from cinder.web import answers
from cinder.web.asking import Asker
from cinder.web.respond import answered, attached
from cinder.web.routes.photos import put_picture


def install(app: FastAPI, on: Services) -> None:
    log, company, photos, lanes = on.log, on.company, on.photos, on.lanes

    @app.get("/api/jobs/{job_id}/bundle")
    async def give_bundle(who: Asker, job_id: str) -> Response:
        """The job with its photos, as a zip."""

        def work() -> Response:
            document = log.current(who, job_id).document
            try:
                data = bundle.write(
                    document,
                    lambda sha256: photos.get(who, sha256, "full"),
                    lambda sha256: company.blob(who, sha256),
                    paper=lambda sha256: on.files.file(who, sha256)[1],
                )
            except NotFound:
                raise NotFound(
                    "A photo or a paper of this job is not on this machine; take the job alone instead."
                ) from None
            return attached(data, f"{job_id}.job.zip", "application/zip")

        return await lanes.slow.run(work)

    @app.post("/api/jobs/bundle", status_code=201, responses={201: {"model": answers.Answer}})
    async def take_bundle(who: Asker, request: Request, later: BackgroundTasks) -> Response:
        """Take in a job with its photos (the body is the zip, which goes to disk and not through memory)."""
        with tempfile.TemporaryFile() as file:
            async for chunk in request.stream():
                file.write(chunk)
            return await lanes.files.run(lambda: _open_bundle(on, who, file, later))


def _open_bundle(on: Services, who: Who, file: BinaryIO, later: BackgroundTasks) -> Response:
    """The job, its pictures, its years and its papers in one transaction: a refused bundle leaves nothing behind."""
    log, shelf, company = on.log, on.photos, on.company
    packed = bundle.Bundle(file, job=lambda data: apart(job_file.document, data))
    named = {
        sha256: _fingerprint(shelf, who, sha256, packed.photo(sha256)) for sha256 in bundle.photos_of(packed.document)
    }
    papers = {sha256: apart(brought.prepare, packed.paper(sha256)) for sha256 in bundle.papers_of(packed.document)}
    packed.rename(named, {inside: hashlib.sha256(one.data).hexdigest() for inside, one in papers.items()})

    def beside(session: Session) -> None:
        for sha256 in bundle.years_of(packed.document):
            hourly = packed.year(sha256)
            if hourly is not None:
                apart(weather_file.hourly, hourly)
                company.keep_blob(who, sha256, hourly, YEAR, session=session)
        for inside, sha256 in named.items():
            if not shelf.has(who, sha256):
                put_picture(shelf, who, sha256, apart(pictures.prepare, packed.photo(inside)), session)

        for one in papers.values():
            on.files.keep(who, one.data, one.media, session=session)

    applied = log.create(who, packed.document, beside=beside)
    return answered(on.remembered, who, applied, later, status=201)


def _fingerprint(shelf: PhotoShelf, who: Who, name: str, data: bytes) -> str:
    """What a picture of a zip is kept under: the name it has there only where that is its own fingerprint, or where this
    very picture is kept under it already (a job that comes back); else its own."""
    own = hashlib.sha256(data).hexdigest()
    if own == name or (shelf.has(who, name) and shelf.get(who, name, "full") == data):
        return name
    return own
