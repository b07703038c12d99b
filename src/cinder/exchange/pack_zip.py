"""The pack as one zip: an index, every record that is ready, papers that were brought in, the job itself; and a list of it all."""

from __future__ import annotations

import hashlib
import io
import re
import zipfile
from collections.abc import Callable, Iterator
from typing import Any

import orjson

from cinder import ENGINE_VERSION
from cinder.exchange import papers, upkeep_ics
from cinder.exchange.jobs import job_file
from cinder.exchange.report import PAPERS, Material
from cinder.exchange.report.handed import index
from cinder.exchange.tables import schedule, shopping
from cinder.handover.pack import RecordLine

Progress = Callable[[int, str], None]
Brought = Callable[[str], tuple[str, bytes] | None]
ENDINGS = {"application/pdf": "pdf", "image/jpeg": "jpg", "image/png": "png"}
OFFER, INDEX = "offer", ""
OLDEST = (1980, 1, 1, 0, 0, 0)

RANK = {"heat-loss": 0, "occupant": 2, "curve-card": 2}
"""Papers that are begun first and last; the others between."""


def write(
    material: Material,
    document: dict[str, Any],
    *,
    number: int,
    brought: Brought,
    offer: Callable[[], str] | None,
    told: Progress,
) -> bytes:
    """The zip. `brought`: a file that was brought in, by its fingerprint; `offer`: the page of the accepted one as it was issued; `told`: how
    far it is.

    Made of one version: every page carries it with the engine and the fingerprint of job and design.
    """
    found = material.pack()
    ready = [(place, one) for place, one in enumerate(found.records, start=1) if one.state == "ready"]

    def page_of(one: RecordLine) -> Callable[[], str] | None:
        """What is drawn of a record; the offer as it was issued, not as it would be made now."""
        if one.key == OFFER:
            return offer
        return (lambda: PAPERS[one.paper or ""][1](material, for_print=True)) if one.paper else None

    drawings = [(one, make) for _, one in ready if (make := page_of(one)) is not None]
    drawings.sort(key=lambda pair: RANK.get(pair[0].paper or "", 1))  # the longest is drawn first
    labels = {one.key: one.label for one, _ in drawings} | {INDEX: "The index"}
    laid: dict[str, list[tuple[str, bytes | None]]] = {}

    def inside() -> dict[str, list[str]]:
        return {key: [name.rsplit("/", 1)[-1] for name, _ in rows] for key, rows in laid.items()}

    def pages() -> Iterator[str]:
        for _, make in drawings:
            yield make()
        # while those are drawn: what is no drawing, and last the page that names it all
        for place, one in ready:
            if rows := _record(material, one, brought, drawn=one.key in labels, place=place):
                laid[one.key] = rows
        yield index(material, for_print=True, number=number, inside=inside())

    drawn: dict[str, bytes] = {}
    keys = list(labels)
    for n, data in papers.pdfs(pages(), material.picture):
        drawn[keys[n]] = data
        told(35 + int(60 * len(drawn) / len(labels)), f"{labels[keys[n]]} is drawn")
    files = {
        "00 The pack.pdf": drawn[INDEX],
        **{name: drawn[key] if data is None else data for key, rows in laid.items() for name, data in rows},
        "job.json": job_file.write(document),
    }
    named = inside()
    listed = {
        "format": "mellow-cinder-pack", "number": number, "job": material.job.id, "version": material.version, "engine": ENGINE_VERSION,
        "fingerprint": material.fingerprint,
        "records": [{"key": r.key, "label": r.label, "state": r.state, "lacks": r.lacks, "why": r.why, "files": named.get(r.key, [])}
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
    material: Material, record: RecordLine, brought: Brought, *, drawn: bool, place: int
) -> list[tuple[str, bytes | None]]:
    """The files of one record, in the folder of its group; None stands for what is drawn."""
    folder = f"{record.group}/{place:02d} {plain(record.label)}"
    out: list[tuple[str, bytes | None]] = []
    if drawn:
        out.append((f"{folder}.pdf", None))
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
    >>> plain("The customer's page")
    'The customers page'
    """
    return re.sub(r"\s+", " ", re.sub(r"[^\w .,()+-]", " ", re.sub("['’]", "", text))).strip(" .")[:80] or "paper"
