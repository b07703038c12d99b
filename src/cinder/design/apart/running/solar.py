"""The house's own sun: what it makes hour by hour, what the household leaves of it, what heat takes of that."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cinder.design.house.tariff import by_day
from cinder.design.house.view import HouseView
from cinder.design.year.glass import sun_on
from cinder.library import HourlyYear
from cinder.model.job import Solar
from cinder.physics.quantity import Array

PERFORMANCE = 0.82
"""Of the sun on the modules at their rating what reaches the house: warmth, wiring, inverter, dust (common practice)."""
HOUSEHOLD = (
    0.6, 0.5, 0.5, 0.5, 0.5, 0.6, 0.9, 1.2, 1.1, 1.0, 0.9, 0.9, 1.0, 0.9, 0.9, 0.9, 1.1, 1.6, 1.9, 1.8, 1.5, 1.3, 1.1, 0.8,
)  # fmt: skip
"""How a household's own use lies over the hours of its day (our choice)."""


@dataclass(frozen=True, slots=True)
class Sun:
    """Every hour (8760,): what the modules make and what the household leaves, W; what is paid for what leaves the house."""

    made_w: Array
    left_w: Array
    export_minor: float
    diverter: bool


def sun_of(house: HouseView, weather: HourlyYear) -> Sun | None:
    """None where the house has no modules. Source: irradiance on the plane times the rating (common practice)."""
    solar = house.job.site.solar
    if solar is None:
        return None
    irradiance = sun_on(house, weather, solar.bearing_deg % 360, solar.tilt_deg)
    made = irradiance * solar.peak_kw * PERFORMANCE * (1 - solar.shaded)
    return Sun(made, np.maximum(made - household_w(solar), 0.0), solar.export_minor, solar.diverter)


def spare_day_w(house: HouseView, weather: HourlyYear) -> Array | None:
    """What the modules leave after the household in a mean day of the year, W (1440,), before heating takes its part; None without
    modules or a diverter."""
    sun = sun_of(house, weather)
    if sun is None or not sun.diverter:
        return None
    return np.repeat(by_day(sun.left_w).mean(axis=0), 60)


def household_w(solar: Solar) -> Array:
    """What the household draws beside heat, W (8760,)."""
    shape = np.array(HOUSEHOLD)
    return np.tile(shape / shape.sum(), 365) * solar.household_kwh * 1000 / 365


def collected_w(house: HouseView, weather: HourlyYear, water_w: Array) -> Array:
    """Heat of the hot water that collectors make, W (8760,): every day at most what it asks. Source: irradiance on the plane
    times a year's efficiency (common practice)."""
    found = house.job.site.collectors
    if found is None:
        return np.zeros_like(water_w)
    made = sun_on(house, weather, found.bearing_deg % 360, found.tilt_deg) * found.area_m2 * found.efficiency
    return diverted_w(made, np.zeros_like(made), water_w)


def diverted_w(left_w: Array, drawn_w: Array, water_w: Array) -> Array:
    """Heat the store takes of the sun that is left when heating has taken its part, W (8760,): every day at most what its hot
    water asks."""
    over = np.maximum(by_day(left_w - drawn_w), 0.0)
    asked = by_day(water_w).sum(axis=1)
    share = np.minimum(1.0, asked / np.maximum(over.sum(axis=1), 1e-9))
    led: Array = (over * share[:, None]).reshape(-1)
    return led
