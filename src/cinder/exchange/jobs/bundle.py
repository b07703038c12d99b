"""A job with its photos, its weather and the papers of others in one zip: `job.json`, `photos/<sha256>.jpg`, `years/<sha256>.csv`,
`papers/<sha256>`, a PDF or a JPEG."""

from __future__ import annotations

import hashlib
import io
import re
import struct
import zipfile
import zlib
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any, BinaryIO

from cinder.errors import InvalidJob, MalformedJson, Problem, TooLarge
from cinder.exchange.jobs import job_file, strict_json
from cinder.library import shipped_year

MAX_BYTES = 400 * 1024 * 1024
MAX_PHOTO = 25 * 1024 * 1024
MAX_YEAR = 4 * 1024 * 1024
MAX_PAPER = 20 * 1024 * 1024
_PHOTO = re.compile(r"photos/([0-9a-f]{64})\.jpg")
_PAPER = re.compile(r"papers/([0-9a-f]{64})")
_YEAR = re.compile(r"years/([0-9a-f]{64})\.csv")


def photos_of(document: dict[str, Any]) -> list[str]:
    """Fingerprints of the photos a job refers to, each once."""
    return sorted({photo["sha256"] for photo in document.get("survey", {}).get("photos", {}).values()})


def papers_of(document: dict[str, Any]) -> list[str]:
    """Fingerprints of the files behind papers of others, each once."""
    papers = document.get("handover", {}).get("papers", {}).values()
    return sorted({paper["sha256"] for paper in papers if paper.get("sha256")})


def years_of(document: dict[str, Any]) -> list[str]:
    """Fingerprints of the hourly years its climates carry, without those every installation ships."""
    climates = document.get("library", {}).get("climates", {}).values()
    carried = {frozen["data"].get("year_sha256") for frozen in climates}
    return sorted(sha256 for sha256 in carried if sha256 and shipped_year(sha256) is None)


def write(
    document: dict[str, Any], picture: Callable[[str], bytes], year: Callable[[str], bytes | None] = lambda _: None, *,
    paper: Callable[[str], bytes] | None = None,
) -> bytes:  # fmt: skip
    """The zip; `picture` gives the JPEG of a fingerprint, `year` the hourly CSV (None where it is not there), `paper` a file of others."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr("job.json", job_file.write(document))
        for sha256 in photos_of(document):
            packed.writestr(f"photos/{sha256}.jpg", picture(sha256), zipfile.ZIP_STORED)
        for sha256 in papers_of(document):
            if paper is not None:
                packed.writestr(f"papers/{sha256}", paper(sha256), zipfile.ZIP_STORED)
        for sha256 in years_of(document):
            hourly = year(sha256)
            if hourly is not None:
                packed.writestr(f"years/{sha256}.csv", hourly)
    return out.getvalue()


class Bundle:
    """A zip that was brought in: its job, and pictures and hourly years taken out one at a time.

    Raises `MalformedJson` for what is no such zip, `TooLarge` before anything is unpacked, `InvalidJob` when a photo the
    job refers to is not in it; of the job whatever `job_file.document` raises.
    """

    def __init__(self, file: BinaryIO, *, job: Callable[[bytes], dict[str, Any]] = job_file.document) -> None:
        """`job` reads the bytes of `job.json`."""
        with _readable():
            self._packed = zipfile.ZipFile(file)
            items = self._packed.infolist()
            total = sum(item.file_size for item in items)
            if total > MAX_BYTES or len(items) > 1000:
                raise TooLarge(f"The zip unpacks to {total:,} bytes; at most {MAX_BYTES:,} are taken.")
            names = {item.filename: item for item in items}
            if "job.json" not in names:
                raise MalformedJson("The zip holds no job.json: it is no job of ours.")
            if names["job.json"].file_size > strict_json.MAX_BYTES:
                raise TooLarge(f"The job in the zip has {names['job.json'].file_size:,} bytes.")
            self.document = job(self._packed.read("job.json"))
        self._photos = self._named(names, _PHOTO, MAX_PHOTO)
        self._years = self._named(names, _YEAR, MAX_YEAR)
        self._papers = self._named(names, _PAPER, MAX_PAPER)
        missing = [sha256 for sha256 in photos_of(self.document) if sha256 not in self._photos]
        if missing:
            raise InvalidJob(
                f"{len(missing)} photos of the job are not in the zip.",
                problems=tuple(Problem("/survey/photos", f"photos/{sha256}.jpg is missing") for sha256 in missing[:10]),
            )

        lost = [sha256 for sha256 in papers_of(self.document) if sha256 not in self._papers]
        if lost:
            raise InvalidJob(
                f"{len(lost)} papers of others are not in the zip.",
                problems=tuple(Problem("/handover/papers", f"papers/{sha256} is missing") for sha256 in lost[:10]),
            )

    def _named(self, names: dict[str, zipfile.ZipInfo], pattern: re.Pattern[str], most: int) -> dict[str, str]:
        found = ((pattern.fullmatch(name), item) for name, item in names.items())
        return {name.group(1): item.filename for name, item in found if name and item.file_size <= most}

    def photo(self, sha256: str) -> bytes:
        """A picture the job refers to, as the zip holds it."""
        with _readable():
            return self._packed.read(self._photos[sha256])

    def paper(self, sha256: str) -> bytes:
        """A paper of others the job refers to, as the zip holds it."""
        with _readable():
            return self._packed.read(self._papers[sha256])

    def year(self, sha256: str) -> bytes | None:
        """An hourly year under its fingerprint; None where the zip does not carry it. Raises `InvalidJob` when it differs."""
        if sha256 not in self._years:
            return None
        with _readable():
            hourly = self._packed.read(self._years[sha256])
        if hashlib.sha256(hourly).hexdigest() != sha256:
            raise InvalidJob("An hourly year in the zip was changed on the way.",
                             problems=(Problem(f"years/{sha256[:12]}….csv", "does not match its fingerprint"),))  # fmt: skip
        return hourly

    def rename(self, photos: dict[str, str], papers: dict[str, str] | None = None) -> None:
        """Let the job refer to its pictures and papers by other fingerprints."""
        for paper in self.document.get("handover", {}).get("papers", {}).values():
            if paper.get("sha256"):
                paper["sha256"] = (papers or {}).get(paper["sha256"], paper["sha256"])
        for photo in self.document.get("survey", {}).get("photos", {}).values():
            photo["sha256"] = photos.get(photo["sha256"], photo["sha256"])


@contextmanager
def _readable() -> Iterator[None]:
    try:
        yield
    except (zipfile.BadZipFile, zlib.error, OSError, EOFError, RuntimeError, ValueError, NotImplementedError,
            struct.error, KeyError, IndexError, UnicodeError) as error:  # fmt: skip
        raise MalformedJson(f"Not a zip we can read: {type(error).__name__}, {str(error)[:100]}.") from None
