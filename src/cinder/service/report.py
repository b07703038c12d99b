"""What a report is made of."""

from __future__ import annotations

from datetime import UTC, datetime

from cinder.exchange.report import Material
from cinder.model import parse
from cinder.service.people import DEMO_COMPANY
from cinder.service.remembered import Remembered
from cinder.store.log import ChangeLog
from cinder.store.record import Who


def material(log: ChangeLog, remembered: Remembered, who: Who, job_id: str, version: int | None = None) -> Material:
    """What a report of a job at a version is made of."""
    current = log.current(who, job_id)
    if version is None or version == current.version:
        job, at = current.job, current.version
    else:
        job, at = parse(log.document_at(who, job_id, version)), version
    return Material(
        job=job, design=remembered.design(who, job, at), doubts=remembered.doubts(who, job, at), year=remembered.year(who, job, at),
        bill=remembered.bills(who, job, at), runs=remembered.running(who, job, at),
        water=remembered.water_days(who, job, at), flows=remembered.flows(who, job, at),
        room_control=lambda: remembered.room_control(who, job, at), controllers=remembered.controllers(who, job, at),
        fire_up=lambda: remembered.fire_up(who, job, at), wiring=lambda: remembered.wiring(who, job, at),
        separating=remembered.separating(who, job, at), protecting=remembered.protecting(who, job, at),
        plant=remembered.plant(who, job, at), materials=remembered.materials(who, job, at), routes=remembered.routes(who, job, at),
        version=at, written_at=datetime.now(UTC), company=DEMO_COMPANY,
    )  # fmt: skip
