"""Changes to a job: applied once, taken back, tried without writing."""

from __future__ import annotations

from typing import Any

from fastapi import BackgroundTasks, FastAPI
from starlette.responses import Response

from cinder.design import effect
from cinder.errors import NewerSchema
from cinder.model import SCHEMA
from cinder.service.services import Services
from cinder.store.record import Change
from cinder.web import answers, bodies
from cinder.web.asking import Asker, Holds
from cinder.web.respond import answered, json_response

ANSWER: dict[int | str, dict[str, Any]] = {200: {"model": answers.Answer | answers.Onward}}


def install(app: FastAPI, on: Services) -> None:
    log, remembered = on.log, on.remembered

    def as_sent(sent: bodies.ChangeIn) -> Change:
        if sent.schema_version > SCHEMA:
            raise NewerSchema(f"The change has schema {sent.schema_version}; this engine reads up to {SCHEMA}.")
        operations = [operation.plain() for operation in sent.operations]
        return Change(sent.id, sent.base_version, operations, sent.label, tuple(sent.knows), sent.schema_version)

    @app.post("/api/jobs/{job_id}/changes", responses=ANSWER)
    def change(who: Asker, job_id: str, sent: bodies.ChangeIn, later: BackgroundTasks, holds: Holds = None) -> Response:
        """Apply one change, once."""
        return answered(remembered, who, log.apply(who, job_id, as_sent(sent)), later, holds=holds)

    @app.post("/api/jobs/{job_id}/changes/row", responses=ANSWER)
    def change_batch(
        who: Asker, job_id: str, sent: bodies.ChangeBatchIn, later: BackgroundTasks, holds: Holds = None
    ) -> Response:
        """Apply changes that waited, each once, up to the first that is refused; the chain is worked out once, at the end."""
        applied, kept = log.apply_batch(who, job_id, [as_sent(one) for one in sent.changes])
        return answered(remembered, who, applied, later, holds=holds, kept=kept)

    @app.post("/api/jobs/{job_id}/undo", responses=ANSWER)
    def undo(who: Asker, job_id: str, sent: bodies.TakeBackIn, later: BackgroundTasks, holds: Holds = None) -> Response:
        """Take back my last change, as a new change."""
        return answered(remembered, who, log.undo(who, job_id, sent.id, of=sent.of), later, holds=holds)

    @app.post("/api/jobs/{job_id}/redo", responses=ANSWER)
    def redo(who: Asker, job_id: str, sent: bodies.TakeBackIn, later: BackgroundTasks, holds: Holds = None) -> Response:
        """Take back my last undo, as a new change."""
        return answered(remembered, who, log.redo(who, job_id, sent.id), later, holds=holds)

    @app.post("/api/jobs/{job_id}/what-if", responses={200: {"model": answers.WhatIfAnswer | answers.WhatIfOnward}})
    def what_if(who: Asker, job_id: str, sent: bodies.WhatIfIn, holds: Holds = None) -> Response:
        """What these operations would do. Nothing is written."""
        version, now, then = log.what_if(who, job_id, [operation.plain() for operation in sent.operations])
        result, body = remembered.tried_onward(who, then, holds)
        did = effect(remembered.design_of(who, job_id, version, now), result)
        return json_response({"version": version, **body, "effect": did.model_dump()})
