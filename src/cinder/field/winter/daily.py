"""Readings by the hour put together to days of the house's own clock; what cannot be is named and does not count."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from cinder.physics.flow.fluid import PLAIN, Fluid
from cinder.physics.quantity import Array

LEAST_HOURS = 20
MOST_COP, LEAST_COP = 8.0, 0.7
SUNNY_SENSOR_K = 0.006
"""More kelvin at once for every W/m2 of sun than this: the sensor hangs in it, for air follows the sun by hours (our choice)."""


@dataclass(frozen=True, slots=True)
class Hours:
    """Readings by the hour (N,), NaN where there is none. `at` the end of each hour, universal time."""

    at: NDArray[np.datetime64]
    outdoor_c: Array
    inside_c: Array
    sun_w_m2: Array
    heat_w: Array
    """For the rooms: without hot water where that can be told."""
    water_w: Array
    electric_w: Array
    """For the rooms."""
    electric_water_w: Array
    heater_w: Array
    supply_c: Array
    return_c: Array
    wanted_c: Array
    flow_lph: Array
    on_share: Array
    water_share: Array
    defrost_share: Array
    starts: Array
    standby_w: Array
    rooms_c: dict[str, Array]
    apart: bool
    """Hot water is told from heating."""


@dataclass(frozen=True, slots=True)
class Days:
    """Days (D,): means, sums in kWh; `odd` why a day does not count."""

    day: NDArray[np.datetime64]
    outdoor_c: Array
    inside_c: Array
    sun_w_m2: Array
    heat_kwh: Array
    water_kwh: Array
    electric_kwh: Array
    electric_water_kwh: Array
    heater_kwh: Array
    starts: Array
    odd: list[str]
    follows: NDArray[np.bool_]
    of_hour: NDArray[np.intp]
    """Which day every hour belongs to (N,)."""


def hours_of(
    at: NDArray[np.datetime64], column: Mapping[str, Array], weights: Mapping[str, float], fluid: Fluid = PLAIN
) -> Hours:
    """The hours of a source. `weights`: what the temperature of every room counts for, by id; a source may carry `room:all`. Where nobody
    read heat it is that of the flow and its spread, as `fluid` carries it."""
    none = np.full(len(at), np.nan)

    def of(*names: str) -> Array:
        return next((np.asarray(column[name], float) for name in names if name in column), none)

    rooms = {key: of(f"room:{key}") for key in weights if f"room:{key}" in column}
    inside = of("room:all")
    if rooms:
        share = np.array([weights[key] for key in rooms])
        table = np.stack(list(rooms.values()), axis=1)
        known = np.isfinite(table) * share
        with np.errstate(invalid="ignore", divide="ignore"):
            inside = np.where(
                known.sum(axis=1) > 0.5 * share.sum(), np.nansum(table * share, axis=1) / known.sum(axis=1), inside
            )
    heat = of("heat_w")
    if not np.isfinite(heat).any():
        heat = _by_meter(of("heat_kwh"), at)
    if not np.isfinite(heat).any():
        supply, back = of("supply_c"), of("return_c")
        heat = of("flow_lph") * (supply - back) * fluid.w_k_per_lph(temperature_c=(supply + back) / 2)
    electric = of("electric_w")
    if not np.isfinite(electric).any():
        electric = _by_meter(of("electric_kwh"), at)
    heater = of("heater_w")
    if not np.isfinite(heater).any():
        heater = _by_meter(of("heater_kwh"), at)
    apart = "hot_water_heat_w" in column or "hot_water_share" in column
    water = of("hot_water_heat_w")
    share = of("hot_water_share")
    if apart and not np.isfinite(water).any():
        water = heat * share
    water_electric = of("hot_water_electric_w")
    if apart and not np.isfinite(water_electric).any():
        water_electric = electric * share
    zero = np.zeros(len(at))
    water, water_electric = (np.where(np.isfinite(x), x, 0.0) if apart else zero for x in (water, water_electric))
    return Hours(
        at=at, outdoor_c=of("outdoor_c"), inside_c=inside, sun_w_m2=of("sun_w_m2"), heat_w=heat - water, water_w=water,
        electric_w=electric - water_electric, electric_water_w=water_electric, heater_w=heater, supply_c=of("supply_c"),
        return_c=of("return_c"), wanted_c=of("wanted_c"), flow_lph=of("flow_lph"), on_share=of("on_share"), water_share=share,
        defrost_share=of("defrost_share"), starts=of("starts"), standby_w=of("standby_w"), rooms_c=rooms, apart=apart,
    )  # fmt: skip


def _by_meter(counter: Array, at: NDArray[np.datetime64]) -> Array:
    """Mean power of every hour out of a meter's means, W; a meter that falls gives nothing there."""
    out = np.full(len(counter), np.nan)
    if len(counter) < 3 or not np.isfinite(counter).any():
        return out
    gap_h = np.diff(at).astype("timedelta64[s]").astype(float) / 3600
    step = np.diff(counter) / gap_h * 1000
    step[(gap_h > 3) | (step < 0)] = np.nan
    out[1:-1] = (step[:-1] + step[1:]) / 2
    out[0], out[-1] = step[0], step[-1]
    return out


