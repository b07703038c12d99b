"""What a report is made of."""

from __future__ import annotations

from datetime import UTC, datetime

from cinder.design.apart.doubts import gaps
from cinder.exchange.report import Material
from cinder.model import parse
from cinder.service.handed import Handed
from cinder.service.people import DEMO_COMPANY
from cinder.store.log import ChangeLog
from cinder.store.photos import PhotoShelf
from cinder.store.record import Who


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
    return Material(
        job=job, design=remembered.design(who, job, at), doubts=remembered.doubts(who, job, at), year=remembered.year(who, job, at),
        bill=remembered.bills(who, job, at), runs=remembered.running(who, job, at),
        water=remembered.water_days(who, job, at), flows=remembered.flows(who, job, at),
        room_control=lambda: remembered.room_control(who, job, at), controllers=remembered.controllers(who, job, at),
        fire_up=lambda: remembered.fire_up(who, job, at), wiring=lambda: remembered.wiring(who, job, at),
        separating=remembered.separating(who, job, at), protecting=remembered.protecting(who, job, at),
        plant=remembered.plant(who, job, at), materials=remembered.materials(who, job, at), routes=remembered.routes(who, job, at),
        offer=lambda: handed.material_offer(who, job, at, issued), pack=lambda: handed.pack(who, job, at),
        upkeep=lambda: handed.upkeep(who, job, at), promise=lambda: handed.promise(who, job, at), guide=lambda: handed.guide(who, job, at),
        doubts_leaving=lambda: gaps.leaving(job), picture=lambda sha256: photos.get(who, sha256, "view"),
        fingerprint=remembered.fingerprint_of(who, job, at, document),
        version=at, written_at=datetime.now(UTC), company=DEMO_COMPANY,
    )  # fmt: skip
