"""The climate as the Design shows it."""

from __future__ import annotations

from cinder.design.base import Result


class ClimateMonth(Result):
    """A month of the climate the job runs in."""

    name: str
    outdoor_c: float
    degree_days_kd: float


class ClimateView(Result):
    """What the climate says once it stands at the height of the site: its rules, months and degree days."""

    shift_k: float
    rules_c: dict[str, float | None]
    months: list[ClimateMonth]
    degree_base_c: float
    degree_days_kd: float | None
    below_hours: float | None
