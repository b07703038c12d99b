"""Results of the bills against the calculation."""

from __future__ import annotations

from typing import Literal

from cinder.design.base import Result
from cinder.design.findings import Finding


class BillResult(Result):
    """One bill made into heat for the rooms."""

    id: str
    label: str
    fuel: str
    days: int
    bought_kwh: float | None
    efficiency: float
    efficiency_why: str
    hot_water_kwh: float
    hot_water_low_kwh: float
    hot_water_high_kwh: float
    hot_water_why: str
    cooking_kwh: float
    rooms_kwh: float | None
    rooms_low_kwh: float | None
    rooms_high_kwh: float | None


class BillCheck(Result):
    """The specific loss from life against the calculated one, on the house as found; each with how far it may be off.

    `h_life_low_w_k` and `_high_`: by the usual range of heaters and, with people unknown, of hot water;
    `h_calculated_low_w_k` and `_high_`: P10 and P90 of the sampled loss.
    """

    lacks: str
    lines: list[BillResult]
    rooms_kwh: float | None
    degree_days_kd: float | None
    base_c: float | None
    kept_c: float
    kept_why: str
    h_life_w_k: float | None
    h_life_low_w_k: float | None
    h_life_high_w_k: float | None
    h_calculated_w_k: float | None
    h_calculated_low_w_k: float | None
    h_calculated_high_w_k: float | None
    ratio: float | None
    verdict: Literal["agrees", "within doubt", "life is lower", "life is higher", "unknown"]
    reasons: list[str]
    as_lived_kwh: float | None
    as_designed_kwh: float | None
    basis: str
    findings: list[Finding]
    sentence: str
