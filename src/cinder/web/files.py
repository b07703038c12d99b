"""Files in and out: photos, survey sheets, plans, the printed form, a job with its photos and weather."""

from __future__ import annotations

import hashlib
import tempfile
from datetime import UTC, datetime
from typing import Any, BinaryIO, Literal

from fastapi import BackgroundTasks, FastAPI, Request
from sqlalchemy.orm import Session
from starlette.responses import Response

from cinder.errors import InvalidJob, NotFound, Problem, Refused
from cinder.exchange import bundle, form_pdf, job_file, pictures, plan_dxf, plan_svg, sheet, sheet_in, weather_file
from cinder.exchange.apart import apart
from cinder.library import load
from cinder.service.lane import Lanes
from cinder.service.people import DEMO_PERSON
from cinder.service.remembered import Remembered
from cinder.store.company import YEAR, CompanyShelf
from cinder.store.log import ChangeLog, Who
from cinder.store.patch import MAX_OPERATIONS
from cinder.store.photos import PhotoShelf, Size
from cinder.web import answers
from cinder.web.asking import Asker
from cinder.web.respond import answered, json_response

XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
Format = Literal["csv", "xlsx", "dxf", "svg", "pdf"]
KINDS = {
    "csv": "text/csv; charset=utf-8",
    "xlsx": XLSX,
    "dxf": "image/vnd.dxf",
    "svg": "image/svg+xml",
    "pdf": "application/pdf",
}
BLANK_ROWS = 60
IMMUTABLE = "private, max-age=31536000, immutable"


def attached(data: bytes, name: str, kind: str) -> Response:
    """A file to be kept, never run by the browser."""
    headers = {"content-disposition": f'attachment; filename="{name}"', "content-security-policy": "sandbox"}
    return Response(data, media_type=kind, headers=headers)


def install_files(
    app: FastAPI, log: ChangeLog, remembered: Remembered, shelf: PhotoShelf, company: CompanyShelf, lanes: Lanes
) -> None:
    _photos(app, shelf, lanes)
    _papers(app, log, lanes)
    _taken(app, log, lanes)
    _bundles(app, log, remembered, shelf, company, lanes)


def _photos(app: FastAPI, shelf: PhotoShelf, lanes: Lanes) -> None:
    @app.put("/api/photos/{sha256}", response_model=answers.PhotoOut)
    async def put_photo(who: Asker, sha256: str, request: Request) -> dict[str, Any]:
        """Keep a picture (the body is the file). It comes before the change that refers to it."""
        data = await request.body()
        return await lanes.files.run(lambda: _keep(shelf, who, sha256, data))

    @app.get("/api/photos/{sha256}")
    def get_photo(who: Asker, sha256: str, size: Size = "view") -> Response:
        """A picture as JPEG: full, view (1600 dots) or thumb (320)."""
        return Response(shelf.get(who, sha256, size), media_type="image/jpeg", headers={"cache-control": IMMUTABLE})


def _keep(shelf: PhotoShelf, who: Who, sha256: str, data: bytes) -> dict[str, Any]:
    if hashlib.sha256(data).hexdigest() != sha256:
        raise Refused("The picture does not match its fingerprint: it was cut off on the way.",
                      problems=(Problem("/photo", "sha256 differs"),))  # fmt: skip
    made = apart(pictures.prepare, data)
    _put(shelf, who, sha256, made, None)
    return {"sha256": sha256, "width_px": made.width_px, "height_px": made.height_px}


def _put(shelf: PhotoShelf, who: Who, sha256: str, made: pictures.Picture, session: Session | None) -> None:
    shelf.put(
        who, sha256, width_px=made.width_px, height_px=made.height_px, full=made.full, view=made.view, thumb=made.thumb,
        session=session,
    )  # fmt: skip


def _papers(app: FastAPI, log: ChangeLog, lanes: Lanes) -> None:
    @app.get("/api/jobs/{job_id}/survey.{form}")
    async def survey_file(who: Asker, job_id: str, form: Format) -> Response:
        """The survey as CSV or XLSX, the plans as DXF or SVG, the empty form as PDF."""

        def work() -> Response:
            job = log.current(who, job_id).job
            make = {
                "csv": lambda: sheet.to_csv(job), "xlsx": lambda: sheet.to_xlsx(job), "dxf": lambda: plan_dxf.write(job),
                "svg": lambda: plan_svg.write(job), "pdf": lambda: form_pdf.write(job.title),
            }  # fmt: skip
            return attached(make[form](), f"{job_id}.survey.{form}", KINDS[form])

        return await lanes.slow.run(work)

    @app.get("/api/survey-sheet.xlsx")
    def blank_sheet(who: Asker) -> Response:
        """An empty survey sheet, to print or to fill."""
        return attached(sheet.to_xlsx(None, blank_rows=BLANK_ROWS), "survey-sheet.xlsx", XLSX)


