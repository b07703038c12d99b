"""Survey sheets, plans, the printed form."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Literal

from fastapi import FastAPI, Request
from starlette.responses import Response

from cinder.errors import InvalidJob
from cinder.exchange.apart import apart
from cinder.exchange.survey import form_pdf, plan_dxf, plan_svg, sheet, sheet_in
from cinder.library import load
from cinder.model.imperial import Told
from cinder.model.operation import Operation
from cinder.service.people import DEMO_PERSON
from cinder.service.services import Services
from cinder.store.patch import MAX_OPERATIONS
from cinder.store.record import Applied
from cinder.web import answers
from cinder.web.asking import Asker
from cinder.web.respond import KINDS, XLSX, attached, json_response

Format = Literal["csv", "xlsx", "dxf", "svg", "pdf"]
BLANK_ROWS = 60


def install(app: FastAPI, on: Services) -> None:
    log, lanes = on.log, on.lanes

    @app.get("/api/jobs/{job_id}/survey.{form}")
    async def survey_file(who: Asker, job_id: str, form: Format) -> Response:
        """The survey as CSV or XLSX, the plans as DXF or SVG, the empty form as PDF."""

        def work(current: Applied) -> Response:
            job = current.job
            make = {
                "csv": lambda: sheet.to_csv(job), "xlsx": lambda: sheet.to_xlsx(job), "dxf": lambda: plan_dxf.write(job),
                "svg": lambda: plan_svg.write(job), "pdf": lambda: form_pdf.write(job.title, Told(job.site.units == "feet")),
            }  # fmt: skip
            return attached(make[form](), f"{job_id}.survey.{form}", KINDS[form])

        return await on.slowly(who, job_id, work)

    @app.get("/api/survey-sheet.xlsx")
    def blank_sheet(who: Asker) -> Response:
        """An empty survey sheet, to print or to fill."""
        return attached(sheet.to_xlsx(None, blank_rows=BLANK_ROWS), "survey-sheet.xlsx", XLSX)

    def answer(operations: list[Operation]) -> Response:
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
