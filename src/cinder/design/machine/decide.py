"""The machine against the house: output, cover, cycling, backup, season; every candidate alike."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from cinder.design.curve.decide import CurveArrays
from cinder.design.emitters.decide import EmitterArrays
from cinder.design.findings import Findings
from cinder.design.hot_water.result import HotWaterResult
from cinder.design.hot_water.store import Store
from cinder.design.house.view import HouseView
from cinder.design.kept import Kept, Needs, entries
from cinder.design.losses.evaluate import LossArrays, Losses
from cinder.design.machine.beside import Beside, beside
from cinder.design.machine.load import Load, Standing, load_line
from cinder.design.machine.result import CandidateResult, MachineResult, SeasonResult
from cinder.design.machine.say import Size, of_small, of_whole
from cinder.design.outdoor_pipes import OutdoorPipes
from cinder.design.separation import Separated
from cinder.design.waterline.decide import WaterlineArrays
from cinder.design.waterline.result import Waterline
from cinder.library import MachineEntry
from cinder.model.scheme import Candidate
from cinder.physics.machine import heat_pump
from cinder.physics.machine.season import season_over_bins
from cinder.physics.quantity import Array

DAY_H = 24.0
DAYS = 365.0
FROST_FROM_C, FROST_TO_C = -3.0, 4.0
"""Outdoor temperatures about which honest maps dip (common practice)."""
TOLD_APART = 0.02
MOST_CYCLING = 0.5
"""Part of its heating hours that a machine may run on and off before it is said (our choice: most of them)."""


def cover(*, output_w: float, loss_w: float, hot_water_hours: float) -> float:
    """Share of the design day's loss the machine gives in the hours hot water leaves it."""
    return output_w * (DAY_H - hot_water_hours) / (DAY_H * loss_w)


def no_season(house: HouseView, *_: object) -> SeasonResult:
    """Where none can be worked out."""
    return SeasonResult(
        performance=None, with_hot_water=None, machine_performance=None, heat_kwh=None, electricity_kwh=None, backup_kwh=None, beside="",
        fuel="", fuel_kwh=0.0, short_kwh=0.0, hot_water_kwh=None, hot_water_electricity_kwh=None, hot_water_fuel_kwh=0.0,
        cycling_hours=None, heating_hours=None, excess_kwh=None, own_heat_kwh=0.0, fans_kwh=0.0,
        climate_label=house.climate.label if house.climate else "",
    )  # fmt: skip


def nothing(house: HouseView, *_: object) -> tuple[MachineResult, SeasonResult]:
    """Where neither can be worked out."""
    return MachineResult(outdoor_c=[], load_w=[], season_load_w=[], hours=[], rows=[], chosen=None), no_season(house)


def judge(
    house: HouseView, arrays: LossArrays, design_day: Losses, curve: CurveArrays, emitters: EmitterArrays,
    line: WaterlineArrays, hot_water: HotWaterResult, separated: Separated, outdoor: OutdoorPipes, findings: Findings, kept: Kept,
) -> tuple[MachineResult, SeasonResult]:  # fmt: skip
    """Every candidate of the scheme over the load of the house, and the season of the chosen one."""
    load = load_line(house, arrays, design_day, curve, emitters, line, separated, outdoor, kept)
    return candidates(house, load, line.result, hot_water, findings)


def looks_at(house: HouseView, *others: object) -> Needs:
    """What the machines hang on."""
    beside_them = (
        tuple(beside(house.job, one.backup) for one in house.scheme.candidates.values()) if house.scheme else ()
    )
    return (*others, house.practice, house.scheme, house.job.active_scheme, house.climate, house.outdoor_c, house.machine, beside_them,
            entries(house.job.library.machines))  # fmt: skip


def season_of(
    house: HouseView, arrays: LossArrays, design_day: Losses, curve: CurveArrays, emitters: EmitterArrays,
    line: WaterlineArrays, hot_water: HotWaterResult, separated: Separated, outdoor: OutdoorPipes, kept: Kept,
) -> SeasonResult:  # fmt: skip
    """The season of the chosen machine alone, as `judge` gives it."""
    scheme = house.scheme
    if scheme is None or scheme.chosen not in scheme.candidates:
        return no_season(house)
    load = load_line(house, arrays, design_day, curve, emitters, line, separated, outdoor, kept)
    found = _candidate(_day(house, load, line.result, hot_water), scheme.chosen, scheme.candidates[scheme.chosen])
    return _season(house, load, found)


