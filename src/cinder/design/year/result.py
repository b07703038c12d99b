"""The year as it is shown."""

from __future__ import annotations

from cinder.design.base import Result


class Month(Result):
    """One month of the year, kWh."""

    name: str
    outdoor_c: float
    degree_days_kd: float
    loss_kwh: float
    sun_kwh: float
    people_kwh: float
    heat_kwh: float
    electricity_kwh: float | None


class SunFace(Result):
    """Glass looking one way, and what the year's sun brings through it."""

    bearing: str
    azimuth_deg: float
    tilt_deg: float
    area_m2: float
    sun_kwh: float


class Year(Result):
    """The house hour by hour through a year, on the scheme shown."""

    lacks: str
    climate_label: str
    synthetic: bool
    heat_kwh: float | None
    loss_kwh: float | None
    sun_kwh: float | None
    people_kwh: float | None
    electricity_kwh: float | None
    performance: float | None
    bill_minor: float | None
    greatest_w: float | None
    coldest_month_w: float | None
    heating_hours: float | None
    degree_days_kd: float | None
    degree_base_c: float | None
    by_degree_days_kwh: float | None
    months: list[Month]
    glass: list[SunFace]
    day_outdoor_c: list[float]
    day_heat_w: list[float]
    school: str
    by_bins: str
    """The season by the climate's bins beside it, in words."""
    sentence: str
