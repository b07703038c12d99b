"""The design of a job at a version, kept while it is fresh; answers put together from it."""

from __future__ import annotations

import threading
from collections import OrderedDict
from datetime import UTC, datetime
from typing import Any

import orjson
from starlette.responses import Response

from cinder.design import Design, Effect, design, doubts, effect
from cinder.design.result_survey import Doubts
from cinder.model import Job, parse
from cinder.store.log import Applied, ChangeLog, Who
from cinder.web.asking import DEMO, DEMO_PERSON

KEPT = 64


class DesignDesk:
    """Remembers the last designs by (company, job, version); a design is pure, so this changes no answer."""

    def __init__(self, log: ChangeLog) -> None:
        self.log = log
        self._kept: OrderedDict[tuple[str, str, int], Design] = OrderedDict()
        self._doubts: OrderedDict[tuple[str, str, int], Doubts] = OrderedDict()
        self._lock = threading.Lock()

    def design(self, who: Who, job: Job, version: int) -> Design:
        key = (who.company_id, job.id, version)
        with self._lock:
            known = self._kept.get(key)
            if known is not None:
                self._kept.move_to_end(key)
                return known
        made = design(job)
        with self._lock:
            self._kept[key] = made
            while len(self._kept) > KEPT:
                self._kept.popitem(last=False)
        return made

    def doubts(self, who: Who, job: Job, version: int) -> Doubts:
        """The sampled range of a version: slow, so asked for apart from the edit, and remembered."""
        key = (who.company_id, job.id, version)
        with self._lock:
            known = self._doubts.get(key)
        if known is None:
            known = doubts.solve(job)
            with self._lock:
                self._doubts[key] = known
                while len(self._doubts) > KEPT:
                    self._doubts.popitem(last=False)
        return known

    def effect(self, who: Who, applied: Applied, after: Design) -> Effect | None:
        """What the change did, against the version before it."""
        if applied.before_version < 1 or applied.before_version == applied.version:
            return None
        key = (who.company_id, applied.job.id, applied.before_version)
        with self._lock:
            before = self._kept.get(key)
        if before is None:
            old = parse(self.log.document_at(who, applied.job.id, applied.before_version))
            before = self.design(who, old, applied.before_version)
        return effect(before, after)

    def answer(self, who: Who, applied: Applied) -> tuple[Response, Design, Effect | None]:
        result = self.design(who, applied.job, applied.version)
        did = self.effect(who, applied, result)
        body = {
            "version": applied.version,
            "person": DEMO_PERSON,
            "sample": who == DEMO,
            "replayed": applied.replayed,
            "job": applied.document,
            "design": result.model_dump(),
            "effect": did.model_dump() if did else None,
            "undo_label": applied.undo_label,
            "redo_label": applied.redo_label,
            "can_undo": applied.undo_label is not None,
            "can_redo": applied.redo_label is not None,
            "changed_at": datetime.now(UTC).isoformat(),
        }
        return json_response(body), result, did

    def note(self, who: Who, applied: Applied, result: Design, did: Effect | None) -> None:
        """Summary and effect, written after the answer and only if the job is still at this version."""
        self.log.note(
            who,
            applied.job.id,
            applied.version,
            summary=summary(result),
            effect=did.model_dump() if did else {},
        )


def json_response(body: Any, status: int = 200) -> Response:
    return Response(orjson.dumps(body), status_code=status, media_type="application/json")


def summary(result: Design) -> dict[str, Any]:
    """The line of the job list."""
    figures = {figure.key: figure.value for figure in result.headline}
    return {
        "rooms": len(result.rooms),
        "loss_w": result.house.loss_w,
        "flow_c": figures["flow"],
        "cover": figures["cover"],
        "season": figures["season"],
        "findings": sum(1 for f in result.findings if f.severity in ("stops", "short")),
        "scheme_label": result.scheme_label,
    }
