"""Months of meter readings against degree days: what a house loses where nobody read it day by day.

    Q = base + 0.024 H D(θb)      kWh a day; D the mean of max(0, θb - θo) over the days, K

The base temperature is not known: every one is tried, and each counts by how well it fits. Source: the variable-base degree-day method
(common practice), weighted least squares with months by their days; Student 1908.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from cinder.physics.quantity import Array

KWH_PER_WK = 0.024
LEAST_MONTHS = 5
BASES_C = np.arange(8.0, 24.01, 0.25)
PEOPLE_K, PEOPLE_SD_K = 3.0, 1.5
"""What people and devices are worth below the rooms, as in the signature by days (our choice)."""
SUN_K, SUN_SD_K = 0.015, 0.010
"""Kelvin for every W/m2 of sun on the level: some 5 m2 of glass that lets seven tenths in, in a house of 240 W/K (our choice)."""
SUNS = (0.0, 0.006, 0.012, 0.018, 0.024, 0.03, 0.04)
LEFT_OUT = 0.03
"""What months leave out, as a share of H, one standard deviation (our choice, set on the even seeds of `bench/houses.py`)."""


@dataclass(frozen=True, slots=True)
class BaseTried:
    """One base temperature, deg C: slope, kWh a day and kelvin, its standard deviation; base load, kWh a day, and its own; how much of the
    differences between months is explained."""

    base_c: float
    slope: float
    slope_sd: float
    base_kwh: float
    base_sd: float
    r_squared: float


@dataclass(frozen=True, slots=True)
class MonthFit:
    """H, W/K, base temperature, deg C, base load, kWh a day, each with its standard deviation over all bases; kelvin the
    sun lowers the base by for every W/m2; `best` the one that fits best; `resid_kwh` (M,) of it, a day."""

    h_w_k: float
    h_sd: float
    base_c: float
    base_c_sd: float
    base_kwh: float
    base_kwh_sd: float
    sun_k_per_w_m2: float
    best: BaseTried
    tried: list[BaseTried]
    resid_kwh: Array


def degree_days(outdoor_c: Array, base_c: float) -> float:
    """Mean of max(0, base - outdoor) over days, K.

    >>> degree_days(np.array([5.0, 15.0, 20.0]), 15.0)
    3.3333333333333335
    """
    return float(np.maximum(base_c - outdoor_c, 0.0).mean())


def tried_at(base_c: float, use: Array, days: Array, degree: Array) -> BaseTried | None:
    """One base: weighted least squares of `use`, kWh a day (M,), on `degree`, K (M,), months by their `days`. None where heat would fall
    with cold, the load were below nought, or no month is colder than another."""
    weight = days / days.mean()
    x = degree - np.average(degree, weights=weight)
    spread = float((weight * x * x).sum())
    if spread < 1e-6:
        return None
    mean = float(np.average(use, weights=weight))
    slope = float((weight * x * use).sum()) / spread
    base = mean - slope * float(np.average(degree, weights=weight))
    if slope <= 0 or base < 0:
        return None
    resid = use - base - slope * degree
    left, free = float((weight * resid * resid).sum()), len(use) - 2
    around = float((weight * np.square(use - mean)).sum())
    noise = left / free
    return BaseTried(
        base_c, slope, float(np.sqrt(noise / spread)), base,
        float(np.sqrt(noise * (1 / weight.sum() + np.average(degree, weights=weight) ** 2 / spread))),
        1.0 - left / around if around > 0 else 0.0,
    )  # fmt: skip


def fit(
    *, use_kwh: Array, days: Array, outdoor_c: Sequence[Array], inside_c: Array | None = None, sun_w_m2: Array | None = None,
    meter_share: float = 0.02, bases_c: Array = BASES_C,
) -> MonthFit:  # fmt: skip
    """H of months (M,): `use_kwh` heat a day, `days` of each, `outdoor_c` the daily means of each; `inside_c` (M,) of the rooms and
    `sun_w_m2` (M,) on the level, where they are known: then people and devices are worth some 3 K, rooms that float carry the base with
    them, and the sun lowers it by month.
    Without them H comes out high in a house with much glass, for spring is warm and bright at once.

    Raises `ValueError` where fewer than five months are there, or none of them is heated more than another.
    """
    months = len(use_kwh)
    if months < LEAST_MONTHS:
        raise ValueError(f"{months} months are too few: at least {LEAST_MONTHS} are needed")
    sun = np.zeros(months) if sun_w_m2 is None else sun_w_m2
    suns = SUNS if sun_w_m2 is not None else (0.0,)
    tried: list[BaseTried] = []
    log_weight: list[float] = []
    suns_tried: list[float] = []
    suited: list[Array] = []
    rooms = float(np.average(inside_c, weights=days)) if inside_c is not None else None
    warmer = inside_c - rooms if inside_c is not None and rooms is not None else np.zeros(months)
    for base in bases_c:
        for by_sun in suns:
            edges = float(base) + warmer - by_sun * sun
            degree = np.array([degree_days(day, float(edge)) for day, edge in zip(outdoor_c, edges, strict=True)])
            one = tried_at(float(base), use_kwh, days, degree)
            if one is None:
                continue
            tried.append(one)
            suited.append(degree)
            suns_tried.append(by_sun)
            # every base counts by its likelihood, the scatter not being known, and by what people and sun are usually worth
            known = -0.5 * (months - 2) * np.log(max(1.0 - one.r_squared, 1e-4))
            if rooms is not None:
                known -= 0.5 * ((rooms - one.base_c - PEOPLE_K) / PEOPLE_SD_K) ** 2
            if sun_w_m2 is not None:
                known -= 0.5 * ((by_sun - SUN_K) / SUN_SD_K) ** 2
            log_weight.append(float(known))
    if not tried:
        raise ValueError("no month is heated more than another")
    weight = np.exp(np.array(log_weight) - max(log_weight))
    weight /= weight.sum()

    def mixed(values: list[float], sds: list[float]) -> tuple[float, float]:
        value, sd = np.array(values), np.array(sds)
        mean = float(weight @ value)
        return mean, float(np.sqrt(weight @ (np.square(sd) + np.square(value - mean))))

    wide = float(np.sqrt((months - 2) / max(months - 4, 1)))  # Student's wider tails, few months
    slope, slope_sd = mixed([one.slope for one in tried], [wide * one.slope_sd for one in tried])
    load, load_sd = mixed([one.base_kwh for one in tried], [wide * one.base_sd for one in tried])
    at, at_sd = mixed([one.base_c for one in tried], [0.0] * len(tried))
    first = int(np.argmax(weight))
    best = tried[first]
    return MonthFit(
        h_w_k=slope / KWH_PER_WK, h_sd=float(np.hypot(slope_sd, np.hypot(meter_share, LEFT_OUT) * slope)) / KWH_PER_WK,
        base_c=at, base_c_sd=at_sd, base_kwh=load, base_kwh_sd=load_sd,
        sun_k_per_w_m2=float(weight @ np.array(suns_tried)), best=best, tried=tried,
        resid_kwh=use_kwh - best.base_kwh - best.slope * suited[first],
    )  # fmt: skip
