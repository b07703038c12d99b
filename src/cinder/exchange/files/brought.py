"""Papers that are brought in: only PDF and pictures, looked at before they are kept."""

from __future__ import annotations

from dataclasses import dataclass

from cinder.errors import Problem, Refused, TooLarge
from cinder.exchange.files import pictures

MAX_BYTES = 20 * 1024 * 1024
PDF = b"%PDF-"


@dataclass(frozen=True, slots=True)
class Brought:
    """A file as it is kept: a PDF as it came, a picture upright and without where it was taken."""

    media: str
    data: bytes


def prepare(data: bytes) -> Brought:
    """Look at a file. Raises `TooLarge` beyond 20 MB, `Refused` for what is neither a whole PDF nor a picture."""
    if len(data) > MAX_BYTES:
        raise TooLarge(f"The file has {len(data):,} bytes; at most {MAX_BYTES:,} are taken.")
    if data[:1024].lstrip()[:5] == PDF:
        if b"%%EOF" not in data[-2048:]:
            raise Refused(
                "This PDF has no end: it was cut off on the way.",
                problems=(Problem("/file", "no %%EOF"),),
                kept="Nothing was kept.",
            )
        return Brought("application/pdf", data)
    return Brought("image/jpeg", pictures.prepare(data).full)
