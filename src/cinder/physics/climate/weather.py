"""What an hourly year of outdoor temperature says: design temperatures, means, degree days."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cinder.errors import PhysicsError
from cinder.physics.quantity import Array, require_not_negative

HOURS = 8760
LAPSE_K_PER_M = 0.006
MONTH_DAYS = (31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)


@dataclass(frozen=True, slots=True)
class Coldest:
    """Design candidates of a year, deg C: not exceeded by 0.4 % and 1 % of hours, means of the coldest one day and
    three days running."""

    p996_c: float
    p99_c: float
    day_c: float
    three_days_c: float


def _year(outdoor_c: Array) -> Array:
    year = np.asarray(outdoor_c, float)
    if year.shape != (HOURS,) or not np.all(np.isfinite(year)):
        raise PhysicsError("outdoor_c", year.shape, "a year is 8 760 finite hours, without the leap day")
    return year


def coldest(outdoor_c: Array) -> Coldest:
    """Design temperatures of one hourly year (8760,): quantiles of hours, and running means of whole days.

    Valid for: one year; a typical year understates extremes by 2 to 3 K (common practice).
    Raises `PhysicsError` for another length or a gap. Source: percentiles as in general use; days: arithmetic.

    >>> year = np.full(8760, 5.0)
    >>> year[:24] = -7.0
    >>> coldest(year).day_c, coldest(year).p996_c
    (-7.0, 5.0)
    """
    year = _year(outdoor_c)
    days = year.reshape(365, 24).mean(axis=1)
    three = np.convolve(np.concatenate([days, days[:2]]), np.ones(3) / 3, mode="valid")
    return Coldest(
        float(np.quantile(year, 0.004)), float(np.quantile(year, 0.01)), float(days.min()), float(three.min())
    )


def monthly_means_c(outdoor_c: Array) -> Array:
    """Mean of each month, deg C, shape (12,).

    >>> monthly_means_c(np.full(8760, 8.0)).tolist()[:2]
    [8.0, 8.0]
    """
    return np.asarray([_year(outdoor_c)[hours].mean() for hours in month_hours()])


def month_hours() -> list[slice]:
    """The hours of each month in a year of 8 760.

    >>> month_hours()[1]
    slice(744, 1416, None)
    """
    ends = np.cumsum(MONTH_DAYS) * 24
    return [slice(int(end) - days * 24, int(end)) for end, days in zip(ends, MONTH_DAYS, strict=True)]


def degree_days_kd(outdoor_c: Array, *, base_c: float) -> float:
    """Heating degree days, K d, from daily means: sum of (base - mean) where that is above zero.

    >>> degree_days_kd(np.full(8760, 5.5), base_c=15.5)
    3650.0
    """
    days = _year(outdoor_c).reshape(365, 24).mean(axis=1)
    return float(np.maximum(base_c - days, 0.0).sum())


def degree_days_of_bins_kd(*, outdoor_c: Array, hours: Array, base_c: float) -> float:
    """Heating degree days, K d, from hours per temperature bin. Shapes: both (K,).

    Hours instead of daily means: never less than `degree_days_kd` (common practice: a few per cent more).

    >>> degree_days_of_bins_kd(outdoor_c=np.array([5.5]), hours=np.array([240.0]), base_c=15.5)
    100.0
    """
    require_not_negative("hours", hours)
    return float((np.maximum(base_c - outdoor_c, 0.0) * hours).sum() / 24)


def bins(outdoor_c: Array) -> tuple[Array, Array]:
    """Whole-degree bins of a year: temperatures (K,) and hours (K,), together 8 760. A half goes up, always.

    >>> [column.tolist() for column in bins(np.full(8760, 5.2))]
    [[5.0], [8760.0]]
    """
    values, counts = np.unique(np.floor(_year(outdoor_c) + 0.5) + 0.0, return_counts=True)  # + 0.0: no negative zero
    return np.asarray(values, float), np.asarray(counts, float)


def corrected_for_height_c(*, temperature_c: float, from_m: float, to_m: float) -> float:
    """A design temperature carried to another altitude, deg C: -0.6 K per 100 m. Source: common practice.

    >>> corrected_for_height_c(temperature_c=-3.0, from_m=20.0, to_m=220.0)
    -4.2
    """
    return round(temperature_c - LAPSE_K_PER_M * (to_m - from_m), 6)
