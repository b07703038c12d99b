"""What the machine really gave: its performance against the map at the same air and water, hot water, starts, standby, defrost, heater."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from cinder.design.explained import num
from cinder.design.house.prices import fuel, present_fuel, price_minor_per_kwh
from cinder.design.house.tariff import mean_minor_per_kwh
from cinder.design.house.view import HouseView
from cinder.design.machine.load import performance
from cinder.field.winter.daily import Days, Hours
from cinder.field.winter.result import MachineFound, MachineMonth
from cinder.physics.machine import heat_pump
from cinder.physics.quantity import Array

RUNS = 0.3
"""Of an hour's heat that is compared with the map: hours in which the machine ran this part at least."""
LEAST_W = 300.0
AS_MAPPED = 1.5
"""Off by no more than so many per cent is as the map says (our choice)."""


def expected_cop(house: HouseView, hours: Hours, *, second_w: float) -> Array:
    """COP by the map of the chosen machine where it stands (glycol, altitude, quiet nights) in every hour that can be compared (N,), NaN in
    the others: heating, no defrost told apart. `second_w`: what a second pump draws."""
    entry, table = house.machine, performance(house)
    out = np.full(len(hours.at), np.nan)
    if entry is None or table is None:
        return out
    fit = (
        np.isfinite(hours.outdoor_c) & np.isfinite(hours.supply_c) & (hours.heat_w > LEAST_W) & (hours.electric_w > 50)
    )
    fit &= ~(np.nan_to_num(hours.water_share) > 0.05) & ~(np.nan_to_num(hours.on_share, nan=1.0) < RUNS)
    if fit.any():
        at = heat_pump.operate(table, outdoor_c=hours.outdoor_c[fit], water_c=hours.supply_c[fit])
        # the meter sees what always runs too: the map's COP as the meter would have it
        drawn = hours.heat_w[fit] / np.maximum(at.cop, 0.1) + entry.always_on_w + second_w
        out[np.flatnonzero(fit)] = np.where(at.inside, hours.heat_w[fit] / drawn, np.nan)
    return out


def ratio_by_day(house: HouseView, hours: Hours, days: Days, *, second_w: float) -> Array:
    """Heat that came over heat the map gives for the same electricity (D,), NaN where a day has too little of it."""
    cop = expected_cop(house, hours, second_w=second_w)
    fit = np.isfinite(cop)
    count = len(days.day)
    heat = np.bincount(days.of_hour[fit], hours.heat_w[fit], count)
    asked = np.bincount(days.of_hour[fit], hours.electric_w[fit] * cop[fit], count)
    many = np.bincount(days.of_hour[fit], None, count)
    with np.errstate(invalid="ignore", divide="ignore"):
        return np.where((many >= 4) & (asked > 0), heat / asked, np.nan)


def judge(
    house: HouseView, hours: Hours, days: Days, *, line_c: tuple[list[float], list[float]] | None, second_w: float
) -> MachineFound:
    """The machine over these days. `line_c`: outdoor temperatures and the water the controller's line asks for at each; `second_w`: what a
    second pump draws."""
    job = house.job
    good = np.array([not one for one in days.odd]) & np.isfinite(days.electric_kwh) & np.isfinite(days.heat_kwh)
    if not good.any():
        return _nothing("Nobody read the electricity of the machine beside its heat.")
    heat, water = float(days.heat_kwh[good].sum()), float(days.water_kwh[good].sum())
    electric, electric_water = float(days.electric_kwh[good].sum()), float(days.electric_water_kwh[good].sum())
    cop = expected_cop(house, hours, second_w=second_w)
    fit = np.isfinite(cop)
    real = float(hours.heat_w[fit].sum() / hours.electric_w[fit].sum()) if fit.any() else None
    mapped = float((hours.electric_w[fit] * cop[fit]).sum() / hours.electric_w[fit].sum()) if fit.any() else None
    ratio = real / mapped if real is not None and mapped else None
    off = None
    if line_c is not None and fit.any():
        line = np.interp(hours.outdoor_c, line_c[0], line_c[1])
        full = fit & (np.nan_to_num(hours.on_share, nan=1.0) > 0.9)
        off = float(np.mean((hours.supply_c - line)[full])) if full.any() else None
    performance = heat / electric if electric > 0 else None
    whole = (heat + water) / (electric + electric_water) if electric + electric_water > 0 else None
    heater = float(np.nansum(days.heater_kwh[good])) if np.isfinite(days.heater_kwh[good]).any() else None
    price = mean_minor_per_kwh(job)
    entry_key = present_fuel(job) or ""
    entry = fuel(job, entry_key) if entry_key else None
    today = None
    if entry is not None:
        given = job.site.present.efficiency or sum(entry.old_efficiency) / 2
        today = (heat + water) / given * price_minor_per_kwh(job, entry_key)
    starts = days.starts[good]
    found = MachineFound(
        lacks="", performance=performance, expected=mapped, ratio=ratio, whole=whole, heat_kwh=heat, water_kwh=water,
        electric_kwh=electric + electric_water, water_share=water / (heat + water) if hours.apart and heat + water > 0 else None,
        starts_a_day=float(starts.mean()) if np.isfinite(starts).all() else None,
        standby_w=float(np.nanmedian(hours.standby_w)) if np.isfinite(hours.standby_w).any() else None,
        defrost_share=float(np.nanmean(hours.defrost_share)) if np.isfinite(hours.defrost_share).any() else None, heater_kwh=heater,
        off_line_k=off, cost_minor=(electric + electric_water + (heater or 0.0)) * price, today_minor=today,
        months=_months(hours, days, good, cop), sentence="",
    )  # fmt: skip
    return found.model_copy(update={"sentence": _sentence(found)})


def _months(hours: Hours, days: Days, good: NDArray[np.bool_], cop: Array) -> list[MachineMonth]:
    out = []
    month = days.day.astype("datetime64[M]")
    hour_month = (hours.at - np.timedelta64(1, "h")).astype("datetime64[M]")
    for one in np.unique(month):
        inside = good & (month == one)
        if not inside.any():
            continue
        heat, electric = float(days.heat_kwh[inside].sum()), float(days.electric_kwh[inside].sum())
        fit = np.isfinite(cop) & (hour_month == one)
        mapped = float((hours.electric_w[fit] * cop[fit]).sum() / hours.electric_w[fit].sum()) if fit.any() else None
        out.append(
            MachineMonth(
                month=str(one), heat_kwh=heat, water_kwh=float(days.water_kwh[inside].sum()),
                electric_kwh=electric + float(days.electric_water_kwh[inside].sum()), performance=heat / electric if electric > 0 else None,
                expected=mapped,
            )
        )  # fmt: skip
    return out


def _sentence(found: MachineFound) -> str:
    if found.performance is None:
        return "No electricity was read."
    said = f"**{num(found.performance, 2)}** for heating"
    if found.ratio is not None and found.expected is not None:
        off = (found.ratio - 1) * 100
        way = "more" if off >= 0 else "less"
        said += (
            ", as its map says at the same air and water"
            if abs(off) < AS_MAPPED
            else f", at the same air and water **{num(abs(off), 0)} % {way}** than its map says"
        )
    return said + "."


def _nothing(lacks: str) -> MachineFound:
    return MachineFound(
        lacks=lacks, performance=None, expected=None, ratio=None, whole=None, heat_kwh=0.0, water_kwh=0.0, electric_kwh=0.0, water_share=None,
        starts_a_day=None, standby_w=None, defrost_share=None, heater_kwh=None, off_line_k=None, cost_minor=None, today_minor=None, months=[],
        sentence=lacks,
    )  # fmt: skip
