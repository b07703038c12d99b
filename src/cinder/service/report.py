"""What a report is made of."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime
from functools import cache
from typing import TypeVar

from cinder.design.apart.doubts import gaps
from cinder.exchange.report import Material
from cinder.model import Job, parse
from cinder.service.handed import Handed
from cinder.service.people import DEMO_COMPANY
from cinder.store.log import ChangeLog
from cinder.store.photos import PhotoShelf
from cinder.store.record import Who

T = TypeVar("T")


def material(
    log: ChangeLog,
    handed: Handed,
    photos: PhotoShelf,
    who: Who,
    job_id: str,
    version: int | None = None,
    *,
    issued: str | None = None,
) -> Material:
    """What a report of a job at a version is made of. `issued`: the offer that is shown as it was issued."""
    remembered = handed.remembered
    current = log.current(who, job_id)
    if version is None or version == current.version:
        job, at, document = current.job, current.version, current.document
    else:
        document = log.document_at(who, job_id, version)
        job, at = parse(document), version

    def once(work: Callable[[Who, Job, int], T]) -> Callable[[], T]:
        return cache(lambda: work(who, job, at))

    on = remembered
    return Material(
        job=job, design=on.design(who, job, at), doubts=once(on.doubts), year=once(on.year), bill=once(on.bills), runs=once(on.running),
        water=once(on.water_days), flows=once(on.flows), controllers=once(on.controllers), fire_up=once(on.fire_up), wiring=once(on.wiring),
        separating=once(on.separating), protecting=once(on.protecting), plant=once(on.plant), materials=once(on.materials),
        routes=once(on.routes), offer=cache(lambda: handed.material_offer(who, job, at, issued)), pack=once(handed.pack),
        upkeep=once(handed.upkeep), promise=once(handed.promise), guide=once(handed.guide),
        doubts_leaving=lambda: gaps.leaving(job), picture=lambda sha256: photos.get(who, sha256, "view"),
        fingerprint=on.fingerprint_of(who, job, at, document), version=at, written_at=datetime.now(UTC), company=DEMO_COMPANY,
    )  # fmt: skip
