"""Offer, pack, upkeep, promise: as they stand, as they were issued, and the papers brought in for them."""

from __future__ import annotations

import datetime as dt
from typing import Any

from fastapi import FastAPI, Request
from starlette.responses import Response

from cinder.errors import NotFound, Refused
from cinder.exchange import upkeep_ics
from cinder.exchange.apart import apart
from cinder.exchange.files import brought
from cinder.handover.offer import OfferFound
from cinder.service.services import Services
from cinder.store.issued import Issued
from cinder.store.record import Applied, Who
from cinder.web import answers
from cinder.web.asking import Asker
from cinder.web.bodies import AcceptIn, IssueIn
from cinder.web.respond import IMMUTABLE, KINDS, attached, json_response, stamped

ICS = "text/calendar; charset=utf-8"


def install(app: FastAPI, on: Services) -> None:
    handed = on.handed

    @app.get("/api/jobs/{job_id}/offer", responses={200: {"model": answers.OfferOut}})
    async def offer(who: Asker, job_id: str) -> Response:
        """The offer as it would be made now."""
        return await on.slowly(who, job_id, lambda at: stamped(at.version, offer=handed.offer(who, at.job, at.version)))

    @app.get("/api/jobs/{job_id}/offer.xlsx")
    async def offer_file(who: Asker, job_id: str) -> Response:
        """The same as a workbook."""

        def work(at: Applied) -> Response:
            found = handed.offer(who, at.job, at.version)
            if found.lacks:
                raise NotFound(found.lacks)
            from cinder.exchange.tables import offer_xlsx  # loads what writes workbooks

            data = offer_xlsx.to_xlsx(found, title=at.job.title, currency=at.job.currency)
            return attached(data, f"{job_id}.offer.xlsx", KINDS["xlsx"])

        return await on.slowly(who, job_id, work)

    @app.get("/api/jobs/{job_id}/pack", responses={200: {"model": answers.PackOut}})
    async def pack(who: Asker, job_id: str) -> Response:
        """Every record of the pack: ready, or what it lacks, or why it is not needed."""
        return await on.slowly(who, job_id, lambda at: stamped(at.version, pack=handed.pack(who, at.job, at.version)))

    @app.get("/api/jobs/{job_id}/upkeep", responses={200: {"model": answers.UpkeepOut}})
    async def upkeep(who: Asker, job_id: str) -> Response:
        """What has to be looked after, by what is fitted."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, upkeep=handed.upkeep(who, at.job, at.version))
        )

    @app.get("/api/jobs/{job_id}/upkeep.ics")
    async def upkeep_file(who: Asker, job_id: str) -> Response:
        """The same for a calendar."""

        def work(at: Applied) -> Response:
            found = handed.upkeep(who, at.job, at.version)
            if found.lacks:
                raise NotFound(found.lacks)
            job, now = at.job, dt.datetime.now(dt.UTC)
            data = upkeep_ics.write(
                found, title=job.title, place=job.site.place, written_at=now, contact=job.handover.contact
            )
            return attached(data, f"{job_id}.upkeep.ics", ICS)

        return await on.slowly(who, job_id, work)

    @app.get("/api/jobs/{job_id}/promise", responses={200: {"model": answers.PromiseOut}})
    async def promised(who: Asker, job_id: str) -> Response:
        """What would be promised now."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, promise=handed.promise(who, at.job, at.version))
        )

    @app.get("/api/jobs/{job_id}/issued", responses={200: {"model": answers.IssuedOut}})
    async def issued(who: Asker, job_id: str) -> Response:
        """What was issued for a job, the newest first, and how the job as it stands differs from each."""

        def work(at: Applied) -> Response:
            rows = on.issued.of_job(who, job_id)
            return json_response({"version": at.version, "issued": [_issued(on, who, one, at) for one in rows]})

        return await on.slowly(who, job_id, work)

    @app.post("/api/jobs/{job_id}/issued", status_code=201, responses={201: {"model": answers.IssuedLine}})
    async def issue(who: Asker, job_id: str, sent: IssueIn) -> Response:
        """Issue the offer or the pack as it is now; its file is written in the background."""

        def work(at: Applied) -> Response:
            make = handed.issue_offer if sent.kind == "offer" else handed.issue_pack
            one = make(who, at, sent.id)
            paper, _ = on.papers.ask(who, job_id, one.version, paper_id=one.id, kind=sent.kind)
            if paper.state not in ("ready", "failed"):
                on.orders.write_paper(who.company_id, who.person_id, paper.id)
            return json_response(_issued(on, who, one, at), 201)

        return await on.slowly(who, job_id, work)

    @app.post("/api/issued/{issue_id}/accept", responses={200: {"model": answers.IssuedLine}})
    async def accept(who: Asker, issue_id: str, sent: AcceptIn) -> Response:
        """Somebody takes a variant of an issued offer; it stays as it was accepted."""
        one = on.issued.one(who, issue_id)

        def work(at: Applied) -> Response:
            return json_response(
                _issued(on, who, handed.accept(who, issue_id, variant=sent.variant, by=sent.by, day=sent.day), at)
            )

        return await on.slowly(who, one.job_id, work)

    @app.get("/api/issued/{issue_id}/offer", responses={200: {"model": answers.OfferOut}})
    def issued_offer(who: Asker, issue_id: str) -> Response:
        """An offer as it was issued."""
        one = _offer(on, who, issue_id)
        return stamped(one.version, offer=OfferFound.model_validate(one.content))

    @app.get("/api/issued/{issue_id}/offer.xlsx")
    def issued_file(who: Asker, issue_id: str) -> Response:
        """The same as a workbook."""
        one = _offer(on, who, issue_id)
        job = on.log.current(who, one.job_id).job
        from cinder.exchange.tables import offer_xlsx

        data = offer_xlsx.to_xlsx(OfferFound.model_validate(one.content), title=job.title, currency=job.currency)
        return attached(data, f"{one.job_id}.offer.{one.number}.xlsx", KINDS["xlsx"])

    @app.get("/api/jobs/{job_id}/lessons", responses={200: {"model": answers.LessonsOut}})
    async def lessons(who: Asker, job_id: str, simulated: bool = False) -> Response:
        """What winters of all the company's jobs teach, and what that says of this job."""
        return await on.slowly(
            who,
            job_id,
            lambda at: stamped(at.version, lessons=on.winters.lessons(who, at.job, at.version, simulated=simulated)),
        )

    @app.get("/api/jobs/{job_id}/winters/{source}", responses={200: {"model": answers.WinterOut}})
    async def winter(who: Asker, job_id: str, source: str) -> Response:
        """What a source of readings says of house and machine."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, winter=on.winters.winter(who, at.job, at.version, source))
        )

    @app.get("/api/jobs/{job_id}/winters/{source}/curve", responses={200: {"model": answers.CorrectionOut}})
    async def curve(who: Asker, job_id: str, source: str) -> Response:
        """What the coldest weeks of a source say of the line, and the step to take."""
        return await on.slowly(
            who, job_id, lambda at: stamped(at.version, correction=on.winters.curve(who, at.job, at.version, source))
        )

    @app.get("/api/jobs/{job_id}/winters/{source}/kept", responses={200: {"model": answers.KeptOut}})
    async def kept(who: Asker, job_id: str, source: str) -> Response:
        """The promise held against one winter; of which pack it is."""

        def work(at: Applied) -> Response:
            found, promise, number = on.winters.kept(who, at.job, at.version, source)
            return json_response(
                {"version": at.version, "pack": number, "kept": found.model_dump(), "promise": promise.model_dump()}
            )

        return await on.slowly(who, job_id, work)

    @app.put("/api/files", responses={200: {"model": answers.FileOut}})
    async def put_file(who: Asker, request: Request) -> Response:
        """Keep a paper that is brought in (the body is the file): a PDF or a picture."""
        data = await request.body()

        def work() -> Response:
            made = apart(brought.prepare, data)
            return json_response(
                {"sha256": on.files.keep(who, made.data, made.media), "media": made.media, "bytes": len(made.data)}
            )

        return await on.lanes.files.run(work)

    @app.get("/api/files/{sha256}")
    def get_file(who: Asker, sha256: str) -> Response:
        """A paper that was brought in."""
        media, data = on.files.file(who, sha256)
        answer = attached(data, f"paper.{'pdf' if media == 'application/pdf' else 'jpg'}", media)
        answer.headers["cache-control"] = IMMUTABLE
        return answer


def _offer(on: Services, who: Who, issue_id: str) -> Issued:
    one = on.issued.one(who, issue_id)
    if one.kind != "offer":
        raise Refused("This is no offer.")
    return one


def _issued(on: Services, who: Who, one: Issued, at: Applied) -> dict[str, Any]:
    try:
        paper = on.papers.paper(who, one.id)
        state, progress, step = paper.state, paper.progress, paper.step
    except NotFound:
        state, progress, step = "failed", 0, "nobody wrote it"
    says = one.content if one.kind == "offer" else one.content["pack"]
    differs = on.handed.differs(who, one, at.job, at.version)
    valid = dt.timedelta(days=one.content["valid_days"]) if one.kind == "offer" else None
    return {
        "id": one.id, "kind": one.kind, "number": one.number, "version": one.version, "engine": one.engine, "fingerprint": one.fingerprint,
        "at": one.at, "until": (one.at + valid).date() if valid else None, "accepted": one.accepted, "differs": differs,
        "state": state, "progress": progress, "step": step, "sentence": says["sentence"],
    }  # fmt: skip
