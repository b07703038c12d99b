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
from cinder.design.machine.season import Judged, no_season, of_hot_water, season_result, through, with_hot_water
from cinder.design.outdoor_pipes import OutdoorPipes
from cinder.design.separation import Separated
from cinder.design.waterline.decide import WaterlineArrays
from cinder.design.waterline.result import Waterline
from cinder.library import MachineEntry
from cinder.model.scheme import Candidate
from cinder.physics.machine import heat_pump
from cinder.physics.quantity import Array

DAY_H = 24.0
FROST_FROM_C, FROST_TO_C = -3.0, 4.0
"""Outdoor temperatures about which honest maps dip (common practice)."""
TOLD_APART = 0.02
MOST_CYCLING = 0.5
"""Part of its heating hours that a machine may run on and off before it is said (our choice: most of them)."""


def cover(*, output_w: float, loss_w: float, hot_water_hours: float) -> float:
    """Share of the design day's loss the machine gives in the hours hot water leaves it."""
    return output_w * (DAY_H - hot_water_hours) / (DAY_H * loss_w)


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
    return season_result(house, load, found)


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
            season = season_result(house, load, found)
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


def _day(house: HouseView, load: Load, waterline: Waterline, hot_water: HotWaterResult) -> _Day:
    chosen, outdoor = waterline.chosen_flow_c, house.outdoor_c
    flow, at = chosen if chosen is not None else 45.0, outdoor if outdoor is not None else 0.0
    water = np.concatenate([[flow + load.separated.lift_k], load.drawn.flow_c, load.bins.flow_c])
    return _Day(
        house, load, hot_water, load.looks.store(house), load.design_w > 0 and chosen is not None and outdoor is not None, at,
        np.concatenate([[at], load.drawn.outdoor_c, load.bins.outdoor_c]), np.where(np.isfinite(water), water, flow),
    )  # fmt: skip


def _candidate(day: _Day, key: str, candidate: Candidate) -> Judged:
    house, load, known = day.house, day.load, day.known
    entry, other = house.job.library.machines[candidate.machine].data, beside(house.job, candidate.backup)
    table = load.looks.map(entry, Standing.of(house, candidate))
    every, count = load.looks.at(table, key, day.air_c, day.water_c), 1 + len(load.drawn.outdoor_c)
    charging = load.looks.charged(table, key, day.outdoor_c, day.store, house.tables, entry.rated_flow_lph)
    hours = 0.0 if other.makes_water else _hot_water_hours(house, day.hot_water, charging.power_w if charging else 0.0)
    year = None
    if known and house.climate is not None:
        year = through(house, load, _part(every, slice(count, None)), entry, other)
    water = None
    if year is not None:
        water = of_hot_water(house, day.hot_water.daily_kwh, lambda outdoor_c: load.looks.charged(
            table, (key, "mean"), outdoor_c, day.store, house.tables, entry.rated_flow_lph
        ), other)  # fmt: skip
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
        season_with_hot_water=with_hot_water(year, water),
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
    return Judged(row, entry, table, other, year, water)


def _needed_w(load: Load, hot_water: HotWaterResult, other: Beside) -> float:
    """What a machine must give through the whole design day: the loss of 24 hours and the hot water it makes in a day, over 24 h."""
    water = 0.0 if other.makes_water else hot_water.daily_kwh or 0.0
    return load.design_w + water * 1000 / DAY_H


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


def _crossing(x: Array, difference: Array) -> float | None:
    """First x, from cold to mild, where the difference turns from below to above zero; None if it does not."""
    sign = np.nonzero((difference[:-1] < 0) & (difference[1:] >= 0))[0]
    if not len(sign):
        return None
    k = int(sign[0])
    return float(x[k] + (0 - difference[k]) / (difference[k + 1] - difference[k]) * (x[k + 1] - x[k]))


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
