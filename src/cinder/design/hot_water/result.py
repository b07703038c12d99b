"""Hot water as the Design shows it."""

from __future__ import annotations

from typing import Literal

from cinder.design.base import Result


class HotWaterResult(Result):
    bedrooms: int | None
    people: int | None
    rule_low_l: float | None
    rule_high_l: float | None
    volume_l: float | None
    store_c: float
    cold_c: float
    coil_m2: float | None
    coil_low_m2: float | None
    coil_high_m2: float | None
    power_w: float | None
    cop: float | None
    stored_kwh: float | None
    reheat_minutes: float | None
    reheat_mild_minutes: float | None
    daily_kwh: float | None
    hours_per_day: float | None
    verdict: Literal["meets", "small", "large", "unknown"]
