"""Files in and out: photos, survey sheets, plans, the printed form, a job with its photos and weather."""

from __future__ import annotations

import hashlib
from datetime import UTC, datetime
from typing import Any, Literal

from fastapi import BackgroundTasks, FastAPI, Request
from starlette.concurrency import run_in_threadpool
from starlette.responses import Response

from cinder.errors import InvalidJob, NotFound, Problem, Refused
from cinder.exchange import bundle, form_pdf, pictures, plan_dxf, plan_svg, sheet, sheet_in
from cinder.library import load
from cinder.library.years import read as read_year
from cinder.store.company import YEAR, CompanyShelf
from cinder.store.log import ChangeLog, Who
from cinder.store.photos import PhotoShelf, Size
from cinder.web import answers
from cinder.web.asking import DEMO_PERSON, Asker
from cinder.web.desk import DesignDesk, json_response

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


def install_files(app: FastAPI, log: ChangeLog, desk: DesignDesk, shelf: PhotoShelf, company: CompanyShelf) -> None:
    _photos(app, shelf)
    _papers(app, log)
    _taken(app, log)
    _bundles(app, log, desk, shelf, company)


def _photos(app: FastAPI, shelf: PhotoShelf) -> None:
    @app.put("/api/photos/{sha256}", response_model=answers.PhotoOut)
    async def put_photo(who: Asker, sha256: str, request: Request) -> dict[str, Any]:
        """Keep a picture (the body is the file). It comes before the change that refers to it."""
        data = await request.body()
        return await run_in_threadpool(_keep, shelf, who, sha256, data)

    @app.get("/api/photos/{sha256}")
    def get_photo(who: Asker, sha256: str, size: Size = "view") -> Response:
        """A picture as JPEG: full, view (1600 dots) or thumb (320)."""
        return Response(shelf.get(who, sha256, size), media_type="image/jpeg", headers={"cache-control": IMMUTABLE})


def _keep(shelf: PhotoShelf, who: Who, sha256: str, data: bytes) -> dict[str, Any]:
    if hashlib.sha256(data).hexdigest() != sha256:
        raise Refused("The picture does not match its fingerprint: it was cut off on the way.",
                      problems=(Problem("/photo", "sha256 differs"),))  # fmt: skip
    made = pictures.prepare(data)
    size = {"width_px": made.width_px, "height_px": made.height_px}
    shelf.put(who, sha256, **size, full=made.full, view=made.view, thumb=made.thumb)
    return {"sha256": sha256, **size}


def _papers(app: FastAPI, log: ChangeLog) -> None:
    @app.get("/api/jobs/{job_id}/survey.{form}")
    def survey_file(who: Asker, job_id: str, form: Format) -> Response:
        """The survey as CSV or XLSX, the plans as DXF or SVG, the empty form as PDF."""
        job = log.current(who, job_id).job
        make = {
            "csv": lambda: sheet.to_csv(job), "xlsx": lambda: sheet.to_xlsx(job), "dxf": lambda: plan_dxf.write(job),
            "svg": lambda: plan_svg.write(job), "pdf": lambda: form_pdf.write(job.title),
        }  # fmt: skip
        return attached(make[form](), f"{job_id}.survey.{form}", KINDS[form])

    @app.get("/api/survey-sheet.xlsx")
    def blank_sheet(who: Asker) -> Response:
        """An empty survey sheet, to print or to fill."""
        return attached(sheet.to_xlsx(None, blank_rows=BLANK_ROWS), "survey-sheet.xlsx", XLSX)


def _taken(app: FastAPI, log: ChangeLog) -> None:
    """What a file would do to a job: the page sends it back as one change, which can be undone like any other."""

    def answer(operations: list[dict[str, Any]]) -> Response:
        if len(operations) > 500:
            raise InvalidJob(f"The file would make {len(operations)} entries; at most 500 are taken at once.")
        count = {
            name: sum(op["path"].startswith(f"/survey/{name}/") for op in operations) for name in ("rooms", "emitters")
        }
        return json_response({"operations": operations, **count})

    @app.post("/api/jobs/{job_id}/sheet", responses={200: {"model": answers.TakenIn}})
    async def take_sheet(who: Asker, job_id: str, request: Request) -> Response:
        """Read a filled survey sheet (the body is the file, CSV or XLSX). Nothing is changed."""
        data = await request.body()
        job = (await run_in_threadpool(log.current, who, job_id)).job
        now = datetime.now(UTC).isoformat(timespec="seconds")
        return answer(await run_in_threadpool(lambda: sheet_in.changes(job, data, load(), by=DEMO_PERSON, at=now)))

    @app.post("/api/jobs/{job_id}/drawing", responses={200: {"model": answers.TakenIn}})
    async def take_drawing(who: Asker, job_id: str, request: Request) -> Response:
        """Read a DXF drawing (the body is the file): closed polylines become rooms. Nothing is changed."""
        data = await request.body()
        job = (await run_in_threadpool(log.current, who, job_id)).job
        now = datetime.now(UTC).isoformat(timespec="seconds")
        return answer(await run_in_threadpool(lambda: plan_dxf.changes(job, data, by=DEMO_PERSON, at=now)))


def _bundles(app: FastAPI, log: ChangeLog, desk: DesignDesk, shelf: PhotoShelf, company: CompanyShelf) -> None:
    @app.get("/api/jobs/{job_id}/bundle")
    def give_bundle(who: Asker, job_id: str) -> Response:
        """The job with its photos, as a zip."""
        document = log.current(who, job_id).document
        try:
            data = bundle.write(
                document, lambda sha256: shelf.get(who, sha256, "full"), lambda sha256: company.blob(who, sha256)
            )
        except NotFound:
            raise NotFound("A photo of this job is not on this machine; take the job alone instead.") from None
        return attached(data, f"{job_id}.job.zip", "application/zip")

    @app.post("/api/jobs/bundle", status_code=201, responses={201: {"model": answers.Answer}})
    async def take_bundle(who: Asker, request: Request, later: BackgroundTasks) -> Response:
        """Take in a job with its photos (the body is the zip)."""
        data = await request.body()
        return await run_in_threadpool(_open_bundle, log, desk, shelf, company, who, data, later)


def _open_bundle(
    log: ChangeLog, desk: DesignDesk, shelf: PhotoShelf, company: CompanyShelf, who: Who, data: bytes,
    later: BackgroundTasks,
) -> Response:  # fmt: skip
    document, photos, years = bundle.read(data)
    for sha256 in bundle.years_of(document):
        if sha256 in years:
            read_year(years[sha256])
            company.keep_blob(who, sha256, years[sha256], YEAR)
    for sha256 in bundle.photos_of(document):
        if not shelf.has(who, sha256):
            made = pictures.prepare(photos[sha256])
            shelf.put(
                who,
                sha256,
                width_px=made.width_px,
                height_px=made.height_px,
                full=made.full,
                view=made.view,
                thumb=made.thumb,
            )
    applied = log.create(who, document)
    response, result, did = desk.answer(who, applied)
    later.add_task(desk.note, who, applied, result, did)
    response.status_code = 201
    response.background = later
    return response
