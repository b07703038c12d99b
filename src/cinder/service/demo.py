"""The sample jobs a fresh database starts with."""

from __future__ import annotations

from importlib.resources import files

from cinder.exchange import brief, demo_pictures, pictures
from cinder.service.remembered import Remembered
from cinder.store.company import CompanyShelf
from cinder.store.log import ChangeLog
from cinder.store.photos import PhotoShelf
from cinder.store.record import Who

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
        made.append(name)
    return made
