"""Hourly weather of one year: how it lies in a file, and the synthetic years shipped with the library."""

from __future__ import annotations

import csv
import hashlib
import io
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files

import numpy as np
from numpy.typing import NDArray

from cinder.errors import LibraryError

HOURS = 8760
COLUMNS = ("outdoor_c", "ghi_w_m2", "dni_w_m2", "dhi_w_m2")
DIGITS = (1, 0, 0, 0)


@dataclass(frozen=True, slots=True)
class HourlyYear:
    """8 760 hours of standard time, hour ending, without a leap day: temperature, sun on the level, straight at the
    sun, and from the sky alone."""

    outdoor_c: NDArray[np.float64]
    ghi_w_m2: NDArray[np.float64]
    dni_w_m2: NDArray[np.float64]
    dhi_w_m2: NDArray[np.float64]

    def write(self) -> bytes:
        """As CSV with a heading, one line an hour."""
        table = [np.round(getattr(self, name), digits) for name, digits in zip(COLUMNS, DIGITS, strict=True)]
        lines = [",".join(COLUMNS)]
        lines += [f"{t:.1f},{g:.0f},{n:.0f},{d:.0f}" for t, g, n, d in zip(*table, strict=True)]
        return ("\n".join(lines) + "\n").encode()


def read(data: bytes) -> HourlyYear:
    """A year from its CSV.

    Raises `LibraryError` for other columns or another number of hours.
    """
    rows = csv.reader(io.StringIO(data.decode()))
    if tuple(next(rows, [])) != COLUMNS:
        raise LibraryError(f"an hourly year has the columns {', '.join(COLUMNS)}")
    table = np.array(list(rows), dtype=float)
    if table.shape != (HOURS, len(COLUMNS)):
        raise LibraryError(f"an hourly year has {HOURS} lines, this has {len(table)}")
    return HourlyYear(*table.T.copy())


def sha256_of(data: bytes) -> str:
    """Fingerprint of a year's CSV."""
    return hashlib.sha256(data).hexdigest()


@lru_cache(maxsize=8)
def shipped_year(sha256: str) -> HourlyYear | None:
    """The synthetic year shipped under this fingerprint, or None."""
    for file in files("cinder.library").joinpath("data", "years").iterdir():
        data = file.read_bytes()
        if sha256_of(data) == sha256:
            return read(data)
    return None
