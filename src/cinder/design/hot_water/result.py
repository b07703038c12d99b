"""Hot water as the Design shows it."""

from __future__ import annotations

from typing import Literal

from cinder.design.base import Result

Fits = Literal["meets", "small", "large", "unknown"]


class WaterCheck(Result):
    """One thing asked of the store, its place or the main: what is usual, what is there, and what follows."""

    key: str
    label: str
    low: float | None
    high: float | None
    value: float | None
    unit: str
    digits: int
    verdict: Fits
    note: str


class HotWaterResult(Result):
    """`power_w`, `cop`, `charging_c`: topping up on the design day, in the mean of the store's band. `limit_c`: from there the
    exchanger is the limit, from `stall_c` on not even the machine's least output passes (both on the design day)."""

    bedrooms: int | None
    people: int | None
    label: str
    kept: bool
    rule_low_l: float | None
    rule_high_l: float | None
    people_low_l: float | None
    people_high_l: float | None
    """By people: reheated twice a day, and once."""
    tap_l_per_day: float | None
    volume_l: float | None
    store_c: float
    cold_c: float
    exchanger: Literal["coil", "plate"]
    coil_m2: float | None
    coil_taken_m2: float | None
    """The coil reckoned with: the one that is there, else by the rule."""
    coil_low_m2: float | None
    coil_high_m2: float | None
    ua_w_k: float | None
    flow_lph: float | None
    power_w: float | None
    cop: float | None
    charging_c: float | None
    warmest_c: float | None
    limit_c: float | None
    stall_c: float | None
    stored_kwh: float | None
    reheat_minutes: float | None
    reheat_mild_minutes: float | None
    never: bool
    """The store cannot be brought to its temperature on the design day."""
    standing_kwh: float | None
    standing_known: bool
    distribution_kwh: float
    daily_kwh: float | None
    hours_per_day: float | None
    verdict: Fits
    checks: list[WaterCheck]
    beside: str
    """What else must find a place."""
    full_kg: float | None