def days_of(hours: Hours, zone: dt.tzinfo) -> Days:
    """The days of the house's clock."""
    begun = hours.at.astype("datetime64[s]") - np.timedelta64(3600, "s")
    shift = np.array(
        [int(dt.datetime.fromtimestamp(int(s), tz=zone).utcoffset().total_seconds()) for s in begun.astype("int64")],  # type: ignore[union-attr]
        dtype="timedelta64[s]",
    )  # fmt: skip
    local = (begun + shift).astype("datetime64[D]")
    day, at = np.unique(local, return_inverse=True)
    count = len(day)

    def mean(values: Array) -> Array:
        known = np.isfinite(values)
        with np.errstate(invalid="ignore", divide="ignore"):
            return np.bincount(at, np.where(known, values, 0.0), count) / np.bincount(at, known, count)

    def known(values: Array) -> Array:
        return np.bincount(at, np.isfinite(values), count).astype(float)

    def kwh(values: Array) -> Array:
        return mean(values) * 24 / 1000

    heat, electric = kwh(hours.heat_w), kwh(hours.electric_w)
    starts: Array = np.bincount(at, np.where(np.isfinite(hours.starts), hours.starts, 0.0), count).astype(float)
    out = Days(
        day=day, outdoor_c=mean(hours.outdoor_c), inside_c=mean(hours.inside_c), sun_w_m2=mean(hours.sun_w_m2), heat_kwh=heat,
        water_kwh=kwh(hours.water_w), electric_kwh=electric, electric_water_kwh=kwh(hours.electric_water_w),
        heater_kwh=kwh(hours.heater_w), starts=starts if np.isfinite(hours.starts).any() else np.full(count, np.nan), odd=[""] * count,
        follows=np.concatenate(([False], np.diff(day) == np.timedelta64(1, "D"))), of_hour=at,
    )  # fmt: skip
    enough = np.minimum(known(hours.heat_w), known(hours.outdoor_c))
    copied = _copies(hours, at, count)
    for n in range(count):
        out.odd[n] = _odd(out, n, enough[n], copied=bool(copied[n]))
    return out


def _odd(days: Days, n: int, hours: float, *, copied: bool) -> str:
    heat, electric = days.heat_kwh[n] + days.water_kwh[n], days.electric_kwh[n] + days.electric_water_kwh[n]
    if hours < LEAST_HOURS:
        return f"only {hours:.0f} hours of it were read"
    if copied:
        return "the same as the day before to the last digit: a copy"
    if not np.isfinite(days.inside_c[n]):
        return "nobody read the rooms"
    if np.isfinite(electric) and heat > 3.0:
        if electric < 0.05:
            return f"{heat:.0f} kWh of heat without electricity"
        if heat / electric > MOST_COP:
            return f"{heat / electric:.0f} times as much heat as electricity: no machine does that"
    if np.isfinite(electric) and electric > 3.0 and 0 <= heat < LEAST_COP * electric:
        return f"{electric:.0f} kWh of electricity for {heat:.0f} kWh of heat"
    return ""


def _copies(hours: Hours, at: NDArray[np.intp], count: int) -> NDArray[np.bool_]:
    """Days that are the same as the one before in every hour of air and heat."""
    out = np.zeros(count, dtype=bool)
    marks = [b""] * count
    for n in range(count):
        inside = at == n
        block = np.stack((hours.outdoor_c[inside], hours.heat_w[inside]))
        if np.isfinite(block).all() and block.shape[1] >= LEAST_HOURS and block.std() > 0:
            marks[n] = np.round(block, 6).tobytes()
        out[n] = n > 0 and bool(marks[n]) and marks[n] == marks[n - 1]
    return out


def sunny_sensor(hours: Hours) -> float | None:
    """How much the outdoor reading leaps with the sun at once, K for every W/m2; None where sun or air is not read.

    Air warms by the sun's level, hours later; a sensor in the sun by its change. Regressing the hourly change of the reading on both
    tells them apart.
    """
    air, sun = np.diff(hours.outdoor_c), np.diff(hours.sun_w_m2)
    level = (hours.sun_w_m2[1:] + hours.sun_w_m2[:-1]) / 2
    fit = np.isfinite(air) & np.isfinite(sun) & (np.diff(hours.at) == np.timedelta64(3600, "s"))
    if fit.sum() < 200 or float(np.nanstd(sun[fit])) < 5:
        return None
    table = np.stack((sun[fit], level[fit], np.ones(int(fit.sum()))), axis=1)
    return float(np.linalg.lstsq(table, air[fit], rcond=None)[0][0])
