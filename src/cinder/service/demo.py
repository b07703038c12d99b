"""The sample jobs a fresh database starts with."""

from __future__ import annotations

import datetime as dt
from importlib.resources import files
from typing import Any

import numpy as np

from cinder.exchange.files import demo_pictures, pictures
from cinder.exchange.jobs import brief
from cinder.library import shipped_year
from cinder.model import Job
from cinder.service.remembered import Remembered
from cinder.store.company import CompanyShelf
from cinder.store.log import ChangeLog
from cinder.store.photos import PhotoShelf
from cinder.store.readings import ReadingShelf
from cinder.store.record import Who
from cinder.twin.of_job import twin_of
from cinder.twin.winters import winter

DEMO_JOBS = ("oat-store", "counting-house", "tansy-cut")
PICTURED = "tansy-cut"


def seed(log: ChangeLog, shelf: PhotoShelf, who: Who) -> list[str]:
    """Create the sample jobs that are not there yet, with drawn pictures for one; gives the ids created."""
    there = {row.id for archived in (False, True) for row in log.jobs(who, archived=archived)}
    made = []
    for name in DEMO_JOBS:
        if name in there:
            continue
        document = brief.document(files("cinder.exchange").joinpath("demo", f"{name}.toml").read_bytes())
        if name == PICTURED:
            for n, (sha256, data, entry) in enumerate(demo_pictures.drawn()):
                kept = pictures.prepare(data)
                shelf.put(
                    who, sha256, width_px=kept.width_px, height_px=kept.height_px, full=kept.full, view=kept.view,
                    thumb=kept.thumb,
                )  # fmt: skip
                document["survey"].setdefault("photos", {})[f"picture-{n + 1}"] = entry
        applied = log.create(who, document)
        remembered = Remembered(log, CompanyShelf(log.engine))
        remembered.note(who, applied, remembered.design(who, applied.job, applied.version), None)
        if name == WINTERED:
            _winters(log, who, applied.job)
        made.append(name)
    return made


WINTERED = "tansy-cut"
WINTERS: tuple[tuple[int, str, dict[str, Any]], ...] = (
    (2024, "Winter 2024/25, simulated", {"seed": 24, "shift_k": -0.6, "loses": 0.84}),
    (
        2025,
        "Winter 2025/26, simulated",
        {"seed": 25, "shift_k": 0.5, "loses": 0.84, "clog_per_day": 0.006, "clogs_from_day": 103},
    ),
)
"""Two winters of the twin: the house loses less than was told; in the second a strainer fills up from the twelfth of January."""


def _winters(log: ChangeLog, who: Who, job: Job) -> None:
    """Bring in the simulated winters of a sample job."""
    shelf = ReadingShelf(log.engine)
    climate = job.library.climates[job.climate.entry or ""].data
    year = shipped_year(climate.year_sha256 or "")
    if year is None:
        return
    twin = twin_of(job)
    for first, label, how in WINTERS:
        told = winter(twin, year, **how)
        midnight = dt.datetime(first, 10, 1, tzinfo=dt.UTC).timestamp()
        key = f"winter-{first}"
        shelf.open(who, job.id, key, kind="simulated", label=label, channels=list(told.channels))
        shelf.bring(who, job.id, key, midnight + told.seconds, np.stack(list(told.channels.values()), axis=1))
        shelf.tell(who, job.id, key, ["Simulated by the twin: nobody read this."])
