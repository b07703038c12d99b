"""Winters of a job: its readings, judged, and the promise held against them."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from cinder.design.apart.doubts.decide import sampled_causes
from cinder.design.house.tariff import mean_minor_per_kwh
from cinder.errors import NotFound
from cinder.field import correction, lessons, winter
from cinder.field.channels import log_of
from cinder.field.lessons import LessonsFound
from cinder.field.result import CorrectionFound
from cinder.field.winter.decide import ORDINARY_C, Source
from cinder.field.winter.result import WinterFound
from cinder.handover.kept import Kept, kept
from cinder.handover.promise import Promise
from cinder.model import Job
from cinder.service.handed import Handed
from cinder.store.readings import ReadingShelf
from cinder.store.record import Who
from cinder.twin.of_job import lacks, twin_of

SIMULATED = ("stand-in", "simulated")

WEEKS = 5
MOST_JOBS, LEAST_COUNT = 200, 6
"""Jobs that are looked at for lessons; readings a source has at the least."""


def daily_means(at: NDArray[np.datetime64], values: NDArray[np.float64]) -> dict[dt.date, float]:
    """Means of days of universal time with at least twenty hours."""
    known = np.isfinite(values)
    day, place = np.unique((at[known] - np.timedelta64(1, "s")).astype("datetime64[D]"), return_inverse=True)
    many = np.bincount(place, minlength=len(day))
    total = np.bincount(place, values[known], minlength=len(day))
    return {one.item(): float(total[n] / many[n]) for n, one in enumerate(day) if many[n] >= 20}


def coldest(at: NDArray[np.datetime64], outdoor_c: NDArray[np.float64]) -> slice:
    """The weeks of a record whose air is coldest together; all of a short one."""
    span = WEEKS * 7 * 24
    if len(at) <= span:
        return slice(0, len(at))
    total = np.concatenate(([0.0], np.cumsum(np.nan_to_num(outdoor_c, nan=20.0))))
    first = int(np.argmin(total[span:] - total[:-span]))
    return slice(first, first + span)


@dataclass(frozen=True, slots=True)
class Winters:
    """What readings of a job say, remembered by what came in."""

    handed: Handed
    readings: ReadingShelf

    def winter(self, who: Who, job: Job, version: int, source_id: str) -> WinterFound:
        """One source judged. Raises `NotFound` where the job has no such readings."""
        on = self.handed.remembered
        found = self.readings.source(who, job.id, source_id)
        if found is None:
            raise NotFound("There are no such readings of this job.")
        source, stamp = found, self.readings.stamp(who, job.id)
        weather, _ = on.weather(who, job)

        def made() -> WinterFound:
            hourly = self.readings.hourly(who, job.id, source)
            column = {name: hourly.channel(name) for name in (*source.channels, *hourly.derived)}
            air = self._air(who, job, source_id) if source.kind == "hand" else None
            told = Source(source.label, source.kind in SIMULATED, hourly.at, column)
            return winter.judge(
                job, on.design(who, job, version), told, sampled_causes(job, ORDINARY_C), loss_range=on.loss_range(who, job, version),
                weather=weather, air=air,
            )  # fmt: skip

        return on.slowly(("winter", who.company_id, job.id, version, source_id, stamp), made)

    def _air(self, who: Who, job: Job, but: str) -> dict[dt.date, float]:
        """Daily means of the outdoor temperature by every other source of a job."""
        out: dict[dt.date, float] = {}
        for source in self.readings.sources(who, job.id):
            if source.id == but or source.kind in SIMULATED or "outdoor_c" not in source.channels:
                continue
            hourly = self.readings.hourly(who, job.id, source)
            out |= daily_means(hourly.at, hourly.channel("outdoor_c"))
        return out

    def curve(self, who: Who, job: Job, version: int, source_id: str) -> CorrectionFound:
        """What the coldest weeks of a source say of the line."""
        on = self.handed.remembered
        source = self.readings.source(who, job.id, source_id)
        if source is None:
            raise NotFound("There are no such readings of this job.")
        weather, _ = on.weather(who, job)
        known, stamp = source, self.readings.stamp(who, job.id)

        def made() -> CorrectionFound:
            found = self.readings.hourly(who, job.id, known)
            late = coldest(found.at, found.channel("outdoor_c"))
            twin = twin_of(job, kept=on.years(who, job.id))
            column = {name: found.channel(name)[late] for name in known.channels}
            return correction.judge(
                job, weather, [log_of(known.label, found.at[late], column, twin.rooms, twin.emitters)]
            )

        if lacks(job, on.design(who, job, version)):
            return correction.judge(job, weather, [])
        return on.slowly(("winter curve", who.company_id, job.id, version, source_id, stamp), made)

    def lessons(self, who: Who, job: Job, version: int, *, simulated: bool = False) -> LessonsFound:
        """What winters of the company's jobs say together, the newest jobs first; simulated ones only where they are asked for."""
        on = self.handed.remembered
        told: list[lessons.Winter] = []
        for row in on.log.jobs(who)[:MOST_JOBS]:
            sources = [one for one in self.readings.sources(who, row.id) if one.count >= LEAST_COUNT]
            sources = [one for one in sources if simulated or one.kind not in SIMULATED]
            if not sources:
                continue
            at = on.log.current(who, row.id)
            for one in sources:
                found = self.winter(who, at.job, at.version, one.id)
                if not found.lacks:
                    told.append(lessons.winter_of(at.job, found))
        return lessons.judge(told, job, sampled_causes(job, ORDINARY_C))

    def promised(self, who: Who, job: Job, version: int) -> tuple[Promise, int | None]:
        """The promise of the newest issued pack, with its number; of today's design where none was issued."""
        packs = self.handed.issued.of_job(who, job.id, "pack")
        if packs:
            return Promise.model_validate(packs[0].content["promise"]), packs[0].number
        return self.handed.promise(who, job, version), None

    def kept(self, who: Who, job: Job, version: int, source_id: str) -> tuple[Kept, Promise, int | None]:
        """The promise held against one winter."""
        on = self.handed.remembered
        promise, number = self.promised(who, job, version)
        weather, shift = on.weather(who, job)
        found = self.winter(who, job, version, source_id)
        return (
            kept(job, on.design(who, job, version), promise, found, weather, shift_k=shift, price_minor=mean_minor_per_kwh(job)),
            promise, number,
        )  # fmt: skip
