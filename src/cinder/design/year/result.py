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
    fuel_kwh: float


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
    fuel: str
    """What burns beside the machine, by its key in the tables; empty where nothing does."""
    fuel_kwh: float
    beside: str
    """What stands beside the machine, in words."""
    short_kwh: float
    """Heat nobody gives: nothing stands beside it."""
    performance: float | None
    """Heat that is given over all that is bought for it: with a fuel in it, a blend and no COP."""
    bill_minor: float | None
    """Every hour's electricity at its price, and the fuel."""
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