def _taken(app: FastAPI, log: ChangeLog, lanes: Lanes) -> None:
    """What a file would do to a job: the page sends it back as one change, which can be undone like any other."""

    def answer(operations: list[dict[str, Any]]) -> Response:
        if len(operations) > MAX_OPERATIONS:
            raise InvalidJob(
                f"The file would make {len(operations)} entries; at most {MAX_OPERATIONS} are taken at once."
            )
        count = {
            name: sum(op["path"].startswith(f"/survey/{name}/") for op in operations) for name in ("rooms", "emitters")
        }
        return json_response({"operations": operations, **count})

    @app.post("/api/jobs/{job_id}/sheet", responses={200: {"model": answers.TakenIn}})
    async def take_sheet(who: Asker, job_id: str, request: Request) -> Response:
        """Read a filled survey sheet (the body is the file, CSV or XLSX). Nothing is changed."""
        data = await request.body()

        def work() -> Response:
            job = log.current(who, job_id).job
            rows = apart(sheet_in.read, data)
            return answer(sheet_in.changes_of(job, rows, load(), by=DEMO_PERSON, at=_now()))

        return await lanes.files.run(work)

    @app.post("/api/jobs/{job_id}/drawing", responses={200: {"model": answers.TakenIn}})
    async def take_drawing(who: Asker, job_id: str, request: Request) -> Response:
        """Read a DXF drawing (the body is the file): closed polylines become rooms. Nothing is changed."""
        data = await request.body()

        def work() -> Response:
            job = log.current(who, job_id).job
            drawn = apart(plan_dxf.read, data)
            return answer(plan_dxf.changes_of(job, drawn, by=DEMO_PERSON, at=_now()))

        return await lanes.files.run(work)


def _now() -> str:
    return datetime.now(UTC).isoformat(timespec="seconds")


def _bundles(
    app: FastAPI, log: ChangeLog, remembered: Remembered, shelf: PhotoShelf, company: CompanyShelf, lanes: Lanes
) -> None:
    @app.get("/api/jobs/{job_id}/bundle")
    async def give_bundle(who: Asker, job_id: str) -> Response:
        """The job with its photos, as a zip."""

        def work() -> Response:
            document = log.current(who, job_id).document
            try:
                data = bundle.write(
                    document, lambda sha256: shelf.get(who, sha256, "full"), lambda sha256: company.blob(who, sha256)
                )
            except NotFound:
                raise NotFound("A photo of this job is not on this machine; take the job alone instead.") from None
            return attached(data, f"{job_id}.job.zip", "application/zip")

        return await lanes.slow.run(work)

    @app.post("/api/jobs/bundle", status_code=201, responses={201: {"model": answers.Answer}})
    async def take_bundle(who: Asker, request: Request, later: BackgroundTasks) -> Response:
        """Take in a job with its photos (the body is the zip, which goes to disk and not through memory)."""
        with tempfile.TemporaryFile() as file:
            async for chunk in request.stream():
                file.write(chunk)
            return await lanes.files.run(lambda: _open_bundle(log, remembered, shelf, company, who, file, later))


def _open_bundle(
    log: ChangeLog, remembered: Remembered, shelf: PhotoShelf, company: CompanyShelf, who: Who, file: BinaryIO,
    later: BackgroundTasks,
) -> Response:  # fmt: skip
    """The job, its pictures and its years in one transaction: a refused bundle leaves nothing behind."""
    packed = bundle.Bundle(file, job=lambda data: apart(job_file.document, data))
    named = {
        sha256: _fingerprint(shelf, who, sha256, packed.photo(sha256)) for sha256 in bundle.photos_of(packed.document)
    }
    packed.rename(named)

    def beside(session: Session) -> None:
        for sha256 in bundle.years_of(packed.document):
            hourly = packed.year(sha256)
            if hourly is not None:
                apart(weather_file.hourly, hourly)
                company.keep_blob(who, sha256, hourly, YEAR, session=session)
        for inside, sha256 in named.items():
            if not shelf.has(who, sha256):
                _put(shelf, who, sha256, apart(pictures.prepare, packed.photo(inside)), session)

    applied = log.create(who, packed.document, beside=beside)
    return answered(remembered, who, applied, later, status=201)


def _fingerprint(shelf: PhotoShelf, who: Who, name: str, data: bytes) -> str:
    """What a picture of a zip is kept under: the name it has there only where that is its own fingerprint, or where this
    very picture is kept under it already (a job that comes back); else its own."""
    own = hashlib.sha256(data).hexdigest()
    if own == name or (shelf.has(who, name) and shelf.get(who, name, "full") == data):
        return name
    return own
