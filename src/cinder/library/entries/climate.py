"""Climates."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated

from pydantic import Field, model_validator

from cinder.library.entries.base import Celsius, Entry, Finite, Key, NotNegative, Text


class ClimateEntry(Entry):
    """Design temperatures, means, hours per 1 K bin; the hourly year itself lies under `year_sha256`.

    `p996_c`, `p99_c`: not exceeded by 0.4 % and 1 % of this year's hours; `day_c`, `three_days_c`: its coldest days;
    `long_term_p996_c`, `long_term_p99_c`: from the file's header, over many years. `typical`: a year put together of
    average months, which understates extremes.
    """

    id: Key
    label: Text
    design_c: Celsius
    annual_mean_c: Celsius
    bin_outdoor_c: list[Finite]
    bin_hours: list[NotNegative]
    synthetic: bool
    source: Text
    latitude_deg: Annotated[float, Field(ge=-90, le=90)] | None = None
    longitude_deg: Annotated[float, Field(ge=-180, le=180)] | None = None
    utc_offset_h: Annotated[float, Field(ge=-14, le=14)] = 0.0
    altitude_m: Annotated[float, Field(ge=-500, le=6000)] | None = None
    monthly_mean_c: Annotated[list[Finite], Field(max_length=12)] = []
    p996_c: Celsius | None = None
    p99_c: Celsius | None = None
    day_c: Celsius | None = None
    three_days_c: Celsius | None = None
    long_term_p996_c: Celsius | None = None
    long_term_p99_c: Celsius | None = None
    typical: bool = False
    year_sha256: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")] | None = None

    @model_validator(mode="after")
    def _bins(self) -> ClimateEntry:
        if len(self.bin_outdoor_c) != len(self.bin_hours) or len(self.bin_hours) < 5:
            raise ValueError("as many hours as bins, at least five")
        if any(b <= a for a, b in pairwise(self.bin_outdoor_c)):
            raise ValueError("bins must rise")
        if len(self.monthly_mean_c) not in (0, 12):
            raise ValueError("twelve monthly means, or none")
        return self
