"""The pack as one zip: an index, every record that is ready, papers that were brought in, the job itself; and a list of it all."""

from __future__ import annotations

import hashlib
import io
import re
import zipfile
from collections.abc import Callable
from typing import Any

import orjson

from cinder import ENGINE_VERSION
from cinder.exchange import job_file, papers, schedule, shopping, upkeep_ics
from cinder.exchange.report import PAPERS, Material
from cinder.exchange.report.handed import index
from cinder.handover.pack import RecordLine

Progress = Callable[[int, str], None]
Brought = Callable[[str], tuple[str, bytes] | None]
ENDINGS = {"application/pdf": "pdf", "image/jpeg": "jpg", "image/png": "png"}
OLDEST = (1980, 1, 1, 0, 0, 0)

RANK = {"heat-loss": 0, "occupant": 2, "curve-card": 2}
"""Papers that are begun first and last; the others between."""


def write(
    material: Material, document: dict[str, Any], *, number: int, brought: Brought, offer: bytes | None, told: Progress
) -> bytes:
    """The zip. `brought`: a file that was brought in, by its fingerprint; `offer`: the accepted one as it was issued; `told`: how far it is.

    Made of one version: every page carries it with the engine and the fingerprint of job and design.
    """
    found = material.pack()
    inside: dict[str, list[str]] = {}
    files: dict[str, bytes] = {}
    ready = [one for one in found.records if one.state == "ready"]
    # the longest is drawn first; what needs the twin is made while others are drawn
    order = sorted((one for one in ready if one.paper), key=lambda one: RANK.get(one.paper or "", 1))
    made = papers.pdfs((PAPERS[one.paper or ""][1](material, for_print=True) for one in order), material.picture)
    drawn: dict[str, bytes] = {}
    for n, record in enumerate(order):
        told(15 + int(75 * n / max(len(order), 1)), record.label)
        drawn[record.key] = next(made)
    for record in ready:
        paper = drawn.get(record.key)
        for name, data in _record(
            material, record, brought, offer if record.key == "offer" else paper, place=found.records.index(record) + 1
        ):
            inside.setdefault(record.key, []).append(name.rsplit("/", 1)[-1])
            files[name] = data
    told(92, "the index")
    files = {
        "00 The pack.pdf": papers.pdf(index(material, for_print=True, number=number, inside=inside), material.picture),
        **files,
        "job.json": job_file.write(document),
    }
    listed = {
        "format": "mellow-cinder-pack", "number": number, "job": material.job.id, "version": material.version, "engine": ENGINE_VERSION,
        "fingerprint": material.fingerprint,
        "records": [{"key": r.key, "label": r.label, "state": r.state, "lacks": r.lacks, "why": r.why, "files": inside.get(r.key, [])}
                    for r in found.records],
        "files": {name: hashlib.sha256(data).hexdigest() for name, data in files.items()},
    }  # fmt: skip
    files["pack.json"] = orjson.dumps(listed, option=orjson.OPT_INDENT_2)
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        for name, data in files.items():
            packed.writestr(zipfile.ZipInfo(name, OLDEST), data, zipfile.ZIP_DEFLATED)
    return out.getvalue()


def _record(
    material: Material, record: RecordLine, brought: Brought, paper: bytes | None, *, place: int
) -> list[tuple[str, bytes]]:
    """The files of one record, in the folder of its group."""
    folder = f"{record.group}/{place:02d} {plain(record.label)}"
    out: list[tuple[str, bytes]] = []
    if paper is not None:
        out.append((f"{folder}.pdf", paper))
    if record.table:
        out.append((f"{folder}.{record.table.rsplit('.', 1)[-1]}", table(material, record.table)))
    for n, key in enumerate(record.papers, start=1):
        one = material.job.handover.papers[key]
        file = brought(one.sha256) if one.sha256 else None
        if file is not None:
            media, data = file
            out.append((f"{folder}, {n} {plain(one.label or one.kind)}.{ENDINGS.get(media, 'bin')}", data))
    return out


def table(material: Material, name: str) -> bytes:
    """A file that is made here: the maintenance plan, the schedule, the materials. Raises `KeyError` for another name."""
    job = material.job
    made: dict[str, Callable[[], bytes]] = {
        "upkeep.ics": lambda: upkeep_ics.write(
            material.upkeep(), title=job.title, place=job.site.place, written_at=material.written_at, contact=job.handover.contact
        ),
        "emitters.xlsx": lambda: schedule.to_xlsx(job, material.design),
        "materials.xlsx": lambda: shopping.to_xlsx(material.materials(), job.currency),
    }  # fmt: skip
    return made[name]()


def plain(text: str) -> str:
    """A name every file system takes.

    >>> plain("Certificate: no. 12/7, Tansy Cut")
    'Certificate no. 12 7, Tansy Cut'
    """
    return re.sub(r"\s+", " ", re.sub(r"[^\w .,()+-]", " ", text)).strip(" .")[:80] or "paper"