def candidates(
    house: HouseView, load: Load, waterline: Waterline, hot_water: HotWaterResult, findings: Findings
) -> tuple[MachineResult, SeasonResult]:
    """Every candidate of the scheme, and the season of the chosen one."""
    scheme, season, day = house.scheme, None, _day(house, load, waterline, hot_water)
    rows, chosen = [], None
    for key, candidate in sorted(scheme.candidates.items() if scheme else (), key=lambda item: (item[1].pos, item[0])):
        found = _candidate(day, key, candidate)
        rows.append(found.row)
        if found.row.chosen:
            chosen = key
            _findings(house, found.row, findings)
            season = _season(house, load, found)
    where = f"/schemes/{house.job.active_scheme}"
    if not rows:
        findings.add(
            "stops", "machine", where, "No machine is chosen.",
            why="Cover, season and pump need one.", mend="Compare machines and choose one.",
        )  # fmt: skip
    elif chosen is None:
        findings.add(
            "stops", "machine", f"{where}/chosen", "No machine is chosen.",
            why="Cover, season and pump need one.", mend="Choose one of the candidates.",
        )  # fmt: skip
    return MachineResult(
        outdoor_c=load.drawn.outdoor_c.tolist(), load_w=load.full_w.tolist(),
        season_load_w=load.drawn.season_w.tolist(), hours=load.drawn.hours.tolist(), rows=rows, chosen=chosen,
    ), season or no_season(house)  # fmt: skip


class _Day(NamedTuple):
    """What all candidates of a scheme meet alike: the design day, what is asked of hot water, and where their maps are looked into: the
    design day, the grid that is drawn, the season's bins (K,)."""

    house: HouseView
    load: Load
    hot_water: HotWaterResult
    store: Store
    known: bool
    outdoor_c: float
    air_c: Array
    water_c: Array


class _Year(NamedTuple):
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


class _Water(NamedTuple):
    """A year of hot water, kWh: heat, electricity, fuel."""

    heat_kwh: float
    electricity_kwh: float
    fuel_kwh: float


class _Judged(NamedTuple):
    """A candidate with what stands beside it, its season without hot water, and a year of hot water (None: nobody is asked to make any)."""

    row: CandidateResult
    entry: MachineEntry
    table: heat_pump.PerformanceMap
    other: Beside
    year: _Year | None
    water: _Water | None


def _day(house: HouseView, load: Load, waterline: Waterline, hot_water: HotWaterResult) -> _Day:
    chosen, outdoor = waterline.chosen_flow_c, house.outdoor_c
    flow, at = chosen if chosen is not None else 45.0, outdoor if outdoor is not None else 0.0
    water = np.concatenate([[flow + load.separated.lift_k], load.drawn.flow_c, load.bins.flow_c])
    return _Day(
        house, load, hot_water, load.looks.store(house), load.design_w > 0 and chosen is not None and outdoor is not None, at,
        np.concatenate([[at], load.drawn.outdoor_c, load.bins.outdoor_c]), np.where(np.isfinite(water), water, flow),
    )  # fmt: skip


