"""Constructions cut through."""

from __future__ import annotations

from fastapi import FastAPI
from starlette.responses import Response

from cinder.design.fabric.section import section
from cinder.errors import NotFound
from cinder.exchange.report import heat_loss
from cinder.library import ConstructionEntry, entry_sha256
from cinder.service.services import Services
from cinder.store.company import entry_of
from cinder.store.record import Applied
from cinder.web import answers, bodies
from cinder.web.asking import Asker
from cinder.web.respond import json_response


def install(app: FastAPI, on: Services) -> None:
    remembered = on.remembered

    @app.post("/api/section", responses={200: {"model": answers.SectionOut}})
    def cut(who: Asker, sent: bodies.SectionIn) -> Response:
        """A construction cut through between two temperatures. Nothing is written."""
        entry = entry_of("constructions", sent.entry)
        if not isinstance(entry, ConstructionEntry):
            raise NotFound("That is no construction.")
        made = section(entry, inside_c=sent.inside_c, outside_c=sent.outside_c)
        return json_response(
            {"section": made.model_dump(), "entry": entry.model_dump(mode="json"), "sha256": entry_sha256(entry)}
        )

    @app.get("/api/jobs/{job_id}/sections", responses={200: {"model": answers.SectionsOut}})
    async def sections(who: Asker, job_id: str) -> Response:
        """Every construction of the job cut through on its design day."""

        def work(current: Applied) -> Response:
            outdoor = remembered.design(who, current.job, current.version).house.outdoor_c
            cold = outdoor if outdoor is not None else 0.0
            cuts = {
                key: section(frozen.data, inside_c=heat_loss.INSIDE_C, outside_c=cold).model_dump()
                for key, frozen in current.job.library.constructions.items()
            }
            return json_response({"version": current.version, "sections": cuts})

        return await on.slowly(who, job_id, work)
