"""The sample jobs a fresh database starts with."""

from __future__ import annotations

from importlib.resources import files

from cinder.exchange import brief
from cinder.store.log import ChangeLog, Who
from cinder.web.desk import DesignDesk

DEMO_JOBS = ("tansy-cut",)


def seed(log: ChangeLog, who: Who) -> list[str]:
    """Create the sample jobs that are not there yet; gives the ids created."""
    there = {row.id for archived in (False, True) for row in log.jobs(who, archived=archived)}
    made = []
    for name in DEMO_JOBS:
        if name in there:
            continue
        data = files("cinder.exchange").joinpath("demo", f"{name}.toml").read_bytes()
        applied = log.create(who, brief.document(data))
        desk = DesignDesk(log)
        desk.note(who, applied, desk.design(who, applied.job, applied.version), None)
        made.append(name)
    return made
