"""What energy costs in every hour of the year: one price, two, or a table of hours."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from cinder.design.explained import num
from cinder.design.house.prices import carbon_kg_per_kwh, price_minor_per_kwh
from cinder.model import Job
from cinder.physics.climate.weather import HOURS, month_hours
from cinder.physics.quantity import Array

Mask = NDArray[np.bool_]
SPREAD, RISE = 0.15, 0.02
"""How far next year's prices may lie off, and their rise a year, where nobody says (our choice)."""
CHEAP_HOURS = 7
"""Hours a night in which a storage heater takes its heat (common practice)."""


@dataclass(frozen=True, slots=True)
class Prices:
    """What a kWh costs in every hour of the year, and a year of standing charges; carbon of a kWh; how far prices may be off."""

    job: Job
    electricity: Array
    spread: float
    rise: float

    def of(self, key: str) -> float:
        return price_minor_per_kwh(self.job, key)

    def carbon(self, key: str) -> float:
        return carbon_kg_per_kwh(self.job, key)

    def standing(self, key: str) -> float:
        return self.job.tariff.standing_minor.get(key, 0.0)


def prices_of(job: Job) -> Prices:
    """The tariff as hours: the table of hours, else the night's price from its first to its last hour, else one price."""
    tariff, day = job.tariff, price_minor_per_kwh(job)
    hour = np.arange(HOURS) % 24
    electricity = np.full(HOURS, day)
    if tariff.hours is not None:
        for months, hours in zip(tariff.hours.by_month, month_hours(), strict=True):
            electricity[hours] = np.resize(np.array(months), len(electricity[hours]))
    elif tariff.night_minor is not None:
        electricity[within(hour, tariff.night_from_h, tariff.night_to_h)] = tariff.night_minor
    return Prices(
        job, electricity, tariff.spread if tariff.spread is not None else SPREAD,
        tariff.rise if tariff.rise is not None else RISE,
    )  # fmt: skip


def mean_minor_per_kwh(job: Job) -> float:
    """What a kWh of electricity costs on the mean of the year's hours: for sums over a season that know no hours."""
    if job.tariff.hours is None and job.tariff.night_minor is None:
        return price_minor_per_kwh(job)
    return float(prices_of(job).electricity.mean())


LEVELS = 6


def levels(prices: Prices) -> list[tuple[float, float]]:
    """The prices of electricity, each with its share of the year's hours: at most so many, where there are more each the mean of its like."""
    each, count = np.unique(prices.electricity, return_counts=True)
    if len(each) <= LEVELS:
        return [(float(n) / HOURS, float(price)) for n, price in zip(count, each, strict=True)]
    return [(1 / LEVELS, float(part.mean())) for part in np.split(np.sort(prices.electricity), LEVELS)]


def by_day(hours: Array) -> Array:
    """A year of hours (8760,) as its days (365, 24)."""
    return hours.reshape(-1, 24)


def cheapest(prices: Array, hours: int) -> Mask:
    """The cheapest hours of every day (8760,); among equals the earliest."""
    order = np.argsort(by_day(prices), axis=1, kind="stable")
    picked = np.zeros_like(order, dtype=bool)
    np.put_along_axis(picked, order[:, :hours], True, axis=1)
    return picked.reshape(-1)


def within(hour: NDArray[np.intp], start: int, end: int) -> Mask:
    return (hour >= start) & (hour < end) if start <= end else (hour >= start) | (hour < end)


def tariff_words(prices: Prices) -> str:
    """How electricity is paid for, in words."""
    tariff, day = prices.job.tariff, price_minor_per_kwh(prices.job)
    prepaid = ", paid beforehand" if tariff.prepaid else ""
    if tariff.hours is not None:
        least, most = float(prices.electricity.min()), float(prices.electricity.max())
        mean = float(prices.electricity.mean())
        return f"{num(least, 1)} to {num(most, 1)} a kWh by the hour, {num(mean, 1)} on the mean{prepaid}"
    if tariff.night_minor is None:
        return f"{day:g} a kWh all day{prepaid}"
    return f"{day:g} a kWh, {tariff.night_minor:g} from {tariff.night_from_h}:00 to {tariff.night_to_h}:00{prepaid}"
