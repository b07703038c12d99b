"""A job with its photos in one zip: `job.json` and `photos/<sha256>.jpg`."""

from __future__ import annotations

import io
import re
import zipfile
from collections.abc import Callable
from typing import Any

from cinder.errors import InvalidJob, MalformedJson, Problem, TooLarge
from cinder.exchange import job_file, strict_json

MAX_BYTES = 400 * 1024 * 1024
MAX_PHOTO = 25 * 1024 * 1024
_PHOTO = re.compile(r"photos/([0-9a-f]{64})\.jpg")


def photos_of(document: dict[str, Any]) -> list[str]:
    """Fingerprints of the photos a job refers to, each once."""
    return sorted({photo["sha256"] for photo in document.get("survey", {}).get("photos", {}).values()})


def write(document: dict[str, Any], picture: Callable[[str], bytes]) -> bytes:
    """The zip; `picture` gives the JPEG of a fingerprint."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr("job.json", job_file.write(document))
        for sha256 in photos_of(document):
            packed.writestr(f"photos/{sha256}.jpg", picture(sha256), zipfile.ZIP_STORED)
    return out.getvalue()


def read(data: bytes) -> tuple[dict[str, Any], dict[str, bytes]]:
    """A job document and its photos by fingerprint.

    Raises `MalformedJson` for what is no such zip, `TooLarge` before anything is unpacked, `InvalidJob` when a photo
    the job refers to is not in it.
    """
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            items = packed.infolist()
            total = sum(item.file_size for item in items)
            if total > MAX_BYTES or len(items) > 1000:
                raise TooLarge(f"The zip unpacks to {total:,} bytes; at most {MAX_BYTES:,} are taken.")
            names = {item.filename: item for item in items}
            if "job.json" not in names:
                raise MalformedJson("The zip holds no job.json: it is no job of ours.")
            if names["job.json"].file_size > strict_json.MAX_BYTES:
                raise TooLarge(f"The job in the zip has {names['job.json'].file_size:,} bytes.")
            document = job_file.document(packed.read("job.json"))
            photos = {
                found.group(1): packed.read(name)
                for name, item in names.items()
                if (found := _PHOTO.fullmatch(name)) and item.file_size <= MAX_PHOTO
            }
    except (zipfile.BadZipFile, OSError, EOFError, RuntimeError) as error:
        raise MalformedJson(f"Not a zip we can read: {str(error)[:100]}.") from None
    missing = [sha256 for sha256 in photos_of(document) if sha256 not in photos]
    if missing:
        raise InvalidJob(
            f"{len(missing)} photos of the job are not in the zip.",
            problems=tuple(Problem("/survey/photos", f"photos/{sha256}.jpg is missing") for sha256 in missing[:10]),
        )
    return document, photos
