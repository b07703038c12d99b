"""The season of a machine by the climate's bins: what it and what stands beside it take for the rooms, and for the hot water."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

import numpy as np

from cinder.design.hot_water.charging import Charged
from cinder.design.house.view import HouseView
from cinder.design.machine.beside import Beside
from cinder.design.machine.load import Load
from cinder.design.machine.result import CandidateResult, SeasonResult
from cinder.library import MachineEntry
from cinder.physics.machine import heat_pump
from cinder.physics.machine.season import season_over_bins

DAYS = 365.0


class SeasonSums(NamedTuple):
    """A season's sums: heat that is asked for, of it what nobody gives, what is drawn and burnt for it, kWh; the machine's own performance,
    with what always runs."""

    heat_kwh: float
    short_kwh: float
    electricity_kwh: float
    fuel_kwh: float
    backup_kwh: float
    machine_performance: float | None
    cycling_hours: float
    heating_hours: float

    @property
    def performance(self) -> float | None:
        """Heat that is given over all that is bought for it."""
        return self.over(0.0, 0.0)

    def over(self, heat_kwh: float, bought_kwh: float) -> float | None:
        """The same with more heat made of more that is bought."""
        bought = self.electricity_kwh + self.fuel_kwh + bought_kwh
        return (self.heat_kwh - self.short_kwh + heat_kwh) / bought if bought > 0 else None


class WaterYear(NamedTuple):
    """A year of hot water, kWh: heat, electricity, fuel."""

    heat_kwh: float
    electricity_kwh: float
    fuel_kwh: float


class Judged(NamedTuple):
    """A candidate with what stands beside it, its season without hot water, and a year of hot water (None: nobody is asked to make any)."""

    row: CandidateResult
    entry: MachineEntry
    table: heat_pump.PerformanceMap
    other: Beside
    year: SeasonSums | None
    water: WaterYear | None


def no_season(house: HouseView, *_: object) -> SeasonResult:
    """Where none can be worked out."""
    return SeasonResult(
        performance=None, with_hot_water=None, machine_performance=None, heat_kwh=None, electricity_kwh=None, backup_kwh=None, beside="",
        fuel="", fuel_kwh=0.0, short_kwh=0.0, hot_water_kwh=None, hot_water_electricity_kwh=None, hot_water_fuel_kwh=0.0,
        cycling_hours=None, heating_hours=None, excess_kwh=None, own_heat_kwh=0.0, fans_kwh=0.0,
        climate_label=house.climate.label if house.climate else "",
    )  # fmt: skip


def through(house: HouseView, load: Load, at: heat_pump.Operation, entry: MachineEntry, other: Beside) -> SeasonSums:
    """The season over the climate's bins with what stands beside the machine, with heaters of their own and fan units, without the heat
    that pipes lose outdoors."""
    bins, sums = load.bins, np.zeros(5)
    for share, worth in other.worth:
        of = season_over_bins(
            hours=bins.hours if share == 1.0 else bins.hours * share, load_w=bins.season_w, operation=at,
            degradation=house.practice.cycling_degradation, always_on_w=load.always_on_w(entry), second=other.second(worth),
        )  # fmt: skip
        sums += of.heat_total_kwh, of.electricity_total_kwh, of.backup_total_kwh, of.cycling_hours, of.heating_hours
    heat, drawn, backup, cycling_h, heating_h = sums.tolist()
    given, by_machine = heat - backup, drawn - (backup if other.in_water else 0.0)
    own, lost = _own_kwh(load), float((bins.hours * bins.lost_w).sum()) / 1000
    if own or load.fans_w or lost:
        heat, drawn = heat + own - lost, drawn + own + load.fans_w * heating_h / 1000
    return SeasonSums(
        heat, backup if other.missing else 0.0, drawn, other.burnt_kwh(backup), backup, given / by_machine if by_machine > 0 else None,
        cycling_h, heating_h,
    )  # fmt: skip


def _own_kwh(load: Load) -> float:
    return float((load.bins.hours * load.bins.own_w).sum()) / 1000


def of_hot_water(
    house: HouseView, daily_kwh: float | None, at_mean: Callable[[float], Charged | None], other: Beside
) -> WaterYear | None:
    """A year of hot water: burnt for where that is said, else the machine's, made at the climate's mean (`at_mean` tops up the store at an
    outdoor temperature)."""
    if daily_kwh is None or house.climate is None:
        return None
    heat = daily_kwh * DAYS
    if other.makes_water:
        return WaterYear(heat, 0.0, other.burnt_kwh(heat))
    at = at_mean(house.climate.annual_mean_c)
    return WaterYear(heat, heat / (at.cop if at else 1.0), 0.0)


def with_hot_water(year: SeasonSums | None, water: WaterYear | None) -> float | None:
    """A season with its hot water."""
    if year is None or water is None:
        return None
    return year.over(water.heat_kwh, water.electricity_kwh + water.fuel_kwh)


def season_result(house: HouseView, load: Load, of: Judged) -> SeasonResult:
    year, water, other = of.year, of.water, of.other
    if year is None:
        return no_season(house)
    return SeasonResult(
        performance=of.row.season,
        with_hot_water=of.row.season_with_hot_water,
        machine_performance=year.machine_performance,
        heat_kwh=year.heat_kwh,
        electricity_kwh=year.electricity_kwh,
        backup_kwh=year.backup_kwh,
        beside=other.label,
        fuel=of.row.fuel,
        fuel_kwh=year.fuel_kwh,
        short_kwh=year.short_kwh,
        hot_water_kwh=water.heat_kwh if water is not None else None,
        hot_water_electricity_kwh=water.electricity_kwh if water is not None else None,
        hot_water_fuel_kwh=water.fuel_kwh if water is not None else 0.0,
        cycling_hours=year.cycling_hours,
        heating_hours=year.heating_hours,
        excess_kwh=year.electricity_kwh + year.fuel_kwh - _exact_kwh(house, load, of),
        own_heat_kwh=_own_kwh(load),
        fans_kwh=load.fans_w * year.heating_hours / 1000,
        climate_label=house.climate.label if house.climate else "",
    )


def _exact_kwh(house: HouseView, load: Load, of: Judged) -> float:
    """What the season would take, electricity and fuel, with water exactly as warm as needed, kWh."""
    bins = load.bins
    exact = np.where(np.isfinite(bins.needed_c), bins.needed_c, bins.flow_c)
    ideal = through(
        house, load, load.looks.at(of.table, (of.row.id, "exact"), bins.outdoor_c, exact), of.entry, of.other
    )
    return ideal.electricity_kwh + ideal.fuel_kwh