def _candidate(day: _Day, key: str, candidate: Candidate) -> _Judged:
    house, load, known = day.house, day.load, day.known
    entry, other = house.job.library.machines[candidate.machine].data, beside(house.job, candidate.backup)
    table = load.looks.map(entry, Standing.of(house, candidate))
    every, count = load.looks.at(table, key, day.air_c, day.water_c), 1 + len(load.drawn.outdoor_c)
    charging = load.looks.charged(table, key, day.outdoor_c, day.store, house.tables, entry.rated_flow_lph)
    hours = 0.0 if other.makes_water else _hot_water_hours(house, day.hot_water, charging.power_w if charging else 0.0)
    year = None
    if known and house.climate is not None:
        year = _through(house, load, _part(every, slice(count, None)), entry, other)
    water = _hot_water(day, key, entry, table, other) if year is not None else None
    greatest, least = every.greatest_w[1:count], every.least_w[1:count]
    turns_down, heating_h = entry.least_w is not None, year.heating_hours if year else 0.0
    output = float(every.greatest_w[0])
    size = Size(
        inside=bool(every.inside[0]),
        output_w=output,
        needed_w=_needed_w(load, day.hot_water, other) if known else None,
        cover=cover(output_w=output, loss_w=load.design_w, hot_water_hours=hours or 0.0) if known else None,
        cycling_share=year.cycling_hours / heating_h if year and heating_h and turns_down else None,
        backup_share=year.backup_kwh / year.heat_kwh if year and year.heat_kwh else None,
        backup=candidate.backup.kind,
    )
    row = CandidateResult(
        id=key,
        machine=entry.id,
        label=entry.label,
        refrigerant=entry.refrigerant,
        chosen=bool(house.scheme and house.scheme.chosen == key),
        kind=entry.kind,
        output_w=output,
        needed_w=size.needed_w,
        least_w=float(every.least_w[0]) if turns_down else None,
        cop=float(every.cop[0]),
        extrapolated=bool(every.extrapolated[0]),
        inside=size.inside,
        cover=size.cover,
        cover_without_hot_water=output / load.design_w if known else None,
        hot_water_hours=hours,
        bivalent_c=_crossing(load.drawn.outdoor_c, greatest - load.full_w) if known else None,
        cycles_above_c=_crossing(load.drawn.outdoor_c, least - load.drawn.season_w) if known and turns_down else None,
        cycling_share=size.cycling_share,
        backup_share=size.backup_share,
        season=year.performance if year else None,
        season_with_hot_water=_with_hot_water(year, water),
        machine_season=year.machine_performance if year else None,
        electricity_kwh=year.electricity_kwh if year else None,
        fuel="" if other.electric else other.fuel,
        fuel_kwh=year.fuel_kwh if year else 0.0,
        sound_power_day_db=entry.sound_power_day_db,
        backup=size.backup,
        beside=other.label,
        makes_water=other.makes_water,
        whole_school=of_whole(size),
        small_school=of_small(size),
        greatest_curve_w=greatest.round(1).tolist(),
        least_curve_w=least.round(1).tolist(),
    )
    return _Judged(row, entry, table, other, year, water)


def _needed_w(load: Load, hot_water: HotWaterResult, other: Beside) -> float:
    """What a machine must give through the whole design day: the loss of 24 hours and the hot water it makes in a day, over 24 h."""
    water = 0.0 if other.makes_water else hot_water.daily_kwh or 0.0
    return load.design_w + water * 1000 / DAY_H


def _through(house: HouseView, load: Load, at: heat_pump.Operation, entry: MachineEntry, other: Beside) -> _Year:
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
    return _Year(
        heat, backup if other.missing else 0.0, drawn, other.burnt_kwh(backup), backup, given / by_machine if by_machine > 0 else None,
        cycling_h, heating_h,
    )  # fmt: skip


def _own_kwh(load: Load) -> float:
    return float((load.bins.hours * load.bins.own_w).sum()) / 1000


def _part(whole: heat_pump.Operation, at: int | slice) -> heat_pump.Operation:
    """Some of many operating points."""
    return heat_pump.Operation(
        whole.greatest_w[at], whole.least_w[at], whole.cop[at], whole.inside[at], whole.extrapolated[at]
    )


def _hot_water_hours(house: HouseView, hot_water: HotWaterResult, power_w: float) -> float | None:
    """Hours of the design day that hot water takes, at the machine's output while it charges the store."""
    if hot_water.daily_kwh is None or house.outdoor_c is None:
        return None
    return min(hot_water.daily_kwh * 1000 / power_w, DAY_H) if power_w > 0 else None


def _hot_water(
    day: _Day, key: str, entry: MachineEntry, table: heat_pump.PerformanceMap, other: Beside
) -> _Water | None:
    """A year of hot water: burnt for where that is said, else the machine's, made at the climate's mean."""
    house, daily = day.house, day.hot_water.daily_kwh
    if daily is None or house.climate is None:
        return None
    heat = daily * DAYS
    if other.makes_water:
        return _Water(heat, 0.0, other.burnt_kwh(heat))
    at = day.load.looks.charged(
        table, (key, "mean"), house.climate.annual_mean_c, day.store, house.tables, entry.rated_flow_lph
    )
    return _Water(heat, heat / (at.cop if at else 1.0), 0.0)


def _with_hot_water(year: _Year | None, water: _Water | None) -> float | None:
    """A season with its hot water."""
    if year is None or water is None:
        return None
    return year.over(water.heat_kwh, water.electricity_kwh + water.fuel_kwh)


