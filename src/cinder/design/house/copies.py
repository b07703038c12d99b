"""The job's copies of library entries: whether each is still what was taken, and how old they are."""

from __future__ import annotations

from collections import Counter

from cinder.design.base import Screen
from cinder.design.findings import Findings
from cinder.design.kept import Needs, entries
from cinder.library import EDITION, is_of, load
from cinder.model import Job

SCREENS: dict[str, Screen] = {
    "constructions": "constructions", "emitter_types": "emitters", "pipe_families": "pipework", "machines": "machine",
    "climates": "climate", "tables": "site", "place_rules": "machine",
}  # fmt: skip


def judge(job: Job, findings: Findings) -> None:
    """A finding for every copy that is no longer what it says it is, and one for a job begun with an older library."""
    older: Counter[str] = Counter()
    for kind, screen in SCREENS.items():
        for key, frozen in getattr(job.library, kind).items():
            if frozen.origin != "library":
                continue
            if not is_of(frozen.data, frozen.sha256):
                findings.add(
                    "doubt", screen, f"/library/{kind}/{key}", f"{frozen.data.label} is no longer what was taken from the library.",
                    why=f"It calls itself a copy of edition {frozen.edition}, and its fingerprint does not match. It is used as "
                    "it stands.", mend="Take it from the library again, or keep it as the job's own.",
                )  # fmt: skip
            if frozen.edition != EDITION:
                older[frozen.edition] += 1
    if older:
        first = min(older)
        moved = load().moved
        findings.add(
            "note", "report", "/library", f"This job holds copies of library edition {first}; this is {EDITION}.",
            why="The copies stay as they were. What is reckoned from them has moved since: "
            + " ".join(row.what for row in moved.values() if row.since > first),
            mend="Compare with papers of that time before you send them again.",
        )  # fmt: skip


def looks_at(job: Job) -> Needs:
    """The copies."""
    return tuple(entries(getattr(job.library, kind)) for kind in SCREENS)