def _crossing(x: Array, difference: Array) -> float | None:
    """First x, from cold to mild, where the difference turns from below to above zero; None if it does not."""
    sign = np.nonzero((difference[:-1] < 0) & (difference[1:] >= 0))[0]
    if not len(sign):
        return None
    k = int(sign[0])
    return float(x[k] + (0 - difference[k]) / (difference[k + 1] - difference[k]) * (x[k + 1] - x[k]))


def _season(house: HouseView, load: Load, of: _Judged) -> SeasonResult:
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


def _exact_kwh(house: HouseView, load: Load, of: _Judged) -> float:
    """What the season would take, electricity and fuel, with water exactly as warm as needed, kWh."""
    bins = load.bins
    exact = np.where(np.isfinite(bins.needed_c), bins.needed_c, bins.flow_c)
    ideal = _through(
        house, load, load.looks.at(of.table, (of.row.id, "exact"), bins.outdoor_c, exact), of.entry, of.other
    )
    return ideal.electricity_kwh + ideal.fuel_kwh


def rises_with_cold(entry: MachineEntry) -> tuple[float, float] | None:
    """The first two outdoor temperatures, cold and milder, between which the greatest output falls although the air is milder;
    a dip about 2 deg C is frost and no fault."""
    for n in range(len(entry.outdoor_c) - 1):
        cold, mild = entry.outdoor_c[n], entry.outdoor_c[n + 1]
        frost = cold < FROST_TO_C and mild > FROST_FROM_C
        if not frost and any(a > b * (1 + TOLD_APART) for a, b in zip(*entry.greatest_w[n : n + 2], strict=True)):
            return cold, mild
    return None


def _findings(house: HouseView, row: CandidateResult, findings: Findings) -> None:
    where = f"/schemes/{house.job.active_scheme}/chosen"
    if not row.inside and house.burner:
        findings.add(
            "note", "machine", where, f"{row.label} does not run on the design day: {house.burner} carries it.",
            why="The water lies outside its envelope.", mend="Cooler water lets it work in the cold too.",
        )  # fmt: skip
    elif not row.inside:
        findings.add(
            "short", "machine", where, f"{row.label} does not run at this design day and flow temperature.",
            why="It lies outside its envelope: no output is counted.", mend="Cooler water, or another machine.",
        )  # fmt: skip
    elif row.cover is not None and row.cover < 1.0 and house.burner:
        findings.add(
            "note", "machine", where, f"{row.label} covers {row.cover:.0%} of the design day, {house.burner} the rest.",
            why="A hybrid is meant to.", mend="What each carries of the year stands under “Through the year”.",
        )  # fmt: skip
    elif row.cover is not None and row.cover < 1.0:
        nothing = house.beside == "none"
        findings.add(
            "short", "machine", where, f"{row.label} covers {row.cover:.0%} of the design day.",
            why="Nothing works beside it." if nothing else "A backup would work on the coldest days.",
            mend="A larger machine, a smaller loss, or cooler water.",
        )  # fmt: skip
    elif row.cover is not None and row.cover > 1.2:
        findings.add(
            "doubt", "machine", where, f"{row.label} covers {row.cover:.0%}: more than the usual 120 %.",
            why="It will switch on and off in mild weather.", mend="Look at the next smaller machine.",
        )  # fmt: skip
    if row.cycling_share is not None and row.cycling_share > MOST_CYCLING:
        findings.add(
            "doubt", "machine", where, f"{row.label} will run on and off for {row.cycling_share:.0%} of its heating hours.",
            why="Its least output is more than the house asks for in mild weather.",
            mend="A machine that turns down further, or enough open water for the runs it then makes (see the pipework).",
        )  # fmt: skip
    if row.least_w is None:
        findings.add(
            "doubt", "machine", where, f"Nobody says how far {row.label} turns down.",
            why="Whether it runs on and off in mild weather cannot be judged.", mend="Enter its least output.",
        )  # fmt: skip
    rising = rises_with_cold(house.machine) if house.machine else None
    if rising is not None:
        findings.add(
            "doubt", "machine", where, f"{row.label} gives more at A{rising[0]:g} than at A{rising[1]:g}.",
            why="Colder air holds less heat: such a map is rare, unless it is held back in mild weather.",
            mend="Look at the maker's table once more.",
        )  # fmt: skip
    if row.extrapolated:
        findings.add(
            "doubt", "machine", where, f"{row.label}: the design day lies outside its test points.",
            why="The figure is extrapolated.", mend="Ask its maker for a test point nearer to it.",
        )  # fmt: skip
